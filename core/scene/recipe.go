package scene

import (
	"fmt"
	"strings"
	"unicode/utf8"
)

// SavedRecipe is a rig that was saved to be made again: items with their links among each other, numbers of them that its form
// asks for, and what they look at outside of themselves.
type SavedRecipe struct {
	ID     ID            `json:"id"`
	Name   string        `json:"name"`
	Help   string        `json:"help,omitempty"`
	Items  []*Item       `json:"items"`            // parents before what hangs on them
	Rows   []*RosterLink `json:"rows,omitempty"`   // links on rows of them alone
	Graphs []*Graph      `json:"graphs,omitempty"` // what of graphs drives them
	Fields []SavedField  `json:"fields,omitempty"`
	Slots  []SavedSlot   `json:"slots,omitempty"`
}

// SavedField is a number of one of the items that the form asks for.
type SavedField struct {
	Ref     Ref     `json:"ref"` // with a component where the property has several
	Name    string  `json:"name"`
	Unit    Unit    `json:"unit,omitempty"`
	Default float64 `json:"default"`
}

// SavedSlot is an item outside of the recipe that its items look at or hang on: another one is chosen for it when it is made.
type SavedSlot struct {
	Item ID     `json:"item"` // as the items of the recipe name it
	Name string `json:"name"`
	Kind Kind   `json:"kind"`
	// Reads are the properties of it that are looked at; of a control its name as well, by which that of another item is found.
	Reads []SlotRead `json:"reads,omitempty"`
	// Hangs says that items only hang on it: they can do without.
	Hangs bool `json:"hangs,omitempty"`
}

// SlotRead is a property that the links of a recipe read from what will take the place of a slot: that has to have one of this key, or
// a control of this name and type.
type SlotRead struct {
	Key  string `json:"key"`
	Name string `json:"name"`
	Type Type   `json:"type"`
}

// Bounds of saved recipes.
const (
	MaxRecipes      = 200
	MaxRecipeItems  = 2000
	MaxRecipeFields = 40
	MaxRecipeSlots  = 40
)

// Check refuses a recipe that could not be made.
func (r *SavedRecipe) Check() error {
	if r == nil {
		return fmt.Errorf("a recipe is empty")
	}
	if err := CheckID(r.ID); err != nil {
		return err
	}
	if err := CheckName(r.Name); err != nil {
		return err
	}
	wrong := func(format string, args ...any) error {
		return fmt.Errorf("the recipe %s: %w", r.Name, fmt.Errorf(format, args...))
	}
	if utf8.RuneCountInString(r.Help) > MaxNote {
		return wrong("its description is longer than %d characters", MaxNote)
	}
	if len(r.Items) == 0 || len(r.Items) > MaxRecipeItems {
		return wrong("it must hold 1 to %d items, not %d", MaxRecipeItems, len(r.Items))
	}
	if len(r.Fields) > MaxRecipeFields || len(r.Slots) > MaxRecipeSlots || len(r.Rows) > MaxRosterLinks || len(r.Graphs) > MaxGraphs {
		return wrong("it has too many fields, slots, rows or graphs")
	}
	known := map[ID]bool{}
	byID := map[ID]*Item{}
	take := func(part interface {
		Check() error
		IDs() []ID
	}) error {
		if err := part.Check(); err != nil {
			return wrong("%w", err)
		}
		for _, id := range part.IDs() {
			if known[id] {
				return wrong("the id %s occurs twice", id)
			}
			known[id] = true
		}
		return nil
	}
	for _, item := range r.Items {
		if err := take(item); err != nil {
			return err
		}
		byID[item.ID] = item
	}
	for _, s := range r.Rows {
		if err := take(s); err != nil {
			return err
		}
	}
	for _, g := range r.Graphs {
		if err := take(g); err != nil {
			return err
		}
	}
	for _, f := range r.Fields {
		item := byID[f.Ref.Item]
		if item == nil || strings.TrimSpace(f.Name) == "" {
			return wrong("a field of its form is about no item of it, or has no name")
		}
		spec := item.Spec(f.Ref.Property)
		if spec == nil && item.Piece != nil && Num(f.Default).Fits(Number) == nil && CheckID(ID(f.Ref.Property)) == nil {
			continue // what its composition hands off is known only where that is at hand
		}
		if spec == nil || spec.ReadOnly || Num(f.Default).Fits(Number) != nil {
			return wrong("%s has no number for the field %s", item.Name, Clip(f.Name))
		}
		if _, ok := spec.Type.Component(f.Ref.Component); !ok || f.Ref.Component == "" && spec.Type.Size() != 1 || spec.Type == Text {
			return wrong("%s has no number for the field %s", item.Name, Clip(f.Name))
		}
	}
	for _, s := range r.Slots {
		if err := CheckID(s.Item); err != nil || byID[s.Item] != nil {
			return wrong("a slot of it is about one of its own items, or about none")
		}
		if err := CheckName(s.Name); err != nil {
			return wrong("a slot of it: %w", err)
		}
	}
	return nil
}

// Clone returns a copy that shares nothing that can be changed.
func (r *SavedRecipe) Clone() *SavedRecipe {
	out := *r
	out.Items, out.Rows, out.Graphs = nil, nil, nil
	for _, item := range r.Items {
		out.Items = append(out.Items, item.Clone())
	}
	for _, s := range r.Rows {
		out.Rows = append(out.Rows, s.Clone())
	}
	for _, g := range r.Graphs {
		out.Graphs = append(out.Graphs, g.Clone())
	}
	out.Fields = append([]SavedField(nil), r.Fields...)
	out.Slots = append([]SavedSlot(nil), r.Slots...)
	for k := range out.Slots {
		out.Slots[k].Reads = append([]SlotRead(nil), r.Slots[k].Reads...)
	}
	return &out
}

// Shown lists the compositions that the pieces of the recipe show, directly or by way of others.
func (r *SavedRecipe) Shown() []*Composition { return shown(nil, r.Items) }

// Recipe returns the saved recipe with the id and its place in the list, or nil.
func (p *Project) Recipe(id ID) (*SavedRecipe, int) {
	for k, r := range p.Recipes {
		if r.ID == id {
			return r, k
		}
	}
	return nil, -1
}

func (p *Project) checkRecipes() error {
	if len(p.Recipes) > MaxRecipes {
		return fmt.Errorf("the project would have %d recipes; at most %d are kept", len(p.Recipes), MaxRecipes)
	}
	seen := map[ID]bool{}
	for _, r := range p.Recipes {
		if err := r.Check(); err != nil {
			return err
		}
		if seen[r.ID] {
			return Taken(r.ID)
		}
		seen[r.ID] = true
	}
	return nil
}
