// Package items has the gestures on items themselves: what is added, brought in, attached, moved, shaped, put in order and removed.
package items

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// Add puts a new item in front of all others, or several of them side by side.
type Add struct {
	Kind   scene.Kind    `json:"kind"`
	Name   string        `json:"name,omitempty"`   // empty: one made from the kind
	Frames []scene.Frame `json:"frames,omitempty"` // pictures that it shows
	Sound  *scene.Sound  `json:"sound,omitempty"`  // that it plays
	Table  *scene.Table  `json:"table,omitempty"`  // that it holds
	Shows  scene.ID      `json:"shows,omitempty"`  // the composition that a piece shows
	Size   [2]float64    `json:"size,omitzero"`    // of what is shown, in pixels; zero for that of the kind
	Place  *[3]float64   `json:"place"`            // in the composition; absent for its middle, or beside what stands there
	Count  int           `json:"count,omitempty"`  // how many, from left to right; 0 for one
}

// MaxAdded bounds how many items are added at once.
const MaxAdded = 500

// startColours are the fills of new shapes, one after the other, so that two that lie on top of each
// other can be told apart. A text starts in ink.
var startColours = []scene.Value{
	scene.RGBA(0.85, 0.64, 0.3, 1), scene.RGBA(0.24, 0.5, 0.47, 1), scene.RGBA(0.66, 0.27, 0.28, 1),
	scene.RGBA(0.33, 0.38, 0.56, 1), scene.RGBA(0.55, 0.6, 0.36, 1), scene.RGBA(0.53, 0.37, 0.5, 1),
}

// begin sets what a new item of a kind has besides the defaults of its properties.
var begin = map[scene.Kind]func(c *gesture.Context, item *scene.Item){
	scene.TextItem: func(_ *gesture.Context, item *scene.Item) { item.Edit("fill").Own = scene.RGBA(0.17, 0.15, 0.19, 1) },
	scene.PathItem: func(_ *gesture.Context, item *scene.Item) {
		item.Path = &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{
			{ID: 1, At: [2]float64{-150, -40}, Out: [2]float64{50, 80}},
			{ID: 2, At: [2]float64{0, 40}, In: [2]float64{-50, 0}, Out: [2]float64{50, 0}},
			{ID: 3, At: [2]float64{150, -40}, In: [2]float64{-50, 80}},
		}}}}
		item.Edit("stroke").Own = item.State("fill").Own
		item.Edit("strokeWidth").Own = scene.Num(6)
		item.Edit("fill").Own = item.State("fill").Own.With(3, 0)
	},
	scene.MeshItem:         func(_ *gesture.Context, item *scene.Item) { item.Mesh = scene.Gem() },
	scene.PointLight:       above(0, 150, 250),
	scene.SpotLight:        above(0, 200, 400),
	scene.DirectionalLight: above(-200, 300, 400),
	scene.AmbientLight:     func(_ *gesture.Context, item *scene.Item) { item.Edit("intensity").Own = scene.Num(40) },
	scene.Camera: func(c *gesture.Context, item *scene.Item) {
		// As far away that the plane of the composition fills its view.
		item.Edit("position").Own = scene.Pt(0, 0, float64(int(float64(c.Composition.Height)/2/0.3639702342662)))
	},
}

func above(x, y, z float64) func(*gesture.Context, *scene.Item) {
	return func(_ *gesture.Context, item *scene.Item) {
		item.Edit("position").Own = scene.Pt(x, y, z)
	}
}

// Do returns the operations that add the items.
func (g *Add) Do(c *gesture.Context) (gesture.Result, error) {
	if g.Count > MaxAdded || g.Count < 0 {
		return gesture.Result{}, fmt.Errorf("at most %d items can be added at once", MaxAdded)
	}
	var r gesture.Result
	taken := c.ItemNames()
	n := max(1, g.Count)
	for k := range n {
		item, err := g.make(c, taken, n > 1)
		if err != nil {
			return gesture.Result{}, err
		}
		if n > 1 {
			beside(c, item, k, n, g.width(c, item))
		} else if g.Place == nil {
			stepAside(c, item)
		}
		taken[item.Name] = true
		r.Ops = append(r.Ops, &change.ItemAdd{In: c.In(), Value: item, At: 0})
		r.Made = append(r.Made, item.ID)
	}
	return r, nil
}

