package scene

import (
	"fmt"
	"maps"
	"reflect"
	"slices"
)

// RosterLink is one link on a whole roster: it drives the same property of every member.
type RosterLink struct {
	ID        ID     `json:"id"`
	Name      string `json:"name"`
	Roster    Roster `json:"roster"`
	Property  string `json:"property"`
	Component string `json:"component,omitempty"`
	// Parts holds the members that are driven at a component of their own.
	Parts map[ID]string `json:"parts,omitempty"`
	// Keys holds the members that are driven at a property of their own, in place of Property; those of items only.
	Keys   map[ID]string `json:"keys,omitempty"`
	Out    []ID          `json:"out,omitempty"` // members that opted out; they are counted all the same
	Link   *Link         `json:"link"`
	Weight *float64      `json:"weight,omitempty"` // percent; absent: whole
	// WeightFrom is the property that is the weight, in percent, in place of a number.
	WeightFrom *Ref `json:"weightFrom,omitempty"`
	// Pair is a second roster: the partner of a member is the one that stands at its place there.
	Pair *Roster `json:"pair,omitempty"`
}

// SameRow reports whether another link on a roster has the same members and drives the same of them.
func (s *RosterLink) SameRow(o *RosterLink) bool {
	return s.Property == o.Property && s.Component == o.Component && maps.Equal(s.Parts, o.Parts) && maps.Equal(s.Keys, o.Keys) && slices.Equal(s.Out, o.Out) &&
		s.Link.Source == o.Link.Source && reflect.DeepEqual(s.Roster, o.Roster) && reflect.DeepEqual(s.Pair, o.Pair)
}

// Rows returns the whole roster, row by row, in which members are counted, whether they opted out or not.
// What the link looks at itself is no member, and neither is what lacks the property. The rows of links that stand in the
// composition are found once for each change; they are not to be altered.
func (s *RosterLink) Rows(c *Composition) []*Row {
	if rows, known := c.rowsOf(s); known {
		return rows
	}
	return s.find(finderIn(c))
}

func (s *RosterLink) find(f *finder) []*Row {
	rows := f.rows(&s.Roster, s.Property)
	for _, row := range rows {
		if len(s.Keys) > 0 && !s.Roster.OfOne() {
			for k := range row.Members {
				if key, own := s.Keys[row.Members[k].Item.ID]; own {
					row.Members[k].Key = key
				}
			}
		}
		row.Members = slices.DeleteFunc(row.Members, func(m Member) bool {
			spec := m.Item.Spec(m.Key)
			return spec == nil || spec.ReadOnly && s.ID != "" || s.Link.Source == (Ref{Item: m.Item.ID, Property: m.Key, Component: s.Link.Source.Component})
		})
	}
	return rows
}

// foundRows is the rows of all links on rows of a composition, until it changes.
type foundRows struct {
	rows  map[*RosterLink][]*Row
	pairs map[*RosterLink][]Member
	on    map[Member][]*RosterLink // by member; made when first asked for
	out   []*RosterLink            // that would have more members than are worked out
}

// rowsOf returns the rows of a link that stands in the composition. They are found for all of them at once, in their order,
// so that it is always the same ones that are left out where they are too many.
func (c *Composition) rowsOf(s *RosterLink) (rows []*Row, known bool) {
	if f := c.found(); f != nil {
		rows, known = f.rows[s]
	}
	return rows, known
}

func (c *Composition) found() *foundRows {
	if len(c.RosterLinks) == 0 {
		return nil
	}
	x := c.indexed()
	if x.found != nil && x.rows == len(c.RosterLinks) {
		return x.found
	}
	f := &foundRows{rows: make(map[*RosterLink][]*Row, len(c.RosterLinks)), pairs: map[*RosterLink][]Member{}}
	finder := finderIn(c)
	for _, one := range c.RosterLinks {
		before := finder.members
		rows := one.find(finder)
		if one.Pair != nil {
			f.pairs[one] = flat(finder.rows(one.Pair, one.Property))
		}
		if finder.spent() {
			rows, f.out = nil, append(f.out, one)
			finder.members, finder.steps = before, max(0, finder.steps) // a smaller one may still fit
		}
		f.rows[one] = rows
	}
	x.found, x.rows = f, len(c.RosterLinks)
	return f
}

