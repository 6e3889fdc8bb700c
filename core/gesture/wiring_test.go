package gesture_test

import (
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

func ref(item scene.ID, property string) scene.Ref { return scene.Ref{Item: item, Property: property} }

// desk is a null with a percent slider, a 2D point and a menu, two rectangles and a light.
func desk(t *testing.T) *bench {
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "go", Name: "Go", Kind: scene.Fader, Unit: scene.Percent, SoftMax: 100, Default: scene.Num(0)},
		{ID: "spot", Name: "Spot", Kind: scene.PointWidget, SoftMin: -500, SoftMax: 500, Default: scene.Pt(3, 4)},
		{ID: "mode", Name: "Mode", Kind: scene.ChoiceWidget, Options: []string{"calm", "storm"}, Default: scene.Num(0)},
	}}
	return newBench(t, rig, item("a", scene.Rectangle, 10, 20, 100), item("b", scene.Rectangle, 50, 0, 100), item("lamp", scene.PointLight, 0, 0, 100))
}

// shown returns a property at a frame, with poses.
func (b *bench) shown(of scene.Ref, frame float64, poses ...gesture.Pose) string {
	plan := engine.New(b.c)
	for _, p := range poses {
		plan.Pose(p.Ref, p.Value)
	}
	plan.Evaluate(frame)
	return plan.Value(of).String()
}

// pose makes a gesture while properties are posed.
func (b *bench) posed(g gesture.Gesture, poses ...gesture.Pose) (gesture.Result, error) {
	b.t.Helper()
	c := b.context(0)
	for _, p := range poses {
		c.Plan().Pose(p.Ref, p.Value)
	}
	c.Plan().Evaluate(0)
	r, err := g.Do(c)
	if err == nil {
		b.do(&gesture.Operations{Ops: r.Ops}, 0)
	}
	return r, err
}

func (b *bench) set(of scene.Ref, x ...float64) {
	b.c.Item(of.Item).Edit(of.Property).Own = scene.NewValue(x)
}

func TestLinkMatchesOrGoesOnFromHere(t *testing.T) {
	b := desk(t)
	b.set(ref("rig", "go"), 30)
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("a", "rotation")}}, 0)
	if got := b.shown(ref("a", "rotation"), 0) + b.shown(ref("rig", "go"), 0); got != "2020" {
		t.Errorf("a control that drove nothing takes over the rotation: %s", got)
	}
	b.set(ref("rig", "go"), 30)
	if got := b.shown(ref("a", "rotation"), 0); got != "30" {
		t.Errorf("matched, the rotation is %s", got)
	}
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("b", "rotation"), ref("b", "opacity")}, FromHere: true}, 0)
	b.do(&wiring.Link{Source: ref("rig", "spot"), Targets: []scene.Ref{ref("b", "position")}, FromHere: true}, 0)
	if got := b.shown(ref("b", "rotation"), 0) + b.shown(ref("b", "position"), 0); got != "0[50, 25, 0]" {
		t.Errorf("from here, they jumped to %s", got)
	}
	b.set(ref("rig", "go"), 37)
	b.set(ref("rig", "spot"), 5, 1)
	if got := b.shown(ref("b", "rotation"), 0) + b.shown(ref("b", "position"), 0); got != "7[52, 22, 0]" {
		t.Errorf("from here on they go to %s", got)
	}
}

// From one percent slider, two properties with spans of their own, by poses and marks alone.
func TestMarksMakeSpans(t *testing.T) {
	b := desk(t)
	r := b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("a", "rotation"), ref("b", "fill")}, Kind: scene.Map}, 0)
	if b.shown(ref("a", "rotation"), 0) != "20" || !strings.Contains(r.Note, "until you set") {
		t.Errorf("a new map moves its target to %s; %q", b.shown(ref("a", "rotation"), 0), r.Note)
	}
	mark := func(at float64, which string, target scene.Ref, value scene.Value) {
		t.Helper()
		b.set(ref("rig", "go"), at)
		r, err := b.posed(&poses.Mark{Targets: []scene.Ref{target}, Which: which}, gesture.Pose{Ref: target, Value: value})
		if err != nil {
			t.Fatal(err)
		}
		if len(r.Poses) != 1 || !r.Poses[0].Value.Absent() {
			t.Errorf("the pose stays: %v", r.Poses)
		}
	}
	mark(20, "low", ref("a", "rotation"), scene.Num(0))
	mark(60, "high", ref("a", "rotation"), scene.Num(80))
	mark(40, "here", ref("a", "rotation"), scene.Num(60))
	mark(0, "low", ref("b", "fill"), scene.RGBA(0, 0, 0, 1))
	mark(100, "high", ref("b", "fill"), scene.RGBA(1, 1, 0, 1))
	for at, want := range map[float64]string{0: "0[0, 0, 0, 1]", 20: "0[0.2, 0.2, 0, 1]", 30: "30[0.3, 0.3, 0, 1]", 40: "60[0.4, 0.4, 0, 1]", 90: "80[0.9, 0.9, 0, 1]"} {
		b.set(ref("rig", "go"), at)
		if got := b.shown(ref("a", "rotation"), 0) + b.shown(ref("b", "fill"), 0); got != want {
			t.Errorf("at %g: %s, want %s", at, got, want)
		}
	}
	for says, g := range map[string]gesture.Gesture{
		"nothing drives opacity yet": &poses.Mark{Targets: []scene.Ref{ref("a", "opacity")}, Which: "low"},
		"is no longer there":         &poses.Mark{Targets: []scene.Ref{ref("gone", "rotation")}, Which: "low"},
	} {
		b.set(ref("rig", "go"), 90)
		if _, err := b.try(g, 0); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %q", err, says)
		}
	}
}

