package gesture_test

import (
	"fmt"
	"math"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// elsewhere is another project, whose composition has the id that all first ones have, with some items.
func elsewhere(t *testing.T, items ...*scene.Item) *bench {
	b := newBench(t, items...)
	b.p.ID = "q"
	return b
}

// put pastes a clip, in a project that is known by its id.
func (b *bench) put(clip copies.Clip, slots map[scene.ID]scene.ID) gesture.Result {
	b.t.Helper()
	plan := engine.New(b.c)
	plan.Evaluate(0)
	c := &gesture.Context{Project: b.p.ID, Composition: b.c, Planned: plan, NewID: func() scene.ID { b.n++; return scene.ID(fmt.Sprint("new", b.n)) }}
	r, err := (&copies.Paste{Clip: clip, Slots: slots}).Do(c)
	if err != nil {
		b.t.Fatal(err)
	}
	b.do(&gesture.Operations{Ops: r.Ops}, 0)
	return r
}

// A trail that is copied is a trail where it is pasted: beside its model, in another composition, in another project; and it is
// one of its own.
func TestAPastedTrailTrails(t *testing.T) {
	model := trailOf(t, "{prev: position} + [31, 0, 0]")
	clip := copies.Take("p", model.c, []scene.ID{"i1", "i2", "i3", "i4"})
	for name, b := range map[string]*bench{"beside": trailOf(t, "{prev: position} + [31, 0, 0]"), "elsewhere": elsewhere(t)} {
		b.put(clip, nil)
		rows := b.c.RosterLinks
		last := rows[len(rows)-1]
		members := last.Members(b.c)
		if len(members) != 4 || last.ID == clip.Rows[0].ID {
			t.Fatalf("%s: the row has %d members", name, len(members))
		}
		first := b.x(members[0].Item.ID)
		if got := b.x(members[3].Item.ID); math.Abs(got-first-93) > 1e-9 {
			t.Errorf("%s: the last stands at %v, the first at %v", name, got, first)
		}
		members[0].Item.Edit("position").Own = scene.Pt(-71, 0, 0)
		if got := b.x(members[3].Item.ID); math.Abs(got-22) > 1e-9 {
			t.Errorf("%s: it does not follow: %v", name, got)
		}
		if name == "beside" && math.Abs(b.x("i4")-104) > 1e-9 {
			t.Errorf("the model moved to %v", b.x("i4"))
		}
	}
	// Some of a row are a row of these.
	b := elsewhere(t)
	r := b.put(copies.Take("p", model.c, []scene.ID{"i2", "i4"}), nil)
	if len(b.c.RosterLinks) != 1 || len(b.c.RosterLinks[0].Members(b.c)) != 2 || len(r.Made) != 2 {
		t.Errorf("of two of them there are %d rows", len(b.c.RosterLinks))
	}
}

// What a clip looks at outside is found by its name and kind, or is asked for, or is left out.
func TestWhatAClipLooksAtOutsideIsFoundByName(t *testing.T) {
	rig := func(id, control scene.ID, name string) *scene.Item {
		return &scene.Item{ID: id, Name: name, Kind: scene.Null, Controls: []*scene.Control{{ID: control, Name: "Amount", Kind: scene.Fader, SoftMax: 90, Default: scene.Num(13)}}}
	}
	from := newBench(t, rig("rig", "amount", "Weather"), item("box", scene.Rectangle, 5, 0, 100))
	from.do(&wiring.Link{Source: ref("rig", "amount"), Targets: []scene.Ref{ref("box", "rotation")}}, 0)
	clip := copies.Take("p", from.c, []scene.ID{"box"})
	rotation := func(b *bench, r gesture.Result) float64 {
		p := engine.New(b.c)
		p.Evaluate(0)
		return p.Value(ref(r.Made[0], "rotation")).At(0)
	}
	b := elsewhere(t, rig("other", "much", "weather"))
	b.c.Item("other").Edit("much").Own = scene.Num(47)
	if got := rotation(b, b.put(clip, nil)); got != 47 {
		t.Errorf("by its name: it turns by %v", got)
	}
	b = elsewhere(t, rig("other", "much", "Climate"))
	b.c.Item("other").Edit("much").Own = scene.Num(47)
	if asks := copies.Asks("q", b.c, &clip); len(asks) != 1 || asks[0].Name != "Weather" || asks[0].Item != "rig" {
		t.Errorf("asked is %+v", asks)
	}
	if asks := copies.Asks("p", from.c, &clip); len(asks) > 0 {
		t.Errorf("at home %+v is asked", asks)
	}
	if got := rotation(b, b.put(clip, map[scene.ID]scene.ID{"rig": "other"})); got != 47 {
		t.Errorf("chosen: it turns by %v", got)
	}
	r := b.put(clip, nil)
	if item := b.c.Item(r.Made[0]); len(item.State("rotation").Links) > 0 || r.Note == "" || len(r.Details) != 1 {
		t.Errorf("left out: %d links, note %q, %v", len(item.State("rotation").Links), r.Note, r.Details)
	}
}

// Copies are numbered in the order of their models, whatever lies in front; a name that is free is kept.
func TestCopiesAreNumberedInTheOrderOfTheirModels(t *testing.T) {
	b := newBench(t)
	made := b.do(&items.Add{Kind: scene.Ellipse, Name: "Dot", Count: 6}, 0).Made
	refs := make([]scene.Ref, len(made))
	for k, id := range made {
		refs[k] = ref(id, "position")
	}
	b.do(&wiring.Spread{Targets: refs, Text: "own + [0, index * 7, 0]"}, 0)
	five, six := b.c.Item(made[4]), b.c.Item(made[5])
	b.do(&copies.Duplicate{Items: []scene.ID{six.ID, five.ID}}, 0)
	members := b.c.RosterLinks[0].Members(b.c)
	for k, m := range members {
		if want := fmt.Sprint("Dot ", k+1); m.Item.Name != want {
			t.Errorf("member %d is called %s", k+1, m.Item.Name)
		}
	}
	from := newBench(t, item("f", scene.Rectangle, 0, 0, 100), item("g", scene.Rectangle, 0, 0, 100))
	from.c.Items[0].Name, from.c.Items[1].Name = "Flag 2", "Flag"
	to := elsewhere(t)
	r := to.put(copies.Take("p", from.c, []scene.ID{"f", "g"}), nil)
	if a, b := to.c.Item(r.Made[0]).Name, to.c.Item(r.Made[1]).Name; a != "Flag 2" || b != "Flag" {
		t.Errorf("they are called %s and %s", a, b)
	}
}
