package handoffs

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// BringProject brings what is in the file of a project, or of a part of one, into the project: its compositions with all they show, its
// recipes, and its sets of controls. All of it gets ids of its own; recipes and sets that are here already are not kept twice.
type BringProject struct {
	Value *scene.Project `json:"value"`
	Part  scene.Part     `json:"part,omitempty"` // what the file is of; empty: all of it
}

// Do returns the operations that add it; the details tell what is called otherwise, what was here already, and what is left out.
func (g *BringProject) Do(c *gesture.Context) (r gesture.Result, err error) {
	if g.Value == nil {
		return r, fmt.Errorf("the file holds no project")
	}
	if err := g.Value.Check(); err != nil {
		return r, fmt.Errorf("the file can’t be brought in: %w", err)
	}
	p := graph.Renew(g.Value, c.NewID)
	var brought []string
	say := func(format string, args ...any) { r.Details = append(r.Details, fmt.Sprintf(format, args...)) }
	if !g.Part.Composed() { // what its recipes show comes along
		var shown []*scene.Composition
		for _, kept := range p.Recipes {
			for _, of := range kept.Shown() {
				if !slices.Contains(shown, of) {
					shown = append(shown, of)
				}
			}
		}
		p.Compositions, p.Befores = shown, nil
	}
	if len(p.Compositions) > 0 {
		taken := map[string]bool{}
		for _, known := range c.Others {
			taken[known.Name] = true
		}
		for _, of := range p.Compositions {
			name := of.Name
			if taken[name] {
				of.Name = gesture.NextName(name, taken, nil)
				say("%s is called %s here: there is a composition %s", name, of.Name, name)
			}
			taken[of.Name] = true
			r.Ops = append(r.Ops, &change.CompositionAdd{Value: of, At: -1})
			r.Made = append(r.Made, of.ID)
			if !of.IsReading() {
				brought = append(brought, of.Name)
			}
		}
		if n := len(p.Befores); n > 0 {
			say("what was kept as before stays out: %s", gesture.Plural(n, "state"))
		}
	}
	recipes := keepAll(c, &r, "recipe", c.Recipes, p.Recipes,
		func(one *scene.SavedRecipe) (*scene.ID, *string) { return &one.ID, &one.Name },
		func(one *scene.SavedRecipe) change.Op { return &change.RecipeAdd{Value: one, At: -1} })
	sets := keepAll(c, &r, "set of controls", c.Sets, p.Sets,
		func(one *scene.ControlSet) (*scene.ID, *string) { return &one.ID, &one.Name },
		func(one *scene.ControlSet) change.Op { return &change.SetAdd{Value: one, At: -1} })
	brought = append(append(brought, recipes...), sets...)
	switch n := len(brought); {
	case n == 0 && len(r.Details) > 0:
		r.Note = "All of it is here already"
	case n == 0:
		return r, fmt.Errorf("there is nothing in the file that could be brought in")
	case n > 3:
		r.Note = fmt.Sprintf("Brought in: %s and %d more", strings.Join(brought[:3], ", "), n-3)
	default:
		r.Note = "Brought in: " + strings.Join(brought, ", ")
	}
	return r, nil
}

// keepAll adds the operations that keep recipes, or sets, but those that are here already, and returns their names.
func keepAll[T any](c *gesture.Context, r *gesture.Result, word string, have, more []*T, of func(*T) (*scene.ID, *string), add func(*T) change.Op) (kept []string) {
	same := func(one *T) string { // what it is, whatever its id
		plain := *one
		id, _ := of(&plain)
		*id = ""
		text, _ := json.Marshal(plain)
		return string(text)
	}
	taken, known := map[string]bool{}, map[string]bool{}
	for _, one := range have {
		_, name := of(one)
		taken[*name], known[same(one)] = true, true
	}
	for _, one := range more {
		id, name := of(one)
		was := *name
		if known[same(one)] {
			r.Details = append(r.Details, fmt.Sprintf("the %s %s is here already", word, was))
			continue
		}
		if *id = c.NewID(); taken[was] {
			*name = gesture.NextName(was, taken, nil)
			r.Details = append(r.Details, fmt.Sprintf("the %s %s is called %s here", word, was, *name))
		}
		taken[*name] = true
		kept = append(kept, *name)
		r.Ops = append(r.Ops, add(one))
		r.Made = append(r.Made, *id)
	}
	return kept
}
