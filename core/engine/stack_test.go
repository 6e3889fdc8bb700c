package engine

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

func stop(in, out float64) scene.MapStop {
	return scene.MapStop{In: in, Out: scene.Num(out), Easing: curve.Linear}
}

// stacked is the rig with links on the box's rotation, whose own value is 10; Amount is at 40, Turn
// at 90 and rising by one a frame.
func stacked(links ...*scene.Link) *scene.Composition {
	c := rig()
	c.Items[0].Edit("turn").Pins = pins(0, 0, 300, 300)
	box := c.Items[1]
	box.Edit("rotation").Own = scene.Num(10)
	for i, l := range links {
		l.ID = scene.ID(fmt.Sprintf("l%d", i))
	}
	box.Edit("rotation").Links = links
	return c
}

func mapOf(beyond scene.Beyond, stops ...scene.MapStop) *scene.Link {
	return &scene.Link{Kind: scene.Map, Gain: 1, Source: ref("rig", "turn"), Stops: stops, Beyond: beyond}
}

func with(l *scene.Link, change func(*scene.Link)) *scene.Link {
	change(l)
	return l
}

func TestStacks(t *testing.T) {
	plus := func(l *scene.Link) { l.Operation = scene.Plus }
	times := func(l *scene.Link) { l.Operation = scene.Multiply }
	delayed := func(by float64) func(*scene.Link) { return func(l *scene.Link) { l.Delay = by } }
	for name, c := range map[string]struct {
		links []*scene.Link
		frame float64
		want  float64
	}{
		"replace":                  {[]*scene.Link{follow("rig", "amount", 2, 1)}, 0, 81},
		"add":                      {[]*scene.Link{with(follow("rig", "amount", 2, 1), plus)}, 0, 91},
		"multiply":                 {[]*scene.Link{with(follow("rig", "amount", 2, 1), times)}, 0, 810},
		"add, then multiply":       {[]*scene.Link{with(follow("rig", "amount", 1, 0), plus), with(follow("rig", "amount", 0, 3), times)}, 0, 150},
		"replace hides":            {[]*scene.Link{follow("rig", "amount", 7, 0), follow("rig", "amount", 1, 0)}, 0, 40},
		"delayed":                  {[]*scene.Link{with(follow("rig", "turn", 1, 0), delayed(25))}, 90, 65},
		"delayed before the start": {[]*scene.Link{with(follow("rig", "turn", 1, 0), delayed(25))}, 10, 0},
		"delayed by half a frame":  {[]*scene.Link{with(follow("rig", "turn", 1, 0), delayed(0.5))}, 90, 89.5},
		"delayed past the length":  {[]*scene.Link{with(follow("rig", "turn", 1, 0), delayed(5000))}, 90, 0},
		"not finite passes on":     {[]*scene.Link{follow("rig", "amount", 1, 2), with(follow("rig", "amount", 1e308, 0), func(l *scene.Link) { l.Offset = 1.7e308 })}, 0, 42},
		"map":                      {[]*scene.Link{mapOf("", stop(0, 0), stop(100, 50), stop(200, 150))}, 150, 100},
		"map holds its ends":       {[]*scene.Link{mapOf("", stop(20, 5), stop(100, 50))}, 10, 5},
		"map goes on":              {[]*scene.Link{mapOf(scene.GoOn, stop(20, 10), stop(100, 50))}, 160, 80},
		"map goes on before":       {[]*scene.Link{mapOf(scene.GoOn, stop(20, 10), stop(100, 50))}, 0, 0},
		"map repeats":              {[]*scene.Link{mapOf(scene.Repeat, stop(0, 0), stop(50, 100))}, 120, 40},
		"map mirrors":              {[]*scene.Link{mapOf(scene.Mirror, stop(0, 0), stop(50, 100))}, 70, 60},
		"map mirrors before":       {[]*scene.Link{mapOf(scene.Mirror, stop(100, 0), stop(150, 100))}, 70, 60},
		"map adds":                 {[]*scene.Link{with(mapOf("", stop(0, 0), stop(100, 50)), plus)}, 50, 35},
		"map, delayed":             {[]*scene.Link{with(mapOf("", stop(0, 0), stop(100, 50)), delayed(10))}, 50, 20},
		"map that holds":           {[]*scene.Link{mapOf("", scene.MapStop{In: 0, Out: scene.Num(1), Easing: curve.Hold}, stop(100, 9))}, 99, 1},
	} {
		if got := at(t, stacked(c.links...), c.frame).Value(ref("box", "rotation")).At(0); math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%s: %g, want %g", name, got, c.want)
		}
	}
}

