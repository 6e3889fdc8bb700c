package engine

import (
	"slices"

	"wunderkammer/core/link"
)

// echo is slots that are looked at at other times. They are those of one level, so that none of them is
// made of another: an echo may ask for echoes of lower levels, and so comes to an end.
type echo struct {
	level int32
	slots []int32
	place map[int32]int // where a slot stands among the values that are kept
	probe *probe
	kept  map[float64][]float64 // by frame; only ever a cache
	areas map[int32]*area       // by slot, likewise
}

// area is what a slot has added up to at whole frames from 0 on.
type area struct {
	sums []float64
	last float64
}

// maxKept bounds the numbers that an echo keeps.
const maxKept = 1 << 17

// listen makes echoes of everything that targets look at at other times.
func (p *Plan) listen(targets []link.Target) {
	p.echoes, p.heard = nil, map[int32]*echo{}
	levels := map[int32]*echo{}
	listen := func(slot int32) {
		if p.heard[slot] != nil {
			return
		}
		level := p.order.LevelOf(slot)
		e := levels[level]
		if e == nil {
			e = &echo{level: level, place: map[int32]int{}, kept: map[float64][]float64{}, areas: map[int32]*area{}}
			levels[level] = e
			p.echoes = append(p.echoes, e)
		}
		e.place[slot] = len(e.slots)
		e.slots = append(e.slots, slot)
		p.heard[slot] = e
	}
	for i := range targets {
		targets[i].Later(listen)
	}
	slices.SortFunc(p.echoes, func(a, b *echo) int { return int(a.level - b.level) })
}

// patched throws away what depends on a slot whose own value or pins changed: directly, or by way of
// what is looked at at other times.
func (p *Plan) patched(slot int32) {
	gone := map[*echo]bool{}
	depends := func(pr *probe) bool {
		return pr != nil && (pr.reads[slot] || slices.ContainsFunc(pr.asks, func(s int32) bool { return gone[p.heard[s]] }))
	}
	for _, e := range p.echoes { // lower levels first
		if depends(e.probe) {
			e.forget()
			gone[e] = true
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
	clear(e.kept)
	clear(e.areas)
}

// hear returns the value of a slot at a frame.
func (p *Plan) hear(e *echo, slot int32, frame float64) float64 {
	values, ok := e.kept[frame]
	if !ok {
		if e.probe == nil {
			e.probe = p.newProbe(e.slots, nil)
		}
		if len(e.kept)*len(e.slots) >= maxKept {
			clear(e.kept)
		}
		values = make([]float64, len(e.slots))
		p.at(e.probe, frame, func(c *column) {
			for k, s := range e.slots {
				values[k] = c.values[e.probe.slot(s)]
			}
		})
		e.kept[frame] = values
	}
	return values[e.place[slot]]
}
