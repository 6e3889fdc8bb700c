package machine

// pass is one way over the lanes of a group: an operation, or two that follow each other, so that what lies
// between them need not be written down.
type pass struct {
	op           Op
	out, a, b, c int32 // registers
}

// The pairs of operations that are one pass; they stand in no program.
const (
	passMulAdd Op = 200 + iota // a × b + c
	passMulSub                 // a × b - c
	passSubMul                 // c - a × b
	passDivAdd                 // a / b + c
	passDivSub                 // a / b - c
	passClamp                  // a, at least b and at most c
)

// pairs says what two operations make, by the first, the second, and whether the second takes the first as its b.
var pairs = map[[2]Op][2]Op{
	{OpMul, OpAdd}: {passMulAdd, passMulAdd},
	{OpMul, OpSub}: {passMulSub, passSubMul},
	{OpDiv, OpAdd}: {passDivAdd, passDivAdd},
	{OpDiv, OpSub}: {passDivSub, 0},
	{OpMax, OpMin}: {passClamp, 0},
}

// findPasses puts a program into passes over what differs from lane to lane.
func (g *Group) findPasses() {
	first := int32(len(g.inputs))
	uses := make([]int, int(first)+len(g.code))
	for _, in := range g.code {
		for _, r := range []int32{in.A, in.B, in.C} {
			uses[r]++
		}
	}
	for _, r := range g.out {
		uses[r] += 2
	}
	for i, in := range g.code {
		r := first + int32(i)
		if g.uniform[r] {
			continue
		}
		one := pass{in.Op, r, in.A, in.B, in.C}
		if last := len(g.passes) - 1; last >= 0 {
			before := g.passes[last]
			pair, ok := pairs[[2]Op{before.op, in.Op}]
			other, op := in.B, pair[0]
			if in.A != before.out {
				other, op = in.A, pair[1]
			}
			if ok && op != 0 && before.out >= first && uses[before.out] == usesOf(in, before.out) && in.A != in.B && (in.A == before.out || in.B == before.out) {
				g.passes[last] = g.turned(pass{op, r, before.a, before.b, other})
				continue
			}
		}
		g.passes = append(g.passes, g.turned(one))
	}
}

// turned is a pass whose first two operands may change places, with the one that is the same in every lane second.
func (g *Group) turned(one pass) pass {
	switch one.op {
	case OpAdd, OpMul, passMulAdd, passMulSub, passSubMul:
		if g.uniform[one.a] && !g.uniform[one.b] {
			one.a, one.b = one.b, one.a
		}
	}
	return one
}

// usesOf counts how often an instruction names a register, the operands that it does not have among them.
func usesOf(in Instruction, r int32) (n int) {
	for _, x := range []int32{in.A, in.B, in.C} {
		if x == r {
			n++
		}
	}
	return n
}

// runPair works out a pass of two operations over a column: what they give one after the other.
func runPair(op Op, out, a, b, c []float64) {
	a, b, c = a[:len(out)], b[:len(out)], c[:len(out)]
	switch op {
	case passMulAdd:
		for i := range out {
			out[i] = float64(a[i]*b[i]) + c[i]
		}
	case passMulSub:
		for i := range out {
			out[i] = float64(a[i]*b[i]) - c[i]
		}
	case passSubMul:
		for i := range out {
			out[i] = c[i] - float64(a[i]*b[i])
		}
	case passDivAdd:
		for i := range out {
			out[i] = a[i]/b[i] + c[i]
		}
	case passDivSub:
		for i := range out {
			out[i] = a[i]/b[i] - c[i]
		}
	case passClamp:
		for i, x := range a {
			if !(x > b[i] || x != x) {
				x = b[i]
			}
			if !(x < c[i] || x != x) {
				x = c[i]
			}
			out[i] = x
		}
	}
}
