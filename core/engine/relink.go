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
	if p.Cycle != nil { // what it drives was left out
		return nil, false
	}
	if cycle, ok := p.order.Relink(refs); cycle != nil || !ok {
		return cycle, ok
	}
	for len(p.now.values) < p.order.Size() { // slots of formulas
		p.now.values = append(p.now.values, math.NaN())
	}
	p.then, p.wider = nil, nil
	p.changes++
	p.wirings++
	placed := false
	for _, ref := range refs {
		spec, slot := p.Layout.Find(ref.Item, ref.Property)
		for s := slot; s < slot+int32(spec.Type.Size()); s++ {
			p.wired[s] = p.order.Driven(s)
			if !p.wired[s] {
				p.set(s, p.now.own[s], spec)
			}
		}
		placed = placed || slices.Contains(layout.Place, ref.Property)
	}
	p.findHistories()
	p.emitters = map[int32]*emitter{}
	if placed {
		p.findMoving()
		p.now.stale = true
	}
	p.levels = p.levelsOf(p.order.Levels)
	return nil, true
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
