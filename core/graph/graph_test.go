package graph_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// ids makes ids that are there once.
func ids(prefix string) func() scene.ID {
	n := 0
	return func() scene.ID { n++; return scene.ID(fmt.Sprint(prefix, n)) }
}

// stage is a null with a pinned slider, two boxes, and a path.
func stage() *scene.Composition {
	c := scene.NewComposition("main", "Main")
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "wind", Name: "Wind", Kind: scene.Fader, Default: scene.Num(3)}}}
	rig.Edit("wind").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(0), Easing: curve.Smooth}, {Frame: 40, Value: scene.Num(90), Easing: curve.Smooth}}
	line := &scene.Item{ID: "line", Name: "Line", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 2, At: [2]float64{80, 30}}}}}}}
	c.Items = []*scene.Item{rig, {ID: "one", Name: "One", Kind: scene.Box}, {ID: "two", Name: "Two", Kind: scene.Rectangle}, line}
	return c
}

// tried works a formula out on a rotation at some frames; nothing where it has errors.
func tried(c *scene.Composition, text string) (values []scene.Value, errs []string) {
	compiled, values := engine.New(c).Try(text, scene.Ref{Item: "two", Property: "rotation"}, 0, 7, 12.5, 30)
	for _, p := range compiled.Errors() {
		errs = append(errs, p.Sentence)
	}
	return values, errs
}

// written lifts a formula to a graph and lowers it again.
func written(t *testing.T, text string) (string, *scene.Graph) {
	t.Helper()
	g, drive, err := graph.Lift(text, ids("s"))
	if err != nil {
		t.Fatalf("%s: %v", text, err)
	}
	g.ID, g.Name = "g", "Graph"
	if err := g.Check(); err != nil {
		t.Fatalf("%s: %v", text, err)
	}
	back, err := graph.Lower(g, drive)
	if err != nil {
		t.Fatalf("%s: %v", text, err)
	}
	return back, g
}

// Formulas and graphs say the same: written as the other and back, they read as people write them.
func TestFormulasReadAsBefore(t *testing.T) {
	for text, want := range map[string]string{
		"3":                                                    "3",
		"-{@rig:@wind} * 2 + -3":                               "-{@rig:@wind} * 2 + -3",
		"1 - (2 - 3) - time / (4 * 5)":                         "1 - (2 - 3) - time / (4 * 5)",
		"(1 + time) ^ -2 ^ 3":                                  "(1 + time) ^ -2 ^ 3",
		"not (time > 2 and frame < 9) or true":                 "not (time > 2 and frame < 9) or true",
		"({prev: @rotation} else 0) + 1":                       "{prev: @rotation} else 0 + 1",
		"{@one:@position}.x + {@one:@position}.y":              "{@one:@position}.x + {@one:@position}.y",
		"[index, share * 3].y":                                 "[index, share * 3].y",
		"gust = noise(time, 4) // the gust\nwave(gust) * gust": "gust = noise(time, 4)\nwave(gust) * gust",
		"a = time * 2\nb = a + 1\ndelay(b, 5f) - b":            "a = time * 2\nb = a + 1\ndelay(b, 5f) - b",
		"random(7) + random(0, 10, index)":                     "random(7) + random(0, 10, index)",
		`stops({@rig:@wind}, 0, 1.5, "smooth", 50, 2, "smooth", "mirror")`:  `stops({@rig:@wind}, 0, 1.5, "smooth", 50, 2, "smooth", "mirror")`,
		`stops(time, 0, #000000, 1, alpha(rgb(0.1, 0, 1), 0.5))`:            `stops(time, 0, alpha(rgb(0, 0, 0), 1), 1, alpha(rgb(0.1, 0, 1), 0.5))`,
		`stops(time, 0, "say \"go\"", 1, "")`:                               `stops(time, 0, "say \"go\"", 1, "")`,
		`stops(time, 0f, 1, 1s, 2)`:                                         `stops(time, 0f, 1, 1s, 2)`,
		`stops(time, 0, {@rig:@wind}, 1, 2)`:                                `stops(time, 0, {@rig:@wind}, 1, 2)`,
		`text("Gate ", fixed({@rig:@wind}, 1), "!")`:                        `text("Gate ", fixed({@rig:@wind}, 1), "!")`,
		"if(({@rig:@wind} > 3) = (time < 1), #d9a441, rgb(1, 0.5, time)).r": "if(({@rig:@wind} > 3) = (time < 1), #d9a441, rgb(1, 0.5, time)).r",
		"outer outer index + outer share":                                   "outer outer index + outer share",
		"along({@line}, wave(time) / 2 + 0.5).y":                            "along({@line}, wave(time) / 2 + 0.5).y",
	} {
		if got, _ := written(t, text); got != want {
			t.Errorf("%s\nbecomes\n%s", text, got)
		}
	}
}

