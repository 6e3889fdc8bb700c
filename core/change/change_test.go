package change

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"math"
	"math/rand"
	"reflect"
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

var in = In{Composition: "main"}

func on(id scene.ID) On { return On{in, id} }

func of(id scene.ID, key string) Of { return Of{on(id), key} }

func follow(id, item scene.ID, property, component string) *scene.Link {
	return &scene.Link{ID: id, Kind: scene.Follow, Source: scene.Ref{Item: item, Property: property}, Component: component, Gain: 1}
}

// rigged is a project with a null that drives a box.
func rigged(t testing.TB) *scene.Project {
	p := scene.NewProject("p", "Test")
	ops := Ops{
		&ItemAdd{in, &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}, 0},
		&ItemAdd{in, &scene.Item{ID: "ball", Name: "Ball", Kind: scene.Ellipse, Parent: "box"}, 0},
		&ItemAdd{in, line(), 0},
		&ItemAdd{in, &scene.Item{ID: "sign", Name: "Sign", Kind: scene.Flipbook}, 0},
		&ItemAdd{in, &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null}, 0},
		&BeforeKeep{in, "b1", "Calm"},
		&MarkerSet{in, scene.Marker{ID: "m1", Name: "Gust", Frame: 41}},
		&RecipeAdd{&scene.SavedRecipe{ID: "kept", Name: "Kept", Items: []*scene.Item{{ID: "own", Name: "Own", Kind: scene.Star}}}, 0},
		&ItemAdd{in, &scene.Item{ID: "beads", Name: "Beads", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: 3}}, 0},
		&ItemAdd{in, &scene.Item{ID: "bell", Name: "Bell", Kind: scene.SoundItem, Sound: &scene.Sound{Asset: scene.AssetID(strings.Repeat("c0de", 16)), Seconds: 0.03, Start: 12, Bands: "AAECA/8EBQYHCAkK"}}, -1},
		&ItemAdd{in, &scene.Item{ID: "tides", Name: "Tides", Kind: scene.TableItem, Table: tides(3.25, 1.75)}, -1},
		&ControlAdd{On: on("rig"), Value: &scene.Control{ID: "turn", Name: "Turn", Kind: scene.DialWidget, Default: scene.Num(0)}, At: -1},
		&LinkAdd{Of: of("box", "rotation"), Link: follow("l1", "rig", "turn", ""), At: -1},
		&RosterLinkAdd{In: in, Value: rosterLink("s1", "number")},
		&PinsPut{Of: of("rig", "turn"), Pins: []scene.Pin{{Frame: 0, Value: scene.Num(0), Easing: curve.Smooth}, {Frame: 50, Value: scene.Num(90), Easing: curve.Smooth}}},
		&GraphAdd{In: in, Value: swell("g1"), At: -1},
		&LinkAdd{Of: of("ball", "opacity"), Link: &scene.Link{ID: "gl", Kind: scene.Graphed, Gain: 1, Graph: "g1", Slip: "g1end"}, At: -1},
		&RosterLinkAdd{In: in, Value: &scene.RosterLink{ID: "s9", Name: "Swell", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"box"}}, Property: "opacity", Link: &scene.Link{ID: "s9l", Kind: scene.Graphed, Gain: 1, Graph: "g1", Slip: "g1end"}}},
	}
	lamp := scene.NewComposition("small", "Lamp")
	lamp.Items = []*scene.Item{{ID: "wick", Name: "Wick", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "glow", Name: "Glow", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(33)}, {ID: "oil", Name: "Oil", Kind: scene.Fader, SoftMax: 7, Default: scene.Num(3)},
	}}}
	lamp.Looks = []*scene.Look{{ID: "dim", Name: "Dim", Of: "wick", Values: []scene.LookValue{{Item: "wick", Control: "oil", Value: scene.Num(7)}}}}
	lamp.HandOff = &scene.HandOff{Offers: []*scene.Offer{{ID: "ofglow", Item: "wick", Control: "glow", Name: "Shine", Max: ptr(71.0)}}}
	ops = append(ops, &CompositionAdd{lamp, -1},
		&SetAdd{&scene.ControlSet{ID: "first", Name: "First", Controls: []*scene.Control{{ID: "f1", Name: "Way", Kind: scene.DialWidget, Default: scene.Num(8)}}}, -1},
		&ItemAdd{in, &scene.Item{ID: "shown", Name: "Lamp 1", Kind: scene.Piece, Piece: &scene.Shown{Composition: "small"}, States: map[string]*scene.State{"ofglow": {Own: scene.Num(44)}, "ofonce": {Own: scene.Pt(3, 8)}}}, -1})
	if _, _, err := Apply(p, ops); err != nil {
		t.Fatal(err)
	}
	return p
}

