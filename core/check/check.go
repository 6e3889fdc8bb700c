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
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/link"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// Severity tells a mistake from a hint.
type Severity string

// The severities.
const (
	Error   Severity = "error"
	Warning Severity = "warning"
	Tip     Severity = "tip" // nothing is wrong; it could be had with less
)

// Check is one thing that is wrong, or may be.
type Check struct {
	Severity Severity  `json:"severity"`
	At       scene.Ref `json:"at"`
	Sentence string    `json:"sentence"`
	Fixes    []Fix     `json:"fixes,omitempty"`
	// Hidden: a link has no effect, since another above it replaces all that it does.
	Hidden bool `json:"-"`
}

// Fix is a way out that one press goes.
type Fix struct {
	Label string     `json:"label"`
	Ops   change.Ops `json:"ops,omitempty"`
	// Reattach asks for another source for the link with this id, which may be that of a link on a row.
	Reattach   scene.ID `json:"reattach,omitempty"`
	RosterLink scene.ID `json:"spread,omitempty"`
	// Together are properties whose lowest links, by their ids, can become one link on the row of their items.
	Together []scene.Ref `json:"together,omitempty"`
	Links    []scene.ID  `json:"links,omitempty"`
}

// Of looks over the composition of a plan: links whose source is gone or does not fit, cycles,
// links hidden by a later one, units that do not go together, controls that drive nothing.
func Of(c *scene.Composition, p *engine.Plan) []Check { return Given(c, p, link.Drives(c)) }

// Given is Of where it is known already what each property drives.
func Given(c *scene.Composition, p *engine.Plan, drives map[scene.Ref][]scene.Ref) []Check {
	k := &checker{c: c, p: p}
	for i, item := range p.Layout.Laid() {
		if len(item.States) == 0 && len(item.Controls) == 0 {
			continue
		}
		for _, n := range p.Layout.Linked(int32(i)) {
			k.links(item, p.Layout.Specs(int32(i))[n])
		}
		for _, control := range item.Controls {
			at := scene.Ref{Item: item.ID, Property: string(control.ID)}
			if len(drives[at]) == 0 {
				k.add(Warning, at, c.NameOf(at)+" drives nothing yet")
			}
		}
	}
	k.rosterLinks()
	k.copies()
	k.graphs()
	k.pieces()
	k.handOff()
	if _, by := p.LeftOut(); len(by) > 0 && k.own(by[0].At) {
		first := by[0]
		k.add(Warning, first.At, fmt.Sprintf("%s reads so many other times that one frame would take about %s values; the value below is used. Use shorter windows, windows and delays of whole frames, or fewer members that trail one another", c.NameOf(first.At), rounded(first.Values)))
	}
	for _, at := range p.Crowd() {
		if k.own(at) {
			k.add(Error, at, fmt.Sprintf("the lists of all formulas together read too much (%s values at most): %s is left out, and the value below is used. Gather fewer, or make one control that gathers, and let the others follow it", rounded(wire.MaxGathered), c.NameOf(at)))
			break
		}
	}
	if p.Cycle != nil {
		k.add(Error, p.Cycle.Refs[0], "links form a loop: "+p.Cycle.String()+"; the newest of them does nothing until then", k.turnOff(p.Suspended)...)
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
	k.out = append(k.out, Check{Severity: s, At: at, Sentence: sentence, Fixes: fixes})
}

// own reports whether a property is of the composition, and not of one that a piece shows: that is looked over by itself.
func (k *checker) own(at scene.Ref) bool {
	of, _, _ := scene.LaneOf(at.Item)
	return k.c.Item(of) != nil
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

// sight is what the words about a link on a property may look at.
func (k *checker) sight(spec *scene.Spec, scope *binding.Scope) *link.Sight {
	return sightOf(k.c, k.p, spec, scope)
}

func sightOf(c *scene.Composition, p *engine.Plan, spec *scene.Spec, scope *binding.Scope) *link.Sight {
	return &link.Sight{Composition: c, Target: spec, Scope: scope, Value: p.Value, Cycle: func(program *machine.Program) string {
		if cycle := p.CycleOf(program, scope); cycle != nil {
			return cycle.String()
		}
		return ""
	}}
}

// links checks the links of a property: those that do not work, are hidden by a later one, or do what is hardly
// meant.
func (k *checker) links(item *scene.Item, spec *scene.Spec) {
	links := item.State(spec.Key).Links
	for n, l := range links {
		at := scene.Ref{Item: item.ID, Property: spec.Key, Component: l.Component}
		say := func(s Severity, f *link.Fault, more ...Fix) {
			var fixes []Fix
			if f.Reattach {
				fixes = append(fixes, Fix{Label: "reattach", Reattach: l.ID})
			}
			for _, m := range f.Mends {
				fixes = append(fixes, k.set(item, spec.Key, m.Label, l, m.Alter))
			}
			k.add(s, at, k.c.NameOf(at)+": "+f.Sentence, append(fixes, more...)...)
		}
		sight := k.sight(spec, wire.ScopeOf(k.p.Layout, k.p.Layout.Index(item.ID), spec, l.Component))
		if fault := link.Broken(l, sight); fault != nil {
			say(Error, fault, k.remove(item, spec.Key, l))
			continue
		}
		if l.Off {
			continue
		}
		if above := hides(links[n+1:], l, item); above != nil {
			over := strings.Replace(link.Called(above, k.c), "the link", "the one", 1)
			say(Warning, &link.Fault{Sentence: link.Called(l, k.c) + " has no effect: " + over + " above it replaces it"},
				k.remove(item, spec.Key, l), k.set(item, spec.Key, "set the upper link to Add", above, func(l *scene.Link) { l.Operation = scene.Plus }))
			k.out[len(k.out)-1].Hidden = true
		}
		for _, hint := range link.Hints(l, sight) {
			say(Warning, &hint)
		}
		if k.p.Skipped(at, l.ID) && !k.p.Value(at).Absent() {
			k.unbounded(engine.Broken{At: at, Link: l, Frame: k.p.Frame(), Frames: 1})
		}
	}
}

// hides returns the link of those above that replaces all that l does, or nil. One whose weight was
// set may let it through.
func hides(above []*scene.Link, l *scene.Link, item *scene.Item) *scene.Link {
	for _, a := range above {
		weighed := item.States[scene.WeightKey(a.ID)] != nil
		if !a.Off && !weighed && !link.PassesBelow(a) && (a.Component == "" || a.Component == l.Component) {
			return a
		}
	}
	return nil
}

// turnOff turns off links that are left out, since they would run in a cycle.
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
	for _, s := range k.c.RosterLinks {
		if slices.Contains(links, s.Link) {
			off := s.Clone()
			off.Link.Off = true
			fixes = append(fixes, Fix{Label: "turn " + s.Name + " off", Ops: change.Ops{&change.RosterLinkSet{In: change.In{Composition: k.c.ID}, Value: off}}})
		}
	}
	return fixes
}
