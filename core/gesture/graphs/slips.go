package graphs

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// PutSlips puts slips on a sheet, with wires between them and to those that are there; a wire to an input that has one
// takes its place. Ids that are not given are made.
type PutSlips struct {
	Graph scene.ID     `json:"graph"`
	Slips []scene.Slip `json:"slips" ts:"list"`
	// Wires name new slips by their place in Slips: #0, #1 and so on; so do slips what they lie in, which comes before them.
	Wires []scene.Wire `json:"wires,omitempty"`
	// At moves slips that are there.
	At map[scene.ID][2]float64 `json:"at,omitempty"`
}

// Do returns the operations that add them.
func (g *PutSlips) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	var r gesture.Result
	for range g.Slips {
		r.Made = append(r.Made, c.NewID())
	}
	named := func(id scene.ID) scene.ID {
		if n, err := strconv.Atoi(strings.TrimPrefix(string(id), "#")); err == nil && strings.HasPrefix(string(id), "#") && n >= 0 && n < len(r.Made) {
			return r.Made[n]
		}
		return id
	}
	for k, s := range g.Slips {
		fresh := s.Clone()
		fresh.ID, fresh.Within = r.Made[k], named(s.Within)
		for n := range fresh.Ports {
			fresh.Ports[n].Slip = named(fresh.Ports[n].Slip)
		}
		var written change.Ops
		for _, in := range slices.Sorted(maps.Keys(fresh.Fields)) {
			if text := fresh.Fields[in]; compound(text) {
				delete(fresh.Fields, in)
				written = append(written, writtenTo(c, on, fresh, in, text)...)
			}
		}
		r.Ops = append(append(r.Ops, &change.SlipAdd{In: c.In(), Graph: on.ID, Value: fresh, At: -1}), written...)
	}
	for _, s := range on.Slips {
		if at, ok := g.At[s.ID]; ok && at != s.At {
			moved := s.Clone()
			moved.At = at
			r.Ops = append(r.Ops, &change.SlipSet{In: c.In(), Graph: on.ID, Value: moved})
		}
	}
	for _, w := range g.Wires {
		wire := w
		wire.From, wire.To = named(w.From), named(w.To)
		if old, _ := on.WireTo(wire.To, wire.In); old != nil {
			r.Ops = append(r.Ops, &change.WireRemove{In: c.In(), Graph: on.ID, To: old.To, Input: old.In})
		}
		r.Ops = append(r.Ops, &change.WireAdd{In: c.In(), Graph: on.ID, Value: &wire})
	}
	return r, nil
}

// TakeSlips takes slips off a sheet. A wire that came to the first input of one is led on to where its own wires led; links
// that drive slips gave their values go with them.
type TakeSlips struct {
	Graph scene.ID   `json:"graph"`
	Slips []scene.ID `json:"slips"`
}

// Do returns the operations that remove them.
func (g *TakeSlips) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	var r gesture.Result
	going := withInner(on, g.Slips)
	gone := map[scene.ID]bool{}
	for _, s := range going {
		gone[s.ID] = true
	}
	for _, d := range graph.Drives(c.Composition, on.ID) {
		if gone[d.Link.Slip] {
			r.Ops = append(r.Ops, c.Unlinked(d))
		}
	}
	for _, s := range slices.Backward(going) { // what lies in a fold before it
		r.Ops = append(r.Ops, &change.SlipRemove{In: c.In(), Graph: on.ID, Slip: s.ID})
	}
	r.Ops = append(r.Ops, healed(c, on, gone)...)
	return r, nil
}

// withInner returns slips with all that lie in those of them that are folds, behind them.
func withInner(g *scene.Graph, ids []scene.ID) []*scene.Slip {
	var out []*scene.Slip
	taken := map[scene.ID]bool{}
	var take func(s *scene.Slip)
	take = func(s *scene.Slip) {
		if s == nil || taken[s.ID] {
			return
		}
		taken[s.ID] = true
		out = append(out, s)
		if s.Kind == scene.FoldSlip {
			for _, inner := range g.Slips {
				if inner.Within == s.ID {
					take(inner)
				}
			}
		}
	}
	byDepth := func(a, b scene.ID) int { return cmp.Compare(depthOf(g, a), depthOf(g, b)) }
	for _, id := range slices.SortedStableFunc(slices.Values(ids), byDepth) {
		s, _ := g.Slip(id)
		take(s)
	}
	return out
}

