package machine

import (
	"encoding/binary"
	"hash/fnv"
	"math"
)

// Glance is a look of a lane at other times, as far as it can be told without evaluating anything.
type Glance struct {
	Op   Op
	Slot int32
	// Delay is the frame that is looked at, counted from the one that asks, and Span how many frames up to it; NaN
	// where only evaluating tells. Fixed: the frame is the same whenever it is asked for.
	Delay, Span float64
	Fixed       bool
	// Key is the same for glances that look at the same frames.
	Key uint64
}

// Glances lists the looks of a program at other times on a lane. Values tells what a slot holds, as far as that is
// known; NaN where it is not.
func (p *Program) Glances(lane *Lane, values func(slot int32) float64) []Glance {
	n := int32(len(p.Inputs))
	var out []Glance
	var early, later []float64
	for _, in := range p.Code {
		if !in.Op.looks() || in.B >= n {
			continue
		}
		if early == nil {
			early, later = p.known(lane, 0, values), p.known(lane, apartBy, values)
		}
		g := Glance{Op: in.Op, Slot: int32(lane.In[in.B].X), Delay: math.NaN(), Key: p.key(lane, in)}
		switch early, later := early[in.A], later[in.A]; {
		case later-early == apartBy:
			g.Delay = early
		case later == early:
			g.Fixed = true
		}
		if in.Op == OpAverage {
			g.Span = early[in.C]
			if later[in.C] != g.Span {
				g.Span = math.NaN()
			}
		}
		out = append(out, g)
	}
	return out
}

// apartBy is how far apart the frames are at which it is tried what depends on them.
const apartBy = 1024

// known works out what registers hold at a frame, as far as constants tell; the others are NaN.
func (p *Program) known(lane *Lane, frame float64, values func(slot int32) float64) []float64 {
	regs := make([]float64, len(p.Inputs)+len(p.Code))
	for k, in := range lane.In {
		regs[k] = math.NaN()
		switch in.Kind {
		case FromNumber:
			regs[k] = in.X
		case FromFrame:
			regs[k] = frame
		case FromValues:
			regs[k] = values(in.Slot)
		}
	}
	for i, in := range p.Code {
		a, b, c := regs[in.A], regs[in.B], regs[in.C]
		r := &regs[len(p.Inputs)+i]
		switch {
		case in.Op.asks():
			*r = math.NaN()
		case in.Op == OpSelect && a == a:
			*r = apply(in.Op, a, b, c)
		case a != a || b != b || c != c:
			*r = math.NaN()
		default:
			*r = apply(in.Op, a, b, c)
		}
	}
	return regs
}

// key hashes what the frame and the span of a look are made of.
func (p *Program) key(lane *Lane, look Instruction) uint64 {
	n := int32(len(p.Inputs))
	h := fnv.New64a()
	var buffer [9]byte
	add := func(tag byte, x uint64) {
		buffer[0] = tag
		binary.LittleEndian.PutUint64(buffer[1:], x)
		h.Write(buffer[:])
	}
	seen := map[int32]bool{}
	var walk func(r int32)
	walk = func(r int32) {
		if seen[r] {
			add(1, uint64(r))
			return
		}
		seen[r] = true
		if r < n {
			s := lane.In[r]
			add(2+byte(s.Kind), uint64(s.Slot))
			add(0, math.Float64bits(s.X))
			return
		}
		in := p.Code[r-n]
		add(64, uint64(in.Op))
		walk(in.A)
		walk(in.B)
		walk(in.C)
	}
	walk(look.A)
	if look.Op == OpAverage {
		walk(look.C)
	}
	return h.Sum64()
}

// Live reports which inputs of a lane matter to its results, given those that are numbers: of a choice whose
// condition is known, only the side that is taken does.
func (p *Program) Live(lane *Lane) []bool {
	n := int32(len(p.Inputs))
	known := p.known(lane, math.NaN(), func(int32) float64 { return math.NaN() })
	live := make([]bool, len(known))
	for _, r := range p.Out {
		live[r] = true
	}
	for i := len(p.Code) - 1; i >= 0; i-- {
		in := p.Code[i]
		switch a := known[in.A]; {
		case !live[n+int32(i)]:
		case in.Op == OpSelect && a == a:
			live[in.A] = true
			if on(a) {
				live[in.B] = true
			} else {
				live[in.C] = true
			}
		default:
			live[in.A], live[in.B], live[in.C] = true, true, true
		}
	}
	return live[:n]
}
