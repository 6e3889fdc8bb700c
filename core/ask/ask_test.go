package ask

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

func float(x float64) *float64 { return &x }

// quay is a composition with a desk of controls, a piece that hands one off, and a row of lamps.
func quay(t *testing.T) (*scene.Project, *scene.Composition) {
	t.Helper()
	p := scene.NewProject("p", "P")
	c := p.Compositions[0]
	c.Name = "Quay"
	desk := &scene.Item{ID: "desk", Name: "Desk", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "swing", Name: "Swing", Kind: scene.Fader, Unit: scene.Degrees, Default: scene.Num(12), Min: float(-45), Max: float(70), SoftMin: -45, SoftMax: 70, Note: "How far", Heading: "Moves"},
		{ID: "lamps", Name: "Lit", Kind: scene.SwitchWidget, Default: scene.Num(0)},
		{ID: "cloth", Name: "Cloth", Kind: scene.ColourWidget, Default: scene.RGBA(0.2, 0.3, 0.4, 1)},
		{ID: "side", Name: "Side", Kind: scene.ChoiceWidget, Default: scene.Num(0), Options: []string{"Left", "Lee", "Right"}},
		{ID: "at", Name: "At", Kind: scene.PointWidget, Default: scene.NewValue([]float64{3, 4})},
		{ID: "word", Name: "Word", Kind: scene.TextWidget, Default: scene.Txt("ahoy")},
		{ID: "led", Name: "Led", Kind: scene.Fader, Default: scene.Num(0), SoftMax: 300},
	}}
	desk.Edit("led").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: "desk", Property: "swing"}, Gain: 3}}
	desk.Edit("lamps").Pins = []scene.Pin{{Frame: 4, Value: scene.Num(1), Easing: curve.Hold}}
	c.Items = []*scene.Item{desk, {ID: "lamp1", Name: "Lamp 1", Kind: scene.Rectangle}, {ID: "lamp2", Name: "Lamp 2", Kind: scene.Rectangle}}
	c.HandOff = &scene.HandOff{Offers: []*scene.Offer{{ID: "given", Item: "desk", Control: "swing", Name: "Sway", Max: float(33)}}}
	night := scene.NewComposition("night", "Night")
	night.Items = []*scene.Item{
		{ID: "one", Name: "Boat", Kind: scene.Piece, Piece: &scene.Shown{Composition: c.ID}},
		{ID: "two", Name: "Skiff", Kind: scene.Piece, Piece: &scene.Shown{Composition: c.ID}},
	}
	p.Compositions = append(p.Compositions, night)
	if err := p.Check(); err != nil {
		t.Fatal(err)
	}
	return p, c
}

func at(c *scene.Composition, frame float64) *engine.Plan {
	plan := engine.New(c)
	plan.Evaluate(frame)
	return plan
}

func context(p *scene.Project, c *scene.Composition, frame int) *gesture.Context {
	return &gesture.Context{Project: p.ID, Composition: c, Planned: at(c, float64(frame)), Frame: frame, Others: p.Compositions}
}

func TestControlsAreListedAsScriptsSeeThem(t *testing.T) {
	_, c := quay(t)
	var told []string
	for _, one := range Controls(at(c, 2)) {
		text := fmt.Sprintf("%s = %s (%s%s, default %s)", one.Name, Printed(one.Type, one.Value), one.Type, one.Unit, Printed(one.Type, one.Default))
		if one.Min != nil {
			text += fmt.Sprintf(" %v to %v", *one.Min, *one.Max)
		}
		if one.Pinned {
			text += " pinned"
		}
		if one.Driven {
			text += " driven"
		}
		told = append(told, text+one.Note+one.Heading)
	}
	want := []string{
		"Desk: Swing = 12 (number°, default 12) -45 to 70How farMoves", "Desk: Lit = 1 (switch, default 0) 0 to 1 pinned", "Desk: Cloth = #334d66ff (colour, default #334d66ff) 0 to 1",
		"Desk: Side = 0 (choice, default 0) 0 to 2", "Desk: At = [3, 4] (point2px, default [3, 4])", `Desk: Word = "ahoy" (text, default "ahoy")`, "Desk: Led = 36 (number, default 0) driven",
	}
	if !slices.Equal(told, want) {
		t.Errorf("\n%s\nwant\n%s", strings.Join(told, "\n"), strings.Join(want, "\n"))
	}
}

