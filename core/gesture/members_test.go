package gesture_test

import (
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// order returns the names of the members of the first row, as they are counted.
func (b *bench) order() string {
	var names []string
	for _, m := range b.c.RosterLinks[0].Members(b.c) {
		names = append(names, m.Item.Name)
	}
	return strings.Join(names, " ")
}

// A row is counted in the order in which it was picked; what comes later joins at its end, wherever it lies in the tree.
func TestWhatComesLaterJoinsARowAtItsEnd(t *testing.T) {
	hung := func(id scene.ID) *scene.Item {
		i := item(id, scene.Rectangle, 0, 0, 100)
		i.Parent = "rig"
		return i
	}
	b := newBench(t, &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null}, hung("c"), hung("b"), hung("a"))
	b.do(&wiring.Spread{Targets: []scene.Ref{ref("b", "rotation"), ref("a", "rotation"), ref("c", "rotation")}, Text: "index * 10"}, 0)
	if got := b.order(); got != "b a c" || b.c.RosterLinks[0].Roster.Kind != scene.Children {
		t.Fatalf("picked as b, a, c, they are counted %s", got)
	}
	fresh := b.do(&items.Add{Kind: scene.Rectangle, Name: "new"}, 0).Made[0]
	b.do(&items.Attach{Items: []scene.ID{fresh}, Parent: "rig"}, 0)
	if got := b.order(); got != "b a c new" {
		t.Errorf("a new one is counted %s", got)
	}
	r := b.do(&copies.Duplicate{Items: []scene.ID{"c", "b"}, By: [3]float64{20, 0, 0}}, 0)
	if got := b.order(); got != "b a c new b 2 c 2" {
		t.Errorf("copies are counted %s", got)
	}
	for _, id := range r.Made {
		if x := b.c.Item(id).State("position").Own.At(0); x != 20 {
			t.Errorf("%s stands at %g", b.c.Item(id).Name, x)
		}
	}
	// Moved in the tree they are counted as before.
	b.do(&items.Order{Items: []scene.ID{"a"}, Parent: "rig", Before: ""}, 0)
	if got := b.order(); got != "b a c new b 2 c 2" {
		t.Errorf("moved in the tree they are counted %s", got)
	}
}

// The order stays when members are found in another way; who is left out and who joins is said.
func TestMembersFoundInAnotherWayKeepTheirOrder(t *testing.T) {
	b := newBench(t, item("rig", scene.Null, 0, 0, 100), item("leaf1", scene.Rectangle, 0, 0, 100), item("leaf2", scene.Rectangle, 0, 0, 100), item("twig", scene.Rectangle, 0, 0, 100), item("leaf3", scene.Rectangle, 0, 0, 100))
	b.do(&wiring.Spread{Targets: []scene.Ref{ref("leaf2", "rotation"), ref("twig", "rotation"), ref("leaf1", "rotation")}, Text: "index * 10"}, 0)
	id := b.c.RosterLinks[0].ID
	r := b.do(&wiring.FindMembers{RosterLink: id, Roster: scene.Roster{Kind: scene.Named, Pattern: "leaf*"}}, 0)
	if got := b.order(); got != "leaf2 leaf1 leaf3" || !strings.Contains(r.Note, "1 item left out, 1 item joined at the end") {
		t.Errorf("by their names: %s; %q", got, r.Note)
	}
	b.do(&wiring.FindMembers{RosterLink: id, Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"twig", "leaf3"}}}, 0)
	if got := b.order(); got != "twig leaf3" {
		t.Errorf("those picked: %s", got)
	}
	// A picked row takes copies in, too.
	made := b.do(&copies.Duplicate{Items: []scene.ID{"twig"}}, 0).Made[0]
	if got := b.c.RosterLinks[0].Roster.Items; !slices.Equal(got, []scene.ID{"twig", "leaf3", made}) {
		t.Errorf("with a copy: %v", got)
	}
}

// A pivot at an edge stays at it when the shape becomes another size.
func TestThePivotGoesAlongWithTheSize(t *testing.T) {
	b := newBench(t, item("a", scene.Rectangle, 0, 0, 100))
	b.set(ref("a", "size"), 200, 100)
	b.set(ref("a", "pivot"), -100, 25, 0)
	b.do(&pins.Set{Targets: []scene.Ref{{Item: "a", Property: "size", Component: "x"}}, Value: scene.Num(500)}, 0)
	if got := b.shown(ref("a", "pivot"), 0); got != "[-250, 25, 0]" {
		t.Errorf("the pivot is at %s", got)
	}
}
