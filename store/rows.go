package store

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"io"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

var errAltered = errors.New("it is not as it was written: the disk or something else altered it")

// sumOf returns a sum of stored text, by which damage inside of it is noticed.
func sumOf(parts ...[]byte) string {
	h := sha256.New()
	for _, p := range parts {
		h.Write(p)
		h.Write([]byte{0})
	}
	return hex.EncodeToString(h.Sum(nil)[:12])
}

// newSnapshot returns a project as a row.
func newSnapshot(p *scene.Project, id string, revision int) (*snapshotRow, error) {
	body, err := json.Marshal(p)
	if err != nil {
		return nil, err
	}
	var packed bytes.Buffer
	w, _ := gzip.NewWriterLevel(&packed, gzip.BestSpeed)
	if _, err := w.Write(body); err != nil {
		return nil, err
	}
	if err := w.Close(); err != nil {
		return nil, err
	}
	return &snapshotRow{ProjectID: id, Revision: revision, Document: packed.Bytes(), Format: Format, Sum: sumOf(packed.Bytes())}, nil
}

// text returns the JSON of a snapshot.
func (r *snapshotRow) text() ([]byte, error) {
	if r.Sum != "" && r.Sum != sumOf(r.Document) {
		return nil, errAltered
	}
	body := r.Document
	if bytes.HasPrefix(body, []byte{0x1f, 0x8b}) {
		from, err := gzip.NewReader(bytes.NewReader(body))
		if err != nil {
			return nil, err
		}
		if body, err = io.ReadAll(from); err != nil {
			return nil, err
		}
	}
	return body, nil
}

// project reads the project of a snapshot.
func (r *snapshotRow) project() (*scene.Project, error) {
	body, err := r.text()
	if err != nil {
		return nil, err
	}
	p := &scene.Project{}
	return p, readable(r.Format, body, p)
}

// newChange returns a change and its inverse as a row.
func newChange(id string, c session.Change, inverse change.Ops) (*changeRow, error) {
	ops, err := json.Marshal(c.Ops)
	if err != nil {
		return nil, err
	}
	back, err := json.Marshal(inverse)
	if err != nil {
		return nil, err
	}
	return &changeRow{ProjectID: id, Revision: c.Revision, ChangeID: c.ID, Ops: ops, Inverse: back, Format: Format, Sum: sumOf(ops, back)}, nil
}

// change reads the operations of a change.
func (r *changeRow) change() (session.Change, error) {
	c := session.Change{ID: r.ChangeID, Base: r.Revision - 1, Revision: r.Revision}
	if r.Sum != "" && r.Sum != sumOf(r.Ops, r.Inverse) {
		return c, errAltered
	}
	return c, readable(r.Format, r.Ops, &c.Ops)
}
