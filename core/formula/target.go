package formula

import (
	"fmt"

	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// toTarget brings the result to the driven property: a number fills every component, what a point has
// too much is left out, what it lacks keeps its own value.
func (c *compiler) toTarget(n *syntax.Node, v value) []int32 {
	s := c.scope
	if v.Of == itemType {
		c.fail(n, "this is an item; name one of its properties after a colon")
		return nil
	}
	if v.Of == "" || s.Target == nil || s.Loose {
		return v.regs
	}
	to, unit := s.Target.Type, s.Target.Unit
	if s.Part != "" {
		to = scene.Number
	}
	size := to.Size()
	switch {
	case (to == scene.Text) != (v.Of == scene.Text):
		p := syntax.Problem{At: n.At, End: n.End, Sentence: fmt.Sprintf("%s is a %s, but the formula gives a %s", s.Target.Name, to.Word(), v.Of.Word())}
		if to == scene.Text {
			p.Fixes = []syntax.Fix{{Label: "write it as a text", At: n.At, End: n.End, Text: "text(" + c.source(n) + ")"}}
		}
		c.problem(p)
		return nil
	case len(v.regs) == 1:
		c.mismatch(n, v, to, unit)
		return c.rosterLink(v, size)
	case v.Of == to:
		return v.regs
	case v.Of == scene.Point3 && to == scene.Point2:
		c.problem(syntax.Problem{At: n.At, End: n.End, Warning: true, Sentence: "z of the result is not used: " + s.Target.Name + " has x and y"})
		return v.regs[:2]
	case v.Of == scene.Point2 && to == scene.Point3:
		return v.regs // z stays what it is below
	}
	p := syntax.Problem{At: n.At, End: n.End, Sentence: fmt.Sprintf("%s is a %s, but the formula gives a %s", s.Target.Name, to.Word(), v.Of.Word())}
	if size == 1 {
		p.Sentence += "; use one of its components"
		for _, part := range v.Of.Components() {
			p.Fixes = append(p.Fixes, syntax.Fix{Label: "take " + part, At: n.At, End: n.End, Text: c.taking(n, part)})
		}
	}
	c.problem(p)
	return nil
}

// mismatch warns of units that do not go together, with what mends them.
func (c *compiler) mismatch(n *syntax.Node, v value, to scene.Type, unit scene.Unit) {
	if to != scene.Number || v.Unit == unit || v.Unit == "" || unit == "" || v.Scaled {
		return
	}
	p := syntax.Problem{At: n.At, End: n.End, Warning: true, Sentence: fmt.Sprintf("the formula gives %s, but %s is in %s", v.Unit, c.scope.Target.Name, unit)}
	if v.Unit == scene.Degrees && unit == scene.Percent {
		p.Fixes = []syntax.Fix{{Label: "a turn is 100 %", At: n.At, End: n.End, Text: "map(" + c.source(n) + ", 0, 360, 0, 100)"}}
	}
	c.problem(p)
}
