package gesture_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/check"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/graphs"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/recipes"
	"wunderkammer/core/scene"
)

func TestARowIsSweptInByAZone(t *testing.T) {
	b := desk(t)
	r := b.do(&items.Add{Kind: scene.Ellipse, Name: "Bit", Count: 5}, 0)
	made := b.do(&recipes.MakeRecipe{Recipe: "sweep in", Items: r.Made, Values: map[string]float64{"scale": 0, "rotation": 90, "rise": 67, "falloff": 10}}, 0)
	zone := b.c.Item(made.Made[0])
	if zone.Kind != scene.Zone || len(b.c.RosterLinks) != 3 || !strings.Contains(made.Note, "Sweep") {
		t.Fatalf("a %s and %d links; %q", zone.Kind, len(b.c.RosterLinks), made.Note)
	}
	first, last := r.Made[0], r.Made[4]
	home := b.c.Item(last).State("position").Own
	shown := func(id scene.ID) string {
		return b.shown(ref(id, "scale"), 0) + b.shown(ref(id, "rotation"), 0)
	}
	if shown(first) != "[100, 100, 100]0" || shown(last) != "[0, 0, 0]90" {
		t.Errorf("halfway, the first is %s, the last %s", shown(first), shown(last))
	}
	zone.Edit("position").Own = scene.Pt(5000, 0, 0)
	if got := b.shown(ref(last, "position"), 0); shown(last) != "[100, 100, 100]0" || got != home.String() {
		t.Errorf("behind the zone the last is %s at %s", shown(last), got)
	}
	zone.Edit("position").Own = scene.Pt(-5000, 0, 0)
	lower := home.With(1, home.At(1)-67) // it rises to its place
	if got := b.shown(ref(last, "position"), 0); got != lower.String() || shown(first) != "[0, 0, 0]90" {
		t.Errorf("before the zone the last stands at %s, the first is %s", got, shown(first))
	}
	for _, bad := range []*recipes.MakeRecipe{
		{Recipe: "sweep in", Items: nil, Values: map[string]float64{"scale": 0}}, {Recipe: "sweep in", Items: r.Made, Values: nil}, {Recipe: "sweep in", Items: r.Made, Values: map[string]float64{"scale": 0, "curve": 9}},
		{Recipe: "sweep in", Items: []scene.ID{"gone"}, Values: map[string]float64{"scale": 0}}, {Recipe: "trail", Items: r.Made[:1], Values: nil}, {Recipe: "wave", Items: r.Made, Values: map[string]float64{"period": 0}}, {Recipe: "soup", Items: r.Made, Values: nil},
		{Recipe: "orbit", Items: r.Made, Values: map[string]float64{"period": 0}},
	} {
		if _, err := b.try(bad, 0); err == nil {
			t.Errorf("%+v is let through", bad)
		}
	}
}

// Every recipe, as its form begins and with each of its options, makes links without a fault that change what they are on.
func TestEveryRecipeWorksAsItBegins(t *testing.T) {
	for _, recipe := range recipes.Recipes {
		if special[recipe.Key] {
			continue
		}
		options := 1
		for _, f := range recipe.Fields {
			options = max(options, len(f.Options))
		}
		for o := range options {
			b := desk(t)
			r := b.do(&items.Add{Kind: scene.Ellipse, Name: "Bit", Count: 4}, 0)
			for _, id := range r.Made {
				b.c.Item(id).Edit("scale").Own, b.c.Item(id).Edit("strokeWidth").Own = scene.Pt(50, 50, 100), scene.Num(8)
			}
			b.c.Item(r.Made[0]).Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(0, 0, 0), Easing: "linear"}, {Frame: 20, Value: scene.Pt(200, 50, 0), Easing: "linear"}}
			b.c.Item(r.Made[0]).Edit("rotation").Own = scene.Num(25)
			b.c.Item(r.Made[0]).Edit("scale").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(50, 50, 100), Easing: "linear"}, {Frame: 20, Value: scene.Pt(90, 90, 100), Easing: "linear"}}
			look := func() (out string) {
				for _, f := range []float64{0, 7, 20} {
					for _, id := range r.Made {
						for _, key := range []string{"position", "rotation", "scale", "opacity", "strokeWidth", "trimEnd"} {
							out += b.shown(ref(id, key), f) + " "
						}
					}
				}
				return out
			}
			before, values := look(), map[string]float64{}
			for _, f := range recipe.Fields {
				if len(f.Options) > 0 {
					values[f.Key] = float64(min(o, len(f.Options)-1))
				} else if !f.Off {
					values[f.Key] = f.Default
				}
			}
			b.do(&recipes.MakeRecipe{Recipe: recipe.Key, Items: r.Made, Values: values}, 0)
			for _, s := range b.c.RosterLinks {
				if s.Link.Draft != "" || s.Link.Formula == "" {
					t.Errorf("%s, option %d: the formula has an error: %s%s", recipe.Name, o, s.Link.Draft, s.Link.Formula)
				}
			}
			if len(b.c.RosterLinks) == 0 || look() == before {
				t.Errorf("%s, option %d: nothing came of it", recipe.Name, o)
			}
		}
	}
}

