package wiring

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// MoveControl puts a control at another place of its drawer, or into another drawer: all that it drives, and what drives it,
// goes along.
type MoveControl struct {
	Item    scene.ID `json:"item"`
	Control scene.ID `json:"control"`
	Onto    scene.ID `json:"onto"`
	At      int      `json:"at"` // the place in that drawer; -1 is its end
}

// Do returns the operations that move the control and lead the links on.
func (g *MoveControl) Do(c *gesture.Context) (gesture.Result, error) {
	from, control, err := c.ControlOf(g.Item, g.Control)
	if err != nil {
		return gesture.Result{}, err
	}
	onto, err := c.Item(g.Onto)
	if err == nil && from != onto {
		_, err = c.Drawer(g.Onto)
	}
	if err != nil {
		return gesture.Result{}, err
	}
	if from == onto {
		return gesture.Result{Ops: change.Ops{&change.ControlMove{On: c.On(from.ID), Control: control.ID, At: g.At}}}, nil
	}
	moved := control.Clone()
	moved.Name = gesture.FreeName(control.Name, gesture.ControlNames(onto))
	r := gesture.Result{Ops: Again(c, from, onto, moved, g.At), Made: []scene.ID{control.ID}}
	r.Ops = append(r.Ops, redirect(c, scene.Ref{Item: from.ID, Property: string(control.ID)}, onto.ID)...)
	return r, nil
}

// SetDepth gives a control that is a point its third component, or takes it away, with its values and pins. What it drives
// follows on.
type SetDepth struct {
	Item    scene.ID `json:"item"`
	Control scene.ID `json:"control"`
	Depth   bool     `json:"depth"`
}

// Do returns the operations that put the control in its own place, as it is then.
func (g *SetDepth) Do(c *gesture.Context) (gesture.Result, error) {
	item, control, err := c.ControlOf(g.Item, g.Control)
	if err != nil || control.Depth == g.Depth {
		return gesture.Result{}, err
	}
	if control.Kind != scene.PointWidget {
		return gesture.Result{}, fmt.Errorf("%s is not a point, so it has no depth", control.Name)
	}
	altered := control.Clone()
	altered.Depth = g.Depth
	altered.Default = deepened(control.Default, g.Depth)
	return gesture.Result{Ops: Again(c, item, item, altered, slices.Index(item.Controls, control))}, nil
}

// deepened returns a point with two components or three.
func deepened(v scene.Value, depth bool) scene.Value {
	if v.Absent() {
		return v
	}
	if depth {
		return scene.Pt(v.At(0), v.At(1), 0)
	}
	return scene.Pt(v.At(0), v.At(1))
}

// Again takes a control away and puts it onto an item, as it is to be now, with its value, pins and links.
func Again(c *gesture.Context, from, onto *scene.Item, control *scene.Control, at int) change.Ops {
	add := &change.ControlAdd{On: c.On(onto.ID), Value: control, At: at}
	if state := from.States[string(control.ID)]; state != nil {
		add.State = state.Clone()
		add.Weights = from.Clone().TakeWeights(state.Links...)
		if control.Kind == scene.PointWidget {
			add.State.Own = deepened(state.Own, control.Depth)
			for k, pin := range add.State.Pins {
				add.State.Pins[k] = pin.Through(func(v scene.Value) scene.Value { return deepened(v, control.Depth) })
			}
			add.State.Links = slices.DeleteFunc(add.State.Links, func(l *scene.Link) bool { return l.Component == "z" && !control.Depth })
		}
	}
	return change.Ops{&change.ControlRemove{On: c.On(from.ID), Control: control.ID}, add}
}

// redirect returns the operations that lead all links, formulas and graphs from a property of one item to that of another.
func redirect(c *gesture.Context, from scene.Ref, to scene.ID) (ops change.Ops) {
	lead := func(l *scene.Link) *scene.Link {
		led := l.Clone()
		if led.Source.Item == from.Item && led.Source.Property == from.Property {
			led.Source.Item = to
		}
		if l.Graph == "" {
			led.Formula, led.Draft = syntax.Redirected(l.Formula, from, to), syntax.Redirected(l.Draft, from, to)
		}
		if led.Source == l.Source && led.Formula == l.Formula && led.Draft == l.Draft {
			return nil
		}
		return led
	}
	for _, item := range c.Composition.Items {
		for key, state := range item.States {
			for _, l := range state.Links {
				on := item.ID
				if on == from.Item && key == from.Property { // it went along
					on = to
				}
				if led := lead(l); led != nil {
					ops = append(ops, &change.LinkSet{Of: c.Of(on, key), Link: led})
				}
			}
		}
	}
	for _, s := range c.Composition.RosterLinks {
		altered := s.Clone()
		led := lead(s.Link)
		if led != nil {
			altered.Link = led
		}
		weighed := s.WeightFrom != nil && s.WeightFrom.Item == from.Item && s.WeightFrom.Property == from.Property
		if weighed {
			altered.WeightFrom.Item = to
		}
		if led != nil || weighed {
			ops = append(ops, &change.RosterLinkSet{In: c.In(), Value: altered})
		}
	}
	for _, g := range c.Composition.Graphs {
		for _, slip := range g.Slips {
			altered := slip.Clone()
			if slip.Kind != scene.NoteSlip {
				altered.Text = syntax.Redirected(slip.Text, from, to)
			}
			same := altered.Text == slip.Text
			for in, text := range slip.Fields {
				altered.Fields[in] = syntax.Redirected(text, from, to)
				same = same && altered.Fields[in] == text
			}
			if !same {
				ops = append(ops, &change.SlipSet{In: c.In(), Graph: g.ID, Value: altered})
			}
		}
	}
	return ops
}
