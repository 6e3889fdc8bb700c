package engine

import (
	"math"

	"wunderkammer/core/layout"
)

// Watcher remembers the values as they were last told, so that only what is another now is told again. It outlives the
// plans of one composition; like a Tracker, which it has to be asked before, no other looks at them.
type Watcher struct {
	plan    *Plan
	wirings int // of the plan, when the runs were found
	runs    []run
	told    []float64
}

// run is slots side by side.
type run struct{ from, to int32 }

// Told is what has become another since it was last told.
type Told struct {
	// Whole is all values where there are more or fewer than before, or most of it changed; else nil.
	Whole []float64
	// Slots and Values are what changed, in order, otherwise. They are overwritten by the next call.
	Slots  []uint32
	Values []float64
}

// Tell fills out with what differs of the values that were evaluated last, bit for bit.
func (w *Watcher) Tell(p *Plan, out *Told) {
	values := p.now.values[:p.Layout.Size]
	out.Whole, out.Slots, out.Values = nil, out.Slots[:0], out.Values[:0]
	all := w.plan != p || w.wirings != p.wirings
	if w.plan, w.wirings = p, p.wirings; all {
		w.runs = runsOf(p.restless())
	}
	redone := p.redone
	p.redone = false
	if len(values) != len(w.told) {
		w.told = append(w.told[:0], values...)
		out.Whole = values
		return
	}
	switch {
	case all:
		w.tell(out, values, 0, int32(len(values)))
	default:
		for _, r := range w.runs {
			w.tell(out, values, r.from, r.to)
		}
		for _, i := range p.touched {
			for n, spec := range p.Layout.Specs(i) {
				first := p.Layout.Slot(i, n)
				w.tell(out, values, first, first+int32(spec.Type.Size()))
			}
		}
		if redone {
			w.tell(out, values, p.Layout.World, int32(len(values)))
		}
	}
	if 2*len(out.Slots) > len(values) {
		out.Whole = values
	}
}

// tell notes what differs in a run of slots.
func (w *Watcher) tell(out *Told, values []float64, from, to int32) {
	now, told := values[from:to], w.told[from:to]
	for k, v := range now {
		if math.Float64bits(v) != math.Float64bits(told[k]) {
			told[k] = v
			out.Slots, out.Values = append(out.Slots, uint32(from)+uint32(k)), append(out.Values, v)
		}
	}
}

// restless returns by slot whether it can be another from frame to frame: pins or links change it, or it is derived,
// or where an item stands that moves.
func (p *Plan) restless() []bool {
	out := make([]bool, p.Layout.Size)
	copy(out, p.wired)
	for _, track := range p.tracks {
		for c := range track.tracks {
			out[track.slot+int32(c)] = true
		}
	}
	for _, l := range p.levels {
		for _, r := range l.reads {
			for c := range r.Spec.Type.Size() {
				out[r.Slot+int32(c)] = true
			}
		}
	}
	for i, moves := range p.moves {
		if moves {
			for s := range int32(layout.WorldSize) {
				out[p.Layout.WorldOf(int32(i))+s] = true
			}
		}
	}
	p.restlessApart(out)
	lively := make([]bool, len(p.Layout.Stages)) // by stage: all that it shows can be seen elsewhere from frame to frame
	for at := 1; at < len(p.Layout.Stages); at++ {
		stage := &p.Layout.Stages[at]
		lively[at] = lively[p.Layout.StageOf(stage.Piece)] || stage.Apart || p.moves[stage.Piece] ||
			out[p.Layout.Slot(stage.Piece, pieceOpacity)] || out[p.Layout.Slot(stage.Piece, pieceDepth)]
		for i := stage.First; i < stage.First+stage.Count; i++ {
			if lively[at] || p.moves[i] {
				for s := range int32(layout.SeenSize) {
					out[p.Layout.SeenOf(i)+s] = true
				}
			}
		}
	}
	return out
}

// runsOf returns the runs of slots that are set. Those that lie close together are one, which is quicker to go through.
func runsOf(set []bool) (out []run) {
	for s, yes := range set {
		switch n := len(out); {
		case !yes:
		case n > 0 && int32(s)-out[n-1].to < 8:
			out[n-1].to = int32(s) + 1
		default:
			out = append(out, run{int32(s), int32(s) + 1})
		}
	}
	return out
}
