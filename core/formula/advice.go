package formula

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

const ownersInBraces = "; a property of an item is named with its owner, in braces"

// dotted is what stands behind a name: its parts, set off by dots.
var dotted = regexp.MustCompile(`^(?:\.[\p{L}_][\p{L}\d_]*)+`)

// elsewhere completes what is said of a name that means nothing, where it is one that means something elsewhere: the value below, an
// item or a property followed by a dot, a control, a function of a library. It reports whether nothing else can be meant.
func (c *compiler) elsewhere(n *syntax.Node, p *syntax.Problem) bool {
	path := strings.Split(n.Text+dotted.FindString(c.text[n.End:]), ".")
	upTo := func(parts int) int { return n.At + len(strings.Join(path[:parts], ".")) }
	fix := func(parts int, text string) bool {
		p.Fixes = append(p.Fixes, syntax.Fix{Label: text, At: n.At, End: upTo(parts), Text: text})
		return true
	}
	name := scene.Fold(path[0])
	if len(path) > 1 {
		if meant := c.scope.Meant(path[0] + "." + path[1]); len(meant) > 0 {
			p.Sentence += ownersInBraces
			return fix(2, meant[0])
		}
		if last := strings.ToLower(path[1]); name == "math" && (builtins[last] != nil || functions[last] != nil) {
			p.Sentence += fmt.Sprintf("; %s is there by itself", last)
			return fix(2, last)
		}
	}
	if meant := c.scope.Meant(path[0]); len(meant) > 0 { // controls of some items
		p.Sentence += ownersInBraces
		for _, text := range meant[:min(3, len(meant))] {
			fix(1, text)
		}
		return false
	}
	if c.scope.Target != nil && (name == "value" || name == scene.Fold(c.scope.Target.Name)) {
		p.Sentence += "; what the property has without this link is own"
		return fix(1, "own")
	}
	if c.scope.Self != nil {
		for _, spec := range c.scope.Self.Readable() {
			if scene.Fold(spec.Name) == name || scene.Fold(spec.Key) == name {
				p.Sentence += "; a property of the driven item is named with self, in braces"
				return fix(1, "{self: "+binding.QuoteProperty(spec.Name)+"}")
			}
		}
	}
	return false
}

// degreesWanted warns of a time or a plain number of seconds where an angle is wanted.
func (c *compiler) degreesWanted(n *syntax.Node, v value) {
	if v.Unit != scene.Seconds || v.Scaled {
		return
	}
	arg := c.source(n.Args[0])
	if n.Args[0].Kind == syntax.NodeBinary {
		arg = "(" + arg + ")"
	}
	c.problem(syntax.Problem{At: n.At, End: n.End, Warning: true, Sentence: fmt.Sprintf("%s takes an angle in degrees, but this is a time: a full turn would take 360 seconds", n.Text),
		Fixes: []syntax.Fix{{Label: "a wave with one cycle per second", At: n.At, End: n.End, Text: "wave(" + c.source(n.Args[0]) + ")"}, {Label: "one turn per second", At: n.Args[0].At, End: n.Args[0].End, Text: arg + " * 360"}}})
}

// hurry notes a time that is multiplied by a percent.
func (c *compiler) hurry(n *syntax.Node, a, b value) {
	percent := -1
	switch {
	case n.Text != "*":
	case a.Unit == scene.Seconds && b.Unit == scene.Percent && !b.Scaled:
		percent = 1
	case b.Unit == scene.Seconds && a.Unit == scene.Percent && !a.Scaled:
		percent = 0
	}
	if percent >= 0 {
		if c.whole.hurried == nil {
			c.whole.hurried = map[*syntax.Node]*syntax.Node{}
		}
		c.whole.hurried[n] = n.Args[percent]
	}
}

// hundredthsWanted warns of waves of a time that is multiplied by a percent: at 50 % they go through 50 cycles a second, of which
// frames mostly show none.
func (c *compiler) hundredthsWanted(n *syntax.Node) {
	percent := c.whole.hurried[n.Args[0]]
	if percent == nil {
		return
	}
	c.problem(syntax.Problem{At: percent.At, End: percent.End, Warning: true,
		Sentence: fmt.Sprintf("%s is a percent, so at 50 %% it makes 50 cycles a second, which frames can't show", c.said(percent)),
		Fixes:    []syntax.Fix{{Label: "take the percent as hundredths", At: percent.At, End: percent.End, Text: c.inBrackets(percent) + " / 100"}}})
}

