// Package store keeps projects in SQLite through GORM: every change as a row that is only ever
// added, and a snapshot of the whole project now and then. A change that was acknowledged is on
// the disk.
package store

import (
	"errors"
	"fmt"
	"log/slog"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"time"

	"github.com/gofrs/flock"
	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
	"gorm.io/gorm/logger"

	"wunderkammer/core/change"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// SnapshotEvery is how many changes are kept between two snapshots.
const SnapshotEvery = 200

// Summary is a line of the list of projects.
type Summary struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Created time.Time `json:"created"`
	Changed time.Time `json:"changed"`
}

// Store is an open database. It is safe for concurrent use.
type Store struct {
	db      *gorm.DB
	file    string
	history string       // see History
	was     os.FileInfo  // of the file, when it was opened
	lock    *flock.Flock // nil for one that is only read
	failing atomic.Bool  // the last thing that was written did not stay
}

// address is how SQLite is told of a file: as a URI, in which ?, # and % of a name are escaped.
func address(file, options string) (string, error) {
	whole, err := filepath.Abs(file)
	if err != nil {
		return "", err
	}
	parts := strings.Split(filepath.ToSlash(whole), "/")
	for i, part := range parts {
		parts[i] = url.PathEscape(part)
	}
	return "file:" + strings.Join(parts, "/") + "?_busy_timeout=5000&" + options, nil
}

// connect opens a database file, and logs what goes wrong with it and what takes long.
func connect(file, options string) (*gorm.DB, error) {
	dsn, err := address(file, options)
	if err != nil {
		return nil, err
	}
	// What belongs together is put into a transaction by hand: the ones that are made by default hide what broke.
	return gorm.Open(sqlite.Open(dsn), &gorm.Config{SkipDefaultTransaction: true, Logger: logger.NewSlogLogger(slog.Default(), logger.Config{
		SlowThreshold: 500 * time.Millisecond, LogLevel: logger.Warn, IgnoreRecordNotFoundError: true, ParameterizedQueries: true,
	})})
}

// Open opens the database file, made if it is missing, for this program alone.
func Open(file string) (*Store, error) {
	lock := flock.New(file + ".lock")
	if mine, err := lock.TryLock(); err != nil {
		return nil, fmt.Errorf("the folder of %s can't be written to: %w", file, err)
	} else if !mine {
		return nil, fmt.Errorf("%s is already open in another server; stop that one, or give this one another folder with --data", file)
	}
	s := &Store{file: file, lock: lock}
	if err := s.open(); err != nil {
		s.Close()
		return nil, err
	}
	return s, nil
}

func (s *Store) open() (err error) {
	if _, err := settle(s.file, usualDisk{}); err != nil {
		return opening(s.file, err)
	}
	if err := ready(s.file); err != nil {
		return err
	}
	if s.db, err = connect(s.file, "_journal_mode=WAL&_synchronous=FULL&_txlock=immediate"); err != nil {
		return opening(s.file, err)
	}
	if err := migrate(s.db); err != nil {
		return opening(s.file, err)
	}
	if err := s.db.Raw("SELECT mark FROM histories").Scan(&s.history).Error; err != nil {
		return opening(s.file, err)
	}
	if s.history == "" {
		if err := s.mark(); err != nil {
			return err
		}
	}
	s.was, err = os.Stat(s.file)
	return err
}

// OpenToRead opens a database file that another program may have open, to be read only.
func OpenToRead(file string) (*Store, error) {
	was, err := os.Stat(file)
	if err != nil {
		return nil, fmt.Errorf("there is no database %s", file)
	}
	if exists(restoring(file)) {
		return nil, fmt.Errorf("restoring %s was broken off: start the server, or restore again, to finish it", file)
	}
	if was.Size() == 0 {
		return nil, fmt.Errorf("the database %s can't be opened: it is empty", file)
	}
	db, err := connect(file, "mode=ro")
	if err != nil {
		return nil, opening(file, err)
	}
	if err := identify(db); err != nil {
		(&Store{db: db}).Close()
		return nil, opening(file, err)
	}
	return &Store{db: db, file: file, was: was}, nil
}

