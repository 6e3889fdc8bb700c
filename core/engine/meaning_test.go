package engine

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/formula"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// rigged is a composition with a rig of controls and two boxes.
func rigged() *scene.Composition {
	c := scene.NewComposition("main", "Main")
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "pct", Name: "Pct", Kind: scene.Fader, Unit: scene.Percent, SoftMax: 100, Default: scene.Num(40)},
		{ID: "n", Name: "N", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(3)},
		{ID: "whole", Name: "Whole", Kind: scene.Fader, Whole: true, SoftMax: 100, Default: scene.Num(10)},
	}}
	c.Items = []*scene.Item{rig}
	for k := range 3 {
		item := &scene.Item{ID: scene.ID(fmt.Sprint("i", k)), Name: fmt.Sprint("Box ", k), Kind: scene.Rectangle}
		item.Edit("size").Own = scene.Pt(100, 100)
		c.Items = append(c.Items, item)
	}
	return c
}

func shownAt(c *scene.Composition, frame float64, id scene.ID, key string) scene.Value {
	p := New(c)
	p.Evaluate(frame)
	return p.Value(scene.Ref{Item: id, Property: key})
}

func put(c *scene.Composition, id scene.ID, key string, links ...*scene.Link) {
	for k, l := range links {
		if l.ID == "" {
			l.ID = scene.ID(fmt.Sprint("l", k, len(key)))
		}
	}
	c.Item(id).Edit(key).Links = links
}

func follows(id scene.ID, key string) *scene.Link {
	return &scene.Link{Kind: scene.Follow, Gain: 1, Source: scene.Ref{Item: id, Property: key}}
}

func formed(t *testing.T, c *scene.Composition, id scene.ID, key, text string) *scene.Link {
	t.Helper()
	l := layout.Of(c)
	compiled := formula.Compile(text, wire.ScopeOf(l, l.Index(id), c.Item(id).Spec(key), ""))
	if errs := compiled.Errors(); len(errs) > 0 {
		t.Fatalf("%s: %s", text, errs[0].Sentence)
	}
	return &scene.Link{Kind: scene.Formula, Gain: 1, Formula: compiled.Bound}
}

func TestAPercentMultipliesAsItsHundredthStaggerAndAll(t *testing.T) {
	c := rigged()
	for k := range 3 {
		c.Items[k+1].Edit("strokeWidth").Own = scene.Num(100)
	}
	for name, l := range map[string]*scene.Link{
		"follow":  follows("rig", "pct"),
		"formula": formed(t, c, "i0", "strokeWidth", "{Rig: Pct} * 1"),
		"map": {Kind: scene.Map, Gain: 1, Source: scene.Ref{Item: "rig", Property: "pct"}, Stops: []scene.MapStop{
			{In: 0, Out: scene.Num(0), Easing: curve.Linear}, {In: 100, Out: scene.Num(100), Easing: curve.Linear}}},
	} {
		l.ID, l.Operation, l.Stagger = "l", scene.Multiply, &scene.Stagger{Offset: 10}
		c.RosterLinks = []*scene.RosterLink{{ID: "s", Name: "S", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"i0", "i1", "i2"}}, Property: "strokeWidth", Link: l}}
		for k, want := range []float64{40, 50, 60} {
			if got := shownAt(c, 0, c.Items[k+1].ID, "strokeWidth").At(0); math.Abs(got-want) > 1e-9 {
				t.Errorf("%s: member %d is at %v, want %v", name, k, got, want)
			}
		}
	}
}

func TestGainAndOffsetCountForEveryKind(t *testing.T) {
	c := rigged()
	stops := []scene.MapStop{{In: 0, Out: scene.Num(0), Easing: curve.Linear}, {In: 10, Out: scene.Num(100), Easing: curve.Linear}}
	for name, l := range map[string]*scene.Link{
		"follow": {Kind: scene.Follow, Source: scene.Ref{Item: "rig", Property: "n"}}, "map": {Kind: scene.Map, Source: scene.Ref{Item: "rig", Property: "n"}, Stops: stops}, "formula": formed(t, c, "i0", "rotation", "{Rig: N}"),
	} {
		l.ID, l.Gain, l.Offset = "l", 2, 5
		put(c, "i0", "rotation", l)
		want := 11.0
		if name == "map" {
			want = 65
		}
		if got := shownAt(c, 0, "i0", "rotation").At(0); got != want {
			t.Errorf("%s: %v, want %v", name, got, want)
		}
	}
}

