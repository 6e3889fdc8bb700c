package scene

import (
	"fmt"
	"path"
	"slices"
	"strings"
)

// Spread is one link on a whole roster: it drives the same property of every member.
type Spread struct {
	ID        ID     `json:"id"`
	Name      string `json:"name"`
	Roster    Roster `json:"roster"`
	Property  string `json:"property"`
	Component string `json:"component,omitempty"`
	// Parts holds the members that are driven at a component of their own.
	Parts  map[ID]string `json:"parts,omitempty"`
	Out    []ID          `json:"out,omitempty"` // members that opted out; they are counted all the same
	Link   *Link         `json:"link"`
	Weight *float64      `json:"weight,omitempty"` // percent; absent: whole
	// Pair is a second roster: the partner of a member is the one that stands at its place there.
	Pair *Roster `json:"pair,omitempty"`
}

// Roster is an ordered list of items.
type Roster struct {
	Kind    RosterKind `json:"kind"`
	Item    ID         `json:"item,omitempty"`    // whose children
	Items   []ID       `json:"items,omitempty"`   // picked, in order
	Pattern string     `json:"pattern,omitempty"` // of names; * stands for anything, ? for one character
}

// RosterKind is how a roster finds its members.
type RosterKind string

// The kinds of rosters.
const (
	Children RosterKind = "children" // of an item, in the order of the tree
	Picked   RosterKind = "picked"   // one by one, in order
	Named    RosterKind = "named"    // whose names match a pattern, in the order of the tree
)

// Bounds of rosters.
const (
	MaxSpreads = 2000
	MaxPicked  = MaxItems
)

// Members returns the items of a roster in order. They are read anew at every change, so that what
// is put among the children later is in at once; hidden ones count.
func (r *Roster) Members(c *Composition) []*Item {
	switch r.Kind {
	case Children:
		return c.Attached(r.Item)
	case Picked:
		byID := make(map[ID]*Item, len(c.Items))
		for _, item := range c.Items {
			byID[item.ID] = item
		}
		var out []*Item
		for _, id := range r.Items {
			if item := byID[id]; item != nil {
				out = append(out, item)
				delete(byID, id) // each is in it once
			}
		}
		return out
	case Named:
		var out []*Item
		tree, _ := c.Tree()
		for _, item := range tree {
			if ok, _ := path.Match(fold(r.Pattern), strings.ReplaceAll(fold(item.Name), "/", "|")); ok {
				out = append(out, item)
			}
		}
		return out
	}
	return nil
}

// Members returns the members that the link drives, in order, and the whole roster, in which they are
// counted. What the link looks at itself is no member, and neither is what lacks the property.
func (s *Spread) Members(c *Composition) (roster []*Item) {
	for _, item := range s.Roster.Members(c) {
		spec := item.Spec(s.Property)
		if spec == nil || spec.ReadOnly || s.Link.Source == (Ref{Item: item.ID, Property: s.Property, Component: s.Link.Source.Component}) {
			continue
		}
		roster = append(roster, item)
	}
	return roster
}

// Partners returns the members of the second roster, in order; none where there is no such roster.
func (s *Spread) Partners(c *Composition) []*Item {
	if s.Pair == nil {
		return nil
	}
	return s.Pair.Members(c)
}

// Drives reports whether a member takes part.
func (s *Spread) Drives(id ID) bool { return !slices.Contains(s.Out, id) }

// Part returns the component that is driven at a member.
func (s *Spread) Part(id ID) string {
	if part, ok := s.Parts[id]; ok {
		return part
	}
	return s.Component
}

// SpreadsOn returns the links on rosters that drive a property of an item, the lowest first.
func (c *Composition) SpreadsOn(item *Item, key string) []*Spread {
	var out []*Spread
	for _, s := range c.Spreads {
		if s.Property == key && s.Drives(item.ID) && slices.Contains(s.Members(c), item) {
			out = append(out, s)
		}
	}
	return out
}

// Spread returns the spread with the id and its place in the list, or nil.
func (c *Composition) Spread(id ID) (*Spread, int) {
	for i, s := range c.Spreads {
		if s.ID == id {
			return s, i
		}
	}
	return nil, -1
}

// Clone returns a copy that shares nothing that can be changed.
func (s *Spread) Clone() *Spread {
	out := *s
	out.Roster.Items, out.Out = slices.Clone(s.Roster.Items), slices.Clone(s.Out)
	out.Link, out.Weight = s.Link.Clone(), cloned(s.Weight)
	if s.Pair != nil {
		pair := *s.Pair
		pair.Items = slices.Clone(pair.Items)
		out.Pair = &pair
	}
	if s.Parts != nil {
		out.Parts = map[ID]string{}
		for id, part := range s.Parts {
			out.Parts[id] = part
		}
	}
	return &out
}

// Check refuses a spread that could not be worked out. A roster may be empty, or become so.
func (s *Spread) Check() error {
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
		return fmt.Errorf("%s: no kind of item has a property %q", s.Name, clip(s.Property))
	}
	link := s.Link.Clone()
	link.Component = s.Component
	if err := link.Check(spec); err != nil {
		return fmt.Errorf("%s: %w", s.Name, err)
	}
	if s.Weight != nil {
		if w := *s.Weight; !(w >= 0 && w <= 100) {
			return fmt.Errorf("%s: a weight lies between 0 and 100", s.Name)
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
	if len(s.Out) > MaxPicked || len(s.Parts) > MaxPicked {
		return fmt.Errorf("%s: a roster has at most %d members", s.Name, MaxPicked)
	}
	return nil
}

// Check refuses a roster that names nobody could be found by.
func (r *Roster) Check() error {
	switch r.Kind {
	case Children, Picked:
	case Named:
		if _, err := path.Match(r.Pattern, ""); err != nil || len(r.Pattern) > MaxName {
			return fmt.Errorf("%q is no pattern of names; * stands for anything, ? for one character", clip(r.Pattern))
		}
	default:
		return fmt.Errorf("%q is no kind of roster; there are children, picked and named", clip(string(r.Kind)))
	}
	if len(r.Items) > MaxPicked {
		return fmt.Errorf("a roster has at most %d members", MaxPicked)
	}
	return nil
}

// spec is what the property is on some item that has it.
func (s *Spread) spec() *Spec {
	for _, k := range Kinds {
		if spec := byKey[k.Kind][s.Property]; spec != nil {
			return spec
		}
	}
	return nil
}

func (c *Composition) checkSpreads(claim func(ID) error) error {
	if len(c.Spreads) > MaxSpreads {
		return fmt.Errorf("%s holds %d links on rosters; at most %d are kept", c.Name, len(c.Spreads), MaxSpreads)
	}
	for _, s := range c.Spreads {
		if err := s.Check(); err != nil {
			return err
		}
		if err := claim(s.ID); err != nil {
			return err
		}
	}
	return nil
}
