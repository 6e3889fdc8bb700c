package view

import (
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// PathView is the way of a point through its pins, as it lies in the composition at the frame last evaluated.
type PathView struct {
	Pins []PathPin    `json:"pins" ts:"list"` // none where there is no way to be shaped
	Line [][3]float64 `json:"line" ts:"list"` // places along it
}

// PathPin is a pin on the way of a point, with its handles where it has any.
type PathPin struct {
	Frame  int         `json:"frame"`
	Place  [3]float64  `json:"place"`
	Lead   *[3]float64 `json:"lead,omitempty"`
	Arrive *[3]float64 `json:"arrive,omitempty"`
}

// Bounds of the way that is shown.
const (
	maxPathPins = 400
	maxLine     = 600
)

// PathOf returns the way of the position of an item, or of a control that is a point, through its pins. Where links drive it, or where
// there is less than two pins, there is none.
func PathOf(s *session.Session, ref scene.Ref) (PathView, error) {
	out := PathView{Pins: []PathPin{}, Line: [][3]float64{}}
	item := s.Composition().Item(ref.Item)
	if item == nil {
		return out, nil
	}
	spec, state, plan := item.Spec(ref.Property), item.State(ref.Property), s.Plan()
	control := item.Control(scene.ID(ref.Property)) != nil
	if spec == nil || !spec.Pathable() || len(state.Pins) < 2 || len(state.Pins) > maxPathPins || plan.Driven(ref.Item, ref.Property) || !control && ref.Property != "position" {
		return out, nil
	}
	place := func(v scene.Value) [3]float64 { return [3]float64{v.At(0), v.At(1), v.At(2)} }
	if !control {
		place = placing(plan, item)
	}
	for _, pin := range state.Pins {
		one := PathPin{Frame: pin.Frame, Place: place(pin.Value)}
		for _, h := range []struct {
			of *scene.Value
			to **[3]float64
		}{{&pin.Lead, &one.Lead}, {&pin.Arrive, &one.Arrive}} {
			if scene.Far(*h.of) > 0 {
				at := place(pin.Value.Plus(*h.of, 1))
				*h.to = &at
			}
		}
		out.Pins = append(out.Pins, one)
	}
	tracks := spec.Tracks(state.Pins, nil)
	first, last := float64(state.Pins[0].Frame), float64(state.Pins[len(state.Pins)-1].Frame)
	n := min(maxLine, int(last-first)*2)
	for k := range n + 1 {
		at := make([]float64, len(tracks))
		for c := range tracks {
			at[c] = tracks[c].At(first + float64((last-first)*float64(k))/float64(n))
		}
		out.Line = append(out.Line, place(scene.NewValue(at)))
	}
	return out, nil
}

// placing returns where an item stands in the composition for each value of its position.
func placing(plan *engine.Plan, item *scene.Item) func(scene.Value) [3]float64 {
	i := plan.Layout.Index(item.ID)
	m := gesture.Carried(plan, i)
	pivot, now := plan.Derived(i, "worldPosition"), plan.Value(scene.Ref{Item: item.ID, Property: "position"})
	m[3], m[7], m[11] = pivot.At(0), pivot.At(1), pivot.At(2)
	return func(v scene.Value) [3]float64 {
		return m.Apply([3]float64{v.At(0) - now.At(0), v.At(1) - now.At(1), v.At(2) - now.At(2)})
	}
}
