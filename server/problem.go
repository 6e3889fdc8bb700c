package server

import (
	"bytes"
	"errors"
	"io"
	"net/http"

	"github.com/gin-gonic/gin"

	"wunderkammer/core/scene"
	"wunderkammer/store"
)

func fail(g *gin.Context, status int, detail string) {
	failWith(g, ProblemDetails{Status: status, Detail: detail})
}

// whyKey is where the log finds what was wrong with a request.
const whyKey = "why"

func failWith(g *gin.Context, p ProblemDetails) {
	g.Set(whyKey, p.Detail)
	p.Type, p.Title = "about:blank", http.StatusText(p.Status)
	g.Header("Content-Type", "application/problem+json")
	g.JSON(p.Status, p)
}

// failStored answers with an error of the store.
func failStored(g *gin.Context, err error) {
	switch {
	case errors.Is(err, store.ErrMissing):
		fail(g, http.StatusNotFound, sentence(err))
	case errors.Is(err, store.ErrUnwritable):
		fail(g, http.StatusServiceUnavailable, sentence(err))
	default:
		fail(g, http.StatusInternalServerError, sentence(err))
	}
}

// sentence starts an error with a capital letter and ends it with a full stop.
func sentence(err error) string {
	s := err.Error()
	if s == "" {
		return s
	}
	if c := s[0]; c >= 'a' && c <= 'z' {
		s = string(c-'a'+'A') + s[1:]
	}
	if last := s[len(s)-1]; last != '.' && last != '?' && last != '!' {
		s += "."
	}
	return s
}

// readJSON reads the body into a value, or answers with what is wrong and returns false.
func readJSON(g *gin.Context, into any) bool {
	data, err := io.ReadAll(g.Request.Body)
	if err == nil {
		if err = scene.CheckJSON(data); err == nil {
			err = scene.ReadExactly(data, into)
		}
		if err == nil {
			return true
		}
		if len(bytes.TrimSpace(data)) == 0 {
			err = io.EOF
		}
	}
	var large *http.MaxBytesError
	if errors.As(err, &large) {
		fail(g, http.StatusRequestEntityTooLarge, tooLarge(large.Limit))
		return false
	}
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		fail(g, http.StatusBadRequest, "The request is not valid JSON.")
		return false
	}
	fail(g, http.StatusBadRequest, "The request can't be read: "+sentence(err))
	return false
}
