package gesture_test

import (
	"fmt"
	"math"
	"math/rand"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// bench is a project on which gestures are made as a session makes them.
type bench struct {
	t *testing.T
	p *scene.Project
	c *scene.Composition
	n int
}

func newBench(t *testing.T, items ...*scene.Item) *bench {
	b := &bench{t: t, p: scene.NewProject("p", "P")}
	b.c = b.p.Compositions[0]
	b.c.Items = items
	if err := b.p.Check(); err != nil {
		t.Fatal(err)
	}
	return b
}

func (b *bench) context(frame int) *gesture.Context {
	plan := engine.New(b.c)
	plan.Evaluate(float64(frame))
	return &gesture.Context{Composition: b.c, Planned: plan, Frame: frame, Others: b.p.Compositions, NewID: func() scene.ID { b.n++; return scene.ID(fmt.Sprintf("new%d", b.n)) }}
}

// try makes a gesture at a frame.
func (b *bench) try(g gesture.Gesture, frame int) (gesture.Result, error) {
	b.t.Helper()
	r, err := g.Do(b.context(frame))
	if err != nil {
		return r, err
	}
	_, _, err = change.Apply(b.p, r.Ops)
	return r, err
}

func (b *bench) do(g gesture.Gesture, frame int) gesture.Result {
	b.t.Helper()
	r, err := b.try(g, frame)
	if err != nil {
		b.t.Fatal(err)
	}
	return r
}

// corner returns where a corner of an item stands at a frame.
func (b *bench) corner(id scene.ID, frame float64) [3]float64 {
	plan := engine.New(b.c)
	plan.Evaluate(frame)
	m := plan.World(plan.Layout.Index(id))
	return m.Apply([3]float64{30, 20, 10})
}

func (b *bench) stays(what string, id scene.ID, frame float64, was [3]float64) {
	b.t.Helper()
	now := b.corner(id, frame)
	if math.Abs(now[0]-was[0])+math.Abs(now[1]-was[1])+math.Abs(now[2]-was[2]) > 1e-6 {
		b.t.Errorf("%s: %s jumped from %.3f to %.3f", what, id, was, now)
	}
}

func item(id scene.ID, kind scene.Kind, position, rotation, scale float64) *scene.Item {
	i := &scene.Item{ID: id, Name: string(id), Kind: kind}
	i.Edit("position").Own = scene.Pt(position, position/2, 0)
	i.Edit("rotation").Own = scene.Num(rotation)
	i.Edit("scale").Own = scene.Pt(scale, scale, 100)
	return i
}

func TestNothingJumpsWhenAttachingIsChanged(t *testing.T) {
	for _, weight := range []float64{100, 40, 0} {
		crate := item("crate", scene.Rectangle, 80, 15, 120)
		crate.Edit("pivot").Own = scene.Pt(5, -7, 0)
		crate.Edit("attachWeight").Own = scene.Num(weight)
		hook := item("hook", scene.Null, 100, 30, 150)
		hook.Edit("rotation").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(30), Easing: curve.Linear}, {Frame: 100, Value: scene.Num(500), Easing: curve.Linear}}
		b := newBench(t, hook, item("other", scene.Null, -50, -60, 80), crate)
		was := b.corner("crate", 40)
		b.do(&items.Attach{Items: []scene.ID{"crate"}, Parent: "hook"}, 40)
		b.stays(fmt.Sprintf("weight %g, attached", weight), "crate", 40, was)
		was = b.corner("crate", 70)
		off, on := false, true
		b.do(&items.Inherit{Items: []scene.ID{"crate"}, Rotation: &off}, 70)
		b.stays("without rotation", "crate", 70, was)
		b.do(&items.Inherit{Items: []scene.ID{"crate"}, Rotation: &on, Scale: &off}, 70)
		b.stays("with rotation again", "crate", 70, was)
		b.do(&items.Attach{Items: []scene.ID{"crate"}, Parent: "other"}, 70)
		b.stays("attached to another", "crate", 70, was)
		b.do(&items.Attach{Items: []scene.ID{"crate"}, Parent: ""}, 70)
		b.stays("detached", "crate", 70, was)
		b.stays("detached, elsewhere", "crate", 10, was)
	}
}