// A mark that would meet the other one moves a control to its other end itself; what else is a source has to be moved.
func TestAMarkMovesItsControlAway(t *testing.T) {
	b := desk(t)
	to := []scene.Ref{ref("a", "rotation")}
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: to, Kind: scene.Map}, 0)
	for _, m := range []struct {
		which string
		value float64
	}{{"low", -30}, {"high", 60}} {
		if _, err := b.posed(&poses.Mark{Targets: to, Which: m.which}, gesture.Pose{Ref: to[0], Value: scene.Num(m.value)}); err != nil {
			t.Fatal(err)
		}
	}
	if got := b.shown(ref("rig", "go"), 0) + b.shown(to[0], 0); got != "10060" {
		t.Errorf("marked low and high at once, the control and what it drives are at %s", got)
	}
	b.set(ref("rig", "go"), 0)
	if got := b.shown(to[0], 0); got != "-30" {
		t.Errorf("and at its low end %s", got)
	}
	b.do(&wiring.Link{Source: ref("b", "rotation"), Targets: []scene.Ref{ref("lamp", "intensity")}, Kind: scene.Map}, 0)
	b.set(ref("b", "rotation"), 360)
	if _, err := b.try(&poses.Mark{Targets: []scene.Ref{ref("lamp", "intensity")}, Which: "low"}, 0); err == nil || !strings.Contains(err.Error(), "must come before the next stop") {
		t.Errorf("a rotation was moved: %v", err)
	}
}

// A map that was made of a follow link gives what that gave, as far as its source reaches, and holds beyond.
func TestAFollowBecomesAMap(t *testing.T) {
	b := desk(t)
	for _, to := range []scene.Ref{ref("a", "rotation"), ref("a", "position"), ref("b", "opacity")} {
		b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{to}}, 0)
		l := b.c.Item(to.Item).State(to.Property).Links[0].Clone()
		l.Gain, l.Offset = 0.75, 3
		b.do(&gesture.Operations{Ops: change.Ops{&change.LinkSet{Of: change.Of{On: change.On{In: change.In{Composition: b.c.ID}, Item: to.Item}, Property: to.Property}, Link: l}}}, 0)
		at := func() (out []string) {
			for _, x := range []float64{0, 20, 100, 128} {
				b.set(ref("rig", "go"), x)
				out = append(out, b.shown(to, 0))
			}
			return out
		}
		was := fmt.Sprint(at())
		b.do(&wiring.ToMap{Targets: []scene.Ref{to}, Link: l.ID}, 0)
		if now := fmt.Sprint(at()); now != was || b.c.Item(to.Item).State(to.Property).Links[0].Kind != scene.Map {
			t.Errorf("%s: %s, and as a map %s", to.Property, was, now)
		}
		held := b.shown(to, 0)
		if b.set(ref("rig", "go"), 400); b.shown(to, 0) != held {
			t.Errorf("%s: beyond what its source reached it is %s, not %s", to.Property, b.shown(to, 0), held)
		}
	}
}

// A follow that becomes a map reaches as far as the pins of its source do.
func TestAMapReachesAsFarAsThePinsOfItsSource(t *testing.T) {
	b := desk(t)
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("a", "rotation")}}, 0)
	b.c.Item("rig").Edit("go").Pins = []scene.Pin{{Frame: 3, Value: scene.Num(7), Easing: curve.Linear}, {Frame: 90, Value: scene.Num(-43), Easing: curve.Linear}, {Frame: 95, Value: scene.Num(117), Easing: curve.Linear}}
	was := b.shown(ref("a", "rotation"), 90) + " " + b.shown(ref("a", "rotation"), 95)
	b.do(&wiring.ToMap{Targets: []scene.Ref{ref("a", "rotation")}, Link: b.c.Item("a").State("rotation").Links[0].ID}, 0)
	if now := b.shown(ref("a", "rotation"), 90) + " " + b.shown(ref("a", "rotation"), 95); now != was || now != "-43 117" {
		t.Errorf("at its pins it is %s, was %s", now, was)
	}
}

