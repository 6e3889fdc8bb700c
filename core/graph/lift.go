package graph

import (
	"strconv"
	"strings"

	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// Lift makes a graph of a formula: slips and wires, with a drive slip at the end that is given what the formula gives, all
// laid out. What is said in comments becomes titles.
func Lift(text string, newID func() scene.ID) (*scene.Graph, scene.ID, error) {
	statements, problem := syntax.Syntax(text)
	if problem != nil {
		return nil, "", problem
	}
	l := &lifter{g: &scene.Graph{}, newID: newID, named: map[string]source{}, reads: map[string]*scene.Slip{}}
	var last source
	for _, one := range statements {
		last = l.source(one.Value)
		if one.Name != "" {
			l.title(last.slip, one.Name)
			l.named[one.Name] = last
		} else if one.Comment != "" {
			l.g.Note = one.Comment
		}
	}
	drive := l.add(scene.DriveSlip, "")
	l.give(drive, In, last)
	Arrange(l.g)
	return l.g, drive.ID, nil
}

// source is where a value comes from: an output of a slip, or a literal, which needs none.
type source struct {
	slip    *scene.Slip
	out     string
	literal string
}

type lifter struct {
	g     *scene.Graph
	newID func() scene.ID
	named map[string]source      // the values that have a name
	reads map[string]*scene.Slip // slips that there is one of, by their text
}

func (l *lifter) add(kind scene.SlipKind, text string) *scene.Slip {
	s := &scene.Slip{ID: l.newID(), Kind: kind, Text: text}
	l.g.Slips = append(l.g.Slips, s)
	return s
}

// only returns the one slip of a kind that has a text.
func (l *lifter) only(kind scene.SlipKind, text string) *scene.Slip {
	key := string(kind) + "\x00" + text
	if l.reads[key] == nil {
		l.reads[key] = l.add(kind, text)
	}
	return l.reads[key]
}

// give leads a source to an input.
func (l *lifter) give(to *scene.Slip, in string, from source) {
	if from.slip == nil {
		if to.Kind == scene.DriveSlip {
			from.slip = l.add(scene.ValueSlip, from.literal)
		} else {
			if to.Fields == nil {
				to.Fields = map[string]string{}
			}
			to.Fields[in] = from.literal
			return
		}
	}
	l.g.Wires = append(l.g.Wires, &scene.Wire{From: from.slip.ID, Out: from.out, To: to.ID, In: in})
}

// title gives a slip that works something out the name that its value has.
func (l *lifter) title(s *scene.Slip, name string) {
	if s != nil && (s.Kind == scene.ApplySlip || s.Kind == scene.MapSlip) && s.Title == "" {
		s.Title = strings.ReplaceAll(name, "_", " ")
	}
}

// source makes what gives an expression.
func (l *lifter) source(e *syntax.Expression) source {
	switch e.Sort {
	case syntax.Literal:
		return source{literal: e.Text}
	case syntax.Refer:
		return source{slip: l.only(scene.ReadSlip, e.Text)}
	case syntax.Word:
		if from, ok := l.named[e.Text]; ok {
			return from
		}
		if of := wordsOf(e.Text); of != "" {
			return source{slip: l.only(scene.WordsSlip, of), out: e.Text}
		}
		return source{slip: l.add(scene.FormulaSlip, e.Text)} // outers of outers, and what does not exist
	case syntax.Component:
		from := l.source(e.Args[0])
		if from.slip == nil || from.out != "" { // of a literal, or of a component
			return source{slip: l.part(e, from)}
		}
		return source{slip: from.slip, out: e.Text}
	}
	if stops, beyond, ok := syntax.ReadStops(e); ok {
		s := l.add(scene.MapSlip, "")
		s.Stops, s.Beyond = stops, beyond
		l.give(s, First, l.source(e.Args[0]))
		return source{slip: s}
	}
	s := l.add(scene.ApplySlip, e.Text)
	for k, a := range e.Args {
		l.give(s, strconv.Itoa(k+1), l.source(a))
	}
	return source{slip: s}
}

// part takes a component of what is no whole output of a slip.
func (l *lifter) part(e *syntax.Expression, from source) *scene.Slip {
	if from.slip == nil {
		return l.add(scene.FormulaSlip, syntax.Whole(from.literal).Part(e.Text).Text)
	}
	s := l.add(scene.FormulaSlip, "value."+e.Text)
	l.give(s, "value", from)
	return s
}
