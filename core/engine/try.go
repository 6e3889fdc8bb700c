package engine

import (
	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// Try works out a formula that is no part of the composition, at some frames, as if it stood on a
// property; on none where the reference is empty. The frame last evaluated stays as it is. Where the
// formula has errors, there are no values.
func (p *Plan) Try(text string, on scene.Ref, frames ...float64) (*formula.Compiled, []scene.Value) {
	item, spec := p.Layout.Index(on.Item), (*scene.Spec)(nil)
	if item >= 0 {
		spec, _ = p.Layout.FindAt(item, on.Property)
	}
	return p.TryIn(text, item, wire.ScopeOf(p.Layout, item, spec, on.Component), frames...)
}

// TryIn is Try in a scope, such as that of a member of a roster, on an item.
func (p *Plan) TryIn(text string, item int32, scope *binding.Scope, frames ...float64) (*formula.Compiled, []scene.Value) {
	compiled := formula.Compile(text, scope)
	if compiled.Program == nil {
		return compiled, nil
	}
	p = p.wide(readsOf(compiled.Program, scope))
	t := p.trial(compiled.Program, item, scope)
	out := make([]scene.Value, len(frames))
	for k, frame := range frames {
		result := t.run(t.last, frame)
		if compiled.Type.Of == scene.Text {
			out[k] = scene.Txt((&env{p: p}).Text(result[0]))
		} else {
			out[k] = scene.NewValue(result)
		}
	}
	return compiled, out
}

// Lines is a formula made ready so that each of its lines is worked out at any frame, as TryIn does the whole of it.
type Lines struct {
	Types   []binding.Type // of the lines; of no size where a line has no value
	plan    *Plan
	program *machine.Program
	item    int32
	scope   *binding.Scope
	trial   *trial
	changes int // those of the plan when the trial was made
	lists   map[int][]scene.Value
}

// Lines makes the lines of a formula ready, in a scope, on an item; nil where it has errors. They follow the values of the
// plan, and are of no use once what the scope holds is another.
func (p *Plan) Lines(text string, item int32, scope *binding.Scope) *Lines {
	program, types := formula.CompileLines(text, scope)
	if program == nil {
		return nil
	}
	return &Lines{Types: types, plan: p, program: program, item: item, scope: scope, changes: -1}
}

// At returns what each line gives at a frame, in order; of a list, what it gives for the first of its members. The plan may have changed since; what it reads is brought up to date.
func (l *Lines) At(frame float64) []scene.Value {
	if l.changes != l.plan.changes {
		p := l.plan.wide(readsOf(l.program, l.scope))
		l.trial, l.changes = p.trial(l.program, l.item, l.scope), l.plan.changes
	}
	result := l.trial.run(l.trial.last, frame)
	out := make([]scene.Value, len(l.Types))
	l.lists = map[int][]scene.Value{}
	for k, of := range l.Types {
		n := of.Of.Size()
		if of.List == nil {
			out[k], result = l.value(of, result[:n]), result[n:]
			continue
		}
		for range min(formula.Sampled, len(of.List.Members)) {
			l.lists[k], result = append(l.lists[k], l.value(of, result[:n])), result[n:]
		}
		out[k] = l.lists[k][0]
	}
	return out
}

func (l *Lines) value(of binding.Type, numbers []float64) scene.Value {
	if of.Of == scene.Text {
		return scene.Txt((&env{p: l.trial.p}).Text(numbers[0]))
	}
	return scene.NewValue(numbers)
}

// List returns the values that a line gave last for the first members of its list; none for a line that is no list.
func (l *Lines) List(line int) []scene.Value { return l.lists[line] }

// trial is a formula that is tried out, with what it looks at at other times.
type trial struct {
	p    *Plan
	by   map[int32]*tried // what is looked at at other times, by slot
	last *tried
	kept map[moment][]float64 // what was worked out already
}

// moment is something that is tried out at a frame.
type moment struct {
	what  *tried
	frame float64
}

// maxMoments bounds what a trial keeps.
const maxMoments = 1 << 17

func (p *Plan) trial(program *machine.Program, item int32, scope *binding.Scope) *trial {
	t := &trial{p: p, by: map[int32]*tried{}, kept: map[moment][]float64{}}
	targets := wire.Trial(p.Layout, item, scope, program, p.order.Size())
	makes := map[int32]*wire.Target{}
	for k := range targets {
		targets[k].Makes(func(s int32) { makes[s] = &targets[k] })
	}
	for k := range targets {
		targets[k].Uses(wire.Uses{Later: func(s int32) {
			if head := makes[s]; head != nil && t.by[s] == nil {
				t.by[s] = t.add(head, makes)
			}
		}})
	}
	t.last = t.add(&targets[len(targets)-1], makes)
	return t
}

// tried is a program that is tried out, with all that it is made of at the same time and that is no part of the plan: what is made of
// lists. That stands behind the slots of the slice.
type tried struct {
	depSlice *depSlice
	steps    []triedStep
	size     int // slots of the slice
	behind   int // and behind them
	first    int32
	out      []int32 // where its results stand
}

// triedStep is some formulas that are worked out at once, or what is made of a list.
type triedStep struct {
	groups  []*machine.Group
	reduced *wire.Target
}

func (t *trial) add(head *wire.Target, makes map[int32]*wire.Target) *tried {
	made := &tried{first: head.Slot}
	var slots, items []int32
	var parts []*wire.Target // each behind what it is made of
	behind := map[int32]int{}
	var visit func(one *wire.Target)
	visit = func(one *wire.Target) {
		if _, known := behind[one.Slot]; known {
			return
		}
		read := func(s int32) {
			if part := makes[s]; part != nil {
				visit(part)
			} else {
				slots = append(slots, s)
			}
		}
		one.Uses(wire.Uses{Now: read, Own: read, Shape: func(i int32) { items = append(items, i) }})
		one.Makes(func(s int32) { behind[s] = made.behind; made.behind++ })
		parts = append(parts, one)
	}
	visit(head)
	made.depSlice = t.p.newSlice(slots, items)
	if made.size = len(made.depSlice.own); made.depSlice.local == nil {
		made.size = t.p.order.Size()
	}
	move := func(s int32) int32 {
		if at, ok := behind[s]; ok {
			return int32(made.size + at)
		}
		return made.depSlice.slot(s)
	}
	var alike []*wire.Target // formulas of one program, which do not wait for each other
	group := func() {
		if len(alike) > 0 {
			made.steps = append(made.steps, triedStep{groups: t.p.group(alike)})
		}
		alike = nil
	}
	for _, one := range parts {
		moved := one.Moved(move)
		if one.Reduced() != nil {
			group()
			made.steps = append(made.steps, triedStep{reduced: &moved})
			continue
		}
		if len(alike) > 0 && alike[0].Formula.Program != one.Formula.Program {
			group()
		}
		alike = append(alike, &moved)
	}
	group()
	head.Makes(func(s int32) { made.out = append(made.out, move(s)) })
	return made
}

func (t *trial) run(one *tried, frame float64) []float64 {
	at := moment{one, frame}
	if known := t.kept[at]; known != nil {
		return known
	}
	t.p.pause()
	out := make([]float64, len(one.out))
	t.p.at(one.depSlice, frame, func(c *snapshot) {
		values := append(c.values[:one.size:one.size], make([]float64, one.behind)...)
		env := &trialEnv{env{p: t.p, c: c}, t}
		for _, s := range one.steps {
			for _, g := range s.groups {
				g.Run(values, c.own, frame, env)
			}
			if s.reduced != nil {
				s.reduced.Reduced().Run(values, s.reduced.Slot)
			}
		}
		for k, s := range one.out {
			out[k] = values[s]
		}
	})
	if len(t.kept) >= maxMoments {
		clear(t.kept)
	}
	t.kept[at] = out
	return out
}

// trialEnv answers for the trial, and for everything else as the plan does.
type trialEnv struct {
	env
	t *trial
}

// Look fills out with what stands in slots at frames.
func (h *trialEnv) Look(out, frames, slots []float64) { machine.Looks(out, frames, h.at(slots)) }

// Area fills out with what slots have added up to since frame 0.
func (h *trialEnv) Area(out, frames, slots []float64) {
	machine.Areas(out, frames, h.p.rate, h.at(slots))
}

// Average fills out with the mean of slots over some frames.
func (h *trialEnv) Average(out, frames, slots, spans []float64) {
	machine.Averages(out, frames, spans, h.at(slots))
}

func (h *trialEnv) at(slots []float64) func(lane int, frame float64) float64 {
	return func(lane int, frame float64) float64 {
		slot := int32(slots[lane])
		if one := h.t.by[slot]; one != nil {
			return h.t.run(one, frame)[slot-one.first]
		}
		return h.p.past.Value(slot, frame, h.c.frame)
	}
}