// Links change nothing in the picture when they are made: a control takes over what it is to drive.
func TestANewLinkChangesNothing(t *testing.T) {
	b := desk(t)
	b.set(ref("b", "rotation"), 1000)
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("b", "rotation")}}, 0)
	control := b.c.Item("rig").Controls[0]
	if got := b.shown(ref("b", "rotation"), 0); got != "1000" || control.SoftMin > 1000 || control.SoftMax < 1000 {
		t.Errorf("the rotation is %s, and the control runs from %g to %g", got, control.SoftMin, control.SoftMax)
	}
	was := b.shown(ref("a", "position"), 0)
	b.do(&wiring.Link{Source: ref("rig", "spot"), Targets: []scene.Ref{ref("a", "position")}}, 0)
	if got := b.shown(ref("a", "position"), 0); got != was {
		t.Errorf("the position went from %s to %s", was, got)
	}
	was = b.shown(ref("a", "fill"), 0)
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("a", "fill")}}, 0)
	if got := b.shown(ref("a", "fill"), 0); got != was || b.c.Item("a").State("fill").Links[0].Kind != scene.Map {
		t.Errorf("the colour went from %s to %s", was, got)
	}
	b.do(&wiring.AddControl{Item: "rig", Control: scene.Control{Kind: scene.SwitchWidget, Name: "Lit"}}, 0)
	lit := ref("rig", string(b.c.Item("rig").Controls[3].ID))
	b.set(ref("lamp", "intensity"), 70)
	b.do(&wiring.Link{Source: lit, Targets: []scene.Ref{ref("lamp", "intensity")}}, 0)
	on := b.shown(ref("lamp", "intensity"), 0)
	b.set(lit, 0)
	if off := b.shown(ref("lamp", "intensity"), 0); on != "70" || off != "0" {
		t.Errorf("a switch makes %s of 70 when it is on, and %s when it is off", on, off)
	}
}

func TestAMarkMakesAMapOfAFollow(t *testing.T) {
	b := desk(t)
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("a", "rotation")}}, 0)
	if _, err := b.posed(&poses.Mark{Targets: []scene.Ref{ref("a", "rotation")}, Which: "low"}, gesture.Pose{Ref: ref("a", "rotation"), Value: scene.Num(-45)}); err != nil {
		t.Fatal(err)
	}
	l := b.c.Item("a").State("rotation").Links[0]
	if l.Kind != scene.Map || l.Stops[0].Out.At(0) != -45 || l.Stops[0].In != 20 {
		t.Errorf("the link is a %s with %v", l.Kind, l.Stops)
	}
}

func TestPosesAreKeptAsOffsetOrOwnValueOrDropped(t *testing.T) {
	b := desk(t)
	b.set(ref("rig", "go"), 10)
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("a", "rotation")}}, 0)
	b.do(&wiring.Link{Source: ref("rig", "spot"), Targets: []scene.Ref{ref("a", "position")}}, 0)
	b.set(ref("rig", "go"), 10)
	r := b.do(&pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(70)}, 0)
	if len(r.Ops) != 0 || len(r.Poses) != 1 {
		t.Fatalf("setting a driven property made %v and %v", r.Ops, r.Poses)
	}
	if _, err := b.posed(&poses.UsePose{Targets: []scene.Ref{ref("a", "rotation")}, As: "offset"}, gesture.Pose{Ref: ref("a", "rotation"), Value: scene.Num(70)}); err != nil {
		t.Fatal(err)
	}
	if _, err := b.posed(&poses.UsePose{Targets: []scene.Ref{ref("a", "position")}, As: "offset"}, gesture.Pose{Ref: ref("a", "position"), Value: scene.Pt(100, 0, 5)}); err != nil {
		t.Fatal(err)
	}
	if got := b.shown(ref("a", "rotation"), 0) + b.shown(ref("a", "position"), 0); !strings.HasPrefix(got, "70[100, 0, ") {
		t.Errorf("with their new offsets: %s", got)
	}
	b.set(ref("rig", "go"), 11)
	if got := b.shown(ref("a", "rotation"), 0); got != "71" {
		t.Errorf("and it follows on to %s", got)
	}
	if _, err := b.posed(&poses.UsePose{Targets: []scene.Ref{ref("a", "rotation")}, As: "own"}, gesture.Pose{Ref: ref("a", "rotation"), Value: scene.Num(5)}); err != nil || b.c.Item("a").State("rotation").Own.At(0) != 5 {
		t.Errorf("the own value is %s (%v)", b.c.Item("a").State("rotation").Own, err)
	}
}

