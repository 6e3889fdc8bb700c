package change

import (
	"fmt"
	"slices"

	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// RosterLinkAdd puts a link on a roster, at a place of the composition's list of them.
type RosterLinkAdd struct {
	In
	Value *scene.RosterLink `json:"value"`
	At    int               `json:"at"`
	AsWas
}

// rosterLink is the effect of other links on rosters: any of their members may depend on them.
func (in In) rosterLink() Effect {
	return Effect{Composition: in.Composition, Touch: Structure, wired: true}
}

func (o *RosterLinkAdd) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if o.Value == nil {
		return nil, Effect{}, fmt.Errorf("no link on a row was given")
	}
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	if len(c.RosterLinks) >= scene.MaxRosterLinks {
		return nil, Effect{}, fmt.Errorf("%s has %d links on rows, which is the limit", c.Name, scene.MaxRosterLinks)
	}
	if err := claim(p, o.Value.IDs()...); err != nil {
		return nil, Effect{}, err
	}
	c.RosterLinks = slices.Insert(c.RosterLinks, place(o.At, len(c.RosterLinks)), o.named(p, o.Value, o.AsWas))
	return &RosterLinkRemove{o.In, o.Value.ID}, o.rosterLink(), nil
}

// named returns a copy of a link on a roster in whose formula names stand for ids, as far as they can be found.
func (in In) named(p *scene.Project, s *scene.RosterLink, as AsWas) *scene.RosterLink {
	out, c := s.Clone(), p.Composition(in.Composition)
	if members := out.Members(c); len(members) > 0 {
		m := members[len(members)/2]
		out.Link = as.link(s.Link, p, in, m.Item, m.Item.Spec(m.Key))
	}
	graph.Write(out.Link, c)
	return out
}

// RosterLinkRemove takes a link off its roster. Its inverse puts it back at its place.
type RosterLinkRemove struct {
	In
	RosterLink scene.ID `json:"spread"`
}

func (in In) findRosterLink(p *scene.Project, id scene.ID) (*scene.Composition, *scene.RosterLink, int, error) {
	c, err := in.find(p)
	if err != nil {
		return nil, nil, 0, err
	}
	s, at := c.RosterLink(id)
	if s == nil {
		return nil, nil, 0, fmt.Errorf("%s has no link on a row with the id %q; it may have been removed in another window", c.Name, clip(string(id)))
	}
	return c, s, at, nil
}

func (o *RosterLinkRemove) apply(p *scene.Project) (Op, Effect, error) {
	c, s, at, err := o.findRosterLink(p, o.RosterLink)
	if err != nil {
		return nil, Effect{}, err
	}
	c.RosterLinks = slices.Delete(c.RosterLinks, at, at+1)
	if len(c.RosterLinks) == 0 {
		c.RosterLinks = nil
	}
	p.Release(s.IDs()...)
	return &RosterLinkAdd{o.In, s, at, AsWas{true}}, o.rosterLink(), nil
}

// RosterLinkSet alters a link on a roster, its roster, or who opted out.
type RosterLinkSet struct {
	In
	Value *scene.RosterLink `json:"value"`
	AsWas
}

func (o *RosterLinkSet) apply(p *scene.Project) (Op, Effect, error) {
	if o.Value == nil {
		return nil, Effect{}, fmt.Errorf("no link on a row was given")
	}
	c, old, at, err := o.findRosterLink(p, o.Value.ID)
	if err != nil {
		return nil, Effect{}, err
	}
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	if old.Link.ID != o.Value.Link.ID {
		if err := claim(p, o.Value.Link.ID); err != nil {
			return nil, Effect{}, err
		}
		p.Release(old.Link.ID)
	}
	c.RosterLinks[at] = o.named(p, o.Value, o.AsWas)
	effect := o.rosterLink()
	if old.SameRow(o.Value) {
		effect.Touch, effect.RosterLink = Wiring, old.ID
	}
	return &RosterLinkSet{o.In, old, AsWas{true}}, effect, nil
}
