package gesture_test

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/scene"
)

// tracks is a bench with three controls that have pins at some frames; the value of a pin is its frame and a number of its control.
func tracks(t *testing.T) *bench {
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null}
	for k, frames := range [][]int{{3, 17, 40}, {8, 29}, {12, 31, 77}} {
		id := []scene.ID{"wind", "glow", "tide"}[k]
		rig.Controls = append(rig.Controls, &scene.Control{ID: id, Name: []string{"Wind", "Glow", "Tide"}[k], Kind: scene.Fader, SoftMax: 100, Default: scene.Num(0)})
		for n, f := range frames {
			easing := []curve.Easing{"cubic 0.3 0.1 0.45 1.35", curve.Linear, curve.Smooth}[n]
			rig.Edit(string(id)).Pins = append(rig.Edit(string(id)).Pins, scene.Pin{Frame: f, Value: scene.Num(float64(1000*k + f)), Easing: easing})
		}
	}
	return newBench(t, rig)
}

func at(property string, frames ...int) (out []gesture.PinAt) {
	for _, f := range frames {
		out = append(out, gesture.PinAt{Item: "rig", Property: property, Frame: f})
	}
	return out
}

// written is the pins of a control as frame:value pairs.
func (b *bench) written(property string) string {
	var out []string
	for _, p := range b.c.Item("rig").State(property).Pins {
		out = append(out, fmt.Sprintf("%d:%g", p.Frame, p.Value.At(0)))
	}
	return strings.Join(out, " ")
}

func (b *bench) has(what, property, want string) {
	b.t.Helper()
	if got := b.written(property); got != want {
		b.t.Errorf("%s: %s has %s, want %s", what, property, got, want)
	}
}

func TestPinsAreMovedTogetherAndReplaceOnlyWhenTold(t *testing.T) {
	b := tracks(t)
	group := append(at("wind", 3, 17), at("glow", 8)...)
	b.do(&pins.MovePins{Pins: group, By: 7}, 0)
	b.has("moved", "wind", "10:3 24:17 40:40")
	b.has("moved", "glow", "15:1008 29:1029")
	// Onto another pin: asked first, nothing has changed.
	r := b.do(&pins.MovePins{Pins: at("wind", 24), By: 16}, 0)
	if r.Asks != pins.Replaced || len(r.Ops) != 0 || !strings.Contains(r.Note, "Rig: Wind") {
		t.Errorf("it asks %q: %s", r.Asks, r.Note)
	}
	b.do(&pins.MovePins{Pins: at("wind", 24), By: 16, Landing: pins.Landing{Replace: true}}, 0)
	b.has("replaced", "wind", "10:3 40:17")
	// One that goes where another of the group was, is no replacing.
	if r := b.do(&pins.MovePins{Pins: at("glow", 15, 29), By: 14}, 0); r.Asks != "" {
		t.Errorf("it asks %q", r.Asks)
	}
	b.has("on", "glow", "29:1008 43:1029")
	// In value, too, of single numbers; a point has none that is not named.
	b.do(&pins.MovePins{Pins: at("glow", 29, 43), By: -2, Rise: 7.25}, 0)
	b.has("raised", "glow", "27:1015.25 41:1036.25")
	b.do(&pins.MovePins{Pins: at("glow", 27, 41), By: 2, Rise: -7.25}, 0)
	b.c.Item("rig").Edit("position").Pins = []scene.Pin{{Frame: 4, Value: scene.Pt(3, 8, 1), Easing: curve.Linear}}
	there := []gesture.PinAt{{Item: "rig", Property: "position", Frame: 4}}
	b.do(&pins.MovePins{Pins: append(there, at("wind", 10)...), Rise: 5.5, Component: "y"}, 0)
	b.do(&pins.MovePins{Pins: there, Rise: 100}, 0)
	if v := b.c.Item("rig").State("position").Pins[0].Value; v != scene.Pt(3, 13.5, 1) {
		t.Errorf("raised by one component, it is %v", v)
	}
	b.has("without that component", "wind", "10:3 40:17")
	b.do(&pins.MovePins{Pins: at("tide", 12, 31), By: 5, Copy: true}, 0)
	b.has("copied", "tide", "12:2012 17:2012 31:2031 36:2031 77:2077")
	if _, err := b.try(&pins.MovePins{Pins: at("tide", 13), By: 5}, 0); err == nil || !strings.Contains(err.Error(), "no longer has a pin at frame 13") {
		t.Error(err)
	}
	if _, err := b.try(&pins.MovePins{Pins: at("tide", 12), By: 1 << 40}, 0); err == nil || !strings.Contains(err.Error(), "outside of any composition") {
		t.Error(err)
	}
}

