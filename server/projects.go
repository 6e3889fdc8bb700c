package server

import (
	"bytes"
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"
	"github.com/gin-gonic/gin"

	"wunderkammer/core/change"
	"wunderkammer/core/format/media"
	"wunderkammer/core/format/pack"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/view"
	"wunderkammer/store"
)

func (s *Server) list(g *gin.Context) {
	projects, err := s.store.List(g.Query("deleted") != "")
	if err != nil {
		failStored(g, err)
		return
	}
	out := make([]ListedProject, len(projects))
	for i, p := range projects {
		out[i] = ListedProject{p, s.example != nil && p.ID == string(s.example.ID)}
	}
	g.JSON(http.StatusOK, out)
}

// openExample answers with the example project, which is put into the store, or taken out of the bin, where it is not there;
// fresh asks for another one, as it is at first.
func (s *Server) openExample(g *gin.Context) {
	var body ExampleAsked
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
				p.ID = store.NewID()
				break
			}
			if deleted {
				if err := s.store.Restore(k.ID); err != nil {
					failStored(g, err)
					return
				}
			}
			g.JSON(http.StatusOK, MadeProject{ID: p.ID, Name: k.Name})
			return
		}
	}
	s.add(g, p)
}

func (s *Server) create(g *gin.Context) {
	var body NewProject
	if readJSON(g, &body) {
		s.add(g, scene.NewProject(store.NewID(), body.Name))
	}
}

// add checks a project, stores it, and answers with its id and name, and with what is to be told of it.
func (s *Server) add(g *gin.Context, p *scene.Project, notes ...string) {
	if err := p.Check(); err != nil {
		fail(g, http.StatusUnprocessableEntity, sentence(err))
		return
	}
	if err := s.store.Create(p); err != nil {
		failStored(g, err)
		return
	}
	g.JSON(http.StatusCreated, MadeProject{p.ID, p.Name, notes})
}

func (s *Server) importPackage(g *gin.Context) {
	if opened, notes, ok := s.opened(g); ok {
		opened.Project.ID = store.NewID()
		s.add(g, opened.Project, notes...)
	}
}

// readPackage answers with what a file holds of a project, to be brought into another one. Its pictures and sounds are kept.
func (s *Server) readPackage(g *gin.Context) {
	if opened, notes, ok := s.opened(g); ok {
		g.JSON(http.StatusOK, BroughtProject{opened.Project, opened.Part, notes})
	}
}

// opened reads the package in a request and keeps its pictures and sounds; it returns what is to be told of it, too. Where it can't be
// read, that is answered.
func (s *Server) opened(g *gin.Context) (opened *pack.Opened, notes []string, ok bool) {
	data, err := io.ReadAll(g.Request.Body)
	if err != nil {
		fail(g, http.StatusRequestEntityTooLarge, tooLarge(maxBody))
		return nil, nil, false
	}
	s.decode(func() { opened, err = pack.Read(data) })
	if err != nil {
		fail(g, http.StatusUnprocessableEntity, sentence(err))
		return nil, nil, false
	}
	if err := s.store.Keep(opened.Files...); err != nil {
		failStored(g, err)
		return nil, nil, false
	}
	missing := 0
	for _, id := range opened.Missing {
		if _, err := s.store.Asset(id); err != nil { // it may be here from another project
			missing++
		}
	}
	notes = slices.Clone(opened.Mended)
	switch {
	case missing == 1:
		notes = append(notes, "1 picture or sound is missing from the file: what shows or plays it stays empty.")
	case missing > 1:
		notes = append(notes, fmt.Sprintf("%d pictures or sounds are missing from the file: what shows or plays them stays empty.", missing))
	}
	return opened, notes, true
}

