package gesture_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/graphs"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// slipOf finds the slip of a graph that says something.
func slipOf(b *bench, id scene.ID, text string) *scene.Slip {
	b.t.Helper()
	g, _ := b.c.Graph(id)
	for _, s := range g.Slips {
		if s.Text == text && text != "" || text == "" && s.Kind == scene.DriveSlip || text == string(s.Kind) && s.Text == "" {
			return s
		}
	}
	b.t.Fatalf("no slip says %q", text)
	return nil
}

// Slips are folded, duplicated by their folds, unfolded, and removed with what lies in them; what they give is the same all
// the while.
func TestFolds(t *testing.T) {
	b := desk(t)
	b.set(ref("rig", "go"), 40)
	id, wave, times, drive := sheet(b)
	g, _ := b.c.Graph(id)
	before := everything(b.c)
	same := func(what string) {
		t.Helper()
		if !slices.Equal(everything(b.c), before) {
			t.Errorf("%s, something is another", what)
		}
	}
	fold := b.do(&graphs.FoldSlips{Graph: id, Slips: []scene.ID{times, wave}}, 0).Made[0]
	same("folded")
	s, _ := g.Slip(fold)
	var names []string
	for _, p := range s.Ports {
		names = append(names, p.Name)
	}
	if got := strings.Join(names, " "); got != "cycles b times" && got != "b cycles times" {
		t.Errorf("the fold shows %q", got)
	}
	outer := b.do(&graphs.FoldSlips{Graph: id, Slips: []scene.ID{fold, drive}}, 0).Made[0]
	same("folded twice")
	if _, err := b.try(&graphs.FoldSlips{Graph: id, Slips: []scene.ID{wave, slipOf(b, id, "clock").ID}}, 0); err == nil {
		t.Error("slips of two folds are folded together")
	}
	b.do(&graphs.Unfold{Graph: id, Slip: outer}, 0)
	same("unfolded")
	if inner, _ := g.Slip(fold); inner.Within != "" {
		t.Error("the inner fold lies in one that is gone")
	}
	b.do(&graphs.TakeSlips{Graph: id, Slips: []scene.ID{fold}}, 0)
	for _, gone := range []scene.ID{fold, wave, times} {
		if s, _ := g.Slip(gone); s != nil {
			t.Errorf("%s is left of the fold", graph.Called(s))
		}
	}
	if w, _ := g.WireTo(drive, graph.In); w == nil || w.Out != "time" {
		t.Errorf("the wire around the fold is not healed: %v", w)
	}
	if _, err := b.try(&graphs.FoldSlips{Graph: id}, 0); err == nil {
		t.Error("nothing is folded")
	}
	if _, err := b.try(&graphs.Unfold{Graph: id, Slip: drive}, 0); err == nil {
		t.Error("what is no fold is unfolded")
	}
}

// A slip that is pulled out leaves its wires to its neighbours, and stays on the sheet.
func TestPulledOutAndPutBack(t *testing.T) {
	b := desk(t)
	id, wave, times, _ := sheet(b)
	g, _ := b.c.Graph(id)
	b.do(&graphs.PullSlips{Graph: id, Slips: []scene.ID{wave}}, 0)
	if w, _ := g.WireTo(times, "1"); w == nil || w.Out != "time" {
		t.Errorf("the gap is not closed: %v", w)
	}
	if w, _ := g.WireTo(wave, "1"); w != nil {
		t.Error("it is wired still")
	}
	from, _ := g.WireTo(times, "1")
	b.do(&graphs.PutSlips{Graph: id, Wires: []scene.Wire{{From: from.From, Out: from.Out, To: wave, In: "1"}, {From: wave, To: times, In: "1"}}}, 0)
	if w, _ := g.WireTo(times, "1"); w == nil || w.From != wave {
		t.Error("it is not back between them")
	}
}

