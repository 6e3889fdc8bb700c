package gesture_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"wunderkammer/core/gesture/recipes"
	"wunderkammer/core/scene"
)

// Lines of a drawing that was scaled already look the same when their width is to be kept, and go on looking so.
func TestLineWidthsAreKeptAsTheyAreSeen(t *testing.T) {
	drawing := item("drawing", scene.Null, 0, 0, 40)
	b := newBench(t, drawing)
	for k, width := range []float64{9, 5, 0, 7} {
		one := item(scene.ID(fmt.Sprintf("line%d", k)), scene.Ellipse, 30*float64(k), 0, 100)
		one.Parent = "drawing"
		one.Edit("strokeWidth").Own = scene.Num(width)
		b.c.Items = append(b.c.Items, one)
	}
	b.c.Item("line1").Edit("strokeWidth").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(5), Easing: "linear"}, {Frame: 10, Value: scene.Num(10), Easing: "linear"}}
	driven := b.c.Item("line3").Edit("strokeWidth")
	driven.Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "7 + frame"}}
	seen := func(id scene.ID, frame int) float64 { // as it is drawn in the composition
		plan := b.context(frame).Plan()
		return math.Round(b.number(id, "strokeWidth", frame)*plan.Derived(plan.Layout.Index(id), "worldScale").At(0)) / 100
	}
	look := func() (out [6]float64) {
		for k, at := range []int{0, 7} {
			out[k], out[2+k], out[4+k] = seen("line0", at), seen("line1", at), seen("line3", at)
		}
		return out
	}
	before := look()
	if before != [6]float64{3.6, 3.6, 2, 3.4, 2.8, 5.6} {
		t.Fatalf("they are drawn with %v", before)
	}
	b.do(&recipes.MakeRecipe{Recipe: "keep line widths", Items: []scene.ID{"drawing"}, Values: nil}, 0)
	if now := look(); now != before {
		t.Errorf("kept, the lines are drawn with %v, before with %v", now, before)
	}
	drawing.Edit("scale").Own = scene.Pt(130, 130, 100)
	if now := look(); now != before {
		t.Errorf("larger, they are drawn with %v, before with %v", now, before)
	}
	b.sound()
	if _, err := newBench(t, item("alone", scene.Null, 0, 0, 40)).try(&recipes.MakeRecipe{Recipe: "keep line widths", Items: []scene.ID{"alone"}, Values: nil}, 0); err == nil || !strings.Contains(err.Error(), "have lines") {
		t.Errorf("without a line: %v", err)
	}
}

func TestWhatHangsOnSomethingScaledReachesAllTheWay(t *testing.T) {
	board := item("board", scene.Null, 60, 0, 160)
	band := item("band", scene.Rectangle, 0, 0, 100)
	band.Parent = "board"
	b := newBench(t, board, band, item("left", scene.Null, -300, 0, 100), item("right", scene.Null, 410, 0, 100))
	b.do(&recipes.MakeRecipe{Recipe: "stretch between", Items: []scene.ID{"band", "left", "right"}, Values: nil}, 0)
	b.c.Item("board").Edit("rotation").Own = scene.Num(27)
	plan := b.context(0).Plan()
	world := plan.World(plan.Layout.Index("band"))
	for x, want := range map[float64][2]float64{-100: {-300, -150}, 100: {410, 205}} {
		if end := world.Apply([3]float64{x, 0, 0}); math.Hypot(end[0]-want[0], end[1]-want[1]) > 0.01 {
			t.Errorf("an end is at %v, not at %v", end, want)
		}
	}
}

// Items that hang on different ones trail in the composition; the first goes where it went.
func TestATrailLeadsAcrossParents(t *testing.T) {
	b := newBench(t, item("a", scene.Null, 100, 0, 100), item("b", scene.Null, -240, 90, 60), item("head", scene.Star, 0, 0, 100), item("tail", scene.Star, 0, 0, 100))
	b.c.Item("head").Parent, b.c.Item("tail").Parent = "a", "b"
	b.c.Item("head").Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(0, 0, 0), Easing: "linear"}, {Frame: 40, Value: scene.Pt(200, 80, 0), Easing: "linear"}}
	head := b.at("head", 30)
	b.do(&recipes.MakeRecipe{Recipe: "trail", Items: []scene.ID{"head", "tail"}, Values: map[string]float64{"late": 9, "x": -33, "y": 12}}, 0)
	then := b.at("head", 21)
	if b.at("head", 30) != head || b.at("tail", 30) != [2]float64{then[0] - 33, then[1] + 12} {
		t.Errorf("the first is at %v, before at %v; the second at %v where the first was at %v", b.at("head", 30), head, b.at("tail", 30), then)
	}
	b.sound()
}

