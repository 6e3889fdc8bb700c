package server

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"wunderkammer/core/format"
	"wunderkammer/core/format/pack"
	"wunderkammer/farm"
)

// Maker makes exports away from the pages that ask for them.
type Maker interface {
	// Make makes a file in a folder, and returns where it is.
	Make(ctx context.Context, p *pack.Opened, a format.Asked, rate int, folder string, tell func(farm.Progress)) (string, error)
}

// Bounds of exports that are made here.
const (
	maxExports = 20            // that wait, are made or are kept
	keptFor    = 6 * time.Hour // how long a file waits to be fetched
)

// Export is an export that is made here, as pages see it.
type Export struct {
	ID      string  `json:"id"`
	Project string  `json:"project"`
	Name    string  `json:"name"`   // of its file
	Format  string  `json:"format"` // a key of the formats
	State   string  `json:"state"`  // waiting, making, ready or failed
	Done    int     `json:"done"`   // pictures
	Of      int     `json:"of"`
	Workers int     `json:"workers"` // that have said something of it
	Left    float64 `json:"left"`    // seconds, as far as that can be told; 0 where it can't
	Error   string  `json:"error,omitempty"`
}

// exports are those that are made here, one at a time, in the order in which they were asked for.
type exports struct {
	maker  Maker
	folder string
	turn   chan struct{}

	mu  sync.Mutex
	all []*exported
}

// exported is an export with what is not told of it.
type exported struct {
	Export
	asked  string // what it was asked for with, so that the same asked twice is one
	folder string
	file   string
	stop   context.CancelFunc
	began  time.Time
	ended  time.Time
}

func newExports(maker Maker, folder string) *exports {
	return &exports{maker: maker, folder: folder, turn: make(chan struct{}, 1)}
}

// list returns the exports of a project, or all, the latest first.
func (e *exports) list(project string) []Export {
	e.mu.Lock()
	defer e.mu.Unlock()
	out := []Export{}
	for _, one := range slices.Backward(e.all) {
		if project == "" || one.Project == project {
			out = append(out, one.told())
		}
	}
	return out
}

func (x *exported) told() Export {
	out := x.Export
	if x.State == "making" && x.Done > 1 {
		out.Left = time.Since(x.began).Seconds() / float64(x.Done) * float64(x.Of-x.Done)
	}
	return out
}

func (e *exports) find(id string) *exported {
	for _, one := range e.all {
		if one.ID == id {
			return one
		}
	}
	return nil
}

// errFull says that no more exports are taken.
var errFull = fmt.Errorf("%d exports wait or are kept here already; fetch or remove one first", maxExports)

// begin takes an export on. What has the same name in asked is the same one.
func (e *exports) begin(asked string, of Export, p *pack.Opened, a format.Asked, rate int) (Export, error) {
	e.mu.Lock()
	defer e.mu.Unlock()
	for _, one := range e.all {
		if one.asked == asked {
			return one.told(), nil
		}
	}
	if len(e.all) >= maxExports {
		return Export{}, errFull
	}
	ctx, stop := context.WithCancel(context.Background())
	of.ID, of.State, of.Of = rand.Text(), "waiting", a.Pictures(rate)
	one := &exported{Export: of, asked: asked, folder: filepath.Join(e.folder, of.ID), stop: stop}
	e.all = append(e.all, one)
	go e.make(ctx, one, p, a, rate)
	return one.told(), nil
}

// make waits for its turn and makes an export.
func (e *exports) make(ctx context.Context, one *exported, p *pack.Opened, a format.Asked, rate int) {
	select {
	case e.turn <- struct{}{}:
	case <-ctx.Done():
		return
	}
	defer func() { <-e.turn }()
	e.change(one, func() { one.State, one.began = "making", time.Now() })
	err := os.MkdirAll(one.folder, 0o700)
	var file string
	if err == nil {
		file, err = e.made(ctx, one, p, a, rate)
	}
	if ctx.Err() != nil { // it is not wanted any more
		os.RemoveAll(one.folder)
		return
	}
	e.change(one, func() {
		one.ended = time.Now()
		if err != nil {
			one.State, one.Error = "failed", sentence(err)
		} else {
			one.State, one.file, one.Done = "ready", file, one.Of
		}
	})
}

// made makes the file; a maker that breaks fails like one that says why.
func (e *exports) made(ctx context.Context, one *exported, p *pack.Opened, a format.Asked, rate int) (file string, err error) {
	defer func() {
		if cause := recover(); cause != nil {
			err = fmt.Errorf("the export broke: %v", cause)
		}
	}()
	return e.maker.Make(ctx, p, a, rate, one.folder, func(at farm.Progress) {
		e.change(one, func() { one.Done, one.Of, one.Workers = at.Done, at.Of, at.Workers })
	})
}

