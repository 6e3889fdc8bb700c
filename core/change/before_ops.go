package change

import (
	"fmt"
	"slices"

	"wunderkammer/core/scene"
)

// BeforeKeep keeps a composition as it is where the operation is made.
type BeforeKeep struct {
	In
	Before scene.ID `json:"before"`
	Name   string   `json:"name"`
}

func (o *BeforeKeep) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	return (&BeforeAdd{&scene.Before{ID: o.Before, Name: o.Name, Value: c}, -1}).apply(p)
}

// BeforeAdd puts a state of a composition among those that are kept; At is its place, and -1 the end.
type BeforeAdd struct {
	Value *scene.Before `json:"value"`
	At    int           `json:"at"`
}

func (o *BeforeAdd) apply(p *scene.Project) (Op, Effect, error) {
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	if err := p.RoomFor(o.Value); err != nil {
		return nil, Effect{}, err
	}
	if known, _ := p.Before(o.Value.ID); known != nil {
		return nil, Effect{}, scene.Taken(o.Value.ID)
	}
	kept := *o.Value
	kept.Value = kept.Value.Clone()
	p.Befores = slices.Insert(slices.Clone(p.Befores), place(o.At, len(p.Befores)), &kept)
	return &BeforeRemove{o.Value.ID}, Effect{}, nil
}

// BeforeSet gives a state that is kept another name.
type BeforeSet struct {
	Before scene.ID `json:"before"`
	Name   string   `json:"name"`
}

func (o *BeforeSet) apply(p *scene.Project) (Op, Effect, error) {
	was, at := p.Before(o.Before)
	if was == nil {
		return nil, Effect{}, scene.ErrNoBefore
	}
	if err := scene.CheckName(o.Name); err != nil {
		return nil, Effect{}, err
	}
	renamed := *was
	renamed.Name = o.Name
	p.Befores = slices.Clone(p.Befores)
	p.Befores[at] = &renamed
	return &BeforeSet{o.Before, was.Name}, Effect{}, nil
}

// BeforeRemove drops a state that is kept.
type BeforeRemove struct {
	Before scene.ID `json:"before"`
}

func (o *BeforeRemove) apply(p *scene.Project) (Op, Effect, error) {
	was, at := p.Before(o.Before)
	if was == nil {
		return nil, Effect{}, scene.ErrNoBefore
	}
	p.Befores = slices.Delete(slices.Clone(p.Befores), at, at+1)
	if len(p.Befores) == 0 {
		p.Befores = nil
	}
	return &BeforeAdd{was, at}, Effect{}, nil
}

// BeforeRestore makes a composition what it was when a state of it was kept.
type BeforeRestore struct {
	Before scene.ID `json:"before"`
}

func (o *BeforeRestore) apply(p *scene.Project) (Op, Effect, error) {
	was, _ := p.Before(o.Before)
	if was == nil {
		return nil, Effect{}, scene.ErrNoBefore
	}
	return (&CompositionPut{was.Value}).apply(p)
}

// CompositionPut puts a composition in the place of the one of the same id, with all that is in it.
type CompositionPut struct {
	Value *scene.Composition `json:"value"`
}

func (o *CompositionPut) apply(p *scene.Project) (Op, Effect, error) {
	if o.Value == nil {
		return nil, Effect{}, fmt.Errorf("no composition was given")
	}
	if err := o.Value.CheckWhole(); err != nil {
		return nil, Effect{}, err
	}
	in := In{o.Value.ID}
	c, err := in.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	old := *c
	p.Release(old.IDs()...)
	if err := claim(p, o.Value.IDs()...); err != nil { // of what was brought into another composition meanwhile
		p.Claim(old.IDs()...)
		return nil, Effect{}, fmt.Errorf("it can't be gone back to: %w", err)
	}
	inverse := old.Clone()
	*c = *o.Value.Clone()
	e := Effect{Composition: c.ID, Touch: Structure, wired: true}
	for _, item := range c.Items {
		e.also = append(e.also, Effect{Composition: c.ID, Item: item.ID, Touch: Structure, wired: true})
	}
	graphs := map[scene.ID]bool{}
	for _, g := range slices.Concat(old.Graphs, c.Graphs) {
		if !graphs[g.ID] {
			graphs[g.ID] = true
			e.also = append(e.also, Effect{Composition: c.ID, Graph: g.ID})
		}
	}
	return &CompositionPut{inverse}, e, nil
}