// Whatever the parents and weights, an item goes where the hand moves it.
func TestMoveGoesAsFarAsTheHand(t *testing.T) {
	r := rand.New(rand.NewSource(2))
	for range 60 {
		child := item("child", scene.Rectangle, 40, 10, 130)
		child.Edit("attachWeight").Own = scene.Num(float64(r.Intn(101)))
		parent := item("parent", scene.Null, r.Float64()*100, r.Float64()*360, 50+r.Float64()*100)
		b := newBench(t, parent, child)
		b.do(&items.Attach{Items: []scene.ID{"child"}, Parent: "parent"}, 0)
		parent.Edit("rotation").Own = scene.Num(r.Float64() * 90)
		was := b.corner("child", 0)
		by := [3]float64{r.Float64() * 50, r.Float64() * 50, 3}
		b.do(&items.Move{Items: []scene.ID{"child", "parent"}[:1], By: by}, 0)
		b.stays("moved", "child", 0, [3]float64{was[0] + by[0], was[1] + by[1], was[2] + by[2]})
	}
}

func TestMoveTurnGrowAndPivot(t *testing.T) {
	b := newBench(t, item("parent", scene.Null, 0, 0, 100), item("a", scene.Rectangle, 10, 0, 100), item("b", scene.Ellipse, 30, 45, 50))
	b.do(&items.Attach{Items: []scene.ID{"a"}, Parent: "parent"}, 0)
	was := b.corner("a", 0)
	b.do(&items.Move{Items: []scene.ID{"a", "parent"}, By: [3]float64{7, 0, 0}}, 0)
	b.stays("moved with its parent", "a", 0, [3]float64{was[0] + 7, was[1], was[2]})
	b.do(&items.Turn{Items: []scene.ID{"a", "b"}, By: 30}, 0)
	b.do(&items.Grow{Items: []scene.ID{"b"}, By: [3]float64{2, 1, 1}}, 0)
	for of, want := range map[string]string{"rotation": "75", "scale": "[100, 50, 100]"} {
		if got := b.c.Item("b").State(of).Own.String(); got != want {
			t.Errorf("%s of b is %s, want %s", of, got, want)
		}
	}
	was = b.corner("b", 0)
	b.do(&items.Pivot{Items: []scene.ID{"b"}, At: &[3]float64{40, -20, 0}}, 0)
	b.stays("with another pivot", "b", 0, was)
	b.do(&items.Pivot{Items: []scene.ID{"b"}, Middle: true}, 0)
	b.stays("with its pivot in the middle", "b", 0, was)
	// A pinned position moves with a pin at the playhead, and a driven one is posed.
	b.c.Item("b").Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(0, 0, 0), Easing: curve.Linear}}
	b.do(&items.Move{Items: []scene.ID{"b"}, By: [3]float64{5, 5, 0}}, 20)
	if pins := b.c.Item("b").State("position").Pins; len(pins) != 2 || pins[1].Frame != 20 {
		t.Errorf("the pins are %v", pins)
	}
	b.c.Item("a").Edit("position").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: "b", Property: "position"}, Gain: 1}}
	if r := b.do(&items.Move{Items: []scene.ID{"a"}, By: [3]float64{5, 5, 0}}, 0); len(r.Ops) != 0 || len(r.Poses) != 1 || r.Poses[0].Value.String() != "[5, 5, 0]" {
		t.Errorf("a driven position is moved by %v, posed at %v", r.Ops, r.Poses)
	}
}

