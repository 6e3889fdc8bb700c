// Package web carries the built front end into the binary. Build it first: make front.
package web

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// FrontEnd returns the files of the built front end.
func FrontEnd() fs.FS {
	sub, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err) // the path is a constant
	}
	return sub
}
