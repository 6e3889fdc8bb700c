// Package copies has the gestures that make more of what is there: duplicates, clips, groups and items of copies, what these are
// broken up into, letters, and one more of what serves a rig.
package copies

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/graph"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// Cut returns some items of a composition with all that hangs on them, and the rows of their vertices and of copies that they show.
func Cut(c *scene.Composition, items []scene.ID) Clip {
	in := map[scene.ID]bool{}
	for _, id := range items {
		in[id] = true
	}
	out := Clip{Composition: c.ID, Items: []*scene.Item{}}
	tree, _ := c.Tree()
	for _, item := range tree {
		if in[item.ID] || in[item.Parent] {
			in[item.ID] = true
			out.Items = append(out.Items, item.Clone())
		}
	}
	for _, s := range c.RosterLinks {
		if s.Roster.OfOne() && in[s.Roster.Item] {
			out.Rows = append(out.Rows, s.Clone())
		}
	}
	return out
}

// Duplicate makes copies of items, with their links, pins, and all that hangs on them, above the
// first of them in the tree.
type Duplicate struct {
	Items []scene.ID `json:"items"`
	// By sets the copies apart from what they are made of: a way in the composition's space, in pixels.
	By [3]float64 `json:"by,omitzero"`
}

// Do returns the operations that add the copies.
func (g *Duplicate) Do(c *gesture.Context) (gesture.Result, error) {
	for _, id := range g.Items {
		if _, err := c.Item(id); err != nil {
			return gesture.Result{}, err
		}
	}
	at := c.Composition.Foremost(g.Items)
	clip := Cut(c.Composition, g.Items)
	r, ids, err := copies(c, &clip, at)
	if err != nil {
		return gesture.Result{}, err
	}
	fresh := added(r.Ops)
	for _, id := range c.Tops(g.Items) {
		apart(c, fresh[ids[id]], c.Planned.Layout.Index(id), g.By)
	}
	joinRows(c, &r, ids, false)
	return r, nil
}

// added are the items that operations add, by id.
func added(ops change.Ops) map[scene.ID]*scene.Item {
	out := map[scene.ID]*scene.Item{}
	for _, op := range ops {
		if add, ok := op.(*change.ItemAdd); ok {
			out[add.Value.ID] = add.Value
		}
	}
	return out
}

// apart moves a copy, whose place is its own and not driven, with its pins.
func apart(c *gesture.Context, copied *scene.Item, model int32, by [3]float64) {
	way, err := c.Within(model, by)
	if err != nil || way == [3]float64{} || copied == nil || len(copied.State("position").Links) > 0 {
		return
	}
	moved := func(v scene.Value) scene.Value {
		for k := range min(3, v.Len()) {
			v = v.With(k, v.At(k)+way[k])
		}
		return v
	}
	state := copied.Edit("position")
	if len(state.Pins) == 0 {
		state.Own = moved(state.OwnOr(copied.Spec("position")))
	}
	for k := range state.Pins {
		state.Pins[k] = state.Pins[k].Through(moved)
	}
}

// joinRows lets copies take part in the rows of what they were made of, in the order of their models: behind these, or behind all
// others. What is paired with a row grows likewise. It returns how many links on rows they joined.
func joinRows(c *gesture.Context, r *gesture.Result, ids map[scene.ID]scene.ID, behind bool) (joined int) {
	return joinRowsBut(c, r, ids, behind, nil)
}

// joinRowsBut is joinRows but for some links on rows, which are copied themselves.
func joinRowsBut(c *gesture.Context, r *gesture.Result, ids map[scene.ID]scene.ID, behind bool, but []*scene.RosterLink) (joined int) {
	for _, s := range c.Composition.RosterLinks {
		if slices.ContainsFunc(but, func(copied *scene.RosterLink) bool { return copied.ID == s.ID }) {
			continue
		}
		more := s.Clone()
		found := joinRoster(c, &more.Roster, s.Property, ids, behind)
		if more.Pair != nil && joinRoster(c, more.Pair, s.Property, ids, behind) {
			found = true
		}
		if !found {
			continue
		}
		joined++
		more.Joined(func(id scene.ID) (scene.ID, bool) { copied, ok := ids[id]; return copied, ok })
		r.Ops = append(r.Ops, &change.RosterLinkSet{In: c.In(), Value: more})
	}
	return joined
}

// joinRoster puts copies into a roster whose order is kept, and reports whether there are any.
func joinRoster(c *gesture.Context, roster *scene.Roster, key string, ids map[scene.ID]scene.ID, behind bool) (found bool) {
	for on := roster; on != nil; on = on.Of {
		if on.Kind != scene.Picked && !on.Made {
			continue
		}
		var order, copies []scene.ID
		for _, row := range on.Rows(c.Composition, key) {
			for _, m := range row.Members {
				order = append(order, m.Item.ID)
				id, ok := ids[m.Item.ID]
				switch {
				case ok && behind:
					order, found = append(order, id), true
				case ok:
					copies, found = append(copies, id), true
				}
			}
		}
		if order = append(order, copies...); len(order) <= scene.MaxPicked && found {
			on.Items = order
		}
	}
	return found
}

