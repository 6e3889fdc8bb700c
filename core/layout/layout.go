// Package layout gives every component of every property of a composition its place in one flat
// column of numbers, the slot. It is laid out anew for each change of structure and for nothing else.
package layout

import "wunderkammer/core/scene"

// WorldSize is how many slots the world transform of an item takes: the rows of num.Affine.
const WorldSize = 12

// Layout is where everything stands in the column.
//
// The column holds, for each item in the order of the tree, all its properties one after the
// other (those of its kind, then its controls); after all of them, the world transform of
// each item in the same order.
type Layout struct {
	Items   []*scene.Item
	Depths  []int
	Parents []int32 // index of the parent in Items, -1 at the root
	Base    []int32 // first slot of each item
	World   int32   // first slot of the world transforms
	Size    int     // slots altogether

	index   map[scene.ID]int32
	offsets []offsets // of each item
}

// offsets holds where each property of an item starts, counted from the item's base.
type offsets struct {
	specs []*scene.Spec
	at    []int32
}

// kindOffsets holds the offsets of items without controls, which are most.
var kindOffsets = func() map[scene.Kind]offsets {
	m := map[scene.Kind]offsets{}
	for _, k := range scene.Kinds {
		m[k.Kind] = measure(scene.Of(k.Kind))
	}
	return m
}()

func measure(specs []*scene.Spec) offsets { return offsets{specs, Offsets(specs)} }

// Offsets returns the first slot of each property of an item, counted from the item's base, and
// behind them the number of slots of the item.
func Offsets(specs []*scene.Spec) []int32 {
	at := make([]int32, len(specs)+1)
	for i, s := range specs {
		at[i+1] = at[i] + int32(s.Type.Size())
	}
	return at
}

// Of lays out a composition.
func Of(c *scene.Composition) *Layout {
	items, depths := c.Tree()
	l := &Layout{
		Items: items, Depths: depths,
		Parents: make([]int32, len(items)),
		Base:    make([]int32, len(items)),
		index:   make(map[scene.ID]int32, len(items)),
		offsets: make([]offsets, len(items)),
	}
	var next int32
	for i, item := range items {
		l.index[item.ID] = int32(i)
		l.Parents[i] = l.Index(item.Parent)
		l.offsets[i] = kindOffsets[item.Kind]
		if len(item.Controls) > 0 {
			l.offsets[i] = measure(item.Specs())
		}
		l.Base[i] = next
		next += l.offsets[i].at[len(l.offsets[i].specs)]
	}
	l.World = next
	l.Size = int(next) + WorldSize*len(items)
	return l
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
// no such item or property.
func (l *Layout) Find(id scene.ID, key string) (*scene.Spec, int32) {
	i := l.Index(id)
	if i < 0 {
		return nil, -1
	}
	o := &l.offsets[i]
	for p, s := range o.specs {
		if s.Key == key {
			return s, l.Base[i] + o.at[p]
		}
	}
	return nil, -1
}

// WorldOf returns the first slot of the world transform of item i.
func (l *Layout) WorldOf(i int32) int32 { return l.World + WorldSize*i }
