package engine

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/formula"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// written puts a formula on a property, as it is typed.
func written(t testing.TB, c *scene.Composition, ref scene.Ref, text string) {
	t.Helper()
	l := layout.Of(c)
	i := l.Index(ref.Item)
	spec := l.Items[i].Spec(ref.Property)
	compiled := formula.Compile(text, wire.ScopeOf(l, i, spec, ref.Component))
	if errs := compiled.Errors(); len(errs) > 0 {
		t.Fatalf("%s: %s", text, errs[0].Sentence)
	}
	state := l.Items[i].Edit(ref.Property)
	state.Links = append(state.Links, &scene.Link{ID: scene.ID(fmt.Sprint("f", len(state.Links))), Kind: scene.Formula, Component: ref.Component, Gain: 1, Formula: compiled.Bound})
}

// flags is a null with a slider that runs from 0 to 100 over 100 frames, and n rectangles.
func flags(n int) *scene.Composition {
	c := scene.NewComposition("main", "Row")
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "amount", Name: "Amount", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(0)}, {ID: "lag", Name: "Lag", Kind: scene.Fader, Unit: scene.Seconds, SoftMax: 10, Default: scene.Num(0.2)},
		{ID: "word", Name: "Tint", Kind: scene.ColourWidget, Default: scene.RGBA(0.25, 0.5, 0.75, 1)},
	}}
	rig.Edit("amount").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(0), Easing: curve.Linear}, {Frame: 100, Value: scene.Num(100), Easing: curve.Linear}}
	c.Items = append(c.Items, rig)
	for i := range n {
		c.Items = append(c.Items, &scene.Item{ID: scene.ID(fmt.Sprint("i", i)), Name: fmt.Sprint("Flag ", i), Kind: scene.Rectangle})
	}
	return c
}

func TestFormulasOnProperties(t *testing.T) {
	for _, c := range []struct {
		property, part, text string
		frame                float64
		want                 []float64
	}{
		{"rotation", "", "{Rig: Amount} * 2 + 1", 30, []float64{61}},
		{"rotation", "", "{rig:amount}", 30, []float64{30}},
		{"rotation", "", "own + frame", 3, []float64{15}},
		{"rotation", "", "delay({Rig: Amount}, 10f)", 30, []float64{20}},
		{"rotation", "", "delay({Rig: Amount}, {Rig: Lag})", 30, []float64{25}},
		{"rotation", "", "delay(delay({Rig: Amount}, 5f) + {Flag 1: opacity}, 5f)", 30, []float64{120}},
		{"rotation", "", "accumulate({Rig: Amount})", 30, []float64{18}},
		{"rotation", "", "average({Rig: Amount}, 20f)", 50, []float64{40}},
		{"rotation", "", "{self: opacity} / 2", 0, []float64{50}},
		{"rotation", "", "1 / ({Rig: Amount} - 30)", 30, []float64{12}}, // not finite: the own value
		{"rotation", "", "{Flag 1: world.position}.x", 0, []float64{7}},
		{"opacity", "", "{Rig: Amount} * 10", 30, []float64{100}}, // the hard limit
		{"position", "", "[frame, 2]", 5, []float64{5, 2, 3}},
		{"position", "", "4", 5, []float64{4, 4, 4}},
		{"position", "y", "frame * 3", 5, []float64{1, 15, 3}},
		{"position", "", "own * 2", 5, []float64{2, 4, 6}},
		{"position", "", "{Flag 1: position} + {Flag 1: position.x}", 5, []float64{14, 7, 7}},
		{"fill", "", "hsl(hue({Rig: Tint}) - 210, 1, 0.5)", 0, []float64{1, 0, 0, 1}},
		{"position", "", "along({Rope}, 0.25)", 0, []float64{50, 100, 3}},
		{"rotation", "", "heading({Rope}, 0.75)", 0, []float64{90}},
	} {
		comp := flags(2)
		comp.Items[1].Edit("rotation").Own = scene.Num(12)
		comp.Items[1].Edit("position").Own = scene.Pt(1, 2, 3)
		comp.Items[2].Edit("position").Own = scene.Pt(7, 0, 0)
		rope := &scene.Item{ID: "rope", Name: "Rope", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 2, At: [2]float64{100, 0}}, {ID: 3, At: [2]float64{100, 100}}}}}}}
		rope.Edit("position").Own = scene.Pt(0, 100, 0)
		comp.Items = append(comp.Items, rope)
		ref := scene.Ref{Item: "i0", Property: c.property, Component: c.part}
		written(t, comp, ref, c.text)
		comp.Items[2].Name, comp.Items[0].Name = "Renamed: {x}", "Other"
		p := New(comp)
		p.Evaluate(c.frame)
		got := p.Value(scene.Ref{Item: "i0", Property: c.property})
		for k, w := range c.want {
			if math.Abs(got.At(k)-w) > 1e-9 {
				t.Errorf("%s at %v: %v, want %v", c.text, c.frame, got, c.want)
				break
			}
		}
	}
}

func TestFormulasStack(t *testing.T) {
	c := flags(1)
	ref := scene.Ref{Item: "i0", Property: "rotation"}
	written(t, c, ref, "10")
	written(t, c, ref, "below * 3")
	written(t, c, ref, "below + own + 1")
	written(t, c, ref, "5")
	links := c.Items[1].State("rotation").Links
	links[3].Operation, links[2].Delay = scene.Plus, 4
	c.Items[1].Edit(scene.WeightKey(links[3].ID)).Own = scene.Num(50)
	c.Items[1].Edit("rotation").Own = scene.Num(2)
	p := New(c)
	p.Evaluate(0)
	if got := p.Value(ref); got.At(0) != 35.5 { // (10·3 + 2 + 1) + 5/2
		t.Errorf("the stack gives %v", got)
	}
	written(t, c, ref, "0 / 0")
	p = New(c)
	p.Evaluate(0)
	if got := p.Value(ref); got.At(0) != 35.5 {
		t.Errorf("what is not finite passes on what is below it: %v", got)
	}
}

