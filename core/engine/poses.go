package engine

import "wunderkammer/core/scene"

// Pose shows a driven property at another value for the time being, whatever drives it; an absent
// value takes the pose back. Poses are no part of the document.
func (p *Plan) Pose(ref scene.Ref, value scene.Value) {
	spec, slot := p.Layout.Find(ref.Item, ref.Property)
	if spec == nil {
		return
	}
	for k := range int32(spec.Type.Size()) {
		delete(p.poses, slot+k)
		switch {
		case value.IsText():
			p.poses[slot+k] = p.handle(value.Str())
		case !value.Absent():
			p.poses[slot+k] = spec.Limit(value.At(int(k)))
		}
	}
	p.now.stale = true
}

// holdPoses puts the poses over what the links made.
func (p *Plan) holdPoses() {
	for slot, v := range p.poses {
		p.now.values[slot] = v
	}
}
