package gesture_test

import (
	"math"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// trail puts four boxes into a row, each 30 behind the one before.
func trailOf(t *testing.T, text string) *bench {
	b := newBench(t, item("i1", scene.Rectangle, 11, 7, 100), item("i2", scene.Rectangle, 20, 0, 100), item("i3", scene.Rectangle, 30, 0, 100), item("i4", scene.Rectangle, 40, 0, 100))
	b.do(&wiring.Spread{Targets: []scene.Ref{ref("i1", "position"), ref("i2", "position"), ref("i3", "position"), ref("i4", "position")}, Text: text}, 0)
	return b
}

func (b *bench) x(id scene.ID) float64 {
	p := engine.New(b.c)
	p.Evaluate(0)
	return p.Value(ref(id, "position")).At(0)
}

// What a row drives is driven: typing and dragging pose it, and change no value that is hidden; what a row only adds to is set.
func TestWhatARowDrivesIsDriven(t *testing.T) {
	b := trailOf(t, "{prev: position} + [31, 0, 0]")
	for name, g := range map[string]gesture.Gesture{
		"typed":   &pins.Set{Targets: []scene.Ref{{Item: "i3", Property: "position", Component: "x"}}, Value: scene.Num(217)},
		"dragged": &items.Move{Items: []scene.ID{"i3"}, By: [3]float64{217 - b.x("i3"), 0, 0}},
	} {
		r := b.do(g, 0)
		if len(r.Ops) > 0 || len(r.Poses) != 1 || math.Abs(r.Poses[0].Value.At(0)-217) > 1e-9 {
			t.Errorf("%s: %d operations, poses %v", name, len(r.Ops), r.Poses)
		}
	}
	if r := b.do(&pins.Set{Targets: []scene.Ref{ref("i1", "position")}, Value: scene.Pt(5, 6, 0)}, 0); len(r.Poses) == 0 && len(r.Ops) == 0 {
		t.Error("the first one cannot be set")
	}
	b = trailOf(t, "own + [index * 3, 0, 0]")
	if r := b.do(&pins.Set{Targets: []scene.Ref{ref("i3", "position")}, Value: scene.Pt(50, 0, 0)}, 0); len(r.Ops) != 1 || len(r.Poses) > 0 || b.x("i3") != 56 {
		t.Errorf("where the row adds to it: %+v, at %v", r, b.x("i3"))
	}
}

// A pose of a member of a row is kept as an offset on top of what the row gives.
func TestAPoseOfAMemberIsKeptAsAnOffset(t *testing.T) {
	b := trailOf(t, "{prev: position} + [31, 0, 0]")
	before := b.x("i4")
	plan := engine.New(b.c)
	plan.Evaluate(0)
	plan.Pose(ref("i3", "position"), scene.Pt(b.x("i3")+13, 19, 0))
	plan.Evaluate(0)
	c := &gesture.Context{Composition: b.c, Planned: plan, NewID: func() scene.ID { return "made" }}
	r, err := (&poses.UsePose{Targets: []scene.Ref{ref("i3", "position")}, As: "offset"}).Do(c)
	if err != nil {
		t.Fatal(err)
	}
	if _, _, err := change.Apply(b.p, r.Ops); err != nil {
		t.Fatal(err)
	}
	if got := b.x("i4"); math.Abs(got-before-13) > 1e-9 {
		t.Errorf("the fourth is at %v, and was at %v", got, before)
	}
}

// Posing a member of a row at a stop adds the difference, so that the row goes on.
func TestAPosedMemberGoesOnInItsRow(t *testing.T) {
	b := trailOf(t, "{prev: position} + [31, 0, 0]")
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "hour", Name: "Hour", Kind: scene.Fader, SoftMax: 10, Default: scene.Num(0)}}}
	b.c.Items = append(b.c.Items, rig)
	b.do(&poses.GivePoses{Item: "rig", Control: "hour"}, 0)
	stops := b.c.Item("rig").Controls[0].Poses
	at := poses.AtStop{Item: "rig", Control: "hour", Stop: stops[len(stops)-1].ID}
	plan := engine.New(b.c)
	plan.Evaluate(0)
	c := &gesture.Context{Composition: b.c, Planned: plan, NewID: func() scene.ID { return "made" }}
	r, err := (&pins.Set{Targets: []scene.Ref{ref("i3", "position")}, Value: scene.Pt(b.x("i3")+17, 0, 0)}).Do(c)
	if err == nil {
		r, err = poses.IntoStop(c, r, &at)
	}
	if err != nil {
		t.Fatal(err)
	}
	three, four := b.x("i3"), b.x("i4")
	if _, _, err := change.Apply(b.p, r.Ops); err != nil {
		t.Fatal(err)
	}
	if b.x("i3") != three || b.x("i4") != four {
		t.Errorf("at the other stop they are at %v and %v, were at %v and %v", b.x("i3"), b.x("i4"), three, four)
	}
	b.c.Item("rig").Edit("hour").Own = scene.Num(stops[len(stops)-1].At)
	if math.Abs(b.x("i3")-three-17) > 1e-9 || math.Abs(b.x("i4")-four-17) > 1e-9 {
		t.Errorf("at the stop they are at %v and %v", b.x("i3"), b.x("i4"))
	}
}

