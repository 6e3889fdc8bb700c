package server

import (
	"errors"
	"fmt"
	"log/slog"
	"slices"
	"sync"
	"time"

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
	loaded chan struct{} // closed when it is there, or failed
	failed error

	mu        sync.Mutex
	project   *scene.Project
	revision  int
	healed    []string // what was mended when it was loaded, until a snapshot says so
	checked   bool     // it was sound when it was loaded, and is so since: a change that would make it unsound is refused
	gone      bool     // it is not in the library any more: nothing may be made on it
	used      time.Time
	followers map[chan session.Change]bool
	recent    []session.Change // those behind the last snapshot

	looking sync.Mutex // held by whoever takes a snapshot, which holds up nobody else
	last    *snapshot  // of the newest revision that anybody looked at; written with both locks held
	flight  *flight    // what is being worked out for windows that open; under mu
}

// get returns a document, loaded if it is not there yet. Others are not held up meanwhile.
func (l *library) get(id string) (*document, error) {
	l.mu.Lock()
	d := l.open[id]
	if d == nil {
		d = &document{loaded: make(chan struct{}), followers: map[chan session.Change]bool{}}
		l.open[id] = d
		go l.load(id, d)
	}
	l.mu.Unlock()
	<-d.loaded
	if d.failed != nil {
		return nil, d.failed
	}
	d.mu.Lock()
	d.used = time.Now()
	d.mu.Unlock()
	return d, nil
}

func (l *library) load(id string, d *document) {
	defer close(d.loaded)
	defer func() {
		if cause := recover(); cause != nil {
			d.failed = fmt.Errorf("the project can't be read: something went wrong (%v)", cause)
			slog.Error("loading broke", "project", id, "cause", cause)
		}
		if d.failed != nil {
			l.drop(id, d)
		}
	}()
	loaded, err := l.store.Load(id)
	if err != nil {
		d.failed = err
		return
	}
	for _, what := range loaded.Healed {
		slog.Warn("healed", "project", id, "what", what)
	}
	d.project, d.revision, d.healed = loaded.Project, loaded.Revision, loaded.Healed
	if err := d.project.Check(); err == nil {
		d.checked = true
	} else {
		slog.Warn("unsound", "project", id, "what", err)
	}
	d.last = &snapshot{revision: d.revision, project: d.project.Clone(), checked: d.checked} // while nobody waits for it
}

// drop takes a document out of the library, so that it is read from the disk the next time.
func (l *library) drop(id string, d *document) {
	l.mu.Lock()
	if l.open[id] == d {
		delete(l.open, id)
	}
	l.mu.Unlock()
	d.mu.Lock()
	defer d.mu.Unlock()
	d.gone = true
	for f := range d.followers {
		close(f)
		delete(d.followers, f)
	}
}

// abandon drops a document that is held by whoever calls: what is in memory is of no use any more.
func (l *library) abandon(id string, d *document) {
	d.gone = true
	go l.drop(id, d) // which waits for it
}

// forget drops the document with an id, for one that was deleted.
func (l *library) forget(id string) {
	l.mu.Lock()
	d := l.open[id]
	l.mu.Unlock()
	if d != nil {
		<-d.loaded
		l.drop(id, d)
	}
}

// maxIdle is how many documents stay in memory that nobody follows: the last ones that were asked for.
const maxIdle = 8

// tidy drops the documents that nobody follows and nobody asked for since a time, and of the others that nobody follows all
// but a few. One that is busy is left for the next time: nobody waits for it.
func (l *library) tidy(since time.Time) {
	l.mu.Lock()
	defer l.mu.Unlock()
	type idle struct {
		id   string
		d    *document
		used time.Time
	}
	var idles []idle
	for id, d := range l.open {
		select {
		case <-d.loaded:
		default: // still being loaded
			continue
		}
		if !d.mu.TryLock() {
			continue
		}
		if len(d.followers) == 0 {
			idles = append(idles, idle{id, d, d.used})
		}
		d.mu.Unlock()
	}
	slices.SortFunc(idles, func(a, b idle) int { return b.used.Compare(a.used) })
	for k, i := range idles {
		if (k >= maxIdle || i.used.Before(since)) && i.d.mu.TryLock() {
			if len(i.d.followers) == 0 {
				i.d.gone = true
				delete(l.open, i.id)
			}
			i.d.mu.Unlock()
		}
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
// made before, whatever revision it says that it was made on, is answered with the one it made.
func (l *library) apply(id string, c session.Change) (revision int, err error) {
	return l.applyWhere(id, c, nil)
}

// applyWhere is apply for a change that is looked over before it is made.
func (l *library) applyWhere(id string, c session.Change, allowed func(*scene.Project) error) (revision int, err error) {
	for {
		d, err := l.get(id)
		if err != nil {
			return 0, err
		}
		revision, err := l.applyTo(id, d, c, allowed)
		if !errors.Is(err, errGone) {
			return revision, err
		}
	}
}

var errGone = errors.New("the document left memory")

func (l *library) applyTo(id string, d *document, c session.Change, allowed func(*scene.Project) error) (int, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if d.gone {
		return 0, errGone
	}
	if known, err := l.store.RevisionOf(id, c.ID); err != nil || known > 0 {
		return known, err
	}
	if c.Base > d.revision || c.Base < 0 {
		return 0, refused{fmt.Errorf("the change is made on revision %d, which this project never had; reload the page", c.Base)}
	}
	if c.Base < d.revision {
		changes, err := l.store.Since(id, c.Base)
		if err != nil {
			return 0, err
		}
		return 0, &outdated{d.revision, changes}
	}
	if allowed != nil {
		if err := allowed(d.project); err != nil {
			return 0, refused{err}
		}
	}
	inverse, _, err := change.Apply(d.project, c.Ops)
	if err != nil {
		var broken *change.Broken
		if errors.As(err, &broken) {
			slog.Error("a change broke", "project", id, "change", c.ID, "cause", broken.Cause)
			l.abandon(id, d)
		}
		return 0, refused{err}
	}
	c.Revision = d.revision + 1
	if err := l.store.Append(d.project, c, inverse); err != nil {
		if _, _, back := change.Replay(d.project, inverse); back != nil {
			l.abandon(id, d)
		}
		return 0, err
	}
	d.revision = c.Revision
	if d.last != nil {
		d.recent = append(d.recent, c)
	}
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

// at returns the revision that the document is at.
func (d *document) at() int {
	d.mu.Lock()
	defer d.mu.Unlock()
	return d.revision
}

// follow returns a channel of the changes to come; it is closed when the follower is cut off.
func (d *document) follow() (changes chan session.Change, stop func()) {
	changes = make(chan session.Change, 256)
	d.mu.Lock()
	defer d.mu.Unlock()
	if d.gone {
		close(changes)
		return changes, func() {}
	}
	d.followers[changes] = true
	return changes, func() {
		d.mu.Lock()
		delete(d.followers, changes)
		d.used = time.Now()
		d.mu.Unlock()
	}
}
