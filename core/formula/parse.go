package formula

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// units says what the units of numbers are in the units that values have: seconds and degrees.
// Frames become seconds by the rate of the composition.
var units = map[string]struct {
	factor float64
	unit   scene.Unit
	frames bool
}{
	"": {1, scene.Plain, false}, "f": {1, scene.Seconds, true}, "s": {1, scene.Seconds, false},
	"deg": {1, scene.Degrees, false}, "turn": {360, scene.Degrees, false}, "rad": {180 / 3.141592653589793, scene.Degrees, false},
}

// nodeKind tells nodes of the syntax tree apart.
type nodeKind int

const (
	nodeNumber nodeKind = iota
	nodeColour
	nodeText
	nodeName
	nodeRef
	nodePoint    // args: 2 or 3 components
	nodeCall     // text: the function
	nodeNegative // one argument
	nodeNot      // one argument
	nodeBinary   // text: the operator; two arguments
	nodePart     // text: the component; one argument
	nodeElse     // a reference, and what stands for it where it is missing
)

type node struct {
	kind    nodeKind
	at, end int
	text    string
	number  float64
	colour  [4]float64
	ref     *Reference
	outer   int // of a name: how many rosters further out
	args    []*node
}

// line is a named value, or, without a name, the result.
type line struct {
	name    string
	at, end int // of the name
	value   *node
}

// tree is a parsed formula.
type tree struct {
	lines []line // the last is the result
}

// comparisons gives the operators that compare one spelling each.
var comparisons = map[string]string{"=": "=", "==": "=", "≠": "!=", "!=": "!=", "<": "<", ">": ">", "<=": "<=", ">=": ">="}

// parse reads a formula.
func parse(text string) (*tree, *Problem) {
	tokens, p := scan(text)
	if p != nil {
		return nil, p
	}
	r := &parser{tokens: tokens, text: text, named: map[string]bool{}}
	t := &tree{}
	for {
		for r.peek().kind == tokenNewline {
			r.at++
		}
		if r.peek().kind == tokenEnd {
			break
		}
		l, p := r.line()
		if p != nil {
			return nil, p
		}
		r.named[l.name] = true
		t.lines = append(t.lines, l)
	}
	if len(t.lines) == 0 {
		return nil, &Problem{At: 0, End: len(text), Sentence: "the formula is empty; write a value for the property"}
	}
	last := t.lines[len(t.lines)-1]
	if last.name != "" {
		return nil, &Problem{At: last.at, End: last.end, Sentence: "the last line only names a value; write the result on a line below it", Fixes: []Fix{{"add " + last.name + " as the result", len(text), len(text), "\n" + last.name}}}
	}
	return t, nil
}

type parser struct {
	text   string
	tokens []token
	at     int
	depth  int
	named  map[string]bool // the values that have a name
}

func (r *parser) peek() token { return r.tokens[r.at] }

func (r *parser) is(sign string) bool { t := r.peek(); return t.kind == tokenSign && t.text == sign }

func (r *parser) word(name string) bool { t := r.peek(); return t.kind == tokenName && t.text == name }

// more reports whether another line that is not empty follows the one that begins here.
func (r *parser) more() bool {
	at := r.at
	for r.tokens[at].kind != tokenNewline && r.tokens[at].kind != tokenEnd {
		at++
	}
	for r.tokens[at].kind == tokenNewline {
		at++
	}
	return r.tokens[at].kind != tokenEnd
}

func (r *parser) line() (line, *Problem) {
	var l line
	if name := r.peek(); name.kind == tokenName && r.tokens[r.at+1].kind == tokenSign && r.tokens[r.at+1].text == "=" && (r.more() || builtins[name.text] == nil && functions[name.text] == nil && !r.named[name.text]) {
		l.name, l.at, l.end = name.text, name.at, name.end
		if words[name.text] || builtins[name.text] != nil {
			return l, &Problem{At: name.at, End: name.end, Sentence: fmt.Sprintf("%s is a reserved name; give the value another one", name.text)}
		}
		r.at += 2
	}
	value, p := r.expression(0)
	if p != nil {
		return l, p
	}
	l.value = value
	if t := r.peek(); t.kind != tokenNewline && t.kind != tokenEnd {
		return l, r.unexpected(t)
	}
	return l, nil
}