// expression makes a formula at random that gives a number.
func expression(r *rand.Rand, depth int, names []string) string {
	sub := func() string { return expression(r, depth-1, names) }
	pick := func(list ...string) string { return list[r.IntN(len(list))] }
	if depth == 0 || r.IntN(6) == 0 {
		return pick(append([]string{"3", "-0.5", "1e2", "time", "frame", "index", "share", "pi", "{@rig:@wind}", "{@one:@position}.x", "{@two:@opacity}", "{self:@opacity}", "{@one:@vertex3}.z", "own", "below", "true", "width"}, names...)...)
	}
	switch r.IntN(17) {
	case 0, 1, 2:
		return "(" + sub() + ") " + pick("+", "-", "*", "/") + " (" + sub() + ")"
	case 3:
		return sub() + pick(" + ", " * ") + sub()
	case 4:
		return "-(" + sub() + ")"
	case 5:
		return "(" + sub() + ") ^ " + pick("2", "-1", "(0.5)")
	case 6:
		return "if((" + sub() + ") " + pick("<", ">", "=", "!=", "<=", ">=") + " (" + sub() + "), " + sub() + ", " + sub() + ")"
	case 7:
		return pick("sin", "abs", "floor", "wave", "noise", "triangle", "sqrt") + "(" + sub() + ")"
	case 8:
		return pick("min", "max") + "(" + sub() + ", " + sub() + ", " + sub() + ")"
	case 9:
		return "delay(" + sub() + ", " + pick("2f", "0.3s", "index * 1f", "0") + ")"
	case 10:
		return pick("average", "every") + "(" + sub() + ", 3f)"
	case 11:
		return "[" + sub() + ", " + sub() + "]" + pick(".x", ".y")
	case 12:
		return "({prev: @rotation} else " + pick("4", "time") + ")"
	case 13:
		return "clamp(" + sub() + ", 0, 10)"
	case 14:
		return "if(not (" + sub() + " > 1) " + pick("and", "or") + " true, " + sub() + ", 2)"
	}
	if r.IntN(2) == 0 {
		return "stops(" + sub() + ", -2, " + pick("1", "time", "[1, -4]") + pick("", `, "smooth"`, `, "hold"`) + ", 0.5, 7, " + pick("", `"smooth", `) + "9, " + pick("-3", "8") + pick("", `, "go on"`, `, "repeat"`, `, "mirror"`) + ")" + pick("", " * 2")
	}
	return "rgb(" + sub() + ", 0.5, 0.2)" + pick(".r", ".hue", ".saturation")
}

// Every formula, written as a graph and back, gives the same at every frame, to the bit, and the second time it is the
// same formula, the same graph.
func TestThereAndBackIsTheSame(t *testing.T) {
	c := stage()
	tested := 0
	for seed := range uint64(400) {
		r := rand.New(rand.NewPCG(seed, 5))
		text, names := "", []string(nil)
		for k := range r.IntN(4) {
			name := fmt.Sprint("part", k)
			text += name + " = " + expression(r, 2, names) + "\n"
			names = append(names, name)
		}
		text += expression(r, 3, names)
		want, errs := tried(c, text)
		if len(errs) > 0 {
			continue
		}
		tested++
		back, _ := written(t, text)
		got, errs := tried(c, back)
		if len(errs) > 0 {
			t.Fatalf("%s\nbecomes\n%s\nwhich does not work: %s", text, back, strings.Join(errs, "; "))
		}
		for k := range want {
			if got[k].String() != want[k].String() {
				t.Fatalf("%s\nbecomes\n%s\nwhich gives %s, not %s", text, back, got[k], want[k])
			}
		}
		again, g := written(t, back) // without what nothing used
		if _, h := written(t, again); again != back || len(h.Wires) != len(g.Wires) {
			t.Fatalf("%s\nbecomes\n%s\nat first and\n%s\nthen (%d and %d wires)", text, back, again, len(g.Wires), len(h.Wires))
		}
	}
	if tested < 200 {
		t.Errorf("only %d formulas worked", tested)
	}
}

