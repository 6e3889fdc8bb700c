package session

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// window is a session with ids that tell whose they are.
func window(t testing.TB, p *scene.Project, revision int, name string) *Session {
	t.Helper()
	n := 0
	s, dropped := Open(p.Clone(), revision, nil, func() scene.ID { n++; return scene.ID(fmt.Sprintf("%s%d", name, n)) })
	if len(dropped) > 0 {
		t.Fatal(dropped)
	}
	return s
}

func do(t *testing.T, s *Session, g gesture.Gesture, id string) gesture.Result {
	t.Helper()
	r, err := s.Do(g, Options{ID: id})
	if err != nil {
		t.Fatal(err)
	}
	return r
}

func text(t testing.TB, p *scene.Project) string {
	t.Helper()
	data, err := json.Marshal(p)
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

func add(kind scene.Kind, name string) *items.Add { return &items.Add{Kind: kind, Name: name} }

func ref(item scene.ID, property string) scene.Ref { return scene.Ref{Item: item, Property: property} }

func set(item scene.ID, property string, v scene.Value) *pins.Set {
	return &pins.Set{Targets: []scene.Ref{ref(item, property)}, Value: v}
}

func TestGesturesUndoAndRedoAsOneStepEach(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	states := []string{text(t, s.Project)}
	step := func(g gesture.Gesture) gesture.Result {
		r := do(t, s, g, fmt.Sprint(len(states)))
		states = append(states, text(t, s.Project))
		return r
	}
	null := step(add(scene.Null, "Rig")).Made[0]
	box := step(add(scene.Rectangle, "")).Made[0]
	ball := step(add(scene.Ellipse, "")).Made[0]
	turn := step(&wiring.AddControl{Item: null, Control: scene.Control{Kind: scene.DialWidget}}).Made[0]
	step(&wiring.Link{Source: ref(null, string(turn)), Targets: []scene.Ref{ref(box, "rotation"), ref(ball, "rotation")}})
	step(set(null, string(turn), scene.Num(30)))
	step(&pins.Pin{Drawer: null})
	step(&items.Attach{Items: []scene.ID{box, ball}, Parent: null})
	step(&items.Remove{Items: []scene.ID{null, box}})
	for i := len(states) - 2; i >= 0; i-- {
		if err := s.Undo(fmt.Sprint("u", i)); err != nil || text(t, s.Project) != states[i] {
			t.Fatalf("undone to step %d: %v", i, err)
		}
	}
	if s.CanUndo() || s.Undo("none") == nil {
		t.Error("there is more to undo than was done")
	}
	for i := 1; i < len(states); i++ {
		if err := s.Redo(fmt.Sprint("r", i)); err != nil || text(t, s.Project) != states[i] {
			t.Fatalf("redone to step %d: %v", i, err)
		}
	}
}

func TestAPreviewIsReplacedAndNeverSent(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	box := do(t, s, add(scene.Rectangle, "Box"), "1").Made[0]
	before := text(t, s.Project)
	for _, x := range []float64{10, 20, 30} {
		if _, err := s.Do(set(box, "opacity", scene.Num(x)), Options{Preview: true}); err != nil {
			t.Fatal(err)
		}
		if got := s.Evaluate(0); got == nil || s.Plan().Value(ref(box, "opacity")) != scene.Num(x) {
			t.Errorf("the preview shows %s, want %g", s.Plan().Value(ref(box, "opacity")), x)
		}
	}
	if len(s.Waiting()) != 1 {
		t.Errorf("%d changes wait, want the first alone", len(s.Waiting()))
	}
	s.Cancel()
	if text(t, s.Project) != before {
		t.Error("after it was cancelled, something of the preview is left")
	}
	s.Do(set(box, "opacity", scene.Num(5)), Options{Preview: true})
	do(t, s, set(box, "opacity", scene.Num(7)), "2")
	if err := s.Undo("3"); err != nil || text(t, s.Project) != before {
		t.Errorf("undo goes back to the preview: %v", err)
	}
}

// server keeps the order of changes for a test, as the real one does.
type server struct {
	project *scene.Project
	log     []Change
}

// send brings the first waiting change of a window to the server; it is false where it was outdated.
func (v *server) send(t *testing.T, s *Session) bool {
	t.Helper()
	c := s.Waiting()[0]
	if c.Base != len(v.log) {
		return false
	}
	if _, _, err := change.Apply(v.project, c.Ops); err != nil {
		t.Fatal(err)
	}
	c.Revision = len(v.log) + 1
	v.log = append(v.log, c)
	return true
}

// catchUp takes in what the server has and the window has not.
func (v *server) catchUp(t *testing.T, s *Session) []string {
	t.Helper()
	dropped, err := s.Receive(v.log[s.Revision:])
	if err != nil {
		t.Fatal(err)
	}
	return dropped
}

func TestTwoWindowsComeToTheSameDocument(t *testing.T) {
	start := scene.NewProject("p", "P")
	v := &server{project: start.Clone()}
	a, b := window(t, start, 0, "a"), window(t, start, 0, "b")
	boxA := do(t, a, add(scene.Rectangle, "From A"), "a1").Made[0]
	do(t, a, set(boxA, "opacity", scene.Num(50)), "a2")
	boxB := do(t, b, add(scene.Ellipse, "From B"), "b1").Made[0]
	if !v.send(t, b) || v.send(t, a) {
		t.Fatal("the second to come should be outdated")
	}
	v.catchUp(t, b)
	if lost := v.catchUp(t, a); len(lost) > 0 {
		t.Fatal(lost)
	}
	if a.Composition().Item(boxB) == nil || a.Plan().Value(ref(boxA, "opacity")) != scene.Num(50) {
		t.Error("the window that was outdated lost something")
	}
	for len(a.Waiting()) > 0 {
		if !v.send(t, a) {
			t.Fatal("still outdated")
		}
		v.catchUp(t, a)
	}
	v.catchUp(t, b)
	if text(t, a.Project) != text(t, b.Project) || text(t, a.Project) != text(t, v.project) {
		t.Error("the windows and the server differ")
	}
	// One removes what the other is changing: it is told, and the rest is kept.
	do(t, b, &items.Remove{Items: []scene.ID{boxA}}, "b2")
	v.send(t, b)
	do(t, a, set(boxA, "opacity", scene.Num(10)), "a3")
	do(t, a, set(boxB, "opacity", scene.Num(20)), "a4")
	lost := v.catchUp(t, a)
	if len(lost) != 1 || !strings.Contains(lost[0], "may have been removed in another window") {
		t.Errorf("told: %q", lost)
	}
	if len(a.Waiting()) != 1 || a.Plan().Value(ref(boxB, "opacity")) != scene.Num(20) {
		t.Error("the change that could be kept was not")
	}
	if err := a.Undo("a5"); err != nil {
		t.Error(err)
	}
	if err := a.Undo("a6"); err == nil || !strings.Contains(err.Error(), "can no longer be undone") {
		t.Errorf("undo of what is gone: %v", err)
	}
}

func TestUnsentChangesAreMadeAgainAfterAReload(t *testing.T) {
	p := scene.NewProject("p", "P")
	a := window(t, p, 4, "a")
	do(t, a, add(scene.Rectangle, "Box"), "1")
	do(t, a, &gesture.Operations{Ops: change.Ops{&change.ProjectRename{Name: "New name"}}}, "2")
	data, err := json.Marshal(a.Waiting())
	if err != nil {
		t.Fatal(err)
	}
	var unsent []Change
	if err := json.Unmarshal(data, &unsent); err != nil {
		t.Fatal(err)
	}
	again, dropped := Open(p.Clone(), 4, unsent, nil)
	if len(dropped) > 0 || text(t, again.Project) != text(t, a.Project) || len(again.Waiting()) != 2 {
		t.Errorf("dropped %v, %d wait", dropped, len(again.Waiting()))
	}
	if w := again.Waiting(); w[0].Base != 4 || w[1].Base != 5 {
		t.Errorf("they build on %d and %d", w[0].Base, w[1].Base)
	}
}

func TestReceiveSaysWhatIsMissing(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 3, "a")
	if _, err := s.Receive([]Change{{ID: "x", Revision: 6}}); err == nil || !strings.Contains(err.Error(), "missing") {
		t.Errorf("a gap is taken in: %v", err)
	}
	if _, err := s.Receive([]Change{{ID: "x", Revision: 2}}); err != nil || s.Revision != 3 {
		t.Errorf("an old change is not passed over: %v", err)
	}
}

