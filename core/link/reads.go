package link

import (
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// Reader tells what a link looks at, wherever it stands: a link on a roster is read over once for all members.
type Reader struct {
	link       *scene.Link
	sourced    bool
	references []*syntax.Reference
}

// ReaderOf reads over once what a link refers to, so that it can be visited for each of many members without parsing again.
func ReaderOf(l *scene.Link) Reader {
	k := Of(l)
	r := Reader{link: l, sourced: k.Sourced}
	if k.References != nil {
		r.references = k.References(l)
	}
	return r
}

// Visit calls with the properties that the link looks at, on an item that hangs on parent. Members of rosters
// are left out: which they are depends on the roster.
func (r *Reader) Visit(item, parent scene.ID, visit func(scene.Ref)) {
	if r.sourced {
		visit(r.link.Source)
	}
	for _, x := range r.references {
		ref := scene.Ref{Item: x.Item, Property: x.Key, Component: x.Part}
		switch {
		case x.Outer > 0 || ref.Property == scene.OwnVertex:
		case x.Relative == "self":
			ref.Item = item
		case x.Relative == "parent":
			ref.Item = parent
		}
		if ref.Item != "" && ref.Property != "" {
			visit(ref)
		}
	}
}

// Neighbours calls with the keys of the properties that the link looks at on members of its roster.
func (r *Reader) Neighbours(visit func(key string)) {
	for _, x := range r.references {
		if x.Relative != "" && x.Key != "" {
			visit(x.Key)
		}
	}
}

// Items calls with the items that the link names.
func (r *Reader) Items(visit func(scene.ID)) {
	if r.sourced {
		visit(r.link.Source.Item)
	}
	for _, x := range r.references {
		if x.Item != "" {
			visit(x.Item)
		}
	}
}

// ReadsOf calls with the properties that a link on an item that hangs on parent looks at.
func ReadsOf(l *scene.Link, item, parent scene.ID, visit func(scene.Ref)) {
	r := ReaderOf(l)
	r.Visit(item, parent, visit)
}

// Reads calls with every property that a link of a composition looks at, the property that it drives,
// and the link; a link on a roster once for each member that takes part, of copies for the first.
func Reads(c *scene.Composition, visit func(source, target scene.Ref, l *scene.Link)) {
	var target scene.Ref
	var on *scene.Link
	call := func(read scene.Ref) {
		visit(scene.Ref{Item: read.Item, Property: read.Property}, target, on)
	}
	for _, s := range c.RosterLinks {
		r := ReaderOf(s.Link)
		on = s.Link
		members := s.Members(c)
		if s.Roster.Kind == scene.CopiesOf && len(members) > 0 {
			members = members[:1] // they stand for all, which are as many as there may be
		}
		for _, m := range members {
			if s.Drives(m) {
				target = scene.Ref{Item: m.Item.ID, Property: m.Key}
				r.Visit(m.Item.ID, m.Item.Parent, call)
				if s.WeightFrom != nil {
					call(*s.WeightFrom)
				}
			}
		}
	}
	for _, item := range c.Items {
		for key, state := range item.States {
			target = scene.Ref{Item: item.ID, Property: key}
			for _, on = range state.Links {
				ReadsOf(on, item.ID, item.Parent, call)
			}
		}
	}
}

// Drives lists, for each property that a link looks at, the properties it drives. A link that is off
// still counts: it is wired. One whose target cannot take it does not.
func Drives(c *scene.Composition) map[scene.Ref][]scene.Ref {
	drives := map[scene.Ref][]scene.Ref{}
	Reads(c, func(source, target scene.Ref, _ *scene.Link) {
		list := drives[source]
		if n := len(list); n == 0 || list[n-1] != target { // all that drives one property comes in one go
			drives[source] = append(list, target)
		}
	})
	return drives
}
