package store

import (
	"regexp"
	"time"

	"gorm.io/gorm"
)

// How long what is no longer used is kept.
const (
	BinTime     = 90 * 24 * time.Hour // a project in the bin
	unusedAsset = 24 * time.Hour      // a picture that nothing shows: it may be on its way into a project
)

// assetID finds the ids of pictures in stored text.
var assetID = regexp.MustCompile(`[0-9a-f]{64}`)

// Swept is what Sweep took away.
type Swept struct{ Projects, Pictures int }

// Sweep takes away what nobody can come back to: projects that have lain in the bin for BinTime, and pictures that no project
// shows, at whatever step back.
func (s *Store) Sweep(now time.Time) (swept Swept, err error) {
	if err := s.Ready(); err != nil {
		return swept, err
	}
	var old []string
	if err := s.db.Unscoped().Model(&projectRow{}).Where("deleted_at IS NOT NULL AND deleted_at < ?", now.Add(-BinTime)).Pluck("id", &old).Error; err != nil {
		return swept, read(err)
	}
	for _, id := range old {
		err := s.db.Transaction(func(tx *gorm.DB) error {
			for _, rows := range []any{&changeRow{}, &snapshotRow{}, &pictureRow{}, &addressRow{}} {
				if err := tx.Where("project_id = ?", id).Delete(rows).Error; err != nil {
					return err
				}
			}
			return tx.Unscoped().Where("id = ? AND deleted_at < ?", id, now.Add(-BinTime)).Delete(&projectRow{}).Error
		})
		if err != nil {
			return swept, s.written(err)
		}
		swept.Projects++
	}
	var unused []string
	if err := s.db.Model(&assetRow{}).Where("created_at < ?", now.Add(-unusedAsset)).Pluck("id", &unused).Error; err != nil || len(unused) == 0 {
		return swept, read(err)
	}
	used := map[string]bool{}
	note := func(text []byte) {
		for _, id := range assetID.FindAll(text, -1) {
			used[string(id)] = true
		}
	}
	var snaps []snapshotRow
	if err := s.db.FindInBatches(&snaps, 20, func(*gorm.DB, int) error {
		for k := range snaps {
			text, err := snaps[k].text()
			if err != nil {
				return err // what cannot be read may show any of them
			}
			note(text)
		}
		return nil
	}).Error; err != nil {
		return swept, read(err)
	}
	var changes []changeRow
	if err := s.db.FindInBatches(&changes, 500, func(*gorm.DB, int) error {
		for _, c := range changes {
			note(c.Ops)
			note(c.Inverse)
		}
		return nil
	}).Error; err != nil {
		return swept, read(err)
	}
	for _, id := range unused {
		if used[id] {
			continue
		}
		gone := s.db.Where("id = ? AND created_at < ?", id, now.Add(-unusedAsset)).Delete(&assetRow{})
		if gone.Error != nil {
			return swept, s.written(gone.Error)
		}
		swept.Pictures += int(gone.RowsAffected)
	}
	return swept, nil
}
