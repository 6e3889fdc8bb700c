package gesture_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/recipes"
	"wunderkammer/core/scene"
)

// crates is three crates of 200 by 200 side by side on a floor at 0, with shadows, in front of a wall.
func crates(t *testing.T) (b *bench, lamp, floor *scene.Item) {
	b = newBench(t)
	b.c.Width = 1920
	var crates []scene.ID
	for k := range 3 {
		one := item(scene.ID(fmt.Sprintf("crate%d", k)), scene.Rectangle, 0, 0, 100)
		one.Name = fmt.Sprintf("Crate %d", k+1)
		one.Edit("position").Own = scene.Pt(float64(300*k-300), 100, 0)
		b.c.Items = append(b.c.Items, one)
		crates = append(crates, one.ID)
	}
	b.c.Items = append(b.c.Items, item("wall", scene.Rectangle, 0, 0, 700))
	r := b.do(&recipes.MakeRecipe{Recipe: "cast shadows", Items: crates, Values: nil}, 0)
	lamp, floor = b.c.Item(r.Made[0]), b.c.Item(r.Made[1])
	if len(r.Made) != 2 || floor.State("position").Own.At(1) != 0 || lamp.Kind != scene.Null {
		t.Fatalf("made are %v; the floor lies at %v", r.Made, floor.State("position").Own)
	}
	return b, lamp, floor
}

func (b *bench) named(name string) *scene.Item {
	for _, i := range b.c.Items {
		if i.Name == name {
			return i
		}
	}
	b.t.Fatalf("there is no %s", name)
	return nil
}

// cast returns the corners of a shadow in the composition, rounded.
func (b *bench) cast(name string) (out [][2]float64) {
	shadow := b.named(name)
	plan := b.context(0).Plan()
	at := plan.Derived(plan.Layout.Index(shadow.ID), "worldPosition")
	for _, key := range shadow.VertexKeys() {
		v := plan.Value(scene.Ref{Item: shadow.ID, Property: key})
		out = append(out, [2]float64{math.Round((at.At(0)+v.At(0))*10) / 10, math.Round((at.At(1)+v.At(1))*10) / 10})
	}
	return out
}

// has reports whether there is a corner at each of some places.
func has(corners [][2]float64, places ...[2]float64) bool {
	for _, p := range places {
		found := false
		for _, c := range corners {
			found = found || math.Abs(c[0]-p[0]) < 0.11 && math.Abs(c[1]-p[1]) < 0.11
		}
		if !found {
			return false
		}
	}
	return len(corners) == len(places)
}

func TestAShadowIsThrownFromTheLamp(t *testing.T) {
	b, lamp, floor := crates(t)
	lamp.Edit("position").Own = scene.Pt(-430, 520, 0)
	// The lamp is 420 over the middle of the crate and 300 behind it; the top is 200 over the floor, which is seen at a slant of 30 %.
	if got := b.cast("Crate 1 shadow"); !has(got, [2]float64{-400, 0}, [2]float64{-200, 0}, [2]float64{-400 + 200*30/420.0, -42.9}, [2]float64{-200 + 200*230/420.0, -42.9}) {
		t.Errorf("standing, the shadow has its corners at %v", got)
	}
	b.c.Item("crate0").Edit("position").Own = scene.Pt(-300, 300, 0)
	if got := b.cast("Crate 1 shadow"); !has(got, [2]float64{-400 + 200*30/220.0, -81.8}, [2]float64{-200 + 200*230/220.0, -81.8}, [2]float64{-400 + 400*30/220.0, -163.6}, [2]float64{-200 + 400*230/220.0, -163.6}) {
		t.Errorf("lifted, it has them at %v", got)
	}
	b.c.Item("crate0").Edit("position").Own = scene.Pt(-300, 100, 0)
	b.c.Item("crate0").Edit("size").Own = scene.Pt(80, 200)
	b.c.Item("crate0").Edit("rotation").Own = scene.Num(90)
	// Lying, it reaches from 60 to 140 over the floor and from -400 to -200.
	if got := b.cast("Crate 1 shadow"); !has(got, [2]float64{-400 + 60*30/420.0, -12.9}, [2]float64{-200 + 60*230/420.0, -12.9}, [2]float64{-400 + 140*30/420.0, -30}, [2]float64{-200 + 140*230/420.0, -30}) {
		t.Errorf("turned and narrow, it has them at %v", got)
	}
	wide := func(y float64) float64 {
		lamp.Edit("position").Own = scene.Pt(-3000, y, 0)
		corners, most := b.cast("Crate 3 shadow"), 0.0
		for _, c := range corners {
			most = max(most, c[0])
		}
		return most - 400
	}
	last := 0.0
	for y := 2400.0; y > -500; y -= 20 { // the lamp comes down: longer, without a jump or an end
		long := wide(y)
		if long < last || last > 0 && long > last*1.12+1 || long > 600.1 {
			t.Fatalf("with the lamp at %v the shadow is %v long, before %v", y, long, last)
		}
		last = long
	}
	if last != 600 {
		t.Errorf("at its longest it is %v, not 3 times as long as the crate is high", last)
	}
	floor.Edit(string(floor.Controls[2].ID)).Own = scene.Num(170)
	if long := wide(-300); long != 340 {
		t.Errorf("held to 170 %%, it is %v long", long)
	}
	dark := func(y float64) float64 {
		lamp.Edit("position").Own = scene.Pt(310, y, 0)
		return b.number(b.named("Crate 3 shadow").ID, "opacity", 0)
	}
	if near, far := dark(260), dark(900); !(near < far && far < 45) {
		t.Errorf("its opacity is %v from a low lamp, %v from a high one", near, far)
	}
	b.sound()
}

