// Package press makes exports by many: a project is cut into parts, which go through a queue to whoever draws them, here or elsewhere,
// and joined to one file.
package press

import (
	"archive/zip"
	"context"
	"fmt"
	"io"
	"os"
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
		return made, zipped(made, parts)
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
	return made, moved(joined, made)
}

// moved gives a file another place, which may be on another disk.
func moved(from, to string) error {
	if os.Rename(from, to) == nil {
		return nil
	}
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.Create(to)
	if err != nil {
		return err
	}
	if _, err := io.Copy(out, in); err != nil {
		out.Close()
		return err
	}
	return out.Close()
}

// zipped puts the files of some zips into one, as they are.
func zipped(made string, parts []string) error {
	to, err := os.Create(made)
	if err != nil {
		return err
	}
	defer to.Close()
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
	if err := out.Close(); err != nil {
		return err
	}
	return to.Close()
}
