package history

import (
	"math"
	"slices"

	"wunderkammer/core/machine"
)

// wants is what is asked for and not fetched yet, all in all.
type wants struct {
	pool
	open    int // histories that something is asked of
	highest int // of them, or higher
}

// note notes that something more is asked of a history, of which so much was asked before.
func (e *history) note(before int) {
	if before == 0 && len(e.wanted) > 0 {
		e.wants.open++
		e.wants.highest = max(e.wants.highest, e.at)
	}
}

// unwant takes back all that is asked of a history, and returns it.
func (e *history) unwant() []float64 {
	wanted := e.wanted
	if e.wanted = nil; len(wanted) > 0 {
		e.wants.open--
	}
	if e.wants.open == 0 {
		e.wants.highest = 0
	}
	return wanted
}

// Want asks for a slot at a frame, if it is not kept, and reports whether it is still to be fetched. Feedback is worked
// out when it is looked at.
func (h *Keeper) Want(slot int32, frame float64) bool {
	record, ok := h.record(slot)
	if !ok || record.back {
		return false
	}
	if _, ok := h.known(record, frame); ok {
		return false
	}
	record.want(frame)
	return true
}

// WantAll asks for a slot at frames, whether or not they are kept.
func (h *Keeper) WantAll(slot int32, frames []float64) {
	if record, ok := h.record(slot); ok && !record.back {
		record.wantAll(frames)
	}
}

// WantEarlier asks for a slot at frames, which are in order, each by a delay earlier than given.
func (h *Keeper) WantEarlier(slot int32, frames []float64, delay float64) {
	if record, ok := h.record(slot); ok && !record.back {
		record.wantEarlier(frames, delay)
	}
}

// WantArea asks for what a slot has added up to at a frame.
func (h *Keeper) WantArea(slot int32, frame float64) {
	if record, ok := h.record(slot); ok && !record.back {
		record.wantArea(slot, frame)
	}
}

// WantAverage asks for the mean of a slot over some frames up to one.
func (h *Keeper) WantAverage(slot int32, frame, span float64) {
	if record, ok := h.record(slot); ok && !record.back {
		record.wantAverage(frame, span)
	}
}

// want notes a frame that is asked for.
func (e *history) want(frame float64) {
	if machine.Within(frame) {
		e.wanted = append(e.wanted, frame)
		e.note(len(e.wanted) - 1)
	}
}

// wantAll notes frames that are asked for.
func (e *history) wantAll(frames []float64) {
	before := len(e.wanted)
	e.wanted = e.wants.grow(e.wanted, len(frames))
	from := 0
	for i, f := range frames {
		if !machine.Within(f) {
			e.wanted = append(e.wanted, frames[from:i]...)
			from = i + 1
		}
	}
	e.wanted = append(e.wanted, frames[from:]...)
	e.note(before)
}

// wantEarlier notes frames that are asked for, each by a delay earlier than given; these are in order.
func (e *history) wantEarlier(frames []float64, delay float64) {
	for len(frames) > 0 && !machine.Within(frames[0]-delay) {
		frames = frames[1:]
	}
	for len(frames) > 0 && !machine.Within(frames[len(frames)-1]-delay) {
		frames = frames[:len(frames)-1]
	}
	before := len(e.wanted)
	e.wanted = e.wants.grow(e.wanted, len(frames))[:before+len(frames)]
	for i, to := 0, e.wanted[before:]; i < len(frames) && i < len(to); i++ {
		to[i] = frames[i] - delay
	}
	e.note(before)
}

func (e *history) wantArea(slot int32, frame float64) {
	if !machine.Within(frame) || e.back {
		return
	}
	note := func(f float64) float64 { e.want(f); return 0 }
	if frame < 0 {
		machine.Area(frame, 1, note)
		return
	}
	a := e.areaOf(slot)
	whole := math.Floor(frame)
	for a.wanted = max(a.wanted, float64(max(0, len(a.sums)-1))); a.wanted < whole; a.wanted++ {
		note(a.wanted + 0.5)
	}
	machine.Over(whole, frame, note)
}

func (e *history) wantAverage(frame, span float64) {
	if machine.Within(frame) && machine.Within(span) && !e.back {
		machine.Average(frame, span, func(f float64) float64 { e.want(f); return 0 })
	}
}

// inOrder sorts numbers, and drops those that are there twice.
func inOrder(numbers []float64) []float64 {
	down := 0 // where the second run begins
	for i := 1; i < len(numbers); i++ {
		if numbers[i] > numbers[i-1] {
			continue
		}
		if down > 0 { // more than two
			slices.Sort(numbers)
			return slices.Compact(numbers)
		}
		down = i
	}
	if down == 0 {
		return numbers
	}
	// Two runs are merged. Most often the first is that which the frame asks for itself, and short.
	first, second := slices.Clone(numbers[:down]), numbers[down:]
	out := numbers[:0] // never ahead of what is read
	for _, x := range first {
		n, ok := slices.BinarySearch(second, x)
		out = append(append(out, second[:n]...), x)
		if second = second[n:]; ok {
			second = second[1:]
		}
	}
	return append(out, second...)
}

// missing returns those of some frames that are not kept, in order.
func (e *history) missing(wanted []float64) []float64 {
	wanted = inOrder(wanted)
	n := len(e.frames)
	if n == 0 || wanted[0] > e.frames[n-1] || wanted[len(wanted)-1] < e.frames[0] {
		return wanted
	}
	out := wanted[:0] // never ahead of what is read
	at := 0
	for _, f := range wanted {
		if at < len(e.frames) && e.frames[at] < f {
			if at++; at < len(e.frames) && e.frames[at] < f {
				more, _ := slices.BinarySearch(e.frames[at:], f)
				at += more
			}
		}
		if at == len(e.frames) || e.frames[at] != f {
			out = append(out, f)
		}
	}
	return out
}
