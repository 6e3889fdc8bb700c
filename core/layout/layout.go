// Package layout gives every component of every property of a composition its place in one flat
// column of numbers, the slot. It is laid out anew for each change of structure and for nothing else.
package layout

import (
	"slices"

	"wunderkammer/core/formula"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// WorldSize is how many slots the world transform of an item takes: the rows of num.Affine, and
// behind them the rotation about z in degrees, with whole turns counted.
const WorldSize = 13

// Layout is where everything stands in the column.
//
// The column holds, for each item in the order of the tree, all its properties one after the
// other: those of its kind, then its controls, then those of its vertices and of what is derived
// from it that something asks for. After all of them stands the world transform of each item in
// the same order.
type Layout struct {
	Composition *scene.Composition
	Items       []*scene.Item
	Depths      []int
	Parents     []int32 // index of the parent in Items, -1 at the root
	Hidden      []bool  // the item or something it hangs on is hidden
	Out         []bool  // the item or something it hangs on is not in output
	Base        []int32 // first slot of each item
	World       int32   // first slot of the world transforms
	Size        int     // slots altogether

	index   map[scene.ID]int32
	offsets []offsets // of each item
	// lacks holds the properties that a link asks for and that do not exist, such as the weight of a link
	// that was removed: where one comes (back), everything has to be laid out anew.
	lacks map[lack]bool
}

type lack struct {
	item int32
	key  string
}

// offsets holds where each property of an item starts, counted from the item's base.
type offsets struct {
	specs []*scene.Spec
	at    []int32
	keys  map[string]int
	place PlaceSlots // of what the place of the item is made of
}

// kindOffsets holds the offsets of items that have nothing but what their kind has, which are most.
var kindOffsets = func() map[scene.Kind]offsets {
	m := map[scene.Kind]offsets{}
	for _, k := range scene.Kinds {
		m[k.Kind] = measure(scene.Of(k.Kind))
	}
	return m
}()

func measure(specs []*scene.Spec) offsets {
	o := offsets{specs: specs, at: Offsets(specs), keys: make(map[string]int, len(specs))}
	for i, s := range specs {
		o.keys[s.Key] = i
	}
	for k, key := range Place {
		o.place[k] = o.at[o.keys[key]]
	}
	return o
}

// Offsets returns the first slot of each property of an item, counted from the item's base, and
// behind them the number of slots of the item.
func Offsets(specs []*scene.Spec) []int32 {
	at := make([]int32, len(specs)+1)
	for i, s := range specs {
		at[i+1] = at[i] + int32(s.Type.Size())
	}
	return at
}

// Of lays out a composition, with slots for some properties that nothing asks for, such as what can only be read.
func Of(c *scene.Composition, also ...scene.Ref) *Layout {
	items, depths := c.Tree()
	l := &Layout{
		Composition: c,
		Items:       items, Depths: depths,
		Parents: make([]int32, len(items)),
		Hidden:  make([]bool, len(items)),
		Out:     make([]bool, len(items)),
		Base:    make([]int32, len(items)),
		index:   make(map[scene.ID]int32, len(items)),
		offsets: make([]offsets, len(items)),
		lacks:   map[lack]bool{},
	}
	for i, item := range items {
		l.index[item.ID] = int32(i)
	}
	extra := l.extras(also)
	var next int32
	for i, item := range items {
		l.Parents[i] = l.Index(item.Parent)
		l.Hidden[i], l.Out[i] = item.Hidden, item.NotInOutput
		if p := l.Parents[i]; p >= 0 {
			l.Hidden[i], l.Out[i] = l.Hidden[i] || l.Hidden[p], l.Out[i] || l.Out[p]
		}
		l.offsets[i] = kindOffsets[item.Kind]
		if more := extra[int32(i)]; len(item.Controls) > 0 || len(more) > 0 || item.Limited() {
			specs := item.Specs()
			l.offsets[i] = measure(append(specs[:len(specs):len(specs)], more...))
		}
		l.Base[i] = next
		next += l.offsets[i].at[len(l.offsets[i].specs)]
	}
	l.World = next
	l.Size = int(next) + WorldSize*len(items)
	return l
}

// extras finds vertices of which something was set or is asked for, and what else is read of items
// by links, by the index of the item.
func (l *Layout) extras(also []scene.Ref) map[int32][]*scene.Spec {
	keys := map[int32][]string{}
	wanted := map[lack]bool{}
	want := func(i int32, key string) {
		if l.plain(i, key) {
			return
		}
		for _, key := range l.meant(i, key) {
			if at := (lack{i, key}); !l.plain(i, key) && !wanted[at] {
				wanted[at] = true
				keys[i] = append(keys[i], key)
			}
		}
	}
	for _, ref := range also {
		if i := l.Index(ref.Item); i >= 0 {
			want(i, ref.Property)
		}
	}
	read := func(ref scene.Ref) {
		if from := l.Index(ref.Item); from >= 0 {
			want(from, ref.Property)
		}
	}
	for i, item := range l.Items {
		for key, state := range item.States {
			if scene.Extra(key) {
				want(int32(i), key)
			}
			for _, k := range state.Links {
				link.ReadsOf(k, item.ID, item.Parent, read)
			}
		}
	}
	for _, s := range l.Composition.RosterLinks {
		l.rosterReads(s, want)
	}
	out := map[int32][]*scene.Spec{}
	for i, list := range keys {
		slices.Sort(list) // maps have no order; a layout does
		for _, key := range list {
			if spec := l.Items[i].Spec(key); spec != nil {
				out[i] = append(out[i], spec)
			} else {
				l.lacks[lack{i, key}] = true
			}
		}
	}
	return out
}

// meant returns the keys that a key stands for: mostly itself, or those of all vertices of which a formula
// chooses one.
func (l *Layout) meant(i int32, key string) []string {
	if formula.Vertices(key) {
		return formula.Chosen(key, l.Items[i])
	}
	return []string{key}
}

// spreadReads calls with every property that a link on a roster looks at or drives.
func (l *Layout) rosterReads(s *scene.RosterLink, visit func(i int32, key string)) {
	read := func(ref scene.Ref) {
		if i := l.Index(ref.Item); i >= 0 {
			visit(i, ref.Property)
		}
	}
	if s.WeightFrom != nil {
		read(*s.WeightFrom)
	}
	reader := link.ReaderOf(s.Link)
	relative := func(m scene.Member) {
		reader.Neighbours(func(key string) { visit(l.Index(m.Item.ID), key) })
	}
	for _, m := range s.Partners(l.Composition) {
		relative(m)
	}
	var last *scene.Row
	for _, row := range s.Rows(l.Composition) {
		if row.Outer != last { // rows that stand in one come one after the other
			for last = row.Outer; last != nil; last = last.Outer {
				for _, m := range last.Members {
					relative(m)
				}
			}
			last = row.Outer
		}
		for _, m := range row.Members {
			reader.Visit(m.Item.ID, m.Item.Parent, read)
			relative(m)
			visit(l.Index(m.Item.ID), m.Key)
		}
	}
}

// plain reports whether a property has its slot in any case.
func (l *Layout) plain(i int32, key string) bool {
	item := l.Items[i]
	_, known := kindOffsets[item.Kind].keys[key]
	return known || item.Control(scene.ID(key)) != nil
}

// Covers reports whether everything that the links of a property of item i ask for has its slot, and
// whether the item's own slots are still those it needs: where not, the composition has to be laid
// out anew.
func (l *Layout) Covers(i int32, key string) bool {
	item := l.Items[i]
	if _, ok := l.Property(i, key); !ok {
		return false
	}
	for _, k := range item.State(key).Links {
		if l.lacks[lack{i, scene.WeightKey(k.ID)}] {
			return false
		}
		held := true
		link.ReadsOf(k, item.ID, item.Parent, func(read scene.Ref) {
			from := l.Index(read.Item)
			held = held && (from < 0 || l.has(from, read.Property))
		})
		if !held {
			return false
		}
	}
	for key := range item.States {
		if _, ok := l.Property(i, key); scene.Extra(key) && !ok {
			return false
		}
	}
	for _, spec := range l.Specs(i)[len(scene.Of(item.Kind)):] {
		if _, weight := scene.WeightOf(spec.Key); weight && item.Spec(spec.Key) == nil {
			return false
		}
	}
	return true
}

// has reports whether what a key stands for has its slots, as far as there is such a property at all.
func (l *Layout) has(i int32, key string) bool {
	for _, key := range l.meant(i, key) {
		if _, ok := l.Property(i, key); !ok {
			if l.Items[i].Spec(key) != nil {
				return false
			}
			l.lacks[lack{i, key}] = true
		}
	}
	return true
}

// CoversRoster is Covers for a link on a roster.
func (l *Layout) CoversRoster(s *scene.RosterLink) bool {
	holds := true
	l.rosterReads(s, func(i int32, key string) { holds = holds && l.has(i, key) })
	return holds
}

// Index returns where an item stands in Items, or -1.
func (l *Layout) Index(id scene.ID) int32 {
	if i, ok := l.index[id]; ok {
		return i
	}
	return -1
}

// Specs returns the properties of item i in the order of their slots.
func (l *Layout) Specs(i int32) []*scene.Spec { return l.offsets[i].specs }

// Starts returns the first slot of each property of item i, counted from Base[i].
func (l *Layout) Starts(i int32) []int32 { return l.offsets[i].at }

// Find returns the specification and the first slot of a property, or nil and -1 where there is
// no such item or property, or it has no slot.
func (l *Layout) Find(id scene.ID, key string) (*scene.Spec, int32) {
	i := l.Index(id)
	if i < 0 {
		return nil, -1
	}
	return l.FindAt(i, key)
}

// Property returns where a property of item i stands in Specs.
func (l *Layout) Property(i int32, key string) (int, bool) {
	n, ok := l.offsets[i].keys[key]
	return n, ok
}

// Linked returns where in Specs the properties of item i stand that have links, in order.
func (l *Layout) Linked(i int32) []int {
	var out []int
	for key, state := range l.Items[i].States {
		if len(state.Links) == 0 {
			continue
		}
		if n, ok := l.Property(i, key); ok {
			out = append(out, n)
		}
	}
	slices.Sort(out)
	return out
}

// FindAt is Find for the item at index i.
func (l *Layout) FindAt(i int32, key string) (*scene.Spec, int32) {
	o := &l.offsets[i]
	if p, ok := o.keys[key]; ok {
		return o.specs[p], l.Base[i] + o.at[p]
	}
	return nil, -1
}

// WorldOf returns the first slot of the world transform of item i.
func (l *Layout) WorldOf(i int32) int32 { return l.World + WorldSize*i }

// Place is the properties that the place of an item is made of, in the order of the slots of
// PlaceSlots.
var Place = []string{"position", "rotationX", "rotationY", "rotation", "scale", "pivot", "attachWeight"}

// PlaceSizes is how many components each of them has.
var PlaceSizes = []int32{3, 1, 1, 1, 3, 3, 1}

// PlaceSlots holds the first slot of each of them, of one item.
type PlaceSlots [7]int32

// Places returns the place slots of every item.
func (l *Layout) Places() []PlaceSlots {
	out := make([]PlaceSlots, len(l.Items))
	for i := range l.Items {
		for k, at := range l.offsets[i].place {
			out[i][k] = l.Base[i] + at
		}
	}
	return out
}
