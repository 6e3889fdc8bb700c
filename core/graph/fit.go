package graph

import (
	"fmt"
	"strings"

	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// Fit says what becomes of a value that is led to an input.
type Fit struct {
	Slip    scene.ID `json:"slip"`
	In      string   `json:"in"`
	Turns   string   `json:"turns,omitempty"`   // what it is turned into on the way: "n → xyz"
	Refused string   `json:"refused,omitempty"` // why it cannot be led there
	Doubt   string   `json:"doubt,omitempty"`   // why it is hardly meant
	Mends   []Mend   `json:"mends,omitempty"`   // what would help either
}

// Mend is what can be put between a value and an input so that they fit.
type Mend struct {
	Label string `json:"label"`
	Text  string `json:"text"` // a formula of what is led there, which it calls held
}

// held is what a mend calls the value that is led to an input.
const held = "held"

// Fitting checks values against inputs of a graph.
type Fitting struct {
	l       *lowerer
	scope   *binding.Scope
	types   map[Source]binding.Type
	targets map[scene.ID][]*binding.Scope
}

// NewFitting makes a fitting of a graph whose formulas stand in a scope. Types are those of its outputs, as far as they
// are known, and targets where drive slips drive something.
func NewFitting(g *scene.Graph, scope *binding.Scope, types map[Source]binding.Type, targets map[scene.ID][]*binding.Scope) *Fitting {
	return &Fitting{newLowerer(g), scope, types, targets}
}

// Wires says what becomes of values on the wires that are there, where there is something to say.
func (f *Fitting) Wires() []Fit {
	out := []Fit{}
	for _, w := range f.l.g.Wires {
		if fit := f.at(f.l.slips[w.To], w.In, Source{w.From, w.Out}); fit.Turns+fit.Refused+fit.Doubt != "" {
			out = append(out, fit)
		}
	}
	return out
}

// From says what would become of an output at each input that a wire could lead it to.
func (f *Fitting) From(from Source) []Fit {
	out := []Fit{}
	if f.l.slips[from.Slip] == nil {
		return out
	}
	before := Before(f.l.g, from.Slip)
	for _, s := range f.l.g.Slips {
		for _, port := range inputsOf(s, f.l.wired[s.ID]) {
			if before[s.ID] {
				out = append(out, Fit{Slip: s.ID, In: port.Key, Refused: "this would create a loop; for feedback, read the driven property through a delay"})
				continue
			}
			out = append(out, f.at(s, port.Key, from))
		}
	}
	return out
}

// Before returns a slip and all that wires to it come from.
func Before(g *scene.Graph, slip scene.ID) map[scene.ID]bool {
	from := map[scene.ID][]scene.ID{}
	for _, w := range g.Wires {
		from[w.To] = append(from[w.To], w.From)
	}
	before := map[scene.ID]bool{slip: true}
	for open := []scene.ID{slip}; len(open) > 0; {
		id := open[len(open)-1]
		open = open[:len(open)-1]
		for _, id := range from[id] {
			if !before[id] {
				before[id] = true
				open = append(open, id)
			}
		}
	}
	return before
}

// typeOf returns the type of an output.
func (f *Fitting) typeOf(from Source) (binding.Type, bool) {
	if t, ok := f.types[from]; ok {
		return t, true
	}
	if s := f.l.slips[from.Slip]; s != nil && s.Kind == scene.WordsSlip && wordsOf(from.Out) == s.Text { // of which no wire leads yet
		t := formula.Compile(from.Out, f.scope).Type
		return t, t.Of != ""
	}
	t, ok := f.types[Source{Slip: from.Slip}]
	if ok && from.Out != "" {
		t.Of = scene.Number
	}
	return t, ok
}

// at says what becomes of an output at an input.
func (f *Fitting) at(s *scene.Slip, in string, from Source) Fit {
	fit := Fit{Slip: s.ID, In: in}
	t, known := f.typeOf(from)
	if !known {
		return fit
	}
	given := map[string]binding.Type{held: t}
	piece := syntax.Whole(held)
	if slip := f.l.slips[from.Slip]; slip.Kind == scene.ReadSlip && from.Out == "" { // what some want to know by its reference
		piece = syntax.Whole(strings.TrimSpace(slip.Text))
	}
	if fits := kindOf(s).fits; fits != nil {
		fits(f, &fit, s, led{in, piece, t, given})
	}
	return fit
}

// incoming returns the type of what is led to an input already; a number where nothing is.
func (f *Fitting) incoming(s *scene.Slip, in string) binding.Type {
	if w := f.l.wires[input{s.ID, in}]; w != nil {
		if t, ok := f.typeOf(Source{w.From, w.Out}); ok {
			return t
		}
	}
	return binding.Type{Of: scene.Number}
}

// whole reports whether all other inputs of a slip are filled.
func (f *Fitting) whole(s *scene.Slip, in string) bool {
	few, _ := Arity(s)
	for k, port := range inputsOf(s, f.l.wired[s.ID]) {
		if k < few && port.Key != in && f.l.wires[input{s.ID, port.Key}] == nil && strings.TrimSpace(s.Fields[port.Key]) == "" {
			return false
		}
	}
	return true
}

// apply checks an input of a function or operator.
func (f *Fitting) apply(fit *Fit, s *scene.Slip, is led) {
	few, many := Arity(s)
	n := min(max(few, filled(s, f.l.wired[s.ID]), numbered(is.in)), many)
	args := make([]syntax.Piece, n)
	others := []binding.Type{}
	for k := range args {
		key := fmt.Sprint(k + 1)
		w := f.l.wires[input{s.ID, key}]
		switch text := strings.TrimSpace(s.Fields[key]); {
		case key == is.in:
			args[k] = is.piece
		case w == nil && text != "":
			args[k] = syntax.Loose(text)
		default:
			name := "other" + key
			args[k], is.given[name] = syntax.Whole(name), f.incoming(s, key)
			if w != nil {
				others = append(others, is.given[name])
				if from := f.l.slips[w.From]; from.Kind == scene.ReadSlip && w.Out == "" && from.Text != is.piece.Text {
					args[k] = syntax.Whole(strings.TrimSpace(from.Text))
				}
			}
		}
	}
	var text string
	if o := operatorOf(s.Text); o != nil && n == len(o.Ins) || s.Text == syntax.Point {
		text = syntax.Operation(s.Text, args...).Text
	} else if formula.FunctionOf(s.Text) != nil {
		text = syntax.Call(s.Text, args...).Text
	} else {
		return
	}
	result := f.check(fit, "("+text+")", is.piece.Text, f.scope, is.given, f.whole(s, is.in))
	if fit.Refused == "" {
		fit.Turns = within(s, is.in, is.of, others, result)
	}
}

// check notes what a formula says of a piece of it. Of the whole of it only what is said where it is complete counts.
func (f *Fitting) check(fit *Fit, text, piece string, scope *binding.Scope, given map[string]binding.Type, complete bool) binding.Type {
	checked := *scope
	checked.Given = given
	compiled := formula.Compile(text, &checked)
	for _, p := range compiled.Problems {
		exact := text[p.At:p.End] == piece
		if !exact && (!complete || !strings.Contains(text[p.At:p.End], piece)) {
			continue
		}
		into := &fit.Refused
		if p.Warning {
			into = &fit.Doubt
		}
		if *into != "" {
			continue
		}
		*into = strings.ReplaceAll(p.Sentence, held, "this value")
		for _, fix := range p.Fixes {
			if exact && fix.At == p.At && fix.End == p.End {
				fit.Mends = append(fit.Mends, Mend{fix.Label, strings.ReplaceAll(fix.Text, piece, held)})
			}
		}
	}
	return compiled.Type
}

// truths are the inputs that take a number as on or off.
var truths = map[string]string{"and": "12", "or": "12", syntax.Not: "1", "if": "1"}

// singles are the inputs that take one number however large the others are; of time functions all but the first do.
var singles = map[string]string{"mix": "3", "map": "123", "round": "2", "pick": "1", "stops": "1", "if": "1"}

// alone reports whether an input takes one number whatever comes to the others.
func alone(s *scene.Slip, in string) bool {
	f := formula.FunctionOf(s.Text)
	return strings.Contains(singles[s.Text], in) || f != nil && f.Elsewhen() && in != First
}

// within says what a value is turned into at an input of a function or operator.
func within(s *scene.Slip, in string, t binding.Type, others []binding.Type, result binding.Type) string {
	number := binding.Type{Of: scene.Number}
	f := formula.FunctionOf(s.Text)
	switch {
	case f != nil && f.Reduces(): // each argument for itself
		return ""
	case strings.Contains(truths[s.Text], in):
		return turned(t, binding.Type{Of: scene.Switch})
	case alone(s, in):
		return ""
	case t.Of == scene.Switch && result.Of != scene.Switch && s.Text != "text":
		return turned(t, number)
	}
	for _, o := range others {
		switch {
		case t.Of.Size() == 1 && o.Of.Size() > 1 && o.Of == result.Of: // it fills every component
			return turned(t, o)
		case s.Text == "*" && t.Unit == scene.Percent && o.Unit != "" && o.Unit != scene.Percent: // as so much of it
			return "% → n"
		}
	}
	return ""
}

// turned says that a value of one type becomes one of another; nothing where both are shown alike.
func turned(from, to binding.Type) string {
	tag := func(t binding.Type) string { return (&scene.Spec{Type: t.Of, Unit: t.Unit}).Tag() }
	if from.Of == to.Of {
		return ""
	}
	return tag(from) + " → " + tag(to)
}

// MendSlips makes the slips of a mend, the wires among them and from where the value comes, and says which output gives
// what is wanted. It fails where the mend is no formula of what is held.
func MendSlips(text string, from Source, newID func() scene.ID) (slips []*scene.Slip, wires []*scene.Wire, out Source, err error) {
	statements, problem := syntax.Syntax(text)
	if problem != nil {
		return nil, nil, Source{}, problem
	}
	l := &lifter{g: &scene.Graph{}, newID: newID, named: map[string]source{held: {slip: &scene.Slip{ID: from.Slip}, out: from.Out}}, reads: map[string]*scene.Slip{}}
	last := l.source(statements[len(statements)-1].Value)
	if last.slip == nil {
		return nil, nil, Source{}, fmt.Errorf("a mend is made of what is held")
	}
	return l.g.Slips, l.g.Wires, Source{last.slip.ID, last.out}, nil
}