// Ready returns an error in a sentence where what is written now would not stay: the database file was removed
// or replaced, or its folder cannot be written to any more.
func (s *Store) Ready() error {
	now, err := os.Stat(s.file)
	switch {
	case err != nil || !os.SameFile(s.was, now):
		return fmt.Errorf("%w: the database %s was removed or replaced while it was in use; put it back, or restart the server", ErrUnwritable, filepath.Base(s.file))
	case !writable(filepath.Dir(s.file)):
		return fmt.Errorf("%w: the database folder can no longer be written to; restore its write permission", ErrUnwritable)
	}
	return nil
}

// File returns the name of the database file, with its folder.
func (s *Store) File() string { return s.file }

// Close closes the database and lets others open it; what was acknowledged is on the disk already.
func (s *Store) Close() error {
	if s.lock != nil {
		defer s.lock.Close()
	}
	if s.db == nil {
		return nil
	}
	db, err := s.db.DB()
	if err != nil {
		return err
	}
	return db.Close()
}

// List returns all projects, the last changed first; with deleted, those in the bin instead.
func (s *Store) List(deleted bool) ([]Summary, error) {
	q := s.db.Order("updated_at desc, id")
	if deleted {
		q = q.Unscoped().Where("deleted_at IS NOT NULL")
	}
	var rows []projectRow
	if err := q.Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Summary, len(rows))
	for i, r := range rows {
		out[i] = Summary{r.ID, r.Name, r.CreatedAt, r.UpdatedAt}
	}
	return out, nil
}

// Create puts a new project into the store at revision 0.
func (s *Store) Create(p *scene.Project) error {
	first, err := newSnapshot(p, string(p.ID), 0)
	if err != nil {
		return err
	}
	if err := s.Ready(); err != nil {
		return err
	}
	return s.written(s.db.Transaction(func(tx *gorm.DB) error {
		if err := tx.Create(&projectRow{ID: string(p.ID), Name: p.Name}).Error; err != nil {
			return err
		}
		return tx.Create(first).Error
	}))
}

// Loaded is a project as it is kept, at the revision of its last change.
type Loaded struct {
	Project  *scene.Project
	Revision int
	// Healed says, a sentence each, what of it could not be kept as it was: what earlier versions left behind.
	Healed []string
}

// Load returns a project: the newest snapshot, with the changes made since.
func (s *Store) Load(id string) (*Loaded, error) {
	var row projectRow
	if err := s.db.First(&row, "id = ?", id).Error; err != nil {
		return nil, missing(err)
	}
	var snap snapshotRow
	if err := s.db.Where("project_id = ?", id).Order("revision desc").First(&snap).Error; err != nil {
		return nil, missing(err)
	}
	l, err := s.replay(&snap)
	if err != nil {
		return nil, err
	}
	if len(l.Healed) > 0 && s.lock != nil { // once is enough
		mended, err := newSnapshot(l.Project, id, l.Revision)
		if err != nil {
			return nil, err
		}
		if err := s.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(mended).Error; err != nil {
			return nil, s.written(err)
		}
	}
	return l, nil
}

// replay makes the changes behind a snapshot again. Where one is not accepted any more it is left out, and told.
func (s *Store) replay(snap *snapshotRow) (*Loaded, error) {
	p, err := snap.project()
	if err != nil {
		return nil, fmt.Errorf("the saved project %s can't be read: %w", snap.ProjectID, err)
	}
	l := &Loaded{Project: p, Revision: snap.Revision, Healed: p.Heal()}
	graph.Refresh(p)
	changes, err := s.Since(snap.ProjectID, snap.Revision)
	for _, c := range changes {
		_, _, err := change.Replay(p, c.Ops)
		var broken *change.Broken
		if errors.As(err, &broken) {
			return l, fmt.Errorf("change %d of project %s can't be replayed: %w", c.Revision, snap.ProjectID, err)
		}
		if err != nil {
			l.Healed = append(l.Healed, fmt.Sprintf("Change %d couldn't be replayed and was left out: %v.", c.Revision, err))
		}
		l.Revision = c.Revision
	}
	if err != nil {
		return l, err
	}
	l.Healed = append(l.Healed, p.Heal()...)
	return l, nil
}