// What is wrong with a graph is said in a sentence, about the slip where it is.
func TestWhatALowerRefuses(t *testing.T) {
	base := func() *scene.Graph {
		return &scene.Graph{ID: "g", Name: "G", Slips: []*scene.Slip{
			{ID: "w", Kind: scene.ApplySlip, Text: "wave", Fields: map[string]string{"1": "time"}}, {ID: "p", Kind: scene.ApplySlip, Text: "+"}, {ID: "d", Kind: scene.DriveSlip},
		}, Wires: []*scene.Wire{{From: "w", To: "p", In: "1"}, {From: "p", To: "d", In: "in"}}}
	}
	for want, alter := range map[string]func(g *scene.Graph){
		"plus needs b":            func(*scene.Graph) {},
		"drive needs the value":   func(g *scene.Graph) { g.Wires = nil },
		"depend on itself":        func(g *scene.Graph) { g.Wires = append(g.Wires, &scene.Wire{From: "p", To: "p", In: "2"}) },
		"no function or operator": func(g *scene.Graph) { g.Slips[1].Text = "plus" },
		"reads nothing yet":       func(g *scene.Graph) { g.Slips[0].Kind, g.Slips[0].Text = scene.ReadSlip, "" },
		"is empty":                func(g *scene.Graph) { g.Slips[0].Kind, g.Slips[0].Text = scene.ValueSlip, " " },
		"gives no":                func(g *scene.Graph) { g.Slips[0].Kind, g.Slips[0].Text = scene.WordsSlip, "clock" },
		"a slip that was removed": func(g *scene.Graph) { g.Slips[0].Kind = scene.NoteSlip },
		"plus has no input 3":     func(g *scene.Graph) { g.Slips[1].Fields = map[string]string{"2": "1", "3": "4"} },
		"plus has no input 201":   func(g *scene.Graph) { g.Wires[0].In = "99999999999999999" },
		"something is missing":    func(g *scene.Graph) { g.Slips[0].Kind, g.Slips[0].Text = scene.FormulaSlip, "1 +" },
	} {
		g := base()
		alter(g)
		_, err := graph.Lower(g, "d")
		if f := graph.FaultOf(err); f == nil || !strings.Contains(f.Sentence, want) || f.Slip == "" {
			t.Errorf("%v, want %q", err, want)
		}
	}
	if _, err := graph.Lower(base(), "gone"); err == nil {
		t.Error("a slip that is not there gives a formula")
	}
	g := base()
	g.Slips[1].Fields = map[string]string{"2": "0.5"}
	if text, err := graph.Lower(g, "d"); err != nil || text != "wave(time) + 0.5" {
		t.Errorf("%s, %v", text, err)
	}
	g.Slips[0].Title = "Slow Swell"
	if text, err := graph.Lower(g, "d"); err != nil || text != "slow_swell = wave(time) // Slow Swell\nslow_swell + 0.5" {
		t.Errorf("%s, %v", text, err)
	}
}

// A row of slips of which each takes the one before twice comes to as many lines, not to twice as much each time; one that
// is thousands long is written without end of nesting.
func TestLongAndDoubledRows(t *testing.T) {
	for name, slip := range map[string]*scene.Slip{
		"operators": {Kind: scene.ApplySlip, Text: "+"}, "formulas": {Kind: scene.FormulaSlip, Text: "a + a * 0.5"}, "alone": {Kind: scene.ApplySlip, Text: "abs"},
	} {
		g := &scene.Graph{ID: "g", Name: "G", Slips: []*scene.Slip{{ID: "t", Kind: scene.WordsSlip, Text: "clock"}}}
		last, out := scene.ID("t"), "time"
		for k := range 300 {
			s := slip.Clone()
			s.ID = scene.ID(fmt.Sprint("s", k))
			g.Slips = append(g.Slips, s)
			for _, port := range graph.Inputs(g, s) {
				g.Wires = append(g.Wires, &scene.Wire{From: last, Out: out, To: s.ID, In: port.Key})
			}
			last, out = s.ID, ""
		}
		g.Slips = append(g.Slips, &scene.Slip{ID: "d", Kind: scene.DriveSlip})
		g.Wires = append(g.Wires, &scene.Wire{From: last, To: "d", In: graph.In})
		text, err := graph.Lower(g, "d")
		if err != nil || len(text) > syntax.MaxLength {
			t.Errorf("%s: %d bytes, %v", name, len(text), err)
		}
		if _, problem := syntax.Syntax(text); problem != nil {
			t.Errorf("%s: %s", name, problem.Sentence)
		}
	}
}

