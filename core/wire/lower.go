package wire

import (
	"slices"

	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/layout"
	"wunderkammer/core/link"
	"wunderkammer/core/machine"
	"wunderkammer/core/scene"
)

// Bound is a formula that is worked out into slots: of its link's own, behind those of the layout.
type Bound struct {
	Program *machine.Program
	Lane    machine.Lane
	Looks   []int32 // slots that it looks at at other times
	Items   []int32 // items whose path it asks about
}

// lowerer turns links into targets.
type lowerer struct {
	l           *layout.Layout
	assignments map[driven][]assignment
	targets     []Target
	next        int32 // the next slot that is free
	// programs are formulas that were lowered already, with what they were lowered for.
	programs map[programKey]*formula.Compiled
	ofRows   map[rowKey]*formula.Compiled
	handed   map[driven]string        // controls that pieces set, and by which of their properties
	trial    bool                     // it is no part of the composition
	scopes   map[int32]*binding.Scope // what all formulas of a stage stand in; made when first needed
	made     []Target                 // of the property at hand, used again for the next
	feeds    []placed                 // of the link at hand, likewise
	spare    []Wire                   // room for the only wire of targets
	owners   *owners                  // made when first needed
	shared   map[shared]int32         // what is made of lists, by the first slot
	gathered int                      // values that lists read
	but      []*scene.Link
}

// programKey is what a program depends on besides its inputs: on a row, also on which members it has, and with what they
// are paired.
type programKey struct {
	text, property, component string
	composition               *scene.Composition
	kind                      scene.Kind
	firstUnit                 bool
	rosterLink                *scene.RosterLink
}

// rowKey is what the formula of a row depends on where a member lacks something.
type rowKey struct {
	rosterLink *scene.RosterLink
	text       string
	of         scene.Type
	component  string
}

// Targets lowers the links of a laid-out composition. A link whose source is missing, does not fit
// or is off is passed over.
func Targets(l *layout.Layout, but ...*scene.Link) []Target {
	t := &lowerer{l: l, next: int32(l.Size), but: but}
	t.rosterLinks()
	t.findHanded()
	rostered := map[int32][]int{}
	room := 0
	for at := range t.assignments {
		room += 1 + t.l.Specs(at.item)[at.property].Type.Size() // a formula, and what takes it
		rostered[at.item] = append(rostered[at.item], at.property)
	}
	for at := range t.handed {
		room += t.l.Specs(at.item)[at.property].Type.Size()
		rostered[at.item] = append(rostered[at.item], at.property)
	}
	rooms := map[*scene.Item]int{} // pieces show the same items
	for _, item := range l.Items {
		n, ok := rooms[item]
		if !ok {
			n = most(item)
			rooms[item] = n
		}
		room += n
	}
	t.targets = make([]Target, 0, room)
	known := map[*scene.Composition]*lowered{}
	for at, stage := range l.Stages {
		if stage.Apart {
			continue
		}
		if again := known[stage.Composition]; again != nil && t.again(again, int32(at)) {
			continue
		}
		first, next := len(t.targets), t.next
		for i := stage.First; i < stage.First+stage.Count; i++ {
			t.item(i, rostered[i])
		}
		known[stage.Composition] = &lowered{stage, t.targets[first:len(t.targets):len(t.targets)], next, t.next}
	}
	chains(l, t.targets)
	return t.targets
}

// item lowers the links of an item; some of its properties are driven by rows, or by the piece around it.
func (t *lowerer) item(i int32, properties []int) {
	item := t.l.Items[i]
	if len(item.States) == 0 && len(properties) == 0 {
		return
	}
	properties = append(properties, t.l.Linked(i)...)
	if item.Kind == scene.Copy {
		for key := range arranged {
			n, _ := t.l.Property(i, key)
			properties = append(properties, n)
		}
	}
	slices.Sort(properties)
	for _, p := range slices.Compact(properties) {
		t.property(i, p)
	}
}

