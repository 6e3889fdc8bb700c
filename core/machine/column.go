package machine

import (
	"math"
	"strconv"

	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// operate works out one operation over a column: apply, an operation at a time. The commonest ones
// have loops of their own; products are written so that no machine fuses them with a sum.
func operate(op Op, out, a, b, c []float64, env Env) {
	a, b, c = a[:len(out)], b[:len(out)], c[:len(out)]
	switch op {
	case OpAdd:
		for i := range out {
			out[i] = a[i] + b[i]
		}
	case OpSub:
		for i := range out {
			out[i] = a[i] - b[i]
		}
	case OpMul:
		for i := range out {
			out[i] = float64(a[i] * b[i])
		}
	case OpDiv:
		for i := range out {
			out[i] = a[i] / b[i]
		}
	case OpNeg:
		for i := range out {
			out[i] = -a[i]
		}
	case OpAbs:
		for i := range out {
			out[i] = math.Abs(a[i])
		}
	case OpFloor:
		for i := range out {
			out[i] = math.Floor(a[i])
		}
	case OpFract:
		for i := range out {
			out[i] = a[i] - math.Floor(a[i])
		}
	case OpMin:
		for i, x := range a {
			if !(x < b[i] || x != x) {
				x = b[i]
			}
			out[i] = x
		}
	case OpMax:
		for i, x := range a {
			if !(x > b[i] || x != x) {
				x = b[i]
			}
			out[i] = x
		}
	case OpSelect:
		for i := range out {
			if a[i] >= 0.5 {
				out[i] = b[i]
			} else {
				out[i] = c[i]
			}
		}
	case OpWave:
		for i, x := range a {
			out[i] = float64(360 * (x - math.Floor(x)))
		}
		num.Sines(out, out)
	case OpNoise:
		for i, x := range a {
			out[i] = Noise(x, b[i])
		}
	case OpLook:
		env.Look(out, a, b)
	case OpArea:
		env.Area(out, a, b)
	case OpAverage:
		env.Average(out, a, b, c)
	default:
		for i := range out {
			out[i] = run(op, a[i], b[i], c[i], env)
		}
	}
}

// run works out one operation.
func run(op Op, a, b, c float64, env Env) float64 {
	if !op.asks() {
		return apply(op, a, b, c)
	}
	return ask(op, a, b, c, env)
}

// ask is run for what asks the env for something of the same time.
func ask(op Op, a, b, c float64, env Env) float64 {
	switch op {
	case OpJoin:
		if a != a || b != b {
			return math.NaN()
		}
		joined := env.Text(a) + env.Text(b)
		if len(joined) > scene.MaxText { // longer than a text may be
			return math.NaN()
		}
		return env.Number(joined)
	case OpShow:
		if a-a != 0 {
			return math.NaN()
		}
		return env.Number(show(a, b))
	}
	if a != a || b != b {
		return math.NaN()
	}
	switch op {
	case OpCell:
		return env.Cell(int32(a), int(c), b)
	case OpRow:
		return env.Row(int32(a), b)
	}
	x, y, heading := env.Along(int32(a), b)
	switch op {
	case OpAlongX:
		return x
	case OpAlongY:
		return y
	}
	return heading
}

// show writes a number with some decimal places, halves away from 0 as round does, or with as many as it takes:
// of 15 digits, which leaves out the noise of sums and products.
func show(x, places float64) string {
	if places < 0 || places != places {
		short, _ := strconv.ParseFloat(strconv.FormatFloat(x+0, 'g', 15, 64), 64)
		return strconv.FormatFloat(short+0, 'f', -1, 64)
	}
	places = math.Floor(min(places, 15))
	if scale := num.Pow(10, places); num.Finite(float64(x * scale)) {
		x = math.Round(float64(x*scale)) / scale
	}
	return strconv.FormatFloat(x+0, 'f', int(places), 64)
}
