package link

import (
	"slices"
	"strings"

	"wunderkammer/core/scene"
)

// Circle is a chain of properties in which each drives the next and the last drives the first.
type Circle struct {
	Refs  []scene.Ref // in the order of the influence; the first is not repeated
	names []string
	slots map[int32]bool // driven along the circle
}

// String draws the circle, back to where it began.
func (c *Circle) String() string {
	return strings.Join(append(c.names[:len(c.names):len(c.names)], c.names[0]), " → ")
}

// Error says that the circle is refused.
func (c *Circle) Error() string { return "that would make a circle: " + c.String() }

// Without returns the targets that are no part of the circle.
func (c *Circle) Without(targets []Target) []Target {
	kept := targets[:0:0]
	for _, w := range targets {
		if !c.slots[w.Slot] {
			kept = append(kept, w)
		}
	}
	return kept
}

// circle names the nodes of a circle, given in the order of their influence.
func (g *graph) circle(nodes []int32) *Circle {
	c := &Circle{slots: map[int32]bool{}}
	last := 0 // the first of the driven properties along it stands at the end, wherever it was entered
	for k, node := range nodes {
		if node >= g.targetNode(0) && (nodes[last] < g.targetNode(0) || node < nodes[last]) {
			last = k
		}
	}
	nodes = slices.Concat(nodes[last+1:], nodes[:last+1])
	for _, node := range nodes {
		ref, name := g.describe(node)
		if node >= g.targetNode(0) {
			c.slots[g.targets[node-g.targetNode(0)].Slot] = true
		}
		c.Refs, c.names = append(c.Refs, ref), append(c.names, name)
	}
	return c
}

func (g *graph) describe(node int32) (ref scene.Ref, name string) {
	g.node(node, func(t *Target) {
		item, spec := g.l.Items[t.item], g.l.Specs(t.item)[t.property]
		ref, name = scene.Ref{Item: item.ID, Property: spec.Key}, item.Name+": "+spec.Name
		if parts := spec.Type.Components(); parts != nil {
			ref.Component = parts[t.component]
			name += "." + ref.Component
		}
	}, func(i int32) {
		item := g.l.Items[i]
		ref, name = scene.Ref{Item: item.ID, Property: "position"}, "place of "+item.Name
	}, func(r *Read) {
		item := g.l.Items[r.Item]
		ref, name = scene.Ref{Item: item.ID, Property: r.Spec.Key}, item.Name+": "+r.Spec.Name
	})
	return ref, name
}
