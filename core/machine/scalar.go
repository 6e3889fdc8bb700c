package machine

// runScalar works out a pass of which some operands are the same in every lane, b of them y and c z, where there is a loop for that: what
// they give one after the other. One number is read where else a column of it would be.
func runScalar(op Op, out, a, b, c []float64, oneB, oneC bool, y, z float64) bool {
	a, b, c = a[:len(out)], b[:len(out)], c[:len(out)]
	switch {
	case op == OpAdd && oneB:
		for i, x := range a {
			out[i] = x + y
		}
	case op == OpSub && oneB:
		for i, x := range a {
			out[i] = x - y
		}
	case op == OpMul && oneB:
		for i, x := range a {
			out[i] = float64(x * y)
		}
	case op == OpDiv && oneB:
		for i, x := range a {
			out[i] = x / y
		}
	case op == OpMin && oneB:
		for i, x := range a {
			if !(x < y || x != x) {
				x = y
			}
			out[i] = x
		}
	case op == OpMax && oneB:
		for i, x := range a {
			if !(x > y || x != x) {
				x = y
			}
			out[i] = x
		}
	case op == passMulAdd && oneB && oneC:
		for i, x := range a {
			out[i] = float64(x*y) + z
		}
	case op == passMulAdd && oneB:
		for i, x := range a {
			out[i] = float64(x*y) + c[i]
		}
	case op == passMulAdd && oneC:
		for i, x := range a {
			out[i] = float64(x*b[i]) + z
		}
	case op == passMulSub && oneB && oneC:
		for i, x := range a {
			out[i] = float64(x*y) - z
		}
	case op == passMulSub && oneB:
		for i, x := range a {
			out[i] = float64(x*y) - c[i]
		}
	case op == passSubMul && oneB && oneC:
		for i, x := range a {
			out[i] = z - float64(x*y)
		}
	case op == passSubMul && oneB:
		for i, x := range a {
			out[i] = c[i] - float64(x*y)
		}
	case op == passClamp && oneB && oneC:
		for i, x := range a {
			if !(x > y || x != x) {
				x = y
			}
			if !(x < z || x != x) {
				x = z
			}
			out[i] = x
		}
	default:
		return false
	}
	return true
}
