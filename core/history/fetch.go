package history

import (
	"slices"
)

// What is looked at at other times is asked for many frames at a time. First the frames are gathered: those
// that are asked of one history are turned into those that it asks of lower ones, down to the lowest. Then
// the histories are worked out upward, each at all of its frames at once, so that everything that is asked
// for is there. What cannot be told beforehand, since the frame itself comes out of a look at another
// time, is asked for when it turns up.
//
// In a long row of which each trails the one before, the frames would be too many to hold: they grow with
// the square of its length. So they are gathered a piece at a time: what was asked for when a piece began is
// noted, its frames are thrown away and gathered again when it is its turn to be worked out. Of what was
// worked out no more stays than was asked for from outside, and every so many histories all of it, so that the
// frame before is not far.

// maxWanted bounds the frames that are gathered of one history.
const maxWanted = 1 << 20

// fetching is one round of fetching.
type fetching struct {
	*Keeper
	jobs    []job                  // of the piece that is gathered, the highest first
	pieces  []piece                // the highest first
	outside map[*history][]float64 // what was asked for when it began; nil where all that is worked out stays
}

// job is a history that is to be worked out at some frames.
type job struct {
	*history
	frames []float64
}

// piece is a run of histories, the lowest and the highest of them, with what was asked of them when their frames began to
// be gathered, besides what was asked from outside.
type piece struct {
	lowest, highest int
	begun           []job
}

// Fetch works out all frames that are wanted.
func (h *Keeper) Fetch() {
	f := fetching{Keeper: h, pieces: []piece{{highest: h.wants.highest}}}
	if h.Cells {
		f.each(0, func(e *history) { e.unwant() })
		return
	}
	h.fetching++
	defer func() { h.fetching-- }()
	if h.Pieces && h.fetching == 1 {
		f.outside = map[*history][]float64{}
		f.look(func(e *history) { f.outside[e] = slices.Clone(e.wanted) })
	}
	size := 0
	f.each(0, func(e *history) {
		if size > h.Piece && f.outside != nil {
			f.begin(e)
			size = 0
		}
		size += f.gatherOf(e)
	})
	for k := len(f.pieces) - 1; k >= 0; k-- {
		if k < len(f.pieces)-1 {
			f.gatherAgain(&f.pieces[k])
		}
		f.workOut(&f.pieces[k])
	}
}

// each calls with each history that something is asked of, from the highest down.
func (f *fetching) each(lowest int, do func(e *history)) {
	for k := f.wants.highest; k >= lowest && f.wants.open > 0; k-- {
		if e := f.histories[k]; len(e.wanted) > 0 {
			do(e)
		}
	}
}

// look calls with each history that something is asked of, and leaves what is asked as it is.
func (f *fetching) look(at func(e *history)) {
	for k, open := f.wants.highest, f.wants.open; open > 0; k-- {
		if e := f.histories[k]; len(e.wanted) > 0 {
			at(e)
			open--
		}
	}
}

// gatherOf gathers the frames of a history, and what it asks of others, and returns how many values these are.
func (f *fetching) gatherOf(e *history) int {
	frames := f.recent.without(e.missing(e.unwant()), e.forgotten)
	if len(frames) == 0 || e.back { // feedback is worked out forward when it is asked for
		f.wants.give(frames)
		return 0
	}
	f.jobs = append(f.jobs, job{e, frames})
	if len(frames) <= maxWanted {
		f.sliceOf(e).Ask(frames)
	}
	return len(frames) * len(e.slots)
}

// begin begins a piece with a history.
func (f *fetching) begin(e *history) {
	for _, j := range f.jobs {
		f.wants.give(j.frames)
	}
	f.jobs = f.jobs[:0]
	f.pieces[len(f.pieces)-1].lowest = e.at + 1
	one := piece{highest: e.at}
	f.look(func(e *history) {
		if len(e.wanted) > len(f.outside[e]) {
			one.begun = append(one.begun, job{e, slices.Clone(e.wanted)})
		}
	})
	f.pieces = append(f.pieces, one)
}

// gatherAgain gathers the frames of a piece as they were gathered before.
func (f *fetching) gatherAgain(one *piece) {
	f.jobs = f.jobs[:0]
	ask := func(e *history, frames []float64) {
		f.wants.give(e.unwant())
		for _, a := range e.areas {
			a.wanted = 0
		}
		e.wantAll(frames)
	}
	for k := one.lowest; k <= one.highest; k++ {
		ask(f.histories[k], f.outside[f.histories[k]])
	}
	for _, j := range one.begun {
		if j.at >= one.lowest {
			ask(j.history, j.frames)
		}
	}
	f.each(one.lowest, func(e *history) { f.gatherOf(e) })
	f.each(0, func(e *history) { f.wants.give(e.unwant()) }) // which is worked out already
}

// workOut works the histories of a piece out at the frames that were gathered of them.
func (f *fetching) workOut(one *piece) {
	for k := one.lowest; k <= one.highest; k++ {
		last := len(f.jobs) - 1
		if last >= 0 && f.jobs[last].at == k {
			e, frames := f.jobs[last].history, f.jobs[last].frames
			f.jobs = f.jobs[:last]
			if f.sliceOf(e).Blocks(len(frames)) {
				f.forward(e, frames)
			} else {
				for _, frame := range frames {
					f.once(e, frame)
				}
				f.wants.give(frames)
			}
		}
		if len(f.pieces) > 1 {
			for _, lower := range f.histories[k].last {
				f.thin(lower)
			}
		}
	}
}

// thin throws away what is kept of a history that nobody asks any more, but for what was asked for from outside.
func (f *fetching) thin(e *history) {
	if e.whole || staysWhole(e.at, len(f.histories)) {
		return
	}
	n := 0
	for _, frame := range inOrder(f.outside[e]) {
		at, ok := slices.BinarySearch(e.frames[n:], frame)
		if !ok {
			continue
		}
		e.frames[n] = frame
		for _, row := range e.rows {
			row[n] = row[n+at]
		}
		n++
	}
	f.kept -= (len(e.frames) - n) * (1 + len(e.slots))
	e.frames = f.wants.shrink(e.frames, n)
	for k, row := range e.rows {
		e.rows[k] = f.wants.shrink(row, n)
	}
	e.hint = 0
}

// staysWhole reports whether all that was worked out of one of so many histories stays, so that the frames around are
// not far: of about fifty of them.
func staysWhole(at, of int) bool {
	every := max(1, of/50)
	return at%every == every-1
}
