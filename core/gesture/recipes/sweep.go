package recipes

import (
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// halfPlane is the shape of a zone that reaches from its line to the left without an end.
const halfPlane = 3

// sweepIn lets a row of items come in as a zone passes over them: each from a start state to what it is, by the strength of the
// zone. It makes the zone, and a link on the row for each property that has a start.
func sweepIn(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	if v["falloff"] < 0 {
		return gesture.Result{}, fmt.Errorf("a falloff is 0 or more")
	}
	low, high, middle := bounds(c, items)
	r := gesture.NewRig(c)
	zone := r.Item(scene.Zone, "Sweep")
	zone.Edit("zoneShape").Own = scene.Num(halfPlane)
	zone.Edit("falloff").Own, zone.Edit("zoneCurve").Own = scene.Num(v["falloff"]), scene.Num(v["curve"])
	// Half of the row is in, so that one sees what it does.
	zone.Edit("position").Own = scene.Pt(math.Round((low[0]+high[0])/2), math.Round(middle[1]), math.Round(middle[2]))
	r.Add(zone, 0)
	// A zone goes by where items stand without their links. Those that a link has placed are met where it puts them.
	placed := slices.ContainsFunc(items, func(item *scene.Item) bool { return c.Moved(item, item.Spec("position")) })
	for _, s := range []struct{ field, property, start string }{
		{"scale", "scale", "below * (%s / 100)"}, {"rotation", "rotation", "below + %s"},
		{"rise", "position", "below - [0, %s, 0]"}, {"opacity", "opacity", "below * (%s / 100)"},
	} {
		if _, ok := v[s.field]; !ok {
			continue
		}
		members, err := rowOf(items, s.property)
		if err != nil {
			continue
		}
		start := fmt.Sprintf(s.start, v.text(s.field))
		if !placed {
			r.Row(zone.Name+": "+s.property, members, s.property, fmt.Sprintf("mix(%s, below, zone({@%s}))", start, zone.ID))
			continue
		}
		own := "{self:@position}"
		if s.property == "position" {
			own = "below"
		}
		byHold(items, own, func(items []*scene.Item, here string) {
			if members, err := rowOf(items, s.property); err == nil {
				r.Row(zone.Name+": "+s.property, members, s.property, fmt.Sprintf("%smix(%s, below, zone({@%s}, here))", here, start, zone.ID))
			}
		})
	}
	if len(r.Ops) == 1 {
		return gesture.Result{}, fmt.Errorf("choose at least one property to start from elsewhere")
	}
	r.Note = fmt.Sprintf("drag %s along, or pin its position", zone.Name)
	if placed {
		r.Note += "; it meets the items where their links put them"
	}
	return r.Result, nil
}
