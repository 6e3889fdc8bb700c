package formula

import (
	"strings"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

func (c *compiler) point(n *syntax.Node) value {
	if len(n.Args) != 2 && len(n.Args) != 3 {
		return c.fail(n, "a point has two or three components, not %d", len(n.Args))
	}
	v := value{Type: binding.Type{Of: scene.Point2}}
	if len(n.Args) == 3 {
		v.Of = scene.Point3
	}
	good := true
	for _, a := range n.Args {
		x := c.value(a)
		r, ok := c.single(a, x, "a component of a point")
		v.regs, good = append(v.regs, r), good && ok
		if v.Unit == "" {
			v.Unit = x.Unit
		}
	}
	if !good {
		return value{}
	}
	return v
}

func (c *compiler) part(n *syntax.Node) value {
	x := c.value(n.Args[0])
	if x.Of == "" {
		return value{}
	}
	return c.component(n, x, n.Text)
}

// hues are the components of a colour that are worked out, by name.
var hues = func() map[string]int {
	m := map[string]int{}
	for k, name := range scene.Hues {
		m[name] = k
	}
	return m
}()

func (c *compiler) component(n *syntax.Node, x value, part string) value {
	if k, ok := x.Of.Component(part); ok && x.Of.Components() != nil {
		return number(x.Unit, x.regs[k])
	}
	if x.Of.Worked(part) {
		return c.hsl(x)[hues[part]]
	}
	if x.Of.Components() == nil {
		return c.fail(n, "a %s has no components", x.Of.Word())
	}
	return c.fail(n, "a %s has no component %s; it has %s", x.Of.Word(), part, strings.Join(x.Of.Components(), ", "))
}
