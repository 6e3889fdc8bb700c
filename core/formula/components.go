package formula

import (
	"strings"

	"wunderkammer/core/scene"
)

func (c *compiler) point(n *node) value {
	if len(n.args) != 2 && len(n.args) != 3 {
		return c.fail(n, "a point has two or three components, not %d", len(n.args))
	}
	v := value{Type: Type{Of: scene.Point2}}
	if len(n.args) == 3 {
		v.Of = scene.Point3
	}
	good := true
	for _, a := range n.args {
		x := c.Value(a)
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

func (c *compiler) part(n *node) value {
	x := c.Value(n.args[0])
	if x.Of == "" {
		return value{}
	}
	return c.component(n, x, n.text)
}

// hues are the components of a colour that are worked out, by name.
var hues = func() map[string]int {
	m := map[string]int{}
	for k, name := range scene.Hues {
		m[name] = k
	}
	return m
}()

func (c *compiler) component(n *node, x value, part string) value {
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
