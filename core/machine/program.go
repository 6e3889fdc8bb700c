// Package machine is what formulas are made into: programs of single-assignment operations on numbers, and what runs them,
// for many members of a row and many frames at once.
package machine

import (
	"math"

	"wunderkammer/core/scene"
)

// MaxOperations bounds a program.
const MaxOperations = 2000

// Program is a formula made ready: single-assignment operations on numbers. Register k is input k
// for the inputs, and behind them the result of one operation after the other.
type Program struct {
	Inputs []Input
	Code   []Instruction
	Out    []int32 // the registers of the result, one for each component of the target
	// Looks are the expressions that are looked at at other times.
	Looks []*Program
	// Gathers are the lists of which one value is made.
	Gathers []*Gather
	// Shape is the same for programs that differ only in their inputs.
	Shape string

	asked *Program // what Asks returns, once it was asked for
	asks  []Ask

	signature string // what Signature and Alone return, once they were asked for
	alone     *bool
}

// Instruction is one operation on up to three registers.
type Instruction struct {
	Op      Op
	A, B, C int32
}

// InputKind is where the number of an input comes from.
type InputKind int

// The kinds of inputs.
const (
	Constant  InputKind = iota
	Words               // the number that stands for a text
	Property            // a component of a property, as the links make it
	Own                 // a component of the driven property, as it is under its links
	Below               // a component of the driven property, as the links under this one make it
	Frame               // the frame that is evaluated
	Look                // the slot of an expression that is looked at at other times
	ItemIndex           // the index of an item
	WorldOf             // a number of the world transform of an item
	OwnPlace            // a component of the place of the item that is driven, or of the vertex, as it is under its links
	World               // a number of the world transform of the item that an item hangs on
	Stood               // a number of that transform as it was when the item was attached
	Hangs               // the weight, in percent, by which the item hangs on it
	Given               // a number that whoever binds the program gives
	Index               // of the driven member of a roster, from 0
	Number              // the same, from 1
	Count               // how many members there are
	Share               // how far along the roster, 0 to 1
	Gathered            // a component of what is made of a list
	HowMany             // how many are gathered
)

// Input is a number that a program is given.
type Input struct {
	Kind      InputKind
	Value     float64  // of a constant
	Text      string   // of words
	Item      scene.ID // of a property
	Key       string
	Component int
	Look      int // which expression, or list
	// Many are those of whom the property is read, one after the other; what is told of their owner by its place is in Relative.
	Many scene.Gathering
	// Relative says where the owner of a property stands, in place of its id; Type is what the
	// property has to be there for the program to fit, and Options are the names of what it is one of.
	Relative string
	Steps    int
	Type     scene.Type
	Options  string
	Outer    int // how many rosters further out; of counts likewise
}

// Builder makes a program. Registers of inputs are counted down from -1 until it is finished.
type Builder struct {
	inputs []Input
	known  map[Input]int32
	code   []Instruction
	done   map[Instruction]int32
	Looks  []*Program // of the program that is made
	Lists  []*Gather  // likewise
	total  *int       // operations of all programs of the formula
}

// NewBuilder returns a builder that counts its operations into total, which several share.
func NewBuilder(total *int) *Builder {
	return &Builder{known: map[Input]int32{}, done: map[Instruction]int32{}, total: total}
}

// Input adds an input, unless there is the same already, and returns its register.
func (b *Builder) Input(in Input) int32 {
	if r, ok := b.known[in]; ok {
		return r
	}
	b.inputs = append(b.inputs, in)
	r := -int32(len(b.inputs))
	if in.Value == in.Value { // a missing number equals nothing, itself included
		b.known[in] = r
	}
	return r
}

// Constant returns the register of a number.
func (b *Builder) Constant(x float64) int32 { return b.Input(Input{Kind: Constant, Value: x + 0}) }

// Value returns the number of a register that is a constant.
func (b *Builder) Value(r int32) (float64, bool) {
	if r >= 0 || b.inputs[-r-1].Kind != Constant {
		return 0, false
	}
	return b.inputs[-r-1].Value, true
}

// Op adds an operation, unless its result is known already.
func (b *Builder) Op(op Op, args ...int32) int32 {
	in := Instruction{Op: op}
	constant := !op.asks()
	var x [3]float64
	for i, slot := range []*int32{&in.A, &in.B, &in.C} {
		if i < len(args) {
			*slot = args[i]
			v, ok := b.Value(args[i])
			x[i], constant = v, constant && ok
		} else {
			*slot = args[0]
		}
	}
	if constant {
		return b.Constant(apply(op, x[0], x[1], x[2]))
	}
	if y, ok := b.Value(in.B); ok && op == OpDiv { // by a power of two: as much to the bit, in a quarter of the time
		if m, e := math.Frexp(y); math.Abs(m) == 0.5 && e > -1000 && e < 1000 {
			return b.Op(OpMul, in.A, b.Constant(1/y))
		}
	}
	if r, ok := b.done[in]; ok {
		return r
	}
	if *b.total++; *b.total > 2*MaxOperations { // it is refused, and must not grow meanwhile
		return args[0]
	}
	b.code = append(b.code, in)
	r := int32(len(b.code) - 1)
	b.done[in] = r
	return r
}

// used finds the inputs and operations that the results are made of.
func (b *Builder) used(out []int32) (inputs, code []bool) {
	inputs, code = make([]bool, len(b.inputs)), make([]bool, len(b.code))
	mark := func(r int32) {
		if r < 0 {
			inputs[-r-1] = true
		} else {
			code[r] = true
		}
	}
	for _, r := range out {
		mark(r)
	}
	for i := len(b.code) - 1; i >= 0; i-- {
		if code[i] {
			mark(b.code[i].A)
			mark(b.code[i].B)
			mark(b.code[i].C)
		}
	}
	return inputs, code
}

// Finish numbers the registers for good, and leaves out what the results are not made of: it would be
// waited for.
func (b *Builder) Finish(out []int32) *Program {
	usedInputs, usedCode := b.used(out)
	p := &Program{Looks: b.Looks, Gathers: b.Lists}
	inputs, code := make([]int32, len(b.inputs)), make([]int32, len(b.code))
	for k, in := range b.inputs {
		if usedInputs[k] {
			inputs[k] = int32(len(p.Inputs))
			p.Inputs = append(p.Inputs, in)
		}
	}
	n := int32(len(p.Inputs))
	final := func(r int32) int32 {
		if r < 0 {
			return inputs[-r-1]
		}
		return code[r]
	}
	shape := make([]byte, 0, 8*len(b.code)+8)
	add := func(r int32) { shape = append(shape, byte(r), byte(r>>8)) }
	add(n)
	for i, in := range b.code {
		if !usedCode[i] {
			continue
		}
		in.A, in.B, in.C = final(in.A), final(in.B), final(in.C)
		code[i] = n + int32(len(p.Code))
		p.Code = append(p.Code, in)
		shape = append(shape, byte(in.Op))
		add(in.A)
		add(in.B)
		add(in.C)
	}
	for _, r := range out {
		p.Out = append(p.Out, final(r))
		add(final(r))
	}
	p.Shape = string(shape)
	return p
}
