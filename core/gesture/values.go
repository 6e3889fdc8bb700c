package gesture

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// Set gives properties a value. A property that moves with pins gets a pin at the playhead;
// any other, a new own value.
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
				return Result{}, fmt.Errorf("%s: one number is wanted for %s.%s", item.Name, spec.Name, ref.Component)
			}
			value = c.Plan.Own(item.ID, spec.Key).With(k, value.At(0))
		}
		if state := item.State(spec.Key); len(state.Pins) > 0 {
			r.Ops = append(r.Ops, c.pin(item, spec, value))
		} else {
			r.Ops = append(r.Ops, &change.OwnSet{Of: c.of(item.ID, spec.Key), Value: value})
		}
	}
	return r, nil
}

// pin returns the operation that pins a value at the playhead, eased like the pin before it.
func (c *Context) pin(item *scene.Item, spec *scene.Spec, value scene.Value) change.Op {
	state := item.State(spec.Key)
	easing := curve.Smooth
	if spec.Type.Holds() || spec.Whole {
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
	Targets []scene.Ref `json:"targets"`
	Drawer  scene.ID    `json:"drawer"` // all controls of this item as well
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
		put = append(put, c.pin(item, spec, c.Plan.Own(item.ID, spec.Key)))
		if _, there := item.State(spec.Key).PinAt(c.Frame); there {
			drop = append(drop, c.drop(item, spec, []int{c.Frame})...)
		} else {
			g.Toggle = false
		}
	}
	if g.Toggle {
		return Result{Ops: drop}, nil
	}
	return Result{Ops: put}, nil
}

// Link makes one source drive many targets.
type Link struct {
	Source  scene.Ref   `json:"source"`
	Targets []scene.Ref `json:"targets"`
}

// Do returns the operations that add the links. Targets that the source does not fit are left
// out and told in the note; it is an error if none fits.
func (g *Link) Do(c *Context) (Result, error) {
	_, source, err := c.property(g.Source)
	if err != nil {
		return Result{}, err
	}
	var r Result
	var refused error
	for _, ref := range g.Targets {
		item, target, err := c.property(ref)
		if err != nil {
			return Result{}, err
		}
		if ref.Item == g.Source.Item && ref.Property == g.Source.Property {
			refused = fmt.Errorf("%s: %s cannot drive itself", item.Name, target.Name)
			continue
		}
		fit, err := link.FitOf(source, g.Source.Component, target, ref.Component)
		if err != nil {
			refused = err
			continue
		}
		if fit.Note != "" {
			r.Note = target.Name + ": " + fit.Note
		}
		r.Ops = append(r.Ops, &change.LinkAdd{
			Of: c.of(ref.Item, ref.Property), At: -1,
			Link: &scene.Link{ID: c.NewID(), Kind: scene.Follow, Source: g.Source, Component: ref.Component, Gain: fit.Gain, Offset: fit.Offset},
		})
	}
	if len(r.Ops) == 0 && refused != nil {
		return Result{}, refused
	}
	if refused != nil {
		r.Note = fmt.Sprintf("%d of %d wired; not all: %s", len(r.Ops), len(g.Targets), refused)
	}
	return r, nil
}
