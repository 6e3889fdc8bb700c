package machine

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"
)

// Columns give what the operations mean, lane for lane, to the bit.
func TestColumnsEqualOneByOne(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	special := []float64{0, math.Copysign(0, -1), 1, -1, 0.5, math.NaN(), math.Inf(1), math.Inf(-1), 1e300, 1e-300}
	pick := func() float64 {
		if r.IntN(8) == 0 {
			return special[r.IntN(len(special))]
		}
		return (r.Float64() - 0.5) * 20
	}
	fused, direct := map[Op]bool{}, false
	for round := range 300 {
		b := NewBuilder(new(int))
		var regs []int32
		for k := range 4 {
			regs = append(regs, b.Input(Input{Kind: Property, Component: k}))
		}
		for range 30 {
			any := func() int32 { return regs[r.IntN(len(regs))] }
			if round%3 > 0 { // operations of which two are worked out in one pass
				last := b.Op([]Op{OpMul, OpDiv, OpMax}[r.IntN(3)], any(), any(), 0)
				next, other := []Op{OpAdd, OpSub, OpMin}[r.IntN(3)], any()
				if r.IntN(2) == 0 {
					regs = append(regs, b.Op(next, last, other, 0))
				} else {
					regs = append(regs, b.Op(next, other, last, 0))
				}
				continue
			}
			regs = append(regs, b.Op(Op(r.IntN(int(OpLook))), any(), any(), any()))
		}
		p := b.Finish(regs[len(regs)-3:])
		lanes := make([]Lane, 1+r.IntN(600))
		var values []float64
		for i := range lanes {
			for k := range p.Inputs {
				switch {
				case k == 0: // the same for all
					lanes[i].In = append(lanes[i].In, Source{Kind: FromNumber, X: 3})
				case k == 1 && i%2 == 0: // of mixed origin
					lanes[i].In = append(lanes[i].In, Source{Kind: FromFrame})
				case k == 2:
					lanes[i].In = append(lanes[i].In, Source{Kind: FromNumber, X: pick()})
				default:
					lanes[i].In = append(lanes[i].In, Source{Kind: FromValues, Slot: int32(len(values))})
					values = append(values, pick())
				}
			}
		}
		first, each, next := len(values), len(p.Out), 1
		if round%2 == 0 { // results lie side by side
			each, next = 1, len(lanes)
		}
		values = append(values, make([]float64, len(lanes)*len(p.Out))...)
		for i := range lanes {
			for k := range p.Out {
				lanes[i].Out = append(lanes[i].Out, int32(first+i*each+k*next))
			}
		}
		g := NewGroup(p, lanes)
		for _, one := range g.passes {
			fused[one.op] = true
		}
		direct = direct || slices.Contains(g.direct, true)
		g.Run(values, nil, 17, nil)
		for i, l := range lanes {
			regs := make([]float64, 0, 40)
			for _, s := range l.In {
				regs = append(regs, take(s, values, nil, 17))
			}
			for _, in := range p.Code {
				regs = append(regs, apply(in.Op, regs[in.A], regs[in.B], regs[in.C]))
			}
			for k, out := range p.Out {
				got, want := values[l.Out[k]], regs[out]
				if math.Float64bits(got) != math.Float64bits(want) && !(got != got && want != want) {
					t.Fatalf("round %d, lane %d: %v, want %v", round, i, got, want)
				}
			}
		}
	}
	for op := passMulAdd; op <= passClamp; op++ {
		if !fused[op] {
			t.Errorf("no pass was pair %d", op-passMulAdd)
		}
	}
	if !direct {
		t.Error("no result was worked out where it belongs")
	}
}

// shownLate answers looks with what stands for the frame, so that it shows which frames were asked for.
type shownLate struct{ Env }

func (h *shownLate) Look(out, frames, slots []float64) {
	Looks(out, frames, func(i int, f float64) float64 { return f*3 + slots[min(i, len(slots)-1)] })
}

