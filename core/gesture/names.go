package gesture

import (
	"slices"
	"strconv"
	"strings"

	"wunderkammer/core/scene"
)

// namesFor deals names to copies: one whose name is free keeps it; the others are numbered on, in the order in which their models
// are counted: by the row that they are in, else by the numbers behind their names, never by where they lie in the tree.
func (c *Context) namesFor(clip *Clip) map[scene.ID]string {
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
		if stem(a.Name) != stem(b.Name) {
			return 0
		}
		return number(a.Name) - number(b.Name)
	})
	taken, known, names := c.itemNames(), full{}, map[scene.ID]string{}
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
			names[item.ID] = nextName(item.Name, taken, known)
			taken[names[item.ID]] = true
		}
	}
	slices.SortStableFunc(named, func(a, b *scene.Item) int { return len(a.Name) - len(b.Name) })
	for _, item := range named {
		model, rest := namedAfter(item, models)
		name := clipName(names[model.ID] + rest)
		if taken[name] {
			name = nextName(name, taken, known)
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
		if model = models[item.Name[:k]]; model != nil && stem(item.Name) != model.Name {
			return model, item.Name[k:]
		}
	}
	return nil, ""
}

// number is the number behind a name; 0 for none.
func number(name string) int {
	n, _ := strconv.Atoi(strings.TrimSpace(name[len(stem(name)):]))
	return n
}

// stem is a name without the number behind it.
func stem(name string) string {
	at := len(name)
	for at > 0 && name[at-1] >= '0' && name[at-1] <= '9' {
		at--
	}
	if at > 1 && at < len(name) && name[at-1] == ' ' {
		return name[:at-1]
	}
	return name
}

// freeName returns the base name, with the lowest number behind it that is not taken yet.
func freeName(base string, taken map[string]bool) string {
	if !taken[base] {
		return base
	}
	return numbered(base, 2, taken, nil)
}

// full says of base names from which to which number behind them all are taken, so that many are not counted again and again.
type full map[string][2]int

// nextName returns the name of a copy: numbered on from its model's, where that has a number.
func nextName(model string, taken map[string]bool, known full) string {
	switch n := number(model); {
	case n > 0 && n < 1e9:
		return numbered(stem(model), n+1, taken, known)
	case !taken[stem(model)]:
		return stem(model)
	}
	return numbered(stem(model), 2, taken, known)
}

// numbered returns the base name with the lowest number behind it, from one on, that is not taken yet.
func numbered(base string, from int, taken map[string]bool, known full) string {
	n, span := from, known[base]
	if from < span[0] || from > span[1] {
		span = [2]int{from, from}
	}
	for n = max(n, span[1]); ; n++ {
		if name := base + " " + strconv.Itoa(n); !taken[name] {
			if known != nil {
				known[base] = [2]int{span[0], n}
			}
			return name
		}
	}
}
