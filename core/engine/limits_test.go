package engine

import (
	"testing"

	"wunderkammer/core/scene"
)

// Limits of one component hold it, whatever it comes from, and leave the others alone.
func TestAComponentIsHeldByItself(t *testing.T) {
	at := func(x float64) *float64 { return &x }
	for what, set := range map[string]func(s *scene.State){
		"its own value": func(s *scene.State) { s.Own = scene.Pt(83, 47, -9) },
		"pins": func(s *scene.State) {
			s.Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(3, 7, -9), Easing: "linear"}, {Frame: 20, Value: scene.Pt(163, 87, -9), Easing: "linear"}}
		},
		"a link": func(s *scene.State) {
			s.Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "[83, frame * 4.7, -9]"}}
		},
		"a link on x": func(s *scene.State) {
			s.Own = scene.Pt(0, 47, -9)
			s.Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Gain: 8.3, Component: "x", Source: scene.Ref{Item: "knob", Property: "rotation"}}}
		},
		"another limit": func(s *scene.State) { s.Own, s.Max = scene.Pt(83, 470, -9), at(47) },
	} {
		c := scene.NewComposition("c", "C")
		knob := &scene.Item{ID: "knob", Name: "Knob", Kind: scene.Null}
		knob.Edit("rotation").Own = scene.Num(10)
		one := &scene.Item{ID: "one", Name: "One", Kind: scene.Star}
		set(one.Edit("position"))
		c.Items = []*scene.Item{one, knob}
		p := New(c)
		p.Evaluate(10)
		ref := scene.Ref{Item: "one", Property: "position"}
		if got := p.Value(ref); what != "another limit" && got != scene.Pt(83, 47, -9) {
			t.Fatalf("%s: without limits it is %v", what, got)
		}
		one.Edit("position").Limits = map[string]scene.Limits{"x": {Max: at(31)}, "z": {Min: at(-5), Max: at(-5)}}
		if err := scene.CheckState(one.Spec("position"), one.State("position")); err != nil {
			t.Fatal(err)
		}
		p = New(c)
		p.Evaluate(10)
		if got := p.Value(ref); got != scene.Pt(31, 47, -5) {
			t.Errorf("%s: held, it is %v", what, got)
		}
		if links := one.State("position").Links; len(links) > 0 { // taken off, it is held all the same
			own := one.State("position").Own
			one.Edit("position").Links, one.Edit("position").Own = nil, scene.Pt(83, 470, -9)
			p.Patch(scene.Ref{Item: one.ID, Property: "position"})
			if _, ok := p.Relink([]scene.Ref{ref}); !ok {
				p = New(c)
			}
			p.Evaluate(10)
			if got := p.Value(ref); got != scene.Pt(31, 470, -5) {
				t.Errorf("%s, taken off: %v", what, got)
			}
			one.Edit("position").Links, one.Edit("position").Own = links, own
			p = New(c)
			p.Evaluate(10)
		}
		parts := []scene.Ref{{Item: "one", Property: "position", Component: "x"}, {Item: "one", Property: "position", Component: "y"}}
		if series := p.Series(parts, 10, 12, 3); series[0][0] != 31 || series[0][2] != 31 || series[1][0] != 47 {
			t.Errorf("%s: in a series x is %v, y %v", what, series[0], series[1])
		}
	}
}
