package engine

import (
	"math"
	"slices"

	"wunderkammer/core/formula"
	"wunderkammer/core/link"
)

// What is looked at at other times is asked for a column at a time. First the frames are gathered: those
// that are asked of one echo are turned into those that it asks of lower ones, down to the lowest. Then
// the echoes are worked out upward, each at all of its frames at once, so that everything that is asked
// for is there. What cannot be told beforehand, since the frame itself comes out of a look at another
// time, is asked for when it turns up.

// want notes a frame that is asked for.
func (e *echo) want(frame float64) {
	if formula.Within(frame) {
		e.wanted = append(e.wanted, frame)
	}
}

// wantAll notes frames that are asked for.
func (e *echo) wantAll(frames []float64) {
	from := 0
	for i, f := range frames {
		if !formula.Within(f) {
			e.wanted = append(e.wanted, frames[from:i]...)
			from = i + 1
		}
	}
	e.wanted = append(e.wanted, frames[from:]...)
}

// maxWanted bounds the frames that are gathered of one echo.
const maxWanted = 1 << 20

// fetch works out all frames that are wanted.
func (p *Plan) fetch() {
	if p.cells {
		for _, e := range p.echoes {
			e.wanted = e.wanted[:0]
		}
		return
	}
	wanted := make([][]float64, len(p.echoes))
	for k := len(p.echoes) - 1; k >= 0; k-- {
		e := p.echoes[k]
		if len(e.wanted) == 0 {
			continue
		}
		wanted[k] = e.missing()
		e.wanted, e.spare = e.spare[:0], nil // who asks meanwhile has another list
		if !e.back && len(wanted[k]) <= maxWanted {
			p.gather(p.probeOf(e), wanted[k])
		}
	}
	for k, frames := range wanted {
		switch e := p.echoes[k]; {
		case len(frames) == 0 || e.back: // feedback is worked out forward when it is heard
		case p.probeOf(e).sheets(len(frames)):
			p.forward(e, frames)
		default:
			for _, f := range frames {
				p.once(e, f)
			}
		}
		if frames != nil {
			p.echoes[k].spare = frames
		}
	}
}

// wide is how many slots make a column that is long enough to be worked out frame by frame.
const wide = 500

// sheets reports whether a probe is worked out over so many frames at once.
func (pr *probe) sheets(frames int) bool {
	return pr.local != nil && len(pr.own) <= wide && frames > 2
}

// missing returns the frames that are wanted and not kept, in order.
func (e *echo) missing() []float64 {
	for i := 1; i < len(e.wanted); i++ {
		if e.wanted[i] < e.wanted[i-1] {
			slices.Sort(e.wanted)
			break
		}
	}
	out := e.wanted[:0] // never ahead of what is read
	at, last := 0, math.NaN()
	for _, f := range e.wanted {
		if f == last {
			continue
		}
		if last = f; at < len(e.frames) && e.frames[at] < f {
			if at++; at < len(e.frames) && e.frames[at] < f {
				more, _ := slices.BinarySearch(e.frames[at:], f)
				at += more
			}
		}
		if at == len(e.frames) || e.frames[at] != f {
			out = append(out, f)
		}
	}
	return out
}

// asker is something in a probe that looks at other times.
type asker struct {
	slot  int32 // that it looks at
	op    formula.Op
	delay float64 // of a link
	// Of a formula: where the frame stands in the sheet of what it asks with, and the span.
	frame, span int32
}

// asking is how a probe looks at other times: what it asks with is worked out beforehand.
type asking struct {
	askers []asker
	with   *probe // where anything is read for that
	groups []*formula.Group
	size   int32  // slots of the sheet
	steady []bool // of them
}

