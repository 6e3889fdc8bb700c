package formula

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// cast is a rig with controls of awkward names, some of which occur twice.
func cast() *scene.Composition {
	c := scene.NewComposition("main", "Main")
	rig := &scene.Item{ID: "rig", Name: "Rig: north {1}", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "c1", Name: "Wind", Kind: scene.Fader, Unit: scene.Percent, SoftMax: 100, Default: scene.Num(40)},
		{ID: "c2", Name: "Scale", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(3)},
		{ID: "c3", Name: "Sway: lag", Kind: scene.Fader, Unit: scene.Seconds, SoftMax: 1, Default: scene.Num(0.2)},
	}}
	c.Items = append(c.Items, rig, &scene.Item{ID: "b1", Name: "Box", Kind: scene.Box, Parent: "rig"}, &scene.Item{ID: "b2", Name: "box ", Kind: scene.Rectangle, Parent: "rig"}, &scene.Item{ID: "t", Name: "Sign", Kind: scene.TextItem, Parent: "rig"})
	return c
}

func within(c *scene.Composition, id scene.ID, property string) *binding.Scope {
	item := c.Item(id)
	return &binding.Scope{Rate: 25, Frames: 300, Find: c.Item, Items: func() []*scene.Item { return c.Items }, Named: c.Named, Self: item, Target: item.Spec(property), Row: rowOf(c, property), Index: 1, Gather: c.Gather, Rows: func() []*scene.RosterLink { return c.RosterLinks }}
}

// rowOf is the row of what hangs on the rig.
func rowOf(c *scene.Composition, property string) *scene.Row {
	r := scene.Roster{Kind: scene.Children, Item: "rig"}
	return r.Rows(c, property)[0]
}

func TestReferencesAreBoundToThingsAndShownByTheirNames(t *testing.T) {
	for _, c := range []struct{ typed, stored, shown string }{
		{`{"rig: NORTH {1}": wind} * 2`, `{@rig:@c1} * 2`, `{"Rig: north {1}": Wind} * 2`},
		{`{"Rig: north {1}": Scale}`, `{@rig:@c2}`, `{"Rig: north {1}": Scale}`},
		{`{"Rig: north {1}": scale.x}`, `{@rig:@scale.x}`, `{"Rig: north {1}": scale.x}`},
		{`delay({box~2: rotation}, {"Rig: north {1}": "Sway: lag"})`, `delay({@b2:@rotation}, {@rig:@c3})`, `delay({"box "~2: rotation}, {"Rig: north {1}": "Sway: lag"})`},
		{`{self: opacity} + {parent: Wind}`, `{self:@opacity} + {parent:@c1}`, `{self: opacity} + {parent: Wind}`},
		{`{prev: stroke width} else {next 2: opacity} else 3`, ``, ``},
		{`({prev: opacity} else 1) + ({next 2: opacity} else 3)`, `({prev:@opacity} else 1) + ({next 2:@opacity} else 3)`, `({prev: opacity} else 1) + ({next 2: opacity} else 3)`},
		{`{Sign: world.position.y} // where {it} stands`, `{@t:@worldPosition.y} // where {it} stands`, `{Sign: world.position.y} // where {it} stands`},
		{`{Sign: fill.hue}`, `{@t:@fill.hue}`, `{Sign: fill.hue}`},
		{`{Box~1: vertex 3}.x`, `{@b1:@vertex3}.x`, ``},
		{`{Box~1: vertices[3]}.x`, `{@b1:@vertex3}.x`, ``},
		{`sum({ b*:rotation})`, `sum({@*"b*":@rotation})`, `sum({b*: rotation})`},
		{`mean({ "Rig: north {1}" > *: position.y })`, `mean({@rig > *:@position.y})`, `mean({"Rig: north {1}" > *: position.y})`},
		{`count({"Rig: "*}) + count({parent>>*})`, `count({@*"Rig: *"}) + count({parent >> *})`, `count({"Rig: "*}) + count({parent >> *})`},
		{`sum({*: wind} * 0.3)`, `sum({@*"*":@"Wind"} * 0.3)`, `sum({*: Wind} * 0.3)`},
		{`sum({*: "Sway: lag"})`, `sum({@*"*":@"Sway: lag"})`, `sum({*: "Sway: lag"})`},
		{`sum({ the tilt: rotation })`, `sum({@row *:@rotation})`, `sum({The tilt: rotation})`},
		{`first({self > *: opacity})`, ``, ``},
	} {
		cast := cast()
		cast.RosterLinks = []*scene.RosterLink{{ID: "row", Name: "The tilt", Property: "opacity", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"t", "b1"}}, Link: &scene.Link{ID: "l", Kind: scene.Formula, Gain: 1}}}
		scope := within(cast, "b2", "rotation")
		compiled := Compile(c.typed, scope)
		if errs := compiled.Errors(); len(errs) > 0 {
			if c.stored != "" {
				t.Errorf("%s: %s", c.typed, errs[0].Sentence)
			}
			continue
		}
		if compiled.Bound != c.stored {
			t.Errorf("%s is stored as %s, want %s", c.typed, compiled.Bound, c.stored)
		}
		shown := binding.Print(compiled.Bound, scope)
		if c.shown != "" && shown != c.shown {
			t.Errorf("%s is shown as %s, want %s", c.stored, shown, c.shown)
		}
		if again := Compile(shown, scope); again.Bound != compiled.Bound {
			t.Errorf("%s, shown and read again, is %s", compiled.Bound, again.Bound)
		}
	}
}

