package handoffs

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// Reset gives properties of pieces back to their composition: what was set of them and pinned goes, and they show what it does by
// itself. Links stay.
type Reset struct {
	Targets []scene.Ref `json:"targets"`
}

// Do returns the operations that take away what was set.
func (g *Reset) Do(c *gesture.Context) (r gesture.Result, err error) {
	for _, ref := range g.Targets {
		item, spec, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
		}
		state, of := item.State(spec.Key), c.Of(item.ID, spec.Key)
		if len(state.Pins) > 0 {
			var frames []int
			for _, p := range state.Pins {
				frames = append(frames, p.Frame)
			}
			r.Ops = append(r.Ops, &change.PinsDrop{Of: of, Frames: frames})
		}
		if state.Beyond != "" {
			r.Ops = append(r.Ops, &change.PinsBeyond{Of: of})
		}
		if !state.Own.Absent() {
			r.Ops = append(r.Ops, &change.OwnSet{Of: of})
		}
	}
	return r, nil
}

// Forget takes away what is kept of properties that the composition of a piece doesn't hand off any more.
type Forget struct {
	Item       scene.ID `json:"item"`
	Properties []string `json:"properties,omitempty"` // none: all that is kept
}

// Do returns the operations that take it away.
func (g *Forget) Do(c *gesture.Context) (r gesture.Result, err error) {
	item, err := c.Item(g.Item)
	if err != nil {
		return r, err
	}
	list := g.Properties
	if len(list) == 0 {
		list = item.Stale()
	}
	for _, key := range list {
		r.Ops = append(r.Ops, &change.PieceKept{Of: c.Of(item.ID, key)})
	}
	return r, nil
}

// ShowAnother has pieces show another composition. What was set of the controls that the one before handed off is kept.
type ShowAnother struct {
	Pieces []scene.ID `json:"pieces"`
	Shows  scene.ID   `json:"shows"`
}

// Do returns the operations that have them show it.
func (g *ShowAnother) Do(c *gesture.Context) (r gesture.Result, err error) {
	for _, id := range g.Pieces {
		item, err := c.Item(id)
		if err != nil {
			return gesture.Result{}, err
		}
		if item.Piece == nil {
			return gesture.Result{}, fmt.Errorf("%s is not a piece, and shows no composition", item.Name)
		}
		if item.Piece.Composition != g.Shows {
			r.Ops = append(r.Ops, &change.ItemPiece{On: c.On(id), Shows: g.Shows})
		}
	}
	return r, nil
}
