package scene

import (
	"cmp"
	"fmt"
	"slices"

	"wunderkammer/core/curve"
)

// MaxPoses bounds the stops of a control of poses.
const MaxPoses = 100

// Held is the value that a link of poses gives at a stop of its control.
type Held struct {
	Stop  ID    `json:"stop"`
	Value Value `json:"value"`
}

// CanPose reports whether a kind of control can be given poses.
func (w Widget) CanPose() bool { return w == Fader || w == ChoiceWidget || w == SwitchWidget }

// PoseAt returns where the control stands at its stop k.
func (c *Control) PoseAt(k int) float64 {
	if c.Kind == Fader {
		return c.Poses[k].At
	}
	return float64(k)
}

// Pose returns the stop with an id and its place in the list, or -1.
func (c *Control) Pose(id ID) int {
	return slices.IndexFunc(c.Poses, func(s PoseStop) bool { return s.ID == id })
}

// SetPoses gives the control stops: those of a fader by rising place, those of a choice as its options.
func (c *Control) SetPoses(stops []PoseStop) {
	c.Poses = slices.Clone(stops)
	switch c.Kind {
	case Fader:
		slices.SortStableFunc(c.Poses, func(a, b PoseStop) int { return cmp.Compare(a.At, b.At) })
	case ChoiceWidget:
		c.Options = nil
		for _, s := range c.Poses {
			c.Options = append(c.Options, s.Name)
		}
	}
}

// checkPoses refuses stops that the control could not come to.
func (c *Control) checkPoses() error {
	if len(c.Poses) == 0 {
		return nil
	}
	switch {
	case !c.Kind.CanPose():
		return fmt.Errorf("%s is a %s; only a fader, a choice or a switch can have poses", c.Name, c.Kind)
	case len(c.Poses) < 2 || len(c.Poses) > MaxPoses:
		return fmt.Errorf("%s would have %d stops; a control of poses has 2 to %d", c.Name, len(c.Poses), MaxPoses)
	case c.Kind == SwitchWidget && len(c.Poses) != 2:
		return fmt.Errorf("%s is a switch, which has two stops: off and on", c.Name)
	case c.Kind == ChoiceWidget && len(c.Poses) != len(c.Options):
		return fmt.Errorf("%s needs a stop for each of its %d options", c.Name, len(c.Options))
	}
	seen := map[ID]bool{}
	for k, s := range c.Poses {
		if err := CheckID(s.ID); err != nil {
			return err
		}
		if seen[s.ID] {
			return fmt.Errorf("%s: two stops have the id %q", c.Name, s.ID)
		}
		seen[s.ID] = true
		if err := CheckName(s.Name); err != nil {
			return fmt.Errorf("a stop of %s: %w", c.Name, err)
		}
		if c.Kind == ChoiceWidget && s.Name != c.Options[k] {
			return fmt.Errorf("%s: the stop %s stands for the option %s and needs its name", c.Name, s.Name, c.Options[k])
		}
		if err := Num(s.At).Fits(Number); err != nil {
			return fmt.Errorf("the stop %s: %w", s.Name, err)
		}
		if !s.Easing.Plain() {
			return fmt.Errorf("%q is not an easing; use hold, linear or smooth", Clip(string(s.Easing)))
		}
		if c.Kind == Fader && k > 0 && s.At <= c.Poses[k-1].At {
			return fmt.Errorf("the stops %s and %s of %s are both at %s; move one of them", c.Poses[k-1].Name, s.Name, c.Name, Exact(s.At))
		}
	}
	return nil
}

// Posed returns the stops of the map that a link of poses is, over those stops of its control that it holds a value for.
func (c *Control) Posed(held []Held) []MapStop {
	by := make(map[ID]Value, len(held))
	for _, h := range held {
		by[h.Stop] = h.Value
	}
	var out []MapStop
	for k, s := range c.Poses {
		v, ok := by[s.ID]
		if !ok {
			continue
		}
		easing := s.Easing
		if c.Kind != Fader {
			easing = curve.Hold
		}
		out = append(out, MapStop{In: c.PoseAt(k), Out: v, Easing: easing})
	}
	return out
}

// Hold gives the link a value at a stop, in the place of what it held there.
func (l *Link) Hold(stop ID, v Value) {
	for k := range l.Held {
		if l.Held[k].Stop == stop {
			l.Held[k].Value = v
			return
		}
	}
	l.Held = append(l.Held, Held{stop, v})
}

// MakeRoom forgets what the link holds at stops that its control no longer has, where it could hold no more.
func (l *Link) MakeRoom(control *Control) {
	if len(l.Held) >= MaxPoses {
		l.Held = slices.DeleteFunc(l.Held, func(h Held) bool { return control.Pose(h.Stop) < 0 })
	}
}

// HeldAt returns the value that the link holds at a stop; false where it holds none, so that its neighbours decide.
func (l *Link) HeldAt(stop ID) (Value, bool) {
	for _, h := range l.Held {
		if h.Stop == stop {
			return h.Value, true
		}
	}
	return Value{}, false
}
