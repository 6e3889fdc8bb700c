package scene

import (
	"fmt"
	"slices"
)

// Part is what of a project a file holds. Whatever it is, the file is one of a project, which can be opened by itself.
type Part string

// The parts that a file can be of.
const (
	Whole           Part = ""            // all of it
	CompositionPart Part = "composition" // with all that it shows
	HandOffPart     Part = "hand-off"    // a composition with all that it shows, and its readings
	RecipePart      Part = "recipe"
	SetPart         Part = "set" // of controls
)

// Composed reports whether compositions are what the part is about.
func (k Part) Composed() bool { return k != RecipePart && k != SetPart }

// Check refuses a word that names no part.
func (k Part) Check() error {
	if !slices.Contains([]Part{Whole, CompositionPart, HandOffPart, RecipePart, SetPart}, k) {
		return fmt.Errorf("%q is no part of a project; there are: %s, %s, %s, %s", Clip(string(k)), CompositionPart, HandOffPart, RecipePart, SetPart)
	}
	return nil
}

// Parted returns a part of the project as a project of its own, named after it: the composition, recipe or set of controls with an id.
func (p *Project) Parted(part Part, id ID) (*Project, error) {
	out := &Project{ID: p.ID}
	switch part {
	case Whole:
		return p.Clone(), nil
	case CompositionPart, HandOffPart:
		whole, ok := p.HandedOff(id, "")
		if !ok {
			return nil, fmt.Errorf("there is no such composition; it may have been deleted")
		}
		if out = whole; part == CompositionPart {
			out.Compositions = slices.DeleteFunc(out.Compositions, (*Composition).IsReading)
		}
		first := slices.IndexFunc(out.Compositions, func(c *Composition) bool { return c.ID == id })
		c := out.Compositions[first]
		out.Compositions = slices.Insert(slices.Delete(out.Compositions, first, first+1), 0, c)
	case RecipePart:
		r, _ := p.Recipe(id)
		if r == nil {
			return nil, fmt.Errorf("there is no such recipe; it may have been deleted")
		}
		out.Name, out.Recipes = r.Name, []*SavedRecipe{r.Clone()}
		for _, of := range r.Shown() {
			out.Compositions = append(out.Compositions, of.Clone())
		}
	case SetPart:
		s, _ := p.Set(id)
		if s == nil {
			return nil, fmt.Errorf("there is no such set of controls; it may have been deleted")
		}
		out.Name, out.Sets = s.Name, []*ControlSet{s.Clone()}
	default:
		return nil, part.Check()
	}
	if len(out.Compositions) == 0 {
		out.Compositions = NewProject(p.ID, out.Name).Compositions
	}
	out.Join()
	return out, nil
}
