package engine

import (
	"math"
	"slices"

	"wunderkammer/core/link"
)

// echo is slots that are looked at at other times. They are those of one depth, so that none of them is
// made of another: an echo may ask for echoes of lower depths, and so comes to an end. The slots of one
// loop are an echo of their own, which asks for itself at earlier frames only.
type echo struct {
	depth int32
	back  bool // feedback
	slots []int32
	place map[int32]int // where a slot stands among the values that are kept
	probe *probe
	kept  map[float64]int32 // by frame, where its values begin in store; only ever a cache
	store []float64
	areas map[int32]*area // by slot, likewise
}

// area is what a slot has added up to at whole frames from 0 on.
type area struct {
	sums []float64
	last float64
}

// maxKept bounds the numbers that all echoes together keep.
const maxKept = 700000

// listen makes echoes of everything that targets look at at other times.
func (p *Plan) listen(targets []link.Target) {
	p.echoes, p.heard = nil, map[int32]*echo{}
	type key struct{ depth, loop int32 }
	echoes := map[key]*echo{}
	listen := func(slot int32) {
		if p.heard[slot] != nil {
			return
		}
		depth, loop := p.order.Depth(slot)
		e := echoes[key{depth, loop}]
		if e == nil {
			e = &echo{depth: depth, back: loop > 0, place: map[int32]int{}, kept: map[float64]int32{}, areas: map[int32]*area{}}
			echoes[key{depth, loop}] = e
			p.echoes = append(p.echoes, e)
		}
		e.place[slot] = len(e.slots)
		e.slots = append(e.slots, slot)
		p.heard[slot] = e
	}
	for i := range targets {
		targets[i].Later(listen)
	}
	slices.SortFunc(p.echoes, func(a, b *echo) int { return int(a.depth - b.depth) })
}

// patched throws away what depends on a slot whose own value or pins changed: directly, or by way of
// what is looked at at other times.
func (p *Plan) patched(slot int32) {
	gone := map[*echo]bool{}
	depends := func(pr *probe) bool {
		return pr != nil && (pr.reads[slot] || slices.ContainsFunc(pr.asks, func(s int32) bool { return gone[p.heard[s]] }))
	}
	for more := true; more; { // lower depths come first, but feedback leads back
		more = false
		for _, e := range p.echoes {
			if !gone[e] && depends(e.probe) {
				e.forget()
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
}

func (e *echo) forget() {
	e.probe = nil
	e.drop()
	clear(e.areas)
}

// drop throws the values away that are kept.
func (e *echo) drop() {
	clear(e.kept)
	e.store = e.store[:0]
}

// hear returns the value of a slot at a frame, asked for at another one. Feedback is heard at least a
// frame late, and not before frame 0, where what it drives has its own value. It is worked out forward
// from there, so that no frame waits for all before it.
func (p *Plan) hear(e *echo, slot int32, frame, now float64) float64 {
	if e.back {
		if now < 0 {
			return math.NaN()
		}
		frame = min(frame, now-1)
		first := frame
		for first >= 1 {
			if _, ok := e.kept[first-1]; ok {
				break
			}
			first--
		}
		for ; first < frame; first++ {
			p.once(e, slot, first)
		}
	}
	return p.once(e, slot, frame)
}

func (p *Plan) once(e *echo, slot int32, frame float64) float64 {
	at, ok := e.kept[frame]
	if !ok {
		if e.probe == nil {
			e.probe = p.newProbe(e.slots, nil)
		}
		if p.kept += len(e.slots); p.kept > maxKept {
			p.kept = 0
			for _, other := range p.echoes {
				other.drop()
			}
		}
		c := p.enter(e.probe, frame)
		at = int32(len(e.store)) // other frames may have been kept meanwhile
		for _, s := range e.slots {
			e.store = append(e.store, c.values[e.probe.slot(s)])
		}
		p.leave(e.probe, c)
		e.kept[frame] = at
	}
	return e.store[int(at)+e.place[slot]]
}