func (r *parser) unexpected(t token) *Problem {
	if p := r.hint(t); p != nil {
		return p
	}
	p := &Problem{At: t.at, End: t.end}
	what := strings.TrimSpace(r.text[t.at:t.end])
	switch {
	case t.kind == tokenEnd || t.kind == tokenNewline:
		p.At = max(0, t.at-1)
		p.Sentence = "something is missing at the end of the line"
	case t.text == ")" || t.text == "]":
		p.Sentence = fmt.Sprintf("this %s has no opening counterpart", t.text)
		p.Fixes = []Fix{{"remove it", t.at, t.end, ""}}
	case t.kind == tokenSign:
		p.Sentence = fmt.Sprintf("%s isn't allowed here", what)
	default:
		p.Sentence = fmt.Sprintf("an operator is missing before %s", what)
		p.Fixes = []Fix{{"multiply", t.at, t.at, "* "}, {"add", t.at, t.at, "+ "}}
	}
	return p
}

// counts are the names that exist at every level of rosters within each other, behind outer.
var counts = map[string]machine.InputKind{"index": machine.Index, "number": machine.Number, "count": machine.Count, "share": machine.Share}

// words are the names that are operators or values.
var words = map[string]bool{"or": true, "and": true, "not": true, "else": true, "true": true, "false": true, "own": true, "below": true}

// levels lists the operators with two sides, the loosest first.
var levels = []func(token) string{
	func(t token) string { return named(t, "or") },
	func(t token) string { return named(t, "and") },
	nil, // not
	func(t token) string {
		if t.kind == tokenSign {
			return comparisons[t.text]
		}
		return ""
	},
	func(t token) string { return sign(t, "+", "-") },
	func(t token) string { return sign(t, "*", "/") },
}

func named(t token, name string) string {
	if t.kind == tokenName && t.text == name {
		return name
	}
	return ""
}

