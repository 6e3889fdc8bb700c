package formula

import (
	"strings"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// MaxVertices bounds the vertices of a path of which a formula chooses one.
const MaxVertices = 300

// Chosen returns the keys of all that a key stands for which Vertices reports.
func Chosen(key string, item *scene.Item) []string {
	keys := item.VertexKeys()
	if !strings.HasPrefix(key, syntax.WorldPrefix) {
		return keys
	}
	for k, key := range keys {
		id, _, _ := scene.VertexOf(key)
		keys[k] = scene.WorldVertexKey(id)
	}
	return keys
}

// vertices lowers {Garland: vertices[index + 1].y}: the vertex whose number is worked out, counted from 1
// and held at the first and the last.
func (c *compiler) vertices(n *syntax.Node, item *scene.Item, number string, in machine.Input) value {
	keys := Chosen(n.Ref.Key, item)
	switch {
	case len(keys) == 0:
		return c.fail(n, "%s is not a path, so a formula can't choose its vertices", item.Name)
	case len(keys) > MaxVertices:
		return c.fail(n, "%s has %d vertices; a formula can choose among at most %d", item.Name, len(keys), MaxVertices)
	}
	t, p := syntax.Parse(number)
	if p != nil || len(t.Lines) != 1 {
		return c.fail(n, "the brackets don't hold a formula for a number; give it a name on its own line")
	}
	at := t.Lines[0].Value
	at.Relocate(n)
	chosen, ok := c.single(at, c.value(at), "the number of a vertex")
	if !ok {
		return value{}
	}
	whole := c.op(machine.OpFloor, chosen)
	v := value{Type: binding.Type{Of: scene.Point2, Unit: scene.Pixels}}
	if strings.HasPrefix(n.Ref.Key, syntax.WorldPrefix) {
		v.Of = scene.Point3
	}
	in.Kind, in.Type = machine.Property, v.Of
	for k := range v.Of.Size() {
		in.Component = k
		var out int32
		for i, key := range keys {
			in.Key = key
			if this := c.builder.Input(in); i == 0 {
				out = this
			} else {
				out = c.op(machine.OpSelect, c.op(machine.OpLess, whole, c.constant(float64(i+1))), out, this)
			}
		}
		v.regs = append(v.regs, out)
	}
	if n.Ref.Part != "" {
		return c.component(n, v, n.Ref.Part)
	}
	return v
}
