package server

import (
	"fmt"
	"sync"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/store"
)

// library holds the projects that are being worked on in memory, each just as it is on the disk.
type library struct {
	store *store.Store
	mu    sync.Mutex
	open  map[string]*document
}

func newLibrary(s *store.Store) *library {
	return &library{store: s, open: map[string]*document{}}
}

// document is one project with those who follow it.
type document struct {
	mu        sync.Mutex
	project   *scene.Project
	revision  int
	followers map[chan session.Change]bool
}

// get returns a document, loaded if it is not there yet.
func (l *library) get(id string) (*document, error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	if d := l.open[id]; d != nil {
		return d, nil
	}
	p, revision, err := l.store.Load(id)
	if err != nil {
		return nil, err
	}
	d := &document{project: p, revision: revision, followers: map[chan session.Change]bool{}}
	l.open[id] = d
	return d, nil
}

// forget drops a document, for one that was deleted.
func (l *library) forget(id string) {
	l.mu.Lock()
	d := l.open[id]
	delete(l.open, id)
	l.mu.Unlock()
	if d == nil {
		return
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	for f := range d.followers {
		close(f)
		delete(d.followers, f)
	}
}

// outdated is returned for a change that was made on an older revision.
type outdated struct {
	revision int
	changes  []session.Change
}

func (o *outdated) Error() string {
	return fmt.Sprintf("other changes came first; the project is at revision %d now", o.revision)
}

// refused is returned for a change that the core does not accept.
type refused struct{ error }

// apply makes a change, saves it, and announces it; or does nothing of that. A change that was
// made before is answered with its revision.
func (l *library) apply(id string, c session.Change) (revision int, err error) {
	d, err := l.get(id)
	if err != nil {
		return 0, err
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	if c.Base != d.revision {
		if known, err := l.store.RevisionOf(id, c.ID); err != nil || known > 0 {
			return known, err
		}
		if c.Base > d.revision || c.Base < 0 {
			return 0, refused{fmt.Errorf("the change is made on revision %d, which this project never had; load it anew", c.Base)}
		}
		changes, err := l.store.Since(id, c.Base)
		if err != nil {
			return 0, err
		}
		return 0, &outdated{d.revision, changes}
	}
	inverse, _, err := change.Apply(d.project, c.Ops)
	if err != nil {
		return 0, refused{err}
	}
	c.Revision = d.revision + 1
	if err := l.store.Append(d.project, c, inverse); err != nil {
		if _, _, back := change.Replay(d.project, inverse); back != nil {
			l.mu.Lock()
			delete(l.open, id) // read it from the disk again
			l.mu.Unlock()
		}
		return 0, err
	}
	d.revision = c.Revision
	for f := range d.followers {
		select {
		case f <- c:
		default: // too slow: it is cut off, and asks for what it missed
			close(f)
			delete(d.followers, f)
		}
	}
	return c.Revision, nil
}

// read calls with the project while nobody changes it.
func (d *document) read(f func(p *scene.Project, revision int)) {
	d.mu.Lock()
	defer d.mu.Unlock()
	f(d.project, d.revision)
}

// follow returns a channel of the changes to come; it is closed when the follower is cut off.
func (d *document) follow() (changes chan session.Change, stop func()) {
	changes = make(chan session.Change, 256)
	d.mu.Lock()
	d.followers[changes] = true
	d.mu.Unlock()
	return changes, func() {
		d.mu.Lock()
		delete(d.followers, changes)
		d.mu.Unlock()
	}
}
