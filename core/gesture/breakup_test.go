package gesture_test

import (
	"fmt"
	"math/rand"
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/format/svg"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// randomCopies is a composition with copies of a few shapes, whose places, lateness and looks are driven at random.
func randomCopies(t *testing.T, r *rand.Rand) *bench {
	pins := func(scale float64) []scene.Pin {
		return []scene.Pin{{Frame: 0, Value: scene.Num(r.Float64() * scale), Easing: curve.Linear}, {Frame: 20 + r.Intn(30), Value: scene.Num(r.Float64() * scale), Easing: curve.Linear}, {Frame: 90, Value: scene.Num(r.Float64() * scale), Easing: curve.Linear}}
	}
	beads := &scene.Item{ID: "beads", Name: "Beads", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: 2 + r.Intn(8), Along: "path"}}
	own := func(key string, x float64) { beads.Edit(key).Own = scene.Num(x) }
	own("copiesArrangement", float64(r.Intn(len(scene.Arrangements))))
	own("copiesNumber", float64(r.Intn(8))+float64(r.Intn(2))/2)
	own("copiesFade", float64(r.Intn(2)))
	own("copiesColumns", float64(1+r.Intn(4)))
	own("copiesEnd", []float64{100, 80, 200}[r.Intn(3)])
	own("copiesTurn", float64(r.Intn(40)))
	own("rotation", float64(r.Intn(90)))
	beads.Edit("position").Own = scene.Pt(30, -50, 0)
	if along := beads.State("copiesArrangement").Own.At(0) == 3; r.Intn(2) == 0 && !along { // along a path, their places would change with it
		beads.Edit("rotation").Pins = pins(90)
	}
	leaf := &scene.Item{ID: "leaf", Name: "Leaf", Kind: scene.Rectangle, Parent: "beads"}
	leaf.Edit("rotation").Pins = pins(180)
	leaf.Edit("opacity").Pins = pins(100)
	leaf.Edit("position").Own = scene.Pt(10, 20, 0)
	dot := &scene.Item{ID: "dot", Name: "Dot", Kind: scene.Ellipse, Parent: "leaf"}
	dot.Edit("scale").Links = []*scene.Link{{ID: "l1", Kind: scene.Formula, Gain: 1, Formula: "[100, 50, 100] * (1 + {@leaf:@rotation} / 200)"}}
	dot.Edit("fill").Own = scene.RGBA(r.Float64(), r.Float64(), r.Float64(), 1)
	dot.Edit("strokeWidth").Links = []*scene.Link{{ID: "l2", Kind: scene.Follow, Source: scene.Ref{Item: "knob", Property: "rotation"}, Gain: 0.1}}
	knob := &scene.Item{ID: "knob", Name: "Knob", Kind: scene.Null}
	knob.Edit("rotation").Pins = pins(100)
	path := &scene.Item{ID: "path", Name: "Path", Kind: scene.PathItem}
	path.Path = &scene.PathShape{Contours: []scene.Contour{{Closed: r.Intn(2) == 0, Vertices: []scene.Vertex{{ID: 1, At: [2]float64{-200, 0}}, {ID: 2, At: [2]float64{0, 90}}, {ID: 3, At: [2]float64{220, -30}}}}}}
	zone := &scene.Item{ID: "zone", Name: "Zone", Kind: scene.Zone}
	zone.Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(-300, 0, 0), Easing: curve.Linear}, {Frame: 90, Value: scene.Pt(300, 0, 0), Easing: curve.Linear}}
	b := newBench(t, dot, leaf, beads, path, zone, knob)
	between := beads.State("copiesFade").Own.At(0) == 1 && beads.State("copiesNumber").Own.At(0) != float64(int(beads.State("copiesNumber").Own.At(0)))
	for property, texts := range map[string][]string{
		"position": {"below + [0, 30 * zone({@zone}), 0]", "below + [0, wave(time - share) * 40, 0]", "if(index = 0, below, delay({prev:@position}, 3f) + [20, 0, 0])"},
		"rotation": {"below + index * 11 + count", "below - {@knob:@rotation}"},
		"scale":    {"below * mix(0.4, 1, share)", "below * (0.5 + zone({@zone}))"},
		"opacity":  {"100 - number * 6", "below * zone({@zone})"},
		"copyLate": {"index * 4f", "(count - index) * 2f"},
		"tint":     {"rgb(share, 0.2, 0.4)"}, "tintStrength": {"share * 80"},
	} {
		text := texts[r.Intn(len(texts))]
		if r.Intn(2) == 0 || between && (strings.Contains(text, "count") || strings.Contains(text, "share")) { // items are counted in whole ones
			continue
		}
		b.c.RosterLinks = append(b.c.RosterLinks, &scene.RosterLink{
			ID: scene.ID("row" + strings.ToLower(property)), Name: property, Roster: scene.Roster{Kind: scene.CopiesOf, Item: "beads"}, Property: property,
			Link: &scene.Link{ID: scene.ID("of" + strings.ToLower(property)), Kind: scene.Formula, Gain: 1, Formula: text},
		})
	}
	if err := b.p.Check(); err != nil {
		t.Fatal(err)
	}
	return b
}

