package session

import (
	"slices"

	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/pins"
)

// baking is a bake that is being worked out, a piece at a time.
type baking struct {
	bake   pins.Bake
	series [][]float64
	next   int // the first frame that is missing
}

// is reports whether a bake is the one that is being worked out.
func (b *baking) is(g *pins.Bake) bool {
	return b != nil && b.bake.From == g.From && b.bake.To == g.To && slices.Equal(b.bake.Targets, g.Targets)
}

// piece is how many values of properties one piece has, so that it takes a moment only.
const piece = 30000

// Bake works a bake out a piece further, and says how many of its frames are there. When all are, the
// gesture takes them. Whatever changes the project meanwhile begins it anew.
func (s *Session) Bake(g *pins.Bake) (done, of int, err error) {
	if err := g.Check(s.Composition()); err != nil {
		return 0, 0, err
	}
	of = g.To - g.From + 1
	b := s.baking
	if !b.is(g) {
		b = &baking{bake: *g, series: make([][]float64, len(g.Targets)), next: g.From}
		s.baking = b
	}
	if n := min(g.To-b.next+1, max(1, piece/max(1, len(g.Targets)))); n > 0 {
		for k, more := range s.Plan().Series(g.Refs(), float64(b.next), float64(b.next+n-1), n) {
			b.series[k] = append(b.series[k], more...)
		}
		b.next += n
	}
	return b.next - g.From, of, nil
}

// baked gives a bake what was worked out of it.
func (s *Session) baked(g gesture.Gesture) {
	bake, ok := g.(*pins.Bake)
	if b := s.baking; ok && b.is(bake) && b.next > bake.To {
		bake.Series = b.series
	}
	s.baking = nil
}