// A block of frames gives what the frames give one by one, to the bit, and so do the frames that it says
// it will ask for.
func TestBlocksEqualFrameByFrame(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	for round := range 300 {
		b := NewBuilder(new(int))
		regs := []int32{b.Input(Input{Kind: Frame}), b.Input(Input{Kind: Property}), b.Input(Input{Kind: Property, Component: 1}), b.Input(Input{Kind: Own}), b.Constant(2.5)}
		look := b.Input(Input{Kind: Look})
		for range 20 {
			any := func() int32 { return regs[r.IntN(len(regs))] }
			if r.IntN(6) == 0 {
				regs = append(regs, b.Op(OpLook, any(), look))
				continue
			}
			if round%3 > 0 { // operations of which two are worked out in one pass
				last := b.Op([]Op{OpMul, OpDiv, OpMax}[r.IntN(3)], any(), any(), 0)
				next, other := []Op{OpAdd, OpSub, OpMin}[r.IntN(3)], any()
				if r.IntN(2) == 0 {
					regs = append(regs, b.Op(next, last, other, 0))
				} else {
					regs = append(regs, b.Op(next, other, last, 0))
				}
				continue
			}
			regs = append(regs, b.Op(Op(r.IntN(int(OpLook))), any(), any(), any()))
		}
		p := b.Finish(regs[len(regs)-2:])
		lane := Lane{Out: []int32{2, 3}}
		for _, in := range p.Inputs {
			s := Source{Kind: FromValues, Slot: int32(in.Component)}
			switch in.Kind {
			case Frame:
				s = Source{Kind: FromFrame}
			case Own:
				s.Kind = FromOwn
			case Constant:
				s = Source{X: in.Value}
			case Look:
				s = Source{X: 7}
			}
			lane.In = append(lane.In, s)
		}
		n := 3 + r.IntN(BlockFrames-3)
		s := &FrameBlock{Steady: []bool{false, true, false, false}, OwnSteady: []bool{true, true, true, true}}
		for k := range 4 {
			values, own := make([]float64, n), make([]float64, n)
			for i := range values {
				values[i], own[i] = (r.Float64()-0.5)*9, float64(k)
				if k == 1 {
					values[i] = 4.5
				}
			}
			s.Values, s.Own = append(s.Values, values), append(s.Own, own)
		}
		for i := range n {
			s.Frames = append(s.Frames, float64(i)*0.75-20)
		}
		env := &shownLate{}
		NewGroup(p, []Lane{lane}).RunBlock(s, env)
		asked, asks := p.Asks()
		for i, f := range s.Frames {
			values := []float64{s.Values[0][i], s.Values[1][i], 0, 0}
			NewGroup(p, []Lane{lane}).Run(values, []float64{s.Own[0][i]}, f, env)
			for k := range 2 {
				if got, want := s.Values[2+k][i], values[2+k]; math.Float64bits(got) != math.Float64bits(want) && !(got != got && want != want) {
					t.Fatalf("round %d, frame %v: %v, want %v", round, f, got, want)
				}
			}
			if len(asks) == 0 {
				continue
			}
			before := Lane{In: lane.In}
			for k := range asked.Out {
				before.Out = append(before.Out, int32(k+2))
			}
			with := append(values[:2:2], make([]float64, len(asked.Out))...)
			NewGroup(asked, []Lane{before}).Run(with, []float64{s.Own[0][i]}, f, nil) // it asks nobody
			full := registers(p, lane, values, s.Own[0][i], f, env)
			at := 0
			for _, in := range p.Code {
				if in.Op == OpLook && at < len(asks) && math.Float64bits(with[2+asks[at].Frame]) == math.Float64bits(full[in.A]) {
					at++
				}
			}
			if at != len(asks) {
				t.Fatalf("round %d, frame %v: %d of %d looks are asked for as they were said to be", round, f, at, len(asks))
			}
		}
	}
}

// registers works a program out one operation after the other.
func registers(p *Program, lane Lane, values []float64, own, frame float64, env Env) []float64 {
	var regs []float64
	for _, s := range lane.In {
		regs = append(regs, take(s, values, []float64{own}, frame))
	}
	for _, in := range p.Code {
		out := []float64{0}
		operate(in.Op, out, []float64{regs[in.A]}, []float64{regs[in.B]}, []float64{regs[in.C]}, env)
		regs = append(regs, out[0])
	}
	return regs
}
