package scene

import (
	"math"
	"slices"

	"wunderkammer/core/curve"
)

// Through returns the pin with its value sent through a function, and its handles taken along.
func (p Pin) Through(f func(Value) Value) Pin {
	at := p.Value
	p.Value = f(at)
	for _, handle := range []*Value{&p.Lead, &p.Arrive} {
		if handle.Absent() {
			continue
		}
		there := f(at.Plus(*handle, 1))
		if *handle = there.Plus(p.Value, -1); handle.Len() < 2 {
			*handle = Value{}
		}
	}
	return p
}

// Pathed reports whether pins make a path in space.
func Pathed(pins []Pin) bool {
	return slices.ContainsFunc(pins, func(p Pin) bool { return !p.Lead.Absent() || !p.Arrive.Absent() })
}

// Tracks returns how all components of a property move through pins, as Track does for one. Where the pins make a path, they share it.
func (s *Spec) Tracks(pins []Pin, number func(Value) float64) []curve.Track {
	if !s.Pathable() || !Pathed(pins) {
		out := make([]curve.Track, s.Type.Size())
		for part := range out {
			out[part] = s.Track(pins, part, number)
		}
		return out
	}
	n := len(pins)
	frames, easings := make([]float64, n), make([]curve.Easing, n)
	values, leads, arrives := make([][]float64, n), make([][]float64, n), make([][]float64, n)
	for i, pin := range pins {
		frames[i], easings[i] = float64(pin.Frame), pin.Easing
		values[i], leads[i], arrives[i] = pin.Value.Nums(), pin.Lead.Nums(), pin.Arrive.Nums()
	}
	return curve.Along(frames, values, leads, arrives, easings)
}

// Pathable reports whether pins of the property can make a path in space.
func (s *Spec) Pathable() bool { return s.Type == Point2 || s.Type == Point3 }

// Rounded returns a pin with handles that let the path run smoothly through it: along the line from the pin before to the one behind,
// each a third as long as the way to its neighbour. At an end of the path, where there is one neighbour, it points toward that one's handle.
func Rounded(pins []Pin, k int) Pin {
	pin := pins[k]
	pin.Lead, pin.Arrive = roundedAt(pins, k)
	switch {
	case len(pins) < 2:
	case k == 0:
		_, arrive := roundedAt(pins, 1)
		pin.Lead = pins[1].Value.Plus(arrive, 1).Plus(pin.Value, -1).Times(1.0 / 3)
	case k == len(pins)-1:
		lead, _ := roundedAt(pins, k-1)
		pin.Arrive = pins[k-1].Value.Plus(lead, 1).Plus(pin.Value, -1).Times(1.0 / 3)
	}
	return pin
}

// roundedAt returns the handles of a pin that has one on either side; absent at the ends.
func roundedAt(pins []Pin, k int) (lead, arrive Value) {
	if k == 0 || k == len(pins)-1 {
		return lead, arrive
	}
	at, before, behind := pins[k].Value, pins[k-1].Value, pins[k+1].Value
	along := behind.Plus(before, -1)
	if long := Far(along); long > 0 {
		lead = along.Times(Far(behind.Plus(at, -1)) / (3 * long))
		arrive = along.Times(-Far(before.Plus(at, -1)) / (3 * long))
	}
	return lead, arrive
}

// Far returns how long a vector is.
func Far(v Value) float64 {
	sum := 0.0
	for i := range v.Len() {
		sum += float64(v.At(i) * v.At(i))
	}
	return math.Sqrt(sum)
}