func TestPercentMultipliesAsItsHundredth(t *testing.T) {
	c := stacked(with(follow("rig", "amount", 1, 0), func(l *scene.Link) { l.Operation = scene.Multiply }))
	c.Items[0].Controls[0].Unit = scene.Percent
	if got := at(t, c, 0).Value(ref("box", "rotation")).At(0); got != 4 {
		t.Errorf("40 %% of 10 is %g", got)
	}
}

func TestWeightsMixAndCanBeDriven(t *testing.T) {
	c := stacked(follow("rig", "amount", 1, 0))
	key := scene.WeightKey("l0")
	for weight, want := range map[float64]float64{0: 10, 25: 17.5, 100: 40} {
		c.Items[1].Edit(key).Own = scene.Num(weight)
		if got := at(t, c, 0).Value(ref("box", "rotation")).At(0); got != want {
			t.Errorf("at a weight of %g: %g, want %g", weight, got, want)
		}
	}
	c.Items[1].Edit(key).Links = []*scene.Link{{ID: "w", Kind: scene.Follow, Source: ref("rig", "turn"), Gain: 1}}
	if got := at(t, c, 50).Value(ref("box", "rotation")).At(0); got != 25 {
		t.Errorf("at a driven weight of 50: %g", got)
	}
	// What jumps is replaced from half of the weight.
	c.Items[1].Edit("lit").Links = []*scene.Link{{ID: "s", Kind: scene.Follow, Source: ref("rig", "amount"), Gain: 1}}
	for weight, want := range map[float64]float64{49: 0, 50: 1} {
		c.Items[1].Edit(scene.WeightKey("s")).Own = scene.Num(weight)
		if got := at(t, c, 0).Value(ref("box", "lit")).At(0); got != want {
			t.Errorf("a switch at a weight of %g: %g", weight, got)
		}
	}
}

func TestMapsToColoursPlacesTextsAndFromMenus(t *testing.T) {
	c := rig()
	c.Items[0].Controls = append(c.Items[0].Controls, &scene.Control{ID: "mode", Name: "Mode", Kind: scene.ChoiceWidget, Options: []string{"calm", "storm"}, Default: scene.Num(1)})
	on := func(in float64, out scene.Value) scene.MapStop {
		return scene.MapStop{In: in, Out: out, Easing: curve.Linear}
	}
	link := func(source string, stops ...scene.MapStop) []*scene.Link {
		return []*scene.Link{{ID: "m", Kind: scene.Map, Gain: 1, Source: ref("rig", source), Stops: stops}}
	}
	box, word := c.Items[1], c.Items[3]
	box.Edit("fill").Links = link("amount", on(0, scene.RGBA(0, 0, 0, 1)), on(80, scene.RGBA(1, 0.5, 0, 1)))
	box.Edit("position").Links = link("amount", on(0, scene.Pt(0, 0, 0)), on(100, scene.Pt(100, 50, -10)))
	word.Edit("text").Links = link("mode", on(0, scene.Txt("calm sea")), on(1, scene.Txt("storm")))
	word.Edit("font").Links = link("mode", on(0, scene.Num(0)), on(1, scene.Num(2)))
	p := at(t, c, 0)
	for of, want := range map[scene.Ref]string{
		ref("box", "fill"): "[0.5, 0.25, 0, 1]", ref("box", "position"): "[40, 20, -4]", ref("word", "text"): `"storm"`, ref("word", "font"): "2",
	} {
		if got := p.Value(of).String(); got != want {
			t.Errorf("%s is %s, want %s", of.Property, got, want)
		}
	}
}

func TestDelaysAreExactInAnyOrderAndThroughOneAnother(t *testing.T) {
	c := rig()
	c.Items[0].Edit("turn").Pins = pins(0, 0, 300, 300)
	for i := 1; i < 5; i++ { // each trails the one before it by 7 frames
		from, property := scene.ID("rig"), "turn"
		if i > 1 {
			from, property = c.Items[i-1].ID, "rotation"
		}
		c.Items[i].Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: ref(from, property), Gain: 1, Delay: 7}}
	}
	played := New(c)
	var frames []float64
	for f := range 120 {
		played.Evaluate(float64(f))
		frames = append(frames, played.Value(ref("copy", "rotation")).At(0))
	}
	for _, f := range []int{119, 3, 60, 28, 29} {
		jumped := New(c)
		jumped.Evaluate(float64(f))
		if got, want := jumped.Value(ref("copy", "rotation")).At(0), math.Max(0, float64(f-28)); got != want || frames[f] != want {
			t.Errorf("frame %d: %g jumped to, %g played to, want %g", f, got, frames[f], want)
		}
	}
	// A change of the source counts at once, and in the past.
	c.Items[0].Edit("turn").Pins = pins(0, 0, 300, 600)
	played.Patch(scene.Ref{Item: c.Items[0].ID, Property: "turn"})
	played.Evaluate(60)
	if got := played.Value(ref("copy", "rotation")).At(0); got != 64 {
		t.Errorf("after a change: %g", got)
	}
}

