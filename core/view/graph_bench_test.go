package view

import (
	"fmt"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/graphs"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// long is a window with a graph of 300 slips that drives a rotation.
func long(t testing.TB) (*session.Session, scene.ID) {
	n := 0
	s, _ := session.Open(scene.NewProject("p", "P"), 0, nil, func() scene.ID { n++; return scene.ID(fmt.Sprintf("n%d", n)) })
	made := func(g gesture.Gesture) []scene.ID {
		r, err := s.Do(g, session.Options{ID: fmt.Sprint("c", n)})
		if err != nil {
			t.Fatal(err)
		}
		return r.Made
	}
	box := made(&items.Add{Kind: scene.Rectangle})[0]
	g := &scene.Graph{ID: "g", Name: "Long", Slips: []*scene.Slip{{ID: "t", Kind: scene.WordsSlip, Text: "clock"}, {ID: "r", Kind: scene.ReadSlip, Text: "{@" + string(box) + ":@opacity}"}}}
	last, out := scene.ID("t"), "time"
	for k := range 297 {
		s := &scene.Slip{ID: scene.ID(fmt.Sprint("s", k)), Kind: scene.ApplySlip, Text: []string{"+", "wave", "*", "max"}[k%4], At: [2]float64{float64(k%20) * 190, float64(k/20) * 130}}
		if s.Text != "wave" {
			s.Fields = map[string]string{"2": "0.5"}
		}
		if k%20 == 0 {
			last, out = "t", "time"
		}
		g.Slips, g.Wires = append(g.Slips, s), append(g.Wires, &scene.Wire{From: last, Out: out, To: s.ID, In: "1"})
		if k%7 == 0 && s.Fields != nil {
			g.Wires = append(g.Wires, &scene.Wire{From: "r", To: s.ID, In: "2"})
		}
		last, out = s.ID, ""
	}
	g.Slips = append(g.Slips, &scene.Slip{ID: "d", Kind: scene.DriveSlip})
	g.Wires = append(g.Wires, &scene.Wire{From: "s19", To: "d", In: "in"})
	made(&gesture.Operations{Ops: change.Ops{&change.GraphAdd{In: change.In{Composition: s.Composition().ID}, Value: g, At: -1}}})
	made(&graphs.Drive{Graph: "g", Slip: "d", Targets: []scene.Ref{{Item: box, Property: "rotation"}}})
	return s, "g"
}

// Every slip of a long graph gives something.
func TestALongGraphIsShown(t *testing.T) {
	s, id := long(t)
	for _, slip := range SlipsOf(s, GraphAsk{Graph: id, Member: -1}).Slips {
		if slip.Fault != "" || len(slip.Outs) == 0 && slip.ID != "d" {
			t.Errorf("%s: %q, %d outputs", slip.Called, slip.Fault, len(slip.Outs))
		}
	}
}

// BenchmarkSheet asks what 300 slips give, as a page does: at first, and at every frame.
func BenchmarkSheet(b *testing.B) {
	s, id := long(b)
	ask := GraphAsk{Graph: id, Member: -1}
	ids := []scene.ID{}
	for _, slip := range SlipsOf(s, ask).Slips {
		ids = append(ids, slip.ID)
	}
	b.Run("at first/300", func(b *testing.B) {
		for b.Loop() {
			if err := s.Select(s.Composition().ID); err != nil { // nothing is kept
				b.Fatal(err)
			}
			SlipsOf(s, ask)
		}
	})
	b.Run("a frame/300", func(b *testing.B) {
		frame := 0
		for b.Loop() {
			frame = (frame + 1) % 200
			s.Evaluate(float64(frame))
			if values := ValuesOf(s, ValuesAsk{ask, ids}); len(values) != len(ids) {
				b.Fatal(len(values))
			}
		}
	})
	b.Run("what fits/300", func(b *testing.B) {
		for b.Loop() {
			FitsOf(s, FitAsk{ask, nil})
		}
	})
	b.Run("a value changed/300", func(b *testing.B) {
		g, _ := s.Composition().Graph(id)
		slip, _ := g.Slip("s2")
		formula, _ := graph.Lower(g, "d")
		for k := 0; b.Loop(); k++ {
			altered := slip.Clone()
			altered.Fields["2"] = fmt.Sprint(k % 90)
			if _, err := s.Do(&gesture.Operations{Ops: change.Ops{&change.SlipSet{In: change.In{Composition: s.Composition().ID}, Graph: id, Value: altered}}}, session.Options{Preview: true}); err != nil {
				b.Fatal(err)
			}
			s.Evaluate(0)
		}
		if now, _ := graph.Lower(g, "d"); now == formula {
			b.Error("the value leads nowhere")
		}
	})
}
