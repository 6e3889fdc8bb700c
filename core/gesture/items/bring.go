package items

import (
	"fmt"
	"path"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/format/svg"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// BringSVG makes items of an SVG drawing, attached to a null with the name of the file.
type BringSVG struct {
	Text  string      `json:"text"`
	Name  string      `json:"name"`  // of the file
	Place *[3]float64 `json:"place"` // of its middle in the composition; absent for that of the composition
}

// Do returns the operations that add the items. What was not understood is listed in the details.
func (g *BringSVG) Do(c *gesture.Context) (gesture.Result, error) {
	d, err := svg.Read([]byte(g.Text), c.NewID)
	if err != nil {
		return gesture.Result{}, fmt.Errorf("%s: %w", path.Base(g.Name), err)
	}
	_, r, err := brought(c, g.Name, "Drawing", g.Place, d.Items, d.Missed)
	return r.Result, err
}

// brought adds the items of a file, in the order of a tree, on a null with its name, or another where that is none; missed is what was
// not understood of it.
func brought(c *gesture.Context, file, otherwise string, place *[3]float64, items []*scene.Item, missed []string) (*scene.Item, arrived, error) {
	name := strings.TrimSuffix(path.Base(file), path.Ext(file))
	if len(c.Composition.Items)+len(items) >= scene.MaxItems {
		return nil, arrived{}, fmt.Errorf("%s has %d items, more than fit into the composition", path.Base(file), len(items))
	}
	if scene.CheckName(name) != nil {
		name = otherwise
	}
	root := &scene.Item{ID: c.NewID(), Name: name, Kind: scene.Null}
	if place != nil {
		root.Edit("position").Own = scene.Pt(place[:]...)
	}
	r := gesture.Result{Ops: change.Ops{&change.ItemAdd{In: c.In(), Value: root, At: 0}}, Made: []scene.ID{root.ID}, Details: missed}
	for k, item := range items {
		if item.Parent == "" {
			item.Parent = root.ID
		}
		r.Ops = append(r.Ops, &change.ItemAdd{In: c.In(), Value: item, At: k + 1})
	}
	if len(missed) > 0 {
		r.Note = fmt.Sprintf("%s was imported. Not supported:", name)
	}
	return root, arrived{r}, nil
}

// arrived is what bringing in a file comes to.
type arrived struct{ gesture.Result }

// also says something more of it.
func (r *arrived) also(what string) {
	if r.Note == "" {
		r.Note = what
	} else {
		r.Details = append(r.Details, what)
	}
}

// CutFrames makes a flipbook of a picture that holds many frames beside and below each other, row by row from the upper left.
type CutFrames struct {
	Item    scene.ID `json:"item"`
	Columns int      `json:"columns"`
	Rows    int      `json:"rows"`
	Size    [2]int   `json:"size"` // of the picture itself, in its pixels
}

// Do returns the operations that turn the item into a flipbook, each frame as large as it was seen in the picture.
func (g *CutFrames) Do(c *gesture.Context) (gesture.Result, error) {
	item, err := c.Item(g.Item)
	if err != nil {
		return gesture.Result{}, err
	}
	if item.Kind.Class() != scene.Pictured || len(item.Frames) != 1 || item.Frames[0].Part != [4]int{} {
		return gesture.Result{}, fmt.Errorf("%s is not a single picture that could be cut into frames", item.Name)
	}
	if g.Columns < 1 || g.Rows < 1 || g.Columns > 64 || g.Rows > 64 || g.Size[0] < g.Columns || g.Size[1] < g.Rows {
		return gesture.Result{}, fmt.Errorf("%s (%d × %d px) can't be divided into %d × %d frames", item.Name, g.Size[0], g.Size[1], g.Columns, g.Rows)
	}
	w, h := g.Size[0]/g.Columns, g.Size[1]/g.Rows
	book := &change.ItemFrames{On: c.On(item.ID)}
	if item.Kind != scene.Flipbook {
		book.Kind = scene.Flipbook
	}
	for k := range g.Columns * g.Rows {
		book.Frames = append(book.Frames, scene.Frame{Asset: item.Frames[0].Asset, Part: [4]int{k % g.Columns * w, k / g.Columns * h, w, h}})
	}
	r, spec := gesture.Result{Ops: change.Ops{book}}, item.Spec("size")
	smaller := func(v scene.Value) scene.Value { return scene.Pt(v.At(0)/float64(g.Columns), v.At(1)/float64(g.Rows)) }
	r.Ops = append(append(r.Ops, c.Remade(item, spec, smaller)...), c.PivotAlong(item, smaller(item.State("size").OwnOr(spec)))...)
	r.Note = fmt.Sprintf("%s is a flipbook of %d frames now; its frame number shows one after the other", item.Name, len(book.Frames))
	if by := c.Drivers(item, spec, ""); c.Driven(item, spec, "") {
		r.Note += fmt.Sprintf(". Each is as large as the whole was, since %s drives its size", by[len(by)-1].Name(c.Composition))
	}
	return r, nil
}
