package gesture_test

import (
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/looks"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/scene"
)

// lamps are a null with a fader, a colour, a choice, and a fader that the first drives; and another null with a fader.
func lamps(t *testing.T) *bench {
	knob := &scene.Item{ID: "knob", Name: "Light", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "glow", Name: "Glow", Kind: scene.Fader, SoftMax: 80, Default: scene.Num(23)},
		{ID: "hue", Name: "Tint", Kind: scene.ColourWidget, Default: scene.RGBA(0.2, 0.4, 0.7, 1)},
		{ID: "flag", Name: "Flag", Kind: scene.ChoiceWidget, Options: []string{"red", "green", "blue"}, Default: scene.Num(0)},
		{ID: "led", Name: "Led", Kind: scene.Fader, SoftMax: 10, Default: scene.Num(1)},
	}, States: map[string]*scene.State{"led": {Links: []*scene.Link{{ID: "l", Kind: scene.Follow, Gain: 0.1, Source: scene.Ref{Item: "knob", Property: "glow"}}}}}}
	wind := &scene.Item{ID: "wind", Name: "Weather", Kind: scene.Null, Controls: []*scene.Control{{ID: "gust", Name: "Gust", Kind: scene.Fader, SoftMax: 40, Default: scene.Num(11)}}}
	return newBench(t, knob, wind, &scene.Item{ID: "post", Name: "Post", Kind: scene.Rectangle})
}

// stand sets the controls of the lamps.
func (b *bench) stand(glow float64, tint scene.Value, flag float64) {
	for key, v := range map[string]scene.Value{"glow": scene.Num(glow), "hue": tint, "flag": scene.Num(flag)} {
		b.hand(key, v)
	}
}

// hand sets a control of the lamps as a session does.
func (b *bench) hand(key string, v scene.Value) {
	b.t.Helper()
	c := b.context(0)
	r, err := (&pins.Set{Targets: []scene.Ref{{Item: "knob", Property: key}}, Value: v}).Do(c)
	if err == nil {
		r, err = poses.IntoStop(c, r, nil)
	}
	if err != nil {
		b.t.Fatal(err)
	}
	b.do(&gesture.Operations{Ops: r.Ops}, 0)
}

// lit writes what the lamps show at a frame.
func (b *bench) lit(frame int) string {
	p := engine.New(b.c)
	p.Evaluate(float64(frame))
	out := ""
	for _, key := range []string{"glow", "hue", "flag", "led"} {
		v := p.Value(scene.Ref{Item: "knob", Property: key})
		for k := range v.Len() {
			out += fmt.Sprintf("%.4g ", v.At(k))
		}
	}
	return strings.TrimSpace(out)
}

// apply makes operations, and returns those that take them back.
func (b *bench) apply(t *testing.T, ops ...change.Op) change.Ops {
	t.Helper()
	back, _, err := change.Apply(b.p, ops)
	if err != nil {
		t.Fatal(err)
	}
	return back
}

// value is what a property shows at frame 0.
func (b *bench) value(item scene.ID, key string) scene.Value {
	p := engine.New(b.c)
	p.Evaluate(0)
	return p.Value(scene.Ref{Item: item, Property: key})
}

func TestLooksAreKeptAndAppliedAsAHandWould(t *testing.T) {
	b := lamps(t)
	b.stand(17, scene.RGBA(0.9, 0.1, 0.3, 1), 2)
	r := b.do(&looks.KeepLook{Of: "knob"}, 0)
	first := b.c.Looks[0]
	if first.Name != "Look 1" || len(first.Values) != 3 || r.Note != "Look 1 keeps 3 values" {
		t.Errorf("what a link drives is no part of a look: %+v, %q", first, r.Note)
	}
	b.stand(61, scene.RGBA(0.2, 0.8, 0.3, 1), 1)
	b.do(&looks.KeepLook{Of: "knob", Name: "Dusk"}, 0)
	b.do(&looks.ApplyLook{Look: first.ID}, 0)
	if got := b.lit(0); got != "17 0.9 0.1 0.3 1 2 1.7" {
		t.Errorf("the first look gives %s", got)
	}
	if r := b.do(&looks.ApplyLook{Look: first.ID}, 0); len(r.Ops) > 0 || r.Note != "Look 1 is what is shown" {
		t.Errorf("applied twice: %d operations, %q", len(r.Ops), r.Note)
	}
	b.do(&looks.StepLook{Of: "knob", By: 1}, 0)
	if got := b.lit(0); got != "61 0.2 0.8 0.3 1 1 6.1" {
		t.Errorf("the next look gives %s", got)
	}
	b.do(&looks.StepLook{Of: "knob", By: 1}, 0)
	if got := b.lit(0); got != "17 0.9 0.1 0.3 1 2 1.7" {
		t.Errorf("the look after the last is not the first, but %s", got)
	}
	// What has pins gets one at the playhead.
	b.do(&pins.Pin{Targets: []scene.Ref{{Item: "knob", Property: "glow"}}}, 3)
	b.do(&looks.ApplyLook{Look: b.c.Looks[1].ID}, 13)
	if got := len(b.c.Item("knob").States["glow"].Pins); got != 2 || b.lit(13) != "61 0.2 0.8 0.3 1 1 6.1" || !strings.HasPrefix(b.lit(3), "17 ") {
		t.Errorf("%d pins; %s, %s", got, b.lit(3), b.lit(13))
	}
	// A look can be given what is shown now.
	b.stand(5, scene.RGBA(0.2, 0.8, 0.3, 1), 1)
	b.do(&looks.KeepLook{Look: first.ID, Name: "not this"}, 0)
	if l := b.c.Looks[0]; l.ID != first.ID || l.Name != "Look 1" || l.Of != "knob" || l.Values[0].Value != scene.Num(5) {
		t.Errorf("kept anew: %+v", l)
	}
}

