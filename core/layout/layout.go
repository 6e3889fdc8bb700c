// Package layout gives every component of every property of a composition its place in one flat
// array of numbers, its slot. The array is laid out anew for each change of structure and for nothing else.
package layout

import (
	"slices"

	"wunderkammer/core/formula"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// WorldSize is how many slots the world transform of an item takes: the rows of num.Affine, and
// behind them the rotation about z in degrees, with whole turns counted.
const WorldSize = 13

// Layout is where everything stands in the array.
//
// The array holds one property after the other, for one kind of item after the other: the property of all
// items of that kind lies side by side, in the order of the tree, the components of each together; one that is touched of none of
// them stands once for all. Behind them
// stands, item by item, what one has besides the properties of its kind: its controls, those of its vertices that
// something asks for or that were set, what is derived from it. After all of them stands the world transform of each
// item.
type Layout struct {
	Composition *scene.Composition
	// Items are those of the composition; behind them the copies that some of them show; and behind all these, stage by stage, what pieces
	// show, which are the same items for all pieces of one composition.
	Items   []*scene.Item
	Own     int     // how many of them are those of the composition
	Stages  []Stage // the first is the composition itself
	Depths  []int
	Parents []int32 // index of the parent in Items, -1 at the root
	Hidden  []bool  // the item or something it hangs on is hidden
	Out     []bool  // the item or something it hangs on is not in output
	Kinds   []*Kind // those that there are items of, in the order of the first of each
	Rows    []int32 // where each item stands among those of its kind
	Extras  []int32 // first slot of what each item has besides the properties of its kind
	World   int32   // first slot of the world transforms
	Seen    int32   // first slot of where what pieces show is seen
	Size    int     // slots altogether
	Fed     bool    // what the composition hands off may be set from frame to frame, by a piece that shows it

	stage []int32         // of each item
	shows map[int32]int32 // the stages that pieces show
	sets  []properties    // of each item
	// lacks holds the properties that a link asks for and that do not exist, such as the weight of a link
	// that was removed: where one comes (back), everything has to be laid out anew.
	lacks map[lack]bool
}

type lack struct {
	item int32
	key  string
}

// properties are those that an item has: first those of its kind.
type properties struct {
	kind   *Kind
	specs  []*scene.Spec
	keys   map[string]int // where a property stands in specs
	extras []int32        // of what it has besides: where each starts, counted from Extras
}

// keysOf holds where the properties of each kind stand in scene.Of.
var keysOf = func() map[scene.Kind]map[string]int {
	m := map[scene.Kind]map[string]int{}
	for _, k := range scene.Kinds {
		m[k.Kind] = keyed(scene.Of(k.Kind))
	}
	return m
}()

func keyed(specs []*scene.Spec) map[string]int {
	keys := make(map[string]int, len(specs))
	for i, s := range specs {
		keys[s.Key] = i
	}
	return keys
}

// Of lays out a composition, with slots for some properties that nothing asks for, such as what can only be read.
func Of(c *scene.Composition, also ...scene.Ref) *Layout {
	c.Changed() // rows are read anew, whoever altered what
	l := &Layout{Composition: c, lacks: map[lack]bool{}, shows: map[int32]int32{}}
	l.stages()
	items := l.Items
	l.Parents, l.Hidden, l.Out = make([]int32, len(items)), make([]bool, len(items)), make([]bool, len(items))
	l.Rows, l.Extras, l.sets = make([]int32, len(items)), make([]int32, len(items)), make([]properties, len(items))
	next := l.columns(also)
	extra := l.extras(also)
	for i, item := range items {
		l.Parents[i] = l.In(l.stage[i], item.Parent)
		l.Hidden[i], l.Out[i] = item.Hidden, item.NotInOutput
		if p := l.Holder(int32(i)); p >= 0 {
			l.Hidden[i], l.Out[i] = l.Hidden[i] || l.Hidden[p], l.Out[i] || l.Out[p]
		}
		l.Extras[i] = next
		if more := extra[int32(i)]; len(item.Controls) > 0 || item.Piece != nil || len(more) > 0 || item.Limited() {
			next = l.addExtras(i, more, next)
		}
	}
	l.World = next
	l.Seen = next + int32(WorldSize*len(items))
	l.Size = int(l.Seen) + SeenSize*(len(items)-int(l.Stages[0].Count))
	return l
}

// Lanes returns the copies that item i shows at most, as places in Items: one after the other.
func (l *Layout) Lanes(i int32) (first, n int32) {
	n = int32(l.Items[i].MostCopies())
	if n == 0 {
		return 0, 0
	}
	return l.In(l.stage[i], l.Items[i].FirstLane()), n
}

// addExtras lays out what an item has besides the properties of its kind, from a slot on, and returns the one behind that.
func (l *Layout) addExtras(i int, more []*scene.Spec, from int32) int32 {
	o := &l.sets[i]
	specs := l.Items[i].Specs()
	o.specs = append(specs[:len(specs):len(specs)], more...)
	o.keys = keyed(o.specs)
	next := from
	for _, spec := range o.specs[len(o.kind.Columns):] {
		o.extras = append(o.extras, next-from)
		next += int32(spec.Type.Size())
	}
	return next
}

// extras finds vertices of which something was set or is asked for, and what else is read of items
// by links, by the index of the item.
func (l *Layout) extras(also []scene.Ref) map[int32][]*scene.Spec {
	keys := map[int32][]string{}
	wanted := map[lack]bool{}
	asked := 0
	want := func(i int32, key string) {
		if l.plain(i, key) {
			return
		}
		asked++
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
	stage := int32(0)
	read := func(ref scene.Ref) {
		if from := l.In(stage, ref.Item); from >= 0 {
			want(from, ref.Property)
		}
	}
	gathered := map[gathering]bool{}
	gather := func(g scene.Gathering) {
		asked++
		if at := (gathering{stage, g}); !gathered[at] {
			gathered[at] = true
			l.gathers(stage, g, want)
		}
	}
	readers := map[*scene.Link]link.Reader{} // of what several pieces show
	quiet := map[*scene.Item]bool{}          // items that asked for nothing where a piece showed them before
	for i, item := range l.Items {
		if quiet[item] {
			continue
		}
		before := asked
		stage = l.stage[i]
		for key, state := range item.States {
			if scene.Extra(key) {
				want(int32(i), key)
			}
			for _, k := range state.Links {
				reader, known := readers[k]
				if !known {
					reader = link.ReaderOf(k)
				}
				if !known && stage > 0 {
					readers[k] = reader
				}
				reader.Visit(item.ID, item.Parent, read)
				reader.Gatherings(item.ID, item.Parent, gather)
			}
		}
		if stage > 0 && asked == before {
			quiet[item] = true
		}
	}
	for at := range l.Stages {
		for _, s := range l.Stages[at].Composition.Wiring() {
			stage = int32(at)
			l.rosterReads(stage, s, want, gather)
		}
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
	if syntax.Vertices(key) {
		return formula.Chosen(key, l.Items[i])
	}
	return []string{key}
}

// rosterReads calls with every property that a link on a roster of a stage looks at or drives.
func (l *Layout) rosterReads(stage int32, s *scene.RosterLink, visit func(i int32, key string), gather func(scene.Gathering)) {
	c := l.Stages[stage].Composition
	read := func(ref scene.Ref) {
		if i := l.In(stage, ref.Item); i >= 0 {
			visit(i, ref.Property)
		}
	}
	if s.WeightFrom != nil {
		read(*s.WeightFrom)
	}
	reader := link.ReaderOf(s.Link)
	relative := func(m scene.Member) {
		reader.Neighbours(func(key string) { visit(l.In(stage, m.Item.ID), key) })
	}
	for _, m := range s.Partners(c) {
		relative(m)
	}
	var last *scene.Row
	for _, row := range s.Rows(c) {
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
			reader.Gatherings(m.Item.ID, m.Item.Parent, gather)
			relative(m)
			visit(l.In(stage, m.Item.ID), m.Key)
		}
	}
}

// gathering is what is gathered of a stage.
type gathering struct {
	stage int32
	of    scene.Gathering
}

// gathers calls with every property of a stage that a formula gathers into a list.
func (l *Layout) gathers(stage int32, g scene.Gathering, visit func(i int32, key string)) {
	found, err := l.Stages[stage].Composition.Gather(g)
	if err != nil {
		return
	}
	for _, m := range found.Members {
		if i := l.In(stage, m.Item.ID); i >= 0 && m.Key != "" {
			visit(i, m.Key)
		}
	}
}

// plain reports whether a property has its slot in any case.
func (l *Layout) plain(i int32, key string) bool {
	item := l.Items[i]
	_, known := keysOf[item.Kind][key]
	if known || item.Control(scene.ID(key)) != nil {
		return true
	}
	_, handed := item.HandedAs(key)
	return handed
}

// Covers reports whether everything that the links of a property of item i ask for has its slot, and
// whether the item's own slots are still those it needs: where not, the composition has to be laid
// out anew.
func (l *Layout) Covers(i int32, key string) bool {
	item := l.Items[i]
	if !l.Holds(i, key) {
		return false
	}
	for _, k := range item.State(key).Links {
		if l.lacks[lack{i, scene.WeightKey(k.ID)}] {
			return false
		}
		held := true
		link.ReadsOf(k, item.ID, item.Parent, func(read scene.Ref) {
			from := l.In(l.stage[i], read.Item)
			held = held && (from < 0 || l.has(from, read.Property))
		})
		reader := link.ReaderOf(k)
		reader.Gatherings(item.ID, item.Parent, func(g scene.Gathering) {
			l.gathers(l.stage[i], g, func(from int32, key string) { held = held && l.has(from, key) })
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
	for _, m := range s.Members(l.Composition) {
		if s.Drives(m) && !l.Holds(l.In(0, m.Item.ID), m.Key) {
			return false
		}
	}
	has := func(i int32, key string) { holds = holds && l.has(i, key) }
	l.rosterReads(0, s, has, func(g scene.Gathering) { l.gathers(0, g, has) })
	return holds
}

// Reread takes over what is said of an item, its controls and its weights where none of them came, went or holds another
// kind of value: their names, and soft ranges. Its copies bear its name.
func (l *Layout) Reread(id scene.ID) {
	if i := l.Index(id); i >= 0 {
		l.RereadAt(i)
	}
}

// RereadAt is Reread for item i.
func (l *Layout) RereadAt(i int32) {
	for _, spec := range l.sets[i].specs[len(l.sets[i].kind.Columns):] {
		if fresh := l.Items[i].Spec(spec.Key); fresh != nil && fresh != spec {
			*spec = *fresh
		}
	}
	first, n := l.Lanes(i)
	for k := range n {
		l.Items[first+k].Name = l.Items[i].LaneName(int(k) + 1)
	}
}

// Index returns where an item of the composition, or a copy that one shows, stands in Items, or -1.
func (l *Layout) Index(id scene.ID) int32 { return l.In(0, id) }

// Specs returns the properties of item i: those of its kind, in the order of scene.Of, and behind them all others
// that have slots.
func (l *Layout) Specs(i int32) []*scene.Spec { return l.sets[i].specs }

// Slot returns the first slot of property n in Specs(i).
func (l *Layout) Slot(i int32, n int) int32 {
	o := &l.sets[i]
	if plain := len(o.kind.Columns); n >= plain {
		return l.Extras[i] + o.extras[n-plain]
	}
	c := o.kind.Columns[n]
	return c.First + c.Step*l.Rows[i]
}

// Offset returns where property n in Specs(i) starts, counted from Extras[i]; -1 for one that the item has by its kind.
func (l *Layout) Offset(i int32, n int) int32 {
	o := &l.sets[i]
	if n -= len(o.kind.Columns); n < 0 {
		return -1
	}
	return o.extras[n]
}

// At returns the property that a slot belongs to, and which component of it; item is -1 where there is none.
func (l *Layout) At(slot int32) (item int32, property int, component int32) {
	for _, k := range l.Kinds {
		for n, c := range k.Columns {
			switch at := slot - c.First; {
			case at < 0:
			case c.Step == 0 && at < c.Size: // whose it is can't be told
				return -1, 0, 0
			case at < c.Step*int32(len(k.Items)):
				return k.Items[at/c.Size], n, at % c.Size
			}
		}
	}
	for i := range l.Items {
		o, from := &l.sets[i], l.Extras[i]
		for n, at := range o.extras {
			plain := len(o.kind.Columns)
			if at = slot - from - at; at >= 0 && at < int32(o.specs[plain+n].Type.Size()) {
				return int32(i), plain + n, at
			}
		}
	}
	return -1, 0, 0
}

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
	n, ok := l.sets[i].keys[key]
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
	o := &l.sets[i]
	if n, ok := o.keys[key]; ok {
		return o.specs[n], l.Slot(i, n)
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

// Places returns the first slots of what places every item, in the order of Items and, within, of Place.
func (l *Layout) Places() []PlaceSlots {
	out := make([]PlaceSlots, len(l.Items))
	for _, kind := range l.Kinds {
		for k, key := range Place {
			c := kind.Columns[keysOf[kind.Kind][key]]
			for row, i := range kind.Items {
				out[i][k] = c.First + c.Step*int32(row)
			}
		}
	}
	return out
}