// A map onto a hue, or a rotation in the composition, is looked up once; a weight mixes the hue, not red, green and blue.
func TestHuesAndWorldRotations(t *testing.T) {
	c := rigged()
	c.Items[1].Edit("fill").Own = scene.RGBA(1, 0, 0, 1)
	turn := &scene.Link{ID: "l", Kind: scene.Map, Gain: 1, Source: scene.Ref{Item: "rig", Property: "n"}, Component: "hue", Stops: []scene.MapStop{
		{In: 0, Out: scene.Num(0), Easing: curve.Linear}, {In: 3, Out: scene.Num(120), Easing: curve.Linear}}}
	put(c, "i0", "fill", turn)
	if got := shownAt(c, 0, "i0", "fill"); got != scene.RGBA(0, 1, 0, 1) {
		t.Errorf("a map onto the hue makes %s", got)
	}
	c.Items[1].Edit(scene.WeightKey("l")).Own = scene.Num(50)
	if got := shownAt(c, 0, "i0", "fill"); got != scene.RGBA(1, 1, 0, 1) {
		t.Errorf("half of it makes %s, want yellow", got)
	}
	turn.Stops[1].Out = scene.Num(300) // the shorter way leads back
	if got := shownAt(c, 0, "i0", "fill"); math.Abs(got.At(0)-1) > 1e-12 || math.Abs(got.At(2)-0.5) > 1e-12 || got.At(1) != 0 {
		t.Errorf("half of the way to 300° makes %s, want 330°", got)
	}
	c = rigged()
	c.Items[2].Edit("rotation").Own = scene.Num(20)
	c.Items[1].Parent = "i1"
	world := &scene.Link{ID: "l", Kind: scene.Map, Gain: 1, World: true, Source: scene.Ref{Item: "rig", Property: "n"}, Stops: []scene.MapStop{
		{In: 0, Out: scene.Num(0), Easing: curve.Linear}, {In: 6, Out: scene.Num(100), Easing: curve.Linear}}}
	put(c, "i0", "rotation", world)
	if got := shownAt(c, 0, "i0", "rotation").At(0); got != 30 {
		t.Errorf("turned to 50° in the composition within 20° it is at %v", got)
	}
}

func TestAFlatResultLeavesZ(t *testing.T) {
	c := rigged()
	c.Items[1].Edit("position").Own = scene.Pt(1, 2, 3)
	for operation, want := range map[scene.Operation]scene.Value{scene.Replace: scene.Pt(10, 20, 7), scene.Plus: scene.Pt(11, 22, 7), scene.Multiply: scene.Pt(10, 40, 7)} {
		under := &scene.Link{ID: "z", Kind: scene.Formula, Gain: 1, Formula: "7", Component: "z"}
		over := formed(t, c, "i0", "position", "[10, 20]")
		over.Operation = operation
		put(c, "i0", "position", under, over)
		if got := shownAt(c, 0, "i0", "position"); got != want {
			t.Errorf("%q: %s, want %s", operation, got, want)
		}
	}
}