func TestALookLosesNothingThatIsGone(t *testing.T) {
	b := lamps(t)
	b.do(&looks.KeepLook{}, 0)
	look := b.c.Looks[0]
	if len(look.Values) != 4 {
		t.Fatalf("a look of all drawers keeps %d values", len(look.Values))
	}
	b.stand(61, scene.RGBA(0.2, 0.8, 0.3, 1), 1)
	back := b.apply(t, &change.ControlRemove{On: change.On{In: change.In{Composition: b.c.ID}, Item: "knob"}, Control: "glow"})
	if r := b.do(&looks.ApplyLook{Look: look.ID}, 0); !strings.Contains(r.Note, "1 control that it keeps a value of") {
		t.Errorf("a control is gone: %q", r.Note)
	}
	if got := b.value("knob", "flag"); got.At(0) != 0 {
		t.Errorf("the others are not set: %v", got)
	}
	b.apply(t, back...)
	b.do(&looks.ApplyLook{Look: look.ID}, 0)
	if got := b.value("knob", "glow"); got.At(0) != 23 {
		t.Errorf("what came back is not set: %v", got)
	}
	for says, g := range map[string]gesture.Gesture{
		"no longer there":        &looks.ApplyLook{Look: "gone"},
		"has no controls yet":    &looks.KeepLook{Of: "post"},
		"no looks yet":           &looks.StepLook{Of: "knob", By: 1},
		"keep two looks at":      &looks.MixLooks{Looks: []scene.ID{look.ID}},
		"is to be mixed with i":  &looks.MixLooks{Looks: []scene.ID{look.ID, look.ID}},
		"may have been removed ": &looks.MixLooks{Looks: []scene.ID{look.ID}, On: "gone"},
	} {
		if _, err := b.try(g, 0); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %q", err, says)
		}
	}
	b.do(&looks.KeepLook{Name: "Same"}, 0)
	if _, err := b.try(&looks.MixLooks{Looks: []scene.ID{look.ID, b.c.Looks[1].ID}}, 0); err == nil || !strings.Contains(err.Error(), "don’t differ") {
		t.Errorf("two looks that are the same: %v", err)
	}
}

