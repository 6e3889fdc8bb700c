package engine

import (
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// shapes says, for each drawn kind, which properties its outline is made of and how.
var shapes = map[scene.Kind]struct {
	keys []string
	make func(p *Plan, v []float64) outline.Path
}{
	scene.Rectangle: {[]string{"size", "cornerRadius"}, func(_ *Plan, v []float64) outline.Path {
		return outline.Rectangle(v[0], v[1], v[2])
	}},
	scene.Ellipse: {[]string{"size"}, func(_ *Plan, v []float64) outline.Path {
		return outline.Ellipse(v[0], v[1])
	}},
	scene.TextItem: {[]string{"text", "fontSize"}, func(p *Plan, v []float64) outline.Path {
		return outline.Text(p.texts[int(v[0])], v[1])
	}},
}

// Shape returns the outline of item i at the frame last evaluated, in the item's own space;
// an empty path for an item that is never drawn.
func (p *Plan) Shape(i int32) outline.Path {
	s, ok := shapes[p.Layout.Items[i].Kind]
	if !ok {
		return outline.Path{}
	}
	return s.make(p, p.shapeValues(nil, i, s.keys))
}

func (p *Plan) shapeValues(to []float64, i int32, keys []string) []float64 {
	for _, key := range keys {
		spec, slot := p.Layout.Find(p.Layout.Items[i].ID, key)
		to = append(to, p.values[slot:slot+int32(spec.Type.Size())]...)
	}
	return to
}

// Tracker remembers what every outline was made of, so that only those that changed are made
// again. It outlives the plans of one composition.
type Tracker struct {
	plan  *Plan
	slots [][]int32 // of the drawn items of the plan, by index
	made  []made
}

// made is what an outline was last made of. No shape takes more than four numbers.
type made struct {
	known bool
	n     [4]float64
	text  string
}

// Changed calls with each drawn item whose outline differs from when it was last reported.
func (t *Tracker) Changed(p *Plan, report func(i int32, path outline.Path)) {
	if t.plan != p {
		t.follow(p)
	}
	for i, slots := range t.slots {
		if slots == nil {
			continue
		}
		m := made{known: true}
		for k, slot := range slots {
			m.n[k] = p.values[slot]
		}
		if p.Layout.Items[i].Kind == scene.TextItem {
			m.text, m.n[0] = p.texts[int(m.n[0])], 0
		}
		if t.made[i] != m {
			t.made[i] = m
			report(int32(i), p.Shape(int32(i)))
		}
	}
}

// Forget makes the next call of Changed report everything.
func (t *Tracker) Forget() { *t = Tracker{} }

// follow goes over to another plan and takes along what is known of the items they share.
func (t *Tracker) follow(p *Plan) {
	kept := make([]made, len(p.Layout.Items))
	slots := make([][]int32, len(p.Layout.Items))
	for i, item := range p.Layout.Items {
		if t.plan != nil {
			if old := t.plan.Layout.Index(item.ID); old >= 0 {
				kept[i] = t.made[old]
			}
		}
		for _, key := range shapes[item.Kind].keys {
			spec, slot := p.Layout.Find(item.ID, key)
			for c := range spec.Type.Size() {
				slots[i] = append(slots[i], slot+int32(c))
			}
		}
	}
	t.plan, t.slots, t.made = p, slots, kept
}
