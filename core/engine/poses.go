package engine

import "wunderkammer/core/scene"

// Pose shows a property at another value for the time being, whatever drives it; an absent value takes the pose back. Poses are no part
// of the document. It is false where the property has no slots of its own to be posed: then a plan has to be made that gives it some.
func (p *Plan) Pose(ref scene.Ref, value scene.Value) bool {
	spec, slot := p.Layout.Find(ref.Item, ref.Property)
	if spec == nil {
		return true
	}
	if !p.Layout.Holds(p.Layout.Index(ref.Item), ref.Property) {
		return value.Absent()
	}
	p.wider = nil
	p.changes++
	for k := range int32(spec.Type.Size()) {
		if _, posed := p.poses[slot+k]; posed && !p.wired[slot+k] { // nothing works it out anew
			p.now.values[slot+k] = p.start[slot+k]
		}
		delete(p.poses, slot+k)
		switch {
		case value.IsText():
			p.poses[slot+k] = p.handle(value.Str())
		case !value.Absent():
			p.poses[slot+k] = spec.Part(int(k)).Limit(value.At(int(k)))
		}
	}
	p.touched = append(p.touched, p.Layout.Index(ref.Item))
	p.now.stale = true
	return true
}

// holdPoses puts the poses of what is worked out in a level over what the links made of it.
func (p *Plan) holdPoses() {
	for slot, v := range p.poses {
		if now := p.now.values[slot]; now != v {
			p.under[slot] = now
			p.now.values[slot] = v
		}
	}
}

// Unposed returns a property as its links make it, at the frame last evaluated, whatever it is posed
// at.
func (p *Plan) Unposed(ref scene.Ref) scene.Value {
	v := p.Value(ref)
	spec, slot := p.Layout.Find(ref.Item, ref.Property)
	if spec == nil || v.Absent() || v.IsText() {
		return v
	}
	c, _ := spec.Type.Component(ref.Component)
	for k := range v.Len() {
		at := slot + int32(c+k)
		if was, ok := p.under[at]; ok && p.poses[at] == v.At(k) {
			v = v.With(k, was)
		}
	}
	return v
}

// Driven reports whether links drive any component of a property.
func (p *Plan) Driven(id scene.ID, key string) bool {
	i := p.Layout.Index(id)
	return i >= 0 && p.DrivenAt(i, key)
}

// DrivenAt is Driven for item i.
func (p *Plan) DrivenAt(i int32, key string) bool {
	spec, slot := p.Layout.FindAt(i, key)
	if spec == nil {
		return false
	}
	for k := range int32(spec.Type.Size()) {
		if p.wired[slot+k] {
			return true
		}
	}
	return false
}
