package wire

import (
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// bind returns where an input comes from. What is not there is not a number, so that the link passes
// on what is below it.
func (t *lowerer) bind(s *stack, scope *binding.Scope, in *machine.Input, of parts, below []Target, b *Bound) machine.Source {
	switch in.Kind {
	case machine.Constant:
		return machine.Source{X: in.Value}
	case machine.Words:
		return machine.Source{Kind: machine.FromText, Text: in.Text}
	case machine.Frame:
		return machine.Source{Kind: machine.FromFrame}
	case machine.Property:
		item, key := scope.Bind(in)
		if spec, slot := t.find(s.item, scene.Ref{Item: item, Property: key}); spec != nil && spec.Type == in.Type {
			return machine.Source{Kind: machine.FromValues, Slot: slot + int32(in.Component)}
		}
	case machine.Index, machine.Number, machine.Count, machine.Share:
		return machine.Source{X: scope.Counted(in.Kind, in.Outer)}
	case machine.Look:
		slot := of.looks[in.Look] + int32(in.Component)
		b.Looks = append(b.Looks, slot)
		return machine.Source{X: float64(slot)}
	case machine.Gathered:
		return machine.Source{Kind: machine.FromValues, Slot: of.lists[in.Look] + int32(in.Component)}
	case machine.HowMany:
		if found := scope.MembersOf(machine.Many{Of: in.Many, Relative: in.Relative, Steps: in.Steps, Outer: in.Outer}); found != nil {
			return machine.Source{X: float64(len(found.Members))}
		}
	case machine.ItemIndex:
		item, _ := scope.Bind(in)
		if i := t.l.In(t.l.StageOf(s.item), item); i >= 0 {
			b.Items = append(b.Items, i)
			return machine.Source{X: float64(i)}
		}
	case machine.Own:
		if from := t.given(s); from >= 0 {
			return machine.Source{Kind: machine.FromValues, Slot: from + int32(in.Component)}
		}
		return machine.Source{Kind: machine.FromOwn, Slot: s.slot + int32(in.Component)}
	case machine.Below:
		return t.below(s, in.Component, below)
	case machine.Given:
		if from, ok := s.given[in.Component]; ok {
			return from
		}
	case machine.WorldOf:
		item, _ := scope.Bind(in)
		if i := t.l.In(t.l.StageOf(s.item), item); i >= 0 {
			return machine.Source{Kind: machine.FromValues, Slot: t.l.WorldOf(i) + int32(in.Component)}
		}
	case machine.OwnPlace:
		if s.vertex() {
			if in.Component < s.spec.Type.Size() {
				return machine.Source{Kind: machine.FromOwn, Slot: s.slot + int32(in.Component)}
			}
			return machine.Source{X: 0}
		}
		if spec, slot := t.l.FindAt(s.item, scene.Stand); spec != nil {
			return machine.Source{Kind: machine.FromValues, Slot: slot + int32(in.Component)}
		}
		if spec, slot := t.l.FindAt(s.item, "position"); spec != nil {
			return machine.Source{Kind: machine.FromOwn, Slot: slot + int32(in.Component)}
		}
	case machine.World:
		hangsOn := t.l.Parents[s.item]
		if s.vertex() {
			hangsOn = s.item
		}
		if hangsOn >= 0 && (s.vertex() || !t.stays(s.item, in.Component)) {
			return machine.Source{Kind: machine.FromValues, Slot: t.l.WorldOf(hangsOn) + int32(in.Component)}
		}
		return t.stood(s.item, in.Component)
	case machine.Stood:
		return t.stood(s.item, in.Component)
	case machine.Hangs:
		if spec, slot := t.l.FindAt(s.item, "attachWeight"); spec != nil && t.l.Parents[s.item] >= 0 && !s.vertex() {
			return machine.Source{Kind: machine.FromValues, Slot: slot}
		}
		return machine.Source{X: 100}
	}
	return machine.Source{X: notANumber}
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
func (t *lowerer) stood(item int32, component int) machine.Source {
	a := &t.l.Items[item].Attachment
	switch {
	case t.l.Parents[item] < 0 || a.Stayed == nil && component < 12:
		return machine.Source{X: identity[component]}
	case component == 12:
		return machine.Source{X: a.Turns}
	}
	return machine.Source{X: a.Stayed[component]}
}

// below returns where what the links under this one make of a component stands.
func (t *lowerer) below(s *stack, component int, made []Target) machine.Source {
	if component >= s.spec.Type.Size() { // the vertex of a path lies in its plane
		return machine.Source{X: 0}
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
		return machine.Source{Kind: machine.FromValues, Slot: part.Slot}
	}
	return machine.Source{Kind: machine.FromOwn, Slot: s.slot + int32(component)}
}
