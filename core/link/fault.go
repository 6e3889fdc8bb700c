package link

import (
	"fmt"

	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// Sight is what words about a link may look at: where it stands, and what there is at a frame.
type Sight struct {
	Composition *scene.Composition
	Target      *scene.Spec
	Scope       *binding.Scope                  // of a formula in the place of the link
	Cycle       func(p *machine.Program) string // the cycle that a program would close there; empty: none
	Value       func(ref scene.Ref) scene.Value // at the frame; absent for what is not there

	text     string // of the formula that was compiled last
	compiled *formula.Compiled
}

// compile compiles a formula in the place of the link, once where it is asked for again.
func (s *Sight) compile(text string) *formula.Compiled {
	if s.compiled == nil || s.text != text {
		s.text, s.compiled = text, formula.Compile(text, s.Scope)
	}
	return s.compiled
}

// Source returns the property that is the source of a link; nil where it is gone.
func (s *Sight) Source(l *scene.Link) *scene.Spec {
	if item := s.Composition.Item(l.Source.Item); item != nil {
		return item.Spec(l.Source.Property)
	}
	return nil
}

// Fault is something that is wrong with a link, or may be.
type Fault struct {
	Sentence string
	Mends    []Mend
	Reattach bool // another source would mend it
	Runs     bool // the link works all the same, as it did before
}

// Mend is a way out: the same link, altered.
type Mend struct {
	Label string
	Alter func(l *scene.Link)
}

// Broken says what keeps a link from working, or nil.
func Broken(l *scene.Link, s *Sight) *Fault {
	k := Of(l)
	if k.Sourced {
		if sentence := k.unsourced(l, s); sentence != "" {
			return &Fault{Sentence: sentence, Reattach: true}
		}
	}
	if k.Broken != nil {
		return k.Broken(l, s)
	}
	return nil
}

// unsourced says what is wrong with the source of a link.
func (k *Kind) unsourced(l *scene.Link, s *Sight) string {
	item := s.Composition.Item(l.Source.Item)
	if item == nil {
		return "source missing: it was deleted"
	}
	source := item.Spec(l.Source.Property)
	if source == nil {
		return fmt.Sprintf("source missing: the control of %s was deleted", item.Name)
	}
	if _, err := k.Fits(source, l.Source.Component, s.Target, l.Component); err != nil {
		return err.Error()
	}
	return ""
}

// Hints says what may be wrong with a link that works.
func Hints(l *scene.Link, s *Sight) []Fault {
	if k := Of(l); k.Hints != nil {
		return k.Hints(l, s)
	}
	return nil
}

// Idle says why a move of what a link looks at changes nothing at a frame, or nothing; dead: nor at any other.
func Idle(l *scene.Link, s *Sight) (sentence string, dead bool) {
	if k := Of(l); k.Idle != nil {
		return k.Idle(l, s)
	}
	return "", false
}
