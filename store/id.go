package store

import (
	"crypto/rand"
	"encoding/base32"
	"strings"

	"wunderkammer/core/scene"
)

// NewID makes an id that nothing else has: 50 random bits.
func NewID() scene.ID {
	b := make([]byte, 7)
	rand.Read(b)
	return scene.ID(strings.ToLower(base32.HexEncoding.EncodeToString(b))[:10])
}
