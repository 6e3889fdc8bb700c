package link

import (
	"fmt"
	"regexp"

	"wunderkammer/core/formula"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// A formula link gives what its formula gives.
func init() {
	register(byFormula(&Kind{
		Key: scene.Formula, Name: "Formula", Written: true,
		Called: func(*scene.Link, *scene.Composition) (called, by string) { return "the formula", "a formula" },
		Check:  func(l *scene.Link, _ *scene.Spec) error { return bounded(l) },
		Broken: amiss,
	}))
}

// byFormula completes a kind of links in which a formula stands.
func byFormula(k *Kind) *Kind {
	k.Formula = func(l *scene.Link) string { return l.Formula }
	k.References = func(l *scene.Link) []*syntax.Reference { return syntax.References(l.Formula) }
	k.PassesBelow = func(l *scene.Link) bool { return syntax.AsksBelow(l.Formula) }
	k.Rename = func(l *scene.Link, to func(scene.ID) (scene.ID, bool)) {
		l.Formula = syntax.Renamed(l.Formula, to)
		for _, id := range []*scene.ID{&l.Graph, &l.Slip} { // where a graph gives it
			if other, ok := to(*id); ok {
				*id = other
			}
		}
	}
	k.Hints = func(l *scene.Link, s *Sight) (out []Fault) {
		for _, p := range s.compile(l.Formula).Problems {
			out = append(out, Fault{Sentence: p.Sentence})
		}
		if fault := hundredthOfHundredths(l, s); fault != nil {
			out = append(out, *fault)
		}
		return out
	}
	return k
}

// divided is the end of a formula that divides by 100.
var divided = regexp.MustCompile(`\s*/\s*100\s*$`)

// hundredthOfHundredths tells of a formula that makes hundredths of a percent where the link, which multiplies, does so once more.
func hundredthOfHundredths(l *scene.Link, s *Sight) *Fault {
	if l.Operation != scene.Multiply || s.compile(l.Formula).Type.Unit != scene.Percent {
		return nil
	}
	if !divided.MatchString(l.Formula) {
		return nil
	}
	return &Fault{
		Sentence: "a link that multiplies takes a percent as hundredths, and the formula divides it by 100 besides: of 50 % comes 0.5 %",
		Mends:    []Mend{{"leave the division out", func(l *scene.Link) { l.Formula = divided.ReplaceAllString(l.Formula, "") }}},
	}
}

// bounded refuses formulas that are too long.
func bounded(l *scene.Link) error {
	if len(l.Formula) > scene.MaxFormula || len(l.Draft) > scene.MaxFormula {
		return fmt.Errorf("a formula is at most %d bytes long", scene.MaxFormula)
	}
	return nil
}

// amiss says what is wrong with a formula, as it was typed and as it stands.
func amiss(l *scene.Link, s *Sight) *Fault {
	if l.Draft == "" {
		if sentence := wrong(s.compile(l.Formula)); sentence != "" {
			return &Fault{Sentence: "the formula has an error: " + sentence}
		}
		return nil
	}
	compiled := s.compile(l.Draft)
	sentence := wrong(compiled)
	if sentence == "" {
		if cycle := s.Cycle(compiled.Program); cycle != "" {
			sentence = "it would create a loop: " + cycle
		} else {
			sentence = "it has no error now; open it and apply it again"
		}
	}
	fault := &Fault{Sentence: "the formula has an error: " + sentence, Runs: l.Formula != ""}
	if fault.Runs {
		fault.Sentence += ". The last working version is in use"
		fault.Mends = []Mend{{"restore the last working version", func(l *scene.Link) { l.Draft = "" }}}
	}
	return fault
}

// wrong says what is wrong with a formula first.
func wrong(c *formula.Compiled) string {
	for _, p := range c.Errors() {
		return p.Sentence
	}
	return ""
}
