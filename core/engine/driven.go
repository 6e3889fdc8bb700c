package engine

import (
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// DrivenSlot is one component of a property that links drive.
type DrivenSlot struct {
	Slot    int32
	Spec    *scene.Spec
	Limited bool // the designer set limits of his own on it
}

// DrivenSlots lists all components of properties that links drive, but those of what is worked out on the way and of copies.
func (p *Plan) DrivenSlots() (out []DrivenSlot) {
	l := p.Layout
	for i, item := range l.Items[:l.Own] {
		for n, spec := range l.Specs(int32(i)) {
			first := l.Slot(int32(i), n)
			for s := first; s < first+int32(spec.Type.Size()); s++ {
				if s < l.World && p.wired[s] {
					state := item.State(spec.Key)
					out = append(out, DrivenSlot{s, spec.Part(int(s - first)), state.Limited()})
				}
			}
		}
	}
	return out
}

// RefOf returns the property that a slot belongs to, and its component.
func (p *Plan) RefOf(slot int32) scene.Ref {
	i, n, c := p.Layout.At(slot)
	if i < 0 {
		return scene.Ref{}
	}
	spec := p.Layout.Specs(i)[n]
	ref := scene.Ref{Item: p.Layout.Items[i].ID, Property: spec.Key}
	if parts := spec.Type.Components(); parts != nil {
		ref.Component = parts[c]
	}
	return ref
}

// NotFinite returns the formulas of links that give something that is not finite at the frame last evaluated, each once. What refers
// to a member that a roster does not have gives nothing on purpose, and is left out.
func (p *Plan) NotFinite() (out []Broken) {
	seen := map[scene.ID]bool{}
	p.worked(func(t *wire.Target, w *wire.Wire) {
		v := p.now.values[w.Source]
		if v-v == 0 || seen[w.Link.ID] || p.lacks(p.order.Target(w.Source)) {
			return
		}
		seen[w.Link.ID] = true
		out = append(out, Broken{At: t.Ref(p.Layout), Link: w.Link, Frame: p.now.frame, Frames: 1})
	})
	return out
}
