package wiring

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// Gather lays properties onto a null as controls of its own, which drive them from then on: their
// values, pins and limits go over to the controls, and nothing changes in the picture.
type Gather struct {
	Refs []scene.Ref `json:"refs"`
	Onto scene.ID    `json:"onto"` // empty: a new null
}

// Do returns the operations that add the controls and wire the properties to them.
func (g *Gather) Do(c *gesture.Context) (gesture.Result, error) {
	r := gesture.NewRig(c)
	if g.Onto == "" {
		err := GatherOnto(r, r.Null("Panel", [3]float64{}), g.Refs)
		return r.Result, err
	}
	onto, err := c.Drawer(g.Onto)
	if err != nil {
		return gesture.Result{}, err
	}
	err = GatherOnto(r, onto, g.Refs)
	return r.Result, err
}

// GatherOnto adds the controls to an item and wires the properties to them.
func GatherOnto(r *gesture.Rig, onto *scene.Item, refs []scene.Ref) error {
	c, taken := r.Context, gesture.ControlNames(onto)
	for _, ref := range refs {
		item, spec, err := c.Property(scene.Ref{Item: ref.Item, Property: ref.Property})
		if err != nil {
			return err
		}
		kind, ok := scene.WidgetFor(spec.Type)
		if !ok || spec.ReadOnly || ref.Item == onto.ID {
			return fmt.Errorf("%s: %s can't become a control on %s", item.Name, spec.Name, onto.Name)
		}
		if by := c.Drivers(item, spec, ""); len(by) > 0 {
			return fmt.Errorf("%s: %s is already driven by %s; turn its source into a control instead", item.Name, spec.Name, by[len(by)-1].Name(c.Composition))
		}
		control := gesture.ControlFor(spec, kind, c.Plan().Own(item.ID, spec.Key))
		control.ID = c.NewID()
		control.Name = item.Name + " " + spec.Name
		if len(refs) == 1 {
			control.Name = spec.Name
		}
		control.Name = gesture.FreeName(gesture.ClipName(control.Name), taken)
		taken[control.Name] = true
		r.Ops = append(r.Ops, &change.ControlAdd{On: c.On(onto.ID), Value: control, At: -1})
		r.Made = append(r.Made, control.ID)
		if pins := item.State(spec.Key).Pins; len(pins) > 0 {
			drop := make([]int, len(pins))
			for i, p := range pins {
				drop[i] = p.Frame
			}
			r.Ops = append(r.Ops, &change.PinsPut{Of: c.Of(onto.ID, string(control.ID)), Pins: pins}, &change.PinsDrop{Of: c.Of(item.ID, spec.Key), Frames: drop})
		}
		r.Ops = append(r.Ops, &change.LinkAdd{
			Of: c.Of(item.ID, spec.Key), At: -1,
			Link: &scene.Link{ID: c.NewID(), Kind: scene.Follow, Source: scene.Ref{Item: onto.ID, Property: string(control.ID)}, Gain: 1},
		})
	}
	return nil
}
