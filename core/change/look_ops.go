package change

import (
	"fmt"
	"slices"

	"wunderkammer/core/scene"
)

// LookSet keeps a look, or puts another one in the place of that with the same id; it goes to a place of the list.
type LookSet struct {
	In
	Value *scene.Look `json:"value"`
	At    int         `json:"at"` // below 0: where it is, or the end
}

func (o *LookSet) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	if c.IsReading() {
		return nil, Effect{}, fmt.Errorf("%s is a reading, which keeps no looks; make another reading", c.Name)
	}
	trial := *c
	trial.Looks = slices.Clone(c.Looks)
	was, k := c.Look(o.Value.ID)
	at := o.At
	if k >= 0 {
		trial.Looks = slices.Delete(trial.Looks, k, k+1)
		if at < 0 {
			at = k
		}
	}
	trial.Looks = slices.Insert(trial.Looks, place(at, len(trial.Looks)), o.Value.Clone())
	if err := trial.Check(); err != nil {
		return nil, Effect{}, err
	}
	var inverse Op = &LookRemove{o.In, o.Value.ID}
	if k >= 0 {
		inverse = &LookSet{o.In, was, k}
	} else if err := claim(p, o.Value.ID); err != nil {
		return nil, Effect{}, err
	}
	c.Looks = trial.Looks
	return inverse, Effect{Composition: o.Composition}, nil
}

// LookRemove keeps a look no longer.
type LookRemove struct {
	In
	Look scene.ID `json:"look"`
}

func (o *LookRemove) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	was, k := c.Look(o.Look)
	if k < 0 {
		return nil, Effect{}, fmt.Errorf("the look is no longer there; it may have been deleted in another window")
	}
	c.Looks = slices.Delete(slices.Clone(c.Looks), k, k+1)
	if len(c.Looks) == 0 {
		c.Looks = nil
	}
	p.Release(o.Look)
	return &LookSet{o.In, was, k}, Effect{Composition: o.Composition}, nil
}