// stack is the links of one property on their way to targets.
type stack struct {
	item     int32
	property int
	spec     *scene.Spec
	slot     int32
	given    map[int]machine.Source     // what a program is given, by component
	placed   map[*machine.Program]int32 // where programs of the formula that is being placed have their slots
	gathers  map[*machine.Gather]int32  // and what is made of its lists
}

// property adds the targets that the links of one property make.
func (t *lowerer) property(item int32, property int) {
	spec := t.l.Specs(item)[property]
	s := &stack{item: item, property: property, spec: spec, slot: t.l.Slot(item, property)}
	made := t.made[:0]
	if from := t.given(s); from >= 0 {
		for c := range int32(spec.Type.Size()) {
			t.add(s, &made, int(c), Wire{Source: from + c, Weight: -1, Share: 1, Gain: 1, Link: placing, Text: spec.Type == scene.Text})
		}
	}
	for _, k := range t.assignments[driven{item, property}] {
		t.link(s, k.rosterLink.Link, &k, &made)
	}
	for _, k := range t.l.Items[item].State(spec.Key).Links {
		t.link(s, k, nil, &made)
	}
	t.targets, t.made = append(t.targets, made...), made
}

// arranged are the properties of copies that begin with what the arrangement makes, each with that.
var arranged = map[string]string{"position": scene.Stand, "rotation": scene.Heading}

// placing is the link that they begin with. It has no id, and nobody made it.
var placing = &scene.Link{Kind: scene.Follow, Gain: 1}

// given returns the slot of what a property begins with in place of its own value: one of a copy with what the arrangement makes, and
// a control that is handed off with what the piece around it says; -1 for any other.
func (t *lowerer) given(s *stack) int32 {
	if key, ok := t.handed[driven{s.item, s.property}]; ok {
		_, slot := t.l.FindAt(t.l.Stages[t.l.StageOf(s.item)].Piece, key)
		return slot
	}
	if t.l.Items[s.item].Kind != scene.Copy {
		return -1
	}
	_, slot := t.l.FindAt(s.item, arranged[s.spec.Key])
	return slot
}

// findHanded finds the controls that pieces set.
func (t *lowerer) findHanded() {
	t.handed = map[driven]string{}
	for at, stage := range t.l.Stages {
		if at == 0 || stage.Apart {
			continue
		}
		for _, h := range stage.Composition.Handed() {
			i := t.l.In(int32(at), h.Item.ID)
			if n, ok := t.l.Property(i, string(h.From.ID)); ok {
				t.handed[driven{i, n}] = string(h.Offer.ID)
			}
		}
	}
}

// find is Layout.Find for what an item refers to.
func (t *lowerer) find(by int32, ref scene.Ref) (*scene.Spec, int32) {
	i := t.l.In(t.l.StageOf(by), ref.Item)
	if i < 0 {
		return nil, -1
	}
	return t.l.FindAt(i, ref.Property)
}

// add puts a wire on a component of the property.
func (t *lowerer) add(s *stack, made *[]Target, component int, w Wire) {
	for i := range *made {
		if (*made)[i].component == component {
			(*made)[i].Wires = append((*made)[i].Wires, w)
			return
		}
	}
	slot := s.slot + int32(component)
	*made = append(*made, Target{Slot: slot, Own: slot, Size: 1, Spec: s.spec.Part(component), Wires: t.only(w), item: s.item, property: s.property, component: component})
}

// only returns a list of one wire.
func (t *lowerer) only(w Wire) []Wire {
	if len(t.spare) == cap(t.spare) {
		t.spare = make([]Wire, 0, 256)
	}
	t.spare = append(t.spare, w)
	n := len(t.spare)
	return t.spare[n-1 : n : n]
}

