package store

import "gorm.io/gorm/clause"

// Picture returns the picture of a project at a revision. Where nothing is known of it, known is false; where it was
// begun and never came to an end, the picture is empty.
func (s *Store) Picture(id string, revision int) (picture []byte, known bool, err error) {
	var rows []pictureRow
	err = s.db.Limit(1).Find(&rows, "project_id = ? AND revision = ?", id, revision).Error
	if err != nil || len(rows) == 0 {
		return nil, false, read(err)
	}
	return rows[0].Picture, true, nil
}

// SetPicture keeps the picture of a project at a revision; an empty one before it is made, so that it is known
// afterwards whether making it broke the server.
func (s *Store) SetPicture(id string, revision int, picture []byte) error {
	return s.written(s.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&pictureRow{id, revision, picture}).Error)
}
