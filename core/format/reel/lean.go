package reel

import (
	"math"
	"slices"

	"wunderkammer/core/outline"
)

// lean leaves out corners of outlines that change, where what is left is at no frame further off than the tolerance: what bends is
// made of very many. size says how far a frame stretches its outline. Outlines with curves, and those of few corners, stay as
// they are.
func lean(all []outline.Path, size func(k int) float64, tolerance float64) []outline.Path {
	first := &all[0]
	if len(first.Points) < 32 || slices.ContainsFunc(first.Verbs, func(v outline.Verb) bool { return v == outline.QuadTo || v == outline.CubicTo }) {
		return all
	}
	frames := []int{0} // those that differ from the ones before
	for k := 1; k < len(all); k++ {
		if &all[k].Points[0] != &all[k-1].Points[0] || size(k) != size(k-1) {
			frames = append(frames, k)
		}
	}
	var starts []int // the corners that contours begin at, and the number of all
	corner := 0
	for _, v := range first.Verbs {
		if v == outline.MoveTo {
			starts = append(starts, corner)
		}
		if v != outline.Close {
			corner++
		}
	}
	starts = append(starts, corner)
	var kept []int // corners
	for n, begin := range starts[:len(starts)-1] {
		end := starts[n+1]
		for _, k := range Thin(end-begin, tolerance, func(a, b int) func(int) float64 {
			return func(j int) float64 {
				worst := 0.0
				for _, k := range frames {
					worst = max(worst, astray(all[k].Points, begin+a, begin+b, begin+j)*size(k))
				}
				return worst
			}
		}) {
			kept = append(kept, begin+k)
		}
	}
	var verbs []outline.Verb
	corner = 0
	next := 0
	for _, v := range first.Verbs {
		if v == outline.Close {
			verbs = append(verbs, v)
			continue
		}
		if next < len(kept) && kept[next] == corner {
			verbs = append(verbs, v)
			next++
		}
		corner++
	}
	out := make([]outline.Path, len(all))
	for k, path := range all {
		if k > 0 && &path.Points[0] == &all[k-1].Points[0] {
			out[k] = out[k-1]
			continue
		}
		points := make([]float64, 0, 2*len(kept))
		for _, j := range kept {
			points = append(points, path.Points[2*j], path.Points[2*j+1])
		}
		out[k] = outline.Path{Verbs: verbs, Points: points}
	}
	return out
}

// astray is how far point j lies from the straight line between the points a and b.
func astray(points []float64, a, b, j int) float64 {
	ax, ay := points[2*a], points[2*a+1]
	dx, dy := points[2*b]-ax, points[2*b+1]-ay
	x, y := points[2*j]-ax, points[2*j+1]-ay
	t := 0.0
	if length := float64(dx*dx) + float64(dy*dy); length > 0 {
		t = max(0, min(1, (float64(x*dx)+float64(y*dy))/length))
	}
	return math.Hypot(x-float64(dx*t), y-float64(dy*t))
}
