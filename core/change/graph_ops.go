package change

import (
	"cmp"
	"fmt"
	"slices"

	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// GraphAdd puts a graph into a composition, at a place of its list; -1 is the end.
type GraphAdd struct {
	In
	Value *scene.Graph `json:"value"`
	At    int          `json:"at"`
	AsWas
}

// graph is the effect of a graph that is another now, on it and on the links that it gives their values.
func (in In) graph(c *scene.Composition, id scene.ID) Effect {
	e := Effect{Composition: in.Composition, Graph: id}
	for _, d := range graph.Bring(c, id) {
		if d.RosterLink != "" {
			also := in.rosterLink()
			also.Touch, also.RosterLink = Wiring, d.RosterLink
			e.also = append(e.also, also)
			continue
		}
		e.also = append(e.also, Of{On{in, d.Ref.Item}, d.Ref.Property}.linked())
	}
	return e
}

func (o *GraphAdd) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	if len(c.Graphs) >= scene.MaxGraphs {
		return nil, Effect{}, fmt.Errorf("%s has %d graphs, which is the limit", c.Name, scene.MaxGraphs)
	}
	if err := claim(p, o.Value.IDs()...); err != nil {
		return nil, Effect{}, err
	}
	g := o.Value.Clone()
	for k, s := range g.Slips {
		g.Slips[k] = o.bound(s, c)
	}
	inOrder(g.Wires)
	c.Graphs = slices.Insert(c.Graphs, place(o.At, len(c.Graphs)), g)
	return &GraphRemove{o.In, o.Value.ID}, o.graph(c, o.Value.ID), nil
}

// GraphRemove takes a graph out of its composition. Links that it gave their values give nothing until it comes back.
type GraphRemove struct {
	In
	Graph scene.ID `json:"graph"`
}

func (in In) findGraph(p *scene.Project, id scene.ID) (*scene.Composition, *scene.Graph, int, error) {
	c, err := in.find(p)
	if err != nil {
		return nil, nil, 0, err
	}
	g, at := c.Graph(id)
	if g == nil {
		return nil, nil, 0, fmt.Errorf("%s has no graph with the id %q; it may have been removed in another window", c.Name, clip(string(id)))
	}
	return c, g, at, nil
}

func (o *GraphRemove) apply(p *scene.Project) (Op, Effect, error) {
	c, g, at, err := o.findGraph(p, o.Graph)
	if err != nil {
		return nil, Effect{}, err
	}
	if c.Graphs = slices.Delete(c.Graphs, at, at+1); len(c.Graphs) == 0 {
		c.Graphs = nil
	}
	p.Release(g.IDs()...)
	return &GraphAdd{o.In, g, at, AsWas{true}}, o.graph(c, g.ID), nil
}

// GraphSet gives a graph a name and a note on what it is for, both of them anew.
type GraphSet struct {
	In
	Graph scene.ID `json:"graph"`
	Name  string   `json:"name"`
	Note  string   `json:"note,omitempty"`
}

func (o *GraphSet) apply(p *scene.Project) (Op, Effect, error) {
	_, g, _, err := o.findGraph(p, o.Graph)
	if err != nil {
		return nil, Effect{}, err
	}
	back := &GraphSet{o.In, o.Graph, g.Name, g.Note}
	altered := *g
	altered.Name, altered.Note = o.Name, o.Note
	if err := altered.Check(); err != nil {
		return nil, Effect{}, err
	}
	g.Name, g.Note = o.Name, o.Note
	return back, Effect{Composition: o.Composition, Graph: g.ID}, nil
}

// SlipAdd puts a slip into a graph, at a place of its list; -1 is the end. With it come wires from and to it.
type SlipAdd struct {
	In
	Graph scene.ID      `json:"graph"`
	Value *scene.Slip   `json:"value"`
	At    int           `json:"at"`
	Wires []*scene.Wire `json:"wires,omitempty"`
	AsWas
}

func (o *SlipAdd) apply(p *scene.Project) (Op, Effect, error) {
	c, g, _, err := o.findGraph(p, o.Graph)
	if err != nil {
		return nil, Effect{}, err
	}
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	altered := *g
	altered.Slips = slices.Insert(slices.Clone(g.Slips), place(o.At, len(g.Slips)), o.bound(o.Value, c))
	altered.Wires = slices.Clone(g.Wires)
	for _, w := range o.Wires {
		if w == nil {
			return nil, Effect{}, fmt.Errorf("a wire leads nowhere")
		}
		if w.From != o.Value.ID && w.To != o.Value.ID {
			return nil, Effect{}, fmt.Errorf("a wire that comes with a slip leads from it or to it")
		}
		wire := *w
		altered.Wires = append(altered.Wires, &wire)
	}
	inOrder(altered.Wires)
	if err := sound(&altered); err != nil {
		return nil, Effect{}, err
	}
	if err := claim(p, o.Value.ID); err != nil {
		return nil, Effect{}, err
	}
	g.Slips, g.Wires = altered.Slips, altered.Wires
	return &SlipRemove{o.In, o.Graph, o.Value.ID}, o.graph(c, g.ID), nil
}

