package wiring

import (
	"math"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// takeOver gives a control that drives nothing yet the value of the first property that it is to drive, and a range around it,
// so that the link changes nothing in the picture. It returns what that value is; nil for what drives something already, or has its own.
func takeOver(c *gesture.Context, g *Link, source *scene.Spec) (r gesture.Result, begins *scene.Value) {
	item := c.Composition.Item(g.Source.Item)
	control := item.Control(scene.ID(g.Source.Property))
	if control == nil || g.FromHere || g.Source.Component != "" || len(g.Targets) == 0 || c.Driven(item, source, "") || len(item.State(source.Key).Pins) > 0 {
		return r, nil
	}
	if link.Driving(c.Composition, g.Source) {
		return r, nil
	}
	value := c.Plan().Own(item.ID, source.Key)
	ref := g.Targets[0]
	_, target, err := c.Property(ref)
	if of, _, copied := scene.LaneOf(ref.Item); copied {
		_, target, err = c.OfCopies(of, ref.Property)
	}
	if err != nil || ref.Item == g.Source.Item && ref.Property == g.Source.Property || g.kind(c, source, target, ref.Component) != scene.Follow {
		return r, &value
	}
	fit, err := link.FitOf(source, "", target, ref.Component)
	if err != nil {
		return r, &value
	}
	if groups := together(g.Targets); !g.Single && len(groups[0]) > 1 && g.adds(source, target) && differ(c, groups[0]) {
		return r, &value // which is added to
	}
	now := c.Plan().Value(ref)
	begin := func() {
		if value != c.Plan().Own(item.ID, source.Key) {
			r.Ops = append(r.Ops, &change.OwnSet{Of: c.Of(item.ID, source.Key), Value: value})
		}
	}
	switch {
	case source.Type == scene.Text && target.Type == scene.Text:
		value = now
		begin()
		return r, &value
	case source.Type == scene.Text:
		return r, &value
	case source.Type == scene.Switch && target.Type == scene.Number:
		value = scene.On(true) // which leaves it as it is
		begin()
		return r, &value
	}
	free := value
	for k := len(fit.Parts) - 1; k >= 0; k-- { // the first component of those that one number fills has the last word
		if p := fit.Parts[k]; p >= 0 && k < now.Len() {
			value = value.With(p, now.At(k)/fit.Gain)
		}
	}
	for k := range value.Len() {
		if value.At(k) != source.Part(k).Limit(value.At(k)) { // it cannot
			return gesture.Result{}, &free
		}
	}
	if wide := reaching(control, value, target); wide != nil {
		r.Ops = append(r.Ops, &change.ControlSet{On: c.On(item.ID), Value: wide})
	}
	begin()
	return r, &value
}

// reaching returns a control whose range holds a value, or nil where it does already: the range of the property that it is to
// drive, or, where that does not hold it either, one of the same width around it.
func reaching(control *scene.Control, value scene.Value, target *scene.Spec) *scene.Control {
	lo, hi := math.Inf(1), math.Inf(-1)
	for k := range value.Len() {
		lo, hi = min(lo, value.At(k)), max(hi, value.At(k))
	}
	if control.SoftMax <= control.SoftMin || lo >= control.SoftMin && hi <= control.SoftMax {
		return nil
	}
	wide := control.Clone()
	wide.SoftMin, wide.SoftMax = target.SoftMin, target.SoftMax
	if lo < wide.SoftMin || hi > wide.SoftMax || wide.SoftMax <= wide.SoftMin {
		half := math.Ceil((control.SoftMax - control.SoftMin) / 2)
		wide.SoftMin, wide.SoftMax = math.Floor(lo)-half, math.Ceil(hi)+half
	}
	return wide
}
