package store

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/gofrs/flock"
)

// Backup writes the whole database, as it is at this moment, to a file that does not exist yet. It may be written
// to meanwhile. Under its name the file is there whole or not at all.
func (s *Store) Backup(file string) error {
	if _, err := os.Stat(file); err == nil {
		return fmt.Errorf("%s exists already; give the backup a name of its own", file)
	}
	part := file + ".part"
	if err := s.writeInto(part, usualDisk{}); err != nil {
		return fmt.Errorf("the backup could not be written: %w", err)
	}
	if err := (usualDisk{}).Rename(part, file); err != nil {
		return errors.Join(fmt.Errorf("the backup could not be written: %w", err), os.Remove(part))
	}
	return (usualDisk{}).Sync(filepath.Dir(file))
}

// writeInto writes the whole database to a file, and looks over what was written before it returns.
func (s *Store) writeInto(file string, d disk) (err error) {
	if err := d.Remove(file); err != nil && !errors.Is(err, os.ErrNotExist) { // of a time that was broken off
		return err
	}
	defer func() {
		if err != nil {
			os.Remove(file)
		}
	}()
	if err := s.db.Exec("VACUUM INTO ?", file).Error; err != nil {
		return read(err)
	}
	if err := whole(file); err != nil {
		return err
	}
	return d.Sync(file)
}

// whole refuses a file that is no database of ours, or a damaged one.
func whole(file string) error {
	s, err := OpenToRead(file)
	if err != nil {
		return err
	}
	defer s.Close()
	if broken := s.Damage(); len(broken) > 0 {
		return fmt.Errorf("%s is damaged: %s", file, broken[0])
	}
	return nil
}

// disk is what restoring does to files, one system call at a time.
type disk interface {
	Rename(from, to string) error
	Remove(name string) error
	Sync(name string) error // a file, or a folder with the names in it
}

type usualDisk struct{}

func (usualDisk) Rename(from, to string) error { return os.Rename(from, to) }
func (usualDisk) Remove(name string) error     { return os.Remove(name) }
func (usualDisk) Sync(name string) error {
	f, err := os.Open(name)
	if err != nil {
		return err
	}
	return errors.Join(f.Sync(), f.Close())
}

// The parts of a database: its log, the index of that, and, last of all, itself.
var parts = []string{"-wal", "-shm", ""}

// Restore puts a backup in the place of a database that nobody has open. What stood there, its log with it, is kept
// beside it; its new name is returned, or nothing where there was none. What was restored begins another history.
//
// The backup is first copied beside the database, looked over there and made fit to be used; only then is it given the
// name under which it is known to be whole, from which on nothing but names change. Whoever opens the database next
// finishes a restore that was broken off behind that point.
func Restore(backup, file string) (kept string, err error) { return restore(backup, file, usualDisk{}) }

func restore(backup, file string, d disk) (kept string, err error) {
	if same(backup, file) {
		return "", fmt.Errorf("%s is the database itself; name the file of a backup", backup)
	}
	b, err := OpenToRead(backup)
	if err != nil {
		return "", fmt.Errorf("%s can't be restored: %w", backup, err)
	}
	defer b.Close()
	if broken := b.Damage(); len(broken) > 0 {
		return "", fmt.Errorf("%s is no whole backup: %s", backup, broken[0])
	}
	if err := os.MkdirAll(filepath.Dir(file), 0o700); err != nil {
		return "", err
	}
	lock := flock.New(file + ".lock")
	defer lock.Close()
	if mine, err := lock.TryLock(); err != nil {
		return "", err
	} else if !mine {
		return "", fmt.Errorf("%s is open in a server; stop that one first", file)
	}
	if _, err := settle(file, d); err != nil {
		return "", err
	}
	part := file + ".part"
	if err := b.writeInto(part, d); err != nil {
		return "", err
	}
	if err := begin(part); err != nil {
		return "", errors.Join(err, os.Remove(part))
	}
	if err := errors.Join(whole(part), d.Sync(part)); err != nil {
		return "", errors.Join(err, os.Remove(part))
	}
	if err := d.Rename(part, restoring(file)); err != nil {
		return "", err
	}
	return settle(file, d)
}

// begin brings a database that was just copied up to date, and begins another history with it.
func begin(file string) error {
	db, err := connect(file, "_journal_mode=DELETE&_synchronous=FULL")
	if err != nil {
		return opening(file, err)
	}
	s := &Store{db: db, file: file}
	defer s.Close()
	if err := migrate(db); err != nil {
		return opening(file, err)
	}
	return s.mark()
}

func same(a, b string) bool {
	one, err := os.Stat(a)
	if err != nil {
		return false
	}
	other, err := os.Stat(b)
	return err == nil && os.SameFile(one, other)
}

// restoring is the name of what is about to take the place of a database: whole, and on the disk.
func restoring(file string) string { return file + ".restoring" }

// settle puts what is about to take the place of a database there, if there is anything; what stands there is kept under
// another name, which is returned.
func settle(file string, d disk) (kept string, err error) {
	fresh, err := os.Stat(restoring(file))
	if err != nil {
		return "", nil
	}
	// The name is the same whenever this is taken up again: the database itself goes last.
	base := strings.TrimSuffix(file, filepath.Ext(file)) + "-before-" + fresh.ModTime().Format("20060102-150405")
	name := base + filepath.Ext(file)
	for n := 2; exists(name) && exists(file); n++ {
		name = fmt.Sprintf("%s-%d%s", base, n, filepath.Ext(file))
	}
	for _, part := range parts {
		if err := d.Rename(file+part, name+part); err == nil {
			kept = name
		} else if !errors.Is(err, os.ErrNotExist) {
			return "", err
		}
	}
	if exists(name) {
		kept = name
	}
	if err := d.Rename(restoring(file), file); err != nil {
		return "", err
	}
	return kept, d.Sync(filepath.Dir(file))
}

func exists(file string) bool {
	_, err := os.Stat(file)
	return err == nil
}
