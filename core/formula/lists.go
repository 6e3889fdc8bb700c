package formula

import (
	"fmt"
	"slices"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// listsGroup is the group of the functions that make one value of a list.
const listsGroup = "lists"

// MaxGathered bounds the values that one list has.
const MaxGathered = 100_000

// A list is worked out like any other expression, once for each of its members: an operation on what is read of many gives many. The
// registers that hold many are known by what they were gathered of.
type gathering struct {
	list *binding.List
	node *syntax.Node
}

// marked returns the list that one of some registers holds; nil for none. Where they hold several that have not the same members, what
// does not fit is kept for the problem that is told where one value is made of them.
func (c *compiler) marked(regs ...int32) *gathering {
	var found *gathering
	for _, r := range regs {
		g := c.many[r]
		switch {
		case g == nil:
		case found == nil:
			found = g
		case found.list.Whose != g.list.Whose && c.clash == nil:
			c.clash = &[2]*gathering{found, g}
		}
	}
	return found
}

func (c *compiler) mark(r int32, g *gathering) {
	if g == nil {
		return
	}
	if c.many == nil {
		c.many = map[int32]*gathering{}
	}
	c.many[r] = g
}

// gather lowers a reference to many: their values, one after the other.
func (c *compiler) gather(n *syntax.Node) value {
	list, p := c.scope.Gathered(n.Ref)
	switch {
	case p != nil:
		c.problem(*p)
		return value{}
	case list.Spec == nil:
		return c.fail(n, "name a property of them after a colon, or count them: count({%s})", c.owners(n))
	case len(list.Members) > MaxGathered:
		return c.fail(n, "this would gather %d values; the limit is %d", len(list.Members), MaxGathered)
	}
	spec := list.Spec
	v := value{Type: binding.Type{Of: spec.Type, Unit: spec.Unit}, options: spec.Options}
	if v.Of == scene.Choice {
		v.Of = scene.Number
	}
	in := machine.Input{Kind: machine.Property, Many: list.Gathering, Relative: list.Relative, Steps: list.Steps, Outer: list.Outer, Key: spec.Key, Type: spec.Type, Options: binding.Joined(spec)}
	if list.Gathering.Name != "" {
		in.Key = "" // each has its own
	}
	g := &gathering{list, n}
	for k := range spec.Type.Size() {
		in.Component = k
		r := c.builder.Input(in)
		if known := c.many[r]; known != nil {
			g = known
		}
		c.mark(r, g)
		v.regs = append(v.regs, r)
	}
	if n.Ref.Part != "" {
		return c.component(n, v, n.Ref.Part)
	}
	return v
}

// owners writes whom a reference gathers, without the property.
func (c *compiler) owners(n *syntax.Node) string {
	one := *n.Ref
	one.Property, one.Key, one.ByName = "", "", false
	return one.Typed()
}

// one refuses a list where one value is wanted.
func (c *compiler) one(n *syntax.Node, v value) bool {
	g := c.marked(v.regs...)
	if v.Of == "" || g == nil {
		return true
	}
	p := syntax.Problem{At: n.At, End: n.End, Sentence: fmt.Sprintf("this is a list of %d values, not one; make one of them", len(g.list.Members))}
	for _, name := range c.reducers(v) {
		p.Fixes = append(p.Fixes, syntax.Fix{Label: name, At: n.At, End: n.End, Text: name + "(" + c.source(n) + ")"})
	}
	c.problem(p)
	return false
}

// reducers are the functions that make one value of a list, as far as they need nothing besides it.
func (c *compiler) reducers(v value) []string {
	switch {
	case v.Of == scene.Text:
		return []string{"first", "last"}
	case len(v.regs) > 1:
		return []string{"sum", "mean", "first", "last"}
	}
	return []string{"sum", "mean", "least", "greatest", "first", "last"}
}

// lowerCount gives how many a list has; of those that have the property, where one is named.
func lowerCount(c *compiler, n *syntax.Node) value {
	if ref := n.Args[0].Ref; ref != nil && n.Args[0].Kind == syntax.NodeRef && ref.Property == "" && ref.Key == "" && c.scope.Many(ref) {
		list, p := c.scope.Gathered(ref)
		if p != nil {
			c.problem(*p)
			return value{}
		}
		return c.howMany(list)
	}
	inner, v := c.listed(n, n.Args[0])
	if v.Of == "" {
		return value{}
	}
	return c.howMany(inner.marked(v.regs...).list)
}

func (c *compiler) howMany(list *binding.List) value {
	return number(scene.Plain, c.builder.Input(machine.Input{Kind: machine.HowMany, Many: list.Gathering, Relative: list.Relative, Steps: list.Steps, Outer: list.Outer}))
}

// listed lowers a list in a program of its own, which is worked out for each of its members.
func (c *compiler) listed(n, arg *syntax.Node) (inner *compiler, v value) {
	if inner = c.inner(n); inner == nil {
		return nil, value{}
	}
	v = inner.value(arg)
	if v.Of == "" || !inner.isList(n, arg, v) {
		return inner, value{}
	}
	return inner, v
}

// isList reports whether a value is a list, and refuses one that is none, or is made of several that do not have the same members.
func (c *compiler) isList(n, arg *syntax.Node, v value) bool {
	g := c.marked(v.regs...)
	switch {
	case g == nil:
		c.fail(arg, "%s needs a list here: the values of several items, such as {Lamp *: opacity}, {Lamps > *: opacity} or those of a row by its name", n.Text)
		return false
	case c.clash != nil:
		c.fail(arg, "%s", c.unlike(c.clash[0], c.clash[1]))
		return false
	}
	return true
}

// unlike says how two lists differ in their members.
func (c *compiler) unlike(a, b *gathering) string {
	if len(a.list.Members) != len(b.list.Members) {
		missing := func(a, b *gathering) string {
			for _, m := range a.list.Members {
				if !slices.ContainsFunc(b.list.Members, func(o scene.Member) bool { return o.ID() == m.ID() }) {
					return m.Item.Name
				}
			}
			return ""
		}
		if len(a.list.Members) < len(b.list.Members) {
			a, b = b, a
		}
		return fmt.Sprintf("lists that are combined have the same members, but %s is only in %s", missing(a, b), c.said(a.node))
	}
	return fmt.Sprintf("lists that are combined have the same members in the same order, but %s and %s don't", c.said(a.node), c.said(b.node))
}

// reduced is one value that is made of a list.
type reduced struct {
	gather *machine.Gather // nil where it could not be made
	value  value           // without registers
}

// reduce makes a function that makes one value of a list.
func reduce(by machine.Reducing) func(*compiler, *syntax.Node) value {
	return func(c *compiler, n *syntax.Node) value {
		r, known := c.whole.reduced[n]
		if !known {
			r = &reduced{}
			c.whole.reduced[n] = r
			r.gather, r.value = c.reduced(n, by)
		}
		if r.gather == nil {
			return value{}
		}
		out := r.value
		out.regs = c.made(r.gather)
		return out
	}
}

// reduced lowers what is made of a list; nil where it cannot be.
func (c *compiler) reduced(n *syntax.Node, by machine.Reducing) (*machine.Gather, value) {
	inner, v := c.listed(n, n.Args[0])
	if v.Of == "" {
		return nil, value{}
	}
	g := &machine.Gather{By: by, Size: len(v.regs)}
	out := value{Type: v.Type, options: v.options}
	out.List = nil
	list := inner.marked(v.regs...).list
	regs := v.regs
	switch by {
	case machine.Sum, machine.Mean, machine.Weighted:
		if !c.arithmetic(n.Args[0], v) {
			return nil, value{}
		}
		if out.options = nil; v.Of == scene.Switch {
			out.Of = scene.Number
		}
	case machine.Least, machine.Greatest:
		if _, ok := inner.single(n.Args[0], v, n.Text); !ok {
			return nil, value{}
		}
	}
	switch by {
	case machine.Weighted:
		w := inner.value(n.Args[1])
		r, ok := inner.single(n.Args[1], w, "weighted")
		if !ok || !inner.isList(n, n.Args[1], w) {
			return nil, value{}
		}
		if inner.marked(append(slices.Clone(v.regs), w.regs...)...); inner.clash != nil {
			return nil, c.fail(n.Args[1], "%s", c.unlike(inner.clash[0], inner.clash[1]))
		}
		regs = append(slices.Clone(v.regs), r)
	case machine.Nth:
		at, of := c.apart(n.Args[1])
		if at == nil {
			return nil, value{}
		}
		if of.Of != scene.Number && of.Of != scene.Switch {
			return nil, c.fail(n.Args[1], "nth needs a number here, not a %s", of.Of.Word())
		}
		g.Arg = at
	case machine.Nearest:
		to, of := c.apart(n.Args[1])
		if to == nil {
			return nil, value{}
		}
		if v.Of == scene.Text || of.Of == scene.Text || len(to.Out) != len(v.regs) {
			return nil, c.fail(n.Args[1], "nearest compares values of one type, but the list holds a %s for each member, and this is a %s", v.Of.Word(), of.Of.Word())
		}
		g.Arg = to
	}
	g.Body = inner.builder.Finish(regs)
	g.Many = machine.Many{Of: list.Gathering, Relative: list.Relative, Steps: list.Steps, Outer: list.Outer}
	return g, out
}

// Sampled is how many values are shown of a list.
const Sampled = 6

// sampled gives the first values of a list.
func (c *compiler) sampled(n *syntax.Node, v value) (regs []int32) {
	inner, again := c.listed(n, n)
	if again.Of == "" {
		return make([]int32, 0)
	}
	list := inner.marked(again.regs...).list
	body := inner.builder.Finish(again.regs)
	for k := range min(Sampled, len(list.Members)) {
		b := machine.NewBuilder(&c.whole.operations)
		g := &machine.Gather{By: machine.Nth, Many: machine.Many{Of: list.Gathering, Relative: list.Relative, Steps: list.Steps, Outer: list.Outer}, Body: body, Size: len(v.regs), Arg: b.Finish([]int32{b.Constant(float64(k + 1))})}
		regs = append(regs, c.made(g)...)
	}
	return regs
}

// made adds a list of which one value is made, and returns where that stands.
func (c *compiler) made(g *machine.Gather) (regs []int32) {
	c.builder.Lists = append(c.builder.Lists, g)
	for k := range g.Size {
		regs = append(regs, c.builder.Input(machine.Input{Kind: machine.Gathered, Look: len(c.builder.Lists) - 1, Component: k}))
	}
	return regs
}
