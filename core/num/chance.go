package num

import "math"

// Hash mixes whole numbers into 64 even bits: the finaliser of SplitMix64 (Steele, Lea and Flood,
// OOPSLA 2014) over each in turn. It is how all chance is made: the same input gives the same
// answer at every visit, in every order.
func Hash(xs ...uint64) uint64 {
	h := uint64(0x9e3779b97f4a7c15)
	for _, x := range xs {
		h += x + 0x9e3779b97f4a7c15
		h = (h ^ h>>30) * 0xbf58476d1ce4e5b9
		h = (h ^ h>>27) * 0x94d049bb133111eb
		h ^= h >> 31
	}
	return h
}

// Share turns a hash into a number from 0 to below 1, even.
func Share(h uint64) float64 { return float64(float64(h>>11) / (1 << 53)) }

// ln2High and ln2Low are the natural logarithm of 2 in two parts, so that multiples of it can be
// taken off without losing bits.
const (
	ln2High = 6.93147180369123816490e-01
	ln2Low  = 1.90821492927058770002e-10
)

// Exp returns e to the power of x. What would be below 1e-300 is 0.
func Exp(x float64) float64 {
	switch {
	case x != x:
		return x
	case x > 709:
		return math.Inf(1)
	case x < -690:
		return 0
	}
	k := math.Floor(x/math.Ln2 + 0.5)
	r := (x - float64(k*ln2High)) - float64(k*ln2Low) // within half of ln 2
	// The Taylor series to r^14: what is left out is below 1e-17.
	p := 1.0 / 87178291200
	for _, c := range [...]float64{1.0 / 6227020800, 1.0 / 479001600, 1.0 / 39916800, 1.0 / 3628800, 1.0 / 362880, 1.0 / 40320, 1.0 / 5040, 1.0 / 720, 1.0 / 120, 1.0 / 24, 1.0 / 6, 1.0 / 2, 1, 1} {
		p = float64(p*r) + c
	}
	return math.Ldexp(p, int(k))
}

// Log returns the natural logarithm of x: NaN below 0, minus infinity at 0.
func Log(x float64) float64 {
	switch {
	case x < 0 || x != x:
		return math.NaN()
	case x == 0:
		return math.Inf(-1)
	case math.IsInf(x, 1):
		return x
	}
	m, k := math.Frexp(x) // x = m · 2^k, m from 1/2 to 1
	if m < math.Sqrt2/2 {
		m, k = 2*m, k-1
	}
	// ln m = 2 (s + s³/3 + s⁵/5 …) with s = (m - 1)/(m + 1), at most 0.172: what is left out behind
	// s^21 is below 1e-17.
	s := (m - 1) / (m + 1)
	z := float64(s * s)
	p := 0.0
	for n := 21; n >= 3; n -= 2 {
		p = float64(p*z) + 1/float64(n)
	}
	p = float64(p * z)
	return float64(float64(k)*ln2High) + (float64(2*s) + (float64(float64(2*s)*p) + float64(float64(k)*ln2Low)))
}

// Pow returns x to the power of y. Whole powers up to 64 are multiplied out and so exact where the
// result is; other powers of a number below 0 are NaN.
func Pow(x, y float64) float64 {
	n := math.Abs(y)
	switch {
	case y == 0:
		return 1
	case n <= 64 && n == math.Floor(n):
		r, b := 1.0, x
		for k := int(n); k > 0; k >>= 1 {
			if k&1 == 1 {
				r = float64(r * b)
			}
			b = float64(b * b)
		}
		if y < 0 {
			return 1 / r
		}
		return r
	case y == 0.5:
		return math.Sqrt(x)
	case x == 0 && y > 0:
		return 0
	}
	return Exp(float64(y * Log(x)))
}
