package change

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// weighed is the rigged project with weights on links, which have links with weights themselves.
func weighed(t testing.TB) *scene.Project {
	p := rigged(t)
	w1, w2 := scene.WeightKey("l1"), scene.WeightKey("w1")
	vertex := of("line", "vertex1")
	if _, _, err := Apply(p, Ops{
		&OwnSet{of("box", w1), scene.Num(40)},
		&LinkAdd{Of: of("box", w1), Link: follow("w1", "ball", "opacity", ""), At: -1},
		&PinsPut{Of: of("box", w2), Pins: []scene.Pin{{Frame: 0, Value: scene.Num(30), Easing: curve.Linear}}},
		&LinkAdd{Of: vertex, Link: follow("v1", "ball", "position", ""), At: -1, Weights: scene.Weights{scene.WeightKey("v1"): {Own: scene.Num(20)}}},
		&LinkAdd{Of: of("rig", "turn"), Link: follow("t1", "ball", "rotation", ""), At: -1},
		&OwnSet{of("rig", scene.WeightKey("t1")), scene.Num(10)},
	}); err != nil {
		t.Fatal(err)
	}
	return p
}

// What takes a link away takes its weight along, and brings it back: a control, a vertex, the link itself,
// and the link on a weight.
func TestWeightsGoAndComeWithWhatHoldsTheirLinks(t *testing.T) {
	for name, op := range map[string]Op{
		"control": &ControlRemove{on("rig"), "turn"},
		"vertex":  &ItemPath{On: on("line"), Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 2}}}}}},
		"link":    &LinkRemove{of("box", "rotation"), "l1"},
		"its own": &LinkRemove{of("box", scene.WeightKey("l1")), "w1"},
	} {
		p := weighed(t)
		before := text(t, p)
		inverse, _, err := Apply(p, Ops{op})
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		if err := p.Check(); err != nil {
			t.Errorf("%s: %v", name, err)
		}
		var stored Ops // as the server keeps it
		if err := json.Unmarshal([]byte(text(t, inverse)), &stored); err != nil {
			t.Fatal(err)
		}
		if _, _, err := Apply(p, stored); err != nil || text(t, p) != before {
			t.Errorf("%s: undone, the project is not as before (%v)", name, err)
		}
	}
}

// mutated is an operation with something in its JSON altered at random.
func mutated(r *rand.Rand, op Op) (Ops, bool) {
	data, _ := json.Marshal(Ops{op})
	var tree any
	if json.Unmarshal(data, &tree) != nil {
		return nil, false
	}
	ids := []any{"box", "ball", "rig", "turn", "l1", "w1", "s1", "ins1", "line", "main", "v1", "weight:l1", "weight:gone", "vertex1", "rotation", "fresh", "g1", "g1wave", "g1read", "fold"}
	odd := []any{nil, -1.0, 0.0, 1e300, true, "", strings.Repeat("x", 300), []any{}, []any{nil}, map[string]any{}, map[string]any{"x": nil}, "formula", "map"}
	var walk func(v any) any
	walk = func(v any) any {
		if r.IntN(8) == 0 {
			if r.IntN(2) == 0 {
				return ids[r.IntN(len(ids))]
			}
			return odd[r.IntN(len(odd))]
		}
		switch v := v.(type) {
		case map[string]any:
			for key, inside := range v {
				if key != "op" {
					v[key] = walk(inside)
				}
			}
		case []any:
			for k, inside := range v {
				v[k] = walk(inside)
			}
			if r.IntN(20) == 0 {
				return append(v, nil)
			}
		}
		return v
	}
	data, err := json.Marshal(walk(tree.([]any)[0]))
	if err != nil {
		return nil, false
	}
	var ops Ops
	return ops, json.Unmarshal([]byte("["+string(data)+"]"), &ops) == nil
}

// reloaded fails where a project that is stored and loaded again is another one, or is mended.
func reloaded(t *testing.T, p *scene.Project, at string) {
	t.Helper()
	was := text(t, p)
	again := &scene.Project{}
	if err := json.Unmarshal([]byte(was), again); err != nil {
		t.Fatalf("%s: what was stored cannot be read: %v", at, err)
	}
	if said := again.Heal(); len(said) > 0 {
		t.Fatalf("%s: loaded again, it was mended: %v", at, said)
	}
	if is := text(t, again); is != was {
		t.Fatalf("%s: loaded again, it is\n%s\nand was\n%s", at, is, was)
	}
}

