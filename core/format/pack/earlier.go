package pack

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"wunderkammer/core/scene"
)

// Recipes and sets of controls were saved as JSON by themselves before they were packages.
const (
	recipeName   = "wunderkammer recipe"
	recipeFormat = 2 // that of a project at the time of the first version of it
	recipeNewest = 2
	setName      = "set of controls"
)

// earlier is what such a file holds.
type earlier struct {
	Format  string             `json:"format"` // of a recipe
	Version int                `json:"version"`
	Recipe  *scene.SavedRecipe `json:"recipe"`

	Kind     string           `json:"wunderkammer"` // of a set
	Name     string           `json:"name"`
	Controls []*scene.Control `json:"controls"`
}

// readEarlier reads a recipe or a set of controls that was saved by itself.
func readEarlier(data []byte) (*Opened, error) {
	if err := scene.CheckJSON(data); err != nil {
		return nil, fmt.Errorf("the file can't be opened: %w", err)
	}
	var e earlier
	if err := json.Unmarshal(data, &e); err != nil {
		return nil, fmt.Errorf("the file can't be read: %w", scene.PlainJSON(err))
	}
	p := scene.NewProject("brought", e.Name)
	switch {
	case e.Format == recipeName && e.Recipe != nil:
		if e.Version > recipeNewest {
			return nil, errors.New("the recipe was saved by a newer version; update Wunderkammer to open it")
		}
		e.Recipe.ID = "recipe"
		if err := e.Recipe.Check(); err != nil {
			return nil, fmt.Errorf("the recipe in the file is broken: %w", err)
		}
		if e.Version < recipeNewest {
			e.Recipe.Upgrade(recipeFormat)
		}
		p.Name, p.Recipes = e.Recipe.Name, []*scene.SavedRecipe{e.Recipe}
		return &Opened{Project: p, Part: scene.RecipePart, Missing: p.Assets()}, nil
	case strings.EqualFold(e.Kind, setName):
		set := &scene.ControlSet{ID: "set", Name: e.Name, Controls: e.Controls}
		if err := set.Check(); err != nil {
			return nil, fmt.Errorf("the set of controls in the file is broken: %w", err)
		}
		p.Sets = []*scene.ControlSet{set}
		return &Opened{Project: p, Part: scene.SetPart}, nil
	}
	return nil, errors.New("the file is not a Wunderkammer project, or a part of one")
}
