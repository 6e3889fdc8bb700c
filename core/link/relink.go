package link

import (
	"slices"

	"wunderkammer/core/formula"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
)

// dependents finds what reads a slot or stands on a place, the other way round than graph.needs.
type dependents struct {
	readers  map[int32][]int32 // targets, by slot; some may no longer read it
	children [][]int32         // by item
	reads    map[int32][]int32 // read nodes, by item
}

// lanes are the links on rosters, found when they are first asked for.
func (g *graph) lanes() map[driven][]lane {
	if g.rostered == nil {
		t := &lowerer{l: g.l}
		t.spreads()
		g.rostered = t.lanes
	}
	return g.rostered
}

func (g *graph) findDependents() *dependents {
	if g.dependents != nil {
		return g.dependents
	}
	d := &dependents{readers: map[int32][]int32{}, children: make([][]int32, len(g.l.Items)), reads: map[int32][]int32{}}
	for i, parent := range g.l.Parents {
		if parent >= 0 {
			d.children[parent] = append(d.children[parent], int32(i))
		}
	}
	for r := range g.reads {
		d.reads[g.reads[r].Item] = append(d.reads[g.reads[r].Item], g.readNode(r))
	}
	for t := range g.targets {
		d.note(g, t)
	}
	g.dependents = d
	return d
}

func (d *dependents) note(g *graph, t int) {
	reader := func(slot int32) { d.readers[slot] = append(d.readers[slot], g.targetNode(t)) }
	g.targets[t].reads(reader, reader)
	if f := g.targets[t].Formula; f != nil {
		for _, s := range f.Lane.In {
			if s.Kind == formula.FromOwn {
				reader(s.Slot)
			}
		}
		for _, i := range f.Items {
			g.shapeNeeds(i, true, reader)
		}
	}
}

// of calls with everything that may need a node.
func (d *dependents) of(g *graph, node int32, visit func(int32)) {
	slot := func(s int32) {
		for _, n := range d.readers[s] {
			visit(n)
		}
	}
	inItem := func(i int32) {
		for _, n := range d.reads[i] {
			visit(n)
		}
	}
	g.node(node, func(t *Target) {
		for c := range t.Size {
			slot(t.Slot + c)
		}
		visit(g.placeNode(t.item))
		inItem(t.item)
	}, func(i int32) {
		for _, child := range d.children[i] {
			visit(g.placeNode(child))
		}
		for s := g.l.WorldOf(i); s < g.l.WorldOf(i)+layout.WorldSize; s++ {
			slot(s)
		}
		inItem(i)
	}, func(r *Read) {
		for c := range int32(r.Spec.Type.Size()) {
			slot(r.Slot + c)
			if m := g.maker[r.Slot+c]; m > 0 {
				visit(m - 1)
			}
		}
		inItem(r.Item)
	})
}

