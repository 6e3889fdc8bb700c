package view

import (
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

func TestWhatIsOtherwiseThanBeforeIsListedControlsFirst(t *testing.T) {
	p := scene.NewProject("p", "P")
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "a1", Name: "Wind", Kind: scene.Fader, Default: scene.Num(2)}, {ID: "a2", Name: "Glow", Kind: scene.Fader, Default: scene.Num(3)}, {ID: "a3", Name: "Tide", Kind: scene.Fader, Default: scene.Num(4)},
	}}
	p.Compositions[0].Items = []*scene.Item{rig, {ID: "box", Name: "Box", Kind: scene.Rectangle}, {ID: "ball", Name: "Ball", Kind: scene.Ellipse}, {ID: "drum", Name: "Drum", Kind: scene.SoundItem, Sound: &scene.Sound{Asset: scene.AssetID(strings.Repeat("ab12", 16)), Seconds: 0.03, Bands: "AAECA/8EBQYHCAkK"}}}
	n := 0
	s, _ := session.Open(p, 1, nil, func() scene.ID { n++; return scene.ID(fmt.Sprint("n", n)) })
	do := func(g gesture.Gesture) gesture.Result {
		t.Helper()
		n++
		r, err := s.Do(g, session.Options{ID: fmt.Sprint("c", n), Frame: 7})
		if err != nil {
			t.Fatal(err)
		}
		return r
	}
	kept := do(&pins.KeepBefore{}).Made[0]
	list := func() string {
		t.Helper()
		found, err := DifferencesOf(s, kept)
		if err != nil {
			t.Fatal(err)
		}
		var out []string
		for _, d := range found {
			out = append(out, d.Name+" "+d.What)
		}
		return strings.Join(out, ", ")
	}
	if got := list(); got != "" {
		t.Errorf("at once: %s", got)
	}
	in := change.In{Composition: p.Compositions[0].ID}
	do(&pins.Set{Targets: []scene.Ref{{Item: "box", Property: "rotation"}}, Value: scene.Num(31)})
	do(&pins.Set{Targets: []scene.Ref{{Item: "rig", Property: "a2"}}, Value: scene.Num(17)})
	do(&pins.Pin{Targets: []scene.Ref{{Item: "rig", Property: "a1"}}})
	do(&gesture.Operations{Ops: change.Ops{
		&change.ControlRemove{On: change.On{In: in, Item: "rig"}, Control: "a3"},
		&change.ItemRemove{On: change.On{In: in, Item: "ball"}},
		&change.SoundStart{On: change.On{In: in, Item: "drum"}, Start: 41},
		&change.ItemSet{On: change.On{In: in, Item: "box"}, Hidden: new(true)},
		&change.ItemAdd{In: in, Value: &scene.Item{ID: "star", Name: "Star", Kind: scene.Star}},
	}})
	if got := list(); got != "Rig: Wind pins, Rig: Glow value, Rig: Tide gone, Star new, Box visibility, Box: rotation value, Drum sound, Ball gone" {
		t.Errorf("then: %s", got)
	}
	before, err := BeforeOf(s, kept)
	if err != nil || before.Check() != nil || len(before.Compositions[0].Items) != 4 {
		t.Errorf("what is opened beside it is broken: %v", err)
	}
	do(&pins.GoBack{Before: kept})
	if got := list(); got != "" {
		t.Errorf("gone back: %s", got)
	}
	if s.Composition().Item("ball") == nil || s.Evaluate(0) == nil {
		t.Error("it is not what it was")
	}
	if err := s.Undo("u"); err != nil || s.Composition().Item("star") == nil {
		t.Errorf("not undone: %v", err)
	}
}
