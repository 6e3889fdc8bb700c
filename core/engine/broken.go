package engine

import (
	"cmp"
	"fmt"
	"slices"

	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// Broken is a formula that gives something that is not finite.
type Broken struct {
	At     scene.Ref
	Link   *scene.Link
	Frame  float64 // the first
	Frames int     // how many
}

// MaxBroken is how many formulas are looked at at most, where there is no time for all.
const MaxBroken = 3000

// Where says at which frames: "frame 7 and 2 others".
func (b *Broken) Where() string {
	where := "frame " + scene.Exact(b.Frame)
	if b.Frames > 1 {
		where += fmt.Sprintf(" and %d others", b.Frames-1)
	}
	return where
}

// Broken looks at the formulas of links at every frame of some from 0 on, at most formulas of them, and returns
// those that are not finite at one. What refers to a member that a roster does not have gives nothing on
// purpose, and is left out.
func (p *Plan) Broken(frames, most int) []Broken {
	type source struct {
		slot int32
		Broken
	}
	var sources []source
	var slots []int32
	p.worked(func(t *wire.Target, w *wire.Wire) {
		if len(sources) == most || p.lacks(p.order.Target(w.Source)) {
			return
		}
		sources = append(sources, source{w.Source, Broken{At: t.Ref(p.Layout), Link: w.Link}})
		slots = append(slots, w.Source)
	})
	if len(slots) == 0 {
		return nil
	}
	all := make([]float64, frames)
	for f := range all {
		all[f] = float64(f)
	}
	f := 0.0
	p.over(p.newSlice(slots, nil), all, func(value func(slot int32) float64) {
		for k := range sources {
			if v := value(sources[k].slot); v-v != 0 {
				if sources[k].Frames == 0 {
					sources[k].Frame = f
				}
				sources[k].Frames++
			}
		}
		f++
	})
	var out []Broken
	for _, s := range sources {
		same := func(b Broken) bool { return b.At == s.At && b.Link.ID == s.Link.ID }
		if s.Frames > 0 && !slices.ContainsFunc(out, same) {
			out = append(out, s.Broken)
		}
	}
	return out
}

// worked calls with every wire whose source is what the formula of its link gives.
func (p *Plan) worked(visit func(t *wire.Target, w *wire.Wire)) {
	for _, t := range p.order.Targets() {
		for k := range t.Wires {
			w := &t.Wires[k]
			if made := p.order.Target(w.Source); w.Worked && made != nil && made.Formula != nil {
				visit(t, w)
			}
		}
	}
}

// lacks reports whether a formula, or what it looks at, refers to what is not there.
func (p *Plan) lacks(t *wire.Target) bool {
	for _, s := range t.Formula.Lane.In {
		if s.Kind == machine.FromNumber && s.X != s.X {
			return true
		}
	}
	for _, s := range t.Formula.Looks {
		if look := p.order.Target(s); look != nil && look.Formula != nil && p.lacks(look) {
			return true
		}
	}
	return false
}

// Held is a delay inside of feedback that was less than a frame when it was asked for, and held at one.
type Held struct {
	scene.Ref
	Frame float64 // the first
}

// Held returns the delays that were held in all that was evaluated since it last changed.
func (p *Plan) Held() []Held {
	var out []Held
	for slot, frame := range p.past.Held() {
		t := p.order.Target(slot)
		if t == nil {
			continue
		}
		ref := t.Ref(p.Layout)
		if at := slices.IndexFunc(out, func(h Held) bool { return h.Ref == ref }); at >= 0 {
			out[at].Frame = min(out[at].Frame, frame)
		} else {
			out = append(out, Held{ref, frame})
		}
	}
	slices.SortFunc(out, func(a, b Held) int { return cmp.Or(cmp.Compare(a.Item, b.Item), cmp.Compare(a.Property, b.Property)) })
	return out
}
