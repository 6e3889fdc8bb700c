package gesture

import (
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// PivotAlong takes the pivot of an item along when its size becomes another, so that one at an edge stays at it.
func (c *Context) PivotAlong(item *scene.Item, size scene.Value) change.Ops {
	spec, state := item.Spec("pivot"), item.State("pivot")
	if spec == nil || len(state.Pins) > 0 || c.Driven(item, spec, "") {
		return nil
	}
	was, pivot := c.Plan().Own(item.ID, "size"), c.Plan().Own(item.ID, "pivot")
	moved := pivot
	for k := range min(was.Len(), size.Len(), pivot.Len()) {
		if was.At(k) != 0 {
			moved = moved.With(k, pivot.At(k)*size.At(k)/was.At(k))
		}
	}
	if moved == pivot {
		return nil
	}
	return change.Ops{&change.OwnSet{Of: c.Of(item.ID, "pivot"), Value: moved}}
}

// Remade returns the operations that send all that a property was set to, its own value and its pins, through a function.
func (c *Context) Remade(item *scene.Item, spec *scene.Spec, through func(scene.Value) scene.Value) change.Ops {
	state, of := item.State(spec.Key), c.Of(item.ID, spec.Key)
	ops := change.Ops{&change.OwnSet{Of: of, Value: through(state.OwnOr(spec))}}
	if pins := slices.Clone(state.Pins); len(pins) > 0 {
		for k := range pins {
			pins[k] = pins[k].Through(through)
		}
		ops = append(ops, &change.PinsPut{Of: of, Pins: pins})
	}
	return ops
}

// Own returns the operation that sets what a property is under its links: a pin at the playhead where it has pins, which would
// hide its own value, or where all that is set is pinned.
func (c *Context) Own(item *scene.Item, spec *scene.Spec, value scene.Value) (op change.Op, pinned bool) {
	if len(item.State(spec.Key).Pins) > 0 || c.AutoPin && !spec.NoPins {
		return c.Pin(item, spec, value), true
	}
	return &change.OwnSet{Of: c.Of(item.ID, spec.Key), Value: value}, false
}

// Pin returns the operation that pins a value at the playhead, eased like the pin before it; on a path, with handles that keep it
// smooth. A pin that is there keeps what it has.
func (c *Context) Pin(item *scene.Item, spec *scene.Spec, value scene.Value) change.Op {
	state := item.State(spec.Key)
	pin := scene.Pin{Frame: c.Frame, Value: value, Easing: curve.Smooth}
	if spec.Jumps() {
		pin.Easing = curve.Hold
	}
	at, there := state.PinAt(c.Frame)
	if there {
		pin = state.Pins[at]
		pin.Value = value
	} else {
		if at > 0 {
			pin.Easing = state.Pins[at-1].Easing
		}
		if scene.Pathed(state.Pins) {
			pin = scene.Rounded(slices.Insert(slices.Clone(state.Pins), at, pin), at)
		}
	}
	return &change.PinsPut{Of: c.Of(item.ID, spec.Key), Pins: []scene.Pin{pin}}
}