// What is pinned is pinned anew, since pins hide the own value; and what a link adds stays added.
func TestAPoseIsKeptUnderPinsAndUnderLinksThatAdd(t *testing.T) {
	b := desk(t)
	b.set(ref("rig", "go"), 13)
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("a", "rotation")}, FromHere: true}, 0)
	state := b.c.Item("a").Edit("rotation")
	state.Links[0].Operation, state.Links[0].Offset = scene.Plus, 0
	state.Pins = []scene.Pin{{Frame: 0, Value: scene.Num(20), Easing: curve.Linear}, {Frame: 40, Value: scene.Num(60), Easing: curve.Linear}}
	if got := b.shown(ref("a", "rotation"), 0); got != "33" {
		t.Fatalf("20 and 13 make %s", got)
	}
	r, err := b.posed(&poses.UsePose{Targets: []scene.Ref{ref("a", "rotation")}, As: "own"}, gesture.Pose{Ref: ref("a", "rotation"), Value: scene.Num(47)})
	if err != nil || r.Note != "" {
		t.Errorf("kept with %q (%v)", r.Note, err)
	}
	if got := b.shown(ref("a", "rotation"), 0) + " " + b.shown(ref("a", "rotation"), 40); got != "47 73" {
		t.Errorf("kept, it shows %s, want 47 and 73 as before", got)
	}
	state = b.c.Item("a").Edit("rotation")
	state.Links[0].Operation = scene.Replace
	r, err = b.posed(&poses.UsePose{Targets: []scene.Ref{ref("a", "rotation")}, As: "own"}, gesture.Pose{Ref: ref("a", "rotation"), Value: scene.Num(-8)})
	if err != nil || !strings.Contains(r.Note, "is pinned under its links; it shows where Rig: Go doesn’t drive it") {
		t.Errorf("under a link that hides it: %q (%v)", r.Note, err)
	}
	if got := b.c.Item("a").State("rotation").Pins[0].Value; got != scene.Num(-8) {
		t.Errorf("the pin is at %s", got)
	}
}

func TestGatherTakesValuesPinsAndLimitsOver(t *testing.T) {
	b := desk(t)
	b.c.Item("lamp").Edit("intensity").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(10), Easing: curve.Linear}, {Frame: 100, Value: scene.Num(60), Easing: curve.Linear}}
	before := ""
	for f := range 5 {
		before += b.shown(ref("lamp", "intensity"), float64(25*f)) + b.shown(ref("a", "fill"), 0) + b.shown(ref("b", "opacity"), 0) + " "
	}
	r := b.do(&wiring.Gather{Refs: []scene.Ref{ref("lamp", "intensity"), ref("a", "fill"), ref("b", "opacity"), ref("a", "cap"), ref("a", "lit"), ref("lamp", "position")}, Onto: "rig"}, 0)
	after := ""
	for f := range 5 {
		after += b.shown(ref("lamp", "intensity"), float64(25*f)) + b.shown(ref("a", "fill"), 0) + b.shown(ref("b", "opacity"), 0) + " "
	}
	if before != after {
		t.Errorf("before %s\nafter %s", before, after)
	}
	rig := b.c.Item("rig")
	control := rig.Control(r.Made[0])
	if control.Name != "lamp intensity" || control.Unit != scene.Percent || *control.Min != 0 || len(rig.State(string(control.ID)).Pins) != 2 || len(b.c.Item("lamp").State("intensity").Pins) != 0 {
		t.Errorf("the control is %+v", control)
	}
	if kinds := fmt.Sprint(rig.Control(r.Made[1]).Kind, rig.Control(r.Made[3]).Kind, rig.Control(r.Made[4]).Kind, rig.Control(r.Made[5]).Kind, rig.Control(r.Made[5]).Depth); kinds != "colourchoiceswitchpointtrue" {
		t.Errorf("the controls are %s", kinds)
	}
	if _, err := b.try(&wiring.Gather{Refs: []scene.Ref{ref("a", "fill")}, Onto: "rig"}, 0); err == nil || !strings.Contains(err.Error(), "already driven") {
		t.Errorf("gathered twice: %v", err)
	}
}

