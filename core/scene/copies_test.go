package scene

import (
	"fmt"
	"strings"
	"testing"
)

func manyCopies(n, limit int) *Composition {
	c := NewComposition("main", "C")
	for k := range n {
		c.Items = append(c.Items, &Item{ID: ID(fmt.Sprintf("c%d", k)), Name: "Copies", Kind: CopiesItem, Copies: &CopiesShape{Limit: limit}})
	}
	return c
}

func TestTheCopiesOfACompositionAreBounded(t *testing.T) {
	if err := manyCopies(10, MaxCopies).CheckWhole(); err != nil {
		t.Error(err)
	}
	many := manyCopies(11, MaxCopies)
	if err := many.CheckWhole(); err == nil || !strings.Contains(err.Error(), "55000") {
		t.Errorf("too many copies: %v", err)
	}
	p := &Project{ID: "p", Name: "P", Compositions: []*Composition{many}}
	if said := p.Heal(); len(said) != 2 || p.Check() != nil { // one is not enough
		t.Errorf("healed, it is said %v; %v", said, p.Check())
	}
	if err := manyCopies(1, MaxCopies+1).CheckWhole(); err == nil {
		t.Error("a limit beyond bounds is let through")
	}
	deep := manyCopies(3, 2)
	deep.Items[0].Parent, deep.Items[1].Parent = "c1", "c2"
	if err := deep.CheckWhole(); err == nil || !strings.Contains(err.Error(), "nested") {
		t.Errorf("copies of copies of copies: %v", err)
	}
	p = &Project{ID: "p", Name: "P", Compositions: []*Composition{deep}}
	if said := p.Heal(); len(said) != 1 || p.Check() != nil {
		t.Errorf("healed, it is said %v; %v", said, p.Check())
	}
}

func TestCopiesAreNamedByWhatShowsThem(t *testing.T) {
	item := &Item{ID: "beads", Name: "Beads", Kind: CopiesItem, Copies: &CopiesShape{Limit: 3}}
	lanes := item.Lanes()
	if len(lanes) != 3 || lanes[2].Parent != "beads" || CheckID(lanes[0].ID) == nil {
		t.Fatalf("the copies are %v", lanes)
	}
	of, n, ok := LaneOf(lanes[2].ID)
	if of != "beads" || n != 3 || !ok {
		t.Errorf("%s is copy %d of %s", lanes[2].ID, n, of)
	}
	if _, _, ok := LaneOf("beads"); ok {
		t.Error("an item is taken for a copy")
	}
	c := NewComposition("main", "C")
	c.Items = []*Item{item}
	if name := c.NameOf(Ref{Item: lanes[2].ID, Property: "copyLate"}); name != "copy 3 of Beads: delay" {
		t.Errorf("it is called %q", name)
	}
}
