package engine

import (
	"math"

	"wunderkammer/core/formula"
	"wunderkammer/core/num"
)

// env answers what formulas ask for while a column is worked out, or a block.
type env struct {
	p     *Plan
	c     *column
	times []float64 // of a block, by lane
}

// now returns the frame that a lane asks at.
func (h *env) now(lane int) float64 {
	if h.times != nil {
		return h.times[lane]
	}
	return h.c.frame
}

// Look fills out with what stands in slots, or in one slot, at frames.
func (h *env) Look(out, frames, slots []float64) {
	if len(slots) == 1 && h.copied(out, frames, int32(slots[0])) {
		return
	}
	slotOf := func(i int) float64 { return slots[min(i, len(slots)-1)] }
	missing, last := false, -1.0
	var e record
	var ok bool
	for i, frame := range frames {
		if slot := slotOf(i); slot != last {
			last = slot
			e, ok = h.p.record(int32(last))
		}
		out[i] = math.NaN()
		switch {
		case !ok || !formula.Within(frame):
		case e.back:
			h.p.hold(int32(last), frame, h.now(i))
			out[i] = h.p.feedback(e, frame, h.now(i))
		default:
			if out[i], ok = h.p.known(e, frame); !ok {
				e.want(frame)
				missing, ok = true, true
			}
		}
	}
	if missing {
		h.p.foresee(h.c)
		h.p.fetch()
		formula.Looks(out, frames, func(i int, f float64) float64 { return h.p.valueAt(int32(slotOf(i)), f, h.now(i)) })
	}
}

// copied fills out where all frames of one slot are kept in a row, as they are when one trails another.
func (h *env) copied(out, frames []float64, slot int32) bool {
	n := len(frames)
	e, ok := h.p.record(slot)
	if !ok || e.back {
		return false
	}
	at, ok := e.find(frames[0])
	if !ok || at+n > len(e.frames) {
		return false
	}
	for i, f := range e.frames[at : at+n] {
		if f != frames[i] {
			return false
		}
	}
	e.hint = at + n - 1
	copy(out, e.rows[e.place][at:])
	return true
}

// Area fills out with what slots have added up to since frame 0.
func (h *env) Area(out, frames, slots []float64) {
	for i, frame := range frames {
		if record, ok := h.p.record(int32(slots[i])); ok {
			record.wantArea(int32(slots[i]), frame)
		}
	}
	h.p.foresee(h.c)
	h.p.fetch()
	formula.Looks(out, frames, func(i int, f float64) float64 { return h.p.areaAt(int32(slots[i]), f, h.now(i)) })
}

// areaAt returns what a slot has added up to since frame 0. What it adds up to at whole frames is kept, as
// far as it can be known: feedback is known a frame late, and what follows is added up as it is known now.
func (p *Plan) areaAt(slot int32, frame, now float64) float64 {
	record, ok := p.record(slot)
	if !ok {
		return math.NaN()
	}
	at := func(f float64) float64 { return p.valueAt(slot, f, now) }
	if frame < 0 {
		return formula.Area(frame, p.rate, at)
	}
	a := record.areaOf(slot)
	if len(a.sums) == 0 {
		a.sums = append(a.sums, 0)
	}
	if record.back { // only what is a frame old is there for good
		return p.areaBack(a, frame, now, at)
	}
	whole := int(math.Floor(frame))
	for k := len(a.sums); k <= whole; k++ {
		a.sums = append(a.sums, a.sums[k-1]+at(float64(k)-0.5))
	}
	return (a.sums[whole] + formula.Over(float64(whole), frame, at)) / p.rate
}

// areaBack is areaAt of feedback, which is worked out at whole frames: straight from one to the next, as far as it is
// known, and on as it is known last.
func (p *Plan) areaBack(a *area, frame, now float64, at func(float64) float64) float64 {
	known := min(frame, now-1)
	if known < 0 {
		return float64(frame*at(0)) / p.rate
	}
	if len(a.sums) == 1 {
		a.last = at(0)
	}
	whole := int(math.Floor(known))
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
	return sum / p.rate
}

// Average fills out with the mean of slots over some frames.
func (h *env) Average(out, frames, slots, spans []float64) {
	for i, frame := range frames {
		if record, ok := h.p.record(int32(slots[i])); ok {
			record.wantAverage(frame, spans[i])
		}
	}
	h.p.foresee(h.c)
	h.p.fetch()
	formula.Averages(out, frames, spans, func(i int, f float64) float64 { return h.p.valueAt(int32(slots[i]), f, h.now(i)) })
}

// Text returns the text that a number stands for.
func (h *env) Text(handle float64) string {
	if handle >= 0 && int(handle) < len(h.p.texts) {
		return h.p.texts[int(handle)]
	}
	return ""
}

// Number returns the number that stands for a text.
func (h *env) Number(text string) float64 { return h.p.handle(text) }

// Along returns where a share of the way along a path lies in the composition.
func (h *env) Along(item int32, share float64) (x, y, heading float64) {
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
