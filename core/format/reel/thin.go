package reel

import "math"

// Tolerances of what is no length: a share of a component of a colour, and of an opacity.
const (
	ColourTolerance  = 1.5 / 255
	OpacityTolerance = 0.01
)

// exact is how many digits behind the point a number has at most.
const exact = 5

// Digits returns how many digits behind the point a length needs that is stretched so many times, so that rounding it goes
// unnoticed.
func Digits(tolerance, stretched float64) int {
	return max(0, min(exact, int(math.Ceil(-math.Log10(tolerance/10/max(stretched, 1e-3))))))
}

// Ease is how a value goes on from a key to the next: along a cubic whose handles lie at a third and at two thirds of the way in
// time, and at Out and In of the way in value, both from 0 to 1.
type Ease struct{ Out, In float64 }

// Straight goes on evenly.
var Straight = Ease{1. / 3, 2. / 3}

// At is how far along the way in value a moment is that is t along it in time.
func (e Ease) At(t float64) float64 {
	return float64(3*e.Out*t*(1-t)*(1-t)) + float64(3*e.In*t*t*(1-t)) + float64(t*t*t)
}

// Key is a frame at which a value is kept, and how it goes on from there.
type Key struct {
	Frame int
	Ease
}

// Thin returns which of n values in a row are kept, the first and the last among them. From one that is kept to the next it goes
// as between says, for the two of them: none of those that lie between is further off than the tolerance. (Ramer, Douglas and
// Peucker's way, over time.)
func Thin(n int, tolerance float64, between func(a, b int) (off func(k int) float64)) []int {
	if n == 0 {
		return nil
	}
	keep := make([]bool, n)
	keep[0], keep[n-1] = true, true
	spans := [][2]int{{0, n - 1}}
	for len(spans) > 0 {
		a, b := spans[len(spans)-1][0], spans[len(spans)-1][1]
		spans = spans[:len(spans)-1]
		if b-a < 2 {
			continue
		}
		off := between(a, b)
		worst, at := tolerance, -1
		for k := a + 1; k < b; k++ {
			if d := off(k); d > worst || math.IsNaN(d) {
				worst, at = d, k
			}
		}
		if at >= 0 {
			keep[at] = true
			spans = append(spans, [2]int{a, at}, [2]int{at, b})
		}
	}
	var kept []int
	for k, yes := range keep {
		if yes {
			kept = append(kept, k)
		}
	}
	return kept
}

// Keys thins rows of numbers to keys: no number of them is further off than the tolerance. Where nothing changes, there is one.
func Keys(rows [][]float64, tolerance float64) []Key {
	return keysOf(rows, func(int) float64 { return tolerance })
}

// StraightKeys are Keys that go straight from one to the next.
func StraightKeys(rows [][]float64, tolerance float64) []Key {
	return thinned(rows, func(int) float64 { return tolerance }, func([][]float64, int, int) Ease { return Straight })
}

// keysOf is Keys with a tolerance for each row.
func keysOf(rows [][]float64, tolerance func(k int) float64) []Key {
	return thinned(rows, tolerance, fit)
}

func thinned(rows [][]float64, tolerance func(k int) float64, fit func(rows [][]float64, a, b int) Ease) []Key {
	off := func(a, b int, ease Ease) func(k int) float64 {
		return func(k int) float64 {
			if &rows[k][0] == &rows[a][0] && &rows[k][0] == &rows[b][0] {
				return 0
			}
			at, worst := ease.At(share(a, b, k)), 0.0
			for c, x := range rows[k] {
				worst = max(worst, math.Abs(x-(rows[a][c]+float64((rows[b][c]-rows[a][c])*at))))
			}
			return worst / tolerance(k)
		}
	}
	kept := Thin(len(rows), 1, func(a, b int) func(k int) float64 { return off(a, b, fit(rows, a, b)) })
	keys := make([]Key, len(kept))
	for n, k := range kept {
		keys[n] = Key{k, Straight}
		if n+1 < len(kept) {
			straight := off(k, kept[n+1], Straight)
			for between := k + 1; between < kept[n+1]; between++ {
				if straight(between) > 1 {
					keys[n].Ease = fit(rows, k, kept[n+1])
					break
				}
			}
		}
	}
	if len(keys) == 2 {
		still := true
		for c, x := range rows[keys[1].Frame] {
			still = still && math.Abs(x-rows[0][c]) <= tolerance(0)
		}
		if still {
			return keys[:1]
		}
	}
	return keys
}

// share is how far along the way from a to b a frame is.
func share(a, b, k int) float64 { return float64(k-a) / float64(b-a) }

// fit is the ease that comes closest to how rows go from one to another: it is fitted to how far along the straight way from the
// first to the last each of them is, by least squares.
func fit(rows [][]float64, a, b int) Ease {
	if b-a < 3 {
		return Straight
	}
	first, last := rows[a], rows[b]
	length := 0.0
	for c := range first {
		length += float64((last[c] - first[c]) * (last[c] - first[c]))
	}
	if length == 0 {
		return Straight
	}
	var uu, uv, vv, us, vs float64
	for k := a + 1; k < b; k++ {
		t := share(a, b, k)
		u, v := 3*t*(1-t)*(1-t), 3*t*t*(1-t)
		along := 0.0
		for c, x := range rows[k] {
			along += float64((x - first[c]) * (last[c] - first[c]))
		}
		s := along/length - float64(t*t*t)
		uu, uv, vv, us, vs = uu+float64(u*u), uv+float64(u*v), vv+float64(v*v), us+float64(u*s), vs+float64(v*s)
	}
	det := float64(uu*vv) - float64(uv*uv)
	if math.Abs(det) < 1e-12 {
		return Straight
	}
	e := Ease{(float64(us*vv) - float64(vs*uv)) / det, (float64(vs*uu) - float64(us*uv)) / det}
	if e.Out < 0 || e.Out > 1 || e.In < 0 || e.In > 1 {
		return Straight
	}
	return e
}