func (e *exports) change(one *exported, how func()) {
	e.mu.Lock()
	defer e.mu.Unlock()
	how()
}

// drop cancels an export, or removes its file; false where there is none.
func (e *exports) drop(id string) bool {
	e.mu.Lock()
	defer e.mu.Unlock()
	one := e.find(id)
	if one == nil {
		return false
	}
	one.stop()
	e.all = slices.DeleteFunc(e.all, func(x *exported) bool { return x == one })
	if !one.ended.IsZero() || one.State == "waiting" {
		os.RemoveAll(one.folder)
	}
	return true
}

// tidy removes what nobody fetched.
func (e *exports) tidy(before time.Time) {
	for _, one := range e.list("") {
		e.mu.Lock()
		x := e.find(one.ID)
		old := x != nil && !x.ended.IsZero() && x.ended.Before(before)
		e.mu.Unlock()
		if old {
			e.drop(one.ID)
		}
	}
}

// close cancels all.
func (e *exports) close() {
	for _, one := range e.list("") {
		e.drop(one.ID)
	}
}

// exportsOf answers which exports of a project there are, and whether there is anybody to make them.
func (s *Server) exportsOf(g *gin.Context) {
	if s.exports == nil {
		g.JSON(http.StatusOK, ServerExports{Exports: []Export{}})
		return
	}
	g.JSON(http.StatusOK, ServerExports{true, s.exports.list(g.Param("id"))})
}

// errNobody says that exports are not made here.
var errNobody = errors.New("this server makes no exports; start it with --workers or --queue, or export in this browser")

// beginExport takes on an export of a project as it is saved.
func (s *Server) beginExport(g *gin.Context) {
	if s.exports == nil {
		fail(g, http.StatusConflict, sentence(errNobody))
		return
	}
	var ask NewExport
	if err := g.ShouldBindJSON(&ask); err != nil || ask.ID == "" || len(ask.ID) > 100 {
		fail(g, http.StatusBadRequest, "The export could not be read. Reload the page and try again.")
		return
	}
	s.with(g, func(d *document) {
		p := d.snapshot().copied()
		c := p.Composition(ask.Asked.Composition)
		if c == nil {
			fail(g, http.StatusUnprocessableEntity, "The composition isn't in the project any more; it may have been removed in another window.")
			return
		}
		if err := ask.Asked.Settle(c); err != nil {
			fail(g, http.StatusUnprocessableEntity, sentence(err))
			return
		}
		if f := format.Of(ask.Asked.Format); !f.Parted {
			fail(g, http.StatusUnprocessableEntity, fmt.Sprintf("%s is not made in parts; export it in this browser.", f.Name))
			return
		}
		files, err := s.filesOf(p)
		if err != nil {
			failStored(g, err)
			return
		}
		one, err := s.exports.begin(g.Param("id")+" "+ask.ID, Export{Project: g.Param("id"), Name: fileName(ask.Name), Format: ask.Asked.Format}, &pack.Opened{Project: p, Files: files}, ask.Asked, c.Rate)
		if err != nil {
			fail(g, http.StatusConflict, sentence(err))
			return
		}
		g.JSON(http.StatusOK, one)
	})
}

// fileName is a name that a file can have; a long one is cut before its ending.
func fileName(name string) string {
	const most = 150 // letters
	name = filepath.Base(filepath.ToSlash(name))
	ending := filepath.Ext(name)
	if len(ending) > 10 {
		ending = ""
	}
	if letters := []rune(strings.TrimSuffix(name, ending)); len(letters) > most {
		return string(letters[:most]) + ending
	}
	return name
}

// dropExport cancels an export or removes its file.
func (s *Server) dropExport(g *gin.Context) {
	if s.exports == nil || !s.exports.drop(g.Param("export")) {
		fail(g, http.StatusNotFound, "There is no such export any more.")
		return
	}
	g.Status(http.StatusNoContent)
}

// exportFile answers with the file of an export.
func (s *Server) exportFile(g *gin.Context) {
	var file, name string
	if s.exports != nil {
		s.exports.mu.Lock()
		if one := s.exports.find(g.Param("export")); one != nil && one.State == "ready" {
			file, name = one.file, one.Name
		}
		s.exports.mu.Unlock()
	}
	if file == "" {
		fail(g, http.StatusNotFound, "There is no such file any more. Export it again.")
		return
	}
	http.NewResponseController(g.Writer).SetWriteDeadline(time.Time{}) // films are large
	g.Header("Content-Disposition", "attachment; filename*=UTF-8''"+url.PathEscape(name))
	g.Header("Cache-Control", "no-store")
	g.File(file)
}
