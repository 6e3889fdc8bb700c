package gesture_test

import (
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/handoffs"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/scene"
)

// rig is a bench with a null of three controls, one of which is driven by another.
func rig(t *testing.T) *bench {
	knob := &scene.Item{ID: "knob", Name: "Knob", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "glow", Name: "Glow", Kind: scene.Fader, SoftMax: 80, Default: scene.Num(23), Note: "How bright"},
		{ID: "word", Name: "Word", Kind: scene.TextWidget, Default: scene.Txt("Quay")},
		{ID: "led", Name: "Led", Kind: scene.Fader, SoftMax: 10, Default: scene.Num(1)},
	}, States: map[string]*scene.State{"led": {Links: []*scene.Link{{ID: "l", Kind: scene.Follow, Gain: 0.1, Source: scene.Ref{Item: "knob", Property: "glow"}}}}}}
	return newBench(t, knob, &scene.Item{ID: "post", Name: "Post", Kind: scene.Rectangle})
}

func offers(c *scene.Composition) string {
	var out []string
	for _, h := range c.Handed() {
		out = append(out, fmt.Sprintf("%s/%s", h.Offer.Heading, h.Name))
	}
	return strings.Join(out, " ")
}

func TestHandingOff(t *testing.T) {
	b := rig(t)
	b.do(&handoffs.HandOff{Controls: []scene.Ref{{Item: "knob", Property: "word"}, {Item: "knob", Property: "glow"}}}, 0)
	if got := offers(b.c); got != "Knob/Word /Glow" {
		t.Errorf("handed off: %q", got)
	}
	if r := b.do(&handoffs.HandOff{Controls: []scene.Ref{{Item: "knob", Property: "glow"}}}, 0); len(r.Ops) > 0 || r.Note == "" {
		t.Error("one that is handed off already was handed off again")
	}
	for says, g := range map[string]gesture.Gesture{
		"driven by Knob: Glow":    &handoffs.HandOff{Controls: []scene.Ref{{Item: "knob", Property: "led"}}},
		"is no control":           &handoffs.HandOff{Controls: []scene.Ref{{Item: "post", Property: "rotation"}}},
		"no controls to hand":     &handoffs.HandOff{Drawer: "post"},
		"not handed off any":      &handoffs.Withdraw{Offers: []scene.ID{"gone"}},
		"nothing is said":         &handoffs.SetOffer{},
		"the limits of Shine c":   &handoffs.SetOffer{Value: &scene.Offer{ID: b.c.HandOff.Offers[1].ID, Item: "knob", Control: "glow", Name: "Shine", Min: ptr(7.0), Max: ptr(3.0)}},
		"lies outside of its li":  &handoffs.SetOffer{Value: &scene.Offer{ID: b.c.HandOff.Offers[1].ID, Item: "knob", Control: "glow", Min: ptr(7.0), Default: scene.Num(3)}},
		"limited by how many le":  &handoffs.SetOffer{Value: &scene.Offer{ID: b.c.HandOff.Offers[0].ID, Item: "knob", Control: "word", Min: ptr(7.0)}},
		"may have 3 letters, and": &handoffs.SetOffer{Value: &scene.Offer{ID: b.c.HandOff.Offers[0].ID, Item: "knob", Control: "word", Max: ptr(3.0), Default: scene.Txt("Lanternfall")}},
	} {
		if _, err := b.try(g, 0); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %q", err, says)
		}
	}
	glow := b.c.HandOff.Offers[1].Clone()
	glow.Name, glow.Note, glow.Min, glow.Max, glow.NoPins = "Shine", "How bright", ptr(7.0), ptr(31.0), true
	first := 0
	b.do(&handoffs.SetOffer{Value: glow, At: &first}, 0)
	h := b.c.Handed()[0]
	if h.Name != "Shine" || h.Note != "How bright" || h.Offer.Note != "" || h.SoftMin != 7 || h.SoftMax != 31 || *h.Max != 31 || h.Default != scene.Num(23) || !h.Spec().NoPins {
		t.Errorf("it is handed off as %+v", h.Control)
	}
	b.do(&handoffs.Withdraw{Offers: []scene.ID{b.c.HandOff.Offers[1].ID}}, 0)
	if got := offers(b.c); got != "/Shine" {
		t.Errorf("left: %q", got)
	}
}

// A heading stays for those under it when the first of them is withdrawn.
func TestAHeadingOutlivesItsFirstControl(t *testing.T) {
	b := rig(t)
	b.do(&handoffs.HandOff{Controls: []scene.Ref{{Item: "knob", Property: "word"}, {Item: "knob", Property: "glow"}}}, 0)
	b.do(&handoffs.Withdraw{Offers: []scene.ID{b.c.HandOff.Offers[0].ID}}, 0)
	if got := offers(b.c); got != "Knob/Glow" {
		t.Errorf("left: %q", got)
	}
}

