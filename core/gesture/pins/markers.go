package pins

import (
	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// AddMarker puts a marker at a frame; without one, at the playhead.
type AddMarker struct {
	Name string `json:"name,omitempty"` // empty: one that is free
	At   *int   `json:"at,omitempty"`
}

// Do returns the operation that adds the marker.
func (g *AddMarker) Do(c *gesture.Context) (gesture.Result, error) {
	frame := c.Frame
	if g.At != nil {
		frame = *g.At
	}
	name := g.Name
	taken := map[string]bool{}
	for _, m := range c.Composition.Markers {
		taken[m.Name] = true
	}
	if name == "" {
		name = gesture.Numbered("Marker", len(c.Composition.Markers)+1, taken, nil)
	}
	made := scene.Marker{ID: c.NewID(), Name: name, Frame: frame}
	return gesture.Result{Ops: change.Ops{&change.MarkerSet{In: c.In(), Value: made}}, Made: []scene.ID{made.ID}}, nil
}

// markersAlong moves markers along with time that comes in at a frame, or is taken out there; those within what is taken out go.
// Of several that move, the one goes first in whose way no other stands.
func markersAlong(c *gesture.Context, at, frames int) (ops change.Ops) {
	list := c.Composition.Markers
	for k := range list {
		m := list[k]
		if frames > 0 {
			m = list[len(list)-1-k]
		}
		switch {
		case m.Frame < at:
		case m.Frame < at-frames:
			ops = append(ops, &change.MarkerRemove{In: c.In(), Marker: m.ID})
		default:
			m.Frame += frames
			ops = append(ops, &change.MarkerSet{In: c.In(), Value: m})
		}
	}
	return ops
}
