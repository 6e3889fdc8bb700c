package view

import (
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/graphs"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// What is led to an input is said while it is in the hand: what it is turned into, why it is refused, and what mends it.
func TestFits(t *testing.T) {
	s := window(t)
	box := do(t, s, &items.Add{Kind: scene.Box, Name: "Crate"})[0]
	id := do(t, s, &graphs.NewGraph{Text: "place = {Crate: position} + 3\nlate = delay({Crate: opacity}, 2f)\nswing = {Crate: rotation} * {Crate: opacity}\nif({Crate: lit} = 1, late, swing) + length(place)"})[0]
	g, _ := s.Composition().Graph(id)
	var drive scene.ID
	of := map[string]scene.ID{}
	for _, slip := range g.Slips {
		if slip.Kind == scene.DriveSlip {
			drive = slip.ID
		}
		key := slip.Text
		if slip.Kind == scene.ReadSlip {
			key = strings.TrimSuffix(key[strings.LastIndex(key, "@")+1:], "}")
		}
		if _, known := of[key]; !known || slip.Title == "swing" {
			of[key] = slip.ID
		}
	}
	do(t, s, &graphs.Drive{Graph: id, Slip: drive, Targets: []scene.Ref{{Item: box, Property: "scale"}}})
	fit := func(from, to, in string) graph.Fit {
		t.Helper()
		slip := of[to]
		if to == "drive" {
			slip = drive
		}
		for _, f := range FitsOf(s, FitAsk{GraphAsk{Graph: id}, &graph.Source{Slip: of[from]}}) {
			if f.Slip == slip && f.In == in {
				return f
			}
		}
		t.Fatalf("nothing is said of %s of %s", in, to)
		return graph.Fit{}
	}
	for _, want := range []struct{ from, to, in, turns, refused, doubt, mends string }{
		{"opacity", "delay", "2", "", "this needs a time", "", "held * 1f held * 1s"},
		{"position", "delay", "2", "", "needs a number here", "", "held.x held.y held.z"},
		{"position", "delay", "1", "", "", "", ""},
		{"opacity", "drive", "in", "% → xyz", "", "", ""},
		{"position", "drive", "in", "", "", "", ""},
		{"lit", "drive", "in", "on → xyz", "", "", ""},
		{"opacity", "if", "1", "% → on", "", "", ""},
		{"lit", "+", "1", "on → n", "", "", ""},
		{"length", "+", "2", "", "loop", "", ""},
	} {
		got := fit(want.from, want.to, want.in)
		var mends []string
		for _, m := range got.Mends {
			mends = append(mends, m.Text)
		}
		bad := got.Turns != want.turns || strings.Join(mends, " ") != want.mends || (got.Refused == "") != (want.refused == "") || !strings.Contains(got.Refused, want.refused) || (got.Doubt == "") != (want.doubt == "")
		if bad {
			t.Errorf("%s to %s of %s: %+v, want %+v", want.from, want.in, want.to, got, want)
		}
	}
	var turns []string
	for _, f := range FitsOf(s, FitAsk{GraphAsk: GraphAsk{Graph: id}}) {
		turns = append(turns, f.Turns+f.Refused+f.Doubt)
	}
	if len(turns) == 0 || !strings.Contains(strings.Join(turns, ","), "% → n") || strings.Contains(strings.Join(turns, ","), "line") {
		t.Errorf("on the wires stands %q", turns)
	}
	if len(FitsOf(s, FitAsk{GraphAsk: GraphAsk{Graph: "gone"}})) != 0 || len(FitsOf(s, FitAsk{GraphAsk{Graph: id}, &graph.Source{Slip: "gone"}})) != 0 {
		t.Error("something is said of what is gone")
	}
}

// The response of a map slip is asked for over a span.
func TestTheResponseOfAMapSlip(t *testing.T) {
	s := window(t)
	id := do(t, s, &graphs.NewGraph{Text: "stops(time, 0, [0, 1], 2, [10, 3])"})[0]
	g, _ := s.Composition().Graph(id)
	for _, slip := range g.Slips {
		got := ResponseOf(s.Composition(), id, slip.ID, 0, 2, 3)
		if slip.Kind == scene.MapSlip && (len(got) != 6 || got[1] != 5 || got[5] != 3) || slip.Kind != scene.MapSlip && got != nil {
			t.Errorf("%s gives %v", slip.Kind, got)
		}
	}
	if ResponseOf(s.Composition(), "gone", "gone", 0, 1, 3) != nil {
		t.Error("a graph that is gone gives something")
	}
}

// What a slip gives is told as of a formula: written, read out, and as a curve.
func TestAboutASlip(t *testing.T) {
	s := window(t)
	id := do(t, s, &graphs.NewGraph{Text: "swell = wave(time / 12)\nswell * 4 + index"})[0]
	g, _ := s.Composition().Graph(id)
	told := map[string]string{}
	for _, slip := range g.Slips {
		about := AboutOf(s, AboutAsk{GraphAsk{Graph: id}, slip.ID, 5})
		told[graph.Called(slip)] = about.Formula
		if slip.Title == "swell" && (len(about.Curve) != 5 || about.Curve[0] != 0 || about.Help == "" || about.Words != "a wave over (time over 12).") {
			t.Errorf("of the wave it is said %+v", about)
		}
	}
	for name, want := range map[string]string{"swell": "wave(time / 12)", "times": "swell = wave(time / 12)\nswell * 4", "drive": "swell = wave(time / 12)\nswell * 4 + index", "row": ""} {
		if told[name] != want {
			t.Errorf("%s gives %q, want %q", name, told[name], want)
		}
	}
	if about := AboutOf(s, AboutAsk{GraphAsk{Graph: "gone"}, "gone", 5}); about.Formula != "" {
		t.Errorf("of what is gone it is said %+v", about)
	}
}

// What is written in a field is shown by the names of what it refers to, and bound when it is typed.
func TestWhatIsWrittenOnSlipsHasNames(t *testing.T) {
	s := window(t)
	do(t, s, &items.Add{Kind: scene.Box, Name: "Crate"})
	id := do(t, s, &graphs.NewGraph{Text: "wave(time / 12) * 4"})[0]
	g, _ := s.Composition().Graph(id)
	typed := "{Crate: rotation}"
	for _, slip := range g.Slips {
		if slip.Kind == scene.ApplySlip && slip.Text == "*" {
			written := slip.Clone()
			written.Fields = map[string]string{"2": typed}
			do(t, s, &gesture.Operations{Ops: change.Ops{&change.SlipSet{In: change.In{Composition: s.Composition().ID}, Graph: id, Value: written}}})
			g, _ = s.Composition().Graph(id)
			if at, _ := g.Slip(slip.ID); at.Fields["2"] == typed {
				t.Errorf("it is stored as %s", at.Fields["2"])
			}
			for _, shown := range SlipsOf(s, GraphAsk{Graph: id}).Slips {
				if shown.ID == slip.ID && shown.Fields["2"] != typed {
					t.Errorf("%s is shown as %v", typed, shown.Fields)
				}
			}
			return
		}
	}
	t.Errorf("there is no product among %+v", g.Slips)
}
