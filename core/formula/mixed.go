package formula

import (
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// GivenShare is the component of what a program is given that says how much of it is mixed in, in percent.
const GivenShare = 3

// Mixed returns the program that drives hue, saturation or lightness of a colour: of the colour below
// the link and of the given number, put together by the operation, it makes red, green and blue. A weight
// mixes the component itself; the hue goes the shorter way round where it is replaced.
func Mixed(part string, operation scene.Operation) *machine.Program {
	c := &compiler{builder: machine.NewBuilder(new(int))}
	below := value{Type: binding.Type{Of: scene.Colour}}
	for k := range 4 {
		below.regs = append(below.regs, c.builder.Input(machine.Input{Kind: machine.Below, Component: k}))
	}
	given := c.builder.Input(machine.Input{Kind: machine.Given})
	share := c.op(machine.OpDiv, c.builder.Input(machine.Input{Kind: machine.Given, Component: GivenShare}), c.constant(100))
	share = c.op(machine.OpMin, c.op(machine.OpMax, share, c.constant(0)), c.constant(1))
	hsl := c.hsl(below)
	at := hues[part]
	was := hsl[at].regs[0]
	by := given // what the whole of the link adds
	switch {
	case operation == scene.Multiply:
		by = c.op(machine.OpSub, c.op(machine.OpMul, was, given), was)
	case operation == scene.Replace:
		by = c.op(machine.OpSub, given, was)
		if part == "hue" {
			short := c.op(machine.OpSub, c.op(machine.OpMod, c.op(machine.OpAdd, by, c.constant(180)), c.constant(360)), c.constant(180))
			by = c.op(machine.OpSelect, c.op(machine.OpLess, share, c.constant(1)), short, by)
		}
	}
	x := c.op(machine.OpAdd, was, c.op(machine.OpMul, by, share))
	if operation == scene.Replace { // to the bit, where it is whole
		x = c.op(machine.OpSelect, c.op(machine.OpLess, share, c.constant(1)), x, given)
	}
	if part != "hue" {
		x = c.op(machine.OpMin, c.op(machine.OpMax, x, c.constant(0)), c.constant(1))
	}
	hsl[at].regs[0] = x
	rgb := c.fromHSL(hsl[0].regs[0], hsl[1].regs[0], hsl[2].regs[0])
	return c.builder.Finish(rgb[:])
}

// PlaceWithin returns the program that lays a given place in the composition over the one below the link, by the
// operation, and turns it into the place within the parent that an item hangs on, by the inverse of the parent's
// transform (Cramer's rule). A component that is not given stays where it is in the composition. What hangs by a weight hangs
// on something between its parent as it stood and as it stands; a vertex hangs on its item, wholly.
func PlaceWithin(operation scene.Operation, weighed bool) *machine.Program {
	c := &compiler{builder: machine.NewBuilder(new(int))}
	var m [12]int32
	for k := range m {
		m[k] = c.hung(k, weighed)
	}
	var below, to [3]int32
	for k := range 3 {
		below[k] = c.builder.Input(machine.Input{Kind: machine.Below, Component: k})
	}
	for k := range 3 {
		given := c.builder.Input(machine.Input{Kind: machine.Given, Component: k})
		stands := c.op(machine.OpAdd, c.dot(m[4*k:4*k+3], below[:]), m[4*k+3])
		to[k] = c.op(machine.OpSelect, c.op(machine.OpMissing, given), stands, c.over(operation, stands, given))
	}
	out := c.inverse(m, to)
	return c.builder.Finish(out[:])
}

// TurnWithin is PlaceWithin for a rotation about z.
func TurnWithin(operation scene.Operation) *machine.Program {
	c := &compiler{builder: machine.NewBuilder(new(int))}
	given, turned := c.builder.Input(machine.Input{Kind: machine.Given}), c.hung(12, true)
	if operation != scene.Replace {
		given = c.over(operation, c.op(machine.OpAdd, c.builder.Input(machine.Input{Kind: machine.Below}), turned), given)
	}
	return c.builder.Finish([]int32{c.op(machine.OpSub, given, turned)})
}

// hung returns a component of the transform that an item hangs on.
func (c *compiler) hung(component int, weighed bool) int32 {
	stands := c.builder.Input(machine.Input{Kind: machine.World, Component: component})
	if !weighed {
		return stands
	}
	stood := c.builder.Input(machine.Input{Kind: machine.Stood, Component: component})
	weight := c.builder.Input(machine.Input{Kind: machine.Hangs})
	between := c.between(stood, stands, c.op(machine.OpDiv, weight, c.constant(100)))
	return c.op(machine.OpSelect, c.op(machine.OpEqual, weight, c.constant(100)), stands, between) // to the bit, where it hangs wholly
}

// over puts what is given over what is below it.
func (c *compiler) over(operation scene.Operation, below, given int32) int32 {
	switch operation {
	case scene.Plus:
		return c.op(machine.OpAdd, below, given)
	case scene.Multiply:
		return c.op(machine.OpMul, below, given)
	}
	return given
}
