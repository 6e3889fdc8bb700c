package items

import (
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// Tinted completes a gesture that sets, pins or drives a tint of what has none yet: with a strength of 0 nothing would be seen of it.
func Tinted(c *gesture.Context, r gesture.Result) gesture.Result {
	const tint, strength = "tint", "tintStrength"
	gives := func(op change.Op) (of change.Of) { // a value of which property
		switch o := op.(type) {
		case *change.OwnSet:
			if !o.Value.Absent() {
				return o.Of
			}
		case *change.PinsPut:
			if len(o.Pins) > 0 {
				return o.Of
			}
		case *change.LinkAdd:
			return o.Of
		}
		return of
	}
	touched := func(id scene.ID) bool { // by the gesture itself
		return slices.ContainsFunc(r.Ops, func(op change.Op) bool { return gives(op).Item == id && gives(op).Property == strength })
	}
	var ops change.Ops
	show := func(id scene.ID) {
		item := c.Composition.Item(id)
		if item == nil || item.Spec(tint) == nil || touched(id) {
			return
		}
		spec, state := item.Spec(strength), item.State(strength)
		if len(state.Pins) > 0 || c.Moved(item, spec) || !state.Own.Absent() { // it was set, to nothing perhaps
			return
		}
		ops = append(ops, &change.OwnSet{Of: c.Of(id, strength), Value: scene.Num(100)})
	}
	for _, op := range r.Ops {
		if of := gives(op); of.Property == tint {
			show(of.Item)
		}
		if o, ok := op.(*change.RosterLinkAdd); ok && o.Value != nil && o.Value.Property == tint {
			if o.Value.Roster.Kind != scene.CopiesOf {
				for _, m := range o.Value.Members(c.Composition) {
					show(m.Item.ID)
				}
				continue
			}
			of := o.Value.Roster.Item
			there := func(s *scene.RosterLink) bool {
				return s.Roster.Kind == scene.CopiesOf && s.Roster.Item == of && s.Property == strength
			}
			also := func(op change.Op) bool {
				add, ok := op.(*change.RosterLinkAdd)
				return ok && add.Value != nil && there(add.Value)
			}
			if c.Composition.Item(of) != nil && !slices.ContainsFunc(c.Composition.RosterLinks, there) && !slices.ContainsFunc(r.Ops, also) {
				s := c.RowOfCopies(c.Composition.Item(of), (&scene.Item{Kind: scene.Copy}).Spec(strength), "")
				s.Link = &scene.Link{ID: c.NewID(), Kind: scene.Formula, Gain: 1, Formula: "100"}
				ops = append(ops, &change.RosterLinkAdd{In: c.In(), Value: s, At: -1})
			}
		}
	}
	r.Ops = append(r.Ops, ops...)
	return r
}