func TestAttachingMovesNothing(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	parent := do(t, s, add(scene.Null, "Crane"), "1").Made[0]
	child := do(t, s, add(scene.Rectangle, "Crate"), "2").Made[0]
	do(t, s, set(parent, "position", scene.Pt(120, -40, 3)), "3")
	do(t, s, set(parent, "rotation", scene.Num(37)), "4")
	do(t, s, set(parent, "scale", scene.Pt(150, 150, 150)), "5")
	do(t, s, set(child, "position", scene.Pt(-10, 60, 0)), "6")
	do(t, s, set(child, "pivot", scene.Pt(20, 5, 0)), "7")
	corner := [3]float64{100, 100, 0}
	where := func() [3]float64 {
		s.Evaluate(0)
		m := s.Plan().World(s.Plan().Layout.Index(child))
		return m.Apply(corner)
	}
	before := where()
	for _, to := range []scene.ID{parent, ""} {
		do(t, s, &items.Attach{Items: []scene.ID{child}, Parent: to}, "at"+string(to))
		after := where()
		for k := range 3 {
			if math.Abs(after[k]-before[k]) > 1e-9 {
				t.Fatalf("attached to %q it moved from %v to %v", to, before, after)
			}
		}
	}
	do(t, s, &items.Attach{Items: []scene.ID{child}, Parent: parent}, "again")
	do(t, s, &items.Remove{Items: []scene.ID{parent}}, "gone")
	if after := where(); math.Abs(after[0]-before[0]) > 1e-9 {
		t.Errorf("when its parent was removed it moved from %v to %v", before, after)
	}
}

