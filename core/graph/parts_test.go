package graph_test

import (
	"strings"
	"testing"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// The part of a graph that leads to a drive slip: with the folds it lies in and their ports, with the notes of the sheet and of
// these folds, and with nothing of what leads elsewhere.
func TestThePartThatLeadsSomewhere(t *testing.T) {
	slip := func(id, within scene.ID, kind scene.SlipKind) *scene.Slip {
		return &scene.Slip{ID: id, Within: within, Kind: kind, Text: map[scene.SlipKind]string{scene.ValueSlip: "7", scene.NoteSlip: "why"}[kind]}
	}
	fold := slip("fold", "", scene.FoldSlip)
	fold.Ports = []scene.FoldPort{{Slip: "in"}, {Slip: "other"}}
	g := &scene.Graph{ID: "g", Name: "G", Slips: []*scene.Slip{
		fold, slip("in", "fold", scene.ValueSlip), slip("other", "fold", scene.ValueSlip), slip("away", "", scene.FoldSlip), slip("far", "away", scene.ValueSlip),
		slip("note", "", scene.NoteSlip), slip("inner note", "fold", scene.NoteSlip), slip("far note", "away", scene.NoteSlip),
		slip("drive", "", scene.DriveSlip), slip("second", "", scene.DriveSlip),
	}, Wires: []*scene.Wire{{From: "in", To: "drive", In: graph.In}, {From: "far", To: "second", In: graph.In}}}
	part := graph.Leading(g, map[scene.ID]bool{"drive": true})
	var kept []string
	for _, s := range part.Slips {
		kept = append(kept, string(s.ID))
	}
	if got := strings.Join(kept, ", "); got != "fold, in, note, inner note, drive" || len(part.Wires) != 1 {
		t.Errorf("kept are %s with %d wires", got, len(part.Wires))
	}
	if p := part.Slips[0].Ports; len(p) != 1 || p[0].Slip != "in" {
		t.Errorf("the fold has ports to %v", p)
	}
	other := graph.Renamed(part, func(id scene.ID) (scene.ID, bool) { return "new " + id, true })
	if p := other.Slips[0].Ports; p[0].Slip != "new in" || other.Slips[1].Within != "new fold" {
		t.Errorf("renamed, its ports lead to %v, its slips lie in %s", p, other.Slips[1].Within)
	}
}

// Slips say the same that differ only in where they lie; one that goes on otherwise beyond its stops doesn't.
func TestSlipsThatSayTheSame(t *testing.T) {
	a := &scene.Slip{ID: "a", Kind: scene.MapSlip, At: [2]float64{3, 9}, Stops: []scene.MapStop{{In: 0, Out: scene.Num(2)}, {In: 10, Out: scene.Num(31)}}}
	for _, c := range []struct {
		what  string
		alter func(s *scene.Slip)
		same  bool
	}{
		{"elsewhere", func(s *scene.Slip) { s.At = [2]float64{41, 7} }, true},
		{"repeating", func(s *scene.Slip) { s.Beyond = scene.Repeat }, false},
		{"another stop", func(s *scene.Slip) { s.Stops[1].Out = scene.Num(32) }, false},
	} {
		b := a.Clone()
		if c.alter(b); graph.SaysTheSame(a, b) != c.same {
			t.Errorf("%s: it says the same: %v", c.what, !c.same)
		}
	}
}

// Each byte of a sheet's text is on the line of the output that it belongs to.
func TestTheLinesOfASheet(t *testing.T) {
	g, _, err := graph.Lift("a = abs({@rig:@wind} - 17)\na * 2 + wave(time)", ids("s"))
	if err != nil {
		t.Fatal(err)
	}
	sheet, _ := graph.SheetOf(g, nil)
	at := 0
	for n, line := range strings.Split(sheet.Text, "\n") {
		for k := 0; k < len(line); k++ {
			if got := sheet.Line(at + k); got != n {
				t.Fatalf("byte %d, of line %d, is said to be on line %d:\n%s", at+k, n, got, sheet.Text)
			}
		}
		at += len(line) + 1
	}
}

// What becomes of a value on a wire is told: a switch at a map counts as a number; of a function all of whose needed inputs are
// filled, what doesn't go together is, and the further inputs that it could have do not count.
func TestWhatBecomesOfValuesIsTold(t *testing.T) {
	slip := func(id scene.ID, kind scene.SlipKind, text string) *scene.Slip {
		return &scene.Slip{ID: id, Kind: kind, Text: text}
	}
	m := slip("map", scene.MapSlip, "")
	m.Stops = []scene.MapStop{{In: 0, Out: scene.Num(2)}, {In: 10, Out: scene.Num(31)}}
	g := &scene.Graph{ID: "g", Name: "G", Slips: []*scene.Slip{slip("on", scene.ValueSlip, "on"), slip("two", scene.ValueSlip, "[1, 2]"), slip("three", scene.ValueSlip, "[1, 2, 3]"), m, slip("least", scene.ApplySlip, "min")},
		Wires: []*scene.Wire{{From: "on", To: "map", In: graph.In}, {From: "two", To: "least", In: "1"}, {From: "three", To: "least", In: "2"}}}
	types := map[graph.Source]binding.Type{{Slip: "on"}: {Of: scene.Switch}, {Slip: "two"}: {Of: scene.Point2}, {Slip: "three"}: {Of: scene.Point3}}
	told := map[scene.ID]graph.Fit{}
	for _, fit := range graph.NewFitting(g, &binding.Scope{Rate: 25}, types, nil).Wires() {
		told[fit.Slip] = fit
	}
	if told["map"].Turns == "" {
		t.Error("it isn't told that a switch counts as a number at a map")
	}
	if told["least"].Refused == "" {
		t.Error("it isn't told that a point and one with depth have no least")
	}
}
