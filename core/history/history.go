// Package history keeps what slots were at other times than the frame that is evaluated: for delays, formulas that
// look back, sums since the first frame, feedback. It knows in which order that has to be worked out, how much of it
// is kept, and what would take too long; how it is worked out only the Slices know, which the evaluation makes.
package history

import (
	"math"
	"slices"

	"wunderkammer/core/layout"
	"wunderkammer/core/wire"
)

// Slice is what some slots are made of, ready to be worked out at any time.
type Slice interface {
	// At works the slots out at a frame; out is by slot.
	At(frame float64, out []float64)
	// Over works the slots out at frames, in order; out is by slot, then by frame. What the slice looks at at other
	// times is kept already, as far as Ask asked for it.
	Over(frames []float64, out [][]float64)
	// Blocks reports whether Over can work out so many frames, and quicker than At does.
	Blocks(frames int) bool
	// Ask asks for what the slice looks at at other times when it is worked out at frames, which are in order, as far as
	// that can be told beforehand: by Want and its like.
	Ask(frames []float64)
	// Reads reports whether a slot is among what the slice is made of.
	Reads(slot int32) bool
	// Looks returns the slots that the slice looks at at other times.
	Looks() []int32
}

// Source is the evaluation that a Keeper keeps histories for.
type Source struct {
	Layout *layout.Layout
	Order  *wire.Order
	Slice  func(slots []int32) Slice
	// Farthest returns what a slot that nothing drives holds: of pins the value that lies farthest from 0; NaN for a slot
	// of no property.
	Farthest func(slot int32) float64
	// Also are slots that are looked at at other times besides those that links look at.
	Also []int32
}

// Limits bound what a Keeper holds.
type Limits struct {
	Numbers int  // that are kept of feedback, and of all else together
	Piece   int  // values whose frames are gathered before any is worked out
	Pieces  bool // what one frame asks for may be more than a piece
	Cells   bool // everything is worked out frame by frame, when it is asked for
}

// Usual is what a Keeper holds: 16 MB of feedback, and of all else together.
var Usual = Limits{Numbers: 2 << 20, Piece: 1 << 18}

// Keeper keeps the histories of a plan. It is not safe for concurrent use.
type Keeper struct {
	Limits
	source    Source
	rate      float64    // frames a second
	histories []*history // the lowest first
	kept      int        // numbers that they keep
	records   []record
	recordOf  []int32 // by slot: its place in records + 1; 0 where nothing looks at it at other times
	recent    recent
	fetching  int               // how deep
	held      map[int32]float64 // the slots of feedback that were asked for less than a frame late, and when first
	wants     wants
	leftOut   int // looks that are left out, since they would ask for too much
	costly    []Costly
	bounding  map[int32]bool // slots that say how long windows and delays are
}

// New makes a keeper of everything that is looked at at other times.
func New(source Source, limits Limits) *Keeper {
	k := &Keeper{Limits: limits, source: source, rate: float64(source.Layout.Composition.Rate), held: map[int32]float64{}}
	k.findHistories()
	return k
}

// history is slots that are looked at at other times. They are those of one depth, so that none of them is
// made of another: a history may ask for histories of lower depths, and so comes to an end. The loops of one
// depth are a history of their own, which asks for itself at earlier frames only.
type history struct {
	depth int32
	back  bool // feedback
	slots []int32
	slice Slice     // made when first needed
	out   []float64 // what it gives at one frame

	// What is kept, only ever a cache: the frames in order, and the values of every slot at them.
	frames []float64
	rows   [][]float64
	hint   int             // where a frame was found last
	areas  map[int32]*area // by slot
	reach  float64         // of feedback: how many frames back it was ever asked for
	busy   bool            // it is being worked out forward

	forgotten int // when that of recent was, which this is kept in, too

	wanted []float64 // frames that are asked for, see fetch
	wants  *wants

	at    int        // its place among the histories
	whole bool       // all that is worked out stays, see thin
	last  []*history // those that no later one asks
}

// area is what a slot has added up to at whole frames from 0 on.
type area struct {
	sums   []float64
	last   float64
	wanted float64 // all whole frames below it were asked for
}

func (e *history) areaOf(slot int32) *area {
	a := e.areas[slot]
	if a == nil {
		a = &area{}
		e.areas[slot] = a
	}
	return a
}