func TestGroupKeepsEverythingInItsPlace(t *testing.T) {
	b := newBench(t, item("parent", scene.Null, 60, 20, 70), item("a", scene.Rectangle, 10, 0, 100), item("b", scene.Ellipse, 30, 45, 50))
	b.do(&items.Attach{Items: []scene.ID{"a", "b"}, Parent: "parent"}, 0)
	a, e := b.corner("a", 0), b.corner("b", 0)
	r := b.do(&copies.Group{Items: []scene.ID{"a", "b"}}, 0)
	b.stays("grouped", "a", 0, a)
	b.stays("grouped", "b", 0, e)
	group := b.c.Item(r.Made[0])
	if group.Name != "Group" || group.Parent != "parent" || b.c.Item("a").Parent != group.ID {
		t.Errorf("the group %q hangs on %q, a on %q", group.Name, group.Parent, b.c.Item("a").Parent)
	}
	// The group's own rotation turns them about their middle.
	group.Edit("rotation").Own = scene.Num(180)
	if now := b.corner("a", 0); math.Abs(now[0]-a[0])+math.Abs(now[1]-a[1]) < 1 {
		t.Error("the group turns nothing")
	}
}

// What drives positions goes on from where the items hung: grouped, it leads them to the same places.
func TestAGroupOfDrivenItemsMovesNothing(t *testing.T) {
	parent := item("parent", scene.Null, 60, 20, 70)
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "go", Name: "Go", Kind: scene.Fader, Default: scene.Num(13)}}}
	b := newBench(t, parent, rig, item("a", scene.Rectangle, 10, 0, 100), item("b", scene.Ellipse, 30, 45, 50), item("c", scene.Ellipse, -70, 15, 50))
	b.do(&items.Attach{Items: []scene.ID{"a", "b", "c"}, Parent: "parent"}, 0)
	b.c.Item("a").Edit("position").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: "rig", Property: "go"}, Component: "x", Gain: 3}}
	was := [3][3]float64{b.corner("a", 0), b.corner("b", 0), b.corner("c", 0)}
	r := b.do(&copies.Group{Items: []scene.ID{"a", "b"}}, 0)
	b.stays("grouped", "a", 0, was[0])
	b.stays("grouped", "b", 0, was[1])
	if r.Note != "" {
		t.Errorf("grouped with the note %q", r.Note)
	}
	b.c.RosterLinks = []*scene.RosterLink{{ID: "s", Name: "Row", Property: "position", Component: "y", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"c"}}, Link: &scene.Link{ID: "n", Kind: scene.Formula, Gain: 1, Formula: "own + 17"}}}
	was[2] = b.corner("c", 0)
	b.do(&copies.Retime{Items: []scene.ID{"c"}}, 0)
	b.stays("given a time of its own", "c", 0, was[2])
	// Where they hung on different things, what is driven is left, and that is told.
	b.do(&items.Attach{Items: []scene.ID{"a"}, Parent: ""}, 0)
	b.c.Item("b").Edit("position").Links = []*scene.Link{{ID: "m", Kind: scene.Follow, Source: scene.Ref{Item: "rig", Property: "go"}, Component: "x", Gain: 2}}
	r = b.do(&copies.Group{Items: []scene.ID{"a", "b"}}, 0)
	if r.Note != "position of b is driven and was left unchanged" {
		t.Errorf("grouped from different places: %q", r.Note)
	}
}

// panel is a null with a control, two shapes that follow it, and one that follows the first shape.
func panel() []*scene.Item {
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "turn", Name: "Turn", Kind: scene.DialWidget, Default: scene.Num(10)}}}
	rig.Edit("turn").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(5), Easing: curve.Linear}}
	link := func(from scene.ID, property string) []*scene.Link {
		return []*scene.Link{{ID: scene.ID("l" + from), Kind: scene.Follow, Source: scene.Ref{Item: from, Property: property}, Gain: 2}}
	}
	a, b := item("a", scene.Rectangle, 0, 0, 100), item("b", scene.Rectangle, 0, 0, 100)
	a.Name, b.Name = "Lantern 1", "Lantern 2"
	a.Parent, b.Parent = "rig", "a"
	a.Edit("rotation").Links = link("rig", "turn")
	b.Edit("rotation").Links = link("a", "rotation")
	return []*scene.Item{rig, a, b}
}

