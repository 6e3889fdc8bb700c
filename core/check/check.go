// Package check looks a composition over: what is wrong with its wiring, or may be, and what would
// mend it.
package check

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/formula"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// Severity tells a mistake from a hint.
type Severity string

// The severities.
const (
	Error   Severity = "error"
	Warning Severity = "warning"
)

// Check is one thing that is wrong, or may be.
type Check struct {
	Severity Severity  `json:"severity"`
	At       scene.Ref `json:"at"`
	Sentence string    `json:"sentence"`
	Fixes    []Fix     `json:"fixes,omitempty"`
}

// Fix is a way out that one press goes.
type Fix struct {
	Label string     `json:"label"`
	Ops   change.Ops `json:"ops,omitempty"`
	// Reattach asks for another source for the link with this id.
	Reattach scene.ID `json:"reattach,omitempty"`
}

// Of looks over the composition of a plan: links whose source is gone or does not fit, circles,
// links hidden by a later one, units that do not go together, controls that drive nothing.
func Of(c *scene.Composition, p *engine.Plan) []Check {
	k := &checker{c: c, p: p}
	drives := link.Drives(c)
	for i, item := range p.Layout.Items {
		if len(item.States) == 0 && len(item.Controls) == 0 {
			continue
		}
		for _, n := range p.Layout.Linked(int32(i)) {
			k.links(item, p.Layout.Specs(int32(i))[n])
		}
		for _, control := range item.Controls {
			at := scene.Ref{Item: item.ID, Property: string(control.ID)}
			if drives[at] == 0 {
				k.add(Warning, at, c.NameOf(at)+" drives nothing yet")
			}
		}
	}
	k.spreads()
	if _, by := p.Deaf(); len(by) > 0 {
		first := by[0]
		k.add(Warning, first.At, fmt.Sprintf("%s looks at other times so often that one frame would take about %s values of them; it passes on what is below it. Take shorter windows, windows and delays of whole frames, or fewer members that trail one another", c.NameOf(first.At), rounded(first.Values)))
	}
	if p.Circle != nil {
		k.add(Error, p.Circle.Refs[0], "links run in a circle: "+p.Circle.String()+"; the newest of them does nothing meanwhile", k.turnOff(p.Suspended)...)
	}
	return k.out
}

// rounded writes a large number so that it can be taken in.
func rounded(x float64) string {
	switch {
	case x >= 1e9:
		return fmt.Sprintf("%.0f billion", x/1e9)
	case x >= 1e6:
		return fmt.Sprintf("%.0f million", x/1e6)
	}
	return fmt.Sprintf("%.0f", x)
}

type checker struct {
	c   *scene.Composition
	p   *engine.Plan
	out []Check
}

func (k *checker) add(s Severity, at scene.Ref, sentence string, fixes ...Fix) {
	k.out = append(k.out, Check{s, at, sentence, fixes})
}

func (k *checker) of(item *scene.Item, key string) change.Of {
	return change.Of{On: change.On{In: change.In{Composition: k.c.ID}, Item: item.ID}, Property: key}
}

func (k *checker) set(item *scene.Item, key, label string, l *scene.Link, alter func(*scene.Link)) Fix {
	altered := l.Clone()
	alter(altered)
	return Fix{Label: label, Ops: change.Ops{&change.LinkSet{Of: k.of(item, key), Link: altered}}}
}

func (k *checker) remove(item *scene.Item, key string, l *scene.Link) Fix {
	return Fix{Label: "remove the link", Ops: change.Ops{&change.LinkRemove{Of: k.of(item, key), Link: l.ID}}}
}

