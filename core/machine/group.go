package machine

import (
	"math"
	"slices"
)

// Source is where one lane of a group takes an input from.
type Source struct {
	Kind SourceKind
	Slot int32
	X    float64
	Text string
}

// SourceKind tells sources apart.
type SourceKind int8

// The kinds of sources.
const (
	FromNumber SourceKind = iota
	FromValues            // a slot as links make it
	FromOwn               // a slot as it is under them
	FromFrame
	FromText // the number that stands for a text; bound by whoever keeps the texts
)

func (s Source) same(o Source) bool {
	return s.Kind == o.Kind && s.Slot == o.Slot && math.Float64bits(s.X) == math.Float64bits(o.X)
}

// Lane is one program of a group with where its inputs come from and its results go.
type Lane struct {
	In  []Source
	Out []int32 // slots
}

// block is how many lanes are worked out at once: few enough to stay in the nearest cache.
const block = 256

// Group is programs of one shape, worked out together: an operation at a time over a column of lanes.
// What is the same in every lane is worked out once. It is not safe for concurrent use.
type Group struct {
	code  []Instruction
	out   []int32
	lanes int

	inputs  []laneInput
	passes  []pass
	uniform []bool      // by register
	numbers []float64   // of registers that are uniform
	blocks  [][]float64 // of the others; and of uniform ones that others are made of, filled
	filled  []int32     // these
	targets []slots     // by component
	direct  []bool      // by component: it is worked out where it belongs
	busy    bool        // being worked out
}

// laneInput is an input of all lanes.
type laneInput struct {
	same  bool
	first Source
	kind  SourceKind
	mixed []Source  // where lanes take it from different kinds of places
	slots slots     // by lane
	given []float64 // by lane, of numbers
}

// slots are those of lanes.
type slots struct {
	of     []int32
	beside bool // they are several, side by side
}

func newSlots(of []int32) slots {
	s := slots{of, len(of) > 1}
	for i := 1; i < len(of) && s.beside; i++ {
		s.beside = of[i]-of[i-1] == 1
	}
	return s
}

// run returns the numbers of some lanes, where these lie side by side; else nil.
func (s *slots) run(from []float64, first, to int) []float64 {
	if !s.beside {
		return nil
	}
	at := int(s.of[first])
	return from[at : at+to-first]
}

// gather reads the numbers of some lanes.
func (s *slots) gather(out, from []float64, first int) {
	for i, slot := range s.of[first : first+len(out)] {
		out[i] = from[slot]
	}
}

// fill writes one number for some lanes.
func (s *slots) fill(x float64, to []float64, first, end int) {
	if run := s.run(to, first, end); run != nil {
		for i := range run {
			run[i] = x
		}
		return
	}
	for _, slot := range s.of[first:end] {
		to[slot] = x
	}
}

// scatter writes the numbers of some lanes.
func (s *slots) scatter(numbers, to []float64, first int) {
	for i, slot := range s.of[first : first+len(numbers)] {
		to[slot] = numbers[i]
	}
}

// NewGroup makes a group of lanes, one for each member that the same formula drives: they differ in what they read and in their
// constants, and are worked out operation by operation.
func NewGroup(p *Program, lanes []Lane) *Group {
	n := len(p.Inputs) + len(p.Code)
	g := &Group{code: p.Code, out: p.Out, lanes: len(lanes), uniform: make([]bool, n), numbers: make([]float64, n), inputs: make([]laneInput, 0, len(p.Inputs))}
	if len(lanes) > 1 { // else everything is the same in every lane
		g.blocks = make([][]float64, n)
	}
	for k := range p.Inputs {
		c := laneInput{same: true, first: lanes[0].In[k], kind: lanes[0].In[k].Kind}
		plain := true
		for _, l := range lanes {
			c.same = c.same && l.In[k].same(c.first)
			plain = plain && l.In[k].Kind == c.kind
		}
		if !c.same {
			var of []int32
			for _, l := range lanes {
				switch {
				case !plain:
					c.mixed = append(c.mixed, l.In[k])
				case c.kind == FromNumber:
					c.given = append(c.given, l.In[k].X)
				default:
					of = append(of, l.In[k].Slot)
				}
			}
			c.slots = newSlots(of)
		}
		g.uniform[k] = c.same
		g.inputs = append(g.inputs, c)
	}
	for i, in := range p.Code {
		g.uniform[len(p.Inputs)+i] = g.uniform[in.A] && g.uniform[in.B] && g.uniform[in.C]
	}
	for k := range p.Out {
		slots := make([]int32, len(lanes))
		for i, l := range lanes {
			slots[i] = l.Out[k]
		}
		g.targets = append(g.targets, newSlots(slots))
	}
	g.findDirect()
	g.findPasses()
	g.makeBlocks()
	return g
}

