package formula

import (
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// lowerZone gives how strongly a zone holds a place, 0 to 1: that of the item, before its links, or a given one. In the zone's own
// space, about its pivot, it is the way d to the edge, below 0 inside: |p| - r of a ball, the largest of |p| - half of a box, the
// one across of a band, p itself of a half-plane. From the edge to the falloff inside it the strength rises along the curve.
func lowerZone(c *compiler, n *syntax.Node) value {
	ref := n.Args[0].Ref
	if ref == nil || ref.Property != "" || ref.Key != "" {
		return c.fail(n.Args[0], "zone needs a zone here: its name in braces, without a property")
	}
	item, p := c.scope.Owner(ref)
	if p != nil {
		c.problem(*p)
		return value{}
	}
	if item.Kind != scene.Zone {
		return c.fail(n.Args[0], "%s is %s, not a zone", item.Name, item.Kind.Info().One())
	}
	at := machine.Input{Item: item.ID}
	if ref.Relative != "" {
		at.Item, at.Relative, at.Steps, at.Outer = "", ref.Relative, ref.Steps, ref.Outer
	}
	read := func(kind machine.InputKind, key string, component int) int32 {
		in := at
		in.Kind, in.Key, in.Component = kind, key, component
		if key != "" {
			spec := item.Spec(key)
			in.Type, in.Options = spec.Type, binding.Joined(spec)
		}
		return c.builder.Input(in)
	}
	place, ok := c.placeOf(n)
	if !ok {
		return value{}
	}
	var m [12]int32
	for k := range m {
		m[k] = read(machine.WorldOf, "", k)
	}
	local := c.inverse(m, place)
	for k := range local {
		local[k] = c.op(machine.OpSub, local[k], read(machine.Property, "pivot", k))
	}
	half := [3]int32{}
	for k := range half {
		half[k] = c.op(machine.OpMul, read(machine.Property, "zoneSize", k), c.constant(0.5))
	}
	zero, one := c.constant(0), c.constant(1)
	flat := read(machine.Property, "flat", 0)
	deep := func(x, without int32) int32 { return c.op(machine.OpSelect, flat, without, x) }
	across := c.op(machine.OpSub, c.op(machine.OpAbs, local[0]), half[0])
	square := c.op(machine.OpAdd, c.op(machine.OpMul, local[0], local[0]), c.op(machine.OpMul, local[1], local[1]))
	ball := c.op(machine.OpSub, c.op(machine.OpSqrt, c.op(machine.OpAdd, square, deep(c.op(machine.OpMul, local[2], local[2]), zero))), half[0])
	box := c.op(machine.OpMax, across, c.op(machine.OpSub, c.op(machine.OpAbs, local[1]), half[1]))
	box = c.op(machine.OpMax, box, deep(c.op(machine.OpSub, c.op(machine.OpAbs, local[2]), half[2]), box))
	shape := read(machine.Property, "zoneShape", 0)
	is := func(what int32, k int) int32 { return c.op(machine.OpEqual, what, c.constant(float64(k))) }
	d := c.op(machine.OpSelect, is(shape, 0), ball, c.op(machine.OpSelect, is(shape, 1), box, c.op(machine.OpSelect, is(shape, 2), across, local[0])))
	falloff := read(machine.Property, "falloff", 0)
	t := c.op(machine.OpSelect, c.op(machine.OpLess, zero, falloff), c.op(machine.OpDiv, c.op(machine.OpNeg, d), falloff), c.op(machine.OpAtMost, d, zero))
	t = c.op(machine.OpMin, c.op(machine.OpMax, t, zero), one)
	in := c.op(machine.OpMul, t, t)
	rest := c.op(machine.OpSub, one, t)
	out := c.op(machine.OpSub, one, c.op(machine.OpMul, rest, rest))
	both := c.op(machine.OpMul, in, c.op(machine.OpSub, c.constant(3), c.op(machine.OpMul, c.constant(2), t)))
	curve := read(machine.Property, "zoneCurve", 0)
	// A free curve is the Bézier polynomial with the values 0, begin, end and 1.
	begin, end := c.op(machine.OpDiv, read(machine.Property, "curveBegin", 0), c.constant(100)), c.op(machine.OpDiv, read(machine.Property, "curveEnd", 0), c.constant(100))
	three := c.constant(3)
	free := c.op(machine.OpMul, three, c.op(machine.OpMul, c.op(machine.OpMul, rest, rest), c.op(machine.OpMul, t, begin)))
	free = c.op(machine.OpAdd, free, c.op(machine.OpMul, three, c.op(machine.OpMul, rest, c.op(machine.OpMul, in, end))))
	free = c.op(machine.OpAdd, free, c.op(machine.OpMul, in, t))
	free = c.op(machine.OpMin, c.op(machine.OpMax, free, zero), one) // its handles may lead it beyond
	s := c.op(machine.OpSelect, is(curve, 0), t, c.op(machine.OpSelect, is(curve, 1), in, c.op(machine.OpSelect, is(curve, 2), out, c.op(machine.OpSelect, is(curve, 3), both, free))))
	s = c.op(machine.OpSelect, read(machine.Property, "inverted", 0), c.op(machine.OpSub, one, s), s)
	return number("", s)
}

// placeOf lowers the place that a function asks about: the second argument, or that of the item in the composition as it is
// without its links.
func (c *compiler) placeOf(n *syntax.Node) (place [3]int32, ok bool) {
	if len(n.Args) > 1 {
		v := c.value(n.Args[1])
		if v.Of == "" {
			return place, false
		}
		if v.Of != scene.Point2 && v.Of != scene.Point3 {
			c.fail(n.Args[1], "zone needs a point here, not a %s", v.Of.Word())
			return place, false
		}
		place[2] = c.constant(0)
		copy(place[:], v.regs)
		return place, true
	}
	if c.scope.Self == nil {
		c.fail(n, "zone needs a place as its second argument where no item is driven")
		return place, false
	}
	var m [12]int32
	var own [3]int32
	for k := range m {
		m[k] = c.builder.Input(machine.Input{Kind: machine.World, Component: k})
	}
	for k := range own {
		own[k] = c.builder.Input(machine.Input{Kind: machine.OwnPlace, Component: k})
	}
	for k := range place {
		place[k] = c.op(machine.OpAdd, c.dot(m[4*k:4*k+3], own[:]), m[4*k+3])
	}
	return place, true
}

// inverse brings a place in the composition into the space of a transform, by the inverse of that (Cramer's rule).
func (c *compiler) inverse(m [12]int32, place [3]int32) [3]int32 {
	var to, out [3]int32
	for k := range to {
		to[k] = c.op(machine.OpSub, place[k], m[4*k+3])
	}
	cofactor := func(r0, c0, r1, c1 int) int32 {
		return c.op(machine.OpSub, c.op(machine.OpMul, m[4*r0+c0], m[4*r1+c1]), c.op(machine.OpMul, m[4*r0+c1], m[4*r1+c0]))
	}
	// Rows of the adjugate.
	adjugate := [3][3]int32{
		{cofactor(1, 1, 2, 2), cofactor(2, 1, 0, 2), cofactor(0, 1, 1, 2)},
		{cofactor(1, 2, 2, 0), cofactor(0, 0, 2, 2), cofactor(0, 2, 1, 0)},
		{cofactor(1, 0, 2, 1), cofactor(0, 1, 2, 0), cofactor(0, 0, 1, 1)},
	}
	det := c.op(machine.OpAdd, c.op(machine.OpAdd, c.op(machine.OpMul, m[0], adjugate[0][0]), c.op(machine.OpMul, m[1], adjugate[1][0])), c.op(machine.OpMul, m[2], adjugate[2][0]))
	for k := range out {
		out[k] = c.op(machine.OpDiv, c.dot(adjugate[k][:], to[:]), det)
	}
	return out
}
