package scene

import (
	"math"
	"strings"
	"testing"
)

func rowOf(names ...string) *Composition {
	c := NewComposition("main", "Main")
	c.Items = append(c.Items, &Item{ID: "row", Name: "Row", Kind: Null})
	for i, name := range names {
		c.Items = append(c.Items, &Item{ID: ID("i" + string(rune('a'+i))), Name: name, Kind: Rectangle, Parent: "row"})
	}
	return c
}

func members(items []*Item) string {
	var out []string
	for _, item := range items {
		out = append(out, string(item.ID))
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
		if got := members(k.roster.Members(c)); got != k.want {
			t.Errorf("%v has %q, want %q", k.roster, got, k.want)
		}
	}
	s := &Spread{Roster: Roster{Kind: Children, Item: "row"}, Property: "rotation", Link: &Link{Source: Ref{Item: "ib", Property: "rotation"}}, Out: []ID{"ia"}, Component: "x", Parts: map[ID]string{"ic": "y"}}
	if got := members(s.Members(c)); got != "ia ic id" {
		t.Errorf("the source is no member of its own: %s", got)
	}
	if s.Drives("ia") || !s.Drives("ic") || s.Part("ic") != "y" || s.Part("id") != "x" {
		t.Error("who takes part, and where")
	}
	s.Property = "cornerRadius"
	c.Items[1].Kind = Ellipse
	if got := members(s.Members(c)); got != "ib ic id" {
		t.Errorf("what lacks the property is no member: %s", got)
	}
}

func TestSpreadsAreChecked(t *testing.T) {
	good := func() *Spread {
		return &Spread{ID: "s", Name: "Row", Roster: Roster{Kind: Children, Item: "row"}, Property: "rotation", Link: &Link{ID: "l", Kind: Formula, Gain: 1, Formula: "index"}}
	}
	if err := good().Check(); err != nil {
		t.Fatal(err)
	}
	weight := 120.0
	for says, alter := range map[string]func(*Spread){
		"is not an id":                       func(s *Spread) { s.ID = "No!" },
		"a name is needed":                   func(s *Spread) { s.Name = " " },
		"has no link":                        func(s *Spread) { s.Link = nil },
		"no kind of item has a property":     func(s *Spread) { s.Property = "wobble" },
		"has no component named":             func(s *Spread) { s.Component = "q" },
		"is no kind of roster":               func(s *Spread) { s.Roster.Kind = "all" },
		"is no pattern of names":             func(s *Spread) { s.Roster = Roster{Kind: Named, Pattern: "["} },
		"a weight lies between 0 and 100":    func(s *Spread) { s.Weight = &weight },
		"has neither stops nor a source":     func(s *Spread) { s.Link.Source.Item = "x" },
		"has to be finite numbers":           func(s *Spread) { s.Link.Stagger = &Stagger{Delay: math.Inf(1)} },
		"a follow link has no formula":       func(s *Spread) { s.Link.Kind = Follow },
		"\"pairs\" is no kind of roster":     func(s *Spread) { s.Pair = &Roster{Kind: "pairs"} },
		"a formula is at most":               func(s *Spread) { s.Link.Formula = strings.Repeat("1", MaxFormula+1) },
		"only a whole place or rotation can": func(s *Spread) { s.Property, s.Link.World = "opacity", true },
	} {
		s := good()
		alter(s)
		if err := s.Check(); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("want %q: %v", says, err)
		}
	}
	c := rowOf("A")
	c.Spreads = []*Spread{good(), good()}
	p := &Project{Name: "P", Compositions: []*Composition{c}}
	if err := p.Check(); err == nil || !strings.Contains(err.Error(), "occurs twice") {
		t.Errorf("two with one id: %v", err)
	}
	copied := c.Clone()
	copied.Spreads[0].Link.Formula, copied.Spreads[0].Roster.Item = "3", "other"
	if c.Spreads[0].Link.Formula != "index" || c.Spreads[0].Roster.Item != "row" {
		t.Error("a copy shares something")
	}
}
