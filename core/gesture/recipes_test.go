package gesture

import (
	"strings"
	"testing"

	"wunderkammer/core/scene"
)

func TestARowIsSweptInByAZone(t *testing.T) {
	b := desk(t)
	r := b.do(&Add{Kind: scene.Ellipse, Name: "Bit", Count: 5}, 0)
	made := b.do(&MakeRecipe{"sweep in", r.Made, map[string]float64{"scale": 0, "rotation": 90, "rise": 60, "falloff": 10}}, 0)
	zone := b.c.Item(made.Made[0])
	if zone.Kind != scene.Zone || len(b.c.RosterLinks) != 3 || !strings.Contains(made.Note, "Sweep") {
		t.Fatalf("a %s and %d links; %q", zone.Kind, len(b.c.RosterLinks), made.Note)
	}
	first, last := r.Made[0], r.Made[4]
	home := b.c.Item(last).State("position").Own
	shown := func(id scene.ID) string {
		return b.shown(ref(id, "scale"), 0) + b.shown(ref(id, "rotation"), 0)
	}
	if shown(first) != "[100, 100, 100]0" || shown(last) != "[0, 0, 0]90" {
		t.Errorf("halfway, the first is %s, the last %s", shown(first), shown(last))
	}
	zone.Edit("position").Own = scene.Pt(5000, 0, 0)
	if got := b.shown(ref(last, "position"), 0); shown(last) != "[100, 100, 100]0" || got != home.String() {
		t.Errorf("behind the zone the last is %s at %s", shown(last), got)
	}
	zone.Edit("position").Own = scene.Pt(-5000, 0, 0)
	if got := b.shown(ref(last, "position"), 0); got == home.String() || shown(first) != "[0, 0, 0]90" {
		t.Errorf("before the zone the last stands at %s, the first is %s", got, shown(first))
	}
	for _, bad := range []*MakeRecipe{
		{"sweep in", nil, map[string]float64{"scale": 0}}, {"sweep in", r.Made, nil}, {"sweep in", r.Made, map[string]float64{"scale": 0, "curve": 9}},
		{"sweep in", []scene.ID{"gone"}, map[string]float64{"scale": 0}}, {"trail", r.Made[:1], nil}, {"wave", r.Made, map[string]float64{"period": 0}}, {"soup", r.Made, nil},
		{"orbit", r.Made, map[string]float64{"period": 0}},
	} {
		if _, err := b.try(bad, 0); err == nil {
			t.Errorf("%+v is let through", bad)
		}
	}
}

// Every recipe, as its form begins and with each of its options, makes links without a fault that change what they are on.
func TestEveryRecipeWorksAsItBegins(t *testing.T) {
	for _, recipe := range Recipes {
		options := 1
		for _, f := range recipe.Fields {
			options = max(options, len(f.Options))
		}
		for o := range options {
			b := desk(t)
			r := b.do(&Add{Kind: scene.Ellipse, Name: "Bit", Count: 4}, 0)
			for _, id := range r.Made {
				b.c.Item(id).Edit("scale").Own, b.c.Item(id).Edit("strokeWidth").Own = scene.Pt(50, 50, 100), scene.Num(8)
			}
			b.c.Item(r.Made[0]).Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(0, 0, 0), Easing: "linear"}, {Frame: 20, Value: scene.Pt(200, 50, 0), Easing: "linear"}}
			b.c.Item(r.Made[0]).Edit("scale").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(50, 50, 100), Easing: "linear"}, {Frame: 20, Value: scene.Pt(90, 90, 100), Easing: "linear"}}
			look := func() (out string) {
				for _, f := range []float64{0, 7, 20} {
					for _, id := range r.Made {
						for _, key := range []string{"position", "rotation", "scale", "opacity", "strokeWidth"} {
							out += b.shown(ref(id, key), f) + " "
						}
					}
				}
				return out
			}
			before, values := look(), map[string]float64{}
			for _, f := range recipe.Fields {
				if len(f.Options) > 0 {
					values[f.Key] = float64(min(o, len(f.Options)-1))
				} else if !f.Off {
					values[f.Key] = f.Default
				}
			}
			b.do(&MakeRecipe{recipe.Key, r.Made, values}, 0)
			for _, s := range b.c.RosterLinks {
				if s.Link.Draft != "" || s.Link.Formula == "" {
					t.Errorf("%s, option %d: the formula has an error: %s%s", recipe.Name, o, s.Link.Draft, s.Link.Formula)
				}
			}
			if len(b.c.RosterLinks) == 0 || look() == before {
				t.Errorf("%s, option %d: nothing came of it", recipe.Name, o)
			}
		}
	}
}
