package engine

import (
	"math"

	"wunderkammer/core/machine"
	"wunderkammer/core/wire"
)

// depSlice is what some properties and places are made of, ready to be looked at at another time.
type depSlice struct {
	p      *Plan
	slots  []int32 // that it was made for
	tracks []pinned
	levels []level
	reads  map[int32]bool // the slots that matter
	looks  []int32        // the slots that it looks at at other times
	asking *asking        // how; made when first needed, from:
	sorted []wire.Level
	// Where nothing derived and no place is asked for, the slice has snapshots of its own with nothing
	// else in them: where its slots stand there, and the own values.
	local map[int32]int32
	own   []float64
	start []float64   // the own values within their limits
	free  []*snapshot // of its own, to be used again
	// By slot there: whether links fill it, whether neither they nor pins change it, whether no pins change what
	// is under the links, and whether what it shows is read frame by frame even where that is always the same.
	driven, steady, ownSteady, whole []bool
	unused                           []bool // nothing is made of it
}

// slot returns where a slot stands in the snapshots of the slice.
func (pr *depSlice) slot(s int32) int32 {
	if pr.local == nil {
		return s
	}
	return pr.local[s]
}

// newSlice makes a slice of some slots and of where some items stand.
func (p *Plan) newSlice(slots, places []int32) *depSlice {
	sorted, read, later := p.order.Closure(slots, places)
	pr := &depSlice{p: p, slots: slots, reads: read, looks: later}
	if len(later) > 0 {
		pr.sorted = sorted
	}
	whole := len(places) > 0 || wire.Placed(sorted)
	move := func(s int32) int32 { return s }
	if !whole {
		pr.local = map[int32]int32{}
		move = func(s int32) int32 {
			at, ok := pr.local[s]
			if !ok {
				at = int32(len(pr.own))
				pr.local[s] = at
				own, start := math.NaN(), math.NaN()
				if int(s) < len(p.now.own) {
					own, start = p.now.own[s], p.start[s]
				}
				pr.own, pr.start = append(pr.own, own), append(pr.start, start)
			}
			return at
		}
		for s := range read {
			move(s)
		}
		sorted = moved(sorted, move)
		pr.findUnused(sorted, slots)
	}
	pr.levels = p.levelsOf(sorted, nil)
	for k := range p.tracks {
		t := p.tracks[k]
		for c := range t.tracks {
			if !read[t.slot+int32(c)] {
				continue
			}
			one := t
			if !whole { // its components may lie apart
				one.slot, one.tracks, one.limits = move(t.slot+int32(c)), t.tracks[c:c+1], t.limits.Part(c)
				if pr.unused[one.slot] {
					continue
				}
			}
			pr.tracks = append(pr.tracks, one)
			if whole {
				break
			}
		}
	}
	if !whole {
		pr.findSteady(sorted)
		for _, s := range slots {
			pr.whole[pr.slot(s)] = true
		}
	}
	return pr
}

// findUnused finds out which slots matter, and takes out of formulas what does not: of a choice by the place in a
// row, what others in the row take.
func (pr *depSlice) findUnused(sorted []wire.Level, slots []int32) {
	pr.unused = make([]bool, len(pr.own))
	if len(pr.own) > wide { // worked out lane by lane, which goes best where all are alike
		return
	}
	for s := range pr.unused {
		pr.unused[s] = true
	}
	use := func(s int32) { pr.unused[s] = false }
	for _, s := range slots {
		use(pr.slot(s))
	}
	for _, l := range sorted {
		for _, t := range l.Targets {
			if t.Formula == nil {
				t.Uses(wire.Uses{Now: use, Own: use})
				continue
			}
			live := t.Formula.Program.Live(&t.Formula.Lane)
			for k := range t.Formula.Lane.In {
				switch s := &t.Formula.Lane.In[k]; {
				case s.Kind != machine.FromValues && s.Kind != machine.FromOwn:
				case live[k]:
					use(s.Slot)
				default:
					*s = machine.Source{X: math.NaN()}
				}
			}
		}
	}
}