// link adds the wires of one link, which may be one on a roster.
func (t *lowerer) link(s *stack, k *scene.Link, member *assignment, made *[]Target) {
	if k.Off || slices.Contains(t.but, k) {
		return
	}
	component := k.Component
	w := Wire{Weight: -1, Share: 1, Gain: k.Gain + 0, Offset: k.Offset + 0, Delay: k.Delay, Link: k, Text: s.spec.Type == scene.Text}
	if w.Text { // there is nothing to multiply
		w.Gain, w.Offset = 1, 0
	}
	if weight, at := t.l.FindAt(s.item, scene.WeightKey(k.ID)); weight != nil {
		w.Weight = at
	}
	if member != nil {
		component = member.rosterLink.Part(member.member)
		if member.rosterLink.Weight != nil {
			w.Share = *member.rosterLink.Weight / 100
		}
		if from := member.rosterLink.WeightFrom; from != nil {
			if at, ok := weightFrom(t.find(s.item, *from)); ok {
				w.Weight = at
			}
		}
	}
	wires := t.wires(s, k, component, member, w, *made)
	switch {
	case len(wires) == 0:
	case s.spec.Type.Worked(component):
		t.through(s, formula.Mixed(component, k.Operation), w, wires, made)
	case k.World && s.spec.Key == "rotation":
		t.through(s, formula.TurnWithin(k.Operation), w, wires, made)
	case k.World && s.spec.Spaced():
		t.through(s, formula.PlaceWithin(k.Operation, !s.vertex()), w, wires, made)
	default:
		for _, p := range wires {
			t.add(s, made, p.component, p.Wire)
		}
	}
}

// vertex reports whether it is the place of a vertex that is driven.
func (s *stack) vertex() bool {
	_, _, vertex := scene.VertexOf(s.spec.Key)
	return vertex
}

// placed is a wire with the component that it fills.
type placed struct {
	component int
	Wire
}

// wires returns the wires of one link, made from what all of them share; those to a component that is
// worked out of others fill component 0.
func (t *lowerer) wires(s *stack, k *scene.Link, component string, member *assignment, w Wire, below []Target) (out []placed) {
	out = t.feeds[:0]
	defer func() { t.feeds = out }()
	to, ok := s.spec.Type.Component(component)
	if !ok && !s.spec.Type.Worked(component) {
		return nil
	}
	put := func(c int, unit scene.Unit) {
		one := w
		if !w.Text {
			one.Offset += k.Offsets.At(c)
		}
		if member != nil {
			one.stagger(k.Stagger, member.counted, c)
		}
		out = append(out, placed{c, one.hundredth(k, unit)})
	}
	kind := link.Of(k)
	if text := sharedText(k, member, s.spec, component, t.l.CompositionOf(s.item)); text != "" {
		first, size, unit := t.formula(s, text, component, k.FirstUnit, member, below)
		if source, _ := t.find(s.item, k.Source); kind.Sourced && source != nil {
			unit = source.Unit
		}
		w.Worked, w.Gain, w.Offset, w.Delay = true, 1, 0, 0
		for c := range size {
			w.Source = first + int32(c)
			out = append(out, placed{to + c, w.hundredth(k, unit)})
		}
		return out
	}
	if kind.Formula != nil {
		first, size, unit := t.formula(s, kind.Formula(k), component, k.FirstUnit, member, below)
		w.Worked = true
		for c := range size {
			w.Source = first + int32(c)
			put(to+c, unit)
		}
		return out
	}
	if !kind.Sourced {
		return nil
	}
	source, slot := t.find(s.item, k.Source)
	if source == nil {
		return nil
	}
	fit, err := kind.Fits(source, k.Source.Component, s.spec, component)
	if err != nil {
		return nil
	}
	if kind.Response != nil {
		if w.Response = kind.Response(k, t.l.CompositionOf(s.item)); w.Response == nil {
			return out
		}
	}
	from, _ := source.Type.Component(k.Source.Component)
	for c, p := range fit.Parts {
		if p >= 0 {
			w.Source, w.Part = slot+int32(from+p), c
			put(to+c, source.Unit)
		}
	}
	return out
}

// hundredth returns a wire that multiplies by a percent as its hundredth, stagger and all.
func (w Wire) hundredth(k *scene.Link, unit scene.Unit) Wire {
	if k.Operation == scene.Multiply && unit == scene.Percent {
		w.Gain, w.Offset = w.Gain/100, w.Offset/100
	}
	return w
}