// A light that stands in front of the things, as it has to, is their lamp; what it lights is as large as its outline.
func TestALightCastsShadowsOfAllKinds(t *testing.T) {
	b := newBench(t)
	var ids []scene.ID
	for k, kind := range []scene.Kind{scene.Ellipse, scene.TextItem, scene.Ball, scene.Picture, scene.Star, scene.PointLight} {
		one := &scene.Item{ID: scene.ID("i" + string(kind)), Name: string(kind), Kind: kind}
		one.Edit("position").Own = scene.Pt(float64(400*k-1000), 150, 0)
		b.c.Items = append(b.c.Items, one)
		ids = append(ids, one.ID)
	}
	lamp := b.c.Items[len(b.c.Items)-1]
	lamp.Edit("position").Own = scene.Pt(70, 900, 480)
	r := b.do(&recipes.MakeRecipe{Recipe: "cast shadows", Items: ids, Values: nil}, 0)
	if r.Made[0] != lamp.ID {
		t.Fatalf("the lamp is %s", r.Made[0])
	}
	for _, id := range ids[:len(ids)-1] {
		corners := b.cast(b.c.Item(id).Name + " shadow")
		var left, right, front float64 = math.Inf(1), math.Inf(-1), 0
		for _, c := range corners {
			left, right, front = min(left, c[0]), max(right, c[0]), min(front, c[1])
		}
		floor := b.c.Item(r.Made[1]).State("position").Own.At(1)
		x := b.c.Item(id).State("position").Own.At(0)
		// Away from the lamp, wider than the thing, and toward the one who looks.
		if len(corners) < 4 || len(corners) > recipes.MaxSilhouette || right-left < 150 || front >= floor-20 || (left+right)/2-x > 0 != (x > 70) {
			t.Errorf("%s has a shadow of %d corners from %v to %v, down to %v", id, len(corners), left, right, front)
		}
	}
	b.sound()
}

func TestOneMoreHasAShadowOfItsOwn(t *testing.T) {
	b, lamp, _ := crates(t)
	lamp.Edit("position").Own = scene.Pt(-430, 520, 0)
	b.c.Item("crate1").Name, b.named("Crate 2 shadow").Name = "Chest", "Chest shadow"
	more := b.do(&copies.More{Items: []scene.ID{"crate2"}}, 0)
	fourth := b.c.Item(more.Made[0])
	its := b.named("Crate 4 shadow")
	if fourth.Name != "Crate 4" || b.at(fourth.ID, 0)[0] != 600 || !strings.Contains(more.Note, "its own Crate 4 shadow") {
		t.Errorf("%s stands at %v: %s", fourth.Name, b.at(fourth.ID, 0), more.Note)
	}
	lies := b.c.IndexOf(its.ID)
	for _, name := range []string{"Crate 1", "Chest", "Crate 3", "Crate 4"} {
		if b.c.IndexOf(b.named(name).ID) > lies {
			t.Errorf("the shadow of the fourth lies across %s", name)
		}
	}
	if b.c.IndexOf("wall") < lies {
		t.Error("it lies behind the wall")
	}
	fourth.Edit("position").Own = scene.Pt(730, 100, 0)
	third := b.cast("Crate 3 shadow")
	if got := b.cast("Crate 4 shadow"); !has(got, [2]float64{630, 0}, [2]float64{830, 0}, [2]float64{630 + 200*1060/420.0, -42.9}, [2]float64{830 + 200*1260/420.0, -42.9}) {
		t.Errorf("moved, its shadow has its corners at %v", got)
	}
	if !has(third, [2]float64{200, 0}, [2]float64{400, 0}, [2]float64{200 + 200*630/420.0, -42.9}, [2]float64{400 + 200*830/420.0, -42.9}) {
		t.Errorf("that of its model has them at %v", third)
	}
	// The next would stand outside of the frame: it stays in it. For another one there is no room but below.
	fifth := b.do(&copies.More{Items: []scene.ID{fourth.ID}}, 0).Made[0]
	if at := b.at(fifth, 0); at != [2]float64{860, 100} {
		t.Errorf("at the edge of the frame, one more stands at %v", at)
	}
	if at := b.at(b.do(&copies.More{Items: []scene.ID{fifth}}, 0).Made[0], 0); at != [2]float64{860, -140} {
		t.Errorf("where there is no room, one more stands at %v", at)
	}
	// A copy of a shadow keeps the link on its outline, and one that is removed leaves none behind.
	rows := len(b.c.RosterLinks)
	copied := b.do(&copies.Duplicate{Items: []scene.ID{its.ID}}, 0)
	if len(b.c.RosterLinks) != rows+1 {
		t.Errorf("a copy of a shadow makes %d links on rows of %d", len(b.c.RosterLinks), rows)
	}
	b.do(&items.Remove{Items: []scene.ID{its.ID, copied.Made[0]}}, 0)
	if len(b.c.RosterLinks) != rows-1 {
		t.Errorf("removed, they leave %d links on rows of %d", len(b.c.RosterLinks), rows)
	}
	b.sound()
}
