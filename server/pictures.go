package server

import (
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"runtime/debug"
	"strconv"
	"sync/atomic"
	"time"

	"github.com/gin-gonic/gin"

	"wunderkammer/core/engine"
	"wunderkammer/core/format/svg"
	"wunderkammer/core/scene"
)

// drawingTime bounds how long one picture may take.
const drawingTime = 10 * time.Second

// waiting is how long a picture waits for its turn.
var waiting = drawingTime

// drawers are how many pictures are drawn at once.
const drawers = 2

// errTooLong is returned for a picture that took too long.
var errTooLong = errors.New("the picture takes too long to draw; see the problems of the composition for what is slow")

// errTooLarge is returned for a picture that would be larger than a page can take.
var errTooLarge = fmt.Errorf("the picture would be larger than %d MB; hide some of the composition", svg.MaxFrame>>20)

// errBusy is returned for a picture that had to wait too long for others.
var errBusy = errors.New("too many pictures are being drawn at the moment; try again")

// drawer waits for a place to draw at; release gives it back.
func (s *Server) drawer() (release func(), err error) {
	select {
	case s.drawing <- struct{}{}:
		return func() { <-s.drawing }, nil
	case <-time.After(waiting):
		return nil, errBusy
	}
}

// bounded works something out at a place that is given back at the end: also where the end is long after the time was up. What is worked
// out asks now and then whether it should stop, and panics with engine.Stopped; nobody else may have what it is worked out of. late is
// what is answered where the time was up, and broke begins the sentence of what broke.
func bounded[T any](release func(), late error, broke string, work func(stop func() bool) (T, error)) (T, error) {
	type worked struct {
		out T
		err error
	}
	done := make(chan worked, 1)
	var over atomic.Bool
	go func() {
		var w worked
		defer func() {
			if cause := recover(); cause == engine.Stopped {
				w.err = late
			} else if cause != nil {
				slog.Error(broke, "cause", cause, "stack", string(debug.Stack()))
				w.err = fmt.Errorf("%s: %v", broke, cause)
			}
			release()
			done <- w
		}()
		w.out, w.err = work(over.Load)
	}()
	select {
	case w := <-done:
		return w.out, w.err
	case <-time.After(drawingTime):
		over.Store(true)
		var none T
		return none, late
	}
}

// draw draws a frame of a composition that nobody else has.
func draw(c *scene.Composition, frame float64, release func()) ([]byte, error) {
	return bounded(release, errTooLong, "the picture can't be drawn", func(stop func() bool) ([]byte, error) {
		plan := engine.Stoppable(c, stop)
		plan.Evaluate(frame)
		picture, truncated := svg.Frame(c, plan, false)
		if truncated {
			return nil, errTooLarge
		}
		return picture, nil
	})
}

// frame draws a frame of a composition as SVG: ?frame= (0), ?composition= (the first).
func (s *Server) frame(g *gin.Context) {
	frame, err := strconv.Atoi(g.DefaultQuery("frame", "0"))
	if err != nil {
		fail(g, http.StatusBadRequest, "The frame is not a whole number.")
		return
	}
	s.look(g, g.Query("composition"), func(at looked) {
		c := at.composition
		if frame < 0 || frame >= c.Frames {
			fail(g, http.StatusBadRequest, fmt.Sprintf("%s has frames 0 to %d.", c.Name, c.Frames-1))
			return
		}
		release, err := s.drawer()
		var picture []byte
		if err == nil {
			picture, err = draw(c, float64(frame), release)
		}
		if err != nil {
			fail(g, http.StatusServiceUnavailable, sentence(err))
			return
		}
		g.Header("Cache-Control", "no-cache")
		g.Data(http.StatusOK, "image/svg+xml", picture)
	})
}

// plain stands for a picture that could not be made.
const plain = `<svg xmlns="http://www.w3.org/2000/svg" width="1280" height="720" viewBox="0 0 1280 720"><rect width="1280" height="720" fill="#e9e0cf"/><path d="M440 440h400M440 280h400M520 240v240" fill="none" stroke="#b9a98b" stroke-width="6"/></svg>`

// thumbnail is the picture of a project on the projects page. It is drawn once for each revision; where drawing
// it broke the server, or failed, it is a plain one until the project is changed. Where it only had to wait too long, it is
// drawn the next time.
func (s *Server) thumbnail(g *gin.Context) {
	s.with(g, func(d *document) {
		picture, err := s.pictureOf(g.Param("id"), d)
		if err != nil {
			slog.Warn("no thumbnail", "project", g.Param("id"), "error", err)
		}
		if len(picture) == 0 {
			picture = []byte(plain)
		}
		g.Header("Cache-Control", "no-cache")
		g.Data(http.StatusOK, "image/svg+xml", picture)
	})
}

func (s *Server) pictureOf(id string, d *document) ([]byte, error) {
	if picture, known, err := s.store.Picture(id, d.at()); err != nil || known {
		return picture, err
	}
	release, err := s.drawer()
	if err != nil {
		return nil, err
	}
	snap := d.snapshot()
	if err := s.store.SetPicture(id, snap.revision, nil); err != nil { // before it is tried
		release()
		return nil, err
	}
	c := snap.copied().Compositions[0] // which shows others that nobody else has, too
	picture, err := draw(c, float64(min(thumbnailFrame, c.Frames-1)), release)
	if err != nil {
		return nil, err
	}
	return picture, s.store.SetPicture(id, snap.revision, picture)
}

// thumbnailFrame is the frame that the projects page shows.
const thumbnailFrame = 60
