package scene

import (
	"errors"
	"fmt"
	"slices"
)

// Before is a composition as it was when it was kept, to be looked at and gone back to. What is in it has the ids that it had.
type Before struct {
	ID    ID           `json:"id"`
	Name  string       `json:"name"`
	Value *Composition `json:"value"`
}

// ErrNoBefore says that a state that was kept is gone.
var ErrNoBefore = errors.New("what was kept is no longer there; it may have been removed in another window")

// MaxBefores bounds how many states a project keeps.
const MaxBefores = 24

// Before returns a state that is kept, and its place in the list; nil where there is none of that id.
func (p *Project) Before(id ID) (*Before, int) {
	for k, b := range p.Befores {
		if b.ID == id {
			return b, k
		}
	}
	return nil, -1
}

// Check refuses a state that could not be shown.
func (b *Before) Check() error {
	if b == nil || b.Value == nil {
		return fmt.Errorf("a state that is kept is empty")
	}
	if err := CheckID(b.ID); err != nil {
		return err
	}
	if err := CheckName(b.Name); err != nil {
		return err
	}
	if err := b.Value.CheckWhole(); err != nil {
		return fmt.Errorf("%s: %w", b.Name, err)
	}
	return nil
}

// RoomFor refuses more states than a project keeps, by their number and by the items in them.
func (p *Project) RoomFor(more ...*Before) error {
	items, all := 0, slices.Concat(p.Befores, more)
	for _, b := range all {
		if b != nil && b.Value != nil {
			items += len(b.Value.Items)
		}
	}
	if len(all) > MaxBefores || items > MaxItems {
		return fmt.Errorf("a project keeps at most %d states, of %d items together; remove one first", MaxBefores, MaxItems)
	}
	return nil
}

// checkBefores is Check for all states that are kept.
func (p *Project) checkBefores() error {
	if err := p.RoomFor(); err != nil {
		return err
	}
	seen := map[ID]bool{}
	for _, b := range p.Befores {
		if err := b.Check(); err != nil {
			return err
		}
		if seen[b.ID] {
			return fmt.Errorf("the id %s occurs twice", b.ID)
		}
		seen[b.ID] = true
	}
	return nil
}

// healBefores leaves out what could not be shown.
func (p *Project) healBefores(say func(format string, args ...any)) {
	p.Befores = slices.DeleteFunc(p.Befores, func(b *Before) bool {
		err := b.Check()
		if err != nil {
			say("A state that was kept could not be read: %v.", err)
		}
		return err != nil
	})
	if len(p.Befores) == 0 {
		p.Befores = nil
	}
}