func text(t testing.TB, v any) string {
	data, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

// line is a path of two vertices, the first of which was moved.
func line() *scene.Item {
	item := &scene.Item{ID: "line", Name: "Line", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 2, At: [2]float64{50, 0}}}}}}}
	item.Edit("vertex1").Own = scene.Pt(3, 4)
	return item
}

// mapped is the link of the box's rotation as a map.
func mapped(stops ...scene.MapStop) *scene.Link {
	return &scene.Link{ID: "l1", Kind: scene.Map, Source: scene.Ref{Item: "rig", Property: "turn"}, Stops: stops}
}

// rosterLink is a formula on the rotation of two items.
func rosterLink(id scene.ID, formula string) *scene.RosterLink {
	return &scene.RosterLink{ID: id, Name: "Row", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"box", "ball"}}, Property: "rotation", Link: &scene.Link{ID: "in" + id, Kind: scene.Formula, Gain: 1, Formula: formula}}
}

// swell is a graph that drives by a wave and the turn of the rig.
func swell(id scene.ID) *scene.Graph {
	return &scene.Graph{ID: id, Name: "Swell", Slips: []*scene.Slip{
		{ID: id + "read", Kind: scene.ReadSlip, Text: "{@rig:@turn}"}, {ID: id + "clock", Kind: scene.WordsSlip, Text: "clock"}, {ID: id + "wave", Kind: scene.ApplySlip, Text: "wave"},
		{ID: id + "times", Kind: scene.ApplySlip, Text: "*"}, {ID: id + "end", Kind: scene.DriveSlip},
	}, Wires: []*scene.Wire{
		{From: id + "clock", Out: "time", To: id + "wave", In: "1"}, {From: id + "wave", To: id + "times", In: "1"},
		{From: id + "read", To: id + "times", In: "2"}, {From: id + "times", To: id + "end", In: "in"},
	}}
}

// struck is a sound of so many seconds that is as loud throughout, with an asset of a repeated byte.
func struck(seconds float64, of string) *scene.Sound {
	bands := bytes.Repeat([]byte{77}, len(scene.SoundBands)*scene.Moments(seconds))
	return &scene.Sound{Asset: scene.AssetID(strings.Repeat(of, 32)), Seconds: seconds, Start: 5, Bands: base64.StdEncoding.EncodeToString(bands)}
}

// tides is a table of heights.
func tides(heights ...float64) *scene.Table {
	names := make([]string, len(heights))
	for k := range names {
		names[k] = fmt.Sprintf("day %d", k+3)
	}
	return &scene.Table{File: "tides.csv", Columns: []*scene.Column{{ID: "day", Name: "day", Texts: names}, {ID: "height", Name: "height", Numbers: heights}}}
}

func ptr[T any](v T) *T { return &v }

// otherwise is the composition of the rigged project with fewer things in it, under another name.
func otherwise() *scene.Composition {
	c := scene.NewComposition("main", "Otherwise")
	c.Items = []*scene.Item{
		{ID: "box", Name: "Box", Kind: scene.Rectangle}, {ID: "line", Name: "Line", Kind: scene.Null},
		{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "turn", Name: "Turn", Kind: scene.DialWidget, Default: scene.Num(0)}}},
	}
	return c
}

