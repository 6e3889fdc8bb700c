package engine

import (
	"math"
	"testing"

	"wunderkammer/core/scene"
)

func close3(a scene.Value, want ...float64) bool {
	for k, w := range want {
		if math.Abs(a.At(k)-w) > 1e-9 {
			return false
		}
	}
	return true
}

func TestHueSaturationAndLightnessAreDriven(t *testing.T) {
	base := scene.RGBA(0.25, 0.5, 0.75, 0.5) // 210°, 0.5, 0.5
	for _, c := range []struct {
		part      string
		operation scene.Operation
		value     float64
		want      []float64
	}{
		{"hue", scene.Replace, 120, []float64{0.25, 0.75, 0.25, 0.5}}, {"hue", scene.Plus, 150, []float64{0.75, 0.25, 0.25, 0.5}},
		{"saturation", scene.Replace, 1, []float64{0, 0.5, 1, 0.5}}, {"saturation", scene.Multiply, 0, []float64{0.5, 0.5, 0.5, 0.5}}, {"lightness", scene.Replace, 7, []float64{1, 1, 1, 0.5}},
	} {
		comp := flags(1)
		comp.Items[0].Edit("amount").Pins = nil
		comp.Items[0].Edit("amount").Own = scene.Num(c.value)
		fill := comp.Items[1].Edit("fill")
		fill.Own = base
		fill.Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: "rig", Property: "amount"}, Component: c.part, Operation: c.operation, Gain: 1}}
		p := New(comp)
		if p.Evaluate(0); !close3(p.Value(scene.Ref{Item: "i0", Property: "fill"}), c.want...) {
			t.Errorf("%s %s %v: %v, want %v", c.part, c.operation, c.value, p.Value(scene.Ref{Item: "i0", Property: "fill"}), c.want)
		}
		comp.Items[1].Edit(scene.WeightKey("l")).Own = scene.Num(0)
		p = New(comp)
		if p.Evaluate(0); !close3(p.Value(scene.Ref{Item: "i0", Property: "fill"}), base.Nums()...) {
			t.Errorf("%s with a weight of 0: %v", c.part, p.Value(scene.Ref{Item: "i0", Property: "fill"}))
		}
	}
}

func TestPlaceAndRotationAreDrivenInTheCompositionsSpace(t *testing.T) {
	c := flags(2)
	rig, guide, item := c.Items[0], c.Items[1], c.Items[2]
	rig.Edit("position").Own, rig.Edit("rotation").Own, rig.Edit("scale").Own = scene.Pt(100, -40, 7), scene.Num(30), scene.Pt(50, 200, 100)
	rig.Edit("rotationX").Own = scene.Num(20)
	item.Parent = "rig"
	guide.Edit("position").Own, guide.Edit("rotation").Own = scene.Pt(-200, 60, 15), scene.Num(75)
	item.Edit("position").Links = []*scene.Link{{ID: "p", Kind: scene.Follow, Source: scene.Ref{Item: "i0", Property: "position"}, Gain: 1, World: true}}
	item.Edit("rotation").Links = []*scene.Link{{ID: "r", Kind: scene.Follow, Source: scene.Ref{Item: "i0", Property: "rotation"}, Gain: 1, Offset: 5, World: true}}
	p := New(c)
	p.Evaluate(0)
	i := p.Layout.Index("i1")
	if at := p.Derived(i, "worldPosition"); !close3(at, -200, 60, 15) {
		t.Errorf("it stands at %v", at)
	}
	if turn := p.Derived(i, "worldRotation"); !close3(turn, 80) {
		t.Errorf("it is turned by %v", turn)
	}
	item.State("position").Links[0].Source = scene.Ref{Item: "i0", Property: "size"} // two components: z stays
	item.Edit("position").Own = scene.Pt(3, 4, 5)
	p = New(c)
	p.Evaluate(0)
	world := p.World(p.Layout.Index("rig"))
	stays := world.Apply([3]float64{3, 4, 5})
	if at := p.Derived(i, "worldPosition"); !close3(at, 200, 200, stays[2]) {
		t.Errorf("of two components: %v, want z %v", at, stays[2])
	}
	if err := (&scene.Link{ID: "x", Kind: scene.Follow, Gain: 1, World: true}).Check(item.Spec("opacity")); err == nil {
		t.Error("an opacity has no space")
	}
}

