package engine

import (
	"slices"

	"wunderkammer/core/layout"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// Relink brings in the links of some properties as they are now, where nothing else of the structure
// has changed. Where they make a circle, it is returned, and the plan is of no use any more; ok is
// false where everything has to be planned anew.
func (p *Plan) Relink(refs []scene.Ref) (circle *link.Circle, ok bool) {
	if p.Circle != nil { // what it drives was left out
		return nil, false
	}
	placed := false
	for _, ref := range refs {
		i := p.Layout.Index(ref.Item)
		if i < 0 {
			return nil, false
		}
		if circle, ok := p.order.Relink(p.Layout.Items[i], ref.Property); circle != nil || !ok {
			return circle, ok
		}
		spec, slot := p.Layout.FindAt(i, ref.Property)
		for s := slot; s < slot+int32(spec.Type.Size()); s++ {
			p.wired[s] = p.order.Driven(s)
			if !p.wired[s] {
				p.set(s, p.now.own[s])
			}
		}
		placed = placed || slices.Contains(layout.Place, ref.Property)
	}
	p.listen(p.order.Targets())
	p.emitters = map[int32]*emitter{}
	if placed {
		p.findMoving()
		p.now.stale = true
	}
	p.levels = p.levelsOf(p.order.Levels)
	return nil, true
}