func TestSetPinsWhatIsPinned(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	box := do(t, s, add(scene.Rectangle, "Box"), "1").Made[0]
	target := []scene.Ref{ref(box, "position")}
	has := func() []scene.Pin { return s.Composition().Item(box).State("position").Pins }
	do(t, s, &pins.Pin{Targets: target}, "2")
	if _, err := s.Do(&pins.Set{Targets: []scene.Ref{{Item: box, Property: "position", Component: "y"}}, Value: scene.Num(9)}, Options{Frame: 50, ID: "3"}); err != nil {
		t.Fatal(err)
	}
	if got := has(); len(got) != 2 || got[1].Frame != 50 || got[1].Value != scene.Pt(0, 9, 0) {
		t.Fatalf("the pins are %v", got)
	}
	named := []gesture.PinAt{{Item: box, Property: "position", Frame: 50}}
	do(t, s, &pins.MovePins{Pins: named, By: -20}, "4")
	if got := has(); len(got) != 2 || got[1].Frame != 30 {
		t.Errorf("moved, the pins are %v", got)
	}
	if _, err := s.Do(&pins.MovePins{Pins: named, By: 1}, Options{ID: "x"}); err == nil {
		t.Error("a pin that is not there can be moved")
	}
	do(t, s, &pins.MovePins{Pins: []gesture.PinAt{{Item: box, Property: "position", Frame: 30}}, By: -30, Landing: pins.Landing{Replace: true}}, "5")
	if got := has(); len(got) != 1 || got[0].Value != scene.Pt(0, 9, 0) {
		t.Errorf("moved onto another, the pins are %v", got)
	}
	do(t, s, &pins.Pin{Targets: target, Toggle: true}, "6")
	if got := s.Plan().Own(box, "position"); len(has()) != 0 || got != scene.Pt(0, 9, 0) {
		t.Errorf("without its last pin, the place is %s", got)
	}
}

func TestLinkTellsWhatItLeavesOut(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	null := do(t, s, add(scene.Null, "Rig"), "1").Made[0]
	box := do(t, s, add(scene.Rectangle, "Box"), "2").Made[0]
	word := do(t, s, add(scene.TextItem, "Word"), "3").Made[0]
	turn := do(t, s, &wiring.AddControl{Item: null, Control: scene.Control{Kind: scene.DialWidget, Name: "Turn"}}, "4").Made[0]
	place := do(t, s, &wiring.AddControl{Item: null, Control: scene.Control{Kind: scene.PointWidget, Name: "Place"}}, "5").Made[0]
	r := do(t, s, &wiring.Link{Source: ref(null, string(turn)), Targets: []scene.Ref{ref(box, "rotation"), ref(word, "text")}}, "6")
	if len(r.Ops) != 1 || !strings.Contains(r.Note, "linked 1 of 2") {
		t.Errorf("%d links, note %q", len(r.Ops), r.Note)
	}
	if r := do(t, s, &wiring.Link{Source: ref(null, string(place)), Targets: []scene.Ref{ref(box, "position")}}, "7"); !strings.Contains(r.Note, "z keeps its own value") {
		t.Errorf("note %q", r.Note)
	}
	for says, g := range map[string]gesture.Gesture{
		"use one of its components": &wiring.Link{Source: ref(null, string(place)), Targets: []scene.Ref{ref(box, "opacity")}},
		"can't drive itself":        &wiring.Link{Source: ref(box, "size"), Targets: []scene.Ref{ref(box, "size")}},
		"no longer has that":        &wiring.Link{Source: ref(null, "gone"), Targets: []scene.Ref{ref(box, "size")}},
		"no longer there":           &wiring.Link{Source: ref("ghost", "size"), Targets: []scene.Ref{ref(box, "size")}},
		"choose what kind":          &wiring.AddControl{Item: null, Control: scene.Control{Kind: "knob"}},
		"has no controls":           &pins.Pin{Drawer: box},
		"would create a loop":       &gesture.Operations{Ops: change.Ops{&change.ItemAttach{On: change.On{In: change.In{Composition: "main"}, Item: box}, Parent: box}}},
	} {
		if _, err := s.Do(g, Options{ID: "bad"}); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("want %q, got %v", says, err)
		}
	}
}