func sign(t token, list ...string) string {
	for _, s := range list {
		if t.kind == tokenSign && t.text == s {
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

func (r *parser) expression(level int) (*node, *Problem) {
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
			return &node{kind: nodeNot, at: t.at, end: x.end, args: []*node{x}}, nil
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
		var right *node
		if right, p = r.expression(level + 1); p == nil {
			if comparing(op) && left.kind == nodeBinary && comparing(left.text) && !bracketed(left, r.text) {
				return nil, r.chain(left, right)
			}
			left = &node{kind: nodeBinary, at: left.at, end: right.end, text: op, args: []*node{left, right}}
		}
	}
	return nil, p
}

func (r *parser) unary() (*node, *Problem) {
	if t := r.peek(); r.is("-") || r.is("+") {
		if p := r.deeper(); p != nil {
			return nil, p
		}
		defer func() { r.depth-- }()
		r.at++
		x, p := r.unary()
		if p != nil || t.text == "+" {
			return x, p
		}
		return &node{kind: nodeNegative, at: t.at, end: x.end, args: []*node{x}}, nil
	}
	return r.power()
}

func (r *parser) power() (*node, *Problem) {
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
	return &node{kind: nodeBinary, at: x.at, end: y.end, text: "^", args: []*node{x, y}}, nil
}

func (r *parser) postfix() (*node, *Problem) {
	x, p := r.primary()
	for p == nil {
		switch t := r.peek(); {
		case r.is("."):
			r.at++
			part := r.peek()
			if part.kind != tokenName {
				return nil, &Problem{At: t.at, End: t.end, Sentence: "after the dot, name a component: x, y, z, r, g, b or a"}
			}
			r.at++
			x = &node{kind: nodePart, at: x.at, end: part.end, text: part.text, args: []*node{x}}
		case r.word("else"):
			r.at++
			other, p := r.unary()
			if p != nil {
				return nil, p
			}
			x = &node{kind: nodeElse, at: x.at, end: other.end, args: []*node{x, other}}
		default:
			return x, nil
		}
	}
	return nil, p
}

func (r *parser) primary() (*node, *Problem) {
	t := r.peek()
	n := &node{at: t.at, end: t.end, text: t.text, number: t.number, colour: t.colour}
	switch t.kind {
	case tokenNumber:
		n.kind = nodeNumber
	case tokenColour:
		n.kind = nodeColour
	case tokenText:
		n.kind = nodeText
	case tokenRef:
		ref, p := parseReference(t.text, t.at+1)
		if p != nil {
			return nil, p
		}
		n.kind, n.ref = nodeRef, ref
	case tokenName:
		if t.text != "own" && t.text != "below" && t.text != "true" && t.text != "false" && words[t.text] {
			return nil, r.unexpected(token{kind: tokenSign, at: t.at, end: t.end})
		}
		if p := r.foreignWord(t); p != nil {
			return nil, p
		}
		r.at++
		n.kind = nodeName
		for n.text == "outer" { // outer index
			if _, ok := counts[r.peek().text]; !ok && r.peek().text != "outer" {
				break
			}
			n.text, n.end = r.peek().text, r.peek().end
			n.outer++
			r.at++
		}
		if !r.is("(") {
			return n, nil
		}
		n.kind = nodeCall
		return n, r.list(n, ")")
	case tokenSign:
		switch t.text {
		case "(":
			r.at++
			x, p := r.expression(0)
			if p != nil {
				return nil, p
			}
			if !r.is(")") {
				return nil, r.unclosed(t)
			}
			x.at, x.end = t.at, r.peek().end
			r.at++
			return x, nil
		case "[":
			n.kind = nodePoint
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
	closing := map[string]string{"(": ")", "[": "]"}[open.text]
	if t.kind != tokenEnd && t.kind != tokenNewline && t.text != "," {
		return r.unexpected(t)
	}
	if t.text == "," && open.text == "(" {
		if p := r.hint(t); p != nil {
			return p
		}
		return &Problem{At: t.at, End: t.end, Sentence: "a comma isn't allowed here; a point is written with square brackets: [x, y]", Fixes: []Fix{{"write it as a point", open.at, open.end, "["}}}
	}
	return &Problem{At: open.at, End: open.end, Sentence: fmt.Sprintf("missing closing bracket for this %s", open.text), Fixes: []Fix{{"close it", t.at, t.at, closing}}}
}

// list reads arguments in brackets into a node.
func (r *parser) list(n *node, closing string) *Problem {
	open := r.peek()
	r.at++
	for !r.is(closing) {
		x, p := r.expression(0)
		if p != nil {
			return p
		}
		n.args = append(n.args, x)
		if r.is(",") {
			r.at++
			continue
		}
		if !r.is(closing) {
			return r.unclosed(open)
		}
	}
	n.end = r.peek().end
	r.at++
	return nil
}

// CompileLines lowers a formula so that its program gives what each of its lines does, one behind the other, as they
// come; nothing of one that has errors. A line whose value is an item, or that is no value, has a type of no size.
func CompileLines(text string, s *Scope) (*machine.Program, []Type) {
	t, p := parse(text)
	if p != nil {
		return nil, nil
	}
	var problems []Problem
	c, _ := compileTree(t, text, s, &problems)
	c.bounded(t.lines[len(t.lines)-1].value)
	if slices.ContainsFunc(problems, func(p Problem) bool { return !p.Warning }) {
		return nil, nil
	}
	var regs []int32
	types := make([]Type, len(c.lines))
	for k, v := range c.lines {
		types[k] = v.Type
		if v.Of == itemType { // shown as its index, which means nothing to anybody
			v.regs, types[k].Of = []int32{c.Constant(math.NaN())}, scene.Number
		}
		regs = append(regs, v.regs...)
	}
	return c.builder.Finish(regs), types
}

// LineNumbers returns on which line of the text, from 1, each line of a formula ends; nothing of one that cannot be read.
func LineNumbers(text string) []int {
	t, p := parse(text)
	if p != nil {
		return nil
	}
	out := make([]int, len(t.lines))
	at, number := 0, 1
	for k, l := range t.lines {
		number += strings.Count(text[at:l.value.end], "\n")
		at, out[k] = l.value.end, number
	}
	return out
}
