package history

import (
	"math/rand/v2"
	"slices"
	"testing"
)

func TestFramesThatAreWantedAreBroughtInOrder(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	for range 2000 {
		var wanted []float64
		for range r.IntN(4) { // runs
			at := float64(r.IntN(20))
			for range r.IntN(9) {
				wanted = append(wanted, at)
				at += float64(r.IntN(3))
			}
		}
		want := slices.Compact(slices.Sorted(slices.Values(wanted)))
		if got := inOrder(slices.Clone(wanted)); !slices.Equal(got, want) {
			t.Fatalf("%v become %v, want %v", wanted, got, want)
		}
	}
}
