package pins

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// KeepBefore keeps the composition as it is now, to be compared with and gone back to.
type KeepBefore struct {
	Name string `json:"name,omitempty"` // empty: one that is free
}

// Do returns the operation that keeps it.
func (g *KeepBefore) Do(c *gesture.Context) (gesture.Result, error) {
	taken := map[string]bool{}
	for _, b := range c.Befores {
		taken[b.Name] = true
	}
	name := g.Name
	if name == "" {
		name = gesture.Numbered("Before", len(c.Befores)+1, taken, nil)
	}
	id := c.NewID()
	return gesture.Result{Ops: change.Ops{&change.BeforeKeep{In: c.In(), Before: id, Name: name}}, Made: []scene.ID{id}, Note: fmt.Sprintf("kept as %s", name)}, nil
}

// GoBack makes the composition what it was when a state of it was kept.
type GoBack struct {
	Before scene.ID `json:"before"`
}

// Do returns the operation that brings it back.
func (g *GoBack) Do(c *gesture.Context) (gesture.Result, error) {
	for _, b := range c.Befores {
		if b.ID == g.Before && b.Value.ID == c.Composition.ID {
			return gesture.Result{Ops: change.Ops{&change.BeforeRestore{Before: b.ID}}, Note: fmt.Sprintf("went back to %s", b.Name)}, nil
		}
	}
	return gesture.Result{}, scene.ErrNoBefore
}
