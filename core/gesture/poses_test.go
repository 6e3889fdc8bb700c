package gesture_test

import (
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// into makes a gesture while a stop is posed, the control shown there.
func (b *bench) into(at poses.AtStop, g gesture.Gesture) {
	b.t.Helper()
	shown, err := (&poses.PoseStop{AtStop: at}).Do(b.context(0))
	if err != nil {
		b.t.Fatal(err)
	}
	c := b.context(0)
	for _, p := range shown.Poses {
		c.Plan().Pose(p.Ref, p.Value)
	}
	c.Plan().Evaluate(0)
	r, err := g.Do(c)
	if err == nil {
		r, err = poses.IntoStop(c, r, &at)
	}
	if err != nil {
		b.t.Fatal(err)
	}
	b.do(&gesture.Operations{Ops: r.Ops}, 0)
}

func TestPosesAreShownMixedAndTurnedIntoAChoice(t *testing.T) {
	b := desk(t)
	r := b.do(&wiring.AddControl{Item: "rig", Control: scene.Control{Kind: scene.Fader, Name: "Dusk", SoftMax: 100, Unit: scene.Percent, Poses: []scene.PoseStop{{Name: "noon"}, {Name: "night"}}}}, 0)
	dusk := ref("rig", string(r.Made[0]))
	control := func() *scene.Control { return b.c.Item("rig").Control(scene.ID(dusk.Property)) }
	at := func(k int) poses.AtStop {
		return poses.AtStop{Item: "rig", Control: control().ID, Stop: control().Poses[k].ID}
	}
	if s := control().Poses; len(s) != 2 || s[0].At != 0 || s[1].At != 100 {
		t.Fatalf("the stops are %+v", s)
	}
	was := b.shown(ref("a", "rotation"), 0)
	b.into(at(1), &pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(80)})
	b.into(at(1), &pins.Set{Targets: []scene.Ref{ref("a", "fill")}, Value: scene.RGBA(0, 0, 1, 1)})
	if got := b.shown(ref("a", "rotation"), 0); got != was {
		t.Errorf("at the other stop it is %s, not %s as it was", got, was)
	}
	b.set(dusk, 100)
	if got := b.shown(ref("a", "rotation"), 0) + b.shown(ref("a", "fill"), 0); got != "80[0, 0, 1, 1]" {
		t.Errorf("at its stop it is %s", got)
	}
	// Where the control stands at a stop, what is changed belongs to it without more ado.
	c := b.context(0)
	set, err := (&pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(90)}).Do(c)
	if err != nil {
		t.Fatal(err)
	}
	if set, err = poses.IntoStop(c, set, nil); err != nil || len(set.Ops) != 1 || len(set.Poses) != 0 {
		t.Fatalf("%v: %v and %v", err, set.Ops, set.Poses)
	}
	b.do(&gesture.Operations{Ops: set.Ops}, 0)
	if got := b.shown(ref("a", "rotation"), 0); got != "90" {
		t.Errorf("changed at its stop, it is %s", got)
	}
	// A stop in the middle takes what stands there, until it is posed.
	b.set(dusk, 50)
	middle := b.shown(ref("a", "rotation"), 0)
	b.do(&poses.AddStop{Item: "rig", Control: control().ID, Name: "dusk"}, 0)
	if got := b.shown(ref("a", "rotation"), 0); got != middle || control().Poses[1].Name != "dusk" {
		t.Errorf("by a stop at 50 it becomes %s, was %s: %+v", got, middle, control().Poses)
	}
	if _, err := b.try(&poses.AddStop{Item: "rig", Control: control().ID}, 0); err == nil || !strings.Contains(err.Error(), "already") {
		t.Errorf("two stops stand at one place: %v", err)
	}
	b.into(at(1), &pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(-30)})
	if got := b.shown(ref("a", "rotation"), 0); got != "-30" {
		t.Errorf("posed at 50 it is %s", got)
	}
	// As a choice it holds; turned back, its stops stand where they were.
	b.do(&poses.TurnPoses{Item: "rig", Control: control().ID, Kind: scene.ChoiceWidget}, 0)
	if o := control().Options; strings.Join(o, " ") != "noon dusk night" || b.shown(dusk, 0) != "1" || b.shown(ref("a", "rotation"), 0) != "-30" {
		t.Errorf("a choice of %v at %s, the rotation %s", o, b.shown(dusk, 0), b.shown(ref("a", "rotation"), 0))
	}
	place := 0
	b.do(&poses.SetStop{AtStop: at(1), Place: &place}, 0)
	if o := control().Options; strings.Join(o, " ") != "dusk noon night" || b.shown(dusk, 0) != "0" || b.shown(ref("a", "rotation"), 0) != "-30" {
		t.Errorf("put first, it is a choice of %v at %s", o, b.shown(dusk, 0))
	}
	b.do(&poses.RemoveStop{AtStop: at(0)}, 0)
	if len(control().Options) != 2 || b.shown(ref("a", "rotation"), 0) != was {
		t.Errorf("without it: %v, rotation %s", control().Options, b.shown(ref("a", "rotation"), 0))
	}
	if _, err := b.try(&poses.RemoveStop{AtStop: at(0)}, 0); err == nil {
		t.Error("one stop alone is left")
	}
	b.do(&poses.TurnPoses{Item: "rig", Control: control().ID, Kind: scene.Fader}, 0)
	if s := control().Poses; control().Kind != scene.Fader || s[0].At != 0 || s[1].At != 100 {
		t.Errorf("turned back: %+v", control())
	}
}

