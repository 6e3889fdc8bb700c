// Package press makes exports by many: a project is cut into parts, which go through a queue to whoever draws them, here or elsewhere,
// and joined to one file.
package press

import (
	"archive/zip"
	"context"
	"fmt"
	"io"
	"path/filepath"
	"sync"

	"wunderkammer/core/format"
	"wunderkammer/core/format/pack"
	"wunderkammer/draw"
	"wunderkammer/farm"
	"wunderkammer/web"
)

// Press makes exports over a queue.
type Press struct {
	Queue    *farm.Queue
	Chromium string // the browser that draws and joins; empty for the one that is found
	Each     int    // how many pictures a part has at most
}

// DefaultEach is how many pictures a part has, where nothing is said.
const DefaultEach = 25

// Work has so many browsers here draw parts until the context ends; wait returns when they are closed.
func (p *Press) Work(ctx context.Context, workers int) (wait func()) {
	var all sync.WaitGroup
	for range workers {
		all.Go(func() {
			d := &Drawer{Chromium: p.Chromium}
			defer d.Close()
			p.Queue.Work(ctx, d, func(string) {})
		})
	}
	return all.Wait
}

// Make makes a file of what is asked for of a project, which has to be settled, in a folder, and returns where it is. rate is how many
// frames a second its composition has.
func (p *Press) Make(ctx context.Context, opened *pack.Opened, a format.Asked, rate int, folder string, tell func(farm.Progress)) (string, error) {
	f := format.Of(a.Format)
	if !f.Parted {
		return "", fmt.Errorf("%s is not made in parts", f.Name)
	}
	packed, err := pack.Write(opened.Project, opened.Files)
	if err != nil {
		return "", err
	}
	parts, err := p.Queue.Run(ctx, farm.Job{Package: packed, Asked: a, Pictures: a.Pictures(rate), Each: p.Each}, folder, tell)
	if err != nil {
		return "", err
	}
	made := filepath.Join(folder, "whole."+f.Extension)
	if f.Codec == "" {
		return made, Whole(made, func(to io.Writer) error { return zipped(to, parts) })
	}
	studio, err := draw.Open(ctx, opened.Project, opened.Files, web.FrontEnd(), p.Chromium)
	if err != nil {
		return "", err
	}
	defer studio.Close()
	joined, err := studio.Join(ctx, a, parts)
	if err != nil {
		return "", err
	}
	return made, Put(joined, made)
}

// zipped puts the files of some zips into one, as they are.
func zipped(to io.Writer, parts []string) error {
	out := zip.NewWriter(to)
	for _, part := range parts {
		in, err := zip.OpenReader(part)
		if err != nil {
			return err
		}
		for _, f := range in.File {
			if err := out.Copy(f); err != nil {
				in.Close()
				return err
			}
		}
		in.Close()
	}
	return out.Close()
}
