package gesture_test

import (
	"encoding/json"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/handoffs"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/recipes"
	"wunderkammer/core/scene"
)

// quay is a project with a composition that shows two pieces of a lamp, which has a reading; with a recipe, and a set of controls.
func quay(t *testing.T) *bench {
	b := rig(t)
	b.p.Name = "Quay"
	b.do(&handoffs.HandOff{Controls: []scene.Ref{{Item: "knob", Property: "glow"}}}, 0)
	lamp := b.c
	lamp.Name = "Lamp"
	b.p.Compositions = append(b.p.Compositions, lamp.NewReading("mara", "maras", "Mara"))
	b.p.Join()
	b.p.Composition("mara").Items[0].Edit(string(lamp.HandOff.Offers[0].ID)).Own = scene.Num(57)
	night := scene.NewComposition("night", "Night")
	b.p.Compositions = append(b.p.Compositions, night)
	b.p.Join()
	b.do(&handoffs.KeepSet{Item: "knob"}, 0)
	b.do(&recipes.SaveRecipe{Items: []scene.ID{"knob"}, Name: "Knobs"}, 0)
	b.c = night
	for k := range 2 {
		b.do(&items.Add{Kind: scene.Piece, Shows: lamp.ID}, 0)
		night.Items[0].Edit(string(lamp.HandOff.Offers[0].ID)).Own = scene.Num(float64(11 + 30*k))
	}
	return b
}

// bring brings a part of a project into one, and returns what came of it.
func (b *bench) bring(part scene.Part, p *scene.Project) gesture.Result {
	b.t.Helper()
	c := b.context(0)
	c.Sets, c.Recipes = b.p.Sets, b.p.Recipes
	r, err := (&handoffs.BringProject{Value: p, Part: part}).Do(c)
	if err != nil {
		b.t.Fatal(err)
	}
	b.do(&gesture.Operations{Ops: r.Ops}, 0)
	if err := b.p.Check(); err != nil {
		b.t.Fatal(err)
	}
	return r
}

func parted(t *testing.T, p *scene.Project, part scene.Part, of scene.ID) *scene.Project {
	t.Helper()
	out, err := p.Parted(part, of)
	if err != nil {
		t.Fatal(err)
	}
	if err := out.Check(); err != nil {
		t.Fatal(err)
	}
	return out
}

func names(p *scene.Project) string {
	var out []string
	for _, c := range p.Compositions {
		out = append(out, c.Name)
	}
	return strings.Join(out, ", ")
}

func TestAPieceIsBroughtIntoAnotherProjectWithWhatItShows(t *testing.T) {
	from, to := quay(t), newBench(t)
	night := parted(t, from.p, scene.CompositionPart, "night")
	if names(night) != "Night, Lamp" || night.Name != "Night" {
		t.Fatalf("%s holds %s", night.Name, names(night))
	}
	if r := to.bring(scene.CompositionPart, night); r.Note != "Brought in: Night, Lamp" || len(r.Details) > 0 {
		t.Errorf("%q %q", r.Note, r.Details)
	}
	if names(to.p) != "Composition 1, Night, Lamp" {
		t.Errorf("there are %s", names(to.p))
	}
	// Once more, it stands beside itself.
	r := to.bring(scene.CompositionPart, night)
	if names(to.p) != "Composition 1, Night, Lamp, Night 2, Lamp 2" || len(r.Details) != 2 || !strings.Contains(r.Details[0], "Night is called Night 2 here") {
		t.Errorf("there are %s; %q", names(to.p), r.Details)
	}
	// Its values are those that it had, and it shows its own lamp.
	for _, k := range []int{1, 3} {
		made := to.p.Compositions[k]
		was, is := engine.New(from.c), engine.New(made)
		was.Evaluate(3)
		is.Evaluate(3)
		if made.Items[0].Stage() != to.p.Compositions[k+1] {
			t.Errorf("%s shows %s", made.Name, made.Items[0].Stage().Name)
		}
		for i := range from.c.Items {
			before := was.ValueOf(int32(i), string(from.p.Compositions[0].HandOff.Offers[0].ID))
			after := is.ValueOf(int32(i), string(to.p.Compositions[k+1].HandOff.Offers[0].ID))
			if before != after || before.Absent() {
				t.Errorf("piece %d: %v, and was %v", i, after, before)
			}
		}
	}
}

func TestAHandOffIsSavedWithItsReadingsAndAPieceWithout(t *testing.T) {
	from, to := quay(t), newBench(t)
	lamp := from.p.Compositions[0].ID
	if got := names(parted(t, from.p, scene.CompositionPart, lamp)); got != "Lamp" {
		t.Errorf("a piece is saved with %s", got)
	}
	r := to.bring(scene.HandOffPart, parted(t, from.p, scene.HandOffPart, lamp))
	if names(to.p) != "Composition 1, Lamp, Mara" || r.Note != "Brought in: Lamp" {
		t.Errorf("there are %s; %q", names(to.p), r.Note)
	}
	reading := to.p.Compositions[2]
	if own := reading.Read().State(string(to.p.Compositions[1].HandOff.Offers[0].ID)).Own; reading.Reading != to.p.Compositions[1].ID || own != scene.Num(57) {
		t.Errorf("the reading is of %s, at %v", reading.Reading, own)
	}
}