// special are recipes that need other things than a few ellipses, or keep the picture as it is; each has a test of its own.
var special = map[string]bool{"along a path": true, "rows that trail": true, "gather controls": true, "scrub frames": true, "loosen": true, "cast shadows": true, "bars": true}

// at returns where an item stands in the composition.
func (b *bench) at(id scene.ID, frame int) [2]float64 {
	v := b.context(frame).Plan().Derived(b.context(frame).Plan().Layout.Index(id), "worldPosition")
	return [2]float64{math.Round(v.At(0)*100) / 100, math.Round(v.At(1)*100) / 100}
}

func (b *bench) number(id scene.ID, key string, frame int) float64 {
	return math.Round(b.context(frame).Plan().Value(ref(id, key)).At(0)*1000) / 1000
}

// sound fails where something is wrong with the wiring.
func (b *bench) sound() {
	b.t.Helper()
	c := b.context(0)
	for _, k := range check.Of(b.c, c.Plan()) {
		if k.Severity == check.Error {
			b.t.Errorf("a problem: %s", k.Sentence)
		}
	}
}

func TestItemsAimTurnEachOtherAndStretch(t *testing.T) {
	b := newBench(t, item("aim", scene.Null, 400, 0, 100), item("wheel", scene.Ellipse, 0, 10, 100), item("small", scene.Ellipse, 100, 5, 100), item("band", scene.Rectangle, 0, 0, 100), item("hand", scene.Rectangle, 40, 0, 100))
	b.c.Item("hand").Parent = "wheel"
	b.c.Item("small").Edit("size").Own = scene.Pt(50, 50)
	b.do(&recipes.MakeRecipe{Recipe: "gear ratio", Items: []scene.ID{"wheel", "small"}, Values: nil}, 0)
	if got := b.number("small", "rotation", 0); got != 5-10*4 {
		t.Errorf("a gear of a quarter of the size turns to %v", got)
	}
	b.do(&recipes.MakeRecipe{Recipe: "aim at", Items: []scene.ID{"band", "hand", "aim"}, Values: map[string]float64{"turn": 10}}, 0)
	hand := b.at("hand", 0)
	if got := b.context(0).Plan().Derived(b.context(0).Plan().Layout.Index("hand"), "worldRotation").At(0); math.Abs(got-10-math.Atan2(200-hand[1], 400-hand[0])*180/math.Pi) > 0.01 {
		t.Errorf("what hangs on the wheel at %v aims at %v", hand, got)
	}
	if got := b.number("band", "rotation", 0); got != math.Round((math.Atan2(200, 400)*180/math.Pi+10)*1000)/1000 {
		t.Errorf("it aims at %v", got)
	}
	b.do(&recipes.MakeRecipe{Recipe: "stretch between", Items: []scene.ID{"band", "wheel", "aim"}, Values: map[string]float64{"volume": 1}}, 0)
	long := math.Hypot(400, 200) / 200
	if got := b.number("band", "scale", 0); got != math.Round(100000*long)/1000 || b.at("band", 0) != [2]float64{200, 100} {
		t.Errorf("stretched, it is %v %% long at %v", got, b.at("band", 0))
	}
	if got := b.context(0).Plan().Value(ref("band", "scale")).At(1); math.Abs(got-100/long) > 1e-9 {
		t.Errorf("its thickness is %v %%", got)
	}
	b.sound()
}