// Crowded returns the links on rows that are left out, since all of them together would have more members than are worked
// out.
func (c *Composition) Crowded() []*RosterLink {
	if f := c.found(); f != nil {
		return f.out
	}
	return nil
}

// Changed is called when what rows find may be something else: what there is, its order, its names, its properties, the rows
// themselves.
func (c *Composition) Changed() {
	c.handed = nil
	if c.index != nil {
		c.index.found, c.index.gathered, c.index.gatherer = nil, nil, nil
	}
}

// ByName reports whether it finds members or partners by their names.
func (s *RosterLink) ByName() bool { return s.Roster.ByName() || s.Pair.ByName() }

// Members returns the members of all rows, in order.
func (s *RosterLink) Members(c *Composition) []Member { return flat(s.Rows(c)) }

func flat(rows []*Row) (out []Member) {
	for _, row := range rows {
		out = append(out, row.Members...)
	}
	return out
}

// IndexOf returns where a member stands, all rows counted; -1 where it is none.
func (s *RosterLink) IndexOf(c *Composition, m Member) int { return slices.Index(s.Members(c), m) }

// Partners returns the members of the second roster, in order; none where there is no such roster.
func (s *RosterLink) Partners(c *Composition) []Member {
	if s.Pair == nil {
		return nil
	}
	if f := c.found(); f != nil {
		if pairs, known := f.pairs[s]; known {
			return pairs
		}
	}
	return flat(s.Pair.Rows(c, s.Property))
}

// Drives reports whether a member takes part: it was not left out by hand.
func (s *RosterLink) Drives(m Member) bool { return !slices.Contains(s.Out, m.ID()) }

// Part returns the component that is driven at a member: that of the link, or one of its own; empty for the whole value.
func (s *RosterLink) Part(m Member) string {
	if part, ok := s.Parts[m.ID()]; ok {
		return part
	}
	if _, own := s.Keys[m.ID()]; own {
		return "" // the component is one of the row's property
	}
	return s.Component
}

// Renamed gives what the link says of single members to others: to names the item, control or link that each is to stand for, and
// what it doesn't know is left out. Vertices keep their names.
func (s *RosterLink) Renamed(to func(ID) (ID, bool)) {
	out, parts, keys := s.Out, s.Parts, s.Keys
	s.Out, s.Parts, s.Keys = nil, nil, nil
	s.add(out, parts, keys, func(id ID) (ID, bool) {
		if _, _, vertex := VertexOf(string(id)); vertex {
			return id, true
		}
		return to(id)
	})
}

// Joined says of others what the link says of the members that they were made of.
func (s *RosterLink) Joined(to func(ID) (ID, bool)) {
	s.add(slices.Clone(s.Out), maps.Clone(s.Parts), maps.Clone(s.Keys), to)
}

func (s *RosterLink) add(out []ID, parts, keys map[ID]string, to func(ID) (ID, bool)) {
	for _, id := range out {
		if other, ok := to(id); ok {
			s.Out = append(s.Out, other)
		}
	}
	put := func(into *map[ID]string, id ID, value string) {
		if other, ok := to(id); ok {
			if *into == nil {
				*into = map[ID]string{}
			}
			(*into)[other] = value
		}
	}
	for id, part := range parts {
		put(&s.Parts, id, part)
	}
	for id, key := range keys {
		if own, ok := to(ID(key)); ok { // a control of the member
			key = string(own)
		}
		put(&s.Keys, id, key)
	}
}

// RosterLinksOn returns the links on rosters that drive a property of an item, the lowest first.
func (c *Composition) RosterLinksOn(item *Item, key string) []*RosterLink {
	f := c.found()
	if f == nil {
		return nil
	}
	if f.on == nil {
		f.on = map[Member][]*RosterLink{}
		for _, s := range c.RosterLinks {
			for _, m := range flat(f.rows[s]) {
				f.on[m] = append(f.on[m], s)
			}
		}
	}
	var out []*RosterLink
	m := Member{item, key}
	for _, s := range f.on[m] {
		if s.Drives(m) {
			out = append(out, s)
		}
	}
	return out
}

// RosterLink returns the roster link with the id and its place in the list, or nil.
func (c *Composition) RosterLink(id ID) (*RosterLink, int) {
	for i, s := range c.RosterLinks {
		if s.ID == id {
			return s, i
		}
	}
	return nil, -1
}