// Playing, scrubbing and looking at a property alone give the same bits, through delays of delays,
// with feet of clay changed on the way.
func TestFormulasAreExactInAnyOrder(t *testing.T) {
	for seed := range uint64(12) {
		r := rand.New(rand.NewPCG(seed, 3))
		c := flags(6)
		for i := range 6 {
			from := "{Rig: Amount}"
			if i > 0 {
				from = fmt.Sprintf("{Flag %d: rotation}", r.IntN(i))
			}
			text := []string{"delay(%s, {Rig: Lag}) + 1", "average(%s, 7f) * 2", "accumulate(%s) / 10 + noise(time, 3)", "every(%s, 4f)", "at(%s, time / 2) - delay(%[1]s, 3f)", "loop(%s, 0s, 1s)"}[r.IntN(6)]
			written(t, c, scene.Ref{Item: c.Items[i+1].ID, Property: "rotation"}, fmt.Sprintf(text, from))
		}
		played := New(c)
		var all [][]float64
		for f := range 60 {
			all = append(all, slices.Clone(played.Evaluate(float64(f))))
		}
		scrubbed := New(c)
		for range 40 {
			f := r.IntN(60)
			if !slices.Equal(scrubbed.Evaluate(float64(f)), all[f]) {
				t.Fatalf("seed %d: frame %d differs when it is jumped to", seed, f)
			}
		}
		last := scene.Ref{Item: "i5", Property: "rotation"}
		_, slot := played.Layout.Find("i5", "rotation")
		series := scrubbed.Series([]scene.Ref{last}, 0, 59, 60)[0]
		for f := range 60 {
			if series[f] != all[f][slot] {
				t.Fatalf("seed %d: the series differs at %d", seed, f)
			}
		}
		// Another lag, patched in, is as good as planned anew.
		c.Items[0].Edit("lag").Own = scene.Num(0.36)
		played.Patch(scene.Ref{Item: c.Items[0].ID, Property: "lag"})
		if !slices.Equal(played.Evaluate(40), New(c).Evaluate(40)) {
			t.Fatalf("seed %d: patched differs from planned anew", seed)
		}
		if compiled, tried := played.Try(fmt.Sprintf("{Flag 5: rotation} + delay({Flag 5: rotation}, 3f)"), scene.Ref{}, 40); compiled.Program == nil || tried[0].At(0) != series2(played, last, 40)+series2(played, last, 37) {
			t.Fatalf("seed %d: tried out it is %v", seed, tried)
		}
	}
}

func series2(p *Plan, ref scene.Ref, frame float64) float64 {
	return p.Series([]scene.Ref{ref}, frame, frame, 1)[0][0]
}

// A property may depend on itself through a delay of at least a frame: it begins with its own value
// at frame 0, and is the same in whatever order frames are visited.
func TestFeedbackThroughADelay(t *testing.T) {
	c := flags(3)
	c.Items[1].Edit("rotation").Own = scene.Num(64)
	ref := scene.Ref{Item: "i0", Property: "rotation"}
	written(t, c, ref, "mix(delay({self: rotation}, 1f), {Rig: Amount}, 0.5)") // smoothed
	// Two that drive each other, and one that is held at a frame where it asks for less.
	written(t, c, scene.Ref{Item: "i1", Property: "rotation"}, "delay({Flag 2: rotation}, 2f) + 1")
	written(t, c, scene.Ref{Item: "i2", Property: "rotation"}, "{Flag 1: rotation} * 0.5")
	written(t, c, scene.Ref{Item: "i2", Property: "opacity"}, "delay({self: opacity}, {Rig: Lag} * 0) - 1")
	if p := New(c); p.Cycle != nil {
		t.Fatal(p.Cycle)
	}
	want := []float64{64 / 2} // frame 0: half of the own value before it, half of the amount
	for f := 1; f < 80; f++ {
		want = append(want, want[f-1]/2+float64(f)/2)
	}
	played := New(c)
	var all [][]float64
	for f := range 80 {
		all = append(all, slices.Clone(played.Evaluate(float64(f))))
		if got := played.Value(ref).At(0); math.Abs(got-want[f]) > 1e-9 {
			t.Fatalf("frame %d: %v, want %v", f, got, want[f])
		}
		if got := played.Value(scene.Ref{Item: "i2", Property: "opacity"}).At(0); got != float64(99-f) {
			t.Fatalf("frame %d: %v is held at a frame of delay", f, got)
		}
	}
	jumped := New(c)
	for _, f := range []int{70, 3, 79, 41} {
		if !slices.Equal(jumped.Evaluate(float64(f)), all[f]) {
			t.Errorf("frame %d differs when it is jumped to", f)
		}
	}
	// Without the delay it is a cycle.
	written(t, c, scene.Ref{Item: "i1", Property: "opacity"}, "{self: opacity} + 1")
	if p := New(c); p.Cycle == nil {
		t.Error("a circle passes")
	}
	// A link with a delay does the same without a formula.
	c = flags(1)
	c.Items[1].Edit("rotation").Own = scene.Num(8)
	c.Items[1].Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: ref, Gain: 0.5, Delay: 1}}
	p := New(c)
	if p.Evaluate(2); p.Cycle != nil || p.Value(ref).At(0) != 1 {
		t.Errorf("%v, %v", p.Cycle, p.Value(ref))
	}
}
