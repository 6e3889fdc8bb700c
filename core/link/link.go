// Package link turns the links of a composition into wires between single components, fits units
// when a link is made, and puts everything that is worked out at a time in an order in which every
// source is ready before what follows it.
package link

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"

	"wunderkammer/core/formula"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
)

// Wire is what one link does to one component of the property it is on.
type Wire struct {
	Source       int32 // slot
	Weight       int32 // slot of its weight, or -1 where that is whole
	Gain, Offset float64
	Part         int     // component of the outputs of a map
	Share        float64 // a weight that is no property, of a link on a roster: 0 to 1
	Delay        float64
	Link         *scene.Link
	Text         bool // the numbers stand for texts

	heard int32       // 1 + the slot of the source, where the target was moved
	made  *scene.Link // the link that it was made of, where Link is one of its own
}

// of returns the link that the wire was made of.
func (w *Wire) of() *scene.Link {
	if w.made != nil {
		return w.made
	}
	return w.Link
}

// Plain reports whether the wire does nothing but replace its target by source × Gain + Offset.
func (w *Wire) Plain() bool {
	return w.Link.Kind != scene.Map && w.Link.Operation == scene.Replace && w.Weight < 0 && w.Share == 1 && w.Delay == 0
}

// Target is one driven component of a property, with the wires that drive it, the lowest first; or
// something on the way there that has slots behind those of the layout.
type Target struct {
	Slot    int32
	Own     int32       // slot of the own value that the wires begin with
	Size    int32       // slots: more than one only for a formula
	Spec    *scene.Spec // for its limits
	Wires   []Wire
	Formula *Bound // in place of wires: what works out a formula
	Partial bool   // what the lower links of a stack make of a component, without its limits

	item      int32
	property  int
	component int
	made      int32 // 1 + the slot, where the target was moved
}

// Fit is how a source of one type fills a target of another.
type Fit struct {
	Gain, Offset float64
	// Parts lists, for each component of the target, the component of the source that fills it;
	// -1 leaves the component at its own value.
	Parts []int
	// Note says in plain words what is left out, if anything.
	Note string
}

// fitKey names a pair of shapes.
type fitKey struct{ source, target scene.Type }

// fits lists every pair of whole values that can be linked. A number, switch or choice fills every
// component of what it drives; three components into two lose z, two into three leave z alone.
var fits = func() map[fitKey]Fit {
	m := map[fitKey]Fit{
		{scene.Point2, scene.Point2}: {Parts: []int{0, 1}},
		{scene.Point2, scene.Point3}: {Parts: []int{0, 1, -1}, Note: "z keeps its own value"},
		{scene.Point3, scene.Point3}: {Parts: []int{0, 1, 2}},
		{scene.Point3, scene.Point2}: {Parts: []int{0, 1}, Note: "z of the source is not used"},
		{scene.Colour, scene.Colour}: {Parts: []int{0, 1, 2, 3}},
		{scene.Text, scene.Text}:     {Parts: []int{0}},
	}
	for _, from := range []scene.Type{scene.Number, scene.Switch, scene.Choice} {
		for _, to := range []scene.Type{scene.Number, scene.Switch, scene.Choice, scene.Point2, scene.Point3, scene.Colour} {
			m[fitKey{from, to}] = Fit{Parts: make([]int, to.Size())}
		}
	}
	return m
}()

// Pairs lists every source type and target type that fit each other whole.
func Pairs() [][2]scene.Type {
	pairs := make([][2]scene.Type, 0, len(fits))
	for k := range fits {
		pairs = append(pairs, [2]scene.Type{k.source, k.target})
	}
	sort.Slice(pairs, func(i, j int) bool {
		return pairs[i][0]+"/"+pairs[i][1] < pairs[j][0]+"/"+pairs[j][1]
	})
	return pairs
}

// part returns the type and unit of a whole property or of one of its components.
func part(s *scene.Spec, component string) (scene.Type, bool) {
	if _, ok := s.Type.Component(component); !ok && !s.Type.Worked(component) {
		return "", false
	}
	if component != "" {
		return scene.Number, true
	}
	return s.Type, true
}

