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
				b.Fatal("it has no value")
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
	for _, drives := range []int{1, 8} {
		b.Run(fmt.Sprintf("40 slips lead to %d properties", drives), func(b *testing.B) {
			p := engine.New(shared(b, drives))
			frame := 0.0
			for b.Loop() {
				frame++
				p.Evaluate(frame)
			}
		})
	}
	for _, by := range []string{"formula", "graph"} {
		b.Run("a row of 10000 by a "+by, func(b *testing.B) {
			c := row(b, by == "graph")
			p := engine.New(c)
			frame := 0.0
			for b.Loop() {
				frame++
				p.Evaluate(frame)
			}
		})
	}
}

// row is a composition in which a formula, or the graph that is opened from it, drives 10,000 rotations.
func row(b *testing.B, asGraph bool) *scene.Composition {
	text := "gust = noise(time * 0.9, index) * {@rig:@wind} * 0.3\nwave(time * 0.3 - share) * {@rig:@wind} * 0.4 + gust + {self: @opacity} / number"
	c := stage()
	s := &scene.RosterLink{ID: "s", Name: "Row", Property: "rotation", Roster: scene.Roster{Kind: scene.Picked}, Link: &scene.Link{ID: "l", Kind: scene.Formula, Formula: text, Gain: 1}}
	for k := range 10000 {
		id := scene.ID(fmt.Sprint("m", k))
		c.Items = append(c.Items, &scene.Item{ID: id, Name: string(id), Kind: scene.Rectangle})
		s.Roster.Items = append(s.Roster.Items, id)
	}
	if asGraph {
		g, drive, err := graph.Lift(text, ids("s"))
		if err != nil {
			b.Fatal(err)
		}
		g.ID, g.Name = "g", "Row"
		c.Graphs = []*scene.Graph{g}
		s.Link = &scene.Link{ID: "l", Kind: scene.Graphed, Graph: "g", Slip: drive, Gain: 1}
		graph.Write(s.Link, c)
	}
	c.RosterLinks = []*scene.RosterLink{s}
	return c
}

// shared is a composition in which a row of 40 waves leads to some properties, with an offset for each.
func shared(b *testing.B, drives int) *scene.Composition {
	text := "s0 = time"
	for k := range 40 {
		text += fmt.Sprintf("\ns%d = wave(s%d + 0.1)", k+1, k)
	}
	c := stage()
	for k := range drives {
		item := &scene.Item{ID: scene.ID(fmt.Sprint("b", k)), Name: "B", Kind: scene.Box}
		item.Edit("rotation").Links = []*scene.Link{{ID: scene.ID(fmt.Sprint("l", k)), Kind: scene.Graphed, Gain: 1, Graph: "g", Slip: "d", Formula: fmt.Sprintf("%s\ns40 + %d", text, k)}}
		c.Items = append(c.Items, item)
	}
	return c
}
