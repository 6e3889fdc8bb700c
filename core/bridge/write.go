package bridge

import (
	"errors"
	"time"

	"wunderkammer/core/engine"
	"wunderkammer/core/format"
	"wunderkammer/core/format/out"
)

// WriteAsk begins to write a file, or goes on with the one that is under way.
type WriteAsk struct {
	Begin *format.Asked `json:"begin,omitempty"`
}

// Written says how far a file is, or holds it.
type Written struct {
	Done int    `json:"done"`
	Of   int    `json:"of"`
	File []byte `json:"file,omitempty"` // base64, when it is done
}

// turn is how long a call writes before it says how far it is.
const turn = 100 * time.Millisecond

// write writes a file of the composition that is open, on a plan of its own: for a while, until the call after the last.
func (b *Bridge) write(a WriteAsk) (w Written, err error) {
	if b.session == nil {
		return w, errors.New("no project is open")
	}
	if a.Begin != nil {
		if b.writing, err = out.Begin(engine.New(b.session.Composition()), *a.Begin); err != nil {
			return w, err
		}
	}
	if b.writing == nil {
		return w, errors.New("nothing is being written")
	}
	more := true
	for began := time.Now(); more && time.Since(began) < turn; {
		if more, err = b.writing.Step(); err != nil {
			b.writing = nil
			return w, err
		}
	}
	w.Done, w.Of = b.writing.Done()
	if !more {
		w.File, err = b.writing.File()
		b.writing = nil
	}
	return w, err
}
