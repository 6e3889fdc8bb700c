package scene

import "testing"

// Formulas of before there was mixlight give what they gave: mix becomes mixlight wherever colours may be mixed, and nowhere else
// in what is written.
func TestMixOfBeforeBecomesMixlight(t *testing.T) {
	for _, c := range []struct{ kind, property, was, want string }{
		{"rectangle", "fill", `mix(#000000, {@a:@fill}, 0.3)`, `mixlight(#000000, {@a:@fill}, 0.3)`},
		{"rectangle", "rotation", `mix(below - 35, below, zone({@sweep}))`, `mix(below - 35, below, zone({@sweep}))`},
		{"rectangle", "rotation", `hue(mix ({@a:@fill}, {@b:@fill}, share)) // mix(it)`, `hue(mixlight ({@a:@fill}, {@b:@fill}, share)) // mix(it)`},
		{"text", "text", `text("mix(", {@mix:@mix}, remix(2), mix(1, hue(rgb(1, 0, 0)), 0.5))`, `text("mix(", {@mix:@mix}, remix(2), mixlight(1, hue(rgb(1, 0, 0)), 0.5))`},
	} {
		item := &Item{ID: "i", Name: "I", Kind: Kind(c.kind)}
		item.Edit(c.property).Links = []*Link{{ID: "l", Kind: Formula, Gain: 1, Formula: c.was}}
		c2 := NewComposition("main", "Main")
		c2.Items = []*Item{item}
		g := &Graph{ID: "g", Name: "G", Slips: []*Slip{{ID: "s", Kind: ApplySlip, Text: "mix", Fields: map[string]string{"1": "mix(1, 2, 3)"}}, {ID: "t", Kind: FormulaSlip, Text: "mix(a, b, c)"}, {ID: "u", Kind: NoteSlip, Text: "mix(a)"}}}
		c2.Graphs = []*Graph{g}
		p := &Project{Compositions: []*Composition{c2}}
		p.Upgrade(3)
		if got := item.States[c.property].Links[0].Formula; got != c.was {
			t.Errorf("of today: %s", got)
		}
		p.Upgrade(2)
		if got := item.States[c.property].Links[0].Formula; got != c.want {
			t.Errorf("%s, want %s", got, c.want)
		}
		if g.Slips[0].Text != "mixlight" || g.Slips[0].Fields["1"] != "mixlight(1, 2, 3)" || g.Slips[1].Text != "mixlight(a, b, c)" || g.Slips[2].Text != "mix(a)" {
			t.Errorf("slips: %+v %+v", g.Slips[0], g.Slips[1])
		}
	}
}
