package bridge

import (
	"wunderkammer/core/format/brought"
	"wunderkammer/core/format/gltf"
	"wunderkammer/core/format/lottie"
	"wunderkammer/core/session"
)

// Brought is a file with pictures inside, and the files that were chosen with it, by their names; all in base64.
type Brought struct {
	Lottie bool              `json:"lottie,omitempty"` // else glTF
	File   []byte            `json:"file"`
	Parts  map[string][]byte `json:"parts,omitempty"`
}

// picturesIn returns the pictures in a file, to be kept before its items are made.
func picturesIn(_ *session.Session, a Brought) ([]brought.Picture, error) {
	if a.Lottie {
		return lottie.Pictures(a.File, a.Parts)
	}
	return gltf.Pictures(a.File, a.Parts)
}
