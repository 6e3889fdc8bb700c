package machine

// FrameBlock is the values of some slots over a run of frames: one row for each slot.
type FrameBlock struct {
	Frames []float64
	Values [][]float64 // as links make them
	Own    [][]float64 // as they are under them
	// By slot: whether what links make, and what is under them, is the same at all frames. Then only the first
	// number of the row need be there.
	Steady, OwnSteady []bool

	regs []register
	room []float64
}

// register is a number for each frame, or one for all of them.
type register struct {
	row   []float64
	fixed bool
	one   [1]float64
}

// BlockFrames is how many frames a block holds at most.
const BlockFrames = block

// RunBlock works the group out over a run of frames, lane by lane, an operation at a time over all
// frames, and what is the same at all frames once. The bits are those of Run, frame by frame.
func (g *Group) RunBlock(s *FrameBlock, env Env) {
	n := len(g.inputs)
	s.reserve(n + len(g.code))
	for lane := range g.lanes {
		for k := range g.inputs {
			r := &s.regs[k]
			switch in := g.inputs[k].at(lane); {
			case in.Kind == FromNumber:
				r.fix(in.X)
			case in.Kind == FromFrame:
				r.vary(s.Frames)
			default:
				row, steady := s.Values, s.Steady
				if in.Kind == FromOwn {
					row, steady = s.Own, s.OwnSteady
				}
				if steady[in.Slot] {
					r.fix(row[in.Slot][0])
				} else {
					r.vary(row[in.Slot])
				}
			}
		}
		for i, in := range g.code {
			s.run(n+i, in, env)
		}
		for k, r := range g.out {
			copy(s.Values[g.targets[k].of[lane]], s.row(r))
		}
	}
}

func (r *register) fix(x float64)      { r.row, r.fixed, r.one[0] = nil, true, x }
func (r *register) vary(row []float64) { r.row, r.fixed = row, false }

// run works one operation out.
func (s *FrameBlock) run(at int, in Instruction, env Env) {
	r, a, b, c := &s.regs[at], &s.regs[in.A], &s.regs[in.B], &s.regs[in.C]
	switch {
	case a.fixed && b.fixed && c.fixed && !in.Op.looks():
		r.fix(0)
		operate(in.Op, r.one[:], a.one[:], b.one[:], c.one[:], env)
	case in.Op == OpSelect && a.fixed:
		if *r = *c; on(a.one[0]) {
			*r = *b
		}
	case in.Op == OpLook && b.fixed:
		r.vary(s.space(at))
		env.Look(r.row, s.row(in.A), b.one[:])
	default:
		r.vary(s.space(at))
		operate(in.Op, r.row, s.row(in.A), s.row(in.B), s.row(in.C), env)
	}
}

// row returns a register as one number for each frame.
func (s *FrameBlock) row(at int32) []float64 {
	r := &s.regs[at]
	if r.row == nil {
		r.row = s.space(int(at))
		for i := range r.row {
			r.row[i] = r.one[0]
		}
	}
	return r.row
}

func (s *FrameBlock) space(at int) []float64 {
	return s.room[at*BlockFrames : at*BlockFrames+len(s.Frames)]
}

// reserve makes room for some registers.
func (s *FrameBlock) reserve(n int) {
	if len(s.regs) < n {
		s.regs, s.room = make([]register, n), make([]float64, n*BlockFrames)
	}
}

// at returns where one lane takes the input from.
func (c *laneInput) at(lane int) Source {
	switch {
	case c.same:
		return c.first
	case c.mixed != nil:
		return c.mixed[lane]
	case c.kind == FromNumber:
		return Source{X: c.given[lane]}
	}
	return Source{Kind: c.kind, Slot: c.slots.of[lane]}
}

// Ask is an operation of a program that looks at another time: the input that names the slot, and where
// among the results of the program of Asks the frame stands, and how many frames are spanned.
type Ask struct {
	Op          Op
	Slot        int
	Frame, Span int
}

// Asks returns the looks of a program at other times, and the program of what they ask with, to be run
// on the same inputs before they are answered. What is asked for with the answer to another look is left
// out.
func (p *Program) Asks() (*Program, []Ask) {
	if p.asked != nil {
		return p.asked, p.asks
	}
	n := int32(len(p.Inputs))
	p.asked = &Program{Inputs: p.Inputs, Shape: "asks " + p.Shape}
	to := map[int32]int32{} // registers, from the program to that of the asks
	for k := range n {
		to[k] = k
	}
	var lower func(r int32) bool
	lower = func(r int32) bool {
		if _, done := to[r]; done {
			return true
		}
		in := p.Code[r-n]
		if in.Op.asks() || !lower(in.A) || !lower(in.B) || !lower(in.C) {
			return false
		}
		p.asked.Code = append(p.asked.Code, Instruction{in.Op, to[in.A], to[in.B], to[in.C]})
		to[r] = n + int32(len(p.asked.Code)) - 1
		return true
	}
	result := func(r int32) int {
		p.asked.Out = append(p.asked.Out, to[r])
		return len(p.asked.Out) - 1
	}
	for _, in := range p.Code {
		if !in.Op.looks() || in.B >= n || !lower(in.A) || !lower(in.C) {
			continue
		}
		a := Ask{Op: in.Op, Slot: int(in.B), Frame: result(in.A)}
		if in.Op == OpAverage {
			a.Span = result(in.C)
		}
		p.asks = append(p.asks, a)
	}
	return p.asked, p.asks
}

// Looking returns how many operations of the program look at other times.
func (p *Program) Looking() (n int) {
	for _, in := range p.Code {
		if in.Op.looks() {
			n++
		}
	}
	return n
}

// Delayed returns how many frames earlier a result of the program is than the frame, where it is just that.
func (p *Program) Delayed(lane *Lane, result int) (frames float64, ok bool) {
	n := int32(len(p.Inputs))
	r := p.Out[result]
	if r < n {
		return 0, false
	}
	in := p.Code[r-n]
	if in.Op != OpSub || in.A >= n || in.B >= n || lane.In[in.A].Kind != FromFrame || lane.In[in.B].Kind != FromNumber {
		return 0, false
	}
	return lane.In[in.B].X, true
}

// ReadBy returns a lane with nothing but the inputs that the program reads, texts aside, which say nothing about times,
// and without results.
func (p *Program) ReadBy(lane Lane) Lane {
	used := map[int32]bool{}
	for _, in := range p.Code {
		used[in.A], used[in.B], used[in.C] = true, true, true
	}
	for _, r := range p.Out {
		used[r] = true
	}
	out := Lane{In: make([]Source, len(lane.In))}
	for k, s := range lane.In {
		if used[int32(k)] && s.Kind != FromText {
			out.In[k] = s
		}
	}
	return out
}
