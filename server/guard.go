package server

import (
	"fmt"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"
)

// policy lets the page load what ships with it and nothing else. Styles are set in line by the
// component library; WebAssembly wants 'wasm-unsafe-eval'.
const policy = "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; " +
	"img-src 'self' data: blob:; media-src 'self' blob:; frame-ancestors 'none'; base-uri 'none'; form-action 'none'"

// maxBody bounds the body of a request, in bytes.
const maxBody = 32 << 20

// guard answers only requests made to a host that is ours (a page elsewhere could make a name of
// its own point here), and changes only for pages that came from here.
func guard(hosts []string) gin.HandlerFunc {
	protection := http.NewCrossOriginProtection()
	return func(g *gin.Context) {
		h := g.Writer.Header()
		h.Set("Content-Security-Policy", policy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		if !slices.Contains(hosts, g.Request.Host) {
			fail(g, http.StatusMisdirectedRequest, fmt.Sprintf("The host %q isn't allowed. Start the server with --host to allow that name.", g.Request.Host))
			g.Abort()
			return
		}
		if protection.Check(g.Request) != nil {
			fail(g, http.StatusForbidden, "Requests from pages of another origin aren't allowed.")
			g.Abort()
		}
	}
}

// limitBody refuses a body that says it is too large, and cuts off one that lies about it.
func limitBody(g *gin.Context) {
	if g.Request.ContentLength > maxBody {
		g.Header("Connection", "close")
		fail(g, http.StatusRequestEntityTooLarge, tooLarge(maxBody))
		g.Abort()
		return
	}
	g.Request.Body = http.MaxBytesReader(g.Writer, g.Request.Body, maxBody)
}

func tooLarge(limit int64) string {
	return fmt.Sprintf("The request is larger than %d MB and was rejected.", limit>>20)
}