// record is a slot in a history: its row in the history, and its index among all records.
type record struct {
	*history
	row, index int
}

// findHistories makes histories of everything that targets look at at other times.
func (h *Keeper) findHistories() {
	type key struct {
		depth int32
		back  bool
	}
	histories := map[key]*history{}
	var slots []int32
	add := func(slot int32) {
		if h.recordOf == nil {
			h.recordOf = make([]int32, h.source.Order.Size())
		}
		if h.recordOf[slot] > 0 {
			return
		}
		depth, loop := h.source.Order.Depth(slot)
		k := key{depth, loop > 0}
		e := histories[k]
		if e == nil {
			e = &history{back: k.back, depth: depth, areas: map[int32]*area{}, wants: &h.wants}
			histories[k] = e
			h.histories = append(h.histories, e)
		}
		h.records = append(h.records, record{e, len(e.slots), len(h.records)})
		h.recordOf[slot] = int32(len(h.records))
		slots = append(slots, slot)
		e.slots = append(e.slots, slot)
	}
	targets := h.source.Order.Targets()
	for i := range targets {
		targets[i].Uses(wire.Uses{Later: add})
	}
	for _, slot := range h.source.Also {
		add(slot)
	}
	slices.SortFunc(h.histories, func(a, b *history) int { return int(a.depth - b.depth) })
	h.number()
	h.economise()
	h.number()
	for _, e := range h.histories {
		e.rows, e.out = make([][]float64, len(e.slots)), make([]float64, len(e.slots))
	}
	h.recent = newRecent(slots, h.Numbers)
}

// number notes of the histories where they stand.
func (h *Keeper) number() {
	for k, e := range h.histories {
		e.at = k
	}
}

// Count returns how many histories there are: one for each program that is looked at at other times, with all its lanes.
func (h *Keeper) Count() int { return len(h.histories) }

// LeftOut returns how many looks at other times are left out, since they would ask for too much, and what asks for it.
func (h *Keeper) LeftOut() (n int, by []Costly) { return h.leftOut, h.costly }

// Held returns the slots of feedback that were asked for less than a frame late, each with the frame when that was first.
func (h *Keeper) Held() map[int32]float64 { return h.held }

// Bounds reports whether a slot says how long a window or a delay is, so that what is left out depends on it.
func (h *Keeper) Bounds(slot int32) bool { return h.bounding[slot] }

// Keeps reports whether all of some slots are kept at other times.
func (h *Keeper) Keeps(slots []int32) bool {
	return !slices.ContainsFunc(slots, func(slot int32) bool { _, ok := h.record(slot); return !ok })
}

// record returns where the values of a slot at other times are kept; false where nothing asks for them.
func (h *Keeper) record(slot int32) (record, bool) {
	if slot < 0 || int(slot) >= len(h.recordOf) || h.recordOf[slot] == 0 {
		return record{}, false
	}
	return h.records[h.recordOf[slot]-1], true
}

// Changed throws away what depends on the slots of properties whose own values or pins
// changed: directly, or by way of what is looked at at other times. It returns whether a slice does so, too.
func (h *Keeper) Changed(slots []int32) (depends func(Slice) bool) {
	gone := map[*history]bool{}
	clear(h.held)
	depends = func(s Slice) bool {
		if slices.ContainsFunc(slots, s.Reads) {
			return true
		}
		return slices.ContainsFunc(s.Looks(), func(slot int32) bool {
			record, ok := h.record(slot)
			return ok && gone[record.history]
		})
	}
	for more := true; more; { // lower depths come first, but feedback leads back
		more = false
		for _, e := range h.histories {
			if !gone[e] && e.slice != nil && depends(e.slice) {
				e.slice = nil
				h.forget(e)
				gone[e], more = true, true
			}
		}
	}
	return depends
}

// forget throws the values away that a history keeps.
func (h *Keeper) forget(e *history) {
	h.empty(e)
	e.forgotten = h.recent.now
}

// empty throws away what a history keeps itself; what was played stays.
func (h *Keeper) empty(e *history) {
	h.drop(e, len(e.frames))
	clear(e.areas)
}

// lately is how many frames before the one that was evaluated last stay, where there is too much.
const lately = 250

