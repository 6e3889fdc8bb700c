package machine

import (
	"math"

	"wunderkammer/core/num"
)

// Op is one operation of a compiled formula: it makes one number of up to three.
type Op uint8

// The operations. Angles are in degrees; what is true is 1 and what is false 0.
const (
	OpAdd Op = iota
	OpSub
	OpMul
	OpDiv
	OpNeg
	OpAbs
	OpSign
	OpFloor
	OpCeil
	OpRound
	OpFract
	OpMod
	OpMin
	OpMax
	OpSqrt
	OpPow
	OpExp
	OpLog
	OpSin
	OpCos
	OpTan
	OpAsin
	OpAcos
	OpAtan
	OpLess
	OpAtMost
	OpEqual
	OpNot
	OpAnd
	OpOr
	OpSelect  // b where a is on, else c
	OpMissing // on where a is missing
	OpWave
	OpSaw
	OpSquare
	OpTriangle
	OpNoise   // a: place, b: seed
	OpRandom  // a: seed
	OpLinear  // sRGB to linear light
	OpEncode  // linear light to sRGB
	OpFrames  // a seconds at b frames a second, in frames: within a billionth of a whole one they are whole
	OpLook    // a: frame, b: slot
	OpArea    // a: frame, b: slot
	OpAverage // a: frame, b: slot, c: frames
	OpJoin    // two texts
	OpShow    // a number as a text; b: places, or less than 0 for as many as it takes
	OpAlongX  // a: item, b: share
	OpAlongY
	OpHeading
	OpCell // a: item, b: row, c: column
	OpRow  // a: item, b: text
)

// Env answers what a program asks for besides numbers.
type Env interface {
	// Look fills out with what stands in slots at frames, lane by lane; one slot may stand for all lanes. A
	// frame that is no number, or lies too far away, has nothing to show: NaN.
	Look(out, frames, slots []float64)
	// Area does so with what has stood in slots since frame 0, added up by the second.
	Area(out, frames, slots []float64)
	// Average does so with the mean of slots over the frames up to a frame, as many as spans says.
	Average(out, frames, slots, spans []float64)
	// Text returns the text that a number stands for, and Number the number for a text.
	Text(handle float64) string
	Number(text string) float64
	// Along returns where a share of the way along a path lies in the composition, and the angle of
	// travel there in degrees.
	Along(item int32, share float64) (x, y, heading float64)
	// Cell returns what stands in a row of a column of a table, and Row the row that a text names.
	Cell(item int32, column int, row float64) float64
	Row(item int32, text float64) float64
}

// asks reports whether an operation asks its env.
func (o Op) asks() bool { return o >= OpLook }

// looks reports whether an operation asks for another time.
func (o Op) looks() bool { return o >= OpLook && o <= OpAverage }

// on reports whether a number stands for true.
func on(x float64) bool { return x >= 0.5 }

func truth(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

// apply is what every operation that asks nobody means; columns are tested against it.
func apply(op Op, a, b, c float64) float64 {
	switch op {
	case OpAdd:
		return a + b
	case OpSub:
		return a - b
	case OpMul:
		return float64(a * b)
	case OpDiv:
		return a / b
	case OpNeg:
		return -a
	case OpAbs:
		return math.Abs(a)
	case OpFloor:
		return math.Floor(a)
	case OpCeil:
		return math.Ceil(a)
	case OpRound:
		return math.Round(a) // halves away from 0
	case OpFract:
		return a - math.Floor(a)
	case OpMin:
		if a < b || a != a {
			return a
		}
		return b
	case OpMax:
		if a > b || a != a {
			return a
		}
		return b
	case OpSelect:
		if on(a) {
			return b
		}
		return c
	case OpLess:
		return truth(a < b)
	case OpAtMost:
		return truth(a <= b)
	case OpEqual:
		return truth(a == b)
	case OpNot:
		return truth(!on(a))
	case OpAnd:
		return truth(on(a) && on(b))
	case OpOr:
		return truth(on(a) || on(b))
	case OpMissing:
		return truth(a != a)
	case OpRandom:
		return Random(a)
	case OpNoise:
		return Noise(a, b)
	case OpMod:
		return a - float64(b*math.Floor(a/b))
	case OpPow:
		return num.Pow(a, b)
	}
	return one(op, a, b)
}

// one is apply for the rarer operations.
func one(op Op, a, b float64) float64 {
	switch op {
	case OpSign:
		return truth(a > 0) - truth(a < 0)
	case OpSqrt:
		return math.Sqrt(a)
	case OpExp:
		return num.Exp(a)
	case OpLog:
		return num.Log(a)
	case OpSin:
		s, _ := num.SinCos(a)
		return s
	case OpCos:
		_, c := num.SinCos(a)
		return c
	case OpTan:
		s, c := num.SinCos(a)
		return s / c
	case OpAsin:
		return num.Atan2(a, math.Sqrt(1-float64(a*a)))
	case OpAcos:
		return num.Atan2(math.Sqrt(1-float64(a*a)), a)
	case OpAtan:
		return num.Atan2(a, b)
	case OpWave:
		s, _ := num.SinCos(float64(360 * (a - math.Floor(a))))
		return s
	case OpSaw:
		return float64(2*(a-math.Floor(a))) - 1
	case OpSquare:
		return 1 - float64(2*truth(a-math.Floor(a) >= 0.5))
	case OpTriangle: // like the sine: 0 at 0, 1 at a quarter
		t := a + 0.25
		return 1 - math.Abs(float64(4*(t-math.Floor(t)))-2)
	case OpFrames:
		x := float64(a * b)
		if whole := math.Floor(x + 0.5); math.Abs(x-whole) < 1e-9 {
			return whole
		}
		return x
	case OpLinear:
		return num.Linear(a)
	case OpEncode:
		if a <= 0.0031308 {
			return float64(a * 12.92)
		}
		return float64(1.055*num.Pow(a, 1/2.4)) - 0.055
	}
	return math.NaN()
}

// restSalt keeps where noise rests apart from how steep it is.
const restSalt = 0x72657374

// Random returns a number from -1 to 1, even, that is the same for a seed always.
func Random(seed float64) float64 {
	if seed != seed {
		return seed
	}
	return float64(2*num.Share(num.Hash(math.Float64bits(seed+0)))) - 1
}

// Noise is smooth chance along a line: gradient noise in one dimension (Perlin, SIGGRAPH 1985) with
// the fade curve of 2002. It is 0 once for each 1, at places that differ from seed to seed and are no whole
// numbers, and lies within -1 and 1.
func Noise(x, seed float64) float64 {
	x += 0.2 + float64(0.6*num.Share(num.Hash(math.Float64bits(seed+0), restSalt)))
	n := math.Floor(x)
	f := x - n
	if f != f {
		return f
	}
	s := math.Float64bits(seed + 0)
	left := float64(2*num.Share(num.Hash(math.Float64bits(n), s))) - 1
	right := float64(2*num.Share(num.Hash(math.Float64bits(n+1), s))) - 1
	u := float64(float64(float64(f*f)*f) * (float64(f*(float64(f*6)-15)) + 10))
	a, b := float64(left*f), float64(right*(f-1))
	return float64(2 * (a + float64(u*(b-a))))
}