func drawing(c *scene.Composition, frame float64) string {
	plan := engine.New(c)
	plan.Evaluate(frame)
	picture, _ := svg.Frame(c, plan, true)
	return string(picture)
}

func TestCopiesEqualTheItemsThatTheyBreakUpInto(t *testing.T) {
	shown := 0
	for seed := range int64(300) {
		r := rand.New(rand.NewSource(seed))
		b := randomCopies(t, r)
		frame := r.Intn(100)
		before := drawing(b.c, float64(frame))
		if _, err := b.try(&copies.BreakUp{Item: "beads"}, frame); err != nil {
			if strings.Contains(err.Error(), "no copies here") {
				continue
			}
			t.Fatal(err)
		}
		if err := b.p.Check(); err != nil {
			t.Fatal(err)
		}
		if after := drawing(b.c, float64(frame)); before != after {
			x, y := strings.Split(before, "<path"), strings.Split(after, "<path")
			for k := range x {
				if k >= len(y) || x[k] != y[k] {
					t.Fatalf("seed %d, frame %d: path %d of %d and %d differs:\n%s\n%s", seed, frame, k, len(x), len(y), x[k], y[min(k, len(y)-1)])
				}
			}
			t.Fatalf("seed %d: %d and %d paths", seed, len(x), len(y))
		}
		shown += strings.Count(before, "<path")
	}
	if shown < 1000 {
		t.Errorf("only %d paths were compared", shown)
	}
}

// sparks lists where all particles fly, of emitters by themselves and in copies.
func sparks(c *scene.Composition, frame float64) (out []string) {
	plan := engine.New(c)
	plan.Evaluate(frame)
	note := func(p *engine.Particle) {
		out = append(out, fmt.Sprintf("%.4f %.4f %.4f %.4f %.3f", p.Place[0], p.Place[1], p.Place[2], p.Moving[0], p.Size))
	}
	for i, item := range plan.Layout.Items {
		switch {
		case !plan.Shown(int32(i)):
		case item.Kind == scene.Emitter:
			plan.Particles(int32(i), note)
		case item.Kind == scene.CopiesItem:
			plan.Copies(int32(i), func(k *engine.Copied) {
				if plan.Layout.Items[k.Item].Kind == scene.Emitter {
					plan.ParticlesThrough(k.Item, &k.Through, note)
				}
			})
		}
	}
	slices.Sort(out)
	return out
}

func TestParticlesFlyFromEachCopyAsFromItemsOfTheirOwn(t *testing.T) {
	outer := &scene.Item{ID: "outer", Name: "Outer", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: 4}}
	outer.Edit("copiesNumber").Own, outer.Edit("copiesSpacing").Own, outer.Edit("rotation").Own = scene.Num(2), scene.Pt(0, 200, 0), scene.Num(20)
	inner := &scene.Item{ID: "inner", Name: "Inner", Kind: scene.CopiesItem, Parent: "outer", Copies: &scene.CopiesShape{Limit: 6}}
	inner.Edit("copiesNumber").Own, inner.Edit("copiesArrangement").Own = scene.Num(3), scene.Num(1)
	fire := &scene.Item{ID: "fire", Name: "Fire", Kind: scene.Emitter, Parent: "inner"}
	fire.Edit("inheritMotion").Own = scene.Num(60)
	fire.Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(0, 0, 0), Easing: curve.Linear}, {Frame: 60, Value: scene.Pt(300, 40, 0), Easing: curve.Linear}}
	b := newBench(t, fire, inner, outer)
	before := sparks(b.c, 50)
	b.do(&copies.BreakUp{Item: "outer"}, 50)
	half := sparks(b.c, 50)
	for _, item := range b.c.Items {
		if item.Kind == scene.CopiesItem {
			b.do(&copies.BreakUp{Item: item.ID}, 50)
		}
	}
	if after := sparks(b.c, 50); len(before) < 100 || !slices.Equal(before, half) || !slices.Equal(before, after) {
		t.Errorf("%d particles fly from copies, %d once half of them are broken up, %d from items; the first is %s, %s and %s", len(before), len(half), len(after), before[0], half[0], after[0])
	}
}

func TestACableDrivesAllCopies(t *testing.T) {
	b := newBench(t, item("knob", scene.Null, 0, 30, 100), item("dot", scene.Star, 0, 0, 100))
	r := b.do(&copies.Group{Items: []scene.ID{"dot"}, Kind: scene.CopiesItem}, 0)
	beads := b.c.Item(r.Made[0])
	third := beads.Lanes()[2].ID
	before := b.number(third, "position", 0)
	for _, key := range []string{"rotation", "opacity"} {
		b.do(&wiring.Link{Source: ref("knob", "rotation"), Targets: []scene.Ref{ref(third, key)}, Follow: true}, 0)
	}
	b.do(&wiring.Link{Source: ref("knob", "position"), Targets: []scene.Ref{ref(third, "position")}}, 0)
	if b.number(third, "rotation", 0) != 30 || b.number(third, "opacity", 0) != 30 || b.number(third, "position", 0) != before {
		t.Errorf("the third copy is turned by %v, shows at %v %% and stands at %v", b.number(third, "rotation", 0), b.number(third, "opacity", 0), b.number(third, "position", 0))
	}
	for _, bad := range []scene.Ref{ref("beads~1", "position"), ref(third, "copyStand"), ref(beads.ID+"~9999", "opacity"), ref(third, "font")} {
		if _, err := b.try(&wiring.Link{Source: ref("knob", "rotation"), Targets: []scene.Ref{bad}}, 0); err == nil {
			t.Errorf("%v is driven", bad)
		}
	}
	b.sound()
}

