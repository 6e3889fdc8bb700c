package wire

import (
	"fmt"
	"math"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// MaxGathered bounds what the lists of all formulas of a composition read together; what would read more is left out. What several formulas
// make of the same list is made once.
const MaxGathered = 4_000_000

// workedOut is how many values count for one that is worked out for each member, and does not stand there.
const workedOut = 16

// shared is something that formulas have in common where they make the same of the same list: on a stage, under what it is made of.
type shared struct {
	stage int32
	of    string
}

// gather gives what is made of a list its slots, and returns the first of them.
func (t *lowerer) gather(s *stack, scope *binding.Scope, g *machine.Gather, below []Target) int32 {
	found := scope.MembersOf(g.Many)
	key := shared{t.l.StageOf(s.item), ""}
	if found != nil && g.Alone() && !t.trial {
		key.of = fmt.Sprintf("%s %x", g.Signature(), found.Print)
		if slot, ok := t.shared[key]; ok {
			return slot
		}
	}
	if slot, ok := s.gathers[g]; ok {
		return slot
	}
	start, placed, gathers := len(t.targets), s.placed, s.gathers
	if key.of != "" { // what it is made of stays, whatever becomes of the formula that asks first
		s.placed, s.gathers = nil, nil
	}
	r := &machine.Reduction{By: g.By, Size: g.Size}
	if g.Arg != nil {
		first := t.placeOne(s, scope, g.Arg, below)
		for c := range g.Arg.Out {
			r.Arg = append(r.Arg, first+int32(c))
		}
	}
	from, to := 0, 0
	if found != nil {
		from, to = wanted(g, len(found.Members))
	}
	cost := (to - from) * len(g.Body.Out)
	if len(g.Body.Code) > 0 {
		cost *= workedOut
	}
	left := t.gathered+cost > MaxGathered
	if left {
		from, to, cost = 0, 0, 0
	}
	t.gathered += cost
	t.members(s, scope, g, from, to, r, below)
	first := t.next
	t.next += int32(g.Size)
	t.targets = append(t.targets, Target{Slot: first, Own: -1, Size: int32(g.Size), List: &List{Reduction: r, Crowded: left, cost: cost}, Spec: s.spec, item: s.item, property: s.property})
	if key.of == "" {
		if s.gathers == nil {
			s.gathers = map[*machine.Gather]int32{}
		}
		s.gathers[g] = first
		return first
	}
	s.placed, s.gathers = placed, gathers
	for k := range t.targets[start:] {
		one := &t.targets[start+k]
		if one.List == nil {
			one.List = &List{}
		}
		if one.List.Of == "" {
			one.List.Of = "of " + key.of
		}
	}
	t.targets[len(t.targets)-1].List.Of = key.of
	if t.shared == nil {
		t.shared = map[shared]int32{}
	}
	t.shared[key] = first
	return first
}

// members fills in where the values of some members of a list stand: where what is read of them stands, if nothing is made of it.
func (t *lowerer) members(s *stack, scope *binding.Scope, g *machine.Gather, from, to int, r *machine.Reduction, below []Target) {
	body, one := g.Body, *scope
	plain := len(body.Code) == 0
	for _, k := range body.Out {
		plain = plain && body.Inputs[k].Kind == machine.Property
	}
	var of parts
	if !plain {
		of = t.partsOf(s, scope, body, below)
	}
	slots := make([]int32, len(body.Out))
	r.Slots = make([]int32, 0, (to-from)*g.Size)
	for one.Each = from; one.Each < to; one.Each++ {
		there := plain
		for k, in := range body.Out {
			if there {
				source := t.bind(s, &one, &body.Inputs[in], of, below, nil)
				slots[k], there = source.Slot, source.Kind == machine.FromValues
			}
		}
		if !there {
			first := t.put(s, &one, body, of, below)
			for k := range slots {
				slots[k] = first + int32(k)
			}
		}
		r.Slots = append(r.Slots, slots[:g.Size]...)
		r.Weights = append(r.Weights, slots[g.Size:]...)
	}
	r.Ready()
}

// wanted tells which of n members are read: the first, the last and a given number need no other.
func wanted(g *machine.Gather, n int) (from, to int) {
	if n == 0 {
		return 0, 0
	}
	switch g.By {
	case machine.First:
		return 0, 1
	case machine.Last:
		return n - 1, n
	case machine.Nth:
		if in := g.Arg.Inputs; len(g.Arg.Code) == 0 && len(in) == 1 && in[0].Kind == machine.Constant && in[0].Value == in[0].Value {
			k := int(math.Min(math.Max(math.Floor(in[0].Value), 1), float64(n))) - 1
			return k, k + 1
		}
	}
	return 0, n
}

// Crowd lists the properties with formulas that are left out, since the lists of all of them together would read too much.
func (o *Order) Crowd() (out []scene.Ref) {
	seen := map[scene.Ref]bool{}
	for _, t := range o.graph.targets {
		if t.List == nil || !t.List.Crowded || t.item < 0 {
			continue
		}
		if ref := t.Ref(o.graph.l); !seen[ref] {
			seen[ref] = true
			out = append(out, ref)
		}
	}
	return out
}