func TestTurnRoundCopyAndFit(t *testing.T) {
	b := desk(t)
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("a", "rotation")}}, 0)
	l := b.c.Item("a").State("rotation").Links[0]
	l.Gain, l.Offset = 4, 20
	b.set(ref("rig", "go"), 10)
	b.do(&wiring.FitRanges{Targets: []scene.Ref{ref("a", "rotation")}, Link: l.ID}, 0)
	if got := b.c.Item("a").State("rotation").Links[0]; got.Gain != 3.6 || got.Offset != -180 {
		t.Errorf("fitted to gain %g, offset %g", got.Gain, got.Offset)
	}
	*b.c.Item("a").State("rotation").Links[0] = *l
	r := b.do(&wiring.PasteLink{Link: *l, Targets: []scene.Ref{ref("b", "opacity"), ref("b", "fill"), ref("b", "scale")}}, 0)
	if len(r.Ops) != 3 || b.shown(ref("b", "scale"), 0) != "[60, 60, 60]" {
		t.Errorf("pasted %d times; %s", len(r.Ops), b.shown(ref("b", "scale"), 0))
	}
	b.do(&wiring.TurnRound{Target: ref("a", "rotation"), Link: l.ID}, 0)
	if got := b.shown(ref("a", "rotation"), 0) + " " + b.shown(ref("rig", "go"), 0); got != "60 10" {
		t.Errorf("turned round: %s", got)
	}
	b.set(ref("a", "rotation"), 100)
	if got := b.shown(ref("rig", "go"), 0); got != "20" {
		t.Errorf("the slider follows to %s", got)
	}
}

// One control that drives five hundred properties goes with one step, and comes back with one.
func TestAControlThatDrivesFiveHundredComesBack(t *testing.T) {
	b := desk(t)
	var targets []scene.Ref
	for i := range 500 {
		id := scene.ID(fmt.Sprintf("x%d", i))
		b.c.Items = append(b.c.Items, item(id, scene.Ellipse, 0, 0, 100))
		targets = append(targets, ref(id, "opacity"))
	}
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: targets}, 0)
	b.set(ref("rig", "go"), 40)
	inverse, _, err := change.Apply(b.p, change.Ops{&change.ControlRemove{On: change.On{In: change.In{Composition: b.c.ID}, Item: "rig"}, Control: "go"}})
	if err != nil {
		t.Fatal(err)
	}
	if got := b.shown(targets[499], 0); got != "100" {
		t.Errorf("without its control, the opacity is %s", got)
	}
	if _, _, err := change.Apply(b.p, inverse); err != nil {
		t.Fatal(err)
	}
	if got := b.shown(targets[499], 0); got != "40" {
		t.Errorf("with it again, %s", got)
	}
}

func TestAControlIsCopiedWithAndWithoutItsWiring(t *testing.T) {
	b := desk(t)
	b.set(ref("rig", "go"), 30)
	b.do(&wiring.AddControl{Item: "a", Control: scene.Control{Kind: scene.Fader, Name: "Turn"}}, 0)
	turn := b.c.Item("a").Controls[0].ID
	b.set(ref("a", string(turn)), 12)
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("a", string(turn))}}, 0)
	b.set(ref("rig", "go"), 30)
	b.do(&wiring.Link{Source: ref("a", string(turn)), Targets: []scene.Ref{ref("a", "rotation"), ref("lamp", "intensity")}}, 0)

	b.do(&wiring.CopyControl{Item: "a", Control: turn, Onto: "rig"}, 0)
	bare := b.c.Item("rig").Controls[3]
	if got := b.shown(ref("rig", string(bare.ID)), 0); bare.Name != "Turn" || got != "12" {
		t.Errorf("the copy is %s at %s", bare.Name, got)
	}
	b.do(&wiring.CopyControl{Item: "a", Control: turn, Onto: "b", Wired: true}, 0)
	wired := ref("b", string(b.c.Item("b").Controls[0].ID))
	if got := b.shown(wired, 0); got != "30" {
		t.Errorf("what drives the control drives the copy: %s", got)
	}
	if l := b.c.Item("b").State("rotation").Links; len(l) != 1 || l[0].Source != wired {
		t.Errorf("where it drove its own item, the copy drives its own: %v", l)
	}
	if l := b.c.Item("lamp").State("intensity").Links; len(l) != 2 || l[1].Source != wired {
		t.Errorf("elsewhere it comes on top: %v", l)
	}
	if r, err := b.posed(&wiring.CopyControl{Item: "a", Control: turn, Onto: "lamp", Wired: true}); err != nil || r.Note != "" {
		t.Errorf("a lamp has a rotation, too: %q, %v", r.Note, err)
	}
}

