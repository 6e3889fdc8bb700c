package gesture_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/graphs"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// everything is all values of a composition at some frames, in the order in which they are asked for.
func everything(c *scene.Composition) (out []uint64) {
	p := engine.New(c)
	for _, frame := range []float64{0, 11, 3.5, 60} {
		p.Evaluate(frame)
		for _, item := range p.Layout.Items {
			for _, spec := range scene.Of(item.Kind) {
				for _, x := range p.Value(scene.Ref{Item: item.ID, Property: spec.Key}).Nums() {
					out = append(out, math.Float64bits(x))
				}
			}
		}
	}
	return out
}

// A link that is opened as a graph, and one that is written as a formula again, give what they gave, to the bit.
func TestLinksAreGraphsAndBack(t *testing.T) {
	b := desk(t)
	b.set(ref("rig", "go"), 30)
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("a", "rotation")}}, 0)
	b.c.Item("a").State("rotation").Links[0].Gain, b.c.Item("a").State("rotation").Links[0].Offset = 1.7, -0.3
	b.do(&wiring.Link{Source: ref("rig", "spot"), Targets: []scene.Ref{ref("b", "position")}}, 0)
	b.do(&wiring.Formula{Targets: []scene.Ref{ref("b", "opacity")}, Text: "swing = wave(time * 0.3) // the swing\nswing * {Rig: Go} + delay(swing, 4f) * 9 + 50"}, 0)
	b.do(&wiring.Spread{Targets: []scene.Ref{ref("a", "scale"), ref("b", "scale")}, Text: "noise(time, index) * 9 + delay({prev: scale.x} else 50, 2f)"}, 0)
	b.do(&wiring.Formula{Targets: []scene.Ref{ref("b", "cornerRadius")}, Text: "delay({self: corner radius}, 1f) * 0.9 + time + 1"}, 0) // feedback
	b.c.Item("a").Edit("opacity").Links = []*scene.Link{{ID: "fades", Kind: scene.Map, Source: ref("rig", "go"), Gain: 0.9, Offset: 2, Beyond: scene.Mirror, Stops: []scene.MapStop{
		{In: -3, Out: scene.Num(7.1), Easing: curve.Smooth}, {In: 5.5, Out: scene.Num(61), Easing: curve.Smooth}, {In: 21, Out: scene.Num(90), Easing: curve.Smooth}}}}
	b.c.Item("a").Edit("lit").Links = []*scene.Link{{ID: "shows", Kind: scene.Map, Source: ref("rig", "go"), Gain: 1, Stops: []scene.MapStop{{In: 0, Out: scene.On(true), Easing: curve.Linear}, {In: 90, Out: scene.On(false), Easing: curve.Linear}}}}
	before := everything(b.c)
	same := func(what string) {
		t.Helper()
		if !slices.Equal(everything(b.c), before) {
			t.Errorf("%s, something is another", what)
		}
	}
	links := []gesture.LinkAt{
		{Target: ref("a", "rotation"), Link: b.c.Item("a").State("rotation").Links[0].ID}, {Target: ref("b", "position"), Link: b.c.Item("b").State("position").Links[0].ID},
		{Target: ref("b", "opacity"), Link: b.c.Item("b").State("opacity").Links[0].ID}, {RosterLink: b.c.RosterLinks[0].ID},
		{Target: ref("b", "cornerRadius"), Link: b.c.Item("b").State("cornerRadius").Links[0].ID}, {Target: ref("a", "opacity"), Link: "fades"}, {Target: ref("a", "lit"), Link: "shows"},
	}
	for k := range links {
		b.do(&graphs.OpenAsGraph{LinkAt: links[k]}, 0)
		same("opened as a graph")
		if _, err := b.try(&graphs.OpenAsGraph{LinkAt: links[k]}, 0); err == nil {
			t.Error("a graph is opened as a graph")
		}
	}
	if len(b.c.Graphs) != 7 || b.c.Graphs[2].Name != "b, opacity" {
		t.Errorf("%d graphs, one of them %q", len(b.c.Graphs), b.c.Graphs[2].Name)
	}
	if i := slices.IndexFunc(b.c.Graphs[2].Slips, func(s *scene.Slip) bool { return s.Title == "swing" }); i < 0 {
		t.Error("what has a name has no title")
	}
	for _, l := range links {
		b.do(&graphs.WriteAsFormula{LinkAt: l}, 0)
		same("written as a formula")
	}
	for _, g := range slices.Clone(b.c.Graphs) {
		b.do(&graphs.RemoveGraph{Graph: g.ID}, 0)
	}
	same("without the graphs")
}

// sheet is a graph of a wave of the time times the slider, which drives the rotation of both rectangles.
func sheet(b *bench) (id, wave, times, drive scene.ID) {
	id = b.do(&graphs.NewGraph{Text: "wave(time) * {Rig: Go}"}, 0).Made[0]
	g, _ := b.c.Graph(id)
	for _, s := range g.Slips {
		switch {
		case s.Text == "wave":
			wave = s.ID
		case s.Text == "*":
			times = s.ID
		case s.Kind == scene.DriveSlip:
			drive = s.ID
		}
	}
	b.do(&graphs.Drive{Graph: id, Slip: drive, Targets: []scene.Ref{ref("a", "rotation"), ref("b", "rotation")}}, 0)
	return id, wave, times, drive
}

