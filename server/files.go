package server

import (
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/gin-gonic/gin"
)

// files serves the built front end. Files under assets/ carry a hash in their names and may be
// kept for ever; a packed twin (.gz) is sent where the browser takes it. Every other address is a
// place within the application and gets its page.
type files struct{ fs.FS }

func newFiles(f fs.FS) *files { return &files{f} }

var contentTypes = map[string]string{".wasm": "application/wasm", ".js": "text/javascript; charset=utf-8", ".woff2": "font/woff2"}

func (a *files) serve(g *gin.Context) {
	if g.Request.Method != http.MethodGet && g.Request.Method != http.MethodHead {
		fail(g, http.StatusMethodNotAllowed, "This address does not take that kind of request.")
		return
	}
	name := strings.TrimPrefix(path.Clean(g.Request.URL.Path), "/")
	if strings.HasPrefix(name, "api/") {
		fail(g, http.StatusNotFound, "There is nothing at this address of the API.")
		return
	}
	if info, err := fs.Stat(a.FS, name); name == "" || err != nil || info.IsDir() {
		if path.Ext(name) != "" {
			fail(g, http.StatusNotFound, "There is no such file.")
			return
		}
		name = "index.html"
	}
	g.Header("Cache-Control", "no-cache")
	if strings.HasPrefix(name, "assets/") {
		g.Header("Cache-Control", "public, max-age=31536000, immutable")
	}
	ext := path.Ext(name)
	contentType := contentTypes[ext]
	if contentType == "" {
		contentType = mime.TypeByExtension(ext)
	}
	g.Header("Vary", "Accept-Encoding")
	for _, p := range packings {
		if !strings.Contains(g.GetHeader("Accept-Encoding"), p.name) {
			continue
		}
		if packed, err := fs.ReadFile(a.FS, name+p.ext); err == nil {
			g.Header("Content-Encoding", p.name)
			g.Data(http.StatusOK, contentType, packed)
			return
		}
	}
	data, err := fs.ReadFile(a.FS, name)
	if err != nil {
		fail(g, http.StatusNotFound, "The front end is missing from this build; build it with make.")
		return
	}
	g.Data(http.StatusOK, contentType, data)
}

// packings are the packed twins of files, the smallest first.
var packings = []struct{ name, ext string }{{"br", ".br"}, {"gzip", ".gz"}}
