package check

import (
	"fmt"
	"math"

	"wunderkammer/core/engine"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// samples is how many frames Deep looks at.
const samples = 25

// Deep finds what shows only over time: driven values that are pressed against a limit all the time,
// formulas that give nothing finite at some frame, delays that are held, and sources that never change
// though they are no controls.
func Deep(c *scene.Composition, p *engine.Plan) []Check {
	k := &checker{c: c, p: p}
	copied := map[scene.ID]bool{} // links on copies that something was said of
	for _, b := range p.Broken(c.Frames, engine.MaxBroken) {
		if !k.own(b.At) {
			continue
		}
		if _, _, lane := scene.LaneOf(b.At.Item); lane {
			if copied[b.Link.ID] {
				continue
			}
			copied[b.Link.ID] = true
		}
		if !p.Skipped(b.At, b.Link.ID) { // said already
			k.unbounded(b)
		}
	}
	k.held()
	var refs []scene.Ref
	var specs []*scene.Spec
	for i, item := range p.Layout.Laid() {
		for _, n := range p.Layout.Linked(int32(i)) {
			spec := p.Layout.Specs(int32(i))[n]
			if spec.Type.Size() > 1 || spec.Jumps() || spec.Type == scene.Text || !p.Driven(item.ID, spec.Key) {
				continue
			}
			refs, specs = append(refs, scene.Ref{Item: item.ID, Property: spec.Key}), append(specs, spec)
		}
	}
	for n, series := range p.Series(refs, 0, float64(c.Frames-1), samples) {
		spec := specs[n]
		for _, limit := range []float64{spec.Min, spec.Max} {
			if !math.IsInf(limit, 0) && all(series, limit) && k.moves(refs[n]) {
				k.add(Warning, refs[n], fmt.Sprintf("%s stays at its limit (%s) throughout", c.NameOf(refs[n]), scene.Exact(limit)))
			}
		}
	}
	seen := map[scene.Ref]bool{}
	for i, item := range p.Layout.Laid() {
		for _, n := range p.Layout.Linked(int32(i)) {
			for _, l := range item.State(p.Layout.Specs(int32(i))[n].Key).Links {
				k.still(l, seen)
			}
		}
	}
	tips := &checker{c: c, p: p}
	tips.together()
	return append(k.out, tips.out...)
}

// still reports the source of a link that is no control and has neither pins nor links.
func (k *checker) still(l *scene.Link, seen map[scene.Ref]bool) {
	from := k.c.Item(l.Source.Item)
	whole := scene.Ref{Item: l.Source.Item, Property: l.Source.Property}
	if l.Off || from == nil || seen[whole] || from.Control(scene.ID(whole.Property)) != nil {
		return
	}
	seen[whole] = true
	spec, state := from.Spec(whole.Property), from.State(whole.Property)
	if spec != nil && !spec.ReadOnly && len(state.Pins) == 0 && len(state.Links) == 0 {
		k.add(Warning, whole, k.c.NameOf(whole)+" drives other properties but never changes: it has no pins and no links")
	}
}

func all(series []float64, x float64) bool {
	for _, v := range series {
		if v != x {
			return false
		}
	}
	return len(series) > 0
}

// moves reports whether anything that drives a property changes over time.
func (k *checker) moves(ref scene.Ref) bool {
	for _, l := range k.c.Item(ref.Item).State(ref.Property).Links {
		if !link.Of(l).Sourced {
			return true
		}
		from := k.c.Item(l.Source.Item)
		if l.Off || from == nil || from.Spec(l.Source.Property) == nil {
			continue
		}
		whole := scene.Ref{Item: l.Source.Item, Property: l.Source.Property}
		if !steady(k.p.Series([]scene.Ref{whole}, 0, float64(k.c.Frames-1), samples)[0], from.Spec(whole.Property).Type.Size()) {
			return true
		}
	}
	return false
}

func steady(series []float64, size int) bool {
	for i := size; i < len(series); i++ {
		if series[i] != series[i-size] {
			return false
		}
	}
	return len(series) > size
}

// unbounded reports a formula that gives nothing finite at some frame: at which one first, and what part
// of the formula is the first to do so.
func (k *checker) unbounded(b engine.Broken) {
	part := ""
	if scope, item := k.scopeOf(b); scope != nil {
		part = k.culprit(binding.Print(b.Link.Formula, scope), scope, item, b.Frame)
	}
	if part != "" {
		part = ": " + part
	}
	k.add(Warning, b.At, fmt.Sprintf("%s: the formula has no valid result at %s; the value below is used%s", k.c.NameOf(b.At), b.Where(), part))
}

// scopeOf returns what a formula that is broken stands in.
func (k *checker) scopeOf(b engine.Broken) (*binding.Scope, int32) {
	item := k.p.Layout.Index(b.At.Item)
	if item < 0 {
		return nil, item
	}
	on := k.p.Layout.Items[item]
	for _, s := range k.c.RosterLinks {
		if s.Link.ID != b.Link.ID {
			continue
		}
		if n := s.IndexOf(k.c, scene.Member{Item: on, Key: b.At.Property}); n >= 0 {
			return wire.RosterScope(k.p.Layout, s, n), item
		}
	}
	if on.Spec(b.At.Property) == nil {
		return nil, item
	}
	return wire.ScopeOf(k.p.Layout, item, on.Spec(b.At.Property), b.Link.Component), item
}

// culprit returns the innermost part of a formula that is not finite at a frame.
func (k *checker) culprit(text string, scope *binding.Scope, item int32, frame float64) string {
	loose := *scope
	loose.Loose = true
	for _, part := range syntax.Parts(text) {
		_, v := k.p.TryIn(part.Formula, item, &loose, frame)
		if v == nil {
			continue
		}
		for _, x := range v[0].Nums() {
			if x-x != 0 {
				return part.Text
			}
		}
	}
	return ""
}

// held reports delays of less than a frame inside of feedback, which are held at one.
func (k *checker) held() {
	for _, h := range k.p.Held() {
		if !k.own(h.Ref) {
			continue
		}
		name := k.c.NameOf(h.Ref)
		k.add(Warning, h.Ref, fmt.Sprintf("%s: delay under one frame at frame %s, treated as one frame", name, scene.Exact(h.Frame)))
	}
}
