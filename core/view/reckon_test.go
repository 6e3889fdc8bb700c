package view

import (
	"math"
	"strings"
	"testing"

	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

func TestSumsAreReckoned(t *testing.T) {
	p := scene.NewProject("p", "P")
	p.Compositions[0].Items = []*scene.Item{{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "a", Name: "Amount", Kind: scene.Fader, Default: scene.Num(6)}}}}
	s, _ := session.Open(p, 1, nil, func() scene.ID { return "n" })
	s.Plan().Evaluate(5)
	for text, want := range map[string]float64{
		"320/3": 320.0 / 3, "(12+4)*2": 32, "-7 - -2": -5, "1.5e2": 150, ".5 * 4": 2, "{Rig: Amount} / 4": 1.5, "sqrt(81)": 9, "frame * 2": 10, " 7 ": 7,
	} {
		if r := Reckon(s, text); r.Value == nil || math.Abs(*r.Value-want) > 1e-12 || r.Sentence != "" {
			t.Errorf("%s: %+v, want %v", text, r, want)
		}
	}
	for text, unit := range map[string]scene.Unit{"2.2s": scene.Seconds, "7f": scene.Seconds, "30": ""} {
		if r := Reckon(s, text); r.Unit != unit {
			t.Errorf("%s is in %q, want %q", text, r.Unit, unit)
		}
	}
	for text, want := range map[string]string{
		"3 +": "missing", "tiem": "nothing named tiem", "1/0": "not finite", `"a"`: "a number is wanted", "": "empty", strings.Repeat("1+", 1500) + "1": "too long",
	} {
		if r := Reckon(s, text); r.Value != nil || !strings.Contains(r.Sentence, want) {
			t.Errorf("%.20s: %+v, want one with %q", text, r, want)
		}
	}
	empty, _ := session.Open(scene.NewProject("q", "Q"), 1, nil, func() scene.ID { return "n" })
	if r := Reckon(empty, "6 * 7"); r.Value == nil || *r.Value != 42 {
		t.Errorf("in an empty project: %+v", r)
	}
}