// Marks set the stops of the map that leads to what is marked: one at the low end, one at the high.
func TestMarksOnMapSlips(t *testing.T) {
	b := desk(t)
	id := b.do(&graphs.NewGraph{Text: "stops({Rig: Go}, 0, 0, 100, 0)"}, 0).Made[0]
	of := slipOf(b, id, "map")
	b.do(&graphs.Drive{Graph: id, Slip: slipOf(b, id, "").ID, Targets: []scene.Ref{ref("a", "rotation")}}, 0)
	mark := func(go_, value float64, which string, direct bool) error {
		b.set(ref("rig", "go"), go_)
		c := b.context(0)
		c.Plan().Pose(ref("a", "rotation"), scene.Num(value))
		c.Plan().Evaluate(0)
		var g gesture.Gesture = &poses.Mark{Targets: []scene.Ref{ref("a", "rotation")}, Which: which}
		if direct {
			g = &poses.MarkSlip{Graph: id, Slip: of.ID, Which: which}
		}
		r, err := g.Do(c)
		if err == nil && len(r.Poses) != 1 {
			t.Errorf("%d poses are taken back", len(r.Poses))
		}
		if err == nil {
			b.do(&gesture.Operations{Ops: r.Ops}, 0)
		}
		return err
	}
	for _, err := range []error{mark(10, 5, "low", false), mark(90, 45, "high", true), mark(50, 40, "here", false)} {
		if err != nil {
			t.Fatal(err)
		}
	}
	for x, want := range map[float64]string{0: "5", 10: "5", 30: "22.5", 50: "40", 100: "45"} {
		b.set(ref("rig", "go"), x)
		if got := b.shown(ref("a", "rotation"), 0); got != want {
			t.Errorf("at %v it is %s, want %s", x, got, want)
		}
	}
	if err := mark(95, 1, "low", false); err == nil || !strings.Contains(err.Error(), "before the next stop") {
		t.Errorf("a low mark above the next stop: %v", err)
	}
	// A map that leads to nothing takes a stop only where it changes nothing.
	b.do(&graphs.TakeSlips{Graph: id, Slips: []scene.ID{slipOf(b, id, "").ID}}, 0)
	if _, err := b.try(&poses.MarkSlip{Graph: id, Slip: of.ID, Which: "low"}, 0); err == nil {
		t.Error("a map that drives nothing is marked")
	}
	b.set(ref("rig", "go"), 30)
	b.do(&poses.MarkSlip{Graph: id, Slip: of.ID, Which: "here"}, 0)
	if s := slipOf(b, id, "map"); len(s.Stops) != 4 || s.Stops[1].Out.At(0) != 22.5 {
		t.Errorf("its stops are %v", s.Stops)
	}
}

// A map of numbers that is marked with a place gives places from then on.
func TestAMarkOfAnotherTypeBeginsAnew(t *testing.T) {
	b := desk(t)
	id := b.do(&graphs.NewGraph{Text: "stops({Rig: Go}, 0, 0, 100, 0)"}, 0).Made[0]
	b.do(&graphs.Drive{Graph: id, Slip: slipOf(b, id, "").ID, Targets: []scene.Ref{ref("a", "position")}}, 0)
	b.do(&poses.Mark{Targets: []scene.Ref{ref("a", "position")}, Which: "low"}, 0)
	if s := slipOf(b, id, "map"); s.Stops[0].Out.Len() != 3 || s.Stops[1].Out.Len() != 3 {
		t.Errorf("its stops are %v", s.Stops)
	}
}

// What would mend a wire is put between its ends.
func TestAWireIsMended(t *testing.T) {
	b := desk(t)
	id := b.do(&graphs.NewGraph{Text: "delay({Rig: Go}, index * 1f)"}, 0).Made[0]
	delay, words := slipOf(b, id, "delay"), slipOf(b, id, "row")
	b.do(&graphs.TakeSlips{Graph: id, Slips: []scene.ID{slipOf(b, id, "*").ID}}, 0)
	made := b.do(&graphs.MendWire{Graph: id, Wire: scene.Wire{From: words.ID, Out: "index", To: delay.ID, In: "2"}, Text: "held * 1f"}, 0).Made
	g, _ := b.c.Graph(id)
	text, err := graph.Lower(g, slipOf(b, id, "").ID)
	if err != nil || len(made) != 1 || text != "delay({@rig:@go}, index * 1f)" {
		t.Errorf("%q (%v)", text, err)
	}
	b.do(&graphs.MendWire{Graph: id, Wire: scene.Wire{From: words.ID, Out: "index", To: delay.ID, In: "1"}, Text: "held.x"}, 0) // a component of a word
	if _, err := b.try(&graphs.MendWire{Graph: id, Wire: scene.Wire{From: words.ID, To: delay.ID, In: "1"}, Text: "3"}, 0); err == nil {
		t.Error("what is held is left out")
	}
}

