package server

import (
	"context"
	"crypto/rand"
	"encoding/base32"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/gin-gonic/gin"

	"wunderkammer/core/bridge"
	"wunderkammer/core/change"
	"wunderkammer/core/format/pack"
	"wunderkammer/core/format/picture"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/view"
	"wunderkammer/store"
)

// newID makes an id for a project: 50 random bits.
func newID() scene.ID {
	b := make([]byte, 7)
	rand.Read(b)
	return scene.ID(strings.ToLower(base32.HexEncoding.EncodeToString(b))[:10])
}

func (s *Server) list(g *gin.Context) {
	projects, err := s.store.List(g.Query("deleted") != "")
	if err != nil {
		failStored(g, err)
		return
	}
	type listed struct {
		store.Summary
		Example bool `json:"example,omitempty"` // it came with the application
	}
	out := make([]listed, len(projects))
	for i, p := range projects {
		out[i] = listed{p, s.example != nil && p.ID == string(s.example.ID)}
	}
	g.JSON(http.StatusOK, out)
}

// openExample answers with the example project, which is put into the store, or taken out of the bin, where it is not there;
// fresh asks for another one, as it is at first.
func (s *Server) openExample(g *gin.Context) {
	var body struct {
		Fresh bool `json:"fresh"`
	}
	if !readJSON(g, &body) {
		return
	}
	if s.example == nil {
		fail(g, http.StatusNotFound, "There is no example here.")
		return
	}
	p, pictures, err := s.example.Build()
	if err == nil {
		err = s.store.Keep(pictures...)
	}
	if err != nil {
		failStored(g, err)
		return
	}
	for _, deleted := range []bool{false, true} {
		known, err := s.store.List(deleted)
		if err != nil {
			failStored(g, err)
			return
		}
		for _, k := range known {
			if k.ID != string(p.ID) {
				continue
			}
			if body.Fresh {
				p.ID = newID()
				break
			}
			if deleted {
				if err := s.store.Restore(k.ID); err != nil {
					failStored(g, err)
					return
				}
			}
			g.JSON(http.StatusOK, gin.H{"id": p.ID, "name": k.Name})
			return
		}
	}
	s.add(g, p)
}

func (s *Server) create(g *gin.Context) {
	var body struct {
		Name string `json:"name"`
	}
	if readJSON(g, &body) {
		s.add(g, scene.NewProject(newID(), body.Name))
	}
}

// add checks a project, stores it, and answers with its id and name.
func (s *Server) add(g *gin.Context, p *scene.Project) {
	if err := p.Check(); err != nil {
		fail(g, http.StatusUnprocessableEntity, sentence(err))
		return
	}
	if err := s.store.Create(p); err != nil {
		failStored(g, err)
		return
	}
	g.JSON(http.StatusCreated, gin.H{"id": p.ID, "name": p.Name})
}

func (s *Server) importPackage(g *gin.Context) {
	data, err := io.ReadAll(g.Request.Body)
	if err != nil {
		fail(g, http.StatusRequestEntityTooLarge, tooLarge(maxBody))
		return
	}
	var p *scene.Project
	var pictures []picture.Picture
	s.decode(func() { p, pictures, err = pack.Read(data) })
	if err != nil {
		fail(g, http.StatusUnprocessableEntity, sentence(err))
		return
	}
	if err := s.store.Keep(pictures...); err != nil {
		failStored(g, err)
		return
	}
	p.ID = newID()
	s.add(g, p)
}

// with calls with the document that the address names, or answers that there is none.
func (s *Server) with(g *gin.Context, f func(d *document)) {
	d, err := s.library.get(g.Param("id"))
	if err != nil {
		failStored(g, err)
		return
	}
	f(d)
}

// loading is a project as it is sent to a page.
type loading struct {
	Revision int            `json:"revision"`
	Project  *scene.Project `json:"project"`
	Healed   []string       `json:"healed,omitempty"`
	Checked  bool           `json:"checked,omitempty"` // whether it is sound
	View     *view.View     `json:"view,omitempty"`    // see early
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
	s, _ := session.Open(p, revision, nil, newID)
	opened, texts := view.Opened(s, 0)
	end := time.Now().Add(longestFirst)
	if frame := bridge.First(s, texts, func() bool { return time.Now().After(end) }); frame != nil {
		first, _ = frame.Encode() // what cannot be written is not sent
	}
	return &opened, first
}

// longestFirst is how long the first frame may take that is sent ahead.
const longestFirst = 300 * time.Millisecond

func (s *Server) load(g *gin.Context) {
	s.with(g, func(d *document) {
		var l loading
		d.read(func(p *scene.Project, revision int) {
			l = loading{Revision: revision, Project: p.Clone(), Healed: d.healed, Checked: d.checked}
		})
		g.JSON(http.StatusOK, l)
	})
}

// opening is load for a page that opens the project, with what its core will say of it and show: the length of the JSON
// of load in four bytes, little-endian, that, with as many spaces behind it as make both a multiple of eight, and the
// first frame, where there is one, in the form of the bridge.
func (s *Server) opening(g *gin.Context) {
	s.with(g, func(d *document) {
		var body, first []byte
		var err error
		d.read(func(p *scene.Project, revision int) {
			l := loading{Revision: revision, Project: p, Healed: d.healed, Checked: d.checked}
			l.View, first = early(p, revision)
			body, err = json.Marshal(l)
			d.healed = nil // it is said once
		})
		if err != nil {
			failStored(g, err)
			return
		}
		g.Data(http.StatusOK, "application/octet-stream", append(bridge.Framed(body), first...))
	})
}

// catalogue answers with all that is to be known of kinds, which never changes.
func (s *Server) catalogue(g *gin.Context) {
	g.JSON(http.StatusOK, view.Catalogue())
}