// A control inside of copies stays one when they are broken up, and all of them go on following it; none is made inside of copies.
func TestAControlInsideOfCopiesStaysOne(t *testing.T) {
	leaf, dot := item("leaf", scene.Star, 20, 0, 100), item("dot", scene.Ellipse, 0, 0, 100)
	leaf.Controls = []*scene.Control{{ID: "big", Name: "Big", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(31)}, {ID: "tilt", Name: "Tilt", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(7)}}
	leaf.Edit("tilt").Links = []*scene.Link{{ID: "l1", Kind: scene.Follow, Source: ref("leaf", "big"), Gain: 0.5}}
	dot.Edit("rotation").Links = []*scene.Link{{ID: "l2", Kind: scene.Follow, Source: ref("leaf", "tilt"), Gain: 2}}
	leaf.Edit("rotation").Links = []*scene.Link{{ID: "l3", Kind: scene.Formula, Gain: 1, Formula: "{@leaf:@big} * 3 + {self:@tilt}"}}
	leaf.Parent = "many"
	b := newBench(t, dot, leaf, item("many", scene.CopiesItem, 0, 0, 100))
	b.c.Item("many").Edit("copiesNumber").Own = scene.Num(3)
	if err := b.p.Check(); err != nil {
		t.Fatal(err)
	}
	was, of := b.number("leaf", "rotation", 0), b.number("dot", "rotation", 0)
	r := b.do(&copies.BreakUp{Item: "many"}, 0)
	many := b.c.Item("many")
	if len(many.Controls) != 2 || many.Kind != scene.Null || !strings.Contains(r.Note, "one for all") {
		t.Fatalf("many is %s with %d controls: %s", many.Kind, len(many.Controls), r.Note)
	}
	check := func(rotation, other float64) {
		t.Helper()
		stars := 0
		for _, i := range b.c.Items {
			if i.Kind == scene.Star {
				stars++
				if got := b.number(i.ID, "rotation", 0); len(i.Controls) > 0 || got != rotation {
					t.Errorf("%s has %d controls and is turned by %v, not %v", i.Name, len(i.Controls), got, rotation)
				}
			}
		}
		if got := b.number("dot", "rotation", 0); stars != 3 || got != other {
			t.Errorf("of %d leaves, what follows outside is turned by %v, not %v", stars, got, other)
		}
	}
	check(was, of)
	many.Edit("big").Own = scene.Num(50)
	check(175, 50)
	b.sound()
	inside := b.c.Item(b.do(&copies.Group{Items: []scene.ID{"dot"}, Kind: scene.CopiesItem}, 0).Made[0])
	for _, g := range []gesture.Gesture{
		&wiring.AddControl{Item: "dot", Control: scene.Control{Kind: scene.Fader}}, &wiring.MoveControl{Item: "many", Control: "tilt", Onto: "dot", At: -1},
		&wiring.CopyControl{Item: "many", Control: "tilt", Onto: "dot"}, &wiring.Gather{Refs: []scene.Ref{ref(many.ID, "opacity")}, Onto: "dot"},
	} {
		if _, err := b.try(g, 0); err == nil || !strings.Contains(err.Error(), "put it on "+inside.Name) {
			t.Errorf("%T puts a control inside of copies: %v", g, err)
		}
	}
	b.do(&wiring.AddControl{Item: inside.ID, Control: scene.Control{Kind: scene.Fader}}, 0)
}

// A control that drives nothing yet takes over what a copy has, and the copies go on as they were.
func TestAControlTakesOverWhatCopiesHave(t *testing.T) {
	panel := item("panel", scene.Null, 0, 0, 100)
	panel.Controls = []*scene.Control{{ID: "dim", Name: "Dim", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(7)}}
	b := newBench(t, panel, item("dot", scene.Star, 0, 0, 100))
	many := b.c.Item(b.do(&copies.Group{Items: []scene.ID{"dot"}, Kind: scene.CopiesItem}, 0).Made[0])
	b.do(&wiring.Link{Source: ref("panel", "dim"), Targets: []scene.Ref{ref(many.FirstLane(), "opacity")}}, 0)
	if s := b.c.RosterLinks[0]; s.Link.Kind != scene.Follow || b.number(many.Lanes()[2].ID, "opacity", 0) != 100 || b.number("panel", "dim", 0) != 100 {
		t.Errorf("a %s link; the third copy shows at %v %%, the fader is at %v", s.Link.Kind, b.number(many.Lanes()[2].ID, "opacity", 0), b.number("panel", "dim", 0))
	}
}