// inPiece is a bench that looks at a composition with a piece of the rig's.
func inPiece(t *testing.T) (b *bench, room *scene.Composition, piece scene.ID) {
	b = rig(t)
	b.do(&handoffs.HandOff{Controls: []scene.Ref{{Item: "knob", Property: "glow"}, {Item: "knob", Property: "word"}}}, 0)
	room = b.c
	if _, _, err := change.Apply(b.p, change.Ops{&change.CompositionAdd{Value: scene.NewComposition("quay", "Quay"), At: -1}}); err != nil {
		t.Fatal(err)
	}
	b.c = b.p.Composition("quay")
	return b, room, b.do(&items.Add{Kind: scene.Piece, Shows: room.ID}, 0).Made[0]
}

func TestWhatIsSetOfAPieceOutlivesItsControl(t *testing.T) {
	b, room, id := inPiece(t)
	glow := room.HandOff.Offers[0].ID
	piece := b.c.Item(id)
	if _, _, err := change.Apply(b.p, change.Ops{
		&change.OwnSet{Of: change.Of{On: change.On{In: change.In{Composition: "quay"}, Item: id}, Property: string(glow)}, Value: scene.Num(61)},
		&change.PinsPut{Of: change.Of{On: change.On{In: change.In{Composition: "quay"}, Item: id}, Property: string(glow)}, Pins: []scene.Pin{{Frame: 3, Value: scene.Num(9), Easing: curve.Linear}}},
	}); err != nil {
		t.Fatal(err)
	}
	shown := func() float64 {
		p := engine.New(b.c)
		p.Evaluate(3)
		return p.ValueOf(p.Layout.In(p.Layout.Showing(p.Layout.Index(id)), "knob"), "glow").At(0)
	}
	if got := shown(); got != 9 {
		t.Fatalf("the control shows %v", got)
	}
	back, _, err := change.Apply(b.p, change.Ops{&change.ControlRemove{On: change.On{In: change.In{Composition: room.ID}, Item: "knob"}, Control: "glow"}})
	if err != nil {
		t.Fatal(err)
	}
	if err := b.p.Check(); err != nil || len(piece.Stale()) != 1 || len(room.Lost()) != 1 || piece.Spec(string(glow)) != nil {
		t.Fatalf("the control is gone: %v kept, %d lost (%v)", piece.Stale(), len(room.Lost()), err)
	}
	if _, _, err := change.Apply(b.p, back); err != nil {
		t.Fatal(err)
	}
	if got := shown(); got != 9 || len(piece.Stale()) != 0 {
		t.Errorf("it came back, and shows %v", got)
	}
	b.do(&handoffs.Reset{Targets: []scene.Ref{{Item: id, Property: string(glow)}}}, 0)
	if got := shown(); got != 23 || len(piece.States) != 0 {
		t.Errorf("reset, it shows %v", got)
	}
}

// What a hand-off forbids is refused where it is set.
func TestAPieceHoldsWhatWasSaidOfItsControls(t *testing.T) {
	b, room, id := inPiece(t)
	glow, word := room.HandOff.Offers[0], room.HandOff.Offers[1]
	glow.NoPins, word.Max = true, ptr(6.0)
	room.Offered()
	c := b.context(4)
	for says, op := range map[string]change.Op{
		"can be set, but not pinned":          &change.PinsPut{Of: c.Of(id, string(glow.ID)), Pins: []scene.Pin{{Value: scene.Num(3)}}},
		"may have 6 letters, and this has 11": &change.OwnSet{Of: c.Of(id, string(word.ID)), Value: scene.Txt("Lanternfall")},
	} {
		if err := c.Allowed(change.Ops{op}); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %q", err, says)
		}
	}
	if err := c.Allowed(change.Ops{&change.OwnSet{Of: c.Of(id, string(word.ID)), Value: scene.Txt("Hafen")}}); err != nil {
		t.Error(err)
	}
	if _, err := b.try(&items.Add{Kind: scene.Piece, Shows: "quay"}, 0); err == nil || !strings.Contains(err.Error(), "Quay can't show itself") {
		t.Errorf("a piece of itself: %v", err)
	}
}

func ptr[T any](v T) *T { return &v }

