package server

import (
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
)

// door lets in who knows the password: by a form, after which a cookie stands for it, or by HTTP Basic
// authentication, for scripts; the user name does not matter. Guesses are slowed and counted.
type door struct {
	password [sha256.Size]byte

	mu       sync.Mutex
	sessions map[[sha256.Size]byte]time.Time // by the hash of their token: until when
	guesses  *guesses
}

const (
	cookieName  = "wunderkammer_session"
	sessionTime = 30 * 24 * time.Hour
)

func newDoor(password string) *door {
	return &door{
		password: sha256.Sum256([]byte(password)), sessions: map[[sha256.Size]byte]time.Time{}, guesses: newGuesses(),
	}
}

// public reports whether anybody may come to a path: what the application is made of, and what was handed off, which has doors of its own.
func public(path string) bool {
	for _, open := range []string{"/assets/", "/hand-off/", "/api/hand-offs/"} {
		if strings.HasPrefix(path, open) {
			return true
		}
	}
	return path == "/icon.svg" || path == "/api/catalogue"
}

// ask lets a request through that has a session or brings the password, and asks for it otherwise.
func (d *door) ask(g *gin.Context) {
	if public(g.Request.URL.Path) {
		return
	}
	if token, err := g.Cookie(cookieName); err == nil && d.holds(token) {
		return
	}
	if _, given, ok := g.Request.BasicAuth(); ok {
		right, wait := d.try(g, given)
		switch {
		case right:
			return
		case wait > 0:
			tooMany(g, wait)
			return
		}
	}
	if strings.HasPrefix(g.Request.URL.Path, "/api/") {
		g.Header("WWW-Authenticate", `Basic realm="Wunderkammer"`)
		if g.GetHeader("Sec-Fetch-Mode") != "" { // a page shows its own form instead
			g.Writer.Header().Del("WWW-Authenticate")
		}
		fail(g, http.StatusUnauthorized, "A password is required. Reload the page to sign in.")
	} else {
		form(g, http.StatusUnauthorized, "")
	}
	g.Abort()
}

// enter takes the form of the password.
func (d *door) enter(g *gin.Context) {
	right, wait := d.try(g, g.PostForm("password"))
	switch {
	case wait > 0:
		form(g, http.StatusTooManyRequests, fmt.Sprintf("There were too many wrong passwords. Try again in %d seconds.", int(wait.Seconds())+1))
		return
	case !right:
		form(g, http.StatusUnauthorized, "Wrong password.")
		return
	}
	token := rand.Text()
	d.mu.Lock()
	now := time.Now()
	for hash, until := range d.sessions {
		if until.Before(now) {
			delete(d.sessions, hash)
		}
	}
	d.sessions[sha256.Sum256([]byte(token))] = now.Add(sessionTime)
	d.mu.Unlock()
	secure := g.Request.TLS != nil || g.GetHeader("X-Forwarded-Proto") == "https"
	http.SetCookie(g.Writer, &http.Cookie{Name: cookieName, Value: token, Path: "/", MaxAge: int(sessionTime.Seconds()), HttpOnly: true, Secure: secure, SameSite: http.SameSiteStrictMode})
	g.Redirect(http.StatusSeeOther, "/")
}

// holds reports whether a token is that of a session.
func (d *door) holds(token string) bool {
	d.mu.Lock()
	defer d.mu.Unlock()
	until, ok := d.sessions[sha256.Sum256([]byte(token))]
	return ok && time.Now().Before(until)
}

// try reports whether a password is the right one, or how long its address has to wait before it may guess again.
func (d *door) try(g *gin.Context, given string) (right bool, wait time.Duration) {
	return d.tryFrom(remote(g), given)
}

func (d *door) tryFrom(address, given string) (right bool, wait time.Duration) {
	hash := sha256.Sum256([]byte(given))
	return d.guesses.try(address, func() bool { return subtle.ConstantTimeCompare(hash[:], d.password[:]) == 1 })
}

func tooMany(g *gin.Context, wait time.Duration) {
	g.Header("Retry-After", fmt.Sprint(int(wait.Seconds())))
	fail(g, http.StatusTooManyRequests, fmt.Sprintf("There were too many wrong passwords. Try again in %d seconds.", int(wait.Seconds())))
	g.Abort()
}

// form shows the page that asks for the password, with what was wrong.
func form(g *gin.Context, status int, wrong string) {
	if wrong != "" {
		g.Set(whyKey, wrong)
		wrong = `<p role="alert">` + wrong + `</p>`
	}
	g.Header("Content-Security-Policy", strings.Replace(policy, "form-action 'none'", "form-action 'self'", 1))
	g.Header("Cache-Control", "no-store")
	g.Data(status, "text/html; charset=utf-8", []byte(strings.Replace(page, "WRONG", wrong, 1)))
}

const page = `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Sign in · Wunderkammer</title>
<style>
:root { color-scheme: light dark; --ground: #f4eee2; --card: #fffcf6; --ink: #2b2530; --line: #ddd2c0; --brass: #9a6b1c; --on: #fffcf6; --wrong: #9b2c3b; }
@media (prefers-color-scheme: dark) { :root { --ground: #1d1a21; --card: #27232c; --ink: #ede6da; --line: #3a3441; --brass: #d6a24c; --on: #1d1a21; --wrong: #e0707f; } }
body { margin: 0; height: 100vh; display: grid; place-content: center; background: var(--ground); color: var(--ink); font: 15px system-ui, sans-serif; }
form { display: grid; gap: 12px; width: 300px; padding: 24px; background: var(--card); border: 1px solid var(--line); border-radius: 6px; }
h1 { margin: 0; font-size: 20px; } p { margin: 0; color: var(--wrong); }
label { display: grid; gap: 4px; } input, button { font: inherit; padding: 8px; border: 1px solid var(--line); border-radius: 6px; color: inherit; background: var(--ground); }
button { background: var(--brass); color: var(--on); border-color: var(--brass); cursor: pointer; } :focus-visible { outline: 2px solid var(--brass); outline-offset: 2px; }
</style></head><body><form method="post" action="/login"><h1>Wunderkammer</h1>WRONG
<label>Password <input type="password" name="password" autocomplete="current-password" autofocus required></label><button>Sign in</button></form></body></html>
`