// Between the stops of a fader of poses, a temporary pose of what it moves becomes a stop there, or an offset of all stops.
func TestATemporaryPoseBetweenStops(t *testing.T) {
	for _, way := range []string{"here", "low", "high", "offset"} {
		b := newBench(t, item("box", scene.Rectangle, 11, 0, 100), &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "hour", Name: "Hour", Kind: scene.Fader, SoftMax: 10, Default: scene.Num(0)}}})
		b.do(&poses.GivePoses{Item: "rig", Control: "hour"}, 0)
		stops := b.c.Item("rig").Controls[0].Poses
		l := &scene.Link{ID: "l", Kind: scene.Posed, Source: ref("rig", "hour"), Gain: 1, Held: []scene.Held{{Stop: stops[0].ID, Value: scene.Pt(10, 0, 0)}, {Stop: stops[1].ID, Value: scene.Pt(90, 0, 0)}}}
		b.c.Item("box").Edit("position").Links = []*scene.Link{l}
		span := stops[1].At - stops[0].At
		put := func(share float64) { b.c.Item("rig").Edit("hour").Own = scene.Num(stops[0].At + span*share) }
		put(0.3)
		plan := engine.New(b.c)
		plan.Evaluate(0)
		plan.Pose(ref("box", "position"), scene.Pt(b.x("box")+23, 0, 0))
		plan.Evaluate(0)
		n := 0
		c := &gesture.Context{Composition: b.c, Planned: plan, NewID: func() scene.ID { n++; return scene.ID([]string{"", "m1", "m2", "m3"}[n]) }}
		was := b.x("box")
		var g gesture.Gesture = &poses.Mark{Targets: []scene.Ref{ref("box", "position")}, Which: way}
		if way == "offset" {
			g = &poses.UsePose{Targets: []scene.Ref{ref("box", "position")}, As: way}
		}
		r, err := g.Do(c)
		if err != nil {
			t.Fatalf("%s: %v", way, err)
		}
		if _, _, err := change.Apply(b.p, r.Ops); err != nil {
			t.Fatalf("%s: %v", way, err)
		}
		put(map[string]float64{"here": 0.3, "low": 0, "high": 1, "offset": 0.3}[way])
		if got := b.x("box"); math.Abs(got-was-23) > 1e-9 {
			t.Errorf("%s: it is at %v, want %v", way, got, was+23)
		}
		put(1)
		if want := map[string]float64{"here": 90, "low": 90, "high": was + 23, "offset": 113}[way]; math.Abs(b.x("box")-want) > 1e-9 {
			t.Errorf("%s: at the last stop it is at %v, want %v", way, b.x("box"), want)
		}
	}
}
