package engine

import (
	"math"
	"slices"

	"wunderkammer/core/wire"
)

// echo is slots that are looked at at other times. They are those of one depth, so that none of them is
// made of another: an echo may ask for echoes of lower depths, and so comes to an end. The loops of one
// depth are an echo of their own, which asks for itself at earlier frames only.
type echo struct {
	depth int32
	back  bool // feedback
	slots []int32
	probe *probe

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

	at    int     // its place among the echoes
	whole bool    // all that is worked out stays, see thin
	last  []*echo // those that no later one asks
}

// area is what a slot has added up to at whole frames from 0 on.
type area struct {
	sums   []float64
	last   float64
	wanted float64 // all whole frames below it were asked for
}

func (e *echo) areaOf(slot int32) *area {
	a := e.areas[slot]
	if a == nil {
		a = &area{}
		e.areas[slot] = a
	}
	return a
}

// ear says which echo a slot is heard by, and where it stands among its slots, and among all ears.
type ear struct {
	*echo
	place, index int
}

// maxKept bounds the numbers that are kept of feedback, and of all else together: 16 MB each.
const maxKept = 2 << 20

// listen makes echoes of everything that targets look at at other times.
func (p *Plan) listen(targets []wire.Target) {
	p.echoes, p.ears, p.kept, p.held, p.asking, p.wants = nil, p.ears[:0], 0, map[int32]float64{}, nil, wants{}
	p.heard = nil
	type key struct {
		depth int32
		back  bool
	}
	echoes := map[key]*echo{}
	var slots []int32
	listen := func(slot int32) {
		if p.heard == nil {
			p.heard = make([]int32, p.order.Size())
		}
		if p.heard[slot] > 0 {
			return
		}
		depth, loop := p.order.Depth(slot)
		k := key{depth, loop > 0}
		e := echoes[k]
		if e == nil {
			e = &echo{depth: depth, back: k.back, areas: map[int32]*area{}, wants: &p.wants}
			echoes[k] = e
			p.echoes = append(p.echoes, e)
		}
		p.ears = append(p.ears, ear{e, len(e.slots), len(p.ears)})
		p.heard[slot] = int32(len(p.ears))
		slots = append(slots, slot)
		e.slots = append(e.slots, slot)
	}
	for i := range targets {
		targets[i].Later(listen)
	}
	slices.SortFunc(p.echoes, func(a, b *echo) int { return int(a.depth - b.depth) })
	p.number()
	p.economise()
	p.number()
	for _, e := range p.echoes {
		e.rows = make([][]float64, len(e.slots))
	}
	p.recent = newRecent(slots, p.most)
}

// number notes of the echoes where they stand.
func (p *Plan) number() {
	for k, e := range p.echoes {
		e.at = k
	}
}

// Deaf returns how many looks at other times are left out, since they would ask for too much, and what asks for it.
func (p *Plan) Deaf() (n int, by []Costly) { return p.deaf, p.costly }

// ear returns what a slot is heard by, if anything.
func (p *Plan) ear(slot int32) (ear, bool) {
	if slot < 0 || int(slot) >= len(p.heard) || p.heard[slot] == 0 {
		return ear{}, false
	}
	return p.ears[p.heard[slot]-1], true
}

// patched throws away what depends on the slots, from first on, of a property whose own value or pins
// changed: directly, or by way of what is looked at at other times.
func (p *Plan) patched(first, size int32) {
	gone := map[*echo]bool{}
	clear(p.held)
	reads := func(pr *probe) bool {
		for slot := first; slot < first+size; slot++ {
			if pr.reads[slot] {
				return true
			}
		}
		return false
	}
	depends := func(pr *probe) bool {
		return pr != nil && (reads(pr) || slices.ContainsFunc(pr.asks, func(s int32) bool {
			ear, ok := p.ear(s)
			return ok && gone[ear.echo]
		}))
	}
	for more := true; more; { // lower depths come first, but feedback leads back
		more = false
		for _, e := range p.echoes {
			if !gone[e] && depends(e.probe) {
				e.probe = nil
				p.forget(e)
				gone[e], more = true, true
			}
		}
	}
	for _, e := range p.emitters {
		if depends(e.probe) {
			e.probe = nil
			e.forget()
		}
	}
	if p.asking != nil && depends(p.asking.with) {
		p.asking = nil
	}
}

// forget throws the values away that an echo keeps.
func (p *Plan) forget(e *echo) {
	p.empty(e)
	e.forgotten = p.recent.now
}

// empty throws away what an echo keeps itself; what was played stays.
func (p *Plan) empty(e *echo) {
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
	for _, e := range p.echoes {
		if !e.back { // which bounds itself
			at, _ := e.find(p.now.frame - lately)
			p.drop(e, at)
		}
	}
	if p.kept <= p.most/2 {
		return
	}
	for _, e := range p.echoes {
		if !e.back {
			p.empty(e)
		}
	}
}

// drop forgets the first of the frames that are kept.
func (p *Plan) drop(e *echo, first int) {
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
func (e *echo) find(frame float64) (int, bool) {
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

// known returns what is heard at a frame, where that is kept.
func (p *Plan) known(ear ear, frame float64) (value float64, ok bool) {
	if row := p.recent.find(frame, ear.forgotten); row != nil {
		return row.values[ear.index], true
	}
	if at, ok := ear.find(frame); ok {
		return ear.rows[ear.place][at], true
	}
	return 0, false
}

// hear returns the value of a slot at a frame, asked for at another one.
func (p *Plan) hear(slot int32, frame, now float64) float64 {
	ear, ok := p.ear(slot)
	switch {
	case !ok:
		return math.NaN()
	case ear.back:
		return p.feedback(ear, frame, now)
	}
	v, ok := p.known(ear, frame)
	if !ok {
		ear.want(frame)
		p.fetch()
		if v, ok = p.known(ear, frame); !ok {
			v = ear.rows[ear.place][p.once(ear.echo, frame)]
		}
	}
	return v
}

// feedback is heard at least a frame late, and not before frame 0, where what it drives has its own
// value. It is worked out forward from there, so that no frame waits for all before it. Of what is kept
// only as much stays as was ever asked for at once.
func (p *Plan) feedback(ear ear, frame, now float64) float64 {
	if now < 0 {
		return math.NaN()
	}
	e := ear.echo
	frame = min(frame, now-1)
	if at, ok := e.find(frame); ok {
		e.reach = max(e.reach, now-frame)
		return e.rows[ear.place][at]
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
	return e.rows[ear.place][at]
}

// once works an echo out at one frame, and returns where its values are kept.
func (p *Plan) once(e *echo, frame float64) int {
	if at, ok := e.find(frame); ok {
		return at
	}
	pr := p.probeOf(e)
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

func (p *Plan) probeOf(e *echo) *probe {
	if e.probe == nil {
		e.probe = p.newProbe(e.slots, nil)
	}
	return e.probe
}
