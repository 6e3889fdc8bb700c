// Package link turns the links of a composition into wires between single components, fits units
// when a link is made, and puts wires in an order in which every source is ready before what follows it.
package link

import (
	"fmt"
	"sort"
	"strings"

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

// fits lists every pair of whole values that can be linked. A number fills every component of
// what it drives; three components into two lose z, two into three leave z alone.
var fits = map[fitKey]Fit{
	{scene.Number, scene.Number}: {Parts: []int{0}},
	{scene.Number, scene.Switch}: {Parts: []int{0}},
	{scene.Switch, scene.Number}: {Parts: []int{0}},
	{scene.Switch, scene.Switch}: {Parts: []int{0}},
	{scene.Number, scene.Point2}: {Parts: []int{0, 0}},
	{scene.Number, scene.Point3}: {Parts: []int{0, 0, 0}},
	{scene.Switch, scene.Point2}: {Parts: []int{0, 0}},
	{scene.Switch, scene.Point3}: {Parts: []int{0, 0, 0}},
	{scene.Number, scene.Colour}: {Parts: []int{0, 0, 0, 0}},
	{scene.Switch, scene.Colour}: {Parts: []int{0, 0, 0, 0}},
	{scene.Point2, scene.Point2}: {Parts: []int{0, 1}},
	{scene.Point2, scene.Point3}: {Parts: []int{0, 1, -1}, Note: "z keeps its own value"},
	{scene.Point3, scene.Point3}: {Parts: []int{0, 1, 2}},
	{scene.Point3, scene.Point2}: {Parts: []int{0, 1}, Note: "z of the source is not used"},
	{scene.Colour, scene.Colour}: {Parts: []int{0, 1, 2, 3}},
	{scene.Text, scene.Text}:     {Parts: []int{0}},
}

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
			w := Wire{Source: slot + int32(from+p), Gain: k.Gain, Offset: k.Offset, Spec: target, component: to + c}
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

// Circle is a chain of properties in which each drives the next and the last drives the first.
type Circle struct {
	Refs  []scene.Ref // targets in the order of the influence; the first is not repeated
	names []string
}

// String draws the circle, back to where it began.
func (c *Circle) String() string {
	return strings.Join(append(c.names[:len(c.names):len(c.names)], c.names[0]), " → ")
}

// Error says that the circle is refused.
func (c *Circle) Error() string { return "that would make a circle: " + c.String() }

// Sort puts wires into levels: the sources of level 0 are driven by nothing, those of level n by
// wires of lower levels. It returns where each level ends in the sorted list. A circle is
// returned instead where there is one.
func Sort(l *layout.Layout, wires []Wire) (sorted []Wire, ends []int, circle *Circle) {
	driver := make([]int32, l.Size) // 1 + index of the wire that drives a slot
	for i := range wires {
		driver[wires[i].Target] = int32(i) + 1
	}
	const onPath = -1
	level := make([]int32, len(wires)) // 0 unknown, onPath, else 1 + level
	counts := []int{}
	var path []int32
	for i := range wires {
		// Walk up the single chain of sources without recursion, then number it on the way back.
		path = path[:0]
		at := int32(i)
		base := int32(0)
		for {
			if level[at] > 0 {
				base = level[at]
				break
			}
			if level[at] == onPath {
				return nil, nil, circleOf(l, wires, path, at)
			}
			level[at] = onPath
			path = append(path, at)
			up := driver[wires[at].Source]
			if up == 0 {
				break
			}
			at = up - 1
		}
		for k := len(path) - 1; k >= 0; k-- {
			base++
			level[path[k]] = base
			for len(counts) < int(base) {
				counts = append(counts, 0)
			}
			counts[base-1]++
		}
	}
	starts := make([]int, len(counts))
	ends = make([]int, len(counts))
	total := 0
	for k, n := range counts {
		starts[k] = total
		total += n
		ends[k] = total
	}
	sorted = make([]Wire, len(wires))
	for i := range wires {
		k := level[i] - 1
		sorted[starts[k]] = wires[i]
		starts[k]++
	}
	return sorted, ends, nil
}

func circleOf(l *layout.Layout, wires []Wire, path []int32, from int32) *Circle {
	c := &Circle{}
	for k, at := range path {
		if at != from {
			continue
		}
		for j := len(path) - 1; j >= k; j-- {
			w := wires[path[j]]
			item := l.Items[w.item]
			spec := l.Specs(w.item)[w.property]
			name := item.Name + ": " + spec.Name
			ref := scene.Ref{Item: item.ID, Property: spec.Key}
			if parts := spec.Type.Components(); parts != nil {
				ref.Component = parts[w.component]
				name += "." + ref.Component
			}
			c.Refs, c.names = append(c.Refs, ref), append(c.names, name)
		}
		break
	}
	return c
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