// What moves by itself has the difference added, so that it goes on moving; two controls of poses on one property stack.
func TestPosesOnWhatMovesAddAndStack(t *testing.T) {
	b := desk(t)
	b.do(&poses.GivePoses{Item: "rig", Control: "go"}, 0)
	go1 := b.c.Item("rig").Control("go")
	b.c.Item("a").Edit("rotation").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(10), Easing: "linear"}, {Frame: 10, Value: scene.Num(20), Easing: "linear"}}
	b.into(poses.AtStop{Item: "rig", Control: "go", Stop: go1.Poses[1].ID}, &pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(40)})
	b.set(ref("rig", "go"), 100)
	if got := b.shown(ref("a", "rotation"), 0) + " " + b.shown(ref("a", "rotation"), 10); got != "40 50" {
		t.Errorf("posed by 30 more, the pins give %s", got)
	}
	r := b.do(&wiring.AddControl{Item: "rig", Control: scene.Control{Kind: scene.SwitchWidget, Name: "Up"}}, 0)
	up := r.Made[0]
	b.do(&poses.GivePoses{Item: "rig", Control: up}, 0)
	stops := b.c.Item("rig").Control(up).Poses
	b.into(poses.AtStop{Item: "rig", Control: up, Stop: stops[1].ID}, &pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(45)})
	b.set(ref("rig", string(up)), 0)
	if got := b.shown(ref("a", "rotation"), 0); got != "40" {
		t.Errorf("off, it is %s", got)
	}
	b.set(ref("rig", string(up)), 1)
	if got := b.shown(ref("a", "rotation"), 0) + " " + b.shown(ref("a", "rotation"), 10); got != "45 55" {
		t.Errorf("both together give %s", got)
	}
	for _, bad := range []gesture.Gesture{&poses.GivePoses{Item: "rig", Control: "spot"}, &poses.GivePoses{Item: "rig", Control: up}, &poses.AddStop{Item: "rig", Control: up}, &poses.TurnPoses{Item: "rig", Control: up, Kind: scene.Fader}, &poses.SetStop{AtStop: poses.AtStop{Item: "rig", Control: up, Stop: "gone"}}} {
		if _, err := b.try(bad, 0); err == nil {
			t.Errorf("%T %+v is let through", bad, bad)
		}
	}
	// The control removed: what it moved says so, and goes back to what is below.
	b.do(&items.RemoveControls{Controls: []scene.Ref{ref("rig", "go"), ref("rig", string(up))}}, 0)
	if got := b.shown(ref("a", "rotation"), 0); got != "10" {
		t.Errorf("without its controls it is %s", got)
	}
}

