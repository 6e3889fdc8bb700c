package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/gorm"

	"wunderkammer/core/scene"
)

// Format is the version of what snapshots and stored operations hold: that of projects. Since version 2 operations hold
// weights of links in "weights", by their keys, where version 1 had one in "weight". What is older is read as it was meant.
const Format = scene.Format

// projectRow, changeRow, snapshotRow and pictureRow are the tables, with that of assets.
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
	ProjectID string `gorm:"primaryKey;index:idx_changes_by_id,priority:1"`
	Revision  int    `gorm:"primaryKey;autoIncrement:false"`
	ChangeID  string `gorm:"index:idx_changes_by_id,priority:2"`
	Ops       []byte
	Inverse   []byte
	Format    int    `gorm:"default:1"`
	Sum       string // of Ops and Inverse; empty in rows of earlier versions
	CreatedAt time.Time
}

func (changeRow) TableName() string { return "changes" }

type snapshotRow struct {
	ProjectID string `gorm:"primaryKey"`
	Revision  int    `gorm:"primaryKey;autoIncrement:false"`
	Document  []byte // JSON, packed by gzip; as it is in rows of earlier versions
	Format    int    `gorm:"default:1"`
	Sum       string // of Document; likewise
}

func (snapshotRow) TableName() string { return "snapshots" }

// pictureRow is the picture of a project on the projects page.
type pictureRow struct {
	ProjectID string `gorm:"primaryKey"`
	Revision  int
	// Picture is the SVG; empty while it is being made, and for ever where that broke the server.
	Picture []byte
}

func (pictureRow) TableName() string { return "pictures" }

// migrations bring an older database up to date, one after the other. None is ever altered once it was shipped, so what each
// makes is written down with it, whatever the rows are today.
var migrations = []*gormigrate.Migration{
	{ID: "1 tables", Migrate: statements( // which the time before migrations had already
		"CREATE TABLE IF NOT EXISTS projects (id text, name text, revision integer, created_at datetime, updated_at datetime, deleted_at datetime, PRIMARY KEY (id))",
		"CREATE INDEX IF NOT EXISTS idx_projects_deleted_at ON projects (deleted_at)",
		"CREATE TABLE IF NOT EXISTS changes (project_id text, revision integer, change_id text, ops blob, inverse blob, created_at datetime, PRIMARY KEY (project_id, revision))",
		"CREATE TABLE IF NOT EXISTS snapshots (project_id text, revision integer, document blob, PRIMARY KEY (project_id, revision))",
		"CREATE TABLE IF NOT EXISTS assets (id text, type text, width integer, height integer, data blob, created_at datetime, PRIMARY KEY (id))",
	)},
	{ID: "2 formats, ids of changes, pictures", Migrate: statements(
		"ALTER TABLE changes ADD COLUMN format integer DEFAULT 1",
		"ALTER TABLE snapshots ADD COLUMN format integer DEFAULT 1",
		"CREATE INDEX idx_changes_by_id ON changes (project_id, change_id)",
		"CREATE TABLE pictures (project_id text, revision integer, picture blob, PRIMARY KEY (project_id))",
	)},
	{ID: "3 sums, histories", Migrate: statements(
		"ALTER TABLE changes ADD COLUMN sum text DEFAULT ''",
		"ALTER TABLE snapshots ADD COLUMN sum text DEFAULT ''",
		"CREATE TABLE histories (id integer PRIMARY KEY CHECK (id = 1), mark text NOT NULL)",
		fmt.Sprintf("PRAGMA application_id = %d", applicationID),
	)},
	{ID: "4 addresses of hand-offs", Migrate: statements(
		"CREATE TABLE addresses (token text, project_id text NOT NULL, composition text NOT NULL, name text NOT NULL, salt blob, password blob, created_at datetime, withdrawn_at datetime, PRIMARY KEY (token))",
		"CREATE INDEX idx_addresses_by_project ON addresses (project_id, composition)",
	)},
}

// statements makes a migration of some statements of SQL.
func statements(list ...string) gormigrate.MigrateFunc {
	return func(tx *gorm.DB) error {
		for _, one := range list {
			if err := tx.Exec(one).Error; err != nil {
				return err
			}
		}
		return nil
	}
}

func migrate(db *gorm.DB) error {
	m := gormigrate.New(db, &gormigrate.Options{TableName: "migrations", IDColumnName: "id", IDColumnSize: 255, UseTransaction: true, ValidateUnknownMigrations: true}, migrations)
	if err := m.Migrate(); errors.Is(err, gormigrate.ErrUnknownPastMigration) {
		return errNewer
	} else if err != nil {
		return err
	}
	return nil
}

var errNewer = errors.New("it was written by a newer version of Wunderkammer; update this one")

// upgraded is what can be brought from an older format to this one.
type upgraded interface{ Upgrade(format int) }

// readable reads what is kept in a format.
func readable(format int, data []byte, into upgraded) error {
	if format > Format {
		return fmt.Errorf("it is kept in format %d, and this version reads up to %d; update Wunderkammer", format, Format)
	}
	if err := json.Unmarshal(data, into); err != nil {
		return err
	}
	into.Upgrade(max(1, format))
	return nil
}
