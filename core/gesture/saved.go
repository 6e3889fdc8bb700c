package gesture

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/graph"
	"wunderkammer/core/link"
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
func (g *SaveRecipe) Do(c *Context) (Result, error) {
	if len(g.Items) == 0 {
		return Result{}, fmt.Errorf("select the items of the rig first")
	}
	for _, id := range g.Items {
		if _, err := c.item(id); err != nil {
			return Result{}, err
		}
	}
	clip := cut(c.Composition, g.Items)
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
	r.Rows, _ = c.rowsAmong(in)
	c.takeGraphs(r)
	for _, item := range r.Items {
		for _, state := range item.States {
			state.Baked = nil
		}
	}
	c.findSlots(r, in)
	for _, f := range g.Fields {
		item := c.Composition.Item(f.Ref.Item)
		if item == nil || item.Spec(f.Ref.Property) == nil {
			continue
		}
		spec := item.Spec(f.Ref.Property)
		k, _ := spec.Type.Component(f.Ref.Component)
		f.Unit, f.Default = spec.Unit, c.Plan.Own(item.ID, spec.Key).At(k)
		r.Fields = append(r.Fields, f)
	}
	if err := r.Check(); err != nil {
		return Result{}, err
	}
	res := Result{Ops: change.Ops{&change.RecipeAdd{Value: r, At: -1}}, Made: []scene.ID{r.ID}}
	res.Note = fmt.Sprintf("%s is kept with %s", r.Name, plural(len(r.Items), "item"))
	if len(r.Slots) > 0 {
		res.Note += fmt.Sprintf(" and asks for %s when it is made", plural(len(r.Slots), "other item"))
	}
	return res, nil
}

// byMembers makes a roster that finds its members by their names, or by what they hang on outside of some items, one of them as
// they are now.
func (c *Context) byMembers(r *scene.Roster, key string, in map[scene.ID]bool) {
	if r == nil || r.Hangs() && r.Of == nil && in[r.Item] || r.Kind != scene.Named && r.Kind != scene.Picked && (r.Kind == scene.CopiesOf || r.Kind == scene.Vertices || r.Of != nil) {
		return
	}
	out := scene.Roster{Kind: scene.Picked}
	for _, row := range r.Rows(c.Composition, key) {
		for _, m := range row.Members {
			out.Items = append(out.Items, m.Item.ID)
		}
	}
	*r = out
}

// BringRecipe keeps a recipe that was saved in another project, under an id of its own.
type BringRecipe struct {
	Value  *scene.SavedRecipe `json:"value"`
	Format int                `json:"format,omitempty"` // of what it says; 0 for that of today
}

// Do returns the operation that keeps it.
func (g *BringRecipe) Do(c *Context) (Result, error) {
	if g.Value == nil {
		return Result{}, fmt.Errorf("the file holds no recipe")
	}
	trial := *g.Value
	trial.ID = c.NewID()
	if err := trial.Check(); err != nil { // before anything else is done with what somebody may have written by hand
		return Result{}, err
	}
	r := trial.Clone()
	if g.Format > 0 {
		r.Upgrade(g.Format)
	}
	taken := map[string]bool{}
	for _, known := range c.Recipes {
		taken[known.Name] = true
	}
	r.Name = freeName(r.Name, taken)
	return Result{Ops: change.Ops{&change.RecipeAdd{Value: r, At: -1}}, Made: []scene.ID{r.ID}, Note: r.Name + " is among the recipes of this project"}, nil
}

// takeGraphs takes what of graphs drives the items of a recipe into it. A link whose graph is gone becomes a formula.
func (c *Context) takeGraphs(r *scene.SavedRecipe) {
	drives := map[scene.ID]map[scene.ID]bool{}
	take := func(l *scene.Link) *scene.Link {
		if l.Graph == "" {
			return l
		}
		if g, _ := c.Composition.Graph(l.Graph); g == nil {
			return asFormula(l)
		}
		if drives[l.Graph] == nil {
			drives[l.Graph] = map[scene.ID]bool{}
		}
		drives[l.Graph][l.Slip] = true
		return l
	}
	for _, item := range r.Items {
		for _, state := range item.States {
			for k, l := range state.Links {
				state.Links[k] = take(l)
			}
		}
	}
	for _, s := range r.Rows {
		s.Link = take(s.Link)
	}
	for _, g := range c.Composition.Graphs {
		if drives[g.ID] != nil {
			r.Graphs = append(r.Graphs, graph.Leading(g, drives[g.ID]))
		}
	}
}

