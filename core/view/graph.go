package view

import (
	"slices"
	"strings"

	"wunderkammer/core/engine"
	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/wire"
)

// GraphAsk asks what the slips of a graph give at the frame last evaluated.
type GraphAsk struct {
	Graph scene.ID `json:"graph"`
	// Member is which member of a roster that it drives is looked at, from 0; the one in the middle where there is none.
	Member int `json:"member"`
}

// ShownGraph is what a sheet shows of a graph at a frame, for one member of its roster.
type ShownGraph struct {
	Slips []ShownSlip `json:"slips" ts:"list"`
	// Members are those of the roster that is looked at, of copies those that are shown; 0 for none.
	Members int `json:"members,omitempty"`
	Member  int `json:"member"` // the one that is looked at, from 0
}

// ShownSlip is a slip as it is drawn: its words, its inputs, and what its outputs give at the frame.
type ShownSlip struct {
	ID     scene.ID `json:"id"`
	Called string   `json:"called"`
	// Text and Fields are what is written on it with the names of what it refers to, where that is anything.
	Text   string            `json:"text,omitempty"`
	Fields map[string]string `json:"fields,omitempty"`
	Ins    []graph.Port      `json:"ins" ts:"list"`
	Outs   []SlipOutput      `json:"outs" ts:"list"`
	Drives []Drive           `json:"drives,omitempty"`
	Fault  string            `json:"fault,omitempty"` // why it gives nothing, or drives nothing
}

// SlipOutput is an output of a slip with the value that it gives at the frame.
type SlipOutput struct {
	Key   string      `json:"key"`
	Tag   string      `json:"tag"` // what sort of value it is, in a letter or two
	Parts []string    `json:"parts,omitempty"`
	Value scene.Value `json:"value"` // absent where it is not finite
	Text  string      `json:"text,omitempty"`
	List  *ListShown  `json:"list,omitempty"` // where it gives many values
}

// Drive is something that a drive slip gives its value.
type Drive struct {
	Ref        scene.Ref `json:"ref"`
	RosterLink scene.ID  `json:"spread,omitempty"`
	Link       scene.ID  `json:"link"`
	Name       string    `json:"name"`
}

// maxRounds bounds how often slips that do not work are left out one after the other.
const maxRounds = 40

// worked is a graph made ready to be worked out where it is looked at.
type worked struct {
	shown  ShownGraph // without values
	sheet  graph.Sheet
	lines  *engine.Lines // nil where there is nothing
	scope  *binding.Scope
	places map[scene.ID][]int // the lines of each slip
	copies scene.ID           // that are looked at as a roster; empty where it is another
}

// workedOut makes a graph ready; nil where there is none. It is kept until something other than values changes.
func workedOut(s *session.Session, a GraphAsk) *worked {
	g, _ := s.Composition().Graph(a.Graph)
	if g == nil {
		return nil
	}
	return s.Keep(a, func() any { return workOut(s, g, a.Member) }).(*worked)
}

// workOut leaves slips out that do not work, and says what is wrong with them.
func workOut(s *session.Session, g *scene.Graph, member int) *worked {
	c, plan := s.Composition(), s.Plan()
	drives := graph.Drives(c, g.ID)
	scope, item, row := lookedAt(s, drives, member)
	w := &worked{shown: ShownGraph{Slips: []ShownSlip{}}, scope: scope, places: map[scene.ID][]int{}}
	if row != nil {
		members := row.Members(c)
		w.shown.Members = len(members)
		w.shown.Member = slices.IndexFunc(members, func(m scene.Member) bool {
			return scope.Self != nil && m.Item.ID == scope.Self.ID && scope.Target != nil && m.Key == scope.Target.Key
		})
		if row.Roster.Kind == scene.CopiesOf {
			w.copies = row.Roster.Item
		}
	}
	faults, without := map[scene.ID]string{}, map[graph.Source]bool{}
	for range maxRounds {
		var found []graph.Fault
		w.sheet, found = graph.SheetOf(g, without)
		for _, f := range found {
			faults[f.Slip] = f.Sentence
		}
		if w.lines = plan.Lines(w.sheet.Text, item, scope); w.lines != nil || !leaveOut(&w.sheet, scope, without, faults) {
			break
		}
	}
	for k, o := range w.sheet.Outputs {
		if w.lines != nil && o.Slip != "" {
			w.places[o.Slip] = append(w.places[o.Slip], k)
		}
	}
	inputs := graph.AllInputs(g)
	for _, slip := range g.Slips {
		one := ShownSlip{ID: slip.ID, Called: graph.Called(slip), Ins: inputs[slip.ID], Fault: faults[slip.ID]}
		if one.Ins == nil {
			one.Ins = []graph.Port{}
		}
		one.write(slip, scope)
		if slip.Kind == scene.ReadSlip && slip.Title == "" {
			one.Called = strings.Trim(binding.Print(slip.Text, scope), "{}")
		}
		for _, d := range drives {
			if d.Link.Slip == slip.ID {
				one.Drives = append(one.Drives, driveOf(c, d))
			}
		}
		w.shown.Slips = append(w.shown.Slips, one)
	}
	return w
}

