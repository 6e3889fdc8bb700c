package copies

import (
	"cmp"
	"fmt"
	"slices"

	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// Clip is a whole rig taken out of a composition, to be put into this or another one: the items that were picked with all that
// hangs on them, parents before what hangs on them, and all that is among them: controls, links, rows, graphs, poses, limits.
type Clip struct {
	Project     scene.ID      `json:"project,omitempty"`
	Composition scene.ID      `json:"composition"`
	Items       []*scene.Item `json:"items" ts:"list"`
	// Rows are the links on rows all of whose members are among the items, and on the rows of copies that they show; Parts those
	// of which some members are, as rows of these.
	Rows  []*scene.RosterLink `json:"rows,omitempty"`
	Parts []*scene.RosterLink `json:"parts,omitempty"`
	// Graphs drive items among them, and are copied with them.
	Graphs []*scene.Graph `json:"graphs,omitempty"`
	// Slots are the items outside that they look at or hang on, which are looked for by name where the clip is put elsewhere.
	Slots []scene.SavedSlot `json:"slots,omitempty"`
}

// Take returns a clip of some items of a composition of a project.
func Take(project scene.ID, of *scene.Composition, items []scene.ID) Clip {
	c := &gesture.Context{Composition: of}
	clip := Cut(of, items)
	in := map[scene.ID]bool{}
	for _, item := range clip.Items {
		in[item.ID] = true
	}
	r := &scene.SavedRecipe{Items: clip.Items}
	r.Rows, clip.Parts = RowsAmong(c, in)
	TakeGraphs(c, r)
	FindSlots(c, r, in)
	for _, item := range clip.Items { // what they hang on is looked for as well
		if item.Parent != "" && !in[item.Parent] && !slices.ContainsFunc(r.Slots, func(s scene.SavedSlot) bool { return s.Item == item.Parent }) {
			if parent := of.Item(item.Parent); parent != nil {
				r.Slots = append(r.Slots, scene.SavedSlot{Item: parent.ID, Name: parent.Name, Kind: parent.Kind, Hangs: true})
			}
		}
	}
	clip.Project, clip.Rows, clip.Graphs, clip.Slots = project, r.Rows, r.Graphs, r.Slots
	return clip
}

// RowsAmong returns the links on rows all of whose members, and partners, are among some items, and those of which only some
// members are, as rows of these.
func RowsAmong(c *gesture.Context, in map[scene.ID]bool) (whole, parts []*scene.RosterLink) {
	for _, s := range c.Composition.RosterLinks {
		if s.Roster.OfOne() {
			if in[s.Roster.Item] {
				whole = append(whole, s.Clone())
			}
			continue
		}
		all, inside := s.Members(c.Composition), 0
		for _, m := range all {
			if in[m.Item.ID] {
				inside++
			}
		}
		row := s.Clone()
		byMembers(c, &row.Roster, s.Property, in)
		byMembers(c, row.Pair, s.Property, in)
		outside := slices.ContainsFunc(s.Partners(c.Composition), func(m scene.Member) bool { return !in[m.Item.ID] })
		switch {
		case inside == 0:
		case inside == len(all) && !outside:
			whole = append(whole, row)
		case row.Roster.Kind == scene.Picked:
			row.Roster.Items = slices.DeleteFunc(row.Roster.Items, func(id scene.ID) bool { return !in[id] })
			if outside {
				row.Pair = nil
			}
			parts = append(parts, row)
		}
	}
	return whole, parts
}

// home reports whether a clip is put where it was taken.
func home(c *gesture.Context, clip *Clip) bool {
	return clip.Composition == c.Composition.ID && (clip.Project == "" || c.Project == "" || clip.Project == c.Project)
}

// Paste puts a clip into the composition, in front. Links, rows and attachments inside of it lead to the copies. Those to the
// outside stay as they are in the composition that they came from; in another one they lead to items of the same names, or to
// those that are chosen for them, and are dropped where there is none, which is told.
type Paste struct {
	Clip Clip `json:"clip"`
	// Slots are the items that are chosen for those outside, by the ids that these have in the clip; empty to leave out what
	// leads there.
	Slots map[scene.ID]scene.ID `json:"slots,omitempty"`
}

// Check refuses a clip that something is wrong with.
func (k *Clip) Check() (err error) {
	for _, item := range k.Items {
		err = cmp.Or(err, item.Check())
	}
	for _, s := range slices.Concat(k.Rows, k.Parts) {
		err = cmp.Or(err, s.Check())
	}
	for _, g := range k.Graphs {
		err = cmp.Or(err, g.Check())
	}
	if err != nil {
		err = fmt.Errorf("the copied items are damaged: %w", err)
	}
	return err
}

// Do returns the operations that add the copies.
func (g *Paste) Do(c *gesture.Context) (gesture.Result, error) {
	if len(g.Clip.Items) == 0 {
		return gesture.Result{}, fmt.Errorf("nothing to paste; copy some items first")
	}
	clip := g.Clip
	if err := clip.Check(); err != nil {
		return gesture.Result{}, err
	}
	if home(c, &clip) {
		// A graph that looks at nothing of what is copied goes on driving the copies, too.
		in := map[scene.ID]bool{}
		for _, item := range clip.Items {
			in[item.ID] = true
		}
		clip.Graphs = slices.DeleteFunc(slices.Clone(clip.Graphs), func(on *scene.Graph) bool { return on != nil && !looksAt(on, in) })
		r, ids, err := copies(c, &clip, 0)
		if err == nil {
			joinRowsBut(c, &r, ids, false, clip.Rows)
		}
		return r, err
	}
	fill, asks := slotsOf(c, &clip, g.Slots)
	clip.Rows = append(clip.Rows[:len(clip.Rows):len(clip.Rows)], clip.Parts...)
	r, _, err := CopiesWith(c, &clip, 0, fill)
	if err == nil && len(asks) > 0 {
		names := make([]string, len(asks))
		for k, s := range asks {
			names[k] = s.Name
		}
		r.Details = append(r.Details, names...)
		if r.Note == "" {
			r.Note = "Pasted without what it has from items that are not here"
		}
	}
	return r, err
}

// looksAt reports whether a graph looks at any of some items.
func looksAt(g *scene.Graph, items map[scene.ID]bool) bool {
	for _, s := range g.Slips {
		texts := []string{s.Text}
		for _, text := range s.Fields {
			texts = append(texts, text)
		}
		for _, text := range texts {
			if s.Kind != scene.NoteSlip && slices.ContainsFunc(syntax.References(text), func(r *syntax.Reference) bool { return items[r.Item] }) {
				return true
			}
		}
	}
	return false
}

// slotsOf finds the items that take the places of those outside of a clip, with the properties that are read of them: those
// that are chosen, or the only one of the same name and kind. What is left is to be asked for.
func slotsOf(c *gesture.Context, clip *Clip, chosen map[scene.ID]scene.ID) (fill map[scene.ID]scene.ID, asks []scene.SavedSlot) {
	fill = map[scene.ID]scene.ID{}
	for _, s := range clip.Slots {
		var item *scene.Item
		id, said := chosen[s.Item]
		if said {
			item = c.Composition.Item(id)
		} else if same := slices.DeleteFunc(slices.Clone(c.Composition.Named(s.Name)), func(i *scene.Item) bool { return i.Kind != s.Kind }); len(same) == 1 {
			item = same[0]
		}
		keys := map[scene.ID]scene.ID{}
		for _, read := range s.Reads {
			if item == nil {
				break
			}
			if key, ok := Match(c, item, read); ok {
				keys[scene.ID(read.Key)] = scene.ID(key)
			} else {
				item = nil
			}
		}
		if item == nil {
			if !s.Hangs && !(said && id == "") { // or it was said that there is none
				asks = append(asks, s)
			}
			continue
		}
		fill[s.Item] = item.ID
		for key, to := range keys {
			if key != to {
				fill[key] = to
			}
		}
	}
	return fill, asks
}

// Asks returns what is to be chosen before a clip is put into a composition of a project: the items outside of it for which
// there is none of the same name and kind.
func Asks(project scene.ID, of *scene.Composition, clip *Clip) []scene.SavedSlot {
	c := &gesture.Context{Composition: of, Project: project}
	if clip.Check() != nil || home(c, clip) {
		return nil
	}
	_, asks := slotsOf(c, clip, nil)
	return asks
}