// edits is one operation of every kind, each legal on the rigged project.
func edits() Ops {
	return Ops{
		&ProjectRename{"Other"},
		&CompositionAdd{scene.NewComposition("second", "Second"), -1},
		&CompositionSet{In: in, Name: ptr("Wide"), Width: ptr(1920), Frames: ptr(10)},
		&ItemAdd{in, &scene.Item{ID: "new", Name: "New", Kind: scene.TextItem, Parent: "rig"}, 1},
		&ItemAdd{in, &scene.Item{ID: "full", Name: "Full", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 4}}}}},
			Controls: []*scene.Control{{ID: "fullc", Name: "Way", Kind: scene.Fader, SoftMax: 9, Default: scene.Num(2), Poses: []scene.PoseStop{{ID: "low", Name: "Low", Easing: curve.Linear}, {ID: "high", Name: "High", At: 7, Easing: curve.Hold}}}},
			States: map[string]*scene.State{
				"opacity": {Own: scene.Num(31), Pins: []scene.Pin{{Frame: 3, Value: scene.Num(9), Easing: curve.Smooth}}, Max: ptr(77.0)},
				"vertex4": {Own: scene.Pt(7, 3)},
				"rotation": {Links: []*scene.Link{
					{ID: "fulll", Kind: scene.Posed, Source: scene.Ref{Item: "full", Property: "fullc"}, Gain: 1, Held: []scene.Held{{Stop: "low", Value: scene.Num(3)}}},
					{ID: "fullm", Kind: scene.Map, Source: scene.Ref{Item: "rig", Property: "turn"}, Gain: 1, Stops: []scene.MapStop{{In: 0, Out: scene.Num(1), Easing: curve.Linear}, {In: 9, Out: scene.Num(4), Easing: curve.Hold}}},
				}},
				"weight:fulll": {Own: scene.Num(64)},
			}}, 0},
		&ItemRemove{on("ball")},
		&ItemSet{On: on("box"), Name: ptr("Crate"), Hidden: ptr(true)},
		&ItemAttach{On: on("box"), Parent: "rig", Attachment: scene.Attachment{Stayed: &[12]float64{1, 0, 0, 9, 0, 1, 0, 0, 0, 0, 1, 0}, NoScale: true}},
		&ItemMove{on("rig"), 2},
		&ItemsArrange{in, []scene.ID{"rig", "box"}, []int{0, 2}},
		&ItemPath{On: on("line"), Path: &scene.PathShape{EvenOdd: true, Contours: []scene.Contour{{Closed: true, Vertices: []scene.Vertex{{ID: 2, At: [2]float64{5, 6}}}}}}},
		&ItemFrames{On: on("sign"), Frames: []scene.Frame{{Asset: scene.AssetID(strings.Repeat("a1", 32)), Part: [4]int{0, 0, 8, 8}}}},
		&ItemStops{on("box"), []scene.Stop{{At: 0.5, Colour: scene.RGBA(1, 0, 0, 1)}}},
		&ControlAdd{On: on("rig"), Value: &scene.Control{ID: "lamp", Name: "Lamp", Kind: scene.SwitchWidget, Default: scene.On(true)}, At: 0},
		&ControlRemove{on("rig"), "turn"},
		&ControlSet{on("rig"), &scene.Control{ID: "turn", Name: "Twist", Kind: scene.DialWidget, SoftMax: 720, Default: scene.Num(5)}},
		&ControlMove{on("rig"), "turn", 0},
		&OwnSet{of("box", "size"), scene.Pt(10, 20)},
		&OwnSet{of("box", "size"), scene.Value{}},
		&PinsPut{Of: of("rig", "turn"), Pins: []scene.Pin{{Frame: 50, Value: scene.Num(10), Easing: curve.Hold}, {Frame: 20, Value: scene.Num(1), Easing: curve.Linear}}},
		&PinsDrop{of("rig", "turn"), []int{0, 3}},
		&LinkAdd{Of: of("box", "position"), Link: follow("l2", "ball", "position", "x"), At: 0},
		&LinkRemove{of("box", "rotation"), "l1"},
		&LinkMove{of("box", "rotation"), "l1", 0},
		&LimitsSet{Of: of("box", "opacity"), Min: ptr(20.0), Max: ptr(60.0)},
		&PinsBeyond{of("rig", "turn"), curve.Onward},
		&BakedSet{of("box", "opacity"), &scene.Baked{Links: []scene.ID{"l1"}, Pins: []scene.Pin{{Frame: 3, Value: scene.Num(20), Easing: curve.Linear}}}},
		&RosterLinkAdd{In: in, Value: rosterLink("s2", "3")},
		&RosterLinkRemove{in, "s1"},
		&RosterLinkSet{In: in, Value: rosterLink("s1", "index * 2")},
		&GraphAdd{In: in, Value: swell("g2")},
		&GraphRemove{in, "g1"},
		&RecipeAdd{&scene.SavedRecipe{ID: "saved", Name: "Saved", Items: []*scene.Item{{ID: "one", Name: "One", Kind: scene.Star}}}, 0},
		&RecipeRemove{"kept"},
		&MarkerSet{in, scene.Marker{ID: "m2", Name: "Calm", Frame: 7}},
		&MarkerSet{in, scene.Marker{ID: "m1", Name: "Squall", Frame: 3}},
		&MarkerRemove{in, "m1"},
		&BeforeKeep{in, "b2", "Gale"},
		&BeforeAdd{&scene.Before{ID: "b3", Name: "Empty", Value: scene.NewComposition("main", "Main")}, 0},
		&BeforeSet{"b1", "Calmer"},
		&BeforeRestore{"b1"},
		&CompositionPut{otherwise()},
		&BeforeRemove{"b1"},
		&ItemCopies{on("beads"), &scene.CopiesShape{Limit: 40, Along: "line"}},
		&OfferSet{In{"small"}, &scene.Offer{ID: "ofoil", Item: "wick", Control: "oil", Heading: "Fuel", NoPins: true}, 0},
		&OfferSet{In{"small"}, &scene.Offer{ID: "ofglow", Item: "wick", Control: "glow", Default: scene.Num(12), Min: ptr(3.0)}, -1},
		&OfferRemove{In{"small"}, "ofglow"},
		&HandOffNote{In{"small"}, "Mind the wick."},
		&SetAdd{&scene.ControlSet{ID: "knobs", Name: "Knobs", Controls: []*scene.Control{{ID: "k1", Name: "Knob", Kind: scene.Fader, SoftMax: 7, Default: scene.Num(3)}}}, 0},
		&LookSet{In{"small"}, &scene.Look{ID: "dim", Name: "Dimmer", Values: []scene.LookValue{{Item: "wick", Control: "gone", Value: scene.Txt("out")}}}, -1},
		&LookSet{In{"small"}, &scene.Look{ID: "bright", Name: "Bright", Of: "wick", Values: []scene.LookValue{{Item: "wick", Control: "oil", Value: scene.Num(70)}}}, 0},
		&LookRemove{In{"small"}, "dim"},
		&SetRemove{"first"},
		&ItemPiece{on("shown"), "nowhere"},
		&PieceKept{Of: of("shown", "ofonce")},
		&OwnSet{of("shown", "ofglow"), scene.Num(17)},
		&SoundStart{on("bell"), -7},
		&ItemSound{on("bell"), struck(0.3, "b2")},
		&ItemSound{on("bell"), nil},
		&ItemTable{on("tides"), tides(0.5, -3, 7)},
		&ItemTable{on("tides"), nil},
		&GraphSet{in, "g1", "Slow swell", "for the boats"},
		&SlipAdd{In: in, Graph: "g1", Value: &scene.Slip{ID: "abs", Kind: scene.ApplySlip, Text: "abs"}, At: 1, Wires: []*scene.Wire{{From: "g1read", To: "abs", In: "1"}}},
		&SlipAdd{In: in, Graph: "g1", Value: &scene.Slip{ID: "fold", Kind: scene.FoldSlip, Title: "Fold", Ports: []scene.FoldPort{{Slip: "g1wave", Key: "1", Name: "in"}, {Slip: "g1gone", Out: true, Name: "out"}}}},
		&SlipRemove{in, "g1", "g1wave"},
		&SlipRemove{in, "g1", "g1end"},
		&SlipSet{In: in, Graph: "g1", Value: &scene.Slip{ID: "g1wave", Kind: scene.ApplySlip, Text: "saw", At: [2]float64{3, 4}}},
		&WireAdd{in, "g1", &scene.Wire{From: "g1read", To: "g1wave", In: "2"}},
		&WireRemove{in, "g1", "g1times", "1"},
		&LinkSet{Of: of("box", "rotation"), Link: &scene.Link{ID: "l1", Kind: scene.Follow, Source: scene.Ref{Item: "rig", Property: "turn"}, Gain: -2, Offset: 7}},
	}
}

