package formula

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// builtins are the names that exist everywhere.
var builtins = map[string]func(*compiler) value{
	"time": func(c *compiler) value {
		return number(scene.Seconds, c.op(machine.OpDiv, c.frame(), c.constant(c.scope.Rate)))
	},
	"frame": func(c *compiler) value { return number(scene.Plain, c.frame()) },
	"fps":   func(c *compiler) value { return number(scene.Plain, c.constant(c.scope.Rate)) },
	"duration": func(c *compiler) value {
		return number(scene.Seconds, c.constant(c.scope.Frames/c.scope.Rate))
	},
	"width":  func(c *compiler) value { return number(scene.Pixels, c.constant(c.scope.Width)) },
	"height": func(c *compiler) value { return number(scene.Pixels, c.constant(c.scope.Height)) },
	"index":  func(c *compiler) value { return c.counted(machine.Index, 0) },
	"number": func(c *compiler) value { return c.counted(machine.Number, 0) },
	"count":  func(c *compiler) value { return c.counted(machine.Count, 0) },
	"share":  func(c *compiler) value { return c.counted(machine.Share, 0) },
	"pi":     func(c *compiler) value { return number(scene.Plain, c.constant(math.Pi)) },
	"tau":    func(c *compiler) value { return number(scene.Plain, c.constant(2*math.Pi)) },
	"true": func(c *compiler) value {
		return value{Type: binding.Type{Of: scene.Switch}, regs: []int32{c.constant(1)}}
	},
	"false": func(c *compiler) value {
		return value{Type: binding.Type{Of: scene.Switch}, regs: []int32{c.constant(0)}}
	},
	"own":   func(c *compiler) value { return c.driven(machine.Own) },
	"below": func(c *compiler) value { return c.driven(machine.Below) },
}

// Names lists the names that exist everywhere, in order.
func Names() []string { return slices.Sorted(maps.Keys(builtins)) }

func (c *compiler) frame() int32 { return c.builder.Input(machine.Input{Kind: machine.Frame}) }

// counted is where the driven member stands in its row, or in a row further out.
func (c *compiler) counted(kind machine.InputKind, outer int) value {
	if row, _ := c.scope.Level(outer); row != nil && row.Copies && (kind == machine.Count || kind == machine.Share) {
		return c.countedCopies(kind)
	}
	return number(scene.Plain, c.builder.Input(machine.Input{Kind: kind, Outer: outer}))
}

// countedCopies gives how many copies are shown, one that fades in counted whole, and where this one stands among them: 0 for the
// first, 1 for the last, and for those that are not shown.
func (c *compiler) countedCopies(kind machine.InputKind) value {
	read := func(spec *scene.Spec) int32 {
		return c.builder.Input(machine.Input{Kind: machine.Property, Relative: "parent", Key: spec.Key, Type: spec.Type})
	}
	one, most, shown := c.constant(1), c.builder.Input(machine.Input{Kind: machine.Count}), read(scene.CopiesNumber)
	n := c.op(machine.OpMax, one, c.op(machine.OpMin, most, c.op(machine.OpSelect, read(scene.CopiesFade), c.op(machine.OpCeil, shown), c.op(machine.OpFloor, shown))))
	if kind == machine.Share {
		n = c.op(machine.OpMin, one, c.op(machine.OpDiv, c.builder.Input(machine.Input{Kind: machine.Index}), c.op(machine.OpMax, one, c.op(machine.OpSub, n, one))))
	}
	return number(scene.Plain, n)
}

// shownNext gives what stands behind a copy where that is shown, and nothing behind the last one that is.
func (c *compiler) shownNext(regs []int32, steps, outer int) []int32 {
	at := c.op(machine.OpAdd, c.builder.Input(machine.Input{Kind: machine.Index, Outer: outer}), c.constant(float64(steps)))
	there := c.op(machine.OpLess, at, c.countedCopies(machine.Count).regs[0])
	nothing := c.op(machine.OpDiv, c.constant(0), c.constant(0))
	out := make([]int32, len(regs))
	for k, r := range regs {
		out[k] = c.op(machine.OpSelect, there, r, nothing)
	}
	return out
}

// further is what stands behind outer.
func (c *compiler) further(n *syntax.Node) value {
	if row, _ := c.scope.Level(n.Outer); row == nil {
		return c.fail(n, "%s", binding.NoFurther)
	}
	kind, ok := syntax.Counts[n.Text]
	if !ok {
		return c.fail(n, "after outer, use index, number, count or share")
	}
	return c.counted(kind, n.Outer)
}

// driven is the driven property as it is under this link.
func (c *compiler) driven(kind machine.InputKind) value {
	t := c.scope.Target
	if t == nil {
		return value{}
	}
	first, size := 0, t.Type.Size()
	v := value{Type: binding.Type{Of: t.Type, Unit: t.Unit}}
	if c.scope.Part != "" {
		first, _ = t.Type.Component(c.scope.Part)
		size, v.Of = 1, scene.Number
	}
	if v.Of == scene.Choice {
		v.Of = scene.Number
	}
	for k := range size {
		v.regs = append(v.regs, c.builder.Input(machine.Input{Kind: kind, Component: first + k}))
	}
	return v
}

func (c *compiler) name(n *syntax.Node) value {
	if n.Outer > 0 {
		return c.further(n)
	}
	if x, ok := c.whole.names[n.Text]; ok {
		if v, ok := c.values[n.Text]; ok {
			return v
		}
		if c.depth++; c.depth > syntax.MaxDepth {
			c.depth--
			return c.fail(n, "%s refers to itself", n.Text)
		}
		v := c.value(x)
		c.depth--
		c.values[n.Text] = v
		return v
	}
	if t, ok := c.scope.Given[n.Text]; ok {
		return c.given(n, t)
	}
	make := builtins[n.Text]
	if make == nil {
		return c.unknown(n)
	}
	if (n.Text == "own" || n.Text == "below") && c.scope.Target == nil {
		return c.fail(n, "%s only has a meaning where a property is driven", n.Text)
	}
	return make(c)
}

// given is a value of which only the type is known.
func (c *compiler) given(n *syntax.Node, t binding.Type) value {
	v := value{Type: t}
	for k := range t.Of.Size() {
		in := machine.Input{Kind: machine.Given, Component: k}
		if t.List != nil {
			in.Text = n.Text // its own, so that it is no other's
		}
		r := c.builder.Input(in)
		if v.regs = append(v.regs, r); t.List != nil {
			c.mark(r, &gathering{t.List, n})
		}
	}
	return v
}

func (c *compiler) unknown(n *syntax.Node) value {
	p := syntax.Problem{At: n.At, End: n.End, Sentence: fmt.Sprintf("there is nothing named %s", n.Text)}
	if f := functions[n.Text]; f != nil && !strings.HasPrefix(c.text[n.End:], ".") {
		p.Sentence = fmt.Sprintf("%s is a function: %s", n.Text, f.Usage)
		p.Fixes = []syntax.Fix{{Label: "add brackets", At: n.End, End: n.End, Text: "()"}}
		c.problem(p)
		return value{}
	}
	var names []string
	for name := range c.whole.names {
		names = append(names, name)
	}
	for name := range builtins {
		names = append(names, name)
	}
	if c.elsewhere(n, &p) {
		c.problem(p)
		return value{}
	}
	for _, name := range binding.NearestNames(n.Text, names) {
		p.Fixes = append(p.Fixes, syntax.Fix{Label: name, At: n.At, End: n.End, Text: name})
	}
	c.problem(p)
	return value{}
}
