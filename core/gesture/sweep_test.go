package gesture

import (
	"strings"
	"testing"

	"wunderkammer/core/scene"
)

func TestARowIsSweptInByAZone(t *testing.T) {
	b := desk(t)
	r := b.do(&Add{Kind: scene.Ellipse, Name: "Bit", Count: 5}, 0)
	zero, turn, rise := 0.0, 90.0, 60.0
	made := b.do(&SweepIn{Items: r.Made, Scale: &zero, Rotation: &turn, Rise: &rise, Falloff: 10}, 0)
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
	for _, bad := range []*SweepIn{{}, {Items: r.Made}, {Items: r.Made, Scale: &zero, Curve: 9}, {Items: []scene.ID{"gone"}, Scale: &zero}} {
		if _, err := b.try(bad, 0); err == nil {
			t.Errorf("%+v is let through", bad)
		}
	}
}
