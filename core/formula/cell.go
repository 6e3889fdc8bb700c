package formula

import (
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// lowerCell gives what stands in a row of a column of a table: the row is a number, or a text that names it.
func lowerCell(c *compiler, n *syntax.Node) value {
	ref := n.Args[0].Ref
	if ref == nil || ref.Property == "" && ref.Key == "" {
		return c.fail(n.Args[0], "cell needs a column of a table here: {Tides: height}")
	}
	item, p := c.scope.Owner(ref)
	if p != nil {
		c.problem(*p)
		return value{}
	}
	spec, p := c.scope.Property(ref, item)
	if p != nil {
		c.problem(*p)
		return value{}
	}
	column := item.Table.Column(spec.Key)
	if column < 0 {
		return c.fail(n.Args[0], "%s of %s is not a column of a table", spec.Name, item.Name)
	}
	in := machine.Input{Kind: machine.ItemIndex, Item: item.ID}
	table := c.builder.Input(in)
	at := c.value(n.Args[1])
	if at.Of == "" {
		return value{}
	}
	var row int32
	if at.Of == scene.Text {
		row = c.op(machine.OpRow, table, at.regs[0])
	} else {
		single, ok := c.single(n.Args[1], at, "cell")
		if !ok {
			return value{}
		}
		row = single
	}
	return value{Type: binding.Type{Of: spec.Type, Unit: spec.Unit}, regs: []int32{c.op(machine.OpCell, table, row, c.constant(float64(column)))}}
}