// copies returns the operations that add a clip at a place of the list, and the ids of the copies of items, controls and links.
func copies(c *gesture.Context, clip *Clip, at int) (r gesture.Result, ids map[scene.ID]scene.ID, err error) {
	return CopiesWith(c, clip, at, nil)
}

// CopiesWith is copies where some items and controls outside of the clip, and what is read of them, are others.
func CopiesWith(c *gesture.Context, clip *Clip, at int, others map[scene.ID]scene.ID) (r gesture.Result, ids map[scene.ID]scene.ID, err error) {
	if err := clip.Check(); err != nil {
		return gesture.Result{}, nil, err
	}
	ids = map[scene.ID]scene.ID{}
	for id, other := range others {
		ids[id] = other
	}
	for _, item := range clip.Items {
		for _, id := range item.IDs() {
			ids[id] = c.NewID()
		}
	}
	for _, s := range clip.Rows {
		for _, id := range s.IDs() {
			ids[id] = c.NewID()
		}
	}
	copyGraphs(c, &r, clip, ids)
	home := home(c, clip)
	lost := 0
	names := namesFor(c, clip)
	for k, item := range clip.Items {
		made := item.Clone()
		made.ID = ids[item.ID]
		made.Name = names[item.ID]
		switch parent, inside := ids[item.Parent]; {
		case inside:
			made.Parent = parent
		case !home || c.Composition.Item(item.Parent) == nil:
			made.Parent, made.Attachment = "", scene.Attachment{}
		}
		for _, control := range made.Controls {
			control.ID = ids[control.ID]
		}
		if made.Copies != nil {
			if path, inside := ids[made.Copies.Along]; inside {
				made.Copies.Along = path
			} else if !home {
				made.Copies.Along = ""
			}
		}
		states := made.States
		made.States = nil
		for key, state := range states {
			if to, ok := ids[scene.ID(key)]; ok {
				key = string(to)
			} else if of, weight := scene.WeightOf(key); weight {
				key = scene.WeightKey(ids[of])
			}
			state.Baked = bakedOf(state.Baked, ids)
			kept := state.Links[:0]
			for _, l := range state.Links {
				if !home && leadsAway(l, ids) {
					lost++
					continue
				}
				kept = append(kept, copied(c, l, ids))
			}
			if state.Links = kept; len(kept) == 0 {
				state.Links = nil
			}
			*made.Edit(key) = *state
			made.Tidy(key)
		}
		made.DropLeftWeights() // of links that were left out
		r.Ops = append(r.Ops, &change.ItemAdd{In: c.In(), Value: made, At: at + k})
		r.Made = append(r.Made, made.ID)
	}
	for _, s := range clip.Rows {
		row := s.Clone()
		if !renamed(&row.Roster, ids) || !renamed(row.Pair, ids) || !home && leadsAway(s.Link, ids) {
			lost++
			continue
		}
		row.ID, row.Link = ids[s.ID], copied(c, row.Link, ids)
		row.Renamed(func(id scene.ID) (scene.ID, bool) { copied, ok := ids[id]; return copied, ok })
		if from := row.WeightFrom; from != nil {
			if to, copied := ids[from.Item]; copied {
				from.Item = to
				if control, its := ids[scene.ID(from.Property)]; its {
					from.Property = string(control)
				}
			} else if !home {
				row.WeightFrom = nil
			}
		}
		r.Ops = append(r.Ops, &change.RosterLinkAdd{In: c.In(), Value: row, At: -1})
	}
	if lost > 0 {
		r.Note = gesture.LeftOut(lost) + ": the source isn't in this composition"
	}
	return r, ids, nil
}

// copyGraphs adds the operations that make the graphs of a clip anew.
func copyGraphs(c *gesture.Context, r *gesture.Result, clip *Clip, ids map[scene.ID]scene.ID) {
	taken := map[string]bool{}
	for _, g := range c.Composition.Graphs {
		taken[g.Name] = true
	}
	for _, g := range clip.Graphs {
		for _, id := range g.IDs() {
			ids[id] = c.NewID()
		}
		made := graph.Renamed(g, func(id scene.ID) (scene.ID, bool) { to, ok := ids[id]; return to, ok })
		made.Name = gesture.FreeName(gesture.Stem(g.Name), taken)
		taken[made.Name] = true
		r.Ops = append(r.Ops, &change.GraphAdd{In: c.In(), Value: made, At: -1})
	}
}

// renamed leads a roster to copies of its members, and reports whether they are all there.
func renamed(r *scene.Roster, ids map[scene.ID]scene.ID) bool {
	for ; r != nil; r = r.Of {
		if r.Item != "" {
			to, ok := ids[r.Item]
			if !ok {
				return false
			}
			r.Item = to
		}
		for k, id := range r.Items {
			to, ok := ids[id]
			if !ok {
				return false
			}
			r.Items[k] = to
		}
	}
	return true
}

