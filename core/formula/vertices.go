package formula

import (
	"strconv"
	"strings"

	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// MaxVertices bounds the vertices of a path of which a formula chooses one.
const MaxVertices = 300

// verticesKey begins the key of a vertex whose number is a formula; worldPrefix before it that of its place in the
// composition.
const (
	verticesKey = "vertices["
	worldPrefix = "world."
)

// Vertices reports whether a key stands for the vertex of a path that a formula chooses: for any of them.
func Vertices(key string) bool {
	return strings.HasPrefix(strings.TrimPrefix(key, worldPrefix), verticesKey)
}

// Chosen returns the keys of all that a key stands for which Vertices reports.
func Chosen(key string, item *scene.Item) []string {
	keys := item.VertexKeys()
	if !strings.HasPrefix(key, worldPrefix) {
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
func (c *compiler) vertices(n *node, item *scene.Item, number string, in machine.Input) value {
	keys := Chosen(n.ref.Key, item)
	switch {
	case len(keys) == 0:
		return c.fail(n, "%s is not a path, so a formula can't choose its vertices", item.Name)
	case len(keys) > MaxVertices:
		return c.fail(n, "%s has %d vertices; a formula can choose among at most %d", item.Name, len(keys), MaxVertices)
	}
	t, p := parse(number)
	if p != nil || len(t.lines) != 1 {
		return c.fail(n, "the brackets don't hold a formula for a number; give it a name on its own line")
	}
	at := t.lines[0].value
	at.relocate(n)
	chosen, ok := c.single(at, c.Value(at), "the number of a vertex")
	if !ok {
		return value{}
	}
	whole := c.Op(machine.OpFloor, chosen)
	v := value{Type: Type{Of: scene.Point2, Unit: scene.Pixels}}
	if strings.HasPrefix(n.ref.Key, worldPrefix) {
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
				out = c.Op(machine.OpSelect, c.Op(machine.OpLess, whole, c.Constant(float64(i+1))), out, this)
			}
		}
		v.regs = append(v.regs, out)
	}
	if n.ref.Part != "" {
		return c.component(n, v, n.ref.Part)
	}
	return v
}

// cutVertices takes vertices[4].y apart, or world.vertices[4].y: what stands in the brackets, and what behind them.
func cutVertices(text string) (inside, rest string, ok bool) {
	text = strings.TrimSpace(text)
	if len(text) > len(worldPrefix) && strings.EqualFold(text[:len(worldPrefix)], worldPrefix) {
		text = text[len(worldPrefix):]
	}
	end := strings.LastIndexByte(text, ']')
	if end < len(verticesKey) || !strings.EqualFold(text[:len(verticesKey)], verticesKey) {
		return "", "", false
	}
	return strings.TrimSpace(text[len(verticesKey):end]), text[end+1:], true
}

// chosen returns the formula of the number of a vertex, and fills in its key and component; nothing where
// the number itself is given.
func (r *Reference) chosen() (number string) {
	if inside, _, ok := cutVertices(r.Key); ok {
		return inside
	}
	inside, rest, ok := cutVertices(r.Property)
	if _, err := strconv.Atoi(inside); !ok || inside == "" || err == nil {
		return ""
	}
	if r.Key == "" {
		r.Key = verticesKey + inside + "]"
		if strings.HasPrefix(fold(r.Property), worldPrefix) {
			r.Key = worldPrefix + r.Key
		}
		r.Part = fold(strings.TrimPrefix(strings.TrimSpace(rest), "."))
	}
	return inside
}

// relocate puts an expression that was read by itself where another one stands, for what is said of it.
func (n *node) relocate(to *node) {
	n.at, n.end = to.at, to.end
	for _, a := range n.args {
		a.relocate(to)
	}
}
