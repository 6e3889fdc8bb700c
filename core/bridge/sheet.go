package bridge

import (
	"wunderkammer/core/format/sheet"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// readTable reads a file as a table, in base64, with what is to be known of it.
func readTable(_ *session.Session, a TableFile) (ReadTable, error) {
	t, notes, err := sheet.Read(a.File, a.Name)
	return ReadTable{t, append([]string{}, notes...)}, err
}

// TableFile is a file that is read as a table.
type TableFile struct {
	File []byte `json:"file"`
	Name string `json:"name"`
}

// ReadTable is a table that was read, and what of it is other than in its file, in sentences.
type ReadTable struct {
	Table *scene.Table `json:"table"`
	Notes []string     `json:"notes" ts:"list"`
}
