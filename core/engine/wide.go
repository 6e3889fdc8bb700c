package engine

import (
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// wide returns a plan in which properties have slots that may have none in this one, since no link asks for them:
// what can only be read of items, vertices. It is this one, where that is not so.
func (p *Plan) wide(refs []scene.Ref) *Plan {
	missing := p.missing(refs)
	if len(missing) == 0 {
		return p
	}
	if p.wider == nil || len(p.wider.missing(missing)) > 0 {
		p.wider = New(p.Layout.Composition, missing...)
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

// missing lists those of some properties that exist and have no slots.
func (p *Plan) missing(refs []scene.Ref) (out []scene.Ref) {
	for _, ref := range refs {
		if spec, _ := p.Layout.Find(ref.Item, ref.Property); spec == nil {
			if i := p.Layout.Index(ref.Item); i >= 0 && p.Layout.Items[i].Spec(ref.Property) != nil {
				out = append(out, scene.Ref{Item: ref.Item, Property: ref.Property})
			}
		}
	}
	return out
}

// Foresee prepares for what many programs read, each in its scope, so that CycleOf takes one look at all of it.
func (p *Plan) Foresee(programs []*machine.Program, scopes []*binding.Scope) {
	if p.order == nil { // laid out only
		return
	}
	var refs []scene.Ref
	for k, program := range programs {
		if program != nil {
			refs = append(refs, readsOf(program, scopes[k])...)
		}
	}
	p.wide(refs)
}

// readsOf lists the properties that a program and those that it looks at read in a scope.
func readsOf(program *machine.Program, scope *binding.Scope) (refs []scene.Ref) {
	scope.Reads(program, func(ref scene.Ref, _ int, _ bool) { refs = append(refs, ref) })
	return refs
}

// CycleOf returns the cycle that what a scope drives would run in, if a program drove it; nil for none.
func (p *Plan) CycleOf(program *machine.Program, scope *binding.Scope) *wire.Cycle {
	if program == nil || scope.Self == nil || scope.Target == nil || p.order == nil { // laid out only
		return nil
	}
	at := scene.Ref{Item: scope.Self.ID, Property: scope.Target.Key}
	q := p.wide(append(readsOf(program, scope), at))
	i := q.Layout.Index(at.Item)
	if i < 0 {
		return nil
	}
	n, ok := q.Layout.Property(i, at.Property)
	if !ok {
		return nil
	}
	var slots []int32
	scope.Reads(program, func(ref scene.Ref, component int, now bool) {
		if spec, slot := q.Layout.Find(ref.Item, ref.Property); now && spec != nil { // what is looked at at other times makes no cycle
			slots = append(slots, slot+int32(component))
		}
	})
	return q.order.Leads(slots, i, n)
}
