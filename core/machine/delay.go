package machine

import (
	"fmt"
	"math"
	"slices"
)

// Trail is a program that gives nothing but what stood in some slots a while ago, as it is on a lane: how long ago that is, is a number,
// or is made of slots at the frame that asks.
type Trail struct {
	Program *Program
	Frames  float64 // how long ago; NaN where slots say
	Slots   []int32 // that say it, values and own ones
	slot    int32   // the first that it looks at
	lag     int32   // the register of how long ago
	lane    *Lane
}

// TrailOf finds out whether a program is one on a lane; the parts of its result have to stand side by side where it looks.
func (p *Program) TrailOf(lane *Lane) (t Trail, ok bool) {
	if len(p.Looks) == 0 || len(p.Gathers) > 0 {
		return t, false
	}
	n := int32(len(p.Inputs))
	known := p.known(lane, 0, func(int32) float64 { return math.NaN() })
	t = Trail{Program: p, lane: lane, lag: -1}
	for k, r := range p.Out {
		for r >= n && p.Code[r-n].Op == OpSelect && known[p.Code[r-n].A] == known[p.Code[r-n].A] {
			if in := p.Code[r-n]; on(known[in.A]) {
				r = in.B
			} else {
				r = in.C
			}
		}
		if r < n || p.Code[r-n].Op != OpLook || p.Code[r-n].B >= n || p.Inputs[p.Code[r-n].B].Kind != Look {
			return t, false
		}
		look := p.Code[r-n]
		slot := lane.In[look.B].X
		if look.A < n || slot != slot {
			return t, false
		}
		at := p.Code[look.A-n]
		if at.Op != OpSub || at.A >= n || lane.In[at.A].Kind != FromFrame {
			return t, false
		}
		if k == 0 {
			t.slot, t.lag, t.Frames = int32(slot), at.B, known[at.B]
		} else if int32(slot) != t.slot+int32(k) || at.B != t.lag {
			return t, false
		}
	}
	used := p.madeOf(t.lag)
	for i, in := range lane.In {
		if !used[i] {
			continue
		}
		switch in.Kind {
		case FromNumber:
		case FromValues, FromOwn:
			t.Slots = append(t.Slots, in.Slot)
		default: // from the frame, or a text
			return t, false
		}
	}
	for i, in := range p.Code {
		if used[n+int32(i)] && in.Op.asks() {
			return t, false
		}
	}
	return t, t.lag >= 0 && (len(t.Slots) > 0 || t.Frames == t.Frames)
}

// Looked is the first slot that it looks at.
func (t *Trail) Looked() int32 { return t.slot }

// Named returns the first of the slots that a program gives as they are on a lane, side by side; what it would give where one of them was
// missing does not count, since none is.
func (p *Program) Named(lane *Lane) (first int32, ok bool) {
	n := int32(len(p.Inputs))
	known := p.known(lane, 0, func(int32) float64 { return math.NaN() })
	isThere := func(r int32) bool {
		return r >= n && p.Code[r-n].Op == OpMissing && p.Code[r-n].A < n && lane.In[p.Code[r-n].A].Kind == FromValues
	}
	for k, r := range p.Out {
		for r >= n && p.Code[r-n].Op == OpSelect {
			switch in := p.Code[r-n]; {
			case isThere(in.A) || known[in.A] == known[in.A] && !on(known[in.A]):
				r = in.C
			case known[in.A] == known[in.A]:
				r = in.B
			default:
				return 0, false
			}
		}
		if r >= n || lane.In[r].Kind != FromValues || k > 0 && lane.In[r].Slot != first+int32(k) {
			return 0, false
		}
		if k == 0 {
			first = lane.In[r].Slot
		}
	}
	return first, len(p.Out) > 0
}

// madeOf tells of all registers whether one is made of them, itself among them.
func (p *Program) madeOf(r int32) []bool {
	n := int32(len(p.Inputs))
	used := make([]bool, len(p.Inputs)+len(p.Code))
	used[r] = true
	for i := len(p.Code) - 1; i >= 0; i-- {
		if in := p.Code[i]; used[n+int32(i)] {
			used[in.A], used[in.B], used[in.C] = true, true, true
		}
	}
	return used
}

// Same reports whether another one is as long ago, whatever slots say.
func (t *Trail) Same(other *Trail) bool {
	if len(t.Slots) == 0 || len(other.Slots) == 0 {
		return t.Frames == other.Frames
	}
	if t.Program.Shape != other.Program.Shape || t.lag != other.lag {
		return false
	}
	used := t.Program.madeOf(t.lag)
	for i := range t.lane.In {
		if used[i] && t.lane.In[i] != other.lane.In[i] {
			return false
		}
	}
	return true
}

// Key is the same for trails whose longer ones are the same program.
func (t *Trail) Key() string { return fmt.Sprintf("%p %d %d", t.Program, t.lag, len(t.Slots)) }

// Longer is a program that looks some times as long back, or some frames, where no slots say how long: as is given to it.
func (t *Trail) Longer() *Program {
	p := t.Program
	b := NewBuilder(new(int))
	b.Looks = p.Looks
	n := int32(len(p.Inputs))
	back := b.Input(Input{Kind: Given, Component: times})
	if len(t.Slots) > 0 {
		used, regs := p.madeOf(t.lag), make([]int32, len(p.Inputs)+len(p.Code))
		for i, in := range p.Inputs {
			if used[i] {
				regs[i] = b.Input(in)
			}
		}
		for i, in := range p.Code {
			if used[n+int32(i)] {
				regs[n+int32(i)] = b.Op(in.Op, regs[in.A], regs[in.B], regs[in.C])
			}
		}
		back = b.Op(OpMul, back, regs[t.lag])
	}
	at := b.Op(OpSub, b.Input(Input{Kind: Frame}), back)
	var out []int32
	for k := range p.Out {
		out = append(out, b.Op(OpLook, at, b.Input(Input{Kind: Look, Component: k})))
	}
	return b.Finish(out)
}

// times marks the number that a longer trail is given.
const times = -1

// Lane is that of the longer one, which gives what stood where first is: how many times as long ago, or how many frames.
func (t *Trail) Lane(longer *Program, first int32, back float64) (lane Lane) {
	lane = Lane{In: make([]Source, len(longer.Inputs)), Out: t.lane.Out}
	for k, in := range longer.Inputs {
		switch in.Kind {
		case Given:
			lane.In[k] = Source{X: back}
		case Frame:
			lane.In[k] = Source{Kind: FromFrame}
		case Look:
			lane.In[k] = Source{X: float64(first + int32(in.Component))}
		default:
			lane.In[k] = t.lane.In[slices.Index(t.Program.Inputs, in)]
		}
	}
	return lane
}
