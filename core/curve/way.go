package curve

import (
	"math"
	"slices"
)

// way is a path in space through pins, each span a cubic Bézier curve, and how far along it the value is at each time. So the
// path has its shape, and the speed along it is apart: that of the easings, in shares of the length of each span.
type way struct {
	far   Track // how far along the path, from the first pin on
	bends []bend
}

// pieces is how many parts of a span its length is known at.
const pieces = 32

// bend is a span of a path.
type bend struct {
	p      [4][3]float64 // control points
	length float64
	far    [pieces + 1]float64 // how long the curve is up to each of the parts, which are even in its parameter
	slopes [pieces + 1]float64 // of the parameter over the length, at each of them
}

// Along makes the tracks of the components of a point, two or three, that moves along a path. Beside what New takes, of which values
// are by pin, leads and arrives are where the path leaves a pin to, and arrives at it from, as vectors from the pin; nil or all zero
// where it goes straight toward the other handle of its span.
func Along(frames []float64, values, leads, arrives [][]float64, easings []Easing) []Track {
	w, starts := &way{}, make([]float64, len(frames))
	for k := 1; k < len(frames); k++ {
		b := newBend(values[k-1], leads[k-1], arrives[k], values[k])
		w.bends = append(w.bends, b)
		starts[k] = starts[k-1] + b.length
	}
	w.far = New(frames, starts, easings)
	out := make([]Track, len(values[0]))
	for c := range out {
		own := make([]float64, len(frames))
		for k := range frames {
			own[k] = values[k][c]
		}
		out[c] = Track{frames: frames, values: own, easings: easings, way: w, part: c}
	}
	return out
}

func newBend(from, lead, arrive, to []float64) (b bend) {
	some := func(x float64) bool { return x != 0 }
	leads, arrives := slices.ContainsFunc(lead, some), slices.ContainsFunc(arrive, some)
	for c := range from {
		begin, end := from[c], to[c]
		if leads {
			begin += lead[c]
		}
		if arrives {
			end += arrive[c]
		}
		b.p[0][c], b.p[1][c], b.p[2][c], b.p[3][c] = from[c], begin, end, to[c]
		// A missing handle points to the other one, a third of the way: with none, the span is straight and even.
		if !leads {
			b.p[1][c] = from[c] + float64((end-from[c])/3)
		}
		if !arrives {
			b.p[2][c] = to[c] + float64((begin-to[c])/3)
		}
	}
	b.measure()
	return b
}

// at returns a point of the curve, and the derivative there.
func (b *bend) at(t float64) (at, speed [3]float64) {
	u := 1 - t
	w := [4]float64{float64(float64(u*u) * u), float64(float64(3*t) * float64(u*u)), float64(float64(3*u) * float64(t*t)), float64(float64(t*t) * t)}
	d := [3]float64{float64(3 * float64(u*u)), float64(6 * float64(u*t)), float64(3 * float64(t*t))}
	for c := range 3 {
		at[c] = float64(w[0]*b.p[0][c]) + float64(w[1]*b.p[1][c]) + float64(w[2]*b.p[2][c]) + float64(w[3]*b.p[3][c])
		speed[c] = float64(d[0]*(b.p[1][c]-b.p[0][c])) + float64(d[1]*(b.p[2][c]-b.p[1][c])) + float64(d[2]*(b.p[3][c]-b.p[2][c]))
	}
	return at, speed
}

func size(v [3]float64) float64 {
	return math.Sqrt(float64(v[0]*v[0]) + float64(v[1]*v[1]) + float64(v[2]*v[2]))
}

// Gauss-Legendre quadrature with five points (Abramowitz and Stegun, 25.4.30), on 0 to 1.
var gauss = [5][2]float64{
	{0.5, 0.2844444444444444},
	{0.23076534494715845, 0.23931433524968324}, {0.7692346550528415, 0.23931433524968324},
	{0.04691007703066802, 0.11846344252809454}, {0.9530899229693319, 0.11846344252809454},
}

// measure works out how long the curve is up to each of its parts.
func (b *bend) measure() {
	const part = 1.0 / pieces
	for k := range pieces {
		long := 0.0
		for _, g := range gauss {
			_, v := b.at(float64((float64(k) + g[0]) * part))
			long += float64(g[1] * size(v))
		}
		b.far[k+1] = b.far[k] + float64(long*part)
	}
	b.length = b.far[pieces]
	for k := range pieces + 1 {
		_, v := b.at(float64(float64(k) * part))
		// Where the curve stands still its parameter would run off; it never does by more than keeps it in order.
		most := math.Inf(1)
		for _, n := range [2]int{k, k + 1} {
			if n >= 1 && n <= pieces {
				most = min(most, 3*part/max(b.far[n]-b.far[n-1], math.SmallestNonzeroFloat64))
			}
		}
		b.slopes[k] = min(1/max(size(v), math.SmallestNonzeroFloat64), most)
	}
}

// parameter returns where on the curve, of 0 to 1, it is so long.
func (b *bend) parameter(far float64) float64 {
	lo, hi := 0, pieces
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; b.far[mid] <= far {
			lo = mid
		} else {
			hi = mid
		}
	}
	h := b.far[hi] - b.far[lo]
	if h <= 0 {
		return float64(lo) / pieces
	}
	// Cubic Hermite form of the inverse: its derivative is one over the speed.
	u := (far - b.far[lo]) / h
	v := 1 - u
	rise := float64(float64(u*u) * (3 - float64(2*u)))
	turn := float64(float64(u*v) * (float64(v*float64(h*b.slopes[lo])) - float64(u*float64(h*b.slopes[hi]))))
	return float64((float64(lo)+rise)/pieces) + turn
}

// at returns a component of where the value is at a frame between pin k and the one behind it. What overshoots goes on straight.
func (w *way) at(frame float64, k, part int) float64 {
	b := &w.bends[k]
	far := w.far.At(frame) - w.far.values[k]
	t, beyond := 0.0, 0.0
	switch {
	case far <= 0:
		beyond = far
	case far >= b.length:
		t, beyond = 1, far-b.length
	default:
		t = b.parameter(far)
	}
	at, speed := b.at(t)
	if beyond != 0 {
		if long := size(speed); long > 0 {
			return at[part] + float64(beyond*speed[part]/long)
		}
	}
	return at[part]
}
