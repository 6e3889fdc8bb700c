package wire

import (
	"cmp"
	"slices"

	"wunderkammer/core/layout"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// dependents finds what reads a slot or stands on a place, the other way round than graph.needs.
type dependents struct {
	targets  map[driven][]int  // what the links of a property make
	readers  map[int32][]int32 // targets, by slot; some may no longer read it
	children [][]int32         // by item
	reads    map[int32][]int32 // read nodes, by item
}

// assignments are the links on rosters, found when they are first asked for.
func (g *graph) assignments() map[driven][]assignment {
	if g.rostered == nil {
		t := &lowerer{l: g.l}
		t.rosterLinks()
		g.rostered = t.assignments
	}
	return g.rostered
}

func (g *graph) findDependents() *dependents {
	if g.dependents != nil {
		return g.dependents
	}
	d := &dependents{targets: map[driven][]int{}, readers: map[int32][]int32{}, children: make([][]int32, len(g.l.Items)), reads: map[int32][]int32{}}
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
	at := driven{g.targets[t].item, g.targets[t].property}
	if !g.targets[t].Shared() {
		d.targets[at] = append(d.targets[at], t)
	}
	reader := func(slot int32) { d.readers[slot] = append(d.readers[slot], g.targetNode(t)) }
	g.uses(g.targetNode(t), Uses{Now: reader, Own: reader, Later: reader, Shape: func(i int32) { reader(g.l.WorldOf(i)) }})
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
		if t.item >= 0 {
			visit(g.placeNode(t.item))
			inItem(t.item)
		}
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

// maxSlots bounds the slots that are left over where formulas changed, before everything is laid out anew.
const maxSlots = 20000

// Place is a property of an item, where the item stands in the layout: below 0 where it does not.
type Place struct {
	Item     int32
	Property string
}

// Relink brings in the links of some properties as they are now, where nothing else has changed. It
// reports the cycle that they make, after which the order is of no use any more, or false where they
// ask for something that has no slot, or may be feedback, so that everything has to be laid out anew.
func (o *Order) Relink(places []Place) (cycle *Cycle, ok bool) {
	g := o.graph
	if slices.ContainsFunc(g.loopOf, func(loop int32) bool { return loop > 0 }) || len(g.maker) > 2*g.l.Size+maxSlots {
		return nil, false
	}
	if slices.ContainsFunc(g.targets, func(t *Target) bool { return t.List != nil && t.List.Crowded }) { // it may fit now
		return nil, false
	}
	t := &lowerer{l: g.l, assignments: g.assignments(), shared: g.sharedOf(), gathered: g.gathered()} // its programs serve all members of a roster
	var changed []int32
	out := taken{}
	done := map[Place]bool{}
	for _, at := range places {
		if done[at] { // several links of one property
			continue
		}
		done[at] = true
		if at.Item < 0 || !g.l.Covers(at.Item, at.Property) {
			return nil, false
		}
		n, _ := g.l.Property(at.Item, at.Property)
		for c := range int32(g.l.Specs(at.Item)[n].Type.Size()) {
			if o.Tied(g.l.Slot(at.Item, n)+c, false) {
				return nil, false
			}
		}
		changed = append(changed, o.bring(t, at.Item, n, out)...)
	}
	if slices.ContainsFunc(changed, func(node int32) bool { return g.trails(g.targets[node-g.targetNode(0)]) }) {
		return nil, false
	}
	if o.crowded { // which of them is left out depends on their order
		return nil, false
	}
	looks := g.looks()
	for _, node := range changed {
		if nodes := g.loop(node, g.needs); nodes != nil {
			return g.cycle(nodes), true
		}
		if looks && g.loop(node, g.all) != nil { // feedback
			return nil, false
		}
	}
	moved := slices.Clone(changed)
	moving := map[int32]bool{}
	for _, node := range changed {
		o.level[node], moving[node] = max(1, o.level[node]), true
	}
	g.raise(changed, o.level, g.needs, func(node, level int32) {
		if !moving[node] {
			moving[node], moved = true, append(moved, node)
			o.take(node, o.level[node], out)
		}
		o.level[node] = level
	})
	o.sweep(out)
	for _, node := range moved {
		o.put(node)
	}
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

// Respond brings in how links that hold values for the stops of a control answer it now, where nothing else has changed.
// It returns the slots that they drive, or false where one of them begins or ceases to give anything.
func (o *Order) Respond(source scene.Ref) (driven []int32, ok bool) {
	g := o.graph
	for t := range g.targets {
		target := g.targets[t]
		for k := range target.Wires {
			w := &target.Wires[k]
			from := w.of()
			if from.Source.Item != source.Item || from.Source.Property != source.Property {
				continue
			}
			kind := link.Of(from)
			if kind.Response == nil {
				continue
			}
			now := kind.Response(from, g.l.CompositionOf(target.item))
			if (now == nil) != (w.Response == nil) {
				return nil, false
			}
			if now != nil {
				*w.Response = *now // levels hold wires by value, and their responses by this one
				driven = append(driven, target.Slot)
			}
		}
	}
	return driven, true
}

// Regroup finds the links on rows as they are now, and returns the properties that one of them drives otherwise
// than before: as another member, or not at all, or newly.
func (o *Order) Regroup() (changed []scene.Ref) {
	g := o.graph
	if !g.byName() {
		return nil
	}
	was := g.assignments()
	g.rostered = nil
	is := g.assignments()
	look := func(at driven) {
		if !g.l.Staged(at.item) && !slices.EqualFunc(byName(was[at]), byName(is[at]), assignment.same) {
			changed = append(changed, scene.Ref{Item: g.l.Items[at.item].ID, Property: g.l.Specs(at.item)[at.property].Key})
		}
	}
	for at := range is {
		look(at)
	}
	for at := range was {
		if _, still := is[at]; !still {
			look(at)
		}
	}
	slices.SortFunc(changed, func(a, b scene.Ref) int {
		return cmp.Or(cmp.Compare(a.Item, b.Item), cmp.Compare(a.Property, b.Property))
	})
	return changed
}

// byName reports whether any row finds its members by name.
func (g *graph) byName() bool {
	return slices.ContainsFunc(g.l.Composition.RosterLinks, (*scene.RosterLink).ByName)
}

// byName returns those of links that find their members by name.
func byName(list []assignment) (out []assignment) {
	for _, a := range list {
		if a.rosterLink.ByName() {
			out = append(out, a)
		}
	}
	return out
}

// RereadRosters makes the next Relink find the links on rosters as they are now.
func (o *Order) RereadRosters() { o.graph.rostered = nil }

// sharedOf returns what is made of lists already, for formulas that make the same.
func (g *graph) sharedOf() map[shared]int32 {
	if g.shared == nil {
		g.shared = map[shared]int32{}
		for _, t := range g.targets {
			if t.Reduced() != nil && t.Shared() {
				g.shared[shared{g.l.StageOf(t.item), t.List.Of}] = t.Slot
			}
		}
	}
	return g.shared
}

// gathered returns how many values lists read already.
func (g *graph) gathered() (n int) {
	for _, t := range g.targets {
		if t.List != nil {
			n += t.List.cost
		}
	}
	return n
}

// bring puts the targets that the links of a property make in place of those before, and returns their
// nodes, which have no level yet. What a formula needs on the way has slots behind all others.
func (o *Order) bring(t *lowerer, i int32, n int, out taken) (changed []int32) {
	g := o.graph
	d := g.findDependents()
	for _, at := range d.targets[driven{i, n}] {
		node, old := g.targetNode(at), g.targets[at]
		o.take(node, o.level[node], out)
		for c := range old.Size {
			if g.maker[old.Slot+c] == node+1 {
				g.maker[old.Slot+c] = g.under[old.Slot+c]
			}
		}
		g.targets[at] = &Target{Slot: old.Slot, Own: old.Own, Size: old.Size, Spec: old.Spec, item: -1}
		o.level[node] = 0
	}
	d.targets[driven{i, n}] = nil
	t.targets, t.next = nil, int32(len(g.maker))
	t.property(i, n)
	for len(g.maker) < int(t.next) {
		g.maker = append(g.maker, 0)
	}
	for k := range t.targets {
		fresh := &t.targets[k]
		o.crowded = o.crowded || fresh.List != nil && fresh.List.Crowded
		node := g.targetNode(len(g.targets))
		g.targets = append(g.targets, fresh)
		o.level = append(o.level, 0)
		for c := range fresh.Size {
			g.maker[fresh.Slot+c] = node + 1
		}
		d.note(g, len(g.targets)-1)
		changed = append(changed, node)
	}
	return changed
}

// loop returns the nodes of a cycle through a node, in the order of their influence, or nil.
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
		if t := int(node - g.targetNode(0)); t >= 0 && g.targets[t].item < 0 { // left over
			continue
		}
		at := int32(1)
		needs(node, func(need int32) { at = max(at, number[need]+1) })
		if at > number[node] {
			put(node, at)
			g.dependents.of(g, node, push)
		}
	}
}

// put puts a node into its level.
func (o *Order) put(node int32) {
	at := o.level[node] - 1
	for len(o.Levels) <= int(at) {
		o.Levels = append(o.Levels, Level{})
	}
	o.graph.put(&o.Levels[at], node)
	o.Levels[at].Version++
}

// taken is what is taken out of levels, by the numbers of the levels from 1: as slots, items and slots that are read.
type taken map[int32]*[3]map[int32]bool

// take notes that a node is taken out of a level; 0: it is in none.
func (o *Order) take(node, level int32, out taken) {
	if level < 1 {
		return
	}
	of := out[level]
	if of == nil {
		of = &[3]map[int32]bool{{}, {}, {}}
		out[level] = of
	}
	o.graph.node(node, func(t *Target) { of[0][t.Slot] = true }, func(i int32) { of[1][i] = true }, func(r *Read) { of[2][r.Slot] = true })
}

// sweep takes out of the levels what was noted.
func (o *Order) sweep(out taken) {
	for level, of := range out {
		l := &o.Levels[level-1]
		l.Version++
		l.Targets = slices.DeleteFunc(l.Targets, func(x *Target) bool { return of[0][x.Slot] })
		l.Places = slices.DeleteFunc(l.Places, func(x int32) bool { return of[1][x] })
		l.Reads = slices.DeleteFunc(l.Reads, func(x Read) bool { return of[2][x.Slot] })
	}
}
