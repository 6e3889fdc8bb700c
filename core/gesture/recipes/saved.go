package recipes

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/scene"
)

// SaveRecipe keeps items, with all that hangs on them and their links among each other, as a recipe of the project. What they look at
// outside of themselves becomes the slots of its form, the numbers that are chosen its fields.
type SaveRecipe struct {
	Items  []scene.ID         `json:"items"`
	Name   string             `json:"name"`
	Help   string             `json:"help,omitempty"`
	Fields []scene.SavedField `json:"fields,omitempty"` // of a field only what it is about and its name
}

// Do returns the operation that keeps it.
func (g *SaveRecipe) Do(c *gesture.Context) (gesture.Result, error) {
	if len(g.Items) == 0 {
		return gesture.Result{}, fmt.Errorf("select the items of the rig first")
	}
	for _, id := range g.Items {
		if _, err := c.Item(id); err != nil {
			return gesture.Result{}, err
		}
	}
	clip := copies.Cut(c.Composition, g.Items)
	in := map[scene.ID]bool{}
	for _, item := range clip.Items {
		in[item.ID] = true
	}
	r := &scene.SavedRecipe{ID: c.NewID(), Name: g.Name, Help: g.Help, Items: clip.Items}
	for _, item := range r.Items { // what they hang on is no part of it
		if !in[item.Parent] {
			item.Parent, item.Attachment = "", scene.Attachment{}
		}
	}
	r.Rows, _ = copies.RowsAmong(c, in)
	copies.TakeGraphs(c, r)
	for _, item := range r.Items {
		for _, state := range item.States {
			state.Baked = nil
		}
	}
	copies.FindSlots(c, r, in)
	for _, f := range g.Fields {
		item := c.Composition.Item(f.Ref.Item)
		if item == nil || item.Spec(f.Ref.Property) == nil {
			continue
		}
		spec := item.Spec(f.Ref.Property)
		k, _ := spec.Type.Component(f.Ref.Component)
		f.Unit, f.Default = spec.Unit, c.Plan().Own(item.ID, spec.Key).At(k)
		r.Fields = append(r.Fields, f)
	}
	if err := r.Check(); err != nil {
		return gesture.Result{}, err
	}
	res := gesture.Result{Ops: change.Ops{&change.RecipeAdd{Value: r, At: -1}}, Made: []scene.ID{r.ID}}
	res.Note = fmt.Sprintf("%s is kept with %s", r.Name, gesture.Plural(len(r.Items), "item"))
	if len(r.Slots) > 0 {
		res.Note += fmt.Sprintf(" and asks for %s when it is made", gesture.Plural(len(r.Slots), "other item"))
	}
	return res, nil
}

// makeSaved makes a recipe of the project: the items given take the places of its slots, in order.
func makeSaved(c *gesture.Context, r *scene.SavedRecipe, given []scene.ID, numbers map[string]float64) (gesture.Result, error) {
	fill := map[scene.ID]scene.ID{}
	for k, s := range r.Slots {
		if k >= len(given) || given[k] == "" {
			return gesture.Result{}, fmt.Errorf("choose an item for %s first", s.Name)
		}
		item, err := c.Item(given[k])
		if err != nil {
			return gesture.Result{}, err
		}
		fill[s.Item] = item.ID
		for _, read := range s.Reads {
			key, ok := copies.Match(c, item, read)
			if !ok {
				return gesture.Result{}, fmt.Errorf("%s has no property %s like the one that %s reads of %s; choose another item", item.Name, read.Name, r.Name, s.Name)
			}
			fill[scene.ID(read.Key)] = scene.ID(key)
		}
	}
	saved := r.Clone()
	for k, f := range saved.Fields {
		x, ok := numbers[fmt.Sprint("f", k)]
		if !ok {
			continue
		}
		if scene.Num(x).Fits(scene.Number) != nil {
			return gesture.Result{}, fmt.Errorf("%s must be a number", f.Name)
		}
		for _, item := range saved.Items {
			if item.ID != f.Ref.Item {
				continue
			}
			spec, n, ok := item.Spec(f.Ref.Property), 0, false
			if spec != nil {
				n, ok = spec.Type.Component(f.Ref.Component)
			}
			if !ok || spec.Type == scene.Text {
				return gesture.Result{}, fmt.Errorf("%s of %s is no longer handed off; keep the rig as a recipe anew, without it", f.Name, item.Name)
			}
			state := item.Edit(f.Ref.Property)
			state.Own = state.OwnOr(spec).With(n, x)
		}
	}
	made, _, err := copies.CopiesWith(c, &copies.Clip{Composition: c.Composition.ID, Items: saved.Items, Rows: saved.Rows, Graphs: saved.Graphs}, 0, fill)
	if err != nil {
		return gesture.Result{}, err
	}
	if made.Note == "" {
		made.Note = fmt.Sprintf("%s: %s", r.Name, gesture.Plural(len(saved.Items), "item"))
	}
	return made, nil
}
