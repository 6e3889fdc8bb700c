package wiring

import (
	"math"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// ToMap makes maps of follow links, with the two stops that give what the links gave over the range of their sources, or further,
// as far as these reach now or by their pins. Beyond it a map holds, as every new one does.
type ToMap struct {
	Targets []scene.Ref `json:"targets"`
	Link    scene.ID    `json:"link"` // of the first target; those of the others that are alike with it become maps, too
	// RosterLink is a link on a row, in place of targets.
	RosterLink scene.ID `json:"spread,omitempty"`
}

// Do returns the operations that alter the links.
func (g *ToMap) Do(c *gesture.Context) (gesture.Result, error) {
	if g.RosterLink != "" {
		return alterRow(c, g.RosterLink, func(l *scene.Link, source, target *scene.Spec) (*scene.Link, error) {
			return Mapped(c, l, source, target)
		})
	}
	var r gesture.Result
	alike := link.Alike(c.Composition, g.Targets, g.Link)
	for k, ref := range g.Targets {
		item, spec, err := c.Property(scene.Ref{Item: ref.Item, Property: ref.Property})
		if err != nil {
			return gesture.Result{}, err
		}
		if alike[k] == nil || !link.Of(alike[k]).Linear {
			continue
		}
		_, source, err := c.Property(alike[k].Source)
		if err != nil {
			return gesture.Result{}, err
		}
		l, err := Mapped(c, alike[k], source, spec)
		if err != nil {
			return gesture.Result{}, err
		}
		r.Ops = append(r.Ops, &change.LinkSet{Of: c.Of(item.ID, spec.Key), Link: l})
	}
	return r, nil
}

// Mapped returns the map that does what a follow link does, as far as its source reaches.
func Mapped(c *gesture.Context, l *scene.Link, source, target *scene.Spec) (*scene.Link, error) {
	out := l.Clone()
	out.Kind, out.Gain, out.Offset, out.Offsets = scene.Map, 1, 0, nil
	fit, err := link.Of(out).Fits(source, l.Source.Component, target, l.Component)
	if err != nil {
		return nil, err
	}
	lo, hi := Ends(source)
	reach := func(v scene.Value) {
		if v.Len() > 0 {
			lo, hi = min(lo, v.At(0)), max(hi, v.At(0))
		}
	}
	reach(c.Plan().Value(l.Source))
	if on := c.Composition.Item(l.Source.Item); on != nil {
		from, _ := source.Type.Component(l.Source.Component)
		for _, pin := range on.State(source.Key).Pins {
			reach(scene.Num(pin.Value.At(from)))
		}
	}
	for _, x := range []float64{lo, hi} {
		stop := scene.MapStop{In: x, Easing: curve.Linear}
		y := make([]float64, len(fit.Parts))
		for k := range y {
			y[k] = float64(x*l.Gain) + l.Offset + l.Offsets.At(k)
			if target.Type == scene.Colour {
				y[k] = math.Max(0, math.Min(1, y[k]))
			}
		}
		stop.Out = scene.NewValue(y)
		if target.Jumps() {
			stop.Easing = curve.Hold
		}
		out.Stops = append(out.Stops, stop)
	}
	return out, nil
}

// Ends returns the range of a source, or 0 to 100 where it has none.
func Ends(source *scene.Spec) (lo, hi float64) {
	if source.SoftMax <= source.SoftMin {
		return 0, 100
	}
	return source.SoftMin, source.SoftMax
}
