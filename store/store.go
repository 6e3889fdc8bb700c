// Package store keeps projects in SQLite through GORM: every change as a row that is only ever
// added, and a snapshot of the whole project now and then. A change that was acknowledged is on
// the disk.
package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// SnapshotEvery is how many changes are kept between two snapshots.
const SnapshotEvery = 200

// projectRow, changeRow and snapshotRow are the tables.
type projectRow struct {
	ID        string `gorm:"primaryKey"`
	Name      string
	Revision  int
	CreatedAt time.Time
	UpdatedAt time.Time
	DeletedAt gorm.DeletedAt `gorm:"index"`
}

func (projectRow) TableName() string { return "projects" }

type changeRow struct {
	ProjectID string `gorm:"primaryKey"`
	Revision  int    `gorm:"primaryKey;autoIncrement:false"`
	ChangeID  string `gorm:"index"`
	Ops       []byte
	Inverse   []byte
	CreatedAt time.Time
}

func (changeRow) TableName() string { return "changes" }

type snapshotRow struct {
	ProjectID string `gorm:"primaryKey"`
	Revision  int    `gorm:"primaryKey;autoIncrement:false"`
	Document  []byte
}

func (snapshotRow) TableName() string { return "snapshots" }

// ErrMissing is returned where there is no project with an id.
var ErrMissing = errors.New("there is no such project; it may have been deleted")

// ErrUnwritable wraps what keeps the database from being written: a full disk, a lock.
var ErrUnwritable = errors.New("nothing could be saved")

// Summary is a line of the list of projects.
type Summary struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Created time.Time `json:"created"`
	Changed time.Time `json:"changed"`
}

// Store is an open database. It is safe for concurrent use.
type Store struct{ db *gorm.DB }

// Open opens the database file, made if it is missing.
func Open(file string) (*Store, error) {
	dsn := "file:" + file + "?_journal_mode=WAL&_busy_timeout=5000&_foreign_keys=on&_synchronous=FULL&_txlock=immediate"
	db, err := gorm.Open(sqlite.Open(dsn), &gorm.Config{Logger: logger.Default.LogMode(logger.Silent)})
	if err != nil {
		return nil, fmt.Errorf("the database %s cannot be opened: %w", file, err)
	}
	if err := db.AutoMigrate(&projectRow{}, &changeRow{}, &snapshotRow{}, &assetRow{}); err != nil {
		return nil, fmt.Errorf("the database %s cannot be read: %w", file, err)
	}
	return &Store{db}, nil
}

// Close closes the database.
func (s *Store) Close() error {
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
	document, err := json.Marshal(p)
	if err != nil {
		return err
	}
	return written(s.db.Transaction(func(tx *gorm.DB) error {
		if err := tx.Create(&projectRow{ID: string(p.ID), Name: p.Name}).Error; err != nil {
			return err
		}
		return tx.Create(&snapshotRow{string(p.ID), 0, document}).Error
	}))
}

// Load returns a project and its revision: the newest snapshot, with the changes made since.
func (s *Store) Load(id string) (*scene.Project, int, error) {
	var row projectRow
	if err := s.db.First(&row, "id = ?", id).Error; err != nil {
		return nil, 0, missing(err)
	}
	var snap snapshotRow
	if err := s.db.Where("project_id = ?", id).Order("revision desc").First(&snap).Error; err != nil {
		return nil, 0, missing(err)
	}
	p := &scene.Project{}
	if err := json.Unmarshal(snap.Document, p); err != nil {
		return nil, 0, fmt.Errorf("the saved project %s cannot be read: %w", id, err)
	}
	changes, err := s.Since(id, snap.Revision)
	if err != nil {
		return nil, 0, err
	}
	revision := snap.Revision
	for _, c := range changes {
		if _, _, err := change.Replay(p, c.Ops); err != nil {
			return nil, 0, fmt.Errorf("change %d of project %s cannot be made again: %w", c.Revision, id, err)
		}
		revision = c.Revision
	}
	return p, revision, nil
}

// Since returns the changes after a revision, in order.
func (s *Store) Since(id string, revision int) ([]session.Change, error) {
	var rows []changeRow
	if err := s.db.Where("project_id = ? AND revision > ?", id, revision).Order("revision").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]session.Change, len(rows))
	for i, r := range rows {
		out[i] = session.Change{ID: r.ChangeID, Base: r.Revision - 1, Revision: r.Revision}
		if err := json.Unmarshal(r.Ops, &out[i].Ops); err != nil {
			return nil, fmt.Errorf("change %d of project %s cannot be read: %w", r.Revision, id, err)
		}
	}
	return out, nil
}

// RevisionOf returns the revision that a change made, or 0 if it is not there.
func (s *Store) RevisionOf(id, changeID string) (int, error) {
	var row changeRow
	err := s.db.Where("project_id = ? AND change_id = ?", id, changeID).First(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return 0, nil
	}
	return row.Revision, err
}

// Append adds the change that makes c.Revision of the project p, which has it already. It is on
// the disk when Append returns nil; on an error nothing of it is.
func (s *Store) Append(p *scene.Project, c session.Change, inverse change.Ops) error {
	ops, err := json.Marshal(c.Ops)
	if err != nil {
		return err
	}
	back, err := json.Marshal(inverse)
	if err != nil {
		return err
	}
	return written(s.db.Transaction(func(tx *gorm.DB) error {
		row := changeRow{ProjectID: string(p.ID), Revision: c.Revision, ChangeID: c.ID, Ops: ops, Inverse: back}
		if err := tx.Create(&row).Error; err != nil {
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
		document, err := json.Marshal(p)
		if err != nil {
			return err
		}
		return tx.Create(&snapshotRow{string(p.ID), c.Revision, document}).Error
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
		return written(r.Error)
	}
	if r.RowsAffected == 0 {
		return ErrMissing
	}
	return nil
}

func missing(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrMissing
	}
	return err
}

// written turns an error of the database into one that says what to do.
func written(err error) error {
	switch {
	case err == nil || errors.Is(err, ErrMissing):
		return err
	case strings.Contains(err.Error(), "full"):
		return fmt.Errorf("%w: the disk is full; free some space, and it will be tried again", ErrUnwritable)
	case strings.Contains(err.Error(), "locked"):
		return fmt.Errorf("%w: the database is in use by another program; it will be tried again", ErrUnwritable)
	}
	return fmt.Errorf("%w: %w", ErrUnwritable, err)
}