// Clone returns a copy that shares nothing that can be changed.
func (s *RosterLink) Clone() *RosterLink {
	out := *s
	out.Roster, out.Pair, out.Out = *s.Roster.Clone(), s.Pair.Clone(), slices.Clone(s.Out)
	out.Link, out.Weight, out.WeightFrom = s.Link.Clone(), cloned(s.Weight), cloned(s.WeightFrom)
	out.Parts, out.Keys = maps.Clone(s.Parts), maps.Clone(s.Keys)
	return &out
}

// Check refuses a roster link that could not be worked out. A roster may be empty, or become so.
func (s *RosterLink) Check() error {
	if s == nil {
		return fmt.Errorf("a link on a row is empty")
	}
	if err := CheckID(s.ID); err != nil {
		return err
	}
	if err := CheckName(s.Name); err != nil {
		return err
	}
	if s.Link == nil {
		return fmt.Errorf("%s has no link", s.Name)
	}
	spec := s.spec()
	if spec == nil {
		if s.Roster.Kind == Vertices {
			return fmt.Errorf("%s: a link on a row of vertices drives %s, not %q", s.Name, OwnVertex, Clip(s.Property))
		}
		return fmt.Errorf("%s: no kind of item has a property %q", s.Name, Clip(s.Property))
	}
	if spec.ReadOnly {
		return fmt.Errorf("%s: %s is read-only", s.Name, spec.Name)
	}
	link := s.Link.Clone()
	link.Component = s.Component
	if err := link.Check(spec); err != nil {
		return fmt.Errorf("%s: %w", s.Name, err)
	}
	if s.Weight != nil {
		if w := *s.Weight; !(w >= 0 && w <= 100) {
			return fmt.Errorf("%s: a weight must be from 0 to 100", s.Name)
		}
	}
	for _, r := range []*Roster{&s.Roster, s.Pair} {
		if r == nil {
			continue
		}
		if err := r.Check(); err != nil {
			return fmt.Errorf("%s: %w", s.Name, err)
		}
	}
	for _, key := range s.Keys {
		if len(key) > MaxName {
			return fmt.Errorf("%s: no item has a property %q", s.Name, Clip(key))
		}
	}
	if len(s.Out) > MaxPicked || len(s.Parts) > MaxPicked || len(s.Keys) > MaxPicked {
		return fmt.Errorf("%s: a row has at most %d members", s.Name, MaxPicked)
	}
	return nil
}

// spec is what the property is on some item that has it.
func (s *RosterLink) spec() *Spec {
	if s.Roster.Kind == Vertices {
		if s.Property == OwnVertex {
			return &Spec{Key: OwnVertex, Name: OwnVertex, Type: Point2, Unit: Pixels, Min: -inf, Max: inf}
		}
		return nil
	}
	if s.Roster.Kind == CopiesOf {
		return byKey[Copy][s.Property]
	}
	for _, k := range Kinds {
		if spec := byKey[k.Kind][s.Property]; spec != nil && !spec.ReadOnly {
			return spec
		}
	}
	if _, _, vertex := VertexOf(s.Property); vertex || s.Property == OwnVertex || reserved[s.Property] || CheckID(ID(s.Property)) != nil {
		return nil
	}
	// What compositions hand off is a property of their pieces, whatever it holds; those may come later.
	link := s.Link.Clone()
	link.Component = s.Component
	var first *Spec
	for _, of := range []Type{Number, Colour, Point3, Point2, Text, Choice, Switch} {
		spec := &Spec{Key: s.Property, Name: "a control of pieces", Group: GroupControls, Type: of, Default: NewValue(make([]float64, of.Size())), Min: -inf, Max: inf, Step: 1}
		if link.Check(spec) == nil {
			return spec
		}
		if first == nil {
			first = spec
		}
	}
	return first
}

func (c *Composition) checkRosterLinks() error {
	if len(c.RosterLinks) > MaxRosterLinks {
		return fmt.Errorf("%s has %d links on rows; the limit is %d", c.Name, len(c.RosterLinks), MaxRosterLinks)
	}
	for _, s := range c.RosterLinks {
		if err := s.Check(); err != nil {
			return err
		}
	}
	return nil
}