func TestAFormulaIsWrittenSpreadAndBaked(t *testing.T) {
	b := desk(t)
	b.do(&wiring.Formula{Targets: []scene.Ref{ref("a", "rotation"), ref("b", "rotation")}, Text: "frame * 2 + {Rig: Go}"}, 0)
	if got := b.shown(ref("b", "rotation"), 10); got != "20" {
		t.Errorf("at 10 it is %s", got)
	}
	l := b.c.Item("a").State("rotation").Links[0]
	b.do(&wiring.Formula{Targets: []scene.Ref{ref("a", "rotation")}, Text: "frame *", Link: l.ID}, 0)
	if l = b.c.Item("a").State("rotation").Links[0]; l.Draft != "frame *" || b.shown(ref("a", "rotation"), 10) != "20" {
		t.Errorf("what does not check is kept, and the version before goes on: %+v", l)
	}
	b.do(&wiring.Formula{Targets: []scene.Ref{ref("a", "rotation")}, Text: "frame * {self: opacity} / 10", Link: l.ID}, 0)

	// RosterLink over both, then one of them baked.
	b.do(&wiring.Spread{Targets: []scene.Ref{ref("a", "rotation"), ref("b", "rotation")}, Link: l.ID}, 0)
	s := b.c.RosterLinks[0]
	if len(s.Members(b.c)) != 2 || len(b.c.Item("a").State("rotation").Links) != 0 {
		t.Fatalf("the link is spread over %d", len(s.Members(b.c)))
	}
	b.c.Item("b").State("rotation").Links = nil
	live := b.shown(ref("b", "rotation"), 37)
	b.do(&pins.Bake{Targets: []scene.Ref{ref("a", "rotation")}, From: 0, To: 99, Tolerance: 0.01}, 0)
	if pins := b.c.Item("a").State("rotation").Pins; len(pins) != 2 || b.shown(ref("a", "rotation"), 37) != live || live != "370" {
		t.Errorf("baked to %d pins it is %s, and its neighbour %s", len(pins), b.shown(ref("a", "rotation"), 37), live)
	}
	if b.c.RosterLinks[0].Drives(scene.Member{Item: b.c.Item("a")}) || !b.c.RosterLinks[0].Drives(scene.Member{Item: b.c.Item("b")}) {
		t.Error("the one that is baked opts out, and no other")
	}
	b.do(&wiring.RosterFormula{RosterLink: s.ID, Text: "number * {Rig: Go} + 1"}, 0)
	b.set(ref("rig", "go"), 10)
	if got := b.shown(ref("b", "rotation"), 0); got != "21" {
		t.Errorf("another formula on the roster gives %s", got)
	}
	// A roster whose weight is a slider.
	weighed := b.c.RosterLinks[0].Clone()
	weighed.WeightFrom = &scene.Ref{Item: "rig", Property: "go"}
	b.do(&gesture.Operations{Ops: change.Ops{&change.RosterLinkSet{In: change.In{Composition: b.c.ID}, Value: weighed}}}, 0)
	b.set(ref("rig", "go"), 50)
	if got := b.shown(ref("b", "rotation"), 0); got != "50.5" { // half of 2 × 50 + 1
		t.Errorf("at half its weight the roster gives %s", got)
	}
	// The bake undone: its pins are away, and the one that was baked takes part again, whatever was done meanwhile.
	b.do(&pins.UndoBake{Targets: []scene.Ref{ref("a", "rotation")}}, 0)
	if state := b.c.Item("a").State("rotation"); len(state.Pins) != 0 || state.Baked != nil || b.shown(ref("a", "rotation"), 0) != "35.5" {
		t.Errorf("undone, it is %s with %d pins", b.shown(ref("a", "rotation"), 0), len(state.Pins))
	}
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: []scene.Ref{ref("b", "opacity")}}, 0)
	b.c.Item("b").Edit("opacity").Pins = []scene.Pin{{Frame: 4, Value: scene.Num(9), Easing: "linear"}}
	b.do(&pins.Bake{Targets: []scene.Ref{ref("b", "opacity")}, From: 0, To: 20, Tolerance: 0.01}, 0)
	if l := b.c.Item("b").State("opacity").Links[0]; !l.Off {
		t.Error("the link of what is baked is off")
	}
	b.do(&pins.UndoBake{Targets: []scene.Ref{ref("b", "opacity")}}, 0)
	if state := b.c.Item("b").State("opacity"); state.Links[0].Off || len(state.Pins) != 1 || state.Pins[0].Frame != 4 {
		t.Errorf("undone, there are the pins %v", state.Pins)
	}
	if _, err := b.posed(&pins.UndoBake{Targets: []scene.Ref{ref("b", "opacity")}}); err == nil {
		t.Error("it was baked once, and undone once")
	}
	if _, err := b.posed(&pins.Bake{Targets: []scene.Ref{ref("a", "opacity")}, To: 9}); err == nil {
		t.Error("nothing drives the opacity")
	}
}

