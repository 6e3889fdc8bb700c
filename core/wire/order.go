package wire

import (
	"cmp"
	"slices"
	"strings"

	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
)

// Read is something derived from an item that a link asks for: its place in the composition, the
// length of its path, where a vertex of an object stands.
type Read struct {
	Item int32
	Spec *scene.Spec
	Slot int32
}

// Level is what can be worked out at once: nothing in a level depends on anything else in it.
type Level struct {
	Targets []*Target
	Reads   []Read
	Places  []int32 // items whose transform in the composition is worked out
	Version int     // another one when the targets are others
}

// Placed reports whether places, or what is derived, are among what is worked out.
func Placed(levels []Level) bool {
	return slices.ContainsFunc(levels, func(l Level) bool { return len(l.Places) > 0 || len(l.Reads) > 0 })
}

// graph numbers everything that is worked out at a time: the place of every item first, then reads, then
// driven components.
type graph struct {
	l       *layout.Layout
	targets []*Target // none is altered while it is in a level: others take its place
	reads   []Read
	places  []layout.PlaceSlots
	maker   []int32          // 1 + the node that fills a slot, or 0
	shared  map[shared]int32 // what is made of lists, by the first slot
	under   map[int32]int32  // 1 + the read that fills a slot, driven or not
	ties    ties

	dependents *dependents // made when first asked for
	rostered   map[driven][]assignment
	depthOf    []int32 // of each node, looks at other times counted; nil where there are none
	loopOf     []int32 // likewise: what depends on itself through them
}

func newGraph(l *layout.Layout, targets []Target) *graph {
	size := l.Size
	all := make([]*Target, len(targets))
	for i := range targets {
		all[i] = &targets[i]
		size = max(size, int(targets[i].Slot+targets[i].Size))
	}
	g := &graph{l: l, targets: all, places: l.Places(), maker: make([]int32, size), under: map[int32]int32{}}
	g.findReads()
	for r, read := range g.reads {
		for c := range read.Spec.Type.Size() {
			g.maker[read.Slot+int32(c)] = g.readNode(r) + 1
			g.under[read.Slot+int32(c)] = g.readNode(r) + 1
		}
	}
	for i := range targets {
		for c := range targets[i].Size {
			g.maker[targets[i].Slot+c] = g.targetNode(i) + 1 // over what a read put there
		}
	}
	return g
}

func (g *graph) placeNode(item int32) int32 { return item }

func (g *graph) readNode(r int) int32 { return int32(len(g.l.Items) + r) }

func (g *graph) targetNode(t int) int32 { return int32(len(g.l.Items) + len(g.reads) + t) }

func (g *graph) nodes() int { return int(g.targetNode(len(g.targets))) }

// node calls with what a node is.
func (g *graph) node(node int32, target func(*Target), place func(item int32), read func(*Read)) {
	switch items, first := int32(len(g.l.Items)), g.targetNode(0); {
	case node < items:
		place(node)
	case node < first:
		read(&g.reads[node-items])
	default:
		target(g.targets[node-first])
	}
}

// findReads lists what is derived: read-only properties that have a slot, and the vertices of
// objects of which nothing was set.
func (g *graph) findReads() {
	for i, item := range g.l.Items {
		if g.l.Apart(int32(i)) {
			continue
		}
		specs := g.l.Specs(int32(i))
		plain := len(scene.Of(item.Kind)) + len(item.Added())
		for k := plain; k < len(specs); k++ {
			state := item.State(specs[k].Key)
			_, _, vertex := scene.VertexOf(specs[k].Key)
			natural := vertex && item.Kind.Class() == scene.Solid && state.Own.Absent() && len(state.Pins) == 0
			if specs[k].ReadOnly || natural {
				g.reads = append(g.reads, Read{int32(i), specs[k], g.l.Slot(int32(i), k)})
			}
		}
	}
}

// needs calls with every node that has to be worked out at the same time before a node.
func (g *graph) needs(node int32, visit func(int32)) { g.depends(node, visit, nil, nil) }

// all calls with every node that a node depends on, now or at other times.
func (g *graph) all(node int32, visit func(int32)) { g.depends(node, visit, nil, visit) }

