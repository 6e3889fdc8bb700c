package curve

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"
)

// between is the Bézier curve by de Casteljau's construction, its parameter found by halving: slow and plain.
func between(x1, y1, x2, y2, u float64) float64 {
	along := func(a, b, s float64) float64 {
		p := []float64{0, a, b, 1}
		for n := 3; n > 0; n-- {
			for k := range n {
				p[k] += (p[k+1] - p[k]) * s
			}
		}
		return p[0]
	}
	lo, hi := 0.0, 1.0
	for range 200 {
		mid := (lo + hi) / 2
		if along(x1, x2, mid) < u {
			lo = mid
		} else {
			hi = mid
		}
	}
	return along(y1, y2, (lo+hi)/2)
}

func TestACubicIsTheCurveOfItsHandles(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 7))
	edge := []float64{0, 1, 0.42, 0.001, 0.999, 0.3333}
	some := func() float64 {
		if r.IntN(2) == 0 {
			return edge[r.IntN(len(edge))]
		}
		return float64(r.IntN(1000)) / 1000
	}
	for n := range 3000 {
		x1, x2 := some(), some()
		y1, y2 := float64(r.IntN(6000)-2000)/1000, float64(r.IntN(6000)-2000)/1000
		easing := Shape{Cubic, []float64{x1, y1, x2, y2}}.Easing()
		if err := easing.Check(); err != nil {
			t.Fatal(err)
		}
		tr := New([]float64{-13, 58}, []float64{230, 230 - 70}, []Easing{easing, Hold})
		for range 12 {
			frame := -13 + 71*r.Float64()
			if n%3 == 0 {
				frame = -13 + math.Round(frame+13) // at whole frames, too
			}
			u := (frame + 13) / 71
			want := 230 - 70*between(x1, y1, x2, y2, u)
			// Where time stands still for an instant, no number is nearer than this.
			if got := tr.At(frame); math.Abs(got-want) > 1e-9*70 && !(steep(x1, x2, u)) {
				t.Fatalf("%s at %g: %.12g, want %.12g", easing, u, got, want)
			}
		}
		if tr.At(-13) != 230 || tr.At(58) != 160 {
			t.Fatalf("%s does not begin and end at its pins", easing)
		}
	}
}

// steep reports whether time stands all but still at a share of it.
func steep(x1, x2, u float64) bool {
	z := newBezier(x1, 0, x2, 1)
	lo, hi := 0.0, 1.0
	for range 100 {
		if mid := (lo + hi) / 2; z.x(mid) < u {
			lo = mid
		} else {
			hi = mid
		}
	}
	return math.Abs(z.slope(lo)) < 1e-5
}

func TestSettlingSwingsAsOftenAndAsFarAsItSays(t *testing.T) {
	for _, c := range []struct{ overshoot, swings, left float64 }{{12, 3, 40}, {30, 1, 70}, {4.5, 6, 25}, {80, 11, 85}} {
		easing := Shape{Settle, []float64{c.overshoot, c.swings, c.left}}.Easing()
		if err := easing.Check(); err != nil {
			t.Fatal(err)
		}
		tr := New([]float64{20, 120}, []float64{-40, 60}, []Easing{easing, Hold})
		crossed, beyond, last := 0, 0.0, -1.0
		for k := 1; k < 20000; k++ {
			y := (tr.At(20+100*float64(k)/20000) + 40) / 100
			if (y-1)*last < 0 {
				crossed, last = crossed+1, y-1
			}
			beyond = max(beyond, y-1)
		}
		if crossed != int(c.swings) {
			t.Errorf("%s crosses its end %d times", easing, crossed)
		}
		if math.Abs(beyond*100-c.overshoot) > 0.001*c.overshoot {
			t.Errorf("%s runs %g %% beyond", easing, beyond*100)
		}
		if tr.At(20) != -40 || tr.At(120) != 60 || math.Abs(tr.At(119.999)-60) > 0.1 {
			t.Errorf("%s does not begin and end at its pins", easing)
		}
		if under, over := easing.Reach(); under > 0 && c.swings < 2 || math.Abs(over-beyond) > 1e-3 {
			t.Errorf("%s says that it reaches %g and %g", easing, under, over)
		}
	}
}

func TestABounceStaysBelowAndTouchesAsOften(t *testing.T) {
	for _, c := range []struct {
		height float64
		times  int
	}{{35, 3}, {70, 7}, {0.5, 1}} {
		easing := Shape{Bounce, []float64{c.height, float64(c.times)}}.Easing()
		tr := New([]float64{0, 1000}, []float64{100, 0}, []Easing{easing, Hold})
		peaks, high := 0, 0.0
		for k := 2; k < 100000; k++ {
			a, b, z := tr.At(float64(k-2)/100), tr.At(float64(k-1)/100), tr.At(float64(k)/100)
			if b < -1e-9 {
				t.Fatalf("%s falls through to %g", easing, b)
			}
			if b > a && b >= z {
				if peaks++; peaks == 1 {
					high = b
				}
			}
		}
		if peaks != c.times || math.Abs(high-c.height) > 0.02*c.height {
			t.Errorf("%s rises %d times, first to %g", easing, peaks, high)
		}
	}
}

func TestEasingsAreReadAndRefused(t *testing.T) {
	for _, e := range []Easing{"cubic 0.42 0 0.58 1.24", "settle 12 3 40", "bounce 35 3", "cubic 0 -0.3 1 1"} {
		if err := e.Check(); err != nil {
			t.Error(err)
		}
		if back := e.Turned().Turned(); back != e {
			t.Errorf("%s turned and turned back is %s", e, back)
		}
	}
	if e := Easing("cubic 0.42 0 0.68 1.24").Turned(); e != "cubic 0.32 -0.24 0.58 1" {
		t.Errorf("turned it is %s", e)
	}
	for e, says := range map[Easing]string{
		"cubic 1.2 0 0.5 1":   "leave x of cubic can be from 0 to 1",
		"cubic 0.2 0 -0.01 1": "arrive x",
		"cubic NaN 0 0.5 1":   "leave x",
		"cubic 0.2 1e99 0 1":  "leave y",
		"cubic 0.20 0 0.5 1":  "is written",
		"cubic 0.2 0 0.5":     "is not an easing",
		"settle 12 2.5 40":    "whole number",
		"bounce 35 400":       "bounces of bounce",
		"":                    "is not an easing",
		"glide":               "is not an easing",
		Easing("cubic " + strings.Repeat("9", 1<<16)): "is not an easing",
	} {
		if err := e.Check(); err == nil || !strings.Contains(err.Error(), says) || len(err.Error()) > 200 {
			t.Errorf("%.40q: %v", string(e), err)
		}
	}
}

func BenchmarkAt(b *testing.B) {
	const pins = 60
	for _, easing := range []Easing{Smooth, "cubic 0.42 0 0.58 1.24", "settle 12 3 40", "bounce 35 3"} {
		frames, values, easings := make([]float64, pins), make([]float64, pins), make([]Easing, pins)
		for k := range pins {
			frames[k], values[k], easings[k] = float64(k*5), float64(k*7%13), easing
		}
		tr := New(frames, values, easings)
		b.Run(fmt.Sprint(easing), func(b *testing.B) {
			sum := 0.0
			for n := range b.N {
				sum += tr.At(float64(n%2951) / 10)
			}
			if sum == 0.123 {
				b.Fatal(sum)
			}
		})
	}
}
