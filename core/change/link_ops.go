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
	// What was set of its weight.
	Weight *scene.State `json:"weight,omitempty"`
}

// linked is the effect of other links on the property.
func (of Of) linked() Effect {
	e := of.unlinked()
	e.links = true
	return e
}

// unlinked is the effect of fewer links on the property, or the same in another order.
func (of Of) unlinked() Effect {
	e := of.structure()
	e.Property, e.Links = of.Property, true
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
	if linkTaken(item, o.Link.ID) {
		return nil, Effect{}, fmt.Errorf("the id %s is taken already", o.Link.ID)
	}
	state := item.Edit(o.Property)
	state.Links = slices.Insert(state.Links, place(o.At, len(state.Links)), o.Link.Clone())
	if o.Weight != nil {
		key := scene.WeightKey(o.Link.ID)
		if err := scene.CheckState(item.Spec(key), o.Weight); err != nil {
			state.Links = slices.DeleteFunc(state.Links, func(l *scene.Link) bool { return l.ID == o.Link.ID })
			item.Tidy(o.Property)
			return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
		}
		*item.Edit(key) = *o.Weight.Clone()
		item.Tidy(key)
	}
	return &LinkRemove{o.Of, o.Link.ID}, o.linked(), nil
}

// linkTaken reports whether any link of an item has an id. Weights are found by it.
func linkTaken(item *scene.Item, id scene.ID) bool {
	for _, s := range item.States {
		if l, _ := s.Link(id); l != nil {
			return true
		}
	}
	return false
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
	key := scene.WeightKey(l.ID)
	weight := item.States[key]
	delete(item.States, key)
	state := item.Edit(o.Property)
	state.Links = slices.Delete(state.Links, at, at+1)
	if len(state.Links) == 0 {
		state.Links = nil
	}
	item.Tidy(o.Property)
	return &LinkAdd{o.Of, l, at, weight}, o.unlinked(), nil
}

// LinkSet alters a link in its place.
type LinkSet struct {
	Of
	Link *scene.Link `json:"link"`
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
	item.State(o.Property).Links[at] = o.Link.Clone()
	return &LinkSet{o.Of, old}, o.linked(), nil
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
