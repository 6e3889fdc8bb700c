package pins

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// Bake turns what drives properties into pins over a range of frames. The links are switched off and
// kept; of a link on a roster, the item opts out.
type Bake struct {
	Targets []scene.Ref `json:"targets"`
	From    int         `json:"from"`
	To      int         `json:"to"`
	// Tolerance is how far a value may lie off the baked one, in the property's unit; with it, pins
	// that are not needed are left out.
	Tolerance float64 `json:"tolerance"`
	// Series is what the properties are over the range, where that was worked out before.
	Series [][]float64 `json:"-"`
}

// Check refuses a range that ends before it begins, is too long, or lies too far off the composition.
func (g *Bake) Check(c *scene.Composition) error {
	switch {
	case g.To < g.From || !(g.Tolerance >= 0):
		return fmt.Errorf("the range to bake ends before it starts, or the tolerance is below 0")
	case g.To-g.From >= scene.MaxPins:
		return fmt.Errorf("the range to bake has %d frames; one property can have at most %d pins", g.To-g.From+1, scene.MaxPins)
	case !c.Reaches(float64(g.From)) || !c.Reaches(float64(g.To)):
		return fmt.Errorf("the range to bake is too far outside the composition, which has frames 0 to %d", c.Frames-1)
	}
	return nil
}

// Refs returns the properties that are baked, whole.
func (g *Bake) Refs() []scene.Ref {
	refs := make([]scene.Ref, len(g.Targets))
	for i, ref := range g.Targets {
		refs[i] = scene.Ref{Item: ref.Item, Property: ref.Property}
	}
	return refs
}

// Do returns the operations that set the pins and switch the links off.
func (g *Bake) Do(c *gesture.Context) (gesture.Result, error) {
	if err := g.Check(c.Composition); err != nil {
		return gesture.Result{}, err
	}
	refs, series := g.Refs(), g.Series
	if series == nil {
		series = c.Planned.Series(refs, float64(g.From), float64(g.To), g.To-g.From+1)
	}
	var r gesture.Result
	made := 0
	rosterLinks := map[scene.ID]*scene.RosterLink{}
	for i, ref := range refs {
		item, spec, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
		}
		if spec.ReadOnly || spec.Type == scene.Text || !c.Planned.Driven(ref.Item, ref.Property) {
			return gesture.Result{}, fmt.Errorf("%s: nothing drives %s, so there is nothing to bake", item.Name, spec.Name)
		}
		of := c.Of(item.ID, spec.Key)
		state := item.State(spec.Key)
		away := state.Baked.Clone()
		if away == nil {
			away = &scene.Baked{Pins: slices.Clone(state.Pins)}
		}
		pins := bakedPins(spec, series[i], g.From, g.Tolerance)
		made += len(pins)
		r.Ops = append(r.Ops, &change.PinsPut{Of: of, Pins: pins, Drop: framesOf(state.Pins)})
		for _, l := range state.Links {
			if !l.Off {
				off := l.Clone()
				off.Off = true
				r.Ops = append(r.Ops, &change.LinkSet{Of: of, Link: off})
				away.Links = append(away.Links, l.ID)
			}
		}
		for _, s := range c.Composition.RosterLinksOn(item, spec.Key) {
			if rosterLinks[s.ID] == nil {
				rosterLinks[s.ID] = s.Clone()
			}
			rosterLinks[s.ID].Out = append(rosterLinks[s.ID].Out, scene.Member{Item: item, Key: spec.Key}.ID())
			away.Rows = append(away.Rows, s.ID)
		}
		r.Ops = append(r.Ops, &change.BakedSet{Of: of, Value: away})
	}
	for _, s := range c.Composition.RosterLinks {
		if altered := rosterLinks[s.ID]; altered != nil {
			r.Ops = append(r.Ops, &change.RosterLinkSet{In: c.In(), Value: altered})
		}
	}
	r.Note = fmt.Sprintf("created %d pins; the links are turned off, not deleted", made)
	return r, nil
}

func framesOf(pins []scene.Pin) []int {
	frames := make([]int, len(pins))
	for k, p := range pins {
		frames[k] = p.Frame
	}
	return frames
}

// UndoBake takes the pins of a bake away, whatever became of them, and switches on again what it switched off.
type UndoBake struct {
	Targets []scene.Ref `json:"targets"`
}

// Do returns the operations that bring back the links, and the pins that stood there before.
func (g *UndoBake) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	rows := map[scene.ID]*scene.RosterLink{}
	for _, ref := range g.Targets {
		item, spec, err := c.Property(scene.Ref{Item: ref.Item, Property: ref.Property})
		if err != nil {
			return gesture.Result{}, err
		}
		state := item.State(spec.Key)
		away := state.Baked
		if away == nil {
			continue
		}
		of := c.Of(item.ID, spec.Key)
		r.Ops = append(r.Ops, &change.PinsPut{Of: of, Pins: away.Pins, Drop: framesOf(state.Pins)})
		for _, id := range away.Links {
			if l, _ := state.Link(id); l != nil {
				on := l.Clone()
				on.Off = false
				r.Ops = append(r.Ops, &change.LinkSet{Of: of, Link: on})
			}
		}
		for _, id := range away.Rows {
			if s, _ := c.Composition.RosterLink(id); s != nil {
				if rows[id] == nil {
					rows[id] = s.Clone()
				}
				me := scene.Member{Item: item, Key: spec.Key}.ID()
				rows[id].Out = slices.DeleteFunc(rows[id].Out, func(id scene.ID) bool { return id == me })
			}
		}
		r.Ops = append(r.Ops, &change.BakedSet{Of: of})
	}
	if len(r.Ops) == 0 {
		return gesture.Result{}, fmt.Errorf("nothing that is selected was baked")
	}
	for _, s := range c.Composition.RosterLinks {
		if altered := rows[s.ID]; altered != nil {
			if len(altered.Out) == 0 {
				altered.Out = nil
			}
			r.Ops = append(r.Ops, &change.RosterLinkSet{In: c.In(), Value: altered})
		}
	}
	return r, nil
}

// bakedPins returns the pins of a series of values, one for each frame at most.
func bakedPins(spec *scene.Spec, series []float64, from int, tolerance float64) []scene.Pin {
	size := spec.Type.Size()
	samples := make([][]float64, len(series)/size)
	for i := range samples {
		samples[i] = series[i*size : (i+1)*size]
	}
	var kept []int
	easing := curve.Linear
	if spec.Jumps() {
		easing = curve.Hold
		for i := range samples {
			if i == 0 || !slices.Equal(samples[i], samples[i-1]) {
				kept = append(kept, i)
			}
		}
	} else {
		kept = curve.Thin(samples, tolerance)
	}
	pins := make([]scene.Pin, len(kept))
	for k, i := range kept {
		pins[k] = scene.Pin{Frame: from + i, Value: scene.NewValue(samples[i]), Easing: easing}
	}
	return pins
}