func TestPinsAreStretchedAndTurnedRound(t *testing.T) {
	b := tracks(t)
	all := append(at("wind", 3, 17, 40), at("tide", 12, 31)...)
	b.do(&pins.StretchPins{Pins: all, Stays: 3, From: 40, To: 77}, 0)
	b.has("stretched", "wind", "3:3 31:17 77:40")
	b.has("stretched", "tide", "21:2012 59:2031 77:2077")
	b.do(&pins.StretchPins{Pins: append(at("wind", 3, 31, 77), at("tide", 21, 59)...), Stays: 3, From: 77, To: 40}, 0)
	b.has("and back", "wind", "3:3 17:17 40:40")
	b.has("and back", "tide", "12:2012 31:2031 77:2077")
	// Through what stays, the group turns round, and each span goes the same way back.
	b.do(&pins.StretchPins{Pins: at("wind", 3, 17, 40), Stays: 3, From: 40, To: -34}, 0)
	b.has("turned", "wind", "-34:40 -11:17 3:3")
	if p := b.c.Item("rig").State("wind").Pins; p[0].Easing != curve.Linear || p[1].Easing != "cubic 0.55 -0.35 0.7 0.9" || p[2].Easing != curve.Smooth {
		t.Errorf("its easings are %s, %s and %s", p[0].Easing, p[1].Easing, p[2].Easing)
	}
	b.do(&pins.ReversePins{Pins: at("wind", -34, -11, 3)}, 0)
	b.has("reversed", "wind", "-34:3 -20:17 3:40")
	if _, err := b.try(&pins.StretchPins{Pins: at("wind", -34, -20, 3), Stays: -34, From: 3, To: -33}, 0); err == nil || !strings.Contains(err.Error(), "leave more room") {
		t.Error(err)
	}
	if _, err := b.try(&pins.StretchPins{Pins: at("wind", 3), Stays: 3, From: 3, To: 9}, 0); err == nil || !strings.Contains(err.Error(), "lie apart") {
		t.Error(err)
	}
	b.has("refused", "wind", "-34:3 -20:17 3:40")
}

func TestPinsAreSpreadStaggeredAndSet(t *testing.T) {
	b := tracks(t)
	// What a gesture leaves in the hand is where the pins are now.
	if left := b.do(&pins.SpreadPins{Pins: append(at("wind", 40, 3, 17), at("tide", 12, 31, 77)...)}, 0).Pins; fmt.Sprint(left) != fmt.Sprint(append(at("wind", 3, 22, 40), at("tide", 12, 45, 77)...)) {
		t.Errorf("spread, they are said to be at %v", left)
	}
	b.has("spread", "wind", "3:3 22:17 40:40")
	b.has("spread", "tide", "12:2012 45:2031 77:2077")
	b.do(&pins.StaggerPins{Pins: append(append(at("tide", 12, 45), at("wind", 3)...), at("glow", 8, 29)...), By: 4}, 0)
	b.has("the first stays", "tide", "12:2012 45:2031 77:2077")
	b.has("staggered", "wind", "7:3 22:17 40:40")
	b.has("staggered", "glow", "16:1008 37:1029")
	b.do(&pins.SetPins{Pins: append(at("glow", 16), at("wind", 22)...), Value: scene.Num(63)}, 0)
	b.has("set", "glow", "16:63 37:1029")
	b.has("set", "wind", "7:3 22:63 40:40")
	if _, err := b.try(&pins.SetPins{Pins: at("glow", 16), Value: scene.Txt("much")}, 0); err == nil {
		t.Error("a fader takes a text")
	}
	if _, err := b.try(&pins.StaggerPins{Pins: at("glow", 16, 37), By: 4}, 0); err == nil || !strings.Contains(err.Error(), "several controls") {
		t.Error(err)
	}
}

func TestPinsAreCopiedOntoTheirOwnAndOntoOthers(t *testing.T) {
	b := tracks(t)
	clip := pins.Copy(b.c, append(at("wind", 17, 40), at("glow", 29, 99)...))
	if left := b.do(&pins.PastePins{Clip: clip}, 120).Pins; fmt.Sprint(left) != fmt.Sprint(append(at("wind", 120, 143), at("glow", 132)...)) {
		t.Errorf("pasted, they are said to be at %v", left)
	}
	b.has("pasted", "wind", "3:3 17:17 40:40 120:17 143:40")
	b.has("pasted", "glow", "8:1008 29:1029 132:1029")
	b.do(&pins.PastePins{Clip: clip, Targets: []scene.Ref{ref("rig", "tide")}}, 50)
	b.has("onto another", "tide", "12:2012 31:2031 50:17 73:40 77:2077")
	if r := b.do(&pins.PastePins{Clip: clip}, 17); r.Asks != pins.Replaced {
		t.Error("pasted onto pins, it does not ask")
	}
	if _, err := b.try(&pins.PastePins{Clip: clip, Targets: []scene.Ref{ref("rig", "fill")}}, 0); err == nil || !strings.Contains(err.Error(), "same kind") {
		t.Error(err)
	}
}

