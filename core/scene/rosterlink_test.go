package scene

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
	"time"
)

func rowOf(names ...string) *Composition {
	c := NewComposition("main", "Main")
	c.Items = append(c.Items, &Item{ID: "row", Name: "Row", Kind: Null})
	for i, name := range names {
		c.Items = append(c.Items, &Item{ID: ID("i" + string(rune('a'+i))), Name: name, Kind: Rectangle, Parent: "row"})
	}
	return c
}

func members(list []Member) string {
	var out []string
	for _, m := range list {
		out = append(out, string(m.ID()))
	}
	return strings.Join(out, " ")
}

func TestRostersFindTheirMembersInOrder(t *testing.T) {
	c := rowOf("Flag 1", "flag 2", "Post/1", "Flag 10")
	c.Items = append(c.Items, &Item{ID: "off", Name: "Flag 3", Kind: Ellipse, Hidden: true})
	for _, k := range []struct {
		roster Roster
		want   string
	}{
		{Roster{Kind: Children, Item: "row"}, "ia ib ic id"}, {Roster{Kind: Children, Item: "gone"}, ""},
		{Roster{Kind: Picked, Items: []ID{"id", "gone", "ia", "id"}}, "id ia"},
		{Roster{Kind: Named, Pattern: "FLAG *"}, "ia ib id off"}, {Roster{Kind: Named, Pattern: "flag ?"}, "ia ib off"}, {Roster{Kind: Named, Pattern: "post*"}, "ic"},
		{Roster{Kind: "others"}, ""},
	} {
		if got := members(flat(k.roster.Rows(c, "rotation"))); got != k.want {
			t.Errorf("%v has %q, want %q", k.roster, got, k.want)
		}
	}
	member := func(id ID) Member { return Member{c.Item(id), "rotation"} }
	s := &RosterLink{Roster: Roster{Kind: Children, Item: "row"}, Property: "rotation", Link: &Link{Source: Ref{Item: "ib", Property: "rotation"}}, Out: []ID{"ia"}, Component: "x", Parts: map[ID]string{"ic": "y"}}
	if got := members(s.Members(c)); got != "ia ic id" {
		t.Errorf("the source is no member of its own: %s", got)
	}
	if s.Drives(member("ia")) || !s.Drives(member("ic")) || s.Part(member("ic")) != "y" || s.Part(member("id")) != "x" {
		t.Error("who takes part, and where")
	}
	s.Property = "cornerRadius"
	c.Items[1].Kind = Ellipse
	if got := members(s.Members(c)); got != "ib ic id" {
		t.Errorf("what lacks the property is no member: %s", got)
	}
}

func TestRowsHangOnTheMembersOfAnotherRoster(t *testing.T) {
	c := rowOf("North", "South")
	for k, id := range []ID{"n1", "s1", "n2", "s2", "n3"} {
		c.Items = append(c.Items, &Item{ID: id, Name: string(id), Kind: Rectangle, Parent: []ID{"ia", "ib"}[k%2]})
	}
	c.Items = append(c.Items, &Item{ID: "deep", Name: "Deep", Kind: Rectangle, Parent: "n2"})
	rows := &Roster{Kind: Children, Of: &Roster{Kind: Children, Item: "row"}}
	got := rows.Rows(c, "rotation")
	if len(got) != 2 || members(got[0].Members) != "n1 n2 n3" || members(got[1].Members) != "s1 s2" || got[1].Index != 1 || members(got[1].Outer.Members) != "ia ib" || got[0].Outer != got[1].Outer {
		t.Fatalf("%v", got)
	}
	chains := &Roster{Kind: Chain, Of: &Roster{Kind: Children, Item: "row"}}
	if got := chains.Rows(c, "rotation"); len(got) != 2 || members(got[0].Members) != "n1 n2 deep n3" || members(got[1].Members) != "s1 s2" {
		t.Errorf("chains: %s", members(flat(got)))
	}
	if got := (&Roster{Kind: Chain, Item: "ia"}).Rows(c, "rotation"); len(got) != 1 || members(got[0].Members) != "n1 n2 deep n3" {
		t.Errorf("a chain: %s", members(flat(got)))
	}
	deeper := &Roster{Kind: Children, Of: rows}
	if got := deeper.Rows(c, "rotation"); len(got) != 5 || members(flat(got)) != "deep" || got[1].Index != 1 || got[1].Outer.Index != 0 || got[1].Outer.Outer == nil {
		t.Errorf("three levels: %v", got)
	}
	for want, r := range map[string]*Roster{
		"":              deeper,
		"nested 4 deep": {Kind: Children, Of: &Roster{Kind: Children, Of: &Roster{Kind: Children, Of: deeper}}},
		"only on items": {Kind: Children, Of: &Roster{Kind: Vertices, Item: "ia"}},
	} {
		if err := r.Check(); (err == nil) != (want == "") || err != nil && !strings.Contains(err.Error(), want) {
			t.Errorf("%v: %v", r, err)
		}
	}
	copied := (&RosterLink{Roster: *deeper, Link: &Link{}}).Clone()
	copied.Roster.Of.Of.Item = "other"
	if rows.Of.Item != "row" {
		t.Error("a copy shares its outer roster")
	}
}

