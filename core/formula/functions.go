package formula

import (
	"fmt"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// Function is a function of the language. The table of them is what completion, the list of
// functions and docs/formula.md are made from.
type Function struct {
	Name    string `json:"name"`
	Usage   string `json:"usage"`
	Help    string `json:"help"`
	Example string `json:"example"`
	Group   string `json:"group"`

	least, most int // arguments
	lower       func(c *compiler, n *syntax.Node) value
}

// Functions lists all functions, by group.
var Functions []*Function

// functions finds them by name.
var functions = map[string]*Function{}

const many = 100

// timesGroup is the group of the functions that look at other times, and wavesGroup that of those that repeat, or are noise.
const (
	timesGroup = "time"
	wavesGroup = "waves and noise"
)

func init() {
	Functions = table()
	for _, f := range Functions {
		functions[f.Name] = f
	}
}

func table() []*Function {
	const numbers, angles, points, colours, waves, times, texts = "numbers", "angles", "points", "colours", wavesGroup, timesGroup, "text"
	return []*Function{
		{"abs", "abs(x)", "absolute value", "abs(-3)", numbers, 1, 1, each(machine.OpAbs)},
		{"sign", "sign(x)", "-1, 0 or 1", "sign(-3)", numbers, 1, 1, each(machine.OpSign)},
		{"floor", "floor(x)", "x rounded down", "floor(2.7)", numbers, 1, 1, each(machine.OpFloor)},
		{"ceil", "ceil(x)", "x rounded up", "ceil(2.1)", numbers, 1, 1, each(machine.OpCeil)},
		{"round", "round(x) or round(x, places)", "the nearest whole number, or to some decimal places; halves away from 0", "round(3.14159, 2)", numbers, 1, 2, lowerRound},
		{"fract", "fract(x)", "fractional part", "fract(2.75)", numbers, 1, 1, each(machine.OpFract)},
		{"mod", "mod(a, b)", "remainder of a ÷ b", "mod(370, 360)", numbers, 2, 2, each(machine.OpMod)},
		{"min", "min(a, b, …)", "the smallest", "min(3, 5)", numbers, 2, many, fold2(machine.OpMin)},
		{"max", "max(a, b, …)", "the largest", "max(3, 5)", numbers, 2, many, fold2(machine.OpMax)},
		{"clamp", "clamp(x, low, high)", "x limited to low and high", "clamp(120, 0, 100)", numbers, 3, 3, lowerClamp},
		{"pow", "pow(x, y)", "x to the power of y", "pow(2, 10)", numbers, 2, 2, each(machine.OpPow)},
		{"sqrt", "sqrt(x)", "the square root", "sqrt(2)", numbers, 1, 1, each(machine.OpSqrt)},
		{"exp", "exp(x)", "e to the power of x", "exp(1)", numbers, 1, 1, each(machine.OpExp)},
		{"log", "log(x)", "the natural logarithm", "log(10)", numbers, 1, 1, each(machine.OpLog)},
		{"mix", "mix(a, b, share)", "a at share 0, b at 1, blended between; colours as they are written, as pins and maps blend them", "mix(10, 20, 0.25)", numbers, 3, 3, lowerMix},
		{"mixlight", "mixlight(a, b, share)", "as mix, but colours blend in linear light, as light does", "mixlight(#000000, #ffffff, 0.25)", colours, 3, 3, lowerMixLight},
		{"step", "step(edge, x)", "0 if x is below the edge, otherwise 1", "step(5, 7)", numbers, 2, 2, lowerStep},
		{"smoothstep", "smoothstep(low, high, x)", "0 to 1 between low and high, easing in and out; a step where they are equal", "smoothstep(0, 10, 5)", numbers, 3, 3, lowerSmoothstep},
		{"map", "map(x, in low, in high, out low, out high)", "x mapped from the input range to the output range; extends beyond both ends", "map(50, 0, 100, 0, 1)", numbers, 5, 5, lowerMap},
		{"stops", "stops(x, in, out, in, out, …)", `what a curve through the stops gives at x, held at its ends; a word behind a stop says how it goes on ("smooth", "hold"), one at the end what is beyond ("go on", "repeat", "mirror")`, "stops(40, 0, 10, 50, 20, 100, 80)", numbers, 5, 1 + 3*scene.MaxStops, lowerStops},
		{"if", "if(condition, a, b)", "a if the condition is true, otherwise b", "if(3 > 2, 10, 20)", numbers, 3, 3, lowerIf},
		{"pick", "pick(n, a, b, …)", "the option with number n, counted from 0; clamped to the first and last", "pick(1, 10, 20, 30)", numbers, 2, many, lowerPick},

		{"sin", "sin(angle)", "the sine of an angle in degrees", "sin(30)", angles, 1, 1, each(machine.OpSin)},
		{"cos", "cos(angle)", "the cosine of an angle in degrees", "cos(60)", angles, 1, 1, each(machine.OpCos)},
		{"tan", "tan(angle)", "the tangent of an angle in degrees", "tan(45)", angles, 1, 1, each(machine.OpTan)},
		{"asin", "asin(x)", "the angle in degrees whose sine is x", "asin(0.5)", angles, 1, 1, inDegrees(each(machine.OpAsin))},
		{"acos", "acos(x)", "the angle in degrees whose cosine is x", "acos(0.5)", angles, 1, 1, inDegrees(each(machine.OpAcos))},
		{"atan", "atan(y, x)", "the angle in degrees of the direction (x, y)", "atan(1, 1)", angles, 2, 2, inDegrees(each(machine.OpAtan))},
		{"aim", "aim(from, to)", "the angle in the x-y plane from one point to the other", "aim([0, 0], [0, 10])", angles, 2, 2, lowerAim},

		{"length", "length(p)", "length of the vector", "length([3, 4])", points, 1, 1, lowerLength},
		{"distance", "distance(a, b)", "distance between two points", "distance([0, 0], [3, 4])", points, 2, 2, lowerDistance},
		{"dot", "dot(a, b)", "the dot product", "dot([1, 2], [3, 4])", points, 2, 2, lowerDot},
		{"normalize", "normalize(p)", "the vector scaled to length 1", "normalize([3, 4])", points, 1, 1, lowerNormalize},
		{"along", "along({path}, share)", "the point at a share (0 to 1) of the path", "along({Rope}, 0.5)", points, 2, 2, lowerAlong},
		{"zone", "zone({zone}) or zone({zone}, place)", "how strongly a zone holds the item, 0 to 1: at its own place before its links, or at a given place", "zone({Sweep})", points, 1, 2, lowerZone},
		{"cell", "cell({column}, row)", "what stands in a row of a table’s column, counted from 1, or in the row that a text names; between two rows, a number between theirs", "cell({Tides: height}, 3)", points, 2, 2, lowerCell},
		{"heading", "heading({path}, share)", "the direction of travel at a share (0 to 1) of the path", "heading({Rope}, 0.5)", points, 2, 2, lowerHeading},

		{"rgb", "rgb(r, g, b)", "a colour of red, green and blue, each 0 to 1", "rgb(1, 0.5, 0)", colours, 3, 3, lowerRGB},
		{"hsl", "hsl(hue, saturation, lightness)", "a colour; hue in degrees, the rest 0 to 1", "hsl(40, 0.6, 0.5)", colours, 3, 3, lowerHSL},
		{"hue", "hue(colour)", "the hue of a colour in degrees", "hue(#d9a441)", colours, 1, 1, partOf("hue")},
		{"lightness", "lightness(colour)", "the lightness of a colour, 0 to 1", "lightness(#d9a441)", colours, 1, 1, partOf("lightness")},
		{"alpha", "alpha(colour, a)", "the colour with another alpha, 0 to 1", "alpha(#d9a441, 0.5)", colours, 2, 2, lowerAlpha},

		{"wave", "wave(cycles)", "sine wave from -1 to 1; one cycle for each 1", "wave(0.25)", waves, 1, 1, each(machine.OpWave)},
		{"saw", "saw(cycles)", "sawtooth wave from -1 to 1 in each cycle", "saw(0.75)", waves, 1, 1, each(machine.OpSaw)},
		{"square", "square(cycles)", "square wave: 1 in the first half of each cycle, -1 in the second", "square(0.75)", waves, 1, 1, each(machine.OpSquare)},
		{"triangle", "triangle(cycles)", "triangle wave from -1 to 1, in phase with wave", "triangle(0.125)", waves, 1, 1, each(machine.OpTriangle)},
		{"noise", "noise(x) or noise(x, seed)", "smooth noise between -1 and 1, mostly within 0.5 of 0, about one bump for each 1; each seed gives another", "noise(0.5, 7)", waves, 1, 2, lowerNoise},
		{"random", "random(seed) or random(a, b, seed)", "random value from -1 to 1, or between a and b, fixed per seed", "random(0, 10, 3)", waves, 1, 3, lowerRandom},

		{"delay", "delay(expression, by)", "the expression as it was some time ago", "delay({Weather: Wind}, 5f)", times, 2, 2, lowerDelay},
		{"at", "at(expression, time)", "the expression as it is at a time", "at({Weather: Wind}, 2s)", times, 2, 2, lowerAt},
		{"every", "every(expression, period)", "the expression, sampled once per period and held", "every(noise(time), 4f)", times, 2, 2, lowerEvery},
		{"accumulate", "accumulate(expression)", "the running total of the expression since the start, per second", "accumulate({Weather: Wind})", times, 1, 1, lowerAccumulate},
		{"average", "average(expression, window)", "the mean over a window of time that ends now", "average({Weather: Wind}, 10f)", times, 2, 2, lowerAverage},
		{"loop", "loop(expression, from, to)", "the span from one time to another, repeated", "loop({Weather: Wind}, 0s, 2s)", times, 3, 3, lowerLoop},

		{"sum", "sum(list)", "all values of the list added up, component by component", "sum({Lamp *: opacity})", listsGroup, 1, 1, reduce(machine.Sum)},
		{"mean", "mean(list)", "the mean of all values of the list, component by component", "mean({Lamp *: position})", listsGroup, 1, 1, reduce(machine.Mean)},
		{"least", "least(list)", "the least number of the list", "least({Lamp *: opacity})", listsGroup, 1, 1, reduce(machine.Least)},
		{"greatest", "greatest(list)", "the greatest number of the list", "greatest({Lamp *: opacity})", listsGroup, 1, 1, reduce(machine.Greatest)},
		{"count", "count(list) or count({items})", "how many values the list has, or how many items there are", "count({Lamp *})", listsGroup, 1, 1, lowerCount},
		{"first", "first(list)", "the first value of the list", "first({Lamps > *: fill})", listsGroup, 1, 1, reduce(machine.First)},
		{"last", "last(list)", "the last value of the list", "last({Lamps > *: fill})", listsGroup, 1, 1, reduce(machine.Last)},
		{"nth", "nth(list, number)", "the value with a number, counted from 1; held at the first and the last", "nth({Lamp *: fill}, 2)", listsGroup, 2, 2, reduce(machine.Nth)},
		{"nearest", "nearest(list, value)", "the value of the list that is nearest to another one", "nearest({Lamp *: position}, {self: position})", listsGroup, 2, 2, reduce(machine.Nearest)},
		{"weighted", "weighted(list, weights)", "the mean of the list by weights, of which each member has one", "weighted({Lamp *: fill}, {Lamp *: opacity})", listsGroup, 2, 2, reduce(machine.Weighted)},

		{"text", "text(a, b, …)", "texts and numbers joined together", `text("Gate ", 3)`, texts, 1, many, lowerText},
		{"fixed", "fixed(x, places)", "a number as a text with a fixed number of decimal places", "fixed(3.14159, 2)", texts, 2, 2, lowerFixed},
	}
}

// takes says how many arguments a function takes.
func (f *Function) takes() string {
	switch {
	case f.least == f.most && f.most == 1:
		return "1 argument"
	case f.least == f.most:
		return fmt.Sprintf("%d arguments", f.most)
	case f.most == many:
		return fmt.Sprintf("%d arguments or more", f.least)
	}
	return fmt.Sprintf("%d to %d arguments", f.least, f.most)
}

func (c *compiler) call(n *syntax.Node) value {
	f := functions[n.Text]
	if f == nil {
		p := syntax.Problem{At: n.At, End: n.At + len(n.Text), Sentence: fmt.Sprintf("there is no function named %s", n.Text)}
		names := make([]string, 0, len(functions))
		for name := range functions {
			names = append(names, name)
		}
		for _, name := range binding.NearestNames(n.Text, names) {
			p.Fixes = append(p.Fixes, syntax.Fix{Label: name, At: n.At, End: n.At + len(n.Text), Text: name})
		}
		c.problem(p)
		return value{}
	}
	if len(n.Args) < f.least || len(n.Args) > f.most {
		return c.fail(n, "%s takes %s, not %d: %s", f.Name, f.takes(), len(n.Args), f.Usage)
	}
	v := f.lower(c, n)
	if f.Group == wavesGroup {
		c.hundredthsWanted(n)
	}
	return v
}

// numbers lowers all arguments, each of which has to be one number.
func (c *compiler) numbers(n *syntax.Node) ([]int32, bool) {
	out, good := make([]int32, len(n.Args)), true
	for i, a := range n.Args {
		r, ok := c.single(a, c.value(a), n.Text)
		out[i], good = r, good && ok
	}
	return out, good
}

// list lowers all arguments, each of which has to be something to reckon with.
func (c *compiler) list(n *syntax.Node) ([]value, bool) {
	out, good := make([]value, len(n.Args)), true
	for i, a := range n.Args {
		out[i] = c.value(a)
		good = c.arithmetic(a, out[i]) && good
	}
	return out, good
}

// each makes a function that works component by component.
func each(op machine.Op) func(*compiler, *syntax.Node) value {
	return func(c *compiler, n *syntax.Node) value {
		list, ok := c.list(n)
		if !ok {
			return value{}
		}
		unit := list[0].Unit
		switch op {
		case machine.OpSin, machine.OpCos, machine.OpTan:
			c.degreesWanted(n, list[0])
		}
		switch op {
		case machine.OpSin, machine.OpCos, machine.OpTan, machine.OpWave, machine.OpSaw, machine.OpSquare, machine.OpTriangle, machine.OpSign, machine.OpPow, machine.OpExp, machine.OpLog:
			unit = ""
		}
		return c.each(n, op, unit, list...)
	}
}

func inDegrees(lower func(*compiler, *syntax.Node) value) func(*compiler, *syntax.Node) value {
	return func(c *compiler, n *syntax.Node) value {
		v := lower(c, n)
		if v.Of != "" {
			v.Unit = scene.Degrees
		}
		return v
	}
}

// fold2 makes a function of any number of arguments.
func fold2(op machine.Op) func(*compiler, *syntax.Node) value {
	return func(c *compiler, n *syntax.Node) value {
		list, ok := c.list(n)
		if !ok {
			return value{}
		}
		unit := c.together(n.Args, list)
		out := list[0]
		for _, v := range list[1:] {
			if out = c.each(n, op, unit, out, v); out.Of == "" {
				return out
			}
		}
		return out
	}
}

func lowerClamp(c *compiler, n *syntax.Node) value {
	list, ok := c.list(n)
	if !ok {
		return value{}
	}
	unit := c.together(n.Args, list)
	low := c.each(n, machine.OpMax, unit, list[0], list[1])
	if low.Of == "" {
		return low
	}
	return c.each(n, machine.OpMin, unit, low, list[2])
}

func lowerRound(c *compiler, n *syntax.Node) value {
	list, ok := c.list(n)
	if !ok {
		return value{}
	}
	if len(list) == 1 {
		return c.each(n, machine.OpRound, list[0].Unit, list[0])
	}
	places, ok := c.single(n.Args[1], list[1], "round")
	if !ok {
		return value{}
	}
	scale := number("", c.op(machine.OpPow, c.constant(10), places))
	return c.each(n, machine.OpDiv, list[0].Unit, c.each(n, machine.OpRound, "", c.each(n, machine.OpMul, "", list[0], scale)), scale)
}

// lowerMix blends component by component; colours as encoded in sRGB, as SVG and CSS do from stop to stop.
func lowerMix(c *compiler, n *syntax.Node) value { return lowerBlend(c, n, false) }

// lowerMixLight blends colours as their light adds.
func lowerMixLight(c *compiler, n *syntax.Node) value { return lowerBlend(c, n, true) }

func lowerBlend(c *compiler, n *syntax.Node, light bool) value {
	list, ok := c.list(n)
	if !ok {
		return value{}
	}
	share, ok := c.single(n.Args[2], list[2], n.Text)
	if !ok {
		return value{}
	}
	a, b := list[0], list[1]
	if light && a.Of == scene.Colour && b.Of == scene.Colour {
		out := value{Type: a.Type}
		for k := range 4 {
			x, y := a.regs[k], b.regs[k]
			if k == 3 {
				out.regs = append(out.regs, c.between(x, y, share))
			} else {
				out.regs = append(out.regs, c.op(machine.OpEncode, c.between(c.op(machine.OpLinear, x), c.op(machine.OpLinear, y), share)))
			}
		}
		return out
	}
	t := number("", share)
	way := c.each(n, machine.OpSub, a.Unit, b, a)
	if way.Of == "" {
		return way
	}
	return c.each(n, machine.OpAdd, unitOf("+", a.Unit, b.Unit), a, c.each(n, machine.OpMul, "", way, t))
}

func (c *compiler) between(a, b, share int32) int32 {
	return c.op(machine.OpAdd, a, c.op(machine.OpMul, c.op(machine.OpSub, b, a), share))
}

func lowerStep(c *compiler, n *syntax.Node) value {
	list, ok := c.list(n)
	if !ok {
		return value{}
	}
	return c.each(n, machine.OpAtMost, "", list[0], list[1])
}

func lowerSmoothstep(c *compiler, n *syntax.Node) value {
	r, ok := c.numbers(n)
	if !ok {
		return value{}
	}
	t := c.op(machine.OpDiv, c.op(machine.OpSub, r[2], r[0]), c.op(machine.OpSub, r[1], r[0]))
	t = c.op(machine.OpSelect, c.op(machine.OpEqual, r[0], r[1]), c.op(machine.OpAtMost, r[0], r[2]), t) // with equal edges it is a step
	t = c.op(machine.OpMin, c.op(machine.OpMax, t, c.constant(0)), c.constant(1))
	return number("", c.op(machine.OpMul, c.op(machine.OpMul, t, t), c.op(machine.OpSub, c.constant(3), c.op(machine.OpMul, c.constant(2), t))))
}

func lowerMap(c *compiler, n *syntax.Node) value {
	list, ok := c.list(n)
	if !ok {
		return value{}
	}
	x, ok := c.single(n.Args[0], list[0], "map")
	low, ok2 := c.single(n.Args[1], list[1], "map")
	high, ok3 := c.single(n.Args[2], list[2], "map")
	if !ok || !ok2 || !ok3 {
		return value{}
	}
	share := number("", c.op(machine.OpDiv, c.op(machine.OpSub, x, low), c.op(machine.OpSub, high, low)))
	way := c.each(n, machine.OpSub, "", list[4], list[3])
	if way.Of == "" {
		return way
	}
	return c.each(n, machine.OpAdd, list[3].Unit, list[3], c.each(n, machine.OpMul, "", way, share))
}

// alternatives lowers arguments that one of is chosen: they have to be of one type; a number goes with
// a point or colour.
func (c *compiler) alternatives(n *syntax.Node, args []*syntax.Node) ([]value, bool) {
	out, size, of := make([]value, len(args)), 1, scene.Type("")
	for i, a := range args {
		v := c.value(a)
		switch {
		case v.Of == "":
			return nil, false
		case v.Of == itemType, of != "" && (of == scene.Text) != (v.Of == scene.Text), size > 1 && len(v.regs) > 1 && v.Of != of:
			c.fail(a, "%s chooses among values of one type, but this is a %s", n.Text, v.Of.Word())
			return nil, false
		}
		if of == "" || len(v.regs) > size {
			of, size = v.Of, len(v.regs)
		}
		out[i] = v
	}
	unit := c.together(args, out)
	for i := range out {
		if c.scope.FirstUnit {
			unit = out[i].Unit
		}
		out[i] = value{Type: binding.Type{Of: of, Unit: unit, Scaled: out[i].Scaled}, regs: c.rosterLink(out[i], size)}
	}
	return out, true
}

func (c *compiler) choose(condition int32, a, b value) value {
	out := value{Type: a.Type}
	for k := range a.regs {
		out.regs = append(out.regs, c.op(machine.OpSelect, condition, a.regs[k], b.regs[k]))
	}
	return out
}

func lowerIf(c *compiler, n *syntax.Node) value {
	condition, ok := c.single(n.Args[0], c.value(n.Args[0]), "if")
	list, ok2 := c.alternatives(n, n.Args[1:])
	if !ok || !ok2 {
		return value{}
	}
	return c.choose(condition, list[0], list[1])
}

func lowerPick(c *compiler, n *syntax.Node) value {
	at, ok := c.single(n.Args[0], c.value(n.Args[0]), "pick")
	list, ok2 := c.alternatives(n, n.Args[1:])
	if !ok || !ok2 {
		return value{}
	}
	at = c.op(machine.OpFloor, at)
	out := list[0]
	for k, v := range list[1:] {
		out = c.choose(c.op(machine.OpAtMost, c.constant(float64(k+1)), at), v, out)
	}
	return out
}

func lowerNoise(c *compiler, n *syntax.Node) value {
	r, ok := c.numbers(n)
	if !ok {
		return value{}
	}
	if len(r) == 1 {
		r = append(r, c.constant(0))
	}
	return number("", c.op(machine.OpNoise, r...))
}

func lowerRandom(c *compiler, n *syntax.Node) value {
	r, ok := c.numbers(n)
	switch {
	case !ok:
		return value{}
	case len(r) == 2:
		return c.fail(n, "random takes 1 or 3 arguments, not 2: %s", functions["random"].Usage)
	case len(r) == 1:
		return number("", c.op(machine.OpRandom, r[0]))
	}
	half := c.op(machine.OpMul, c.op(machine.OpAdd, c.op(machine.OpRandom, r[2]), c.constant(1)), c.constant(0.5))
	return number("", c.between(r[0], r[1], half))
}

func lowerText(c *compiler, n *syntax.Node) value {
	out := int32(0)
	for i, a := range n.Args {
		v := c.value(a)
		var r int32
		switch v.Of {
		case "":
			return value{}
		case scene.Text:
			r = v.regs[0]
		default:
			x, ok := c.single(a, v, "text")
			if !ok {
				return value{}
			}
			r = c.op(machine.OpShow, x, c.constant(-1))
		}
		if i > 0 {
			r = c.op(machine.OpJoin, out, r)
		}
		out = r
	}
	return value{Type: binding.Type{Of: scene.Text}, regs: []int32{out}}
}

func lowerFixed(c *compiler, n *syntax.Node) value {
	r, ok := c.numbers(n)
	if !ok {
		return value{}
	}
	return value{Type: binding.Type{Of: scene.Text}, regs: []int32{c.op(machine.OpShow, r...)}}
}
