package formula

import (
	"fmt"
	"strings"

	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// Type is what kind of value an expression has, and its unit.
type Type struct {
	Of   scene.Type
	Unit scene.Unit
	// Scaled says that a plain factor made the number fit what it is for: a unit that does not is no mistake then.
	Scaled bool
}

// itemType is the type of a reference to an item itself.
const itemType scene.Type = "item"

// value is an expression made into registers, one for each component. A value without a type is one
// that could not be made; why stands among the problems.
type value struct {
	Type
	regs    []int32
	options []string // of a choice
}

// Compiled is a formula that was checked.
type Compiled struct {
	Program  *machine.Program // nil where there are errors
	Type     Type             // of the result, before it is brought to its target
	Problems []Problem
	// Bound is the formula with its references bound to ids, as it is stored.
	Bound string
}

// Errors returns the problems that keep the formula from working.
func (c *Compiled) Errors() []Problem {
	var out []Problem
	for _, p := range c.Problems {
		if !p.Warning {
			out = append(out, p)
		}
	}
	return out
}

// Compile parses, checks and lowers a formula in a scope. Where the scope has a target, the result is
// brought to it.
func Compile(text string, s *Scope) *Compiled {
	out := &Compiled{Bound: text}
	t, p := parse(text)
	if p != nil {
		out.Problems = []Problem{*p}
		return out
	}
	c, result := compileTree(t, text, s, &out.Problems)
	last := len(t.lines) - 1
	out.Type = result.Type
	regs := c.toTarget(t.lines[last].value, result)
	c.bounded(t.lines[last].value)
	if len(out.Errors()) == 0 {
		out.Program = c.builder.Finish(regs)
		out.Bound = replaceReferences(text, func(r *Reference) string {
			item, p := s.owner(r)
			if p != nil {
				return "{" + r.typed() + "}"
			}
			if r.Relative == "" {
				r.Item = item.ID
			}
			if r.chosen() == "" && r.Key == "" && r.Property != "" {
				s.property(r, item)
			}
			return r.bound()
		})
	}
	return out
}

// compileTree lowers all lines of a formula, and returns its result. What each line gives stands in lines.
func compileTree(t *tree, text string, s *Scope, problems *[]Problem) (c *compiler, result value) {
	f := &whole{names: map[string]*node{}, looked: map[*node]*look{}}
	c = &compiler{scope: s, text: text, builder: machine.NewBuilder(&f.operations), whole: f, values: map[string]value{}, problems: problems}
	last := len(t.lines) - 1
	for _, l := range t.lines[:last] {
		if f.names[l.name] != nil {
			c.problem(Problem{At: l.at, End: l.end, Sentence: l.name + " is named twice; give one of the two values another name"})
		}
		v := c.Value(l.value) // checked even where nothing uses it
		f.names[l.name], c.values[l.name] = l.value, v
		c.lines = append(c.lines, v)
	}
	result = c.Value(t.lines[last].value)
	c.lines = append(c.lines, result)
	return c, result
}

// whole is what all programs of one formula have in common.
type whole struct {
	hurried    map[*node]*node  // times multiplied by a percent, and the percent
	names      map[string]*node // what named values are
	looked     map[*node]*look  // what is looked at at other times: lowered once, however often it is looked at
	operations int              // of all programs together
}

// look is an expression that is looked at at other times, as a program of its own.
type look struct {
	program *machine.Program // nil where it could not be made
	Type
}

// compiler lowers one expression: the formula, or what is looked at at another time.
type compiler struct {
	scope    *Scope
	text     string
	builder  *machine.Builder
	whole    *whole
	values   map[string]value // of named values, in this program
	lines    []value          // what the lines give
	problems *[]Problem
	depth    int
}

// bounded refuses a formula that comes to more operations than are worked out.
func (c *compiler) bounded(n *node) {
	if c.whole.operations > machine.MaxOperations {
		c.fail(n, "the formula has more than %d operations, including what it reads at other times; split it into several links", machine.MaxOperations)
	}
}

func (c *compiler) problem(p Problem) {
	for _, known := range *c.problems {
		if known.At == p.At && known.Sentence == p.Sentence { // said of the same expression at another time
			return
		}
	}
	*c.problems = append(*c.problems, p)
}

func (c *compiler) fail(n *node, format string, args ...any) value {
	c.problem(Problem{At: n.at, End: n.end, Sentence: fmt.Sprintf(format, args...)})
	return value{}
}

func (c *compiler) source(n *node) string { return c.text[n.at:n.end] }

// said is the text of an expression with the names of what it refers to, for a sentence.
func (c *compiler) said(n *node) string { return Print(c.source(n), c.scope) }

// number makes a value of one component.
func number(unit scene.Unit, r int32) value {
	return value{Type: Type{Of: scene.Number, Unit: unit}, regs: []int32{r}}
}

func (c *compiler) Op(op machine.Op, args ...int32) int32 { return c.builder.Op(op, args...) }

func (c *compiler) Constant(x float64) int32 { return c.builder.Constant(x) }

// Value lowers an expression.
func (c *compiler) Value(n *node) value {
	switch n.kind {
	case nodeNumber:
		u := units[n.text]
		x := float64(n.number * u.factor)
		if u.frames {
			x = n.number / c.scope.Rate
		}
		return number(u.unit, c.Constant(x))
	case nodeColour:
		v := value{Type: Type{Of: scene.Colour}}
		for _, x := range n.colour {
			v.regs = append(v.regs, c.Constant(x))
		}
		return v
	case nodeText:
		return value{Type: Type{Of: scene.Text}, regs: []int32{c.builder.Input(machine.Input{Kind: machine.Words, Text: n.text})}}
	case nodeName:
		return c.name(n)
	case nodeRef:
		return c.reference(n)
	case nodeElse:
		return c.otherwise(n)
	case nodePoint:
		return c.point(n)
	case nodeCall:
		return c.call(n)
	case nodePart:
		return c.part(n)
	case nodeNegative, nodeNot:
		x := c.Value(n.args[0])
		if n.kind == nodeNot {
			if r, ok := c.single(n.args[0], x, "not"); ok {
				return value{Type: Type{Of: scene.Switch}, regs: []int32{c.Op(machine.OpNot, r)}}
			}
			return value{}
		}
		if !c.arithmetic(n.args[0], x) {
			return value{}
		}
		out := value{Type: x.Type}
		for _, r := range x.regs {
			out.regs = append(out.regs, c.Op(machine.OpNeg, r))
		}
		return out
	}
	return c.binary(n)
}

// reference lowers a reference. Where the roster has no such member, its numbers are missing.
func (c *compiler) reference(n *node) value {
	item, p := c.scope.owner(n.ref)
	if p != nil {
		c.problem(*p)
		return value{}
	}
	in := machine.Input{Kind: machine.ItemIndex, Item: item.ID}
	if n.ref.Relative != "" {
		in.Item, in.Relative, in.Steps, in.Outer = "", n.ref.Relative, n.ref.Steps, n.ref.Outer
	}
	if n.ref.Property == "" && n.ref.Key == "" {
		return value{Type: Type{Of: itemType}, regs: []int32{c.builder.Input(in)}}
	}
	if number := n.ref.chosen(); number != "" {
		return c.vertices(n, item, number, in)
	}
	spec, p := c.scope.property(n.ref, item)
	if p != nil {
		c.problem(*p)
		return value{}
	}
	v := value{Type: Type{Of: spec.Type, Unit: spec.Unit}, options: spec.Options}
	if v.Of == scene.Choice {
		v.Of = scene.Number
	}
	in.Kind, in.Key, in.Type, in.Options = machine.Property, spec.Key, spec.Type, joined(spec)
	for k := range spec.Type.Size() {
		in.Component = k
		v.regs = append(v.regs, c.builder.Input(in))
	}
	if row, _ := c.scope.level(n.ref.Outer); row != nil && row.Copies && n.ref.Relative == "next" && v.Of != scene.Text {
		v.regs = c.shownNext(v.regs, n.ref.Steps, n.ref.Outer)
	}
	if n.ref.Part != "" {
		return c.component(n, v, n.ref.Part)
	}
	return v
}

// joined are the options of a property as one text.
func joined(spec *scene.Spec) string {
	if spec.Type != scene.Choice {
		return ""
	}
	return strings.Join(spec.Options, "\n")
}

func (c *compiler) otherwise(n *node) value {
	if n.args[0].kind != nodeRef {
		return c.fail(n, "else goes after a reference: {prev: rotation} else 0")
	}
	v := c.reference(n.args[0])
	other := c.Value(n.args[1])
	if v.Of == "" || other.Of == "" {
		return value{}
	}
	if len(v.regs) != len(other.regs) && len(other.regs) != 1 {
		return c.fail(n.args[1], "the value after else is a %s, but the reference is a %s", other.Of.Word(), v.Of.Word())
	}
	out := value{Type: v.Type}
	for k, r := range c.rosterLink(other, len(v.regs)) {
		out.regs = append(out.regs, c.Op(machine.OpSelect, c.Op(machine.OpMissing, v.regs[k]), r, v.regs[k]))
	}
	return out
}

func (c *compiler) rosterLink(v value, n int) []int32 {
	if len(v.regs) == n {
		return v.regs
	}
	out := make([]int32, n)
	for i := range out {
		out[i] = v.regs[0]
	}
	return out
}

// single asks for one number, which a switch is, too.
func (c *compiler) single(n *node, v value, what string) (int32, bool) {
	switch {
	case v.Of == "":
		return 0, false
	case v.Of == scene.Number || v.Of == scene.Switch:
		return v.regs[0], true
	}
	p := Problem{At: n.at, End: n.end, Sentence: fmt.Sprintf("%s needs a number here, not a %s", what, v.Of.Word())}
	for _, part := range v.Of.Components() {
		p.Fixes = append(p.Fixes, Fix{"take " + part, n.at, n.end, c.taking(n, part)})
	}
	c.problem(p)
	return 0, false
}

// taking writes that one component of an expression is taken.
func (c *compiler) taking(n *node, part string) string {
	switch n.kind {
	case nodeBinary, nodeNegative, nodeNot, nodeElse:
		return "(" + c.source(n) + ")." + part
	}
	return c.source(n) + "." + part
}

func (c *compiler) arithmetic(n *node, v value) bool {
	switch v.Of {
	case "":
		return false
	case scene.Text, itemType:
		c.fail(n, "can't calculate with a %s", v.Of.Word())
		return false
	}
	return true
}

// binaryOps are the operations of operators, on numbers.
var binaryOps = map[string]machine.Op{"+": machine.OpAdd, "-": machine.OpSub, "*": machine.OpMul, "/": machine.OpDiv, "^": machine.OpPow, "and": machine.OpAnd, "or": machine.OpOr, "<": machine.OpLess, "<=": machine.OpAtMost, "=": machine.OpEqual}

func (c *compiler) binary(n *node) value {
	a, b := c.Value(n.args[0]), c.Value(n.args[1])
	switch n.text {
	case "+", "-", "*", "/", "^":
		if !c.arithmetic(n.args[0], a) || !c.arithmetic(n.args[1], b) {
			return value{}
		}
		c.hurry(n, a, b)
		a, b = c.deepened(n.text, a, b)
		out := c.each(n, binaryOps[n.text], unitOf(n.text, a.Unit, b.Unit), a, b)
		out.Scaled = out.Scaled || out.Unit != "" && scaled(n.text, a.Type, b.Type)
		return out
	case "=", "!=":
		return c.equal(n, a, b)
	}
	x, ok := c.single(n.args[0], a, n.text)
	y, ok2 := c.single(n.args[1], b, n.text)
	if !ok || !ok2 {
		return value{}
	}
	out := value{Type: Type{Of: scene.Switch}}
	switch n.text {
	case ">":
		out.regs = []int32{c.Op(machine.OpLess, y, x)}
	case ">=":
		out.regs = []int32{c.Op(machine.OpAtMost, y, x)}
	default:
		out.regs = []int32{c.Op(binaryOps[n.text], x, y)}
	}
	return out
}

// deepened gives a 2D point beside a 3D one a z that leaves that of the other as it is, as where one drives a property in space.
func (c *compiler) deepened(op string, a, b value) (value, value) {
	neutral := map[string]float64{"*": 1, "/": 1}[op]
	deep := func(v value) value {
		v.Of, v.regs = scene.Point3, append(v.regs[:2:2], c.Constant(neutral))
		return v
	}
	switch {
	case op == "^":
	case a.Of == scene.Point3 && b.Of == scene.Point2:
		b = deep(b)
	case a.Of == scene.Point2 && b.Of == scene.Point3 && op != "/":
		a = deep(a)
	}
	return a, b
}

func (c *compiler) equal(n *node, a, b value) value {
	if a.Of == "" || b.Of == "" {
		return value{}
	}
	text := a.Of == scene.Text
	switch {
	case a.options != nil && b.Of == scene.Text:
		return c.option(n, a, n.args[1])
	case b.options != nil && text:
		return c.option(n, b, n.args[0])
	}
	if text != (b.Of == scene.Text) || len(a.regs) != len(b.regs) {
		return c.fail(n, "a %s and a %s are never the same", a.Of.Word(), b.Of.Word())
	}
	r := c.Constant(1)
	for k := range a.regs {
		r = c.Op(machine.OpAnd, r, c.Op(machine.OpEqual, a.regs[k], b.regs[k]))
	}
	if n.text == "!=" {
		r = c.Op(machine.OpNot, r)
	}
	return value{Type: Type{Of: scene.Switch}, regs: []int32{r}}
}

// unitOf returns the unit of a result. A percentage that is multiplied becomes what it is taken of, or
// a bare number.
func unitOf(op string, a, b scene.Unit) scene.Unit {
	switch {
	case op == "*" && a == scene.Percent && b != "":
		return b
	case op == "*" && b == scene.Percent && a != "":
		return a
	case op == "/" && a == b, op == "^":
		return ""
	case a == "":
		if op == "/" {
			return ""
		}
		return b
	}
	return a
}

// scaled reports whether an operation multiplies something that has a unit by a plain factor.
func scaled(op string, a, b Type) bool {
	return op == "*" && (a.Unit == "") != (b.Unit == "") || op == "/" && a.Unit != "" && b.Unit == ""
}

// each works component by component; one number goes with every component.
func (c *compiler) each(n *node, op machine.Op, unit scene.Unit, list ...value) value {
	size, of, fitted := 1, scene.Number, false
	for _, v := range list {
		fitted = fitted || v.Scaled
		if len(v.regs) > 1 {
			if size > 1 && v.Of != of {
				return c.fail(n, "a %s and a %s can't be combined", of.Word(), v.Of.Word())
			}
			size, of = len(v.regs), v.Of
		}
	}
	out := value{Type: Type{Of: of, Unit: unit, Scaled: fitted && unit != ""}}
	for k := range size {
		args := make([]int32, len(list))
		for i, v := range list {
			args[i] = v.regs[min(k, len(v.regs)-1)]
		}
		out.regs = append(out.regs, c.Op(op, args...))
	}
	return out
}
