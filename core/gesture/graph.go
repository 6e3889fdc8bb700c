package gesture

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/formula"
	"wunderkammer/core/graph"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// NewGraph makes an empty graph, or one of a formula.
type NewGraph struct {
	Name string `json:"name,omitempty"`
	Text string `json:"text,omitempty"` // the formula
}

// Do returns the operation that makes the graph.
func (g *NewGraph) Do(c *Context) (Result, error) {
	made := &scene.Graph{}
	if g.Text != "" {
		var err error
		if made, _, err = graph.Lift(g.Text, c.NewID); err != nil {
			return Result{}, err
		}
	}
	made.ID, made.Name = c.NewID(), g.Name
	if made.Name == "" {
		made.Name = c.graphName("Graph")
	}
	return Result{Ops: change.Ops{&change.GraphAdd{In: c.in(), Value: made, At: -1}}, Made: []scene.ID{made.ID}}, nil
}

// graphName makes a name that no graph of the composition has yet.
func (c *Context) graphName(base string) string {
	taken := map[string]bool{}
	for _, g := range c.Composition.Graphs {
		taken[g.Name] = true
	}
	name := base
	for k := 2; taken[name]; k++ {
		name = base + " " + strconv.Itoa(k)
	}
	return name
}

// LinkAt names a link: of a property, or one on a roster.
type LinkAt struct {
	Target     scene.Ref `json:"target"`
	Link       scene.ID  `json:"link,omitempty"`
	RosterLink scene.ID  `json:"spread,omitempty"`
}

// linkAt finds a link, what it drives, and how it is called.
func (c *Context) linkAt(at LinkAt) (d graph.Driven, target *scene.Spec, name string, err error) {
	if s, _ := c.Composition.RosterLink(at.RosterLink); s != nil {
		target = &scene.Spec{}
		if members := s.Members(c.Composition); len(members) > 0 {
			target = members[0].Item.Spec(members[0].Key)
		}
		return graph.Driven{RosterLink: s.ID, Link: s.Link}, target, s.Name, nil
	}
	if item := c.Composition.Item(at.Target.Item); item != nil {
		if l, _ := item.State(at.Target.Property).Link(at.Link); l != nil {
			return graph.Driven{Ref: at.Target, Link: l}, item.Spec(at.Target.Property), c.Composition.NameOf(at.Target), nil
		}
	}
	return d, nil, "", fmt.Errorf("that link is no longer there; it may have been removed in another window")
}

// relinked alters a link where it stands.
func (c *Context) relinked(d graph.Driven, fresh *scene.Link) change.Op {
	if s, _ := c.Composition.RosterLink(d.RosterLink); s != nil {
		altered := s.Clone()
		altered.Link = fresh
		return &change.RosterLinkSet{In: c.in(), Value: altered}
	}
	return &change.LinkSet{Of: c.of(d.Ref.Item, d.Ref.Property), Link: fresh}
}

// unlinked takes a link away.
func (c *Context) unlinked(d graph.Driven) change.Op {
	if d.RosterLink != "" {
		return &change.RosterLinkRemove{In: c.in(), RosterLink: d.RosterLink}
	}
	return &change.LinkRemove{Of: c.of(d.Ref.Item, d.Ref.Property), Link: d.Link.ID}
}

// OpenAsGraph makes a graph of what a link does, and lets that give the link its value.
type OpenAsGraph struct{ LinkAt }

// Do returns the operations that make the graph and alter the link.
func (g *OpenAsGraph) Do(c *Context) (Result, error) {
	d, spec, name, err := c.linkAt(g.LinkAt)
	if err != nil {
		return Result{}, err
	}
	l := d.Link
	if l.Graph != "" {
		return Result{}, fmt.Errorf("a graph drives this already")
	}
	text, err := written(l, spec, c.Composition)
	if err != nil {
		return Result{}, err
	}
	made, drive, err := graph.Lift(text, c.NewID)
	if err != nil {
		return Result{}, err
	}
	made.ID, made.Name = c.NewID(), c.graphName(strings.ReplaceAll(name, ":", ","))
	fresh := l.Clone()
	fresh.Kind, fresh.Source, fresh.Formula, fresh.Draft, fresh.Graph, fresh.Slip = scene.Graphed, scene.Ref{}, "", "", made.ID, drive
	fresh.Stops, fresh.Beyond, fresh.Held = nil, "", nil
	if link.Of(l).Linear {
		fresh.Gain, fresh.Offset = 1, 0
	}
	return Result{Ops: change.Ops{&change.GraphAdd{In: c.in(), Value: made, At: -1}, c.relinked(d, fresh)}, Made: []scene.ID{made.ID}}, nil
}

