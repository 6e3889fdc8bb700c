package store

import (
	"fmt"

	"wunderkammer/core/scene"
)

// Damage looks the whole database file over, and says what is wrong with it, a sentence each.
func (s *Store) Damage() []string {
	var found []string
	if err := s.db.Raw("PRAGMA integrity_check(20)").Scan(&found).Error; err != nil {
		return []string{read(err).Error()}
	}
	if len(found) == 1 && found[0] == "ok" {
		return nil
	}
	return found
}

// Health is what can be read of one project.
type Health struct {
	Summary
	Deleted bool
	Whole   bool           // everything that was acknowledged is there
	Project *scene.Project // as far as it can be read; nil where nothing can
	Reached int            // the revision that was reached
	Want    int            // the revision that it should be at
	Notes   []string       // what is wrong with it, and what was mended, a sentence each
}

// Examine reads every project as far as it can be read: from the newest snapshot that can be, with the changes behind
// it up to the first that cannot.
func (s *Store) Examine() ([]Health, error) {
	var rows []projectRow
	if err := s.db.Unscoped().Order("id").Find(&rows).Error; err != nil {
		return nil, read(err)
	}
	var out []Health
	for _, row := range rows {
		out = append(out, s.examine(row))
	}
	return out, nil
}

func (s *Store) examine(row projectRow) Health {
	h := Health{Summary: Summary{row.ID, row.Name, row.CreatedAt, row.UpdatedAt}, Deleted: row.DeletedAt.Valid, Want: row.Revision}
	var revisions []int
	if err := s.db.Model(&snapshotRow{}).Where("project_id = ?", row.ID).Order("revision desc").Pluck("revision", &revisions).Error; err != nil {
		h.Notes = append(h.Notes, read(err).Error())
	}
	for _, revision := range revisions {
		var snap snapshotRow
		if err := s.db.First(&snap, "project_id = ? AND revision = ?", row.ID, revision).Error; err != nil {
			h.Notes = append(h.Notes, fmt.Sprintf("the snapshot at revision %d can't be read: %v", revision, err))
			continue
		}
		l, err := s.replay(&snap)
		if err != nil {
			h.Notes = append(h.Notes, err.Error())
		}
		if l == nil || h.Project != nil && l.Revision <= h.Reached {
			continue
		}
		l.Healed = append(l.Healed, l.Project.Heal()...)
		if err := l.Project.Check(); err != nil {
			h.Notes = append(h.Notes, fmt.Sprintf("at revision %d: %v", l.Revision, err))
			continue
		}
		h.Project, h.Reached = l.Project, l.Revision
		h.Notes = append(h.Notes, l.Healed...)
		if h.Reached >= h.Want {
			break
		}
	}
	h.Whole = h.Project != nil && h.Reached >= h.Want
	return h
}
