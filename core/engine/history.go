package engine

import (
	"math"
	"slices"

	"wunderkammer/core/wire"
)

// history is slots that are looked at at other times. They are those of one depth, so that none of them is
// made of another: a history may ask for histories of lower depths, and so comes to an end. The loops of one
// depth are a history of their own, which asks for itself at earlier frames only.
type history struct {
	depth    int32
	back     bool // feedback
	slots    []int32
	depSlice *depSlice

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

// record is a slot in a history: where it stands among the slots of the history, and among all records.
type record struct {
	*history
	place, index int
}

// maxKept bounds the numbers that are kept of feedback, and of all else together: 16 MB each.
const maxKept = 2 << 20

// listen makes histories of everything that targets look at at other times.
func (p *Plan) findHistories(targets []wire.Target) {
	p.histories, p.records, p.kept, p.held, p.asking, p.wants = nil, p.records[:0], 0, map[int32]float64{}, nil, wants{}
	p.recordOf = nil
	type key struct {
		depth int32
		back  bool
	}
	histories := map[key]*history{}
	var slots []int32
	findHistories := func(slot int32) {
		if p.recordOf == nil {
			p.recordOf = make([]int32, p.order.Size())
		}
		if p.recordOf[slot] > 0 {
			return
		}
		depth, loop := p.order.Depth(slot)
		k := key{depth, loop > 0}
		e := histories[k]
		if e == nil {
			e = &history{back: k.back, depth: depth, areas: map[int32]*area{}, wants: &p.wants}
			histories[k] = e
			p.histories = append(p.histories, e)
		}
		p.records = append(p.records, record{e, len(e.slots), len(p.records)})
		p.recordOf[slot] = int32(len(p.records))
		slots = append(slots, slot)
		e.slots = append(e.slots, slot)
	}
	for i := range targets {
		targets[i].Later(findHistories)
	}
	slices.SortFunc(p.histories, func(a, b *history) int { return int(a.depth - b.depth) })
	p.number()
	p.economise()
	p.number()
	for _, e := range p.histories {
		e.rows = make([][]float64, len(e.slots))
	}
	p.recent = newRecent(slots, p.most)
}

// number notes of the histories where they stand.
func (p *Plan) number() {
	for k, e := range p.histories {
		e.at = k
	}
}

// Deaf returns how many looks at other times are left out, since they would ask for too much, and what asks for it.
func (p *Plan) LeftOut() (n int, by []Costly) { return p.leftOut, p.costly }

// record returns where the values of a slot at other times are kept; false where nothing asks for them.
func (p *Plan) record(slot int32) (record, bool) {
	if slot < 0 || int(slot) >= len(p.recordOf) || p.recordOf[slot] == 0 {
		return record{}, false
	}
	return p.records[p.recordOf[slot]-1], true
}

// patched throws away what depends on the slots, from first on, of a property whose own value or pins
// changed: directly, or by way of what is looked at at other times.
func (p *Plan) patched(first, size int32) {
	gone := map[*history]bool{}
	clear(p.held)
	reads := func(pr *depSlice) bool {
		for slot := first; slot < first+size; slot++ {
			if pr.reads[slot] {
				return true
			}
		}
		return false
	}
	depends := func(pr *depSlice) bool {
		return pr != nil && (reads(pr) || slices.ContainsFunc(pr.asks, func(s int32) bool {
			record, ok := p.record(s)
			return ok && gone[record.history]
		}))
	}
	for more := true; more; { // lower depths come first, but feedback leads back
		more = false
		for _, e := range p.histories {
			if !gone[e] && depends(e.depSlice) {
				e.depSlice = nil
				p.forget(e)
				gone[e], more = true, true
			}
		}
	}
	for _, e := range p.emitters {
		if depends(e.depSlice) {
			e.depSlice = nil
			e.forget()
		}
	}
	if p.asking != nil && depends(p.asking.with) {
		p.asking = nil
	}
}

// forget throws the values away that a history keeps.
func (p *Plan) forget(e *history) {
	p.empty(e)
	e.forgotten = p.recent.now
}

// empty throws away what a history keeps itself; what was played stays.
func (p *Plan) empty(e *history) {
	p.drop(e, len(e.frames))
	clear(e.areas)
}

// lately is how many frames before the one that was evaluated last stay, where there is too much.
const lately = 250

// bound forgets what is kept where that has become too much: between one look and the next, so that
// nothing is lost that is still needed.
func (p *Plan) bound() {
	if p.kept <= p.most {
		return
	}
	for _, e := range p.histories {
		if !e.back { // which bounds itself
			at, _ := e.find(p.now.frame - lately)
			p.drop(e, at)
		}
	}
	if p.kept <= p.most/2 {
		return
	}
	for _, e := range p.histories {
		if !e.back {
			p.empty(e)
		}
	}
}

// drop forgets the first of the frames that are kept.
func (p *Plan) drop(e *history, first int) {
	if !e.back {
		p.kept -= first * (1 + len(e.slots))
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
func (p *Plan) known(record record, frame float64) (value float64, ok bool) {
	if row := p.recent.find(frame, record.forgotten); row != nil {
		return row.values[record.index], true
	}
	if at, ok := record.find(frame); ok {
		return record.rows[record.place][at], true
	}
	return 0, false
}

// hear returns the value of a slot at a frame, asked for at another one.
func (p *Plan) valueAt(slot int32, frame, now float64) float64 {
	record, ok := p.record(slot)
	switch {
	case !ok:
		return math.NaN()
	case record.back:
		return p.feedback(record, frame, now)
	}
	v, ok := p.known(record, frame)
	if !ok {
		record.want(frame)
		p.fetch()
		if v, ok = p.known(record, frame); !ok {
			v = record.rows[record.place][p.once(record.history, frame)]
		}
	}
	return v
}

// feedback is looked at at least a frame late, and not before frame 0, where what it drives has its own
// value. It is worked out forward from there, so that no frame waits for all before it. Of what is kept
// only as much stays as was ever asked for at once.
func (p *Plan) feedback(record record, frame, now float64) float64 {
	if now < 0 {
		return math.NaN()
	}
	e := record.history
	frame = min(frame, now-1)
	if at, ok := e.find(frame); ok {
		e.reach = max(e.reach, now-frame)
		return e.rows[record.place][at]
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
		p.once(e, first)
		if most := p.most / len(e.slots); outermost && len(e.frames) > most {
			if old := len(e.frames) - int(e.reach) - most/2; old > most/4 {
				p.drop(e, old)
			}
		}
	}
	at := p.once(e, frame)
	if outermost {
		e.busy = false
	}
	return e.rows[record.place][at]
}

// once works a history out at one frame, and returns where its values are kept.
func (p *Plan) once(e *history, frame float64) int {
	if at, ok := e.find(frame); ok {
		return at
	}
	pr := p.sliceOf(e)
	c := p.enter(pr, frame)
	at, _ := e.find(frame) // other frames may have been kept meanwhile
	e.frames = slices.Insert(e.frames, at, frame)
	for k, s := range e.slots {
		e.rows[k] = slices.Insert(e.rows[k], at, c.values[pr.slot(s)])
	}
	p.leave(pr, c)
	if !e.back {
		p.kept += 1 + len(e.slots)
	}
	return at
}

func (p *Plan) sliceOf(e *history) *depSlice {
	if e.depSlice == nil {
		e.depSlice = p.newSlice(e.slots, nil)
	}
	return e.depSlice
}
