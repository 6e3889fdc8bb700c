package pins

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// Set gives properties a value. A property that moves with pins gets a pin at the playhead; one that
// is driven is posed; any other gets a new own value.
type Set struct {
	Targets []scene.Ref `json:"targets"` // with a component: only that one is set
	Value   scene.Value `json:"value"`
}

// Do returns the operations that set the values.
func (g *Set) Do(c *gesture.Context) (gesture.Result, error) {
	return g.after(c, map[scene.Ref]scene.Value{})
}

// after is Do where properties were set already, of which another component may be meant.
func (g *Set) after(c *gesture.Context, made map[scene.Ref]scene.Value) (gesture.Result, error) {
	var r gesture.Result
	for _, ref := range g.Targets {
		item, spec, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
		}
		of := scene.Ref{Item: item.ID, Property: spec.Key}
		value := g.Value
		if ref.Component != "" {
			k, ok := spec.Type.Component(ref.Component)
			if !ok || value.Len() != 1 {
				return gesture.Result{}, fmt.Errorf("%s: enter one number for %s.%s", item.Name, spec.Name, ref.Component)
			}
			value = c.Plan().Own(item.ID, spec.Key).With(k, value.At(0))
			if before, there := made[of]; there {
				value = before.With(k, value.At(k))
			}
		}
		if c.Driven(item, spec, ref.Component) {
			now := c.Plan().Value(of)
			if before, there := made[of]; there {
				now = before
			}
			if k, _ := spec.Type.Component(ref.Component); ref.Component != "" {
				value = now.With(k, g.Value.At(0))
			}
			if err := value.Fits(spec.Type); err != nil {
				return gesture.Result{}, fmt.Errorf("%s: %s: %w", item.Name, spec.Name, err)
			}
			made[of] = value
			r.Poses = append(r.Poses, gesture.Pose{Ref: of, Value: value})
			continue
		}
		made[of] = value
		op, pinned := c.Own(item, spec, value)
		r.Ops = append(r.Ops, op)
		if spec.Key == "size" && !pinned {
			r.Ops = append(r.Ops, c.PivotAlong(item, value)...)
		}
	}
	return r, nil
}

// SetEach gives several properties a value each, as hands do that have hold of several at once.
type SetEach struct {
	Sets []Set `json:"sets"`
}

// Do returns the operations that set the values.
func (g *SetEach) Do(c *gesture.Context) (r gesture.Result, err error) {
	made := map[scene.Ref]scene.Value{}
	for k := range g.Sets {
		one, err := g.Sets[k].after(c, made)
		if err != nil {
			return gesture.Result{}, err
		}
		r.Ops, r.Poses = append(r.Ops, one.Ops...), append(r.Poses, one.Poses...)
	}
	return r, nil
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
func (g *Pin) Do(c *gesture.Context) (gesture.Result, error) {
	if g.At != nil {
		c.Frame = *g.At
	}
	targets := g.Targets
	if g.Drawer != "" {
		item, err := c.Item(g.Drawer)
		if err != nil {
			return gesture.Result{}, err
		}
		for _, control := range item.Controls {
			targets = append(targets, scene.Ref{Item: item.ID, Property: string(control.ID)})
		}
		if len(item.Controls) == 0 {
			return gesture.Result{}, fmt.Errorf("%s has no controls to pin; add one with C", item.Name)
		}
	}
	var put, drop change.Ops
	for _, ref := range targets {
		item, spec, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
		}
		own := c.Plan().Own(item.ID, spec.Key)
		at, there := item.State(spec.Key).PinAt(c.Frame)
		if !there || item.State(spec.Key).Pins[at].Value != own {
			put = append(put, c.Pin(item, spec, own))
		}
		if there {
			drop = append(drop, without(c, item, spec, []int{c.Frame})...)
		} else {
			g.Toggle = false
		}
	}
	switch {
	case g.Toggle:
		return gesture.Result{Ops: drop}, nil
	case len(put) == 0 && len(drop) > 0:
		return gesture.Result{Note: "pinned at this frame already; a pin that is selected is removed by Del"}, nil
	}
	return gesture.Result{Ops: put}, nil
}
