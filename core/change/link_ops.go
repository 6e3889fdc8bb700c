package change

import (
	"fmt"
	"slices"

	"wunderkammer/core/scene"
)

// LinkAdd puts a link on a property, at a place of the stack; -1 is the top.
type LinkAdd struct {
	Of
	Link *scene.Link `json:"link"`
	At   int         `json:"at"`
	// What was set of its weight, and of the weights of links on that.
	Weights scene.Weights `json:"weights,omitempty"`
	// Weight is how changes that were stored earlier say it.
	Weight *scene.State `json:"weight,omitempty"`
	AsWas
}

// linked is the effect of other links on the property.
func (of Of) linked() Effect {
	e := of.unlinked()
	e.wired = true
	return e
}

// unlinked is the effect of fewer links on the property, or the same in another order.
func (of Of) unlinked() Effect {
	e := of.effect()
	e.Property, e.Touch = of.Property, Wiring
	return e
}

func (o *LinkAdd) apply(p *scene.Project) (Op, Effect, error) {
	item, spec, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if err := checkLink(o.Link, item, spec); err != nil {
		return nil, Effect{}, err
	}
	state := item.State(o.Property)
	if len(state.Links) >= scene.MaxLinks {
		return nil, Effect{}, fmt.Errorf("%s: %s has %d links, which is the limit for one property", item.Name, spec.Name, scene.MaxLinks)
	}
	weights := o.Weights
	if o.Weight != nil {
		weights = scene.Weights{scene.WeightKey(o.Link.ID): o.Weight}
	}
	if err := weights.Check(o.Link); err != nil {
		return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
	}
	if err := claim(p, append(scene.LinkIDs(weights.Links()), o.Link.ID)...); err != nil {
		return nil, Effect{}, err
	}
	state = item.Edit(o.Property)
	state.Links = slices.Insert(state.Links, place(o.At, len(state.Links)), o.link(o.Link, p, o.In, item, spec))
	item.PutWeights(weights)
	return &LinkRemove{o.Of, o.Link.ID}, o.linked(), nil
}

func checkLink(l *scene.Link, item *scene.Item, spec *scene.Spec) error {
	if l == nil {
		return fmt.Errorf("no link was given")
	}
	if err := l.Check(spec); err != nil {
		return fmt.Errorf("%s: %w", item.Name, err)
	}
	return nil
}

// LinkRemove takes a link off a property, with its weight.
type LinkRemove struct {
	Of
	Link scene.ID `json:"link"`
}

func (of Of) findLink(p *scene.Project, id scene.ID) (*scene.Item, *scene.Spec, *scene.Link, int, error) {
	item, spec, err := of.find(p)
	if err != nil {
		return nil, nil, nil, 0, err
	}
	l, at := item.State(of.Property).Link(id)
	if l == nil {
		return nil, nil, nil, 0, fmt.Errorf("%s: %s has no link with the id %q; it may have been removed in another window", item.Name, spec.Name, clip(string(id)))
	}
	return item, spec, l, at, nil
}

func (o *LinkRemove) apply(p *scene.Project) (Op, Effect, error) {
	item, _, l, at, err := o.findLink(p, o.Link)
	if err != nil {
		return nil, Effect{}, err
	}
	state := item.Edit(o.Property)
	state.Links = slices.Delete(state.Links, at, at+1)
	if len(state.Links) == 0 {
		state.Links = nil
	}
	item.Tidy(o.Property)
	weights := item.TakeWeights(l)
	p.Release(append(scene.LinkIDs(weights.Links()), l.ID)...)
	return &LinkAdd{Of: o.Of, Link: l, At: at, Weights: weights, AsWas: AsWas{true}}, o.unlinked(), nil
}

// LinkSet puts another description in the place of a link with the same id; it keeps its place among the others.
type LinkSet struct {
	Of
	Link *scene.Link `json:"link"`
	AsWas
}

func (o *LinkSet) apply(p *scene.Project) (Op, Effect, error) {
	if o.Link == nil {
		return nil, Effect{}, fmt.Errorf("no link was given")
	}
	item, spec, old, at, err := o.findLink(p, o.Link.ID)
	if err != nil {
		return nil, Effect{}, err
	}
	if err := checkLink(o.Link, item, spec); err != nil {
		return nil, Effect{}, err
	}
	item.State(o.Property).Links[at] = o.link(o.Link, p, o.In, item, spec)
	return &LinkSet{o.Of, old, AsWas{true}}, o.linked(), nil
}

// LinkMove puts a link at another place of its stack.
type LinkMove struct {
	Of
	Link scene.ID `json:"link"`
	At   int      `json:"at"`
}

func (o *LinkMove) apply(p *scene.Project) (Op, Effect, error) {
	item, _, l, at, err := o.findLink(p, o.Link)
	if err != nil {
		return nil, Effect{}, err
	}
	state := item.State(o.Property)
	state.Links = slices.Delete(state.Links, at, at+1)
	state.Links = slices.Insert(state.Links, place(o.At, len(state.Links)), l)
	return &LinkMove{o.Of, o.Link, at}, o.unlinked(), nil
}
