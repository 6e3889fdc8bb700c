package session

import (
	"fmt"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// A bake that is worked out a piece at a time gives what it gives at once, and begins anew where the
// project changes meanwhile.
func TestABakeIsWorkedOutInPieces(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	rig := do(t, s, add(scene.Null, "Rig"), "1").Made[0]
	var targets []scene.Ref
	for k := range 20 {
		id := do(t, s, add(scene.Rectangle, fmt.Sprint("Flag ", k)), fmt.Sprint("add", k)).Made[0]
		targets = append(targets, ref(id, "rotation"))
	}
	do(t, s, &wiring.Formula{Targets: targets, Text: "noise(time, {Rig: rotation}) * frame"}, "2")
	if n := len(s.Composition().Items[1].State("rotation").Links); n != 1 {
		t.Fatalf("%d links", n)
	}
	g := &pins.Bake{Targets: targets, From: 0, To: 4000, Tolerance: 0.5}
	pieces := 0
	ahead := func() (done int) {
		done, of, err := s.Bake(g)
		if err != nil || of != 4001 {
			t.Fatal(done, of, err)
		}
		pieces++
		return done
	}
	first := ahead()
	if first < 1 || first >= 4001 || ahead() != 2*first {
		t.Fatalf("the first piece has %d frames", first)
	}
	do(t, s, set(rig, "rotation", scene.Num(3)), "3")
	if ahead() != first {
		t.Error("after a change it does not begin anew")
	}
	if err := s.Undo("u"); err != nil || ahead() != first {
		t.Error("after an undo it does not begin anew", err)
	}
	other := Change{ID: "o", Revision: s.Revision + 1, Ops: change.Ops{&change.ProjectRename{Name: "Q"}}}
	if _, err := s.Receive([]Change{other}); err != nil || ahead() != first {
		t.Error("after a change of another window it does not begin anew", err)
	}
	for ahead() < 4001 {
	}
	at := window(t, s.Project, 0, "b")
	do(t, at, &pins.Bake{Targets: targets, From: 0, To: 4000, Tolerance: 0.5}, "4")
	do(t, s, g, "4")
	if g.Series == nil || s.baking != nil {
		t.Error("what was worked out was not used")
	}
	if text(t, at.Project) != text(t, s.Project) || pieces < 4 {
		t.Errorf("baked in %d pieces it differs", pieces)
	}
	if _, _, err := s.Bake(&pins.Bake{Targets: targets, From: 9, To: 3}); err == nil {
		t.Error("a range that ends before it begins passes")
	}
}