// Broken up, a piece is its items: they have the same values and stand where it showed them, at any frame; what looked at the piece looks at
// their controls.
func TestAPieceBrokenUpIsItsItems(t *testing.T) {
	b, room, id := inPiece(t)
	glow := string(room.HandOff.Offers[0].ID)
	in := change.In{Composition: room.ID}
	follow := func(id, item scene.ID, key string) *scene.Link {
		return &scene.Link{ID: id, Kind: scene.Follow, Gain: 1, Source: scene.Ref{Item: item, Property: key}}
	}
	set := func(c change.In, item scene.ID, key string) change.Of {
		return change.Of{On: change.On{In: c, Item: item}, Property: key}
	}
	quay := change.In{Composition: "quay"}
	if _, _, err := change.Apply(b.p, change.Ops{
		&change.LinkAdd{Of: set(in, "post", "rotation"), Link: &scene.Link{ID: "turn", Kind: scene.Formula, Gain: 1, Formula: "{@knob:@glow} * 1.7 + delay({@knob:@glow}, 3f)"}},
		&change.OwnSet{Of: set(in, "post", "position"), Value: scene.Pt(31, -7, 0)},
		&change.PinsPut{Of: set(quay, id, glow), Pins: []scene.Pin{{Frame: 2, Value: scene.Num(9), Easing: curve.Linear}, {Frame: 40, Value: scene.Num(71), Easing: curve.Linear}}},
		&change.OwnSet{Of: set(quay, id, "position"), Value: scene.Pt(120, 45, 0)},
		&change.OwnSet{Of: set(quay, id, "rotation"), Value: scene.Num(23)},
		&change.ItemAdd{In: quay, Value: &scene.Item{ID: "hand", Name: "Hand", Kind: scene.Rectangle, Parent: id}, At: 0},
		&change.LinkAdd{Of: set(quay, "hand", "rotation"), Link: follow("looks", id, glow)},
		&change.LinkAdd{Of: set(quay, "hand", "opacity"), Link: &scene.Link{ID: "reads", Kind: scene.Formula, Gain: 1, Formula: "{@" + string(id) + ":@" + glow + "} + 3"}},
	}); err != nil {
		t.Fatal(err)
	}
	type look struct {
		turn, hand, reads scene.Value
		at                [12]float64
	}
	frames := []float64{33, 4, 17}
	var before []look
	p := engine.New(b.c)
	for _, f := range frames {
		p.Evaluate(f)
		i := p.Layout.In(p.Layout.Showing(p.Layout.Index(id)), "post")
		before = append(before, look{p.ValueOf(i, "rotation"), p.Value(scene.Ref{Item: "hand", Property: "rotation"}), p.Value(scene.Ref{Item: "hand", Property: "opacity"}), p.World(i)})
	}
	r := b.do(&copies.BreakUp{Item: id}, 0)
	if err := b.p.Check(); err != nil || r.Note != "" {
		t.Fatal(err, r.Note, r.Details)
	}
	p = engine.New(b.c)
	for k, f := range frames {
		p.Evaluate(f)
		i := p.Layout.Index(b.c.Named("Post")[0].ID)
		now := look{p.ValueOf(i, "rotation"), p.Value(scene.Ref{Item: "hand", Property: "rotation"}), p.Value(scene.Ref{Item: "hand", Property: "opacity"}), p.World(i)}
		if now != before[k] {
			t.Errorf("at %v it is\n%v, it was\n%v", f, now, before[k])
		}
	}
	if b.c.Item(id).Kind != scene.Null || b.c.Item("hand").Parent != id {
		t.Errorf("the piece is %s, and what hung on it hangs on %s", b.c.Item(id).Kind, b.c.Item("hand").Parent)
	}
}

func TestWhatCantBeBrokenUp(t *testing.T) {
	b, _, id := inPiece(t)
	b.c.Item(id).Edit(scene.PieceStart).Own = scene.Num(0.3)
	if _, err := b.try(&copies.BreakUp{Item: id}, 0); err == nil || !strings.Contains(err.Error(), "a time of its own") {
		t.Errorf("a piece with a time of its own: %v", err)
	}
	delete(b.c.Item(id).States, scene.PieceStart)
	b.c.Item(id).Edit("opacity").Own = scene.Num(31)
	if r := b.do(&copies.BreakUp{Item: id}, 0); len(r.Details) != 1 || !strings.Contains(r.Details[0], "opacity") {
		t.Errorf("what was left: %v", r.Details)
	}
}

