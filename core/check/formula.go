package check

import (
	"fmt"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/formula"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// called names a link in a sentence.
func called(c *scene.Composition, l *scene.Link) string {
	if l.Kind == scene.Formula {
		return "the formula"
	}
	return "the link from " + c.NameOf(l.Source)
}

// formula checks a formula link: one that does not work, goes on with an older version, is hidden, or
// gives another unit than is wanted.
func (k *checker) formula(item *scene.Item, spec *scene.Spec, l *scene.Link, above []*scene.Link) {
	at := scene.Ref{Item: item.ID, Property: spec.Key, Component: l.Component}
	if l.Draft != "" {
		sentence := k.c.NameOf(at) + ": the formula does not work as it was typed: " + k.amiss(item, spec, l)
		if l.Formula != "" {
			sentence += "; it goes on with the version before"
			k.add(Error, at, sentence, k.set(item, spec.Key, "back to the version before", l, func(l *scene.Link) { l.Draft = "" }), k.remove(item, spec.Key, l))
		} else {
			k.add(Error, at, sentence, k.remove(item, spec.Key, l))
		}
		return
	}
	compiled := k.compile(item, spec, l, l.Formula)
	if s := wrong(compiled); s != "" {
		k.add(Error, at, k.c.NameOf(at)+": the formula does not work: "+s, k.remove(item, spec.Key, l))
		return
	}
	if l.Off {
		return
	}
	if over := hides(above, l, item); over != nil {
		k.add(Warning, at, fmt.Sprintf("%s: the formula is hidden by %s above it", k.c.NameOf(at), strings.Replace(called(k.c, over), "the link", "the one", 1)), k.remove(item, spec.Key, l))
	}
	for _, p := range compiled.Problems {
		k.add(Warning, at, k.c.NameOf(at)+": "+p.Sentence)
	}
	if broken := k.p.Value(at); !broken.Absent() && k.p.Skipped(at, l.ID) {
		k.unbounded(engine.Broken{At: at, Link: l, Frame: k.p.Frame(), Frames: 1})
	}
}

// amiss says what is wrong with a formula as it was typed.
func (k *checker) amiss(item *scene.Item, spec *scene.Spec, l *scene.Link) string {
	scope := link.ScopeOf(k.p.Layout, k.p.Layout.Index(item.ID), spec, l.Component)
	compiled := formula.Compile(l.Draft, scope)
	if s := wrong(compiled); s != "" {
		return s
	}
	if circle := k.p.Circling(compiled.Program, scope); circle != nil {
		return "it would make a circle: " + circle.String()
	}
	return "it works now; open it and save it once more"
}

func (k *checker) compile(item *scene.Item, spec *scene.Spec, l *scene.Link, text string) *formula.Compiled {
	return formula.Compile(text, link.ScopeOf(k.p.Layout, k.p.Layout.Index(item.ID), spec, l.Component))
}

// wrong says what is wrong with a formula first, and where.
func wrong(c *formula.Compiled) string {
	for _, p := range c.Errors() {
		return p.Sentence
	}
	return ""
}

// spreads checks the links on rosters: one that drives nobody, whose formula does not work, or whose
// source is gone.
func (k *checker) spreads() {
	for _, s := range k.c.Spreads {
		at := scene.Ref{Item: s.Roster.Item, Property: s.Property}
		members := s.Members(k.c)
		if len(members) > 0 {
			at.Item, at.Property = members[0].Item.ID, members[0].Key
		}
		remove := Fix{Label: "remove the link", Ops: change.Ops{&change.SpreadRemove{In: change.In{Composition: k.c.ID}, Spread: s.ID}}}
		if len(members) == 0 {
			k.add(Warning, at, s.Name+": the roster has no members that have such a property", remove)
			continue
		}
		if from := s.WeightFrom; from != nil {
			if _, ok := link.WeightFrom(k.p.Layout, *from); !ok {
				whole := s.Clone()
				whole.WeightFrom = nil
				k.add(Warning, at, s.Name+": what its weight came from is gone, so it counts wholly", Fix{Label: "weigh it by a number", Ops: change.Ops{&change.SpreadSet{In: change.In{Composition: k.c.ID}, Value: whole}}})
			}
		}
		if s.Link.Kind != scene.Formula {
			if sentence := broken(k.p, members[0].Item.Spec(members[0].Key), s.Link); sentence != "" {
				k.add(Error, at, s.Name+": "+sentence, remove)
			}
			continue
		}
		text := s.Link.Formula
		if s.Link.Draft != "" {
			text = s.Link.Draft
		}
		compiled := formula.Compile(text, link.SpreadScope(k.p.Layout, s, -1))
		if sentence := wrong(compiled); sentence != "" {
			k.add(Error, at, s.Name+": the formula does not work: "+sentence, remove)
			continue
		}
		for _, p := range compiled.Problems {
			k.add(Warning, at, s.Name+": "+p.Sentence)
		}
	}
}