// A value, or what stands in an input, becomes a control that is read there; the picture stays as it is.
func TestAValueBecomesAControl(t *testing.T) {
	b := desk(t)
	id := b.do(&graphs.NewGraph{Text: "wave(time) * 12 + 0.5s * 4"}, 0).Made[0]
	b.do(&graphs.Drive{Graph: id, Slip: slipOf(b, id, "").ID, Targets: []scene.Ref{ref("a", "rotation")}}, 0)
	before := b.shown(ref("a", "rotation"), 9)
	g, _ := b.c.Graph(id)
	inputs := map[string]string{}
	for _, s := range g.Slips {
		if s.Text == "*" {
			inputs[s.Fields["2"]] = string(s.ID)
		}
	}
	b.do(&graphs.ValueControl{Graph: id, Slip: scene.ID(inputs["12"]), In: "2", Onto: "rig"}, 0)
	r := b.do(&graphs.ValueControl{Graph: id, Slip: scene.ID(inputs["4"]), In: "1"}, 0)
	if got := b.shown(ref("a", "rotation"), 9); got != before {
		t.Errorf("it is at %s, was at %s", got, before)
	}
	rig, panel := b.c.Item("rig"), b.c.Item(r.Made[0])
	one, two := rig.Controls[len(rig.Controls)-1], panel.Controls[0]
	if one.Name != "times b" || one.Default.At(0) != 12 || one.SoftMax < 12 || two.Unit != scene.Seconds || two.Default.At(0) != 0.5 {
		t.Errorf("the controls are %+v and %+v", one, two)
	}
	if _, err := b.try(&graphs.ValueControl{Graph: id, Slip: slipOf(b, id, "wave").ID}, 0); err == nil {
		t.Error("what is no value becomes a control")
	}
}

// A graph that drives one property by what undoes itself is turned round: what it read follows what it drove, and back.
func TestGraphsAreTurnedRound(t *testing.T) {
	for text, want := range map[string]float64{
		"{Rig: Go}": 30, "{Rig: Go} * 3 + 5": 25.0 / 3, "7 - {Rig: Go} / 4": (7 - 30) * 4, "100 / ({Rig: Go} + 2)": 100.0/30 - 2, "-(4 * {Rig: Go})": -7.5,
		"stops({Rig: Go}, 0, 10, 50, 60)": 20, "map({Rig: Go}, 0, 10, 5, 105)": 2.5, "{Rig: Go} * {a: opacity}": 0.3,
	} {
		b := desk(t)
		id := b.do(&graphs.NewGraph{Text: text}, 0).Made[0]
		r := b.do(&graphs.Drive{Graph: id, Slip: slipOf(b, id, "").ID, Targets: []scene.Ref{ref("b", "rotation")}}, 0)
		b.set(ref("rig", "go"), 20)
		b.do(&wiring.TurnRound{Target: ref("b", "rotation"), Link: r.Made[0]}, 0)
		b.set(ref("b", "rotation"), 30)
		c := b.context(0)
		if got := c.Plan().Value(ref("rig", "go")).At(0); math.Abs(got-want) > 1e-9 && !(want < 0 && got == 0) { // its range begins at 0
			t.Errorf("%s, turned round, gives %v, want %v", text, got, want)
		}
		link := b.c.Item("rig").State("go").Links[0]
		if back := b.do(&wiring.TurnRound{Target: ref("rig", "go"), Link: link.ID}, 0); len(b.c.Item("b").State("rotation").Links) != 1 || len(b.c.Item("rig").State("go").Links) != 0 {
			t.Errorf("%s is not turned back: %v", text, back.Note)
		}
	}
	for text, want := range map[string]string{
		"wave({Rig: Go})": "has no inverse", "{Rig: Go} * {Rig: Go}": "more than one slip", "time * 2": "no chain of wires", "3": "no chain of wires",
		"{a: position}.x": "", "stops({Rig: Go}, 0, 1, 5, 9, 10, 2)": "rises and falls", `stops({Rig: Go}, 0, 1, "smooth", 5, 9)`: "only a linear map", "map({Rig: Go}, 0, 1, 2, time)": "typed values",
		"[time, {Rig: Go}].x": "", "{Rig: Go} = 3": "has no inverse", "{a: world.rotation}": "",
	} {
		b := desk(t)
		id := b.do(&graphs.NewGraph{Text: text}, 0).Made[0]
		r := b.do(&graphs.Drive{Graph: id, Slip: slipOf(b, id, "").ID, Targets: []scene.Ref{ref("b", "rotation")}}, 0)
		_, err := b.try(&wiring.TurnRound{Target: ref("b", "rotation"), Link: r.Made[0]}, 0)
		if want != "" && (err == nil || !strings.Contains(err.Error(), want)) {
			t.Errorf("%s: %v, want %q", text, err, want)
		}
		if text == "{a: world.rotation}" && (err != nil || !b.c.Item("a").State("rotation").Links[0].World) {
			t.Errorf("what is read in the composition is not set there: %v", err)
		}
	}
}