func TestItemsStandAndTravelAlongAPath(t *testing.T) {
	path := &scene.Item{ID: "path", Name: "Path", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 2, At: [2]float64{0, 400}}}}}}}
	path.Edit("position").Own = scene.Pt(50, 0, 0)
	b := newBench(t, path, item("one", scene.Star, 0, 0, 100), item("two", scene.Star, 0, 0, 100), item("three", scene.Star, 0, 0, 100))
	if _, err := b.try(&recipes.MakeRecipe{Recipe: "along a path", Items: []scene.ID{"one", "two"}, Values: nil}, 0); err == nil || !strings.Contains(err.Error(), "select a path") {
		t.Errorf("without a path: %v", err)
	}
	b.do(&recipes.MakeRecipe{Recipe: "along a path", Items: []scene.ID{"one", "path", "two", "three"}, Values: nil}, 0)
	if b.at("one", 0) != [2]float64{50, 0} || b.at("two", 0) != [2]float64{50, 200} || b.at("three", 0) != [2]float64{50, 400} || b.number("two", "rotation", 0) != 90 {
		t.Errorf("they stand at %v, %v, %v, turned by %v", b.at("one", 0), b.at("two", 0), b.at("three", 0), b.number("two", "rotation", 0))
	}
	b.c.RosterLinks = nil
	b.do(&recipes.MakeRecipe{Recipe: "along a path", Items: []scene.ID{"one", "path", "two"}, Values: map[string]float64{"period": 4, "turned": 1}}, 0)
	if b.at("one", 25) != [2]float64{50, 100} || b.at("two", 75) != [2]float64{50, 100} {
		t.Errorf("after a second the first is at %v, after three the second at %v", b.at("one", 25), b.at("two", 75))
	}
	b.sound()
}

func TestRowsTrailAndOneMoreRowDoesToo(t *testing.T) {
	b := newBench(t)
	var first []scene.ID
	for row := range 3 {
		on := scene.ID("")
		for joint := range 3 {
			one := item(scene.ID(fmt.Sprintf("r%dj%d", row, joint)), scene.Rectangle, 100, 0, 100)
			if one.Parent = on; on == "" {
				first = append(first, one.ID)
			}
			on = one.ID
			b.c.Items = append([]*scene.Item{one}, b.c.Items...)
		}
	}
	b.c.Items = append([]*scene.Item{}, b.c.Items...)
	b.p.Compositions[0] = b.c
	if _, err := b.try(&recipes.MakeRecipe{Recipe: "rows that trail", Items: []scene.ID{"r0j2"}, Values: nil}, 0); err == nil || !strings.Contains(err.Error(), "nothing hangs") {
		t.Errorf("a joint with nothing on it: %v", err)
	}
	b.c.Item("r0j0").Edit("rotation").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(0), Easing: "linear"}, {Frame: 100, Value: scene.Num(100), Easing: "linear"}}
	b.do(&recipes.MakeRecipe{Recipe: "rows that trail", Items: first, Values: map[string]float64{"joints": 3, "rows": 5, "share": 50}}, 0)
	at := func(id scene.ID) float64 { return b.number(id, "rotation", 60) }
	if at("r0j0") != 60 || at("r1j0") != 55 || at("r2j0") != 50 || at("r0j1") != 28.5 || at("r0j2") != 13.5 || at("r2j2") != 11 {
		t.Errorf("at frame 60: %v %v %v, joints %v %v, the last %v", at("r0j0"), at("r1j0"), at("r2j0"), at("r0j1"), at("r0j2"), at("r2j2"))
	}
	r := b.do(&copies.More{Items: []scene.ID{"r2j0"}}, 60)
	fourth := r.Made[0]
	joint := b.c.Attached(fourth)[0].ID
	if len(r.Made) != 1 || at(fourth) != 45 || at(joint) != 21 || at("r2j0") != 50 {
		t.Errorf("a fourth row turns by %v, its joint by %v, the third by %v", at(fourth), at(joint), at("r2j0"))
	}
	b.sound()
}