// write has the slip say what is written on it by the names of what it refers to.
func (one *ShownSlip) write(slip *scene.Slip, scope *binding.Scope) {
	if slip.Kind == scene.NoteSlip {
		return
	}
	if shown := binding.Print(slip.Text, scope); shown != slip.Text {
		one.Text = shown
	}
	for in, text := range slip.Fields {
		if shown := binding.Print(text, scope); shown != text {
			if one.Fields == nil {
				one.Fields = map[string]string{}
			}
			one.Fields[in] = shown
		}
	}
}

// SlipsOf answers what the slips of a graph give; an empty answer where there is no such graph.
func SlipsOf(s *session.Session, a GraphAsk) ShownGraph {
	w := workedOut(s, a)
	if w == nil {
		return ShownGraph{Slips: []ShownSlip{}}
	}
	out := w.shown
	out.Slips = slices.Clone(w.shown.Slips)
	if w.copies != "" {
		out.Members = s.Plan().NumberOfCopies(w.copies)
	}
	var values []scene.Value
	if w.lines != nil {
		values = w.lines.At(s.Plan().Frame())
	}
	for n := range out.Slips {
		slip := &out.Slips[n]
		slip.Outs = []SlipOutput{}
		for _, k := range w.places[slip.ID] {
			slip.Outs = append(slip.Outs, outputOf(w.sheet.Outputs[k], values[k], w.lines.Types[k], listOf(s.Composition(), w.lines.Types[k], w.lines.List(k))))
		}
	}
	return out
}

// ValuesAsk asks only for what some slips give.
type ValuesAsk struct {
	GraphAsk
	Slips []scene.ID `json:"slips" ts:"list"`
}

// ValuesOf answers for the slips in the order in which they are asked for: the values of their outputs, as SlipsOf lists these, and
// after them those of the members that it shows of outputs that are lists.
func ValuesOf(s *session.Session, a ValuesAsk) [][]scene.Value {
	out := make([][]scene.Value, len(a.Slips))
	w := workedOut(s, a.GraphAsk)
	if w == nil || w.lines == nil {
		return out
	}
	values := w.lines.At(s.Plan().Frame())
	for k, id := range a.Slips {
		for _, place := range w.places[id] {
			out[k] = append(out[k], finite(values[place]))
		}
		for _, place := range w.places[id] {
			for _, v := range w.lines.List(place) {
				out[k] = append(out[k], finite(v))
			}
		}
	}
	return out
}

// AboutAsk asks what a slip gives, as it would be told of a formula.
type AboutAsk struct {
	GraphAsk
	Slip  scene.ID `json:"slip"`
	Steps int      `json:"steps"` // of the curve over the composition
}

// AboutSlip is the answer; empty where the slip gives nothing.
type AboutSlip struct {
	Formula string    `json:"formula"`
	Words   string    `json:"words"` // the formula, read out
	Help    string    `json:"help"`  // of the function or operator
	Curve   []float64 `json:"curve" ts:"list"`
}

// AboutOf says what a slip is for and how what it gives goes over the composition; what can’t be worked out is left empty.
func AboutOf(s *session.Session, a AboutAsk) AboutSlip {
	out := AboutSlip{Curve: []float64{}}
	c := s.Composition()
	g, _ := c.Graph(a.Graph)
	if g == nil {
		return out
	}
	if slip, _ := g.Slip(a.Slip); slip != nil {
		out.Help = graph.HelpOf(slip)
	}
	text, err := graph.LowerSlip(g, a.Slip)
	if err != nil {
		return out
	}
	scope, item, _ := lookedAt(s, graph.Drives(c, g.ID), a.Member)
	out.Formula = binding.Print(text, scope)
	out.Words = syntax.Read(out.Formula)
	out.Curve = append(out.Curve, curveOf(s.Plan(), text, item, scope, max(2, a.Steps))...)
	return out
}

// FitAsk asks what becomes of values on the wires of a graph, or, with From, of what an output gives at every input.
type FitAsk struct {
	GraphAsk
	From *graph.Source `json:"from,omitempty"`
}

// FitsOf answers; nothing where there is no such graph.
func FitsOf(s *session.Session, a FitAsk) []graph.Fit {
	c := s.Composition()
	g, _ := c.Graph(a.Graph)
	if g == nil {
		return []graph.Fit{}
	}
	w := workedOut(s, a.GraphAsk)
	types := map[graph.Source]binding.Type{}
	for _, places := range w.places {
		for _, k := range places {
			types[w.sheet.Outputs[k]] = w.lines.Types[k]
		}
	}
	targets := map[scene.ID][]*binding.Scope{}
	for _, d := range graph.Drives(c, g.ID) {
		one, _, _ := lookedAt(s, []graph.Driven{d}, a.Member)
		if one.Target != nil {
			bound := *one
			bound.Loose = false
			targets[d.Link.Slip] = append(targets[d.Link.Slip], &bound)
		}
	}
	fitting := graph.NewFitting(g, w.scope, types, targets)
	if a.From != nil {
		return fitting.From(*a.From)
	}
	return fitting.Wires()
}

