package press

import (
	"context"
	"fmt"

	"wunderkammer/core/format"
	"wunderkammer/core/format/pack"
	"wunderkammer/draw"
	"wunderkammer/web"
)

// Drawer draws parts in an installed Chromium, which stays open while they are of one project. Close it when it is no longer used.
type Drawer struct {
	Chromium string // the browser; empty for the one that is found
	project  string
	studio   *draw.Studio
}

// Draw makes a part of an export of a packed project, which is called by its content, and returns the file.
func (d *Drawer) Draw(ctx context.Context, project string, packed func() ([]byte, error), a format.Asked, tell func(done, of int)) (string, error) {
	if d.studio != nil && d.project == project {
		file, err := d.studio.Draw(ctx, a, tell)
		if err != nil { // whatever it was, the next part begins afresh
			d.Close()
		}
		return file, err
	}
	d.Close()
	data, err := packed()
	if err != nil {
		return "", fmt.Errorf("the project can't be fetched from the queue: %w", err)
	}
	opened, err := pack.Read(data)
	if err != nil {
		return "", err
	}
	// It lives longer than the part that it was opened for.
	if d.studio, err = draw.Open(context.WithoutCancel(ctx), opened.Project, opened.Files, web.FrontEnd(), d.Chromium); err != nil {
		return "", err
	}
	d.project = project
	return d.Draw(ctx, project, packed, a, tell)
}

// Close ends the browser.
func (d *Drawer) Close() {
	if d.studio != nil {
		d.studio.Close()
		d.studio = nil
	}
}
