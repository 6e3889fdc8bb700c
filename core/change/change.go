// Package change edits a project. Every edit is a list of typed operations, the same for a
// gesture in the browser, a request to the server and the building of the demo; applying a list
// returns the list that undoes it.
package change

import (
	"bytes"
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"iter"
	"maps"
	"slices"

	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// Op is one operation. Its fields are what it needs to know and nothing else; its name in JSON
// stands in the table of names.
type Op interface {
	// apply makes the edit or returns an error and leaves the project as it was.
	apply(p *scene.Project) (inverse Op, effect Effect, err error)
}

// Touch is what of a composition an operation touched. What has to be done about it is for whoever keeps something
// that is made of the composition to say.
type Touch uint8

// What is touched, from what concerns the fewest to what concerns all.
const (
	Looks     Touch = iota // what nothing is worked out of: notes, colour marks, soft ranges, where slips lie
	Offers                 // what is handed off: the properties of pieces elsewhere that show the composition
	Values                 // the own value or the pins of a property
	Responses              // how the links that hold values for the stops of a control answer it
	Wiring                 // the links of a property, or one link on a row: neither its members nor what it drives of them
	Names                  // the name of an item or a control, by which rows and formulas may find it
	Settings               // the rate, the size or the length of the composition
	Structure              // items, controls, vertices, rows: what there is, and in which order
)

// Effect says what an operation touched, so that only what depends on it is worked out again.
type Effect struct {
	Touch       Touch
	Composition scene.ID
	Item        scene.ID // the item whose description changed; empty for none
	Property    string   // the property, or the control, of it that is meant; empty for the whole item
	RosterLink  scene.ID // the link on a row whose wiring it is; empty for none
	Graph       scene.ID // the graph that changed; empty for none
	also        []Effect // of the same operation
	attached    bool     // an item came to hang on another one
	wired       bool     // something may depend on something else now that it did not depend on before
}

// Ops is a list of operations; in JSON each is an object whose "op" names its type.
type Ops []Op

// MaxOps bounds how many operations one change may hold.
const MaxOps = 400000

// Broken is returned where making operations broke off in the middle. The project is of no use any more: it
// has to be read anew from where it is kept.
type Broken struct{ Cause any }

// Error says so in a sentence.
func (b *Broken) Error() string {
	return fmt.Sprintf("something went wrong during the change, and none of it was kept (%v)", b.Cause)
}

// Guard turns a panic into a *Broken.
func Guard(err *error) {
	if cause := recover(); cause != nil {
		*err = &Broken{cause}
	}
}

// Apply makes all operations or none. The inverse undoes them, in the order it stands in.
// A list that would make links run in a cycle is refused with a *wire.Cycle. A panic on the way is
// returned as a *Broken.
func Apply(p *scene.Project, ops Ops) (inverse Ops, effects []Effect, err error) {
	defer Guard(&err)
	inverse, effects, err = applyAll(p, ops)
	if err != nil {
		return nil, nil, err
	}
	if err := Cycles(p, effects); err != nil {
		revert(p, inverse)
		return nil, nil, err
	}
	return inverse, effects, nil
}

// Makes reports whether a cycle that stands there after an operation may be of its making: a cycle
// that stood there before is not.
func (e *Effect) Makes(cycle *wire.Cycle) bool {
	return e.wired && (e.Item == "" || slices.ContainsFunc(cycle.Refs, func(ref scene.Ref) bool { return ref.Item == e.Item }))
}

// Replay applies operations that were accepted before, without looking for cycles.
func Replay(p *scene.Project, ops Ops) (inverse Ops, effects []Effect, err error) {
	defer Guard(&err)
	return applyAll(p, ops)
}

func applyAll(p *scene.Project, ops Ops) (Ops, []Effect, error) {
	if len(ops) > MaxOps {
		return nil, nil, fmt.Errorf("the change has %d operations; the limit is %d at once", len(ops), MaxOps)
	}
	inverse := make(Ops, len(ops))
	effects := make([]Effect, 0, len(ops))
	for i, op := range ops {
		back, effect, err := op.apply(p)
		if err != nil {
			revert(p, inverse[len(ops)-i:])
			return nil, nil, err
		}
		inverse[len(ops)-1-i] = back
		reread(p, effect)
		effects = append(append(effects, effect), effect.also...)
	}
	if err := cmp.Or(attachments(p, effects), pieces(p, effects)); err != nil {
		revert(p, inverse)
		return nil, nil, err
	}
	return inverse, effects, nil
}

// reread has rows look for their members anew where an operation may have given them others.
func reread(p *scene.Project, e Effect) {
	if c := p.Composition(e.Composition); c != nil {
		if c.Offered(); e.Touch >= Wiring {
			c.Changed()
		}
	}
	for _, also := range e.also {
		reread(p, also)
	}
}

// attachments refuses operations that attached items to each other in a cycle. It is looked for once, behind
// all of them, so that a long chain is attached in the time that its items take.
func attachments(p *scene.Project, effects []Effect) error {
	looked := map[scene.ID]bool{}
	for _, e := range effects {
		c := p.Composition(e.Composition)
		if !e.attached || c == nil || looked[c.ID] {
			continue
		}
		looked[c.ID] = true
		if err := c.CheckTree(); err != nil {
			return err
		}
	}
	return nil
}

// pieces refuses operations after which a composition would show itself by way of pieces, or more than can be shown, and a reading be more
// than that.
func pieces(p *scene.Project, effects []Effect) error {
	structure := false
	for _, e := range effects {
		structure = structure || e.Touch == Structure
		if c := p.Composition(e.Composition); c != nil && c.IsReading() {
			if err := c.CheckReading(); err != nil {
				return err
			}
		}
	}
	if structure {
		return p.CheckPieces()
	}
	return nil
}

// revert applies inverses of operations that were just made; they cannot fail.
func revert(p *scene.Project, inverse Ops) {
	for _, op := range inverse {
		_, effect, err := op.apply(p)
		if err != nil {
			panic("an inverse was refused: " + err.Error())
		}
		reread(p, effect)
	}
}

// Cycles returns a *wire.Cycle where operations that had the effects made one.
func Cycles(p *scene.Project, effects []Effect) error {
	found := map[scene.ID]*wire.Cycle{}
	for _, e := range effects {
		c := p.Composition(e.Composition)
		if !e.wired || c == nil {
			continue
		}
		cycle, known := found[c.ID]
		if !known {
			l := layout.Of(c)
			_, cycle = wire.Sort(l, wire.Targets(l))
			found[c.ID] = cycle
		}
		if cycle != nil && e.Makes(cycle) {
			return cycle
		}
	}
	return nil
}

// MarshalJSON writes the list with the name of each operation.
func (ops Ops) MarshalJSON() ([]byte, error) {
	var b bytes.Buffer
	b.WriteByte('[')
	for i, op := range ops {
		if i > 0 {
			b.WriteByte(',')
		}
		body, err := json.Marshal(op)
		if err != nil {
			return nil, err
		}
		fmt.Fprintf(&b, `{"op":%q`, nameOf(op))
		if len(body) > 2 {
			b.WriteByte(',')
		}
		b.Write(body[1:])
	}
	b.WriteByte(']')
	return b.Bytes(), nil
}

// UnmarshalJSON reads what MarshalJSON writes. Unknown operations and values of a wrong type are
// errors in plain words.
func (ops *Ops) UnmarshalJSON(data []byte) error { return ops.read(data, json.Unmarshal) }

// Exact is operations as who speaks today's language sends them: a field that an operation does not have is refused.
// What was stored may hold fields that operations had once.
type Exact Ops

// UnmarshalJSON is that of Ops, but for the fields.
func (e *Exact) UnmarshalJSON(data []byte) error {
	return (*Ops)(e).read(data, func(data []byte, op any) error {
		return scene.ReadExactly(without(data, "op"), op)
	})
}

// without returns an object without one of its fields; what is no object, as it is.
func without(data []byte, field string) []byte {
	d := json.NewDecoder(bytes.NewReader(data))
	if t, err := d.Token(); err != nil || t != json.Delim('{') {
		return data
	}
	for d.More() {
		from := d.InputOffset()
		name, err := d.Token()
		var value json.RawMessage
		if err != nil || d.Decode(&value) != nil {
			return data
		}
		if name == field {
			rest := bytes.TrimLeft(data[d.InputOffset():], " \t\r\n")
			before := bytes.TrimRight(data[:from], " \t\r\n,")
			if bytes.HasSuffix(before, []byte("{")) {
				rest = bytes.TrimLeft(rest, ",")
			}
			return slices.Concat(before, rest)
		}
	}
	return data
}

func (ops *Ops) read(data []byte, into func([]byte, any) error) error {
	var raw []json.RawMessage
	if err := json.Unmarshal(data, &raw); err != nil {
		return errors.New("the operations are not a list of objects")
	}
	if len(raw) > MaxOps {
		return fmt.Errorf("the change has %d operations; the limit is %d at once", len(raw), MaxOps)
	}
	list := make(Ops, 0, len(raw))
	for i, r := range raw {
		op, err := decode(r, into)
		if err != nil {
			return fmt.Errorf("operation %d: %w", i+1, err)
		}
		list = append(list, op)
	}
	*ops = list
	return nil
}

func decode(data []byte, into func([]byte, any) error) (Op, error) {
	var head struct {
		Op string `json:"op"`
	}
	if err := json.Unmarshal(data, &head); err != nil {
		return nil, errors.New("it is not an object with the name of an operation in \"op\"")
	}
	make, ok := names[head.Op]
	if !ok {
		return nil, fmt.Errorf("there is no operation named %q", clip(head.Op))
	}
	op := make()
	if err := into(data, op); err != nil {
		return nil, fmt.Errorf("%s: %w", head.Op, scene.PlainJSON(err))
	}
	return op, nil
}

// All gives an empty operation of every name, in the order of the names.
func All() iter.Seq2[string, Op] {
	return func(yield func(string, Op) bool) {
		for _, name := range slices.Sorted(maps.Keys(names)) {
			if !yield(name, names[name]()) {
				return
			}
		}
	}
}

func clip(s string) string {
	if len(s) > 40 {
		return s[:40] + "…"
	}
	return s
}

// Upgrade brings operations that were stored in an older format to what is meant by them now, as a project's.
func (ops Ops) Upgrade(format int) {
	for _, op := range ops {
		switch o := op.(type) {
		case *CompositionAdd:
			(&scene.Project{Compositions: []*scene.Composition{o.Value}}).Upgrade(format)
		case *ItemAdd:
			o.Value.Upgrade(format)
		case *ItemPath:
			for _, s := range o.States {
				s.Upgrade(format)
			}
		case *ControlAdd:
			o.State.Upgrade(format)
			o.Weights.Upgrade(format)
		case *LinkAdd:
			o.Link.Upgrade(format)
			o.Weight.Upgrade(format)
			o.Weights.Upgrade(format)
		case *LinkSet:
			o.Link.Upgrade(format)
		case *RosterLinkAdd:
			o.Value.Upgrade(format)
		case *RosterLinkSet:
			o.Value.Upgrade(format)
		case *GraphAdd:
			o.Value.Upgrade(format)
		case *SlipAdd:
			o.Value.Upgrade(format)
		case *SlipSet:
			o.Value.Upgrade(format)
		case *RecipeAdd:
			o.Value.Upgrade(format)
		}
	}
}
