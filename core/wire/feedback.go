package wire

// loops numbers the nodes that depend on each other in a cycle, looks at other times counted: two
// nodes have the same number, above 0, where each depends on the other. It is Tarjan's search for
// strongly connected components (SIAM Journal on Computing, 1972), without recursion. The depth of a
// node is above that of all that it depends on, but for what is in a loop with it, which has the same.
func (g *graph) loops() (loop, depth []int32) {
	n := g.nodes()
	loop, depth = make([]int32, n), make([]int32, n)
	index, low := make([]int32, n), make([]int32, n)
	on := make([]bool, n)
	var stack []int32
	type step struct {
		node  int32
		needs []int32
		next  int
	}
	var path []step
	next, found := int32(1), int32(0)
	enter := func(node int32) {
		var needs []int32
		add := func(m int32) { needs = append(needs, m) }
		g.all(node, add)
		index[node], low[node] = next, next
		next++
		stack, on[node] = append(stack, node), true
		path = append(path, step{node, needs, 0})
	}
	for root := range int32(n) {
		if index[root] != 0 {
			continue
		}
		enter(root)
		for len(path) > 0 {
			top := &path[len(path)-1]
			if top.next < len(top.needs) {
				need := top.needs[top.next]
				top.next++
				if index[need] == 0 {
					enter(need)
				} else if on[need] {
					low[top.node] = min(low[top.node], index[need])
				}
				continue
			}
			node, itself := top.node, false
			for _, need := range top.needs {
				itself = itself || need == node
			}
			path = path[:len(path)-1]
			if len(path) > 0 {
				above := path[len(path)-1].node
				low[above] = min(low[above], low[node])
			}
			if low[node] != index[node] {
				continue
			}
			alone := stack[len(stack)-1] == node
			if !alone || itself {
				found++
			}
			from := len(stack) - 1
			for stack[from] != node {
				from--
			}
			members, deepest := stack[from:], int32(0)
			for _, member := range members {
				on[member] = false
				below := func(need int32) { deepest = max(deepest, depth[need]) } // of the loop itself it is 0 yet
				g.all(member, below)
			}
			for _, member := range members {
				depth[member] = deepest + 1
				if !alone || itself {
					loop[member] = found
				}
			}
			stack = stack[:from]
		}
	}
	return loop, depth
}

// Depth returns how deep what a slot is made of goes, looks at other times counted: it is above that of
// all of it. Slots of one loop have the same depth, and its number above 0.
func (o *Order) Depth(slot int32) (depth, loop int32) {
	m := o.graph.maker[slot]
	if m == 0 || o.graph.depthOf == nil {
		return o.LevelOf(slot), 0
	}
	return o.graph.depthOf[m-1], o.graph.loopOf[m-1]
}

// Feedback reports whether a slot is part of a loop through a look at another time.
func (o *Order) Feedback(slot int32) bool {
	m := o.graph.maker[slot]
	return m > 0 && o.graph.loopOf != nil && o.graph.loopOf[m-1] > 0
}
