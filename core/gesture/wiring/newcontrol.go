package wiring

import (
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// AddControl puts a new control at the end of an item's drawer. What is left open of the control
// is filled in from its kind, or from the first property that it is to drive.
type AddControl struct {
	Item    scene.ID      `json:"item"`            // empty: a new null
	Owner   string        `json:"owner,omitempty"` // how that is called; empty: Panel
	Control scene.Control `json:"control" ts:"part"`
	Drives  []scene.Ref   `json:"drives,omitempty"` // the properties that it drives at once
}

// Do returns the operation that adds the control.
func (g *AddControl) Do(c *gesture.Context) (gesture.Result, error) {
	r := gesture.NewRig(c)
	var item *scene.Item
	if g.Item == "" {
		name := g.Owner
		if strings.TrimSpace(name) == "" {
			name = "Panel"
		}
		item = r.Null(name, [3]float64{})
		r.Made = nil
	} else {
		on, err := c.Drawer(g.Item)
		if err != nil {
			return gesture.Result{}, err
		}
		item = on
	}
	kind := g.Control.Kind.Info()
	if kind == nil {
		return gesture.Result{}, fmt.Errorf("choose what kind of control it is")
	}
	control := *g.Control.Clone()
	control.ID = c.NewID()
	for k := range control.Poses {
		control.Poses[k].ID = c.NewID()
		if control.Poses[k].Easing == "" {
			control.Poses[k].Easing = curve.Smooth
		}
	}
	if control.Name == "" {
		control.Name = gesture.FreeName(kind.Name, gesture.ControlNames(item))
	}
	if control.SoftMin == 0 && control.SoftMax == 0 {
		control.SoftMin, control.SoftMax = kind.Begins.SoftMin, kind.Begins.SoftMax
	}
	if len(control.Options) == 0 {
		control.Options = slices.Clone(kind.Begins.Options)
	}
	if control.Default.Absent() {
		control.Default = kind.Begins.Default
		if control.Kind == scene.PointWidget && control.Depth {
			control.Default = scene.Pt(0, 0, 0)
		}
	}
	if len(control.Poses) > 0 {
		if control.Kind == scene.Fader {
			for k := range control.Poses { // evenly over its range
				control.Poses[k].At = control.SoftMin + float64((control.SoftMax-control.SoftMin)*float64(k))/float64(max(1, len(control.Poses)-1))
			}
		}
		control.SetPoses(control.Poses)
	}
	add := &change.ControlAdd{On: c.On(item.ID), Value: &control, At: -1}
	r.Ops = append(r.Ops, add)
	r.Made = append(r.Made, control.ID)
	if len(g.Drives) == 0 {
		return r.Result, nil
	}
	return r.Result, drive(r, item, &control, g.Drives)
}

// drive has a control that is being made drive properties, which stay as they are: it begins with the value of the first one,
// and has a range that holds it.
func drive(r *gesture.Rig, item *scene.Item, control *scene.Control, targets []scene.Ref) error {
	c := r.Context
	if len(control.Poses) > 0 { // its links hold what there is, at all stops
		for _, ref := range targets {
			on, target, err := c.Property(ref)
			if err != nil {
				return err
			}
			l := &scene.Link{ID: c.NewID(), Kind: scene.Posed, Source: scene.Ref{Item: item.ID, Property: string(control.ID)}, Component: ref.Component, Gain: 1}
			for _, s := range control.Poses {
				l.Hold(s.ID, c.Plan().Value(ref))
			}
			if target.ReadOnly {
				return fmt.Errorf("%s: %s is read-only", on.Name, target.Name)
			}
			r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(ref.Item, ref.Property), At: -1, Link: l})
		}
		return nil
	}
	ops, note, err := linksOfNew(c, &Link{Source: scene.Ref{Item: item.ID, Property: string(control.ID)}, Targets: targets}, control)
	if err != nil {
		return err
	}
	r.Ops, r.Note = append(r.Ops, ops...), note
	return nil
}

// ControlFor returns a control that suits a property: of its kind, unit and range, at the value that it has.
func ControlFor(c *gesture.Context, ref scene.Ref) (*scene.Control, error) {
	item, spec, err := c.Property(scene.Ref{Item: ref.Item, Property: ref.Property})
	if err != nil {
		return nil, err
	}
	kind, ok := scene.WidgetFor(spec.Type)
	if !ok {
		return nil, fmt.Errorf("%s: no control suits %s", item.Name, spec.Name)
	}
	value := c.Plan().Value(ref)
	if ref.Component != "" {
		part := *spec
		part.Type, part.Options = scene.Number, nil
		spec, kind = &part, scene.Fader
	}
	out := gesture.ControlFor(spec, kind, value)
	if value.Len() == 1 || spec.Type == scene.Point2 || spec.Type == scene.Point3 {
		if wide := reaching(out, value, spec); wide != nil {
			out = wide
		}
	}
	return out, nil
}