// Limits hold once, at the end: neither the own value nor what is below a link is held.
func TestLimitsHoldAtTheEnd(t *testing.T) {
	c := rigged()
	low, high := 0.0, 50.0
	state := c.Items[1].Edit("rotation")
	state.Own, state.Min, state.Max = scene.Num(80), &low, &high
	if got := shownAt(c, 0, "i0", "rotation").At(0); got != 50 {
		t.Errorf("by itself it shows %v", got)
	}
	add := follows("rig", "n")
	add.Operation, add.Gain = scene.Plus, -10
	put(c, "i0", "rotation", add)
	if got := shownAt(c, 0, "i0", "rotation").At(0); got != 50 {
		t.Errorf("80 - 30 is held at %v, want 50", got)
	}
	add.Gain = -15
	if got := shownAt(c, 0, "i0", "rotation").At(0); got != 35 {
		t.Errorf("80 - 45 is %v, want 35", got)
	}
	state.Pins = []scene.Pin{{Frame: 0, Value: scene.Num(200), Easing: curve.Linear}, {Frame: 100, Value: scene.Num(300), Easing: curve.Linear}}
	add.Gain = -60
	p := New(c)
	if got := p.Series([]scene.Ref{{Item: "i0", Property: "rotation"}}, 0, 20, 21)[0]; got[0] != 20 || got[20] != 40 {
		t.Errorf("pins from 200 less 180 give %v and %v", got[0], got[20])
	}
	state.Links = nil
	if got := New(c).Series([]scene.Ref{{Item: "i0", Property: "rotation"}}, 0, 20, 21)[0]; got[0] != 50 || got[20] != 50 {
		t.Errorf("pins beyond the limit show %v and %v", got[0], got[20])
	}
}

func TestWeightsAreHeldAndWholeNumbersMix(t *testing.T) {
	c := rigged()
	c.Items[0].Edit("n").Own = scene.Num(250)
	from := scene.Ref{Item: "rig", Property: "n"}
	c.RosterLinks = []*scene.RosterLink{{ID: "s", Name: "S", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"i0"}}, Property: "rotation", WeightFrom: &from, Link: &scene.Link{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "40"}}}
	if got := shownAt(c, 0, "i0", "rotation").At(0); got != 40 {
		t.Errorf("at a weight of 250 it is at %v", got)
	}
	c = rigged()
	put(c, "rig", "whole", &scene.Link{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "20"})
	c.Items[0].Edit(scene.WeightKey("l")).Own = scene.Num(33)
	if got := shownAt(c, 0, "rig", "whole").At(0); got != 13 {
		t.Errorf("10 and a third of the way to 20 are %v, want 13", got)
	}
	book := &scene.Item{ID: "book", Name: "Book", Kind: scene.Flipbook}
	c.Items = append(c.Items, book)
	put(c, "book", "frame", &scene.Link{ID: "f", Kind: scene.Formula, Gain: 1, Formula: "2.9"})
	if got := shownAt(c, 0, "book", "frame").At(0); got != 2 {
		t.Errorf("frame 2.9 is %v, want 2", got)
	}
}

// What is added up is exact over jumps at whole frames and over only a linear map, and so is the mean.
func TestAreasAreExact(t *testing.T) {
	c := rigged()
	c.Items[0].Edit("n").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(0), Easing: curve.Linear}, {Frame: 100, Value: scene.Num(100), Easing: curve.Linear}}
	for text, want := range map[string]float64{
		"accumulate(if(frame < 15, 0, 10))": 6, "accumulate({Rig: N})": 18, "average(if(frame < 15, 0, 10), 20f)": 7.5, "average({Rig: N}, 20f)": 20,
		"average({Rig: N}, 2.5f)": 28.75, "accumulate(accumulate(2))": 1.44,
		"average(average(if(frame < 15, 0, 10), 4f), 20f)": 6.5, "average(average({Rig: N}, 4f), 20f)": 18,
		"delay(average(if(frame < 15, 0, 10), 20f), 0.3f)": 7.35, "delay(average({Rig: N}, 20f), 0.3f)": 19.7, "delay(average({Rig: N}, -20f), 0.3f)": 39.7,
	} {
		put(c, "i0", "rotation", formed(t, c, "i0", "rotation", text))
		p := New(c)
		for _, played := range []bool{false, true} {
			if played {
				for f := range 30 {
					p.Evaluate(float64(f))
				}
			}
			p.Evaluate(30)
			if got := p.Value(scene.Ref{Item: "i0", Property: "rotation"}).At(0); math.Abs(got-want) > 1e-9 {
				t.Errorf("%s is %v, want %v (played: %v)", text, got, want, played)
			}
		}
	}
}