func TestTimeIsPutInAndTakenOut(t *testing.T) {
	b := tracks(t)
	was := b.c.Frames
	b.do(&pins.InsertTime{At: 17, Frames: 9}, 0)
	b.has("put in", "wind", "3:3 26:17 49:40")
	b.has("put in", "glow", "8:1008 38:1029")
	if b.c.Frames != was+9 {
		t.Errorf("the composition has %d frames, before %d", b.c.Frames, was)
	}
	b.do(&pins.InsertTime{At: 17, Frames: -9}, 0)
	b.has("taken out again", "wind", "3:3 17:17 40:40")
	b.has("taken out again", "tide", "12:2012 31:2031 77:2077")
	r := b.do(&pins.InsertTime{At: 10, Frames: -22, Item: "rig"}, 0)
	b.has("with what lay there", "wind", "3:3 18:40")
	b.has("with what lay there", "tide", "55:2077")
	if b.c.Frames != was || !strings.Contains(r.Note, "with 4 pins") {
		t.Errorf("%d frames; %s", b.c.Frames, r.Note)
	}
	if _, err := b.try(&pins.InsertTime{At: 0, Frames: -was}, 0); err == nil {
		t.Error("a composition is left without frames")
	}
}

// Whatever is done to pins, undo brings the bytes back.
func TestWhateverIsDoneToPinsIsUndone(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 11))
	for round := range 300 {
		b := tracks(t)
		before, _ := json.Marshal(b.p)
		var all []gesture.PinAt
		for _, key := range []string{"wind", "glow", "tide"} {
			for _, p := range b.c.Item("rig").State(key).Pins {
				if r.IntN(3) > 0 {
					all = append(all, at(key, p.Frame)...)
				}
			}
		}
		how := pins.Landing{Replace: r.IntN(2) == 0}
		g := []gesture.Gesture{
			&pins.MovePins{Pins: all, By: r.IntN(50) - 20, Copy: r.IntN(2) == 0, Landing: how},
			&pins.StretchPins{Pins: all, Stays: r.IntN(40), From: 41, To: r.IntN(200) - 80, Landing: how},
			&pins.ReversePins{Pins: all, Landing: how},
			&pins.SpreadPins{Pins: all, Landing: how},
			&pins.StaggerPins{Pins: all, By: r.IntN(30) - 15, Landing: how},
			&pins.PastePins{Clip: pins.Copy(b.c, all), Landing: how},
			&pins.InsertTime{At: r.IntN(50), Frames: r.IntN(60) - 30},
			&pins.DropPins{Pins: all},
			&pins.EasePins{Pins: all, Easing: "settle 12 3 35"},
		}[r.IntN(9)]
		made, err := g.Do(b.context(r.IntN(60)))
		if err != nil {
			continue
		}
		back, _, err := change.Apply(b.p, made.Ops)
		if err != nil {
			t.Fatalf("round %d, %T: %v", round, g, err)
		}
		if _, _, err := change.Apply(b.p, back); err != nil {
			t.Fatalf("round %d, %T, undone: %v", round, g, err)
		}
		if after, _ := json.Marshal(b.p); string(after) != string(before) {
			t.Fatalf("round %d: %T undone is\n%s\nnot\n%s", round, g, after, before)
		}
	}
}

