// Package num holds the few numeric functions whose answers must be the same to the bit
// in every home of the core: natively on any processor and in WebAssembly.
//
// Products that feed a sum are written float64(a*b): the Go specification lets a compiler fuse
// a*b+c into one rounding, and an explicit conversion forbids it.
package num

import "math"

// radiansPerDegree turns degrees into radians.
const radiansPerDegree = math.Pi / 180

// SinCos returns the sine and the cosine of an angle in degrees. Quarter turns are exact
// (0, 1 and -1), so a quarter turn of a whole number stays a whole number.
// An angle that is not finite gives NaN for both.
func SinCos(degrees float64) (sin, cos float64) {
	if degrees == 0 { // as most rotations are: what follows gives the same
		return 0, 1
	}
	quarter, rest := quarterOf(degrees)
	s, c := sinKernel(rest), cosKernel(rest)
	switch int(quarter) & 3 {
	case 0:
		return s, c
	case 1:
		return c, -s
	case 2:
		return -s, -c
	default:
		return -c, s
	}
}

// quarterOf returns which quarter turn an angle in degrees is nearest to, and how far it is from that, in radians.
func quarterOf(degrees float64) (quarter, rest float64) {
	turn := degrees - float64(360*math.Floor(degrees/360))
	quarter = math.Floor(turn/90 + 0.5)
	return quarter, float64((turn - float64(90*quarter)) * radiansPerDegree)
}

// Sines fills out with the sines of angles in degrees: as SinCos gives them, many at a time. Out may be the angles themselves.
func Sines(out, degrees []float64) {
	const many = 64
	var quarters, rests [many]float64
	for len(out) > 0 {
		n := min(many, len(out))
		for i, x := range degrees[:n] { // apart from what follows, which takes long for each and can be under way for several
			quarters[i], rests[i] = quarterOf(x + 0) // 0 may be negative
		}
		for i, x := range rests[:n] {
			switch int(quarters[i]) & 3 {
			case 0:
				out[i] = sinKernel(x)
			case 1:
				out[i] = cosKernel(x)
			case 2:
				out[i] = -sinKernel(x)
			default:
				out[i] = -cosKernel(x)
			}
		}
		out, degrees = out[n:], degrees[n:]
	}
}

// sinKernel is the Taylor polynomial of the sine to x^15: on [-π/4, π/4] what is left out
// is below 1e-16 of the result.
func sinKernel(x float64) float64 {
	z := float64(x * x)
	p := float64(z*(-1.0/1307674368000)) + 1.0/6227020800
	p = float64(p*z) - 1.0/39916800
	p = float64(p*z) + 1.0/362880
	p = float64(p*z) - 1.0/5040
	p = float64(p*z) + 1.0/120
	p = float64(p*z) - 1.0/6
	return x + float64(float64(x*z)*p)
}

// cosKernel is the Taylor polynomial of the cosine to x^16 on [-π/4, π/4].
func cosKernel(x float64) float64 {
	z := float64(x * x)
	p := float64(z*(1.0/20922789888000)) - 1.0/87178291200
	p = float64(p*z) + 1.0/479001600
	p = float64(p*z) - 1.0/3628800
	p = float64(p*z) + 1.0/40320
	p = float64(p*z) - 1.0/720
	p = float64(p*z) + 1.0/24
	p = float64(p*z) - 1.0/2
	return 1 + float64(z*p)
}

// Atan2 returns the angle in degrees, -180 to 180, of the direction (x, y).
func Atan2(y, x float64) float64 {
	if x == 0 && y == 0 {
		return 0
	}
	ax, ay := math.Abs(x), math.Abs(y)
	var a float64
	if ay <= ax {
		a = atanUnit(ay / ax)
	} else {
		a = 90 - atanUnit(ax/ay)
	}
	if x < 0 {
		a = 180 - a
	}
	if y < 0 {
		a = -a
	}
	return a
}

// atanUnit returns the arc tangent in degrees of t, 0 to 1: the argument is halved twice with
// tan(a/2) = t / (1 + sqrt(1 + t²)), after which a short series is exact to the last bits.
func atanUnit(t float64) float64 {
	for range 2 {
		t = t / (1 + math.Sqrt(1+float64(t*t)))
	}
	z := float64(t * t)
	p := 0.0
	for k := 25; k >= 1; k -= 2 {
		c := 1 / float64(k)
		if k%4 == 3 {
			c = -c
		}
		p = float64(p*z) + c
	}
	return float64(float64(4*t)*p) / radiansPerDegree
}

// Finite reports whether x is neither infinite nor NaN.
func Finite(x float64) bool { return x-x == 0 }

// Clamp holds x between lo and hi; NaN stays NaN.
func Clamp(x, lo, hi float64) float64 {
	if x < lo {
		return lo
	}
	if x > hi {
		return hi
	}
	return x
}

// Linear returns how much light a component of a colour stands for, 0 to 1 (sRGB, IEC 61966-2-1).
func Linear(x float64) float64 {
	if x <= 0.04045 {
		return x / 12.92
	}
	return Pow((x+0.055)/1.055, 2.4)
}

// Encoded returns the component of a colour that stands for an amount of light, 0 to 1: the inverse of Linear.
func Encoded(light float64) float64 {
	light = Clamp(light, 0, 1)
	if light <= 0.0031308 {
		return light * 12.92
	}
	return float64(1.055*Pow(light, 1/2.4)) - 0.055
}