func TestDuplicatesKeepLinksAndAttachmentsAmongThemselves(t *testing.T) {
	b := newBench(t, panel()...)
	r := b.do(&copies.Duplicate{Items: []scene.ID{"a"}}, 0) // takes b along, which hangs on it
	if len(r.Made) != 2 {
		t.Fatalf("made %v", r.Made)
	}
	first, second := b.c.Item(r.Made[0]), b.c.Item(r.Made[1])
	if first.Parent != "rig" || second.Parent != first.ID || first.Name != "Lantern 3" || second.Name != "Lantern 4" {
		t.Errorf("%q hangs on %q, %q on %q", first.Name, first.Parent, second.Name, second.Parent)
	}
	if from := first.State("rotation").Links[0].Source.Item; from != "rig" {
		t.Errorf("the copy follows %q", from)
	}
	if from := second.State("rotation").Links[0].Source.Item; from != first.ID {
		t.Errorf("the copy's follower follows %q", from)
	}
	r = b.do(&copies.Duplicate{Items: []scene.ID{"rig"}}, 0)
	copied := b.c.Item(r.Made[0])
	control := copied.Controls[0].ID
	if control == "turn" || len(copied.State(string(control)).Pins) != 1 {
		t.Errorf("the copied control is %q with %d pins", control, len(copied.State(string(control)).Pins))
	}
	for _, id := range r.Made {
		if l := b.c.Item(id).State("rotation").Links; len(l) > 0 && l[0].Source.Item == copied.ID && l[0].Source.Property != string(control) {
			t.Errorf("%s follows %s of the copy", id, l[0].Source.Property)
		}
	}
}

func TestPasteIntoAnotherCompositionLeavesOutWhatLeadsOutside(t *testing.T) {
	b := newBench(t, panel()...)
	clip := copies.Take("p", b.c, []scene.ID{"a"})
	other := scene.NewComposition("other", "Other")
	b.p.Compositions = append(b.p.Compositions, other)
	b.c = other
	r := b.do(&copies.Paste{Clip: clip}, 0)
	if !strings.Contains(r.Note, "1 link was left out") || len(other.Items) != 2 {
		t.Errorf("%d items, note %q", len(other.Items), r.Note)
	}
	if first := other.Item(r.Made[0]); first.Parent != "" || first.State("rotation").Links != nil {
		t.Errorf("the copy hangs on %q with %d links", first.Parent, len(first.State("rotation").Links))
	}
	if _, err := b.try(&copies.Paste{}, 0); err == nil {
		t.Error("nothing was pasted, without a word")
	}
}

func pathItem() *scene.Item {
	return &scene.Item{ID: "path", Name: "Path", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Closed: true, Vertices: []scene.Vertex{
		{ID: 1, At: [2]float64{0, 0}, Out: [2]float64{0, 60}}, {ID: 2, At: [2]float64{100, 0}, In: [2]float64{0, 60}}, {ID: 3, At: [2]float64{50, -50}},
	}}}}}
}

