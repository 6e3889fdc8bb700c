package store

import (
	"errors"
	"fmt"
	"path/filepath"

	"github.com/mattn/go-sqlite3"
	"gorm.io/gorm"
)

// ErrMissing is returned where there is no project with an id.
var ErrMissing = errors.New("there is no such project; it may have been deleted")

// ErrUnwritable wraps what keeps the database from being written: a full disk, a lock.
var ErrUnwritable = errors.New("nothing could be saved")

// ErrDamaged wraps what shows that the database file is damaged.
var ErrDamaged = errors.New("the database is damaged; wunderkammer doctor shows what can still be read")

func missing(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrMissing
	}
	return read(err)
}

// read turns an error of reading into one that says what to do.
func read(err error) error {
	if damaged(err) {
		return fmt.Errorf("%w (%w)", ErrDamaged, err)
	}
	return err
}

func damaged(err error) bool {
	var of sqlite3.Error
	return errors.As(err, &of) && (of.Code == sqlite3.ErrCorrupt || of.Code == sqlite3.ErrNotADB)
}

// causes says of the codes of SQLite what is to be done.
var causes = map[sqlite3.ErrNo]string{
	sqlite3.ErrFull:     "the disk is full; free some space, and saving will be retried",
	sqlite3.ErrBusy:     "the database is in use by another program; saving will be retried",
	sqlite3.ErrLocked:   "the database is in use by another program; saving will be retried",
	sqlite3.ErrReadonly: "the database is read-only; restore write permission on its file and folder",
	sqlite3.ErrPerm:     "the database can't be written; restore write permission on its file and folder",
	sqlite3.ErrCantOpen: "the database folder is missing or can't be written",
	sqlite3.ErrIoErr:    "the disk reports errors; check it, and saving will be retried",
	sqlite3.ErrCorrupt:  ErrDamaged.Error(),
	sqlite3.ErrNotADB:   ErrDamaged.Error(),
}

// Writes returns an error in a sentence where what is written now would not stay, or where the last thing that was written
// did not, and trying it again does not go well either.
func (s *Store) Writes() error {
	if err := s.Ready(); err != nil || !s.failing.Load() {
		return err
	}
	return s.written(s.db.Exec("CREATE TABLE IF NOT EXISTS trials (at text); INSERT INTO trials VALUES (hex(randomblob(4096))); DROP TABLE trials").Error)
}

// written is written of this store, which remembers whether it goes well.
func (s *Store) written(err error) error {
	err = written(err)
	s.failing.Store(errors.Is(err, ErrUnwritable))
	return err
}

// written turns an error of writing into one that says what to do.
func written(err error) error {
	if err == nil || errors.Is(err, ErrMissing) || errors.Is(err, ErrUnwritable) {
		return err
	}
	var of sqlite3.Error
	if errors.As(err, &of) && causes[of.Code] != "" {
		return fmt.Errorf("%w: %s", ErrUnwritable, causes[of.Code])
	}
	return fmt.Errorf("%w: %w", ErrUnwritable, err)
}

// opening says why a database cannot be opened.
func opening(file string, err error) error {
	var of sqlite3.Error
	switch {
	case damaged(err):
		return fmt.Errorf("the database %s is damaged: run wunderkammer doctor %q to see what can still be read, or restore a backup", file, filepath.Dir(file))
	case errors.As(err, &of) && causes[of.Code] != "":
		return fmt.Errorf("the database %s can't be opened: %s", file, causes[of.Code])
	}
	return fmt.Errorf("the database %s can't be opened: %w", file, err)
}
