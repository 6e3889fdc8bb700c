// Package link has the kinds of links: each in a file of its own, with all that is particular to it. What
// asks for more than one kind asks the kind, and never tells them apart by name.
package link

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// Kind is all that is particular to a kind of link. A link takes its value from one property, its source, or from
// a formula that the kind gives, which may look at a source, too; what is nil here, most kinds do without.
type Kind struct {
	Key  scene.LinkKind `json:"kind"`
	Name string         `json:"name"` // as the title of its editor

	Sourced bool `json:"sourced,omitempty"` // looks at one property, its Source
	Linear  bool `json:"linear,omitempty"`  // gives that × Gain + Offset and nothing else
	Stops   bool `json:"stops,omitempty"`   // has stops to mark
	Written bool `json:"written,omitempty"` // has a text that people write, and a draft of it
	Graphed bool `json:"graphed,omitempty"` // is given its value by a drive slip of a graph
	Posed   bool `json:"posed,omitempty"`   // holds values at the stops of a control of poses

	// Check refuses what cannot be evaluated on a target.
	Check func(l *scene.Link, target *scene.Spec) error `json:"-"`
	// Fits says how a source fills a target.
	Fits func(source *scene.Spec, sourceComponent string, target *scene.Spec, targetComponent string) (Fit, error) `json:"-"`
	// Response is what the numbers of the source go through before gain and offset; nil where the source has none to give.
	Response func(l *scene.Link, c *scene.Composition) *Response `json:"-"`
	// Formula is what works the value out, bound to ids; empty: nothing yet.
	Formula func(l *scene.Link) string `json:"-"`
	// References lists what the link refers to besides its source.
	References func(l *scene.Link) []*syntax.Reference `json:"-"`
	// PassesBelow reports whether the link lets through what is below it though it replaces it.
	PassesBelow func(l *scene.Link) bool `json:"-"`
	// Rename brings other ids than that of the source up to date.
	Rename func(l *scene.Link, to func(scene.ID) (scene.ID, bool)) `json:"-"`
	// Called names the link in a sentence, and what drives its target; by the source where it is nil.
	Called func(l *scene.Link, c *scene.Composition) (called, by string) `json:"-"`
	// Broken says what keeps the link from working, besides a source that is gone or does not fit.
	Broken func(l *scene.Link, s *Sight) *Fault `json:"-"`
	// Hints says what may be wrong with a link that works.
	Hints func(l *scene.Link, s *Sight) []Fault `json:"-"`
	// Idle says why a move of the source changes nothing at a frame, or nothing; dead: of no move at any frame.
	Idle func(l *scene.Link, s *Sight) (sentence string, dead bool) `json:"-"`
}

// Response is a curve from the numbers of a source to those of a target.
type Response struct {
	Stops  []scene.MapStop // by rising input
	Beyond scene.Beyond
}

var kinds []*Kind

// register makes a kind known, here and to the checks of form.
func register(k *Kind) {
	kinds = append(kinds, k)
	scene.RegisterLink(k.Key, k.check)
}

// Kinds lists all kinds in the order of their names; the list is the caller's.
func Kinds() []*Kind {
	out := slices.Clone(kinds)
	slices.SortFunc(out, func(a, b *Kind) int { return cmp.Compare(a.Name, b.Name) })
	return out
}

// unknown is the kind of a link that no check of form lets through: it drives nothing.
var unknown = &Kind{}

// Of returns the kind of a link, and never nil: one that no check of form lets through is a kind that does nothing.
func Of(l *scene.Link) *Kind {
	for _, k := range kinds {
		if k.Key == l.Kind {
			return k
		}
	}
	return unknown
}

// check refuses what a link of another kind has, and what the kind itself refuses.
func (k *Kind) check(l *scene.Link, target *scene.Spec) error {
	name := strings.ToLower(k.Name)
	switch {
	case k.Formula == nil && l.Formula != "" || !k.Written && l.Draft != "":
		return fmt.Errorf("a %s link has no formula", name)
	case !k.Graphed && (l.Graph != "" || l.Slip != ""):
		return fmt.Errorf("a %s link has no graph", name)
	case !k.Stops && len(l.Stops) > 0:
		return fmt.Errorf("a %s link has no stops", name)
	case !k.Posed && len(l.Held) > 0:
		return fmt.Errorf("a %s link holds no poses", name)
	case !k.Sourced && l.Source != (scene.Ref{}):
		return fmt.Errorf("a %s link has no source of its own", name)
	case k.Check != nil:
		return k.Check(l, target)
	}
	return nil
}

// PassesBelow reports whether a link lets through what the links under it make.
func PassesBelow(l *scene.Link) bool {
	k := Of(l)
	return l.Operation != scene.Replace || k.PassesBelow != nil && k.PassesBelow(l)
}

// Called names a link in the middle of a sentence.
func Called(l *scene.Link, c *scene.Composition) string {
	if k := Of(l); k.Called != nil {
		called, _ := k.Called(l, c)
		return called
	}
	return "the link from " + c.NameOf(l.Source)
}

// By says what drives the target of a link, in the middle of a sentence.
func By(l *scene.Link, c *scene.Composition) string {
	if k := Of(l); k.Called != nil {
		_, by := k.Called(l, c)
		return by
	}
	return c.NameOf(l.Source)
}

// Rename gives a link the new ids of the items, controls and links that it looks at.
func Rename(l *scene.Link, to func(scene.ID) (scene.ID, bool)) {
	if id, ok := to(l.Source.Item); ok {
		l.Source.Item = id
		if id, ok := to(scene.ID(l.Source.Property)); ok {
			l.Source.Property = string(id)
		} else if of, weight := scene.WeightOf(l.Source.Property); weight {
			if id, ok := to(of); ok {
				l.Source.Property = scene.WeightKey(id)
			}
		}
	}
	if k := Of(l); k.Rename != nil {
		k.Rename(l, to)
	}
}