// A set of controls is kept, and put onto other items: what is there by its name stays, what is called the same and is something else is not
// touched.
func TestASetOfControls(t *testing.T) {
	b := rig(t)
	kept := b.do(&handoffs.KeepSet{Item: "knob"}, 0).Made[0]
	set, _ := b.p.Set(kept)
	if set.Name != "Knob" || len(set.Controls) != 3 {
		t.Fatalf("%s has %d controls", set.Name, len(set.Controls))
	}
	b.c.Item("post").Controls = []*scene.Control{
		{ID: "own1", Name: "glow", Kind: scene.Fader, SoftMax: 9, Default: scene.Num(2)}, {ID: "own2", Name: "Word", Kind: scene.SwitchWidget, Default: scene.On(true)},
	}
	c := b.context(0)
	c.Sets = b.p.Sets
	r, err := (&handoffs.PutSet{Set: kept, Items: []scene.ID{"post"}}).Do(c)
	if err != nil {
		t.Fatal(err)
	}
	if _, _, err := change.Apply(b.p, r.Ops); err != nil {
		t.Fatal(err)
	}
	var names []string
	for _, control := range b.c.Item("post").Controls {
		names = append(names, control.Name)
	}
	if got := strings.Join(names, ", "); got != "glow, Word, Word 2, Led" || len(r.Details) != 1 || !strings.Contains(r.Note, "there already: Glow") {
		t.Errorf("%s; %s %v", got, r.Note, r.Details)
	}
	if state := b.c.Item("post").State(string(r.Made[1])); len(state.Links) != 0 {
		t.Error("what drove a control came along")
	}
	c = b.context(0)
	c.Sets = b.p.Sets
	if r, err := (&handoffs.PutSet{Set: kept, Items: []scene.ID{"post"}}).Do(c); err != nil || len(r.Ops) > 1 {
		t.Errorf("put twice: %d operations, %v", len(r.Ops), err)
	}
	for says, g := range map[string]gesture.Gesture{
		"no longer there":    &handoffs.PutSet{Set: "gone", Items: []scene.ID{"post"}},
		"has no controls to": &handoffs.KeepSet{Item: "post"},
	} {
		if says == "has no controls to" {
			b.c.Item("post").Controls = nil
		}
		if _, err := g.Do(b.context(0)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %q", err, says)
		}
	}
}

// What a colleague decided becomes the composition's own, within the limits that it was handed off with.
func TestAReadingIsAppliedToItsComposition(t *testing.T) {
	b := rig(t)
	b.do(&handoffs.HandOff{Controls: []scene.Ref{{Item: "knob", Property: "glow"}, {Item: "knob", Property: "word"}}}, 0)
	glow := b.c.HandOff.Offers[0].Clone()
	glow.Max = ptr(31.0)
	b.do(&handoffs.SetOffer{Value: glow}, 0)
	word := string(b.c.HandOff.Offers[1].ID)
	b.c.Item("knob").Edit("word").Pins = []scene.Pin{{Frame: 3, Value: scene.Txt("Old"), Easing: curve.Hold}, {Frame: 9, Value: scene.Txt("Older"), Easing: curve.Hold}}
	b.p.Compositions = append(b.p.Compositions, b.c.NewReading("mara", "maras", "Mara"), b.c.NewReading("joris", "jorises", "Joris"))
	b.p.Join()
	theirs := b.p.Composition("mara").Read()
	theirs.Edit(string(glow.ID)).Own = scene.Num(57)
	theirs.Edit(word).Pins = []scene.Pin{{Frame: 9, Value: scene.Txt("Ahoy"), Easing: curve.Hold}, {Frame: 17, Value: scene.Txt("Adieu"), Easing: curve.Hold}}
	theirs.Edit("gone").Own = scene.Num(3)
	r := b.do(&handoffs.ApplyReading{Reading: "mara"}, 0)
	knob := b.c.Item("knob")
	if r.Note != "Set as in Mara: 2 controls" || knob.State("glow").Own != scene.Num(31) {
		t.Errorf("%q, the glow is %v", r.Note, knob.State("glow").Own)
	}
	pins := knob.State("word").Pins
	if len(pins) != 2 || pins[0].Frame != 9 || pins[0].Value != scene.Txt("Ahoy") || pins[1].Frame != 17 {
		t.Errorf("the word has %v", pins)
	}
	shown, read := engine.New(b.c), engine.New(b.p.Composition("mara"))
	shown.Evaluate(11)
	read.Evaluate(11)
	for key, own := range map[string]string{string(glow.ID): "glow", word: "word"} {
		if is, was := shown.Value(scene.Ref{Item: "knob", Property: own}), read.Value(scene.Ref{Item: "maras", Property: key}); is != was {
			t.Errorf("%s is %v, and %v in the reading", own, is, was)
		}
	}
	if theirs.State(string(glow.ID)).Own != scene.Num(57) {
		t.Error("the reading was changed")
	}
	for reading, says := range map[scene.ID]string{"joris": "nothing is set in Joris", "none": "there is no such reading", b.c.ID: "there is no such reading"} {
		if _, err := b.try(&handoffs.ApplyReading{Reading: reading}, 0); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %q", err, says)
		}
	}
}