func TestVerticesAreMembers(t *testing.T) {
	c := rowOf("Line")
	line := c.Items[1]
	line.Kind, line.Path = PathItem, &PathShape{Contours: []Contour{{Vertices: []Vertex{{ID: 4}, {ID: 2}}}, {Vertices: []Vertex{{ID: 7}}}}}
	s := &RosterLink{ID: "s", Name: "Line", Roster: Roster{Kind: Vertices, Item: line.ID}, Property: OwnVertex, Out: []ID{"vertex2"}, Link: &Link{ID: "l", Kind: Formula, Gain: 1, Formula: "own"}}
	if err := s.Check(); err != nil {
		t.Fatal(err)
	}
	if got := members(s.Members(c)); got != "vertex4 vertex2 vertex7" {
		t.Errorf("members: %s", got)
	}
	c.RosterLinks = []*RosterLink{s}
	if len(c.RosterLinksOn(line, "vertex4")) != 1 || len(c.RosterLinksOn(line, "vertex2")) != 0 || len(c.RosterLinksOn(line, "rotation")) != 0 {
		t.Error("what the link drives")
	}
	for _, wrong := range []*RosterLink{
		{ID: "s", Name: "S", Roster: s.Roster, Property: "rotation", Link: s.Link},
		{ID: "s", Name: "S", Roster: Roster{Kind: Picked}, Property: OwnVertex, Link: s.Link},
	} {
		if wrong.Check() == nil {
			t.Errorf("%s of %s passes", wrong.Property, wrong.Roster.Kind)
		}
	}
}

