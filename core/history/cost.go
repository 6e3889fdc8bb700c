package history

import (
	"math"
	"slices"

	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// What a frame asks of other times is estimated before anything is evaluated: how many frames of each history. It
// depends on the document alone (how looks are nested, how many members there are, how long windows and delays can
// be), never on the frame or on what is kept, so that what is left out is the same always.

const (
	// maxCells bounds the values that are kept at a time while one frame is worked out, where nothing is there yet.
	maxCells = 6 << 20
	// maxSwept bounds the values that are worked out for it, in the time that one takes in a run of many.
	maxSwept = 128 << 20
	// maxGlances bounds how often something is looked at by way of windows meanwhile.
	maxGlances = 8 << 20
	// looseness is how many values one at a frame counts as that has nothing to do with the frames around it.
	looseness = 8
	// blindness is how many values one takes the time of that is asked for alone, when it turns up.
	blindness = 400
)

// demand is what is asked of a history for one frame.
type demand struct {
	loose     float64 // frames that may lie anywhere
	scattered float64 // those of them that have nothing to do with one another
	lo, hi    float64 // the span of those that lie whole frames from the one that is evaluated; hi < lo: none
	count     float64 // how many of these are asked for at most
	fixed     float64 // frames that are the same always: those of areas, from frame 0 on
	most      int     // the history that asks for the most of it, -1 for the frame itself
	part      float64 // and how much
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

// edge is a look of a history, or of the frame, at another history.
type edge struct {
	to           int     // history
	points       float64 // frames of it, for each frame that asks
	lo, hi       float64 // where they lie, counted from that, where they are whole
	whole, fixed bool
	by           scene.Ref
}

// looks is what a history, or the frame, looks at at other times.
type looks struct {
	edges []edge
	blind bool // frames come out of other looks, or out of places, so that some are asked for when they turn up
	out   bool // it is left out
	last  int  // of a history: the last that looks at it; len(h.histories) where its values have to stay
	alone bool // of a history: its values are asked for one by one
}

// economise leaves out looks where all together would ask for more than can be kept or worked out in good time.
func (h *Keeper) economise() {
	h.leftOut, h.costly, h.bounding, h.Pieces = 0, nil, map[int32]bool{}, false
	if len(h.histories) == 0 {
		return
	}
	frame := len(h.histories)
	all := make([]looks, frame+1) // the last is the frame
	targets := h.source.Order.Targets()
	all[frame] = h.looksOf(func(visit func(*wire.Target)) {
		for i := range targets {
			visit(targets[i])
		}
	})
	for k, e := range h.histories {
		levels, _, later := h.source.Order.Closure(e.slots, nil)
		if len(later) == 0 {
			continue
		}
		all[k] = h.looksOf(func(visit func(*wire.Target)) {
			for l := range levels {
				for i := range levels[l].Targets {
					visit(levels[l].Targets[i])
				}
			}
		})
	}
	h.findLast(all)
	for {
		chain, values := h.tooMuch(all)
		if len(chain) == 0 {
			break
		}
		h.costly = append(h.costly, Costly{chain[0].by, values})
		for _, c := range chain[:1+len(chain)/16] {
			all[c.to].out = true
		}
	}
	kept := h.histories[:0:0]
	for k, e := range h.histories {
		if !all[k].out {
			kept = append(kept, e)
			if last := all[k].last; last == frame {
				e.whole = true
			} else if last > k {
				h.histories[last].last = append(h.histories[last].last, e)
			}
			continue
		}
		for _, s := range e.slots {
			h.recordOf[s] = 0
			h.leftOut++
		}
	}
	h.histories = kept
}

// findLast finds the last look at each history. What is looked at blindly, itself or by way of others, has to stay, and
// so does what feedback looks at, which is worked out when it is asked for.
func (h *Keeper) findLast(all []looks) {
	frame := len(all) - 1
	stays := make([]bool, len(all))
	for k := frame; k >= 0; k-- {
		back := k < frame && h.histories[k].back
		for _, e := range all[k].edges {
			to := &all[e.to]
			to.alone = to.alone || all[k].alone || all[k].blind
			if stays[e.to] = stays[e.to] || stays[k] || back || to.alone; stays[e.to] {
				to.last = frame
			} else if k < frame {
				to.last = max(to.last, k)
			}
		}
	}
}

// looksOf lists the looks of some targets, those at the same frames of one history once.
func (h *Keeper) looksOf(each func(visit func(*wire.Target))) (out looks) {
	type look struct {
		to  int
		key uint64
	}
	seen := map[look]bool{}
	add := func(t *wire.Target, slot int32, key uint64, e edge) {
		record, ok := h.record(slot)
		if !ok {
			return
		}
		if e.to = record.at; record.back {
			e.fixed, e.points = true, float64(h.source.Layout.Composition.Frames)
		}
		if seen[look{e.to, key}] {
			return
		}
		seen[look{e.to, key}] = true
		e.by = t.Ref(h.source.Layout)
		out.edges = append(out.edges, e)
	}
	each(func(t *wire.Target) {
		for k := range t.Wires {
			if w := &t.Wires[k]; w.Delay != 0 {
				add(t, w.Original(), math.Float64bits(w.Delay), edge{points: 1, lo: -w.Delay, hi: -w.Delay, whole: w.Delay == math.Floor(w.Delay)})
			}
		}
		if t.Formula == nil || len(t.Formula.Looks) == 0 {
			return
		}
		out.blind = out.blind || h.blind(t)
		for _, g := range t.Formula.Program.Glances(&t.Formula.Lane, h.longest) {
			e := edge{points: 1, lo: g.Delay, hi: g.Delay, whole: g.Delay == math.Floor(g.Delay), fixed: g.Fixed}
			switch {
			case g.Op == machine.OpArea:
				e.fixed, e.points = true, float64(h.source.Layout.Composition.Frames)
			case g.Op == machine.OpAverage && g.Span == g.Span:
				span := math.Min(math.Abs(g.Span), machine.MaxAverage)
				e.points, e.whole = span+1, e.whole && g.Span == math.Floor(g.Span) && span < machine.MaxAverage
				e.lo, e.hi = math.Min(g.Delay, g.Delay-g.Span), math.Max(g.Delay, g.Delay-g.Span)
			case g.Op == machine.OpAverage:
				e.points, e.whole = machine.MaxAverage, false
			}
			add(t, g.Slot, g.Key^uint64(g.Op), e)
		}
	})
	return out
}

// longest returns the longest that a slot can say a window or a delay is; NaN where that cannot be told.
func (h *Keeper) longest(slot int32) float64 {
	if slot >= h.source.Layout.World || h.source.Order.Driven(slot) {
		return math.NaN()
	}
	h.bounding[slot] = true
	return h.source.Farthest(slot)
}

// blind reports whether a formula looks at frames that cannot be told beforehand.
func (h *Keeper) blind(t *wire.Target) bool {
	program, asks := t.Formula.Program.Asks()
	if len(asks) < t.Formula.Program.Looking() {
		return true
	}
	var driven []int32
	for _, s := range program.ReadBy(t.Formula.Lane).In {
		if s.Kind == machine.FromValues && (s.Slot >= h.source.Layout.World || h.source.Order.Driven(s.Slot) || h.source.Order.LevelOf(s.Slot) > 0) {
			driven = append(driven, s.Slot)
		}
	}
	if len(driven) == 0 {
		return false
	}
	levels, _, _ := h.source.Order.Closure(driven, nil)
	return wire.Placed(levels)
}

// tooMuch adds up what a frame asks for. Where that is too much it returns the looks that lead to the largest part
// of it, from the frame on, and how many values it comes to.
func (h *Keeper) tooMuch(all []looks) (chain []edge, values float64) {
	n := len(h.histories)
	demands := make([]demand, n+1)
	for k := range demands {
		demands[k] = demand{lo: 0, hi: -1, most: -1}
	}
	demands[n] = demand{lo: 0, hi: 0, count: 1}
	via := make([]edge, n+1)
	made, freed := make([]float64, n), make([]float64, n+1) // by history: its values; those that go when it was worked out
	cells, glances, worst, heaviest := 0.0, 0.0, -1, 0.0
	for k := n; k >= 0; k-- {
		d := &demands[k]
		frames := d.frames()
		if k < n && (all[k].out || frames == 0) {
			continue
		}
		asked := 0.0
		for _, e := range all[k].edges {
			if all[e.to].out || e.to == k {
				continue
			}
			if e.points > 1 {
				asked += e.points
			}
			to := &demands[e.to]
			part := float64(frames * e.points)
			switch {
			case e.fixed && (k == n || d.loose == 0 || e.points > 1):
				to.fixed = math.Max(to.fixed, e.points)
				to.loose, to.scattered = to.loose+frames, to.scattered+frames
				part = e.points + frames
			case e.whole && d.loose == 0 && d.fixed == 0:
				if to.hi < to.lo {
					to.lo, to.hi = d.lo+e.lo, d.hi+e.hi
				} else {
					to.lo, to.hi = math.Min(to.lo, d.lo+e.lo), math.Max(to.hi, d.hi+e.hi)
				}
				to.count += part
			case e.points == 1:
				to.loose, to.scattered = to.loose+part, to.scattered+d.scattered
			default:
				to.loose, to.scattered = to.loose+part, to.scattered+part
			}
			if part >= to.part { // of two alike, that which comes by way of others
				to.part, to.most, via[e.to] = part, k, e
			}
		}
		if k == n {
			continue
		}
		own := float64((frames + float64((looseness-1)*d.scattered)) * float64(len(h.histories[k].slots)))
		cells += own
		if all[k].alone {
			cells += float64(own * (blindness - 1))
		}
		made[k] = own
		if last := all[k].last; last > k && !staysWhole(k, n) {
			freed[last] += own
		}
		glances += float64(frames * asked)
		if weight := own + float64(frames*asked); weight > heaviest {
			heaviest, worst = weight, k
		}
	}
	kept, most := 0.0, 0.0
	for k := range n {
		kept += made[k]
		most = math.Max(most, kept)
		kept -= freed[k]
	}
	if most <= maxCells && cells <= maxSwept && glances <= maxGlances || worst < 0 {
		h.Pieces = cells > float64(h.Piece)
		return nil, 0
	}
	for k := worst; k >= 0 && k < n; k = demands[k].most {
		chain = append(chain, via[k])
	}
	slices.Reverse(chain)
	return chain, cells + glances
}