// depthOf returns in how many folds a slip lies.
func depthOf(g *scene.Graph, id scene.ID) (depth int) {
	for s, _ := g.Slip(id); s != nil && s.Within != ""; s, _ = g.Slip(s.Within) {
		depth++
	}
	return depth
}

// healed leads what came to the first inputs of slips that go to where their own wires led.
func healed(c *gesture.Context, on *scene.Graph, gone map[scene.ID]bool) (ops change.Ops) {
	for _, w := range on.Wires {
		if gone[w.To] || !gone[w.From] {
			continue
		}
		if from := before(on, w, gone); from != nil {
			ops = append(ops, &change.WireAdd{In: c.In(), Graph: on.ID, Value: &scene.Wire{From: from.From, Out: from.Out, To: w.To, In: w.In}})
		}
	}
	return ops
}

// PullSlips takes slips out of the wires that they stand in, and closes the gaps; the wires between them stay.
type PullSlips struct {
	Graph scene.ID   `json:"graph"`
	Slips []scene.ID `json:"slips"`
}

// Do returns the operations that take the wires off and heal the others.
func (g *PullSlips) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	out := map[scene.ID]bool{}
	for _, s := range withInner(on, g.Slips) {
		out[s.ID] = true
	}
	var r gesture.Result
	for _, w := range on.Wires {
		if out[w.From] != out[w.To] {
			r.Ops = append(r.Ops, &change.WireRemove{In: c.In(), Graph: on.ID, To: w.To, Input: w.In})
		}
	}
	r.Ops = append(r.Ops, healed(c, on, out)...)
	return r, nil
}

// FillInput writes into the field of an input. A field holds one value: what is made of parts becomes a formula slip that is led there.
type FillInput struct {
	Graph scene.ID `json:"graph"`
	Slip  scene.ID `json:"slip"`
	In    string   `json:"in"`
	Text  string   `json:"text"` // empty: nothing
}

// Do returns the operations that fill the field, or put the slip and lead it there.
func (g *FillInput) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	old, _ := on.Slip(g.Slip)
	if old == nil {
		return gesture.Result{}, fmt.Errorf("that slip is no longer there")
	}
	s, text := old.Clone(), strings.TrimSpace(g.Text)
	var r gesture.Result
	made := compound(text)
	if s.Fields == nil {
		s.Fields = map[string]string{}
	}
	if s.Fields[g.In] = text; text == "" || made {
		delete(s.Fields, g.In)
	}
	if !maps.Equal(s.Fields, old.Fields) {
		r.Ops = append(r.Ops, &change.SlipSet{In: c.In(), Graph: on.ID, Value: s})
	}
	if !made {
		return r, nil
	}
	if wire, _ := on.WireTo(s.ID, g.In); wire != nil {
		r.Ops = append(r.Ops, &change.WireRemove{In: c.In(), Graph: on.ID, To: wire.To, Input: wire.In})
	}
	r.Ops = append(r.Ops, writtenTo(c, on, s, g.In, text)...)
	r.Note = "a field holds one value: what you typed stands in a formula slip"
	return r, nil
}

// compound reports whether a text is a formula that is made of parts, so that no field holds it.
func compound(text string) bool {
	lines, problem := syntax.Syntax(text)
	return strings.TrimSpace(text) != "" && problem == nil && (len(lines) > 1 || !lines[0].Value.One())
}

// writtenTo puts a formula slip beside a slip, and leads it to one of its inputs.
func writtenTo(c *gesture.Context, on *scene.Graph, s *scene.Slip, in, text string) change.Ops {
	written := &scene.Slip{ID: c.NewID(), Kind: scene.FormulaSlip, Text: strings.TrimSpace(text), Within: s.Within, At: beside(on, s, in)}
	return change.Ops{&change.SlipAdd{In: c.In(), Graph: on.ID, Value: written, At: -1}, &change.WireAdd{In: c.In(), Graph: on.ID, Value: &scene.Wire{From: written.ID, To: s.ID, In: in}}}
}