// uses calls with all that a node is made of: the one account of what depends on what.
func (g *graph) uses(node int32, u Uses) {
	g.node(node, func(t *Target) {
		t.Uses(u)
		if t.Formula != nil {
			for _, i := range t.Formula.Items {
				g.shapeNeeds(i, true, u.Now)
			}
		}
	}, func(i int32) {
		for k, first := range g.places[i] {
			for s := first; s < first+layout.PlaceSizes[k]; s++ {
				u.Now(s)
			}
		}
		if parent := g.l.Parents[i]; parent >= 0 {
			u.Shape(parent)
		}
	}, func(r *Read) { g.readNeeds(r, u) })
}

// depends calls with every node that a node depends on now and, where they are given, with every slot
// that it reads and every node that it looks at at other times.
func (g *graph) depends(node int32, visit, seen, later func(int32)) {
	slot := func(s int32) {
		if seen != nil {
			seen(s)
		}
		switch m := g.maker[s]; {
		case s >= g.l.World && s < g.l.Seen:
			visit(g.placeNode((s - g.l.World) / layout.WorldSize))
		case m > 0 && (m-1 != node || node >= g.targetNode(0)):
			visit(m - 1)
		}
	}
	own := func(s int32) {
		if seen != nil {
			seen(s)
		}
		if r := g.under[s]; r > 0 { // the own value is derived
			visit(r - 1)
		}
	}
	g.uses(node, Uses{
		Now: slot, Own: own,
		Later: func(s int32) {
			if m := g.maker[s]; m > 0 && later != nil {
				later(m - 1)
			}
		},
		Shape: func(i int32) { visit(g.placeNode(i)) },
	})
}

// shapeNeeds calls with the slots that the shape of an item is made of, its vertices among them or not.
func (g *graph) shapeNeeds(i int32, vertices bool, slot func(int32)) {
	for k, spec := range g.l.Specs(i) {
		_, _, vertex := scene.VertexOf(spec.Key)
		if !spec.Shapes() || vertex && !vertices {
			continue
		}
		first := g.l.Slot(i, k)
		for c := range spec.Type.Size() {
			slot(first + int32(c))
		}
	}
}

// readNeeds calls with what a derived property is made of: the place of its item for one in the
// composition, everything else of its item for the rest.
func (g *graph) readNeeds(r *Read, u Uses) {
	if strings.HasPrefix(r.Spec.Key, "world") {
		u.Shape(r.Item)
		id, _, vertex := scene.VertexOf(r.Spec.Key)
		if !vertex {
			return
		}
		if own, at := g.l.FindAt(r.Item, scene.VertexKey(id)); own != nil {
			for c := range own.Type.Size() {
				u.Now(at + int32(c))
			}
			return
		}
	}
	_, _, vertex := scene.VertexOf(r.Spec.Key)
	g.shapeNeeds(r.Item, !vertex, u.Now)
}

// Order is everything that is worked out at a time, in levels: what level 0 needs is there from
// the start, what level n needs is in lower ones.
type Order struct {
	Levels  []Level
	graph   *graph
	level   []int32 // of each node
	crowded bool    // a list was left out when a link was brought in
}

// Sort puts everything in order. A cycle is returned instead where there is one. One that leads
// through a look at another time is feedback, and is none.
func Sort(l *layout.Layout, targets []Target) (*Order, *Cycle) {
	g := newGraph(l, targets)
	g.tie()
	if g.looks() {
		g.loopOf, g.depthOf = g.loops()
	}
	if g.byName() {
		g.assignments() // which are compared with those after a change of names
	}
	return g.sort()
}

// looks reports whether anything is looked at at other times.
func (g *graph) looks() bool {
	found := false
	for i := range g.targets {
		g.targets[i].Uses(Uses{Later: func(int32) { found = true }})
	}
	return found
}

func (g *graph) sort() (*Order, *Cycle) {
	total := g.nodes()
	level := make([]int32, total) // 0 unknown, -1 on the path, else 1 + level
	type step struct {
		node  int32
		needs []int32
		next  int
	}
	var path []step
	var spare [][]int32
	enter := func(node int32) {
		var needs []int32
		if n := len(spare); n > 0 {
			needs, spare = spare[n-1][:0], spare[:n-1]
		}
		g.needs(node, func(n int32) { needs = append(needs, n) })
		level[node] = -1
		path = append(path, step{node, needs, 0})
	}
	done := make([]int32, 0, total)
	for node := range int32(total) {
		if level[node] != 0 || int(node) < len(g.l.Items) && g.l.Apart(node) {
			continue
		}
		enter(node)
		for len(path) > 0 {
			top := &path[len(path)-1]
			if top.next < len(top.needs) {
				need := top.needs[top.next]
				top.next++
				switch {
				case level[need] == 0:
					enter(need)
				case level[need] < 0:
					nodes := make([]int32, 0, len(path))
					for k := len(path) - 1; ; k-- {
						nodes = append(nodes, path[k].node)
						if path[k].node == need {
							return nil, g.cycle(nodes)
						}
					}
				}
				continue
			}
			at := int32(0)
			for _, need := range top.needs {
				at = max(at, level[need])
			}
			level[top.node] = at + 1
			done = append(done, top.node)
			spare = append(spare, top.needs)
			path = path[:len(path)-1]
		}
	}
	return &Order{Levels: g.levels(done, level), graph: g, level: level}, nil
}

