package change

import (
	"fmt"
	"maps"
	"reflect"
	"slices"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// ControlAdd puts a control on an item, with what was set of it if it stood there before.
type ControlAdd struct {
	On
	Value *scene.Control `json:"value"`
	State *scene.State   `json:"state,omitempty"`
	At    int            `json:"at"`
	// What was set of the weights of the links on it.
	Weights scene.Weights `json:"weights,omitempty"`
}

func (o *ControlAdd) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if o.Value == nil {
		return nil, Effect{}, fmt.Errorf("no control was given")
	}
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	if len(item.Controls) >= scene.MaxControls {
		return nil, Effect{}, fmt.Errorf("%s has %d controls, which is the limit for one item", item.Name, scene.MaxControls)
	}
	effect := o.structure()
	var links []*scene.Link
	if o.State != nil {
		if err := scene.CheckState(o.Value.Spec(), o.State); err != nil {
			return nil, Effect{}, err
		}
		links = o.State.Links
		effect.wired = true
	}
	if err := o.Weights.Check(links...); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	if err := claim(p, append(scene.LinkIDs(links, o.Weights.Links()), o.Value.ID)...); err != nil {
		return nil, Effect{}, err
	}
	if o.State != nil {
		*item.Edit(string(o.Value.ID)) = *o.State.Clone()
		item.Tidy(string(o.Value.ID))
	}
	item.PutWeights(o.Weights)
	item.Controls = slices.Insert(item.Controls, place(o.At, len(item.Controls)), o.Value.Clone())
	return &ControlRemove{o.On, o.Value.ID}, effect, nil
}

// ControlRemove takes a control off its item. Links that have it as their source stay, and are
// passed over until it comes back.
type ControlRemove struct {
	On
	Control scene.ID `json:"control"`
}

func findControl(item *scene.Item, id scene.ID) (*scene.Control, int, error) {
	control := item.Control(id)
	if control == nil {
		return nil, 0, fmt.Errorf("%s has no control with the id %q; it may have been removed in another window", item.Name, clip(string(id)))
	}
	return control, slices.Index(item.Controls, control), nil
}

func (o *ControlRemove) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	control, at, err := findControl(item, o.Control)
	if err != nil {
		return nil, Effect{}, err
	}
	state := item.States[string(o.Control)]
	inverse := &ControlAdd{On: o.On, Value: control, State: state, At: at}
	item.Controls = slices.Delete(item.Controls, at, at+1)
	if len(item.Controls) == 0 {
		item.Controls = nil
	}
	delete(item.States, string(o.Control))
	item.Tidy(string(o.Control))
	p.Release(o.Control)
	if state != nil {
		inverse.Weights = item.TakeWeights(state.Links...)
		p.Release(scene.LinkIDs(state.Links, inverse.Weights.Links())...)
	}
	return inverse, o.structure(), nil
}

// ControlSet gives a control another name, note, range or default. What kind of value it holds
// cannot be changed.
type ControlSet struct {
	On
	Value *scene.Control `json:"value"`
}

func (o *ControlSet) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if o.Value == nil {
		return nil, Effect{}, fmt.Errorf("no control was given")
	}
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	old, at, err := findControl(item, o.Value.ID)
	if err != nil {
		return nil, Effect{}, err
	}
	if old.Kind != o.Value.Kind || old.Depth != o.Value.Depth {
		return nil, Effect{}, fmt.Errorf("the kind of %s (%s) can't be changed; add another control instead", old.Name, old.Kind)
	}
	fresh := o.Value.Clone()
	item.Controls[at] = fresh
	e := o.effect()
	e.Property, e.Touch = string(fresh.ID), touchOf(old, fresh)
	return &ControlSet{o.On, old}, e, nil
}

// touchOf returns what it touches that a control becomes another one.
func touchOf(old, fresh *scene.Control) Touch {
	answers := func(c *scene.Control) []scene.PoseStop { // but for the names of its stops
		stops := slices.Clone(c.Poses)
		for k := range stops {
			stops[k].Name = ""
		}
		return stops
	}
	was, is := answers(old), answers(fresh)
	same := func(a, b scene.PoseStop) bool { return a.ID == b.ID }
	a, b := *old.Spec(), *fresh.Spec()
	a.Name, a.SoftMin, a.SoftMax, a.Step, a.Options = b.Name, b.SoftMin, b.SoftMax, b.Step, b.Options
	switch {
	case !reflect.DeepEqual(a, b) || !slices.EqualFunc(was, is, same):
		return Structure
	case !reflect.DeepEqual(was, is) && old.Name != fresh.Name:
		return Structure
	case !reflect.DeepEqual(was, is):
		return Responses
	case old.Name != fresh.Name:
		return Names
	}
	return Looks
}

// ControlMove puts a control at another place of its drawer.
type ControlMove struct {
	On
	Control scene.ID `json:"control"`
	At      int      `json:"at"`
}

func (o *ControlMove) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	control, at, err := findControl(item, o.Control)
	if err != nil {
		return nil, Effect{}, err
	}
	item.Controls = slices.Delete(item.Controls, at, at+1)
	item.Controls = slices.Insert(item.Controls, place(o.At, len(item.Controls)), control)
	return &ControlMove{o.On, o.Control, at}, o.structure(), nil
}

// OwnSet sets the own value of a property; an absent value gives it its default again.
type OwnSet struct {
	Of
	Value scene.Value `json:"value"`
}

