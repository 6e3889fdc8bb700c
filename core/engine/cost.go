package engine

import (
	"math"

	"wunderkammer/core/formula"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// What a frame asks of other times is estimated before anything is evaluated: how many frames of each echo. It
// depends on the document alone (how looks are nested, how many members there are, how long windows and delays can
// be), never on the frame or on what is kept, so that what is left out is the same always.

const (
	// maxCells bounds the values that one frame can ask of other times where nothing is kept yet.
	maxCells = 6 << 20
	// maxGlances bounds how often something of them is looked at meanwhile.
	maxGlances = 8 << 20
	// looseness is how many values one at a frame counts as that has nothing to do with the frames around it.
	looseness = 8
)

// demand is what is asked of an echo for one frame.
type demand struct {
	loose  float64 // frames that may lie anywhere
	lo, hi float64 // the span of those that lie whole frames from the one that is evaluated; hi < lo: none
	count  float64 // how many of these are asked for at most
	fixed  float64 // frames that are the same always: those of areas, from frame 0 on
	most   int     // the echo that asks for the most of it, -1 for the frame itself
	part   float64 // and how much
}

func (d *demand) frames() float64 {
	span := 0.0
	if d.hi >= d.lo {
		span = math.Min(d.hi-d.lo+1, d.count)
	}
	return d.loose + span + d.fixed
}

// Costly is a formula or link that would ask too much of other times.
type Costly struct {
	At     scene.Ref
	Values float64 // about how many
}

// edge is a look of an echo, or of the frame, at another echo.
type edge struct {
	to           int     // echo
	points       float64 // frames of it, for each frame that asks
	lo, hi       float64 // where they lie, counted from that, where they are whole
	whole, fixed bool
	by           scene.Ref
}

// economise leaves out looks where all together would ask for more than can be kept or worked out in good time.
func (p *Plan) economise() {
	p.deaf, p.costly, p.bounding = 0, nil, map[int32]bool{}
	if len(p.echoes) == 0 {
		return
	}
	at := map[*echo]int{}
	for k, e := range p.echoes {
		at[e] = k
	}
	edges := make([][]edge, len(p.echoes)+1) // the last are those of the frame
	targets := p.order.Targets()
	edges[len(p.echoes)] = p.edges(at, func(visit func(*link.Target)) {
		for i := range targets {
			visit(&targets[i])
		}
	})
	for k, e := range p.echoes {
		levels, _, later := p.order.Closure(e.slots, nil)
		if len(later) == 0 {
			continue
		}
		edges[k] = p.edges(at, func(visit func(*link.Target)) {
			for l := range levels {
				for i := range levels[l].Targets {
					visit(&levels[l].Targets[i])
				}
			}
		})
	}
	out := make([]bool, len(p.echoes))
	for {
		chain, values := p.tooMuch(edges, out)
		if len(chain) == 0 {
			break
		}
		p.costly = append(p.costly, Costly{chain[0].by, values})
		for _, c := range chain[:1+len(chain)/16] {
			out[c.to] = true
		}
	}
	kept := p.echoes[:0:0]
	for k, e := range p.echoes {
		if !out[k] {
			kept = append(kept, e)
			continue
		}
		for _, s := range e.slots {
			p.heard[s] = 0
			p.deaf++
		}
	}
	p.echoes = kept
}

// edges lists the looks of some targets, those at the same frames of one echo once.
func (p *Plan) edges(at map[*echo]int, each func(visit func(*link.Target))) (out []edge) {
	type look struct {
		to  int
		key uint64
	}
	seen := map[look]bool{}
	add := func(t *link.Target, slot int32, key uint64, e edge) {
		ear, ok := p.ear(slot)
		if !ok {
			return
		}
		if e.to = at[ear.echo]; ear.back {
			e.fixed, e.points = true, float64(p.Layout.Composition.Frames)
		}
		if seen[look{e.to, key}] {
			return
		}
		seen[look{e.to, key}] = true
		e.by = p.on(t)
		out = append(out, e)
	}
	each(func(t *link.Target) {
		for k := range t.Wires {
			if w := &t.Wires[k]; w.Delay != 0 {
				add(t, w.Heard(), math.Float64bits(w.Delay), edge{points: 1, lo: -w.Delay, hi: -w.Delay, whole: w.Delay == math.Floor(w.Delay)})
			}
		}
		if t.Formula == nil || len(t.Formula.Looks) == 0 {
			return
		}
		for _, g := range t.Formula.Program.Glances(&t.Formula.Lane, p.longest) {
			e := edge{points: 1, lo: g.Delay, hi: g.Delay, whole: g.Delay == math.Floor(g.Delay), fixed: g.Fixed}
			switch {
			case g.Op == formula.OpArea:
				e.fixed, e.points = true, float64(p.Layout.Composition.Frames)
			case g.Op == formula.OpAverage && g.Span == g.Span:
				span := math.Min(math.Abs(g.Span), formula.MaxAverage)
				e.points, e.whole = span+1, e.whole && g.Span == math.Floor(g.Span) && span < formula.MaxAverage
				e.lo, e.hi = math.Min(g.Delay, g.Delay-g.Span), math.Max(g.Delay, g.Delay-g.Span)
			case g.Op == formula.OpAverage:
				e.points, e.whole = formula.MaxAverage, false
			}
			add(t, g.Slot, g.Key^uint64(g.Op), e)
		}
	})
	return out
}

// longest returns what a slot that nothing drives holds: of pins the value that lies farthest from 0.
func (p *Plan) longest(slot int32) float64 {
	if int(slot) >= len(p.start) || p.order.Driven(slot) {
		return math.NaN()
	}
	p.bounding[slot] = true
	x := p.start[slot]
	for c := range int32(4) {
		at, ok := p.trackOf[slot-c]
		if !ok || int(c) >= len(p.tracks[at].tracks) {
			continue
		}
		t, first := &p.tracks[at], slot-c
		for _, v := range t.tracks[slot-first].Values() {
			if math.Abs(v) > math.Abs(x) {
				x = t.limits.Limit(v)
			}
		}
	}
	return x
}

// tooMuch adds up what a frame asks for. Where that is too much it returns the looks that lead to the largest part
// of it, from the frame on, and how many values it comes to.
func (p *Plan) tooMuch(edges [][]edge, out []bool) (chain []edge, values float64) {
	n := len(p.echoes)
	demands := make([]demand, n+1)
	for k := range demands {
		demands[k] = demand{lo: 0, hi: -1, most: -1}
	}
	demands[n] = demand{lo: 0, hi: 0, count: 1}
	via := make([]edge, n+1)
	cells, glances, worst, heaviest := 0.0, 0.0, -1, 0.0
	for k := n; k >= 0; k-- {
		d := &demands[k]
		frames := d.frames()
		if k < n && (out[k] || frames == 0) {
			continue
		}
		asked := 0.0
		for _, e := range edges[k] {
			if out[e.to] || e.to == k {
				continue
			}
			asked += e.points
			to := &demands[e.to]
			part := float64(frames * e.points)
			switch {
			case e.fixed && (k == n || d.loose == 0 || e.points > 1):
				to.fixed = math.Max(to.fixed, e.points)
				to.loose += frames
				part = e.points + frames
			case e.whole && d.loose == 0 && d.fixed == 0:
				if to.hi < to.lo {
					to.lo, to.hi = d.lo+e.lo, d.hi+e.hi
				} else {
					to.lo, to.hi = math.Min(to.lo, d.lo+e.lo), math.Max(to.hi, d.hi+e.hi)
				}
				to.count += part
			default:
				to.loose += part
			}
			if part >= to.part { // of two alike, that which comes by way of others
				to.part, to.most, via[e.to] = part, k, e
			}
		}
		if k == n {
			continue
		}
		own := float64((frames + float64((looseness-1)*d.loose)) * float64(len(p.echoes[k].slots)))
		cells += own
		glances += float64(frames * asked)
		if weight := own + float64(frames*asked); weight > heaviest {
			heaviest, worst = weight, k
		}
	}
	if cells <= maxCells && glances <= maxGlances || worst < 0 {
		return nil, 0
	}
	for k := worst; k >= 0 && k < n; k = demands[k].most {
		chain = append([]edge{via[k]}, chain...)
	}
	return chain, cells + glances
}
