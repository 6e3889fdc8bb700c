package link

import (
	"slices"
	"strings"

	"wunderkammer/core/scene"
)

// Circle is a chain of properties in which each drives the next and the last drives the first.
type Circle struct {
	Refs   []scene.Ref // in the order of the influence; the first is not repeated
	names  []string
	drives map[driven]bool // along the circle
}

// driven is a property of an item.
type driven struct {
	item     int32
	property int
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
		if !c.drives[driven{w.item, w.property}] {
			kept = append(kept, w)
		}
	}
	return kept
}

// circle names the nodes of a circle, given in the order of their influence.
func (g *graph) circle(nodes []int32) *Circle {
	c := &Circle{drives: map[driven]bool{}}
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
			t := &g.targets[node-g.targetNode(0)]
			c.drives[driven{t.item, t.property}] = true
		}
		if n := len(c.names); n > 0 && c.Refs[n-1].Item == ref.Item && c.Refs[n-1].Property == ref.Property {
			continue // a formula on the way to its property
		}
		c.Refs, c.names = append(c.Refs, ref), append(c.names, name)
	}
	return c
}

func (g *graph) describe(node int32) (ref scene.Ref, name string) {
	g.node(node, func(t *Target) {
		item, spec := g.l.Items[t.item], g.l.Specs(t.item)[t.property]
		ref, name = scene.Ref{Item: item.ID, Property: spec.Key}, item.Name+": "+spec.Name
		if parts := spec.Type.Components(); parts != nil && t.Formula == nil {
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