func TestTextsThatCannotBePassOn(t *testing.T) {
	c := rigged()
	c.Items = append(c.Items, &scene.Item{ID: "sign", Name: "Sign", Kind: scene.TextItem})
	c.Item("sign").Edit("text").Own = scene.Txt("below")
	for text, want := range map[string]string{
		"text(1 / 0)": "below", `text("a", 0 / 0)`: "below", "text(0.1 + 0.2)": "0.3", "text(1e21)": "1000000000000000000000", "text(-0.5 + 0.5)": "0", "fixed(2.5, 0)": "3", "fixed(-2.5, 0)": "-3", "fixed(1.005, 2)": "1", "text(round(2.5))": "3",
		"a = \"0123456789\"\nab = text(a, a, a, a, a, a, a, a, a, a)\nc = text(ab, ab, ab, ab, ab, ab, ab, ab, ab, ab)\ntext(c, c, c, c, c, c, c, c, c, c, c, c, c, c, c, c, c, c, c, c, c)": "below",
	} {
		if strings.HasPrefix(text, "fixed(1.005") {
			want = "1.00"
		}
		put(c, "sign", "text", formed(t, c, "sign", "text", text))
		if got := shownAt(c, 0, "sign", "text").Str(); got != want {
			t.Errorf("%.40s is %q, want %q", text, got, want)
		}
	}
}

// Each of what an attachment takes over acts on itself alone.
func TestWhatIsInheritedActsOnItselfAlone(t *testing.T) {
	c := rigged()
	parent, child := c.Items[1], c.Items[2]
	child.Parent = "i0"
	child.Edit("position").Own = scene.Pt(100, 0, 0)
	child.Attachment.Stayed = &[12]float64{1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0}
	parent.Edit("rotation").Own, parent.Edit("position").Own, parent.Edit("scale").Own = scene.Num(90), scene.Pt(10, 0, 0), scene.Pt(200, 200, 100)
	for name, want := range map[string]struct {
		a     scene.Attachment
		x, y  float64
		turn  float64
		scale float64
	}{
		"all":              {scene.Attachment{}, 10, 200, 90, 200},
		"without rotation": {scene.Attachment{NoRotation: true}, 10, 200, 0, 200},
		"without position": {scene.Attachment{NoPosition: true}, 100, 0, 90, 200},
		"without scale":    {scene.Attachment{NoScale: true}, 10, 200, 90, 100},
		"with none":        {scene.Attachment{NoPosition: true, NoRotation: true, NoScale: true}, 100, 0, 0, 100},
	} {
		stayed := child.Attachment.Stayed
		child.Attachment = want.a
		child.Attachment.Stayed = stayed
		place, turn, scale := shownAt(c, 0, "i1", "worldPosition"), shownAt(c, 0, "i1", "worldRotation").At(0), shownAt(c, 0, "i1", "worldScale").At(0)
		if math.Abs(place.At(0)-want.x)+math.Abs(place.At(1)-want.y)+math.Abs(turn-want.turn)+math.Abs(scale-want.scale) > 1e-9 {
			t.Errorf("%s: at %s, turned by %v, scaled to %v; want %+v", name, place, turn, scale, want)
		}
	}
}