func TestControlsAreSetByName(t *testing.T) {
	p, c := quay(t)
	for _, set := range []struct{ name, value, shows string }{
		{"Swing", "31", "31"},
		{" desk: SWING ", "-7.5°", "-7.5"},
		{"Desk: Cloth", "#ff0080", "#ff0080ff"},
		{"Side", "lee", "1"},
		{"At", "[8, -2]", "[8, -2]"},
		{"Word", "ship", `"ship"`},
		{"Lit", "off", "0"}, // a pin
		{"Lamp 1: rotation", "17", "17"},
		{"Lamp 1: position.y", "23", "23"},
	} {
		ops, err := Set(context(p, c, 4), map[string]scene.Value{set.name: scene.Txt(set.value)})
		if err == nil {
			_, _, err = change.Apply(p, ops)
		}
		if err != nil {
			t.Errorf("%s to %s: %v", set.name, set.value, err)
			continue
		}
		plan := at(c, 4)
		ref, _ := Named(plan, set.name)
		spec, _ := plan.Layout.Find(ref.Item, ref.Property)
		kind := spec.Type
		if ref.Component != "" {
			kind = scene.Number
		}
		if got := Printed(kind, plan.Value(ref)); got != set.shows {
			t.Errorf("%s is %s after %s", set.name, got, set.value)
		}
	}
	if pins := c.Item("desk").State("lamps").Pins; len(pins) != 1 || pins[0].Value != scene.Num(0) {
		t.Errorf("what is pinned has %v", pins)
	}
	// As JSON has it, several at once.
	ops, err := Set(context(p, c, 0), map[string]scene.Value{"Swing": scene.Num(9), "Cloth": scene.RGBA(1, 0.25, 0, 1), "Lit": scene.On(true)})
	if err != nil || len(ops) != 3 {
		t.Errorf("%d operations, %v", len(ops), err)
	}
	for _, no := range []struct{ name, value, says string }{
		{"Mast", "3", `Quay has no control named "Mast"`},
		{"Desk: Mast", "3", "Mast"},
		{"Led", "3", "driven by links"},
		{"Swing", "71", "it goes from -45 to 70, not to 71"},
		{"Swing", "often", `"often" is not a number`},
		{"Swing", "[", "is not a number"},
		{"Swing", "1e999", "is not a number"},
		{"Cloth", "[1, 2]", "is not a colour"},
		{"Cloth", "[1, 2, 3, 1]", "it goes from 0 to 1, not to 2"},
		{"Side", "middle", "none of its options: Left, Lee, Right"},
		{"At", "3", "is not a 2D point"},
		{"Lamp 1: opacity", "-3", "from 0 to 100"},
		{"Desk", "3", "no control named"},
	} {
		if _, err := Set(context(p, c, 0), map[string]scene.Value{no.name: scene.Txt(no.value)}); err == nil || !strings.Contains(err.Error(), no.says) {
			t.Errorf("%s to %s: %v, want %q", no.name, no.value, err, no.says)
		}
	}
	if _, err := Set(context(p, c, 0), map[string]scene.Value{"Swing": scene.Num(3), "desk: swing": scene.Num(4)}); err == nil || !strings.Contains(err.Error(), "are the same") {
		t.Errorf("%v", err)
	}
	if _, err := Set(context(p, c, 0), nil); err == nil {
		t.Error("nothing is set")
	}
	many := map[string]scene.Value{}
	for k := range MaxSets + 1 {
		many[fmt.Sprint("c", k)] = scene.Num(1)
	}
	if _, err := Set(context(p, c, 0), many); err == nil || !strings.Contains(err.Error(), "too many") {
		t.Errorf("%v", err)
	}
}

