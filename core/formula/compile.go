// Package formula is the language of formulas: its functions and names, what they take and give, and how a formula that was parsed
// (package syntax) and whose names mean something (package binding) is checked and lowered to a program (package machine).
//
// A formula has no side effects and gives the same answer at every visit to a frame.
package formula

import (
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// itemType is the type of a reference to an item itself.
const itemType scene.Type = "item"

// value is an expression made into registers, one for each component. A value without a type is one
// that could not be made; why stands among the problems.
type value struct {
	binding.Type
	regs    []int32
	options []string // of a choice
}

// Compiled is a formula that was checked.
type Compiled struct {
	Program  *machine.Program // nil where there are errors, and of a list
	Type     binding.Type     // of the result, before it is brought to its target
	Problems []syntax.Problem
	// Bound is the formula with its references bound to ids, as it is stored.
	Bound string
}

// Errors returns the problems that keep the formula from working.
func (c *Compiled) Errors() []syntax.Problem {
	var out []syntax.Problem
	for _, p := range c.Problems {
		if !p.Warning {
			out = append(out, p)
		}
	}
	return out
}

// Compile parses, checks and lowers a formula in a scope. Where the scope has a target, the result is
// brought to it.
func Compile(text string, s *binding.Scope) *Compiled {
	t, p := parsed(text)
	out, _ := compile(t, p, text, s)
	return out
}

// CompileEach is Compile in many scopes of one composition. Scopes in which it comes to the same share what was compiled.
func CompileEach(text string, scopes []*binding.Scope) []*Compiled {
	t, p := parsed(text)
	type target struct {
		spec *scene.Spec
		part string
	}
	out := make([]*Compiled, len(scopes))
	shared := map[target]int{} // the first scope of those that may share
	for k, s := range scopes {
		of := target{s.Target, s.Part}
		if first, ok := shared[of]; ok && alike(s, scopes[first]) {
			out[k] = out[first]
			continue
		}
		var everywhere bool
		if out[k], everywhere = compile(t, p, text, s); everywhere {
			shared[of] = k
		}
	}
	return out
}

// alike reports whether a formula that refers to nothing by where it stands comes to the same in two scopes of one composition with one
// target.
func alike(a, b *binding.Scope) bool {
	return a.Loose == b.Loose && a.FirstUnit == b.FirstUnit && (a.Self == nil) == (b.Self == nil) &&
		a.Row == nil && b.Row == nil && a.Given == nil && b.Given == nil && len(a.Partners)+len(b.Partners) == 0
}

// compile lowers a formula that was parsed, or could not be, and reports whether it works and its references are the same everywhere in
// the composition.
func compile(t *syntax.Tree, p *syntax.Problem, text string, s *binding.Scope) (out *Compiled, everywhere bool) {
	out = &Compiled{Bound: text}
	if p != nil {
		out.Problems = []syntax.Problem{*p}
		return out, false
	}
	c, result := compileTree(t, text, s, &out.Problems)
	last := len(t.Lines) - 1
	out.Type = result.Type
	var regs []int32
	g := c.marked(result.regs...)
	switch {
	case g != nil && s.Loose:
		out.Type.List = g.list
	case c.one(t.Lines[last].Value, result):
		regs = c.toTarget(t.Lines[last].Value, result)
	}
	c.bounded(t.Lines[last].Value)
	if len(out.Errors()) > 0 {
		return out, false
	}
	if out.Type.List == nil {
		out.Program = c.builder.Finish(regs)
	}
	out.Bound, everywhere = boundIn(text, s)
	return out, everywhere
}

// boundIn binds the references of a formula to ids, and reports whether they are the same everywhere in the composition.
func boundIn(text string, s *binding.Scope) (bound string, everywhere bool) {
	everywhere = true
	bound = syntax.ReplaceReferences(text, func(r *syntax.Reference) string {
		if s.Many(r) {
			everywhere = false
			s.Gathered(r)
			return r.Stored()
		}
		item, p := s.Owner(r)
		if p != nil {
			everywhere = false
			return "{" + r.Typed() + "}"
		}
		if r.Relative == "" {
			r.Item = item.ID
		} else {
			everywhere = false
		}
		if r.Chosen() == "" && r.Key == "" && r.Property != "" {
			s.Property(r, item)
		}
		return r.Bound()
	})
	return bound, everywhere
}

// CompileLines lowers a formula so that its program gives what each of its lines does, one behind the other, as they
// come; nothing of one that has errors. A line whose value is an item, or that is no value, has a type of no size; of one that is a list
// come the values of its first members, Sampled at most.
func CompileLines(text string, s *binding.Scope) (*machine.Program, []binding.Type) {
	t, p := parsed(text)
	if p != nil {
		return nil, nil
	}
	var problems []syntax.Problem
	c, _ := compileTree(t, text, s, &problems)
	c.bounded(t.Lines[len(t.Lines)-1].Value)
	if slices.ContainsFunc(problems, func(p syntax.Problem) bool { return !p.Warning }) {
		return nil, nil
	}
	var regs []int32
	types := make([]binding.Type, len(c.lines))
	for k, v := range c.lines {
		types[k] = v.Type
		if g := c.marked(v.regs...); g != nil && v.Of != "" {
			types[k].List = g.list
			v.regs = c.sampled(t.Lines[k].Value, v)
		}
		if v.Of == itemType { // shown as its index, which means nothing to anybody
			v.regs, types[k].Of = []int32{c.constant(math.NaN())}, scene.Number
		}
		regs = append(regs, v.regs...)
	}
	return c.builder.Finish(regs), types
}

// parsed reads a formula, and refuses what depends on the names that exist everywhere.
func parsed(text string) (*syntax.Tree, *syntax.Problem) {
	t, p := syntax.Parse(text)
	if p != nil {
		return nil, p
	}
	for _, l := range t.Lines {
		if builtins[l.Name] != nil {
			return nil, syntax.RefuseName(l)
		}
	}
	if t.Dangling != nil && builtins[t.Begins] == nil && functions[t.Begins] == nil {
		return nil, t.Dangling
	}
	return t, nil
}

// compileTree lowers all lines of a formula, and returns its result. What each line gives stands in lines.
func compileTree(t *syntax.Tree, text string, s *binding.Scope, problems *[]syntax.Problem) (c *compiler, result value) {
	f := &whole{names: map[string]*syntax.Node{}, looked: map[*syntax.Node]*look{}, reduced: map[*syntax.Node]*reduced{}}
	c = &compiler{scope: s, text: text, builder: machine.NewBuilder(&f.operations), whole: f, values: map[string]value{}, problems: problems}
	last := len(t.Lines) - 1
	for _, l := range t.Lines[:last] {
		if f.names[l.Name] != nil {
			c.problem(syntax.Problem{At: l.At, End: l.End, Sentence: l.Name + " is named twice; give one of the two values another name"})
		}
		v := c.value(l.Value) // checked even where nothing uses it
		f.names[l.Name], c.values[l.Name] = l.Value, v
		c.lines = append(c.lines, v)
	}
	result = c.value(t.Lines[last].Value)
	c.lines = append(c.lines, result)
	return c, result
}

// whole is what all programs of one formula have in common.
type whole struct {
	hurried    map[*syntax.Node]*syntax.Node // times multiplied by a percent, and the percent
	names      map[string]*syntax.Node       // what named values are
	looked     map[*syntax.Node]*look        // what is looked at at other times: lowered once, however often it is looked at
	reduced    map[*syntax.Node]*reduced     // what is made of lists, likewise
	operations int                           // of all programs together
}

// look is an expression that is looked at at other times, as a program of its own.
type look struct {
	program *machine.Program // nil where it could not be made
	binding.Type
}

// compiler lowers one expression: the formula, or what is looked at at another time.
type compiler struct {
	scope    *binding.Scope
	text     string
	builder  *machine.Builder
	whole    *whole
	values   map[string]value // of named values, in this program
	lines    []value          // what the lines give
	problems *[]syntax.Problem
	depth    int
	many     map[int32]*gathering // what registers hold that hold many
	clash    *[2]*gathering       // two lists that were combined and do not have the same members
}

// bounded refuses a formula that comes to more operations than are worked out.
func (c *compiler) bounded(n *syntax.Node) {
	if c.whole.operations > machine.MaxOperations {
		c.fail(n, "the formula has more than %d operations, including what it reads at other times; split it into several links", machine.MaxOperations)
	}
}

func (c *compiler) problem(p syntax.Problem) {
	for _, known := range *c.problems {
		if known.At == p.At && known.Sentence == p.Sentence { // said of the same expression at another time
			return
		}
	}
	*c.problems = append(*c.problems, p)
}

func (c *compiler) fail(n *syntax.Node, format string, args ...any) value {
	c.problem(syntax.Problem{At: n.At, End: n.End, Sentence: fmt.Sprintf(format, args...)})
	return value{}
}

func (c *compiler) source(n *syntax.Node) string { return c.text[n.At:n.End] }

// said is the text of an expression with the names of what it refers to, for a sentence.
func (c *compiler) said(n *syntax.Node) string { return binding.Print(c.source(n), c.scope) }

// number makes a value of one component.
func number(unit scene.Unit, r int32) value {
	return value{Type: binding.Type{Of: scene.Number, Unit: unit}, regs: []int32{r}}
}

func (c *compiler) op(op machine.Op, args ...int32) int32 {
	r := c.builder.Op(op, args...)
	if c.many != nil {
		c.mark(r, c.marked(args...))
	}
	return r
}

func (c *compiler) constant(x float64) int32 { return c.builder.Constant(x) }

// value lowers an expression.
func (c *compiler) value(n *syntax.Node) value {
	switch n.Kind {
	case syntax.NodeNumber:
		u := syntax.Units[n.Text]
		x := float64(n.Number * u.Factor)
		if u.Frames {
			x = n.Number / c.scope.Rate
		}
		return number(u.Unit, c.constant(x))
	case syntax.NodeColour:
		v := value{Type: binding.Type{Of: scene.Colour}}
		for _, x := range n.Colour {
			v.regs = append(v.regs, c.constant(x))
		}
		return v
	case syntax.NodeText:
		return value{Type: binding.Type{Of: scene.Text}, regs: []int32{c.builder.Input(machine.Input{Kind: machine.Words, Text: n.Text})}}
	case syntax.NodeName:
		return c.name(n)
	case syntax.NodeRef:
		return c.reference(n)
	case syntax.NodeElse:
		return c.otherwise(n)
	case syntax.NodePoint:
		return c.point(n)
	case syntax.NodeCall:
		return c.call(n)
	case syntax.NodePart:
		return c.part(n)
	case syntax.NodeNegative, syntax.NodeNot:
		x := c.value(n.Args[0])
		if n.Kind == syntax.NodeNot {
			if r, ok := c.single(n.Args[0], x, "not"); ok {
				return value{Type: binding.Type{Of: scene.Switch}, regs: []int32{c.op(machine.OpNot, r)}}
			}
			return value{}
		}
		if !c.arithmetic(n.Args[0], x) {
			return value{}
		}
		out := value{Type: x.Type}
		for _, r := range x.regs {
			out.regs = append(out.regs, c.op(machine.OpNeg, r))
		}
		return out
	}
	return c.binary(n)
}

// reference lowers a reference. Where the roster has no such member, its numbers are missing.
func (c *compiler) reference(n *syntax.Node) value {
	if c.scope.Many(n.Ref) {
		return c.gather(n)
	}
	item, p := c.scope.Owner(n.Ref)
	if p != nil {
		c.problem(*p)
		return value{}
	}
	in := machine.Input{Kind: machine.ItemIndex, Item: item.ID}
	if n.Ref.Relative != "" {
		in.Item, in.Relative, in.Steps, in.Outer = "", n.Ref.Relative, n.Ref.Steps, n.Ref.Outer
	}
	if n.Ref.Property == "" && n.Ref.Key == "" {
		return value{Type: binding.Type{Of: itemType}, regs: []int32{c.builder.Input(in)}}
	}
	if number := n.Ref.Chosen(); number != "" {
		return c.vertices(n, item, number, in)
	}
	spec, p := c.scope.Property(n.Ref, item)
	if p != nil {
		c.problem(*p)
		return value{}
	}
	v := value{Type: binding.Type{Of: spec.Type, Unit: spec.Unit}, options: spec.Options}
	if v.Of == scene.Choice {
		v.Of = scene.Number
	}
	in.Kind, in.Key, in.Type, in.Options = machine.Property, spec.Key, spec.Type, binding.Joined(spec)
	for k := range spec.Type.Size() {
		in.Component = k
		v.regs = append(v.regs, c.builder.Input(in))
	}
	if row, _ := c.scope.Level(n.Ref.Outer); row != nil && row.Copies && n.Ref.Relative == "next" && v.Of != scene.Text {
		v.regs = c.shownNext(v.regs, n.Ref.Steps, n.Ref.Outer)
	}
	if n.Ref.Part != "" {
		return c.component(n, v, n.Ref.Part)
	}
	return v
}

func (c *compiler) otherwise(n *syntax.Node) value {
	if n.Args[0].Kind != syntax.NodeRef {
		return c.fail(n, "else goes after a reference: {prev: rotation} else 0")
	}
	v := c.reference(n.Args[0])
	other := c.value(n.Args[1])
	if v.Of == "" || other.Of == "" {
		return value{}
	}
	if len(v.regs) != len(other.regs) && len(other.regs) != 1 {
		return c.fail(n.Args[1], "the value after else is a %s, but the reference is a %s", other.Of.Word(), v.Of.Word())
	}
	out := value{Type: v.Type}
	for k, r := range c.rosterLink(other, len(v.regs)) {
		out.regs = append(out.regs, c.op(machine.OpSelect, c.op(machine.OpMissing, v.regs[k]), r, v.regs[k]))
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
func (c *compiler) single(n *syntax.Node, v value, what string) (int32, bool) {
	switch {
	case v.Of == "":
		return 0, false
	case v.Of == scene.Number || v.Of == scene.Switch:
		return v.regs[0], true
	}
	p := syntax.Problem{At: n.At, End: n.End, Sentence: fmt.Sprintf("%s needs a number here, not a %s", what, v.Of.Word())}
	for _, part := range v.Of.Components() {
		p.Fixes = append(p.Fixes, syntax.Fix{Label: "take " + part, At: n.At, End: n.End, Text: c.taking(n, part)})
	}
	c.problem(p)
	return 0, false
}

// taking writes that one component of an expression is taken.
func (c *compiler) taking(n *syntax.Node, part string) string {
	switch n.Kind {
	case syntax.NodeBinary, syntax.NodeNegative, syntax.NodeNot, syntax.NodeElse:
		return "(" + c.source(n) + ")." + part
	}
	return c.source(n) + "." + part
}

func (c *compiler) arithmetic(n *syntax.Node, v value) bool {
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

func (c *compiler) binary(n *syntax.Node) value {
	a, b := c.value(n.Args[0]), c.value(n.Args[1])
	switch n.Text {
	case "+", "-", "*", "/", "^":
		if !c.arithmetic(n.Args[0], a) || !c.arithmetic(n.Args[1], b) {
			return value{}
		}
		c.hurry(n, a, b)
		a, b = c.deepened(n.Text, a, b)
		out := c.each(n, binaryOps[n.Text], unitOf(n.Text, a.Unit, b.Unit), a, b)
		out.Scaled = out.Scaled || out.Unit != "" && scaled(n.Text, a.Type, b.Type)
		return out
	case "=", "!=":
		return c.equal(n, a, b)
	}
	x, ok := c.single(n.Args[0], a, n.Text)
	y, ok2 := c.single(n.Args[1], b, n.Text)
	if !ok || !ok2 {
		return value{}
	}
	out := value{Type: binding.Type{Of: scene.Switch}}
	switch n.Text {
	case ">":
		out.regs = []int32{c.op(machine.OpLess, y, x)}
	case ">=":
		out.regs = []int32{c.op(machine.OpAtMost, y, x)}
	default:
		out.regs = []int32{c.op(binaryOps[n.Text], x, y)}
	}
	return out
}

// deepened gives a 2D point beside a 3D one a z that leaves that of the other as it is, as where one drives a property in space.
func (c *compiler) deepened(op string, a, b value) (value, value) {
	neutral := map[string]float64{"*": 1, "/": 1}[op]
	deep := func(v value) value {
		v.Of, v.regs = scene.Point3, append(v.regs[:2:2], c.constant(neutral))
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

func (c *compiler) equal(n *syntax.Node, a, b value) value {
	if a.Of == "" || b.Of == "" {
		return value{}
	}
	text := a.Of == scene.Text
	switch {
	case a.options != nil && b.Of == scene.Text:
		return c.option(n, a, n.Args[1])
	case b.options != nil && text:
		return c.option(n, b, n.Args[0])
	}
	if text != (b.Of == scene.Text) || len(a.regs) != len(b.regs) {
		return c.fail(n, "a %s and a %s are never the same", a.Of.Word(), b.Of.Word())
	}
	r := c.constant(1)
	for k := range a.regs {
		r = c.op(machine.OpAnd, r, c.op(machine.OpEqual, a.regs[k], b.regs[k]))
	}
	if n.Text == "!=" {
		r = c.op(machine.OpNot, r)
	}
	return value{Type: binding.Type{Of: scene.Switch}, regs: []int32{r}}
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
func scaled(op string, a, b binding.Type) bool {
	return op == "*" && (a.Unit == "") != (b.Unit == "") || op == "/" && a.Unit != "" && b.Unit == ""
}

// each works component by component; one number goes with every component.
func (c *compiler) each(n *syntax.Node, op machine.Op, unit scene.Unit, list ...value) value {
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
	out := value{Type: binding.Type{Of: of, Unit: unit, Scaled: fitted && unit != ""}}
	for k := range size {
		args := make([]int32, len(list))
		for i, v := range list {
			args[i] = v.regs[min(k, len(v.regs)-1)]
		}
		out.regs = append(out.regs, c.op(op, args...))
	}
	return out
}
