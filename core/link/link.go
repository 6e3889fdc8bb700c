// Package link turns the links of a composition into wires between single components, fits units
// when a link is made, and puts everything that is worked out at a time in an order in which every
// source is ready before what follows it.
package link

import (
	"fmt"
	"sort"

	"wunderkammer/core/layout"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Wire is the last word of the links on one component of one property:
// target = limit(source × Gain + Offset).
type Wire struct {
	Target, Source int32 // slots
	Gain, Offset   float64
	Spec           *scene.Spec // of the target, for its limits
	item           int32
	property       int
	component      int
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
	if _, ok := s.Type.Component(component); !ok {
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
	if !ok {
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

// Wires lowers the links of a laid-out composition. Where links of one property are stacked, the
// last that has something to say wins each component; a link whose source is missing, does not
// fit or is off is passed over.
func Wires(l *layout.Layout) []Wire {
	var wires []Wire
	for i, item := range l.Items {
		if len(item.States) == 0 {
			continue
		}
		specs, starts := l.Specs(int32(i)), l.Starts(int32(i))
		for p, spec := range specs {
			state := item.States[spec.Key]
			if state == nil || len(state.Links) == 0 {
				continue
			}
			base := len(wires)
			for k := len(state.Links) - 1; k >= 0; k-- {
				for _, w := range lower(l, state.Links[k], spec) {
					w.Target = l.Base[i] + starts[p] + int32(w.component)
					w.item, w.property = int32(i), p
					if !taken(wires[base:], w.Target) {
						wires = append(wires, w)
					}
				}
			}
		}
	}
	return wires
}

func taken(wires []Wire, target int32) bool {
	for _, w := range wires {
		if w.Target == target {
			return true
		}
	}
	return false
}

// lower returns the wires of one link, with the component of the target but without its slot.
func lower(l *layout.Layout, k *scene.Link, target *scene.Spec) []Wire {
	if k.Off {
		return nil
	}
	source, slot := l.Find(k.Source.Item, k.Source.Property)
	if source == nil {
		return nil
	}
	fit, err := FitOf(source, k.Source.Component, target, k.Component)
	if err != nil {
		return nil
	}
	from, _ := source.Type.Component(k.Source.Component)
	to, _ := target.Type.Component(k.Component)
	var out []Wire
	for c, p := range fit.Parts {
		if p >= 0 {
			w := Wire{Source: slot + int32(from+p), Gain: k.Gain + 0, Offset: k.Offset + 0, Spec: target, component: to + c}
			if source.Type == scene.Text {
				w.Gain, w.Offset = 1, 0
			}
			out = append(out, w)
		}
	}
	return out
}

// Eval is the arithmetic of a wire before limits, for one value.
func (w *Wire) Eval(source float64) float64 { return float64(source*w.Gain) + w.Offset }

// Value returns source × Gain + Offset limited to what the target can hold, or below where that
// is not finite.
func (w *Wire) Value(source, below float64) float64 {
	v := w.Eval(source)
	if !num.Finite(v) {
		v = below
	}
	return w.Spec.Limit(v)
}

// Drives counts, for each property that is the source of a link, the properties it drives.
// A link that is off still counts: it is wired. One whose target cannot take it does not.
func Drives(c *scene.Composition) map[scene.Ref]int {
	counts := map[scene.Ref]int{}
	for _, item := range c.Items {
		for _, state := range item.States {
			seen := map[scene.Ref]bool{}
			for _, k := range state.Links {
				source := scene.Ref{Item: k.Source.Item, Property: k.Source.Property}
				if !seen[source] {
					seen[source] = true
					counts[source]++
				}
			}
		}
	}
	return counts
}
