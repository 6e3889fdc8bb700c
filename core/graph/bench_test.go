package graph_test

import (
	"fmt"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// BenchmarkGraph lowers and plans a graph of 300 slips that drives a rotation, and works out all that its slips give.
func BenchmarkGraph(b *testing.B) {
	c := stage()
	g := &scene.Graph{ID: "g", Name: "G", Slips: []*scene.Slip{{ID: "t", Kind: scene.WordsSlip, Text: "clock"}, {ID: "r", Kind: scene.ReadSlip, Text: "{@rig:@wind}"}}}
	last, out := scene.ID("t"), "time"
	for k := range 297 {
		s := &scene.Slip{ID: scene.ID(fmt.Sprint("s", k)), Kind: scene.ApplySlip, Text: []string{"+", "wave", "*", "max"}[k%4]}
		if len(graph.Inputs(g, s)) > 1 {
			s.Fields = map[string]string{"2": "0.5"}
		}
		g.Slips = append(g.Slips, s)
		g.Wires = append(g.Wires, &scene.Wire{From: last, Out: out, To: s.ID, In: "1"})
		if k%7 == 0 && s.Fields != nil {
			g.Wires = append(g.Wires, &scene.Wire{From: "r", To: s.ID, In: "2"})
		}
		last, out = s.ID, ""
	}
	g.Slips = append(g.Slips, &scene.Slip{ID: "d", Kind: scene.DriveSlip})
	g.Wires = append(g.Wires, &scene.Wire{From: last, To: "d", In: graph.In})
	c.Graphs = []*scene.Graph{g}
	l := &scene.Link{ID: "l", Kind: scene.Graphed, Gain: 1, Graph: "g", Slip: "d"}
	c.Items[2].Edit("rotation").Links = []*scene.Link{l}
	b.Run("lowered/300", func(b *testing.B) {
		for b.Loop() {
			if graph.Write(l, c); l.Formula == "" {
				b.Fatal("it gives nothing")
			}
		}
	})
	b.Run("lowered and planned/300", func(b *testing.B) {
		for b.Loop() {
			graph.Write(l, c)
			engine.New(c)
		}
	})
	b.Run("its sheet/300", func(b *testing.B) {
		for b.Loop() {
			if sheet, _ := graph.SheetOf(g, nil); len(sheet.Outputs) < 299 {
				b.Fatal(len(sheet.Outputs))
			}
		}
	})
}
