package copies

import (
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// More makes one more like each of some items, wired like its model: with a copy of all that hangs on it and of what serves it alone
// (its shadow, its glow), which lead to each other; in the rows that the model is in, behind it. What serves all serves it, too.
type More struct {
	Items []scene.ID `json:"items"`
	// By sets it apart from its model, in the composition's space, in pixels; absent: as far as the model stands from the one before
	// it.
	By *[3]float64 `json:"by"`
}

// Do returns the operations.
func (g *More) Do(c *gesture.Context) (gesture.Result, error) {
	if len(g.Items) == 0 {
		return gesture.Result{}, fmt.Errorf("select an item first that there is to be one more of")
	}
	for _, id := range g.Items {
		if _, err := c.Item(id); err != nil {
			return gesture.Result{}, err
		}
	}
	at := c.Composition.Foremost(g.Items)
	tops := c.Tops(g.Items)
	all := withPartners(c, tops)
	clip := Cut(c.Composition, all)
	r, ids, err := copies(c, &clip, at)
	if err != nil {
		return gesture.Result{}, err
	}
	fresh := added(r.Ops)
	for _, id := range tops {
		by := step(c, id)
		if g.By != nil {
			by = *g.By
		}
		for _, one := range withPartners(c, []scene.ID{id}) {
			if !hangsIn(c, one, all) {
				apart(c, fresh[ids[one]], c.Planned.Layout.Index(one), by)
			}
		}
	}
	withModels(c, r.Ops, ids, family(c, tops))
	rows := joinRows(c, &r, ids, true)
	r.Made = r.Made[:0]
	for _, id := range g.Items {
		r.Made = append(r.Made, ids[id])
	}
	r.Note = toldMore(c, r.Ops, ids, tops, all, rows)
	return r, nil
}

// withModels puts the copies of what serves the models of some others in front of what they were made of, so that a shadow lies behind
// all that the other shadows lie behind; those of the family of the models stay where they are added.
func withModels(c *gesture.Context, ops change.Ops, ids map[scene.ID]scene.ID, family map[scene.ID]bool) {
	var order []scene.ID // as the list stands after each of the operations
	for _, item := range c.Composition.Items {
		order = append(order, item.ID)
	}
	models := make(map[scene.ID]scene.ID, len(ids))
	for model, copied := range ids {
		models[copied] = model
	}
	for _, op := range ops {
		if add, ok := op.(*change.ItemAdd); ok {
			if model := models[add.Value.ID]; !family[model] {
				add.At = slices.Index(order, model)
			}
			order = slices.Insert(order, min(add.At, len(order)), add.Value.ID)
		}
	}
}

// toldMore says what came of it.
func toldMore(c *gesture.Context, ops change.Ops, ids map[scene.ID]scene.ID, tops, all []scene.ID, rows int) string {
	names := map[scene.ID]string{}
	for _, op := range ops {
		if add, ok := op.(*change.ItemAdd); ok {
			names[add.Value.ID] = add.Value.Name
		}
	}
	what := "added " + gesture.Plural(len(tops), "item")
	if len(tops) == 1 {
		what = "added one more like " + c.Composition.Item(tops[0]).Name
	}
	var with []string
	for _, id := range all {
		if !slices.Contains(tops, id) {
			with = append(with, names[ids[id]])
		}
	}
	switch {
	case len(with) == 1:
		what += ", with its own " + with[0]
	case len(with) > 1:
		what += fmt.Sprintf(", with %d things of its own", len(with))
	}
	if rows > 0 {
		what += fmt.Sprintf(", joined to %s", gesture.Plural(rows, "row"))
	}
	return what
}

// hangsIn reports whether an item hangs on one of some others, so that it moves with it.
func hangsIn(c *gesture.Context, id scene.ID, others []scene.ID) bool {
	for item := c.Composition.Item(id); item != nil && item.Parent != ""; item = c.Composition.Item(item.Parent) {
		if slices.Contains(others, item.Parent) {
			return true
		}
	}
	return false
}

// withPartners returns items with what serves them alone: what stands at their place in a row that theirs is paired with, and what is
// drawn and follows them, but none of their peers.
func withPartners(c *gesture.Context, tops []scene.ID) []scene.ID {
	out := slices.Clone(tops)
	in := family(c, tops)
	for more := true; more; { // a partner may have one of its own
		more = false
		for _, id := range partnersOf(c, in) {
			out, more = append(out, id), true
			for of := range family(c, []scene.ID{id}) {
				in[of] = true
			}
		}
	}
	return out
}

// family returns items with all that hangs on them.
func family(c *gesture.Context, ids []scene.ID) map[scene.ID]bool {
	in := map[scene.ID]bool{}
	for _, item := range Cut(c.Composition, ids).Items {
		in[item.ID] = true
	}
	return in
}

// partnersOf lists the partners of items that are not among them, nor below one another.
func partnersOf(c *gesture.Context, in map[scene.ID]bool) (out []scene.ID) {
	found := map[scene.ID]bool{}
	add := func(id scene.ID) {
		if item := c.Composition.Item(id); item != nil && !in[id] && !found[id] && !in[item.Parent] {
			found[id] = true
			out = append(out, id)
		}
	}
	for _, s := range c.Composition.RosterLinks {
		if s.Pair == nil {
			continue
		}
		pairs := s.Partners(c.Composition)
		for k, m := range s.Members(c.Composition) {
			if k < len(pairs) && pairs[k].Item.ID != m.Item.ID {
				switch {
				case in[m.Item.ID]:
					add(pairs[k].Item.ID)
				case in[pairs[k].Item.ID]:
					add(m.Item.ID)
				}
			}
		}
	}
	peers := peers(c, in)
	for _, item := range c.Composition.Items {
		if in[item.ID] || !item.Kind.Drawn() || peers[item.ID] {
			continue
		}
		follows, others := false, false
		for _, state := range item.States {
			for _, l := range state.Links {
				r := link.ReaderOf(l)
				r.Items(func(id scene.ID) { follows, others = follows || in[id], others || peers[id] })
			}
		}
		if follows && !others {
			add(item.ID)
		}
	}
	return out
}

// peers are the items that stand in a row with some others, or hang with them on one parent and are of their kind.
func peers(c *gesture.Context, in map[scene.ID]bool) map[scene.ID]bool {
	out := map[scene.ID]bool{}
	for _, s := range c.Composition.RosterLinks {
		for _, row := range s.Rows(c.Composition) {
			if slices.ContainsFunc(row.Members, func(m scene.Member) bool { return in[m.Item.ID] }) {
				for _, m := range row.Members {
					out[m.Item.ID] = true
				}
			}
		}
	}
	for _, item := range c.Composition.Items {
		for id := range in {
			if model := c.Composition.Item(id); model.Parent == item.Parent && model.Kind == item.Kind {
				out[item.ID] = true
			}
		}
	}
	for id := range in {
		delete(out, id)
	}
	return out
}

// step returns how far one more stands from its model, in the composition: as far as the model from the one before it, of the row it
// is in or of those of its kind on its parent. Where there is none, or its place is driven, it is a little more than the model is
// wide. What is in the frame stays in it, nearer to its model; where there is no room beside it at all, above or below.
func step(c *gesture.Context, id scene.ID) [3]float64 {
	model := c.Composition.Item(id)
	by := pace(c, model)
	low, high := c.Reaches(model)
	edge := [2]float64{float64(c.Composition.Width / 2), float64(c.Composition.Height / 2)}
	held := by
	for k := range 2 {
		if low[k] >= -edge[k] && high[k] <= edge[k] {
			held[k] = min(max(by[k], -edge[k]-low[k]), edge[k]-high[k])
		}
	}
	if math.Hypot(held[0], held[1]) < 12 && held != by {
		tall := float64(1.2 * (high[1] - low[1]))
		if low[1]-tall < -edge[1] {
			tall = -tall
		}
		held[1] = -tall
	}
	return held
}

// pace is how far a model stands from the one before it.
func pace(c *gesture.Context, model *scene.Item) [3]float64 {
	i := c.Planned.Layout.Index(model.ID)
	if before := before(c, model); before != nil {
		a, b := c.Plan().World(c.Planned.Layout.Index(before.ID)), c.Plan().World(i)
		by := [3]float64{b[3] - a[3], b[7] - a[7], b[11] - a[11]}
		if by != [3]float64{} {
			return by
		}
	}
	width := 100.0
	if size := model.Spec("size"); size != nil {
		width = c.Value(model, "size").At(0)
	}
	return [3]float64{1.2 * width, 0, 0}
}

// before returns the item that stands before another in a row, or among those of its kind on its parent; nil for none.
func before(c *gesture.Context, model *scene.Item) *scene.Item {
	for _, s := range c.Composition.RosterLinks {
		rows := s.Rows(c.Composition)
		if s.Pair != nil {
			rows = append(rows, s.Pair.Rows(c.Composition, s.Property)...)
		}
		for _, row := range rows {
			at := slices.IndexFunc(row.Members, func(m scene.Member) bool { return m.Item.ID == model.ID })
			if at > 0 && row.Members[at-1].Item.ID != model.ID {
				return row.Members[at-1].Item
			}
		}
	}
	// What was made before stands behind in the list.
	after := c.Composition.IndexOf(model.ID) + 1
	for _, item := range c.Composition.Items[after:] {
		if item.Parent == model.Parent && item.Kind == model.Kind {
			return item
		}
	}
	return nil
}