// levels puts nodes into their levels.
func (g *graph) levels(nodes, level []int32) []Level {
	type room struct{ targets, places, reads int }
	var rooms []room
	for _, node := range nodes {
		for len(rooms) < int(level[node]) {
			rooms = append(rooms, room{})
		}
		r := &rooms[level[node]-1]
		g.node(node, func(*Target) { r.targets++ }, func(int32) { r.places++ }, func(*Read) { r.reads++ })
	}
	out := make([]Level, len(rooms))
	for k, r := range rooms {
		if r.targets > 0 {
			out[k].Targets = make([]*Target, 0, r.targets)
		}
		if r.places > 0 {
			out[k].Places = make([]int32, 0, r.places)
		}
		if r.reads > 0 {
			out[k].Reads = make([]Read, 0, r.reads)
		}
	}
	for _, node := range nodes {
		g.put(&out[level[node]-1], node)
	}
	return out
}

// Targets returns everything that is driven; one that no longer is has no wires.
func (o *Order) Targets() []*Target { return o.graph.targets }

// Target returns the target whose links drive a slot; nil where an own value stands in it. It is the order's own, not a copy.
func (o *Order) Target(slot int32) *Target {
	if !o.Driven(slot) {
		return nil
	}
	return o.graph.targets[o.graph.maker[slot]-1-o.graph.targetNode(0)]
}

// Driven reports whether the value of a slot is made by links on it, and not read off an item, nor an own value.
func (o *Order) Driven(slot int32) bool { return o.graph.maker[slot] > o.graph.targetNode(0) }

// Size returns how many slots there are altogether, those of formulas included.
func (o *Order) Size() int { return len(o.graph.maker) }

// LevelOf returns the level that a slot is worked out in, counted from 1; 0 for an own value.
func (o *Order) LevelOf(slot int32) int32 {
	if m := o.graph.maker[slot]; m > 0 {
		return o.level[m-1]
	}
	return 0
}

// Closure returns, in levels, all that some slots and the places of some items are made of at the same
// time, every slot that is read on the way, and those that are looked at at other times.
func (o *Order) Closure(slots []int32, places []int32) (levels []Level, read map[int32]bool, later []int32) {
	read = map[int32]bool{}
	wanted := map[int32]bool{}
	var open []int32
	want := func(node int32) {
		if !wanted[node] {
			wanted[node] = true
			open = append(open, node)
		}
	}
	for _, s := range slots {
		read[s] = true
		if m := o.graph.maker[s]; m > 0 {
			want(m - 1)
		}
	}
	for _, i := range places {
		want(o.graph.placeNode(i))
	}
	for len(open) > 0 {
		node := open[len(open)-1]
		open = open[:len(open)-1]
		o.graph.depends(node, want, func(s int32) { read[s] = true }, nil)
		o.graph.node(node, func(t *Target) { t.Uses(Uses{Later: func(s int32) { later = append(later, s) }}) }, func(int32) {}, func(*Read) {})
	}
	nodes := make([]int32, 0, len(wanted))
	for node := range wanted {
		nodes = append(nodes, node)
	}
	slices.SortFunc(nodes, func(a, b int32) int { return cmp.Or(cmp.Compare(o.level[a], o.level[b]), cmp.Compare(a, b)) })
	for k, node := range nodes {
		if k == 0 || o.level[node] != o.level[nodes[k-1]] {
			levels = append(levels, Level{})
		}
		o.graph.put(&levels[len(levels)-1], node)
	}
	return levels, read, later
}

func (g *graph) put(to *Level, node int32) {
	g.node(node,
		func(t *Target) { to.Targets = append(to.Targets, t) },
		func(i int32) { to.Places = append(to.Places, i) },
		func(r *Read) { to.Reads = append(to.Reads, *r) })
}