func (o *OwnSet) apply(p *scene.Project) (Op, Effect, error) {
	item, spec, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if !o.Value.Absent() {
		if err := o.Value.Fits(spec.Type); err != nil {
			return nil, Effect{}, fmt.Errorf("%s: %s: %w", item.Name, spec.Name, err)
		}
	}
	known := item.States[o.Property] != nil
	state := item.Edit(o.Property)
	inverse := &OwnSet{o.Of, state.Own}
	state.Own = o.Value
	item.Tidy(o.Property)
	return inverse, o.value(item, known), nil
}

// PinsPut sets pins; one at a frame that had one takes its place.
type PinsPut struct {
	Of
	Pins []scene.Pin `json:"pins"`
	// Drop lists frames whose pins are taken away first.
	Drop []int `json:"drop,omitempty"`
}

func (o *PinsPut) apply(p *scene.Project) (Op, Effect, error) {
	item, spec, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	state := item.State(o.Property)
	pins := slices.Clone(state.Pins)
	at := func(pins []scene.Pin, frame int) (int, bool) {
		return slices.BinarySearchFunc(pins, frame, func(p scene.Pin, f int) int { return p.Frame - f })
	}
	inverse := &PinsPut{Of: o.Of, Drop: slices.Clone(o.Drop)}
	for _, pin := range o.Pins {
		inverse.Drop = append(inverse.Drop, pin.Frame)
	}
	slices.Sort(inverse.Drop)
	inverse.Drop = slices.Compact(inverse.Drop)
	for _, frame := range inverse.Drop {
		if k, ok := at(state.Pins, frame); ok {
			inverse.Pins = append(inverse.Pins, state.Pins[k])
		}
	}
	for _, frame := range o.Drop {
		if k, ok := at(pins, frame); ok {
			pins = slices.Delete(pins, k, k+1)
		}
	}
	for _, pin := range o.Pins {
		k, ok := at(pins, pin.Frame)
		if !ok {
			pins = slices.Insert(pins, k, pin)
		}
		pins[k] = pin
	}
	if err := scene.CheckPins(spec, pins); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	if len(pins) == 0 {
		pins = nil
	}
	known := item.States[o.Property] != nil
	item.Edit(o.Property).Pins = pins
	item.Tidy(o.Property)
	return inverse, o.value(item, known), nil
}

// PinsDrop takes away the pins at some frames; a frame without a pin is passed over.
type PinsDrop struct {
	Of
	Frames []int `json:"frames"`
}

func (o *PinsDrop) apply(p *scene.Project) (Op, Effect, error) {
	return (&PinsPut{Of: o.Of, Drop: o.Frames}).apply(p)
}

// PinsBeyond says how a property goes on behind its last pin.
type PinsBeyond struct {
	Of
	Beyond curve.Tail `json:"beyond"`
}

func (o *PinsBeyond) apply(p *scene.Project) (Op, Effect, error) {
	item, spec, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	trial := *item.State(o.Property)
	inverse := &PinsBeyond{o.Of, trial.Beyond}
	trial.Beyond = o.Beyond
	if err := scene.CheckState(spec, &trial); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	known := item.States[o.Property] != nil
	*item.Edit(o.Property) = trial
	item.Tidy(o.Property)
	return inverse, o.value(item, known), nil
}

// LimitsSet gives a property of an item, or a component of it, limits of the designer's own; absent ones take them back.
type LimitsSet struct {
	Of
	Min       *float64 `json:"min"`
	Max       *float64 `json:"max"`
	Component string   `json:"component,omitempty"` // empty: those of all components together
}

func (o *LimitsSet) apply(p *scene.Project) (Op, Effect, error) {
	item, spec, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if spec.Type == scene.Text && (o.Min != nil || o.Max != nil) {
		return nil, Effect{}, fmt.Errorf("%s: text has no limits", item.Name)
	}
	trial := *item.State(o.Property)
	inverse := &LimitsSet{Of: o.Of, Component: o.Component}
	if o.Component == "" {
		inverse.Min, inverse.Max = trial.Min, trial.Max
		trial.Min, trial.Max = o.Min, o.Max
	} else {
		was := trial.Limits[o.Component]
		inverse.Min, inverse.Max = was.Min, was.Max
		trial.Limits = maps.Clone(trial.Limits)
		if trial.Limits == nil {
			trial.Limits = map[string]scene.Limits{}
		}
		trial.Limits[o.Component] = scene.Limits{Min: o.Min, Max: o.Max}
		if o.Min == nil && o.Max == nil {
			if _, known := spec.Type.Component(o.Component); !known {
				return nil, Effect{}, fmt.Errorf("%s: %s has no component %s", item.Name, spec.Name, scene.Clip(o.Component))
			}
			delete(trial.Limits, o.Component)
		}
		if len(trial.Limits) == 0 {
			trial.Limits = nil
		}
	}
	if err := scene.CheckState(spec, &trial); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	*item.Edit(o.Property) = trial
	item.Tidy(o.Property)
	return inverse, o.structure(), nil
}

// BakedSet keeps what a bake put away; without a value, it is forgotten.
type BakedSet struct {
	Of
	Value *scene.Baked `json:"value"`
}

func (o *BakedSet) apply(p *scene.Project) (Op, Effect, error) {
	item, spec, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	trial := *item.State(o.Property)
	inverse := &BakedSet{o.Of, trial.Baked}
	trial.Baked = o.Value.Clone()
	if err := scene.CheckState(spec, &trial); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	known := item.States[o.Property] != nil
	*item.Edit(o.Property) = trial
	item.Tidy(o.Property)
	return inverse, o.value(item, known), nil
}
