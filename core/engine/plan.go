// Package engine evaluates a composition: every property of every item at a time, in one flat
// column that is laid out once for each change of structure.
//
// Evaluate is a pure function of the document and the frame: playing, scrubbing and jumping give
// the same bits, on the server and in the browser.
package engine

import (
	"wunderkammer/core/curve"
	"wunderkammer/core/layout"
	"wunderkammer/core/link"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Plan is a composition made ready for evaluation. It stays valid until the structure of the
// composition changes (an item, control or link added, moved, removed or altered); changes of own
// values and pins are brought in with Patch.
type Plan struct {
	Layout *layout.Layout
	Circle *link.Circle // the first circle that links run in; nil for none

	own     []float64 // own values at the frame last evaluated
	values  []float64 // results; what Evaluate returns
	texts   []string  // what the numbers in text slots stand for
	handles map[string]int

	tracks  []pinned
	trackOf map[int32]int // by the first slot of the property
	batches []batch
	wired   []bool // by slot

	moving   []int32 // items whose world transform can change from frame to frame
	stale    bool    // all world transforms are to be worked out again
	place    []placeSlots
	evaluate float64 // the frame last evaluated
}

// pinned is a property whose own value moves with pins, one track for each component.
type pinned struct {
	slot   int32
	tracks []curve.Track
	limits *scene.Spec
}

// batch is a run of wires whose sources are all ready: the same arithmetic over whole columns.
// Every further kind of program becomes another kind of run over columns laid out the same way.
type batch struct {
	source, target []int32
	gain, offset   []float64
	lo, hi         []float64
	step           []*scene.Spec // for targets that jump (switches, whole numbers); nil if there are none
}

// New makes a plan. The wires of a circle are left out of it.
func New(c *scene.Composition) *Plan {
	l := layout.Of(c)
	p := &Plan{
		Layout:  l,
		own:     make([]float64, l.World),
		values:  make([]float64, l.Size),
		handles: map[string]int{},
		trackOf: map[int32]int{},
		wired:   make([]bool, l.World),
		stale:   true,
	}
	for i, item := range l.Items {
		starts := l.Starts(int32(i))
		if len(item.States) == 0 && len(item.Controls) == 0 {
			p.loadDefaults(item.Kind, l.Base[i])
			continue
		}
		for s, spec := range l.Specs(int32(i)) {
			p.load(item, spec, l.Base[i]+starts[s])
		}
	}
	wires := link.Wires(l)
	sorted, ends, circle := link.Sort(l, wires)
	p.Circle = circle
	for circle != nil {
		wires = without(l, wires, circle)
		sorted, ends, circle = link.Sort(l, wires)
	}
	start := 0
	for _, end := range ends {
		p.batches = append(p.batches, newBatch(sorted[start:end]))
		start = end
	}
	for _, w := range sorted {
		p.wired[w.Target] = true
	}
	p.findPlaces()
	p.findMoving()
	return p
}

// without drops the wires of a circle.
func without(l *layout.Layout, wires []link.Wire, circle *link.Circle) []link.Wire {
	drop := map[int32]bool{}
	for _, ref := range circle.Refs {
		spec, slot := l.Find(ref.Item, ref.Property)
		component, _ := spec.Type.Component(ref.Component)
		drop[slot+int32(component)] = true
	}
	kept := wires[:0:0]
	for _, w := range wires {
		if !drop[w.Target] {
			kept = append(kept, w)
		}
	}
	return kept
}

func newBatch(wires []link.Wire) batch {
	n := len(wires)
	b := batch{
		source: make([]int32, n), target: make([]int32, n),
		gain: make([]float64, n), offset: make([]float64, n),
		lo: make([]float64, n), hi: make([]float64, n),
	}
	for i, w := range wires {
		b.source[i], b.target[i] = w.Source, w.Target
		b.gain[i], b.offset[i] = w.Gain, w.Offset
		b.lo[i], b.hi[i] = w.Spec.Min, w.Spec.Max
		if w.Spec.Type == scene.Text {
			b.lo[i], b.hi[i] = 0, scene.MaxMagnitude
		}
		if w.Spec.Whole || w.Spec.Type == scene.Switch {
			if b.step == nil {
				b.step = make([]*scene.Spec, n)
			}
			b.step[i] = w.Spec
		}
	}
	return b
}

// loadDefaults fills the slots of an item of which nothing was set.
func (p *Plan) loadDefaults(kind scene.Kind, base int32) {
	for _, spec := range scene.Of(kind) {
		p.put(spec, base, spec.Default)
		base += int32(spec.Type.Size())
	}
}

// load reads the own value and pins of one property into its slots.
func (p *Plan) load(item *scene.Item, spec *scene.Spec, slot int32) {
	state := item.States[spec.Key]
	if state == nil {
		state = &scene.State{}
	}
	p.put(spec, slot, state.OwnOr(spec))
	at, had := p.trackOf[slot]
	switch {
	case len(state.Pins) > 0:
		track := p.track(spec, slot, state.Pins)
		if had {
			p.tracks[at] = track
		} else {
			p.trackOf[slot] = len(p.tracks)
			p.tracks = append(p.tracks, track)
		}
	case had:
		last := len(p.tracks) - 1
		p.tracks[at] = p.tracks[last]
		p.trackOf[p.tracks[at].slot] = at
		p.tracks = p.tracks[:last]
		delete(p.trackOf, slot)
	}
}

func (p *Plan) put(spec *scene.Spec, slot int32, v scene.Value) {
	if spec.Type == scene.Text {
		h := p.handle(v.Str())
		p.own[slot], p.values[slot] = h, h
		return
	}
	for i := range v.Len() {
		x := spec.Limit(v.At(i))
		p.own[slot+int32(i)], p.values[slot+int32(i)] = x, x
	}
}

// handle returns the number that stands for a text.
func (p *Plan) handle(s string) float64 {
	h, ok := p.handles[s]
	if !ok {
		h = len(p.texts)
		p.handles[s] = h
		p.texts = append(p.texts, s)
	}
	return float64(h)
}

func (p *Plan) track(spec *scene.Spec, slot int32, pins []scene.Pin) pinned {
	frames := make([]float64, len(pins))
	easings := make([]curve.Easing, len(pins))
	for i, pin := range pins {
		frames[i], easings[i] = float64(pin.Frame), pin.Easing
		if spec.Type.Holds() || spec.Whole {
			easings[i] = curve.Hold
		}
	}
	t := pinned{slot: slot, limits: spec}
	for k := range spec.Type.Size() {
		values := make([]float64, len(pins))
		for i, pin := range pins {
			if spec.Type == scene.Text {
				values[i] = p.handle(pin.Value.Str())
			} else {
				values[i] = pin.Value.At(k)
			}
		}
		t.tracks = append(t.tracks, curve.New(frames, values, easings))
	}
	return t
}

// Patch brings in a changed own value or changed pins of one property.
func (p *Plan) Patch(item *scene.Item, key string) {
	spec, slot := p.Layout.Find(item.ID, key)
	if spec == nil {
		return
	}
	_, had := p.trackOf[slot]
	p.load(item, spec, slot)
	if _, has := p.trackOf[slot]; had != has {
		p.findMoving()
	}
	if isPlace(key) {
		p.stale = true
	}
}

// Evaluate returns the whole column at a frame, which may lie between whole frames. The slice
// belongs to the plan and is overwritten by the next call.
func (p *Plan) Evaluate(frame float64) []float64 {
	p.evaluate = frame
	for i := range p.tracks {
		t := &p.tracks[i]
		for k := range t.tracks {
			v := t.limits.Limit(t.tracks[k].At(frame))
			p.own[t.slot+int32(k)], p.values[t.slot+int32(k)] = v, v
		}
	}
	for i := range p.batches {
		p.batches[i].run(p.values, p.own)
	}
	p.places()
	return p.values
}

// run is the column form of link.Wire.Value; the two are tested against each other.
func (b *batch) run(values, own []float64) {
	n := len(b.target)
	source, gain, offset := b.source[:n], b.gain[:n], b.offset[:n]
	lo, hi := b.lo[:n], b.hi[:n]
	for i, target := range b.target {
		v := float64(values[source[i]]*gain[i]) + offset[i]
		if v-v != 0 { // not finite
			v = own[target]
		}
		if v < lo[i] {
			v = lo[i]
		}
		if v > hi[i] {
			v = hi[i]
		}
		values[target] = v
	}
	if b.step != nil {
		for i, spec := range b.step {
			if spec != nil {
				values[b.target[i]] = spec.Limit(values[b.target[i]])
			}
		}
	}
}

// Frame returns the frame last evaluated.
func (p *Plan) Frame() float64 { return p.evaluate }

// Texts returns what the numbers in text slots stand for. It only ever grows.
func (p *Plan) Texts() []string { return p.texts }

// Value returns a property, or one component of it, as last evaluated; absent where there is none.
func (p *Plan) Value(ref scene.Ref) scene.Value {
	spec, slot := p.Layout.Find(ref.Item, ref.Property)
	if spec == nil {
		return scene.Value{}
	}
	c, ok := spec.Type.Component(ref.Component)
	switch {
	case !ok:
		return scene.Value{}
	case spec.Type == scene.Text:
		return scene.Txt(p.texts[int(p.values[slot])])
	case ref.Component != "":
		return scene.Num(p.values[slot+int32(c)])
	}
	return scene.NewValue(p.values[slot : slot+int32(spec.Type.Size())])
}

// Own returns the own value of a property at the frame last evaluated, links left aside.
func (p *Plan) Own(id scene.ID, key string) scene.Value {
	spec, slot := p.Layout.Find(id, key)
	switch {
	case spec == nil:
		return scene.Value{}
	case spec.Type == scene.Text:
		return scene.Txt(p.texts[int(p.own[slot])])
	}
	return scene.NewValue(p.own[slot : slot+int32(spec.Type.Size())])
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
			out = append(out, t.limits.Limit(t.tracks[k].At(frame)))
		}
	}
	return out
}

// World returns where item i stands, at the frame last evaluated.
func (p *Plan) World(i int32) num.Affine {
	at := p.Layout.WorldOf(i)
	return num.Affine(p.values[at : at+layout.WorldSize])
}
