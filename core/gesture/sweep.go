package gesture

import (
	"fmt"
	"math"

	"wunderkammer/core/change"
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
	lo, hi, y, z := math.Inf(1), math.Inf(-1), 0.0, 0.0
	for _, item := range items {
		at := c.Plan.Derived(c.Plan.Layout.Index(item.ID), "worldPosition")
		lo, hi = min(lo, at.At(0)), max(hi, at.At(0))
		y, z = y+at.At(1)/float64(len(items)), z+at.At(2)/float64(len(items))
	}
	zone := &scene.Item{ID: c.NewID(), Name: freeName("Sweep", c.itemNames()), Kind: scene.Zone}
	zone.Edit("zoneShape").Own = scene.Num(halfPlane)
	zone.Edit("falloff").Own, zone.Edit("zoneCurve").Own = scene.Num(v["falloff"]), scene.Num(v["curve"])
	// Half of the row is in, so that one sees what it does.
	zone.Edit("position").Own = scene.Pt(math.Round((lo+hi)/2), math.Round(y), math.Round(z))
	r := Result{Ops: change.Ops{&change.ItemAdd{In: c.in(), Value: zone, At: 0}}, Made: []scene.ID{zone.ID}}
	for _, s := range []struct{ field, property, start string }{
		{"scale", "scale", "below * (%s / 100)"}, {"rotation", "rotation", "below + %s"},
		{"rise", "position", "below - [0, %s, 0]"}, {"opacity", "opacity", "below * (%s / 100)"},
	} {
		if _, ok := v[s.field]; !ok {
			continue
		}
		var members []scene.ID
		for _, item := range items {
			if item.Spec(s.property) != nil {
				members = append(members, item.ID)
			}
		}
		if len(members) == 0 {
			continue
		}
		text := fmt.Sprintf("mix("+s.start+", below, zone({@%s}))", v.text(s.field), zone.ID)
		r.Ops = append(r.Ops, &change.RosterLinkAdd{In: c.in(), At: -1, Value: &scene.RosterLink{
			ID: c.NewID(), Name: clipName(zone.Name + ": " + s.property), Roster: scene.Roster{Kind: scene.Picked, Items: members}, Property: s.property,
			Link: &scene.Link{ID: c.NewID(), Kind: scene.Formula, Gain: 1, Formula: text},
		}})
	}
	if len(r.Ops) == 1 {
		return Result{}, fmt.Errorf("choose at least one property to start from elsewhere")
	}
	r.Note = fmt.Sprintf("drag %s along, or pin its position", zone.Name)
	return r, nil
}
