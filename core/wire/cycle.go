package wire

import (
	"slices"
	"strings"

	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
)

// Cycle is a chain of properties in which each drives the next and the last drives the first.
type Cycle struct {
	Refs   []scene.Ref // in the order of the influence; the first is not repeated
	names  []string
	newest *scene.Link
}

// driven is a property of an item.
type driven struct {
	item     int32
	property int
}

// String draws the cycle, back to where it began.
func (c *Cycle) String() string {
	return strings.Join(append(c.names[:len(c.names):len(c.names)], c.names[0]), " → ")
}

// Error says that the cycle is refused.
func (c *Cycle) Error() string { return "this would create a loop: " + c.String() }

// Newest returns the link along the cycle that counts as the one made last: of the property that stands last in
// the composition, the one that stands highest.
func (c *Cycle) Newest() *scene.Link { return c.newest }

// cycle names the nodes of a cycle, given in the order of their influence.
func (g *graph) cycle(nodes []int32) *Cycle {
	c := &Cycle{newest: g.newest(nodes)}
	last := 0 // the first of the driven properties along it stands at the end, wherever it was entered
	for k, node := range nodes {
		if node >= g.targetNode(0) && (nodes[last] < g.targetNode(0) || node < nodes[last]) {
			last = k
		}
	}
	nodes = slices.Concat(nodes[last+1:], nodes[:last+1])
	for _, node := range nodes {
		if g.passing(node) {
			continue
		}
		ref, name := g.describe(node)
		if n := len(c.names); n > 0 && c.Refs[n-1].Item == ref.Item && c.Refs[n-1].Property == ref.Property {
			continue // a formula on the way to its property
		}
		c.Refs, c.names = append(c.Refs, ref), append(c.names, name)
	}
	return c
}

// newest returns the link among the nodes of a cycle that counts as the one made last: each of them leads on by a link
// that reads what the node before it makes.
func (g *graph) newest(nodes []int32) (newest *scene.Link) {
	last := driven{-1, -1}
	for k, node := range nodes {
		if node < g.targetNode(0) {
			continue
		}
		t := g.targets[node-g.targetNode(0)]
		if t.item < last.item || t.item == last.item && t.property < last.property {
			continue
		}
		before := nodes[(k+len(nodes)-1)%len(nodes)]
		for n := range t.Wires {
			if t.Wires[n].of().ID != "" && g.leads(before, &t.Wires[n]) {
				newest, last = t.Wires[n].of(), driven{t.item, t.property}
			}
		}
	}
	return newest
}

// leads reports whether a wire reads what a node makes.
func (g *graph) leads(node int32, w *Wire) bool {
	for _, s := range []int32{w.Source, w.Weight} {
		if s < 0 {
			continue
		}
		if g.maker[s] == node+1 || s >= g.l.World && s < g.l.Seen && g.placeNode((s-g.l.World)/layout.WorldSize) == node {
			return true
		}
	}
	return false
}

// passing reports whether a node is part of what is made of a list, on the way from its members to the properties that it drives.
func (g *graph) passing(node int32) bool {
	first := g.targetNode(0)
	return node >= first && g.targets[node-first].List != nil
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

// Leads returns the cycle that a property would run in, if it read some slots at the same time; nil for none.
func (o *Order) Leads(slots []int32, item int32, property int) *Cycle {
	g := o.graph
	first := g.l.Slot(item, property)
	size := int32(g.l.Specs(item)[property].Type.Size())
	target := func(s int32) bool { return s >= first && s < first+size }
	wants := map[int32]int32{} // which node asked for a node first; -1 for the property itself
	var open []int32
	want := func(by int32) func(int32) {
		return func(node int32) {
			if _, seen := wants[node]; !seen {
				wants[node] = by
				open = append(open, node)
			}
		}
	}
	itself := &Cycle{}
	ref, name := scene.Ref{Item: g.l.Items[item].ID, Property: g.l.Specs(item)[property].Key}, g.l.Items[item].Name+": "+g.l.Specs(item)[property].Name
	itself.Refs, itself.names = []scene.Ref{ref}, []string{name}
	for _, s := range slots {
		switch m := g.maker[s]; {
		case target(s):
			return itself
		case s >= g.l.World && s < g.l.Seen:
			want(-1)(g.placeNode((s - g.l.World) / layout.WorldSize))
		case m > 0:
			want(-1)(m - 1)
		}
	}
	for len(open) > 0 {
		node := open[0]
		open = open[1:]
		found := false
		g.depends(node, want(node), func(s int32) { found = found || target(s) }, nil)
		if !found {
			continue
		}
		for ; node >= 0; node = wants[node] {
			if g.passing(node) {
				continue
			}
			if ref, name := g.describe(node); name != itself.names[len(itself.names)-1] {
				itself.Refs, itself.names = append(itself.Refs, ref), append(itself.names, name)
			}
		}
		return itself
	}
	return nil
}