// A link of poses on a row is one of what the control moves: its values are changed at stops, and a stop's duplicate has them too.
func TestPosesOnRowsHoldValuesAtStops(t *testing.T) {
	b := desk(t)
	b.do(&poses.GivePoses{Item: "rig", Control: "go"}, 0)
	stops := b.c.Item("rig").Control("go").Poses
	b.into(poses.AtStop{Item: "rig", Control: "go", Stop: stops[1].ID}, &pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(40)})
	single := b.c.Item("a").State("rotation").Links[0]
	row := b.do(&wiring.Spread{Targets: []scene.Ref{ref("a", "rotation"), ref("b", "rotation")}, Link: single.ID}, 0).Made[0]
	hold := func(at poses.AtStop, l gesture.LinkAt, x float64) error {
		_, err := b.try(&poses.HoldAt{AtStop: at, LinkAt: l, Value: scene.Num(x)}, 0)
		return err
	}
	last := poses.AtStop{Item: "rig", Control: "go", Stop: stops[1].ID}
	if err := hold(last, gesture.LinkAt{RosterLink: row}, 70); err != nil {
		t.Fatal(err)
	}
	b.set(ref("rig", "go"), 100)
	if got := b.shown(ref("a", "rotation"), 0) + " " + b.shown(ref("b", "rotation"), 0); got != "70 70" {
		t.Errorf("the row shows %s at the last stop", got)
	}
	made := b.do(&poses.AddStop{Item: "rig", Control: "go", Like: stops[1].ID}, 0).Made[0]
	if s, _ := b.c.RosterLink(row); s == nil {
		t.Error("the row is gone")
	} else if v, ok := s.Link.HeldAt(made); !ok || v.At(0) != 70 {
		t.Errorf("the duplicate of the stop holds %v, %v", v, ok)
	}
	r := b.do(&wiring.AddControl{Item: "rig", Control: scene.Control{Kind: scene.SwitchWidget, Name: "Up"}}, 0)
	b.do(&poses.GivePoses{Item: "rig", Control: r.Made[0]}, 0)
	other := poses.AtStop{Item: "rig", Control: r.Made[0], Stop: b.c.Item("rig").Control(r.Made[0]).Poses[0].ID}
	for _, refused := range []error{
		hold(other, gesture.LinkAt{RosterLink: row}, 1), hold(last, gesture.LinkAt{RosterLink: "gone"}, 1),
		hold(last, gesture.LinkAt{Target: ref("a", "rotation"), Link: single.ID}, 1),
	} {
		if refused == nil {
			t.Error("a value is held where no such link is")
		}
	}
}

// Stops come and go, and leave what was held at them; that never keeps a new one from being posed.
func TestStopsThatWentMakeRoom(t *testing.T) {
	b := desk(t)
	b.do(&poses.GivePoses{Item: "rig", Control: "go"}, 0)
	control := func() *scene.Control { return b.c.Item("rig").Control("go") }
	for k := range scene.MaxPoses + 5 {
		at := 0.5 + float64(k)/10
		r := b.do(&poses.AddStop{Item: "rig", Control: "go", At: &at}, 0)
		stop := poses.AtStop{Item: "rig", Control: "go", Stop: r.Made[0]}
		b.into(stop, &pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(float64(k))})
		b.set(ref("rig", "go"), at)
		if got := b.shown(ref("a", "rotation"), 0); got != scene.Exact(float64(k)) {
			t.Fatalf("stop %d gives %s", k, got)
		}
		b.do(&poses.RemoveStop{AtStop: stop}, 0)
	}
	if n := len(control().Poses); n != 2 {
		t.Errorf("%d stops are left", n)
	}
}

// A choice of poses with values of its own at three options: what it begins at, what it is set to and its pins keep to their option
// wherever that is put, and a new option begins as the last one, not as the first.
func TestAChoiceKeepsToItsOptions(t *testing.T) {
	b := desk(t)
	b.do(&poses.GivePoses{Item: "rig", Control: "mode"}, 0)
	control := func() *scene.Control { return b.c.Item("rig").Control("mode") }
	at := func(k int) poses.AtStop {
		return poses.AtStop{Item: "rig", Control: "mode", Stop: control().Poses[k].ID}
	}
	b.do(&poses.AddStop{Item: "rig", Control: "mode", Name: "gale"}, 0)
	for k, x := range []float64{11, 23, 47} {
		b.into(at(k), &pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(x)})
	}
	added := b.do(&poses.AddStop{Item: "rig", Control: "mode", Name: "flood"}, 0).Made[0]
	if v, ok := b.c.Item("a").State("rotation").Links[0].HeldAt(added); !ok || v != scene.Num(47) {
		t.Errorf("a new option begins at %v", v)
	}
	altered := control().Clone()
	altered.Default = scene.Num(2)
	b.do(&gesture.Operations{Ops: change.Ops{&change.ControlSet{On: b.context(0).On("rig"), Value: altered}}}, 0)
	panel := b.c.Item("rig")
	panel.Edit("mode").Pins = []scene.Pin{{Frame: 4, Value: scene.Num(1), Easing: curve.Hold}, {Frame: 9, Value: scene.Num(2), Easing: curve.Hold}}
	first := 0
	b.do(&poses.SetStop{AtStop: at(2), Place: &first}, 0)
	if d := control().Default; d != scene.Num(0) {
		t.Errorf("it began at gale, which is put first, and begins at %v", d)
	}
	if got := b.shown(ref("a", "rotation"), 4) + " " + b.shown(ref("a", "rotation"), 9); got != "23 47" {
		t.Errorf("pinned to storm, then gale, it gives %s", got)
	}
}

