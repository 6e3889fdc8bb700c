package server

import (
	"cmp"
	"net/http"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"wunderkammer/core/session"
)

// following is somebody who is told of the changes of a document as they are made.
type following struct {
	changes chan session.Change
	stop    func()
	missed  []session.Change
	since   int
}

// sinceAsked returns the revision after which changes are asked for: what a client says that it had, or else ?since=, or 0. Where it is
// none, that is answered.
func sinceAsked(g *gin.Context, had string) (since int, ok bool) {
	since, err := strconv.Atoi(cmp.Or(had, g.DefaultQuery("since", "0")))
	if err != nil || since < 0 {
		fail(g, http.StatusBadRequest, "The revision in ?since= is not a whole number.")
		return 0, false
	}
	return since, true
}

// following begins to follow a document from a revision on; where that can't be, it is answered.
func (s *Server) following(g *gin.Context, d *document, since int) (*following, bool) {
	f := &following{since: since}
	f.changes, f.stop = d.follow() // before what was missed is read, so that nothing falls between
	missed, err := s.store.Since(g.Param("id"), since)
	if err != nil {
		f.stop()
		failStored(g, err)
		return nil, false
	}
	f.missed = missed
	return f, true
}

// breath is how often one who is told of nothing is shown that the line is there.
const breath = 20 * time.Second

// tell tells what was missed, and what is made from then on, until it is done, or telling fails; breathe is called now and then, where
// there is such a thing. It returns whether who follows was cut off, being too slow.
func (f *following) tell(done <-chan struct{}, tell func(session.Change) bool, breathe func() bool) (cut bool) {
	for _, c := range f.missed {
		if f.since = c.Revision; !tell(c) {
			return false
		}
	}
	every := time.NewTicker(breath)
	defer every.Stop()
	for {
		select {
		case c, ok := <-f.changes:
			if !ok {
				return true
			}
			if c.Revision > f.since && !tell(c) {
				return false
			}
		case <-every.C:
			if breathe != nil && !breathe() {
				return false
			}
		case <-done:
			return false
		}
	}
}

// either is closed as soon as one of two is: the first of them is, at some time.
func either(a, b <-chan struct{}) <-chan struct{} {
	out := make(chan struct{})
	go func() {
		defer close(out)
		select {
		case <-a:
		case <-b:
		}
	}()
	return out
}
