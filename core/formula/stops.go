package formula

import (
	"slices"
	"strconv"
	"strings"

	"wunderkammer/core/curve"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// The words that may stand behind a stop: how it goes on from there, and, behind the last, what comes beyond.
var (
	easings = []curve.Easing{curve.Linear, curve.Smooth, curve.Hold}
	beyonds = []scene.Beyond{scene.GoOn, scene.Repeat, scene.Mirror}
)

// stop is a stop as it is lowered.
type stop struct {
	in     int32 // a constant
	out    value
	easing curve.Easing
}

// lowerStops lowers stops(x, in, out, …): the value at x of the curve through the stops, which is that of a map
// (package curve), component by component, to the bit.
func lowerStops(c *compiler, n *node) value {
	if n.args[0].kind == nodeText {
		return c.fail(n.args[0], "stops starts with the number to look up: %s", functions["stops"].Usage)
	}
	x, ok := c.single(n.args[0], c.Value(n.args[0]), "stops")
	stops, beyond, good := c.stops(n)
	if !ok || !good {
		return value{}
	}
	first, last := stops[0], stops[len(stops)-1]
	under, over := c.Op(machine.OpLess, x, first.in), c.Op(machine.OpLess, last.in, x)
	inside := c.Op(machine.OpAnd, c.Op(machine.OpAtMost, first.in, x), c.Op(machine.OpAtMost, x, last.in))
	at := x
	if beyond == scene.Repeat || beyond == scene.Mirror {
		at = c.Op(machine.OpSelect, inside, x, c.folded(x, first.in, last.in, beyond))
	}
	out := value{Type: first.out.Type}
	for k := range first.out.regs {
		y := c.through(at, stops, k)
		if beyond == scene.GoOn {
			y = c.Op(machine.OpSelect, over, c.ahead(x, stops[len(stops)-2], last, last, k), y)
			y = c.Op(machine.OpSelect, under, c.ahead(x, first, stops[1], first, k), y)
		}
		out.regs = append(out.regs, y)
	}
	return out
}

// stops reads the stops of a call, and what is beyond them.
func (c *compiler) stops(n *node) (stops []stop, beyond scene.Beyond, ok bool) {
	const usage = "stops come in pairs: a plain number, and the value there"
	var outs []*node
	for k := 1; k < len(n.args); k++ {
		a := n.args[k]
		if a.kind == nodeText {
			easing := curve.Easing(a.text)
			switch word := scene.Beyond(a.text); {
			case slices.Contains(easings, easing) && len(stops) > 0:
				stops[len(stops)-1].easing = easing
			case slices.Contains(beyonds, word) && k == len(n.args)-1:
				beyond = word
			default:
				c.fail(a, `behind a stop stands "linear", "smooth" or "hold", and behind the last one "go on", "repeat" or "mirror", too`)
				return nil, "", false
			}
			continue
		}
		in, single := c.single(a, c.Value(a), "stops")
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
		case k+1 == len(n.args):
			c.fail(a, "%s; this one has no value", usage)
			return nil, "", false
		}
		k++
		outs = append(outs, n.args[k])
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
	span, way := c.Op(machine.OpSub, last, first), c.Op(machine.OpSub, x, first)
	turns := c.Op(machine.OpFloor, c.Op(machine.OpDiv, way, span))
	if beyond == scene.Repeat {
		return c.Op(machine.OpSub, x, c.Op(machine.OpMul, span, turns))
	}
	rest := c.Op(machine.OpSub, way, c.Op(machine.OpMul, span, turns))
	even := c.Op(machine.OpEqual, c.Op(machine.OpMod, turns, c.Constant(2)), c.Constant(0))
	return c.Op(machine.OpAdd, first, c.Op(machine.OpSelect, even, rest, c.Op(machine.OpSub, span, rest)))
}

// ahead goes on from an end as steep as its span, from a to b, is on the whole.
func (c *compiler) ahead(x int32, a, b, end stop, k int) int32 {
	slope := c.Op(machine.OpDiv, c.Op(machine.OpSub, b.out.regs[k], a.out.regs[k]), c.Op(machine.OpSub, b.in, a.in))
	return c.Op(machine.OpAdd, end.out.regs[k], c.Op(machine.OpMul, slope, c.Op(machine.OpSub, x, end.in)))
}

// through is curve.Track.At of one component.
func (c *compiler) through(x int32, stops []stop, k int) int32 {
	last := len(stops) - 1
	slopes := make([]int32, len(stops))
	for i := range stops {
		slopes[i] = c.Constant(0)
		if i > 0 && i < last && stops[i-1].easing == curve.Smooth && stops[i].easing == curve.Smooth {
			slopes[i] = c.slope(stops[i-1], stops[i], stops[i+1], k)
		}
	}
	y := c.span(x, stops[0], stops[1], slopes[0], slopes[1], k)
	for i := 1; i < last; i++ {
		y = c.Op(machine.OpSelect, c.Op(machine.OpAtMost, stops[i].in, x), c.span(x, stops[i], stops[i+1], slopes[i], slopes[i+1], k), y)
	}
	y = c.Op(machine.OpSelect, c.Op(machine.OpAtMost, stops[last].in, x), stops[last].out.regs[k], y)
	return c.Op(machine.OpSelect, c.Op(machine.OpAtMost, x, stops[0].in), stops[0].out.regs[k], y)
}

// span is the way from one stop to the next.
func (c *compiler) span(x int32, from, to stop, m0, m1 int32, k int) int32 {
	a, b := from.out.regs[k], to.out.regs[k]
	if from.easing == curve.Hold {
		return a
	}
	h, rise := c.Op(machine.OpSub, to.in, from.in), c.Op(machine.OpSub, b, a)
	u := c.Op(machine.OpDiv, c.Op(machine.OpSub, x, from.in), h)
	if from.easing == curve.Linear {
		return c.Op(machine.OpAdd, a, c.Op(machine.OpMul, u, rise))
	}
	v := c.Op(machine.OpSub, c.Constant(1), u)
	soft := c.Op(machine.OpMul, c.Op(machine.OpMul, c.Op(machine.OpMul, u, u), c.Op(machine.OpSub, c.Constant(3), c.Op(machine.OpMul, c.Constant(2), u))), rise)
	bend := c.Op(machine.OpMul, c.Op(machine.OpMul, u, v), c.Op(machine.OpSub, c.Op(machine.OpMul, v, c.Op(machine.OpMul, h, m0)), c.Op(machine.OpMul, u, c.Op(machine.OpMul, h, m1))))
	return c.Op(machine.OpAdd, c.Op(machine.OpAdd, a, soft), bend)
}

// slope is the tangent at a stop between two smooth spans, as package curve has it.
func (c *compiler) slope(before, at, after stop, k int) int32 {
	h0, h1 := c.Op(machine.OpSub, at.in, before.in), c.Op(machine.OpSub, after.in, at.in)
	d0 := c.Op(machine.OpDiv, c.Op(machine.OpSub, at.out.regs[k], before.out.regs[k]), h0)
	d1 := c.Op(machine.OpDiv, c.Op(machine.OpSub, after.out.regs[k], at.out.regs[k]), h1)
	two := c.Constant(2)
	w0, w1 := c.Op(machine.OpAdd, c.Op(machine.OpMul, two, h1), h0), c.Op(machine.OpAdd, h1, c.Op(machine.OpMul, two, h0))
	steep := c.Op(machine.OpDiv, c.Op(machine.OpAdd, w0, w1), c.Op(machine.OpAdd, c.Op(machine.OpDiv, w0, d0), c.Op(machine.OpDiv, w1, d1)))
	return c.Op(machine.OpSelect, c.Op(machine.OpAtMost, c.Op(machine.OpMul, d0, d1), c.Constant(0)), c.Constant(0), steep)
}

// WriteStops returns the call of stops() that gives what a map gives at x; easings and what lies beyond are left out where they are
// the usual ones.
func WriteStops(x Piece, stops []scene.MapStop, beyond scene.Beyond) Piece {
	args := []Piece{x}
	for _, s := range stops {
		args = append(args, Whole(scene.Exact(s.In)), WriteValue(s.Out))
		if s.Easing != curve.Linear {
			args = append(args, Whole(strconv.Quote(string(s.Easing))))
		}
	}
	if beyond != scene.HoldEnds {
		args = append(args, Whole(strconv.Quote(string(beyond))))
	}
	return Call("stops", args...)
}

// Through returns what a map gives at each of some inputs, worked out as everywhere else; an error where its stops do not go together.
func Through(stops []scene.MapStop, beyond scene.Beyond, inputs ...float64) ([]scene.Value, error) {
	out, _, err := evaluated(WriteStops(Whole("frame"), stops, beyond).Text, &Scope{Rate: 1}, inputs...)
	return out, err
}

// WriteValue writes a value as a literal that reads back as the same value.
func WriteValue(v scene.Value) Piece {
	list := func(xs []float64) (out []Piece) {
		for _, x := range xs {
			out = append(out, Whole(scene.Exact(x)))
		}
		return out
	}
	switch nums := v.Nums(); {
	case v.IsText():
		return Whole(`"` + strings.NewReplacer(`\`, `\\`, `"`, `\"`).Replace(v.Str()) + `"`)
	case len(nums) == 1:
		return Whole(scene.Exact(nums[0]))
	case len(nums) == 4: // in full, which #rrggbb has no room for
		return Call("alpha", Call("rgb", list(nums[:3])...), list(nums[3:])[0])
	default:
		return Operation(Point, list(nums)...)
	}
}

// ReadStops reads a call that WriteStops has written, or that could be: of stops that are written out.
func ReadStops(e *Expression) (stops []scene.MapStop, beyond scene.Beyond, ok bool) {
	if e.Sort != Apply || e.Text != "stops" || len(e.Args) < 5 {
		return nil, "", false
	}
	for k := 1; k < len(e.Args); k++ {
		v, plain := e.Args[k].Value()
		switch {
		case !plain || k > 1 && v.IsText() && len(stops) == 0:
			return nil, "", false
		case v.IsText() && slices.Contains(easings, curve.Easing(v.Str())):
			stops[len(stops)-1].Easing = curve.Easing(v.Str())
		case v.IsText():
			beyond = scene.Beyond(v.Str())
			if k != len(e.Args)-1 || !slices.Contains(beyonds, beyond) {
				return nil, "", false
			}
		case v.Len() != 1 || k+1 == len(e.Args):
			return nil, "", false
		default:
			k++
			out, plain := e.Args[k].Value()
			if !plain {
				return nil, "", false
			}
			stops = append(stops, scene.MapStop{In: v.At(0), Out: out, Easing: curve.Linear})
		}
	}
	return stops, beyond, len(stops) >= 2 && scene.CheckMapStops(stops, beyond, stops[0].Out.Kind()) == nil
}

// Value returns what a literal stands for, where it is one without a unit.
func (e *Expression) Value() (scene.Value, bool) {
	numbers := func(args []*Expression) (out []float64, ok bool) {
		for _, a := range args {
			v, plain := a.Value()
			if !plain || v.Len() != 1 || v.IsText() {
				return nil, false
			}
			out = append(out, v.At(0))
		}
		return out, true
	}
	switch {
	case e.Sort == Literal && strings.HasPrefix(e.Text, `"`):
		tokens, p := scan(e.Text)
		if p != nil || tokens[0].kind != tokenText {
			return scene.Value{}, false
		}
		return scene.Txt(tokens[0].text), true
	case e.Sort == Literal && strings.HasPrefix(e.Text, "#"):
		tokens, p := scan(e.Text)
		if p != nil || tokens[0].kind != tokenColour {
			return scene.Value{}, false
		}
		return scene.NewValue(tokens[0].colour[:]), true
	case e.Sort == Literal:
		x, err := strconv.ParseFloat(e.Text, 64)
		return scene.Num(x), err == nil && x-x == 0
	case e.Sort == Operate && e.Text == Point:
		xs, ok := numbers(e.Args)
		if !ok || len(xs) < 2 || len(xs) > 3 {
			return scene.Value{}, false
		}
		return scene.Pt(xs...), true
	case e.Sort == Apply && e.Text == "rgb" && len(e.Args) == 3:
		xs, ok := numbers(e.Args)
		return scene.NewValue(append(xs, 1)), ok
	case e.Sort == Apply && e.Text == "alpha" && len(e.Args) == 2:
		colour, ok := e.Args[0].Value()
		a, plain := e.Args[1].Value()
		return colour.With(3, a.At(0)), ok && plain && colour.Len() == 4 && a.Len() == 1
	}
	return scene.Value{}, false
}
