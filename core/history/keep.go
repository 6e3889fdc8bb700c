package history

import "slices"

// forward works a history out at frames that are not kept, in order, and keeps them and its values.
func (h *Keeper) forward(e *history, frames []float64) {
	n := len(frames)
	fresh := make([][]float64, len(e.slots))
	for k := range fresh {
		fresh[k] = h.wants.grow(nil, n)[:n]
	}
	h.sliceOf(e).Over(frames, fresh)
	h.kept += n * (1 + len(fresh))
	if len(e.frames) == 0 {
		h.wants.give(e.frames)
		for k := range fresh {
			h.wants.give(e.rows[k])
		}
		e.frames, e.rows = frames, fresh
		return
	}
	e.merge(frames, fresh)
	h.wants.give(frames)
	for k := range fresh {
		h.wants.give(fresh[k])
	}
}

// merge puts frames that are not kept yet, in order, where they belong, with the values of every slot.
func (e *history) merge(frames []float64, fresh [][]float64) {
	n, old := len(frames), len(e.frames)
	e.frames = e.wants.grow(e.frames, n)[:old+n]
	for k := range e.rows {
		e.rows[k] = e.wants.grow(e.rows[k], n)[:old+n]
	}
	for n > 0 { // from the last on, as many as lie between the same two that are kept
		at, _ := slices.BinarySearch(e.frames[:old], frames[n-1])
		first := 0
		if at > 0 {
			first, _ = slices.BinarySearch(frames[:n], e.frames[at-1])
		}
		copy(e.frames[at+n:], e.frames[at:old])
		copy(e.frames[at+first:], frames[first:n])
		for k, row := range e.rows {
			copy(row[at+n:], row[at:old])
			copy(row[at+first:], fresh[k][first:n])
		}
		old, n = at, first
	}
}
