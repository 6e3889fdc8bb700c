package view

import (
	"slices"

	"wunderkammer/core/engine"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
)

// Staged is what the pieces of a composition show: which items, and where they stand among the values.
type Staged struct {
	Stages []Stage    `json:"stages" ts:"list"`
	Casts  [][]Player `json:"casts" ts:"list"` // the items of each composition that is shown, in the order of its tree
	First  int32      `json:"first"`           // the index of the first item that is shown; those of the composition itself, and their copies, come before
	Rows   []int32    `json:"rows" ts:"list"`  // from First on: where each stands among those of its kind
	// Marks say of each what becomes of it: 1 it is hidden, 2 copies show it in its place, 4 it is not in output; the sum of these.
	Marks  []int32 `json:"marks" ts:"list"`
	Seen   int32   `json:"seen"`              // first slot of where they are seen: a place as in a world transform, and what is left of the opacity
	Stride int32   `json:"stride"`            // slots of each
	Order  []int32 `json:"painted" ts:"list"` // all items by their index, the front first, copies left out
}

// Stage is what one piece shows.
type Stage struct {
	Piece int32 `json:"piece"` // by its index
	First int32 `json:"first"` // the index of the first of its items
	Cast  int   `json:"cast"`  // of Casts
}

// Player is an item as a piece shows it.
type Player struct {
	ID      scene.ID      `json:"id"`
	Kind    scene.Kind    `json:"kind"`
	Frames  []scene.Frame `json:"frames,omitempty"`
	Stops   []scene.Stop  `json:"stops,omitempty"`
	EvenOdd bool          `json:"evenOdd,omitempty"`
}

// stagedOf describes what pieces show; nil where there are none.
func stagedOf(p *engine.Plan) *Staged {
	l := p.Layout
	if len(l.Stages) < 2 {
		return nil
	}
	first := l.Stages[0].Count
	out := &Staged{First: first, Rows: l.Rows[first:], Seen: l.Seen, Stride: layout.SeenSize, Order: l.Painted()}
	casts := map[*scene.Composition]int{}
	for _, s := range l.Stages[1:] {
		at, known := casts[s.Composition]
		if !known {
			at = len(out.Casts)
			casts[s.Composition] = at
			out.Casts = append(out.Casts, castOf(l.Items[s.First:s.First+s.Count]))
		}
		out.Stages = append(out.Stages, Stage{s.Piece, s.First, at})
	}
	for i := first; i < int32(len(l.Items)); i++ {
		mark := int32(0)
		if l.Hidden[i] {
			mark = 1
		}
		if p.Inside(i) {
			mark += 2
		}
		if l.Out[i] {
			mark += 4
		}
		out.Marks = append(out.Marks, mark)
	}
	return out
}

func castOf(items []*scene.Item) (out []Player) {
	for _, item := range items {
		out = append(out, Player{item.ID, item.Kind, item.Frames, item.Stops, item.Path != nil && item.Path.EvenOdd})
	}
	return out
}

// compositionOf describes a composition without its items.
func compositionOf(c *scene.Composition) Composition {
	out := Composition{ID: c.ID, Name: c.Name, Width: c.Width, Height: c.Height, Rate: c.Rate, Frames: c.Frames, Background: c.Background, Drawers: c.Drawers, Markers: c.Markers, HandOff: c.HandOff, Reading: c.Reading}
	for _, l := range c.Looks {
		out.Looks = append(out.Looks, OwnLook{l.ID, l.Name, l.Of})
	}
	for _, h := range c.Handed() {
		out.Offered = append(out.Offered, h.Control)
	}
	for _, item := range c.Items {
		if item.Piece != nil && !slices.Contains(out.Shows, item.Piece.Composition) {
			out.Shows = append(out.Shows, item.Piece.Composition)
		}
	}
	return out
}
