package engine

import (
	"math"
	"slices"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

func pins(pairs ...float64) (out []scene.Pin) {
	for i := 0; i < len(pairs); i += 2 {
		out = append(out, scene.Pin{Frame: int(pairs[i]), Value: scene.Num(pairs[i+1]), Easing: curve.Linear})
	}
	return out
}

// hung is a crate on a hook that was attached while the hook stood at (100, 0), turned by 30 degrees.
// From frame 0 to 100 the hook goes to (300, 0) and turns by another 400 degrees.
func hung() *scene.Composition {
	c := scene.NewComposition("main", "C")
	hook := &scene.Item{ID: "hook", Name: "Hook", Kind: scene.Null}
	hook.Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(100, 0, 0), Easing: curve.Linear}, {Frame: 100, Value: scene.Pt(300, 0, 0)}}
	hook.Edit("rotation").Pins = pins(0, 30, 100, 430)
	stayed := [12]float64(num.Place([3]float64{100, 0, 0}, [3]float64{0, 0, 30}, [3]float64{100, 100, 100}, [3]float64{}))
	crate := &scene.Item{ID: "crate", Name: "Crate", Kind: scene.Rectangle, Parent: "hook", Attachment: scene.Attachment{Stayed: &stayed, Turns: 30}}
	crate.Edit("rotation").Own = scene.Num(-30)
	c.Items = []*scene.Item{hook, crate}
	return c
}

func TestTheWeightOfAnAttachment(t *testing.T) {
	for _, w := range []struct{ weight, frame, x, turn float64 }{
		{100, 0, 100, 0}, {100, 100, 300, 400}, {0, 100, 100, 0}, {50, 100, 200, 200}, {25, 100, 150, 100}, {50, 0, 100, 0}, {100, 50, 200, 200},
	} {
		c := hung()
		c.Items[1].Edit("attachWeight").Own = scene.Num(w.weight)
		p := at(t, c, w.frame)
		i := p.Layout.Index("crate")
		world := p.Posed(i)
		at := world.Apply([3]float64{})
		if math.Abs(at[0]-w.x) > 1e-6 || math.Abs(world.Turn-w.turn) > 1e-6 {
			t.Errorf("weight %g at frame %g: at %.3f, turned %.3f; want %g, %g", w.weight, w.frame, at[0], world.Turn, w.x, w.turn)
		}
		// The rotation that is counted is the one that is seen.
		_, seen, _ := world.Parts([3]float64{})
		if d := math.Mod(world.Turn-seen[2]+540, 360) - 180; math.Abs(d) > 1e-6 {
			t.Errorf("weight %g at frame %g: turned %g, but it stands at %g", w.weight, w.frame, world.Turn, seen[2])
		}
	}
}

func TestTheWeightIsContinuousAndCanBeDriven(t *testing.T) {
	c := hung()
	c.Items[1].Edit("attachWeight").Pins = pins(0, 0, 100, 100)
	p := New(c)
	var last [3]float64
	for f := 0.0; f <= 100; f += 0.25 {
		p.Evaluate(f)
		m := p.World(p.Layout.Index("crate"))
		now := m.Apply([3]float64{50, 50, 0})
		if f > 0 && math.Hypot(now[0]-last[0], now[1]-last[1]) > 10 {
			t.Fatalf("frame %g: a corner jumped from %v to %v", f, last, now)
		}
		last = now
	}
}

func TestWhatIsNotInheritedStaysAsItWasWhenAttached(t *testing.T) {
	for name, w := range map[string]struct {
		set        func(a *scene.Attachment)
		x, y, turn float64
	}{
		"all":         {func(*scene.Attachment) {}, 300, 0, 400},
		"no place":    {func(a *scene.Attachment) { a.NoPosition = true }, 100, 0, 400},
		"no rotation": {func(a *scene.Attachment) { a.NoRotation = true }, 300, 0, 0},
		"nothing":     {func(a *scene.Attachment) { a.NoPosition, a.NoRotation, a.NoScale = true, true, true }, 100, 0, 0},
	} {
		c := hung()
		w.set(&c.Items[1].Attachment)
		p := at(t, c, 100)
		i := p.Layout.Index("crate")
		world := p.Posed(i)
		at := world.Apply([3]float64{})
		if math.Abs(at[0]-w.x)+math.Abs(at[1]-w.y)+math.Abs(world.Turn-w.turn) > 1e-6 {
			t.Errorf("%s: at %.3f, turned %.3f", name, at, world.Turn)
		}
	}
}

