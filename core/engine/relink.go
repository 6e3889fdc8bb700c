package engine

import (
	"math"
	"slices"

	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// Relink brings in the links of some properties as they are now, where nothing else of the structure
// has changed. Where they make a cycle, it is returned, and the plan is of no use any more; ok is
// false where everything has to be planned anew.
func (p *Plan) Relink(refs []scene.Ref) (cycle *wire.Cycle, ok bool) {
	places := make([]wire.Place, len(refs))
	for k, ref := range refs {
		places[k] = wire.Place{Item: p.Layout.Index(ref.Item), Property: ref.Property}
	}
	return p.relink(places)
}

// RelinkStaged is Relink for properties in a composition wherever pieces show it.
func (p *Plan) RelinkStaged(of *scene.Composition, refs []scene.Ref) (cycle *wire.Cycle, ok bool) {
	var places []wire.Place
	for at := 1; at < len(p.Layout.Stages); at++ {
		s := &p.Layout.Stages[at]
		if s.Composition != of {
			continue
		}
		if s.Apart { // it has a plan of its own
			return nil, false
		}
		for _, ref := range refs {
			places = append(places, wire.Place{Item: p.Layout.In(int32(at), ref.Item), Property: ref.Property})
		}
	}
	return p.relink(places)
}

func (p *Plan) relink(places []wire.Place) (cycle *wire.Cycle, ok bool) {
	if p.Cycle != nil { // what it drives was left out
		return nil, false
	}
	for _, at := range places {
		if at.Item >= 0 && p.Layout.Items[at.Item].Kind == scene.Piece && slices.Contains(scene.Clocked, at.Property) { // it may be at another time now
			return nil, false
		}
	}
	if cycle, ok := p.order.Relink(places); cycle != nil || !ok {
		return cycle, ok
	}
	for len(p.now.values) < p.order.Size() { // slots of formulas
		p.now.values = append(p.now.values, math.NaN())
	}
	p.then, p.wider, p.aparts = nil, nil, nil
	p.changes++
	p.wirings++
	placed := false
	for _, at := range places {
		spec, slot := p.Layout.FindAt(at.Item, at.Property)
		for s := slot; s < slot+int32(spec.Type.Size()); s++ {
			p.wired[s] = p.order.Driven(s)
			if !p.wired[s] {
				p.set(s, p.now.own[s], spec.Part(int(s-slot)))
			}
		}
		placed = placed || slices.Contains(layout.Place, at.Property)
	}
	p.findHistories()
	p.emitters = map[int32]*emitter{}
	if placed {
		p.findMoving()
		p.now.stale = true
	}
	p.levels = p.levelsOf(p.order.Levels, p.levels)
	return nil, true
}

// Respond brings in how links of poses answer their control now: where its stops stand, and how it gets from one to the
// next. It is false where everything has to be planned anew.
func (p *Plan) Respond(control scene.Ref) bool {
	driven, ok := p.order.Respond(control)
	if !ok {
		return false
	}
	p.levels = p.levelsOf(p.order.Levels, nil)
	spec, slot := p.Layout.Find(control.Item, control.Property)
	if spec == nil {
		return false
	}
	p.then, p.wider = nil, nil
	p.changes++
	for _, s := range driven {
		if i, _, _ := p.Layout.At(s); i >= 0 {
			p.touch(i)
		}
	}
	p.forget(slotsOf(slot, spec)) // what follows from the control is another thing at all times
	return true
}

// Renamed brings in which members rows find by their names now. Names that formulas hold, since nothing was called so, are
// for the caller: also are the properties with such formulas. Where rows make a cycle now, or everything has to be planned
// anew, it is false.
func (p *Plan) Renamed(also []scene.Ref) (regrouped, ok bool) {
	changed := p.order.Regroup()
	for _, s := range p.Layout.Composition.Wiring() {
		if s.ByName() && !p.Layout.CoversRoster(s) {
			return true, false
		}
	}
	if len(changed)+len(also) == 0 {
		return false, true
	}
	if len(changed)+len(also) > maxRelinked {
		return len(changed) > 0, false
	}
	cycle, ok := p.Relink(append(changed, also...))
	return len(changed) > 0, ok && cycle == nil
}

// maxRelinked bounds the members of a roster whose link is brought in without planning everything anew.
const maxRelinked = 500

// RelinkRoster is Relink for a link on a roster that was altered itself, and neither its members nor
// what it drives of them.
func (p *Plan) RelinkRoster(s *scene.RosterLink) (cycle *wire.Cycle, ok bool) {
	members := s.Members(p.Layout.Composition)
	if len(members) > maxRelinked || !p.Layout.CoversRoster(s) {
		return nil, false
	}
	var refs []scene.Ref
	for _, m := range members {
		if s.Drives(m) {
			refs = append(refs, scene.Ref{Item: m.Item.ID, Property: m.Key})
		}
	}
	p.order.RereadRosters()
	return p.Relink(refs)
}