// through leads the wires of a link through a program, and its results on to the property: the wires
// give the numbers that the program is given, alone and whole. The program does what the link does with what is
// below it. The link's weight counts behind it; but for components that are worked out of others, of which the program mixes in as much as it says.
func (t *lowerer) through(s *stack, p *machine.Program, w Wire, wires []placed, made *[]Target) {
	s.given = map[int]machine.Source{}
	alone := *w.Link
	alone.Operation = scene.Replace
	for _, one := range wires {
		one.Link, one.Weight, one.Share, one.made = &alone, -1, 1, w.Link
		s.given[one.component] = machine.Source{Kind: machine.FromValues, Slot: t.next}
		t.targets = append(t.targets, Target{Slot: t.next, Own: s.slot, Size: 1, Spec: s.spec, Wires: []Wire{one.Wire}, Partial: true, item: s.item, property: s.property, component: one.component})
		t.next++
	}
	if s.spec.Type == scene.Colour {
		s.given[formula.GivenShare] = machine.Source{X: 100 * w.Share}
		if w.Weight >= 0 {
			s.given[formula.GivenShare] = machine.Source{Kind: machine.FromValues, Slot: w.Weight}
		}
		w.Weight, w.Share = -1, 1
	}
	first := t.place(s, t.scopeOf(s.item, s.spec, ""), p, *made)
	s.given = nil
	w.Link, w.Gain, w.Offset, w.Delay, w.made = &alone, 1, 0, 0, w.Link
	w.Response, w.Worked = nil, false
	for c := range min(len(p.Out), s.spec.Type.Size()) { // the vertex of a path has no z
		w.Source = first + int32(c)
		t.add(s, made, c, w)
	}
}

// formula adds what works a formula out, and returns where its result stands; a size of 0 where the
// formula cannot be worked out.
func (t *lowerer) formula(s *stack, text, component string, firstUnit bool, member *assignment, below []Target) (first int32, size int, unit scene.Unit) {
	if text == "" {
		return 0, 0, ""
	}
	scope := member.on(t.scopeOf(s.item, s.spec, component))
	scope.FirstUnit = firstUnit
	key := programKey{text: text, property: s.spec.Key, component: component, composition: t.l.CompositionOf(s.item), kind: scope.Self.Kind, firstUnit: firstUnit}
	if member != nil {
		if key.rosterLink = member.rosterLink; key.rosterLink.Roster.Kind == scene.Vertices {
			key.property = key.rosterLink.Property // one for all of them
		}
	}
	compiled := t.programs[key]
	if compiled == nil || compiled.Program == nil || !scope.Suits(compiled.Program) {
		compiled = formula.Compile(text, scope)
		if t.programs == nil {
			t.programs = map[programKey]*formula.Compiled{}
		}
		t.programs[key] = compiled
	}
	if compiled.Program == nil && member != nil {
		compiled = t.ofRow(s.item, member.rosterLink, text, s.spec, component)
	}
	if compiled.Program == nil {
		return 0, 0, ""
	}
	return t.place(s, scope, compiled.Program, below), len(compiled.Program.Out), compiled.Type.Unit
}

// maxTries bounds how many members of a row are asked for one that has all that its formula reads.
const maxTries = 1000

// ofRow returns the formula of a link on a row as it is lowered at the first of the members that has all that it reads and
// is driven in the same way. At one that lacks something, that is nothing there, and the formula says what it is else.
func (t *lowerer) ofRow(on int32, s *scene.RosterLink, text string, spec *scene.Spec, component string) *formula.Compiled {
	key := rowKey{s, text, spec.Type, component}
	if compiled := t.ofRows[key]; compiled != nil {
		return compiled
	}
	if t.ofRows == nil {
		t.ofRows = map[rowKey]*formula.Compiled{}
	}
	compiled, tries := &formula.Compiled{}, 0
	assignmentsOf(t.l.CompositionOf(on), s, func(k assignment) {
		own := k.member.Item.Spec(k.member.Key)
		if compiled.Program != nil || own.Type != spec.Type || s.Part(k.member) != component || tries >= maxTries {
			return
		}
		tries++
		scope := k.on(t.scopeOf(t.l.In(t.l.StageOf(on), k.member.Item.ID), own, component))
		scope.FirstUnit = s.Link.FirstUnit
		compiled = formula.Compile(text, scope)
	})
	t.ofRows[key] = compiled
	return compiled
}

