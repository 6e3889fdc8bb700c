package view

import (
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// Curve is what a property is over a span of frames.
type Curve struct {
	Ref    scene.Ref `json:"ref"`
	Source bool      `json:"source,omitempty"` // it was not asked for, but drives what was
	// Values are one step after the other, all components of each; null where there is no such property.
	Values []float64 `json:"values"`
}

// MaxCurves bounds how many properties are drawn at once.
const MaxCurves = 24

// CurvesOf returns the curves of properties over a span of frames: of each, with what drives it, and of the other
// members of its row.
// With speed, it returns how fast they change, per second: as the difference of the values on both sides.
func CurvesOf(s *session.Session, refs []scene.Ref, from, to float64, steps int, speed bool) []Curve {
	c := s.Composition()
	var out []Curve
	var all []scene.Ref
	seen := map[scene.Ref]bool{}
	var add func(ref scene.Ref, source bool)
	add = func(ref scene.Ref, source bool) {
		ref.Component = ""
		item := c.Item(ref.Item)
		if item == nil || seen[ref] || len(out) == MaxCurves {
			return
		}
		seen[ref] = true
		out, all = append(out, Curve{Ref: ref, Source: source}), append(all, ref)
		behind := func(from scene.Ref) { add(from, true) }
		for _, l := range item.State(ref.Property).Links {
			link.ReadsOf(l, item.ID, item.Parent, behind)
			link.GatheredBy(c, l, item.ID, item.Parent, MaxCurves, behind)
		}
		rosterLinks := c.RosterLinksOn(item, ref.Property)
		for _, row := range rosterLinks {
			link.ReadsOf(row.Link, item.ID, item.Parent, behind)
			link.GatheredBy(c, row.Link, item.ID, item.Parent, MaxCurves, behind)
		}
		for _, row := range rosterLinks {
			for _, m := range row.Members(c) {
				if !source {
					add(scene.Ref{Item: m.Item.ID, Property: m.Key}, false)
				}
			}
		}
	}
	for _, ref := range refs {
		add(ref, false)
	}
	from, to = c.Held(from), c.Held(to)
	for k, values := range s.Plan().Series(all, from, to, steps) {
		if speed && steps > 1 && values != nil {
			values = speeds(values, len(values)/steps, (to-from)/float64(steps-1)/float64(c.Rate))
		}
		out[k].Values = values
	}
	return out
}

// speeds returns how fast values of some components change that lie so many seconds apart.
func speeds(values []float64, size int, apart float64) []float64 {
	out := make([]float64, len(values))
	n := len(values) / max(1, size)
	for i := range n {
		before, behind := max(0, i-1), min(n-1, i+1)
		for k := range size {
			if behind > before && apart > 0 {
				out[i*size+k] = (values[behind*size+k] - values[before*size+k]) / (float64(behind-before) * apart)
			}
		}
	}
	return out
}
