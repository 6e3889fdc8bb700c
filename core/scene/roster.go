package scene

import (
	"fmt"
	"slices"
)

// Roster is an ordered list of members.
type Roster struct {
	Kind    RosterKind `json:"kind"`
	Item    ID         `json:"item,omitempty"`    // whose children or vertices
	Items   []ID       `json:"items,omitempty"`   // picked, in order; or the order of members that are found otherwise
	Made    bool       `json:"made,omitempty"`    // those in Items are counted first, then the others in the order made: from the back of the tree to its front
	Pattern string     `json:"pattern,omitempty"` // of names; see Matches
	// Of makes rows: in place of what hangs on one item, what hangs on every member of another roster,
	// each of which has a row of its own.
	Of *Roster `json:"of,omitempty"`
}

// RosterKind is how a roster finds its members.
type RosterKind string

// The kinds of rosters.
const (
	Children RosterKind = "children" // of an item, in the order of the tree
	Chain    RosterKind = "chain"    // all below an item, however deep, in the order of the tree
	Picked   RosterKind = "picked"   // one by one, in order
	Named    RosterKind = "named"    // whose names match a pattern, in the order of the tree
	Vertices RosterKind = "vertices" // of a path, in the order in which they are drawn
	CopiesOf RosterKind = "copies"   // of an item that shows its children many times: all that it ever shows
)

// Bounds of rosters.
const (
	MaxRosterLinks = 2000
	MaxPicked      = MaxItems
	MaxNested      = 4 // rosters within each other
	// MaxMembers bounds the members of all links on rows of a composition together; those behind are left out.
	MaxMembers = 250_000
	// maxSteps bounds the characters that are compared to find the members of all of them by their names.
	maxSteps = 200_000_000
)

// OwnVertex is the property that a link on a roster of vertices drives: of every member the vertex that
// it is. Formulas on such a roster name it likewise of the one before, or the first.
const OwnVertex = "vertex"

// Member is one of a roster: a property of an item.
type Member struct {
	Item *Item
	Key  string // of the property
}

// ID names the member among all of its roster: by its item, or by its vertex.
func (m Member) ID() ID {
	if _, _, vertex := VertexOf(m.Key); vertex {
		return ID(m.Key)
	}
	return m.Item.ID
}

// Row is members that are counted together. The rows of a nested roster hang on the members of another
// row, of which Index says which; Outer is nil where there is none.
type Row struct {
	Members []Member
	Outer   *Row
	Index   int
	Copies  bool // they are copies, of which as many count as are shown
}

// Rows returns the members of a roster, row by row, with the property that is driven. They are read anew
// at every change, so that what is put among the children later is in at once; hidden ones count. There are none where
// they would be more than MaxMembers.
func (r *Roster) Rows(c *Composition, key string) []*Row { return finderIn(c).rows(r, key) }

// Matches reports whether a name is of a pattern, in which * stands for any text and ? for one character. Capitals do not
// count.
func Matches(pattern, name string) bool {
	steps := maxSteps
	return matches([]rune(fold(pattern)), []rune(fold(name)), &steps)
}

// matches is Matches for what is folded; it takes the characters that it compares off steps.
func matches(pattern, name []rune, steps *int) bool {
	p, n := 0, 0
	star, from := -1, 0 // the last * that was met, and where what it stands for ends
	for n < len(name) {
		*steps--
		switch {
		case p < len(pattern) && pattern[p] == '*':
			star, from = p, n
			p++
		case p < len(pattern) && (pattern[p] == '?' || pattern[p] == name[n]):
			p++
			n++
		case star >= 0:
			from++
			p, n = star+1, from
		default:
			return false
		}
	}
	for p < len(pattern) && pattern[p] == '*' {
		p++
	}
	return p == len(pattern)
}

// order returns what puts members, which come in the order of the tree, into the order in which they are counted.
func (r *Roster) order() func([]Member) []Member {
	if !r.Made {
		return func(members []Member) []Member { return members }
	}
	rank := make(map[ID]int, len(r.Items))
	for k, id := range r.Items {
		rank[id] = k
	}
	return func(members []Member) []Member {
		slices.Reverse(members)
		slices.SortStableFunc(members, func(a, b Member) int {
			x, listed := rank[a.Item.ID]
			y, other := rank[b.Item.ID]
			switch {
			case listed && other:
				return x - y
			case listed:
				return -1
			case other:
				return 1
			}
			return 0
		})
		return members
	}
}

// ByName reports whether members, or what they hang on, are found by their names.
func (r *Roster) ByName() bool { return r != nil && (r.Kind == Named || r.Hangs() && r.Of.ByName()) }

// OfOne reports whether the members are parts of one item: its vertices, or the copies that it shows.
func (r *Roster) OfOne() bool { return r.Kind == Vertices || r.Kind == CopiesOf }

// Hangs reports whether the members are those that hang on something.
func (r *Roster) Hangs() bool { return r.Kind == Children || r.Kind == Chain }

func membersOf(items []*Item, key string) []Member {
	out := make([]Member, len(items))
	for k, item := range items {
		out[k] = Member{item, key}
	}
	return out
}

// Check refuses a roster that names nobody could be found by.
func (r *Roster) Check() error { return r.check(MaxNested) }

func (r *Roster) check(levels int) error {
	switch r.Kind {
	case Children, Chain:
		if r.Of == nil {
			break
		}
		if levels == 1 || r.Of.OfOne() {
			return fmt.Errorf("rows can only be nested %d deep, and only on items", MaxNested)
		}
		if err := r.Of.check(levels - 1); err != nil {
			return err
		}
	case Picked, Vertices, CopiesOf:
	case Named:
		if len(r.Pattern) > MaxName {
			return fmt.Errorf("%q is not a name pattern; * matches anything, ? one character", Clip(r.Pattern))
		}
	default:
		return fmt.Errorf("%q is not a kind of row; use children, chain, picked, named, vertices or copies", Clip(string(r.Kind)))
	}
	if len(r.Items) > MaxPicked {
		return fmt.Errorf("a row has at most %d members", MaxPicked)
	}
	return nil
}

// Clone returns a copy that shares nothing that can be changed.
func (r *Roster) Clone() *Roster {
	if r == nil {
		return nil
	}
	out := *r
	out.Items, out.Of = append([]ID(nil), r.Items...), r.Of.Clone()
	return &out
}
