package server

import (
	"crypto/rand"
	"crypto/sha256"
	"errors"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/store"
)

// Whoever got a composition handed off comes in by an address that nobody guesses, and reaches by way of it what was handed off, and nothing
// else: the composition with what is shown in it, its pictures, and its readings. What they send is looked over before it is made.

// handedKey is where a request says which composition it was handed off, and nothing where it comes from who works on the project.
const handedKey = "handed"

// handed returns the composition that a request was handed off; empty for whoever works on the project.
func handed(g *gin.Context) scene.ID { return scene.ID(g.GetString(handedKey)) }

// visits are those who gave the password of an address.
type visits struct {
	mu   sync.Mutex
	keys map[[sha256.Size]byte]visit
}

type visit struct {
	token string // of the address
	until time.Time
}

func newVisits() *visits { return &visits{keys: map[[sha256.Size]byte]visit{}} }

// begin lets somebody in at an address, and returns the key that stands for the password.
func (v *visits) begin(token string, now time.Time) string {
	key := rand.Text()
	v.mu.Lock()
	defer v.mu.Unlock()
	for hash, one := range v.keys {
		if one.until.Before(now) {
			delete(v.keys, hash)
		}
	}
	v.keys[sha256.Sum256([]byte(key))] = visit{token, now.Add(sessionTime)}
	return key
}

func (v *visits) holds(key, token string) bool {
	v.mu.Lock()
	defer v.mu.Unlock()
	one, ok := v.keys[sha256.Sum256([]byte(key))]
	return ok && one.token == token && time.Now().Before(one.until)
}

// cookieOf is the name of the cookie that stands for the password of an address.
func cookieOf(token string) string {
	return "wunderkammer_" + strings.ToLower(token[:min(8, len(token))])
}

// byAddress lets a request through that has an address, and its password where that has one.
func (s *Server) byAddress(g *gin.Context) {
	address, ok := s.find(g)
	if !ok {
		g.Abort()
		return
	}
	if address.Locked {
		if key, err := g.Cookie(cookieOf(address.Token)); err != nil || !s.visits.holds(key, address.Token) {
			fail(g, http.StatusUnauthorized, "A password is required for this hand-off.")
			g.Abort()
			return
		}
	}
	g.Set(handedKey, address.Composition)
	g.Params = append(g.Params, gin.Param{Key: "id", Value: address.Project})
}

// find returns the address of a request, or answers that there is none. Addresses that are guessed are slowed like passwords.
func (s *Server) find(g *gin.Context) (address store.Address, ok bool) {
	var err error
	right, wait := s.guesses.try(remote(g), func() bool {
		address, err = s.store.Address(g.Param("address"))
		return !errors.Is(err, store.ErrNoAddress)
	})
	switch {
	case wait > 0:
		tooMany(g, wait)
	case !right:
		fail(g, http.StatusNotFound, sentence(store.ErrNoAddress))
	case err != nil:
		failStored(g, err)
	default:
		return address, true
	}
	return address, false
}

// enterHandOff takes the password of an address.
func (s *Server) enterHandOff(g *gin.Context) {
	var body Entering
	if !readJSON(g, &body) {
		return
	}
	address, ok := s.find(g)
	if !ok {
		return
	}
	right, wait := s.guesses.try(remote(g), func() bool { return address.Opens(body.Password) })
	switch {
	case wait > 0:
		tooMany(g, wait)
		return
	case !right:
		fail(g, http.StatusUnauthorized, "Wrong password.")
		return
	}
	secure := g.Request.TLS != nil || g.GetHeader("X-Forwarded-Proto") == "https"
	http.SetCookie(g.Writer, &http.Cookie{
		Name: cookieOf(address.Token), Value: s.visits.begin(address.Token, time.Now()), Path: "/api/hand-offs/" + address.Token,
		MaxAge: int(sessionTime.Seconds()), HttpOnly: true, Secure: secure, SameSite: http.SameSiteStrictMode,
	})
	g.Status(http.StatusNoContent)
}

// openHandOff is opening for what was handed off.
func (s *Server) openHandOff(g *gin.Context) {
	s.with(g, func(d *document) {
		snap := d.snapshot()
		p, ok := snap.copied().HandedOff(handed(g), scene.ID(g.Query("reading")))
		if !ok {
			fail(g, http.StatusNotFound, "What was handed off here was deleted.")
			return
		}
		one := &snapshot{revision: snap.revision, checked: snap.checked, project: p}
		packed, err := one.pack(s.store.History())
		if err != nil {
			failStored(g, err)
			return
		}
		sendPacked(g, packed)
	})
}

// handedAsset sends a picture or a sound that is in what was handed off.
func (s *Server) handedAsset(g *gin.Context) {
	s.with(g, func(d *document) {
		p, ok := d.snapshot().copied().HandedOff(handed(g), "")
		if ok {
			for _, id := range p.Assets() {
				if string(id) == g.Param("asset") {
					s.asset(g)
					return
				}
			}
		}
		fail(g, http.StatusNotFound, "There is no such picture or sound in what was handed off.")
	})
}

// tell returns a change as a page is told of it.
func tell(p *scene.Project, of scene.ID, c session.Change) ToldChange {
	if of == "" || c.Ops.Reads(p, of) {
		return ToldChange{Change: c}
	}
	inside, _ := p.HandedOff(of, "")
	rig := inside == nil
	for _, id := range c.Ops.Touches() {
		rig = rig || p.Composition(id) == nil || inside.Composition(id) != nil
	}
	return ToldChange{session.Change{ID: c.ID, Base: c.Base, Revision: c.Revision, Ops: change.Ops{}}, rig}
}

// tellAll is tell for several changes.
func tellAll(p *scene.Project, of scene.ID, changes []session.Change) []ToldChange {
	out := make([]ToldChange, len(changes))
	for k, c := range changes {
		out[k] = tell(p, of, c)
	}
	return out
}

// handedTo answers with the addresses of a composition.
func (s *Server) addresses(g *gin.Context) {
	list, err := s.store.Addresses(g.Param("id"), string(handed(g)))
	if err != nil {
		failStored(g, err)
		return
	}
	g.JSON(http.StatusOK, list)
}

func (s *Server) newAddress(g *gin.Context) {
	var body NewAddress
	if !readJSON(g, &body) {
		return
	}
	if err := scene.CheckName(body.Name); err != nil {
		fail(g, http.StatusUnprocessableEntity, sentence(err))
		return
	}
	if len(body.Password) > 200 {
		fail(g, http.StatusUnprocessableEntity, "A password has at most 200 characters.")
		return
	}
	s.with(g, func(d *document) {
		if c := d.snapshot().copied().Composition(handed(g)); c == nil || c.IsReading() {
			fail(g, http.StatusNotFound, "There is no such composition to hand off.")
			return
		}
		address, err := s.store.HandOff(g.Param("id"), string(handed(g)), body.Name, body.Password)
		if err != nil {
			failStored(g, err)
			return
		}
		g.JSON(http.StatusCreated, address)
	})
}

func (s *Server) withdraw(g *gin.Context) {
	switch err := s.store.Withdraw(g.Param("id"), g.Param("address")); {
	case errors.Is(err, store.ErrNoAddress):
		fail(g, http.StatusNotFound, sentence(err))
	case err != nil:
		failStored(g, err)
	default:
		g.Status(http.StatusNoContent)
	}
}
