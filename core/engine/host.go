package engine

import (
	"math"

	"wunderkammer/core/formula"
	"wunderkammer/core/num"
)

// host answers what formulas ask for while a column is worked out.
type host struct {
	p *Plan
	c *column
}

// Look returns what stands in a slot at a frame.
func (h *host) Look(slot int32, frame float64) float64 {
	if e := h.p.heard[slot]; e != nil {
		return h.p.hear(e, slot, frame, h.c.frame)
	}
	return math.NaN()
}

// Area returns what a slot has added up to since frame 0. What it adds up to at whole frames is kept, as
// far as it can be heard: feedback is heard a frame late, and what follows is added up as it is heard now.
func (h *host) Area(slot int32, frame float64) float64 {
	e := h.p.heard[slot]
	if e == nil {
		return math.NaN()
	}
	at := func(f float64) float64 { return h.p.hear(e, slot, f, h.c.frame) }
	heard := frame
	if e.back {
		heard = min(frame, h.c.frame-1)
	}
	if heard < 0 {
		return formula.Area(frame, h.p.rate, at)
	}
	a := e.areas[slot]
	if a == nil {
		a = &area{last: at(0), sums: []float64{0}}
		e.areas[slot] = a
	}
	whole := int(math.Floor(heard))
	for k := len(a.sums); k <= whole; k++ {
		v := at(float64(k))
		a.sums = append(a.sums, a.sums[k-1]+float64((a.last+v)/2))
		a.last = v
	}
	sum, from, last := a.sums[whole], float64(whole), at(float64(whole))
	for from < frame {
		next := min(from+1, frame)
		v := at(next)
		sum += float64((last + v) / 2 * (next - from))
		from, last = next, v
	}
	return sum / h.p.rate
}

// Average returns the mean of a slot over some frames.
func (h *host) Average(slot int32, frame, frames float64) float64 {
	return formula.Average(frame, frames, func(f float64) float64 { return h.Look(slot, f) })
}

// Text returns the text that a number stands for.
func (h *host) Text(handle float64) string {
	if handle >= 0 && int(handle) < len(h.p.texts) {
		return h.p.texts[int(handle)]
	}
	return ""
}

// Number returns the number that stands for a text.
func (h *host) Number(text string) float64 { return h.p.handle(text) }

// Along returns where a share of the way along a path lies in the composition.
func (h *host) Along(item int32, share float64) (x, y, heading float64) {
	if h.p.Layout.Items[item].Path == nil {
		return math.NaN(), math.NaN(), math.NaN()
	}
	path := h.p.contours(h.c, item)
	px, py, dx, dy, ok := path.At(share)
	if !ok {
		return math.NaN(), math.NaN(), math.NaN()
	}
	world := h.p.posed(h.c, item)
	at, ahead := world.Apply([3]float64{px, py, 0}), world.Apply([3]float64{px + dx, py + dy, 0})
	return at[0], at[1], num.Atan2(ahead[1]-at[1], ahead[0]-at[0])
}
