package engine

import (
	"slices"

	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
)

// Patch brings in changed own values or changed pins of some properties. It is false, and the plan of no use any more, where one has no
// slots of its own: then everything has to be laid out anew.
func (p *Plan) Patch(refs ...scene.Ref) bool {
	var after patching
	for _, ref := range refs {
		if i := p.Layout.Index(ref.Item); i >= 0 && !p.patch(i, ref.Property, &after) {
			return false
		}
	}
	p.patched(&after)
	return true
}

// patching is what has to be looked at once, after all that was patched.
type patching struct {
	moving bool // whether items move that did not, or the other way round
	bounds bool // windows or delays may be longer now than can be worked out, or no longer so
	slots  []int32
}

func (p *Plan) patch(i int32, key string, after *patching) bool {
	spec, slot := p.Layout.FindAt(i, key)
	if spec == nil {
		return true
	}
	if !p.Layout.Holds(i, key) {
		return false
	}
	p.touch(i)
	_, had := p.trackOf[slot]
	p.loadProperty(i, spec, slot)
	_, has := p.trackOf[slot]
	if had != has && p.order.Tied(slot, true) {
		return false
	}
	p.feedAgain(i, key, had != has)
	placing := slices.Contains(layout.Place, key)
	if had != has || key == layout.Place[len(layout.Place)-1] || key == scene.CopiesShow {
		p.wirings++
		after.moving = after.moving || placing
	}
	p.now.stale = p.now.stale || placing
	if p.Layout.Items[i].Kind == scene.Piece {
		p.redone = true // for what tells what changed: all that it shows may be seen elsewhere
	}
	after.bounds = after.bounds || p.past.Bounds(slot)
	after.slots = append(after.slots, slotsOf(slot, spec)...)
	return true
}

// slotsOf lists the slots of a property whose first is given.
func slotsOf(first int32, spec *scene.Spec) (out []int32) {
	for c := range int32(spec.Type.Size()) {
		out = append(out, first+c)
	}
	return out
}

// patched does what patching left for the end.
func (p *Plan) patched(after *patching) {
	if len(after.slots) == 0 {
		return
	}
	p.wider = nil
	p.changes++
	if after.moving {
		p.findMoving()
		p.movingLevels()
	}
	if after.bounds {
		p.findHistories()
		p.emitters = map[int32]*emitter{}
		return
	}
	p.forget(after.slots)
}

// touch notes that an item changed otherwise than from frame to frame.
func (p *Plan) touch(i int32) {
	if p.touched = append(p.touched, i); len(p.touched) > len(p.Layout.Items) { // nobody looks, or all have to be looked at
		p.touched = p.touched[:0]
		p.wirings++
	}
}

// forget drops what is kept of other times that depends on some slots.
func (p *Plan) forget(slots []int32) {
	depends := p.past.Changed(slots)
	for _, e := range p.emitters {
		if e.depSlice != nil && depends(e.depSlice) {
			e.depSlice = nil
			e.forget()
		}
	}
	if p.asking != nil && p.asking.with != nil && depends(p.asking.with) {
		p.asking = nil
	}
}