// What is done on a sheet is there in what it drives at once.
func TestSlipsComeAndGo(t *testing.T) {
	b := desk(t)
	b.set(ref("rig", "go"), 40)
	id, wave, times, drive := sheet(b)
	quarter := 25.0 / 4
	at := func(want string) {
		t.Helper()
		if got := b.shown(ref("a", "rotation"), quarter) + " " + b.shown(ref("b", "rotation"), quarter); got != want {
			t.Errorf("they are at %s, want %s", got, want)
		}
	}
	at("40 40")
	made := b.do(&graphs.PutSlips{Graph: id, Slips: []scene.Slip{{Kind: scene.ApplySlip, Text: "+", Fields: map[string]string{"2": "5"}}}, Wires: []scene.Wire{{From: times, To: "#0", In: "1"}, {From: "#0", To: drive, In: "in"}}}, 0).Made
	at("45 45") // between them
	b.do(&graphs.TakeSlips{Graph: id, Slips: []scene.ID{made[0]}}, 0)
	at("40 40") // healed
	b.do(&graphs.TakeSlips{Graph: id, Slips: []scene.ID{wave, times}}, 0)
	at("0.25 0.25") // by way of both: the time in seconds, read as degrees
	if _, err := b.try(&graphs.PutSlips{Graph: id, Slips: []scene.Slip{{Kind: scene.ApplySlip, Text: "abs"}}, Wires: []scene.Wire{{From: "#0", To: "#0", In: "1"}}}, 0); err == nil || !strings.Contains(err.Error(), "loop") {
		t.Errorf("a circle is put down: %v", err)
	}
	b.do(&graphs.TakeSlips{Graph: id, Slips: []scene.ID{drive}}, 0)
	at("20 0") // their own
	if _, err := b.try(&graphs.Drive{Graph: id, Slip: times, Targets: []scene.Ref{ref("a", "rotation")}}, 0); err == nil {
		t.Error("what is no drive slip drives")
	}
}

// A graph drives a roster, whose later members join by themselves.
func TestAGraphDrivesARoster(t *testing.T) {
	b := desk(t)
	id := b.do(&graphs.NewGraph{Text: "number * 10"}, 0).Made[0]
	g, _ := b.c.Graph(id)
	b.do(&graphs.Drive{Graph: id, Slip: g.Slips[len(g.Slips)-1].ID, Targets: []scene.Ref{ref("a", "rotation"), ref("b", "rotation")}, Roster: true}, 0)
	if got := b.shown(ref("a", "rotation"), 0) + " " + b.shown(ref("b", "rotation"), 0); got != "10 20" {
		t.Errorf("they are at %s", got)
	}
	b.do(&graphs.RemoveGraph{Graph: id, Formulas: true}, 0)
	if got := b.shown(ref("b", "rotation"), 0); got != "20" || len(b.c.Graphs) != 0 || b.c.RosterLinks[0].Link.Kind != scene.Formula {
		t.Errorf("as a formula it is at %s", got)
	}
}

// A graph drives all copies that an item shows; what arranges them is added to, unless the graph asks for it.
func TestAGraphDrivesCopies(t *testing.T) {
	b := desk(t)
	beads := b.do(&items.Add{Kind: scene.CopiesItem}, 0).Made[0]
	b.do(&items.Attach{Items: []scene.ID{"a"}, Parent: beads}, 0)
	lane := b.c.Item(beads).FirstLane()
	second := scene.ID(strings.Replace(string(lane), "~1", "~2", 1))
	plain := b.shown(ref(second, "position"), 0)
	drives := func(text, key string) *scene.RosterLink {
		t.Helper()
		id := b.do(&graphs.NewGraph{Text: text}, 0).Made[0]
		g, _ := b.c.Graph(id)
		made := b.do(&graphs.Drive{Graph: id, Slip: g.Slips[len(g.Slips)-1].ID, Targets: []scene.Ref{ref(lane, key)}, Roster: true}, 0).Made
		s, _ := b.c.RosterLink(made[0])
		return s
	}
	drives("number * 10", "opacity")
	if got := b.shown(ref(lane, "opacity"), 0) + " " + b.shown(ref(second, "opacity"), 0); got != "10 20" {
		t.Errorf("the opacities of copies are %s", got)
	}
	if s := drives("[0, number, 0]", "position"); s.Link.Operation != scene.Plus {
		t.Errorf("a graph that knows nothing of the arrangement has the mode %q", s.Link.Operation)
	}
	if got := b.shown(ref(second, "position"), 0); got == plain || !strings.HasSuffix(got, ", 2, 0]") {
		t.Errorf("the second copy goes from %s to %s", plain, got)
	}
	if s := drives("below + [0, 1, 0]", "position"); s.Link.Operation != scene.Replace {
		t.Errorf("a graph that asks for what is below it has the mode %q", s.Link.Operation)
	}
	b.do(&graphs.OpenAsGraph{LinkAt: gesture.LinkAt{RosterLink: b.do(&wiring.Spread{Copies: &scene.Ref{Item: beads, Property: "rotation"}, Text: "index * 7"}, 0).Made[0]}}, 0)
	if got := b.shown(ref(second, "rotation"), 0); got != "7" {
		t.Errorf("opened as a graph, the second copy is turned by %s", got)
	}
	for _, bad := range []scene.Ref{ref(lane, "wobble"), ref("a~1", "opacity"), ref(lane, "worldPosition")} {
		g := b.c.Graphs[0]
		if _, err := b.try(&graphs.Drive{Graph: g.ID, Slip: g.Slips[len(g.Slips)-1].ID, Targets: []scene.Ref{bad}}, 0); err == nil {
			t.Errorf("%v is driven", bad)
		}
	}
}

