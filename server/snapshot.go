package server

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"log/slog"
	"slices"
	"sync"
	"time"

	"wunderkammer/core/bridge"
	"wunderkammer/core/change"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/view"
	"wunderkammer/store"
)

// snapshot is a document at one revision, taken at most once for each, so that what takes long (opening, drawing, packing)
// holds nobody up who changes the document meanwhile.
type snapshot struct {
	revision int
	healed   []string
	checked  bool

	mu      sync.Mutex
	project *scene.Project // only ever copied: looking at a project makes indexes of it on the way

	once    sync.Once
	opening []byte // packed, for all who open the project at this revision
	failed  error
}

// maxRecent bounds how many changes are made again on the last snapshot, rather than the whole document copied.
const maxRecent = 2000

// snapshot returns the document as it is now: the last snapshot with the changes behind it made again, which holds up nobody
// who makes another change meanwhile. What was mended of it is said by the first one, for as long as that is the last.
func (d *document) snapshot() *snapshot {
	d.looking.Lock()
	defer d.looking.Unlock()
	d.mu.Lock()
	next := &snapshot{revision: d.revision, healed: d.healed, checked: d.checked}
	d.healed = nil
	last, recent := d.last, d.recent
	switch {
	case last != nil && last.revision == d.revision && len(next.healed) == 0:
		d.mu.Unlock()
		return last
	case last == nil || len(recent) > maxRecent:
		next.project = d.project.Clone()
	}
	d.mu.Unlock()
	if next.project == nil {
		next.project = last.copied()
		for _, c := range recent {
			if _, _, err := change.Replay(next.project, c.Ops); err != nil {
				slog.Error("a snapshot could not be brought up to date", "change", c.ID, "error", err)
				d.mu.Lock()
				next.project, next.revision = d.project.Clone(), d.revision
				d.mu.Unlock()
				break
			}
		}
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	d.last = next
	d.recent = slices.DeleteFunc(slices.Clone(d.recent), func(c session.Change) bool { return c.Revision <= next.revision })
	return next
}

// copied returns the project, for whoever asks alone.
func (s *snapshot) copied() *scene.Project {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.project.Clone()
}

// listed lists the compositions of it.
func (s *snapshot) listed() []ListedComposition {
	s.mu.Lock()
	defer s.mu.Unlock()
	out := []ListedComposition{}
	for _, c := range s.project.Compositions {
		out = append(out, ListedComposition{c.ID, c.Name, c.Width, c.Height, c.Rate, c.Frames, c.Reading, c.HandOff != nil && len(c.HandOff.Offers) > 0})
	}
	return out
}

// opened is what a page opens a project with.
type opened struct {
	LoadedProject
	View *view.View `json:"view,omitempty"` // see early
}

// flight is what windows open a project with, while it is worked out.
type flight struct {
	done chan struct{}
	body []byte
	err  error
}

// opening returns what a page opens the project with, packed by gzip; see snapshot.open. Who asks while it is worked out for
// somebody else gets the same, and is told of what was changed since by its line.
func (d *document) opening(history string) ([]byte, error) {
	d.mu.Lock()
	f := d.flight
	mine := f == nil
	if mine {
		f = &flight{done: make(chan struct{})}
		d.flight = f
	}
	d.mu.Unlock()
	if mine {
		f.body, f.err = d.snapshot().open(history)
		d.mu.Lock()
		d.flight = nil
		d.mu.Unlock()
		close(f.done)
	}
	<-f.done
	return f.body, f.err
}

// open returns what a page opens the project with, packed by gzip: the length of the JSON of loading in four bytes,
// little-endian, that, with as many spaces behind it as make both a multiple of eight, and the first frame, where there is
// one, in the form of the bridge. It is worked out once.
func (s *snapshot) open(history string) ([]byte, error) {
	s.once.Do(func() { s.opening, s.failed = s.pack(history) })
	return s.opening, s.failed
}

func (s *snapshot) pack(history string) (_ []byte, err error) {
	defer change.Guard(&err)
	p := s.copied()
	l := opened{LoadedProject: LoadedProject{s.revision, history, p, s.healed, s.checked}}
	var first []byte
	l.View, first = early(p, s.revision)
	body, err := json.Marshal(l)
	if err != nil {
		return nil, err
	}
	var packed bytes.Buffer
	w, _ := gzip.NewWriterLevel(&packed, gzip.BestSpeed)
	for _, part := range [][]byte{bridge.Framed(body), first} {
		if _, err := w.Write(part); err != nil {
			return nil, err
		}
	}
	if err := w.Close(); err != nil {
		return nil, err
	}
	return packed.Bytes(), nil
}

// early returns what the core of the page will say of a project, and its first frame, so that the page can show them
// while its core is made ready; nil where the core breaks on it, which the page finds out by itself, and no frame where
// that would keep others waiting.
func early(p *scene.Project, revision int) (v *view.View, first []byte) {
	defer func() {
		if cause := recover(); cause != nil {
			slog.Error("describing broke", "project", p.ID, "cause", cause)
			v, first = nil, nil
		}
	}()
	s, _ := session.Open(p, revision, nil, store.NewID)
	opened, texts := view.Opened(s, 0)
	end := time.Now().Add(longestFirst)
	if frame := bridge.First(s, texts, func() bool { return time.Now().After(end) }); frame != nil {
		first, _ = frame.Encode() // what cannot be written is not sent
	}
	return &opened, first
}

// longestFirst is how long the first frame may take that is sent ahead.
const longestFirst = 300 * time.Millisecond