// FitOf returns how the source (or one component of it) fills the target (or one component of
// it), with the gain that mends their units; or an error that says what would fit.
func FitOf(source *scene.Spec, sourceComponent string, target *scene.Spec, targetComponent string) (Fit, error) {
	from, ok := part(source, sourceComponent)
	if !ok || source.Type.Worked(sourceComponent) {
		return Fit{}, fmt.Errorf("%s has no component named %q", source.Name, sourceComponent)
	}
	to, ok := part(target, targetComponent)
	if !ok {
		return Fit{}, fmt.Errorf("%s has no component named %q", target.Name, targetComponent)
	}
	fit, ok := fits[fitKey{from, to}]
	if !ok {
		return Fit{}, misfit(source, from, target, to)
	}
	if target.ReadOnly {
		return Fit{}, fmt.Errorf("%s can be read, not driven", target.Name)
	}
	fit.Gain = 1
	if from == scene.Switch && target.Unit == scene.Percent {
		fit.Gain = 100 // on is the whole
	}
	return fit, nil
}

func misfit(source *scene.Spec, from scene.Type, target *scene.Spec, to scene.Type) error {
	hint := ""
	if parts := from.Components(); len(parts) > 0 && to.Size() == 1 && to != scene.Text {
		hint = "; take one component of it: " + parts[0]
		for _, p := range parts[1:] {
			hint += ", " + p
		}
	}
	return fmt.Errorf("%s is a %s and cannot drive %s, which is a %s%s", source.Name, from.Word(), target.Name, to.Word(), hint)
}

// Range returns the gain and offset that lead the range of a source's widget over that of a target's;
// ok is false where one of them has none.
func Range(source, target *scene.Spec) (gain, offset float64, ok bool) {
	from, to := source.SoftMax-source.SoftMin, target.SoftMax-target.SoftMin
	if from <= 0 || to <= 0 {
		return 1, 0, false
	}
	gain = to / from
	return gain, target.SoftMin - float64(source.SoftMin*gain), true
}

// Mismatch says what does not go together between a source and a target whose numbers are passed on
// as they are: their units, or ranges of which one is a hundred times the other. Empty: nothing.
func Mismatch(source, target *scene.Spec) string {
	if source.Type != scene.Number || target.Type != scene.Number {
		return ""
	}
	a, b := source.Unit, target.Unit
	switch {
	case a != b && a != scene.Plain && b != scene.Plain:
		return fmt.Sprintf("%s is in %s and %s in %s", source.Name, a, target.Name, b)
	case b == scene.Percent && source.SoftMax > 0 && source.SoftMax <= 1, a == scene.Percent && target.SoftMax > 0 && target.SoftMax <= 1:
		return fmt.Sprintf("%s runs from %s to %s and %s from %s to %s", source.Name, scene.Exact(source.SoftMin), scene.Exact(source.SoftMax), target.Name, scene.Exact(target.SoftMin), scene.Exact(target.SoftMax))
	}
	return ""
}

// MapFits returns an error where a source cannot be the input of a map on a target: it has to be one
// number.
func MapFits(source *scene.Spec, sourceComponent string, target *scene.Spec, targetComponent string) error {
	from, ok := part(source, sourceComponent)
	if !ok {
		return fmt.Errorf("%s has no component named %q", source.Name, sourceComponent)
	}
	if _, ok := part(target, targetComponent); !ok {
		return fmt.Errorf("%s has no component named %q", target.Name, targetComponent)
	}
	if target.ReadOnly {
		return fmt.Errorf("%s can be read, not driven", target.Name)
	}
	if from.Size() > 1 || from == scene.Text {
		hint := "; take one component of it: " + strings.Join(from.Components(), ", ")
		if from == scene.Text {
			hint = ""
		}
		return fmt.Errorf("the input of a map is one number, and %s is a %s%s", source.Name, from.Word(), hint)
	}
	return nil
}