func TestDuplicatesTakeTheirFormulasAlong(t *testing.T) {
	b := desk(t)
	b.do(&wiring.Formula{Targets: []scene.Ref{ref("a", "opacity")}, Text: "{b: rotation} + {Rig: Go}"}, 0)
	b.do(&copies.Duplicate{Items: []scene.ID{"a", "b"}}, 0)
	var copies []*scene.Item
	for _, item := range b.c.Items {
		if item.ID != "a" && item.ID != "b" && item.Kind == scene.Rectangle {
			copies = append(copies, item)
		}
	}
	b.set(ref("rig", "go"), 7)
	for _, item := range copies {
		item.Edit("rotation").Own = scene.Num(30)
	}
	got := b.shown(ref(copies[0].ID, "opacity"), 0)
	if got != "37" || b.shown(ref("a", "opacity"), 0) != "7" {
		t.Errorf("the copy refers to the copy, and outside to what is there: %s", got)
	}
}

func TestAFormulaIsSpreadOverVertices(t *testing.T) {
	b := desk(t)
	b.c.Items = append(b.c.Items, &scene.Item{ID: "rope", Name: "Rope", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 5, At: [2]float64{10, 2}}, {ID: 3, At: [2]float64{20, 0}}}}}}})
	r := b.do(&wiring.Spread{Targets: []scene.Ref{{Item: "rope", Property: "vertex5", Component: "y"}}, Text: "own + index * 10"}, 0)
	if got := b.shown(ref("rope", "vertex1"), 0) + b.shown(ref("rope", "vertex5"), 0) + b.shown(ref("rope", "vertex3"), 0); got != "[0, 0][10, 12][20, 20]" {
		t.Errorf("the vertices are at %s", got)
	}
	if s := b.c.RosterLinks[0]; s.Name != "vertices of Rope" || s.ID != r.Made[0] {
		t.Errorf("it is named %s", s.Name)
	}
	live := b.shown(ref("rope", "vertex3"), 0)
	b.do(&pins.Bake{Targets: []scene.Ref{ref("rope", "vertex5")}, From: 0, To: 9, Tolerance: 0.01}, 0)
	if len(b.c.RosterLinks[0].Out) != 1 || b.c.RosterLinks[0].Out[0] != "vertex5" || b.shown(ref("rope", "vertex5"), 0) != "[10, 12]" || b.shown(ref("rope", "vertex3"), 0) != live {
		t.Errorf("baked, %v opted out", b.c.RosterLinks[0].Out)
	}
}

// A weight goes along wherever its link is copied, split or spread.
func TestWeightsFollowTheirLinks(t *testing.T) {
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "amount", Name: "Amount", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(50)}}}
	made := func() *bench {
		b := newBench(t, item("a", scene.Rectangle, 0, 0, 100), item("b", scene.Rectangle, 9, 0, 100), rig.Clone())
		a := b.c.Item("a")
		a.Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: ref("rig", "amount"), Gain: 1}}
		a.Edit("position").Links = []*scene.Link{{ID: "p", Kind: scene.Follow, Source: ref("b", "position"), Gain: 1}}
		a.Edit(scene.WeightKey("l")).Links = []*scene.Link{{ID: "w", Kind: scene.Follow, Source: ref("rig", "amount"), Gain: 1}}
		a.Edit(scene.WeightKey("w")).Own = scene.Num(30)
		a.Edit(scene.WeightKey("p")).Own = scene.Num(20)
		return b
	}
	weights := func(b *bench, id scene.ID) (n int) {
		for key := range b.c.Item(id).States {
			if _, ok := scene.WeightOf(key); ok {
				n++
			}
		}
		return n
	}
	whole := func(b *bench) {
		t.Helper()
		if err := b.p.Check(); err != nil {
			t.Error(err)
		}
	}
	b := made()
	copied := b.do(&copies.Duplicate{Items: []scene.ID{"a"}}, 0).Made[0]
	if whole(b); weights(b, copied) != 3 {
		t.Errorf("the copy has %d weights", weights(b, copied))
	}
	b = made()
	clip := copies.Take("p", b.c, []scene.ID{"a"})
	for _, item := range b.c.Items {
		item.Name += ", called otherwise"
	}
	b.c.Renamed()
	clip.Composition = "elsewhere" // links that lead out of the clip are left out, with their weights
	pasted := b.do(&copies.Paste{Clip: clip}, 0).Made[0]
	if whole(b); weights(b, pasted) != 0 {
		t.Errorf("pasted elsewhere it has %d weights", weights(b, pasted))
	}
	b = made()
	b.do(&wiring.CopyControl{Item: "rig", Control: "amount", Onto: "b", Wired: true}, 0)
	if whole(b); weights(b, "a") != 5 {
		t.Errorf("with a copy of what drives it there are %d weights", weights(b, "a"))
	}
	b = made()
	b.do(&wiring.TurnRound{Target: ref("a", "rotation"), Link: "l"}, 0)
	if whole(b); weights(b, "rig") != 0 || weights(b, "a") != 1 {
		t.Errorf("turned round: %d and %d weights", weights(b, "rig"), weights(b, "a"))
	}
	b = made()
	b.do(&wiring.Spread{Targets: []scene.Ref{ref("a", "rotation"), ref("b", "rotation")}, Link: "l"}, 0)
	if whole(b); b.c.RosterLinks[0].WeightFrom != nil && b.c.RosterLinks[0].WeightFrom.Property != "amount" || weights(b, "a") != 1 {
		t.Errorf("spread: %+v, %d weights are left", b.c.RosterLinks[0], weights(b, "a"))
	}
	if b.do(&copies.Paste{Clip: copies.Clip{Items: []*scene.Item{b.c.Items[0].Clone()}}}, 0); weights(b, "b") != 0 {
		t.Error("weights came from nowhere")
	}
	if _, err := b.try(&copies.Paste{Clip: copies.Clip{Items: []*scene.Item{nil}}}, 0); err == nil {
		t.Error("a clip with nothing in it is pasted")
	}
}