func TestPerformedPinsAreSmoothedWithinTheTolerance(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 3))
	for round := range 60 {
		b := tracks(t)
		state, was := b.c.Item("rig").Edit("tide"), []scene.Pin{}
		x := 0.0
		for f := range 190 {
			x += r.NormFloat64() * 3
			was = append(was, scene.Pin{Frame: f - 7, Value: scene.Num(x), Easing: []curve.Easing{curve.Linear, curve.Smooth, curve.Hold}[r.IntN(3)]})
		}
		state.Pins = was
		var some []gesture.PinAt
		from, to := r.IntN(60), 100+r.IntN(90)
		for _, p := range was[from:to] {
			some = append(some, at("tide", p.Frame)...)
		}
		tolerance := []float64{0.4, 3.1, 17}[round%3]
		note := b.do(&pins.SmoothPins{Pins: append(some, at("wind", 3)...), Tolerance: tolerance}, 0).Note
		now := b.c.Item("rig").State("tide").Pins
		plan := b.context(0).Plan()
		for _, p := range was[from:to] {
			plan.Evaluate(float64(p.Frame))
			if off := plan.Own("rig", "tide").At(0) - p.Value.At(0); off > tolerance+1e-9 || off < -tolerance-1e-9 {
				t.Fatalf("round %d: at frame %d it is %g off; %s", round, p.Frame, off, note)
			}
		}
		if tolerance > 10 && len(now) > len(was)*2/3 || !strings.Contains(note, " to ") {
			t.Errorf("round %d: %d pins are left of %d; %s", round, len(now), len(was), note)
		}
		b.has("what was picked of others", "wind", "3:3 17:17 40:40")
	}
	b := tracks(t)
	if _, err := b.try(&pins.SmoothPins{Pins: at("wind", 3, 17), Tolerance: 2}, 0); err == nil || !strings.Contains(err.Error(), "three pins or more") {
		t.Error(err)
	}
}

func TestAPointGoesAtOneSpeed(t *testing.T) {
	b := tracks(t)
	places := map[int]scene.Value{4: scene.Pt(0, 0, 0), 9: scene.Pt(30, 40, 0), 31: scene.Pt(30, 190, 0), 54: scene.Pt(-270, 190, 0)}
	for _, f := range []int{4, 9, 31, 54} {
		b.c.Item("rig").Edit("position").Pins = append(b.c.Item("rig").Edit("position").Pins, scene.Pin{Frame: f, Value: places[f], Easing: curve.Linear})
	}
	var all []gesture.PinAt
	for f := range places {
		all = append(all, gesture.PinAt{Item: "rig", Property: "position", Frame: f})
	}
	b.do(&pins.EvenSpeed{Pins: all}, 0)
	// 50, 150 and 300 px of 500 in 50 frames.
	var frames []int
	for _, p := range b.c.Item("rig").State("position").Pins {
		frames = append(frames, p.Frame)
	}
	if got := fmt.Sprint(frames); got != "[4 9 24 54]" {
		t.Errorf("they come at %s", got)
	}
	plan := b.context(0).Plan()
	var last scene.Value
	for f := 4; f <= 54; f++ {
		plan.Evaluate(float64(f))
		now := plan.Own("rig", "position")
		if way := math.Hypot(now.At(0)-last.At(0), now.At(1)-last.At(1)); f > 4 && math.Abs(way-10) > 1e-9 {
			t.Errorf("up to frame %d it goes %g px", f, way)
		}
		last = now
	}
	if _, err := b.try(&pins.EvenSpeed{Pins: at("wind", 3, 17, 40)}, 0); err == nil || !strings.Contains(err.Error(), "of a point that moves") {
		t.Error(err)
	}
}

func TestSeveralHandsSetWhatTheyHold(t *testing.T) {
	b := tracks(t)
	b.c.Item("rig").Edit("position").Own = scene.Pt(7, 8, 9)
	one := func(property, component string, v float64) pins.Set {
		return pins.Set{Targets: []scene.Ref{{Item: "rig", Property: property, Component: component}}, Value: scene.Num(v)}
	}
	b.do(&pins.SetEach{Sets: []pins.Set{one("position", "x", -31), one("wind", "", 64), one("position", "z", 2)}}, 17)
	if v := b.c.Item("rig").State("position").Own; v != scene.Pt(-31, 8, 2) {
		t.Errorf("two components were set: %v", v)
	}
	b.has("pinned where it is", "wind", "3:3 17:64 40:40")
	if _, err := b.try(&pins.SetEach{Sets: []pins.Set{one("position", "x", 5), one("gone", "", 3)}}, 17); err == nil {
		t.Error("what is not there was set")
	}
}

func TestMarkersGoAlongWithTime(t *testing.T) {
	b := tracks(t)
	for _, f := range []int{41, 7, 23, 20} {
		b.do(&pins.AddMarker{}, f)
	}
	has := func(what, want string) {
		t.Helper()
		var out []string
		for _, m := range b.c.Markers {
			out = append(out, fmt.Sprintf("%s@%d", m.Name, m.Frame))
		}
		if got := strings.Join(out, ", "); got != want {
			t.Errorf("%s: %s, want %s", what, got, want)
		}
	}
	has("added", "Marker 2@7, Marker 4@20, Marker 3@23, Marker 1@41")
	if _, err := b.try(&pins.AddMarker{Name: "Again"}, 23); err == nil || !strings.Contains(err.Error(), "Marker 3 is at frame 23 already") {
		t.Error(err)
	}
	b.do(&pins.InsertTime{At: 20, Frames: 3}, 0)
	has("time put in", "Marker 2@7, Marker 4@23, Marker 3@26, Marker 1@44")
	b.do(&pins.InsertTime{At: 22, Frames: -4}, 0)
	has("time taken out", "Marker 2@7, Marker 3@22, Marker 1@40")
	b.do(&pins.InsertTime{At: 0, Frames: 9, Item: "rig"}, 0)
	has("of one drawer", "Marker 2@7, Marker 3@22, Marker 1@40")
	b.do(&pins.AddMarker{}, 3)
	has("a name that is free", "Marker 4@3, Marker 2@7, Marker 3@22, Marker 1@40")
}

