package wire

import (
	"math"
	"slices"

	"wunderkammer/core/layout"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// What trails something that itself trails something else shows what that showed, longer ago: a row of which each member trails the one
// before it is led to the first of them, each member as much longer back as there are between. So all of them look at one history, in
// place of one for each.

// chained is what a target passes over that was led further back.
type chained struct {
	over, size int32   // the slots that it looked at before
	lags       []int32 // slots that say how late it is, and do not move
}

// trailing is components of a property, side by side, that do nothing but trail others.
type trailing struct {
	parts   []*Target
	first   int32
	looks   int32   // the first slot that they trail
	frames  float64 // how late; NaN where slots say
	formula *Target // what works them out; nil: a link with a delay
	trail   machine.Trail

	head     int32 // where they are led
	times    float64
	total    float64 // frames
	resolved bool
	open     bool // it is being led
	circular bool // it trails itself
}

// farthest bounds the frames that are looked back at once.
const farthest = 1e6

// chains leads what trails something that trails to where that begins.
func chains(l *layout.Layout, targets []Target) {
	units := trailingOf(l, targets)
	if len(units) < 2 {
		return
	}
	longer := map[string]*machine.Program{}
	for _, u := range units {
		u.lead(units)
		if u.head == u.looks || math.Abs(u.total) > farthest {
			continue
		}
		over := &chained{over: u.looks, size: int32(len(u.parts)), lags: u.trail.Slots}
		if u.formula == nil {
			if w := &u.parts[0].Wires[0]; u.total != 0 {
				w.Source, w.Delay, u.parts[0].chained = u.head, u.total, over
			}
			continue
		}
		key := u.trail.Key()
		if longer[key] == nil {
			longer[key] = u.trail.Longer()
		}
		back := u.total
		if len(u.trail.Slots) > 0 {
			back = u.times
		}
		b := &Bound{Program: longer[key], Lane: u.trail.Lane(longer[key], u.head, back)}
		for c := range u.parts {
			b.Looks = append(b.Looks, u.head+int32(c))
		}
		u.formula.Formula, u.formula.chained = b, over
	}
}

// trailingOf finds all that only trails, by its first slot.
func trailingOf(l *layout.Layout, targets []Target) map[int32]*trailing {
	makers := map[int32]*trailing{} // by the slots of formulas
	for k := range targets {
		t := &targets[k]
		if t.Formula == nil || t.List != nil || len(t.Formula.Looks) == 0 {
			continue
		}
		if trail, ok := t.Formula.Program.TrailOf(&t.Formula.Lane); ok {
			u := &trailing{formula: t, trail: trail, looks: trail.Looked(), frames: trail.Frames, first: -1, parts: make([]*Target, t.Size)}
			t.Makes(func(s int32) { makers[s] = u })
		}
	}
	units := map[int32]*trailing{}
	for k := range targets {
		t := &targets[k]
		if !t.passes() {
			continue
		}
		w := &t.Wires[0]
		if w.Delay != 0 {
			units[t.Slot] = &trailing{parts: []*Target{t}, first: t.Slot, looks: w.Source, frames: w.Delay}
			continue
		}
		u := makers[w.Source]
		if u == nil {
			continue
		}
		c := w.Source - u.formula.Slot
		if u.first < 0 {
			u.first = t.Slot - c
		}
		if u.first == t.Slot-c {
			u.parts[c] = t
		}
	}
	still := stillness{l: l, targets: targets}
	for _, u := range makers {
		whole := u.first >= 0
		for _, part := range u.parts {
			whole = whole && part != nil
		}
		for _, s := range u.trail.Slots {
			whole = whole && still.is(s)
		}
		if whole {
			units[u.first] = u
		}
	}
	named(targets, units)
	return units
}

// named leads what looks at a program that gives no more than what trails, to that itself: what is said for where there is none before it
// does not matter where there is one, which always has a value.
func named(targets []Target, units map[int32]*trailing) {
	if len(units) < 2 {
		return
	}
	looked := map[int32]*trailing{}
	for _, u := range units {
		looked[u.looks] = u
	}
	for k := range targets {
		t := &targets[k]
		u := looked[t.Slot]
		if u == nil || t.Formula == nil || t.List != nil || t.Size != int32(len(u.parts)) {
			continue
		}
		if first, ok := t.Formula.Program.Named(&t.Formula.Lane); ok && units[first] != nil {
			u.looks = first
		}
	}
}

// passes reports whether a component of a property takes over what its one link gives as it is.
func (t *Target) passes() bool {
	if t.Formula != nil || t.List != nil || t.Partial || len(t.Wires) != 1 || t.Own != t.Slot {
		return false
	}
	w := &t.Wires[0]
	return w.Response == nil && w.Link.Operation == scene.Replace && w.Weight < 0 && w.Share == 1 && w.Gain == 1 && w.Offset == 0 && !w.Text
}

// lead finds out where something is led: through all that trails likewise. What runs in a circle stays as it is, and is not passed over.
func (u *trailing) lead(units map[int32]*trailing) {
	var path []*trailing
	for at := u; at != nil && !at.resolved && !at.open; at = units[at.looks] {
		at.open = true
		if path = append(path, at); units[at.looks] != nil && units[at.looks].open {
			for k := slices.Index(path, units[at.looks]); k < len(path); k++ {
				path[k].stay()
				path[k].circular = true
			}
		}
	}
	for _, one := range slices.Backward(path) {
		next := units[one.looks]
		switch {
		case one.resolved:
		case next == nil || next.circular || !one.like(next):
			one.stay()
		default:
			one.head, one.times, one.total = next.head, next.times+1, next.total+one.frames
			one.resolved, one.open = true, false
		}
	}
}

func (u *trailing) stay() {
	u.head, u.times, u.total, u.resolved, u.open = u.looks, 1, u.frames, true, false
}

// like reports whether what something trails trails likewise, and is kept within the same limits.
func (u *trailing) like(next *trailing) bool {
	if len(u.parts) != len(next.parts) || len(u.trail.Slots) > 0 != (len(next.trail.Slots) > 0) || len(u.trail.Slots) > 0 && !u.trail.Same(&next.trail) {
		return false
	}
	for c, part := range u.parts {
		a, b := part.Spec, next.parts[c].Spec
		if a != b && (a.Type != b.Type || a.Min != b.Min || a.Max != b.Max || a.Whole != b.Whole || len(a.Options) != len(b.Options)) {
			return false
		}
	}
	return true
}

// stillness tells of slots whether they hold the same at all times.
type stillness struct {
	l       *layout.Layout
	targets []Target
	driven  map[int32]bool
	known   map[int32]bool
}

func (q *stillness) is(slot int32) bool {
	if q.known == nil {
		q.known, q.driven = map[int32]bool{}, map[int32]bool{}
		for k := range q.targets {
			q.targets[k].Makes(func(s int32) { q.driven[s] = true })
		}
	}
	still, known := q.known[slot]
	if !known {
		if i, n, _ := q.l.At(slot); i >= 0 && !q.driven[slot] && q.l.StageOf(i) == 0 {
			item, spec := q.l.Items[i], q.l.Specs(i)[n]
			fed := q.l.Fed && q.l.Composition.HandOff.Of(item.ID, scene.ID(spec.Key)) != nil
			still = item.Piece == nil && spec.Band() < 0 && len(item.State(spec.Key).Pins) == 0 && !fed
		}
		q.known[slot] = still
	}
	return still
}

// ties are the slots that others are led past, or that say how late they are: what drives these does not change by itself.
type ties struct{ passed, lags map[int32]bool }

func (g *graph) tie() {
	g.ties = ties{map[int32]bool{}, map[int32]bool{}}
	for _, t := range g.targets {
		if t.chained == nil {
			continue
		}
		for c := range t.chained.size {
			g.ties.passed[t.chained.over+c] = true
		}
		for _, s := range t.chained.lags {
			g.ties.lags[s] = true
		}
	}
}

// Tied reports whether everything has to be laid out anew where something else drives a slot: since what trails it was led further back, or,
// by pins alone, since it says how late that is.
func (o *Order) Tied(slot int32, pins bool) bool {
	return o.graph.ties.lags[slot] || !pins && o.graph.ties.passed[slot]
}

// trails reports whether a target that was brought in may trail something that trails, or be trailed by it.
func (g *graph) trails(t *Target) bool {
	looks := int32(-1)
	if t.Formula != nil && t.List == nil && len(t.Formula.Looks) > 0 {
		if trail, ok := t.Formula.Program.TrailOf(&t.Formula.Lane); ok {
			looks = trail.Looked()
		}
	} else if t.passes() {
		if w := &t.Wires[0]; w.Delay != 0 {
			looks = w.Source
		}
		for _, reader := range g.dependents.readers[t.Slot] { // others may be led past it
			trailed := false
			g.uses(reader, Uses{Later: func(s int32) { trailed = trailed || s == t.Slot }})
			if trailed {
				return true
			}
		}
	}
	return looks >= 0 && g.maker[looks] > 0
}
