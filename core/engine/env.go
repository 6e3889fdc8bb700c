package engine

import (
	"math"

	"wunderkammer/core/num"
)

// env answers what formulas ask for while a snapshot is worked out, or a block.
type env struct {
	p     *Plan
	c     *snapshot
	times []float64 // of a block, by lane
}

// Now returns the frame that a lane asks at.
func (h *env) Now(lane int) float64 {
	if h.times != nil {
		return h.times[lane]
	}
	return h.c.frame
}

// Foresee asks for all that is looked at at other times in the frame that is evaluated.
func (h *env) Foresee() { h.p.foresee(h.c) }

// Look fills out with what stands in slots, or in one slot, at frames.
func (h *env) Look(out, frames, slots []float64) { h.p.past.Look(out, frames, slots, h) }

// Area fills out with what slots have added up to since frame 0.
func (h *env) Area(out, frames, slots []float64) { h.p.past.Area(out, frames, slots, h) }

// Average fills out with the mean of slots over some frames.
func (h *env) Average(out, frames, slots, spans []float64) {
	h.p.past.Average(out, frames, slots, spans, h)
}

// Text returns the text that a number stands for.
func (h *env) Text(handle float64) string {
	if handle >= 0 && int(handle) < len(h.p.words.texts) {
		return h.p.words.texts[int(handle)]
	}
	return ""
}

// Number returns the number that stands for a text.
func (h *env) Number(text string) float64 { return h.p.handle(text) }

// Cell returns what stands in a row of a column of a table.
func (h *env) Cell(item int32, column int, row float64) float64 { return h.p.cell(item, column, row) }

// Row returns the row of a table that has a text in its first column of texts; no number where none has.
func (h *env) Row(item int32, text float64) float64 {
	if row := h.p.Layout.Items[item].Table.Named(h.Text(text)); row > 0 {
		return float64(row)
	}
	return math.NaN()
}

// Along returns where a share of the way along a path lies in the composition.
func (h *env) Along(item int32, share float64) (x, y, heading float64) {
	if h.p.Layout.Items[item].Path == nil {
		return math.NaN(), math.NaN(), math.NaN()
	}
	path := h.p.contours(h.c, item)
	world := h.p.posed(h.c, item)
	if !even(world.Affine) { // the way is measured as it is seen, so that the speed along it is the same everywhere
		for k := 0; k < len(path.Points); k += 2 {
			at := world.Apply([3]float64{path.Points[k], path.Points[k+1], 0})
			path.Points[k], path.Points[k+1] = at[0], at[1]
		}
		x, y, dx, dy, ok := path.At(share)
		if !ok {
			return math.NaN(), math.NaN(), math.NaN()
		}
		return x, y, num.Atan2(dy, dx)
	}
	px, py, dx, dy, ok := path.At(share)
	if !ok {
		return math.NaN(), math.NaN(), math.NaN()
	}
	at, ahead := world.Apply([3]float64{px, py, 0}), world.Apply([3]float64{px + dx, py + dy, 0})
	return at[0], at[1], num.Atan2(ahead[1]-at[1], ahead[0]-at[0])
}

// even reports whether a transform scales the plane by the same in all directions.
func even(m num.Affine) bool {
	x, y := [3]float64{m[0], m[4], m[8]}, [3]float64{m[1], m[5], m[9]}
	dot := func(a, b [3]float64) float64 { return float64(a[0]*b[0]) + float64(a[1]*b[1]) + float64(a[2]*b[2]) }
	xx, yy := dot(x, x), dot(y, y)
	return math.Abs(xx-yy) <= 1e-9*(xx+yy) && math.Abs(dot(x, y)) <= 1e-9*(xx+yy)
}
