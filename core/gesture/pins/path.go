package pins

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// BendPath lets points move along a smooth path through their pins, or straight from pin to pin again. How they are eased stays, and
// is their speed along it.
type BendPath struct {
	Targets  []scene.Ref `json:"targets"`
	Straight bool        `json:"straight,omitempty"`
}

// Do returns the operations that give the pins handles, or take these away.
func (g *BendPath) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	for _, ref := range g.Targets {
		item, spec, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
		}
		pins := slices.Clone(item.State(spec.Key).Pins)
		if !spec.Pathable() || len(pins) < 2 {
			continue
		}
		for k := range pins {
			if pins[k].Lead, pins[k].Arrive = (scene.Value{}), (scene.Value{}); !g.Straight {
				pins[k] = scene.Rounded(pins, k)
			}
		}
		put := &change.PinsPut{Of: c.Of(item.ID, spec.Key), Pins: pins}
		r.Ops, r.Pins = append(r.Ops, put), append(r.Pins, at(put.Of, pins)...)
	}
	if len(r.Ops) == 0 {
		return r, fmt.Errorf("a path runs through two pins or more of a point; pin a position at another frame first")
	}
	return r, nil
}

// Which part of a pin on a path a hand has.
const (
	PathPlace  = "place"
	PathLead   = "lead"
	PathArrive = "arrive"
	PathBoth   = "both" // the leading handle, and the arriving one against it
)

// ShapePath moves a pin of a point that moves along a path, or one of its handles. The handle on the other side turns along, so that
// the path stays smooth, and keeps its length.
type ShapePath struct {
	Pin   gesture.PinAt `json:"pin"`
	Part  string        `json:"part" ts:"\"place\" | \"lead\" | \"arrive\" | \"both\""`
	To    scene.Value   `json:"to"`              // the value of the pin, or the handle as a vector from it
	At    *[3]float64   `json:"at"`              // where the hand is in the composition instead, for the position of an item or a control
	Alone bool          `json:"alone,omitempty"` // the other handle stays as it is
}

// Do returns the operation that alters the pin.
func (g *ShapePath) Do(c *gesture.Context) (gesture.Result, error) {
	groups, err := gather(c, []gesture.PinAt{g.Pin})
	if err != nil {
		return gesture.Result{}, err
	}
	p := groups[0]
	if !p.spec.Pathable() {
		return gesture.Result{}, fmt.Errorf("%s: %s is no point that moves along a path", p.item.Name, p.spec.Name)
	}
	if g.At != nil {
		own, err := placed(c, p, *g.At)
		if err != nil {
			return gesture.Result{}, err
		}
		if g.To = own; g.Part != PathPlace {
			g.To = own.Plus(p.pins[0].Value, -1)
		}
	}
	if err := g.To.Fits(p.spec.Type); err != nil {
		return gesture.Result{}, fmt.Errorf("%s: %s: %w", p.item.Name, p.spec.Name, err)
	}
	pin := &p.pins[0]
	mine, other := &pin.Lead, &pin.Arrive // the other one follows a handle that is pulled
	switch g.Part {
	case PathPlace:
		pin.Value = g.To
		mine = nil
	case PathArrive:
		mine, other = other, mine
	case PathLead:
	case PathBoth:
		*other = g.To.Times(-1)
	default:
		return gesture.Result{}, fmt.Errorf("a pin on a path has a place, a leading and an arriving handle, no %q", scene.Clip(g.Part))
	}
	if mine != nil {
		*mine = g.To
		if long, way := scene.Far(*other), scene.Far(g.To); !g.Alone && long > 0 && way > 0 {
			*other = g.To.Times(-long / way)
		}
	}
	put := &change.PinsPut{Of: p.of, Pins: p.pins}
	return gesture.Result{Ops: change.Ops{put}, Pins: at(p.of, p.pins)}, nil
}

// placed returns the value of a point that stands at a place of the composition: of a position in the space that its item is placed
// in; a control stands there as it is.
func placed(c *gesture.Context, p *picked, at [3]float64) (scene.Value, error) {
	v := at[:]
	if p.spec.Key == "position" {
		i := c.Planned.Layout.Index(p.item.ID)
		pivot := c.Plan().Derived(i, "worldPosition")
		way, err := c.Within(i, [3]float64{at[0] - pivot.At(0), at[1] - pivot.At(1), at[2] - pivot.At(2)})
		if err != nil {
			return scene.Value{}, err
		}
		now := c.Value(p.item, "position")
		v = []float64{now.At(0) + way[0], now.At(1) + way[1], now.At(2) + way[2]}
	}
	return scene.NewValue(v[:p.spec.Type.Size()]), nil
}
