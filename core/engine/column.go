package engine

import (
	"slices"

	"wunderkammer/core/curve"
	"wunderkammer/core/formula"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// column is every number of a composition at one frame.
type column struct {
	own    []float64 // own values
	values []float64 // results, with the world transforms behind them
	frame  float64
	stale  bool // all world transforms are to be worked out again
	env    *env
}

func newColumn(l *layout.Layout) column {
	return column{own: make([]float64, l.World), values: make([]float64, l.Size), stale: true}
}

// pinned is a property whose own value moves with pins, one track for each component.
type pinned struct {
	slot   int32
	tracks []curve.Track
	limits *scene.Spec
}

// batch is a run of plain wires whose sources are all ready: the same arithmetic over whole columns.
// Every further kind of program becomes another kind of run over columns laid out the same way.
type batch struct {
	source, target []int32
	gain, offset   []float64
	lo, hi         []float64
	step           []*scene.Spec // for targets that jump (switches, whole numbers); nil if there are none
	alike          bool          // all take their source as it is, and have the same limits
}

// level is what can be worked out at once.
type level struct {
	batch  batch
	stacks []stack
	late   []lateRead // of the stacks
	groups []*formula.Group
	reads  []wire.Read
	places []int32 // items whose world transform belongs here
	moving []int32 // those among them that can change from frame to frame
}

func (p *Plan) levelsOf(sorted []wire.Level) []level {
	out := make([]level, len(sorted))
	for k, s := range sorted {
		plain, stacked, formulas := p.sortTargets(s.Targets)
		out[k] = level{batch: newBatch(plain), stacks: stacked, late: lateReads(stacked), groups: p.group(formulas), reads: s.Reads, places: s.Places}
		for _, i := range s.Places {
			if p.moves[i] {
				out[k].moving = append(out[k].moving, i)
			}
		}
	}
	return out
}

// newBatch makes a run of targets that have one plain wire each.
func newBatch(targets []*wire.Target) batch {
	n := len(targets)
	b := batch{
		source: make([]int32, n), target: make([]int32, n),
		gain: make([]float64, n), offset: make([]float64, n),
		lo: make([]float64, n), hi: make([]float64, n),
	}
	for i := range targets {
		t := targets[i]
		w := &t.Wires[0]
		b.source[i], b.target[i] = w.Source, t.Slot
		b.gain[i], b.offset[i] = w.Gain, w.Offset
		b.lo[i], b.hi[i] = t.Spec.Min, t.Spec.Max
		if t.Spec.Type == scene.Text {
			b.lo[i], b.hi[i] = 0, scene.MaxMagnitude
		}
		if t.Spec.Type != scene.Text && t.Spec.Jumps() {
			if b.step == nil {
				b.step = make([]*scene.Spec, n)
			}
			b.step[i] = t.Spec
		}
	}
	b.alike = n > 0
	for i := range targets {
		b.alike = b.alike && b.gain[i] == 1 && b.offset[i] == 0 && b.lo[i] == b.lo[0] && b.hi[i] == b.hi[0]
	}
	return b
}

// group puts formulas of one shape together.
func (p *Plan) group(targets []*wire.Target) []*formula.Group {
	var groups []*formula.Group
	lanes := map[string][]formula.Lane{}
	var shapes []*formula.Program // in the order in which they come
	for _, t := range targets {
		f := t.Formula
		if lanes[f.Program.Shape] == nil {
			shapes = append(shapes, f.Program)
		}
		lane := f.Lane
		for k, s := range lane.In {
			if s.Kind == formula.FromText {
				lane.In = slices.Clone(lane.In)
				lane.In[k] = formula.Source{X: p.handle(s.Text)}
			}
		}
		lanes[f.Program.Shape] = append(lanes[f.Program.Shape], lane)
	}
	for _, shape := range shapes {
		groups = append(groups, formula.NewGroup(shape, lanes[shape.Shape]))
	}
	return groups
}

// Evaluate returns the whole column at a frame, which may lie between whole frames. The slice
// belongs to the plan and is overwritten by the next call.
func (p *Plan) Evaluate(frame float64) []float64 {
	p.bound()
	p.foreseen, p.redone = false, p.redone || p.now.stale
	p.evaluate(&p.now, p.tracks, p.levels, frame)
	if len(p.poses) == 0 {
		p.recent.keep(frame, p.now.values)
	}
	return p.now.values[:p.Layout.Size]
}

func (p *Plan) evaluate(c *column, tracks []pinned, levels []level, frame float64) {
	c.frame = frame
	for i := range tracks {
		t := &tracks[i]
		for k := range t.tracks {
			own := t.tracks[k].At(frame)
			c.own[t.slot+int32(k)], c.values[t.slot+int32(k)] = own, t.limits.Limit(own)
		}
	}
	if c.env == nil {
		c.env = &env{p: p, c: c}
	}
	p.pause()
	for k := range levels {
		l := &levels[k]
		for _, g := range l.groups {
			g.Run(c.values, c.own, frame, c.env)
		}
		l.batch.run(c.values, c.own)
		if len(l.late) > 0 {
			p.ahead(c, l.late)
		}
		for s := range l.stacks {
			p.stackUp(c, &l.stacks[s])
		}
		if c == &p.now && len(p.poses) > 0 {
			p.holdPoses()
		}
		for r := range l.reads {
			p.read(c, &l.reads[r])
		}
		places := l.moving
		if c.stale {
			places = l.places
		}
		for _, i := range places {
			p.placeItem(c, i)
		}
	}
	c.stale = false
}

// run is the column form of stackUp for one plain wire; the two are tested against each other.
func (b *batch) run(values, own []float64) {
	if b.alike {
		lo, hi := b.lo[0], b.hi[0]
		source := b.source[:len(b.target)]
		for i, target := range b.target {
			v := values[source[i]] + 0
			if v-v != 0 { // not finite
				v = own[target]
			}
			if v < lo {
				v = lo
			}
			if v > hi {
				v = hi
			}
			values[target] = v
		}
		b.jump(values)
		return
	}
	n := len(b.target)
	source, gain, offset := b.source[:n], b.gain[:n], b.offset[:n]
	lo, hi := b.lo[:n], b.hi[:n]
	for i, target := range b.target {
		v := float64(values[source[i]]*gain[i]) + offset[i]
		if v-v != 0 { // not finite
			v = own[target]
		}
		if v < lo[i] {
			v = lo[i]
		}
		if v > hi[i] {
			v = hi[i]
		}
		values[target] = v
	}
	b.jump(values)
}

// jump brings targets that only jump to what they can be.
func (b *batch) jump(values []float64) {
	for i, spec := range b.step {
		if spec != nil {
			values[b.target[i]] = spec.Limit(values[b.target[i]])
		}
	}
}