func TestVertices(t *testing.T) {
	b := newBench(t, item("parent", scene.Null, 40, 90, 200), pathItem())
	b.do(&items.Attach{Items: []scene.ID{"path"}, Parent: "parent"}, 0)
	length := func() float64 {
		plan := engine.New(b.c)
		plan.Evaluate(0)
		return plan.Derived(plan.Layout.Index("path"), "length").At(0)
	}
	before := length()
	b.do(&items.Reshape{Item: "path", Insert: &struct {
		After int     `json:"after"`
		Share float64 `json:"share"`
	}{1, 0.3}}, 0)
	if n := b.c.Item("path").Path.Count(); n != 4 || math.Abs(length()-before) > before*1e-3 {
		t.Errorf("a vertex more: %d, and the line is %g long instead of %g", n, length(), before)
	}
	b.do(&items.MoveVertex{Item: "path", Vertex: 3, To: [3]float64{12, 34, 0}}, 0)
	plan := engine.New(b.c)
	plan.Evaluate(0)
	if at := plan.Derived(plan.Layout.Index("path"), "worldVertex3"); math.Abs(at.At(0)-12)+math.Abs(at.At(1)-34) > 1e-9 {
		t.Errorf("the vertex went to %s", at)
	}
	b.do(&items.Reshape{Item: "path", Remove: []int{3}}, 0)
	if b.c.Item("path").States["vertex3"] != nil || b.c.Item("path").Path.Count() != 3 {
		t.Error("what was set of a removed vertex is still there")
	}
	open := false
	b.do(&items.Reshape{Item: "path", Close: &open}, 0)
	b.do(&items.Reshape{Item: "path", Corner: []int{1, 2}, Smooth: []int{2}}, 0)
	v, _ := b.c.Item("path").Path.Vertex(1)
	w, _ := b.c.Item("path").Path.Vertex(2)
	if v.Out != [2]float64{} || w.In == [2]float64{} || w.Out != [2]float64{} {
		t.Errorf("the corner has %v, the smooth end %v and %v", v.Out, w.In, w.Out)
	}
	for says, g := range map[string]gesture.Gesture{
		"no longer has a vertex 9": &items.MoveVertex{Item: "path", Vertex: 9},
		"is not a path":            &items.Reshape{Item: "parent", Close: &open},
		"at least one vertex":      &items.Reshape{Item: "path", Remove: []int{1, 2, 4}},
		"no longer has a vertex 77": &items.Reshape{Item: "path", Insert: &struct {
			After int     `json:"after"`
			Share float64 `json:"share"`
		}{77, 0.5}},
		"ends at vertex 2": &items.Reshape{Item: "path", Insert: &struct { // behind the end of what is open there is none
			After int     `json:"after"`
			Share float64 `json:"share"`
		}{2, 0.5}},
		"select the items":       &copies.Group{},
		"is not a kind of item":  &items.Add{Kind: "dragon"},
		"is no longer there":     &items.Move{Items: []scene.ID{"gone"}},
		"crane.svg: the file is": &items.BringSVG{Name: "crane.svg", Text: " "},
	} {
		if _, err := b.try(g, 0); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %q", err, says)
		}
	}
}

func TestEveryKindCanBeAddedAndAllItsNumbersSet(t *testing.T) {
	b := newBench(t)
	for _, kind := range scene.Kinds {
		if kind.Kind == scene.Copy { // made of copies
			continue
		}
		add := &items.Add{Kind: kind.Kind}
		if kind.Kind == scene.Piece {
			room := scene.NewComposition("room", "Lamp room")
			if _, _, err := change.Apply(b.p, change.Ops{&change.CompositionAdd{Value: room, At: -1}}); err != nil {
				t.Fatal(err)
			}
			add.Shows = room.ID
		}
		r := b.do(add, 0)
		made := b.c.Item(r.Made[0])
		for _, spec := range made.Specs() {
			if spec.ReadOnly {
				continue
			}
			value := scene.Txt("x\ny")
			if spec.Type != scene.Text {
				value = spec.Default
				for k := range value.Len() {
					value = value.With(k, spec.Limit(value.At(k)*3+1))
				}
			}
			b.do(&pins.Set{Targets: []scene.Ref{{Item: made.ID, Property: spec.Key}}, Value: value}, 0)
		}
	}
	plan := engine.New(b.c)
	for _, x := range plan.Evaluate(3) {
		if !num.Finite(x) {
			t.Fatal("something is not finite")
		}
	}
	var tracker engine.Tracker
	shapes := 0
	tracker.Changed(plan, func(i int32, _ engine.Changes) { shapes++ })
	drawn := 0
	for _, k := range scene.Kinds {
		if k.Kind.Drawn() && k.Class != scene.Sparks {
			drawn++
		}
	}
	if shapes != drawn {
		t.Errorf("%d items are drawn from shapes, not %d", shapes, drawn)
	}
}

func TestBringSVG(t *testing.T) {
	b := newBench(t)
	r := b.do(&items.BringSVG{Name: "some folder/Crane 2.svg", Text: `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><g id="arm"><rect id="hook" width="10" height="10"/></g><script/></svg>`}, 0)
	root := b.c.Item(r.Made[0])
	if root.Name != "Crane 2" || len(b.c.Attached(root.ID)) != 1 || b.c.Attached(root.ID)[0].Name != "arm" {
		t.Errorf("the drawing is called %q and holds %d items", root.Name, len(b.c.Attached(root.ID)))
	}
	if len(r.Details) != 1 || r.Details[0] != "a script" {
		t.Errorf("left out: %v", r.Details)
	}
}