// ResponseOf returns what a map slip gives at evenly spaced inputs: all of them for its first component, then for the next.
func ResponseOf(c *scene.Composition, in, of scene.ID, from, to float64, steps int) []float64 {
	g, _ := c.Graph(in)
	if g == nil {
		return nil
	}
	slip, _ := g.Slip(of)
	if slip == nil || slip.Kind != scene.MapSlip || slip.Stops[0].Out.IsText() {
		return nil
	}
	return throughStops(slip.Stops, slip.Beyond, from, to, steps)
}

// StaggerOf returns what the stagger of a link on a row is multiplied by over a span of shares; nothing where it has no curve.
func StaggerOf(c *scene.Composition, of scene.ID, from, to float64, steps int) []float64 {
	s, _ := c.RosterLink(of)
	if s == nil || s.Link.Stagger == nil || len(s.Link.Stagger.Curve) == 0 {
		return nil
	}
	return throughStops(s.Link.Stagger.Curve, scene.HoldEnds, from, to, steps)
}

// throughStops returns what stops give at evenly spaced inputs, one component after the other.
func throughStops(stops []scene.MapStop, beyond scene.Beyond, from, to float64, steps int) (out []float64) {
	inputs := make([]float64, steps)
	for i := range inputs {
		inputs[i] = from + (to-from)*float64(i)/float64(max(1, steps-1))
	}
	values, _ := formula.Through(stops, beyond, inputs...)
	for k := range stops[0].Out.Len() {
		for _, v := range values {
			out = append(out, v.At(k))
		}
	}
	return out
}

// leaveOut notes the slips on whose lines a sheet does not work, and what is wrong with them; false where there is none.
func leaveOut(sheet *graph.Sheet, scope *binding.Scope, without map[graph.Source]bool, faults map[scene.ID]string) (found bool) {
	for _, p := range formula.Compile(sheet.Text, scope).Errors() {
		line := sheet.Line(p.At)
		for line < len(sheet.Outputs) && sheet.Outputs[line].Slip == "" { // on the way to a slip
			line++
		}
		if line == len(sheet.Outputs) || without[sheet.Outputs[line]] {
			continue
		}
		from := sheet.Outputs[line]
		without[from], found = true, true
		if from.Out == "" { // where a word has no meaning, it is said of what it is led to
			faults[from.Slip] = p.Sentence
		}
	}
	return found
}

// ManyTag is the letter on the port of a list, before those of its values.
const ManyTag = "≡"

func outputOf(o graph.Source, v scene.Value, of binding.Type, list *ListShown) SlipOutput {
	spec := scene.Spec{Type: of.Of, Unit: of.Unit}
	out := SlipOutput{Key: o.Out, Tag: spec.Tag(), Parts: of.Of.Components()}
	switch {
	case list != nil:
		out.Tag, out.List = ManyTag+out.Tag, list
	case v.IsText():
		out.Text = v.Str()
	default:
		out.Value = finite(v)
	}
	return out
}

func driveOf(c *scene.Composition, d graph.Driven) Drive {
	out := Drive{Ref: d.Ref, RosterLink: d.RosterLink, Link: d.Link.ID}
	if s, _ := c.RosterLink(d.RosterLink); s != nil {
		out.Name = s.Name
	} else {
		ref := d.Ref
		ref.Component = d.Link.Component
		out.Name = c.NameOf(ref)
	}
	return out
}

// lookedAt returns where the formulas of a graph stand that is looked at: on the first that it drives, of a roster, which is
// returned too, on one of its members.
func lookedAt(s *session.Session, drives []graph.Driven, member int) (scope *binding.Scope, item int32, row *scene.RosterLink) {
	plan, c := s.Plan(), s.Composition()
	scope, item = wire.ScopeOf(plan.Layout, -1, nil, ""), -1
	for _, d := range drives {
		if row, _ = c.RosterLink(d.RosterLink); row != nil {
			scope = wire.RosterScope(plan.Layout, row, member)
			if scope.Self != nil {
				item = plan.Layout.Index(scope.Self.ID)
			}
			break
		}
		if i := plan.Layout.Index(d.Ref.Item); i >= 0 && item < 0 {
			item = i
			scope = wire.ScopeOf(plan.Layout, i, plan.Layout.Items[i].Spec(d.Ref.Property), d.Link.Component)
		}
	}
	loose := *scope
	loose.Loose = true
	return &loose, item, row
}
