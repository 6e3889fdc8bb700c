package gesture

import (
	"fmt"
	"path"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/format/svg"
	"wunderkammer/core/scene"
)

// BringSVG makes items of an SVG drawing, attached to a null with the name of the file.
type BringSVG struct {
	Text  string      `json:"text"`
	Name  string      `json:"name"`  // of the file
	Place *[3]float64 `json:"place"` // of its middle in the composition; absent for that of the composition
}

// Do returns the operations that add the items. What was not understood is listed in the details.
func (g *BringSVG) Do(c *Context) (Result, error) {
	name := strings.TrimSuffix(path.Base(g.Name), path.Ext(g.Name))
	d, err := svg.Read([]byte(g.Text), c.NewID)
	if err != nil {
		return Result{}, fmt.Errorf("%s: %w", path.Base(g.Name), err)
	}
	if len(c.Composition.Items)+len(d.Items) >= scene.MaxItems {
		return Result{}, fmt.Errorf("%s has %d items, more than fit into the composition", name, len(d.Items))
	}
	if scene.CheckName(name) != nil {
		name = "Drawing"
	}
	root := &scene.Item{ID: c.NewID(), Name: name, Kind: scene.Null}
	if g.Place != nil {
		root.Edit("position").Own = scene.Pt(g.Place[:]...)
	}
	r := Result{Ops: change.Ops{&change.ItemAdd{In: c.in(), Value: root, At: 0}}, Made: []scene.ID{root.ID}, Details: d.Missed}
	for k, item := range d.Items {
		if item.Parent == "" {
			item.Parent = root.ID
		}
		r.Ops = append(r.Ops, &change.ItemAdd{In: c.in(), Value: item, At: k + 1})
	}
	if len(d.Missed) > 0 {
		r.Note = fmt.Sprintf("%s was imported. Not supported:", name)
	}
	return r, nil
}
