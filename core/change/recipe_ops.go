package change

import (
	"fmt"
	"slices"

	"wunderkammer/core/scene"
)

// RecipeAdd puts a recipe among those of the project; At is its place, and -1 the end.
type RecipeAdd struct {
	Value *scene.SavedRecipe `json:"value"`
	At    int                `json:"at"`
}

func (o *RecipeAdd) apply(p *scene.Project) (Op, Effect, error) {
	if err := o.Value.Check(); err != nil {
		return nil, Effect{}, err
	}
	if len(p.Recipes) >= scene.MaxRecipes {
		return nil, Effect{}, fmt.Errorf("the project has %d recipes, which is the limit", scene.MaxRecipes)
	}
	if known, _ := p.Recipe(o.Value.ID); known != nil {
		return nil, Effect{}, scene.Taken(o.Value.ID)
	}
	p.Recipes = slices.Insert(p.Recipes, place(o.At, len(p.Recipes)), o.Value.Clone())
	p.Join()
	return &RecipeRemove{o.Value.ID}, Effect{}, nil
}

// RecipeRemove takes a recipe out of the project. What was made with it stays.
type RecipeRemove struct {
	Recipe scene.ID `json:"recipe"`
}

func (o *RecipeRemove) apply(p *scene.Project) (Op, Effect, error) {
	was, at := p.Recipe(o.Recipe)
	if was == nil {
		return nil, Effect{}, fmt.Errorf("the recipe is no longer there; it may have been removed in another window")
	}
	p.Recipes = slices.Delete(p.Recipes, at, at+1)
	return &RecipeAdd{was, at}, Effect{}, nil
}