// Relink brings in the links of one property of an item as they are now, where nothing else has
// changed. It reports the circle that they make, after which the order is of no use any more, or
// false where they ask for something that has no slot, so that everything has to be laid out anew.
func (o *Order) Relink(item *scene.Item, key string) (circle *Circle, ok bool) {
	g := o.graph
	i := g.l.Index(item.ID)
	if i < 0 || slices.ContainsFunc(g.loopOf, func(loop int32) bool { return loop > 0 }) || !g.l.Holds(i, key) {
		return nil, false
	}
	d := g.findDependents()
	n, _ := g.l.Property(i, key)
	t := &lowerer{l: g.l, next: int32(g.l.Size), lanes: g.lanes()}
	t.property(i, n)
	fresh := t.targets
	if t.next > int32(g.l.Size) || g.worked[driven{i, n}] { // formulas have slots of their own
		return nil, false
	}
	first, size := g.l.Base[i]+g.l.Starts(i)[n], int32(g.l.Specs(i)[n].Type.Size())
	var changed []int32
	for s := first; s < first+size; s++ {
		at := slices.IndexFunc(fresh, func(t Target) bool { return t.Slot == s })
		node := g.maker[s] - 1
		switch {
		case at < 0 && node < g.targetNode(0):
			continue // not driven, now or before
		case at < 0: // no longer driven
			o.take(node)
			g.targets[node-g.targetNode(0)].Wires = nil
			g.maker[s] = g.under[s]
			continue
		case node < g.targetNode(0):
			node = g.targetNode(len(g.targets))
			g.targets = append(g.targets, fresh[at])
			g.maker[s] = node + 1
			o.level = append(o.level, 0)
		default:
			o.take(node)
			g.targets[node-g.targetNode(0)] = fresh[at]
		}
		d.note(g, int(node-g.targetNode(0)))
		changed = append(changed, node)
	}
	looks := g.looks()
	for _, node := range changed {
		if nodes := g.loop(node, g.needs); nodes != nil {
			return g.circle(nodes), true
		}
		if looks && g.loop(node, g.all) != nil { // feedback
			return nil, false
		}
	}
	for _, node := range changed {
		o.level[node] = max(1, o.level[node])
		o.put(node)
	}
	g.raise(changed, o.level, g.needs, func(node, level int32) {
		o.take(node)
		o.level[node] = level
		o.put(node)
	})
	switch {
	case g.depthOf != nil:
		for len(g.depthOf) < len(o.level) {
			g.depthOf, g.loopOf = append(g.depthOf, 1), append(g.loopOf, 0)
		}
		g.raise(changed, g.depthOf, g.all, func(node, depth int32) { g.depthOf[node] = depth })
	case looks:
		g.loopOf, g.depthOf = g.loops()
	}
	return nil, true
}

// loop returns the nodes of a circle through a node, in the order of their influence, or nil.
func (g *graph) loop(start int32, needs func(node int32, visit func(int32))) []int32 {
	wants := map[int32]int32{} // which node asked for a node first
	open := []int32{start}
	last := int32(-1)
	for len(open) > 0 && last < 0 {
		node := open[len(open)-1]
		open = open[:len(open)-1]
		needs(node, func(need int32) {
			if need == start {
				last = node
			} else if _, seen := wants[need]; !seen {
				wants[need] = node
				open = append(open, need)
			}
		})
	}
	if last < 0 {
		return nil
	}
	var path []int32
	for node := last; node != start; node = wants[node] {
		path = append(path, node)
	}
	return append(path, start)
}

// raise puts changed nodes, and what needs them, behind all that they need, in what numbers them.
func (g *graph) raise(changed, number []int32, needs func(node int32, visit func(int32)), put func(node, at int32)) {
	var open []int32
	push := func(n int32) { open = append(open, n) }
	for _, node := range changed {
		push(node)
		g.dependents.of(g, node, push)
	}
	for len(open) > 0 {
		node := open[len(open)-1]
		open = open[:len(open)-1]
		at := int32(1)
		needs(node, func(need int32) { at = max(at, number[need]+1) })
		if at > number[node] {
			put(node, at)
			g.dependents.of(g, node, push)
		}
	}
}

func (o *Order) put(node int32) {
	at := o.level[node] - 1
	for len(o.Levels) <= int(at) {
		o.Levels = append(o.Levels, Level{})
	}
	o.graph.put(&o.Levels[at], node)
}

// take takes a node out of its level.
func (o *Order) take(node int32) {
	if o.level[node] < 1 {
		return
	}
	l := &o.Levels[o.level[node]-1]
	o.graph.node(node,
		func(t *Target) {
			l.Targets = slices.DeleteFunc(l.Targets, func(x Target) bool { return x.Slot == t.Slot })
		},
		func(i int32) { l.Places = slices.DeleteFunc(l.Places, func(x int32) bool { return x == i }) },
		func(r *Read) { l.Reads = slices.DeleteFunc(l.Reads, func(x Read) bool { return x.Slot == r.Slot }) })
}
