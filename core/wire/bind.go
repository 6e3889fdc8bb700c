package wire

import (
	"wunderkammer/core/formula"
	"wunderkammer/core/scene"
)

// bind returns where an input comes from. What is not there is not a number, so that the link passes
// on what is below it.
func (t *lowerer) bind(s *stack, scope *formula.Scope, in *formula.Input, looks []int32, below []Target, b *Bound) formula.Source {
	switch in.Kind {
	case formula.Constant:
		return formula.Source{X: in.Value}
	case formula.Words:
		return formula.Source{Kind: formula.FromText, Text: in.Text}
	case formula.Frame:
		return formula.Source{Kind: formula.FromFrame}
	case formula.Property:
		if spec, slot := t.l.Find(scope.Bind(in)); spec != nil && spec.Type == in.Type {
			return formula.Source{Kind: formula.FromValues, Slot: slot + int32(in.Component)}
		}
	case formula.Index, formula.Number, formula.Count, formula.Share:
		return formula.Source{X: scope.Counted(in.Kind, in.Outer)}
	case formula.Look:
		slot := looks[in.Look] + int32(in.Component)
		b.Looks = append(b.Looks, slot)
		return formula.Source{X: float64(slot)}
	case formula.ItemIndex:
		item, _ := scope.Bind(in)
		if i := t.l.Index(item); i >= 0 {
			b.Items = append(b.Items, i)
			return formula.Source{X: float64(i)}
		}
	case formula.Own:
		if from := t.arranged(s); from >= 0 {
			return formula.Source{Kind: formula.FromValues, Slot: from + int32(in.Component)}
		}
		return formula.Source{Kind: formula.FromOwn, Slot: s.slot + int32(in.Component)}
	case formula.Below:
		return t.below(s, in.Component, below)
	case formula.Given:
		if from, ok := s.given[in.Component]; ok {
			return from
		}
	case formula.WorldOf:
		item, _ := scope.Bind(in)
		if i := t.l.Index(item); i >= 0 {
			return formula.Source{Kind: formula.FromValues, Slot: t.l.WorldOf(i) + int32(in.Component)}
		}
	case formula.OwnPlace:
		if s.vertex() {
			if in.Component < s.spec.Type.Size() {
				return formula.Source{Kind: formula.FromOwn, Slot: s.slot + int32(in.Component)}
			}
			return formula.Source{X: 0}
		}
		if spec, slot := t.l.FindAt(s.item, scene.Stand); spec != nil {
			return formula.Source{Kind: formula.FromValues, Slot: slot + int32(in.Component)}
		}
		if spec, slot := t.l.FindAt(s.item, "position"); spec != nil {
			return formula.Source{Kind: formula.FromOwn, Slot: slot + int32(in.Component)}
		}
	case formula.World:
		hangsOn := t.l.Parents[s.item]
		if s.vertex() {
			hangsOn = s.item
		}
		if hangsOn >= 0 && (s.vertex() || !t.stays(s.item, in.Component)) {
			return formula.Source{Kind: formula.FromValues, Slot: t.l.WorldOf(hangsOn) + int32(in.Component)}
		}
		return t.stood(s.item, in.Component)
	case formula.Stood:
		return t.stood(s.item, in.Component)
	case formula.Hangs:
		if spec, slot := t.l.FindAt(s.item, "attachWeight"); spec != nil && t.l.Parents[s.item] >= 0 && !s.vertex() {
			return formula.Source{Kind: formula.FromValues, Slot: slot}
		}
		return formula.Source{X: 100}
	}
	return formula.Source{X: notANumber}
}

// stays reports whether an item does not take over from its parent what a component of its transform says: its place, or, behind
// the components of that, its rotation.
func (t *lowerer) stays(item int32, component int) bool {
	a := &t.l.Items[item].Attachment
	if component == 12 {
		return a.NoRotation
	}
	return a.NoPosition
}

// stood returns a component of the transform of an item's parent as it stood when the item was attached.
func (t *lowerer) stood(item int32, component int) formula.Source {
	a := &t.l.Items[item].Attachment
	switch {
	case t.l.Parents[item] < 0 || a.Stayed == nil && component < 12:
		return formula.Source{X: identity[component]}
	case component == 12:
		return formula.Source{X: a.Turns}
	}
	return formula.Source{X: a.Stayed[component]}
}

// below returns where what the links under this one make of a component stands.
func (t *lowerer) below(s *stack, component int, made []Target) formula.Source {
	if component >= s.spec.Type.Size() { // the vertex of a path lies in its plane
		return formula.Source{X: 0}
	}
	for i := range made {
		if made[i].component != component {
			continue
		}
		part := made[i]
		part.Slot, part.Partial = t.next, true
		part.Wires = append([]Wire(nil), made[i].Wires...)
		t.next++
		t.targets = append(t.targets, part)
		return formula.Source{Kind: formula.FromValues, Slot: part.Slot}
	}
	return formula.Source{Kind: formula.FromOwn, Slot: s.slot + int32(component)}
}