func TestAFaderScrubsHoldsBringsInAndGathers(t *testing.T) {
	face := item("face", scene.Flipbook, 0, 0, 100)
	for range 6 {
		face.Frames = append(face.Frames, scene.Frame{Asset: scene.AssetID(strings.Repeat("ab", 32))})
	}
	on := item("on", scene.Null, 100, 0, 100)
	hung := item("hung", scene.Star, 50, 0, 100)
	hung.Parent, hung.Attachment.Stayed = "on", &[12]float64{1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0}
	b := newBench(t, face, on, hung, item("free", scene.Star, 0, 20, 100))
	control := func(r gesture.Result) (*scene.Item, string) {
		null := b.c.Item(r.Made[0])
		return null, string(null.Controls[0].ID)
	}
	null, frame := control(b.do(&recipes.MakeRecipe{Recipe: "scrub frames", Items: []scene.ID{"face"}, Values: nil}, 0))
	if null.Controls[0].Laid == nil || *null.Controls[0].Max != 6 {
		t.Errorf("the fader is %+v", null.Controls[0])
	}
	null.Edit(frame).Own = scene.Num(40)
	if got := b.number("face", "frame", 0); got != 6 {
		t.Errorf("beyond the last frame it shows %v", got)
	}
	null, hold := control(b.do(&recipes.MakeRecipe{Recipe: "loosen", Items: []scene.ID{"hung", "free"}, Values: map[string]float64{"hold": 0}}, 0))
	if b.at("hung", 0) != [2]float64{50, 25} {
		t.Errorf("let go, it stands at %v", b.at("hung", 0))
	}
	null.Edit(hold).Own = scene.Num(100)
	if b.at("hung", 0) != [2]float64{150, 75} {
		t.Errorf("held, it stands at %v", b.at("hung", 0))
	}
	null, progress := control(b.do(&recipes.MakeRecipe{Recipe: "sequence", Items: []scene.ID{"hung", "free"}, Values: nil}, 0))
	for x, want := range map[float64][2]float64{0: {0, 0}, 100: {100, 100}, 50: {84.375, 15.625}} {
		null.Edit(progress).Own = scene.Num(x)
		if got := [2]float64{b.number("hung", "opacity", 0), b.number("free", "opacity", 0)}; math.Abs(got[0]-want[0])+math.Abs(got[1]-want[1]) > 0.01 {
			t.Errorf("at %v %% they show %v", x, got)
		}
	}
	null, _ = control(b.do(&recipes.MakeRecipe{Recipe: "gather controls", Items: []scene.ID{"free", "hung"}, Values: nil}, 0))
	if len(null.Controls) != 2 || b.number("free", "rotation", 0) != 20 {
		t.Errorf("%d controls; it is turned by %v", len(null.Controls), b.number("free", "rotation", 0))
	}
	for _, bad := range []*recipes.MakeRecipe{
		{Recipe: "scrub frames", Items: []scene.ID{"free"}, Values: nil}, {Recipe: "loosen", Items: []scene.ID{"free"}, Values: nil}, {Recipe: "sequence", Items: []scene.ID{"hung", "free"}, Values: map[string]float64{"overlap": 120}},
		{Recipe: "gather controls", Items: []scene.ID{"free"}, Values: nil}, {Recipe: "cast shadows", Items: []scene.ID{"on"}, Values: nil}, {Recipe: "stretch between", Items: []scene.ID{"on", "face", "free"}, Values: nil}, {Recipe: "gear ratio", Items: []scene.ID{"face", "on"}, Values: nil},
	} {
		if _, err := b.try(bad, 0); err == nil || len(err.Error()) < 20 {
			t.Errorf("%s: %v", bad.Recipe, err)
		}
	}
	b.sound()
}