// Reads calls with every property that a link of a composition looks at, the property that it drives,
// and the link; a link on a roster once for each member that takes part.
func Reads(c *scene.Composition, visit func(source, target scene.Ref, l *scene.Link)) {
	call := func(reads []scene.Ref, target scene.Ref, l *scene.Link) {
		for _, read := range reads {
			visit(scene.Ref{Item: read.Item, Property: read.Property}, target, l)
		}
	}
	for _, s := range c.Spreads {
		references := formula.References(s.Link.Formula)
		for _, m := range s.Members(c) {
			if s.Drives(m) {
				target := scene.Ref{Item: m.Item.ID, Property: m.Key}
				call(formula.ReadsOf(s.Link, references, m.Item.ID, m.Item.Parent), target, s.Link)
				if s.WeightFrom != nil {
					call([]scene.Ref{*s.WeightFrom}, target, s.Link)
				}
			}
		}
	}
	for _, item := range c.Items {
		for key, state := range item.States {
			for _, l := range state.Links {
				call(formula.Reads(l, item.ID, item.Parent), scene.Ref{Item: item.ID, Property: key}, l)
			}
		}
	}
}

// Drives counts, for each property that a link looks at, the properties it drives. A link that is off
// still counts: it is wired. One whose target cannot take it does not.
func Drives(c *scene.Composition) map[scene.Ref]int {
	counts := map[scene.Ref]int{}
	var last scene.Ref
	seen := map[scene.Ref]bool{}
	Reads(c, func(source, target scene.Ref, _ *scene.Link) {
		if target != last { // all that drives one property comes in one go
			last = target
			clear(seen)
		}
		if !seen[source] {
			seen[source] = true
			counts[source]++
		}
	})
	return counts
}

// reads calls with every slot that a target looks at, now and at other times.
func (t *Target) reads(now, later func(int32)) {
	for k := range t.Wires {
		w := &t.Wires[k]
		if w.Delay != 0 {
			later(w.Source)
		} else {
			now(w.Source)
		}
		if w.Weight >= 0 {
			now(w.Weight)
		}
	}
	if t.Formula == nil {
		return
	}
	for _, s := range t.Formula.Lane.In {
		if s.Kind == formula.FromValues {
			now(s.Slot)
		}
	}
	for _, s := range t.Formula.Looks {
		later(s)
	}
}

// notANumber stands for what is not there.
var notANumber = math.NaN()

// identity is the world transform of what hangs on nothing.
var identity = [layout.WorldSize]float64{0: 1, 5: 1, 10: 1}

// Later calls with every slot that a target looks at at other times.
func (t *Target) Later(later func(int32)) { t.reads(func(int32) {}, later) }

// Makes calls with every slot that the target fills.
func (t *Target) Makes(slot func(int32)) {
	if t.Formula != nil {
		for _, s := range t.Formula.Lane.Out {
			slot(s)
		}
		return
	}
	slot(t.Slot)
}

// Takes calls with every slot that the wires of the target read at the same time, the own value among them.
func (t *Target) Takes(slot func(int32)) {
	slot(t.Own)
	t.reads(slot, func(int32) {})
}

// On returns the property that the target drives, or is on the way to.
func (t *Target) On() (item int32, property int) { return t.item, t.property }

// Made returns the slot of the target, wherever it was moved to.
func (t *Target) Made() int32 {
	if t.made > 0 {
		return t.made - 1
	}
	return t.Slot
}

// Heard returns the slot of the source, wherever the target was moved to.
func (w *Wire) Heard() int32 {
	if w.heard > 0 {
		return w.heard - 1
	}
	return w.Source
}

// Moved returns the target with its slots elsewhere. What it looks at at other times keeps its slot.
func (t *Target) Moved(move func(int32) int32) Target {
	out := *t
	if t.Formula != nil {
		f := *t.Formula
		f.Lane.In, f.Lane.Out = slices.Clone(f.Lane.In), slices.Clone(f.Lane.Out)
		for k := range f.Lane.In {
			if s := &f.Lane.In[k]; s.Kind == formula.FromValues || s.Kind == formula.FromOwn {
				s.Slot = move(s.Slot)
			}
		}
		for k, s := range f.Lane.Out {
			f.Lane.Out[k] = move(s)
		}
		out.Formula = &f
		return out
	}
	out.Slot, out.Own, out.made = move(t.Slot), move(t.Own), t.Slot+1
	out.Wires = slices.Clone(t.Wires)
	for k := range out.Wires {
		w := &out.Wires[k]
		if w.Delay != 0 {
			w.heard = w.Source + 1
		} else {
			w.Source = move(w.Source)
		}
		if w.Weight >= 0 {
			w.Weight = move(w.Weight)
		}
	}
	return out
}
