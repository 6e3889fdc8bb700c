// Package wire turns the links of a composition into wires between single components, and puts everything
// that is worked out at a time in an order in which every source is ready before what follows it.
package wire

import (
	"math"
	"slices"

	"wunderkammer/core/layout"
	"wunderkammer/core/link"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// Wire is what one link does to one component of the property it is on.
type Wire struct {
	Source       int32 // slot
	Weight       int32 // slot of its weight, or -1 where that is whole
	Gain, Offset float64
	Part         int     // component of the outputs of the response
	Share        float64 // a weight that is no property, of a link on a roster: 0 to 1
	Delay        float64
	Link         *scene.Link
	Response     *link.Response // what the source goes through first; nil: nothing
	Worked       bool           // the source is what the link's own formula gives
	Text         bool           // the numbers stand for texts

	original int32       // original slot of the source + 1; 0 where it was not relocated
	made     *scene.Link // the link that it was made of, where Link is one of its own
}

// of returns the link that the wire was made of.
func (w *Wire) of() *scene.Link {
	if w.made != nil {
		return w.made
	}
	return w.Link
}

// Plain reports whether the wire does nothing but replace its target by source × Gain + Offset.
func (w *Wire) Plain() bool {
	return w.Response == nil && w.Link.Operation == scene.Replace && w.Weight < 0 && w.Share == 1 && w.Delay == 0
}

// Target is one driven component of a property, with the wires that drive it, the lowest first; or
// something on the way there that has slots behind those of the layout.
type Target struct {
	Slot    int32
	Own     int32       // slot of the own value that the wires begin with
	Size    int32       // slots: more than one only for a formula
	Spec    *scene.Spec // for its limits
	Wires   []Wire
	Formula *Bound // in place of wires: what works out a formula
	List    *List  // of what is made of a list; nil for anything else
	Partial bool   // what the lower links of a stack make of a component, without its limits

	item      int32
	property  int
	component int
	original  int32 // original slot + 1; 0 where it was not relocated
	chained   *chained
}

// List is what a target has that is made of a list, or is worked out for a member of one.
type List struct {
	Reduction *machine.Reduction // in place of wires; nil at a member
	Crowded   bool               // it is left out, since lists would read too much
	Of        string             // what it is made of, where several formulas may read it: it stays where the one goes that asked for it first
	cost      int                // in the values that it reads
}

// Reduced returns what is made of a list, in place of wires; nil for any other target.
func (t *Target) Reduced() *machine.Reduction {
	if t.List == nil {
		return nil
	}
	return t.List.Reduction
}

// Shared reports whether several formulas may read what the target makes.
func (t *Target) Shared() bool { return t.List != nil && t.List.Of != "" }

// Uses is asked for what something is made of.
type Uses struct {
	Now   func(slot int32) // as it is at the same time
	Own   func(slot int32) // likewise, as it is under the links
	Later func(slot int32) // as it is at another time
	Shape func(item int32) // where an item stands and what it looks like
}

// Uses calls with all that a target is made of; what is nil is not called.
func (t *Target) Uses(u Uses) {
	call := func(f func(int32), x int32) {
		if f != nil && x >= 0 {
			f(x)
		}
	}
	call(u.Own, t.Own)
	for k := range t.Wires {
		w := &t.Wires[k]
		if w.Delay != 0 {
			call(u.Later, w.Source)
		} else {
			call(u.Now, w.Source)
		}
		call(u.Now, w.Weight)
	}
	if r := t.Reduced(); r != nil {
		r.Uses(func(s int32) { call(u.Now, s) })
	}
	f := t.Formula
	if f == nil {
		return
	}
	for _, s := range f.Lane.In {
		switch s.Kind {
		case machine.FromValues:
			call(u.Now, s.Slot)
		case machine.FromOwn:
			call(u.Own, s.Slot)
		}
	}
	for _, s := range f.Looks {
		call(u.Later, s)
	}
	for _, i := range f.Items {
		call(u.Shape, i)
	}
}

// notANumber stands for what is not there.
var notANumber = math.NaN()

// identity is the world transform of what hangs on nothing.
var identity = [layout.WorldSize]float64{0: 1, 5: 1, 10: 1}

// Makes calls with every slot that the target fills.
func (t *Target) Makes(slot func(int32)) {
	if t.Formula != nil {
		for _, s := range t.Formula.Lane.Out {
			slot(s)
		}
		return
	}
	for c := range t.Size {
		slot(t.Slot + c)
	}
}

// Ref returns the property that the target drives, or is on the way to.
func (t *Target) Ref(l *layout.Layout) scene.Ref {
	return scene.Ref{Item: l.Items[t.item].ID, Property: l.Specs(t.item)[t.property].Key}
}

// Original returns the slot of the target before it was relocated.
func (t *Target) Original() int32 {
	if t.original > 0 {
		return t.original - 1
	}
	return t.Slot
}

// Original returns the slot of the source before the target was relocated.
func (w *Wire) Original() int32 {
	if w.original > 0 {
		return w.original - 1
	}
	return w.Source
}

// Moved returns the target with its slots elsewhere. What it looks at at other times keeps its slot.
func (t *Target) Moved(move func(int32) int32) Target {
	out := *t
	if r := t.Reduced(); r != nil {
		list := *t.List
		list.Reduction, out.Slot = r.Moved(move), move(t.Slot)
		out.List = &list
		return out
	}
	if t.Formula != nil {
		f := *t.Formula
		f.Lane.In, f.Lane.Out = slices.Clone(f.Lane.In), slices.Clone(f.Lane.Out)
		for k := range f.Lane.In {
			if s := &f.Lane.In[k]; s.Kind == machine.FromValues || s.Kind == machine.FromOwn {
				s.Slot = move(s.Slot)
			}
		}
		for k, s := range f.Lane.Out {
			f.Lane.Out[k] = move(s)
		}
		out.Formula = &f
		return out
	}
	out.Slot, out.Own, out.original = move(t.Slot), move(t.Own), t.Slot+1
	out.Wires = slices.Clone(t.Wires)
	for k := range out.Wires {
		w := &out.Wires[k]
		if w.Delay != 0 {
			w.original = w.Source + 1
		} else {
			w.Source = move(w.Source)
		}
		if w.Weight >= 0 {
			w.Weight = move(w.Weight)
		}
	}
	return out
}
