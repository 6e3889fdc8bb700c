package scene

// finder finds the members of rosters of one composition while nothing changes in it. What several of them ask for, the tree
// or the items of one name, is looked up once, and it finds no more than is worked out.
type finder struct {
	c       *Composition
	members int // that may still be found
	steps   int // characters that may still be compared

	byID     map[ID]*Item
	hanging  map[ID][]*Item // on an item, in order
	tree     []*Item
	depths   []int
	at       map[ID]int // in the tree
	folded   [][]rune   // the names of the tree, as they are compared
	patterns map[string][]*Item
}

func finderIn(c *Composition) *finder { return &finder{c: c, members: MaxMembers, steps: maxSteps} }

func (f *finder) spent() bool { return f.members < 0 || f.steps < 0 }

// rows returns the members of a roster, row by row; none where they would be too many.
func (f *finder) rows(r *Roster, key string) []*Row {
	order := r.order()
	if r.Hangs() && r.Of != nil {
		var out []*Row
		for _, outer := range f.rows(r.Of, key) {
			for k, m := range outer.Members {
				row := &Row{Outer: outer, Index: k}
				if !f.take(row, f.hangs(r, m.Item.ID), key) {
					return nil
				}
				row.Members = order(row.Members)
				out = append(out, row)
			}
		}
		return out
	}
	row := &Row{}
	switch r.Kind {
	case Children, Chain:
		f.take(row, f.hangs(r, r.Item), key)
	case Picked:
		f.take(row, f.picked(r.Items), key)
	case Named:
		f.take(row, f.named(r.Pattern), key)
	case CopiesOf:
		row.Copies = true
		if item := f.c.Item(r.Item); item != nil {
			f.take(row, item.Lanes(), key)
		}
	case Vertices:
		if item := f.c.Item(r.Item); item != nil {
			for _, vertex := range item.VertexKeys() {
				row.Members = append(row.Members, Member{item, vertex})
			}
		}
		f.members -= 1 + len(row.Members)
	}
	if f.spent() {
		return nil
	}
	if r.Kind != Picked && !r.OfOne() {
		row.Members = order(row.Members)
	}
	return []*Row{row}
}

// take puts items into a row, and reports false where they are too many.
func (f *finder) take(row *Row, items []*Item, key string) bool {
	if f.members -= 1 + len(items); f.spent() {
		return false
	}
	row.Members = membersOf(items, key)
	return true
}

// hangs returns what hangs on an item: its children, or all below it, in the order of the tree.
func (f *finder) hangs(r *Roster, id ID) []*Item {
	if r.Kind == Children {
		if f.hanging == nil {
			f.hanging = map[ID][]*Item{}
			for _, item := range f.c.Items {
				f.hanging[item.Parent] = append(f.hanging[item.Parent], item)
			}
		}
		return f.hanging[id]
	}
	tree, depths := f.ordered()
	if f.at == nil {
		f.at = make(map[ID]int, len(tree))
		for i, item := range tree {
			f.at[item.ID] = i
		}
	}
	from, ok := f.at[id]
	if !ok {
		return nil
	}
	to := from + 1
	for to < len(tree) && depths[to] > depths[from] {
		to++
	}
	return tree[from+1 : to]
}

// picked returns the items of a list that there are, each once.
func (f *finder) picked(ids []ID) (out []*Item) {
	if f.byID == nil {
		f.byID = make(map[ID]*Item, len(f.c.Items))
		for _, item := range f.c.Items {
			f.byID[item.ID] = item
		}
	}
	seen := make(map[ID]bool, len(ids))
	for _, id := range ids {
		if item := f.byID[id]; item != nil && !seen[id] {
			out = append(out, item)
			seen[id] = true
		}
	}
	return out
}

// named returns the items of a pattern, in the order of the tree.
func (f *finder) named(pattern string) (out []*Item) {
	wanted := fold(pattern)
	if out, known := f.patterns[wanted]; known {
		return out
	}
	tree, _ := f.ordered()
	if f.folded == nil {
		f.patterns, f.folded = map[string][]*Item{}, make([][]rune, len(tree))
		for i, item := range tree {
			f.folded[i] = []rune(fold(item.Name))
		}
	}
	runes := []rune(wanted)
	for i, item := range tree {
		if f.steps < 0 {
			return nil
		}
		if matches(runes, f.folded[i], &f.steps) {
			out = append(out, item)
		}
	}
	f.patterns[wanted] = out
	return out
}

// ordered is the tree of the composition.
func (f *finder) ordered() ([]*Item, []int) {
	if f.tree == nil {
		f.tree, f.depths = f.c.Tree()
	}
	return f.tree, f.depths
}
