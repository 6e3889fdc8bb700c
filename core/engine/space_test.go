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
