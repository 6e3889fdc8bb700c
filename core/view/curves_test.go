package view

import (
	"fmt"
	"testing"

	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// The curves of a property are its own, those of what drives it, by a formula too, and those of the rest of its row.
func TestCurvesShowWhatDrives(t *testing.T) {
	p := scene.NewProject("p", "P")
	c := p.Compositions[0]
	slider := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "a", Name: "A", Kind: scene.Fader, Default: scene.Num(2)}}}
	box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}
	box.Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "{@rig:@a} + {self:@opacity}"}}
	ball := &scene.Item{ID: "ball", Name: "Ball", Kind: scene.Ellipse}
	c.Items = []*scene.Item{slider, box, ball}
	c.RosterLinks = []*scene.RosterLink{{ID: "s", Name: "Row", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"box", "ball"}}, Property: "strokeWidth", Link: &scene.Link{ID: "m", Kind: scene.Follow, Source: scene.Ref{Item: "rig", Property: "a"}, Gain: 3}}}
	s, _ := session.Open(p, 1, nil, func() scene.ID { return "n" })
	for property, want := range map[string]string{
		"rotation":    "box.rotation false [102 102], rig.a true [2 2], box.opacity true [100 100], ",
		"strokeWidth": "box.strokeWidth false [6 6], rig.a true [2 2], ball.strokeWidth false [6 6], ",
		"nothing":     "box.nothing false [], ",
	} {
		got := ""
		for _, k := range CurvesOf(s, []scene.Ref{{Item: "box", Property: property}, {Item: "box", Property: property, Component: "x"}, {Item: "gone", Property: "x"}}, 0, 10, 2, false) {
			got += fmt.Sprintf("%s.%s %v %v, ", k.Ref.Item, k.Ref.Property, k.Source, k.Values)
		}
		if got != want {
			t.Errorf("%s: %s want %s", property, got, want)
		}
	}
	// How fast: 3 per frame of 25 a second, after the turn 8 back.
	slider.Edit("a").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(4), Easing: "linear"}, {Frame: 20, Value: scene.Num(64), Easing: "linear"}, {Frame: 40, Value: scene.Num(-96), Easing: "linear"}}
	s, _ = session.Open(p, 1, nil, func() scene.ID { return "n" })
	speeds := CurvesOf(s, []scene.Ref{{Item: "rig", Property: "a"}}, 0, 40, 9, true)[0].Values
	if got := fmt.Sprintf("%.4g", speeds); got != "[75 75 75 75 -62.5 -200 -200 -200 -200]" {
		t.Errorf("it changes by %s", got)
	}
	survey := SurveyOf(s)
	if got := fmt.Sprint(survey.Drives["rig/a"], survey.Followers["rig/a"], survey.Followers["box/opacity"]); got != "3 [box ball] [box]" {
		t.Errorf("the slider drives %s", got)
	}
}