// copied gives a link its new id, and leads it to the copies of what it looks at, where there are any. One of a graph that is
// not here, or that looks at something which was copied, becomes a formula: a graph looks at what it did.
func copied(c *gesture.Context, l *scene.Link, ids map[scene.ID]scene.ID) *scene.Link {
	l.ID = ids[l.ID]
	if to, copied := ids[l.Graph]; copied {
		l.Graph = to
		if slip, there := ids[l.Slip]; there { // else it is broken as its model is
			l.Slip = slip
		}
	} else if l.Graph != "" {
		g, _ := c.Composition.Graph(l.Graph)
		inside := false
		for _, r := range syntax.References(l.Formula) {
			_, copied := ids[r.Item]
			inside = inside || copied
		}
		if g == nil || inside {
			l = gesture.AsFormula(l)
		}
	}
	link.Rename(l, func(id scene.ID) (scene.ID, bool) { to, ok := ids[id]; return to, ok })
	return l
}

// bakedOf is what a bake put away, of a copy: it takes no part in the rows of its model.
func bakedOf(b *scene.Baked, ids map[scene.ID]scene.ID) *scene.Baked {
	if b == nil || len(b.Links) == 0 {
		return nil
	}
	out := &scene.Baked{Pins: b.Pins}
	for _, id := range b.Links {
		if to, ok := ids[id]; ok {
			out.Links = append(out.Links, to)
		}
	}
	return out
}

// leadsAway reports whether a link looks at an item that is not among those that are copied.
func leadsAway(l *scene.Link, ids map[scene.ID]scene.ID) (away bool) {
	r := link.ReaderOf(l)
	r.Items(func(id scene.ID) {
		_, inside := ids[id]
		away = away || !inside
	})
	return away
}

// Group makes a null in the middle of items, or copies of them, and attaches them to it; where links drive the position of one, it
// stands where they hung, so that these lead them to the same places.
type Group struct {
	Items []scene.ID `json:"items"`
	Name  string     `json:"name,omitempty"` // empty: Group, or Copies
	// Kind is what holds them: a null where it is empty, or copies, which show them many times.
	Kind scene.Kind `json:"kind,omitempty"`
}

// Do returns the operations that add the null and attach the items.
func (g *Group) Do(c *gesture.Context) (gesture.Result, error) {
	tops := c.Tops(g.Items)
	base := "Group"
	switch {
	case len(tops) == 0:
		return gesture.Result{}, fmt.Errorf("select the items to group first")
	case g.Kind == "":
		g.Kind = scene.Null
	case g.Kind == scene.CopiesItem:
		base = "Copies"
	case g.Kind != scene.Null:
		return gesture.Result{}, fmt.Errorf("items are grouped in a null or in copies, not in %s", g.Kind.Info().One())
	}
	var middle [3]float64
	parent := c.Composition.Item(tops[0])
	for _, id := range tops {
		item, err := c.Item(id)
		if err != nil {
			return gesture.Result{}, err
		}
		i := c.Planned.Layout.Index(id)
		world := c.Plan().World(i)
		place := world.Apply(c.Plan().Middle(i))
		for k := range 3 {
			middle[k] += place[k] / float64(len(tops))
		}
		if item.Parent != parent.Parent {
			parent = &scene.Item{}
		}
	}
	at := c.Composition.Foremost(tops)
	taken := c.ItemNames()
	null := &scene.Item{ID: c.NewID(), Name: g.Name, Kind: g.Kind, Parent: parent.Parent}
	if null.Name == "" {
		null.Name = gesture.FreeName(base, taken)
	}
	var r gesture.Result
	r.Made = []scene.ID{null.ID}
	held, holds := middle, c.Holds(parent.Parent)
	if back, ok := holds.Inverse(); ok {
		held = back.Apply(middle)
	}
	if slices.ContainsFunc(tops, func(id scene.ID) bool {
		item := c.Composition.Item(id)
		return item.Parent == parent.Parent && c.Moved(item, item.Spec("position"))
	}) {
		held = [3]float64{} // what drives them goes on from where they hung
	}
	null.Edit("position").Own = scene.Pt(held[:]...)
	if p := c.Planned.Layout.Index(parent.Parent); p >= 0 {
		null.Attachment.Stayed, null.Attachment.Turns = (*[12]float64)(&holds.Affine), holds.Turn
	}
	r.Ops = append(r.Ops, &change.ItemAdd{In: c.In(), Value: null, At: at})
	to := holds
	to.Affine = to.Mul(gesture.Translation(held))
	var left items.Left
	for _, id := range tops {
		item := c.Composition.Item(id)
		a := scene.Attachment{Stayed: (*[12]float64)(&to.Affine), Turns: to.Turn}
		r.Ops = append(r.Ops, &change.ItemAttach{On: c.On(id), Parent: null.ID, Attachment: a.Clone()})
		keep, some := items.KeepPlace(c, item, &to)
		r.Ops, left = append(r.Ops, keep...), append(left, some...)
	}
	r.Note = left.Note()
	return r, nil
}
