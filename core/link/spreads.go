package link

import (
	"cmp"
	"slices"

	"wunderkammer/core/formula"
	"wunderkammer/core/layout"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// lane is a link on a roster, where it drives one of the members.
type lane struct {
	spread  *scene.Spread
	members []*scene.Item
	pairs   []*scene.Item
	index   int
	counted float64 // what stagger is multiplied by
}

// spreads finds, for each property that links on rosters drive, those links, the lowest first.
func (t *lowerer) spreads() {
	t.lanes = map[driven][]lane{}
	for _, s := range t.l.Composition.Spreads {
		members := s.Members(t.l.Composition)
		pairs := s.Partners(t.l.Composition)
		counted := count(s.Link.Stagger, len(members))
		for k, item := range members {
			i := t.l.Index(item.ID)
			if n, ok := t.l.Property(i, s.Property); ok && s.Drives(item.ID) {
				at := driven{i, n}
				t.lanes[at] = append(t.lanes[at], lane{s, members, pairs, k, counted[k]})
			}
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
	for at, k := range order {
		out[k] = float64(at)
		switch {
		case s == nil:
		case s.By == scene.FromOne:
			out[k]++
		case s.By == scene.AsShare && n > 1:
			out[k] /= float64(n - 1)
		}
	}
	return out
}

// stagger adds to a wire what its member of a roster gets.
func (w *Wire) stagger(s *scene.Stagger, counted float64) {
	if s == nil {
		return
	}
	w.Offset += float64(s.Offset * counted)
	w.Gain += float64(s.Gain * counted)
	w.Delay += float64(s.Delay * counted)
}

// SpreadScope returns what the formula of a link on a roster stands in at one of its members; at one in
// the middle, which has all its neighbours, for an index below 0.
func SpreadScope(l *layout.Layout, s *scene.Spread, index int) *formula.Scope {
	members := s.Members(l.Composition)
	if len(members) == 0 {
		return ScopeOf(l, -1, nil, "")
	}
	if index < 0 || index >= len(members) {
		index = len(members) / 2
	}
	item := members[index]
	scope := ScopeOf(l, l.Index(item.ID), item.Spec(s.Property), s.Part(item.ID))
	scope.Members, scope.Index, scope.Partners = members, index, s.Partners(l.Composition)
	return scope
}

// on puts a scope into a roster.
func (k *lane) on(s *formula.Scope) *formula.Scope {
	if k != nil {
		s.Members, s.Index, s.Partners = k.members, k.index, k.pairs
	}
	return s
}
