package copies

import (
	"slices"

	"wunderkammer/core/gesture"
	"wunderkammer/core/graph"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// byMembers makes a roster that finds its members by their names, or by what they hang on outside of some items, one of them as
// they are now.
func byMembers(c *gesture.Context, r *scene.Roster, key string, in map[scene.ID]bool) {
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

// TakeGraphs takes what of graphs drives the items of a recipe into it. A link whose graph is gone becomes a formula.
func TakeGraphs(c *gesture.Context, r *scene.SavedRecipe) {
	drives := map[scene.ID]map[scene.ID]bool{}
	take := func(l *scene.Link) *scene.Link {
		if l.Graph == "" {
			return l
		}
		if g, _ := c.Composition.Graph(l.Graph); g == nil {
			return gesture.AsFormula(l)
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

// FindSlots notes the items outside of a recipe that it looks at or hangs on.
func FindSlots(c *gesture.Context, r *scene.SavedRecipe, in map[scene.ID]bool) {
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

// Match finds the property of an item that is like one which is read: the same, or a control of the same name and type.
func Match(c *gesture.Context, item *scene.Item, read scene.SlotRead) (key string, ok bool) {
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
