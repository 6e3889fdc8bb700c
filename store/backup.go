package store

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/gofrs/flock"
)

// Backup writes the whole database, as it is at this moment, to a file that does not exist yet. It may be written
// to meanwhile.
func (s *Store) Backup(file string) error {
	if _, err := os.Stat(file); err == nil {
		return fmt.Errorf("%s exists already; give the backup a name of its own", file)
	}
	if err := s.db.Exec("VACUUM INTO ?", file).Error; err != nil {
		os.Remove(file)
		return fmt.Errorf("the backup could not be written: %w", read(err))
	}
	return nil
}

// Restore puts a backup in the place of a database that nobody has open. What stood there is kept beside it; its
// new name is returned, or nothing where there was none.
func Restore(backup, file string) (kept string, err error) {
	b, err := OpenToRead(backup)
	if err != nil {
		return "", err
	}
	broken := b.Damage()
	b.Close()
	if len(broken) > 0 {
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
	fresh := file + ".restoring"
	if err := copyFile(backup, fresh); err != nil {
		return "", errors.Join(err, os.Remove(fresh))
	}
	if _, err := os.Stat(file); err == nil {
		kept = strings.TrimSuffix(file, filepath.Ext(file)) + "-before-" + time.Now().Format("20060102-150405") + filepath.Ext(file)
		for _, part := range []string{"", "-wal", "-shm"} {
			if err := os.Rename(file+part, kept+part); err != nil && !errors.Is(err, os.ErrNotExist) {
				return "", err
			}
		}
	}
	return kept, os.Rename(fresh, file)
}

// copyFile copies a file so that it is on the disk when it returns.
func copyFile(from, to string) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_CREATE|os.O_WRONLY|os.O_TRUNC, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	return errors.Join(err, out.Sync(), out.Close())
}
