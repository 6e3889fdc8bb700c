package copies

import (
	"slices"

	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// namesFor deals names to copies: one whose name is free keeps it; the others are numbered on, in the order in which their models
// are counted: by the row that they are in, else by the numbers behind their names, never by where they lie in the tree.
func namesFor(c *gesture.Context, clip *Clip) map[scene.ID]string {
	place := map[scene.ID]int{}
	for _, s := range append(clip.Rows[:len(clip.Rows):len(clip.Rows)], c.Composition.RosterLinks...) {
		if s.Roster.OfOne() {
			continue
		}
		for k, m := range s.Members(c.Composition) {
			if _, known := place[m.Item.ID]; !known {
				place[m.Item.ID] = k + 1
			}
		}
	}
	order := slices.Clone(clip.Items)
	slices.Reverse(order) // the tree lists the newest first
	slices.SortStableFunc(order, func(a, b *scene.Item) int {
		if x, y := place[a.ID], place[b.ID]; x > 0 && y > 0 {
			return x - y
		}
		if gesture.Stem(a.Name) != gesture.Stem(b.Name) {
			return 0
		}
		return gesture.Number(a.Name) - gesture.Number(b.Name)
	})
	taken, known, names := c.ItemNames(), gesture.Full{}, map[scene.ID]string{}
	for _, item := range order {
		if !taken[item.Name] {
			names[item.ID], taken[item.Name] = item.Name, true
		}
	}
	models := make(map[string]*scene.Item, len(order))
	for _, item := range order {
		models[item.Name] = item
	}
	var named []*scene.Item // after another of the clip
	for _, item := range order {
		switch model, _ := namedAfter(item, models); {
		case names[item.ID] != "":
		case model != nil:
			named = append(named, item)
		default:
			names[item.ID] = gesture.NextName(item.Name, taken, known)
			taken[names[item.ID]] = true
		}
	}
	slices.SortStableFunc(named, func(a, b *scene.Item) int { return len(a.Name) - len(b.Name) })
	for _, item := range named {
		model, rest := namedAfter(item, models)
		name := gesture.ClipName(names[model.ID] + rest)
		if taken[name] {
			name = gesture.NextName(name, taken, known)
		}
		names[item.ID], taken[name] = name, true
	}
	return names
}

// namedAfter returns the item whose name another's begins with, as that of a shadow does (Crate 6 shadow), and the rest of it; nil
// where there is none.
func namedAfter(item *scene.Item, models map[string]*scene.Item) (model *scene.Item, rest string) {
	for k := len(item.Name) - 1; k > 0; k-- {
		if item.Name[k] != ' ' {
			continue
		}
		if model = models[item.Name[:k]]; model != nil && gesture.Stem(item.Name) != model.Name {
			return model, item.Name[k:]
		}
	}
	return nil, ""
}
