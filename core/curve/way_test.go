package curve

import (
	"math"
	"math/rand/v2"
	"testing"
)

func at(tracks []Track, frame float64) []float64 {
	out := make([]float64, len(tracks))
	for k := range tracks {
		out[k] = tracks[k].At(frame)
	}
	return out
}

func apart(a, b []float64) float64 {
	sum := 0.0
	for k := range a {
		sum += (a[k] - b[k]) * (a[k] - b[k])
	}
	return math.Sqrt(sum)
}

// A half circle of radius 100 as two Bézier spans, whose length is known.
var arc = struct{ values, leads, arrives [][]float64 }{
	[][]float64{{-100, 0}, {0, 100}, {100, 0}},
	[][]float64{{0, 55.19150244935106}, {55.19150244935106, 0}, nil},
	[][]float64{nil, {-55.19150244935106, 0}, {0, 55.19150244935106}},
}

func TestSpeedAlongAPathIsThatOfTheEasing(t *testing.T) {
	tracks := Along([]float64{10, 47, 84}, arc.values, arc.leads, arc.arrives, []Easing{Linear, Linear, Linear})
	step := math.Pi * 100 / 74 // of the half circle, for a frame
	before := at(tracks, 10)
	for f := 11.0; f <= 84; f++ {
		now := at(tracks, f)
		if far := apart(now, []float64{0, 0}); math.Abs(far-100) > 0.03 {
			t.Errorf("frame %v lies %.4f from the middle of the circle", f, far)
		}
		if gone := apart(now, before); math.Abs(gone/step-1) > 4e-4 {
			t.Errorf("from frame %v on it goes %.5f, not %.5f", f-1, gone, step)
		}
		before = now
	}
	// Shaped by a cubic, it is where the cubic says, in shares of the length: a quarter of the circle has the first span.
	shaped := Along([]float64{10, 47, 84}, arc.values, arc.leads, arc.arrives, []Easing{"cubic 0.7 0 0.9 0.4", Linear, Linear})
	cubic := New([]float64{10, 47}, []float64{0, 90}, []Easing{"cubic 0.7 0 0.9 0.4", Linear})
	for _, f := range []float64{13, 29.3, 44} {
		now := at(shaped, f)
		if angle := 180 - math.Atan2(now[1], now[0])*180/math.Pi; math.Abs(angle-cubic.At(f)) > 0.02 {
			t.Errorf("frame %v stands at %.4f°, not %.4f°", f, angle, cubic.At(f))
		}
	}
}

func TestAPathGoesThroughItsPinsAndRestsThere(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 11))
	for range 300 {
		n := 2 + r.IntN(5)
		frames, values, leads, arrives := make([]float64, n), make([][]float64, n), make([][]float64, n), make([][]float64, n)
		easings := make([]Easing, n)
		vector := func() []float64 {
			switch r.IntN(5) {
			case 0:
				return nil
			case 1:
				return []float64{0, 0, 0}
			}
			return []float64{r.NormFloat64() * 190, r.NormFloat64() * 190, r.NormFloat64() * 70}
		}
		for k := range n {
			frames[k] = float64(k*7 + r.IntN(7))
			values[k] = []float64{r.NormFloat64() * 300, r.NormFloat64() * 300, r.NormFloat64() * 90}
			if k > 0 && r.IntN(6) == 0 {
				copy(values[k], values[k-1]) // a loop, or nothing at all
			}
			leads[k], arrives[k] = vector(), vector()
			easings[k] = []Easing{Hold, Linear, Smooth, "cubic 0.3 0.1 0.4 1.3", "settle 20 4 35"}[r.IntN(5)]
		}
		tracks := Along(frames, values, leads, arrives, easings)
		for k, f := range frames {
			if off := apart(at(tracks, f), values[k]); off > 1e-6 {
				t.Fatalf("at pin %d of %v it is off by %g", k, frames, off)
			}
		}
		for range 40 {
			f := frames[0] - 3 + r.Float64()*(frames[n-1]-frames[0]+6)
			for _, x := range at(tracks, f) {
				if x-x != 0 {
					t.Fatalf("at frame %v it is nowhere: %v", f, at(tracks, f))
				}
			}
		}
	}
}

func TestWithoutHandlesAPathIsStraightAndEven(t *testing.T) {
	values := [][]float64{{13, -40}, {150, 220}}
	tracks := Along([]float64{4, 29}, values, [][]float64{nil, {0, 0}}, [][]float64{nil, nil}, []Easing{Linear, Linear})
	for part := range tracks {
		plain := New([]float64{4, 29}, []float64{values[0][part], values[1][part]}, []Easing{Linear, Linear})
		for f := 2.0; f < 33; f += 0.7 {
			if got, want := tracks[part].At(f), plain.At(f); math.Abs(got-want) > 1e-9 {
				t.Errorf("component %d is at %v at frame %v, not %v", part, got, f, want)
			}
		}
	}
}

func TestOvershootGoesOnStraightAndTailsGoAlongThePath(t *testing.T) {
	tracks := Along([]float64{0, 40, 80}, arc.values, arc.leads, arc.arrives, []Easing{Linear, "settle 10 3 40", Linear})
	lowest := 0.0
	for f := 40.0; f < 80; f += 0.25 {
		now := at(tracks, f)
		if lowest = min(lowest, now[1]); now[1] < 0 && math.Abs(now[0]-100) > 1e-6 {
			t.Errorf("beyond its end, at frame %v, it leaves the tangent: %v", f, now)
		}
	}
	if lowest > -5 {
		t.Errorf("it never overshoots: %v", lowest)
	}
	mirrored := Along([]float64{0, 40, 80}, arc.values, arc.leads, arc.arrives, []Easing{Linear, Linear, Linear})
	onward := Along([]float64{0, 40, 80}, arc.values, arc.leads, arc.arrives, []Easing{Linear, Linear, Linear})
	for k := range mirrored {
		mirrored[k].GoOn(Return)
		onward[k].GoOn(Onward)
	}
	for _, f := range []float64{3, 27.5, 61} {
		if off := apart(at(mirrored, 160-f), at(mirrored, f)); off > 1e-9 {
			t.Errorf("back at frame %v it is off by %g", 160-f, off)
		}
		want := at(onward, f)
		want[0] += 400
		if off := apart(at(onward, f+160), want); off > 1e-9 {
			t.Errorf("going on, at frame %v, it is off by %g", f+160, off)
		}
	}
}

func BenchmarkAlongAPath(b *testing.B) {
	frames := []float64{0, 40, 80}
	easings := []Easing{Linear, Smooth, Linear}
	path := Along(frames, arc.values, arc.leads, arc.arrives, easings)
	plain := New(frames, []float64{-100, 0, 100}, easings)
	for name, t := range map[string]*Track{"path": &path[0], "smooth": &plain} {
		b.Run(name, func(b *testing.B) {
			for i := range b.N {
				t.At(float64(i%800) / 10)
			}
		})
	}
}
