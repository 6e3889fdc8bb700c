package curve

import (
	"math"
	"slices"
)

// Fewer returns which of some pins are needed so that smooth spans between them stay within a tolerance of the values of all the others,
// component for component, and how far the farthest is off. frames rise; values holds a row of numbers for each frame. The first and the
// last are always needed.
//
// Beginning with the ends, the pin that is farthest off is taken in within each span, until none is too far; then those are left out
// again that later ones made needless.
func Fewer(frames []float64, values [][]float64, tolerance float64) (kept []int, off float64) {
	n := len(frames)
	if n < 3 {
		for k := range n {
			kept = append(kept, k)
		}
		return kept, 0
	}
	kept = []int{0, n - 1}
	for {
		far := farthest(frames, values, kept)
		var more []int
		for _, f := range far {
			if f.off > tolerance {
				more = append(more, f.at)
			}
		}
		if len(more) == 0 {
			break
		}
		kept = append(kept, more...)
		slices.Sort(kept)
	}
	for k := len(kept) - 2; k > 0; k-- {
		// Leaving one out bends the spans of its neighbours, too: only these are looked at.
		from, to := max(0, k-3), min(len(kept), k+4)
		some := slices.Clone(kept[from:to])
		some = slices.Delete(some, k-from, k-from+1)
		if worst(farthest(frames, values, some)) > tolerance {
			continue
		}
		trial := slices.Delete(slices.Clone(kept), k, k+1)
		if worst(around(frames, values, trial, k)) <= tolerance {
			kept = trial
		}
	}
	return kept, worst(farthest(frames, values, kept))
}

// strayed is the pin of a span that is farthest off, and how far.
type strayed struct {
	at  int
	off float64
}

func worst(of []strayed) (off float64) {
	for _, f := range of {
		off = max(off, f.off)
	}
	return off
}

// around is farthest of the spans near the one behind the pin with the number k, with the slopes that they have among all.
func around(frames []float64, values [][]float64, kept []int, k int) []strayed {
	from, to := max(0, k-5), min(len(kept), k+5)
	far := farthest(frames, values, kept[from:to])
	// Those at the ends of the part have other slopes there than among all.
	lo, hi := 2, len(far)-2
	if from == 0 {
		lo = 0
	}
	if to == len(kept) {
		hi = len(far)
	}
	return far[min(lo, len(far)):max(min(lo, len(far)), hi)]
}

// farthest returns, for each span between pins that are kept, which of the others in it is farthest off.
func farthest(frames []float64, values [][]float64, kept []int) []strayed {
	at, easings := make([]float64, len(kept)), make([]Easing, len(kept))
	for i, k := range kept {
		at[i], easings[i] = frames[k], Smooth
	}
	far := make([]strayed, max(0, len(kept)-1))
	for c := range values[kept[0]] {
		line := make([]float64, len(kept))
		for i, k := range kept {
			line[i] = values[k][c]
		}
		t := New(at, line, easings)
		for i := range far {
			for k := kept[i] + 1; k < kept[i+1]; k++ {
				if d := math.Abs(t.At(frames[k]) - values[k][c]); d > far[i].off {
					far[i] = strayed{k, d}
				}
			}
		}
	}
	return far
}
