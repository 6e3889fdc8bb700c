package handoffs

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// ApplyReading has the controls of a composition stand and be pinned as a reading of it has them: what somebody decided becomes the rig's own.
// The reading stays as it is.
type ApplyReading struct {
	Reading scene.ID `json:"reading"`
}

// Do returns the operations that set and pin the controls.
func (g *ApplyReading) Do(c *gesture.Context) (r gesture.Result, err error) {
	k := slices.IndexFunc(c.Others, func(of *scene.Composition) bool { return of.ID == g.Reading && of.Reading == c.Composition.ID })
	if k < 0 {
		return r, fmt.Errorf("there is no such reading of %s; it may have been deleted", c.Composition.Name)
	}
	reading := c.Others[k]
	piece, taken := reading.Read(), 0
	for _, h := range c.Composition.Handed() {
		set := piece.State(string(h.Offer.ID))
		if set.Own.Absent() && len(set.Pins) == 0 {
			continue
		}
		taken++
		spec, is := h.Spec(), h.Item.State(string(h.From.ID))
		of := c.Of(h.Item.ID, string(h.From.ID))
		if !set.Own.Absent() && set.Own.Fits(spec.Type) == nil {
			r.Ops = append(r.Ops, &change.OwnSet{Of: of, Value: spec.Held(set.Own)})
		}
		put := &change.PinsPut{Of: of}
		for _, pin := range is.Pins {
			put.Drop = append(put.Drop, pin.Frame)
		}
		for _, pin := range set.Pins {
			if pin.Value.Fits(spec.Type) == nil {
				put.Pins = append(put.Pins, pin.Through(spec.Held))
			}
		}
		if len(put.Drop)+len(put.Pins) > 0 {
			r.Ops = append(r.Ops, put)
		}
		if set.Beyond != is.Beyond {
			r.Ops = append(r.Ops, &change.PinsBeyond{Of: of, Beyond: set.Beyond})
		}
		if c.Planned.Driven(h.Item.ID, string(h.From.ID)) {
			r.Details = append(r.Details, fmt.Sprintf("links drive %s: what was set is under them", c.Composition.NameOf(scene.Ref{Item: h.Item.ID, Property: string(h.From.ID)})))
		}
	}
	if taken == 0 {
		return r, fmt.Errorf("nothing is set in %s that %s still hands off", reading.Name, c.Composition.Name)
	}
	r.Note = fmt.Sprintf("Set as in %s: %s", reading.Name, gesture.Plural(taken, "control"))
	return r, nil
}