// Slips that are laid out do not lie on one another, and stand left of what they lead to.
func TestArranged(t *testing.T) {
	g, _, err := graph.Lift("lean = {@rig:@wind} * 0.22\ngust = noise(time * 0.9, 3) * {@one:@opacity} * 0.3\nif(index = 0, lean + gust, delay({prev:@rotation} else 0, {@rig:@wind} * 1f)) + number * share", ids("s"))
	if err != nil {
		t.Fatal(err)
	}
	for i, a := range g.Slips {
		for _, b := range g.Slips[i+1:] {
			if a.At[0] == b.At[0] && a.At[1]-b.At[1] < 60 && b.At[1]-a.At[1] < 60 {
				t.Errorf("%s and %s lie on one another, at %v and %v", a.Text, b.Text, a.At, b.At)
			}
		}
	}
	for _, w := range g.Wires {
		from, _ := g.Slip(w.From)
		to, _ := g.Slip(w.To)
		if from.At[0] >= to.At[0] {
			t.Errorf("%s stands right of %s", from.Text, to.Text)
		}
	}
}

// A sheet gives what every slip gives, and leaves out what does not work, and what comes from that.
func TestASheetLeavesOutWhatDoesNotWork(t *testing.T) {
	g, _, err := graph.Lift("a = abs({@rig:@wind})\na * 2 + wave(time)", ids("s"))
	if err != nil {
		t.Fatal(err)
	}
	g.Slips = append(g.Slips, &scene.Slip{ID: "bad", Kind: scene.ApplySlip, Text: "min"}, &scene.Slip{ID: "after", Kind: scene.ApplySlip, Text: "abs"})
	g.Wires = append(g.Wires, &scene.Wire{From: "bad", To: "after", In: "1"})
	sheet, faults := graph.SheetOf(g, nil)
	if len(faults) != 1 || faults[0].Slip != "bad" {
		t.Errorf("%v", faults)
	}
	lines := strings.Split(sheet.Text, "\n")
	if len(lines) != len(sheet.Outputs)+1 || len(sheet.Outputs) != 9 {
		t.Errorf("%d lines, %d outputs:\n%s", len(lines), len(sheet.Outputs), sheet.Text)
	}
	without, _ := graph.SheetOf(g, map[graph.Source]bool{{Slip: sheet.Outputs[1].Slip}: true})
	if len(without.Outputs) >= len(sheet.Outputs) {
		t.Errorf("without one of them there are %d", len(without.Outputs))
	}
	if _, errs := tried(stage(), sheet.Text); len(errs) > 0 {
		t.Errorf("%s\n%s", sheet.Text, strings.Join(errs, "; "))
	}
}

// Where a fold is closed it is laid out, and what lies in it stays; where it is open, the slips are.
func TestFoldsAreArranged(t *testing.T) {
	for _, open := range []bool{false, true} {
		g, _, err := graph.Lift("swell = wave(time * 0.3)\nswell * 4 + index", ids("s"))
		if err != nil {
			t.Fatal(err)
		}
		fold := &scene.Slip{ID: "fold", Kind: scene.FoldSlip, Open: open, At: [2]float64{7, 7}}
		at := map[scene.ID][2]float64{}
		for _, s := range g.Slips {
			if s.Kind == scene.ApplySlip {
				s.Within = "fold"
				s.At = [2]float64{-900, -900}
				at[s.ID] = s.At
			}
		}
		g.Slips = append(g.Slips, fold)
		graph.Arrange(g)
		moved := 0
		for _, s := range g.Slips {
			if was, inside := at[s.ID]; inside && s.At != was {
				moved++
			}
		}
		if open && (moved != len(at) || fold.At != [2]float64{7, 7}) || !open && (moved > 0 || fold.At == [2]float64{7, 7}) {
			t.Errorf("open: %v; %d of %d slips in the fold moved, the fold is at %v", open, moved, len(at), fold.At)
		}
	}
}

// However far the input lies that a wire says it leads to, a slip has no more inputs than can be filled.
func TestInputsAreBounded(t *testing.T) {
	g := &scene.Graph{ID: "g", Name: "G", Slips: []*scene.Slip{{ID: "a", Kind: scene.ApplySlip, Text: "stops"}, {ID: "b", Kind: scene.ApplySlip, Text: "min"}, {ID: "c", Kind: scene.ApplySlip, Text: "wave"}}}
	for _, s := range g.Slips {
		g.Wires = append(g.Wires, &scene.Wire{From: "c", To: s.ID, In: "9999"})
	}
	for _, s := range g.Slips {
		if n := len(graph.Inputs(g, s)); n > scene.MaxInputs {
			t.Errorf("%s has %d inputs", s.Text, n)
		}
	}
	graph.NewFitting(g, &binding.Scope{Rate: 25}, map[graph.Source]binding.Type{{Slip: "c"}: {Of: scene.Number}}, nil).Wires()
}
