package wiring

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// SingleLinks gives members of a row links of their own, which do what the link on all of them does there.
type SingleLinks struct {
	RosterLink scene.ID `json:"spread"`
	// Members are those that become exceptions: the row goes on without them. Empty: all, in place of the row.
	Members []scene.ID `json:"members,omitempty"`
}

// Do returns the operations.
func (g *SingleLinks) Do(c *gesture.Context) (gesture.Result, error) {
	s, _ := c.Composition.RosterLink(g.RosterLink)
	if s == nil {
		return gesture.Result{}, fmt.Errorf("that link is no longer there; it may have been removed in another window")
	}
	if s.Roster.Kind == scene.CopiesOf {
		return gesture.Result{}, fmt.Errorf("copies have no links of their own; break them up into items first")
	}
	var r gesture.Result
	counted := wire.Counted(c.Composition, s)
	left := s.Clone()
	for k, m := range s.Members(c.Composition) {
		if !s.Drives(m) || len(g.Members) > 0 && !slices.Contains(g.Members, m.ID()) {
			continue
		}
		l := AloneAt(c, s, m, counted[k])
		if l == nil {
			return gesture.Result{}, fmt.Errorf("%s: what it gives depends on the other members of the row, or comes ahead of time, so no single link gives it", s.Name)
		}
		r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(m.Item.ID, m.Key), Link: l, Weights: WeightOfRow(c, s, l), At: 0}) // rows lie below all others
		left.Out = append(left.Out, m.ID())
	}
	if len(r.Ops) == 0 {
		return gesture.Result{}, fmt.Errorf("%s drives none of them", s.Name)
	}
	if len(g.Members) > 0 {
		r.Ops = append(r.Ops, &change.RosterLinkSet{In: c.In(), Value: left})
	} else {
		r.Ops = append(r.Ops, &change.RosterLinkRemove{In: c.In(), RosterLink: s.ID})
	}
	return r, nil
}

// AloneAt returns a new link that does by itself what a link on a row does at a member, where stagger is multiplied by counted; nil where no
// single link does.
func AloneAt(c *gesture.Context, s *scene.RosterLink, m scene.Member, counted float64) *scene.Link {
	on := s.Link
	if kind := link.Of(on); kind.Formula != nil && c.Planned != nil {
		on = gesture.AsFormula(on)
		on.Draft = ""
		if syntax.AsksRow(on.Formula) { // else it is the same at every member
			text, ok := wire.RosterScope(c.Planned.Layout, s, s.IndexOf(c.Composition, m)).Apart(on.Formula)
			if !ok {
				return nil
			}
			on.Formula = text
		}
	}
	l := link.Alone(on, counted)
	if l == nil {
		return nil
	}
	l.ID, l.Component = c.NewID(), s.Part(m)
	if l.Component != "" { // of one component, there is one offset
		l.Onto(m.Item.Spec(m.Key), l.Component)
	}
	return l
}

// WeightOfRow is the weight of a link on a row, for a single one.
func WeightOfRow(c *gesture.Context, s *scene.RosterLink, l *scene.Link) scene.Weights {
	state := &scene.State{}
	switch {
	case s.WeightFrom != nil:
		state.Links = []*scene.Link{{ID: c.NewID(), Kind: scene.Follow, Source: *s.WeightFrom, Gain: 1}}
	case s.Weight != nil:
		state.Own = scene.Num(*s.Weight)
	default:
		return nil
	}
	return scene.Weights{scene.WeightKey(l.ID): state}
}

// OneLink puts one link on a row in place of single links that do the same on its members, or what grows evenly from one to the next.
type OneLink struct {
	Targets []scene.Ref `json:"targets"`
	Links   []scene.ID  `json:"links"` // one on each target
}

// Do returns the operations.
func (g *OneLink) Do(c *gesture.Context) (gesture.Result, error) {
	if len(g.Targets) < 2 || len(g.Links) != len(g.Targets) || len(together(g.Targets)) > 1 {
		return gesture.Result{}, fmt.Errorf("one link can stand for links on the same property of several items")
	}
	var r gesture.Result
	links := make([]*scene.Link, len(g.Targets))
	refs := make([]scene.Ref, len(g.Targets))
	for k, ref := range g.Targets {
		item, spec, err := c.Property(scene.Ref{Item: ref.Item, Property: ref.Property})
		if err != nil {
			return gesture.Result{}, err
		}
		state := item.State(spec.Key)
		if len(state.Links) == 0 || state.Links[0].ID != g.Links[k] {
			return gesture.Result{}, fmt.Errorf("%s: that link is no longer there, or no longer the lowest one", item.Name)
		}
		if links[k] = state.Links[0]; item.States[scene.WeightKey(links[k].ID)] != nil {
			return gesture.Result{}, fmt.Errorf("%s: the link has a weight of its own; on a row all members have the same", item.Name)
		}
		refs[k] = scene.Ref{Item: item.ID, Property: spec.Key, Component: links[k].Component}
		r.Ops = append(r.Ops, &change.LinkRemove{Of: c.Of(item.ID, spec.Key), Link: links[k].ID})
	}
	l, order, ok := link.Together(links)
	if !ok {
		return gesture.Result{}, fmt.Errorf("those links do different things, so one can't stand for them")
	}
	inOrder := make([]scene.Ref, len(order))
	for k, at := range order {
		inOrder[k] = refs[at]
	}
	_, spec, _ := c.Property(scene.Ref{Item: refs[0].Item, Property: refs[0].Property})
	l.ID = c.NewID()
	s := rowOn(c, inOrder, spec, l)
	r.Made = []scene.ID{s.ID}
	r.Ops = append(r.Ops, &change.RosterLinkAdd{In: c.In(), Value: s, At: -1})
	return r, nil
}