// What operations accept, Check accepts, and what they refuse they leave as it was, without a panic.
func TestWhatOperationsAcceptCheckAccepts(t *testing.T) {
	if testing.Short() {
		t.Skip("it takes its time")
	}
	accepted, refused := 0, 0
	for seed := range uint64(120) {
		r := rand.New(rand.NewPCG(seed, 5))
		p := weighed(t)
		for step := range 120 {
			all := edits()
			op := all[r.IntN(len(all))]
			if add, ok := op.(*ItemAdd); ok && add.Value.ID == "new" {
				add.Value.ID = scene.ID(fmt.Sprint("n", step))
			}
			ops, ok := Ops{op}, true
			if r.IntN(4) > 0 {
				ops, ok = mutated(r, op)
			}
			if !ok {
				continue
			}
			before := text(t, p)
			inverse, _, err := Apply(p, ops)
			var broken *Broken
			if errors.As(err, &broken) {
				t.Fatalf("seed %d: %s: %v", seed, text(t, ops), err)
			}
			if err != nil {
				if refused++; text(t, p) != before {
					t.Fatalf("seed %d: %s was refused (%v) and changed the project", seed, text(t, ops), err)
				}
				continue
			}
			accepted++
			if err := p.Check(); err != nil {
				t.Fatalf("seed %d: %s was accepted, and Check says %v", seed, text(t, ops), err)
			}
			after := text(t, p)
			reloaded(t, p, fmt.Sprintf("seed %d: %s", seed, text(t, ops)))
			redo, _, err := Apply(p, inverse)
			if err != nil || text(t, p) != before {
				t.Fatalf("seed %d: %s does not lead back: %v", seed, text(t, ops), err)
			}
			if _, _, err := Apply(p, redo); err != nil || text(t, p) != after {
				t.Fatalf("seed %d: %s cannot be made again: %v", seed, text(t, ops), err)
			}
		}
	}
	if accepted < 1500 || refused < 1500 {
		t.Errorf("%d accepted, %d refused", accepted, refused)
	}
}

// What Check refuses, operations refuse, and ids are unique over everything.
func TestWhatCheckRefusesOperationsRefuse(t *testing.T) {
	item := func(alter func(*scene.Item)) Op {
		i := &scene.Item{ID: "fresh", Name: "Fresh", Kind: scene.Rectangle}
		alter(i)
		return &ItemAdd{in, i, 0}
	}
	null := scene.NewComposition("second", "Second")
	null.Items = []*scene.Item{nil}
	for says, op := range map[string]Op{
		"an item is empty":            &CompositionAdd{null, 0},
		"a control is empty":          item(func(i *scene.Item) { i.Controls = []*scene.Control{nil} }),
		"a link of Fresh is empty":    item(func(i *scene.Item) { i.Edit("opacity").Links = []*scene.Link{nil} }),
		"was set of \"opacity\"":      item(func(i *scene.Item) { i.States = map[string]*scene.State{"opacity": nil} }),
		"that is not there":           item(func(i *scene.Item) { i.Edit("weight:l1").Own = scene.Num(5) }),
		"no link on a row":            &RosterLinkAdd{In: in, Value: nil},
		"has no link":                 &RosterLinkSet{In: in, Value: &scene.RosterLink{ID: "s1", Name: "Row"}},
		"the id l1 is taken":          item(func(i *scene.Item) { i.ID = "l1" }),
		"the id ins1 is taken":        item(func(i *scene.Item) { i.Edit("opacity").Links = []*scene.Link{follow("ins1", "box", "opacity", "")} }),
		"the id turn is taken":        &LinkAdd{Of: of("box", "opacity"), Link: follow("turn", "ball", "opacity", "")},
		"the id s1 is taken":          &ControlAdd{On: on("rig"), Value: &scene.Control{ID: "s1", Name: "S", Kind: scene.SwitchWidget, Default: scene.On(true)}},
		"the id line is taken":        &RosterLinkSet{In: in, Value: func() *scene.RosterLink { s := rosterLink("s1", "1"); s.Link.ID = "line"; return s }()},
		"the id w1 is taken":          &LinkAdd{Of: of("ball", "rotation"), Link: follow("l9", "box", "opacity", ""), Weights: scene.Weights{"weight:l9": {Links: []*scene.Link{follow("w1", "box", "opacity", "")}}}},
		"is the weight of a link":     &LinkAdd{Of: of("ball", "rotation"), Link: follow("l9", "box", "opacity", ""), Weights: scene.Weights{"weight:l8": {Own: scene.Num(3)}}},
		"the id main is taken":        &CompositionAdd{scene.NewComposition("main", "Second"), 0},
		"attached to an item that do": item(func(i *scene.Item) { i.Parent = "gone" }),
	} {
		p := weighed(t)
		before := text(t, p)
		if _, _, err := Apply(p, Ops{op}); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("want %q, got %v", says, err)
		}
		if text(t, p) != before {
			t.Errorf("%s: refused, and yet the project changed", says)
		}
	}
}

// explosive breaks off in the middle of a change.
type explosive struct{}

func (explosive) apply(*scene.Project) (Op, Effect, error) { panic("boom") }

func TestAPanicIsAnError(t *testing.T) {
	_, _, err := Apply(rigged(t), Ops{&ProjectRename{"Half"}, explosive{}})
	var broken *Broken
	if !errors.As(err, &broken) || !strings.Contains(err.Error(), "boom") {
		t.Errorf("got %v", err)
	}
}