// beside returns a free place left of a slip, at the height of one of its inputs, for a slip that leads there.
func beside(g *scene.Graph, s *scene.Slip, in string) [2]float64 {
	const across, down = 210, 120
	at := [2]float64{s.At[0] - across, s.At[1]}
	for k, port := range graph.Inputs(g, s) {
		if port.Key == in {
			at[1] += float64(20 * k)
		}
	}
	lies := func(o *scene.Slip) bool {
		return o.Kind != scene.NoteSlip && math.Abs(o.At[0]-at[0]) < across && math.Abs(o.At[1]-at[1]) < down
	}
	for range g.Slips {
		if slices.ContainsFunc(g.Slips, func(o *scene.Slip) bool { return o != s && lies(o) }) {
			at[1] += down
		}
	}
	return at
}

// before returns the wire that comes, by way of the first inputs of slips that go, to where a wire leads; nil for none.
func before(g *scene.Graph, w *scene.Wire, gone map[scene.ID]bool) *scene.Wire {
	for range g.Slips {
		s, _ := g.Slip(w.From)
		if !gone[w.From] || s == nil {
			return w
		}
		ports := graph.Inputs(g, s)
		if len(ports) == 0 {
			return nil
		}
		if w, _ = g.WireTo(s.ID, ports[0].Key); w == nil {
			return nil
		}
	}
	return nil
}

// ArrangeSlips lays the slips of a graph out.
type ArrangeSlips struct {
	Graph scene.ID `json:"graph"`
}

// Do returns the operations that move the slips.
func (g *ArrangeSlips) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	laid := on.Clone()
	graph.Arrange(laid)
	var r gesture.Result
	for i, s := range laid.Slips {
		if s.At != on.Slips[i].At {
			r.Ops = append(r.Ops, &change.SlipSet{In: c.In(), Graph: on.ID, Value: s})
		}
	}
	return r, nil
}

// AlignSlips brings slips into line.
type AlignSlips struct {
	Graph scene.ID   `json:"graph"`
	Slips []scene.ID `json:"slips"`
	How   string     `json:"how"` // left or top edges; spread across or down, evenly from the first to the last
}

// Do returns the operations that move the slips.
func (g *AlignSlips) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	axis, known := map[string]int{"left": 0, "top": 1, "across": 0, "down": 1}[g.How]
	if !known {
		return gesture.Result{}, fmt.Errorf("%q is not a way to align slips", scene.Clip(g.How))
	}
	var slips []*scene.Slip
	for _, id := range g.Slips {
		if s, _ := on.Slip(id); s != nil {
			slips = append(slips, s)
		}
	}
	if len(slips) < 2 {
		return gesture.Result{}, fmt.Errorf("select the slips to align first")
	}
	slices.SortStableFunc(slips, func(a, b *scene.Slip) int { return cmp.Compare(a.At[axis], b.At[axis]) })
	first, last := slips[0].At[axis], slips[len(slips)-1].At[axis]
	var r gesture.Result
	for k, s := range slips {
		moved := s.Clone()
		moved.At[axis] = first
		if g.How == "across" || g.How == "down" {
			moved.At[axis] += (last - first) * float64(k) / float64(len(slips)-1)
		}
		if moved.At != s.At {
			r.Ops = append(r.Ops, &change.SlipSet{In: c.In(), Graph: on.ID, Value: moved})
		}
	}
	return r, nil
}

// MendWire leads an output to an input by way of what makes it fit: a formula of what is held, as package graph offers it.
type MendWire struct {
	Graph scene.ID   `json:"graph"`
	Wire  scene.Wire `json:"wire"`
	Text  string     `json:"text"`
}

// Do returns the operations that put the slips between them.
func (g *MendWire) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	slips, wires, out, err := graph.MendSlips(g.Text, graph.Source{Slip: g.Wire.From, Out: g.Wire.Out}, c.NewID)
	if err != nil {
		return gesture.Result{}, err
	}
	var r gesture.Result
	if from, _ := on.Slip(g.Wire.From); from != nil {
		if to, _ := on.Slip(g.Wire.To); to != nil {
			for k, s := range slips {
				share := float64(k+1) / float64(len(slips)+1)
				for axis := range s.At {
					s.At[axis] = from.At[axis] + float64((to.At[axis]-from.At[axis])*share)
				}
				s.Within = to.Within
			}
		}
	}
	for _, s := range slips {
		r.Ops = append(r.Ops, &change.SlipAdd{In: c.In(), Graph: on.ID, Value: s, At: -1})
		r.Made = append(r.Made, s.ID)
	}
	if old, _ := on.WireTo(g.Wire.To, g.Wire.In); old != nil {
		r.Ops = append(r.Ops, &change.WireRemove{In: c.In(), Graph: on.ID, To: old.To, Input: old.In})
	}
	for _, w := range append(wires, &scene.Wire{From: out.Slip, Out: out.Out, To: g.Wire.To, In: g.Wire.In}) {
		r.Ops = append(r.Ops, &change.WireAdd{In: c.In(), Graph: on.ID, Value: w})
	}
	return r, nil
}