// inOrder sorts wires by where they lead, so that one that is taken off and led there again makes no difference.
func inOrder(wires []*scene.Wire) {
	slices.SortStableFunc(wires, func(a, b *scene.Wire) int {
		if a == nil || b == nil {
			return 0
		}
		return cmp.Or(cmp.Compare(a.To, b.To), cmp.Compare(a.In, b.In))
	})
}

// sound refuses a graph that is none, or whose wires run in a circle.
func sound(g *scene.Graph) error {
	if err := g.Check(); err != nil {
		return err
	}
	if circle := graph.Circle(g); len(circle) > 0 {
		return fmt.Errorf("this would create a loop in the graph: %s", graph.Named(circle))
	}
	return nil
}

// SlipRemove takes a slip out of a graph, with its wires.
type SlipRemove struct {
	In
	Graph scene.ID `json:"graph"`
	Slip  scene.ID `json:"slip"`
}

func (in In) findSlip(p *scene.Project, graph, id scene.ID) (*scene.Composition, *scene.Graph, int, error) {
	c, g, _, err := in.findGraph(p, graph)
	if err != nil {
		return nil, nil, 0, err
	}
	s, at := g.Slip(id)
	if s == nil {
		return nil, nil, 0, fmt.Errorf("the graph %s has no slip with the id %q; it may have been removed in another window", g.Name, clip(string(id)))
	}
	return c, g, at, nil
}

func (o *SlipRemove) apply(p *scene.Project) (Op, Effect, error) {
	c, g, at, err := o.findSlip(p, o.Graph, o.Slip)
	if err != nil {
		return nil, Effect{}, err
	}
	back := &SlipAdd{In: o.In, Graph: o.Graph, Value: g.Slips[at], At: at, AsWas: AsWas{true}}
	wires := slices.DeleteFunc(slices.Clone(g.Wires), func(w *scene.Wire) bool {
		gone := w.From == o.Slip || w.To == o.Slip
		if gone {
			back.Wires = append(back.Wires, w)
		}
		return gone
	})
	if i := slices.IndexFunc(g.Slips, func(s *scene.Slip) bool { return s.Within == o.Slip }); i >= 0 {
		return nil, Effect{}, fmt.Errorf("the fold %s is not empty; take out what lies in it first", graph.Called(back.Value))
	}
	g.Slips, g.Wires = slices.Delete(slices.Clone(g.Slips), at, at+1), wires
	p.Release(o.Slip)
	return back, o.graph(c, g.ID), nil
}

// SlipSet alters a slip in its place: where it stands, what it says.
type SlipSet struct {
	In
	Graph scene.ID    `json:"graph"`
	Value *scene.Slip `json:"value"`
	AsWas
}

func (o *SlipSet) apply(p *scene.Project) (Op, Effect, error) {
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	c, g, at, err := o.findSlip(p, o.Graph, o.Value.ID)
	if err != nil {
		return nil, Effect{}, err
	}
	old := g.Slips[at]
	altered := *g
	altered.Slips = slices.Clone(g.Slips)
	fresh := o.bound(o.Value, c)
	altered.Slips[at] = fresh
	if fresh.Kind != old.Kind || fresh.Within != old.Within { // else only the slip itself may be wrong
		if err := altered.Check(); err != nil {
			return nil, Effect{}, err
		}
	}
	g.Slips = altered.Slips
	if graph.SaysTheSame(old, fresh) { // it is moved, or folded otherwise
		return &SlipSet{o.In, o.Graph, old, AsWas{true}}, Effect{Composition: o.Composition, Graph: g.ID}, nil
	}
	return &SlipSet{o.In, o.Graph, old, AsWas{true}}, o.graph(c, g.ID), nil
}

// WireAdd leads a wire to an input that has none.
type WireAdd struct {
	In
	Graph scene.ID    `json:"graph"`
	Value *scene.Wire `json:"value"`
}

func (o *WireAdd) apply(p *scene.Project) (Op, Effect, error) {
	c, g, _, err := o.findGraph(p, o.Graph)
	if err != nil {
		return nil, Effect{}, err
	}
	if o.Value == nil {
		return nil, Effect{}, fmt.Errorf("no wire was given")
	}
	wire := *o.Value
	altered := *g
	altered.Wires = append(slices.Clone(g.Wires), &wire)
	inOrder(altered.Wires)
	if err := sound(&altered); err != nil {
		return nil, Effect{}, err
	}
	g.Wires = altered.Wires
	return &WireRemove{o.In, o.Graph, wire.To, wire.In}, o.graph(c, g.ID), nil
}

// WireRemove takes the wire off an input.
type WireRemove struct {
	In
	Graph scene.ID `json:"graph"`
	To    scene.ID `json:"to"`
	Input string   `json:"in"`
}

func (o *WireRemove) apply(p *scene.Project) (Op, Effect, error) {
	c, g, _, err := o.findGraph(p, o.Graph)
	if err != nil {
		return nil, Effect{}, err
	}
	w, at := g.WireTo(o.To, o.Input)
	if w == nil {
		return nil, Effect{}, fmt.Errorf("no wire leads there in the graph %s; it may have been removed in another window", g.Name)
	}
	g.Wires = slices.Delete(slices.Clone(g.Wires), at, at+1)
	return &WireAdd{o.In, o.Graph, w}, o.graph(c, g.ID), nil
}
