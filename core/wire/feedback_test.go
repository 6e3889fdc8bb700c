package wire

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
)

// wired is n ellipses whose opacities follow each other at random, some of them late.
func wired(r *rand.Rand, n, links int) (c *scene.Composition, now, all [][]bool) {
	c = scene.NewComposition("main", "Main")
	for i := range n {
		c.Items = append(c.Items, &scene.Item{ID: scene.ID(fmt.Sprint("i", i)), Name: fmt.Sprint("Item ", i), Kind: scene.Ellipse})
		now, all = append(now, make([]bool, n)), append(all, make([]bool, n))
	}
	for k := range links {
		from, to := r.IntN(n), r.IntN(n)
		l := &scene.Link{ID: scene.ID(fmt.Sprint("l", k)), Kind: scene.Follow, Source: scene.Ref{Item: c.Items[from].ID, Property: "opacity"}, Gain: 1, Operation: scene.Plus}
		if r.IntN(2) == 0 {
			l.Delay = 2
		} else {
			now[to][from] = true
		}
		all[to][from] = true
		state := c.Items[to].Edit("opacity")
		state.Links = append(state.Links, l)
	}
	return c, now, all
}

// reach closes a relation: the way of Warshall (Journal of the ACM, 1962).
func reach(m [][]bool) [][]bool {
	out := make([][]bool, len(m))
	for i := range m {
		out[i] = append([]bool(nil), m[i]...)
	}
	for k := range out {
		for i := range out {
			for j := range out {
				out[i][j] = out[i][j] || out[i][k] && out[k][j]
			}
		}
	}
	return out
}

// What depends on itself at the same time is a cycle; what does so only by way of a delay is feedback,
// of which exactly the properties along it are part.
func TestFeedbackIsToldFromCycles(t *testing.T) {
	cycles, fed := 0, 0
	for seed := range uint64(300) {
		c, now, all := wired(rand.New(rand.NewPCG(seed, 11)), 7, 8)
		l := layout.Of(c)
		order, cycle := Sort(l, Targets(l))
		nowReach, allReach := reach(now), reach(all)
		itself := false
		for i := range nowReach {
			itself = itself || nowReach[i][i]
		}
		if itself != (cycle != nil) {
			t.Fatalf("seed %d: circle %v, but a property depends on itself at once: %v", seed, cycle, itself)
		}
		if cycle != nil {
			cycles++
			continue
		}
		for i, item := range c.Items {
			_, slot := l.Find(item.ID, "opacity")
			if back := order.Feedback(slot); back != allReach[i][i] {
				t.Fatalf("seed %d: %s is fed back %v, want %v", seed, item.Name, back, allReach[i][i])
			}
			if allReach[i][i] {
				fed++
			}
			for j, other := range c.Items {
				_, from := l.Find(other.ID, "opacity")
				if now[i][j] && order.LevelOf(from) >= order.LevelOf(slot) {
					t.Fatalf("seed %d: %s is worked out before %s, which it needs", seed, item.Name, other.Name)
				}
				deep, _ := order.Depth(slot)
				if below, _ := order.Depth(from); all[i][j] && !allReach[j][i] && below >= deep {
					t.Fatalf("seed %d: %s is not deeper than %s, which it looks at", seed, item.Name, other.Name)
				}
			}
		}
	}
	if cycles < 50 || fed < 50 {
		t.Errorf("%d circles and %d fed back were tried", cycles, fed)
	}
}
