package gesture

import (
	"fmt"
	"math"

	"wunderkammer/core/scene"
)

// halfPlane is the shape of a zone that reaches from its line to the left without an end.
const halfPlane = 3

// sweepIn lets a row of items come in as a zone passes over them: each from a start state to what it is, by the strength of the
// zone. It makes the zone, and a link on the row for each property that has a start.
func sweepIn(c *Context, items []*scene.Item, v values) (Result, error) {
	if v["falloff"] < 0 {
		return Result{}, fmt.Errorf("a falloff is 0 or more")
	}
	low, high, middle := c.bounds(items)
	r := newRig(c)
	zone := r.item(scene.Zone, "Sweep")
	zone.Edit("zoneShape").Own = scene.Num(halfPlane)
	zone.Edit("falloff").Own, zone.Edit("zoneCurve").Own = scene.Num(v["falloff"]), scene.Num(v["curve"])
	// Half of the row is in, so that one sees what it does.
	zone.Edit("position").Own = scene.Pt(math.Round((low[0]+high[0])/2), math.Round(middle[1]), math.Round(middle[2]))
	r.add(zone, 0)
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
		text := fmt.Sprintf("mix("+s.start+", below, zone({@%s}))", v.text(s.field), zone.ID)
		r.row(zone.Name+": "+s.property, members, s.property, text)
	}
	if len(r.Ops) == 1 {
		return Result{}, fmt.Errorf("choose at least one property to start from elsewhere")
	}
	r.Note = fmt.Sprintf("drag %s along, or pin its position", zone.Name)
	return r.Result, nil
}