// makeBlocks makes room for what is read, worked out or filled; what stands in slots side by side needs none.
func (g *Group) makeBlocks() {
	size := min(block, g.lanes)
	room := func(r int32) { g.blocks[r] = make([]float64, size) }
	for r := range g.inputs {
		if c := &g.inputs[r]; !c.same && c.given == nil && !c.slots.beside {
			room(int32(r))
		}
	}
	direct := map[int32]bool{}
	for k, r := range g.out {
		direct[r] = direct[r] || g.direct[k]
	}
	for _, one := range g.passes {
		if !direct[one.out] {
			room(one.out)
		}
		for _, r := range []int32{one.a, one.b, one.c} {
			if g.uniform[r] && g.blocks[r] == nil {
				room(r)
				g.filled = append(g.filled, r)
			}
		}
	}
}

// take reads one source.
func take(s Source, values, own []float64, frame float64) float64 {
	switch s.Kind {
	case FromValues:
		return values[s.Slot]
	case FromOwn:
		return own[s.Slot]
	case FromFrame:
		return frame
	}
	return s.X
}

// Run works the group out at a frame and puts the results into their slots.
func (g *Group) Run(values, own []float64, frame float64, env Env) {
	if g.busy { // a look at another time leads back here
		g = g.again()
	}
	g.busy = true
	defer func() { g.busy = false }()
	n := len(g.inputs)
	for k := range g.inputs {
		if g.uniform[k] {
			g.numbers[k] = take(g.inputs[k].first, values, own, frame)
		}
	}
	for i, in := range g.code {
		if r := n + i; g.uniform[r] {
			operate(in.Op, g.numbers[r:r+1], g.numbers[in.A:in.A+1], g.numbers[in.B:in.B+1], g.numbers[in.C:in.C+1], env)
		}
	}
	for _, r := range g.filled {
		x, b := g.numbers[r], g.blocks[r]
		for i := range b {
			b[i] = x
		}
	}
	for from := 0; from < g.lanes; from += block {
		g.runBlock(from, min(g.lanes, from+block), values, own, frame, env)
	}
}

// again returns the group with registers of its own.
func (g *Group) again() *Group {
	out := *g
	out.numbers = slices.Clone(g.numbers)
	out.blocks = make([][]float64, len(g.blocks))
	for r, b := range g.blocks {
		out.blocks[r] = slices.Clone(b)
	}
	return &out
}

func (g *Group) runBlock(from, to int, values, own []float64, frame float64, env Env) {
	size := to - from
	for k := range g.inputs {
		c := &g.inputs[k]
		switch {
		case g.uniform[k]:
		case c.mixed != nil:
			for i, s := range c.mixed[from:to] {
				g.blocks[k][i] = take(s, values, own, frame)
			}
		case c.kind == FromNumber:
			g.blocks[k] = c.given[from:to]
		case c.kind == FromValues:
			g.read(k, values, from, to)
		default:
			g.read(k, own, from, to)
		}
	}
	for k, r := range g.out {
		if g.direct[k] {
			g.blocks[r] = g.targets[k].run(values, from, to)
		}
	}
	for _, one := range g.passes {
		out, a, b, c := g.blocks[one.out][:size], g.blocks[one.a][:size], g.blocks[one.b][:size], g.blocks[one.c][:size]
		switch oneB, oneC := g.uniform[one.b], g.uniform[one.c]; {
		case (oneB || oneC) && runScalar(one.op, out, a, b, c, oneB, oneC, g.numbers[one.b], g.numbers[one.c]):
		case one.op >= passMulAdd:
			runPair(one.op, out, a, b, c)
		default:
			operate(one.op, out, a, b, c, env)
		}
	}
	for k, r := range g.out {
		switch targets := &g.targets[k]; {
		case g.direct[k]:
		case !g.uniform[r]:
			targets.scatter(g.blocks[r][:size], values, from)
		default:
			targets.fill(g.numbers[r], values, from, to)
		}
	}
}

// Alike returns the slots of each result that always have the same number in all of them.
func (g *Group) Alike() (out [][]int32) {
	for k, r := range g.out {
		if g.uniform[r] {
			out = append(out, g.targets[k].of)
		}
	}
	return out
}

// read takes an input of some lanes from their slots: where these lie side by side, as it is.
func (g *Group) read(input int, numbers []float64, from, to int) {
	slots := &g.inputs[input].slots
	if run := slots.run(numbers, from, to); run != nil {
		g.blocks[input] = run
		return
	}
	slots.gather(g.blocks[input][:to-from], numbers, from)
}

// findDirect finds the results that are worked out in their slots, which lie side by side.
func (g *Group) findDirect() {
	g.direct = make([]bool, len(g.out))
	taken := map[int32]bool{}
	for k, r := range g.out {
		g.direct[k] = g.targets[k].beside && !g.uniform[r] && int(r) >= len(g.inputs) && !taken[r]
		taken[r] = true
	}
}
