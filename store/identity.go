package store

import (
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"os"

	"gorm.io/gorm"
)

// applicationID stands in the head of a database file and says whose it is: "Wund".
const applicationID = 0x57756e64

// tables are those that every version had.
var tables = []string{"projects", "changes", "snapshots"}

var errForeign = errors.New("it is not a Wunderkammer database")

// identify refuses a database of another program. One of an earlier version does not say whose it is, but has our tables.
func identify(db *gorm.DB) error {
	var id int64
	if err := db.Raw("PRAGMA application_id").Scan(&id).Error; err != nil {
		return err
	}
	var names []string
	if err := db.Raw("SELECT name FROM sqlite_master WHERE type = 'table'").Scan(&names).Error; err != nil {
		return err
	}
	if id != 0 && id != applicationID {
		return errForeign
	}
	has := map[string]bool{}
	for _, name := range names {
		has[name] = true
	}
	for _, name := range tables {
		if !has[name] {
			return errForeign
		}
	}
	return nil
}

// mark begins another history: who looks at what was here before notices by it.
func (s *Store) mark() error {
	b := make([]byte, 8)
	rand.Read(b)
	s.history = hex.EncodeToString(b)
	return s.written(s.db.Exec("INSERT INTO histories (id, mark) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET mark = excluded.mark", s.history).Error)
}

// History returns the mark of the history that the projects here belong to. It is another one after a backup was restored:
// revisions of one history say nothing in another.
func (s *Store) History() string { return s.history }

// ready refuses to open what could only be lost by it: a log whose database is missing, an empty file where a database
// was, a database that its log does not fit, one of another program.
func ready(file string) error {
	log, _ := os.Stat(file + "-wal")
	logged := log != nil && log.Size() > 0
	main, err := os.Stat(file)
	switch {
	case err != nil && logged:
		return fmt.Errorf("the database %s is missing, and its log %s-wal is still there: put the database back, or restore a backup (the log is kept then)", file, file)
	case err != nil:
		return nil // it is made
	case main.Size() == 0:
		return fmt.Errorf("the database %s is empty: restore a backup, or delete the file to start with no projects", file)
	}
	s, err := OpenToRead(file)
	if err != nil {
		return err
	}
	defer s.Close()
	if !logged {
		return nil
	}
	var found []string
	if err := s.db.Raw("PRAGMA quick_check(1)").Scan(&found).Error; err != nil {
		return opening(file, err)
	}
	if len(found) != 1 || found[0] != "ok" {
		return fmt.Errorf("the database %s and its log %s-wal do not fit together, or are damaged (%s): keep both, run wunderkammer doctor to see what can be read, or restore a backup", file, file, found[0])
	}
	return nil
}