func TestRosterLinksAreChecked(t *testing.T) {
	good := func() *RosterLink {
		return &RosterLink{ID: "s", Name: "Row", Roster: Roster{Kind: Children, Item: "row"}, Property: "rotation", Link: &Link{ID: "l", Kind: Formula, Gain: 1, Formula: "index"}}
	}
	if err := good().Check(); err != nil {
		t.Fatal(err)
	}
	weight := 120.0
	for says, alter := range map[string]func(*RosterLink){
		"is not an id":                             func(s *RosterLink) { s.ID = "No!" },
		"enter a name":                             func(s *RosterLink) { s.Name = " " },
		"has no link":                              func(s *RosterLink) { s.Link = nil },
		"no kind of item has a property":           func(s *RosterLink) { s.Property = "Wobble" },
		"has no component named":                   func(s *RosterLink) { s.Component = "q" },
		"is not a kind of row":                     func(s *RosterLink) { s.Roster.Kind = "all" },
		"is not a name pattern":                    func(s *RosterLink) { s.Roster = Roster{Kind: Named, Pattern: strings.Repeat("*a", MaxName)} },
		"a weight must be from 0 to 100":           func(s *RosterLink) { s.Weight = &weight },
		"has no source of its own":                 func(s *RosterLink) { s.Link.Source.Item = "x" },
		"the stagger must be finite":               func(s *RosterLink) { s.Link.Stagger = &Stagger{Delay: math.Inf(1)} },
		"a follow link has no formula":             func(s *RosterLink) { s.Link.Kind = Follow },
		"\"pairs\" is not a kind of row":           func(s *RosterLink) { s.Pair = &Roster{Kind: "pairs"} },
		"a formula is at most":                     func(s *RosterLink) { s.Link.Formula = strings.Repeat("1", MaxFormula+1) },
		"only position, rotation and vertices can": func(s *RosterLink) { s.Property, s.Link.World = "opacity", true },
	} {
		s := good()
		alter(s)
		if err := s.Check(); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("want %q: %v", says, err)
		}
	}
	c := rowOf("A")
	c.RosterLinks = []*RosterLink{good(), good()}
	p := &Project{Name: "P", Compositions: []*Composition{c}}
	if err := p.Check(); err == nil || !strings.Contains(err.Error(), "occurs twice") {
		t.Errorf("two with one id: %v", err)
	}
	copied := c.Clone()
	copied.RosterLinks[0].Link.Formula, copied.RosterLinks[0].Roster.Item = "3", "other"
	if c.RosterLinks[0].Link.Formula != "index" || c.RosterLinks[0].Roster.Item != "row" {
		t.Error("a copy shares something")
	}
}

func TestNamesMatchPatterns(t *testing.T) {
	for pattern, names := range map[string]map[string]bool{
		"*lamp":       {"Left/Right lamp": true, "lamp": true, "lamps": false},
		"Lamp [1]*":   {"Lamp [1]": true, "lamp [1] b": true, "Lamp 1": false},
		"?oat*7":      {"Boat 17": true, "oat 7": false, "Boat 71": false},
		"*a*b*c*":     {"xxaxxbxxc": true, "acb": false},
		`back\slash*`: {`back\slash 2`: true, "backslash": false},
		"":            {"x": false},
		"É*":          {"école": true},
		"a?":          {"aé": true, "a": false},
	} {
		for name, want := range names {
			if Matches(pattern, name) != want {
				t.Errorf("%q and %q: %v", pattern, name, !want)
			}
		}
	}
}

// However many rows would have however many members, as many are worked out as there is room for: always the same.
func TestRowsAreBoundedTogether(t *testing.T) {
	c := NewComposition("main", "Main")
	for k := range 20000 {
		c.Items = append(c.Items, &Item{ID: ID(fmt.Sprint("i", k)), Name: strings.Repeat("a", 3+k%60), Kind: Null})
	}
	for k := range 300 {
		pattern := "a*"
		if k%3 == 0 {
			pattern = strings.Repeat("a*", 40) + fmt.Sprint(k)
		}
		c.RosterLinks = append(c.RosterLinks, &RosterLink{ID: ID(fmt.Sprint("r", k)), Roster: Roster{Kind: Named, Pattern: pattern}, Property: "rotation", Link: &Link{ID: ID(fmt.Sprint("l", k)), Kind: Follow}})
	}
	c.RosterLinks = append(c.RosterLinks, &RosterLink{ID: "few", Roster: Roster{Kind: Picked, Items: []ID{"i3", "i9"}}, Property: "rotation", Link: &Link{ID: "fewl", Kind: Follow}})
	start := time.Now()
	members := 0
	for _, s := range c.RosterLinks {
		members += len(s.Members(c))
	}
	if took := time.Since(start); members > MaxMembers || members < MaxMembers/2 || took > 10*time.Second {
		t.Errorf("%d members in %v", members, took)
	}
	if few := c.RosterLinks[len(c.RosterLinks)-1]; len(few.Members(c)) != 2 || slices.Contains(c.Crowded(), few) {
		t.Error("a small row behind large ones is left out")
	}
	if n := len(c.Crowded()); n != 200-MaxMembers/20001 {
		t.Errorf("%d rows are left out", n)
	}
}
