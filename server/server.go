// Package server is the HTTP side: the API of projects and changes, live updates, and the front end.
package server

import (
	"io/fs"
	"log/slog"
	"net/http"
	"runtime/debug"
	"time"

	"github.com/gin-gonic/gin"

	"wunderkammer/core/format/media"
	"wunderkammer/core/scene"
	"wunderkammer/store"
)

// Config is what a server needs to answer: where projects are kept, what the page is, and who is let in.
type Config struct {
	Store    *store.Store
	FrontEnd fs.FS    // the built front end
	Hosts    []string // values of the Host header that are answered, with their port
	Password string   // empty: none is asked for
	Example  *Example // a project to look at; nil for none
	Maker    Maker    // of exports; nil for none
	Scratch  string   // the folder in which they are made
}

// Example is a project that comes with the application.
type Example struct {
	ID scene.ID
	// Build makes it as it is at first, with the pictures that it shows.
	Build func() (*scene.Project, []media.File, error)
}

// writingTime bounds how long an answer, or a change on its way to a page, may take to be taken.
const writingTime = 30 * time.Second

// idleTime is how long a document that nobody asks for stays in memory.
const idleTime = 15 * time.Minute

// New returns the handler of everything. Call Close when it is no longer used.
func New(c Config) *Server {
	gin.SetMode(gin.ReleaseMode)
	s := &Server{visits: newVisits(), guesses: newGuesses(), library: newLibrary(c.Store), store: c.Store, drawing: make(chan struct{}, drawers), decoding: make(chan struct{}, decoders), closed: make(chan struct{}), example: c.Example}
	if c.Maker != nil {
		s.exports = newExports(c.Maker, c.Scratch)
	}
	r := gin.New()
	r.HandleMethodNotAllowed = true
	r.Use(logged, recovered)
	r.GET("/healthz", s.health)
	r.Use(guard(c.Hosts), limitBody)
	if c.Password != "" {
		d := newDoor(c.Password)
		r.POST("/login", d.enter)
		r.Use(d.ask)
	}
	s.route(r)
	r.NoRoute(newFiles(c.FrontEnd).serve)
	r.NoMethod(func(g *gin.Context) {
		fail(g, http.StatusMethodNotAllowed, "This address doesn't accept that kind of request.")
	})
	s.handler, s.routes = r, r.Routes()
	go s.tidy()
	return s
}

// Server answers requests. It is an http.Handler.
type Server struct {
	handler  http.Handler
	routes   gin.RoutesInfo
	library  *library
	store    *store.Store
	drawing  chan struct{} // one for each picture that is being drawn
	decoding chan struct{} // one for each file that is being taken apart
	closed   chan struct{}
	example  *Example
	exports  *exports // nil where none are made
	visits   *visits
	guesses  *guesses // of the addresses of hand-offs, and their passwords
}

// ServeHTTP answers a request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

// Close ends what runs beside the requests.
func (s *Server) Close() {
	close(s.closed)
	if s.exports != nil {
		s.exports.close()
	}
}

// tidy lets documents that nobody asks for leave memory.
func (s *Server) tidy() {
	every := time.NewTicker(time.Minute)
	defer every.Stop()
	for {
		select {
		case now := <-every.C:
			s.library.tidy(now.Add(-idleTime))
			if s.exports != nil {
				s.exports.tidy(now.Add(-keptFor))
			}
		case <-s.closed:
			return
		}
	}
}

// health answers whether the server works and can save.
func (s *Server) health(g *gin.Context) {
	if err := s.store.Writes(); err != nil {
		fail(g, http.StatusServiceUnavailable, sentence(err))
		return
	}
	g.JSON(http.StatusOK, HealthState{"ok"})
}

// logged writes a line of the log for every request that changes something, fails, or takes long.
func logged(g *gin.Context) {
	start := time.Now()
	g.Next()
	status, took := g.Writer.Status(), time.Since(start)
	if g.IsWebsocket() { // it stays open as long as the page does
		took = 0
	}
	level := slog.LevelDebug
	switch {
	case status >= 500:
		level = slog.LevelError
	case status >= 400, took > time.Second:
		level = slog.LevelWarn
	case g.Request.Method != http.MethodGet && g.Request.Method != http.MethodHead:
		level = slog.LevelInfo
	}
	attributes := []slog.Attr{slog.String("method", g.Request.Method), slog.String("path", g.Request.URL.Path), slog.Int("status", status), slog.Duration("took", took)}
	if id := g.Param("id"); id != "" {
		attributes = append(attributes, slog.String("project", id))
	}
	if why := g.GetString(whyKey); why != "" {
		attributes = append(attributes, slog.String("error", why))
	}
	slog.LogAttrs(g.Request.Context(), level, "request", attributes...)
}

// recovered answers for a handler that broke.
func recovered(g *gin.Context) {
	defer func() {
		if cause := recover(); cause != nil {
			slog.Error("a request broke", "path", g.Request.URL.Path, "cause", cause, "stack", string(debug.Stack()))
			fail(g, http.StatusInternalServerError, "Something went wrong. Saved work is safe.")
			g.Abort()
		}
	}()
	g.Next()
}
