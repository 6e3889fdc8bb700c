package formula

import (
	"strings"

	"wunderkammer/core/scene"
)

// MaxVertices bounds the vertices of a path of which a formula chooses one.
const MaxVertices = 300

// Vertices reports whether a key stands for the vertex of a path that a formula chooses: for any of them.
func Vertices(key string) bool { return strings.HasPrefix(key, verticesKey) }

// vertices lowers {Garland: vertices[index + 1].y}: the vertex whose number is worked out, counted from 1
// and held at the first and the last.
func (c *compiler) vertices(n *node, item *scene.Item, in Input) value {
	r := n.ref
	r.chosen()
	keys := item.VertexKeys()
	switch {
	case len(keys) == 0:
		return c.fail(n, "%s is no path, so its vertices cannot be chosen by a formula", item.Name)
	case len(keys) > MaxVertices:
		return c.fail(n, "%s has %d vertices; a formula chooses among at most %d", item.Name, len(keys), MaxVertices)
	}
	t, p := parse(r.number())
	if p != nil || len(t.lines) != 1 {
		return c.fail(n, "what stands in the brackets is no formula for a number; name it on a line of its own")
	}
	at := t.lines[0].value
	at.relocate(n)
	number, ok := c.single(at, c.value(at), "the number of a vertex")
	if !ok {
		return value{}
	}
	whole := c.op(OpFloor, number)
	v := value{Type: Type{scene.Point2, scene.Pixels}}
	in.Kind, in.Type = Property, scene.Point2
	for k := range 2 {
		in.Component = k
		var out int32
		for i, key := range keys {
			in.Key = key
			if this := c.builder.input(in); i == 0 {
				out = this
			} else {
				out = c.op(OpSelect, c.op(OpLess, whole, c.constant(float64(i+1))), out, this)
			}
		}
		v.regs = append(v.regs, out)
	}
	if r.Part != "" {
		return c.component(n, v, r.Part)
	}
	return v
}

// chosen fills in the key of a vertex that a formula chooses, and its component.
func (r *Reference) chosen() {
	if r.Key == "" {
		end := strings.LastIndexByte(r.Property, ']')
		r.Key = verticesKey + r.number() + "]"
		r.Part = fold(strings.TrimPrefix(strings.TrimSpace(r.Property[end+1:]), "."))
	}
}

// relocate puts an expression that was read by itself where another one stands, for what is said of it.
func (n *node) relocate(to *node) {
	n.at, n.end = to.at, to.end
	for _, a := range n.args {
		a.relocate(to)
	}
}
