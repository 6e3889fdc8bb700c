package formula

import (
	"math"

	"wunderkammer/core/num"
)

// column3 works out one operation over a column: apply, an operation at a time. The commonest ones
// have loops of their own; products are written so that no machine fuses them with a sum.
func column3(op Op, out, a, b, c []float64, host Host) {
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
			s, _ := num.SinCos(float64(360 * (x - math.Floor(x))))
			out[i] = s
		}
	case OpNoise:
		for i, x := range a {
			out[i] = noise(x, b[i])
		}
	default:
		for i := range out {
			out[i] = run(op, a[i], b[i], c[i], host)
		}
	}
}
