package gesture

import (
	"fmt"

	"wunderkammer/core/scene"
)

// Drawer returns an item that can be given a control: one that is shown once, for a control that is shown many times with what it is
// on could not be told from the others.
func (c *Context) Drawer(id scene.ID) (*scene.Item, error) {
	item, err := c.Item(id)
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

// ControlOf returns an item and one of its controls, or an error in plain words.
func (c *Context) ControlOf(id, control scene.ID) (*scene.Item, *scene.Control, error) {
	item, err := c.Item(id)
	if err != nil {
		return nil, nil, err
	}
	if found := item.Control(control); found != nil {
		return item, found, nil
	}
	return nil, nil, fmt.Errorf("%s no longer has that control; it may have been removed in another window", item.Name)
}

// ControlFor returns a control that can stand for a property.
func ControlFor(spec *scene.Spec, kind scene.Widget, value scene.Value) *scene.Control {
	control := &scene.Control{Kind: kind, SoftMin: spec.SoftMin, SoftMax: spec.SoftMax, Whole: spec.Whole, Depth: spec.Type == scene.Point3, Options: spec.Options, Default: value, Step: spec.Step}
	switch {
	case kind == scene.Fader && spec.Unit == scene.Degrees && spec.Min < -scene.MaxMagnitude:
		control.Kind = scene.DialWidget
	case kind == scene.Fader:
		control.Unit = spec.Unit
	}
	if kind == scene.Fader || kind == scene.PointWidget {
		if spec.Min > -scene.MaxMagnitude {
			control.Min = &spec.Min
		}
		if spec.Max < scene.MaxMagnitude {
			control.Max = &spec.Max
		}
	}
	return control
}
