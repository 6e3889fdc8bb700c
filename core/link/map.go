package link

import (
	"fmt"
	"slices"

	"wunderkammer/core/scene"
)

// A map gives what stands at its source between stops.
func init() {
	register(&Kind{
		Key: scene.Map, Name: "Map", Sourced: true, Stops: true,
		Check:    checkStops,
		Fits:     mapFits,
		Response: func(l *scene.Link, _ *scene.Composition) *Response { return &Response{l.Stops, l.Beyond} },
		Hints: func(l *scene.Link, s *Sight) []Fault {
			if !slices.ContainsFunc(l.Stops, func(stop scene.MapStop) bool { return stop.Out != l.Stops[0].Out }) {
				return []Fault{{Sentence: "this map is flat; set its low and high stops"}}
			}
			if stretched, sentence, label := Stretched(l.Stops, s.Composition, l.Source); stretched != nil {
				return []Fault{{Sentence: "the map " + sentence, Mends: []Mend{{label, func(l *scene.Link) { l.Stops = stretched }}}}}
			}
			return nil
		},
		Idle: func(l *scene.Link, s *Sight) (string, bool) {
			x := s.Value(l.Source).At(0)
			if !level(l.Stops, l.Beyond, x) {
				return "", false
			}
			return fmt.Sprintf("the map is flat around %s of %s", scene.Exact(x), s.Composition.NameOf(l.Source)), false
		},
	})
}

// Stretched returns the stops of a map as they are over the whole range of the control that it looks at, where they lie beside
// that range, or all but: after its unit or range was changed, mostly. The sentence says so behind the name of the map, and the
// label names the way out.
func Stretched(stops []scene.MapStop, c *scene.Composition, source scene.Ref) (stretched []scene.MapStop, sentence, label string) {
	item := c.Item(source.Item)
	if item == nil || item.Control(scene.ID(source.Property)) == nil || item.Spec(source.Property) == nil {
		return nil, "", ""
	}
	spec := item.Spec(source.Property)
	lo, hi, first, last := spec.SoftMin, spec.SoftMax, stops[0].In, stops[len(stops)-1].In
	const far = 4 // times the range
	if hi <= lo || first < hi && last > lo && last-first <= far*(hi-lo) && last-first > (hi-lo)/(10*far) {
		return nil, "", ""
	}
	for _, stop := range stops {
		stop.In = lo + float64((stop.In-first)*(hi-lo))/(last-first)
		stretched = append(stretched, stop)
	}
	if scene.CheckMapStops(stretched, scene.HoldEnds, stops[0].Out.Kind()) != nil {
		return nil, "", ""
	}
	unit := ""
	if spec.Unit != "" {
		unit = " " + string(spec.Unit)
	}
	over := fmt.Sprintf("%s to %s%s", scene.Exact(lo), scene.Exact(hi), unit)
	return stretched, fmt.Sprintf("has stops from %s to %s, and %s runs from %s", scene.Exact(first), scene.Exact(last), c.NameOf(source), over), "stretch its stops to " + over
}

func checkStops(l *scene.Link, target *scene.Spec) error {
	out := target.Type
	if l.Component != "" {
		out = scene.Number
	}
	return scene.CheckMapStops(l.Stops, l.Beyond, out)
}

// mapFits lets one number fill every component; where a source is more than one number, it says so.
func mapFits(source *scene.Spec, sourceComponent string, target *scene.Spec, targetComponent string) (Fit, error) {
	from, to, err := parts(source, sourceComponent, target, targetComponent)
	switch {
	case err != nil:
		return Fit{}, err
	case target.ReadOnly:
		return Fit{}, readOnly(target)
	case from.Size() > 1 || from == scene.Text:
		hint := ""
		if from != scene.Text {
			hint = oneOf(from)
		}
		return Fit{}, fmt.Errorf("the input of a map is one number, but %s is a %s%s", source.Name, from.Word(), hint)
	}
	return Fit{Gain: 1, Parts: make([]int, to.Size()), Note: "nothing changes until you set its stops"}, nil
}

// level reports whether a map gives the same on both sides of an input.
func level(stops []scene.MapStop, beyond scene.Beyond, x float64) bool {
	last := len(stops) - 1
	if x < stops[0].In || x > stops[last].In {
		return beyond == scene.HoldEnds
	}
	for n := 1; n <= last; n++ {
		if x <= stops[n].In && x >= stops[n-1].In {
			return stops[n].Out == stops[n-1].Out
		}
	}
	return false
}
