package link

import (
	"slices"

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
		case x.Many():
			continue
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
		if x.Relative != "" && x.Key != "" && !x.Many() {
			visit(x.Key)
		}
	}
}

// Gatherings calls with what the link gathers into lists, on an item that hangs on parent. What is told by the place in a row is that of
// the item itself: the others of the row are visited likewise.
func (r *Reader) Gatherings(item, parent scene.ID, visit func(scene.Gathering)) {
	for _, x := range r.references {
		if !x.Many() {
			continue
		}
		g := x.Gathering()
		switch {
		case x.Relative == "parent":
			g.Item = parent
		case x.Relative != "":
			g.Item = item
		}
		visit(g)
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
	readsUntil(c, func(source, target scene.Ref, l *scene.Link) bool { visit(source, target, l); return false })
}

// readsUntil is Reads that ends once visit is true, and reports whether it was.
func readsUntil(c *scene.Composition, visit func(source, target scene.Ref, l *scene.Link) bool) (done bool) {
	var target scene.Ref
	var on *scene.Link
	call := func(read scene.Ref) {
		done = done || visit(scene.Ref{Item: read.Item, Property: read.Property}, target, on)
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
			if done {
				return true
			}
		}
	}
	for _, item := range c.Items {
		for key, state := range item.States {
			target = scene.Ref{Item: item.ID, Property: key}
			for _, on = range state.Links {
				if ReadsOf(on, item.ID, item.Parent, call); done {
					return true
				}
			}
		}
	}
	return false
}

// Driving reports whether a property drives anything, directly or among what is gathered into a list.
func Driving(c *scene.Composition, ref scene.Ref) bool {
	if readsUntil(c, func(source, _ scene.Ref, _ *scene.Link) bool { return source == ref }) {
		return true
	}
	found := false
	asked := map[scene.Gathering]bool{}
	Gathers(c, func(g scene.Gathering, _ scene.Ref, _ *scene.Link) {
		if found || asked[g] {
			return
		}
		asked[g] = true
		all, err := c.Gather(g)
		found = err == nil && !g.Items() && slices.ContainsFunc(all.Members, func(m scene.Member) bool { return m.Item.ID == ref.Item && m.Key == ref.Property })
	})
	return found
}

// Gathers is Reads for what links gather into lists.
func Gathers(c *scene.Composition, visit func(g scene.Gathering, target scene.Ref, l *scene.Link)) {
	for _, s := range c.RosterLinks {
		r := ReaderOf(s.Link)
		if !r.gathers() {
			continue
		}
		for _, m := range s.Members(c) {
			if s.Drives(m) {
				r.Gatherings(m.Item.ID, m.Item.Parent, func(g scene.Gathering) { visit(g, scene.Ref{Item: m.Item.ID, Property: m.Key}, s.Link) })
			}
		}
	}
	for _, item := range c.Items {
		for key, state := range item.States {
			for _, l := range state.Links {
				r := ReaderOf(l)
				r.Gatherings(item.ID, item.Parent, func(g scene.Gathering) { visit(g, scene.Ref{Item: item.ID, Property: key}, l) })
			}
		}
	}
}

func (r *Reader) gathers() bool {
	return slices.ContainsFunc(r.references, (*syntax.Reference).Many)
}

// GatheredBy calls with every property that a link on an item that hangs on parent gathers into a list, until there are so many.
func GatheredBy(c *scene.Composition, l *scene.Link, item, parent scene.ID, most int, visit func(scene.Ref)) {
	r := ReaderOf(l)
	r.Gatherings(item, parent, func(g scene.Gathering) {
		found, err := c.Gather(g)
		if err != nil || g.Items() {
			return
		}
		for _, m := range found.Members {
			if most--; most >= 0 {
				visit(scene.Ref{Item: m.Item.ID, Property: m.Key})
			}
		}
	})
}

// maxGathered bounds what Drives tells of lists: members times what they drive. What is beyond is left out.
const maxGathered = 1_000_000

// Drives lists, for each property that a link looks at, the properties it drives; of what is gathered into lists, too. A link that is
// off still counts: it is wired. One whose target cannot take it does not.
func Drives(c *scene.Composition) map[scene.Ref][]scene.Ref {
	drives := map[scene.Ref][]scene.Ref{}
	lists := map[scene.Gathering][]scene.Ref{}
	Gathers(c, func(g scene.Gathering, target scene.Ref, _ *scene.Link) {
		if list := lists[g]; len(list) == 0 || list[len(list)-1] != target {
			lists[g] = append(list, target)
		}
	})
	room := maxGathered
	for g, targets := range lists {
		found, err := c.Gather(g)
		if err != nil || g.Items() {
			continue
		}
		targets = targets[:min(len(targets), max(1, room/len(found.Members)))]
		room -= len(targets) * len(found.Members)
		for _, m := range found.Members {
			from := scene.Ref{Item: m.Item.ID, Property: m.Key}
			drives[from] = append(drives[from], targets...)
		}
	}
	Reads(c, func(source, target scene.Ref, _ *scene.Link) {
		list := drives[source]
		if n := len(list); n == 0 || list[n-1] != target { // all that drives one property comes in one go
			drives[source] = append(list, target)
		}
	})
	return drives
}