// askingOf finds out how targets look at other times.
func (p *Plan) askingOf(sorted []link.Level) *asking {
	a := &asking{}
	type one struct {
		program *formula.Program
		lane    formula.Lane
	}
	var programs []one
	var slots []int32
	for _, l := range sorted {
		for i := range l.Targets {
			t := &l.Targets[i]
			for _, w := range t.Wires {
				if w.Delay != 0 {
					a.askers = append(a.askers, asker{slot: w.Heard(), op: formula.OpLook, delay: w.Delay})
				}
			}
			if t.Formula == nil || len(t.Formula.Looks) == 0 {
				continue
			}
			program, asks := t.Formula.Program.Asks()
			for _, k := range asks {
				a.askers = append(a.askers, asker{slot: int32(t.Formula.Lane.In[k.Slot].X), op: k.Op, delay: math.NaN(), frame: int32(k.Frame) + a.size, span: int32(k.Span) + a.size})
			}
			if len(asks) > 0 {
				lane := readBy(program, t.Formula.Lane)
				programs = append(programs, one{program, lane})
				for _, s := range lane.In {
					if s.Kind == formula.FromValues || s.Kind == formula.FromOwn {
						slots = append(slots, s.Slot)
					}
				}
				a.size += int32(len(program.Out))
			}
		}
	}
	first := int32(0)
	move := func(s int32) int32 { return s }
	if len(slots) > 0 {
		if a.with = p.newProbe(slots, nil); a.with.local == nil {
			return &asking{} // too much stands behind it: asked for when it turns up
		}
		first, move = int32(len(a.with.own)), a.with.slot
	}
	for i := range a.askers {
		a.askers[i].frame += first
		a.askers[i].span += first
	}
	a.size += first
	for _, o := range programs {
		for k := range o.lane.In {
			if s := &o.lane.In[k]; s.Kind == formula.FromValues || s.Kind == formula.FromOwn {
				s.Slot = move(s.Slot)
			}
		}
		for range o.program.Out {
			o.lane.Out = append(o.lane.Out, first)
			first++
		}
		a.groups = append(a.groups, formula.NewGroup(o.program, []formula.Lane{o.lane}))
	}
	a.steady = make([]bool, a.size)
	if a.with != nil {
		copy(a.steady, a.with.steady)
	}
	return a
}

// readBy returns a lane with nothing but the inputs that a program reads, and without results.
func readBy(program *formula.Program, lane formula.Lane) formula.Lane {
	used := map[int32]bool{}
	for _, in := range program.Code {
		used[in.A], used[in.B], used[in.C] = true, true, true
	}
	for _, r := range program.Out {
		used[r] = true
	}
	out := formula.Lane{In: make([]formula.Source, len(lane.In))}
	for k, s := range lane.In {
		if used[int32(k)] && s.Kind != formula.FromText { // texts say nothing about times
			out.In[k] = s
		}
	}
	return out
}

// gather notes the frames that a probe asks of echoes when it is worked out at some frames.
func (p *Plan) gather(pr *probe, frames []float64) {
	if pr.asking == nil {
		pr.asking = p.askingOf(pr.sorted)
		pr.sorted = nil
	}
	a := pr.asking
	for len(frames) > 0 && len(a.askers) > 0 {
		n := min(len(frames), formula.SheetFrames)
		s := p.sheet(int(a.size), frames[:n])
		if a.with != nil {
			p.fill(s, a.with)
		}
		s.Steady = a.steady
		for _, g := range a.groups {
			g.RunSheet(&s.Sheet, s.host())
		}
		for _, k := range a.askers {
			p.ask(&k, s)
		}
		p.done(s)
		frames = frames[n:]
	}
}

// ask notes what one asker asks for over the frames of a sheet.
func (p *Plan) ask(k *asker, s *sheet) {
	ear, ok := p.ear(k.slot)
	if !ok || ear.back {
		return
	}
	if k.delay == k.delay {
		for _, now := range s.Frames {
			ear.want(now - k.delay)
		}
		return
	}
	if k.op == formula.OpLook {
		ear.wantAll(s.Values[k.frame])
		return
	}
	for i, frame := range s.Values[k.frame] {
		switch k.op {
		case formula.OpArea:
			ear.wantArea(k.slot, frame)
		case formula.OpAverage:
			ear.wantAverage(frame, s.Values[k.span][i])
		}
	}
}

func (e *echo) wantArea(slot int32, frame float64) {
	if !formula.Within(frame) || e.back {
		return
	}
	note := func(f float64) float64 { e.want(f); return 0 }
	if frame < 0 {
		formula.Area(frame, 1, note)
		return
	}
	a := e.areaOf(slot)
	whole := math.Floor(frame)
	for a.wanted = max(a.wanted, float64(max(0, len(a.sums)-1))); a.wanted < whole; a.wanted++ {
		note(a.wanted + 0.5)
	}
	formula.Over(whole, frame, note)
}

func (e *echo) wantAverage(frame, span float64) {
	if formula.Within(frame) && formula.Within(span) && !e.back {
		formula.Average(frame, span, func(f float64) float64 { e.want(f); return 0 })
	}
}