func TestWrongReferencesSayWhatThereIs(t *testing.T) {
	for typed, says := range map[string]string{
		"{Sgin: opacity}":        "there is no item named Sgin",
		"{box: rotation}":        "2 items are named box; which one is meant?",
		"{box~3: rotation}":      "there are 2 items named box, not 3",
		"{Sign: wind}":           "Sign has no property named wind; it is a property of Rig: north {1}",
		"{Sign: opacty}":         "Sign has no property named opacty",
		"{partner: opacity}":     "not paired with another",
		"{outer prev: opacity}":  "there is no outer",
		"{@gone:@opacity}":       "what this refers to was removed",
		"{@t:@c9}":               "no longer has the property",
		"{Sign}":                 "this is an item; name one of its properties",
		"along({Sign}, 1).x":     "Sign is a text, not a path",
		"{Sign: fill} * 2":       "rotation is a number, but the formula gives a colour; use one of its components",
		"{Sign: text}":           "rotation is a number, but the formula gives a text",
		"{Sign: opacity}":        "!the formula gives %, but rotation is in °",
		"{Sign: opacity} * 3deg": "",
		// A factor fits a percentage to what it is for, whatever is done with it then.
		"if(frame > 3, {Sign: opacity} * 3, 2)":    "",
		"clamp(round({Sign: opacity} / 2), 0, 40)": "",
		"if(frame > 3, {Sign: opacity}, 2)":        "!the formula gives %, but rotation is in °",
		"clamp(round({Sign: opacity}), 0, 40)":     "!the formula gives %, but rotation is in °",
	} {
		compiled := Compile(typed, within(cast(), "t", "rotation"))
		got := ""
		for _, p := range compiled.Problems {
			got = p.Sentence
			if p.Warning {
				got = "!" + got
			}
			if p.At < 0 || p.End > len(typed) {
				t.Errorf("%s: the place is %d to %d", typed, p.At, p.End)
			}
		}
		if !strings.HasPrefix(got, says) && !strings.Contains(got, says) || (says == "") != (got == "") {
			t.Errorf("%s: %q, want %q", typed, got, says)
		}
	}
	// Each fix of a wrong reference leads to a formula that works.
	for _, typed := range []string{"{Sgin: opacity} / 2", "{box: rotation}", "{Sign: opacty} / 2"} {
		for _, f := range Compile(typed, within(cast(), "t", "rotation")).Errors()[0].Fixes {
			mended := typed[:f.At] + f.Text + typed[f.End:]
			if errs := Compile(mended, within(cast(), "t", "rotation")).Errors(); len(errs) > 0 {
				t.Errorf("%s mended by %q is %s: %s", typed, f.Label, mended, errs[0].Sentence)
			}
		}
	}
}

