// Package pack reads and writes the project package: a zip file with the project as JSON in it.
package pack

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"wunderkammer/core/scene"
)

// Extension is the ending of the name of a package file.
const Extension = ".wunderkammer"

// Version is the version of the format that Write writes and the newest that Read reads.
const Version = 1

// MaxUnpacked bounds the size of what a package unpacks to, in bytes.
const MaxUnpacked = 256 << 20

const documentName = "project.json"

// document is the content of project.json.
type document struct {
	Format  string         `json:"format"`
	Version int            `json:"version"`
	Project *scene.Project `json:"project"`
}

const formatName = "wunderkammer project"

// Write returns the package of a project. The same project gives the same bytes.
func Write(p *scene.Project) ([]byte, error) {
	body, err := json.MarshalIndent(document{formatName, Version, p}, "", " ")
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	w, err := z.Create(documentName)
	if err != nil {
		return nil, err
	}
	if _, err := w.Write(body); err != nil {
		return nil, err
	}
	if err := z.Close(); err != nil {
		return nil, err
	}
	return b.Bytes(), nil
}

// Read returns the project of a package. What is broken, too large or from a newer version is
// an error in plain words.
func Read(data []byte) (*scene.Project, error) {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, errors.New("the file is not a Wunderkammer project, or it is damaged")
	}
	for _, f := range z.File {
		if f.Name != documentName {
			continue
		}
		r, err := f.Open()
		if err != nil {
			return nil, fmt.Errorf("the project in the file is packed in a way that cannot be read: %w", err)
		}
		defer r.Close()
		body, err := io.ReadAll(io.LimitReader(r, MaxUnpacked+1))
		if err != nil {
			return nil, errors.New("the file is damaged: its end is missing or was altered")
		}
		if len(body) > MaxUnpacked {
			return nil, fmt.Errorf("the file unpacks to more than %d MB and is not opened", MaxUnpacked>>20)
		}
		return read(body)
	}
	return nil, errors.New("there is no project in the file")
}

func read(body []byte) (*scene.Project, error) {
	var d document
	if err := json.Unmarshal(body, &d); err != nil {
		return nil, fmt.Errorf("the project in the file cannot be read: %w", err)
	}
	switch {
	case d.Format != formatName || d.Project == nil:
		return nil, errors.New("there is no project in the file")
	case d.Version > Version:
		return nil, fmt.Errorf("the file was written by a newer version (format %d; this one reads up to %d); update Wunderkammer to open it", d.Version, Version)
	}
	if err := d.Project.Check(); err != nil {
		return nil, fmt.Errorf("the project in the file is broken: %w", err)
	}
	return d.Project, nil
}
