package change

import (
	"fmt"
	"slices"

	"wunderkammer/core/scene"
)

// SetAdd puts a set of controls among those of the project; At is its place, and -1 the end.
type SetAdd struct {
	Value *scene.ControlSet `json:"value"`
	At    int               `json:"at"`
}

func (o *SetAdd) apply(p *scene.Project) (Op, Effect, error) {
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	if len(p.Sets) >= scene.MaxSets {
		return nil, Effect{}, fmt.Errorf("the project has %d sets of controls, which is the limit", scene.MaxSets)
	}
	if known, _ := p.Set(o.Value.ID); known != nil {
		return nil, Effect{}, scene.Taken(o.Value.ID)
	}
	p.Sets = slices.Insert(p.Sets, place(o.At, len(p.Sets)), o.Value.Clone())
	return &SetRemove{o.Value.ID}, Effect{}, nil
}

// SetRemove takes a set of controls out of the project. What it was put onto keeps its controls.
type SetRemove struct {
	Set scene.ID `json:"set"`
}

func (o *SetRemove) apply(p *scene.Project) (Op, Effect, error) {
	was, at := p.Set(o.Set)
	if was == nil {
		return nil, Effect{}, fmt.Errorf("the set of controls is no longer there; it may have been removed in another window")
	}
	p.Sets = slices.Delete(p.Sets, at, at+1)
	if len(p.Sets) == 0 {
		p.Sets = nil
	}
	return &SetAdd{was, at}, Effect{}, nil
}