func (pr *depSlice) findSteady(sorted []wire.Level) {
	n := len(pr.own)
	pr.driven, pr.steady, pr.ownSteady, pr.whole = make([]bool, n), make([]bool, n), make([]bool, n), make([]bool, n)
	for _, l := range sorted {
		for _, t := range l.Targets {
			t.Makes(func(s int32) { pr.driven[s] = true })
			for k := range t.Wires {
				if w := &t.Wires[k]; w.Delay == 0 {
					pr.whole[w.Source] = true
				}
				if w := &t.Wires[k]; w.Weight >= 0 {
					pr.whole[w.Weight] = true
				}
			}
			if r := t.Reduced(); r != nil {
				r.Uses(func(s int32) { pr.whole[s] = true })
			}
		}
	}
	for s, driven := range pr.driven {
		pr.steady[s], pr.ownSteady[s] = !driven, true
	}
	for _, t := range pr.tracks {
		for c := range t.tracks {
			pr.steady[t.slot+int32(c)], pr.ownSteady[t.slot+int32(c)] = false, false
		}
	}
}

// moved returns levels with their slots where snapshots of its own have them. What is looked at at other
// times keeps its slot.
func moved(levels []wire.Level, move func(int32) int32) []wire.Level {
	out := make([]wire.Level, len(levels))
	for k, l := range levels {
		for _, t := range l.Targets {
			moved := t.Moved(move)
			out[k].Targets = append(out[k].Targets, &moved)
		}
	}
	return out
}

// at evaluates the slice at a frame and calls with the snapshot, in which only what the slice asks for
// belongs to that frame. It is used again as soon as the call returns.
func (p *Plan) at(pr *depSlice, frame float64, use func(c *snapshot)) {
	c := p.enter(pr, frame)
	use(c)
	p.leave(pr, c)
}

// enter evaluates the slice at a frame, on a snapshot that is given back with leave. What is looked at at
// still other times meanwhile takes snapshots of its own.
func (p *Plan) enter(pr *depSlice, frame float64) *snapshot {
	if pr.local != nil {
		var c *snapshot
		if n := len(pr.free); n > 0 {
			c, pr.free = pr.free[n-1], pr.free[:n-1]
		} else {
			both := make([]float64, 2*len(pr.own))
			c = &snapshot{own: both[:len(pr.own)], values: both[len(pr.own):]}
		}
		copy(c.own, pr.own)
		copy(c.values, pr.start)
		p.evaluate(c, pr.tracks, pr.levels, frame)
		return c
	}
	if p.depth == len(p.then) {
		c := snapshot{own: append([]float64(nil), p.now.own...), values: append([]float64(nil), p.now.values...)}
		p.then = append(p.then, &c)
	}
	c := p.then[p.depth]
	p.depth++
	c.stale = true
	p.evaluate(c, pr.tracks, pr.levels, frame)
	return c
}

func (p *Plan) leave(pr *depSlice, c *snapshot) {
	if pr.local != nil {
		pr.free = append(pr.free, c)
	} else {
		p.depth--
	}
}

// wide is how many slots make a slice that is large enough to be worked out frame by frame.
const wide = 500

// Blocks reports whether the slice is worked out over so many frames at once.
func (pr *depSlice) Blocks(frames int) bool {
	return pr.local != nil && len(pr.own) <= wide && frames > 2
}

// At works the slots out that the slice was made for.
func (pr *depSlice) At(frame float64, out []float64) {
	c := pr.p.enter(pr, frame)
	for k, s := range pr.slots {
		out[k] = c.values[pr.slot(s)]
	}
	pr.p.leave(pr, c)
}

// Over works the slots out that the slice was made for, at frames in order.
func (pr *depSlice) Over(frames []float64, out [][]float64) {
	for from := 0; from < len(frames); from += machine.BlockFrames {
		s := pr.p.frameBlock(len(pr.own), frames[from:min(len(frames), from+machine.BlockFrames)])
		pr.p.fill(s, pr)
		for k, slot := range pr.slots {
			copy(out[k][from:], s.Values[pr.slot(slot)])
		}
		pr.p.done(s)
	}
}

// Ask asks for what the slice looks at when it is worked out at frames.
func (pr *depSlice) Ask(frames []float64) { pr.p.gather(pr, frames) }

// Reads reports whether a slot matters to the slice.
func (pr *depSlice) Reads(slot int32) bool { return pr.reads[slot] }

// Looks returns the slots that the slice looks at at other times.
func (pr *depSlice) Looks() []int32 { return pr.looks }
