package formula

import (
	"fmt"
	"slices"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// time lowers an argument that has to be a time, and returns it in frames.
func (c *compiler) time(n *syntax.Node) (int32, bool) {
	v := c.value(n)
	r, ok := c.single(n, v, "this function")
	if !ok {
		return 0, false
	}
	if v.Unit != scene.Seconds && !(n.Kind == syntax.NodeNumber && n.Number == 0) {
		text := c.source(n)
		if n.Kind == syntax.NodeBinary {
			text = "(" + text + ")"
		}
		c.problem(syntax.Problem{At: n.At, End: n.End, Sentence: fmt.Sprintf("this needs a time, but %s is a plain number; add a unit, f for frames or s for seconds", c.said(n)),
			Fixes: []syntax.Fix{{Label: "frames", At: n.At, End: n.End, Text: text + " * 1f"}, {Label: "seconds", At: n.At, End: n.End, Text: text + " * 1s"}}})
		return 0, false
	}
	return c.op(machine.OpFrames, r, c.constant(c.scope.Rate)), true
}

// looked lowers an expression that is looked at at other times into a program of its own, and returns
// its type and, for each of its components, the input that holds its slot.
func (c *compiler) looked(n *syntax.Node) (binding.Type, []int32) {
	for range len(c.whole.names) { // a value that has a name, which may stand for another one, or, by mistake, for itself
		named := c.whole.names[n.Text]
		if n.Kind != syntax.NodeName || n.Outer != 0 || named == nil {
			break
		}
		n = named
	}
	l, known := c.whole.looked[n]
	if !known {
		l = &look{}
		c.whole.looked[n] = l
		l.program, l.Type = c.apart(n)
	}
	if l.program == nil {
		return binding.Type{}, nil
	}
	at := slices.Index(c.builder.Looks, l.program)
	if at < 0 {
		at = len(c.builder.Looks)
		c.builder.Looks = append(c.builder.Looks, l.program)
	}
	slots := make([]int32, len(l.program.Out))
	for k := range slots {
		slots[k] = c.builder.Input(machine.Input{Kind: machine.Look, Look: at, Component: k})
	}
	return l.Type, slots
}

// inner returns a compiler of a program of its own within the formula; nil where they are nested too deep.
func (c *compiler) inner(n *syntax.Node) *compiler {
	if c.depth >= syntax.MaxDepth {
		c.fail(n, "too many nested time and list functions (%d at most)", syntax.MaxDepth)
		return nil
	}
	return &compiler{scope: c.scope, text: c.text, builder: machine.NewBuilder(&c.whole.operations), whole: c.whole, values: map[string]value{}, problems: c.problems, depth: c.depth + 1}
}

// apart lowers an expression into a program of its own; nil where it cannot be.
func (c *compiler) apart(n *syntax.Node) (*machine.Program, binding.Type) {
	inner := c.inner(n)
	if inner == nil {
		return nil, binding.Type{}
	}
	v := inner.value(n)
	if v.Of == itemType {
		c.fail(n, "this is an item; name one of its properties after a colon")
	}
	if v.Of == "" || v.Of == itemType || !inner.one(n, v) {
		return nil, binding.Type{}
	}
	return inner.builder.Finish(v.regs), v.Type
}

// elsewhen lowers a look at one other time: frame makes the frame of it from the times that are given.
func elsewhen(n *syntax.Node, c *compiler, frame func(times []int32) int32) value {
	var times []int32
	good := true
	for _, a := range n.Args[1:] {
		t, ok := c.time(a)
		times, good = append(times, t), good && ok
	}
	t, slots := c.looked(n.Args[0])
	if !good || t.Of == "" {
		return value{}
	}
	at := frame(times)
	out := value{Type: t}
	for _, s := range slots {
		out.regs = append(out.regs, c.op(machine.OpLook, at, s))
	}
	return out
}

func lowerDelay(c *compiler, n *syntax.Node) value {
	return elsewhen(n, c, func(t []int32) int32 { return c.op(machine.OpSub, c.frame(), t[0]) })
}

func lowerAt(c *compiler, n *syntax.Node) value {
	return elsewhen(n, c, func(t []int32) int32 { return t[0] })
}

func lowerEvery(c *compiler, n *syntax.Node) value {
	return elsewhen(n, c, func(t []int32) int32 {
		kept := c.op(machine.OpMul, c.op(machine.OpFloor, c.op(machine.OpDiv, c.frame(), t[0])), t[0])
		return c.op(machine.OpSelect, c.op(machine.OpLess, c.constant(0), t[0]), kept, c.frame())
	})
}

func lowerLoop(c *compiler, n *syntax.Node) value {
	return elsewhen(n, c, func(t []int32) int32 {
		span := c.op(machine.OpSub, t[1], t[0])
		in := c.op(machine.OpAdd, t[0], c.op(machine.OpMod, c.op(machine.OpSub, c.frame(), t[0]), span))
		return c.op(machine.OpSelect, c.op(machine.OpLess, c.constant(0), span), in, t[0])
	})
}

func lowerAccumulate(c *compiler, n *syntax.Node) value {
	t, slots := c.looked(n.Args[0])
	if t.Of == "" {
		return value{}
	}
	out := value{Type: t}
	for _, s := range slots {
		out.regs = append(out.regs, c.op(machine.OpArea, c.frame(), s))
	}
	return out
}

func lowerAverage(c *compiler, n *syntax.Node) value {
	window, ok := c.time(n.Args[1])
	t, slots := c.looked(n.Args[0])
	if !ok || t.Of == "" {
		return value{}
	}
	out := value{Type: t}
	for _, s := range slots {
		out.regs = append(out.regs, c.op(machine.OpAverage, c.frame(), s, window))
	}
	return out
}
