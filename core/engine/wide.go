package engine

import (
	"slices"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// wide returns a plan in which properties have slots that may have none in this one, since no link asks for them:
// what can only be read of items, vertices; and in which others, that are to be driven, have slots of their own. It is this one, where that
// is not so.
func (p *Plan) wide(refs []scene.Ref, driven ...scene.Ref) *Plan {
	if !p.lacksAny(refs, driven) {
		return p
	}
	if p.wider == nil || p.wider.lacksAny(refs, driven) {
		also := slices.Concat(refs, driven)
		for slot := range p.poses {
			also = append(also, property(p.RefOf(slot)))
		}
		p.wider = New(p.Layout.Composition, also...)
		p.wider.Stop = p.Stop
		for slot, x := range p.poses {
			if i, n, c := p.Layout.At(slot); i >= 0 {
				item := p.Layout.Items[i]
				if _, first := p.wider.Layout.Find(item.ID, p.Layout.Specs(i)[n].Key); first >= 0 {
					p.wider.poses[first+c] = x
				}
			}
		}
	}
	return p.wider
}

// property is what a reference is to, whichever component of it is meant.
func property(ref scene.Ref) scene.Ref { return scene.Ref{Item: ref.Item, Property: ref.Property} }

// lacksAny reports whether any of some properties that exist has no slots, or, of those that are to be driven, none of its own.
func (p *Plan) lacksAny(refs, driven []scene.Ref) bool {
	lacks := func(has func(i int32, key string) bool) func(scene.Ref) bool {
		return func(ref scene.Ref) bool {
			i := p.Layout.Index(ref.Item)
			return i >= 0 && !has(i, ref.Property) && p.Layout.Items[i].Spec(ref.Property) != nil
		}
	}
	placed := func(i int32, key string) bool { _, ok := p.Layout.Property(i, key); return ok }
	return slices.ContainsFunc(refs, lacks(placed)) || slices.ContainsFunc(driven, lacks(p.Layout.Holds))
}

// Foresee prepares for what many programs read, each in its scope, and drive, so that CycleOf takes one look at all of it.
func (p *Plan) Foresee(programs []*machine.Program, scopes []*binding.Scope) {
	if p.order == nil { // laid out only
		return
	}
	var refs, driven []scene.Ref
	for k, program := range programs {
		if program != nil {
			refs = append(refs, readsOf(program, scopes[k])...)
		}
	}
	q := p.wide(refs)
	for k, program := range programs {
		if program == nil || len(drivenBy(scopes[k])) == 0 {
			continue
		}
		if _, unsure := q.leads(program, scopes[k]); unsure {
			driven = append(driven, drivenBy(scopes[k])...)
		}
	}
	p.wide(refs, driven...)
}

// drivenBy is the property that a scope drives, if it drives any.
func drivenBy(scope *binding.Scope) []scene.Ref {
	if scope.Self == nil || scope.Target == nil {
		return nil
	}
	return []scene.Ref{{Item: scope.Self.ID, Property: scope.Target.Key}}
}

// readsOf lists the properties that a program and those that it looks at read in a scope.
func readsOf(program *machine.Program, scope *binding.Scope) (refs []scene.Ref) {
	scope.Reads(program, func(ref scene.Ref, _ int, _ bool) { refs = append(refs, ref) })
	return refs
}

// CycleOf returns the cycle that what a scope drives would run in, if a program drove it; nil for none.
func (p *Plan) CycleOf(program *machine.Program, scope *binding.Scope) *wire.Cycle {
	driven := drivenBy(scope)
	if program == nil || len(driven) == 0 || p.order == nil { // laid out only
		return nil
	}
	reads := readsOf(program, scope)
	cycle, unsure := p.wide(reads).leads(program, scope)
	if unsure {
		cycle, _ = p.wide(reads, driven...).leads(program, scope)
	}
	return cycle
}

// leads returns the cycle that what a scope drives would run in, as far as the slots tell. Where the property has none of its own, that is
// unsure: a cycle may be that of another item, and what has no slots at all may be waited for.
func (p *Plan) leads(program *machine.Program, scope *binding.Scope) (cycle *wire.Cycle, unsure bool) {
	i := p.Layout.Index(scope.Self.ID)
	if i < 0 {
		return nil, false
	}
	n, ok := p.Layout.Property(i, scope.Target.Key)
	if !ok {
		return nil, scope.Self.Spec(scope.Target.Key) != nil
	}
	var slots []int32
	scope.Reads(program, func(ref scene.Ref, component int, now bool) {
		if spec, slot := p.Layout.Find(ref.Item, ref.Property); now && spec != nil { // what is looked at at other times makes no cycle
			slots = append(slots, slot+int32(component))
		}
	})
	cycle = p.order.Leads(slots, i, n)
	return cycle, cycle != nil && !p.Layout.Holds(i, scope.Target.Key)
}
