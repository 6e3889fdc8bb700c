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

// At returns what each line gives at a frame, in order. The plan may have changed since; what it reads is brought up to date.
func (l *Lines) At(frame float64) []scene.Value {
	if l.changes != l.plan.changes {
		p := l.plan.wide(readsOf(l.program, l.scope))
		l.trial, l.changes = p.trial(l.program, l.item, l.scope), l.plan.changes
	}
	result := l.trial.run(l.trial.last, frame)
	out := make([]scene.Value, len(l.Types))
	for k, of := range l.Types {
		n := of.Of.Size()
		if of.Of == scene.Text {
			out[k] = scene.Txt((&env{p: l.trial.p}).Text(result[0]))
		} else {
			out[k] = scene.NewValue(result[:n])
		}
		result = result[n:]
	}
	return out
}

// trial is a formula that is tried out, with what it looks at at other times.
type trial struct {
	p    *Plan
	by   map[int32]*tried // by slot
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
	for _, target := range wire.Trial(p.Layout, item, scope, program, p.order.Size()) {
		t.add(target)
	}
	return t
}

type tried struct {
	target   wire.Target
	depSlice *depSlice
	group    *machine.Group
	size     int // slots of the slice
	out      []int32
}

func (t *trial) add(target wire.Target) {
	var slots []int32
	for _, s := range target.Formula.Lane.In {
		if s.Kind == machine.FromValues || s.Kind == machine.FromOwn {
			slots = append(slots, s.Slot)
		}
	}
	made := &tried{target: target, depSlice: t.p.newSlice(slots, target.Formula.Items)}
	moved := target.Moved(func(s int32) int32 { // results stand behind the slots of the slice
		if int(s) >= t.p.order.Size() {
			return s
		}
		return made.depSlice.slot(s)
	})
	made.size = len(made.depSlice.own)
	if made.depSlice.local == nil {
		made.size = t.p.order.Size()
	}
	for k := range moved.Formula.Lane.Out {
		moved.Formula.Lane.Out[k] = int32(made.size + k)
		made.out = append(made.out, int32(made.size+k))
	}
	made.group = t.p.group([]*wire.Target{&moved})[0]
	for c := range target.Size {
		t.by[target.Slot+c] = made
	}
	t.last = made
}

func (t *trial) run(one *tried, frame float64) []float64 {
	at := moment{one, frame}
	if known := t.kept[at]; known != nil {
		return known
	}
	t.p.pause()
	out := make([]float64, len(one.out))
	t.p.at(one.depSlice, frame, func(c *snapshot) {
		values := append(c.values[:one.size:one.size], out...)
		one.group.Run(values, c.own, frame, &trialEnv{env{p: t.p, c: c}, t})
		copy(out, values[one.size:])
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
			return h.t.run(one, frame)[slot-one.target.Slot]
		}
		return h.p.past.Value(slot, frame, h.c.frame)
	}
}