// adopt stores a project as a page has it, under a new id: what the page could not bring to the server otherwise.
func (s *Server) adopt(g *gin.Context) {
	var p scene.Project
	if !readJSON(g, &p) {
		return
	}
	if p.Heal(); len(p.Compositions) == 0 {
		fail(g, http.StatusUnprocessableEntity, "There is no project in the request.")
		return
	}
	graph.Refresh(&p)
	p.ID = store.NewID()
	s.add(g, &p)
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

func (s *Server) load(g *gin.Context) {
	s.with(g, func(d *document) {
		snap := d.snapshot()
		g.JSON(http.StatusOK, LoadedProject{snap.revision, s.store.History(), snap.copied(), snap.healed, snap.checked})
	})
}

// opening is load for a page that opens the project, with what its core will say of it and show; see snapshot.open.
func (s *Server) opening(g *gin.Context) {
	s.with(g, func(d *document) {
		packed, err := d.opening(s.store.History())
		if err != nil {
			failStored(g, err)
			return
		}
		sendPacked(g, packed)
	})
}

// sendPacked sends what is packed by gzip, unpacked where whoever asks can't do that.
func sendPacked(g *gin.Context, packed []byte) {
	g.Header("Vary", "Accept-Encoding")
	if strings.Contains(g.GetHeader("Accept-Encoding"), "gzip") {
		g.Header("Content-Encoding", "gzip")
		g.Data(http.StatusOK, "application/octet-stream", packed)
		return
	}
	body, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		failStored(g, err)
		return
	}
	g.DataFromReader(http.StatusOK, -1, "application/octet-stream", body, nil)
}

// errAnotherHistory is told to a page that works on a history that a backup took the place of.
const errAnotherHistory = "A backup was restored while this project was open here, so what you see is no longer what the server has. Reload the page."

// anotherHistory is the code by which a line is closed for the same reason.
const anotherHistory websocket.StatusCode = 4412

// sameHistory answers, and returns false, where a page that names its history belongs to another one.
func (s *Server) sameHistory(g *gin.Context, named string) bool {
	if named == "" || named == s.store.History() {
		return true
	}
	fail(g, http.StatusPreconditionFailed, errAnotherHistory)
	return false
}

// catalogue answers with all that is to be known of kinds, which never changes.
func (s *Server) catalogue(g *gin.Context) {
	g.JSON(http.StatusOK, view.Catalogue())
}

