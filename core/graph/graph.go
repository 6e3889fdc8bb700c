// Package graph turns slips and wires into formulas, and formulas into slips and wires. A graph is another way to write
// formulas: what it gives, its types, units and errors are theirs.
package graph

import (
	"slices"
	"strconv"
	"strings"

	"wunderkammer/core/formula"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// Port is an input or an output of a slip: its key, by which cables name it, unique on its side of the slip, and what it is called.
type Port struct {
	Key  string `json:"key"`
	Name string `json:"name"`
}

// Operator is an operator of the formula language as a slip: how it is written there, what it is called, and its inputs in order.
type Operator struct {
	Text string   `json:"text"`
	Name string   `json:"name"`
	Help string   `json:"help"`
	Ins  []string `json:"ins" ts:"list"`
}

// Operators lists the operators of the language, as slips. Those between two sides are called as they are read out.
var Operators = named([]Operator{
	{"+", "", "the sum", []string{"a", "b"}},
	{"-", "", "the difference", []string{"a", "b"}},
	{"*", "", "the product", []string{"a", "b"}},
	{"/", "", "a divided by b", []string{"a", "b"}},
	{"^", "", "a to the power of b", []string{"a", "b"}},
	{syntax.Negative, "negative", "a with its sign reversed", []string{"a"}},
	{"=", "", "on when a equals b", []string{"a", "b"}},
	{"!=", "", "on when a and b differ", []string{"a", "b"}},
	{"<", "", "on when a is below b", []string{"a", "b"}},
	{">", "", "on when a is above b", []string{"a", "b"}},
	{"<=", "", "on when a is at most b", []string{"a", "b"}},
	{">=", "", "on when a is at least b", []string{"a", "b"}},
	{"and", "", "on when both are on", []string{"a", "b"}},
	{"or", "", "on when one of them is on", []string{"a", "b"}},
	{syntax.Not, "not", "on when a is off", []string{"a"}},
	{syntax.Otherwise, "else", "another value where there is no such member", []string{"what is read", "else"}},
	{syntax.Point, "point", "a point of two or three components", []string{"x", "y", "z"}},
})

func named(list []Operator) []Operator {
	for k := range list {
		if said := syntax.Said(list[k].Text); said != "" {
			list[k].Name = said
		}
	}
	return list
}

// operatorOf returns an operator by its text, or nil.
func operatorOf(text string) *Operator {
	for i := range Operators {
		if Operators[i].Text == text {
			return &Operators[i]
		}
	}
	return nil
}

// Word is what is known everywhere, by the slip that gives it.
type Word struct {
	Text string   `json:"text"`
	Outs []string `json:"outs" ts:"list"`
}

// Words lists the slips that give what is known everywhere.
var Words = []Word{
	{"row", []string{"index", "number", "count", "share"}},
	{"outer row", []string{"outer index", "outer number", "outer count", "outer share"}},
	{"clock", []string{"time", "frame", "fps", "duration"}},
	{"target", []string{"own", "below"}},
	{"canvas", []string{"width", "height"}},
	{"constant", []string{"pi", "tau", "true", "false"}},
}

// wordsOf returns which slip gives a word.
func wordsOf(word string) string {
	for _, w := range Words {
		if slices.Contains(w.Outs, word) {
			return w.Text
		}
	}
	return ""
}

// In is the input of a slip that gives nothing, and First the first of one that does and whose inputs have no names.
const (
	In    = "in"
	First = "1"
)

// Arity returns how many inputs of a slip have to be filled, and how many it has at most.
func Arity(s *scene.Slip) (least, most int) {
	if arity := kindOf(s).arity; arity != nil {
		return arity(s)
	}
	return 0, 0
}

// Inputs lists the inputs of a slip: those that it needs, all that are filled, and one more where it takes any number.
func Inputs(g *scene.Graph, s *scene.Slip) []Port { return inputsOf(s, wired(g)[s.ID]) }

// AllInputs is Inputs of all slips, by their ids.
func AllInputs(g *scene.Graph) map[scene.ID][]Port {
	last, out := wired(g), map[scene.ID][]Port{}
	for _, s := range g.Slips {
		out[s.ID] = inputsOf(s, last[s.ID])
	}
	return out
}

// inputsOf is Inputs of a slip to whose input of that number, and to none behind it, a wire leads.
func inputsOf(s *scene.Slip, last int) []Port {
	if ports := kindOf(s).ports; ports != nil {
		return ports(s, last)
	}
	return nil
}

// numbered returns the number of an input of an apply slip; 0 for what is none.
func numbered(key string) int {
	n, err := strconv.Atoi(key)
	if err != nil {
		return 0
	}
	return min(n, scene.MaxInputs+1)
}

// wired returns the number of the last input of each slip that a wire leads to.
func wired(g *scene.Graph) map[scene.ID]int {
	last := map[scene.ID]int{}
	for _, w := range g.Wires {
		last[w.To] = max(last[w.To], numbered(w.In))
	}
	return last
}

// filled returns the number of the last input of an apply slip that a wire leads to or something stands in.
func filled(s *scene.Slip, last int) int {
	for key, text := range s.Fields {
		if strings.TrimSpace(text) != "" {
			last = max(last, numbered(key))
		}
	}
	return last
}

// HelpOf says what a function or operator gives; nothing of other slips.
func HelpOf(s *scene.Slip) string {
	if s.Kind != scene.ApplySlip {
		return ""
	}
	if f := formula.FunctionOf(s.Text); f != nil {
		return f.Help
	}
	if o := operatorOf(s.Text); o != nil {
		return o.Help
	}
	return ""
}

// Gives reports whether a slip has outputs: all have, but for drives, readouts, notes and folds.
func Gives(s *scene.Slip) bool { return !kindOf(s).mute }

// Circle returns slips whose wires run in a circle, in their order, or nil.
func Circle(g *scene.Graph) (circle []*scene.Slip) {
	from := map[scene.ID][]scene.ID{} // the slips whose wires come to one
	for _, w := range g.Wires {
		from[w.To] = append(from[w.To], w.From)
	}
	const open, done = 1, 2
	state := map[scene.ID]int{}
	var path []scene.ID
	var walk func(id scene.ID) bool
	walk = func(id scene.ID) bool {
		switch state[id] {
		case done:
			return false
		case open:
			path = path[slices.Index(path, id):]
			return true
		}
		state[id] = open
		path = append(path, id)
		if slices.ContainsFunc(from[id], walk) {
			return true
		}
		state[id] = done
		path = path[:len(path)-1]
		return false
	}
	for _, s := range g.Slips {
		if walk(s.ID) {
			for _, id := range path {
				s, _ := g.Slip(id)
				circle = append(circle, s)
			}
			slices.Reverse(circle) // from what is read to what reads it
			return circle
		}
	}
	return nil
}

// Named names slips that make a circle, with arrows between them, from the first back to it, for a sentence.
func Named(slips []*scene.Slip) string {
	var names []string
	for _, s := range slips {
		names = append(names, Called(s))
	}
	return strings.Join(append(names, names[0]), " → ")
}
