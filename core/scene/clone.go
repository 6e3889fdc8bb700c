package scene

import (
	"slices"

	"wunderkammer/core/curve"
)

// Clone returns a copy that shares nothing that can be changed.
func (i *Item) Clone() *Item {
	out := *i
	out.Controls = nil
	for _, c := range i.Controls {
		out.Controls = append(out.Controls, c.Clone())
	}
	out.Path = i.Path.Clone()
	out.Frames, out.Stops = slices.Clone(i.Frames), slices.Clone(i.Stops)
	out.Attachment, out.Copies = i.Attachment.Clone(), cloned(i.Copies)
	out.Sound, out.Table, out.Piece = cloned(i.Sound), i.Table.Clone(), cloned(i.Piece)
	out.States = nil
	for key, s := range i.States {
		if out.States == nil {
			out.States = make(map[string]*State, len(i.States))
		}
		out.States[key] = s.Clone()
	}
	return &out
}

// Clone returns a copy that shares nothing that can be changed.
func (a Attachment) Clone() Attachment {
	if a.Stayed != nil {
		stayed := *a.Stayed
		a.Stayed = &stayed
	}
	return a
}

// Clone returns a copy that shares nothing that can be changed.
func (c *Control) Clone() *Control {
	out := *c
	out.Min, out.Max = cloned(c.Min), cloned(c.Max)
	out.Options, out.Poses = slices.Clone(c.Options), slices.Clone(c.Poses)
	if c.Laid != nil {
		laid := *c.Laid
		out.Laid = &laid
	}
	return &out
}

func cloned[T any](x *T) *T {
	if x == nil {
		return nil
	}
	y := *x
	return &y
}

// Clone returns a copy that shares nothing that can be changed.
func (l *Link) Clone() *Link {
	out := *l
	out.Stops, out.Offsets, out.Held = slices.Clone(l.Stops), slices.Clone(l.Offsets), slices.Clone(l.Held)
	if l.Stagger != nil {
		stagger := *l.Stagger
		stagger.Offsets, stagger.Curve = slices.Clone(stagger.Offsets), slices.Clone(stagger.Curve)
		out.Stagger = &stagger
	}
	return &out
}

// Clone returns a copy that shares nothing that can be changed.
func (s *State) Clone() *State {
	out := &State{Own: s.Own, Pins: slices.Clone(s.Pins), Beyond: s.Beyond}
	for _, l := range s.Links {
		out.Links = append(out.Links, l.Clone())
	}
	out.Min, out.Max = cloned(s.Min), cloned(s.Max)
	for part, l := range s.Limits {
		if out.Limits == nil {
			out.Limits = map[string]Limits{}
		}
		out.Limits[part] = Limits{cloned(l.Min), cloned(l.Max)}
	}
	out.Baked = s.Baked.Clone()
	return out
}

// Clone returns a copy that shares nothing that can be changed.
func (b *Baked) Clone() *Baked {
	if b == nil {
		return nil
	}
	return &Baked{slices.Clone(b.Links), slices.Clone(b.Rows), slices.Clone(b.Pins)}
}

// Clone returns a copy that shares nothing that can be changed.
func (c *Composition) Clone() *Composition {
	out := *c
	out.index, out.handed, out.HandOff = nil, nil, c.HandOff.Clone()
	out.Items = make([]*Item, len(c.Items))
	for i, item := range c.Items {
		out.Items[i] = item.Clone()
	}
	out.RosterLinks = nil
	for _, s := range c.RosterLinks {
		out.RosterLinks = append(out.RosterLinks, s.Clone())
	}
	out.Drawers = slices.Clone(c.Drawers)
	out.Markers = slices.Clone(c.Markers)
	out.Looks = nil
	for _, l := range c.Looks {
		out.Looks = append(out.Looks, l.Clone())
	}
	out.Graphs = nil
	for _, g := range c.Graphs {
		out.Graphs = append(out.Graphs, g.Clone())
	}
	return &out
}

// Clone returns a copy that shares nothing that can be changed.
func (p *Project) Clone() *Project {
	out := *p
	out.ids = nil
	out.Compositions = make([]*Composition, len(p.Compositions))
	for i, c := range p.Compositions {
		out.Compositions[i] = c.Clone()
	}
	out.Befores = nil
	for _, b := range p.Befores {
		out.Befores = append(out.Befores, &Before{b.ID, b.Name, b.Value.Clone()})
	}
	out.Recipes = nil
	for _, r := range p.Recipes {
		out.Recipes = append(out.Recipes, r.Clone())
	}
	out.Sets = nil
	for _, s := range p.Sets {
		out.Sets = append(out.Sets, s.Clone())
	}
	out.Join()
	return &out
}

// Edit returns the state of a property for changing it, made if it is absent.
func (i *Item) Edit(key string) *State {
	if s := i.States[key]; s != nil {
		return s
	}
	if i.States == nil {
		i.States = map[string]*State{}
	}
	s := &State{}
	i.States[key] = s
	return s
}

// Tidy forgets the state of a property if nothing is left in it, so that a change and its
// inverse give the same document again.
func (i *Item) Tidy(key string) {
	if s := i.States[key]; s != nil && s.Own.Absent() && len(s.Pins) == 0 && s.Beyond == curve.Rest && len(s.Links) == 0 && !s.Limited() && s.Baked == nil {
		delete(i.States, key)
	}
	if len(i.States) == 0 {
		i.States = nil
	}
}
