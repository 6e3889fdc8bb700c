package session

import (
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// driven is a session with a box whose rotation follows a slider at 30.
func driven(t *testing.T) (s *Session, rotation, slider scene.Ref) {
	s = window(t, scene.NewProject("p", "P"), 0, "a")
	null := do(t, s, add(scene.Null, "Rig"), "1").Made[0]
	box := do(t, s, add(scene.Rectangle, "Box"), "2").Made[0]
	control := do(t, s, &wiring.AddControl{Item: null, Control: scene.Control{Kind: scene.Fader}}, "3").Made[0]
	rotation, slider = ref(box, "rotation"), ref(null, string(control))
	do(t, s, &wiring.Link{Source: slider, Targets: []scene.Ref{rotation}}, "4")
	do(t, s, set(slider.Item, slider.Property, scene.Num(30)), "5")
	return s, rotation, slider
}

func at(s *Session, of scene.Ref) float64 {
	s.Evaluate(0)
	return s.Plan().Value(of).At(0)
}

func TestAPoseIsNoChange(t *testing.T) {
	s, rotation, slider := driven(t)
	before, waiting := text(t, s.Project), len(s.Waiting())
	do(t, s, set(rotation.Item, "rotation", scene.Num(77)), "6")
	if at(s, rotation) != 77 || len(s.Poses()) != 1 || text(t, s.Project) != before || len(s.Waiting()) != waiting {
		t.Errorf("posed at %g; %d poses, %d changes wait", at(s, rotation), len(s.Poses()), len(s.Waiting()))
	}
	// It stands over a change of structure, and over its source.
	do(t, s, add(scene.Ellipse, ""), "7")
	do(t, s, set(slider.Item, slider.Property, scene.Num(10)), "8")
	if at(s, rotation) != 77 {
		t.Errorf("the pose went to %g", at(s, rotation))
	}
	do(t, s, &poses.UsePose{Targets: []scene.Ref{rotation}}, "9")
	if at(s, rotation) != 10 || len(s.Poses()) != 0 {
		t.Errorf("dropped, it is at %g", at(s, rotation))
	}
}

func TestAPreviewOfAPoseGoesBackToTheOneBefore(t *testing.T) {
	s, rotation, _ := driven(t)
	do(t, s, set(rotation.Item, "rotation", scene.Num(77)), "6")
	for _, x := range []float64{80, 90, 100} {
		if _, err := s.Do(set(rotation.Item, "rotation", scene.Num(x)), Options{Preview: true}); err != nil {
			t.Fatal(err)
		}
		if at(s, rotation) != x {
			t.Errorf("previewed at %g", at(s, rotation))
		}
	}
	s.Cancel()
	if at(s, rotation) != 77 {
		t.Errorf("after the drag was dropped it is at %g", at(s, rotation))
	}
}

func TestWhatIsTriedOutSpringsBackAndIsNeverSent(t *testing.T) {
	s, rotation, slider := driven(t)
	before, waiting := text(t, s.Project), len(s.Waiting())
	s.TryOut(true)
	do(t, s, set(slider.Item, slider.Property, scene.Num(55)), "6")
	do(t, s, add(scene.Star, ""), "7")
	do(t, s, &pins.Pin{Targets: []scene.Ref{slider}}, "8")
	if at(s, rotation) != 55 || len(s.Composition().Items) != 3 {
		t.Errorf("tried out at %g with %d items", at(s, rotation), len(s.Composition().Items))
	}
	s.TryOut(false)
	if text(t, s.Project) != before || at(s, rotation) != 30 || len(s.Waiting()) != waiting {
		t.Errorf("after trying out it is at %g, and %d changes wait", at(s, rotation), len(s.Waiting()))
	}
}

// A change of another window comes beneath what is tried out, which stays; undo takes back what is tried out first.
func TestOthersAndUndoLeaveWhatIsTriedOut(t *testing.T) {
	s, rotation, slider := driven(t)
	s.TryOut(true)
	do(t, s, set(slider.Item, slider.Property, scene.Num(55)), "6")
	waiting := s.Waiting()
	sent := waiting[0]
	sent.Revision = 1
	other := Change{ID: "x", Base: 1, Revision: 2, Ops: change.Ops{&change.ProjectRename{Name: "Theirs"}}}
	if dropped, err := s.Receive([]Change{sent, other}); err != nil || len(dropped) > 0 {
		t.Fatal(dropped, err)
	}
	if s.Project.Name != "Theirs" || at(s, rotation) != 55 {
		t.Errorf("%s, at %g", s.Project.Name, at(s, rotation))
	}
	do(t, s, set(slider.Item, slider.Property, scene.Num(66)), "7")
	if err := s.Undo("u"); err != nil || at(s, rotation) != 55 {
		t.Errorf("undone to %g (%v)", at(s, rotation), err)
	}
	if err := s.Redo("r"); err != nil || at(s, rotation) != 66 {
		t.Errorf("redone to %g (%v)", at(s, rotation), err)
	}
	s.Undo("u")
	s.Undo("u")
	if err := s.Undo("u"); err == nil || at(s, rotation) != 30 || s.CanUndo() {
		t.Errorf("undo goes beyond what is tried out: %v, at %g", err, at(s, rotation))
	}
}

// What was tried out is kept as one change, and one step of undo.
func TestWhatIsTriedOutCanBeKept(t *testing.T) {
	s, rotation, slider := driven(t)
	before, waiting := text(t, s.Project), len(s.Waiting())
	s.TryOut(true)
	do(t, s, set(slider.Item, slider.Property, scene.Num(55)), "6")
	do(t, s, add(scene.Star, ""), "7")
	do(t, s, set(slider.Item, slider.Property, scene.Num(71)), "8")
	s.KeepTried("kept")
	after := text(t, s.Project)
	if on, _ := s.Trying(); on || at(s, rotation) != 71 || len(s.Waiting()) != waiting+1 || s.Waiting()[waiting].ID != "kept" {
		t.Fatalf("kept at %g, with %d changes waiting, trying %v", at(s, rotation), len(s.Waiting()), on)
	}
	if err := s.Undo("u"); err != nil || text(t, s.Project) != before {
		t.Errorf("one step of undo does not take all of it back (%v)", err)
	}
	if err := s.Redo("r"); err != nil || text(t, s.Project) != after {
		t.Errorf("and does not make it again (%v)", err)
	}
}
