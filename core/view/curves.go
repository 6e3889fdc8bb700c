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
func CurvesOf(s *session.Session, refs []scene.Ref, from, to float64, steps int) []Curve {
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
		}
		rosterLinks := c.RosterLinksOn(item, ref.Property)
		for _, row := range rosterLinks {
			link.ReadsOf(row.Link, item.ID, item.Parent, behind)
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
	for k, values := range s.Plan().Series(all, c.Held(from), c.Held(to), steps) {
		out[k].Values = values
	}
	return out
}