// What a piece's composition hands off is a control of it, in the limits that it was handed off with.
func TestWhatIsHandedOffIsAControl(t *testing.T) {
	p, _ := quay(t)
	night := p.Compositions[1]
	all := Controls(at(night, 0))
	if len(all) != 2 || all[1].Name != "Skiff: Sway" || *all[1].Max != 33 {
		t.Fatalf("%+v", all)
	}
	if _, err := Set(context(p, night, 0), map[string]scene.Value{"Sway": scene.Num(3)}); err == nil || !strings.Contains(err.Error(), "several have a control named \"Sway\": Boat, Skiff") {
		t.Errorf("%v", err)
	}
	if _, err := Set(context(p, night, 0), map[string]scene.Value{"Boat: Sway": scene.Num(34)}); err == nil || !strings.Contains(err.Error(), "from -45 to 33") {
		t.Errorf("%v", err)
	}
	ops, err := Set(context(p, night, 0), map[string]scene.Value{"Boat: Sway": scene.Num(29)})
	if err == nil {
		_, _, err = change.Apply(p, ops)
	}
	if all := Controls(at(night, 0)); err != nil || all[0].Value != scene.Num(29) || all[1].Value != scene.Num(12) {
		t.Errorf("%v and %v, %v", all[0].Value, all[1].Value, err)
	}
}

func TestValuesAreAskedForByNamePatternAndFormula(t *testing.T) {
	_, c := quay(t)
	c.Items[1].Edit("rotation").Own = scene.Num(21)
	plan := at(c, 0)
	got := map[string]string{}
	for _, text := range []string{"Desk: Swing", "{Desk: At}", "Desk: At.y", "Lamp *: rotation", "{Desk: Swing} * 2 + frame", "mix(#000000, #ff0000, 0.2)"} {
		questions, err := All(plan, text, Shown(plan, []string{text}, []float64{3}))
		if err != nil {
			t.Fatal(err)
		}
		for _, q := range questions {
			got[q.Name] = string(q.Type) + string(q.Unit) + " " + Printed(q.Type, q.At(3))
		}
	}
	want := map[string]string{
		"Desk: Swing": "number° 12", "{Desk: At}": "point2px [3, 4]", "Desk: At.y": "numberpx 4", "Lamp 1: rotation": "number° 21", "Lamp 2: rotation": "number° 0",
		"{Desk: Swing} * 2 + frame": "number 27", "mix(#000000, #ff0000, 0.2)": "colour #330000ff",
	}
	if !maps.Equal(got, want) {
		t.Errorf("%v", got)
	}
	for text, says := range map[string]string{"Desk: Mast": "Mast", "Nobody *: rotation": "no item named like", "1 +": "", "{Desk: Swing": ""} {
		if _, err := All(plan, text, nil); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v", text, err)
		}
	}
	if err := Within(c, 0, float64(c.Frames+scene.Margin)); err == nil || !strings.Contains(err.Error(), "up to") {
		t.Errorf("%v", err)
	}
}

func TestCompositionsAreFoundByNameThoseThatAreReadFirst(t *testing.T) {
	p, c := quay(t)
	p.Compositions = append(p.Compositions, c.NewReading("r1", "r1piece", "Night"), c.NewReading("r2", "r2piece", "Mara"))
	p.Compositions[1], p.Compositions[2] = p.Compositions[2], p.Compositions[1]
	p.Join()
	for name, id := range map[string]scene.ID{"": c.ID, " quay": c.ID, "night": "night", "MARA": "r2", "r1": "r1"} {
		if found, err := Composition(p, name); err != nil || found.ID != id {
			t.Errorf("%q: %v", name, err)
		}
	}
	if _, err := Composition(p, "Noon"); err == nil || !strings.Contains(err.Error(), "there are: Quay, ") {
		t.Errorf("%v", err)
	}
}