func TestAPerformanceBecomesAPinAtEachFrame(t *testing.T) {
	b := tracks(t)
	r := b.do(&pins.Perform{Rows: []pins.Performance{
		{Ref: ref("rig", "wind"), Frames: []float64{9.5, 10.5, 10.75, 12, 14.5, 18.25}, Values: []scene.Value{scene.Num(20), scene.Num(30), scene.Num(34), scene.Num(44), scene.Num(44), scene.Num(59)}},
		{Ref: ref("rig", "glow"), Frames: []float64{29, 29.2}, Values: []scene.Value{scene.Num(7), scene.Num(9)}},
	}}, 0)
	b.has("performed", "wind", "3:3 10:25 11:36 12:44 13:44 14:44 15:46 16:50 17:54 18:58 40:40")
	b.has("within one frame", "glow", "8:1008 29:7")
	if !strings.Contains(r.Note, "2 controls into 10 pins") {
		t.Error(r.Note)
	}
	if p := b.c.Item("rig").State("wind").Pins; p[0].Easing == curve.Linear || p[1].Easing != curve.Linear || p[len(p)-1].Easing != curve.Smooth {
		t.Error("what lies beside a performance is eased otherwise")
	}
	// Added: how far the hand went from where it took it, on how it moved anyhow.
	moved := func(f int) float64 {
		plan := b.context(0).Plan()
		plan.Evaluate(float64(f))
		return plan.Own("rig", "tide").At(0)
	}
	was := map[int]float64{14: moved(14), 17: moved(17), 20: moved(20)}
	b.do(&pins.Perform{Adds: true, Rows: []pins.Performance{{Ref: ref("rig", "tide"), Frames: []float64{14, 20}, Values: []scene.Value{scene.Num(was[14] + 3), scene.Num(was[14] - 9)}}}}, 0)
	for f, by := range map[int]float64{14: 3, 17: -3, 20: -9} {
		if got := moved(f); got-was[f]-by > 1e-9 || got-was[f]-by < -1e-9 {
			t.Errorf("at frame %d it is %g, want %g", f, got, was[f]+by)
		}
	}
	if err := pins.Performable(b.context(0), ref("rig", "wind")); err != nil {
		t.Error(err)
	}
	b.c.Item("rig").Edit("wind").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Gain: 1, Source: ref("rig", "glow")}}
	if err := pins.Performable(b.context(0), ref("rig", "wind")); err == nil || !strings.Contains(err.Error(), "Wind is driven by Rig: Glow") {
		t.Error(err)
	}
	b.c.Item("rig").Edit("wind").Links = nil
	for what, g := range map[string]*pins.Perform{
		"nothing was performed":       {Rows: []pins.Performance{{Ref: ref("rig", "wind")}}},
		"order of their frames":       {Rows: []pins.Performance{{Ref: ref("rig", "wind"), Frames: []float64{3, 2}, Values: []scene.Value{scene.Num(1), scene.Num(2)}}}},
		"too long":                    {Rows: []pins.Performance{{Ref: ref("rig", "wind"), Frames: []float64{0, scene.MaxPins + 7}, Values: []scene.Value{scene.Num(1), scene.Num(2)}}}},
		"2 frames and 1 values":       {Rows: []pins.Performance{{Ref: ref("rig", "wind"), Frames: []float64{0, 9}, Values: []scene.Value{scene.Num(1)}}}},
		"no longer has that property": {Rows: []pins.Performance{{Ref: ref("rig", "gone"), Frames: []float64{0}, Values: []scene.Value{scene.Num(1)}}}},
		"item is no longer there":     {Rows: []pins.Performance{{Ref: ref("none", "wind"), Frames: []float64{0}, Values: []scene.Value{scene.Num(1)}}}},
	} {
		if _, err := b.try(g, 0); err == nil || !strings.Contains(err.Error(), what) {
			t.Errorf("%s: %v", what, err)
		}
	}
}