// Pins of a fader that becomes a choice hold, where the fader was pinned smoothly, and each is at the stop it was nearest to.
func TestPinsOfAFaderTurnedIntoAChoiceHold(t *testing.T) {
	b := desk(t)
	b.do(&poses.GivePoses{Item: "rig", Control: "go"}, 0)
	dawn := 30.0
	b.do(&poses.AddStop{Item: "rig", Control: "go", Name: "dawn", At: &dawn}, 0)
	b.c.Item("rig").Edit("go").Pins = []scene.Pin{{Frame: 2, Value: scene.Num(21), Easing: curve.Smooth}, {Frame: 12, Value: scene.Num(93), Easing: curve.Smooth}}
	b.do(&poses.TurnPoses{Item: "rig", Control: "go", Kind: scene.ChoiceWidget}, 0)
	if got := b.shown(ref("rig", "go"), 2) + b.shown(ref("rig", "go"), 11) + b.shown(ref("rig", "go"), 12); got != "112" {
		t.Errorf("at frames 2, 11 and 12 it is %s", got)
	}
	for _, pin := range b.c.Item("rig").State("go").Pins {
		if pin.Easing != curve.Hold {
			t.Errorf("a pin of a choice is eased: %+v", pin)
		}
	}
}

// The duplicate of a stop lies half-way to the next one, or to the one before the last.
func TestADuplicateOfAStopLiesBesideIt(t *testing.T) {
	b := desk(t)
	b.do(&poses.GivePoses{Item: "rig", Control: "go"}, 0)
	control := func() *scene.Control { return b.c.Item("rig").Control("go") }
	at := 30.0
	middle := b.do(&poses.AddStop{Item: "rig", Control: "go", At: &at}, 0).Made[0]
	for _, c := range []struct {
		like scene.ID
		want float64
	}{{middle, 65}, {control().Poses[2].ID, 82.5}, {control().Poses[0].ID, 15}} {
		stop := control().Poses[control().Pose(c.like)]
		made := b.do(&poses.AddStop{Item: "rig", Control: "go", At: &stop.At, Like: c.like}, 0).Made[0]
		if got := control().Poses[control().Pose(made)].At; got != c.want {
			t.Errorf("a duplicate of the stop at %v lies at %v, not %v", stop.At, got, c.want)
		}
	}
}

// While a stop is posed, a pin that is set at another frame stays a pin, and a link of poses that is off is left alone.
func TestOnlyWhatIsShownGoesIntoAStop(t *testing.T) {
	b := desk(t)
	b.do(&poses.GivePoses{Item: "rig", Control: "go"}, 0)
	stop := poses.AtStop{Item: "rig", Control: "go", Stop: b.c.Item("rig").Control("go").Poses[1].ID}
	b.c.Item("a").Edit("rotation").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(7), Easing: curve.Linear}}
	c := b.context(0)
	later := &change.PinsPut{Of: c.Of("a", "rotation"), Pins: []scene.Pin{{Frame: 13, Value: scene.Num(61), Easing: curve.Linear}}}
	r, err := poses.IntoStop(c, gesture.Result{Ops: change.Ops{later}}, &stop)
	if err != nil || len(r.Ops) != 1 || r.Ops[0] != change.Op(later) {
		t.Errorf("a pin at frame 13 set at frame 0 became %v: %v", r.Ops, err)
	}
	b = desk(t)
	b.do(&poses.GivePoses{Item: "rig", Control: "go"}, 0)
	stop = poses.AtStop{Item: "rig", Control: "go", Stop: b.c.Item("rig").Control("go").Poses[1].ID}
	b.into(stop, &pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(41)})
	b.c.Item("a").State("rotation").Links[0].Off = true
	b.into(stop, &pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(67)})
	if v, _ := b.c.Item("a").State("rotation").Links[0].HeldAt(stop.Stop); v != scene.Num(41) {
		t.Errorf("the link that is off holds %v", v)
	}
	b.set(ref("rig", "go"), 100)
	if got := b.shown(ref("a", "rotation"), 0); got != "67" {
		t.Errorf("at the stop it is %s", got)
	}
}

