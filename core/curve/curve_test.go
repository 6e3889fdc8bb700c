package curve

import (
	"math"
	"slices"
	"testing"
	"testing/quick"
)

func TestAt(t *testing.T) {
	track := func(easing Easing) Track {
		return New([]float64{0, 10, 20, 30}, []float64{0, 100, 100, 400}, []Easing{easing, easing, easing, easing})
	}
	for _, c := range []struct {
		easing      Easing
		frame, want float64
	}{
		{Linear, -5, 0}, {Linear, 0, 0}, {Linear, 2.5, 25}, {Linear, 10, 100}, {Linear, 25, 250}, {Linear, 30, 400}, {Linear, 99, 400},
		{Hold, 9.99, 0}, {Hold, 10, 100}, {Hold, 29.5, 100}, {Hold, 30, 400},
		{Smooth, 0, 0}, {Smooth, 5, 50}, {Smooth, 2.5, 15.625}, {Smooth, 15, 100}, {Smooth, 30, 400},
	} {
		tr := track(c.easing)
		if got := tr.At(c.frame); got != c.want {
			t.Errorf("%s at frame %g: %g, want %g", c.easing, c.frame, got, c.want)
		}
	}
	one := New([]float64{7}, []float64{3}, []Easing{Smooth})
	if one.At(0) != 3 || one.At(7) != 3 || one.At(70) != 3 {
		t.Error("a single pin does not hold everywhere")
	}
}

func TestSmoothNeverOvershootsAndFlowsThroughItsPins(t *testing.T) {
	if err := quick.Check(func(values [6]int8, gaps [6]uint8) bool {
		var frames, vs []float64
		easings := make([]Easing, 6)
		at := 0.0
		for i := range values {
			at += 1 + float64(gaps[i]%40)
			frames, vs, easings[i] = append(frames, at), append(vs, float64(values[i])), Smooth
		}
		tr := New(frames, vs, easings)
		for i := 0; i < 5; i++ {
			lo, hi := math.Min(vs[i], vs[i+1]), math.Max(vs[i], vs[i+1])
			for u := 0.0; u <= 1; u += 0.05 {
				v := tr.At(frames[i] + u*(frames[i+1]-frames[i]))
				if v < lo-1e-9 || v > hi+1e-9 {
					return false
				}
			}
		}
		return true
	}, nil); err != nil {
		t.Error(err)
	}
	rising := New([]float64{0, 10, 20}, []float64{0, 50, 100}, []Easing{Smooth, Smooth, Smooth})
	before, after := rising.At(10)-rising.At(9.999), rising.At(10.001)-rising.At(10)
	if before < 0.004 || math.Abs(before-after) > 1e-6 {
		t.Errorf("the motion stops or kinks at the middle pin: %g before, %g after", before, after)
	}
}

func TestThinKeepsWhatIsNeeded(t *testing.T) {
	var bent [][]float64
	for i := range 101 {
		x := float64(i)
		bent = append(bent, []float64{math.Min(x, 50), math.Max(0, x-70) * 2})
	}
	if got := Thin(bent, 1e-9); !slices.Equal(got, []int{0, 50, 70, 100}) {
		t.Errorf("a bent line needs %v", got)
	}
	var wave [][]float64
	for i := range 201 {
		wave = append(wave, []float64{math.Sin(float64(i) / 10)})
	}
	kept := Thin(wave, 0.02)
	if len(kept) > 60 || len(kept) < 10 {
		t.Errorf("a wave needs %d of 201", len(kept))
	}
	for n := 1; n < len(kept); n++ {
		a, b := kept[n-1], kept[n]
		for i := a; i <= b; i++ {
			line := wave[a][0] + (wave[b][0]-wave[a][0])*float64(i-a)/float64(b-a)
			if math.Abs(line-wave[i][0]) > 0.02 {
				t.Fatalf("at %d it is off by %v", i, math.Abs(line-wave[i][0]))
			}
		}
	}
	if Thin(nil, 1) != nil || len(Thin(wave[:1], 1)) != 1 {
		t.Error("nothing needs nothing, one needs itself")
	}
}

// Where a smooth span meets another kind, it ends level; between two smooth ones the slope is the weighted mean of
// both sides.
func TestSlopesAtPins(t *testing.T) {
	slopeAt := func(tr Track, frame float64) float64 { return (tr.At(frame) - tr.At(frame-1e-6)) / 1e-6 }
	mixed := New([]float64{0, 10, 20}, []float64{0, 10, 30}, []Easing{Smooth, Linear, Smooth})
	if got := slopeAt(mixed, 10); math.Abs(got) > 1e-3 || mixed.At(15) != 20 {
		t.Errorf("before a linear span it rises by %v; in the middle of that it is %v", got, mixed.At(15))
	}
	mixed = New([]float64{0, 10, 20}, []float64{0, 10, 30}, []Easing{Linear, Smooth, Smooth})
	if got := (mixed.At(10+1e-6) - mixed.At(10)) / 1e-6; math.Abs(got) > 1e-3 {
		t.Errorf("behind a linear span it rises by %v", got)
	}
	uneven := New([]float64{0, 10, 40}, []float64{0, 10, 20}, []Easing{Smooth, Smooth, Smooth})
	if got := slopeAt(uneven, 10); math.Abs(got-120.0/220) > 1e-4 {
		t.Errorf("between spans of 10 and 30 frames it rises by %v, want %v", got, 120.0/220)
	}
}

func TestThinLeavesOutWhatLiesJustAtTheTolerance(t *testing.T) {
	if got := Thin([][]float64{{0}, {1}, {0}}, 1); len(got) != 2 {
		t.Errorf("kept: %v", got)
	}
	if got := Thin([][]float64{{0}, {1.01}, {0}}, 1); len(got) != 3 {
		t.Errorf("kept: %v", got)
	}
}
