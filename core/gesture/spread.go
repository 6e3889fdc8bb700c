package gesture

import (
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// Spread makes a roster of items in the order in which they are given, and puts one link on the same
// property of all of them; where the property is a vertex of a path, of all its vertices. Items that are all there is on one parent, in order, or all that is below it, become the
// roster of that, so that what is put among them later is in at once.
type Spread struct {
	Targets []scene.Ref `json:"targets"` // the property of each item, in order
	// Link is the link on the first of the targets that is spread, and taken off there; empty for a
	// formula.
	Link scene.ID `json:"link"`
	Text string   `json:"text"` // of the formula
}

// Do returns the operations that make the link on the roster.
func (g *Spread) Do(c *Context) (Result, error) {
	if len(g.Targets) == 0 {
		return Result{}, fmt.Errorf("select the items that are to be a roster first")
	}
	first, spec, err := c.property(g.Targets[0])
	if err != nil {
		return Result{}, err
	}
	if spec.ReadOnly {
		return Result{}, fmt.Errorf("%s: %s can be read, not driven", first.Name, spec.Name)
	}
	s := &scene.Spread{ID: c.NewID(), Property: spec.Key, Component: g.Targets[0].Component}
	if _, _, vertex := scene.VertexOf(spec.Key); vertex && first.VertexKeys() != nil {
		s.Property, s.Roster = scene.OwnVertex, scene.Roster{Kind: scene.Vertices, Item: first.ID}
	} else {
		ids := make([]scene.ID, len(g.Targets))
		for i, ref := range g.Targets {
			ids[i] = ref.Item
		}
		s.Roster = c.rosterOf(ids)
	}
	s.Name = c.spreadName(s, spec)
	r := Result{Made: []scene.ID{s.ID}}
	if g.Link == "" {
		s.Link = &scene.Link{ID: c.NewID(), Kind: scene.Formula, Gain: 1}
		c.write(s, g.Text)
	} else {
		old, _ := first.State(spec.Key).Link(g.Link)
		if old == nil {
			return Result{}, fmt.Errorf("%s: that link is no longer there", first.Name)
		}
		s.Link, s.Component = c.renewed(old), old.Component
		s.Link.Component = ""
		r.Ops = append(r.Ops, &change.LinkRemove{Of: c.of(first.ID, spec.Key), Link: old.ID})
	}
	r.Ops = append(r.Ops, &change.SpreadAdd{In: c.in(), Value: s, At: -1})
	if members := s.Members(c.Composition); len(members) < len(g.Targets) {
		r.Note = fmt.Sprintf("%d of %d items take part; the others lack the property, or are what the link looks at", len(members), len(g.Targets))
	}
	return r, nil
}

// rosterOf returns the roster of some items.
func (c *Context) rosterOf(ids []scene.ID) scene.Roster {
	if item := c.Composition.Item(ids[0]); item != nil && item.Parent != "" {
		for _, kind := range []scene.RosterKind{scene.Children, scene.Chain} {
			hanging := scene.Roster{Kind: kind, Item: item.Parent}
			var all []scene.ID
			for _, m := range hanging.Rows(c.Composition, "")[0].Members {
				all = append(all, m.Item.ID)
			}
			if slices.Equal(all, ids) {
				return hanging
			}
		}
	}
	return scene.Roster{Kind: scene.Picked, Items: ids}
}

// spreadName names a link on a roster by its property and its members.
func (c *Context) spreadName(s *scene.Spread, spec *scene.Spec) string {
	who := "a row"
	switch s.Roster.Kind {
	case scene.Vertices:
		if path := c.Composition.Item(s.Roster.Item); path != nil {
			return clipName("vertices of " + path.Name)
		}
	case scene.Children, scene.Chain:
		if parent := c.Composition.Item(s.Roster.Item); parent != nil {
			who = "what hangs on " + parent.Name
		}
	default:
		if first := c.Composition.Item(s.Roster.Items[0]); first != nil {
			who = fmt.Sprintf("%s and %d more", first.Name, len(s.Roster.Items)-1)
		}
	}
	return clipName(strings.TrimSpace(spec.Name + " of " + who))
}

// write puts a formula into a link on a roster, checked as it stands at the member in the middle, which
// has all its neighbours.
func (c *Context) write(s *scene.Spread, text string) {
	write(s.Link, text, link.SpreadScope(c.Plan.Layout, s, -1))
}

// SpreadFormula changes the formula of a link on a roster.
type SpreadFormula struct {
	Spread scene.ID `json:"spread"`
	Text   string   `json:"text"`
}

// Do returns the operation that alters it.
func (g *SpreadFormula) Do(c *Context) (Result, error) {
	old, _ := c.Composition.Spread(g.Spread)
	if old == nil {
		return Result{}, fmt.Errorf("that link is no longer there; it may have been removed in another window")
	}
	s := old.Clone()
	c.write(s, g.Text)
	return Result{Ops: change.Ops{&change.SpreadSet{In: c.in(), Value: s}}}, nil
}