// Since returns the changes after a revision, in order; where one cannot be read, those before it.
func (s *Store) Since(id string, revision int) ([]session.Change, error) {
	var rows []changeRow
	if err := s.db.Where("project_id = ? AND revision > ?", id, revision).Order("revision").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]session.Change, 0, len(rows))
	for _, r := range rows {
		if r.Revision != revision+1 {
			return out, fmt.Errorf("change %d of project %s is missing", revision+1, id)
		}
		c, err := r.change()
		if err != nil {
			return out, fmt.Errorf("change %d of project %s can't be read: %w", r.Revision, id, err)
		}
		out, revision = append(out, c), c.Revision
	}
	return out, nil
}

// RevisionOf returns the revision that a change made, or 0 if it is not there.
func (s *Store) RevisionOf(id, changeID string) (int, error) {
	known, err := s.Known(id, changeID)
	return known[changeID], err
}

// Known returns the revisions that changes made, by their ids; those that are not there are left out.
func (s *Store) Known(id string, changes ...string) (map[string]int, error) {
	var rows []changeRow
	err := s.db.Select("revision", "change_id").Where("project_id = ? AND change_id IN ?", id, changes).Find(&rows).Error
	out := map[string]int{}
	for _, r := range rows {
		out[r.ChangeID] = r.Revision
	}
	return out, err
}

// Steps returns changes with what takes them back, by their ids; those that are not there are left out.
func (s *Store) Steps(id string, changes ...string) ([]session.PastStep, error) {
	var rows []changeRow
	if err := s.db.Where("project_id = ? AND change_id IN ?", id, changes).Order("revision").Find(&rows).Error; err != nil {
		return nil, read(err)
	}
	out := make([]session.PastStep, 0, len(rows))
	for _, r := range rows {
		c, err := r.change()
		step := session.PastStep{ID: c.ID, Ops: c.Ops}
		if err == nil {
			err = readable(r.Format, r.Inverse, &step.Inverse)
		}
		if err != nil {
			return nil, fmt.Errorf("change %d of project %s can't be read: %w", r.Revision, id, err)
		}
		out = append(out, step)
	}
	return out, nil
}

// Append adds the change that makes c.Revision of the project p, which has it already. It is on
// the disk when Append returns nil; on an error nothing of it is.
func (s *Store) Append(p *scene.Project, c session.Change, inverse change.Ops) error {
	row, err := newChange(string(p.ID), c, inverse)
	if err != nil {
		return err
	}
	if err := s.Ready(); err != nil {
		return err
	}
	return s.written(s.db.Transaction(func(tx *gorm.DB) error {
		if err := tx.Create(row).Error; err != nil {
			return err
		}
		update := tx.Model(&projectRow{ID: string(p.ID)}).Updates(map[string]any{"name": p.Name, "revision": c.Revision})
		if update.Error != nil {
			return update.Error
		}
		if update.RowsAffected == 0 {
			return ErrMissing
		}
		if c.Revision%SnapshotEvery != 0 {
			return nil
		}
		snap, err := newSnapshot(p, string(p.ID), c.Revision)
		if err != nil {
			return err
		}
		if err := tx.Create(snap).Error; err != nil {
			return err
		}
		// The first is kept, from which all can be made again, and two newer ones, should one be damaged.
		return tx.Where("project_id = ? AND revision > 0 AND revision <= ?", snap.ProjectID, c.Revision-2*SnapshotEvery).Delete(&snapshotRow{}).Error
	}))
}

// Delete puts a project into the bin; Restore takes it out again.
func (s *Store) Delete(id string) error {
	return s.touched(s.db.Delete(&projectRow{ID: id}))
}

// Restore takes a project out of the bin.
func (s *Store) Restore(id string) error {
	return s.touched(s.db.Unscoped().Model(&projectRow{ID: id}).UpdateColumn("deleted_at", nil))
}

func (s *Store) touched(r *gorm.DB) error {
	if r.Error != nil {
		return s.written(r.Error)
	}
	if r.RowsAffected == 0 {
		return ErrMissing
	}
	return nil
}
