package wiring

import (
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/formula"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// Spread makes a roster of items in the order in which they are given, and puts one link on the same
// property of all of them; where the property is a vertex of a path, of all its vertices. Items that are all there is on one
// parent, or all that is below it, become the roster of that, so that what is put among them later is in at once, at the end.
type Spread struct {
	Targets []scene.Ref `json:"targets"` // the property of each item, in order
	// Copies makes the row that of the copies which an item shows, in place of targets: the property is theirs.
	Copies *scene.Ref `json:"copies,omitempty"`
	// Link is the link on the first of the targets that is spread, and taken off there; empty for a
	// formula.
	Link scene.ID `json:"link,omitempty"`
	Text string   `json:"text,omitempty"` // of the formula
}

// Do returns the operations that make the link on the roster.
func (g *Spread) Do(c *gesture.Context) (gesture.Result, error) {
	if g.Copies != nil {
		return spreadCopies(c, *g.Copies, g.Text)
	}
	if len(g.Targets) == 0 {
		return gesture.Result{}, fmt.Errorf("select the items for the row first")
	}
	first, spec, err := c.Property(g.Targets[0])
	if err != nil {
		return gesture.Result{}, err
	}
	if spec.ReadOnly {
		return gesture.Result{}, fmt.Errorf("%s: %s is read-only", first.Name, spec.Name)
	}
	s := &scene.RosterLink{ID: c.NewID(), Property: spec.Key, Component: g.Targets[0].Component}
	if _, _, vertex := scene.VertexOf(spec.Key); vertex && first.VertexKeys() != nil {
		s.Property, s.Roster = scene.OwnVertex, scene.Roster{Kind: scene.Vertices, Item: first.ID}
	} else {
		ids := make([]scene.ID, len(g.Targets))
		for i, ref := range g.Targets {
			ids[i] = ref.Item
		}
		s.Roster = rosterOf(c, ids)
	}
	s.Name = rosterLinkName(c, s, spec)
	r := gesture.Result{Made: []scene.ID{s.ID}}
	if g.Link == "" {
		s.Link = &scene.Link{ID: c.NewID(), Kind: scene.Formula, Gain: 1}
		if cycle := WriteRow(c, s, g.Text); cycle != nil {
			r.Note = keptAsTyped(cycle)
		}
	} else {
		old, _ := first.State(spec.Key).Link(g.Link)
		if old == nil {
			return gesture.Result{}, fmt.Errorf("%s: that link is no longer there", first.Name)
		}
		s.Link, _ = Renewed(c, first, old)
		s.Component, s.Link.Component = old.Component, ""
		r.Ops = append(r.Ops, &change.LinkRemove{Of: c.Of(first.ID, spec.Key), Link: old.ID})
		r.Note = weigh(c, s, first, old)
		if n := replaced(c, &r, g.Targets[1:], spec.Key, old); n > 0 {
			r.Note = fmt.Sprintf("the row replaces %s of single items, which were removed", gesture.Plural(n, "link"))
		}
	}
	r.Ops = append(r.Ops, &change.RosterLinkAdd{In: c.In(), Value: s, At: -1})
	if members := s.Members(c.Composition); len(members) < len(g.Targets) {
		r.Note = fmt.Sprintf("%d of %d items are included; the others lack the property, or are the link's source", len(members), len(g.Targets))
	}
	return r, nil
}

// spreadCopies puts a formula on the same property of all copies that an item shows.
func spreadCopies(c *gesture.Context, of scene.Ref, text string) (gesture.Result, error) {
	item, spec, err := c.OfCopies(of.Item, of.Property)
	if err != nil {
		return gesture.Result{}, err
	}
	s := c.RowOfCopies(item, spec, of.Component)
	r := gesture.Result{Made: []scene.ID{s.ID}, Ops: change.Ops{&change.RosterLinkAdd{In: c.In(), Value: s, At: -1}}}
	if cycle := WriteRow(c, s, text); cycle != nil {
		r.Note = keptAsTyped(cycle)
	}
	return r, nil
}

// weigh gives a link on a roster the weight that a single one had, as far as it can have it, and says where
// it cannot.
func weigh(c *gesture.Context, s *scene.RosterLink, item *scene.Item, l *scene.Link) string {
	weight := item.States[scene.WeightKey(l.ID)]
	switch {
	case weight == nil:
	case len(weight.Pins) == 0 && len(weight.Links) == 0:
		share := weight.OwnOr(item.Spec(scene.WeightKey(l.ID))).At(0)
		s.Weight = &share
	case len(weight.Links) == 1 && link.Of(weight.Links[0]).Linear && weight.Links[0].Gain == 1 && weight.Links[0].Offset == 0 && !weight.Links[0].Off:
		from := weight.Links[0].Source
		s.WeightFrom = &from
	default:
		return "the link's weight was driven; on the row it is 100 % until you set it"
	}
	return ""
}

// replaced takes the links off properties that a link on all of them stands for: those that would hide it.
func replaced(c *gesture.Context, r *gesture.Result, targets []scene.Ref, key string, by *scene.Link) (n int) {
	for _, ref := range targets {
		item := c.Composition.Item(ref.Item)
		if item == nil || ref.Property != key {
			continue
		}
		for _, l := range item.State(key).Links {
			if l.Component == by.Component && (l.Operation == scene.Replace || l.Source == by.Source && l.Kind == by.Kind) {
				r.Ops = append(r.Ops, &change.LinkRemove{Of: c.Of(item.ID, key), Link: l.ID})
				n++
			}
		}
	}
	return n
}

// rosterOf returns the roster of some items.
func rosterOf(c *gesture.Context, ids []scene.ID) scene.Roster {
	if item := c.Composition.Item(ids[0]); item != nil && item.Parent != "" {
		for _, kind := range []scene.RosterKind{scene.Children, scene.Chain} {
			hanging := scene.Roster{Kind: kind, Item: item.Parent}
			var all []scene.ID
			for _, m := range hanging.Rows(c.Composition, "")[0].Members {
				all = append(all, m.Item.ID)
			}
			if sameItems(all, ids) {
				hanging.Items, hanging.Made = ids, true
				return hanging
			}
		}
	}
	return scene.Roster{Kind: scene.Picked, Items: ids}
}

// sameItems reports whether two lists name the same items, in any order.
func sameItems(a, b []scene.ID) bool {
	a, b = slices.Clone(a), slices.Clone(b)
	slices.Sort(a)
	slices.Sort(b)
	return slices.Equal(a, b)
}

// rosterLinkName names a link on a roster by its property and its members.
func rosterLinkName(c *gesture.Context, s *scene.RosterLink, spec *scene.Spec) string {
	who := "a row"
	switch s.Roster.Kind {
	case scene.Vertices:
		if path := c.Composition.Item(s.Roster.Item); path != nil {
			return gesture.ClipName("vertices of " + path.Name)
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
	return gesture.ClipName(strings.TrimSpace(spec.Name + " of " + who))
}

// WriteRow puts a formula into a link on a roster, checked as it stands at the member in the middle, which
// has all its neighbours.
func WriteRow(c *gesture.Context, s *scene.RosterLink, text string) *wire.Cycle {
	scope := wire.RosterScope(c.Planned.Layout, s, -1)
	return write(c, s.Link, text, formula.Compile(text, scope), scope)
}

// RosterFormula changes the formula of a link on a roster.
type RosterFormula struct {
	RosterLink scene.ID `json:"spread"`
	Text       string   `json:"text"`
}

// Do returns the operation that alters it.
func (g *RosterFormula) Do(c *gesture.Context) (gesture.Result, error) {
	old, _ := c.Composition.RosterLink(g.RosterLink)
	if old == nil {
		return gesture.Result{}, fmt.Errorf("that link is no longer there; it may have been removed in another window")
	}
	s := old.Clone()
	r := gesture.Result{Ops: change.Ops{&change.RosterLinkSet{In: c.In(), Value: s}}}
	if cycle := WriteRow(c, s, g.Text); cycle != nil {
		r.Note = keptAsTyped(cycle)
	}
	return r, nil
}
