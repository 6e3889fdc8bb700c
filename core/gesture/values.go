package gesture

import (
	"slices"

	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// Set gives properties a value. A property that moves with pins gets a pin at the playhead; one that
// is driven is posed; any other gets a new own value.
type Set struct {
	Targets []scene.Ref `json:"targets"` // with a component: only that one is set
	Value   scene.Value `json:"value"`
}

// Do returns the operations that set the values.
func (g *Set) Do(c *Context) (Result, error) {
	var r Result
	for _, ref := range g.Targets {
		item, spec, err := c.property(ref)
		if err != nil {
			return Result{}, err
		}
		value := g.Value
		if ref.Component != "" {
			k, ok := spec.Type.Component(ref.Component)
			if !ok || value.Len() != 1 {
				return Result{}, fmt.Errorf("%s: enter one number for %s.%s", item.Name, spec.Name, ref.Component)
			}
			value = c.Plan.Own(item.ID, spec.Key).With(k, value.At(0))
		}
		if c.driven(item, spec, ref.Component) {
			now := c.Plan.Value(scene.Ref{Item: item.ID, Property: spec.Key})
			if k, _ := spec.Type.Component(ref.Component); ref.Component != "" {
				value = now.With(k, g.Value.At(0))
			}
			if err := value.Fits(spec.Type); err != nil {
				return Result{}, fmt.Errorf("%s: %s: %w", item.Name, spec.Name, err)
			}
			r.Poses = append(r.Poses, Pose{scene.Ref{Item: item.ID, Property: spec.Key}, value})
			continue
		}
		if state := item.State(spec.Key); len(state.Pins) > 0 || c.AutoPin {
			r.Ops = append(r.Ops, c.pin(item, spec, value))
			continue
		}
		r.Ops = append(r.Ops, &change.OwnSet{Of: c.of(item.ID, spec.Key), Value: value})
		if spec.Key == "size" {
			r.Ops = append(r.Ops, c.pivotAlong(item, value)...)
		}
	}
	return r, nil
}

// pivotAlong takes the pivot of an item along when its size becomes another, so that one at an edge stays at it.
func (c *Context) pivotAlong(item *scene.Item, size scene.Value) change.Ops {
	spec, state := item.Spec("pivot"), item.State("pivot")
	if spec == nil || len(state.Pins) > 0 || c.driven(item, spec, "") {
		return nil
	}
	was, pivot := c.Plan.Own(item.ID, "size"), c.Plan.Own(item.ID, "pivot")
	moved := pivot
	for k := range min(was.Len(), size.Len(), pivot.Len()) {
		if was.At(k) != 0 {
			moved = moved.With(k, pivot.At(k)*size.At(k)/was.At(k))
		}
	}
	if moved == pivot {
		return nil
	}
	return change.Ops{&change.OwnSet{Of: c.of(item.ID, "pivot"), Value: moved}}
}

// remade returns the operations that send all that a property was set to, its own value and its pins, through a function.
func (c *Context) remade(item *scene.Item, spec *scene.Spec, through func(scene.Value) scene.Value) change.Ops {
	state, of := item.State(spec.Key), c.of(item.ID, spec.Key)
	ops := change.Ops{&change.OwnSet{Of: of, Value: through(state.OwnOr(spec))}}
	if pins := slices.Clone(state.Pins); len(pins) > 0 {
		for k := range pins {
			pins[k].Value = through(pins[k].Value)
		}
		ops = append(ops, &change.PinsPut{Of: of, Pins: pins})
	}
	return ops
}

// pin returns the operation that pins a value at the playhead, eased like the pin before it.
func (c *Context) pin(item *scene.Item, spec *scene.Spec, value scene.Value) change.Op {
	state := item.State(spec.Key)
	easing := curve.Smooth
	if spec.Jumps() {
		easing = curve.Hold
	}
	if at, there := state.PinAt(c.Frame); there {
		easing = state.Pins[at].Easing
	} else if at > 0 {
		easing = state.Pins[at-1].Easing
	}
	return &change.PinsPut{Of: c.of(item.ID, spec.Key), Pins: []scene.Pin{{Frame: c.Frame, Value: value, Easing: easing}}}
}

// Pin pins properties at the playhead at the own values they have there; with Toggle, where all
// of them have a pin there already, those pins are taken away.
type Pin struct {
	Targets []scene.Ref `json:"targets,omitempty"`
	Drawer  scene.ID    `json:"drawer,omitempty"` // all controls of this item as well
	Toggle  bool        `json:"toggle"`
	At      *int        `json:"at"` // another frame than that of the playhead
}

// Do returns the operations that set or take away the pins.
func (g *Pin) Do(c *Context) (Result, error) {
	if g.At != nil {
		c.Frame = *g.At
		c.Plan.Evaluate(float64(c.Frame))
	}
	targets := g.Targets
	if g.Drawer != "" {
		item, err := c.item(g.Drawer)
		if err != nil {
			return Result{}, err
		}
		for _, control := range item.Controls {
			targets = append(targets, scene.Ref{Item: item.ID, Property: string(control.ID)})
		}
		if len(item.Controls) == 0 {
			return Result{}, fmt.Errorf("%s has no controls to pin; add one with C", item.Name)
		}
	}
	var put, drop change.Ops
	for _, ref := range targets {
		item, spec, err := c.property(ref)
		if err != nil {
			return Result{}, err
		}
		own := c.Plan.Own(item.ID, spec.Key)
		at, there := item.State(spec.Key).PinAt(c.Frame)
		if !there || item.State(spec.Key).Pins[at].Value != own {
			put = append(put, c.pin(item, spec, own))
		}
		if there {
			drop = append(drop, c.drop(item, spec, []int{c.Frame})...)
		} else {
			g.Toggle = false
		}
	}
	switch {
	case g.Toggle:
		return Result{Ops: drop}, nil
	case len(put) == 0 && len(drop) > 0:
		return Result{Note: "pinned at this frame already; a pin that is selected is removed by Del"}, nil
	}
	return Result{Ops: put}, nil
}
