package change

import (
	"fmt"
	"slices"

	"wunderkammer/core/scene"
)

// SpreadAdd puts a link on a roster, at a place of the composition's list of them.
type SpreadAdd struct {
	In
	Value *scene.Spread `json:"value"`
	At    int           `json:"at"`
}

// spread is the effect of other links on rosters: any of their members may depend on them.
func (in In) spread() Effect {
	return Effect{Composition: in.Composition, Structure: true, links: true}
}

func (o *SpreadAdd) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if o.Value == nil {
		return nil, Effect{}, fmt.Errorf("no link on a roster was given")
	}
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	if len(c.Spreads) >= scene.MaxSpreads {
		return nil, Effect{}, fmt.Errorf("%s holds %d links on rosters; more are not kept", c.Name, scene.MaxSpreads)
	}
	if err := claim(p, o.Value.IDs()...); err != nil {
		return nil, Effect{}, err
	}
	c.Spreads = slices.Insert(c.Spreads, place(o.At, len(c.Spreads)), o.named(p, o.Value))
	return &SpreadRemove{o.In, o.Value.ID}, o.spread(), nil
}

// named returns a copy of a link on a roster in whose formula names stand for ids, as far as they can be found.
func (in In) named(p *scene.Project, s *scene.Spread) *scene.Spread {
	out, c := s.Clone(), p.Composition(in.Composition)
	if members := out.Members(c); len(members) > 0 {
		m := members[len(members)/2]
		out.Link = bound(s.Link, p, in, m.Item, m.Item.Spec(m.Key))
	}
	return out
}

// SpreadRemove takes a link off its roster.
type SpreadRemove struct {
	In
	Spread scene.ID `json:"spread"`
}

func (in In) findSpread(p *scene.Project, id scene.ID) (*scene.Composition, *scene.Spread, int, error) {
	c, err := in.find(p)
	if err != nil {
		return nil, nil, 0, err
	}
	s, at := c.Spread(id)
	if s == nil {
		return nil, nil, 0, fmt.Errorf("%s has no link on a roster with the id %q; it may have been removed in another window", c.Name, clip(string(id)))
	}
	return c, s, at, nil
}

func (o *SpreadRemove) apply(p *scene.Project) (Op, Effect, error) {
	c, s, at, err := o.findSpread(p, o.Spread)
	if err != nil {
		return nil, Effect{}, err
	}
	c.Spreads = slices.Delete(c.Spreads, at, at+1)
	if len(c.Spreads) == 0 {
		c.Spreads = nil
	}
	p.Release(s.IDs()...)
	return &SpreadAdd{o.In, s, at}, o.spread(), nil
}

// SpreadSet alters a link on a roster, its roster, or who opted out.
type SpreadSet struct {
	In
	Value *scene.Spread `json:"value"`
}

func (o *SpreadSet) apply(p *scene.Project) (Op, Effect, error) {
	if o.Value == nil {
		return nil, Effect{}, fmt.Errorf("no link on a roster was given")
	}
	c, old, at, err := o.findSpread(p, o.Value.ID)
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
	c.Spreads[at] = o.named(p, o.Value)
	effect := o.spread()
	if old.SameRow(o.Value) {
		effect.Spread = old.ID
	}
	return &SpreadSet{o.In, old}, effect, nil
}
