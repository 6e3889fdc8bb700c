package scene

import (
	"fmt"

	"wunderkammer/core/curve"
)

// CheckPins refuses pins that are out of order, doubled, or hold what the property cannot.
func CheckPins(spec *Spec, pins []Pin) error {
	if len(pins) > MaxPins {
		return fmt.Errorf("%s would have %d pins; at most %d are kept", spec.Name, len(pins), MaxPins)
	}
	for i, p := range pins {
		if p.Frame < -MaxFrames || p.Frame > MaxFrames {
			return fmt.Errorf("frame %d of a pin lies outside of any composition", p.Frame)
		}
		if i > 0 && p.Frame <= pins[i-1].Frame {
			return fmt.Errorf("the pins of %s are not in order at frame %d", spec.Name, p.Frame)
		}
		if err := p.Easing.Check(); err != nil {
			return fmt.Errorf("%s at frame %d: %w", spec.Name, p.Frame, err)
		}
		if err := p.Value.Fits(spec.Type); err != nil {
			return fmt.Errorf("%s at frame %d: %w", spec.Name, p.Frame, err)
		}
		for _, handle := range []Value{p.Lead, p.Arrive} {
			if handle.Absent() {
				continue
			}
			if !spec.Pathable() {
				return fmt.Errorf("%s at frame %d has a handle, but is not a point that moves along a path", spec.Name, p.Frame)
			}
			if err := handle.Fits(spec.Type); err != nil {
				return fmt.Errorf("a handle of %s at frame %d: %w", spec.Name, p.Frame, err)
			}
		}
	}
	return nil
}

func (l Limits) check(name string) error {
	for _, x := range []*float64{l.Min, l.Max} {
		if x != nil {
			if err := Num(*x).Fits(Number); err != nil {
				return fmt.Errorf("limit of %s: %w", name, err)
			}
		}
	}
	if l.Min != nil && l.Max != nil && *l.Min > *l.Max {
		return fmt.Errorf("the limits of %s cross: %g is above %g", name, *l.Min, *l.Max)
	}
	return nil
}

// CheckState refuses a state that the property cannot hold.
func CheckState(spec *Spec, s *State) error {
	if !s.Own.Absent() {
		if err := s.Own.Fits(spec.Type); err != nil {
			return fmt.Errorf("%s: %w", spec.Name, err)
		}
	}
	if err := CheckPins(spec, s.Pins); err != nil {
		return err
	}
	if !s.Beyond.Valid() || s.Beyond == curve.Onward && spec.Jumps() {
		return fmt.Errorf("%s can't go on as %q behind its last pin; use repeat, mirror or, for numbers, onward", spec.Name, Clip(string(s.Beyond)))
	}
	if err := (Limits{s.Min, s.Max}).check(spec.Name); err != nil {
		return err
	}
	for part, l := range s.Limits {
		if _, ok := spec.Type.Component(part); !ok || part == "" {
			return fmt.Errorf("%s has no component %s that could be limited", spec.Name, Clip(part))
		}
		if l.Min == nil && l.Max == nil {
			return fmt.Errorf("%s.%s has empty limits", spec.Name, part)
		}
		if err := l.check(spec.Name + "." + part); err != nil {
			return err
		}
	}
	if len(s.Links) > MaxLinks {
		return fmt.Errorf("%s would have %d links; at most %d are kept on one property", spec.Name, len(s.Links), MaxLinks)
	}
	for _, l := range s.Links {
		if err := l.Check(spec); err != nil {
			return err
		}
	}
	return s.Baked.check(spec)
}