func TestWhatIsDerivedCanBeReadAndDrives(t *testing.T) {
	c := hung()
	path := &scene.Item{ID: "path", Name: "Path", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 4, At: [2]float64{30, 40}}}}}}}
	word := &scene.Item{ID: "word", Name: "Word", Kind: scene.TextItem}
	box := &scene.Item{ID: "solid", Name: "Solid", Kind: scene.Box}
	depSlice := &scene.Item{ID: "probe", Name: "Probe", Kind: scene.Rectangle}
	depSlice.Edit("position").Links = []*scene.Link{follow("crate", "worldPosition", 1, 0)}
	depSlice.Edit("rotation").Links = []*scene.Link{follow("crate", "worldRotation", 1, 0)}
	depSlice.Edit("opacity").Links = []*scene.Link{follow("path", "length", 1, 0)}
	depSlice.Edit("strokeWidth").Links = []*scene.Link{follow("word", "lettersCount", 1, 0)}
	path.Edit("vertex4").Links = []*scene.Link{follow("solid", "worldVertex8", 1, 0)}
	box.Edit("vertex1").Own = scene.Pt(1, 2, 3)
	c.Items = append(c.Items, path, word, box, depSlice)
	p := at(t, c, 50)
	for key, want := range map[string]string{
		"position": "[200, 0, 0]", "rotation": "200", "strokeWidth": "4", "opacity": "100", // the length is past the limit
	} {
		if got := p.Value(ref("probe", key)); got.String() != want && (key != "position" || math.Abs(got.At(0)-200) > 1e-9) {
			t.Errorf("%s is %s, want %s", key, got, want)
		}
	}
	if got := p.Value(ref("path", "vertex4")).String(); got != "[100, 100]" {
		t.Errorf("the vertex that follows a corner of the box stands at %s", got)
	}
	for key, want := range map[string]string{"vertex1": "[1, 2, 3]", "vertex8": "[100, 100, 100]", "worldVertex1": "[1, 2, 3]", "verticesCount": "8", "framesCount": "0"} {
		if got := p.Derived(p.Layout.Index("solid"), key).String(); got != want {
			t.Errorf("%s of the box is %s, want %s", key, got, want)
		}
	}
	if got := p.Derived(p.Layout.Index("path"), "length").At(0); math.Abs(got-math.Hypot(100, 100)) > 1e-9 {
		t.Errorf("the path is %g long", got)
	}
}

func TestTraceIsWhereItemsStandAtOtherFrames(t *testing.T) {
	c := hung()
	p := at(t, c, 10)
	way := p.Trace(p.Layout.Index("crate"), 0, 100, 50)
	if len(way) != 3 || math.Abs(way[1][0]-200) > 1e-6 || math.Abs(way[2][0]-300) > 1e-6 {
		t.Errorf("the way is %v", way)
	}
	if m := p.World(p.Layout.Index("crate")); math.Abs(m[3]-120) > 1e-6 {
		t.Errorf("looking ahead moved the crate to %g", m[3])
	}
	c.Items[0].States = nil
	if way := New(c).Trace(1, 0, 100, 50); way != nil {
		t.Errorf("what never moves goes along %v", way)
	}
}

func TestTrackerReportsLinesVerticesAndMeshes(t *testing.T) {
	c := rig()
	path := &scene.Item{ID: "path", Name: "Path", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 2, At: [2]float64{30, 40}}}}}}}
	path.Edit("vertex2").Links = []*scene.Link{follow("rig", "place", 1, 0)}
	solid := &scene.Item{ID: "solid", Name: "Solid", Kind: scene.Torus}
	solid.Edit("bend").Links = []*scene.Link{follow("rig", "turn", 1, 0)}
	c.Items = append(c.Items, path, solid)
	c.Items[1].Edit("trimEnd").Links = []*scene.Link{follow("rig", "amount", 1, 0)}
	p := New(c)
	var tracker Tracker
	report := func() string {
		p.Evaluate(0)
		out := ""
		tracker.Changed(p, func(i int32, what Changes) {
			out += string(p.Layout.Items[i].ID)
			if what.Surface {
				out += "+"
			}
			out += " "
		})
		return out
	}
	report()
	for _, step := range []struct {
		control string
		value   scene.Value
		want    string
	}{
		{"amount", scene.Num(50), "box "}, {"place", scene.Pt(9, 9), "path+ "}, {"turn", scene.Num(20), "solid+ "}, {"turn", scene.Num(20), ""},
	} {
		c.Items[0].Edit(step.control).Own = step.value
		p.Patch(scene.Ref{Item: c.Items[0].ID, Property: step.control})
		if got := report(); got != step.want {
			t.Errorf("%s: %q, want %q", step.control, got, step.want)
		}
	}
	path.Path = path.Path.Clone()
	if got := report(); got != "path+ " {
		t.Errorf("a new form: %q", got)
	}
}

// Pins that come and go make places move and rest, frame after frame, without a new plan.
func TestPlacesMoveOncePinsCome(t *testing.T) {
	c := flags(2)
	p := New(c)
	p.Evaluate(0)
	item := c.Item("i1")
	for name, pins := range map[string][]scene.Pin{
		"pins came": {{Frame: 0, Value: scene.Pt(0, 0, 0), Easing: curve.Linear}, {Frame: 50, Value: scene.Pt(90, 10, 0), Easing: curve.Linear}},
		"they went": nil,
	} {
		item.Edit("position").Pins = pins
		p.Patch(scene.Ref{Item: item.ID, Property: "position"})
		for _, frame := range []float64{0, 20, 50} {
			if !slices.Equal(p.Evaluate(frame), New(c).Evaluate(frame)) {
				t.Errorf("%s: frame %v is not that of a new plan", name, frame)
			}
		}
	}
}
