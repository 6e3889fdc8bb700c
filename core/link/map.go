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
		Response: func(l *scene.Link) *Response { return &Response{l.Stops, l.Beyond} },
		Hints: func(l *scene.Link, s *Sight) []Fault {
			if slices.ContainsFunc(l.Stops, func(stop scene.MapStop) bool { return stop.Out != l.Stops[0].Out }) {
				return nil
			}
			return []Fault{{Sentence: "the map gives the same at every value of " + s.Composition.NameOf(l.Source) + "; pose it and mark"}}
		},
		Idle: func(l *scene.Link, s *Sight) (string, bool) {
			x := s.Value(l.Source).At(0)
			if !level(l, x) {
				return "", false
			}
			return fmt.Sprintf("at %s the map from %s is flat: it gives the same on both sides", scene.Exact(x), s.Composition.NameOf(l.Source)), false
		},
	})
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
		return Fit{}, fmt.Errorf("the input of a map is one number, and %s is a %s%s", source.Name, from.Word(), hint)
	}
	return Fit{Gain: 1, Parts: make([]int, to.Size()), Note: "it stays as it is until you mark what it is to be"}, nil
}

// level reports whether a map gives the same on both sides of an input.
func level(l *scene.Link, x float64) bool {
	last := len(l.Stops) - 1
	if x < l.Stops[0].In || x > l.Stops[last].In {
		return l.Beyond == scene.HoldEnds
	}
	for n := 1; n <= last; n++ {
		if x <= l.Stops[n].In && x >= l.Stops[n-1].In {
			return l.Stops[n].Out == l.Stops[n-1].Out
		}
	}
	return false
}
