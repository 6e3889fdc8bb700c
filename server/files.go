package server

import (
	"bytes"
	"crypto/sha256"
	"fmt"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
)

// files serves the built front end. Files under assets/ carry a hash in their names and may be
// kept for ever; a packed twin (.gz) is sent where the browser takes it. Every other address is a
// place within the application and gets its page.
type files struct {
	fs.FS
	tags sync.Map // by name: the hash of the content, so that a page that is there already is not sent again
}

func newFiles(f fs.FS) *files { return &files{FS: f} }

var contentTypes = map[string]string{".wasm": "application/wasm", ".js": "text/javascript; charset=utf-8", ".woff2": "font/woff2"}

func (a *files) serve(g *gin.Context) {
	if g.Request.Method != http.MethodGet && g.Request.Method != http.MethodHead {
		fail(g, http.StatusMethodNotAllowed, "This address doesn't accept that kind of request.")
		return
	}
	name := strings.TrimPrefix(path.Clean(g.Request.URL.Path), "/")
	if strings.HasPrefix(name, "api/") {
		fail(g, http.StatusNotFound, "There is no such address in the API.")
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
	contentType := contentTypes[path.Ext(name)]
	if contentType == "" {
		contentType = mime.TypeByExtension(path.Ext(name))
	}
	g.Header("Content-Type", contentType)
	g.Header("Vary", "Accept-Encoding")
	for _, p := range packings {
		if strings.Contains(g.GetHeader("Accept-Encoding"), p.name) && a.send(g, name+p.ext, p.name) {
			return
		}
	}
	if !a.send(g, name, "") {
		g.Header("Content-Type", "")
		fail(g, http.StatusNotFound, "The front end is missing from this build; build it with make.")
	}
}

// send sends a file, where there is such a one.
func (a *files) send(g *gin.Context, name, encoding string) bool {
	data, err := fs.ReadFile(a.FS, name)
	if err != nil {
		return false
	}
	tag, known := a.tags.Load(name)
	if !known {
		tag = fmt.Sprintf(`"%x"`, sha256.Sum256(data))
		a.tags.Store(name, tag)
	}
	g.Header("ETag", tag.(string))
	if encoding != "" {
		g.Header("Content-Encoding", encoding)
	}
	http.ServeContent(g.Writer, g.Request, name, time.Time{}, bytes.NewReader(data))
	return true
}

// packings are the packed twins of files, the smallest first.
var packings = []struct{ name, ext string }{{"br", ".br"}, {"gzip", ".gz"}}
