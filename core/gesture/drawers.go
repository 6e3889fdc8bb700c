package gesture

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/formula"
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
func (g *MoveControl) Do(c *Context) (Result, error) {
	from, control, err := c.controlOf(g.Item, g.Control)
	if err != nil {
		return Result{}, err
	}
	onto, err := c.item(g.Onto)
	if err == nil && from != onto {
		_, err = c.drawer(g.Onto)
	}
	if err != nil {
		return Result{}, err
	}
	if from == onto {
		return Result{Ops: change.Ops{&change.ControlMove{On: c.on(from.ID), Control: control.ID, At: g.At}}}, nil
	}
	moved := control.Clone()
	moved.Name = freeName(control.Name, controlNames(onto))
	r := Result{Ops: c.again(from, onto, moved, g.At), Made: []scene.ID{control.ID}}
	r.Ops = append(r.Ops, c.redirect(scene.Ref{Item: from.ID, Property: string(control.ID)}, onto.ID)...)
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
func (g *SetDepth) Do(c *Context) (Result, error) {
	item, control, err := c.controlOf(g.Item, g.Control)
	if err != nil || control.Depth == g.Depth {
		return Result{}, err
	}
	if control.Kind != scene.PointWidget {
		return Result{}, fmt.Errorf("%s is not a point, so it has no depth", control.Name)
	}
	altered := control.Clone()
	altered.Depth = g.Depth
	altered.Default = deepened(control.Default, g.Depth)
	return Result{Ops: c.again(item, item, altered, slices.Index(item.Controls, control))}, nil
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

// drawer returns an item that can be given a control: one that is shown once, for a control that is shown many times with what it is
// on could not be told from the others.
func (c *Context) drawer(id scene.ID) (*scene.Item, error) {
	item, err := c.item(id)
	if err != nil {
		return nil, err
	}
	for up := c.Composition.Item(item.Parent); up != nil; up = c.Composition.Item(up.Parent) {
		if up.Kind == scene.CopiesItem {
			return nil, fmt.Errorf("%s is shown many times by %s, so it can't have a control of its own; put it on %s, or on an item outside", item.Name, up.Name, up.Name)
		}
	}
	return item, nil
}

func (c *Context) controlOf(id, control scene.ID) (*scene.Item, *scene.Control, error) {
	item, err := c.item(id)
	if err != nil {
		return nil, nil, err
	}
	if found := item.Control(control); found != nil {
		return item, found, nil
	}
	return nil, nil, fmt.Errorf("%s no longer has that control; it may have been removed in another window", item.Name)
}

// again takes a control away and puts it onto an item, as it is to be now, with its value, pins and links.
func (c *Context) again(from, onto *scene.Item, control *scene.Control, at int) change.Ops {
	add := &change.ControlAdd{On: c.on(onto.ID), Value: control, At: at}
	if state := from.States[string(control.ID)]; state != nil {
		add.State = state.Clone()
		add.Weights = from.Clone().TakeWeights(state.Links...)
		if control.Kind == scene.PointWidget {
			add.State.Own = deepened(state.Own, control.Depth)
			for k, pin := range add.State.Pins {
				add.State.Pins[k].Value = deepened(pin.Value, control.Depth)
			}
			add.State.Links = slices.DeleteFunc(add.State.Links, func(l *scene.Link) bool { return l.Component == "z" && !control.Depth })
		}
	}
	return change.Ops{&change.ControlRemove{On: c.on(from.ID), Control: control.ID}, add}
}

// redirect returns the operations that lead all links, formulas and graphs from a property of one item to that of another.
func (c *Context) redirect(from scene.Ref, to scene.ID) (ops change.Ops) {
	lead := func(l *scene.Link) *scene.Link {
		led := l.Clone()
		if led.Source.Item == from.Item && led.Source.Property == from.Property {
			led.Source.Item = to
		}
		if l.Graph == "" {
			led.Formula, led.Draft = formula.Redirected(l.Formula, from, to), formula.Redirected(l.Draft, from, to)
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
					ops = append(ops, &change.LinkSet{Of: c.of(on, key), Link: led})
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
			ops = append(ops, &change.RosterLinkSet{In: c.in(), Value: altered})
		}
	}
	for _, g := range c.Composition.Graphs {
		for _, slip := range g.Slips {
			altered := slip.Clone()
			if slip.Kind != scene.NoteSlip {
				altered.Text = formula.Redirected(slip.Text, from, to)
			}
			same := altered.Text == slip.Text
			for in, text := range slip.Fields {
				altered.Fields[in] = formula.Redirected(text, from, to)
				same = same && altered.Fields[in] == text
			}
			if !same {
				ops = append(ops, &change.SlipSet{In: c.in(), Graph: g.ID, Value: altered})
			}
		}
	}
	return ops
}
