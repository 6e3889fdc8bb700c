package formula

import (
	"slices"

	"wunderkammer/core/curve"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// stop is a stop as it is lowered.
type stop struct {
	in     int32 // a constant
	out    value
	easing curve.Easing
}

// lowerStops lowers stops(x, in, out, …): the value at x of the curve through the stops, which is that of a map
// (package curve), component by component, to the bit.
func lowerStops(c *compiler, n *syntax.Node) value {
	if n.Args[0].Kind == syntax.NodeText {
		return c.fail(n.Args[0], "stops starts with the number to look up: %s", functions["stops"].Usage)
	}
	x, ok := c.single(n.Args[0], c.value(n.Args[0]), "stops")
	stops, beyond, good := c.stops(n)
	if !ok || !good {
		return value{}
	}
	first, last := stops[0], stops[len(stops)-1]
	under, over := c.op(machine.OpLess, x, first.in), c.op(machine.OpLess, last.in, x)
	inside := c.op(machine.OpAnd, c.op(machine.OpAtMost, first.in, x), c.op(machine.OpAtMost, x, last.in))
	at := x
	if beyond == scene.Repeat || beyond == scene.Mirror {
		at = c.op(machine.OpSelect, inside, x, c.folded(x, first.in, last.in, beyond))
	}
	out := value{Type: first.out.Type}
	for k := range first.out.regs {
		y := c.through(at, stops, k)
		if beyond == scene.GoOn {
			y = c.op(machine.OpSelect, over, c.ahead(x, stops[len(stops)-2], last, last, k), y)
			y = c.op(machine.OpSelect, under, c.ahead(x, first, stops[1], first, k), y)
		}
		out.regs = append(out.regs, y)
	}
	return out
}

// stops reads the stops of a call, and what is beyond them.
func (c *compiler) stops(n *syntax.Node) (stops []stop, beyond scene.Beyond, ok bool) {
	const usage = "stops come in pairs: a plain number, and the value there"
	var outs []*syntax.Node
	for k := 1; k < len(n.Args); k++ {
		a := n.Args[k]
		if a.Kind == syntax.NodeText {
			easing := curve.Easing(a.Text)
			switch word := scene.Beyond(a.Text); {
			case slices.Contains(syntax.StopEasings, easing) && len(stops) > 0:
				stops[len(stops)-1].easing = easing
			case slices.Contains(syntax.StopBeyonds, word) && k == len(n.Args)-1:
				beyond = word
			default:
				c.fail(a, `behind a stop stands "linear", "smooth" or "hold", and behind the last one "go on", "repeat" or "mirror", too`)
				return nil, "", false
			}
			continue
		}
		in, single := c.single(a, c.value(a), "stops")
		if !single {
			return nil, "", false
		}
		at, constant := c.builder.Value(in)
		switch {
		case !constant:
			c.fail(a, "%s; this one depends on something", usage)
			return nil, "", false
		case len(stops) > 0 && at <= c.at(stops[len(stops)-1]):
			c.fail(a, "this stop is at %s, which is not after the one before; write stops in rising order", scene.Exact(at))
			return nil, "", false
		case k+1 == len(n.Args):
			c.fail(a, "%s; this one has no value", usage)
			return nil, "", false
		}
		k++
		outs = append(outs, n.Args[k])
		stops = append(stops, stop{in: in, easing: curve.Linear})
	}
	if len(stops) < 2 {
		c.fail(n, "stops needs at least two stops: %s", functions["stops"].Usage)
		return nil, "", false
	}
	list, ok := c.alternatives(n, outs)
	for k := range list {
		stops[k].out = list[k]
		if list[k].Of.Jumps() {
			stops[k].easing = curve.Hold
		}
	}
	return stops, beyond, ok
}

func (c *compiler) at(s stop) float64 {
	x, _ := c.builder.Value(s.in)
	return x
}

// folded brings a number beyond the stops back among them.
func (c *compiler) folded(x, first, last int32, beyond scene.Beyond) int32 {
	span, way := c.op(machine.OpSub, last, first), c.op(machine.OpSub, x, first)
	turns := c.op(machine.OpFloor, c.op(machine.OpDiv, way, span))
	if beyond == scene.Repeat {
		return c.op(machine.OpSub, x, c.op(machine.OpMul, span, turns))
	}
	rest := c.op(machine.OpSub, way, c.op(machine.OpMul, span, turns))
	even := c.op(machine.OpEqual, c.op(machine.OpMod, turns, c.constant(2)), c.constant(0))
	return c.op(machine.OpAdd, first, c.op(machine.OpSelect, even, rest, c.op(machine.OpSub, span, rest)))
}

// ahead goes on from an end as steep as its span, from a to b, is on the whole.
func (c *compiler) ahead(x int32, a, b, end stop, k int) int32 {
	slope := c.op(machine.OpDiv, c.op(machine.OpSub, b.out.regs[k], a.out.regs[k]), c.op(machine.OpSub, b.in, a.in))
	return c.op(machine.OpAdd, end.out.regs[k], c.op(machine.OpMul, slope, c.op(machine.OpSub, x, end.in)))
}

// through is curve.Track.At of one component.
func (c *compiler) through(x int32, stops []stop, k int) int32 {
	last := len(stops) - 1
	slopes := make([]int32, len(stops))
	for i := range stops {
		slopes[i] = c.constant(0)
		if i > 0 && i < last && stops[i-1].easing == curve.Smooth && stops[i].easing == curve.Smooth {
			slopes[i] = c.slope(stops[i-1], stops[i], stops[i+1], k)
		}
	}
	y := c.span(x, stops[0], stops[1], slopes[0], slopes[1], k)
	for i := 1; i < last; i++ {
		y = c.op(machine.OpSelect, c.op(machine.OpAtMost, stops[i].in, x), c.span(x, stops[i], stops[i+1], slopes[i], slopes[i+1], k), y)
	}
	y = c.op(machine.OpSelect, c.op(machine.OpAtMost, stops[last].in, x), stops[last].out.regs[k], y)
	return c.op(machine.OpSelect, c.op(machine.OpAtMost, x, stops[0].in), stops[0].out.regs[k], y)
}

// span is the way from one stop to the next.
func (c *compiler) span(x int32, from, to stop, m0, m1 int32, k int) int32 {
	a, b := from.out.regs[k], to.out.regs[k]
	if from.easing == curve.Hold {
		return a
	}
	h, rise := c.op(machine.OpSub, to.in, from.in), c.op(machine.OpSub, b, a)
	u := c.op(machine.OpDiv, c.op(machine.OpSub, x, from.in), h)
	if from.easing == curve.Linear {
		return c.op(machine.OpAdd, a, c.op(machine.OpMul, u, rise))
	}
	v := c.op(machine.OpSub, c.constant(1), u)
	soft := c.op(machine.OpMul, c.op(machine.OpMul, c.op(machine.OpMul, u, u), c.op(machine.OpSub, c.constant(3), c.op(machine.OpMul, c.constant(2), u))), rise)
	bend := c.op(machine.OpMul, c.op(machine.OpMul, u, v), c.op(machine.OpSub, c.op(machine.OpMul, v, c.op(machine.OpMul, h, m0)), c.op(machine.OpMul, u, c.op(machine.OpMul, h, m1))))
	return c.op(machine.OpAdd, c.op(machine.OpAdd, a, soft), bend)
}

// slope is the tangent at a stop between two smooth spans, as package curve has it.
func (c *compiler) slope(before, at, after stop, k int) int32 {
	h0, h1 := c.op(machine.OpSub, at.in, before.in), c.op(machine.OpSub, after.in, at.in)
	d0 := c.op(machine.OpDiv, c.op(machine.OpSub, at.out.regs[k], before.out.regs[k]), h0)
	d1 := c.op(machine.OpDiv, c.op(machine.OpSub, after.out.regs[k], at.out.regs[k]), h1)
	two := c.constant(2)
	w0, w1 := c.op(machine.OpAdd, c.op(machine.OpMul, two, h1), h0), c.op(machine.OpAdd, h1, c.op(machine.OpMul, two, h0))
	steep := c.op(machine.OpDiv, c.op(machine.OpAdd, w0, w1), c.op(machine.OpAdd, c.op(machine.OpDiv, w0, d0), c.op(machine.OpDiv, w1, d1)))
	return c.op(machine.OpSelect, c.op(machine.OpAtMost, c.op(machine.OpMul, d0, d1), c.constant(0)), c.constant(0), steep)
}

// Through returns what a map gives at each of some inputs, worked out as everywhere else; an error where its stops do not go together.
func Through(stops []scene.MapStop, beyond scene.Beyond, inputs ...float64) ([]scene.Value, error) {
	out, _, err := evaluated(syntax.WriteStops(syntax.Whole("frame"), stops, beyond).Text, &binding.Scope{Rate: 1}, inputs...)
	return out, err
}
