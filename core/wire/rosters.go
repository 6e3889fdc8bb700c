package wire

import (
	"cmp"
	"math"
	"slices"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/layout"
	"wunderkammer/core/link"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// assignment is a link on a roster, where it drives one of the members.
type assignment struct {
	rosterLink *scene.RosterLink
	member     scene.Member
	row        *scene.Row
	index      int // in the row
	pairs      []scene.Member
	place      int     // all rows counted
	counted    float64 // what stagger is multiplied by
}

// same reports whether a link on a roster drives a member in the same way: it is counted at the same place, among the
// same members, with the same partners.
func (a assignment) same(b assignment) bool {
	if a.rosterLink != b.rosterLink || a.member != b.member || a.index != b.index || a.place != b.place || a.counted != b.counted || !slices.Equal(a.pairs, b.pairs) {
		return false
	}
	for one, other := a.row, b.row; one != other; one, other = one.Outer, other.Outer {
		if one == nil || other == nil || one.Index != other.Index || !slices.Equal(one.Members, other.Members) {
			return false
		}
	}
	return true
}

// assignmentsOf calls with a link on a roster where it drives each of the members, in order; with those too
// that opted out.
func assignmentsOf(c *scene.Composition, s *scene.RosterLink, visit func(k assignment)) {
	pairs, place := s.Partners(c), 0
	for _, row := range s.Rows(c) {
		counted := count(s.Link.Stagger, len(row.Members))
		for k, m := range row.Members {
			visit(assignment{s, m, row, k, pairs, place, counted[k]})
			place++
		}
	}
}

// Counted returns what the stagger of a link on a roster is multiplied by, for each of its members, all rows counted.
func Counted(c *scene.Composition, s *scene.RosterLink) (out []float64) {
	assignmentsOf(c, s, func(k assignment) { out = append(out, k.counted) })
	return out
}

// rosterLinks finds, for each property that links on rosters drive, those links, the lowest first.
func (t *lowerer) rosterLinks() {
	t.assignments = map[driven][]assignment{}
	for at, stage := range t.l.Stages {
		if stage.Apart {
			continue
		}
		for _, s := range stage.Composition.Wiring() {
			assignmentsOf(stage.Composition, s, func(k assignment) {
				i := t.l.In(int32(at), k.member.Item.ID)
				if n, ok := t.l.Property(i, k.member.Key); ok && s.Drives(k.member) {
					at := driven{i, n}
					t.assignments[at] = append(t.assignments[at], k)
				}
			})
		}
	}
}

// count returns what stagger is multiplied by for each member of a roster.
func count(s *scene.Stagger, n int) []float64 {
	out := make([]float64, n)
	order := make([]int, n)
	for k := range order {
		order[k] = k
	}
	if s != nil && s.Seed != 0 {
		slices.SortStableFunc(order, func(a, b int) int {
			return cmp.Compare(num.Hash(uint64(s.Seed), uint64(a)), num.Hash(uint64(s.Seed), uint64(b)))
		})
	}
	var along func(float64) float64
	if s != nil && s.By == scene.ByCurve {
		along = link.Along(s.Curve)
	}
	for at, k := range order {
		out[k] = float64(at)
		switch {
		case s == nil:
		case s.By == scene.FromOne:
			out[k]++
		case along != nil:
			out[k] = along(out[k] / math.Max(1, float64(n-1)))
		case s.By == scene.AsShare && n > 1:
			out[k] /= float64(n - 1)
		}
	}
	return out
}

// stagger adds to a wire that drives a component what its member of a roster gets.
func (w *Wire) stagger(s *scene.Stagger, counted float64, component int) {
	if s == nil {
		return
	}
	w.Offset += float64((s.Offset + s.Offsets.At(component)) * counted)
	w.Gain += float64(s.Gain * counted)
	w.Delay += float64(s.Delay * counted)
}

// RosterScope returns what the formula of a link on a roster stands in at one of its members, all rows
// counted; at one in the middle, which has all its neighbours, for an index below 0.
func RosterScope(l *layout.Layout, s *scene.RosterLink, index int) *binding.Scope {
	var assignments []assignment
	assignmentsOf(l.Composition, s, func(k assignment) { assignments = append(assignments, k) })
	if len(assignments) == 0 {
		return ScopeOf(l, -1, nil, "")
	}
	if index < 0 || index >= len(assignments) {
		if index = len(assignments) / 2; s.Roster.Kind == scene.CopiesOf {
			index = min(1, len(assignments)-1) // of those that are shown
		}
	}
	k := assignments[index]
	return k.on(ScopeOf(l, l.Index(k.member.Item.ID), k.member.Item.Spec(k.member.Key), s.Part(k.member)))
}

// on puts a scope into a roster.
func (k *assignment) on(s *binding.Scope) *binding.Scope {
	if k != nil {
		s.Row, s.Index, s.Partners, s.Place = k.row, k.index, k.pairs, k.place
	}
	return s
}

// WeightFrom returns the slot of the property that is the weight of a link on a roster; false where it is
// no single number, or gone.
func WeightFrom(l *layout.Layout, from scene.Ref) (slot int32, ok bool) {
	return weightFrom(l.Find(from.Item, from.Property))
}

func weightFrom(spec *scene.Spec, slot int32) (int32, bool) {
	return slot, spec != nil && spec.Type.Size() == 1 && spec.Type != scene.Text
}
