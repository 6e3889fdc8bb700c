package engine

import (
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// Frame returns the frame last evaluated.
func (p *Plan) Frame() float64 { return p.now.frame }

// At returns what stands in a slot.
func (p *Plan) At(slot int32) float64 { return p.now.values[slot] }

// Texts returns what the numbers in text slots stand for. It only ever grows.
func (p *Plan) Texts() []string { return p.words.texts }

// Value returns a property, or one component of it, as last evaluated; absent where there is none.
func (p *Plan) Value(ref scene.Ref) scene.Value {
	spec, slot := p.Layout.Find(ref.Item, ref.Property)
	if spec == nil {
		return p.unasked(ref)
	}
	c, ok := spec.Type.Component(ref.Component)
	switch {
	case !ok:
		return scene.Value{}
	case spec.Type == scene.Text:
		return scene.Txt(p.words.texts[int(p.now.values[slot])])
	case ref.Component != "":
		return scene.Num(p.now.values[slot+int32(c)])
	}
	return scene.NewValue(p.now.values[slot : slot+int32(spec.Type.Size())])
}

// ValueOf returns a property of item i, as last evaluated; absent where it has none.
func (p *Plan) ValueOf(i int32, key string) scene.Value {
	spec, slot := p.Layout.FindAt(i, key)
	switch {
	case spec == nil:
		return scene.Value{}
	case spec.Type == scene.Text:
		return scene.Txt(p.words.texts[int(p.now.values[slot])])
	}
	return scene.NewValue(p.now.values[slot : slot+int32(spec.Type.Size())])
}

// unasked returns a property that has no slot, since no link asks for it: what can only be read, a vertex.
func (p *Plan) unasked(ref scene.Ref) scene.Value {
	i := p.Layout.Index(ref.Item)
	if i < 0 || p.now.env == nil {
		return scene.Value{}
	}
	spec := p.Layout.Items[i].Spec(ref.Property)
	if spec == nil {
		return scene.Value{}
	}
	if _, weight := scene.WeightOf(ref.Property); weight {
		return spec.Default
	}
	v := p.Derived(i, ref.Property)
	if c, ok := spec.Type.Component(ref.Component); !ok {
		return scene.Value{}
	} else if ref.Component != "" {
		return scene.Num(v.At(c))
	}
	return v
}

// Own returns the own value of a property at the frame last evaluated, links left aside.
func (p *Plan) Own(id scene.ID, key string) scene.Value {
	spec, slot := p.Layout.Find(id, key)
	switch {
	case spec == nil:
		return scene.Value{}
	case spec.Type == scene.Text:
		return scene.Txt(p.words.texts[int(p.now.own[slot])])
	}
	return scene.NewValue(p.now.own[slot : slot+int32(spec.Type.Size())])
}

// Sample returns the own value of a property at evenly spaced frames, component after component
// for each frame; nil where it has no pins. The frame last evaluated stays as it is.
func (p *Plan) Sample(id scene.ID, key string, from, to float64, steps int) []float64 {
	_, slot := p.Layout.Find(id, key)
	at, ok := p.trackOf[slot]
	if !ok || steps < 2 {
		return nil
	}
	t := &p.tracks[at]
	out := make([]float64, 0, steps*len(t.tracks))
	for i := range steps {
		frame := from + (to-from)*float64(i)/float64(steps-1)
		for k := range t.tracks {
			out = append(out, t.tracks[k].At(frame))
		}
	}
	return out
}

// Trace returns where the pivot of item i stands at whole frames, from one to another, some frames
// apart; nil for an item that never moves. The frame last evaluated stays as it is.
func (p *Plan) Trace(i int32, from, to, step int) [][3]float64 {
	if !p.moves[i] || step < 1 {
		return nil
	}
	pr := p.newSlice(nil, []int32{i})
	pivot := p.place[i][5]
	var out [][3]float64
	for f := from; f <= to; f += step {
		p.at(pr, float64(f), func(c *snapshot) {
			world := p.posed(c, i)
			out = append(out, world.Apply([3]float64(c.values[pivot:pivot+3])))
		})
	}
	return out
}

// Series returns what properties are at evenly spaced frames: for each of them, component after
// component, frame after frame. A property that there is not gives nothing.
func (p *Plan) Series(refs []scene.Ref, from, to float64, steps int) [][]float64 {
	if wider := p.wide(refs); wider != p {
		return wider.Series(refs, from, to, steps)
	}
	out := make([][]float64, len(refs))
	type span struct{ first, size int32 }
	spans := make([]span, len(refs))
	var slots []int32
	for k, ref := range refs {
		spec, slot := p.Layout.Find(ref.Item, ref.Property)
		if spec == nil {
			continue
		}
		c, ok := spec.Type.Component(ref.Component)
		size := int32(spec.Type.Size())
		if !ok {
			continue
		}
		if ref.Component != "" {
			slot, size = slot+int32(c), 1
		}
		spans[k] = span{slot, size}
		for s := slot; s < slot+size; s++ {
			slots = append(slots, s)
		}
	}
	frames := make([]float64, steps)
	for i := range frames {
		frames[i] = from
		if steps > 1 {
			frames[i] += (to - from) * float64(i) / float64(steps-1)
		}
	}
	p.over(p.newSlice(slots, nil), frames, func(value func(slot int32) float64) {
		for k, s := range spans {
			for slot := s.first; slot < s.first+s.size; slot++ {
				out[k] = append(out[k], value(slot))
			}
		}
	})
	return out
}

// over evaluates a slice at frames, in order, and calls with what stands in its slots at each of them.
func (p *Plan) over(pr *depSlice, frames []float64, use func(value func(slot int32) float64)) {
	for len(frames) > 0 {
		n := min(len(frames), machine.BlockFrames)
		p.past.Bound(p.now.frame)
		pr.Ask(frames[:n])
		p.past.Fetch()
		if pr.Blocks(n) {
			s := p.frameBlock(len(pr.own), frames[:n])
			p.fill(s, pr)
			for i := range n {
				use(func(slot int32) float64 { return s.Values[pr.slot(slot)][i] })
			}
			p.done(s)
		} else {
			for _, f := range frames[:n] {
				p.at(pr, f, func(c *snapshot) { use(func(slot int32) float64 { return c.values[pr.slot(slot)] }) })
			}
		}
		frames = frames[n:]
	}
}

// Skipped reports whether a formula link on a property gave something that is not finite at the frame
// last evaluated, so that what is below it was passed on.
func (p *Plan) Skipped(ref scene.Ref, id scene.ID) bool {
	spec, slot := p.Layout.Find(ref.Item, ref.Property)
	if spec == nil || p.now.env == nil { // nothing was evaluated yet
		return false
	}
	for s := slot; s < slot+int32(spec.Type.Size()); s++ {
		t := p.order.Target(s)
		if t == nil {
			continue
		}
		for k := range t.Wires {
			if w := &t.Wires[k]; w.Link.ID == id && w.Worked {
				if v := p.now.values[w.Source]; v-v != 0 {
					return true
				}
			}
		}
	}
	return false
}
