package gesture

import (
	"fmt"
	"math"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
)

// SweepIn lets a row of items come in as a zone passes over them: each from a start state to what it is, by the strength of the
// zone. It makes the zone, and a link on the row for each property that has a start.
type SweepIn struct {
	Items []scene.ID `json:"items"`
	// Where they start, in the unit of the property; absent: that property is left alone.
	Scale    *float64 `json:"scale,omitempty"`    // percent of their own
	Rotation *float64 `json:"rotation,omitempty"` // degrees besides their own
	Rise     *float64 `json:"rise,omitempty"`     // pixels below their place
	Opacity  *float64 `json:"opacity,omitempty"`  // percent of their own
	Falloff  float64  `json:"falloff,omitempty"`  // pixels; 0: a third of the width of the row
	Curve    int      `json:"curve,omitempty"`    // of the catalogue's curves of zones
}

// start is what a property is where the zone does not reach, as a formula of what is below the link.
type start struct {
	key, text string
	at        *float64
}

// Do returns the operations that make the zone and the links.
func (g *SweepIn) Do(c *Context) (Result, error) {
	if len(g.Items) == 0 {
		return Result{}, fmt.Errorf("select the items to sweep in first")
	}
	if g.Curve < 0 || g.Curve >= len(scene.ZoneCurves) || !(g.Falloff >= 0) {
		return Result{}, fmt.Errorf("choose a curve and a falloff of 0 or more")
	}
	starts := []start{
		{"scale", "below * (%s / 100)", g.Scale}, {"rotation", "below + %s", g.Rotation},
		{"position", "below - [0, %s, 0]", g.Rise}, {"opacity", "below * (%s / 100)", g.Opacity},
	}
	lo, hi, y, z := math.Inf(1), math.Inf(-1), 0.0, 0.0
	for _, id := range g.Items {
		if _, err := c.item(id); err != nil {
			return Result{}, err
		}
		at := c.Plan.Derived(c.Plan.Layout.Index(id), "worldPosition")
		lo, hi = min(lo, at.At(0)), max(hi, at.At(0))
		y, z = y+at.At(1)/float64(len(g.Items)), z+at.At(2)/float64(len(g.Items))
	}
	falloff := g.Falloff
	if falloff == 0 {
		falloff = math.Round(max(100, (hi-lo)/3))
	}
	zone := &scene.Item{ID: c.NewID(), Name: freeName("Sweep", c.itemNames()), Kind: scene.Zone}
	zone.Edit("zoneShape").Own = scene.Num(halfPlane)
	zone.Edit("falloff").Own, zone.Edit("zoneCurve").Own = scene.Num(falloff), scene.Num(float64(g.Curve))
	// Half of the row is in, so that one sees what it does.
	zone.Edit("position").Own = scene.Pt(math.Round((lo+hi)/2), math.Round(y), math.Round(z))
	r := Result{Ops: change.Ops{&change.ItemAdd{In: c.in(), Value: zone, At: 0}}, Made: []scene.ID{zone.ID}}
	for _, s := range starts {
		if s.at == nil {
			continue
		}
		var members []scene.ID
		for _, id := range g.Items {
			if spec := c.Composition.Item(id).Spec(s.key); spec != nil && !spec.ReadOnly {
				members = append(members, id)
			}
		}
		if len(members) == 0 {
			continue
		}
		text := fmt.Sprintf("mix("+s.text+", below, zone({@%s}))", written64(*s.at), zone.ID)
		link := &scene.Link{ID: c.NewID(), Kind: scene.Formula, Gain: 1, Formula: text}
		r.Ops = append(r.Ops, &change.RosterLinkAdd{In: c.in(), At: -1, Value: &scene.RosterLink{
			ID: c.NewID(), Name: clipName(zone.Name + ": " + s.key), Roster: scene.Roster{Kind: scene.Picked, Items: members}, Property: s.key, Link: link,
		}})
	}
	if len(r.Ops) == 1 {
		return Result{}, fmt.Errorf("choose at least one property to start from elsewhere")
	}
	r.Note = fmt.Sprintf("drag %s along, or pin its position", zone.Name)
	return r, nil
}

// halfPlane is the shape of a zone that reaches from its line to the left without an end.
const halfPlane = 3

// written64 writes a number as formulas have it.
func written64(x float64) string {
	if x < 0 {
		return "(" + scene.Exact(x) + ")"
	}
	return scene.Exact(x)
}
