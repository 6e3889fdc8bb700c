package layout

import "wunderkammer/core/scene"

// Kind is the slots of all items of one kind.
type Kind struct {
	Kind    scene.Kind
	Items   []int32  // indices in Layout.Items
	Columns []Column // by property, in the order of scene.Of
}

// OfKind returns the indices of the items of a kind, in the order of Items.
func (l *Layout) OfKind(kind scene.Kind) []int32 {
	for _, k := range l.Kinds {
		if k.Kind == kind {
			return k.Items
		}
	}
	return nil
}

// Column is one property of all items of a kind: where that of the first item stands, how many slots it takes, and how much further on
// that of the next item stands. A step of 0 is a property that nobody touches: nothing is set of it and nothing drives it, so that all
// items read its default from the same slots.
type Column struct{ First, Size, Step int32 }

// usual are the properties that have slots of their own on every item: those of its place, which hands are at all the time.
var usual = func() map[string]bool {
	m := map[string]bool{"opacity": true}
	for _, key := range Place {
		m[key] = true
	}
	return m
}()

// columns lays out the properties that items have by their kind, and returns the slot behind them.
func (l *Layout) columns(also []scene.Ref) (next int32) {
	kinds := map[scene.Kind]*Kind{}
	for i, item := range l.Items {
		k := kinds[item.Kind]
		if k == nil {
			k = &Kind{Kind: item.Kind}
			kinds[item.Kind] = k
			l.Kinds = append(l.Kinds, k)
		}
		l.sets[i] = properties{kind: k, specs: scene.Of(item.Kind), keys: keysOf[item.Kind]}
		l.Rows[i] = int32(len(k.Items))
		k.Items = append(k.Items, int32(i))
	}
	all := l.touched(also)
	for _, k := range l.Kinds {
		touched := all[k.Kind]
		for n, spec := range scene.Of(k.Kind) {
			c := Column{First: next, Size: int32(spec.Type.Size())}
			if len(k.Items) == 1 || usual[spec.Key] || len(touched) > 0 && touched[n] {
				c.Step = c.Size
				next += c.Size * int32(len(k.Items))
			} else {
				next += c.Size
			}
			k.Columns = append(k.Columns, c)
		}
	}
	return next
}

// touched tells for each kind which of its properties something is set of, drives, or asks for slots of.
func (l *Layout) touched(also []scene.Ref) map[scene.Kind][]bool {
	out := map[scene.Kind][]bool{}
	touch := func(item *scene.Item, key string) {
		n, ok := keysOf[item.Kind][key]
		if !ok {
			return
		}
		if out[item.Kind] == nil {
			out[item.Kind] = make([]bool, len(scene.Of(item.Kind)))
		}
		out[item.Kind][n] = true
	}
	for _, ref := range also {
		if i := l.Index(ref.Item); i >= 0 {
			touch(l.Items[i], ref.Property)
		}
	}
	seen := map[*scene.Composition]bool{}
	for at := range l.Stages {
		c := l.Stages[at].Composition
		if seen[c] {
			continue
		}
		seen[c] = true
		for _, item := range l.Items[l.Stages[at].First : l.Stages[at].First+l.Stages[at].Count] {
			for key := range item.States {
				touch(item, key)
			}
			if item.Sound != nil {
				for _, band := range scene.SoundBands {
					touch(item, band)
				}
			}
		}
		for _, s := range c.Wiring() {
			for _, m := range s.Members(c) {
				touch(m.Item, m.Key)
			}
		}
	}
	return out
}

// Holds reports whether a property of item i has slots of its own, which another value can be put into.
func (l *Layout) Holds(i int32, key string) bool {
	n, ok := l.Property(i, key)
	if !ok {
		return false
	}
	k := l.sets[i].kind
	return n >= len(k.Columns) || k.Columns[n].Step > 0
}