func TestRecipesAndSetsAreNotKeptTwice(t *testing.T) {
	from, to := quay(t), newBench(t)
	set := parted(t, from.p, scene.SetPart, from.p.Sets[0].ID)
	to.bring(scene.SetPart, set)
	if len(to.p.Sets) != 1 || len(to.p.Compositions) != 1 {
		t.Fatalf("%d sets, %s", len(to.p.Sets), names(to.p))
	}
	if r := to.bring(scene.SetPart, set); len(to.p.Sets) != 1 || r.Note != "All of it is here already" || r.Details[0] != "the set of controls Knob is here already" {
		t.Errorf("%d sets; %q %q", len(to.p.Sets), r.Note, r.Details)
	}
	set.Sets[0].Controls[0].Name = "Shine"
	if r := to.bring(scene.SetPart, set); len(to.p.Sets) != 2 || to.p.Sets[1].Name != "Knob 2" || r.Details[0] != "the set of controls Knob is called Knob 2 here" {
		t.Errorf("%d sets; %q", len(to.p.Sets), r.Details)
	}
	to.bring(scene.RecipePart, parted(t, from.p, scene.RecipePart, from.p.Recipes[0].ID))
	to.c = to.p.Compositions[0]
	made, err := (&recipes.MakeRecipe{Recipe: string(to.p.Recipes[0].ID)}).Do(func() *gesture.Context { c := to.context(0); c.Recipes = to.p.Recipes; return c }())
	if err != nil || len(made.Made) != 1 {
		t.Errorf("the recipe makes %d items (%v)", len(made.Made), err)
	}
	// All of a project at once.
	all := newBench(t)
	if r := all.bring(scene.Whole, from.p); r.Note != "Brought in: Lamp, Night, Knobs and 1 more" || len(all.p.Recipes)+len(all.p.Sets) != 2 {
		t.Errorf("%q", r.Note)
	}
	for says, g := range map[string]gesture.Gesture{
		"holds no project": &handoffs.BringProject{},
		"can’t be brought": &handoffs.BringProject{Value: &scene.Project{}},
	} {
		if _, err := all.try(g, 0); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %q", err, says)
		}
	}
	if _, err := from.p.Parted("kite", "x"); err == nil || !strings.Contains(err.Error(), `"kite" is no part`) {
		t.Error(err)
	}
}

// A rig with a piece in it is kept with what the piece hands off, as a server reads it, which has the composition elsewhere; it brings
// that composition along.
func TestARecipeHoldsAPieceAndBringsWhatItShows(t *testing.T) {
	from, to := quay(t), newBench(t)
	glow := func(c *scene.Composition) string { return string(c.HandOff.Offers[0].ID) }
	lamp := from.p.Compositions[0]
	piece := from.c.Items[0]
	kept, err := (&recipes.SaveRecipe{Items: []scene.ID{piece.ID}, Name: "Lantern", Fields: []scene.SavedField{{Ref: scene.Ref{Item: piece.ID, Property: glow(lamp)}, Name: "Glow"}}}).Do(from.context(0))
	if err != nil {
		t.Fatal(err)
	}
	text, err := json.Marshal(kept.Ops)
	if err != nil {
		t.Fatal(err)
	}
	var read change.Ops
	if err := json.Unmarshal(text, &read); err != nil {
		t.Fatal(err)
	}
	from.do(&gesture.Operations{Ops: read}, 0)
	lantern := from.p.Recipes[len(from.p.Recipes)-1]
	if err := from.p.Check(); err != nil || len(lantern.Fields) != 1 {
		t.Fatalf("%v, %d fields", err, len(lantern.Fields))
	}
	for k, name := range []string{"Composition 1, Lamp", "Composition 1, Lamp, Lamp 2"} { // there are two of them, if it is brought twice
		to.bring(scene.RecipePart, parted(t, from.p, scene.RecipePart, lantern.ID))
		if names(to.p) != name {
			t.Errorf("there are %s", names(to.p))
		}
		of, shows := to.p.Recipes[k], to.p.Compositions[k+1]
		to.c = to.p.Compositions[0]
		with := func() *gesture.Context { c := to.context(0); c.Recipes = to.p.Recipes; return c }
		made, err := (&recipes.MakeRecipe{Recipe: string(of.ID), Values: map[string]float64{"f0": 73}}).Do(with())
		if err != nil {
			t.Fatal(err)
		}
		to.do(&gesture.Operations{Ops: made.Ops}, 0)
		if put := to.c.Item(made.Made[0]); put.Stage() != shows || to.value(put.ID, glow(shows)) != scene.Num(73) {
			t.Errorf("it shows %v, with %v", put.Stage().Name, to.value(put.ID, glow(shows)))
		}
		// What is not handed off any more can't be asked for.
		offers := shows.HandOff.Offers
		shows.HandOff.Offers = nil
		to.p.Join()
		if _, err := (&recipes.MakeRecipe{Recipe: string(of.ID), Values: map[string]float64{"f0": 73}}).Do(with()); err == nil || !strings.Contains(err.Error(), "Glow of Lamp 2 is no longer handed off") {
			t.Errorf("%v", err)
		}
		shows.HandOff.Offers = offers
		to.p.Join()
	}
}
