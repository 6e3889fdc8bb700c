package gesture_test

import (
	"math"
	"testing"

	"wunderkammer/core/gesture/items"
	"wunderkammer/core/scene"
)

func TestSeveralAreAddedAndRemovedAtOnce(t *testing.T) {
	b := desk(t)
	r := b.do(&items.Add{Kind: scene.Ellipse, Name: "Oval", Count: 20}, 0)
	if len(r.Made) != 20 {
		t.Fatalf("%d were made", len(r.Made))
	}
	names := map[string]bool{}
	last, gap := 0.0, 0.0
	for k, id := range r.Made {
		item := b.c.Item(id)
		names[item.Name] = true
		x := item.State("position").Own.At(0)
		width := item.State("size").OwnOr(item.Spec("size")).At(0)
		if k > 0 && (x-last < width || gap != 0 && x-last != gap) {
			t.Errorf("%s stands %v behind the one before, and is %v wide", item.Name, x-last, width)
		}
		if k > 0 {
			gap = x - last
		}
		if half := float64(b.c.Width) / 2; x-width/2 < -half || x+width/2 > half {
			t.Errorf("%s at %v sticks out", item.Name, x)
		}
		last = x
	}
	if len(names) != 20 || b.c.Item(r.Made[0]).Name != "Oval 1" || b.c.Item(r.Made[19]).Name != "Oval 20" {
		t.Errorf("they have the names %v", names)
	}
	if r := b.do(&items.Add{Kind: scene.Null, Count: 3}, 0); len(r.Made) != 3 {
		t.Errorf("%d nulls", len(r.Made))
	}
	go1, spot := ref("rig", "go"), ref("rig", "spot")
	b.do(&items.RemoveControls{Controls: []scene.Ref{go1, spot, go1}}, 0)
	if rig := b.c.Item("rig"); rig.Control("go") != nil || rig.Control("spot") != nil {
		t.Error("both controls are removed at once")
	}
	if _, err := b.try(&items.Add{Kind: scene.Null, Count: items.MaxAdded + 1}, 0); err == nil {
		t.Error("too many are added")
	}
}

// A new item does not lie on what stands at the middle already, and does not go out of its way for what stands elsewhere.
func TestNewItemsStandApart(t *testing.T) {
	b := newBench(t)
	places := [][2]float64{}
	for _, kind := range []scene.Kind{scene.TextItem, scene.Null, scene.Zone, scene.PointLight, scene.Ellipse, scene.Rectangle} {
		item := b.c.Item(b.do(&items.Add{Kind: kind}, 0).Made[0])
		at := item.State("position").OwnOr(item.Spec("position"))
		for k, other := range places {
			if math.Hypot(at.At(0)-other[0], at.At(1)-other[1]) < 30 {
				t.Errorf("%s lies on item %d", item.Name, k)
			}
		}
		places = append(places, [2]float64{at.At(0), at.At(1)})
	}
	if places[0] != [2]float64{} {
		t.Errorf("the first one stands at %v", places[0])
	}
	if camera := b.c.Item(b.do(&items.Add{Kind: scene.Camera}, 0).Made[0]); camera.State("position").Own.At(0) != 0 {
		t.Error("a camera looks past the middle")
	}
}