// Links on rosters and formulas are undone, rebased on the changes of others, and refused where they
// run in a cycle, like everything else.
func TestRostersInASession(t *testing.T) {
	p := scene.NewProject("p", "P")
	s := window(t, p, 0, "a")
	var refs []scene.Ref
	for i := range 3 {
		refs = append(refs, ref(do(t, s, add(scene.Rectangle, fmt.Sprint("Flag ", i)), fmt.Sprint("i", i)).Made[0], "rotation"))
	}
	before := text(t, s.Project)
	do(t, s, &wiring.Spread{Targets: refs, Text: "number * 10"}, "s")
	value := func(k int) float64 {
		s.Evaluate(0)
		return s.Plan().Value(refs[k]).At(0)
	}
	if value(2) != 30 {
		t.Errorf("the third is at %v", value(2))
	}
	if !s.News().Structure {
		t.Error("an interface has to be told of the roster")
	}
	after := text(t, s.Project)
	if err := s.Undo("u"); err != nil || text(t, s.Project) != before || value(2) != 0 {
		t.Errorf("undone it is at %v, %v", value(2), err)
	}
	if err := s.Redo("r"); err != nil || text(t, s.Project) != after {
		t.Errorf("made again: %v", err)
	}
	// A cycle by way of the roster, and one of a property with itself: what was typed is kept, and does nothing.
	r := do(t, s, &wiring.Spread{Targets: []scene.Ref{{Item: refs[0].Item, Property: "opacity"}, {Item: refs[1].Item, Property: "opacity"}}, Text: "{last: opacity} + {first: opacity}"}, "c")
	if last := s.Composition().RosterLinks[len(s.Composition().RosterLinks)-1]; !strings.Contains(r.Note, "loop") || last.Link.Formula != "" || last.Link.Draft == "" {
		t.Errorf("a circle on a roster: %q, %+v", r.Note, last.Link)
	}
	r = do(t, s, &wiring.Formula{Targets: refs[:1], Text: "{Flag 1: rotation} + {self: rotation}"}, "d")
	if l := s.Composition().Item(refs[0].Item).State("rotation").Links[0]; !strings.Contains(r.Note, "loop") || l.Formula != "" || l.Draft == "" {
		t.Errorf("a circle of one: %q, %+v", r.Note, l)
	}
	for _, id := range []string{"cu", "du"} {
		if err := s.Undo(id); err != nil {
			t.Fatal(err)
		}
	}
	if text(t, s.Project) != after {
		t.Error("undone it is not as before")
	}
	// Through a delay it is none.
	do(t, s, &wiring.Formula{Targets: refs[:1], Text: "delay({self: rotation}, 1f) / 2 + 1"}, "f")
	s.Evaluate(1)
	if got := s.Plan().Value(refs[0]).At(0); got != 4 { // before frame 0 it is at 10, which the roster gives
		t.Errorf("fed back it is at %v", got)
	}
	// Another window removes a member meanwhile: the roster goes on with the others.
	other := window(t, s.Project, 0, "b")
	gone := do(t, other, &items.Remove{Items: []scene.ID{refs[1].Item}}, "g")
	for i, c := range s.Waiting() {
		c.Revision = i + 1
		if _, err := s.Receive([]Change{c}); err != nil {
			t.Fatal(err)
		}
	}
	if _, err := s.Receive([]Change{{ID: "g", Revision: s.Revision + 1, Ops: gone.Ops}}); err != nil {
		t.Fatal(err)
	}
	if value(2) != 20 {
		t.Errorf("the third is the second now, at %v", value(2))
	}
}