func TestLimitsOfTheDesignersOwn(t *testing.T) {
	c := stacked(follow("rig", "amount", 1, 0))
	lo, hi := 20.0, 30.0
	c.Items[1].Edit("rotation").Min, c.Items[1].Edit("rotation").Max = &lo, &hi
	c.Items[2].Edit("opacity").Max = &hi
	p := at(t, c, 0)
	if got := p.Value(ref("box", "rotation")).At(0); got != 30 {
		t.Errorf("driven to 40, held at %g", got)
	}
	if got := p.Value(ref("ball", "opacity")).At(0); got != 30 {
		t.Errorf("an opacity of 100 is held at %g", got)
	}
}

func TestPosesStandOverLinksAndCarryOn(t *testing.T) {
	c := stacked(follow("rig", "amount", 1, 0))
	c.Items[4].Edit("rotation").Links = []*scene.Link{follow("box", "rotation", 2, 0)}
	p := at(t, c, 0)
	p.Pose(ref("box", "rotation"), scene.Num(7))
	p.Evaluate(0)
	if got := p.Value(ref("copy", "rotation")).At(0); got != 14 {
		t.Errorf("what follows the posed property is at %g", got)
	}
	p.Pose(ref("box", "rotation"), scene.Value{})
	p.Evaluate(0)
	if got := p.Value(ref("copy", "rotation")).At(0); got != 80 {
		t.Errorf("without the pose it is at %g", got)
	}
}

func TestSeriesIsWhatEvaluationGives(t *testing.T) {
	c := busy(11, 30)
	p := New(c)
	refs := []scene.Ref{ref("n3", "rotation"), ref("n5", "position"), {Item: "n5", Property: "position", Component: "y"}, ref("gone", "x")}
	series := p.Series(refs, 0, 100, 11)
	for i := range 11 {
		p.Evaluate(float64(i * 10))
		if got, want := series[0][i], p.Value(refs[0]).At(0); got != want {
			t.Fatalf("frame %d: rotation %g, want %g", i*10, got, want)
		}
		if got, want := series[1][3*i+1], series[2][i]; got != want {
			t.Fatalf("frame %d: y is %g and %g", i*10, got, want)
		}
	}
	if series[3] != nil {
		t.Error("there is a series of nothing")
	}
}

// What stops gives in a formula is what a map with these stops gives, to the bit, at and between its stops and beyond.
func TestStopsOfAFormulaAreThoseOfAMap(t *testing.T) {
	if testing.Short() {
		t.Skip("it takes its time")
	}
	easings := []curve.Easing{curve.Linear, curve.Smooth, curve.Smooth, curve.Hold}
	beyonds := []scene.Beyond{scene.HoldEnds, scene.GoOn, scene.Repeat, scene.Mirror}
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 9))
		l := &scene.Link{ID: "m", Kind: scene.Map, Source: scene.Ref{Item: "rig", Property: "go"}, Gain: 1, Beyond: beyonds[r.IntN(4)]}
		in := r.Float64()*20 - 10
		for range 2 + r.IntN(5) {
			l.Stops = append(l.Stops, scene.MapStop{In: in, Out: scene.Num(math.Round(r.Float64()*900) / 7), Easing: easings[r.IntN(4)]})
			in += 0.1 + r.Float64()*9
		}
		c := scene.NewComposition("main", "Main")
		one := &scene.Item{ID: "one", Name: "One", Kind: scene.Box}
		one.Edit("rotation").Links = []*scene.Link{l}
		c.Items = []*scene.Item{{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "go", Name: "Go", Kind: scene.Fader}}}, one}
		const steps = 97
		from, to := l.Stops[0].In-15, in+15
		for i, want := range New(c).Response(scene.Ref{Item: "one", Property: "rotation"}, "m", from, to, steps) {
			x := from + (to-from)*float64(i)/(steps-1)
			text := syntax.WriteStops(syntax.Whole("x"), l.Stops, l.Beyond).Text
			got, _, err := formula.Evaluate("x = frame\n"+text, &binding.Scope{Rate: 25}, x)
			if err != nil || math.Float64bits(got.At(0)+0) != math.Float64bits(want+0) {
				t.Fatalf("%s at %v gives %v, the map %v (%v)", text, x, got, want, err)
			}
		}
	}
}