func TestARigIsSavedAndMadeAgainElsewhere(t *testing.T) {
	b := newBench(t, item("lamp", scene.Null, 0, 30, 100), item("flag", scene.Rectangle, 40, 0, 100), item("pole", scene.Rectangle, 0, 0, 100), item("other", scene.Null, 0, 70, 100))
	wind := func(id scene.ID) *scene.Control {
		return &scene.Control{ID: id, Name: "Wind", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(20)}
	}
	b.c.Item("lamp").Controls = []*scene.Control{wind("wind")}
	b.c.Item("flag").Parent = "pole"
	b.c.Item("flag").Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "{@lamp:@wind} + {@lamp:@rotation} + {@pole:@rotation}"}}
	b.do(&recipes.MakeRecipe{Recipe: "wave", Items: []scene.ID{"flag", "pole"}, Values: nil}, 0)
	fields := []scene.SavedField{{Ref: scene.Ref{Item: "pole", Property: "rotation"}, Name: "Lean"}, {Ref: scene.Ref{Item: "pole", Property: "position", Component: "y"}, Name: "Height"}}
	r := b.do(&recipes.SaveRecipe{Items: []scene.ID{"pole"}, Name: "Flag on a pole", Fields: fields}, 0)
	if len(b.p.Recipes) != 1 || !strings.Contains(r.Note, "asks for 1 other item") {
		t.Fatalf("%d recipes are kept: %s", len(b.p.Recipes), r.Note)
	}
	saved := b.p.Recipes[0]
	if len(saved.Items) != 2 || len(saved.Rows) != 1 || len(saved.Slots) != 1 || len(saved.Slots[0].Reads) != 2 || saved.Fields[0].Unit != scene.Degrees {
		t.Fatalf("kept is %+v", saved)
	}
	make := func(given []scene.ID, numbers map[string]float64) (gesture.Result, error) {
		c := b.context(0)
		c.Recipes = b.p.Recipes
		r, err := (&recipes.MakeRecipe{Recipe: string(saved.ID), Items: given, Values: numbers}).Do(c)
		if err == nil {
			_, _, err = change.Apply(b.p, r.Ops)
		}
		return r, err
	}
	if _, err := make(nil, nil); err == nil || !strings.Contains(err.Error(), "choose an item for lamp") {
		t.Errorf("without its slot: %v", err)
	}
	if _, err := make([]scene.ID{"other"}, nil); err == nil || !strings.Contains(err.Error(), "other has no property Wind") {
		t.Errorf("with a slot that has no match: %v", err)
	}
	b.c.Item("other").Controls = []*scene.Control{wind("gust")}
	b.c.Item("other").Edit("gust").Own = scene.Num(3)
	made, err := make([]scene.ID{"other"}, map[string]float64{"f0": 5, "f1": 83})
	if err != nil {
		t.Fatal(err)
	}
	if got := b.c.Item(made.Made[0]).State("position").Own; got != scene.Pt(0, 83, 0) {
		t.Errorf("made with a height of 83 the pole stands at %v", got)
	}
	flag := b.c.Item(made.Made[1])
	if flag.Parent != made.Made[0] || b.number(flag.ID, "rotation", 0) != 3+70+5 || len(b.c.RosterLinks) != 2 {
		t.Errorf("made again, the flag is turned by %v; %d rows", b.number(flag.ID, "rotation", 0), len(b.c.RosterLinks))
	}
	b.sound()
	for _, damaged := range []func(r *scene.SavedRecipe){
		func(r *scene.SavedRecipe) { r.Items = nil }, func(r *scene.SavedRecipe) { r.Items[1].ID = r.Items[0].ID }, func(r *scene.SavedRecipe) { r.Name = " " },
		func(r *scene.SavedRecipe) { r.Fields[0].Ref.Item = "gone" }, func(r *scene.SavedRecipe) { r.Fields[0].Ref.Property = "position" },
		func(r *scene.SavedRecipe) { r.Slots[0].Item = "flag" }, func(r *scene.SavedRecipe) { r.Rows[0].Link = nil },
	} {
		bad := saved.Clone()
		bad.ID = "bad"
		if damaged(bad); bad.Check() == nil {
			t.Errorf("a damaged recipe is let through: %+v", bad)
		}
	}
}