func TestEveryOperationIsUndoneByItsInverse(t *testing.T) {
	covered := map[string]bool{}
	for _, op := range edits() {
		covered[nameOf(op)] = true
		t.Run(nameOf(op), func(t *testing.T) {
			p := rigged(t)
			before := text(t, p)
			// "link x of position" wants a source that fits.
			inverse, effects, err := Apply(p, Ops{op})
			if err != nil {
				t.Fatal(err)
			}
			after := text(t, p)
			if len(effects) < 1 || (after == before && nameOf(op) != "control.move" && nameOf(op) != "link.move" && text(t, op) != text(t, &OwnSet{of("box", "size"), scene.Value{}})) {
				t.Errorf("nothing came of it")
			}
			redo, _, err := Apply(p, inverse)
			if err != nil || text(t, p) != before {
				t.Fatalf("undone, the project is not as before (%v):\n%s\n%s", err, before, text(t, p))
			}
			if _, _, err := Apply(p, redo); err != nil || text(t, p) != after {
				t.Errorf("made again, the project is not as after (%v)", err)
			}
		})
	}
	covered["composition.remove"] = true // the inverse of composition.add
	for name := range names {
		if !covered[name] {
			t.Errorf("%s is not covered", name)
		}
	}
}

func TestOperationsSurviveJSON(t *testing.T) {
	ops := edits()
	data := text(t, ops)
	var back Ops
	if err := json.Unmarshal([]byte(data), &back); err != nil {
		t.Fatal(err)
	}
	if !reflect.DeepEqual(ops, back) {
		t.Errorf("came back as\n%s\nfrom\n%s", text(t, back), data)
	}
}