func TestOneComponentIsDrivenInTheCompositionsSpace(t *testing.T) {
	for _, k := range []struct {
		operation scene.Operation
		want      func(x float64) float64
	}{
		{scene.Replace, func(float64) float64 { return -200 }},
		{scene.Plus, func(x float64) float64 { return x - 200 }},
		{scene.Multiply, func(x float64) float64 { return x * -200 }},
	} {
		c := flags(2)
		rig, guide, item := c.Items[0], c.Items[1], c.Items[2]
		rig.Edit("position").Own, rig.Edit("rotation").Own, rig.Edit("scale").Own = scene.Pt(100, -40, 7), scene.Num(30), scene.Pt(50, 200, 100)
		item.Parent = "rig"
		item.Edit("position").Own = scene.Pt(30, 70, 5)
		guide.Edit("position").Own = scene.Pt(-200, 60, 15)
		p := New(c)
		p.Evaluate(0)
		was := p.Derived(p.Layout.Index("i1"), "worldPosition")
		item.Edit("position").Links = []*scene.Link{{ID: "p", Kind: scene.Follow, Source: scene.Ref{Item: "i0", Property: "position", Component: "x"}, Component: "x", Operation: k.operation, Gain: 1, World: true}}
		p = New(c)
		p.Evaluate(0)
		if at := p.Derived(p.Layout.Index("i1"), "worldPosition"); !close3(at, k.want(was.At(0)), was.At(1), was.At(2)) {
			t.Errorf("%q: it stands at %v, was %v", k.operation, at, was)
		}
		item.Edit(scene.WeightKey("p")).Own = scene.Num(50)
		p = New(c)
		p.Evaluate(0)
		if at := p.Derived(p.Layout.Index("i1"), "worldPosition"); !close3(at, (was.At(0)+k.want(was.At(0)))/2, was.At(1), was.At(2)) {
			t.Errorf("%q by half: it stands at %v, was %v", k.operation, at, was)
		}
	}
}

func TestOffsetsAndStaggersGoByAxis(t *testing.T) {
	c := flags(3)
	c.Items[0].Edit("position").Own = scene.Pt(10, 20, 30)
	l := &scene.Link{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: "rig", Property: "position"}, Gain: 1, Offset: 1, Offsets: scene.ByComponent{100, 0, -5}}
	l.Stagger = &scene.Stagger{Offset: 2, Offsets: scene.ByComponent{200}}
	c.RosterLinks = []*scene.RosterLink{{ID: "s", Name: "Row", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"i0", "i1", "i2"}}, Property: "position", Link: l}}
	p := New(c)
	p.Evaluate(0)
	for k, id := range []scene.ID{"i0", "i1", "i2"} {
		n := float64(k)
		if at := p.Value(scene.Ref{Item: id, Property: "position"}); !close3(at, 111+202*n, 21+2*n, 26+2*n) {
			t.Errorf("member %d stands at %v", k, at)
		}
	}
}

func TestTheResponseOfAMapInTheCompositionsSpaceIsDrawn(t *testing.T) {
	c := flags(1)
	c.Items[1].Edit("position").Links = []*scene.Link{{
		ID: "m", Kind: scene.Map, Source: scene.Ref{Item: "rig", Property: "amount"}, Component: "x", Gain: 1, World: true,
		Stops: []scene.MapStop{{In: 0, Out: scene.Num(0), Easing: "linear"}, {In: 100, Out: scene.Num(50), Easing: "linear"}},
	}}
	p := New(c)
	p.Evaluate(0)
	if out := p.Response(scene.Ref{Item: "i0", Property: "position", Component: "x"}, "m", 0, 100, 3); len(out) != 3 || out[1] != 25 || out[2] != 50 {
		t.Errorf("response %v", out)
	}
}

// The vertices of a path lie in its plane: a link in the composition's space reaches neither beside them nor behind them.
func TestAVertexInTheCompositionsSpaceLeavesItsNeighboursAlone(t *testing.T) {
	for _, operation := range []scene.Operation{scene.Replace, scene.Plus} {
		c := flags(1)
		rope := &scene.Item{ID: "rope", Name: "Rope", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1, At: [2]float64{10, 20}}, {ID: 2, At: [2]float64{30, 40}}}}}}}
		rope.Edit("position").Own = scene.Pt(5, 0, 90)
		c.Items = append(c.Items, rope)
		c.Items[0].Edit("position").Own = scene.Pt(100, 50, 7)
		rope.Edit(scene.VertexKey(1)).Links = []*scene.Link{{ID: "v", Kind: scene.Follow, Source: scene.Ref{Item: "rig", Property: "position"}, Operation: operation, Gain: 1, World: true}}
		rope.Edit(scene.VertexKey(2)).Own = scene.Pt(31, 41)
		p := New(c)
		p.Evaluate(0)
		want := scene.Pt(95, 50)
		if operation == scene.Plus {
			want = scene.Pt(110, 70)
		}
		if v := p.Value(scene.Ref{Item: "rope", Property: scene.VertexKey(1)}); !close3(v, want.Nums()...) {
			t.Errorf("%q: it stands at %v, want %v", operation, v, want)
		}
		if v := p.Value(scene.Ref{Item: "rope", Property: scene.VertexKey(2)}); !close3(v, 31, 41) {
			t.Errorf("%q: its neighbour was moved to %v", operation, v)
		}
	}
}