// Formulas made at random are bound, printed and read again to the same.
func TestPrintingAndReadingAreInverse(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	var make func(depth int) string
	make = func(depth int) string {
		if depth == 0 {
			return []string{"1.5", "time", "index", "{self: opacity}", `{"Rig: north {1}": Wind}`, "({prev: rotation} else 2)", "{Box~1: position.z}", "own"}[r.IntN(8)]
		}
		a, b := make(depth-1), make(depth-1)
		return []string{
			fmt.Sprintf("(%s + %s)", a, b), fmt.Sprintf("(%s * -%s)", a, b), fmt.Sprintf("max(%s, %s)", a, b), fmt.Sprintf("if(%s > 3, %s, 7)", a, b), fmt.Sprintf("noise(%s, %s)", a, b),
			fmt.Sprintf("delay(%s, 3f) + %s", a, b), fmt.Sprintf("[%s, %s].y", a, b), fmt.Sprintf("average(%s, {\"Rig: north {1}\": \"Sway: lag\"})", a),
		}[r.IntN(8)]
	}
	for range 300 {
		text := make(1 + r.IntN(4))
		scope := within(cast(), "b2", "rotation")
		first := Compile(text, scope)
		if errs := first.Errors(); len(errs) > 0 {
			t.Fatalf("%s: %s", text, errs[0].Sentence)
		}
		again := Compile(binding.Print(first.Bound, scope), scope)
		if again.Bound != first.Bound || again.Program == nil || again.Program.Shape != first.Program.Shape {
			t.Fatalf("%s is stored as %s, and then as %s", text, first.Bound, again.Bound)
		}
		if stored := Compile(first.Bound, scope); stored.Program == nil || stored.Program.Shape != first.Program.Shape {
			t.Fatalf("%s does not work as it is stored: %s", text, first.Bound)
		}
	}
}

func TestCopiesReferToCopies(t *testing.T) {
	ids := map[scene.ID]scene.ID{"rig": "rig2", "c1": "c9"}
	got := syntax.Renamed("{@rig:@c1} + {@b1:@opacity} + {self:@c1.x} // {@rig:@c1}", func(id scene.ID) (scene.ID, bool) { to, ok := ids[id]; return to, ok })
	if got != "{@rig2:@c9} + {@b1:@opacity} + {self:@c9.x} // {@rig:@c1}" {
		t.Errorf("it is %s", got)
	}
}

// What is written as elsewhere is understood, and offered as it is written here.
func TestWhatIsMeantIsOffered(t *testing.T) {
	for text, want := range map[string]string{
		"value * 2": "own * 2", "rotation + 3": "own + 3", "sign.rotation / 7": "{Sign: rotation} / 7", "1 + position.x": "1 + {self: position}.x",
		"sign.position.y": "{Sign: position}.y", "Wind * 2": `{"Rig: north {1}": Wind} * 2`, "Math.abs(own)": "abs(own)", "opacity": "{self: opacity}",
	} {
		compiled := Compile(text, within(cast(), "b2", "rotation"))
		errs := compiled.Errors()
		if len(errs) == 0 || len(errs[0].Fixes) == 0 {
			t.Errorf("%s: nothing is offered: %v", text, errs)
			continue
		}
		fix := errs[0].Fixes[0]
		if got := text[:fix.At] + fix.Text + text[fix.End:]; got != want {
			t.Errorf("%s becomes %s, not %s", text, got, want)
		} else if errs := Compile(got, within(cast(), "b2", "rotation")).Errors(); len(errs) > 0 {
			t.Errorf("%s: %s", got, errs[0].Sentence)
		}
	}
}

// A percent that makes a wave faster would make it 50 times as fast at half its range, which looks as if it stood still.
func TestAPercentThatHurriesAWaveIsToldOf(t *testing.T) {
	for text, mended := range map[string]string{
		"wave(time * {parent: Wind}) * 7": "wave(time * {parent: Wind} / 100) * 7", "noise({parent: Wind} * time, 3)": "noise({parent: Wind} / 100 * time, 3)",
		"wave(time * {parent: Wind} / 100)": "", "wave(time) * {parent: Wind}": "", "saw(time * {parent: Scale})": "", "wave(time * ({parent: Wind} * 2))": "",
	} {
		problems := Compile(text, within(cast(), "b2", "rotation")).Problems
		switch {
		case mended == "" && len(problems) > 0:
			t.Errorf("%s: %s", text, problems[0].Sentence)
		case mended == "":
		case len(problems) == 0:
			t.Errorf("of %s nothing is said", text)
		default:
			fix := problems[0].Fixes[0]
			if got := text[:fix.At] + fix.Text + text[fix.End:]; got != mended || !problems[0].Warning {
				t.Errorf("%s becomes %s", text, got)
			}
		}
	}
}
