package gesture

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// LinkAt names a link: of a property, or one on a roster.
type LinkAt struct {
	Target     scene.Ref `json:"target"`
	Link       scene.ID  `json:"link,omitempty"`
	RosterLink scene.ID  `json:"spread,omitempty"`
}

// LinkAt finds a link, what it drives, and how it is called.
func (c *Context) LinkAt(at LinkAt) (d graph.Driven, target *scene.Spec, name string, err error) {
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

// Relinked alters a link where it stands.
func (c *Context) Relinked(d graph.Driven, fresh *scene.Link) change.Op {
	if s, _ := c.Composition.RosterLink(d.RosterLink); s != nil {
		altered := s.Clone()
		altered.Link = fresh
		return &change.RosterLinkSet{In: c.In(), Value: altered}
	}
	return &change.LinkSet{Of: c.Of(d.Ref.Item, d.Ref.Property), Link: fresh}
}

// Unlinked takes a link away.
func (c *Context) Unlinked(d graph.Driven) change.Op {
	if d.RosterLink != "" {
		return &change.RosterLinkRemove{In: c.In(), RosterLink: d.RosterLink}
	}
	return &change.LinkRemove{Of: c.Of(d.Ref.Item, d.Ref.Property), Link: d.Link.ID}
}

// AsFormula returns a link of a graph as one that holds the formula of the graph itself.
func AsFormula(l *scene.Link) *scene.Link {
	out := l.Clone()
	out.Kind, out.Graph, out.Slip = scene.Formula, "", ""
	return out
}

// Graph returns a graph of the composition, or an error in plain words.
func (c *Context) Graph(id scene.ID) (*scene.Graph, error) {
	g, _ := c.Composition.Graph(id)
	if g == nil {
		return nil, fmt.Errorf("the graph is no longer there; it may have been removed in another window")
	}
	return g, nil
}
