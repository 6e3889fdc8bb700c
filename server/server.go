// Package server is the HTTP side: the API of projects and changes, live updates, and the front end.
package server

import (
	"crypto/subtle"
	"io/fs"
	"net/http"

	"github.com/gin-gonic/gin"

	"wunderkammer/store"
)

// Config is what a server is made of.
type Config struct {
	Store    *store.Store
	FrontEnd fs.FS    // the built front end
	Hosts    []string // values of the Host header that are answered, with their port
	Password string   // empty: none is asked for
}

// New returns the handler of everything. Call Close when it is no longer used.
func New(c Config) *Server {
	gin.SetMode(gin.ReleaseMode)
	s := &Server{library: newLibrary(c.Store), store: c.Store}
	r := gin.New()
	r.HandleMethodNotAllowed = true
	r.Use(gin.CustomRecoveryWithWriter(nil, func(g *gin.Context, _ any) {
		fail(g, http.StatusInternalServerError, "Something broke while this was done. What was saved is safe.")
		g.Abort()
	}))
	r.Use(guard(c.Hosts), limitBody)
	if c.Password != "" {
		r.Use(askPassword(c.Password))
	}
	api := r.Group("/api")
	api.GET("/projects", s.list)
	api.POST("/projects", s.create)
	api.POST("/projects/import", s.importPackage)
	api.GET("/projects/:id", s.load)
	api.PATCH("/projects/:id", s.rename)
	api.DELETE("/projects/:id", s.remove)
	api.POST("/projects/:id/restore", s.restore)
	api.POST("/projects/:id/duplicate", s.duplicate)
	api.GET("/projects/:id/changes", s.changes)
	api.POST("/projects/:id/changes", s.apply)
	api.GET("/projects/:id/live", s.live)
	api.GET("/projects/:id/package", s.exportPackage)
	api.GET("/projects/:id/frame.svg", s.frame)
	api.POST("/assets", s.keep)
	api.GET("/assets/:asset", s.asset)
	r.NoRoute(newFiles(c.FrontEnd).serve)
	r.NoMethod(func(g *gin.Context) {
		fail(g, http.StatusMethodNotAllowed, "This address does not take that kind of request.")
	})
	s.handler = r
	return s
}

// Server answers requests. It is an http.Handler.
type Server struct {
	handler http.Handler
	library *library
	store   *store.Store
}

// ServeHTTP answers a request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

// askPassword wants the password by HTTP Basic authentication; the user name does not matter.
func askPassword(password string) gin.HandlerFunc {
	return func(g *gin.Context) {
		_, given, _ := g.Request.BasicAuth()
		if subtle.ConstantTimeCompare([]byte(given), []byte(password)) == 1 {
			return
		}
		g.Header("WWW-Authenticate", `Basic realm="Wunderkammer"`)
		fail(g, http.StatusUnauthorized, "A password is needed.")
		g.Abort()
	}
}