func TestAFaderMixesLooks(t *testing.T) {
	b := lamps(t)
	var kept []scene.ID
	for k, glow := range []float64{12, 40, 76} {
		b.stand(glow, scene.RGBA(0.1*float64(k+1), 0.4, 0.6, 1), float64(k))
		b.do(&looks.KeepLook{Of: "knob"}, 0)
		kept = append(kept, b.c.Looks[k].ID)
	}
	r := b.do(&looks.MixLooks{Looks: kept, On: "knob"}, 0)
	control := b.c.Item("knob").Controls[0]
	if control.Name != "Look" || len(control.Poses) != 3 || r.Note != "Look mixes 3 looks: it drives 3 controls" {
		t.Fatalf("%+v, %q", control, r.Note)
	}
	if got := b.lit(0); got != "76 0.3 0.4 0.6 1 2 7.6" {
		t.Errorf("the picture became another: %s", got)
	}
	at := func(x float64, want string) {
		t.Helper()
		b.hand(string(control.ID), scene.Num(x))
		if got := b.lit(0); got != want {
			t.Errorf("at %g: %s, want %s", x, got, want)
		}
	}
	at(0, "12 0.1 0.4 0.6 1 0 1.2")
	at(12.5, "19 0.125 0.4 0.6 1 0 1.9") // a quarter of the way to the next; a choice holds
	at(50, "40 0.2 0.4 0.6 1 1 4")
	// Applied, a look brings the fader to its stop.
	b.do(&looks.ApplyLook{Look: kept[2]}, 0)
	if got := b.value("knob", string(control.ID)); got.At(0) != 100 {
		t.Errorf("the fader stands at %v", got)
	}
	// What is set where the fader stands at a stop belongs to it; kept, the look is that, too.
	b.hand("glow", scene.Num(71))
	b.do(&looks.ApplyLook{Look: kept[0]}, 0)
	b.stand(13, scene.RGBA(0.7, 0.4, 0.6, 1), 0)
	b.do(&looks.KeepLook{Look: kept[0]}, 0)
	b.do(&looks.ApplyLook{Look: kept[1]}, 0)
	b.do(&looks.ApplyLook{Look: kept[0]}, 0)
	if got := b.lit(0); got != "13 0.7 0.4 0.6 1 0 1.3" {
		t.Errorf("the look that was kept anew is %s", got)
	}
	b.do(&looks.NameLook{Look: kept[1], Name: "Noon"}, 0)
	if got := b.c.Item("knob").Controls[0].Poses[1].Name; got != "Noon" || b.c.Looks[1].Name != "Noon" {
		t.Errorf("renamed, the look is %s, and its stop %s", b.c.Looks[1].Name, got)
	}
	// One more, behind the others.
	b.hand(string(control.ID), scene.Num(25))
	b.do(&looks.KeepLook{Of: "knob", Name: "Between"}, 0)
	between := b.c.Looks[3].ID
	b.do(&looks.MixLooks{Looks: []scene.ID{between}, On: "knob"}, 0)
	if stops := b.c.Item("knob").Controls[0].Poses; len(stops) != 4 || stops[3].At != 150 || stops[3].Name != "Between" {
		t.Fatalf("%+v", stops)
	}
	b.do(&looks.ApplyLook{Look: between}, 0)
	if got := b.lit(0); got != "26.5 0.45 0.4 0.6 1 0 2.65" {
		t.Errorf("the look between is %s", got)
	}
	// The other stops stay as they are.
	b.do(&looks.ApplyLook{Look: kept[1]}, 0)
	if got := b.lit(0); got != "40 0.2 0.4 0.6 1 1 4" {
		t.Errorf("the second look is %s", got)
	}
}

func TestWhatLinksDriveStaysOutOfALook(t *testing.T) {
	b := lamps(t)
	b.do(&looks.KeepLook{Of: "knob"}, 0)
	b.stand(61, scene.RGBA(0.2, 0.8, 0.3, 1), 1)
	b.do(&looks.KeepLook{Of: "knob"}, 0)
	b.apply(t, &change.LinkAdd{Of: change.Of{On: change.On{In: change.In{Composition: b.c.ID}, Item: "knob"}, Property: "glow"}, At: -1,
		Link: &scene.Link{ID: "gale", Kind: scene.Follow, Gain: 1, Source: scene.Ref{Item: "wind", Property: "gust"}}})
	first := b.c.Looks[0].ID
	if r := b.do(&looks.ApplyLook{Look: first}, 0); r.Note != "Look 1: links drive Light: Glow, which stays as it is" {
		t.Errorf("%q", r.Note)
	}
	r := b.do(&looks.MixLooks{Looks: []scene.ID{first, b.c.Looks[1].ID}}, 0)
	if len(r.Details) != 1 || r.Details[0] != "links drive 1 control, so it is not mixed" {
		t.Errorf("%q", r.Details)
	}
	made := b.c.Items[0]
	if made.Name != "Looks" || made.Kind != scene.Null || b.value("knob", "glow").At(0) != 11 {
		t.Errorf("%s, %v", made.Name, b.value("knob", "glow"))
	}
	// With a pin, the mix is what shows, and the pins come back without it.
	b = lamps(t)
	b.do(&looks.KeepLook{Of: "knob"}, 0)
	b.stand(61, scene.RGBA(0.2, 0.8, 0.3, 1), 1)
	b.do(&looks.KeepLook{Of: "knob"}, 0)
	b.apply(t, &change.PinsPut{Of: change.Of{On: change.On{In: change.In{Composition: b.c.ID}, Item: "knob"}, Property: "glow"}, Pins: []scene.Pin{{Frame: 3, Value: scene.Num(9), Easing: curve.Linear}}})
	r = b.do(&looks.MixLooks{Looks: []scene.ID{b.c.Looks[1].ID, b.c.Looks[0].ID}, On: "knob"}, 0)
	if len(r.Details) != 1 || !strings.Contains(r.Details[0], "Light: Glow has pins") || b.value("knob", "glow").At(0) != 61 {
		t.Errorf("%q, %v", r.Details, b.value("knob", "glow"))
	}
}
