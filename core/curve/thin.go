package curve

import "math"

// Thin returns which of some evenly spaced samples are needed so that straight lines between them stay
// within a tolerance of all others, component for component: the method of Ramer, Douglas and
// Peucker, with distances measured along the value alone. The first and the last are always needed.
func Thin(samples [][]float64, tolerance float64) []int {
	n := len(samples)
	if n == 0 {
		return nil
	}
	keep := make([]bool, n)
	keep[0], keep[n-1] = true, true
	open := [][2]int{{0, n - 1}}
	for len(open) > 0 {
		a, b := open[len(open)-1][0], open[len(open)-1][1]
		open = open[:len(open)-1]
		worst, at := tolerance, -1
		for i := a + 1; i < b; i++ {
			share := float64(i-a) / float64(b-a)
			for k, v := range samples[i] {
				line := samples[a][k] + float64((samples[b][k]-samples[a][k])*share)
				if d := math.Abs(v - line); d > worst {
					worst, at = d, i
				}
			}
		}
		if at >= 0 {
			keep[at] = true
			open = append(open, [2]int{a, at}, [2]int{at, b})
		}
	}
	var out []int
	for i, k := range keep {
		if k {
			out = append(out, i)
		}
	}
	return out
}
