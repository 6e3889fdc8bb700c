package formula

import (
	"math"
	"math/rand/v2"
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
	for round := range 200 {
		b := newBuilder()
		var regs []int32
		for k := range 4 {
			regs = append(regs, b.input(Input{Kind: Property, Component: k}))
		}
		for range 30 {
			any := func() int32 { return regs[r.IntN(len(regs))] }
			regs = append(regs, b.op(Op(r.IntN(int(OpLook))), any(), any(), any()))
		}
		p := b.finish(regs[len(regs)-3:])
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
		for i := range lanes {
			for range p.Out {
				lanes[i].Out = append(lanes[i].Out, int32(len(values)))
				values = append(values, 0)
			}
		}
		NewGroup(p, lanes).Run(values, nil, 17, nil)
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
}

// FuzzCompile: whatever is typed, the compiler answers with a program or with errors that have a place.
func FuzzCompile(f *testing.F) {
	for _, c := range values {
		f.Add(c.text)
	}
	for _, c := range wrong {
		f.Add(c.text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		s := bare(1, 3)
		c := Compile(text, s)
		if (c.Program == nil) != (len(c.Errors()) > 0) {
			t.Fatalf("program %v, errors %v", c.Program != nil, c.Errors())
		}
		for _, p := range c.Problems {
			if p.Sentence == "" || p.At < 0 || p.End < p.At || p.End > len(text) {
				t.Fatalf("%+v", p)
			}
		}
		if c.Program != nil && len(c.Program.Looks) == 0 {
			(&alone{scope: s}).run(c.Program, 12)
		}
	})
}