func TestRandomChangesAndTheirInverses(t *testing.T) {
	r := rand.New(rand.NewSource(1))
	p := rigged(t)
	type state struct {
		text    string
		inverse Ops
	}
	var past []state
	for i := range 400 {
		before := text(t, p)
		all := edits()
		op := all[r.Intn(len(all))]
		if add, ok := op.(*ItemAdd); ok {
			add.Value.ID = scene.ID(fmt.Sprintf("n%d", i))
		}
		inverse, _, err := Apply(p, Ops{op})
		if err != nil {
			if text(t, p) != before {
				t.Fatalf("%s was refused (%v) and changed the project", nameOf(op), err)
			}
			continue
		}
		past = append(past, state{before, inverse})
	}
	if len(past) < 100 {
		t.Fatalf("only %d changes were made", len(past))
	}
	for i := len(past) - 1; i >= 0; i-- {
		if _, _, err := Apply(p, past[i].inverse); err != nil || text(t, p) != past[i].text {
			t.Fatalf("step %d cannot be undone: %v", i, err)
		}
	}
}

func TestRefusalsSayWhyAndChangeNothing(t *testing.T) {
	long := strings.Repeat("x", 10000)
	for says, ops := range map[string]Ops{
		"no composition with the id": {&CompositionSet{In: In{"nowhere"}, Name: ptr("x")}},
		"only composition":           {&CompositionRemove{In{"small"}}, &CompositionRemove{in}},
		"handed off already":         {&OfferSet{In{"small"}, &scene.Offer{ID: "again", Item: "wick", Control: "glow"}, -1}},
		"is not a piece":             {&ItemPiece{on("box"), "small"}},
		"Composition 1 can't show itself, not by way of Lamp either": {&ItemAdd{In{"small"}, &scene.Item{ID: "back", Name: "Back", Kind: scene.Piece, Piece: &scene.Shown{Composition: "main"}}, 0}},
		"every piece does":                {&ItemAdd{in, &scene.Item{ID: "none", Name: "None", Kind: scene.Piece}, 0}},
		"the limit is 200":                {&ItemSet{On: on("box"), Name: &long}},
		"no item with the id":             {&OwnSet{of("ghost", "size"), scene.Pt(1, 2)}},
		"has no property":                 {&OwnSet{of("box", "fontSize"), scene.Num(1)}},
		"a 2D point is wanted here":       {&OwnSet{of("box", "size"), scene.Txt("x")}},
		"needs at least two stops":        {&LinkSet{Of: of("box", "rotation"), Link: mapped(scene.MapStop{Out: scene.Num(1), Easing: curve.Linear})}},
		"two stops of the map are at 5":   {&LinkSet{Of: of("box", "rotation"), Link: mapped(scene.MapStop{In: 5, Out: scene.Num(1), Easing: curve.Linear}, scene.MapStop{In: 5, Out: scene.Num(2), Easing: curve.Linear})}},
		"output at 0: a number is wanted": {&LinkSet{Of: of("box", "rotation"), Link: mapped(scene.MapStop{Out: scene.Txt("x"), Easing: curve.Linear}, scene.MapStop{In: 5, Out: scene.Num(2), Easing: curve.Linear})}},
		"input of a stop: NaN":            {&LinkSet{Of: of("box", "rotation"), Link: mapped(scene.MapStop{In: math.NaN(), Out: scene.Num(1), Easing: curve.Linear}, scene.MapStop{In: 5, Out: scene.Num(2), Easing: curve.Linear})}},
		"a delay must be from":            {&LinkSet{Of: of("box", "rotation"), Link: &scene.Link{ID: "l1", Kind: scene.Follow, Gain: 1, Delay: -3}}},
		"gain and offset must be finite":  {&LinkSet{Of: of("box", "rotation"), Link: &scene.Link{ID: "l1", Kind: scene.Follow, Gain: math.Inf(1)}}},
		"can only be replaced":            {&LinkAdd{Of: of("box", "lit"), Link: &scene.Link{ID: "x", Kind: scene.Follow, Gain: 1, Operation: scene.Plus}}},
		"is not a mode":                   {&LinkSet{Of: of("box", "rotation"), Link: &scene.Link{ID: "l1", Kind: scene.Follow, Gain: 1, Operation: "divide"}}},
		"a number has 1 number":           {&BakedSet{of("box", "opacity"), &scene.Baked{Pins: []scene.Pin{{Value: scene.Pt(1, 2), Easing: curve.Linear}}}}},
		"the limits of opacity cross":     {&LimitsSet{Of: of("box", "opacity"), Min: ptr(60.0), Max: ptr(20.0)}},
		"is read-only":                    {&OwnSet{of("box", "worldPosition"), scene.Pt(1, 2, 3)}},
		"only a path has vertices":        {&ItemPath{On: on("box"), Path: line().Path}},
		"numbered wrongly":                {&ItemPath{On: on("line"), Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 1}}}}}}},
		"has no columns":                  {&ItemTable{on("box"), tides(1)}},
		"at least one column":             {&ItemTable{on("tides"), &scene.Table{}}},
		"holds what is no number":         {&ItemTable{on("tides"), tides(math.NaN())}},
		"properties of the table are":     {&ItemTable{on("tides"), &scene.Table{Columns: []*scene.Column{{ID: "a", Name: "Row", Numbers: []float64{1}}}}}},
		"plays no sound":                  {&ItemSound{on("box"), struck(0.3, "b2")}},
		"does not name a sound":           {&ItemSound{on("bell"), struck(0.3, "no")}},
		"does not go with its length":     {&ItemSound{on("bell"), &scene.Sound{Asset: scene.AssetID(strings.Repeat("b2", 32)), Seconds: 0.7}}},
		"has no picture":                  {&ItemFrames{On: on("box"), Frames: make([]scene.Frame, 1)}},
		"does not name a picture":         {&ItemFrames{On: on("sign"), Frames: make([]scene.Frame, 1)}},
		"colours to label with":           {&ItemSet{On: on("box"), Label: ptr(7)}},
		"loop: place of Box":              {&LinkAdd{Of: of("box", "position"), Link: follow("x", "ball", "worldPosition", ""), At: 0}},
		"must lie between":                {&OwnSet{of("box", "opacity"), scene.Num(1e200)}},
		"taken already":                   {&ItemAdd{in, &scene.Item{ID: "box", Name: "x", Kind: scene.Null}, 0}},
		"is attached to Box; detach":      {&ItemRemove{on("box")}},
		"would create a loop":             {&ItemAttach{On: on("box"), Parent: "ball"}},
		"can't be changed":                {&ControlSet{on("rig"), &scene.Control{ID: "turn", Name: "T", Kind: scene.Fader, Default: scene.Num(0)}}},
		"has no control with the id":      {&ControlRemove{on("rig"), "gone"}},
		"has no link with the id":         {&LinkRemove{of("box", "rotation"), "gone"}},
		"would create a loop: Ball: size.x → Box: size.x → Ball: size.x": {&LinkAdd{Of: of("box", "size"), Link: follow("x", "ball", "size", ""), At: 0}, &LinkAdd{Of: of("ball", "size"), Link: follow("y", "box", "size", ""), At: 0}},
		"create a loop: Box: opacity → B":                                {&LinkAdd{Of: of("box", "opacity"), Link: follow("x", "box", "opacity", ""), At: 0}},
	} {
		p := rigged(t)
		before := text(t, p)
		_, _, err := Apply(p, append(Ops{&ProjectRename{"Half done"}}, ops...))
		if err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("want %q, got %v", says, err)
		}
		if text(t, p) != before {
			t.Errorf("%s: refused, but the project changed", says)
		}
	}
}

