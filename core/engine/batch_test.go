package engine

import (
	"math"
	"math/rand/v2"
	"testing"

	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// However its wires are spaced and whatever they have in common, a batch gives what stackUp gives of each wire.
func TestABatchEqualsItsWiresOneByOne(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	opacity, whole, free := &scene.Spec{Type: scene.Number, Min: 0, Max: 100}, &scene.Spec{Type: scene.Number, Min: -5, Max: 5, Whole: true}, &scene.Spec{Type: scene.Number, Min: -1e9, Max: 1e9}
	seen := map[[3]bool]bool{}
	for round := range 200 {
		const sources = 400
		var targets []*wire.Target
		slot := int32(sources)
		for range 1 + r.IntN(6) { // runs, each of its own sort
			n, spec := 1+r.IntN(30), []*scene.Spec{opacity, whole, free}[r.IntN(3)]
			source, sourceStride, stride := int32(r.IntN(100)), int32(r.IntN(4)), int32(1+r.IntN(3))
			scaled, scattered := r.IntN(2) == 0, r.IntN(4) == 0
			for range n {
				w := wire.Wire{Source: source, Weight: -1, Gain: 1, Share: 1, Link: &scene.Link{}}
				if scaled {
					w.Gain, w.Offset = float64(r.IntN(5)), float64(r.IntN(9))
				}
				if scattered {
					w.Source = int32(r.IntN(sources))
				}
				targets = append(targets, &wire.Target{Slot: slot, Own: slot, Size: 1, Spec: spec, Wires: []wire.Wire{w}})
				source, slot = source+sourceStride, slot+stride
			}
		}
		values, own := make([]float64, slot+3), make([]float64, slot+3)
		for i := range values {
			values[i], own[i] = (r.Float64()-0.5)*300, float64(i%7)
			switch r.IntN(20) {
			case 0:
				values[i] = math.Inf(1)
			case 1:
				values[i] = math.NaN()
			}
		}
		want := map[int32]float64{}
		for _, k := range targets {
			s := stack{slot: k.Slot, own: k.Own, spec: k.Spec, layers: []layer{{Wire: k.Wires[0]}}}
			want[k.Slot] = s.limit(s.layers[0].over(s.spec, own[k.Slot], values[k.Wires[0].Source], 0))
		}
		r.Shuffle(len(targets), func(i, j int) { targets[i], targets[j] = targets[j], targets[i] })
		b := newBatch(targets, nil)
		b.run(values, own)
		for slot, v := range want {
			if math.Float64bits(values[slot]) != math.Float64bits(v) {
				t.Fatalf("round %d: slot %d is %v, want %v", round, slot, values[slot], v)
			}
		}
		for _, s := range b.spans {
			seen[[3]bool{s.even, s.alike, s.sourceStride == 0}] = true
		}
	}
	for _, sort := range [][3]bool{{false, false, true}, {true, false, false}, {true, true, false}, {true, true, true}, {true, false, true}} {
		if !seen[sort] {
			t.Errorf("no span was even: %v, alike: %v, of one source: %v", sort[0], sort[1], sort[2])
		}
	}
}

// A formula that gives every member the same is worked out once, and its members follow one slot.
func TestWhatIsTheSameInEveryMemberIsReadOnce(t *testing.T) {
	c := flags(40)
	rostered(t, c, "{Rig: Amount} * 2", func(s *scene.RosterLink) { s.Property = "opacity" })
	p := New(c)
	one := false
	for _, l := range p.levels {
		for _, s := range l.batch.spans {
			one = one || s.even && s.alike && s.sourceStride == 0 && s.to-s.from == 40
		}
	}
	if !one {
		t.Error("they are read one by one")
	}
	p.Evaluate(20)
	if v := p.Value(scene.Ref{Item: "i39", Property: "opacity"}).At(0); v != 40 {
		t.Errorf("the last is at %v, want 40", v)
	}
}
