package link

import (
	"fmt"

	"wunderkammer/core/scene"
)

// A link of poses gives what it holds at the stops of its control, and what lies between: it is a map over those stops.
func init() {
	register(&Kind{
		Key: scene.Posed, Name: "Pose", Sourced: true, Posed: true,
		Check: checkHeld,
		Fits:  mapFits,
		Response: func(l *scene.Link, c *scene.Composition) *Response {
			if control := ControlOf(l, c); control != nil {
				if stops := control.Posed(l.Held); len(stops) > 0 {
					return &Response{stops, scene.HoldEnds}
				}
			}
			return nil
		},
		Broken: func(l *scene.Link, s *Sight) *Fault {
			control := ControlOf(l, s.Composition)
			switch {
			case control == nil || len(control.Poses) == 0:
				return &Fault{Sentence: s.Composition.NameOf(l.Source) + " has no poses any more", Reattach: true}
			case len(control.Posed(l.Held)) == 0:
				return &Fault{Sentence: "no stop of " + control.Name + " holds a value for it; pose one"}
			}
			return nil
		},
		Idle: func(l *scene.Link, s *Sight) (string, bool) {
			control := ControlOf(l, s.Composition)
			if control == nil {
				return "", false
			}
			stops := control.Posed(l.Held)
			x := s.Value(l.Source).At(0)
			if len(stops) == 0 || len(stops) > 1 && !level(stops, scene.HoldEnds, x) {
				return "", false
			}
			return fmt.Sprintf("it is the same at the stops of %s around %s", control.Name, scene.Exact(x)), false
		},
	})
}

// ControlOf returns the control that a link has as its source; nil where its source is another property, or is gone.
func ControlOf(l *scene.Link, c *scene.Composition) *scene.Control {
	if item := c.Item(l.Source.Item); item != nil {
		return item.Control(scene.ID(l.Source.Property))
	}
	return nil
}

func checkHeld(l *scene.Link, target *scene.Spec) error {
	out := target.Type
	if l.Component != "" {
		out = scene.Number
	}
	if len(l.Held) > scene.MaxPoses {
		return fmt.Errorf("a pose link holds at most %d values, not %d", scene.MaxPoses, len(l.Held))
	}
	seen := map[scene.ID]bool{}
	for _, h := range l.Held {
		if err := scene.CheckID(h.Stop); err != nil {
			return err
		}
		if seen[h.Stop] {
			return fmt.Errorf("%s is held twice at one stop", target.Name)
		}
		seen[h.Stop] = true
		if err := h.Value.Fits(out); err != nil {
			return fmt.Errorf("%s at a stop: %w", target.Name, err)
		}
	}
	return nil
}