// What of a graph drives a rig is kept with it, folds, notes and all, and drives what is made of it; the graph itself is left alone.
func TestASavedRigKeepsItsGraphs(t *testing.T) {
	b := newBench(t, item("lamp", scene.Null, 0, 30, 100), item("flag", scene.Rectangle, 40, 0, 100), item("other", scene.Null, 0, 70, 100))
	id := b.do(&graphs.NewGraph{Text: "sway = {lamp: rotation} * 2\nsway + {flag: opacity}"}, 0).Made[0]
	g, _ := b.c.Graph(id)
	drive := g.Slips[len(g.Slips)-1].ID
	b.do(&graphs.Drive{Graph: id, Slip: drive, Targets: []scene.Ref{ref("flag", "rotation")}}, 0)
	loose := b.do(&graphs.PutSlips{Graph: id, Slips: []scene.Slip{{Kind: scene.ReadSlip, Text: "{other: rotation}"}, {Kind: scene.DriveSlip}}, Wires: []scene.Wire{{From: "#0", To: "#1", In: "in"}}}, 0).Made
	b.do(&graphs.Drive{Graph: id, Slip: loose[1], Targets: []scene.Ref{{Item: "other", Property: "scale", Component: "x"}}}, 0)
	var times scene.ID
	for _, s := range g.Slips {
		if s.Text == "*" {
			times = s.ID
		}
	}
	b.do(&graphs.FoldSlips{Graph: id, Slips: []scene.ID{times}, Title: "sway"}, 0)
	if got := b.number("flag", "rotation", 0); got != 160 {
		t.Fatalf("the graph turns the flag by %v", got)
	}
	b.do(&recipes.SaveRecipe{Items: []scene.ID{"flag"}, Name: "Flag"}, 0)
	saved := b.p.Recipes[0]
	if len(saved.Graphs) != 1 || len(saved.Slots) != 1 || saved.Slots[0].Item != "lamp" {
		t.Fatalf("kept are %d graphs, and the slots %+v", len(saved.Graphs), saved.Slots)
	}
	if kept := saved.Graphs[0]; len(kept.Slips) != len(g.Slips)-2 {
		t.Errorf("%d of %d slips are kept, of which two lead elsewhere", len(kept.Slips), len(g.Slips))
	}
	c := b.context(0)
	c.Recipes = b.p.Recipes
	r, err := (&recipes.MakeRecipe{Recipe: string(saved.ID), Items: []scene.ID{"other"}, Values: nil}).Do(c)
	if err != nil {
		t.Fatal(err)
	}
	if _, _, err = change.Apply(b.p, r.Ops); err != nil {
		t.Fatal(err)
	}
	made := b.c.Item(r.Made[0])
	if l := made.State("rotation").Links[0]; l.Kind != scene.Graphed || l.Graph == id || len(b.c.Graphs) != 2 || b.c.Graphs[1].Name == g.Name {
		t.Errorf("made is a link %+v, and %d graphs", l, len(b.c.Graphs))
	}
	b.set(ref(made.ID, "opacity"), 50)
	if got := b.number(made.ID, "rotation", 0); got != 190 {
		t.Errorf("made again, the flag is turned by %v", got)
	}
	if got := b.number("flag", "rotation", 0); got != 160 {
		t.Errorf("and the first one by %v", got)
	}
	b.sound()
	// A link whose slip went is as broken when it is made again.
	b.c.Item("flag").State("rotation").Links[0].Slip = "gone"
	b.do(&recipes.SaveRecipe{Items: []scene.ID{"flag"}, Name: "Broken"}, 0)
	c = b.context(0)
	c.Recipes = b.p.Recipes
	if r, err = (&recipes.MakeRecipe{Recipe: string(b.p.Recipes[1].ID), Items: []scene.ID{"other"}, Values: nil}).Do(c); err == nil {
		_, _, err = change.Apply(b.p, r.Ops)
	}
	if err != nil {
		t.Errorf("a rig with a broken link: %v", err)
	}
	for _, damaged := range []func(r *scene.SavedRecipe){
		func(r *scene.SavedRecipe) { r.Graphs[0] = nil }, func(r *scene.SavedRecipe) { r.Graphs[0].ID = r.Items[0].ID },
		func(r *scene.SavedRecipe) { r.Graphs[0].Slips[0].Within = "nowhere" }, func(r *scene.SavedRecipe) { r.Graphs[0].Wires[0].From = "gone" },
	} {
		bad := saved.Clone()
		bad.ID = "bad"
		if damaged(bad); bad.Check() == nil {
			t.Errorf("a damaged graph of a recipe is let through: %+v", bad)
		}
	}
}