// A link goes with what was set of its weight, and comes back with it.
func TestAWeightGoesWithItsLink(t *testing.T) {
	p := rigged(t)
	weight := scene.WeightKey("l1")
	if _, _, err := Apply(p, Ops{&OwnSet{of("box", weight), scene.Num(40)}}); err != nil {
		t.Fatal(err)
	}
	before := text(t, p)
	inverse, _, err := Apply(p, Ops{&LinkRemove{of("box", "rotation"), "l1"}})
	if err != nil || strings.Contains(text(t, p), weight) {
		t.Errorf("the weight stays behind (%v)", err)
	}
	if _, _, err := Apply(p, inverse); err != nil || text(t, p) != before {
		t.Errorf("undone, the project is not as before (%v)", err)
	}
}

func TestALongCycleIsDrawnInOrder(t *testing.T) {
	p := rigged(t)
	var ops Ops
	for i := range 5 {
		ops = append(ops, &ItemAdd{in, &scene.Item{ID: scene.ID(fmt.Sprintf("i%d", i)), Name: fmt.Sprintf("Item %d", i), Kind: scene.Ellipse}, -1})
	}
	for i := range 4 {
		ops = append(ops, &LinkAdd{Of: of(scene.ID(fmt.Sprintf("i%d", i+1)), "opacity"), Link: follow(scene.ID(fmt.Sprintf("a%d", i)), scene.ID(fmt.Sprintf("i%d", i)), "opacity", ""), At: -1})
	}
	if _, _, err := Apply(p, ops); err != nil {
		t.Fatal(err)
	}
	_, _, err := Apply(p, Ops{&LinkAdd{Of: of("i0", "opacity"), Link: follow("a", "i4", "opacity", ""), At: -1}})
	want := "Item 0: opacity → Item 1: opacity → Item 2: opacity → Item 3: opacity → Item 4: opacity → Item 0: opacity"
	if err == nil || !strings.Contains(err.Error()+" → Item 0: opacity", want) && !rotated(err.Error(), want) {
		t.Errorf("got %v", err)
	}
	// A cycle through components that do not meet is none.
	if _, _, err := Apply(p, Ops{
		&LinkAdd{Of: of("box", "position"), Link: follow("b", "ball", "position", ""), At: 0},
		&LinkSet{Of: of("box", "position"), Link: &scene.Link{ID: "b", Kind: scene.Follow, Source: scene.Ref{Item: "ball", Property: "position", Component: "x"}, Component: "y", Gain: 1}},
		&LinkAdd{Of: of("ball", "position"), Link: &scene.Link{ID: "c", Kind: scene.Follow, Source: scene.Ref{Item: "box", Property: "position", Component: "x"}, Component: "y", Gain: 1}, At: 0},
	}); err != nil {
		t.Errorf("x drives y on both sides, which is no circle: %v", err)
	}
}