func (k *checker) links(item *scene.Item, spec *scene.Spec) {
	at := scene.Ref{Item: item.ID, Property: spec.Key}
	links := item.State(spec.Key).Links
	for n, l := range links {
		if l.Kind == scene.Formula {
			k.formula(item, spec, l, links[n+1:])
			continue
		}
		if s := broken(k.p, spec, l); s != "" {
			k.add(Error, at, k.c.NameOf(at)+": "+s, Fix{Label: "reattach", Reattach: l.ID}, k.remove(item, spec.Key, l))
			continue
		}
		if l.Off {
			continue
		}
		source, _ := k.p.Layout.Find(l.Source.Item, l.Source.Property)
		if above := hides(links[n+1:], l, item); above != nil {
			k.add(Warning, at, fmt.Sprintf("%s: %s is hidden by %s above it", k.c.NameOf(at), called(k.c, l), strings.Replace(called(k.c, above), "the link", "the one", 1)),
				k.remove(item, spec.Key, l), k.set(item, spec.Key, "let the upper one add", above, func(l *scene.Link) { l.Operation = scene.Plus }))
		}
		if s := link.Mismatch(source, spec); s != "" && l.Kind == scene.Follow && l.Gain == 1 && l.Offset == 0 && l.Operation == scene.Replace {
			var fixes []Fix
			if gain, offset, ok := link.Range(source, spec); ok {
				fixes = append(fixes, k.set(item, spec.Key, "fit the ranges", l, func(l *scene.Link) { l.Gain, l.Offset = gain, offset }))
			}
			k.add(Warning, at, k.c.NameOf(at)+": "+s+", and the numbers are passed on as they are", fixes...)
		}
		if l.Kind == scene.Map && flat(l) {
			k.add(Warning, at, k.c.NameOf(at)+": the map gives the same at every value of "+k.c.NameOf(l.Source)+"; pose it and mark")
		}
	}
}

// flat reports whether a map gives one value all over.
func flat(l *scene.Link) bool {
	for _, s := range l.Stops[1:] {
		if s.Out != l.Stops[0].Out {
			return false
		}
	}
	return true
}

// broken says what keeps a link from working, or nothing.
func broken(p *engine.Plan, target *scene.Spec, l *scene.Link) string {
	at := p.Layout.Index(l.Source.Item)
	if at < 0 {
		return "the link's source was removed"
	}
	source, _ := p.Layout.Find(l.Source.Item, l.Source.Property)
	if source == nil {
		return fmt.Sprintf("the control of %s that drove this was removed", p.Layout.Items[at].Name)
	}
	fits := func() error { _, err := link.FitOf(source, l.Source.Component, target, l.Component); return err }
	if l.Kind == scene.Map {
		fits = func() error { return link.MapFits(source, l.Source.Component, target, l.Component) }
	}
	if err := fits(); err != nil {
		return err.Error()
	}
	return ""
}

// hides returns the link of those above that replaces all that l does, or nil. One whose weight was
// set may let it through.
func hides(above []*scene.Link, l *scene.Link, item *scene.Item) *scene.Link {
	for _, a := range above {
		weighed := item.States[scene.WeightKey(a.ID)] != nil
		if !a.Off && !weighed && !formula.PassesBelow(a) && (a.Component == "" || a.Component == l.Component) {
			return a
		}
	}
	return nil
}

// turnOff turns off links that are left out, since they would run in a circle.
func (k *checker) turnOff(links []*scene.Link) (fixes []Fix) {
	for _, item := range k.c.Items {
		for _, key := range slices.Sorted(maps.Keys(item.States)) {
			for _, l := range item.States[key].Links {
				if slices.Contains(links, l) {
					ref := scene.Ref{Item: item.ID, Property: key}
					fixes = append(fixes, k.set(item, key, "turn the link on "+k.c.NameOf(ref)+" off", l, func(l *scene.Link) { l.Off = true }))
				}
			}
		}
	}
	for _, s := range k.c.Spreads {
		if slices.Contains(links, s.Link) {
			off := s.Clone()
			off.Link.Off = true
			fixes = append(fixes, Fix{Label: "turn " + s.Name + " off", Ops: change.Ops{&change.SpreadSet{In: change.In{Composition: k.c.ID}, Value: off}}})
		}
	}
	return fixes
}
