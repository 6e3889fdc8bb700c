package view

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

func TestAFormulaIsToldWithItsLinesAndItsMistakes(t *testing.T) {
	s := window(t)
	rig := do(t, s, &items.Add{Kind: scene.Null, Name: "Brise 🌬"})[0]
	do(t, s, &wiring.AddControl{Item: rig, Control: scene.Control{Kind: scene.Fader, Name: "Amount", Default: scene.Num(8)}})
	box := do(t, s, &items.Add{Kind: scene.Rectangle, Name: "Box"})[0]
	at := scene.Ref{Item: box, Property: "rotation"}
	ask := func(text string) Formula {
		return FormulaOf(s, &FormulaAsk{Target: at, Text: &text, Steps: 5})
	}
	f := ask("a = {Brise 🌬: Amount} * 2 // twice\nb = [a, 1]\nb.x + frame")
	var lines []string
	for _, l := range f.Lines {
		lines = append(lines, fmt.Sprint(l.Line, ": ", l.Value))
	}
	if got := strings.Join(lines, "; "); got != "1: 16; 2: [16, 1]; 3: 16" || f.Type != "number" || len(f.Problems) != 0 {
		t.Errorf("the lines are %s, of type %s, %v", got, f.Type, f.Problems)
	}
	if f.Words != "a is Amount of Brise 🌬 times 2. b is the point of a and 1. x of b plus frame." {
		t.Errorf("it is read as %s", f.Words)
	}
	if !slices.Equal(f.Curve, []float64{16, 90.75, 165.5, 240.25, 315}) {
		t.Errorf("the curve is %v", f.Curve)
	}
	// Places count in UTF-16 units: the wind takes two.
	f = ask("{Brise 🌬: Amount} + tiem")
	if len(f.Problems) != 1 || f.Problems[0].At != 21 || f.Problems[0].End != 25 || f.Problems[0].Fixes[0].Text != "time" || len(f.Lines) != 0 {
		t.Errorf("%+v", f)
	}
	if f = ask("1 / frame"); f.Lines[0].Value.At(0) != 0 || !f.Lines[0].Value.Absent() {
		t.Errorf("what is not finite is nothing: %+v", f.Lines)
	}
	if f = ask("{self: rotation} + {Brise 🌬: Amount}"); len(f.Problems) != 1 || !strings.Contains(f.Problems[0].Sentence, "Box: rotation → Box: rotation") || f.Problems[0].Fixes[0].Text != "own" || f.Problems[0].Fixes[1].Text != "delay({self: rotation}, 1f)" {
		t.Errorf("a circle: %+v", f.Problems)
	}
	// As it stands on a link, by today's names; what does not check as it was typed.
	do(t, s, &wiring.Formula{Targets: []scene.Ref{at}, Text: "{brise 🌬: amount}"})
	id := s.Composition().Item(box).State("rotation").Links[0].ID
	if f = FormulaOf(s, &FormulaAsk{Target: at, Link: id}); f.Text != "{Brise 🌬: Amount}" {
		t.Errorf("it is shown as %s", f.Text)
	}
	survey := SurveyOf(s)
	key := string(box) + "/" + string(id)
	if survey.Formulas[key] != "{Brise 🌬: Amount}" || survey.Drives[string(rig)+"/"+string(s.Composition().Item(rig).Controls[0].ID)] != 1 {
		t.Errorf("the survey tells %v, %v", survey.Formulas, survey.Drives)
	}
	do(t, s, &wiring.Formula{Targets: []scene.Ref{at}, Text: "{brise 🌬: amount} *", Link: id})
	if f = FormulaOf(s, &FormulaAsk{Target: at, Link: id}); f.Text != "{brise 🌬: amount} *" || SurveyOf(s).Formulas[key] != f.Text {
		t.Errorf("the draft is shown as %s", f.Text)
	}
}

func TestAFormulaOnARosterIsToldForTheMemberThatIsLookedAt(t *testing.T) {
	s := window(t)
	var refs []scene.Ref
	for range 4 {
		refs = append(refs, scene.Ref{Item: do(t, s, &items.Add{Kind: scene.Ellipse})[0], Property: "rotation"})
	}
	rosterLink := do(t, s, &wiring.Spread{Targets: refs, Text: "index * 10"})[0]
	for k, ref := range refs {
		f := FormulaOf(s, &FormulaAsk{Target: ref, RosterLink: rosterLink})
		if f.Text != "index * 10" || f.Lines[0].Value.At(0) != float64(10*k) {
			t.Errorf("member %d: %+v", k, f)
		}
	}
	v, _ := Of(s, 0)
	if v.Structure == nil || len(v.Structure.RosterLinks) != 1 || len(v.Structure.RosterLinks[0].Members) != 4 {
		t.Error("the roster is told with its members")
	}
}
