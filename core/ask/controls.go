package ask

import (
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// ControlValue is a control as a script sees it: one of a composition, or one that the composition of a piece hands off.
type ControlValue struct {
	Name    string      `json:"name"` // Owner: control, as formulas write it, and as it is set
	Ref     scene.Ref   `json:"ref"`
	Heading string      `json:"heading,omitempty"` // of the controls from this one on
	Note    string      `json:"note,omitempty"`
	Type    scene.Type  `json:"type"`
	Unit    scene.Unit  `json:"unit,omitempty"`
	Min     *float64    `json:"min,omitempty"` // absent: there is no limit
	Max     *float64    `json:"max,omitempty"`
	SoftMin float64     `json:"softMin"` // the range of its fader, which its value may leave
	SoftMax float64     `json:"softMax"`
	Options []string    `json:"options,omitempty"` // of a choice; its value is their number, from 0
	Default scene.Value `json:"default"`
	Value   scene.Value `json:"value"`            // at the frame that was asked for
	Pinned  bool        `json:"pinned,omitempty"` // it has pins: what is set becomes one, at the frame
	Driven  bool        `json:"driven,omitempty"` // by links: it can't be set
}

// Controls lists the controls of a composition, with what they show at the frame at which the plan was evaluated last.
func Controls(plan *engine.Plan) []ControlValue {
	c := plan.Layout.Composition
	scope := wire.ScopeOf(plan.Layout, -1, nil, "")
	out := []ControlValue{}
	for _, item := range c.Items {
		for _, spec := range item.Added() {
			ref := scene.Ref{Item: item.ID, Property: spec.Key}
			one := ControlValue{
				Name: binding.NameOf(ref, scope), Ref: ref, Type: spec.Type, Unit: spec.Unit, SoftMin: spec.SoftMin, SoftMax: spec.SoftMax, Options: spec.Options, Default: spec.Default, Value: plan.Value(ref),
				Pinned: len(item.State(spec.Key).Pins) > 0, Driven: plan.Driven(item.ID, spec.Key),
			}
			one.Min, one.Max = Limits(item.Spec(spec.Key))
			from := item.Control(scene.ID(ref.Property))
			if h, ok := item.HandedAs(ref.Property); ok {
				from = h.Control
			}
			if from != nil {
				one.Heading, one.Note = from.Heading, from.Note
			}
			out = append(out, one)
		}
	}
	return out
}

// Limits returns the limits that hold of a property; nil where there is none.
func Limits(spec *scene.Spec) (low, high *float64) {
	limit := func(x float64) *float64 {
		if math.IsInf(x, 0) || spec.Type == scene.Text {
			return nil
		}
		return &x
	}
	return limit(spec.Min), limit(spec.Max)
}

// Named returns the control with a name: `Owner: control`, or the name of the control alone where no other has it.
func Named(plan *engine.Plan, name string) (scene.Ref, error) {
	if strings.ContainsAny(name, ":{") {
		return find(plan, wire.ScopeOf(plan.Layout, -1, nil, ""), name)
	}
	var found []scene.Ref
	var owners []string
	for _, item := range plan.Layout.Composition.Items {
		for _, spec := range item.Added() {
			if strings.EqualFold(spec.Name, strings.TrimSpace(name)) {
				found, owners = append(found, scene.Ref{Item: item.ID, Property: spec.Key}), append(owners, item.Name)
			}
		}
	}
	switch len(found) {
	case 0:
		return scene.Ref{}, fmt.Errorf("%s has no control named %q", plan.Layout.Composition.Name, scene.Clip(name))
	case 1:
		return found[0], nil
	}
	return scene.Ref{}, fmt.Errorf("several have a control named %q: %s; write it as Owner: control", scene.Clip(name), strings.Join(owners, ", "))
}

// MaxSets bounds how many values are set at once.
const MaxSets = 1000

// Set returns the operations that give controls, or other properties, values, by their names. A value may be written as a text: of a
// colour as #rrggbb, of a choice as the name of the option, of a number with its unit. What is pinned is pinned at the frame of the
// context. What links drive, what is out of its limits and what isn't there is refused.
func Set(c *gesture.Context, values map[string]scene.Value) (change.Ops, error) {
	if len(values) == 0 {
		return nil, fmt.Errorf("name at least one control with its value")
	}
	if len(values) > MaxSets {
		return nil, fmt.Errorf("%d values are too many to be set at once; the limit is %d", len(values), MaxSets)
	}
	var each pins.SetEach
	named := map[scene.Ref]string{}
	for _, name := range slices.Sorted(maps.Keys(values)) {
		ref, err := Named(c.Plan(), name)
		if err != nil {
			return nil, err
		}
		if other, twice := named[ref]; twice {
			return nil, fmt.Errorf("%s and %s are the same; set it once", other, name)
		}
		named[ref] = name
		item, spec, err := c.Property(ref)
		if err != nil {
			return nil, err
		}
		of := spec
		if k, ok := spec.Type.Component(ref.Component); ok && ref.Component != "" {
			one := *spec.Part(k)
			one.Type = scene.Number
			of = &one
		}
		value, err := Read(of, values[name])
		if err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		if c.Driven(item, spec, ref.Component) {
			return nil, fmt.Errorf("%s is driven by links; set what drives it, or switch its links off first", name)
		}
		each.Sets = append(each.Sets, pins.Set{Targets: []scene.Ref{ref}, Value: value})
	}
	r, err := each.Do(c)
	if err == nil {
		err = c.Allowed(r.Ops)
	}
	return r.Ops, err
}

// Read returns a value as a property takes it, which may be written as a text; one that the property can't have is refused.
func Read(spec *scene.Spec, v scene.Value) (scene.Value, error) {
	if v.IsText() && spec.Type != scene.Text {
		var err error
		if v, err = read(spec, strings.TrimSpace(v.Str())); err != nil {
			return v, err
		}
	}
	if err := v.Fits(spec.Type); err != nil {
		return v, err
	}
	if spec.Type == scene.Text {
		return v, nil
	}
	for k := range v.Len() {
		part := spec.Part(k)
		switch x := v.At(k); {
		case x < part.Min && !math.IsInf(part.Max, 0), x > part.Max && !math.IsInf(part.Min, 0):
			return v, fmt.Errorf("it goes from %s to %s, not to %s", scene.Exact(part.Min), scene.Exact(part.Max), scene.Exact(x))
		case x < part.Min:
			return v, fmt.Errorf("it is at least %s, not %s", scene.Exact(part.Min), scene.Exact(x))
		case x > part.Max:
			return v, fmt.Errorf("it is at most %s, not %s", scene.Exact(part.Max), scene.Exact(x))
		}
	}
	return spec.Held(v), nil
}

// read reads a value that is no text from one.
func read(spec *scene.Spec, text string) (scene.Value, error) {
	for k, option := range spec.Options {
		if strings.EqualFold(option, text) {
			return scene.Num(float64(k)), nil
		}
	}
	if digits, ok := strings.CutPrefix(text, "#"); ok && spec.Type == scene.Colour {
		if v, ok := scene.FromHex(digits); ok {
			return v, nil
		}
	}
	if spec.Type == scene.Switch {
		switch strings.ToLower(text) {
		case "on", "true":
			return scene.On(true), nil
		case "off", "false":
			return scene.On(false), nil
		}
	}
	var v scene.Value
	number := strings.TrimSpace(strings.TrimSuffix(text, string(spec.Unit)))
	if err := json.Unmarshal([]byte(number), &v); err != nil || v.Len() != spec.Type.Size() {
		if len(spec.Options) > 0 {
			return v, fmt.Errorf("%q is none of its options: %s", scene.Clip(text), strings.Join(spec.Options, ", "))
		}
		return v, fmt.Errorf("%q is not a %s", scene.Clip(text), spec.Type.Word())
	}
	return v, nil
}
