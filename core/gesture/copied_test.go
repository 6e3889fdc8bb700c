package gesture_test

import (
	"fmt"
	"math/rand"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/scene"
)

// A duplicate set apart goes there with all its pins, by the way that its parent gives.
func TestADuplicateSetApartTakesItsPinsAlong(t *testing.T) {
	b := desk(t)
	b.c.Item("a").Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(10, 20, 0), Easing: curve.Linear}, {Frame: 10, Value: scene.Pt(70, 20, 0), Easing: curve.Linear}}
	made := b.do(&copies.Duplicate{Items: []scene.ID{"a"}, By: [3]float64{17, -31, 0}}, 0).Made[0]
	if got := b.shown(ref(made, "position"), 0) + b.shown(ref(made, "position"), 10); got != "[27, -11, 0][87, -11, 0]" {
		t.Errorf("the duplicate moves by %s", got)
	}
	if got := b.shown(ref("a", "position"), 10); got != "[70, 20, 0]" {
		t.Errorf("its model went along to %s", got)
	}
}

// Copies along a path that is duplicated with them stand along the duplicate of the path.
func TestADuplicateStandsAlongItsOwnPath(t *testing.T) {
	b := newBench(t, pathItem(), &scene.Item{ID: "bead", Name: "Beads", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: 5, Along: "path"}})
	if err := b.p.Check(); err != nil {
		t.Fatal(err)
	}
	r := b.do(&copies.Duplicate{Items: []scene.ID{"path", "bead"}}, 0)
	var path, bead scene.ID
	for _, id := range r.Made {
		if b.c.Item(id).Kind == scene.PathItem {
			path = id
		} else {
			bead = id
		}
	}
	if got := b.c.Item(bead).Copies.Along; got != path || got == "" {
		t.Errorf("the duplicate stands along %q, not %q", got, path)
	}
	alone := b.do(&copies.Duplicate{Items: []scene.ID{"bead"}}, 0).Made[0]
	if got := b.c.Item(alone).Copies.Along; got != "path" {
		t.Errorf("duplicated without its path it stands along %q", got)
	}
}

// What was baked and duplicated comes back in the duplicate by links of its own; the model stays baked.
func TestTheBakeOfADuplicateIsItsOwn(t *testing.T) {
	b := desk(t)
	b.c.Item("a").Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "frame * 3 + 7"}}
	b.do(&pins.Bake{Targets: []scene.Ref{ref("a", "rotation")}, From: 0, To: 4, Tolerance: 0.01}, 0)
	made := b.do(&copies.Duplicate{Items: []scene.ID{"a"}}, 0).Made[0]
	b.do(&pins.UndoBake{Targets: []scene.Ref{ref(made, "rotation")}}, 0)
	if got := b.shown(ref(made, "rotation"), 30); got != "97" { // 7 + 30 × 3, where the pins end at frame 4
		t.Errorf("brought back, the duplicate is %s at frame 30", got)
	}
	if got := b.shown(ref("a", "rotation"), 30); got != "19" {
		t.Errorf("its model, still baked, is %s", got)
	}
}

// A row of copies whose weight is taken from the item itself takes it, duplicated, from the duplicate.
func TestTheWeightOfADuplicatedRowIsItsOwn(t *testing.T) {
	b := newBench(t, &scene.Item{ID: "a", Name: "Beads", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: 3}})
	a := b.c.Item("a")
	a.Controls = []*scene.Control{{ID: "how", Name: "How much", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(35)}}
	b.c.RosterLinks = []*scene.RosterLink{{ID: "row", Name: "lean", Property: "rotation", Roster: scene.Roster{Kind: scene.CopiesOf, Item: "a"},
		Link: &scene.Link{ID: "rl", Kind: scene.Formula, Gain: 1, Formula: "below + 13"}, WeightFrom: &scene.Ref{Item: "a", Property: "how"}}}
	if err := b.p.Check(); err != nil {
		t.Fatal(err)
	}
	made := b.do(&copies.Duplicate{Items: []scene.ID{"a"}}, 0).Made[0]
	row := b.c.RosterLinks[1]
	own := string(b.c.Item(made).Controls[0].ID)
	if row.WeightFrom == nil || *row.WeightFrom != ref(made, own) || own == "how" {
		t.Errorf("the row of the duplicate takes its weight from %+v", row.WeightFrom)
	}
}

// Names that are counted on from where they were counted to before are those that counting from the start gives.
func TestNamesAreCountedOn(t *testing.T) {
	r := rand.New(rand.NewSource(7))
	for range 200 {
		slow, fast, known := map[string]bool{}, map[string]bool{}, gesture.Full{}
		for range 60 {
			name := fmt.Sprintf("Lamp %d", 1+r.Intn(30))
			if r.Intn(4) == 0 {
				name = "Lamp"
			}
			want, got := gesture.NextName(name, slow, nil), gesture.NextName(name, fast, known)
			if want != got {
				t.Fatalf("a copy of %s is called %s, not %s", name, got, want)
			}
			slow[want], fast[got] = true, true
		}
	}
}
