package machine

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/scene"
)

// Many is whom a list is gathered of: what hangs on an item may be told by the place of that, in place of its id.
type Many struct {
	Of       scene.Gathering
	Relative string
	Steps    int
	Outer    int
}

// Gather is a list of which one value is made.
type Gather struct {
	By   Reducing
	Many Many
	// Body is worked out for each of the many. Its results are the components of the value, and behind them, where values are weighted,
	// the weight.
	Body *Program
	Size int      // components of the value
	Arg  *Program // what the reducing asks for besides: a number of one of the many, a value to be near to; nil for nothing
}

// Reducing is how one value is made of many.
type Reducing int

// The ways to make one value of many.
const (
	Sum      Reducing = iota // of each component, from the first to the last
	Mean                     // the sum over how many there are
	Least                    // of numbers
	Greatest                 // of numbers
	First                    // the first one
	Last                     // the last one
	Nth                      // the one with a number, from 1, held at the first and the last
	Nearest                  // the one that is nearest to a value, by the distance of their components; the first of several
	Weighted                 // the sum of each times its weight, over the sum of the weights
)

// Signature is the same for two programs that do the same with the same inputs.
func (p *Program) Signature() string {
	if p == nil {
		return "-"
	}
	if p.signature == "" {
		h := sha256.New()
		fmt.Fprintf(h, "%q", p.Shape)
		for _, in := range p.Inputs {
			fmt.Fprintf(h, "%+v", in)
		}
		for _, look := range p.Looks {
			fmt.Fprint(h, " ", look.Signature())
		}
		for _, g := range p.Gathers {
			fmt.Fprint(h, " ", g.Signature())
		}
		p.signature = hex.EncodeToString(h.Sum(nil))
	}
	return p.signature
}

// Signature is that of what is made of a list.
func (g *Gather) Signature() string {
	return fmt.Sprintf("%d %+v %d %s %s", g.By, g.Many, g.Size, g.Body.Signature(), g.Arg.Signature())
}

// Alone reports whether a program reads nothing that depends on what it drives: then it gives the same wherever it stands.
func (p *Program) Alone() bool {
	if p == nil {
		return true
	}
	if p.alone == nil {
		alone := p.isAlone()
		p.alone = &alone
	}
	return *p.alone
}

func (p *Program) isAlone() bool {
	for k := range p.Inputs {
		in := &p.Inputs[k]
		switch in.Kind {
		case Constant, Words, Frame, Look, Gathered:
			continue
		case Property, ItemIndex, WorldOf, HowMany:
			if in.Relative == "" {
				continue
			}
		}
		return false
	}
	return !slices.ContainsFunc(p.Looks, func(look *Program) bool { return !look.Alone() }) && !slices.ContainsFunc(p.Gathers, func(g *Gather) bool { return !g.Alone() })
}

// Alone reports whether what is made of a list is the same wherever it stands.
func (g *Gather) Alone() bool { return g.Many.Relative == "" && g.Body.Alone() && g.Arg.Alone() }

// Reduction makes one value of many, which stand in slots.
type Reduction struct {
	By      Reducing
	Size    int     // components of the value
	Slots   []int32 // of the first of the many, component by component, then of the next
	Weights []int32 // one for each of the many, where they are weighted
	Arg     []int32 // of what the reducing asks for
	even    int32   // how far apart the components of one and of the next stand, where that is the same throughout; 0: it is not
}

// Ready finds out how the slots lie, once they are all known.
func (r *Reduction) Ready() {
	r.even = 0
	n := len(r.Slots) / r.Size
	if n < 2 {
		return
	}
	stride := r.Slots[r.Size] - r.Slots[0]
	for k := range r.Slots[r.Size:] {
		if r.Slots[k+r.Size]-r.Slots[k] != stride {
			return
		}
	}
	r.even = max(0, stride)
}