func TestRowsTrailAfterAWave(t *testing.T) {
	b := newBench(t, item("joint", scene.Rectangle, 0, 11, 100), item("tip", scene.Rectangle, 90, 0, 100))
	b.c.Item("tip").Parent = "joint"
	r := b.do(&recipes.MakeRecipe{Recipe: "rows that trail", Items: []scene.ID{"joint"}, Values: map[string]float64{"joints": 3, "share": 50, "wave": 24, "period": 1.6}}, 0)
	if got, tip := b.number("joint", "rotation", 10), b.number("tip", "rotation", 13); got != 35 || tip != 17.5 || !strings.Contains(r.Note, "joint waves") {
		t.Errorf("at a quarter of its wave the first joint is turned by %v, 3 frames later the next by %v: %s", got, tip, r.Note)
	}
	if _, err := b.try(&recipes.MakeRecipe{Recipe: "rows that trail", Items: []scene.ID{"joint"}, Values: map[string]float64{"wave": 24, "period": 0}}, 0); err == nil {
		t.Error("a wave in no time is let through")
	}
}

// The handle that scrubs frames goes where the face goes, and is not shown many times with it.
func TestTheHandleOfFramesTravelsWithTheFace(t *testing.T) {
	face := item("face", scene.Flipbook, 30, 0, 100)
	face.Frames = []scene.Frame{{Asset: scene.AssetID(strings.Repeat("ab", 32))}, {Asset: scene.AssetID(strings.Repeat("ab", 32))}}
	head, many := item("head", scene.Null, 240, 20, 80), item("many", scene.CopiesItem, 10, 0, 100)
	face.Parent, many.Parent = "many", "head"
	b := newBench(t, head, many, face)
	was := b.at("face", 0)
	null := b.c.Item(b.do(&recipes.MakeRecipe{Recipe: "scrub frames", Items: []scene.ID{"face"}, Values: nil}, 0).Made[0])
	laid := null.Controls[0].Laid
	if null.Parent != "head" || laid.With != "head" {
		t.Fatalf("it hangs on %q and travels with %q", null.Parent, laid.With)
	}
	stands := b.at("head", 0)
	if at := b.at(null.ID, 0); math.Abs(at[0]-was[0]) > 1 || math.Abs(at[1]-was[1]+160) > 1 || math.Abs(laid.At[0]+stands[0]-at[0]) > 1 || math.Abs(laid.At[1]+stands[1]-at[1]) > 1 {
		t.Errorf("the face is at %v, its handle at %v, drawn %v from the head at %v", was, at, laid.At, stands)
	}
}

// What a row places is swept in by where it stands, not by where it would stand without the row.
func TestASweepMeetsWhatARowHasPlaced(t *testing.T) {
	b := newBench(t)
	var ids []scene.ID
	for k := range 5 {
		one := item(scene.ID(fmt.Sprintf("i%d", k)), scene.Star, 0, 0, 100)
		one.Edit("position").Own = scene.Pt(float64(37*((k*3)%5)), 0, 0) // in a jumble
		b.c.Items = append(b.c.Items, one)
		ids = append(ids, one.ID)
	}
	holder := item("holder", scene.Null, 40, 0, 200)
	b.c.Items = append(b.c.Items, holder)
	b.c.Item("i4").Parent = "holder"
	place := &scene.RosterLink{ID: "row", Name: "places", Roster: scene.Roster{Kind: scene.Picked, Items: ids}, Property: "position",
		Link: &scene.Link{ID: "rl", Kind: scene.Formula, Gain: 1, Formula: "[index * 150 - 300, 0, 0]"}}
	b.c.RosterLinks = append(b.c.RosterLinks, place)
	r := b.do(&recipes.MakeRecipe{Recipe: "sweep in", Items: ids, Values: map[string]float64{"scale": 30, "rise": 60, "falloff": 1}}, 0)
	zone := b.c.Item(r.Made[0])
	for x, want := range map[float64]string{-400: "30 30 30 30 30", -210: "100 30 30 30 30", 20: "100 100 100 30 30", 600: "100 100 100 100 30", 700: "100 100 100 100 100"} {
		zone.Edit("position").Own = scene.Pt(x, 0, 0)
		var got []string
		for _, id := range ids {
			got = append(got, fmt.Sprint(b.number(id, "scale", 0)))
		}
		if strings.Join(got, " ") != want {
			t.Errorf("with the zone up to %v they are %v, not %s", x, got, want)
		}
	}
	if !strings.Contains(r.Note, "where their links put them") {
		t.Errorf("nothing is said of it: %s", r.Note)
	}
	b.sound()
}

// What is made to flicker one after the other does not flicker alike.
func TestEachFlickersByItself(t *testing.T) {
	b := newBench(t, item("a", scene.Star, 0, 0, 100), item("b", scene.Star, 90, 0, 100))
	b.do(&recipes.MakeRecipe{Recipe: "flicker", Items: []scene.ID{"a"}, Values: nil}, 0)
	b.do(&recipes.MakeRecipe{Recipe: "flicker", Items: []scene.ID{"b"}, Values: nil}, 0)
	same := 0
	for frame := range 40 {
		if b.number("a", "opacity", frame) == b.number("b", "opacity", frame) {
			same++
		}
	}
	if same > 2 {
		t.Errorf("at %d of 40 frames both are as bright", same)
	}
}
