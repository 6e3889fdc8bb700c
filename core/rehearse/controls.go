package rehearse

import (
	"math"
	"slices"

	"wunderkammer/core/check"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// control is one that is swept.
type control struct {
	ref     scene.Ref
	spec    *scene.Spec
	own     scene.Value   // as the document has it at the frame
	values  []scene.Value // that it is swept over, runs of them one after the other
	runs    []int         // where each run begins in values
	smooth  bool          // a small step is to make a small difference
	ends    []scene.Value
	touched map[int32]bool // slots that it changes
}

// findControls finds what is swept, and takes off the copy what would move it by itself.
func (r *Rehearsal) findControls(c *scene.Composition) {
	drives := link.Drives(c)
	for _, item := range r.c.Items {
		for _, one := range item.Controls {
			ref := scene.Ref{Item: item.ID, Property: string(one.ID)}
			if len(r.options.Controls) > 0 && !slices.Contains(r.options.Controls, ref) {
				continue
			}
			if r.p.Driven(item.ID, ref.Property) || len(drives[ref]) == 0 || one.Kind == scene.TextWidget {
				continue
			}
			k := &control{ref: ref, spec: one.Spec().Within(item.States[ref.Property]), own: r.p.Own(item.ID, ref.Property), touched: map[int32]bool{}}
			k.span(one)
			item.Edit(ref.Property).Pins, item.Edit(ref.Property).Own = nil, k.own
			r.controls = append(r.controls, k)
		}
	}
}

// span finds the values that a control is swept over: from one end of its widget to the other, each component by itself.
func (k *control) span(c *scene.Control) {
	low, high := math.Max(c.SoftMin, k.spec.Min), math.Min(c.SoftMax, k.spec.Max)
	run := func(n int, value func(share float64) scene.Value) {
		k.runs = append(k.runs, len(k.values))
		for i := range n {
			k.values = append(k.values, value(float64(i)/float64(max(1, n-1))))
		}
		k.ends = append(k.ends, k.values[len(k.values)-n], k.values[len(k.values)-1])
	}
	switch c.Kind {
	case scene.SwitchWidget:
		run(2, func(s float64) scene.Value { return scene.On(s == 1) })
	case scene.ChoiceWidget:
		run(len(c.Options), func(s float64) scene.Value { return scene.Num(math.Round(s * float64(len(c.Options)-1))) })
	case scene.ColourWidget:
		run(2, func(s float64) scene.Value { return scene.RGBA(s, s, s, 1) })
	case scene.PointWidget:
		k.smooth = true
		for axis := range k.spec.Type.Size() {
			run(steps/2+1, func(s float64) scene.Value { return k.own.With(axis, low+float64((high-low)*s)) })
		}
	default:
		k.smooth = !c.Whole
		n := steps + 1
		if c.Whole {
			n = int(math.Max(2, math.Min(float64(n), high-low+1)))
		}
		run(n, func(s float64) scene.Value {
			x := low + float64((high-low)*s)
			if c.Whole {
				x = math.Round(x)
			}
			return scene.Num(x)
		})
	}
}

// idle finds the controls that moved nothing, at the frame and at the ends of the composition.
func (r *Rehearsal) idle(moment func() bool) bool {
	for _, k := range r.controls {
		if len(k.touched) > 0 {
			continue
		}
		if !moment() {
			return false
		}
		if r.movesElsewhere(k) {
			continue
		}
		r.add("idle", Finding{
			Severity: check.Warning, At: k.ref, weight: 1, Settings: []Setting{{k.ref, k.ends[len(k.ends)-1]}},
			Sentence: r.c.NameOf(k.ref) + " moves nothing over its whole range, though it is linked",
		})
	}
	return true
}

// maxOthers is how many other controls are tried at their ends for one that moves nothing.
const maxOthers = 40

// movesElsewhere reports whether a control changes anything at some other frame, or where another control stands at an end.
func (r *Rehearsal) movesElsewhere(k *control) bool {
	defer r.restore(r.controls...)
	differs := func() bool {
		for _, frame := range []int{0, r.c.Frames / 3, 2 * r.c.Frames / 3, r.c.Frames - 1} {
			r.set(k.ref, k.ends[0])
			before := slices.Clone(r.p.Evaluate(float64(frame)))
			r.set(k.ref, k.ends[len(k.ends)-1])
			if _, differs := r.changed(before, r.p.Evaluate(float64(frame)), k); differs {
				return true
			}
		}
		return false
	}
	if differs() {
		return true
	}
	for n, other := range r.controls {
		if other == k || n >= maxOthers {
			continue
		}
		for _, end := range other.ends {
			if r.set(other.ref, end); differs() {
				return true
			}
		}
		r.restore(other)
	}
	return false
}

// changed returns a slot, not of the control itself, that differs between two sets of values.
func (r *Rehearsal) changed(a, b []float64, k *control) (int32, bool) {
	_, own := r.p.Layout.Find(k.ref.Item, k.ref.Property)
	size := int32(k.spec.Type.Size())
	for s := range a {
		if (int32(s) < own || int32(s) >= own+size) && math.Float64bits(a[s]) != math.Float64bits(b[s]) {
			return int32(s), true
		}
	}
	return 0, false
}

// pairs lists the pairs of controls that change something in common.
func (r *Rehearsal) pairs() (out [][2]*control) {
	for i, a := range r.controls {
		for _, b := range r.controls[i+1:] {
			if len(out) < maxPairs {
				out = append(out, [2]*control{a, b})
			}
		}
	}
	return out
}
