package link

import (
	"strings"
	"testing"

	"wunderkammer/core/scene"
)

func TestChoicesThatGiveNothingAreTold(t *testing.T) {
	c := chain(3)
	item := c.Items[1]
	l := item.State("opacity").Links[0]
	told := func(want string) {
		t.Helper()
		got := strings.Join(Void(item, item.Spec("opacity"), l), "; ")
		if (want == "") != (got == "") || !strings.Contains(got, want) {
			t.Errorf("%q, want %q", got, want)
		}
	}
	told("")
	l.Operation = scene.Multiply
	told("")
	item.Edit("opacity").Own = scene.Num(0)
	told("multiply gives nothing")

	world := &scene.Link{ID: "w", Kind: scene.Follow, Source: scene.Ref{Item: "i0", Property: "position"}, Gain: 1, World: true}
	item.Edit("position").Links = []*scene.Link{world}
	if got := Void(item, item.Spec("position"), world); len(got) != 1 {
		t.Errorf("without a parent: %v", got)
	}
	item.Parent = "i2"
	if got := Void(item, item.Spec("position"), world); len(got) != 0 {
		t.Errorf("with a parent: %v", got)
	}

	row := &scene.RosterLink{ID: "s", Name: "Row", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"i2"}}, Property: "rotation", Link: &scene.Link{ID: "r", Kind: scene.Follow, Source: scene.Ref{Item: "i0", Property: "rotation"}, Gain: 1}}
	for _, k := range []struct {
		stagger *scene.Stagger
		items   []scene.ID
		want    string
	}{
		{nil, []scene.ID{"i2"}, ""}, {nil, nil, "no members"},
		{&scene.Stagger{Seed: 3}, []scene.ID{"i1", "i2"}, "counted changes nothing"},
		{&scene.Stagger{Seed: 3, Offset: 1}, []scene.ID{"i1", "i2"}, ""},
		{&scene.Stagger{Offset: 1}, []scene.ID{"i2"}, "a row of one member"},
		{&scene.Stagger{Offset: 1, By: scene.FromOne}, []scene.ID{"i2"}, ""},
		{&scene.Stagger{Offsets: scene.ByComponent{4}}, []scene.ID{"i2"}, "a row of one member"},
	} {
		row.Roster.Items, row.Link.Stagger = k.items, k.stagger
		if got := strings.Join(VoidOnRow(c, row), "; "); (k.want == "") != (got == "") || !strings.Contains(got, k.want) {
			t.Errorf("%+v of %v: %q, want %q", k.stagger, k.items, got, k.want)
		}
	}
}