// Copies of what a graph drives are driven by it, too. Where it looks at something that is copied with them, and in another
// composition, a formula drives the copies: they look at copies.
func TestCopiesOfWhatAGraphDrives(t *testing.T) {
	b := desk(t)
	b.set(ref("rig", "go"), 40)
	id, _, _, drive := sheet(b)
	b.do(&graphs.Drive{Graph: id, Slip: drive, Targets: []scene.Ref{ref("lamp", "intensity")}}, 0)
	kinds := func(made []scene.ID, key string) (out []scene.LinkKind) {
		for _, id := range made {
			for _, l := range b.c.Item(id).State(key).Links {
				out = append(out, l.Kind)
			}
		}
		return out
	}
	quarter := 25.0 / 4
	one := b.do(&copies.Duplicate{Items: []scene.ID{"a"}}, 0).Made
	if got := kinds(one, "rotation"); len(got) != 1 || got[0] != scene.Graphed || b.shown(ref(one[0], "rotation"), quarter) != b.shown(ref("a", "rotation"), quarter) {
		t.Errorf("the copy is driven by %v", got)
	}
	both := b.do(&copies.Duplicate{Items: []scene.ID{"rig", "a"}}, 0).Made
	if got := kinds(both, "rotation"); len(got) != 1 || got[0] != scene.Formula {
		t.Errorf("the copy that looks at a copy is driven by %v", got)
	}
	for _, id := range both {
		if item := b.c.Item(id); item.Kind == scene.Null {
			b.set(scene.Ref{Item: id, Property: string(item.Controls[0].ID)}, 10)
		}
	}
	for _, id := range both {
		if b.c.Item(id).Kind == scene.Rectangle && b.shown(ref(id, "rotation"), quarter) != "10" {
			t.Errorf("it does not look at the copy: %s", b.shown(ref(id, "rotation"), quarter))
		}
	}
	clip := copies.Take("p", b.c, []scene.ID{"rig", "lamp"})
	b.p.Compositions = append(b.p.Compositions, scene.NewComposition("other", "Other"))
	b.c = b.p.Composition("other")
	pasted := b.do(&copies.Paste{Clip: clip}, 0).Made
	if got := kinds(pasted, "intensity"); len(got) != 1 || got[0] != scene.Graphed || len(b.c.Graphs) != 1 {
		t.Errorf("in another composition it is driven by %v, with %d graphs", got, len(b.c.Graphs))
	}
}

// What a graph drives is baked to the pins that its formula is baked to, and is played to as it is jumped to.
func TestGraphsAreBakedAsFormulas(t *testing.T) {
	const text = "swell = stops(wave(time * 0.7), -1, 3, \"smooth\", 0, 11, \"smooth\", 1, 40)\nswell + delay(swell, 4f) + average({Rig: Go}, 5f)"
	var baked [2][]scene.Pin
	for k := range baked {
		b := desk(t)
		b.c.Item("rig").Edit("go").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(0), Easing: curve.Smooth}, {Frame: 40, Value: scene.Num(90), Easing: curve.Linear}}
		b.do(&wiring.Formula{Targets: []scene.Ref{ref("a", "rotation")}, Text: text}, 0)
		if k == 1 {
			b.do(&graphs.OpenAsGraph{LinkAt: gesture.LinkAt{Target: ref("a", "rotation"), Link: b.c.Item("a").State("rotation").Links[0].ID}}, 0)
		}
		played := engine.New(b.c)
		for frame := range 60 {
			played.Evaluate(float64(frame))
			jumped := engine.New(b.c)
			if jumped.Evaluate(float64(frame)); jumped.Value(ref("a", "rotation")) != played.Value(ref("a", "rotation")) {
				t.Fatalf("jumped to frame %d it is at %v, played to at %v", frame, jumped.Value(ref("a", "rotation")), played.Value(ref("a", "rotation")))
			}
		}
		b.do(&pins.Bake{Targets: []scene.Ref{ref("a", "rotation")}, To: 60, Tolerance: 0.1}, 0)
		baked[k] = b.c.Item("a").State("rotation").Pins
	}
	if len(baked[0]) < 5 || !slices.Equal(baked[0], baked[1]) {
		t.Errorf("the formula is baked to %d pins, the graph to %d others", len(baked[0]), len(baked[1]))
	}
}
