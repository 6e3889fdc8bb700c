// Package graphs has the gestures on graphs: what is put on a sheet, wired, folded, aligned and driven, and the way from a link to a
// graph and back.
package graphs

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/wiring"
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
func (g *NewGraph) Do(c *gesture.Context) (gesture.Result, error) {
	made := &scene.Graph{}
	if g.Text != "" {
		var err error
		if made, _, err = graph.Lift(g.Text, c.NewID); err != nil {
			return gesture.Result{}, err
		}
	}
	made.ID, made.Name = c.NewID(), g.Name
	if made.Name == "" {
		made.Name = graphName(c, "Graph")
	}
	return gesture.Result{Ops: change.Ops{&change.GraphAdd{In: c.In(), Value: made, At: -1}}, Made: []scene.ID{made.ID}}, nil
}

// graphName makes a name that no graph of the composition has yet.
func graphName(c *gesture.Context, base string) string {
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

// OpenAsGraph makes a graph of what a link does, and lets that give the link its value.
type OpenAsGraph struct{ gesture.LinkAt }

// Do returns the operations that make the graph and alter the link.
func (g *OpenAsGraph) Do(c *gesture.Context) (gesture.Result, error) {
	d, spec, name, err := c.LinkAt(g.LinkAt)
	if err != nil {
		return gesture.Result{}, err
	}
	l := d.Link
	if l.Graph != "" {
		return gesture.Result{}, fmt.Errorf("a graph drives this already")
	}
	text, err := written(l, spec, c.Composition)
	if err != nil {
		return gesture.Result{}, err
	}
	made, drive, err := graph.Lift(text, c.NewID)
	if err != nil {
		return gesture.Result{}, err
	}
	made.ID, made.Name = c.NewID(), graphName(c, strings.ReplaceAll(name, ":", ","))
	fresh := l.Clone()
	fresh.Kind, fresh.Source, fresh.Formula, fresh.Draft, fresh.Graph, fresh.Slip = scene.Graphed, scene.Ref{}, "", "", made.ID, drive
	fresh.Stops, fresh.Beyond, fresh.Held = nil, "", nil
	if link.Of(l).Linear {
		fresh.Gain, fresh.Offset = 1, 0
	}
	return gesture.Result{Ops: change.Ops{&change.GraphAdd{In: c.In(), Value: made, At: -1}, c.Relinked(d, fresh)}, Made: []scene.ID{made.ID}}, nil
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
	source := syntax.Bound(l.Source)
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
		return syntax.WriteStops(syntax.Whole(source), stops, response.Beyond).Text, nil
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
type WriteAsFormula struct{ gesture.LinkAt }

// Do returns the operation that alters the link.
func (g *WriteAsFormula) Do(c *gesture.Context) (gesture.Result, error) {
	d, _, _, err := c.LinkAt(g.LinkAt)
	if err != nil {
		return gesture.Result{}, err
	}
	if d.Link.Graph == "" {
		return gesture.Result{}, fmt.Errorf("this is no longer driven by a graph")
	}
	return gesture.Result{Ops: change.Ops{c.Relinked(d, gesture.AsFormula(d.Link))}}, nil
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
func (g *Drive) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	if s, _ := on.Slip(g.Slip); s == nil || s.Kind != scene.DriveSlip {
		return gesture.Result{}, fmt.Errorf("that is not a drive slip")
	}
	if len(g.Targets) == 0 {
		return gesture.Result{}, fmt.Errorf("select the properties to drive first")
	}
	given := &scene.Link{Kind: scene.Graphed, Gain: 1, Graph: on.ID, Slip: g.Slip}
	if _, _, copied := scene.LaneOf(g.Targets[0].Item); g.Roster && !copied {
		r, err := (&wiring.Spread{Targets: g.Targets, Text: "0"}).Do(c)
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
	var r gesture.Result
	for _, ref := range g.Targets {
		if of, _, copied := scene.LaneOf(ref.Item); copied {
			item, spec, err := c.OfCopies(of, ref.Property)
			if err != nil {
				return gesture.Result{}, err
			}
			s := c.RowOfCopies(item, spec, ref.Component)
			s.Link = given.Clone()
			s.Link.ID = c.NewID()
			if text, _ := graph.Lower(on, g.Slip); gesture.Arranged(spec.Key) && !syntax.AsksBelow(text) {
				s.Link.Operation = scene.Plus
			}
			r.Ops = append(r.Ops, &change.RosterLinkAdd{In: c.In(), Value: s, At: -1})
			r.Made = append(r.Made, s.ID)
			continue
		}
		item, spec, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
		}
		if spec.ReadOnly {
			return gesture.Result{}, fmt.Errorf("%s: %s is read-only", item.Name, spec.Name)
		}
		l := given.Clone()
		l.ID, l.Component = c.NewID(), ref.Component
		r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(item.ID, spec.Key), Link: l, At: -1})
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
func (g *RemoveGraph) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	var r gesture.Result
	for _, d := range graph.Drives(c.Composition, on.ID) {
		if g.Formulas {
			r.Ops = append(r.Ops, c.Relinked(d, gesture.AsFormula(d.Link)))
		} else {
			r.Ops = append(r.Ops, c.Unlinked(d))
		}
	}
	r.Ops = append(r.Ops, &change.GraphRemove{In: c.In(), Graph: on.ID})
	return r, nil
}
