package history

import (
	"math"
	"slices"

	"wunderkammer/core/machine"
)

// Asker is something that looks at other times.
type Asker interface {
	// Now returns the frame that a lane asks at.
	Now(lane int) float64
	// Foresee is called before anything is fetched for the asker: to ask for what else it will look at.
	Foresee()
}

// Look fills out[i] with the value of slots[i], or of the only slot that is given, at frames[i]. What is asked for is kept, and worked
// out for all that is missing at once.
func (h *Keeper) Look(out, frames, slots []float64, by Asker) {
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
			e, ok = h.record(int32(last))
		}
		out[i] = math.NaN()
		switch {
		case !ok || !machine.Within(frame):
		case e.back:
			h.hold(int32(last), frame, by.Now(i))
			out[i] = h.feedback(e, frame, by.Now(i))
		default:
			if out[i], ok = h.known(e, frame); !ok {
				e.want(frame)
				missing, ok = true, true
			}
		}
	}
	if missing {
		by.Foresee()
		h.Fetch()
		machine.Looks(out, frames, func(i int, f float64) float64 { return h.Value(int32(slotOf(i)), f, by.Now(i)) })
	}
}

// Rows fills out, by frame and by slot, with what stands in slots at frames, which are in order.
func (h *Keeper) Rows(out [][]float64, frames []float64, slots []int32, by Asker) {
	records, forgotten := make([]record, len(slots)), 0
	var of []*history // of the records, each once
	in := make([]int, len(slots))
	for k, s := range slots {
		e, ok := h.record(s)
		if !ok || e.back { // each by itself
			h.columns(out, frames, slots, by)
			return
		}
		if in[k] = slices.Index(of, e.history); in[k] < 0 {
			in[k] = len(of)
			of = append(of, e.history)
		}
		records[k], forgotten = e, max(forgotten, e.forgotten)
	}
	at := make([]int, len(of))
	var left []float64 // frames that are not there
	var rows [][]float64
	for i, f := range frames {
		if row := h.recent.find(f, forgotten); row != nil {
			for k := range records {
				out[i][k] = row.values[records[k].index]
			}
			continue
		}
		there := true
		for m, e := range of {
			var ok bool
			at[m], ok = e.find(f)
			there = there && ok
		}
		if !there {
			left, rows = append(left, f), append(rows, out[i])
			continue
		}
		for k, e := range records {
			out[i][k] = e.rows[e.row][at[in[k]]]
		}
	}
	if len(left) > 0 {
		h.columns(rows, left, slots, by)
	}
}

// columns is Rows, slot by slot.
func (h *Keeper) columns(out [][]float64, frames []float64, slots []int32, by Asker) {
	column := make([]float64, len(frames))
	for k, s := range slots {
		h.Look(column, frames, []float64{float64(s)}, by)
		for i, v := range column {
			out[i][k] = v
		}
	}
}

// copied fills out where all frames of one slot are kept in a row, as they are when one trails another.
func (h *Keeper) copied(out, frames []float64, slot int32) bool {
	n := len(frames)
	e, ok := h.record(slot)
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
	copy(out, e.rows[e.row][at:])
	return true
}

// Area fills out with what slots have added up to since frame 0.
func (h *Keeper) Area(out, frames, slots []float64, by Asker) {
	for i, frame := range frames {
		if record, ok := h.record(int32(slots[i])); ok {
			record.wantArea(int32(slots[i]), frame)
		}
	}
	by.Foresee()
	h.Fetch()
	machine.Looks(out, frames, func(i int, f float64) float64 { return h.areaAt(int32(slots[i]), f, by.Now(i)) })
}

// areaAt returns what a slot has added up to since frame 0. What it adds up to at whole frames is kept, as
// far as it can be known: feedback is known a frame late, and what follows is added up as it is known now.
func (h *Keeper) areaAt(slot int32, frame, now float64) float64 {
	record, ok := h.record(slot)
	if !ok {
		return math.NaN()
	}
	at := func(f float64) float64 { return h.Value(slot, f, now) }
	if frame < 0 {
		return machine.Area(frame, h.rate, at)
	}
	a := record.areaOf(slot)
	if len(a.sums) == 0 {
		a.sums = append(a.sums, 0)
	}
	if record.back { // only what is a frame old is there for good
		return h.areaBack(a, frame, now, at)
	}
	whole := int(math.Floor(frame))
	for k := len(a.sums); k <= whole; k++ {
		a.sums = append(a.sums, a.sums[k-1]+at(float64(k)-0.5))
	}
	return (a.sums[whole] + machine.Over(float64(whole), frame, at)) / h.rate
}

// areaBack is areaAt of feedback, which is worked out at whole frames: straight from one to the next, as far as it is
// known, and on as it is known last.
func (h *Keeper) areaBack(a *area, frame, now float64, at func(float64) float64) float64 {
	known := min(frame, now-1)
	if known < 0 {
		return float64(frame*at(0)) / h.rate
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
	return sum / h.rate
}

// Average fills out with the mean of slots over some frames.
func (h *Keeper) Average(out, frames, slots, spans []float64, by Asker) {
	for i, frame := range frames {
		if record, ok := h.record(int32(slots[i])); ok {
			record.wantAverage(frame, spans[i])
		}
	}
	by.Foresee()
	h.Fetch()
	machine.Averages(out, frames, spans, func(i int, f float64) float64 { return h.Value(int32(slots[i]), f, by.Now(i)) })
}

// hold notes that feedback was asked for less than a frame late.
func (h *Keeper) hold(slot int32, frame, now float64) {
	if frame <= now-1 || now < 0 {
		return
	}
	if first, ok := h.held[slot]; !ok || now < first {
		h.held[slot] = now
	}
}