// scopeOf is ScopeOf for the layout that is lowered.
func (t *lowerer) scopeOf(item int32, spec *scene.Spec, component string) *binding.Scope {
	stage := t.l.StageOf(item)
	if t.scopes[stage] == nil {
		if t.scopes == nil {
			t.scopes = map[int32]*binding.Scope{}
		}
		t.scopes[stage] = stageScope(t.l, stage)
	}
	s := *t.scopes[stage]
	s.Self, s.Target, s.Part = t.l.Items[item], spec, component
	return &s
}

// place gives a program its slots and binds its inputs, and so what it looks at at other times.
func (t *lowerer) place(s *stack, scope *binding.Scope, p *machine.Program, below []Target) int32 {
	clear(s.placed)
	clear(s.gathers)
	return t.placeOne(s, scope, p, below)
}

func (t *lowerer) placeOne(s *stack, scope *binding.Scope, p *machine.Program, below []Target) int32 {
	if at, ok := s.placed[p]; ok {
		return at
	}
	if s.placed == nil && len(p.Looks)+len(p.Gathers) > 0 {
		s.placed = map[*machine.Program]int32{}
	}
	first := t.put(s, scope, p, t.partsOf(s, scope, p, below), below)
	if s.placed != nil {
		s.placed[p] = first
	}
	return first
}

// parts are the first slots of what a program is made of besides its inputs: what it looks at at other times, and what it makes of lists.
type parts struct{ looks, lists []int32 }

func (t *lowerer) partsOf(s *stack, scope *binding.Scope, p *machine.Program, below []Target) parts {
	of := parts{make([]int32, len(p.Looks)), make([]int32, len(p.Gathers))}
	for i, look := range p.Looks {
		var ok bool
		if of.looks[i], ok = t.named(s, scope, look, below); !ok {
			of.looks[i] = t.placeOne(s, scope, look, below)
		}
	}
	for i := range p.Inputs { // of those only that its result is made of
		if in := &p.Inputs[i]; in.Kind == machine.Gathered && of.lists[in.Look] == 0 {
			of.lists[in.Look] = t.gather(s, scope, p.Gathers[in.Look], below)
		}
	}
	return of
}

// put puts a program with its parts into slots of its own, and returns the first of them.
func (t *lowerer) put(s *stack, scope *binding.Scope, p *machine.Program, of parts, below []Target) int32 {
	b := &Bound{Program: p}
	b.Lane.In = make([]machine.Source, len(p.Inputs))
	for i := range p.Inputs {
		b.Lane.In[i] = t.bind(s, scope, &p.Inputs[i], of, below, b)
	}
	first := t.next
	t.next += int32(len(p.Out))
	for k := range p.Out {
		b.Lane.Out = append(b.Lane.Out, first+int32(k))
	}
	t.targets = append(t.targets, Target{Slot: first, Own: -1, Size: int32(len(p.Out)), Formula: b, Spec: s.spec, item: s.item, property: s.property})
	return first
}

// named returns the first of the slots that a program only names, so that they can be looked at without
// it. A program that is tried out stands beside a plan that may not listen to them.
func (t *lowerer) named(s *stack, scope *binding.Scope, p *machine.Program, below []Target) (first int32, ok bool) {
	if t.trial || len(p.Code) > 0 {
		return 0, false
	}
	for k, r := range p.Out {
		if p.Inputs[r].Kind != machine.Property {
			return 0, false
		}
		source := t.bind(s, scope, &p.Inputs[r], parts{}, below, &Bound{})
		if k == 0 {
			first = source.Slot
		}
		if source.Kind != machine.FromValues || source.Slot != first+int32(k) {
			return 0, false
		}
	}
	return first, true
}
