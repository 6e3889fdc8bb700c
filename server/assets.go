package server

import (
	"bytes"
	"errors"
	"io"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"wunderkammer/core/format/media"
	"wunderkammer/core/scene"
	"wunderkammer/store"
)

// decoders are how many files are taken apart at once: each may take some hundred megabytes meanwhile.
const decoders = 2

// decode takes a file apart when it is its turn.
func (s *Server) decode(file func()) {
	s.decoding <- struct{}{}
	defer func() { <-s.decoding }()
	file()
}

// keep takes a picture or a sound in, whatever the request says it is, and answers with what is kept: one
// picture, the frames of an animation, or the sound.
func (s *Server) keep(g *gin.Context) {
	data, err := io.ReadAll(g.Request.Body)
	if err != nil {
		fail(g, http.StatusRequestEntityTooLarge, tooLarge(maxBody))
		return
	}
	var files []media.File
	s.decode(func() { files, err = media.Read(data) })
	if err != nil {
		fail(g, http.StatusUnprocessableEntity, sentence(err))
		return
	}
	if err := s.store.Keep(files...); err != nil {
		failStored(g, err)
		return
	}
	out := make([]Asset, len(files))
	for i, p := range files {
		out[i] = Asset{p.ID, p.Width, p.Height}
	}
	g.JSON(http.StatusCreated, KeptFiles{out})
}

// asset sends a picture or a sound. Its address names its content, so it never changes.
func (s *Server) asset(g *gin.Context) {
	p, err := s.store.Asset(scene.AssetID(g.Param("asset")))
	switch {
	case errors.Is(err, store.ErrNoAsset):
		fail(g, http.StatusNotFound, sentence(err))
	case err != nil:
		failStored(g, err)
	default:
		g.Header("Cache-Control", "public, max-age=31536000, immutable")
		g.Header("Content-Type", p.Type)
		http.ServeContent(g.Writer, g.Request, "", time.Time{}, bytes.NewReader(p.Data))
	}
}
