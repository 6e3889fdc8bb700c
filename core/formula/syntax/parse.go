package syntax

import (
	"fmt"
	"strings"

	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// Units says what the units of numbers are in the units that values have: seconds and degrees.
// Frames become seconds by the rate of the composition.
var Units = map[string]struct {
	Factor float64
	Unit   scene.Unit
	Frames bool
}{
	"": {1, scene.Plain, false}, "f": {1, scene.Seconds, true}, "s": {1, scene.Seconds, false},
	"deg": {1, scene.Degrees, false}, "turn": {360, scene.Degrees, false}, "rad": {180 / 3.141592653589793, scene.Degrees, false},
}

// NodeKind tells nodes of the syntax tree apart.
type NodeKind int

// The kinds of nodes.
const (
	NodeNumber NodeKind = iota
	NodeColour
	NodeText
	NodeName
	NodeRef
	NodePoint    // args: 2 or 3 components
	NodeCall     // text: the function
	NodeNegative // one argument
	NodeNot      // one argument
	NodeBinary   // text: the operator; two arguments
	NodePart     // text: the component; one argument
	NodeElse     // a reference, and what stands for it where it is missing
)

// Node is an expression of a formula, with the bytes that it stands at.
type Node struct {
	Kind    NodeKind
	At, End int
	Text    string
	Number  float64
	Colour  [4]float64
	Ref     *Reference
	Outer   int // of a name: how many rosters further out
	Args    []*Node
}

// Line is a named value, or, without a name, the result.
type Line struct {
	Name    string
	At, End int // of the name
	Value   *Node
}

// Tree is a parsed formula.
type Tree struct {
	Lines []Line // the last is the result
	// Dangling says what is wrong with the last line unless the name that it begins with is known everywhere; nil where it is no such
	// line. With a known name it compares.
	Dangling *Problem
	Begins   string // that name
}

// comparisons gives the operators that compare one spelling each.
var comparisons = map[string]string{"=": "=", "==": "=", "≠": "!=", "!=": "!=", "<": "<", ">": ">", "<=": "<=", ">=": ">="}

// Parse reads a formula.
func Parse(text string) (*Tree, *Problem) {
	tokens, p := scan(text)
	if p != nil {
		return nil, p
	}
	r := &parser{tokens: tokens, text: text, named: map[string]bool{}}
	t := &Tree{}
	for {
		for r.peek().Kind == tokenNewline {
			r.at++
		}
		if r.peek().Kind == tokenEnd {
			break
		}
		l, p := r.line()
		if p != nil {
			return nil, p
		}
		r.named[l.Name] = true
		t.Lines = append(t.Lines, l)
	}
	if len(t.Lines) == 0 {
		return nil, &Problem{At: 0, End: len(text), Sentence: "the formula is empty; write a value for the property"}
	}
	if first := r.dangling; first != nil {
		t.Begins = first.Text
		t.Dangling = &Problem{At: first.at, End: first.end, Sentence: "the last line only names a value; write the result on a line below it", Fixes: []Fix{{"add " + first.Text + " as the result", len(text), len(text), "\n" + first.Text}}}
	}
	return t, nil
}

type parser struct {
	text   string
	tokens []token
	at     int
	depth  int
	named  map[string]bool // the values that have a name
	// dangling is the name that the last line begins with, where it could be one that is given and is none of these.
	dangling *token
}

func (r *parser) peek() token { return r.tokens[r.at] }

func (r *parser) is(sign string) bool { t := r.peek(); return t.Kind == tokenSign && t.Text == sign }

func (r *parser) word(name string) bool { t := r.peek(); return t.Kind == tokenName && t.Text == name }

// more reports whether another line that is not empty follows the one that begins here.
func (r *parser) more() bool {
	at := r.at
	for r.tokens[at].Kind != tokenNewline && r.tokens[at].Kind != tokenEnd {
		at++
	}
	for r.tokens[at].Kind == tokenNewline {
		at++
	}
	return r.tokens[at].Kind != tokenEnd
}

func (r *parser) line() (Line, *Problem) {
	var l Line
	if name := r.peek(); name.Kind == tokenName && r.tokens[r.at+1].Kind == tokenSign && r.tokens[r.at+1].Text == "=" {
		switch {
		case r.more():
			l.Name, l.At, l.End = name.Text, name.at, name.end
			if Keywords[name.Text] {
				return l, RefuseName(l)
			}
			r.at += 2
		case !r.named[name.Text]:
			r.dangling = &name
		}
	}
	value, p := r.expression(0)
	if p != nil {
		return l, p
	}
	l.Value = value
	if t := r.peek(); t.Kind != tokenNewline && t.Kind != tokenEnd {
		return l, r.unexpected(t)
	}
	return l, nil
}

// RefuseName refuses the name of a line.
func RefuseName(l Line) *Problem {
	return &Problem{At: l.At, End: l.End, Sentence: fmt.Sprintf("%s is a reserved name; give the value another one", l.Name)}
}

func (r *parser) unexpected(t token) *Problem {
	if p := r.hint(t); p != nil {
		return p
	}
	p := &Problem{At: t.at, End: t.end}
	what := strings.TrimSpace(r.text[t.at:t.end])
	switch {
	case t.Kind == tokenEnd || t.Kind == tokenNewline:
		p.At = max(0, t.at-1)
		p.Sentence = "something is missing at the end of the line"
	case t.Text == ")" || t.Text == "]":
		p.Sentence = fmt.Sprintf("this %s has no opening counterpart", t.Text)
		p.Fixes = []Fix{{"remove it", t.at, t.end, ""}}
	case t.Kind == tokenSign:
		p.Sentence = fmt.Sprintf("%s isn't allowed here", what)
	default:
		p.Sentence = fmt.Sprintf("an operator is missing before %s", what)
		p.Fixes = []Fix{{"multiply", t.at, t.at, "* "}, {"add", t.at, t.at, "+ "}}
	}
	return p
}

// Counts are the names that exist at every level of rosters within each other, behind outer.
var Counts = map[string]machine.InputKind{"index": machine.Index, "number": machine.Number, "count": machine.Count, "share": machine.Share}

// Keywords are the names that are operators or values.
var Keywords = map[string]bool{"or": true, "and": true, "not": true, "else": true, "true": true, "false": true, "own": true, "below": true}

// levels lists the operators with two sides, the loosest first.
var levels = []func(token) string{
	func(t token) string { return named(t, "or") },
	func(t token) string { return named(t, "and") },
	nil, // not
	func(t token) string {
		if t.Kind == tokenSign {
			return comparisons[t.Text]
		}
		return ""
	},
	func(t token) string { return sign(t, "+", "-") },
	func(t token) string { return sign(t, "*", "/") },
}

func named(t token, name string) string {
	if t.Kind == tokenName && t.Text == name {
		return name
	}
	return ""
}

func sign(t token, list ...string) string {
	for _, s := range list {
		if t.Kind == tokenSign && t.Text == s {
			return s
		}
	}
	return ""
}

func (r *parser) deeper() *Problem {
	if r.depth++; r.depth > MaxDepth {
		t := r.peek()
		return &Problem{At: t.at, End: t.end, Sentence: fmt.Sprintf("this is nested more than %d levels deep; give part of it a name on its own line", MaxDepth)}
	}
	return nil
}

func (r *parser) expression(level int) (*Node, *Problem) {
	if level == 0 {
		if p := r.deeper(); p != nil {
			return nil, p
		}
		defer func() { r.depth-- }()
	}
	switch {
	case level == len(levels):
		return r.unary()
	case levels[level] == nil:
		if t := r.peek(); r.word("not") {
			if p := r.deeper(); p != nil {
				return nil, p
			}
			defer func() { r.depth-- }()
			r.at++
			x, p := r.expression(level)
			if p != nil {
				return nil, p
			}
			return &Node{Kind: NodeNot, At: t.at, End: x.End, Args: []*Node{x}}, nil
		}
		return r.expression(level + 1)
	}
	left, p := r.expression(level + 1)
	for p == nil {
		op := levels[level](r.peek())
		if op == "" {
			return left, nil
		}
		r.at++
		var right *Node
		if right, p = r.expression(level + 1); p == nil {
			if comparing(op) && left.Kind == NodeBinary && comparing(left.Text) && !bracketed(left, r.text) {
				return nil, r.chain(left, right)
			}
			left = &Node{Kind: NodeBinary, At: left.At, End: right.End, Text: op, Args: []*Node{left, right}}
		}
	}
	return nil, p
}

func (r *parser) unary() (*Node, *Problem) {
	if t := r.peek(); r.is("-") || r.is("+") {
		if p := r.deeper(); p != nil {
			return nil, p
		}
		defer func() { r.depth-- }()
		r.at++
		x, p := r.unary()
		if p != nil || t.Text == "+" {
			return x, p
		}
		return &Node{Kind: NodeNegative, At: t.at, End: x.End, Args: []*Node{x}}, nil
	}
	return r.power()
}

func (r *parser) power() (*Node, *Problem) {
	x, p := r.postfix()
	if p != nil || !r.is("^") {
		return x, p
	}
	if p := r.deeper(); p != nil {
		return nil, p
	}
	defer func() { r.depth-- }()
	r.at++
	y, p := r.unary() // right to left, and the exponent may be negative
	if p != nil {
		return nil, p
	}
	return &Node{Kind: NodeBinary, At: x.At, End: y.End, Text: "^", Args: []*Node{x, y}}, nil
}

func (r *parser) postfix() (*Node, *Problem) {
	x, p := r.primary()
	for p == nil {
		switch t := r.peek(); {
		case r.is("."):
			r.at++
			part := r.peek()
			if part.Kind != tokenName {
				return nil, &Problem{At: t.at, End: t.end, Sentence: "after the dot, name a component: x, y, z, r, g, b or a"}
			}
			r.at++
			x = &Node{Kind: NodePart, At: x.At, End: part.end, Text: part.Text, Args: []*Node{x}}
		case r.word("else"):
			r.at++
			other, p := r.unary()
			if p != nil {
				return nil, p
			}
			x = &Node{Kind: NodeElse, At: x.At, End: other.End, Args: []*Node{x, other}}
		default:
			return x, nil
		}
	}
	return nil, p
}

func (r *parser) primary() (*Node, *Problem) {
	t := r.peek()
	n := &Node{At: t.at, End: t.end, Text: t.Text, Number: t.number, Colour: t.colour}
	switch t.Kind {
	case tokenNumber:
		n.Kind = NodeNumber
	case tokenColour:
		n.Kind = NodeColour
	case tokenText:
		n.Kind = NodeText
	case tokenRef:
		ref, p := ParseReference(t.Text, t.at+1)
		if p != nil {
			return nil, p
		}
		n.Kind, n.Ref = NodeRef, ref
	case tokenName:
		if t.Text != "own" && t.Text != "below" && t.Text != "true" && t.Text != "false" && Keywords[t.Text] {
			return nil, r.unexpected(token{Kind: tokenSign, at: t.at, end: t.end})
		}
		if p := r.foreignWord(t); p != nil {
			return nil, p
		}
		r.at++
		n.Kind = NodeName
		for n.Text == "outer" { // outer index
			if _, ok := Counts[r.peek().Text]; !ok && r.peek().Text != "outer" {
				break
			}
			n.Text, n.End = r.peek().Text, r.peek().end
			n.Outer++
			r.at++
		}
		if !r.is("(") {
			return n, nil
		}
		n.Kind = NodeCall
		return n, r.list(n, ")")
	case tokenSign:
		switch t.Text {
		case "(":
			r.at++
			x, p := r.expression(0)
			if p != nil {
				return nil, p
			}
			if !r.is(")") {
				return nil, r.unclosed(t)
			}
			x.At, x.End = t.at, r.peek().end
			r.at++
			return x, nil
		case "[":
			n.Kind = NodePoint
			return n, r.list(n, "]")
		}
		return nil, r.unexpected(t)
	default:
		return nil, r.unexpected(t)
	}
	r.at++
	return n, nil
}

func (r *parser) unclosed(open token) *Problem {
	t := r.peek()
	closing := map[string]string{"(": ")", "[": "]"}[open.Text]
	if t.Kind != tokenEnd && t.Kind != tokenNewline && t.Text != "," {
		return r.unexpected(t)
	}
	if t.Text == "," && open.Text == "(" {
		if p := r.hint(t); p != nil {
			return p
		}
		return &Problem{At: t.at, End: t.end, Sentence: "a comma isn't allowed here; a point is written with square brackets: [x, y]", Fixes: []Fix{{"write it as a point", open.at, open.end, "["}}}
	}
	return &Problem{At: open.at, End: open.end, Sentence: fmt.Sprintf("missing closing bracket for this %s", open.Text), Fixes: []Fix{{"close it", t.at, t.at, closing}}}
}

// list reads arguments in brackets into a node.
func (r *parser) list(n *Node, closing string) *Problem {
	open := r.peek()
	r.at++
	for !r.is(closing) {
		x, p := r.expression(0)
		if p != nil {
			return p
		}
		n.Args = append(n.Args, x)
		if r.is(",") {
			r.at++
			continue
		}
		if !r.is(closing) {
			return r.unclosed(open)
		}
	}
	n.End = r.peek().end
	r.at++
	return nil
}

// LineNumbers returns on which line of the text, from 1, each line of a formula ends; nothing of one that cannot be read.
func LineNumbers(text string) []int {
	t, p := Parse(text)
	if p != nil {
		return nil
	}
	out := make([]int, len(t.Lines))
	at, number := 0, 1
	for k, l := range t.Lines {
		number += strings.Count(text[at:l.Value.End], "\n")
		at, out[k] = l.Value.End, number
	}
	return out
}

// Relocate puts an expression that was read by itself where another one stands, for what is said of it.
func (n *Node) Relocate(to *Node) {
	n.At, n.End = to.At, to.End
	for _, a := range n.Args {
		a.Relocate(to)
	}
}
