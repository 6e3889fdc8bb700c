package engine

import (
	"slices"

	"wunderkammer/core/curve"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// snapshot is every number of a composition at one frame.
type snapshot struct {
	own    []float64 // own values
	values []float64 // results, with the world transforms behind them
	frame  float64
	stale  bool // all world transforms are to be worked out again
	env    *env
}

// pinned is a property whose own value moves with pins, one track for each component.
type pinned struct {
	slot   int32
	tracks []curve.Track
	limits *scene.Spec
}

// level is what can be worked out at once.
type level struct {
	batch   batch
	stacks  []stack
	late    []lateRead // of the stacks
	groups  []*machine.Group
	reduced []*wire.Target // what is made of lists
	reads   []wire.Read
	places  []int32 // items whose world transform belongs here
	moving  []int32 // those among them that can change from frame to frame
	version int     // that of the level that it was made of
}

// levelsOf makes levels ready. Those of before whose targets are the same serve again.
func (p *Plan) levelsOf(sorted []wire.Level, before []level) []level {
	out := make([]level, len(sorted))
	same, others := map[int32]int32{}, false // of slots that always hold the same as another: that; and whether these are others than before
	for k, s := range sorted {
		known := k < len(before)
		if known && before[k].version == s.Version && !others {
			out[k] = before[k]
			out[k].alike(same)
		} else {
			plain, stacked, formulas, reduced := p.sortTargets(s.Targets)
			out[k] = level{batch: newBatch(plain, same), stacks: stacked, late: lateReads(stacked), groups: p.group(formulas), reduced: reduced, version: s.Version}
			is := out[k].alike(same)
			others = others || is || known && before[k].alike(map[int32]int32{})
		}
		out[k].reads, out[k].places, out[k].moving = s.Reads, s.Places, p.movingOf(s.Places)
	}
	return out
}

// alike notes of the slots of a level that always hold the same as another, which that is, and reports whether there are any.
func (l *level) alike(same map[int32]int32) (any bool) {
	for _, g := range l.groups {
		for _, alike := range g.Alike() {
			for _, slot := range alike[1:] {
				same[slot], any = alike[0], true
			}
		}
	}
	return any
}

// movingOf returns those of some items whose place can change from frame to frame.
func (p *Plan) movingOf(places []int32) (out []int32) {
	for _, i := range places {
		if p.moves[i] {
			out = append(out, i)
		}
	}
	return out
}

// movingLevels brings into the levels which items move.
func (p *Plan) movingLevels() {
	for k := range p.levels {
		p.levels[k].moving = p.movingOf(p.levels[k].places)
	}
}

// group puts formulas of one shape together.
func (p *Plan) group(targets []*wire.Target) []*machine.Group {
	type group struct {
		program *machine.Program
		lanes   []machine.Lane
	}
	var found []*group // in the order in which they come
	shapes, programs := map[string]int{}, map[*machine.Program]int{}
	of, sizes := make([]int, len(targets)), []int{}
	for k, t := range targets {
		program := t.Formula.Program
		n, known := programs[program]
		if !known {
			if n, known = shapes[program.Shape]; !known {
				n = len(found)
				shapes[program.Shape] = n
				found, sizes = append(found, &group{program: program}), append(sizes, 0)
			}
			programs[program] = n
		}
		of[k] = n
		sizes[n]++
	}
	for n, size := range sizes {
		found[n].lanes = make([]machine.Lane, 0, size)
	}
	for k, t := range targets {
		lane := t.Formula.Lane
		for k, s := range lane.In {
			if s.Kind == machine.FromText {
				lane.In = slices.Clone(lane.In)
				lane.In[k] = machine.Source{X: p.handle(s.Text)}
			}
		}
		found[of[k]].lanes = append(found[of[k]].lanes, lane)
	}
	groups := make([]*machine.Group, len(found))
	for k, g := range found {
		groups[k] = machine.NewGroup(g.program, g.lanes)
	}
	return groups
}

// Evaluate returns all values at a frame, which may lie between whole frames. The slice
// belongs to the plan and is overwritten by the next call.
func (p *Plan) Evaluate(frame float64) []float64 {
	p.past.Bound(p.now.frame)
	p.foreseen, p.redone = false, p.redone || p.now.stale
	p.seenStale = p.now.stale
	p.evaluate(&p.now, p.tracks, p.levels, frame)
	p.evaluateApart(frame)
	p.see()
	if len(p.poses) == 0 {
		p.past.Keep(frame, p.now.values)
	}
	return p.now.values[:p.Layout.Size]
}

func (p *Plan) evaluate(c *snapshot, tracks []pinned, levels []level, frame float64) {
	c.frame = frame
	for i := range tracks {
		t := &tracks[i]
		for k := range t.tracks {
			own := t.tracks[k].At(frame)
			c.own[t.slot+int32(k)], c.values[t.slot+int32(k)] = own, t.limits.Part(k).Limit(own)
		}
	}
	if c.env == nil {
		c.env = &env{p: p, c: c}
	}
	p.pause()
	if c == &p.now && len(p.poses) > 0 { // of what nothing drives, before anything follows it
		p.holdPoses()
	}
	for k := range levels {
		l := &levels[k]
		for _, g := range l.groups {
			g.Run(c.values, c.own, frame, c.env)
		}
		for _, t := range l.reduced {
			t.Reduced().Run(c.values, t.Slot)
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
