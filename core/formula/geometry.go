package formula

import (
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// pair lowers two points of one size.
func (c *compiler) pair(n *syntax.Node) (a, b value, ok bool) {
	list, ok := c.list(n)
	if !ok {
		return a, b, false
	}
	for i, v := range list {
		if v.Of != scene.Point2 && v.Of != scene.Point3 {
			c.fail(n.Args[i], "%s needs a point here, not a %s", n.Text, v.Of.Word())
			return a, b, false
		}
	}
	size := min(len(list[0].regs), len(list[1].regs))
	for i := range list {
		list[i].regs = list[i].regs[:size]
	}
	return list[0], list[1], true
}

func (c *compiler) dot(a, b []int32) int32 {
	sum := c.op(machine.OpMul, a[0], b[0])
	for k := 1; k < len(a); k++ {
		sum = c.op(machine.OpAdd, sum, c.op(machine.OpMul, a[k], b[k]))
	}
	return sum
}

func lowerAim(c *compiler, n *syntax.Node) value {
	a, b, ok := c.pair(n)
	if !ok {
		return value{}
	}
	return number(scene.Degrees, c.op(machine.OpAtan, c.op(machine.OpSub, b.regs[1], a.regs[1]), c.op(machine.OpSub, b.regs[0], a.regs[0])))
}

func lowerDistance(c *compiler, n *syntax.Node) value {
	a, b, ok := c.pair(n)
	if !ok {
		return value{}
	}
	way := make([]int32, len(a.regs))
	for k := range way {
		way[k] = c.op(machine.OpSub, b.regs[k], a.regs[k])
	}
	return number(a.Unit, c.op(machine.OpSqrt, c.dot(way, way)))
}

func lowerDot(c *compiler, n *syntax.Node) value {
	a, b, ok := c.pair(n)
	if !ok {
		return value{}
	}
	return number("", c.dot(a.regs, b.regs))
}

func lowerLength(c *compiler, n *syntax.Node) value {
	list, ok := c.list(n)
	if !ok {
		return value{}
	}
	return number(list[0].Unit, c.op(machine.OpSqrt, c.dot(list[0].regs, list[0].regs)))
}

func lowerNormalize(c *compiler, n *syntax.Node) value {
	list, ok := c.list(n)
	if !ok {
		return value{}
	}
	long := number("", c.op(machine.OpSqrt, c.dot(list[0].regs, list[0].regs)))
	return c.each(n, machine.OpDiv, "", list[0], long)
}

// way lowers a path and a share of the way along it.
func (c *compiler) way(n *syntax.Node) (path, share int32, ok bool) {
	v := c.value(n.Args[0])
	share, ok = c.single(n.Args[1], c.value(n.Args[1]), n.Text)
	if v.Of == "" || !ok {
		return 0, 0, false
	}
	if v.Of != itemType {
		c.fail(n.Args[0], "%s needs a path here: its name in braces, without a property", n.Text)
		return 0, 0, false
	}
	if ref := n.Args[0].Ref; ref != nil {
		if item, p := c.scope.Owner(ref); p == nil && item.Kind != scene.PathItem {
			c.fail(n.Args[0], "%s is %s, not a path", item.Name, item.Kind.Info().One())
			return 0, 0, false
		}
	}
	return v.regs[0], share, true
}

func lowerAlong(c *compiler, n *syntax.Node) value {
	path, share, ok := c.way(n)
	if !ok {
		return value{}
	}
	return value{Type: binding.Type{Of: scene.Point2, Unit: scene.Pixels}, regs: []int32{c.op(machine.OpAlongX, path, share), c.op(machine.OpAlongY, path, share)}}
}

func lowerHeading(c *compiler, n *syntax.Node) value {
	path, share, ok := c.way(n)
	if !ok {
		return value{}
	}
	return number(scene.Degrees, c.op(machine.OpHeading, path, share))
}

func (c *compiler) colour(r, g, b int32) value {
	return value{Type: binding.Type{Of: scene.Colour}, regs: []int32{r, g, b, c.constant(1)}}
}

func lowerRGB(c *compiler, n *syntax.Node) value {
	r, ok := c.numbers(n)
	if !ok {
		return value{}
	}
	c.sharesWanted(n, r)
	return c.colour(r[0], r[1], r[2])
}

func lowerHSL(c *compiler, n *syntax.Node) value {
	r, ok := c.numbers(n)
	if !ok {
		return value{}
	}
	rgb := c.fromHSL(r[0], r[1], r[2])
	return c.colour(rgb[0], rgb[1], rgb[2])
}

// fromHSL is the conversion of CSS Color 4: with a = s·min(l, 1-l) and k = (n + h/30) mod 12, a
// component is l - a·max(-1, min(k-3, 9-k, 1)), for n = 0, 8 and 4.
func (c *compiler) fromHSL(h, s, l int32) [3]int32 {
	one := c.constant(1)
	a := c.op(machine.OpMul, s, c.op(machine.OpMin, l, c.op(machine.OpSub, one, l)))
	turn := c.op(machine.OpDiv, h, c.constant(30))
	var out [3]int32
	for i, n := range []float64{0, 8, 4} {
		k := c.op(machine.OpMod, c.op(machine.OpAdd, c.constant(n), turn), c.constant(12))
		low := c.op(machine.OpMin, c.op(machine.OpMin, c.op(machine.OpSub, k, c.constant(3)), c.op(machine.OpSub, c.constant(9), k)), one)
		out[i] = c.op(machine.OpSub, l, c.op(machine.OpMul, a, c.op(machine.OpMax, c.constant(-1), low)))
	}
	return out
}

// hsl returns hue in degrees, saturation and lightness, 0 to 1, of a colour: the inverse of fromHSL.
// Grey has a hue and a saturation of 0.
func (c *compiler) hsl(v value) [3]value {
	r, g, b := v.regs[0], v.regs[1], v.regs[2]
	high, low := c.op(machine.OpMax, c.op(machine.OpMax, r, g), b), c.op(machine.OpMin, c.op(machine.OpMin, r, g), b)
	zero, span := c.constant(0), c.op(machine.OpSub, high, low)
	l := c.op(machine.OpMul, c.op(machine.OpAdd, high, low), c.constant(0.5))
	room := c.op(machine.OpMin, l, c.op(machine.OpSub, c.constant(1), l))
	grey := c.op(machine.OpAtMost, span, zero)
	s := c.op(machine.OpSelect, c.op(machine.OpOr, grey, c.op(machine.OpAtMost, room, zero)), zero, c.op(machine.OpDiv, c.op(machine.OpSub, high, l), room))
	side := func(x, y int32, shift float64) int32 {
		return c.op(machine.OpAdd, c.op(machine.OpDiv, c.op(machine.OpSub, x, y), span), c.constant(shift))
	}
	sixth := c.op(machine.OpSelect, c.op(machine.OpEqual, high, r), side(g, b, 0), c.op(machine.OpSelect, c.op(machine.OpEqual, high, g), side(b, r, 2), side(r, g, 4)))
	h := c.op(machine.OpSelect, grey, zero, c.op(machine.OpMod, c.op(machine.OpMul, sixth, c.constant(60)), c.constant(360)))
	return [3]value{number(scene.Degrees, h), number("", s), number("", l)}
}

func partOf(part string) func(*compiler, *syntax.Node) value {
	return func(c *compiler, n *syntax.Node) value {
		v := c.value(n.Args[0])
		if v.Of == "" {
			return v
		}
		if v.Of != scene.Colour {
			return c.fail(n.Args[0], "%s needs a colour here, not a %s", n.Text, v.Of.Word())
		}
		return c.component(n, v, part)
	}
}

func lowerAlpha(c *compiler, n *syntax.Node) value {
	v := c.value(n.Args[0])
	a, ok := c.single(n.Args[1], c.value(n.Args[1]), "alpha")
	if v.Of == "" || !ok {
		return value{}
	}
	if v.Of != scene.Colour {
		return c.fail(n.Args[0], "alpha needs a colour here, not a %s", v.Of.Word())
	}
	return value{Type: v.Type, regs: append(v.regs[:3:3], a)}
}
