package gesture_test

import (
	"strings"
	"testing"

	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/graphs"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// A control that goes into another drawer drives what it drove: by links, formulas, rows, their weights, and graphs.
func TestAControlGoesIntoAnotherDrawerWithAllThatItDrives(t *testing.T) {
	b := desk(t)
	b.c.Items = append(b.c.Items, &scene.Item{ID: "other", Name: "Other", Kind: scene.Null, Controls: []*scene.Control{{ID: "own", Name: "Go", Kind: scene.Fader, SoftMax: 1, Default: scene.Num(0)}}})
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("a", "rotation")}}, 0)
	b.do(&wiring.Formula{Targets: []scene.Ref{ref("b", "rotation")}, Text: "{Rig: Go} * 2"}, 0)
	b.do(&wiring.Link{Source: ref("lamp", "rotation"), Targets: []scene.Ref{ref("rig", "go")}, FromHere: true}, 0)
	b.do(&wiring.Formula{Targets: []scene.Ref{ref("lamp", "intensity")}, Text: "{Rig: Go} + 5"}, 0)
	b.do(&graphs.OpenAsGraph{LinkAt: gesture.LinkAt{Target: ref("lamp", "intensity"), Link: b.c.Item("lamp").State("intensity").Links[0].ID}}, 0)
	b.do(&wiring.Spread{Targets: []scene.Ref{ref("a", "opacity"), ref("b", "opacity")}, Text: "{Rig: Go} - index"}, 0)
	row := b.c.RosterLinks[0]
	from := ref("rig", "go")
	row.WeightFrom = &from
	b.set(ref("rig", "go"), 40)
	look := func() string {
		return b.shown(ref("a", "rotation"), 0) + " " + b.shown(ref("b", "rotation"), 0) + " " + b.shown(ref("lamp", "intensity"), 0) + " " + b.shown(ref("a", "opacity"), 0) + " " + b.shown(ref("b", "opacity"), 0)
	}
	was := look()
	r := b.do(&wiring.MoveControl{Item: "rig", Control: "go", Onto: "other", At: 0}, 0)
	if now := look(); now != was || was != "40 80 45 76 75.6" {
		t.Errorf("before %s, after %s", was, now)
	}
	other := b.c.Item("other")
	if other.Controls[0].ID != r.Made[0] || other.Controls[0].Name != "Go 2" || b.c.Item("rig").Control("go") != nil || len(other.State("go").Links) != 1 {
		t.Errorf("it is called %s, with %d links on it", other.Controls[0].Name, len(other.State("go").Links))
	}
	if text, _ := graph.Lower(b.c.Graphs[0], b.c.Item("lamp").State("intensity").Links[0].Slip); !strings.Contains(text, "@other:@go") {
		t.Errorf("the graph reads %s", text)
	}
	b.do(&wiring.MoveControl{Item: "other", Control: "go", Onto: "other", At: 1}, 0)
	if other.Controls[1].ID != "go" {
		t.Error("it does not go to the end of its own drawer")
	}
}

// A point gets its depth later, with its value, pins and links, and loses it again.
func TestAPointGetsDepthLater(t *testing.T) {
	b := desk(t)
	b.do(&wiring.Link{Source: ref("rig", "spot"), Targets: []scene.Ref{ref("a", "position")}}, 0)
	b.do(&pins.Pin{Targets: []scene.Ref{ref("rig", "spot")}}, 10)
	was := b.shown(ref("a", "position"), 10)
	b.do(&wiring.SetDepth{Item: "rig", Control: "spot", Depth: true}, 0)
	if now := b.shown(ref("a", "position"), 10); now != was || len(b.c.Item("rig").State("spot").Pins) != 1 {
		t.Errorf("before %s, with depth %s", was, now)
	}
	b.do(&pins.Set{Targets: []scene.Ref{{Item: "rig", Property: "spot", Component: "z"}}, Value: scene.Num(7)}, 10)
	if now := b.shown(ref("a", "position"), 10); !strings.HasSuffix(now, ", 7]") {
		t.Errorf("its z does not drive: %s", now)
	}
	b.do(&wiring.SetDepth{Item: "rig", Control: "spot"}, 0)
	if now := b.shown(ref("a", "position"), 10); now != was {
		t.Errorf("without depth again %s", now)
	}
	if _, err := b.try(&wiring.SetDepth{Item: "rig", Control: "go", Depth: true}, 0); err == nil || !strings.Contains(err.Error(), "is not a point") {
		t.Errorf("a fader has depth: %v", err)
	}
}
