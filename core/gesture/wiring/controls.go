package wiring

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// CopyControl puts a copy of a control, with its value and pins, at the end of another drawer.
type CopyControl struct {
	Item    scene.ID `json:"item"`
	Control scene.ID `json:"control"`
	Onto    scene.ID `json:"onto"`
	// Wired takes along what drives the control and what it drives: where it drives its own item,
	// the copy drives the same of the item it comes to; elsewhere the copy's links come on top.
	Wired bool `json:"wired"`
}

// Do returns the operations that make the copy.
func (g *CopyControl) Do(c *gesture.Context) (gesture.Result, error) {
	from, control, err := c.ControlOf(g.Item, g.Control)
	if err != nil {
		return gesture.Result{}, err
	}
	onto, err := c.Drawer(g.Onto)
	if err != nil {
		return gesture.Result{}, err
	}
	made := control.Clone()
	made.ID, made.Laid = c.NewID(), nil
	made.Name = gesture.FreeName(control.Name, gesture.ControlNames(onto))
	add := &change.ControlAdd{On: c.On(onto.ID), Value: made, At: -1}
	if state := from.States[string(control.ID)]; state != nil {
		add.State = state.Clone()
		add.State.Links = nil
	}
	r := gesture.Result{Ops: change.Ops{add}, Made: []scene.ID{made.ID}}
	if !g.Wired {
		return r, nil
	}
	for _, l := range from.State(string(control.ID)).Links {
		copied, weights := Renewed(c, from, l)
		r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(onto.ID, string(made.ID)), Link: copied, At: -1, Weights: weights})
	}
	lost := 0
	for _, item := range c.Composition.Items {
		for _, spec := range item.Specs() {
			for _, l := range item.State(spec.Key).Links {
				if l.Source.Item != from.ID || l.Source.Property != string(control.ID) {
					continue
				}
				target := item
				if item == from {
					if target = onto; onto.Spec(spec.Key) == nil {
						lost++
						continue
					}
				}
				copied, weights := Renewed(c, item, l)
				copied.Source.Item, copied.Source.Property = onto.ID, string(made.ID)
				r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(target.ID, spec.Key), Link: copied, At: -1, Weights: weights})
			}
		}
	}
	if lost > 0 {
		r.Note = fmt.Sprintf("%s: %s doesn't have the properties driven on %s", gesture.LeftOut(lost), onto.Name, from.Name)
	}
	return r, nil
}

// Renewed returns a copy of a link of an item with an id of its own, and what was set of its weight.
func Renewed(c *gesture.Context, item *scene.Item, l *scene.Link) (*scene.Link, scene.Weights) {
	out := l.Clone()
	out.ID = c.NewID()
	return out, weightsFor(c, out.ID, item, l)
}

// weightsFor returns a copy of what was set of the weight of a link, for another link.
func weightsFor(c *gesture.Context, id scene.ID, item *scene.Item, l *scene.Link) scene.Weights {
	was := item.WeightsOf(l)
	if was == nil {
		return nil
	}
	out := scene.Weights{}
	var carry func(from, to scene.ID)
	carry = func(from, to scene.ID) {
		s := was[scene.WeightKey(from)]
		if s == nil {
			return
		}
		out[scene.WeightKey(to)] = s
		for _, on := range s.Links {
			old := on.ID
			on.ID = c.NewID()
			carry(old, on.ID)
		}
	}
	carry(l.ID, id)
	return out
}
