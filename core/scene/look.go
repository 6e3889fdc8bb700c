package scene

import (
	"fmt"
	"slices"
)

// Look is what controls stood at, kept by a name: those of one drawer, or of all.
type Look struct {
	ID     ID          `json:"id"`
	Name   string      `json:"name"`
	Of     ID          `json:"of,omitempty"` // the item whose controls they are; empty: those of all items
	Values []LookValue `json:"values" ts:"list"`
}

// LookValue is what one control stood at.
type LookValue struct {
	Item    ID    `json:"item"`
	Control ID    `json:"control"`
	Value   Value `json:"value"`
}

// Bounds on looks.
const (
	MaxLooks      = 200    // of a composition
	MaxLookValues = 100000 // in all looks of a composition
)

// Look returns a look of the composition, and where it stands; nil where there is none of that id.
func (c *Composition) Look(id ID) (*Look, int) {
	for k, l := range c.Looks {
		if l.ID == id {
			return l, k
		}
	}
	return nil, -1
}

// Clone returns a copy that shares nothing that can be changed.
func (l *Look) Clone() *Look {
	out := *l
	out.Values = slices.Clone(l.Values)
	return &out
}

// Check refuses a look that could not be shown. Whether its controls are still there is not looked at: what was removed may come back.
func (l *Look) Check() error {
	if l == nil {
		return fmt.Errorf("a look is empty")
	}
	if err := CheckID(l.ID); err != nil {
		return err
	}
	if err := CheckName(l.Name); err != nil {
		return err
	}
	if l.Of != "" {
		if err := CheckID(l.Of); err != nil {
			return err
		}
	}
	if len(l.Values) == 0 || len(l.Values) > MaxLookValues {
		return fmt.Errorf("the look %s keeps %d values; a look keeps 1 to %d", l.Name, len(l.Values), MaxLookValues)
	}
	type of struct{ item, control ID }
	seen := make(map[of]bool, len(l.Values))
	for _, v := range l.Values {
		for _, id := range []ID{v.Item, v.Control} {
			if err := CheckID(id); err != nil {
				return err
			}
		}
		if seen[of{v.Item, v.Control}] {
			return fmt.Errorf("the look %s keeps two values of one control", l.Name)
		}
		seen[of{v.Item, v.Control}] = true
		if err := v.Value.Fits(v.Value.Kind()); err != nil || v.Value.Absent() {
			return fmt.Errorf("the look %s keeps a value that is none", l.Name)
		}
	}
	return nil
}

// checkLooks refuses more looks than are kept, and those that could not be shown.
func (c *Composition) checkLooks() error {
	if len(c.Looks) > MaxLooks {
		return fmt.Errorf("%s would have %d looks; at most %d are kept", c.Name, len(c.Looks), MaxLooks)
	}
	values := 0
	for _, l := range c.Looks {
		if err := l.Check(); err != nil {
			return fmt.Errorf("%s: %w", c.Name, err)
		}
		values += len(l.Values)
	}
	if values > MaxLookValues {
		return fmt.Errorf("the looks of %s would keep %d values; at most %d are kept. Delete looks that you don’t need", c.Name, values, MaxLookValues)
	}
	return nil
}
