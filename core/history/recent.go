package history

import "slices"

// recent is what was looked up at the frames that were evaluated last, as they come: who plays asks for it soon. Only
// ever a cache.
type recent struct {
	slots  []int32 // of all records
	frames []float64
	rows   []recentRow
	hint   int // where a frame was found last
	now    int // how often anything was kept or forgotten
	most   int // rows
}

// recentRow is the values of all records at one frame.
type recentRow struct {
	values []float64
	since  int // when they were kept
}

// The rows that are kept at least and at most, however many records there are.
const (
	fewestRecent = 16
	mostRecent   = 4096
)

func newRecent(slots []int32, numbers int) recent {
	return recent{slots: slots, most: min(max(numbers/max(1, len(slots)), fewestRecent), mostRecent)}
}

// Keep keeps what a frame that was evaluated shows, by slot: who plays looks at it soon.
func (h *Keeper) Keep(frame float64, values []float64) { h.recent.keep(frame, values) }

// keep keeps the values of a frame.
func (r *recent) keep(frame float64, values []float64) {
	if len(r.slots) == 0 {
		return
	}
	at, ok := slices.BinarySearch(r.frames, frame)
	if !ok {
		var row recentRow
		if len(r.frames) < r.most {
			row.values = make([]float64, len(r.slots))
		} else { // in place of that which lies farthest away
			gone := 0
			if frame-r.frames[0] < r.frames[len(r.frames)-1]-frame {
				gone = len(r.frames) - 1
			}
			row = r.rows[gone]
			r.frames, r.rows = slices.Delete(r.frames, gone, gone+1), slices.Delete(r.rows, gone, gone+1)
			if gone < at {
				at--
			}
		}
		r.frames, r.rows = slices.Insert(r.frames, at, frame), slices.Insert(r.rows, at, row)
	}
	r.now++
	row := &r.rows[at]
	row.since = r.now
	for k, s := range r.slots {
		row.values[k] = values[s]
	}
	r.hint = at
}

// find returns the row of a frame, if there is one that is younger than when something was forgotten.
func (r *recent) find(frame float64, forgotten int) *recentRow {
	n := len(r.frames)
	if n == 0 || frame > r.frames[n-1] || frame < r.frames[0] {
		return nil
	}
	if r.hint+1 < n && r.frames[r.hint+1] == frame { // one after the other
		r.hint++
	} else if r.hint+1 < n && r.frames[r.hint] < frame && frame < r.frames[r.hint+1] { // between two
		return nil
	} else if r.hint >= n || r.frames[r.hint] != frame {
		at, ok := slices.BinarySearch(r.frames, frame)
		if !ok {
			return nil
		}
		r.hint = at
	}
	if m := &r.rows[r.hint]; m.since > forgotten {
		return m
	}
	return nil
}

// without returns the frames, in order, that are not kept.
func (r *recent) without(frames []float64, forgotten int) []float64 {
	n := len(r.frames)
	if n == 0 || len(frames) == 0 || frames[0] > r.frames[n-1] || frames[len(frames)-1] < r.frames[0] {
		return frames
	}
	var gone []int // where frames are that are kept
	if len(frames) < n {
		for i, f := range frames {
			if r.find(f, forgotten) != nil {
				gone = append(gone, i)
			}
		}
	} else {
		for k, f := range r.frames {
			if r.rows[k].since <= forgotten {
				continue
			}
			if i, ok := slices.BinarySearch(frames, f); ok {
				gone = append(gone, i)
			}
		}
	}
	if len(gone) == 0 {
		return frames
	}
	out := frames[:gone[0]] // never ahead of what is read
	for k, i := range gone {
		next := len(frames)
		if k+1 < len(gone) {
			next = gone[k+1]
		}
		out = append(out, frames[i+1:next]...)
	}
	return out
}
