package svg

import (
	"math"
	"strings"
)

// matrix is an affine map of the plane as SVG writes it: x' = a·x + c·y + e, y' = b·x + d·y + f.
type matrix struct{ a, b, c, d, e, f float64 }

var identity = matrix{a: 1, d: 1}

// mul returns the map that applies n first.
func (m matrix) mul(n matrix) matrix {
	return matrix{
		float64(m.a*n.a) + float64(m.c*n.b), float64(m.b*n.a) + float64(m.d*n.b),
		float64(m.a*n.c) + float64(m.c*n.d), float64(m.b*n.c) + float64(m.d*n.d),
		float64(m.a*n.e) + float64(m.c*n.f) + m.e, float64(m.b*n.e) + float64(m.d*n.f) + m.f,
	}
}

func (m matrix) at(x, y float64) (float64, float64) {
	return float64(m.a*x) + float64(m.c*y) + m.e, float64(m.b*x) + float64(m.d*y) + m.f
}

// way maps a direction.
func (m matrix) way(x, y float64) (float64, float64) {
	return float64(m.a*x) + float64(m.c*y), float64(m.b*x) + float64(m.d*y)
}

func (m matrix) det() float64 { return float64(m.a*m.d) - float64(m.b*m.c) }

func (m matrix) inverse() (matrix, bool) {
	d := m.det()
	if math.Abs(d) < 1e-15 || math.IsNaN(d) || math.IsInf(d, 0) {
		return identity, false
	}
	i := matrix{a: m.d / d, b: -m.b / d, c: -m.c / d, d: m.a / d}
	i.e, i.f = -(float64(i.a*m.e) + float64(i.c*m.f)), -(float64(i.b*m.e) + float64(i.d*m.f))
	return i, true
}

// parts takes a map apart into a place, a rotation in degrees and a scale; whole says that nothing
// is left over: that its axes stand at a right angle.
func (m matrix) parts() (x, y, degrees, sx, sy float64, whole bool) {
	sx = math.Hypot(m.a, m.b)
	if sx == 0 {
		return m.e, m.f, 0, 0, math.Hypot(m.c, m.d), m.c == 0 && m.d == 0
	}
	sy = m.det() / sx
	skew := (float64(m.a*m.c) + float64(m.b*m.d)) / sx
	return m.e, m.f, math.Atan2(m.b, m.a) * 180 / math.Pi, sx, sy, math.Abs(skew) <= 1e-6*(math.Abs(sy)+sx)
}

// flipped returns the same map as it is told where y goes up.
func (m matrix) flipped() matrix { return matrix{m.a, -m.b, -m.c, m.d, m.e, -m.f} }

// flip turns y round.
var flip = matrix{a: 1, d: -1}

func translate(x, y float64) matrix { return matrix{1, 0, 0, 1, x, y} }

func rotate(degrees float64) matrix {
	s, c := math.Sincos(degrees * math.Pi / 180)
	return matrix{a: c, b: s, c: -s, d: c}
}

// transforms is the table of the functions of a transform attribute.
var transforms = map[string]func(n []float64) (matrix, bool){
	"matrix": func(n []float64) (matrix, bool) {
		if len(n) != 6 {
			return identity, false
		}
		return matrix{n[0], n[1], n[2], n[3], n[4], n[5]}, true
	},
	"translate": func(n []float64) (matrix, bool) {
		n = append(n, 0)
		return translate(n[0], n[1]), len(n) > 1
	},
	"scale": func(n []float64) (matrix, bool) {
		if len(n) == 1 {
			n = append(n, n[0])
		}
		if len(n) < 2 {
			return identity, false
		}
		return matrix{a: n[0], d: n[1]}, true
	},
	"rotate": func(n []float64) (matrix, bool) {
		switch len(n) {
		case 1:
			return rotate(n[0]), true
		case 3:
			return translate(n[1], n[2]).mul(rotate(n[0])).mul(translate(-n[1], -n[2])), true
		}
		return identity, false
	},
	"skewx": func(n []float64) (matrix, bool) {
		if len(n) != 1 {
			return identity, false
		}
		return matrix{a: 1, c: math.Tan(n[0] * math.Pi / 180), d: 1}, true
	},
	"skewy": func(n []float64) (matrix, bool) {
		if len(n) != 1 {
			return identity, false
		}
		return matrix{a: 1, b: math.Tan(n[0] * math.Pi / 180), d: 1}, true
	},
}

// parseTransform reads a transform attribute; ok is false where a part of it is not understood.
func parseTransform(s string) (m matrix, ok bool) {
	m, ok = identity, true
	for s = strings.TrimLeft(s, " \t\r\n,"); s != ""; s = strings.TrimLeft(s, " \t\r\n,") {
		name, rest, found := strings.Cut(s, "(")
		inside, after, closed := strings.Cut(rest, ")")
		make := transforms[strings.ToLower(strings.TrimSpace(name))]
		if !found || !closed || make == nil {
			return m, false
		}
		one, fine := make(numbers(inside))
		if !fine {
			return m, false
		}
		m, s = m.mul(one), after
	}
	return m, ok
}