// written is what a link does to a property as a formula.
func written(l *scene.Link, target *scene.Spec, c *scene.Composition) (string, error) {
	kind := link.Of(l)
	switch {
	case l.Draft != "":
		return "", fmt.Errorf("the formula has an error; fix it, then open it as a graph")
	case kind.Formula != nil:
		return kind.Formula(l), nil
	}
	source := formula.Bound(l.Source)
	if kind.Response != nil {
		response := kind.Response(l, c)
		if response == nil {
			return "", fmt.Errorf("%s gives no value yet; pose one of its stops first", c.NameOf(l.Source))
		}
		stops := slices.Clone(response.Stops)
		for k := range stops {
			if target.Jumps() {
				stops[k].Easing = curve.Hold
			}
		}
		return formula.WriteStops(formula.Whole(source), stops, response.Beyond).Text, nil
	}
	if l.Gain != 1 || l.Offset != 0 { // as the engine works it out
		source += " * " + scene.Exact(l.Gain)
	}
	if l.Offset != 0 {
		source += " + " + scene.Exact(l.Offset)
	}
	return source, nil
}

// WriteAsFormula puts the formula that a graph comes to into a link in place of the graph, which stays.
type WriteAsFormula struct{ LinkAt }

// Do returns the operation that alters the link.
func (g *WriteAsFormula) Do(c *Context) (Result, error) {
	d, _, _, err := c.linkAt(g.LinkAt)
	if err != nil {
		return Result{}, err
	}
	if d.Link.Graph == "" {
		return Result{}, fmt.Errorf("this is no longer driven by a graph")
	}
	return Result{Ops: change.Ops{c.relinked(d, asFormula(d.Link))}}, nil
}

func asFormula(l *scene.Link) *scene.Link {
	out := l.Clone()
	out.Kind, out.Graph, out.Slip = scene.Formula, "", ""
	return out
}

func (c *Context) graph(id scene.ID) (*scene.Graph, error) {
	g, _ := c.Composition.Graph(id)
	if g == nil {
		return nil, fmt.Errorf("the graph is no longer there; it may have been removed in another window")
	}
	return g, nil
}

// Drive lets a drive slip give properties their values, by a new link on each, or, where they are several, by one on all
// of them as a roster. The property of a copy stands for that of all copies beside it; what arranges them is added to, unless the
// slip asks for what is below.
type Drive struct {
	Graph   scene.ID    `json:"graph"`
	Slip    scene.ID    `json:"slip"`
	Targets []scene.Ref `json:"targets"`
	Roster  bool        `json:"roster,omitempty"`
}

// Do returns the operations that add the links.
func (g *Drive) Do(c *Context) (Result, error) {
	on, err := c.graph(g.Graph)
	if err != nil {
		return Result{}, err
	}
	if s, _ := on.Slip(g.Slip); s == nil || s.Kind != scene.DriveSlip {
		return Result{}, fmt.Errorf("that is not a drive slip")
	}
	if len(g.Targets) == 0 {
		return Result{}, fmt.Errorf("select the properties to drive first")
	}
	given := &scene.Link{Kind: scene.Graphed, Gain: 1, Graph: on.ID, Slip: g.Slip}
	if _, _, copied := scene.LaneOf(g.Targets[0].Item); g.Roster && !copied {
		r, err := (&Spread{Targets: g.Targets, Text: "0"}).Do(c)
		if err != nil {
			return r, err
		}
		for _, op := range r.Ops {
			if add, ok := op.(*change.RosterLinkAdd); ok {
				given.ID = add.Value.Link.ID
				add.Value.Link = given
			}
		}
		return r, nil
	}
	var r Result
	for _, ref := range g.Targets {
		if of, _, copied := scene.LaneOf(ref.Item); copied {
			item, spec, err := c.ofCopies(of, ref.Property)
			if err != nil {
				return Result{}, err
			}
			s := c.rowOfCopies(item, spec, ref.Component)
			s.Link = given.Clone()
			s.Link.ID = c.NewID()
			if text, _ := graph.Lower(on, g.Slip); arranged(spec.Key) && !formula.AsksBelow(text) {
				s.Link.Operation = scene.Plus
			}
			r.Ops = append(r.Ops, &change.RosterLinkAdd{In: c.in(), Value: s, At: -1})
			r.Made = append(r.Made, s.ID)
			continue
		}
		item, spec, err := c.property(ref)
		if err != nil {
			return Result{}, err
		}
		if spec.ReadOnly {
			return Result{}, fmt.Errorf("%s: %s is read-only", item.Name, spec.Name)
		}
		l := given.Clone()
		l.ID, l.Component = c.NewID(), ref.Component
		r.Ops = append(r.Ops, &change.LinkAdd{Of: c.of(item.ID, spec.Key), Link: l, At: -1})
		r.Made = append(r.Made, l.ID)
	}
	return r, nil
}

// RemoveGraph takes a graph away, with the links that it gave their values; or, as formulas, leaves those as they are.
type RemoveGraph struct {
	Graph    scene.ID `json:"graph"`
	Formulas bool     `json:"formulas,omitempty"`
}

// Do returns the operations that remove it.
func (g *RemoveGraph) Do(c *Context) (Result, error) {
	on, err := c.graph(g.Graph)
	if err != nil {
		return Result{}, err
	}
	var r Result
	for _, d := range graph.Drives(c.Composition, on.ID) {
		if g.Formulas {
			r.Ops = append(r.Ops, c.relinked(d, asFormula(d.Link)))
		} else {
			r.Ops = append(r.Ops, c.unlinked(d))
		}
	}
	r.Ops = append(r.Ops, &change.GraphRemove{In: c.in(), Graph: on.ID})
	return r, nil
}