// rotated reports whether the message draws the wanted cycle, wherever it begins.
func rotated(message, want string) bool {
	names := strings.Split(want, " → ")
	names = names[:len(names)-1]
	for k := range names {
		turned := append(append([]string{}, names[k:]...), names[:k]...)
		if strings.Contains(message, strings.Join(append(turned, turned[0]), " → ")) {
			return true
		}
	}
	return false
}

func FuzzDecode(f *testing.F) {
	f.Add(text(f, edits()))
	f.Add(`[{"op":"own.set","composition":"main","item":"box","property":"size","value":[1,1e999]}]`)
	f.Add(`[{"op":"pins.put","composition":"main","item":"rig","property":"turn","pins":[{"frame":9999999}]}]`)
	f.Fuzz(func(t *testing.T, data string) {
		var ops Ops
		if json.Unmarshal([]byte(data), &ops) != nil {
			return
		}
		p := rigged(t)
		before := text(t, p)
		inverse, _, err := Apply(p, ops)
		if err == nil {
			if err := p.Check(); err != nil {
				t.Fatalf("an accepted change broke the project: %v", err)
			}
			_, _, err = Apply(p, inverse)
			if err != nil {
				t.Fatalf("the inverse was refused: %v", err)
			}
		}
		if text(t, p) != before {
			t.Fatalf("not as before:\n%s\n%s", before, text(t, p))
		}
	})
}

