package scene

import (
	"fmt"
	"strings"
	"testing"
)

func TestAProjectKeepsNoMoreStatesThanItCanHold(t *testing.T) {
	p := NewProject("p", "P")
	big := NewComposition("main", "Main")
	for k := range MaxItems*2/3 + 1 {
		big.Items = append(big.Items, &Item{ID: ID(fmt.Sprint("i", k)), Name: "Item", Kind: Null})
	}
	for k := range MaxBefores {
		p.Befores = append(p.Befores, &Before{ID(fmt.Sprint("b", k)), "Calm", NewComposition("main", "Main")})
	}
	if err := p.Check(); err != nil {
		t.Error(err)
	}
	if err := p.RoomFor(&Before{"more", "More", NewComposition("main", "Main")}); err == nil || !strings.Contains(err.Error(), "at most 24 states") {
		t.Error(err)
	}
	p.Befores = []*Before{{"b", "Big", big}}
	if err := p.RoomFor(&Before{"more", "More", big}); err == nil || !strings.Contains(err.Error(), "100000 items together") {
		t.Error(err)
	}
	// What cannot be shown is left out when a project of an earlier version is read, and refused else.
	p.Befores = append(p.Befores, nil, &Before{ID: "c", Name: "Empty"}, &Before{"b", "", NewComposition("main", "Main")})
	if p.Check() == nil {
		t.Error("a state without a composition was taken")
	}
	if said := p.Heal(); len(p.Befores) != 1 || len(said) != 3 {
		t.Errorf("%d states are left; %v", len(p.Befores), said)
	}
	if assets := (&Project{Befores: []*Before{{"b", "B", &Composition{Items: []*Item{{Frames: []Frame{{Asset: "aa"}}}}}}}}).Assets(); len(assets) != 1 {
		t.Error("pictures of a state that is kept are not among those of the project")
	}
}
