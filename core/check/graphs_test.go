package check

import (
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// A map, of a link or in a graph, whose stops lie beside the range of its control says so, and is stretched over it by a press.
func TestMapsBesideTheirRange(t *testing.T) {
	for _, one := range []struct {
		top  float64
		said bool
	}{{100, false}, {250, false}, {1, true}, {20, true}, {90000, true}, {45, false}} {
		p := scene.NewProject("p", "P")
		rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "go", Name: "Go", Kind: scene.Fader, SoftMax: one.top, Unit: scene.Seconds, Default: scene.Num(0)}}}
		stops := []scene.MapStop{{In: 0, Out: scene.Num(3), Easing: curve.Smooth}, {In: 50, Out: scene.Num(7), Easing: curve.Linear}, {In: 100, Out: scene.Num(90), Easing: curve.Linear}}
		box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}
		box.Edit("rotation").Links = []*scene.Link{{ID: "m", Kind: scene.Map, Source: scene.Ref{Item: "rig", Property: "go"}, Gain: 1, Stops: stops}}
		g := &scene.Graph{ID: "g", Name: "Swell", Slips: []*scene.Slip{
			{ID: "r", Kind: scene.ReadSlip, Text: "{@rig:@go}"}, {ID: "s", Kind: scene.MapSlip, Title: "lift", Stops: stops}, {ID: "d", Kind: scene.DriveSlip},
		}, Wires: []*scene.Wire{{From: "r", To: "s", In: graph.First}, {From: "s", To: "d", In: graph.In}}}
		text, err := graph.Lower(g, "d")
		if err != nil {
			t.Fatal(err)
		}
		box.Edit("opacity").Links = []*scene.Link{{ID: "o", Kind: scene.Graphed, Graph: "g", Slip: "d", Formula: text, Gain: 1}}
		p.Compositions[0].Items, p.Compositions[0].Graphs = []*scene.Item{rig, box}, []*scene.Graph{g}
		if err := p.Check(); err != nil {
			t.Fatal(err)
		}
		said := 0
		for _, c := range Of(p.Compositions[0], engine.New(p.Compositions[0])) {
			if !strings.Contains(c.Sentence, "has stops from 0 to 100") {
				continue
			}
			said++
			if !strings.Contains(c.Sentence, "Rig: Go runs from 0 to") || len(c.Fixes) == 0 {
				t.Fatalf("it says %q", c.Sentence)
			}
			if _, _, err := change.Apply(p, c.Fixes[0].Ops); err != nil {
				t.Error(err)
			}
		}
		if said != 2 && one.said || said != 0 && !one.said {
			t.Errorf("of 0 to %v %d are said", one.top, said)
			continue
		}
		if one.said {
			l, s := p.Compositions[0].Item("box").State("rotation").Links[0], p.Compositions[0].Graphs[0].Slips[1]
			for _, stops := range [][]scene.MapStop{l.Stops, s.Stops} {
				if stops[1].In != one.top/2 || stops[2].In != one.top || stops[2].Out.At(0) != 90 || stops[0].Easing != curve.Smooth {
					t.Errorf("stretched over 0 to %v, the stops are %v", one.top, stops)
				}
			}
			for _, c := range Of(p.Compositions[0], engine.New(p.Compositions[0])) {
				if strings.Contains(c.Sentence, "has stops from") {
					t.Errorf("it still says %q", c.Sentence)
				}
			}
		}
	}
}
