package engine

import (
	"encoding/binary"
	"hash/fnv"
	"math"
	"slices"

	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
)

// Tracker remembers what every surface and line was made of, so that only those that changed are
// made again. It outlives the plans of one composition, and no other looks at them.
type Tracker struct {
	plan    *Plan
	tracked []tracked // of the drawn items of the plan, by index
	lively  []int32   // those that can change from frame to frame
	wirings int       // of the plan, when they were found
}

// tracked is one item with what its surface and line were last made of.
type tracked struct {
	slots []int32 // of the surface; behind them, from line on, of the line
	line  int
	text  int // place of the slot of a text among them, or -1
	made  []float64
	wrote string
	path  *scene.PathShape
}

// Changes is what changed of an item since it was last reported.
type Changes struct {
	Surface, Line bool
}

// Changed calls with each drawn item that is shown and whose surface or line differs from when it was last reported.
// What is hidden is reported once it is shown.
func (t *Tracker) Changed(p *Plan, report func(i int32, what Changes)) {
	look := func(i int32) {
		if k := &t.tracked[i]; k.slots != nil && !p.Layout.Hidden[i] {
			if what := k.look(p, p.Layout.Items[i]); what.Surface || what.Line {
				report(i, what)
			}
		}
	}
	switch {
	case t.plan != p || t.wirings != p.wirings:
		if t.plan != p {
			t.follow(p)
		}
		t.wirings = p.wirings
		t.findLively()
		for i := range t.tracked {
			look(int32(i))
		}
	default:
		for _, i := range t.lively {
			look(i)
		}
		for _, i := range p.touched {
			look(i)
		}
	}
	p.touched = p.touched[:0]
}

// findLively finds the items whose shape can be another from frame to frame: pins or links change what it
// is made of, or it is derived. All others change only where they are touched.
func (t *Tracker) findLively() {
	changes := t.plan.restless()
	t.lively = t.lively[:0]
	for i := range t.tracked {
		if slices.ContainsFunc(t.tracked[i].slots, func(s int32) bool { return changes[s] }) {
			t.lively = append(t.lively, int32(i))
		}
	}
}

// Form tells the shapes of an item apart that it has at other times, as copies show them: 0 for the one that was reported last, and
// another number for each other, the same for the same.
func (t *Tracker) Form(p *Plan, i int32) uint64 {
	k := &t.tracked[i]
	if k.same(p) {
		return 0
	}
	h := fnv.New64a()
	var bytes [8]byte
	for n, slot := range k.slots {
		v := p.now.values[slot]
		if n == k.text {
			h.Write([]byte(p.words.texts[int(v)]))
			continue
		}
		binary.LittleEndian.PutUint64(bytes[:], math.Float64bits(v))
		h.Write(bytes[:])
	}
	return max(1, h.Sum64())
}

// same reports whether the shape is as it was when it was reported last.
func (k *tracked) same(p *Plan) bool {
	for n, slot := range k.slots {
		v := p.now.values[slot]
		if n == k.text {
			if p.words.texts[int(v)] != k.wrote {
				return false
			}
		} else if n >= len(k.made) || k.made[n] != v {
			return false
		}
	}
	return true
}

// Forget makes the next call of Changed report everything.
func (t *Tracker) Forget() { *t = Tracker{} }

func (k *tracked) look(p *Plan, item *scene.Item) Changes {
	first := len(k.made) != len(k.slots)
	if first {
		k.made = make([]float64, len(k.slots))
	}
	what := Changes{Surface: first || k.path != item.Path}
	for n, slot := range k.slots {
		v := p.now.values[slot]
		if n == k.text {
			if s := p.words.texts[int(v)]; s != k.wrote {
				k.wrote, what.Surface = s, true
			}
			continue
		}
		if k.made[n] != v {
			k.made[n] = v
			if n < k.line {
				what.Surface = true
			} else {
				what.Line = true
			}
		}
	}
	k.path = item.Path
	what.Line = what.Line || what.Surface
	return what
}

// follow goes over to another plan and takes along what is known of the items they share.
func (t *Tracker) follow(p *Plan) {
	all := make([]tracked, len(p.Layout.Items))
	for i, item := range p.Layout.Items {
		if c := item.Kind.Class(); c != scene.Outlined && c != scene.Pictured && c != scene.Solid {
			continue
		}
		k := &all[i]
		of := shapings[item.Kind]
		k.text = of.text
		k.slots = make([]int32, 0, len(of.surface)+len(of.line))
		add := func(parts []part) {
			for _, one := range parts {
				k.slots = append(k.slots, p.Layout.Slot(int32(i), one.property)+one.component)
			}
		}
		add(of.surface)
		k.slots = append(k.slots, verticesOf(p.Layout, int32(i))...)
		k.line = len(k.slots)
		add(of.line)
		if t.plan == nil {
			continue
		}
		if old := p.Layout.Same(t.plan.Layout, int32(i)); old >= 0 {
			if was := &t.tracked[old]; len(was.made) == len(k.slots) {
				k.made, k.wrote, k.path = was.made, was.wrote, was.path
			}
		}
	}
	t.plan, t.tracked = p, all
}

// shaping is the components that the shape of a kind is made of.
type shaping struct {
	surface, line []part
	text          int // place of a text in surface, or -1
}

// part is one component of a property, by its place in the specifications of the kind.
type part struct {
	property  int
	component int32
}

var shapings = func() map[scene.Kind]shaping {
	m := map[scene.Kind]shaping{}
	for _, k := range scene.Kinds {
		s := shaping{text: -1}
		for n, spec := range scene.Of(k.Kind) {
			list := &s.surface
			switch {
			case spec.Lines():
				list = &s.line
			case !spec.Shapes():
				continue
			case spec.Type == scene.Text:
				s.text = len(s.surface)
			}
			for c := range spec.Type.Size() {
				*list = append(*list, part{n, int32(c)})
			}
		}
		m[k.Kind] = s
	}
	return m
}()

// verticesOf lists the slots of the vertices of an item that have some.
func verticesOf(l *layout.Layout, i int32) []int32 {
	var slots []int32
	specs := l.Specs(i)
	for k := len(scene.Of(l.Items[i].Kind)); k < len(specs); k++ {
		if specs[k].Shapes() {
			for c := range specs[k].Type.Size() {
				slots = append(slots, l.Slot(i, k)+int32(c))
			}
		}
	}
	return slices.Clip(slots)
}