// What is read of items has its value whether or not another link reads it, now and at other times.
func TestWhatIsReadHasItsValueEverywhere(t *testing.T) {
	c := rigged()
	line(c, 3)
	c.Items[1].Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(0, 0, 0), Easing: curve.Linear}, {Frame: 10, Value: scene.Pt(100, 0, 0), Easing: curve.Linear}}
	p := New(c)
	p.Evaluate(5)
	for text, want := range map[string]string{
		"{Box 0: world.position}": "[50, 0, 0]", "delay({Box 0: world.position}, 2f).x": "30", "{Line: vertices[2].x}": "10", "{Line: world.vertices[2]}": "[10, 0, 0]", "{Line: world vertex 2}.x": "10",
		"{Line: vertices[{Rig: N}].x}": "20", "{Line: world.vertices[{Rig: N} - 1].x}": "10", "{Line: length}": "20", "{Line: vertices.count}": "3",
	} {
		compiled, v := p.Try(text, scene.Ref{}, 5)
		if len(v) == 0 || v[0].String() != want {
			t.Errorf("%s is %v (%v), want %s", text, v, compiled.Errors(), want)
		}
	}
	if got := p.Series([]scene.Ref{{Item: "i0", Property: "worldPosition", Component: "x"}}, 0, 10, 11)[0]; len(got) != 11 || got[7] != 70 {
		t.Errorf("over time it is %v", got)
	}
	if got := p.Value(scene.Ref{Item: "i0", Property: "worldPosition", Component: "x"}); got != scene.Num(50) {
		t.Errorf("its value is %s", got)
	}
}

// A feedback link that is delayed itself has nothing to say before frame 0.
func TestDelayedFeedbackBeginsWithWhatIsBelow(t *testing.T) {
	c := rigged()
	under := &scene.Link{ID: "u", Kind: scene.Formula, Gain: 1, Formula: "10"}
	back := follows("i0", "rotation")
	back.ID, back.Operation, back.Delay, back.Gain = "b", scene.Plus, 3, 0.5
	put(c, "i0", "rotation", under, back)
	p := New(c)
	for frame, want := range map[float64]float64{-4: 10, 0: 15, 2: 15, 3: 17.5} {
		if p.Evaluate(frame); p.Value(scene.Ref{Item: "i0", Property: "rotation"}).At(0) != want {
			t.Errorf("at %v it is at %s, want %v", frame, p.Value(scene.Ref{Item: "i0", Property: "rotation"}), want)
		}
	}
}

// Of links that come in a cycle, the newest alone is left out.
func TestOnlyTheNewestOfACycleIsLeftOut(t *testing.T) {
	c := rigged()
	put(c, "i0", "rotation", &scene.Link{ID: "a", Kind: scene.Follow, Gain: 1, Offset: 1, Source: scene.Ref{Item: "i2", Property: "rotation"}})
	put(c, "i1", "rotation", &scene.Link{ID: "b", Kind: scene.Follow, Gain: 1, Offset: 1, Source: scene.Ref{Item: "i0", Property: "rotation"}})
	c.Items[3].Edit("rotation").Own = scene.Num(5)
	put(c, "i2", "rotation", &scene.Link{ID: "c", Kind: scene.Follow, Gain: 1, Offset: 1, Source: scene.Ref{Item: "i1", Property: "rotation"}})
	p := New(c)
	p.Evaluate(0)
	if p.Cycle == nil || len(p.Suspended) != 1 || p.Suspended[0].ID != "c" {
		t.Fatalf("left out: %v", p.Suspended)
	}
	for id, want := range map[scene.ID]float64{"i2": 5, "i0": 6, "i1": 7} {
		if got := p.Value(scene.Ref{Item: id, Property: "rotation"}).At(0); got != want {
			t.Errorf("%s is at %v, want %v", id, got, want)
		}
	}
}

// A map that goes on, goes on from its outermost stop.
func TestMapsGoOnFromTheirEnds(t *testing.T) {
	c := rigged()
	put(c, "i0", "rotation", &scene.Link{Kind: scene.Map, Gain: 1, Beyond: scene.GoOn, Source: scene.Ref{Item: "rig", Property: "n"}, Stops: []scene.MapStop{
		{In: 0, Out: scene.Num(0), Easing: curve.Linear}, {In: 10, Out: scene.Num(100), Easing: curve.Linear}, {In: 20, Out: scene.Num(150), Easing: curve.Linear}}})
	for x, want := range map[float64]float64{30: 200, -10: -100, 15: 125} {
		c.Items[0].Edit("n").Own = scene.Num(x)
		if got := shownAt(c, 0, "i0", "rotation").At(0); got != want {
			t.Errorf("at %v it gives %v, want %v", x, got, want)
		}
	}
}