// A change that turns out to be part of what was loaded is not there twice, and what came after it stays.
func TestWhatWasSavedAlreadyIsSettled(t *testing.T) {
	p := scene.NewProject("p", "P")
	a := window(t, p, 0, "a")
	box := do(t, a, add(scene.Rectangle, "Box"), "one").Made[0]
	do(t, a, set(box, "opacity", scene.Num(40)), "two")
	saved := a.Project.Clone() // the first is saved, and its answer was lost
	if _, _, err := change.Apply(saved, a.waiting[1].inverse); err != nil {
		t.Fatal(err)
	}
	b, dropped := Open(saved, 1, []Change{{ID: "two", Ops: a.waiting[1].Ops}}, a.newID)
	if len(dropped) > 0 {
		t.Fatal(dropped)
	}
	b.waiting = append([]pending{{Change: Change{ID: "one"}}}, b.waiting...) // as if it were made again
	if dropped, err := b.Receive([]Change{{ID: "one", Revision: 1}}); err != nil || len(dropped) > 0 {
		t.Fatal(dropped, err)
	}
	if len(b.waiting) != 1 || b.waiting[0].ID != "two" || text(t, b.Project) != text(t, a.Project) {
		t.Errorf("%d changes wait", len(b.waiting))
	}
}

// A bake that was worked out before something changed is worked out anew.
func TestABakeTakesWhatIsThereNow(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	null := do(t, s, add(scene.Null, "Rig"), "1").Made[0]
	amount := do(t, s, &wiring.AddControl{Item: null, Control: scene.Control{Kind: scene.Fader}}, "2").Made[0]
	box := do(t, s, add(scene.Rectangle, "Box"), "3").Made[0]
	do(t, s, &wiring.Link{Source: ref(null, string(amount)), Targets: []scene.Ref{ref(box, "rotation")}}, "4")
	bake := &pins.Bake{Targets: []scene.Ref{ref(box, "rotation")}, To: 5}
	if done, of, err := s.Bake(bake); err != nil || done != of {
		t.Fatal(done, of, err)
	}
	do(t, s, set(null, string(amount), scene.Num(33)), "5")
	do(t, s, &pins.Bake{Targets: []scene.Ref{ref(box, "rotation")}, To: 5}, "6")
	if pins := s.Composition().Item(box).State("rotation").Pins; pins[0].Value != scene.Num(33) {
		t.Errorf("baked is %s", pins[0].Value)
	}
}

func TestSomethingNewEndsWhatCanBeRedone(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	do(t, s, add(scene.Null, "One"), "1")
	if err := s.Undo("2"); err != nil || !s.CanRedo() {
		t.Fatal(err)
	}
	if do(t, s, add(scene.Null, "Two"), "3"); s.CanRedo() {
		t.Error("what was undone can be made again on top of something new")
	}
}

// A change that was taken in already is passed over, and one of ours that comes back before another is not made twice.
func TestChangesAreTakenInOnce(t *testing.T) {
	p := scene.NewProject("p", "P")
	a, b := window(t, p, 0, "a"), window(t, p, 0, "b")
	do(t, a, add(scene.Null, "One"), "one")
	c := a.Waiting()[0]
	c.Revision = 1
	for range 2 {
		if dropped, err := b.Receive([]Change{c}); err != nil || len(dropped) > 0 || len(b.Composition().Items) != 1 {
			t.Fatal(dropped, err, len(b.Composition().Items))
		}
	}
	w := window(t, p, 0, "w")
	do(t, w, add(scene.Null, "First"), "first")
	do(t, w, add(scene.Null, "Second"), "second")
	second := w.Waiting()[1]
	second.Revision = 1
	if dropped, err := w.Receive([]Change{second}); err != nil || len(dropped) > 0 || len(w.Composition().Items) != 2 || len(w.waiting) != 1 || w.waiting[0].ID != "first" {
		t.Errorf("%v %v: %d items, %d wait", dropped, err, len(w.Composition().Items), len(w.waiting))
	}
}

// As many steps as are kept can be undone, and the oldest is the first to go.
func TestUndoReachesSoFar(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	id := do(t, s, add(scene.Rectangle, "Flag"), "first").Made[0]
	for k := range maxSteps + 3 {
		do(t, s, set(id, "rotation", scene.Num(float64(k))), fmt.Sprint("turn", k))
	}
	undone := 0
	for s.Undo(fmt.Sprint("u", undone)) == nil {
		undone++
	}
	if got := s.Project.Compositions[0].Item(id).State("rotation").Own; undone != maxSteps || got != scene.Num(2) {
		t.Errorf("%d steps are undone, to a rotation of %v", undone, got)
	}
}
