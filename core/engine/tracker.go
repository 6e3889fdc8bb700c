package engine

import (
	"slices"

	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
)

// shapeKeys lists the properties that the surface of an item of each class is made of, and
// strokeKeys those that the line along it takes besides.
var (
	shapeKeys = map[scene.Class][]string{
		scene.Outlined: {"size", "cornerRadius", "sides", "points", "innerRadius", "text", "font", "fontSize", "letterSpacing", "lineHeight", "alignment", "bend", "bendAxis", "bendFixed", "bendExtent"},
		scene.Pictured: {"size"},
		scene.Solid:    {"size", "bend", "bendAxis", "bendFixed", "bendExtent"},
	}
	strokeKeys = map[scene.Class][]string{
		scene.Outlined: {"trimStart", "trimEnd", "dash", "gap", "dashOffset"},
	}
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
			if s := p.texts[int(v)]; s != k.wrote {
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
		class := item.Kind.Class()
		keys := shapeKeys[class]
		if keys == nil {
			continue
		}
		k := &all[i]
		k.slots, k.text = slotsOf(p.Layout, int32(i), keys)
		k.slots = append(k.slots, verticesOf(p.Layout, int32(i))...)
		k.line = len(k.slots)
		lines, _ := slotsOf(p.Layout, int32(i), strokeKeys[class])
		k.slots = append(k.slots, lines...)
		if t.plan == nil {
			continue
		}
		if old := t.plan.Layout.Index(item.ID); old >= 0 {
			if was := &t.tracked[old]; len(was.made) == len(k.slots) {
				k.made, k.wrote, k.path = was.made, was.wrote, was.path
			}
		}
	}
	t.plan, t.tracked = p, all
}

// slotsOf lists the slots of some properties of an item, and where among them a text stands.
func slotsOf(l *layout.Layout, i int32, keys []string) (slots []int32, text int) {
	text = -1
	for _, key := range keys {
		spec, slot := l.FindAt(i, key)
		if spec == nil {
			continue
		}
		if spec.Type == scene.Text {
			text = len(slots)
		}
		for c := range spec.Type.Size() {
			slots = append(slots, slot+int32(c))
		}
	}
	return slots, text
}

// verticesOf lists the slots of the vertices of an item that have some.
func verticesOf(l *layout.Layout, i int32) []int32 {
	var slots []int32
	specs, starts := l.Specs(i), l.Starts(i)
	for k := len(scene.Of(l.Items[i].Kind)); k < len(specs); k++ {
		if _, world, ok := scene.VertexOf(specs[k].Key); ok && !world {
			for c := range specs[k].Type.Size() {
				slots = append(slots, l.Base[i]+starts[k]+int32(c))
			}
		}
	}
	return slices.Clip(slots)
}
