package bridge

import (
	"wunderkammer/core/format/brought"
	"wunderkammer/core/format/gltf"
	"wunderkammer/core/session"
)

// ModelFile is a file with meshes, and the files that were chosen with it, by their names; all in base64.
type ModelFile struct {
	File  []byte            `json:"file"`
	Parts map[string][]byte `json:"parts,omitempty"`
}

// pictures returns the pictures on the surfaces of a file, to be kept before its items are made.
func pictures(_ *session.Session, a ModelFile) ([]brought.Picture, error) {
	return gltf.Pictures(a.File, a.Parts)
}