// known answers which of some changes were made already, with their revisions: what a page asks that has changes
// left of which it does not know whether they arrived.
func (s *Server) known(g *gin.Context) {
	var body ChangeIDs
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

// steps answers with some changes and what takes them back: what a page asks whose core had to be started anew, so that undo
// goes on.
func (s *Server) steps(g *gin.Context) {
	var body ChangeIDs
	if !readJSON(g, &body) {
		return
	}
	if len(body.IDs) > 2000 {
		fail(g, http.StatusBadRequest, "At most 2,000 changes can be requested at once.")
		return
	}
	steps, err := s.store.Steps(g.Param("id"), body.IDs...)
	if err != nil {
		failStored(g, err)
		return
	}
	if of := handed(g); of != "" { // what takes back what others did may hold anything
		s.with(g, func(d *document) {
			p := d.snapshot().copied()
			g.JSON(http.StatusOK, slices.DeleteFunc(steps, func(step session.PastStep) bool { return !step.Ops.Reads(p, of) || !step.Inverse.Reads(p, of) }))
		})
		return
	}
	g.JSON(http.StatusOK, steps)
}

func (s *Server) rename(g *gin.Context) {
	var body NewProject
	if !readJSON(g, &body) {
		return
	}
	s.with(g, func(d *document) {
		for { // others may come first; a name does not depend on what they did
			c := session.Change{ID: string(store.NewID()), Ops: change.Ops{&change.ProjectRename{Name: body.Name}}}
			c.Base = d.at()
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
		copied := d.snapshot().copied()
		copied.ID = store.NewID()
		if name := copied.Name + " copy"; scene.CheckName(name) == nil {
			copied.Name = name
		}
		s.add(g, copied)
	})
}

func (s *Server) changes(g *gin.Context) {
	since, ok := sinceAsked(g, "")
	if !ok {
		return
	}
	s.with(g, func(d *document) {
		changes, err := s.store.Since(g.Param("id"), since)
		if err != nil {
			failStored(g, err)
			return
		}
		g.JSON(http.StatusOK, s.toldOf(g, d, changes))
	})
}

// toldOf is some changes as whoever asks is told of them.
func (s *Server) toldOf(g *gin.Context, d *document, changes []session.Change) []ToldChange {
	var p *scene.Project
	if handed(g) != "" {
		p = d.snapshot().copied()
	}
	return tellAll(p, handed(g), changes)
}

func (s *Server) apply(g *gin.Context) {
	var sent SentChange
	if !readJSON(g, &sent) || !s.sameHistory(g, sent.History) {
		return
	}
	c := sent.Change
	c.Ops = change.Ops(sent.Ops)
	if c.ID == "" || len(c.ID) > 64 {
		fail(g, http.StatusBadRequest, "A change needs an id of 1 to 64 characters.")
		return
	}
	if len(c.Ops) == 0 {
		fail(g, http.StatusBadRequest, "A change needs at least one operation.")
		return
	}
	of := handed(g)
	var allowed func(p *scene.Project) error
	if of != "" {
		allowed = func(p *scene.Project) error { return c.Ops.OfReading(p, of) }
	}
	revision, err := s.library.applyWhere(g.Param("id"), c, allowed)
	var late *outdated
	if errors.As(err, &late) {
		s.with(g, func(d *document) {
			failWith(g, ProblemDetails{Status: http.StatusConflict, Detail: sentence(err), Revision: late.revision, Changes: s.toldOf(g, d, late.changes)})
		})
		return
	}
	answerApplied(g, revision, err)
}

func answerApplied(g *gin.Context, revision int, err error) {
	var late *outdated
	var no refused
	switch {
	case err == nil:
		g.JSON(http.StatusOK, Revised{revision})
	case errors.As(err, &late):
		failWith(g, ProblemDetails{Status: http.StatusConflict, Detail: sentence(err), Revision: late.revision, Changes: tellAll(nil, "", late.changes)})
	case errors.As(err, &no):
		fail(g, http.StatusUnprocessableEntity, sentence(err))
	default:
		failStored(g, err)
	}
}

// live sends every change from a revision on over a WebSocket, as it is made.
func (s *Server) live(g *gin.Context) {
	since, ok := sinceAsked(g, "")
	if !ok {
		return
	}
	if named := g.Query("history"); named != "" && named != s.store.History() {
		if socket, err := websocket.Accept(g.Writer, g.Request, nil); err == nil { // a page is told no status that refuses it
			socket.Close(anotherHistory, "another history")
		}
		return
	}
	s.with(g, func(d *document) {
		line, ok := s.following(g, d, since)
		if !ok {
			return
		}
		defer line.stop()
		socket, err := websocket.Accept(g.Writer, g.Request, nil) // which checks the origin
		if err != nil {
			return
		}
		defer socket.CloseNow()
		ctx := socket.CloseRead(g.Request.Context())
		if cut := line.tell(ctx.Done(), func(c session.Change) bool { // a page that does not read is cut off
			ctx, cancel := context.WithTimeout(ctx, writingTime)
			defer cancel()
			return wsjson.Write(ctx, socket, s.toldOf(g, d, []session.Change{c})[0]) == nil
		}, nil); cut {
			socket.Close(websocket.StatusTryAgainLater, "connect again")
		}
	})
}

func (s *Server) exportPackage(g *gin.Context) {
	part := scene.Part(g.Query("part"))
	s.with(g, func(d *document) {
		p, err := d.snapshot().copied().Parted(part, scene.ID(g.Query("of")))
		if err != nil {
			fail(g, http.StatusNotFound, sentence(err))
			return
		}
		data, err := s.pack(p, part)
		if err != nil {
			fail(g, http.StatusInternalServerError, sentence(err))
			return
		}
		g.Header("Content-Disposition", fmt.Sprintf("attachment; filename*=UTF-8''%s", url.PathEscape(p.Name+pack.Extension)))
		g.Data(http.StatusOK, "application/zip", data)
	})
}

// pack writes the package of a project, with its pictures and sounds from the store.
func (s *Server) pack(p *scene.Project, part scene.Part) ([]byte, error) {
	files, err := s.filesOf(p)
	if err != nil {
		return nil, err
	}
	return pack.WritePart(p, part, files)
}

// filesOf returns the pictures and sounds of a project from the store, but those that are missing.
func (s *Server) filesOf(p *scene.Project) (files []media.File, err error) {
	for _, id := range p.Assets() {
		one, err := s.store.Asset(id)
		if errors.Is(err, store.ErrNoAsset) {
			continue // which the package says
		}
		if err != nil {
			return nil, err
		}
		files = append(files, one)
	}
	return files, nil
}
