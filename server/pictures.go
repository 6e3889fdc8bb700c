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

// drawers are how many pictures are drawn at once.
const drawers = 2

// errTooLong is returned for a picture that took too long, or had to wait too long for others.
var errTooLong = errors.New("the picture takes too long to draw; see the problems of the composition for what is slow")

// draw draws a frame of a composition that nobody else has, within a time.
func (s *Server) draw(c *scene.Composition, frame float64) (picture []byte, err error) {
	until := time.Now().Add(drawingTime)
	select {
	case s.drawing <- struct{}{}:
	case <-time.After(drawingTime):
		return nil, errTooLong
	}
	done := make(chan struct{})
	var late atomic.Bool
	go func() {
		defer func() {
			if cause := recover(); cause != nil {
				if cause != engine.Stopped {
					slog.Error("drawing broke", "composition", c.Name, "cause", cause, "stack", string(debug.Stack()))
				}
				picture, err = nil, fmt.Errorf("the picture can't be drawn: %v", cause)
			}
			<-s.drawing
			close(done)
		}()
		plan := engine.New(c)
		plan.Stop = late.Load
		plan.Evaluate(frame)
		picture = svg.Frame(c, plan)
	}()
	select {
	case <-done:
		return picture, err
	case <-time.After(time.Until(until)):
		late.Store(true)
		return nil, errTooLong
	}
}

// frame draws a frame of a composition as SVG: ?frame= (0), ?composition= (the first).
func (s *Server) frame(g *gin.Context) {
	frame, err := strconv.Atoi(g.DefaultQuery("frame", "0"))
	if err != nil {
		fail(g, http.StatusBadRequest, "The frame is not a whole number.")
		return
	}
	s.with(g, func(d *document) {
		var c *scene.Composition
		d.read(func(p *scene.Project, _ int) {
			c = p.Compositions[0]
			if id := g.Query("composition"); id != "" {
				c = p.Composition(scene.ID(id))
			}
			if c != nil {
				c = c.Clone()
			}
		})
		switch {
		case c == nil:
			fail(g, http.StatusNotFound, "There is no such composition in the project.")
		case frame < 0 || frame >= c.Frames:
			fail(g, http.StatusBadRequest, fmt.Sprintf("%s has frames 0 to %d.", c.Name, c.Frames-1))
		default:
			picture, err := s.draw(c, float64(frame))
			if err != nil {
				fail(g, http.StatusServiceUnavailable, sentence(err))
				return
			}
			g.Header("Cache-Control", "no-cache")
			g.Data(http.StatusOK, "image/svg+xml", picture)
		}
	})
}

// plain stands for a picture that could not be made.
const plain = `<svg xmlns="http://www.w3.org/2000/svg" width="1280" height="720" viewBox="0 0 1280 720"><rect width="1280" height="720" fill="#e9e0cf"/><path d="M440 440h400M440 280h400M520 240v240" fill="none" stroke="#b9a98b" stroke-width="6"/></svg>`

// thumbnail is the picture of a project on the projects page. It is drawn once for each revision; where drawing
// it broke the server, or failed, it is a plain one until the project is changed.
func (s *Server) thumbnail(g *gin.Context) {
	s.with(g, func(d *document) {
		var c *scene.Composition
		var revision int
		id := g.Param("id")
		d.read(func(_ *scene.Project, at int) { revision = at })
		picture, known, err := s.store.Picture(id, revision)
		if err == nil && !known {
			d.read(func(p *scene.Project, at int) { c, revision = p.Compositions[0].Clone(), at })
			if err = s.store.SetPicture(id, revision, nil); err == nil { // before it is tried
				if picture, err = s.draw(c, float64(min(thumbnailFrame, c.Frames-1))); err == nil {
					err = s.store.SetPicture(id, revision, picture)
				}
			}
		}
		if err != nil {
			slog.Warn("no thumbnail", "project", id, "error", err)
		}
		if len(picture) == 0 {
			picture = []byte(plain)
		}
		g.Header("Cache-Control", "no-cache")
		g.Data(http.StatusOK, "image/svg+xml", picture)
	})
}

// thumbnailFrame is the frame that the projects page shows.
const thumbnailFrame = 60