// Run fills the slots from out on with what is made of the many; with nothing, which is no number, where there are none.
func (r *Reduction) Run(values []float64, out int32) {
	n := int32(len(r.Slots) / r.Size)
	if n == 0 {
		r.none(values, out)
		return
	}
	switch r.By {
	case Nth:
		at := values[r.Arg[0]]
		if at != at {
			r.none(values, out)
			return
		}
		r.take(values, out, int(math.Min(math.Max(math.Floor(at), 1), float64(n)))-1)
		return
	case Nearest:
		r.take(values, out, r.nearest(values))
		return
	case First:
		r.take(values, out, 0)
		return
	case Last:
		r.take(values, out, int(n)-1)
		return
	}
	for c := range r.Size {
		values[out+int32(c)] = r.over(values, c)
	}
}

// take fills the slots with one of the many; with nothing below 0.
func (r *Reduction) take(values []float64, out int32, at int) {
	if at < 0 {
		r.none(values, out)
		return
	}
	for c := range r.Size {
		values[out+int32(c)] = values[r.Slots[at*r.Size+c]]
	}
}

func (r *Reduction) none(values []float64, out int32) {
	for c := range r.Size {
		values[out+int32(c)] = math.NaN()
	}
}

// over makes one component of all of the many.
func (r *Reduction) over(values []float64, c int) float64 {
	size := r.Size
	x := values[r.Slots[c]]
	switch r.By {
	case Sum, Mean:
		if r.even > 0 {
			x = summed(values[r.Slots[c]:r.Slots[len(r.Slots)-size+c]+1], int(r.even))
		} else {
			for k := size + c; k < len(r.Slots); k += size {
				x += values[r.Slots[k]]
			}
		}
		if r.By == Mean {
			x /= float64(len(r.Slots) / size)
		}
	case Least:
		for _, s := range r.Slots[1:] {
			x = apply(OpMin, x, values[s], 0)
		}
	case Greatest:
		for _, s := range r.Slots[1:] {
			x = apply(OpMax, x, values[s], 0)
		}
	case Weighted:
		w := values[r.Weights[0]]
		x = float64(x * w)
		for k, s := range r.Weights[1:] {
			one := values[s]
			x += float64(values[r.Slots[(k+1)*size+c]] * one)
			w += one
		}
		x /= w
	}
	return x
}

// summed adds every so manieth of a run of numbers, from the first to the last.
func summed(run []float64, stride int) float64 {
	x := run[0]
	if stride == 1 {
		for _, y := range run[1:] {
			x += y
		}
		return x
	}
	for k := stride; k < len(run); k += stride {
		x += run[k]
	}
	return x
}

// nearest returns which of the many is nearest to the given value; -1 where none is near to anything.
func (r *Reduction) nearest(values []float64) int {
	best, at := math.Inf(1), -1
	for k := 0; k < len(r.Slots); k += r.Size {
		d := 0.0
		for c := range r.Size {
			way := values[r.Slots[k+c]] - values[r.Arg[min(c, len(r.Arg)-1)]]
			d += float64(way * way)
		}
		if d < best {
			best, at = d, k/r.Size
		}
	}
	return at
}

// Uses calls with every slot that is read.
func (r *Reduction) Uses(visit func(int32)) {
	for _, list := range [][]int32{r.Slots, r.Weights, r.Arg} {
		for _, s := range list {
			visit(s)
		}
	}
}

// Moved returns the reduction with its slots elsewhere.
func (r *Reduction) Moved(move func(int32) int32) *Reduction {
	out := *r
	lists := []*[]int32{&out.Slots, &out.Weights, &out.Arg}
	for _, list := range lists {
		moved := make([]int32, len(*list))
		for k, s := range *list {
			moved[k] = move(s)
		}
		*list = moved
	}
	out.Ready()
	return &out
}

// RunBlock is Run over a block of frames; the two are tested against each other.
func (r *Reduction) RunBlock(s *FrameBlock, out int32) {
	frames := len(s.Values[out])
	row := make([]float64, len(s.Values)) // by slot, at one frame
	for f := range frames {
		r.Uses(func(slot int32) { row[slot] = s.Values[slot][f] })
		r.Run(row, out)
		for c := range int32(r.Size) {
			s.Values[out+c][f] = row[out+c]
		}
	}
}
