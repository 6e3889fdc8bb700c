package formula

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

	inputs     []column
	uniform    []bool      // by register
	numbers    []float64   // of registers that are uniform
	blocks     [][]float64 // of the others; and of uniform ones that others are made of, filled
	rosterLink []int32     // these
	targets    [][]int32   // by component, by lane
	busy       bool        // being worked out
}

// column is an input of all lanes.
type column struct {
	same  bool
	first Source
	kind  SourceKind
	mixed []Source  // where lanes take it from different kinds of places
	slots []int32   // by lane
	given []float64 // by lane, of numbers
}

// NewGroup makes a group of lanes that have the shape of a program.
func NewGroup(p *Program, lanes []Lane) *Group {
	n := len(p.Inputs) + len(p.Code)
	g := &Group{code: p.Code, out: p.Out, lanes: len(lanes), uniform: make([]bool, n), numbers: make([]float64, n), inputs: make([]column, 0, len(p.Inputs))}
	if len(lanes) > 1 { // else everything is the same in every lane
		g.blocks = make([][]float64, n)
	}
	for k := range p.Inputs {
		c := column{same: true, first: lanes[0].In[k], kind: lanes[0].In[k].Kind}
		plain := true
		for _, l := range lanes {
			c.same = c.same && l.In[k].same(c.first)
			plain = plain && l.In[k].Kind == c.kind
		}
		if !c.same {
			for _, l := range lanes {
				switch {
				case !plain:
					c.mixed = append(c.mixed, l.In[k])
				case c.kind == FromNumber:
					c.given = append(c.given, l.In[k].X)
				default:
					c.slots = append(c.slots, l.In[k].Slot)
				}
			}
		}
		g.uniform[k] = c.same
		g.inputs = append(g.inputs, c)
	}
	for i, in := range p.Code {
		g.uniform[len(p.Inputs)+i] = g.uniform[in.A] && g.uniform[in.B] && g.uniform[in.C]
	}
	g.makeBlocks(len(p.Inputs))
	for k := range p.Out {
		slots := make([]int32, len(lanes))
		for i, l := range lanes {
			slots[i] = l.Out[k]
		}
		g.targets = append(g.targets, slots)
	}
	return g
}

func (g *Group) makeBlocks(inputs int) {
	size := min(block, g.lanes)
	for r := range g.blocks {
		if !g.uniform[r] && (r >= inputs || g.inputs[r].given == nil) {
			g.blocks[r] = make([]float64, size)
		}
	}
	for i, in := range g.code {
		if g.uniform[inputs+i] {
			continue
		}
		for _, r := range []int32{in.A, in.B, in.C} {
			if g.uniform[r] && g.blocks[r] == nil {
				g.blocks[r] = make([]float64, size)
				g.rosterLink = append(g.rosterLink, r)
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
			column3(in.Op, g.numbers[r:r+1], g.numbers[in.A:in.A+1], g.numbers[in.B:in.B+1], g.numbers[in.C:in.C+1], env)
		}
	}
	for _, r := range g.rosterLink {
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
			gather(g.blocks[k], values, c.slots[from:to])
		default:
			gather(g.blocks[k], own, c.slots[from:to])
		}
	}
	for i, in := range g.code {
		if r := len(g.inputs) + i; !g.uniform[r] {
			column3(in.Op, g.blocks[r][:size], g.blocks[in.A][:size], g.blocks[in.B][:size], g.blocks[in.C][:size], env)
		}
	}
	for k, r := range g.out {
		targets := g.targets[k][from:to]
		if g.uniform[r] {
			for _, t := range targets {
				values[t] = g.numbers[r]
			}
			continue
		}
		b := g.blocks[r][:size]
		for i, t := range targets {
			values[t] = b[i]
		}
	}
}

func gather(to, from []float64, slots []int32) {
	to = to[:len(slots)]
	for i, s := range slots {
		to[i] = from[s]
	}
}