// known answers which of some changes were made already, with their revisions: what a page asks that has changes
// left of which it does not know whether they arrived.
func (s *Server) known(g *gin.Context) {
	var body struct {
		IDs []string `json:"ids"`
	}
	if !readJSON(g, &body) {
		return
	}
	if len(body.IDs) > 10000 {
		fail(g, http.StatusBadRequest, "At most 10,000 changes can be requested at once.")
		return
	}
	known, err := s.store.Known(g.Param("id"), body.IDs...)
	if err != nil {
		failStored(g, err)
		return
	}
	g.JSON(http.StatusOK, known)
}

func (s *Server) rename(g *gin.Context) {
	var body struct {
		Name string `json:"name"`
	}
	if !readJSON(g, &body) {
		return
	}
	s.with(g, func(d *document) {
		for { // others may come first; a name does not depend on what they did
			c := session.Change{ID: string(newID()), Ops: change.Ops{&change.ProjectRename{Name: body.Name}}}
			d.read(func(_ *scene.Project, revision int) { c.Base = revision })
			revision, err := s.library.apply(g.Param("id"), c)
			var late *outdated
			if errors.As(err, &late) {
				continue
			}
			answerApplied(g, revision, err)
			return
		}
	})
}

func (s *Server) remove(g *gin.Context) {
	id := g.Param("id")
	if err := s.store.Delete(id); err != nil {
		failStored(g, err)
		return
	}
	s.library.forget(id)
	g.Status(http.StatusNoContent)
}

func (s *Server) restore(g *gin.Context) {
	if err := s.store.Restore(g.Param("id")); err != nil {
		failStored(g, err)
		return
	}
	g.Status(http.StatusNoContent)
}

func (s *Server) duplicate(g *gin.Context) {
	s.with(g, func(d *document) {
		copied, _ := d.copied()
		copied.ID = newID()
		if name := copied.Name + " copy"; scene.CheckName(name) == nil {
			copied.Name = name
		}
		s.add(g, copied)
	})
}

func (s *Server) changes(g *gin.Context) {
	since, err := strconv.Atoi(g.DefaultQuery("since", "0"))
	if err != nil || since < 0 {
		fail(g, http.StatusBadRequest, "The revision in ?since= is not a whole number.")
		return
	}
	s.with(g, func(d *document) {
		changes, err := s.store.Since(g.Param("id"), since)
		if err != nil {
			failStored(g, err)
			return
		}
		g.JSON(http.StatusOK, changes)
	})
}

func (s *Server) apply(g *gin.Context) {
	var sent struct {
		session.Change
		Ops change.Exact `json:"ops"`
	}
	if !readJSON(g, &sent) {
		return
	}
	c := sent.Change
	c.Ops = change.Ops(sent.Ops)
	if c.ID == "" || len(c.ID) > 64 {
		fail(g, http.StatusBadRequest, "A change needs an id of 1 to 64 characters.")
		return
	}
	revision, err := s.library.apply(g.Param("id"), c)
	answerApplied(g, revision, err)
}

func answerApplied(g *gin.Context, revision int, err error) {
	var late *outdated
	var no refused
	switch {
	case err == nil:
		g.JSON(http.StatusOK, gin.H{"revision": revision})
	case errors.As(err, &late):
		failWith(g, problem{Status: http.StatusConflict, Detail: sentence(err), Revision: late.revision, Changes: late.changes})
	case errors.As(err, &no):
		fail(g, http.StatusUnprocessableEntity, sentence(err))
	default:
		failStored(g, err)
	}
}

// live sends every change from a revision on over a WebSocket, as it is made.
func (s *Server) live(g *gin.Context) {
	since, err := strconv.Atoi(g.DefaultQuery("since", "0"))
	if err != nil || since < 0 {
		fail(g, http.StatusBadRequest, "The revision in ?since= is not a whole number.")
		return
	}
	s.with(g, func(d *document) {
		changes, stop := d.follow() // before what was missed is read, so that nothing falls between
		defer stop()
		missed, err := s.store.Since(g.Param("id"), since)
		if err != nil {
			failStored(g, err)
			return
		}
		socket, err := websocket.Accept(g.Writer, g.Request, nil) // which checks the origin
		if err != nil {
			return
		}
		defer socket.CloseNow()
		ctx := socket.CloseRead(g.Request.Context())
		send := func(c session.Change) bool { // a page that does not read is cut off
			ctx, cancel := context.WithTimeout(ctx, writingTime)
			defer cancel()
			return wsjson.Write(ctx, socket, c) == nil
		}
		for _, c := range missed {
			if !send(c) {
				return
			}
			since = c.Revision
		}
		for {
			select {
			case c, ok := <-changes:
				if !ok {
					socket.Close(websocket.StatusTryAgainLater, "connect again")
					return
				}
				if c.Revision > since && !send(c) {
					return
				}
			case <-ctx.Done():
				return
			}
		}
	})
}

func (s *Server) exportPackage(g *gin.Context) {
	s.with(g, func(d *document) {
		p, _ := d.copied()
		data, err := s.pack(p)
		if err != nil {
			fail(g, http.StatusInternalServerError, sentence(err))
			return
		}
		g.Header("Content-Disposition", fmt.Sprintf("attachment; filename*=UTF-8''%s", url.PathEscape(p.Name+pack.Extension)))
		g.Data(http.StatusOK, "application/zip", data)
	})
}

// pack writes the package of a project, with its pictures from the store.
func (s *Server) pack(p *scene.Project) ([]byte, error) {
	var pictures []picture.Picture
	for _, id := range p.Assets() {
		one, err := s.store.Asset(id)
		if err != nil {
			return nil, err
		}
		pictures = append(pictures, one)
	}
	return pack.Write(p, pictures)
}
