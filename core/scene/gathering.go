package scene

import (
	"fmt"
	"hash/maphash"
	"slices"
)

// Gathering says which properties a formula gathers into a list: whose, and which of theirs. Two that are the same gather the same.
type Gathering struct {
	Of      GatheringKind
	Item    ID     // what they hang on, or the link on the row
	Pattern string // of names; see Matches
	Key     string // of the property
	Name    string // by which each of them finds it, where there is no key: that of a control
}

// Items reports whether the items themselves are gathered, and nothing of them: to be counted.
func (g Gathering) Items() bool { return g.Key == "" && g.Name == "" }

// GatheringKind is how a gathering finds its items.
type GatheringKind string

// The kinds of gatherings.
const (
	OfNames    GatheringKind = "names"    // items whose names match a pattern
	OfChildren GatheringKind = "children" // children of an item
	OfBelow    GatheringKind = "below"    // all below an item, however deep
	OfRow      GatheringKind = "row"      // members of the row that a link drives
)

// rosterKinds are the rosters that find the same.
var rosterKinds = map[GatheringKind]RosterKind{OfNames: Named, OfChildren: Children, OfBelow: Chain}

// Gathered is what a gathering finds: its members in the order in which they are counted, which for those that are no row is the order
// made. Its Print is another one where the members are others, and Whose where they are those of others. Spec is the property of the
// first of them, and Odd the first that has one of another type, below 0 for none.
type Gathered struct {
	Members []Member
	Print   uint64
	Whose   uint64
	Spec    *Spec
	Odd     int
}

// Gather returns what a gathering finds, and says why where it finds nothing. It is found once for each change; it is not to be
// altered.
func (c *Composition) Gather(g Gathering) (*Gathered, error) {
	x := c.indexed()
	if known, ok := x.gathered[g]; ok {
		return known.Gathered, known.why
	}
	if x.gathered == nil {
		x.gathered, x.gatherer = map[Gathering]gathered{}, finderIn(c)
	}
	members, err := c.gather(x.gatherer, g)
	out := gathered{&Gathered{Members: members, Odd: -1}, err}
	out.Print = printOf(members, func(m Member) string { return string(m.Item.ID) + "/" + m.Key })
	out.Whose = printOf(members, func(m Member) string { return string(m.ID()) })
	for k, m := range members {
		spec := m.Item.Spec(m.Key)
		if spec == nil { // the items themselves
			break
		}
		if out.Spec == nil {
			out.Spec = spec
		}
		if spec.Type != out.Spec.Type {
			out.Odd = k
			break
		}
	}
	x.gathered[g] = out
	return out.Gathered, out.why
}

type gathered struct {
	*Gathered
	why error
}

func (c *Composition) gather(f *finder, g Gathering) ([]Member, error) {
	items, err := c.gatherItems(f, g)
	if err != nil {
		return nil, err
	}
	if g.Items() {
		return items, nil
	}
	out := make([]Member, 0, len(items))
	for _, m := range items {
		switch {
		case g.Key == OwnVertex && g.Of == OfRow:
			if _, _, vertex := VertexOf(m.Key); vertex {
				out = append(out, m)
			}
		case g.Key != "":
			if m.Item.Spec(g.Key) != nil {
				out = append(out, Member{m.Item, g.Key})
			}
		default:
			if spec := m.Item.ReadableNamed(g.Name); spec != nil {
				out = append(out, Member{m.Item, spec.Key})
			}
		}
	}
	if len(out) == 0 {
		name := g.Name
		if spec := Described(g.Key); spec != nil {
			name = spec.Name
		}
		return nil, fmt.Errorf("none of %s has a property named %s", c.NameOfGathering(g), name)
	}
	return out, nil
}

// gatherItems finds the items, with the keys that the row drives where they are those of one.
func (c *Composition) gatherItems(f *finder, g Gathering) ([]Member, error) {
	if g.Of == OfRow {
		s, _ := c.RosterLink(g.Item)
		switch {
		case s == nil:
			return nil, fmt.Errorf("the row that this refers to was removed")
		case s.Roster.Kind == CopiesOf:
			return nil, fmt.Errorf("%s is a row of copies, whose number can change; gather the values of items", s.Name)
		}
		members := s.Members(c)
		if len(members) == 0 {
			return nil, fmt.Errorf("the row %s has no members", s.Name)
		}
		return members, nil
	}
	if g.Of != OfNames && c.Item(g.Item) == nil {
		return nil, fmt.Errorf("what this refers to was removed")
	}
	rows := f.rows(&Roster{Kind: rosterKinds[g.Of], Item: g.Item, Pattern: g.Pattern, Made: true}, "")
	switch {
	case f.spent():
		return nil, fmt.Errorf("the lists of all formulas together have more than %d members; gather fewer", MaxMembers)
	case len(flat(rows)) > 0:
		return flat(rows), nil
	case g.Of == OfNames:
		return nil, fmt.Errorf("no item is named %s", g.Pattern)
	}
	return nil, fmt.Errorf("nothing is attached to %s", c.Item(g.Item).Name)
}

// NameOfGathering names who is gathered, in the middle of a sentence.
func (c *Composition) NameOfGathering(g Gathering) string {
	name := g.Pattern
	if item := c.Item(g.Item); item != nil {
		name = item.Name
	}
	switch g.Of {
	case OfChildren:
		return "the children of " + name
	case OfBelow:
		return "all below " + name
	case OfRow:
		if s, _ := c.RosterLink(g.Item); s != nil {
			return "the members of the row " + s.Name
		}
		return "the members of a row that was removed"
	}
	return "the items named " + name
}

// ReadableNamed returns the property of an item that can be read under a name, compared by Fold, or nil.
func (i *Item) ReadableNamed(name string) *Spec {
	wanted := Fold(name)
	specs := i.Readable()
	if k := slices.IndexFunc(specs, func(s *Spec) bool { return s.Name == name }); k >= 0 { // one may differ from another in its case alone
		return specs[k]
	}
	if k := slices.IndexFunc(specs, func(s *Spec) bool { return Fold(s.Name) == wanted }); k >= 0 {
		return specs[k]
	}
	return nil
}

var printSeed = maphash.MakeSeed()

func printOf(members []Member, name func(Member) string) uint64 {
	var h maphash.Hash
	h.SetSeed(printSeed)
	for _, m := range members {
		h.WriteString(name(m))
		h.WriteByte(0)
	}
	return h.Sum64()
}