// Items are found by their names, whatever happened to these.
func TestItemsAreFoundByTheirNames(t *testing.T) {
	p := rigged(t)
	c := p.Composition("main")
	expect := func(name string, want ...scene.ID) {
		t.Helper()
		var got []scene.ID
		for _, item := range c.Named(name) {
			got = append(got, item.ID)
		}
		if !slices.Equal(got, want) {
			t.Errorf("%s: %v, want %v", name, got, want)
		}
	}
	expect(" bOX ", "box")
	for _, step := range []struct {
		op   Op
		want []scene.ID
	}{
		{&ItemSet{On: on("line"), Name: ptr("Box")}, []scene.ID{"line", "box"}},
		{&ItemSet{On: on("box"), Name: ptr("Crate")}, []scene.ID{"line"}},
		{&ItemAdd{in, &scene.Item{ID: "new", Name: "BOX", Kind: scene.Null}, 0}, []scene.ID{"new", "line"}},
		{&ItemRemove{on("new")}, []scene.ID{"line"}},
	} {
		for range 2 { // made, taken back and made again
			inverse, _, err := Apply(p, Ops{step.op})
			if err != nil {
				t.Fatal(err)
			}
			expect("Box", step.want...)
			if _, _, err := Replay(p, inverse); err != nil {
				t.Fatal(err)
			}
		}
		if _, _, err := Apply(p, Ops{step.op}); err != nil {
			t.Fatal(err)
		}
	}
}

// Who speaks today's language is told of a field that comes to nothing; what was stored may hold fields of once.
func TestExactOperationsHaveNoOtherFields(t *testing.T) {
	for text, want := range map[string]string{
		`[{"op":"item.remove","composition":"main","item":"box"}]`:              "",
		`[{"composition":"main","item":"box","op":"item.remove"}]`:              "",
		`[ {"composition":"main", "op" : "item.remove" , "item":"box"} ]`:       "",
		`[{"op":"item.remove","composition":"main","item":"box","valeu":3}]`:    `item.remove: there is no field named "valeu"`,
		`[{"op":"item.remove","op":"item.remove","item":"box"}]`:                `there is no field named "op"`,
		`[{"op":"link.set","item":"b","property":"p","link":{"id":"l","x":1}}]`: `link.set: there is no field named "x"`,
		`[{"op":"dance"}]`: "no operation named",
		`[7]`:              "it is not an object",
	} {
		var exact Exact
		err := json.Unmarshal([]byte(text), &exact)
		if (err == nil) != (want == "") || err != nil && !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v, want %q", text, err, want)
		}
		var ops Ops
		if stored := json.Unmarshal([]byte(text), &ops); (stored == nil) != (want == "" || strings.Contains(want, "field")) {
			t.Errorf("%s, as it may be stored: %v", text, stored)
		}
		if want == "" && len(exact) != 1 {
			t.Errorf("%s: %d operations", text, len(exact))
		}
	}
}
