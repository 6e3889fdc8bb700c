package num

import "math"

// Bending curls what lies along an axis into an arc: of a strip from -Half to Half, Extent of the
// length is curled by Angle degrees altogether, and the rest goes on straight. The point at Fixed
// (-1 the start, 0 the middle, 1 the end) stays as it is, and so does the direction there.
type Bending struct {
	Half, Angle, Extent, Fixed float64
}

// None reports whether the bend leaves everything where it is: no angle, no extent, or nothing to bend over.
func (b *Bending) None() bool { return b.Angle == 0 || b.Extent <= 0 || b.Half <= 0 }

// At returns where a point goes that lies s along the axis and t across it.
func (b *Bending) At(s, t float64) (along, across float64) {
	if b.None() {
		return s, t
	}
	origin := float64(b.Half * b.Fixed)
	zone := float64(2 * b.Half * b.Extent)
	lo, hi := 0.0, zone // of the curled part, from the fixed point
	switch {
	case b.Fixed == 0:
		lo, hi = -zone/2, zone/2
	case b.Fixed > 0:
		lo, hi = -zone, 0
	}
	d := s - origin
	curled := Clamp(d, lo, hi)
	turn := float64(b.Angle*curled) / zone // degrees
	radius := zone / (b.Angle * math.Pi / 180)
	sin, cos := SinCos(turn)
	rest := d - curled
	along = origin + float64(radius*sin) + float64(rest*cos) - float64(t*sin)
	across = float64(radius*(1-cos)) + float64(rest*sin) + float64(t*cos)
	return along, across
}