// Adding, chaining and removing many items takes a time that grows as they do.
func TestManyItemsInOneChange(t *testing.T) {
	const n = 50000
	p := scene.NewProject("p", "P")
	id := func(k int) scene.ID { return scene.ID(fmt.Sprint("i", k)) }
	var adding, chaining, removing Ops
	for k := range n {
		adding = append(adding, &ItemAdd{in, &scene.Item{ID: id(k), Name: "Item", Kind: scene.Rectangle}, -1})
		if k > 0 {
			chaining = append(chaining, &ItemAttach{On: on(id(k)), Parent: id(k - 1)})
		}
	}
	for k := range n {
		removing = append(removing, &ItemRemove{on(id(n - 1 - k))})
	}
	for _, step := range []struct {
		name string
		ops  Ops
	}{{"added", adding}, {"attached in a chain", chaining}, {"removed", removing}} {
		start := time.Now()
		if _, _, err := Apply(p, step.ops); err != nil {
			t.Fatal(err)
		}
		if took := time.Since(start); took > 3*time.Second {
			t.Errorf("%d items are %s in %v, at most 3 s are wanted", n, step.name, took)
		} else {
			t.Logf("%d items are %s in %v", n, step.name, took)
		}
	}
	if len(p.Compositions[0].Items) > 0 {
		t.Error("some are left")
	}
}

func TestWhatOperationsTouchAndRefuse(t *testing.T) {
	for says, op := range map[string]Op{
		"can't be changed":           &ControlSet{on("rig"), &scene.Control{ID: "deep", Name: "D", Kind: scene.PointWidget, Depth: true, Default: scene.Pt(0, 0, 0)}},
		"text has no limits":         &LimitsSet{Of: of("words", "text"), Max: ptr(3.0)},
		"words: text has no":         &LimitsSet{Of: of("words", "text"), Min: ptr(3.0)},
		"the id s1 is taken already": &RosterLinkAdd{In: in, Value: func() *scene.RosterLink { s := rosterLink("s1", "1"); s.Link.ID = "other"; return s }()},
	} {
		p := rigged(t)
		if _, _, err := Apply(p, Ops{
			&ItemAdd{in, &scene.Item{ID: "words", Name: "words", Kind: scene.TextItem}, 0},
			&ControlAdd{On: on("rig"), Value: &scene.Control{ID: "deep", Name: "D", Kind: scene.PointWidget, Default: scene.Pt(0, 0)}},
		}); err != nil {
			t.Fatal(err)
		}
		if _, _, err := Apply(p, Ops{op}); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("want %q, got %v", says, err)
		}
	}
	for name, c := range map[string]struct {
		op      Op
		touches Touch
	}{
		"hidden": {&ItemSet{On: on("box"), Hidden: ptr(true)}, Structure}, "not in output": {&ItemSet{On: on("box"), NotInOutput: ptr(true)}, Structure}, "named": {&ItemSet{On: on("box"), Name: ptr("B")}, Names},
	} {
		_, effects, err := Apply(rigged(t), Ops{c.op})
		if err != nil || effects[0].Touch != c.touches {
			t.Errorf("%s: %+v %v", name, effects, err)
		}
	}
}

// What named nothing when it was written is brought back as it was, though something is called so by now.
func TestUndoingARemovalLooksNoNamesUp(t *testing.T) {
	p := rigged(t)
	graphed := swell("g5")
	graphed.Slips[0].Text = "{Gate: rotation}"
	row := rosterLink("s5", "{Gate: rotation} + index")
	add := Ops{
		&LinkAdd{Of: of("ball", "rotation"), Link: &scene.Link{ID: "named", Kind: scene.Formula, Gain: 1, Formula: "{Gate: rotation} / 3"}, At: -1},
		&RosterLinkAdd{In: in, Value: row}, &GraphAdd{In: in, Value: graphed, At: -1},
	}
	if _, _, err := Apply(p, add); err != nil {
		t.Fatal(err)
	}
	if _, _, err := Apply(p, Ops{&ItemAdd{in, &scene.Item{ID: "gate", Name: "Gate", Kind: scene.Rectangle}, 0}}); err != nil {
		t.Fatal(err)
	}
	for what, op := range map[string]Op{
		"a link":          &LinkRemove{of("ball", "rotation"), "named"},
		"a link, altered": &LinkSet{Of: of("ball", "rotation"), Link: &scene.Link{ID: "named", Kind: scene.Formula, Gain: 1, Formula: "7"}},
		"a row":           &RosterLinkRemove{in, "s5"},
		"a row, altered":  &RosterLinkSet{In: in, Value: rosterLink("s5", "3")},
		"a graph":         &GraphRemove{in, "g5"},
		"a slip, altered": &SlipSet{In: in, Graph: "g5", Value: &scene.Slip{ID: graphed.Slips[0].ID, Kind: scene.ReadSlip, Text: "{@rig:@turn}"}},
	} {
		before := text(t, p)
		inverse, _, err := Apply(p, Ops{op})
		if err != nil {
			t.Fatalf("%s: %v", what, err)
		}
		var sent Ops
		if err := json.Unmarshal([]byte(text(t, inverse)), &sent); err != nil {
			t.Fatal(err)
		}
		if _, _, err := Apply(p, sent); err != nil || text(t, p) != before {
			t.Errorf("%s, undone, is not what it was (%v)", what, err)
		}
	}
}
