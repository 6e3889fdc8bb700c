package scene

import (
	"fmt"
	"slices"

	"wunderkammer/core/num"
)

// Graph is boxes and cables that say what formulas say. It belongs to the composition, so that nothing of it breaks
// where items move. What drives something is a link of kind graph, which names the graph and one of its drive slips.
type Graph struct {
	ID    ID      `json:"id"`
	Name  string  `json:"name"`
	Note  string  `json:"note,omitempty"`
	Slips []*Slip `json:"slips,omitempty"`
	Wires []*Wire `json:"wires,omitempty"`
}

// Slip is one box on the sheet of a graph: it reads, computes, drives, or says something. Which of its fields are meant is by its kind.
type Slip struct {
	ID    ID          `json:"id"`
	Kind  SlipKind    `json:"kind"`
	At    [2]float64  `json:"at"`             // of its upper left corner on the sheet, in pixels; y points down
	Size  *[2]float64 `json:"size,omitempty"` // of a note
	Title string      `json:"title,omitempty"`
	Label int         `json:"label,omitempty"` // the colour of a note, 0 for none
	// Text is by the kind: the reference of what is read, with ids; a literal; the function or operator; the words that
	// are given; a formula; what a note says.
	Text string `json:"text,omitempty"`
	// Fields are literals in inputs that no wire leads to, by input.
	Fields map[string]string `json:"fields,omitempty"`
	// Stops and Beyond are of a map, as those of a map link.
	Stops  []MapStop `json:"stops,omitempty"`
	Beyond Beyond    `json:"beyond,omitempty"`
	// Within is the fold that the slip lies in; empty for none. Wires do not mind folds.
	Within ID `json:"within,omitempty"`
	// Ports of a fold are the inputs and outputs of slips in it that it shows, and Open says that it shows the slips.
	Ports []FoldPort `json:"ports,omitempty"`
	Open  bool       `json:"open,omitempty"`
}

// FoldPort is an input or output of a slip in a fold, by the name that it has there.
type FoldPort struct {
	Slip ID     `json:"slip"`
	Key  string `json:"key,omitempty"` // of the input, or of the output: empty for the whole value
	Out  bool   `json:"out,omitempty"`
	Name string `json:"name"`
}

// Wire leads from an output of one slip to an input of another. No two lead to one input.
type Wire struct {
	From ID     `json:"from"`
	Out  string `json:"out,omitempty"` // component or word; empty for the whole value
	To   ID     `json:"to"`
	In   string `json:"in"`
}

// SlipKind is what a slip is.
type SlipKind string

// The kinds of slips.
const (
	ReadSlip    SlipKind = "read"    // a property
	ValueSlip   SlipKind = "value"   // a literal
	ApplySlip   SlipKind = "apply"   // a function or an operator of the formula language
	MapSlip     SlipKind = "map"     // stops: what it gives at its input
	FormulaSlip SlipKind = "formula" // whose unknown names are its inputs
	WordsSlip   SlipKind = "words"   // what is known everywhere: time, where a member stands in its row
	DriveSlip   SlipKind = "drive"   // what links of kind graph give
	ReadoutSlip SlipKind = "readout" // shows a value
	NoteSlip    SlipKind = "note"
	FoldSlip    SlipKind = "fold" // stands for slips that lie in it
)

// SlipKinds lists them.
var SlipKinds = []SlipKind{ReadSlip, ValueSlip, ApplySlip, MapSlip, FormulaSlip, WordsSlip, DriveSlip, ReadoutSlip, NoteSlip, FoldSlip}

// Bounds on graphs.
const (
	MaxGraphs = 1000  // of a composition
	MaxSlips  = 2000  // of a graph
	MaxWires  = 10000 // likewise
	// MaxInputs is how many inputs of a slip can be filled, and how many a fold shows.
	MaxInputs = 200
	// MaxSheet is how far from the origin of its sheet a slip stands at most.
	MaxSheet = 1e6
)

// Graph returns the graph with the id and its place in the list, or nil.
func (c *Composition) Graph(id ID) (*Graph, int) {
	for i, g := range c.Graphs {
		if g.ID == id {
			return g, i
		}
	}
	return nil, -1
}

// Slip returns the slip with the id and its place in the list, or nil.
func (g *Graph) Slip(id ID) (*Slip, int) {
	for i, s := range g.Slips {
		if s.ID == id {
			return s, i
		}
	}
	return nil, -1
}

// WireTo returns the wire that leads to an input, and its place in the list, or nil.
func (g *Graph) WireTo(slip ID, in string) (*Wire, int) {
	for i, w := range g.Wires {
		if w.To == slip && w.In == in {
			return w, i
		}
	}
	return nil, -1
}

// IDs returns those of the graph and of all its slips.
func (g *Graph) IDs() []ID {
	out := []ID{g.ID}
	for _, s := range g.Slips {
		out = append(out, s.ID)
	}
	return out
}

// Clone returns a copy that shares nothing that can be changed.
func (g *Graph) Clone() *Graph {
	out := *g
	out.Slips, out.Wires = make([]*Slip, len(g.Slips)), make([]*Wire, len(g.Wires))
	for i, s := range g.Slips {
		out.Slips[i] = s.Clone()
	}
	for i, w := range g.Wires {
		wire := *w
		out.Wires[i] = &wire
	}
	return &out
}