// findSlots notes the items outside of a recipe that it looks at or hangs on.
func (c *Context) findSlots(r *scene.SavedRecipe, in map[scene.ID]bool) {
	at := map[scene.ID]int{}
	slot := func(id scene.ID) *scene.SavedSlot {
		item := c.Composition.Item(id)
		if id == "" || in[id] || item == nil {
			return nil
		}
		if _, known := at[id]; !known {
			at[id] = len(r.Slots)
			r.Slots = append(r.Slots, scene.SavedSlot{Item: id, Name: item.Name, Kind: item.Kind})
		}
		return &r.Slots[at[id]]
	}
	read := func(ref scene.Ref) {
		s := slot(ref.Item)
		if s == nil || slices.ContainsFunc(s.Reads, func(k scene.SlotRead) bool { return k.Key == ref.Property }) {
			return
		}
		if spec := c.Composition.Item(ref.Item).Spec(ref.Property); spec != nil {
			s.Reads = append(s.Reads, scene.SlotRead{Key: spec.Key, Name: spec.Name, Type: spec.Type})
		}
	}
	look := func(l *scene.Link, item, parent scene.ID) {
		reader := link.ReaderOf(l)
		reader.Items(func(id scene.ID) { slot(id) })
		reader.Visit(item, parent, read)
	}
	for _, item := range r.Items {
		if item.Copies != nil {
			slot(item.Copies.Along)
		}
		for _, state := range item.States {
			for _, l := range state.Links {
				look(l, item.ID, item.Parent)
			}
		}
	}
	for _, s := range r.Rows {
		look(s.Link, "", "")
		if s.WeightFrom != nil {
			read(*s.WeightFrom)
		}
	}
	for _, g := range r.Graphs { // slips that do not work stand in no formula yet
		for _, s := range g.Slips {
			if s.Kind != scene.NoteSlip {
				look(&scene.Link{Kind: scene.Formula, Formula: s.Text}, "", "")
			}
		}
	}
}

// makeSaved makes a recipe of the project: the items given take the places of its slots, in order.
func (c *Context) makeSaved(r *scene.SavedRecipe, given []scene.ID, numbers map[string]float64) (Result, error) {
	fill := map[scene.ID]scene.ID{}
	for k, s := range r.Slots {
		if k >= len(given) || given[k] == "" {
			return Result{}, fmt.Errorf("choose an item for %s first", s.Name)
		}
		item, err := c.item(given[k])
		if err != nil {
			return Result{}, err
		}
		fill[s.Item] = item.ID
		for _, read := range s.Reads {
			key, ok := c.match(item, read)
			if !ok {
				return Result{}, fmt.Errorf("%s has no property %s like the one that %s reads of %s; choose another item", item.Name, read.Name, r.Name, s.Name)
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
			return Result{}, fmt.Errorf("%s must be a number", f.Name)
		}
		for _, item := range saved.Items {
			if item.ID != f.Ref.Item {
				continue
			}
			spec, state := item.Spec(f.Ref.Property), item.Edit(f.Ref.Property)
			n, _ := spec.Type.Component(f.Ref.Component)
			state.Own = state.OwnOr(spec).With(n, x)
		}
	}
	made, _, err := c.copiesWith(&Clip{Composition: c.Composition.ID, Items: saved.Items, Rows: saved.Rows, Graphs: saved.Graphs}, 0, fill)
	if err != nil {
		return Result{}, err
	}
	if made.Note == "" {
		made.Note = fmt.Sprintf("%s: %s", r.Name, plural(len(saved.Items), "item"))
	}
	return made, nil
}

// match finds the property of an item that is like one which is read: the same, or a control of the same name and type.
func (c *Context) match(item *scene.Item, read scene.SlotRead) (key string, ok bool) {
	if spec := item.Spec(read.Key); spec != nil && spec.Type == read.Type {
		return read.Key, true
	}
	for _, control := range item.Controls {
		if spec := control.Spec(); scene.Fold(spec.Name) == scene.Fold(read.Name) && spec.Type == read.Type {
			return spec.Key, true
		}
	}
	return "", false
}
