package session

import (
	"fmt"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// rowOf puts items of some kinds into a row with a formula, and returns their ids and the link on the row.
func rowOf(t *testing.T, s *Session, property, text string, kinds ...scene.Kind) ([]scene.ID, scene.ID) {
	t.Helper()
	var ids []scene.ID
	var refs []scene.Ref
	for k, kind := range kinds {
		id := do(t, s, add(kind, fmt.Sprint("Member ", k+1)), fmt.Sprint("m", k)).Made[0]
		ids, refs = append(ids, id), append(refs, ref(id, property))
	}
	do(t, s, &wiring.Spread{Targets: refs, Text: text}, "row")
	return ids, s.Composition().RosterLinks[0].ID
}

// A row of mixed kinds, whose formula is changed while it is shown: where a member lacks what is read, the formula says what
// it is then.
func TestARowOfMixedKindsKeepsWhatItsFormulaSays(t *testing.T) {
	for _, kinds := range [][]scene.Kind{
		{scene.Rectangle, scene.PointLight, scene.Ellipse, scene.Null, scene.TextItem, scene.Box, scene.Emitter},
		{scene.PointLight, scene.Rectangle, scene.Null, scene.Ellipse},
		{scene.Null, scene.Zone, scene.Rectangle, scene.PointLight},
	} {
		s := window(t, scene.NewProject("p", "P"), 0, "a")
		ids, row := rowOf(t, s, "rotation", "own + 3", kinds...)
		s.Plan()
		for _, text := range []string{"{prev: opacity} else 50", "({prev: strokeWidth} else 31) * 2 + index", "{next: intensity} else {self: rotation.x} else 7", "({first: opacity} else 8) + ({last: fontSize} else 17)"} {
			if _, err := s.Do(&wiring.RosterFormula{RosterLink: row, Text: text}, Options{ID: text}); err != nil {
				continue
			}
			fresh := engine.New(s.Composition())
			fresh.Evaluate(0)
			s.Evaluate(0)
			for k, id := range ids {
				at := ref(id, "rotation")
				if got, want := s.Plan().Value(at).At(0), fresh.Value(at).At(0); got != want {
					t.Errorf("%v: %s: member %d is %v, and %v in a plan made anew", kinds, text, k+1, got, want)
				}
			}
		}
	}
}

// What a member lacks is nothing there, whichever member the formula was looked at first.
func TestWhatAMemberLacksIsNothing(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	ids, row := rowOf(t, s, "rotation", "own + 3", scene.Null, scene.PathItem, scene.Null, scene.Rectangle)
	s.Plan()
	do(t, s, &wiring.RosterFormula{RosterLink: row, Text: "{prev: length} else 8"}, "change")
	length := s.Plan().Derived(s.Plan().Layout.Index(ids[1]), "length").At(0)
	for _, plan := range []*engine.Plan{s.Plan(), engine.New(s.Composition())} {
		plan.Evaluate(0)
		for k, want := range []float64{8, 8, length, 8} {
			if got := plan.Value(ref(ids[k], "rotation")).At(0); got != want || length < 100 {
				t.Errorf("member %d is %v, want %v", k+1, got, want)
			}
		}
	}
}

// A rename brings an item into a row that finds its members by name, takes it out again, and reaches the rows that hang on
// that row; nothing is planned anew for it.
func TestRenamingIntoARow(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	lamp := do(t, s, add(scene.Rectangle, "Lamp 1"), "1").Made[0]
	post := do(t, s, add(scene.Rectangle, "Post"), "2").Made[0]
	child := do(t, s, add(scene.Ellipse, "Glow"), "3").Made[0]
	in := change.In{Composition: s.Composition().ID}
	attach := func(child, parent scene.ID) change.Op {
		return &change.ItemAttach{On: change.On{In: in, Item: child}, Parent: parent}
	}
	byName := scene.Roster{Kind: scene.Named, Pattern: "lamp*"}
	row := func(id scene.ID, r scene.Roster, property, text string) change.Op {
		return &change.RosterLinkAdd{In: in, At: -1, Value: &scene.RosterLink{ID: id, Name: "Row", Roster: r, Property: property, Link: &scene.Link{ID: id + "l", Kind: scene.Formula, Gain: 1, Formula: text}}}
	}
	do(t, s, &gesture.Operations{Ops: change.Ops{
		attach(child, post),
		row("r1", byName, "rotation", "number * 13"),
		row("r2", scene.Roster{Kind: scene.Children, Of: &byName}, "opacity", "own - 29"),
	}}, "rows")
	plan := s.Plan()
	value := func(id scene.ID, key string) float64 { s.Evaluate(0); return s.Plan().Value(ref(id, key)).At(0) }
	name := func(to string) {
		do(t, s, &gesture.Operations{Ops: change.Ops{&change.ItemSet{On: change.On{In: in, Item: post}, Name: &to}}}, to)
	}
	want := func(when string, lampTurn, postTurn, opacity float64) {
		t.Helper()
		if a, b, c := value(lamp, "rotation"), value(post, "rotation"), value(child, "opacity"); a != lampTurn || b != postTurn || c != opacity {
			t.Errorf("%s: %v, %v and %v", when, a, b, c)
		}
	}
	want("before", 13, 0, 100)
	name("Lamp 2")
	first := 13.0 // the tree lists what was added last first
	if s.Composition().Items[0].ID != lamp {
		first = 26
	}
	want("renamed into the row", first, 39-first, 71)
	name("Pole")
	want("renamed out of it", 13, 0, 100)
	if err := s.Undo("u"); err != nil {
		t.Fatal(err)
	}
	want("undone", first, 39-first, 71)
	if s.plan != plan {
		t.Error("everything was planned anew")
	}
}

// A formula that names what is not there yet finds it once something is called so.
func TestANameThatComesLater(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	box := do(t, s, add(scene.Rectangle, "Box"), "1").Made[0]
	other := do(t, s, add(scene.Rectangle, "Other"), "2").Made[0]
	in := change.In{Composition: s.Composition().ID}
	do(t, s, set(other, "rotation", scene.Num(37)), "3")
	of := change.Of{On: change.On{In: in, Item: box}, Property: "rotation"}
	do(t, s, &gesture.Operations{Ops: change.Ops{&change.LinkAdd{Of: of, Link: &scene.Link{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "{Gate: rotation} * 2"}}}}, "4")
	s.Plan()
	name := "Gate"
	do(t, s, &gesture.Operations{Ops: change.Ops{&change.ItemSet{On: change.On{In: in, Item: other}, Name: &name}}}, "5")
	s.Evaluate(0)
	fresh := engine.New(s.Composition())
	fresh.Evaluate(0)
	if got, want := s.Plan().Value(ref(box, "rotation")).At(0), fresh.Value(ref(box, "rotation")).At(0); got != want || got != 74 {
		t.Errorf("it is %v, and %v in a plan made anew", got, want)
	}
}

// The rate, the size and the length of a composition reach what is made of them at once.
func TestSettingsReachFormulas(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	box := do(t, s, add(scene.Rectangle, "Box"), "1").Made[0]
	texts := []string{"time * 7", "fps", "width / 3", "height", "duration * 11", "average({self: opacity} + time, 1s)", "delay(time * 100, 1s)", "loop(time, 0s, 1s) * 9"}
	for k, text := range texts {
		do(t, s, &wiring.Formula{Targets: []scene.Ref{ref(box, []string{"rotation", "rotationX", "rotationY", "strokeWidth", "opacity", "cornerRadius", "dashOffset", "trimEnd"}[k])}, Text: text}, text)
	}
	in := change.In{Composition: s.Composition().ID}
	rate, width, height, frames := 17, 613, 411, 83
	for _, op := range []change.Op{&change.CompositionSet{In: in, Rate: &rate}, &change.CompositionSet{In: in, Width: &width, Height: &height}, &change.CompositionSet{In: in, Frames: &frames}} {
		s.Evaluate(31)
		do(t, s, &gesture.Operations{Ops: change.Ops{op}}, "set")
		fresh := engine.New(s.Composition())
		fresh.Evaluate(31)
		s.Evaluate(31)
		if differs := compared(s.Plan(), fresh); differs != "" {
			t.Error(differs)
		}
	}
}

// Stops that are moved along their control, and a control that gets another name, leave the plan as it is.
func TestStopsAndNamesAreNotPlannedAnew(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	rig := do(t, s, add(scene.Null, "Rig"), "1").Made[0]
	box := do(t, s, add(scene.Rectangle, "Box"), "2").Made[0]
	do(t, s, &wiring.AddControl{Item: rig, Control: scene.Control{Kind: scene.Fader, Name: "Hour", SoftMax: 24}}, "3")
	hour := s.Composition().Item(rig).Controls[0].ID
	do(t, s, &poses.GivePoses{Item: rig, Control: hour}, "4")
	stops := s.Composition().Item(rig).Controls[0].Poses
	at := poses.AtStop{Item: rig, Control: hour, Stop: stops[len(stops)-1].ID}
	do(t, s, &poses.PoseStop{AtStop: at}, "5")
	if _, err := s.Do(set(box, "rotation", scene.Num(90)), Options{ID: "6", Posing: &at}); err != nil {
		t.Fatal(err)
	}
	for _, p := range s.Poses() {
		s.pose([]gesture.Pose{{Ref: p}})
	}
	do(t, s, set(rig, string(hour), scene.Num(7)), "7")
	do(t, s, &wiring.Formula{Targets: []scene.Ref{ref(box, "opacity")}, Text: "delay({Box: rotation}, 3f) + 1"}, "8")
	s.Evaluate(9)
	plan := s.Plan()
	before := plan.Value(ref(box, "rotation")).At(0)
	for _, x := range []float64{11, 17, 9.3} {
		do(t, s, &poses.SetStop{AtStop: at, At: &x}, fmt.Sprint("stop", x))
		s.Evaluate(9)
		fresh := engine.New(s.Composition())
		fresh.Evaluate(9)
		if differs := compared(s.Plan(), fresh); differs != "" {
			t.Error(differs)
		}
		if now := s.Plan().Value(ref(box, "rotation")).At(0); now == before {
			t.Errorf("with the stop at %v nothing moved", x)
		}
	}
	name := *s.Composition().Item(rig).Controls[0].Clone()
	name.Name = "Time of day"
	do(t, s, &gesture.Operations{Ops: change.Ops{&change.ControlSet{On: change.On{In: change.In{Composition: s.Composition().ID}, Item: rig}, Value: &name}}}, "9")
	if s.plan != plan {
		t.Error("everything was planned anew")
	}
	if spec, _ := s.Plan().Layout.Find(rig, string(hour)); spec.Name != "Time of day" {
		t.Errorf("it is still called %s", spec.Name)
	}
}

// One change that renames copies and shows more of them, and one that sets what it removes, leave nothing half brought in.
func TestOneChangeOfManySorts(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	box := do(t, s, add(scene.Rectangle, "Box"), "1").Made[0]
	star := do(t, s, add(scene.Star, "Star"), "2").Made[0]
	many := do(t, s, &copies.Group{Items: []scene.ID{star}, Kind: scene.CopiesItem}, "3").Made[0]
	in := change.In{Composition: s.Composition().ID}
	on := func(id scene.ID) change.On { return change.On{In: in, Item: id} }
	name := "Crowd"
	changes := [][]change.Op{
		{&change.ItemCopies{On: on(many), Copies: &scene.CopiesShape{Limit: 307}}, &change.ItemSet{On: on(many), Name: &name}},
		{&change.OwnSet{Of: change.Of{On: on(box), Property: "rotation"}, Value: scene.Num(37)}, &change.ItemRemove{On: on(box)}},
	}
	for k, ops := range changes {
		s.Evaluate(7)
		do(t, s, &gesture.Operations{Ops: ops}, fmt.Sprint("together", k))
		for _, step := range []func() error{func() error { return nil }, func() error { return s.Undo(fmt.Sprint("back", k)) }, func() error { return s.Redo(fmt.Sprint("again", k)) }} {
			if err := step(); err != nil {
				t.Fatal(err)
			}
			s.Evaluate(7)
			fresh := engine.New(s.Composition())
			fresh.Evaluate(7)
			if differs := compared(s.Plan(), fresh); differs != "" {
				t.Error(differs)
			}
		}
	}
	if lanes := s.Plan().Layout.Index(s.Composition().Item(many).Lanes()[306].ID); lanes < 0 || s.Plan().Layout.Items[lanes].Name != "Crowd 307" {
		t.Error("the last of the copies is not there, or not called after the others")
	}
}