// A weight of an attachment that is set later counts as one that was there from the start.
func TestAnAttachmentIsLoosenedLater(t *testing.T) {
	c := rigged()
	c.Items[2].Parent = "i0"
	c.Items[2].Attachment.Stayed = &[12]float64{1, 0, 0, 50, 0, 1, 0, 0, 0, 0, 1, 0}
	p := New(c)
	p.Evaluate(0)
	c.Items[2].Edit("attachWeight").Own = scene.Num(50)
	p.Patch(scene.Ref{Item: c.Items[2].ID, Property: "attachWeight"})
	p.Evaluate(0)
	if got := p.World(p.Layout.Index("i1"))[3]; got != 25 {
		t.Errorf("half loosened it stands at %v, want 25", got)
	}
}

// A vertex of an object that is driven no more is again where its form has it, for who reads it as well.
func TestAVertexIsLetGo(t *testing.T) {
	c := rigged()
	c.Items = append(c.Items, &scene.Item{ID: "box", Name: "Box", Kind: scene.Box})
	put(c, "box", "vertex1", follows("i0", "position"))
	put(c, "i1", "position", follows("box", "vertex1"))
	p := New(c)
	p.Evaluate(0)
	c.Item("box").State("vertex1").Links = nil
	c.Item("box").Tidy("vertex1")
	if cycle, ok := p.Relink([]scene.Ref{{Item: "box", Property: "vertex1"}}); cycle != nil || !ok {
		t.Skip("it is planned anew")
	}
	p.Evaluate(0)
	fresh := shownAt(c, 0, "i1", "position")
	if got := p.Value(scene.Ref{Item: "i1", Property: "position"}); got != fresh || fresh == scene.Pt(0, 0, 0) {
		t.Errorf("it is at %s, want %s", got, fresh)
	}
}

func TestStaggerOfOneAndOffsetsOfPercents(t *testing.T) {
	c := rigged()
	c.Items[1].Edit("strokeWidth").Own = scene.Num(100)
	l := follows("rig", "pct")
	l.ID, l.Operation, l.Offset, l.Stagger = "l", scene.Multiply, 10, &scene.Stagger{By: scene.AsShare, Offset: 30}
	c.RosterLinks = []*scene.RosterLink{{ID: "s", Name: "S", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"i0"}}, Property: "strokeWidth", Link: l}}
	if got := shownAt(c, 0, "i0", "strokeWidth").At(0); got != 50 {
		t.Errorf("100 times 40 %% and 10 is %v, want 50", got)
	}
}

func TestUnitsOfProducts(t *testing.T) {
	p := New(rigged())
	for text, want := range map[string]scene.Unit{
		"{Rig: Pct} * 1": scene.Percent, "2 * {Rig: Pct}": scene.Percent, "{Rig: Pct} / 2": scene.Percent, "{Rig: Pct} * {Box 0: size.x}": scene.Pixels, "{Box 0: size.x} * {Rig: Pct}": scene.Pixels,
		"{Rig: Pct} / {Rig: Pct}": scene.Plain, "3 / {Rig: Pct}": scene.Plain, "{Rig: Pct} + 1": scene.Percent,
	} {
		if compiled, _ := p.Try(text, scene.Ref{}, 0); compiled.Type.Unit != want {
			t.Errorf("%s is in %q, want %q", text, compiled.Type.Unit, want)
		}
	}
	for text, warns := range map[string]bool{"{Rig: Pct}": true, "{Rig: Pct} * 3": false, "{Rig: Pct} / 3 + 1": false, "{Rig: Pct} + {Rig: Pct}": true} {
		if compiled, _ := p.Try(text, scene.Ref{Item: "i0", Property: "rotation"}, 0); (len(compiled.Problems) > 0) != warns {
			t.Errorf("%s onto a rotation: %v", text, compiled.Problems)
		}
	}
}