// ValueControl makes a control of a value slip, or of what is written into an input: a null has it from then on, and it is
// read where the value stood.
type ValueControl struct {
	Graph scene.ID `json:"graph"`
	Slip  scene.ID `json:"slip"`
	In    string   `json:"in,omitempty"`   // the input; empty for a value slip
	Onto  scene.ID `json:"onto,omitempty"` // the null; empty for a new one
}

// Do returns the operations that add the control and read it.
func (g *ValueControl) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	s, _ := on.Slip(g.Slip)
	if s == nil || g.In == "" && s.Kind != scene.ValueSlip {
		return gesture.Result{}, fmt.Errorf("that is no longer a value")
	}
	text, name := s.Text, s.Title
	if g.In != "" {
		text = s.Fields[g.In]
		for _, port := range graph.Inputs(on, s) {
			if port.Key == g.In && port.Name != "" {
				name = graph.Called(s) + " " + port.Name
			}
		}
	}
	value, of, err := formula.Evaluate(text, &binding.Scope{Rate: float64(c.Composition.Rate)}, 0)
	if err != nil {
		return gesture.Result{}, fmt.Errorf("only a number, colour, point or switch written as a literal can become a control: %w", err)
	}
	kind, ok := scene.WidgetFor(of.Of)
	if !ok {
		return gesture.Result{}, fmt.Errorf("a %s can't be a control yet", of.Of.Word())
	}
	var r gesture.Result
	taken := map[string]bool{}
	onto := g.Onto
	if onto == "" {
		if r, err = (&items.Add{Kind: scene.Null, Name: "Panel"}).Do(c); err != nil {
			return gesture.Result{}, err
		}
		onto = r.Made[0]
	} else if item, err := c.Drawer(onto); err != nil {
		return gesture.Result{}, err
	} else {
		taken = gesture.ControlNames(item)
	}
	reach := max(1, 2*math.Abs(value.At(0)))
	if of.Unit == "" && reach > 1 {
		reach = max(100, reach)
	}
	spec := &scene.Spec{Type: of.Of, Unit: of.Unit, SoftMax: reach, Min: math.Inf(-1), Max: math.Inf(1)}
	if value.At(0) < 0 || of.Of.Size() > 1 {
		spec.SoftMin = -reach
	}
	control := gesture.ControlFor(spec, kind, value)
	control.ID = c.NewID()
	control.Name = gesture.FreeName(gesture.ClipName(cmp.Or(name, "Value")), taken)
	reads := syntax.Bound(scene.Ref{Item: onto, Property: string(control.ID)})
	r.Ops = append(r.Ops, &change.ControlAdd{On: c.On(onto), Value: control, At: -1})
	altered := s.Clone()
	if g.In == "" {
		altered.Kind, altered.Text = scene.ReadSlip, reads
		r.Ops = append(r.Ops, &change.SlipSet{In: c.In(), Graph: on.ID, Value: altered})
		return r, nil
	}
	delete(altered.Fields, g.In)
	read := &scene.Slip{ID: c.NewID(), Kind: scene.ReadSlip, Text: reads, At: [2]float64{s.At[0] - 200, s.At[1]}, Within: s.Within}
	r.Ops = append(r.Ops, &change.SlipSet{In: c.In(), Graph: on.ID, Value: altered}, &change.SlipAdd{In: c.In(), Graph: on.ID, Value: read, At: -1},
		&change.WireAdd{In: c.In(), Graph: on.ID, Value: &scene.Wire{From: read.ID, To: s.ID, In: g.In}})
	return r, nil
}