// A vertex of a box that carries a ball is carried by it, wherever the box stands.
func TestABallCarriesAVertex(t *testing.T) {
	box, ball := item("box", scene.Box, 120, 30, 150), &scene.Item{ID: "ball", Name: "Ball", Kind: scene.Ball}
	hook := item("hook", scene.Null, -40, 20, 80)
	ball.Parent = "hook"
	vertex := scene.Ref{Item: "box", Property: scene.WorldVertexKey(3)}
	place := scene.Ref{Item: "ball", Property: "position"}
	for _, asGraph := range []bool{false, true} {
		b := newBench(t, hook.Clone(), box.Clone(), ball.Clone())
		b.c.Item("ball").Edit("position").Links = []*scene.Link{{ID: "carries", Kind: scene.Follow, Source: vertex, Gain: 1, World: true}}
		if asGraph {
			b.do(&graphs.OpenAsGraph{LinkAt: gesture.LinkAt{Target: place, Link: "carries"}}, 0)
		}
		near := func(what string) {
			t.Helper()
			plan := b.context(0).Plan()
			at, of := plan.Value(scene.Ref{Item: "ball", Property: "worldPosition"}), plan.Value(vertex)
			for k := range 3 {
				if math.Abs(at.At(k)-of.At(k)) > 1e-9 {
					t.Fatalf("%s (graph: %v), the ball is at %v and the vertex at %v", what, asGraph, at, of)
				}
			}
		}
		near("carried")
		b.do(&wiring.TurnRound{Target: place, Link: "carries"}, 0)
		near("turned round")
		b.do(&pins.Set{Targets: []scene.Ref{place}, Value: scene.Pt(33, -50, 12)}, 0)
		near("moved")
		b.c.Item("ball").Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(1, 2, 3), Easing: curve.Linear}}
		near("pinned")
		link := b.c.Item("box").State(scene.VertexKey(3)).Links[0]
		b.do(&wiring.TurnRound{Target: scene.Ref{Item: "box", Property: scene.VertexKey(3)}, Link: link.ID}, 0)
		near("turned back")
	}
}

func TestSlipsAreAligned(t *testing.T) {
	b := desk(t)
	id, wave, times, drive := sheet(b)
	g, _ := b.c.Graph(id)
	slips := []scene.ID{wave, times, drive}
	b.do(&graphs.AlignSlips{Graph: id, Slips: slips, How: "top"}, 0)
	b.do(&gesture.Operations{Ops: nil}, 0)
	x := map[float64]bool{}
	for _, one := range slips {
		s, _ := g.Slip(one)
		if first, _ := g.Slip(wave); s.At[1] != first.At[1] {
			t.Errorf("%v is not in line", s.At)
		}
		x[s.At[0]] = true
	}
	if len(x) != 3 {
		t.Error("they lie on one another")
	}
	first, _ := g.Slip(wave)
	last, _ := g.Slip(drive)
	from, to := first.At[0], last.At[0]
	b.do(&graphs.AlignSlips{Graph: id, Slips: slips, How: "across"}, 0)
	one, _ := g.Slip(wave)
	two, _ := g.Slip(times)
	three, _ := g.Slip(drive)
	if two.At[0]-one.At[0] != three.At[0]-two.At[0] || one.At[0] != from || three.At[0] != to {
		t.Errorf("from %v to %v they are spread to %v, %v and %v", from, to, one.At[0], two.At[0], three.At[0])
	}
	for _, bad := range []*graphs.AlignSlips{{Graph: id, Slips: slips, How: "up"}, {Graph: id, Slips: slips[:1], How: "top"}} {
		if _, err := b.try(bad, 0); err == nil {
			t.Errorf("%+v is done", bad)
		}
	}
}
