package server

import (
	"errors"
	"io"
	"net/http"

	"github.com/gin-gonic/gin"

	"wunderkammer/core/format/picture"
	"wunderkammer/core/scene"
	"wunderkammer/store"
)

// asset is a picture as the API tells of it.
type asset struct {
	ID     scene.AssetID `json:"id"`
	Width  int           `json:"width"`
	Height int           `json:"height"`
}

// keep takes a picture in, whatever the request says it is, and answers with what is kept: one
// picture, or the frames of an animation.
func (s *Server) keep(g *gin.Context) {
	data, err := io.ReadAll(g.Request.Body)
	if err != nil {
		fail(g, http.StatusRequestEntityTooLarge, tooLarge(maxBody))
		return
	}
	pictures, err := picture.Read(data)
	if err != nil {
		fail(g, http.StatusUnprocessableEntity, sentence(err))
		return
	}
	if err := s.store.Keep(pictures...); err != nil {
		failStored(g, err)
		return
	}
	out := make([]asset, len(pictures))
	for i, p := range pictures {
		out[i] = asset{p.ID, p.Width, p.Height}
	}
	g.JSON(http.StatusCreated, gin.H{"frames": out})
}

// asset sends a picture. Its address names its content, so it never changes.
func (s *Server) asset(g *gin.Context) {
	p, err := s.store.Asset(scene.AssetID(g.Param("asset")))
	switch {
	case errors.Is(err, store.ErrNoAsset):
		fail(g, http.StatusNotFound, sentence(err))
	case err != nil:
		failStored(g, err)
	default:
		g.Header("Cache-Control", "public, max-age=31536000, immutable")
		g.Data(http.StatusOK, p.Type, p.Data)
	}
}
