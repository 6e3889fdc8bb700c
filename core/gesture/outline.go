package gesture

import (
	"cmp"
	"math"
	"slices"

	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// Reaches returns the corners of the box around an item in the composition, as it stands: its place where it has no outline.
func (c *Context) Reaches(item *scene.Item) (low, high [2]float64) {
	i := c.Planned.Layout.Index(item.ID)
	world := c.Plan().World(i)
	low, high = [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	for _, contour := range c.Contours(item) {
		for k := 0; k < len(contour); k += 2 {
			at := world.Apply([3]float64{contour[k], contour[k+1], 0})
			for n := range 2 {
				low[n], high[n] = min(low[n], at[n]), max(high[n], at[n])
			}
		}
	}
	if low[0] > high[0] {
		at := c.Plan().Derived(i, "worldPosition")
		low = [2]float64{at.At(0), at.At(1)}
		high = low
	}
	return low, high
}

// Contours returns the outline of an item as lines of x, y, x, y … in its own space: of an object, the hull of its vertices as it is
// seen from the front.
func (c *Context) Contours(item *scene.Item) (out [][]float64) {
	i := c.Planned.Layout.Index(item.ID)
	if points := c.Plan().Points(i); len(points) > 0 {
		return [][]float64{hull(points)}
	}
	shape := c.Plan().Shape(i)
	for _, line := range shape.Lines() {
		out = append(out, line.Points)
	}
	if size := item.Spec("size"); size != nil && len(out) == 0 {
		v := c.Value(item, "size")
		box := outline.Rectangle(v.At(0), v.At(1), 0)
		out = append(out, box.Lines()[0].Points)
	}
	return out
}

// hull returns the corners around points as they are seen from the front, counter-clockwise (the method of Andrew).
func hull(points [][3]float64) []float64 {
	sorted := slices.Clone(points)
	slices.SortFunc(sorted, func(a, b [3]float64) int { return cmp.Or(cmp.Compare(a[0], b[0]), cmp.Compare(a[1], b[1])) })
	half := func(points [][3]float64) (out [][3]float64) {
		for _, p := range points {
			for len(out) > 1 {
				a, b := out[len(out)-2], out[len(out)-1]
				if float64((b[0]-a[0])*(p[1]-a[1]))-float64((b[1]-a[1])*(p[0]-a[0])) > 0 {
					break
				}
				out = out[:len(out)-1]
			}
			out = append(out, p)
		}
		return out[:max(0, len(out)-1)]
	}
	lower := half(sorted)
	slices.Reverse(sorted)
	var out []float64
	for _, p := range append(lower, half(sorted)...) {
		out = append(out, p[0], p[1])
	}
	return out
}
