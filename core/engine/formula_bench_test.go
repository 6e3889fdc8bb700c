package engine

import (
	"fmt"
	"math"
	"testing"

	"github.com/expr-lang/expr"
	"github.com/expr-lang/expr/vm"

	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

const lanes = 10000

// opacities is a roster of 10,000 with one formula on their opacities, so that no place moves.
func opacities(b *testing.B, text string) *Plan {
	c := flags(lanes)
	rostered(b, c, text, func(s *scene.RosterLink) { s.Property = "opacity" })
	return New(c)
}

// played evaluates a plan frame after frame.
func played(b *testing.B, p *Plan) {
	frame := 0.0
	for b.Loop() {
		frame = math.Mod(frame+1, 300)
		p.Evaluate(frame)
	}
}

func perLane(b *testing.B) {
	b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/lanes, "ns/lane")
}

// rival remembers how long something took, and says how many times as long it was as what does the same by hand, which
// has to be measured after it.
type rival struct{ took float64 }

func (r *rival) note(b *testing.B) { r.took = float64(b.Elapsed().Nanoseconds()) / float64(b.N) }

func (r *rival) compare(b *testing.B) {
	if hand := float64(b.Elapsed().Nanoseconds()) / float64(b.N); r.took > 0 {
		b.ReportMetric(r.took/hand, "times-this-before")
	}
}

// BenchmarkFormulas evaluates formulas on a roster against loops written by hand that know them, with
// the same sine and the same chance.
func BenchmarkFormulas(b *testing.B) {
	for _, c := range []struct {
		name, text string
		hand       func(out []float64, frame, amount float64)
	}{
		{"wave and noise", "noise(time * 0.6, index) * {Rig: Amount} + wave(time * 0.3 - share) * 40", func(out []float64, frame, amount float64) {
			time := frame / 25
			for i := range out {
				s, _ := num.SinCos(360 * fract(time*0.3-float64(i)/(lanes-1)))
				out[i] = handNoise(time*0.6, float64(i))*amount + s*40
			}
		}},
		{"clamp and map", "clamp({Rig: Amount} * 2 - index * 0.01, 0, 100) / 2 + 10", func(out []float64, _, amount float64) {
			for i := range out {
				v := amount*2 - float64(i)*0.01
				if v < 0 {
					v = 0
				}
				if v > 100 {
					v = 100
				}
				out[i] = v/2 + 10
			}
		}},
		{"per frame only", "wave(time) * {Rig: Amount} + noise(time, 3)", func(out []float64, frame, amount float64) {
			s, _ := num.SinCos(360 * fract(frame/25))
			v := s*amount + handNoise(frame/25, 3)
			for i := range out {
				out[i] = v
			}
		}},
	} {
		p := opacities(b, c.text)
		var r rival
		b.Run(c.name+"/columns", func(b *testing.B) {
			b.ReportAllocs()
			played(b, p)
			perLane(b)
			r.note(b)
		})
		b.Run(c.name+"/by hand", func(b *testing.B) {
			out := make([]float64, lanes)
			frame := 0.0
			for b.Loop() {
				frame = math.Mod(frame+1, 300)
				c.hand(out, frame, math.Min(frame, 100))
				for i, v := range out { // the limits of an opacity
					out[i] = num.Clamp(v, 0, 100)
				}
			}
			perLane(b)
			r.compare(b)
		})
	}
	b.Run("clamp and map/a general expression library", func(b *testing.B) { // nobody's limits, nothing bound by id
		program, err := expr.Compile("min(max(amount * 2 - index * 0.01, 0.0), 100.0) / 2 + 10", expr.Env(map[string]float64{"amount": 0, "index": 0}))
		if err != nil {
			b.Fatal(err)
		}
		out, env := make([]float64, lanes), map[string]float64{}
		machine := vm.VM{}
		for b.Loop() {
			env["amount"] = 50
			for i := range out {
				env["index"] = float64(i)
				v, err := machine.Run(program, env)
				if err != nil {
					b.Fatal(err)
				}
				out[i], _ = v.(float64)
			}
		}
		if out[1000] != 55 {
			b.Fatalf("it gives %v", out[1000])
		}
		perLane(b)
	})
	c := flags(lanes)
	for i := range lanes {
		c.Items[i+1].Edit("opacity").Links = []*scene.Link{{ID: "f", Kind: scene.Formula, Gain: 1, Formula: fmt.Sprintf([]string{"{@rig:@amount} * %d.5", "clamp({@rig:@amount} - %d, 0, 50) + 3", "if({@rig:@amount} > %d, 10, 90)"}[i%3], i%97)}}
	}
	p := New(c)
	b.Run("distinct formulas of three shapes", func(b *testing.B) {
		b.ReportAllocs()
		played(b, p)
		perLane(b)
	})
}

func fract(x float64) float64 { return x - math.Floor(x) }

func handNoise(x, seed float64) float64 {
	n := math.Floor(x)
	f := x - n
	s := math.Float64bits(seed)
	left, right := 2*num.Share(num.Hash(math.Float64bits(n), s))-1, 2*num.Share(num.Hash(math.Float64bits(n+1), s))-1
	u := f * f * f * (f*(f*6-15) + 10)
	a, c := left*f, right*(f-1)
	return 2 * (a + u*(c-a))
}