// Bound forgets what is kept where that has become too much: between one look and the next, so that
// nothing is lost that is still needed. Of the frames before the one that was evaluated last, some stay.
func (h *Keeper) Bound(frame float64) {
	if h.kept <= h.Numbers {
		return
	}
	for _, e := range h.histories {
		if !e.back { // which bounds itself
			at, _ := e.find(frame - lately)
			h.drop(e, at)
		}
	}
	if h.kept <= h.Numbers/2 {
		return
	}
	for _, e := range h.histories {
		if !e.back {
			h.empty(e)
		}
	}
}

// drop forgets the first of the frames that are kept.
func (h *Keeper) drop(e *history, first int) {
	if !e.back {
		h.kept -= first * (1 + len(e.slots))
	}
	e.frames = slices.Delete(e.frames, 0, first)
	for k := range e.rows {
		e.rows[k] = slices.Delete(e.rows[k], 0, first)
	}
	e.hint = 0
}

// find returns where the values of a frame are kept.
func (e *history) find(frame float64) (int, bool) {
	n := len(e.frames)
	for _, at := range [2]int{e.hint, e.hint + 1} {
		if at < n && e.frames[at] == frame {
			e.hint = at
			return at, true
		}
	}
	if n == 0 || frame > e.frames[n-1] {
		return n, false
	}
	at, ok := slices.BinarySearch(e.frames, frame)
	if ok {
		e.hint = at
	}
	return at, ok
}

// known returns the value at a frame, where that is kept.
func (h *Keeper) known(record record, frame float64) (value float64, ok bool) {
	if row := h.recent.find(frame, record.forgotten); row != nil {
		return row.values[record.index], true
	}
	if at, ok := record.find(frame); ok {
		return record.rows[record.row][at], true
	}
	return 0, false
}

// Value returns the value of a slot at a frame, asked for while frame now is worked out; NaN where nothing is kept of the slot.
func (h *Keeper) Value(slot int32, frame, now float64) float64 {
	record, ok := h.record(slot)
	switch {
	case !ok:
		return math.NaN()
	case record.back:
		return h.feedback(record, frame, now)
	}
	v, ok := h.known(record, frame)
	if !ok {
		record.want(frame)
		h.Fetch()
		if v, ok = h.known(record, frame); !ok {
			v = record.rows[record.row][h.once(record.history, frame)]
		}
	}
	return v
}

// feedback is looked at at least a frame late, and not before frame 0, where what it drives has its own
// value. It is worked out forward from there, so that no frame waits for all before it. Of what is kept
// only as much stays as was ever asked for at once.
func (h *Keeper) feedback(record record, frame, now float64) float64 {
	if now < 0 {
		return math.NaN()
	}
	e := record.history
	frame = min(frame, now-1)
	if at, ok := e.find(frame); ok {
		e.reach = max(e.reach, now-frame)
		return e.rows[record.row][at]
	}
	if at := now - frame; at > e.reach { // it may be asked for more soon
		e.reach = 2 * at
	}
	outermost := !e.busy
	e.busy = true
	first := frame
	for first >= 1 {
		if _, ok := e.find(first - 1); ok {
			break
		}
		first--
	}
	for ; first < frame; first++ {
		h.once(e, first)
		if most := h.Numbers / len(e.slots); outermost && len(e.frames) > most {
			if old := len(e.frames) - int(e.reach) - most/2; old > most/4 {
				h.drop(e, old)
			}
		}
	}
	at := h.once(e, frame)
	if outermost {
		e.busy = false
	}
	return e.rows[record.row][at]
}

// once works a history out at one frame, and returns where its values are kept.
func (h *Keeper) once(e *history, frame float64) int {
	if at, ok := e.find(frame); ok {
		return at
	}
	h.sliceOf(e).At(frame, e.out)
	at, _ := e.find(frame) // other frames may have been kept meanwhile
	e.frames = slices.Insert(e.frames, at, frame)
	for k, v := range e.out {
		e.rows[k] = slices.Insert(e.rows[k], at, v)
	}
	if !e.back {
		h.kept += 1 + len(e.slots)
	}
	return at
}

func (h *Keeper) sliceOf(e *history) Slice {
	if e.slice == nil {
		e.slice = h.source.Slice(e.slots)
	}
	return e.slice
}
