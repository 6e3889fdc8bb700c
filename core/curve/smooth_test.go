package curve

import (
	"math"
	"math/rand/v2"
	"testing"
)

// off is how far smooth spans between some pins stray from the others.
func off(frames []float64, values [][]float64, kept []int) (far float64) {
	for c := range values[0] {
		var at, line []float64
		var easings []Easing
		for _, k := range kept {
			at, line, easings = append(at, frames[k]), append(line, values[k][c]), append(easings, Smooth)
		}
		t := New(at, line, easings)
		for k, f := range frames {
			far = max(far, math.Abs(t.At(f)-values[k][c]))
		}
	}
	return far
}

func TestSmoothingNeverStraysFurtherThanItsTolerance(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 4))
	for round := range 400 {
		n, parts := 2+r.IntN(300), 1+r.IntN(3)
		frames, values := make([]float64, n), make([][]float64, n)
		at := -17.0
		x := make([]float64, parts)
		for k := range n {
			at += float64(1 + r.IntN(3))
			frames[k], values[k] = at, make([]float64, parts)
			for c := range parts {
				x[c] += r.NormFloat64() * 4
				values[k][c] = x[c] + 60*math.Sin(at/23+float64(c))
			}
		}
		tolerance := []float64{0, 0.37, 2.9, 41}[round%4]
		kept, said := Fewer(frames, values, tolerance)
		if far := off(frames, values, kept); far > tolerance+1e-9 || math.Abs(far-said) > 1e-9 {
			t.Fatalf("round %d: %g off with a tolerance of %g, and it says %g", round, far, tolerance, said)
		}
		if kept[0] != 0 || kept[len(kept)-1] != n-1 {
			t.Fatalf("round %d: the ends are not kept: %v", round, kept)
		}
	}
}

func TestADrawnPathNeedsATenthOfItsPins(t *testing.T) {
	const n = 151 // six seconds of a hand
	frames, values := make([]float64, n), make([][]float64, n)
	r := rand.New(rand.NewPCG(2, 8))
	for k := range n {
		u := float64(k) / 25
		frames[k] = float64(k)
		values[k] = []float64{-310 + 103*u + 71*math.Sin(1.3*u) + r.NormFloat64()*0.4, 130*math.Cos(0.9*u) + r.NormFloat64()*0.4}
	}
	kept, far := Fewer(frames, values, 3)
	if len(kept) > n/10 || far > 3 {
		t.Errorf("%d of %d pins are needed, %g off", len(kept), n, far)
	}
	exact, _ := Fewer(frames, values, 0.2)
	if len(exact) <= len(kept) {
		t.Errorf("closer, %d are needed, and %d before", len(exact), len(kept))
	}
}

func BenchmarkFewer(b *testing.B) {
	const n = 5000
	frames, values := make([]float64, n), make([][]float64, n)
	for k := range n {
		frames[k], values[k] = float64(k), []float64{100*math.Sin(float64(k)/19) + 7*math.Sin(float64(k)/2.3)}
	}
	for b.Loop() {
		Fewer(frames, values, 1.5)
	}
}