// together returns the unit of values of which a result is one, or lies between: that of those that have one, whatever their
// order. Of a percent beside plain numbers it is told that they are percent then, too. 0 and 100 mean the same either way, and a
// factor says what is meant.
func (c *compiler) together(args []*syntax.Node, list []value) scene.Unit {
	unit := scene.Unit("")
	if c.scope != nil && c.scope.FirstUnit {
		return list[0].Unit
	}
	for _, v := range list {
		if unit == "" {
			unit = v.Unit
		}
	}
	if unit != scene.Percent || slices.ContainsFunc(list, func(v value) bool { return v.Unit == scene.Percent && v.Scaled }) {
		return unit
	}
	for i, v := range list {
		if v.Unit != "" || v.Scaled || v.Of != scene.Number || len(v.regs) != 1 {
			continue
		}
		if x, constant := c.builder.Value(v.regs[0]); constant && (x == 0 || x == 100) {
			continue
		}
		percent := args[slices.IndexFunc(list, func(v value) bool { return v.Unit == scene.Percent })]
		c.problem(syntax.Problem{At: args[i].At, End: args[i].End, Warning: true,
			Sentence: fmt.Sprintf("%s is a plain number beside %s, which is a percent, so it counts as percent", c.said(args[i]), c.said(percent)),
			Fixes: []syntax.Fix{
				{Label: "take the percent as hundredths", At: percent.At, End: percent.End, Text: c.inBrackets(percent) + " / 100"},
				{Label: "keep it as percent", At: percent.At, End: percent.End, Text: c.inBrackets(percent) + " * 1"},
			}})
		return unit
	}
	return unit
}

// inBrackets writes a part of a formula so that something can stand behind it.
func (c *compiler) inBrackets(n *syntax.Node) string {
	if n.Kind == syntax.NodeBinary || n.Kind == syntax.NodeNegative || n.Kind == syntax.NodeNot {
		return "(" + c.source(n) + ")"
	}
	return c.source(n)
}

// sharesWanted warns of numbers up to 255 where shares are wanted.
func (c *compiler) sharesWanted(n *syntax.Node, regs []int32) {
	made := make([]string, len(n.Args))
	large := false
	for i, r := range regs {
		x, constant := c.builder.Value(r)
		large = large || constant && x > 1
		made[i] = c.source(n.Args[i]) + " / 255"
		if n.Args[i].Kind == syntax.NodeBinary {
			made[i] = "(" + c.source(n.Args[i]) + ") / 255"
		}
	}
	if large {
		c.problem(syntax.Problem{At: n.At, End: n.End, Warning: true, Sentence: "red, green and blue are each from 0 to 1", Fixes: []syntax.Fix{{Label: "divide by 255", At: n.At, End: n.End, Text: "rgb(" + strings.Join(made, ", ") + ")"}}})
	}
}

// option says of a choice that is compared with a text which number stands for it.
func (c *compiler) option(n *syntax.Node, choice value, text *syntax.Node) value {
	p := syntax.Problem{At: n.At, End: n.End, Sentence: "compare a choice by the number of its option, counted from 0"}
	for k, name := range choice.options {
		if text.Kind == syntax.NodeText && scene.Fold(name) == scene.Fold(text.Text) {
			p.Fixes = []syntax.Fix{{Label: fmt.Sprintf("%s is %d", name, k), At: text.At, End: text.End, Text: fmt.Sprint(k)}}
		}
	}
	c.problem(p)
	return value{}
}

// CycleOf says that a formula makes a property depend on itself, with the ways out: its own value, or a delay.
func CycleOf(text, cycle string, s *binding.Scope) syntax.Problem {
	p := syntax.Problem{At: 0, End: len(text), Sentence: "this creates a loop: " + cycle + "; use own, the value under the links, or the value one frame earlier"}
	syntax.EachReference(text, func(r *syntax.Reference, at, end int) {
		item, wrong := s.Owner(r)
		if wrong != nil || item != s.Self {
			return
		}
		spec, wrong := s.Property(r, item)
		if wrong != nil || s.Target == nil || spec.Key != s.Target.Key && spec.Key != scene.OwnVertex || len(p.Fixes) > 0 {
			return
		}
		own := "own"
		if r.Part != "" {
			own += "." + r.Part
		}
		p.At, p.End = at, end
		p.Fixes = []syntax.Fix{{Label: "use own", At: at, End: end, Text: own}, {Label: "use the frame before", At: at, End: end, Text: "delay(" + text[at:end] + ", 1f)"}}
	})
	return p
}