// stepAside moves a new item away from where others stand, a step at a time, in growing rings around where it would be.
func stepAside(c *gesture.Context, item *scene.Item) {
	const step, near, rings = 60, 30, 8
	place := item.Spec("position")
	if place == nil || item.Kind == scene.Camera || item.Kind == scene.SoundItem || item.Kind == scene.TableItem {
		return
	}
	var taken []scene.Value
	for _, other := range c.Composition.Items {
		if spec := other.Spec("position"); spec != nil && other.Parent == "" && other.Kind != scene.Camera {
			taken = append(taken, other.State("position").OwnOr(spec))
		}
	}
	free := func(at scene.Value) bool {
		return !slices.ContainsFunc(taken, func(t scene.Value) bool {
			return math.Abs(t.At(0)-at.At(0)) < near && math.Abs(t.At(1)-at.At(1)) < near
		})
	}
	begin := item.State("position").OwnOr(place)
	for ring := range rings {
		// To the right first, then below, to the left, and above.
		for _, way := range [][2]float64{{1, 0}, {0, -1}, {-1, 0}, {0, 1}, {1, -1}, {-1, -1}, {-1, 1}, {1, 1}} {
			r := float64(step * ring)
			at := begin.With(0, begin.At(0)+float64(r*way[0])).With(1, begin.At(1)+float64(r*way[1]))
			if free(at) {
				if ring > 0 {
					item.Edit("position").Own = at
				}
				return
			}
		}
	}
}

// width returns how wide a new item is, in pixels.
func (g *Add) width(c *gesture.Context, item *scene.Item) float64 {
	if size := item.Spec("size"); size != nil {
		return item.State("size").OwnOr(size).At(0)
	}
	if shown, _ := g.shown(c); shown != nil {
		return float64(shown.Width)
	}
	return 100
}

// beside puts an item at its place among several that stand side by side about the middle, small enough for all of
// them to fit into the composition's width.
func beside(c *gesture.Context, item *scene.Item, k, n int, width float64) {
	const fill, gap = 0.9, 1.25 // of the width of the composition; from one to the next, in widths of an item
	size := item.Spec("size")
	share := min(1, fill*float64(c.Composition.Width)/(float64(n)*gap*width))
	if share < 1 {
		if size != nil {
			own := item.State("size").OwnOr(size)
			for i := range own.Len() {
				own = own.With(i, math.Max(1, math.Round(own.At(i)*share)))
			}
			item.Edit("size").Own = own
		} else if item.Spec("scale") != nil {
			s := math.Round(100 * share)
			item.Edit("scale").Own = scene.Pt(s, s, s)
		}
	}
	place := item.Spec("position")
	if place == nil {
		return
	}
	at := item.State("position").OwnOr(place)
	step := math.Round(gap * width * share)
	item.Edit("position").Own = at.With(0, at.At(0)+float64((float64(k)-float64(float64(n-1)/2))*step))
}

// shown returns the composition that a piece is to show; nil for any other kind.
func (g *Add) shown(c *gesture.Context) (*scene.Composition, error) {
	if g.Kind != scene.Piece {
		return nil, nil
	}
	for _, other := range c.Others {
		switch {
		case other.ID != g.Shows:
		case other.ID == c.Composition.ID:
			return nil, fmt.Errorf("%s can't show itself", other.Name)
		default:
			return other, nil
		}
	}
	return nil, fmt.Errorf("choose the composition that the piece is to show")
}

// make returns one item.
func (g *Add) make(c *gesture.Context, taken map[string]bool, several bool) (*scene.Item, error) {
	info := g.Kind.Info()
	if info.Name == "" {
		return nil, fmt.Errorf("%q is not a kind of item", g.Kind)
	}
	base := strings.ToUpper(info.Name[:1]) + info.Name[1:]
	shown, err := g.shown(c)
	if err != nil {
		return nil, err
	}
	if shown != nil {
		base = shown.Name
	}
	if g.Name != "" {
		base = g.Name
	}
	name := gesture.FreeName(base, taken)
	if several { // all of them are numbered, the first one, too
		name = gesture.Numbered(base, 1, taken, nil)
	}
	item := &scene.Item{ID: c.NewID(), Name: name, Kind: g.Kind, Frames: g.Frames, Sound: g.Sound, Table: named(c, g.Table)}
	if shown != nil {
		item.Piece = &scene.Shown{Composition: shown.ID}
	}
	colour := startColours[len(c.Composition.Items)%len(startColours)]
	switch info.Class {
	case scene.Outlined:
		item.Edit("fill").Own = colour
	case scene.Solid:
		item.Edit("colour").Own = colour
	}
	if more := begin[g.Kind]; more != nil {
		more(c, item)
	}
	if g.Size != [2]float64{} && item.Spec("size") != nil {
		item.Edit("size").Own = scene.NewValue(append(g.Size[:], 200)[:item.Spec("size").Type.Size()])
	}
	if g.Place != nil {
		item.Edit("position").Own = scene.Pt(g.Place[:]...)
	}
	return item, nil
}