func TestATableBecomesBars(t *testing.T) {
	b := newBench(t, item("ball", scene.Ellipse, 0, 0, 100))
	table := &scene.Table{Columns: []*scene.Column{
		{ID: "day", Name: "day", Texts: []string{"Mon", "Tue", "Wed"}}, {ID: "wind", Name: "wind", Numbers: []float64{3, 1, 2}}, {ID: "tide", Name: "tide", Numbers: []float64{1.25, -0.5, 2.5}},
	}}
	id := b.do(&items.Add{Kind: scene.TableItem, Name: "Tides", Table: table}, 0).Made[0]
	r := b.do(&recipes.MakeRecipe{Recipe: "bars", Items: []scene.ID{id}, Values: map[string]float64{"column": 2, "height": 300, "width": 40, "apart": 70}}, 0)
	b.sound()
	if len(r.Made) != 10 {
		t.Fatalf("%d items were made", len(r.Made))
	}
	bars, names, values := r.Made[1:4], r.Made[4:7], r.Made[7:10]
	at := func(id scene.ID, frame int) [2]float64 {
		p := b.context(frame).Plan().Value(ref(id, "position"))
		return [2]float64{math.Round(p.At(0)), math.Round(p.At(1))}
	}
	for k, want := range []struct {
		high       float64
		place      [2]float64
		name, says string
	}{{150, [2]float64{-70, 75}, "Mon", "1.3"}, {60, [2]float64{0, -30}, "Tue", "-0.5"}, {300, [2]float64{70, 150}, "Wed", "2.5"}} {
		size := b.context(0).Plan().Value(ref(bars[k], "size"))
		if size.At(0) != 40 || math.Abs(size.At(1)-want.high) > 1e-9 || at(bars[k], 0) != want.place {
			t.Errorf("bar %d: %v at %v", k+1, size, at(bars[k], 0))
		}
		if b.shown(ref(names[k], "text"), 0) != `"`+want.name+`"` || b.shown(ref(values[k], "text"), 0) != `"`+want.says+`"` {
			t.Errorf("bar %d: %s, %s", k+1, b.shown(ref(names[k], "text"), 0), b.shown(ref(values[k], "text"), 0))
		}
	}
	// A newer file: columns in another order, one more, and one missing that is not read.
	newer := &scene.Table{Columns: []*scene.Column{
		{ID: "a", Name: "Tide", Numbers: []float64{0.5, 1, 1.5, 9}}, {ID: "b", Name: "Day", Texts: []string{"Thu", "Fri", "Sat", "Sun"}}, {ID: "c", Name: "rain", Numbers: []float64{1, 2, 3, 4}},
	}}
	if r := b.do(&items.ReplaceTable{Item: id, Table: newer}, 0); r.Note != "" {
		t.Errorf("%s", r.Note)
	}
	b.sound()
	if size := b.context(0).Plan().Value(ref(bars[1], "size")).At(1); math.Abs(size-120) > 1e-9 || b.shown(ref(names[2], "text"), 0) != `"Sat"` {
		t.Errorf("the second bar is %v high, the third is %s", size, b.shown(ref(names[2], "text"), 0))
	}
	// One without the column that is read: it stays, and that is told.
	r = b.do(&items.ReplaceTable{Item: id, Table: &scene.Table{Columns: []*scene.Column{{ID: "a", Name: "day", Texts: []string{"Only"}}}}}, 0)
	if r.Note != "The file has no column Tide: what reads it goes on with what it was" {
		t.Errorf("%q", r.Note)
	}
	b.sound()
	if size := b.context(0).Plan().Value(ref(bars[0], "size")).At(1); math.Abs(size-60) > 1e-9 {
		t.Errorf("the first bar is %v high", size)
	}
	for says, g := range map[string]gesture.Gesture{
		"select a table for it":       &recipes.MakeRecipe{Recipe: "bars", Items: []scene.ID{"ball"}},
		"has 1 column of numbers":     &recipes.MakeRecipe{Recipe: "bars", Items: []scene.ID{id}, Values: map[string]float64{"column": 3}},
		"more than 0 px":              &recipes.MakeRecipe{Recipe: "bars", Items: []scene.ID{id}, Values: map[string]float64{"width": 0}},
		"only a table can":            &items.ReplaceTable{Item: "ball", Table: newer},
		"no table in the file":        &items.ReplaceTable{Item: id},
		"at least one column and one": &items.ReplaceTable{Item: id, Table: &scene.Table{}},
	} {
		if _, err := b.try(g, 0); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v", says, err)
		}
	}
}