// Clone returns a copy that shares nothing that can be changed.
func (s *Slip) Clone() *Slip {
	out := *s
	out.Size, out.Stops, out.Ports = cloned(s.Size), slices.Clone(s.Stops), slices.Clone(s.Ports)
	if s.Fields != nil {
		out.Fields = make(map[string]string, len(s.Fields))
		for in, text := range s.Fields {
			out.Fields[in] = text
		}
	}
	return &out
}

// Check refuses a graph that is no graph: what its slips say is the matter of package graph.
func (g *Graph) Check() error {
	if g == nil {
		return fmt.Errorf("a graph is empty")
	}
	if err := CheckID(g.ID); err != nil {
		return err
	}
	if err := CheckName(g.Name); err != nil {
		return err
	}
	if len(g.Note) > MaxText || len(g.Slips) > MaxSlips || len(g.Wires) > MaxWires {
		return fmt.Errorf("%s: a graph has at most %d slips, %d wires and %d bytes of a note", g.Name, MaxSlips, MaxWires, MaxText)
	}
	known := map[ID]bool{}
	for _, s := range g.Slips {
		if err := s.Check(); err != nil {
			return fmt.Errorf("%s: %w", g.Name, err)
		}
		if known[s.ID] {
			return fmt.Errorf("%s: two slips have the id %q", g.Name, Clip(string(s.ID)))
		}
		known[s.ID] = true
	}
	if err := g.checkFolds(); err != nil {
		return fmt.Errorf("%s: %w", g.Name, err)
	}
	type input struct {
		slip ID
		in   string
	}
	taken := map[input]bool{}
	for _, w := range g.Wires {
		switch {
		case w == nil || len(w.In) > maxPort || len(w.Out) > maxPort:
			return fmt.Errorf("%s: a wire leads nowhere", g.Name)
		case !known[w.From] || !known[w.To]:
			return fmt.Errorf("%s: a wire leads to a slip that is not there", g.Name)
		case taken[input{w.To, w.In}]:
			return fmt.Errorf("%s: two wires go to one input", g.Name)
		}
		taken[input{w.To, w.In}] = true
	}
	return nil
}

// checkFolds refuses slips that lie in what is no fold, or in one another.
func (g *Graph) checkFolds() error {
	folds := map[ID]*Slip{}
	for _, s := range g.Slips {
		if s.Kind == FoldSlip {
			folds[s.ID] = s
		}
	}
	for _, s := range g.Slips {
		depth := 0
		for within := s.Within; within != ""; within = folds[within].Within {
			if folds[within] == nil {
				return fmt.Errorf("the slip %q is in a fold that doesn't exist", Clip(s.Title))
			}
			if depth++; depth > maxFolds {
				return fmt.Errorf("folds are nested more than %d deep", maxFolds)
			}
		}
	}
	return nil
}

const (
	maxPort  = 100 // bytes of the name of an input or output
	maxFolds = 20  // in one another
)

// gives returns the type of what the stops of a map give: that of the first.
func (s *Slip) gives() Type {
	if len(s.Stops) == 0 {
		return Number
	}
	return s.Stops[0].Out.Kind()
}

// Check refuses a slip that is nil, of a kind that does not exist, or with fields out of bounds; the error is a sentence.
func (s *Slip) Check() error {
	if s == nil {
		return fmt.Errorf("a slip is empty")
	}
	if err := CheckID(s.ID); err != nil {
		return err
	}
	if !slices.Contains(SlipKinds, s.Kind) {
		return fmt.Errorf("%q is not a kind of slip", Clip(string(s.Kind)))
	}
	if len(s.Title) > MaxName || len(s.Text) > MaxFormula || len(s.Fields) > MaxInputs {
		return fmt.Errorf("the slip %q is too large: a title has at most %d bytes, a text %d", Clip(s.Title), MaxName, MaxFormula)
	}
	for in, text := range s.Fields {
		if len(in) > maxPort || len(text) > MaxText {
			return fmt.Errorf("the slip %q holds a field that is too large", Clip(s.Title))
		}
	}
	switch {
	case s.Kind == MapSlip:
		if err := CheckMapStops(s.Stops, s.Beyond, s.gives()); err != nil {
			return err
		}
	case len(s.Stops) > 0 || s.Beyond != "":
		return fmt.Errorf("only a map has stops, and the slip %q is none", Clip(s.Title))
	case s.Kind != FoldSlip && (len(s.Ports) > 0 || s.Open):
		return fmt.Errorf("only a fold shows the inputs of others, and the slip %q is none", Clip(s.Title))
	}
	if len(s.Ports) > MaxInputs {
		return fmt.Errorf("the fold %q shows more than %d inputs and outputs", Clip(s.Title), MaxInputs)
	}
	for _, p := range s.Ports {
		if len(p.Key) > maxPort || len(p.Name) > MaxName {
			return fmt.Errorf("the fold %q has a port whose name is too long", Clip(s.Title))
		}
	}
	places := s.At[:]
	if s.Size != nil {
		places = append(slices.Clone(places), s.Size[:]...)
	}
	for _, x := range places {
		if !num.Finite(x) || x < -MaxSheet || x > MaxSheet {
			return fmt.Errorf("the slip %q stands outside of the sheet", Clip(s.Title))
		}
	}
	return nil
}

func (c *Composition) checkGraphs() error {
	if len(c.Graphs) > MaxGraphs {
		return fmt.Errorf("%s holds %d graphs; at most %d are kept", c.Name, len(c.Graphs), MaxGraphs)
	}
	for _, g := range c.Graphs {
		if err := g.Check(); err != nil {
			return err
		}
	}
	return nil
}