// A fader that is turned into a choice looks the same at all of its stops, those that nothing was posed at among them.
func TestAFaderTurnedIntoAChoiceLooksTheSameAtItsStops(t *testing.T) {
	b := desk(t)
	b.do(&poses.GivePoses{Item: "rig", Control: "go"}, 0)
	last := poses.AtStop{Item: "rig", Control: "go", Stop: b.c.Item("rig").Control("go").Poses[1].ID}
	b.into(last, &pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(83)})
	for _, x := range []float64{21, 64} {
		b.do(&poses.AddStop{Item: "rig", Control: "go", At: &x}, 0)
	}
	look := func() (out []string) {
		control := b.c.Item("rig").Control("go")
		for k := range control.Poses {
			b.set(ref("rig", "go"), control.PoseAt(k))
			out = append(out, b.shown(ref("a", "rotation"), 0))
		}
		return out
	}
	before := look()
	b.do(&poses.TurnPoses{Item: "rig", Control: "go", Kind: scene.ChoiceWidget}, 0)
	if after := look(); !slices.Equal(before, after) || before[1] == before[2] {
		t.Errorf("as a choice it is %v, as a fader %v", after, before)
	}
}

// The options of a posed choice are its stops: they are renamed, sorted, added and left out as those of any choice.
func TestAPosedChoiceGetsOtherOptions(t *testing.T) {
	b := desk(t)
	id := b.do(&wiring.AddControl{Item: "rig", Control: scene.Control{Kind: scene.ChoiceWidget, Name: "Sky", Options: []string{"day", "dusk", "night"}}}, 0).Made[0]
	b.do(&poses.GivePoses{Item: "rig", Control: id}, 0)
	control := func() *scene.Control { return b.c.Item("rig").Control(id) }
	for k, x := range []float64{11, 37, 74} {
		b.into(poses.AtStop{Item: "rig", Control: id, Stop: control().Poses[k].ID}, &pins.Set{Targets: []scene.Ref{ref("a", "rotation")}, Value: scene.Num(x)})
	}
	b.set(ref("rig", string(id)), 1)
	look := func() (out string) {
		own := b.c.Item("rig").State(string(id)).Own
		for k := range control().Options {
			b.set(ref("rig", string(id)), float64(k))
			out += control().Options[k] + " " + b.shown(ref("a", "rotation"), 0) + ", "
		}
		b.set(ref("rig", string(id)), own.At(0))
		return out + "at " + b.shown(ref("rig", string(id)), 0)
	}
	for _, step := range []struct {
		options []string
		want    string
	}{
		{[]string{"day", "evening", "night"}, "day 11, evening 37, night 74, at 1"},
		{[]string{"day", "evening", "storm", "night"}, "day 11, evening 37, storm 37, night 74, at 1"},
		{[]string{"night", "day", "evening", "storm"}, "night 74, day 11, evening 37, storm 37, at 2"},
		{[]string{"night", "storm"}, "night 74, storm 37, at 0"},
	} {
		b.do(&poses.SetOptions{Item: "rig", Control: id, Options: step.options}, 0)
		if got := look(); got != step.want {
			t.Errorf("with %v it is %s, not %s", step.options, got, step.want)
		}
	}
	for _, bad := range []*poses.SetOptions{{Item: "rig", Control: id, Options: []string{"alone"}}, {Item: "rig", Control: id, Options: nil}, {Item: "rig", Control: "go", Options: []string{"a", "b"}}} {
		if _, err := b.try(bad, 0); err == nil {
			t.Errorf("%+v is let through", bad)
		}
	}
}