// A link that is spread over what is selected takes the place of the single links there.
func TestSpreadReplacesSingleLinks(t *testing.T) {
	b := newBench(t, item("a", scene.Rectangle, 0, 0, 100), item("b", scene.Rectangle, 9, 0, 100), item("c", scene.Rectangle, 9, 40, 100))
	b.do(&wiring.Link{Source: ref("c", "rotation"), Targets: []scene.Ref{ref("a", "rotation"), ref("b", "rotation")}, Single: true}, 0)
	r := b.do(&wiring.Spread{Targets: []scene.Ref{ref("a", "rotation"), ref("b", "rotation")}, Link: b.c.Item("a").State("rotation").Links[0].ID}, 0)
	if len(b.c.Item("a").State("rotation").Links)+len(b.c.Item("b").State("rotation").Links) > 0 || !strings.Contains(r.Note, "replaces 1 link") {
		t.Errorf("single links are left (%s)", r.Note)
	}
	if b.shown(ref("b", "rotation"), 0) != "40" {
		t.Errorf("b is at %s", b.shown(ref("b", "rotation"), 0))
	}
}

// A formula that several items share is changed on all of them at once, whatever their links are called, and so are
// ranges fitted; other links stay.
func TestLinksThatAreAlikeAreEditedTogether(t *testing.T) {
	b := desk(t)
	targets := []scene.Ref{ref("a", "rotation"), ref("b", "rotation")}
	b.do(&wiring.Formula{Targets: targets, Text: "index + 1"}, 0)
	b.do(&wiring.Formula{Targets: targets[1:], Text: "below * 2"}, 0)
	l := b.c.Item("a").State("rotation").Links[0]
	if r := b.do(&wiring.Formula{Targets: targets, Text: "index + 5", Link: l.ID}, 0); len(r.Ops) != 2 {
		t.Errorf("%d operations", len(r.Ops))
	}
	on := b.c.Item("b").State("rotation").Links
	if b.c.Item("a").State("rotation").Links[0].Formula != on[0].Formula || on[1].Formula != "below * 2" || len(on) != 2 {
		t.Errorf("on the second are %s and %s", on[0].Formula, on[1].Formula)
	}
	wired := []scene.Ref{ref("a", "opacity"), ref("b", "opacity")}
	b.do(&wiring.Link{Source: ref("rig", "go"), Targets: wired, Single: true}, 0)
	for _, id := range []scene.ID{"a", "b"} {
		b.c.Item(id).State("opacity").Links[0].Gain = 7
	}
	b.do(&wiring.FitRanges{Targets: wired, Link: b.c.Item("a").State("opacity").Links[0].ID}, 0)
	for _, id := range []scene.ID{"a", "b"} {
		if gain := b.c.Item(id).State("opacity").Links[0].Gain; gain != 1 {
			t.Errorf("%s has a gain of %g", id, gain)
		}
	}
}
