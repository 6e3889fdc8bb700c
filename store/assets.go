package store

import (
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"wunderkammer/core/format/media"
	"wunderkammer/core/scene"
)

// assetRow is a picture or a sound, kept once however often it is used.
type assetRow struct {
	ID            string `gorm:"primaryKey"`
	Type          string
	Width, Height int
	Data          []byte
	CreatedAt     time.Time
}

func (assetRow) TableName() string { return "assets" }

// ErrNoAsset is returned where there is no picture or sound with an id.
var ErrNoAsset = errors.New("there is no such picture or sound here")

// Keep stores pictures and sounds; of one that is there already, it is noted that it was wanted again.
func (s *Store) Keep(files ...media.File) error {
	if len(files) == 0 {
		return nil
	}
	rows := make([]assetRow, len(files))
	for i, p := range files {
		rows[i] = assetRow{ID: string(p.ID), Type: p.Type, Width: p.Width, Height: p.Height, Data: p.Data}
	}
	if err := s.Ready(); err != nil {
		return err
	}
	return s.written(s.db.Transaction(func(tx *gorm.DB) error {
		return tx.Clauses(clause.OnConflict{DoUpdates: clause.AssignmentColumns([]string{"created_at"})}).CreateInBatches(rows, 20).Error
	}))
}

// Asset returns a picture or a sound by its id; ErrNoAsset where none is kept under it.
func (s *Store) Asset(id scene.AssetID) (media.File, error) {
	var rows []assetRow
	if err := s.db.Limit(1).Find(&rows, "id = ?", string(id)).Error; err != nil {
		return media.File{}, err
	}
	if len(rows) == 0 {
		return media.File{}, ErrNoAsset
	}
	r := rows[0]
	return media.File{ID: scene.AssetID(r.ID), Type: r.Type, Width: r.Width, Height: r.Height, Data: r.Data}, nil
}
