// Package pack reads and writes the project package: a zip file with the project as JSON in it
// and its pictures and sounds.
package pack

import (
	"archive/zip"
	"bytes"
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"

	"wunderkammer/core/format/media"
	"wunderkammer/core/graph"
	_ "wunderkammer/core/link" // the kinds of links that a project is checked for
	"wunderkammer/core/scene"
)

// Extension is the ending of the name of a package file.
const Extension = ".wunderkammer"

// Version is the version of the format that Write writes and the newest that Read reads.
const Version = scene.Format

// MaxUnpacked bounds the size of what a package unpacks to, in bytes.
const MaxUnpacked = 256 << 20

// MaxFile bounds the size of a package itself, in bytes: no larger one is looked at.
const MaxFile = MaxUnpacked

// maxPixels bounds the pixels of all pictures of a package.
const maxPixels = 16 * media.MaxPixels

const documentName = "project.json"

// Document is the content of project.json.
type Document struct {
	Format  string         `json:"format"`
	Version int            `json:"version"`
	Project *scene.Project `json:"project"`
	// Part is what of a project it is; absent: a whole one.
	Part scene.Part `json:"part,omitempty"`
	// Missing are pictures and sounds that the project has and that could not be had when it was packed.
	Missing []scene.AssetID `json:"missing,omitempty"`
	// Bound is written here: its formulas refer to things by their ids, as far as they could be found when they were written. One that
	// was written by hand does not have it.
	Bound bool `json:"bound,omitempty"`
}

// Opened is what was read of a package, checked and brought up to today's format.
type Opened struct {
	Project *scene.Project
	Part    scene.Part      // what of a project it is
	Files   []media.File    // its pictures and sounds
	Missing []scene.AssetID // pictures and sounds that it has and that are not in the file, as it says itself
	Mended  []string        // what of it could not be kept as it was, a sentence each
}

// FormatName is what a package says that it is.
const FormatName = "wunderkammer project"

// pictureFolder and soundFolder hold the pictures and the sounds, each under its id.
const (
	pictureFolder = "pictures/"
	soundFolder   = "sounds/"
)

// Write returns the package of a project with its pictures and sounds; those that are not given are listed in it as
// missing. The same project gives the same bytes.
func Write(p *scene.Project, files []media.File) ([]byte, error) {
	return WritePart(p, scene.Whole, files)
}

// WritePart is Write for a project that is a part of another one; see scene.Project.Parted. Files that it doesn't show are left out.
func WritePart(p *scene.Project, part scene.Part, files []media.File) ([]byte, error) {
	d := Document{Format: FormatName, Version: Version, Project: p, Part: part, Bound: true}
	var shown []media.File
	for _, id := range p.Assets() {
		if k := slices.IndexFunc(files, func(one media.File) bool { return one.ID == id }); k >= 0 {
			shown = append(shown, files[k])
		} else {
			d.Missing = append(d.Missing, id)
		}
	}
	body, err := json.MarshalIndent(d, "", " ")
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
	for _, one := range shown {
		folder := pictureFolder
		if one.Sound() {
			folder = soundFolder
		}
		w, err := z.CreateHeader(&zip.FileHeader{Name: folder + string(one.ID), Method: zip.Store}) // packed already
		if err != nil {
			return nil, err
		}
		if _, err := w.Write(one.Data); err != nil {
			return nil, err
		}
	}
	if err := z.Close(); err != nil {
		return nil, err
	}
	return b.Bytes(), nil
}

// Read returns what a package holds. What is broken, too large or from a newer version is an error in plain words.
func Read(data []byte) (*Opened, error) {
	if bytes.HasPrefix(bytes.TrimLeft(data[:min(len(data), 100)], " \t\r\n\ufeff"), []byte("{")) {
		return readEarlier(data)
	}
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, errors.New("the file is not a Wunderkammer project, or it is damaged")
	}
	files := map[string]*zip.File{}
	for _, f := range z.File {
		files[f.Name] = f
	}
	left, most := int64(MaxUnpacked), int64(scene.MaxJSON)
	body, err := unpack(files[documentName], &most)
	if err != nil {
		return nil, err
	}
	if body == nil {
		return nil, errors.New("there is no project in the file")
	}
	out, err := read(body)
	if err != nil {
		return nil, err
	}
	listed := out.Missing
	shown := *out.Project // without its recipes, whose pictures earlier versions left out
	shown.Recipes = nil
	always := shown.Assets()
	out.Missing = nil
	pixels := 0
	for _, id := range out.Project.Assets() {
		content, err := unpack(cmp.Or(files[pictureFolder+string(id)], files[soundFolder+string(id)]), &left)
		switch {
		case err != nil:
			return nil, err
		case content == nil && (slices.Contains(listed, id) || !slices.Contains(always, id)):
			out.Missing = append(out.Missing, id)
			continue
		case content == nil:
			return nil, errors.New("a picture or a sound is missing from the file; save the project again where it was made")
		}
		found, err := media.Read(content)
		if err != nil || len(found) != 1 || found[0].ID != id {
			return nil, errors.New("a picture or a sound in the file is damaged or was replaced by another")
		}
		if pixels += found[0].Width * found[0].Height; pixels > maxPixels {
			return nil, fmt.Errorf("the pictures in the file have more than %d million pixels together, which is too much to open", maxPixels>>20)
		}
		out.Files = append(out.Files, found[0])
	}
	return out, nil
}

// unpack returns the content of a file, and nil for one that is not there. left is how many bytes
// the package may still unpack to.
func unpack(f *zip.File, left *int64) ([]byte, error) {
	if f == nil {
		return nil, nil
	}
	r, err := f.Open()
	if err != nil {
		return nil, fmt.Errorf("%s in the file is packed in a way that can't be read: %w", f.Name, err)
	}
	defer r.Close()
	body, err := io.ReadAll(io.LimitReader(r, *left+1))
	if err != nil {
		return nil, errors.New("the file is incomplete or damaged")
	}
	if *left -= int64(len(body)); *left < 0 {
		return nil, errors.New("the file unpacks to more than a project can have, so it was not opened")
	}
	return append([]byte{}, body...), nil
}

func read(body []byte) (*Opened, error) {
	if err := scene.CheckJSON(body); err != nil {
		return nil, fmt.Errorf("the project in the file can't be opened: %w", err)
	}
	var d Document
	if err := json.Unmarshal(body, &d); err != nil {
		return nil, fmt.Errorf("the project in the file can't be read: %w", scene.PlainJSON(err))
	}
	switch {
	case d.Format != FormatName || d.Project == nil:
		return nil, errors.New("there is no project in the file")
	case d.Version > Version:
		return nil, fmt.Errorf("the file was written by a newer version (format %d; this one reads up to %d); update Wunderkammer to open it", d.Version, Version)
	}
	if err := d.Part.Check(); err != nil {
		return nil, fmt.Errorf("the file can't be opened: %w", err)
	}
	d.Project.Upgrade(d.Version)
	mended := d.Project.Heal()
	graph.Refresh(d.Project)
	if err := d.Project.Check(); err != nil {
		return nil, fmt.Errorf("the project in the file is broken: %w", err)
	}
	if !d.Bound {
		graph.BindAll(d.Project)
	}
	return &Opened{Project: d.Project, Part: d.Part, Missing: d.Missing, Mended: mended}, nil
}
