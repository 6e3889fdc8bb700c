package engine

import (
	"math"

	"wunderkammer/core/machine"
	"wunderkammer/core/wire"
)

// asker is something in a slice that looks at other times.
type asker struct {
	slot  int32 // that it looks at
	op    machine.Op
	delay float64 // of a link
	// Of a formula: where the frame stands in the block of what it asks with, and the span.
	frame, span int32
}

// asking is how a slice looks at other times: what it asks with is worked out beforehand.
type asking struct {
	askers []asker
	with   *depSlice // where anything is read for that
	groups []*machine.Group
	size   int32 // slots of the block
	// Of them: see formula.Sheet.
	steady, ownSteady []bool
}

// askingOf finds out how targets look at other times.
func (p *Plan) askingOf(sorted []wire.Level) *asking {
	a := &asking{}
	type shape struct {
		program *machine.Program
		lanes   []machine.Lane
	}
	var shapes []*shape
	of := map[string]*shape{}
	var slots []int32
	for _, l := range sorted {
		for _, t := range l.Targets {
			for _, w := range t.Wires {
				if w.Delay != 0 {
					a.askers = append(a.askers, asker{slot: w.Original(), op: machine.OpLook, delay: w.Delay})
				}
			}
			if t.Formula == nil || len(t.Formula.Looks) == 0 {
				continue
			}
			program, asks := t.Formula.Program.Asks()
			lane := &t.Formula.Lane
			general := false
			for _, k := range asks {
				one := asker{slot: int32(lane.In[k.Slot].X), op: k.Op, delay: math.NaN()}
				if delay, ok := program.Delayed(lane, k.Frame); ok && k.Op == machine.OpLook {
					one.delay = delay
				} else {
					general, one.frame, one.span = true, int32(k.Frame)+a.size, int32(k.Span)+a.size
				}
				a.askers = append(a.askers, one)
			}
			if !general {
				continue
			}
			asking := program.ReadBy(*lane)
			for range program.Out {
				asking.Out = append(asking.Out, a.size)
				a.size++
			}
			if of[program.Shape] == nil {
				of[program.Shape] = &shape{program: program}
				shapes = append(shapes, of[program.Shape])
			}
			of[program.Shape].lanes = append(of[program.Shape].lanes, asking)
			for _, s := range asking.In {
				if s.Kind == machine.FromValues || s.Kind == machine.FromOwn {
					slots = append(slots, s.Slot)
				}
			}
		}
	}
	first := int32(0)
	move := func(s int32) int32 { return s }
	if len(slots) > 0 {
		if a.with = p.newSlice(slots, nil); a.with.local == nil {
			return &asking{} // too much stands behind it: asked for when it turns up
		}
		first, move = int32(len(a.with.own)), a.with.slot
	}
	for i := range a.askers {
		a.askers[i].frame += first
		a.askers[i].span += first
	}
	a.size += first
	for _, o := range shapes {
		for _, lane := range o.lanes {
			for k := range lane.In {
				if s := &lane.In[k]; s.Kind == machine.FromValues || s.Kind == machine.FromOwn {
					s.Slot = move(s.Slot)
				}
			}
			for k := range lane.Out {
				lane.Out[k] += first
			}
		}
		a.groups = append(a.groups, machine.NewGroup(o.program, o.lanes))
	}
	a.steady, a.ownSteady = make([]bool, a.size), make([]bool, a.size)
	if a.with != nil {
		copy(a.steady, a.with.steady)
		copy(a.ownSteady, a.with.ownSteady)
	}
	return a
}

// gather notes the frames that a slice asks of histories when it is worked out at some frames.
func (p *Plan) gather(pr *depSlice, frames []float64) {
	if pr.asking == nil {
		pr.asking = p.askingOf(pr.sorted)
		pr.sorted = nil
	}
	a := pr.asking
	for k := range a.askers {
		if one := &a.askers[k]; one.delay == one.delay {
			p.past.WantEarlier(one.slot, frames, one.delay)
		}
	}
	if len(a.groups) == 0 {
		return
	}
	if a.size > wide {
		for _, f := range frames {
			p.gatherAt(a, f)
		}
		return
	}
	for len(frames) > 0 {
		n := min(len(frames), machine.BlockFrames)
		s := p.frameBlock(int(a.size), frames[:n])
		if a.with != nil {
			p.fill(s, a.with)
		}
		s.Steady, s.OwnSteady = a.steady, a.ownSteady
		for _, g := range a.groups {
			g.RunBlock(&s.FrameBlock, s.env())
		}
		p.askAll(a, s.Values)
		p.done(s)
		frames = frames[n:]
	}
}

// gatherAt is gather at one frame, for what is wide.
func (p *Plan) gatherAt(a *asking, frame float64) {
	own, values := make([]float64, a.size), make([]float64, a.size)
	if a.with != nil {
		p.at(a.with, frame, func(c *snapshot) {
			copy(own, c.own)
			copy(values, c.values)
		})
	}
	for _, g := range a.groups {
		g.Run(values, own, frame, &env{p: p})
	}
	rows := make([][]float64, len(values))
	for k := range values {
		rows[k] = values[k : k+1]
	}
	p.askAll(a, rows)
}

// foresee asks for all that the frame that is evaluated looks at at other times: a row of which each trails the one
// before is gone through once then, however many of them look.
func (p *Plan) foresee(c *snapshot) {
	if c != &p.now || p.foreseen || p.past.Count() < deep {
		return
	}
	p.foreseen = true
	if p.asking == nil {
		p.asking = p.askingOf(p.order.Levels)
	}
	p.gather(&depSlice{asking: p.asking}, []float64{c.frame})
}

// deep is how many histories there are where it is worth while to find out beforehand what a frame asks of them.
const deep = 64

// askAll asks for what is looked at at the frames of rows, by slot.
func (p *Plan) askAll(a *asking, rows [][]float64) {
	for k := range a.askers {
		one := &a.askers[k]
		if one.delay == one.delay {
			continue
		}
		if one.op == machine.OpLook {
			p.past.WantAll(one.slot, rows[one.frame])
			continue
		}
		for i, frame := range rows[one.frame] {
			switch one.op {
			case machine.OpArea:
				p.past.WantArea(one.slot, frame)
			case machine.OpAverage:
				p.past.WantAverage(one.slot, frame, rows[one.span][i])
			}
		}
	}
}
