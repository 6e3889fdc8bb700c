package server

import (
	"log/slog"
	"net"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"
)

const (
	freeGuesses = 5                // of one address, before it is slowed
	guessEvery  = 10 * time.Second // after them
	maxGuessers = 10000            // addresses that are kept in mind
)

// guesses slows and counts what is guessed: passwords, and the addresses of hand-offs.
type guesses struct {
	mu  sync.Mutex
	by  map[string]*guesser // by address
	all *rate.Limiter       // for all addresses together
}

// guesser is an address that guessed wrong.
type guesser struct {
	limit *rate.Limiter
	wrong int
	last  time.Time
}

func newGuesses() *guesses {
	return &guesses{by: map[string]*guesser{}, all: rate.NewLimiter(1, 30)}
}

// remote returns the address that a request comes from.
func remote(g *gin.Context) string {
	if address, _, err := net.SplitHostPort(g.Request.RemoteAddr); err == nil {
		return address
	}
	return g.Request.RemoteAddr
}

// try reports whether a guess is right, or how long its address has to wait before it may guess again.
func (d *guesses) try(address string, guess func() bool) (right bool, wait time.Duration) {
	d.mu.Lock()
	defer d.mu.Unlock()
	by, now := d.by[address], time.Now()
	if by != nil && by.limit.TokensAt(now) < 1 || d.all.TokensAt(now) < 1 { // the first guess of an address counts, too
		return false, guessEvery
	}
	if guess() {
		delete(d.by, address)
		return true, 0
	}
	if by == nil {
		if len(d.by) >= maxGuessers {
			d.forget(now)
		}
		by = &guesser{limit: rate.NewLimiter(rate.Every(guessEvery), freeGuesses)}
		d.by[address] = by
	}
	by.limit.AllowN(now, 1)
	d.all.AllowN(now, 1)
	by.wrong++
	by.last = now
	slog.Warn("wrong guess", "address", address, "times", by.wrong)
	return false, 0
}

// forget makes room: first by those who have not guessed for an hour.
func (d *guesses) forget(now time.Time) {
	for address, by := range d.by {
		if now.Sub(by.last) > time.Hour || len(d.by) >= maxGuessers {
			delete(d.by, address)
		}
	}
}
