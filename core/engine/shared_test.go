package engine

import (
	"slices"
	"testing"

	"wunderkammer/core/scene"
)

// A formula that several links hold in the same words gives each what it would give alone, whichever comes first: there is
// no partner on a row without a pair, and no parent of what has none.
func TestTheSameWordsElsewhereTakeNothingAlong(t *testing.T) {
	for _, turned := range []bool{false, true} {
		c := scene.NewComposition("main", "Main")
		add := func(id, parent scene.ID, kind scene.Kind) *scene.Item {
			item := &scene.Item{ID: id, Name: string(id), Kind: kind, Parent: parent}
			item.Edit("opacity").Own = scene.Num(37)
			c.Items = append(c.Items, item)
			return item
		}
		add("base", "", scene.Null).Edit("rotation").Own = scene.Num(23)
		add("a", "base", scene.Rectangle)
		add("b", "", scene.Rectangle)
		add("c", "base", scene.Rectangle)
		for _, id := range []scene.ID{"a", "b"} {
			c.Item(id).Edit("rotation").Links = []*scene.Link{{ID: "on " + id, Kind: scene.Formula, Gain: 1, Formula: "({parent:@rotation} else 5) + 4"}}
		}
		for _, s := range []*scene.RosterLink{
			{ID: "r1", Name: "paired", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"a"}}, Pair: &scene.Roster{Kind: scene.Picked, Items: []scene.ID{"base"}}},
			{ID: "r2", Name: "alone", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"b"}}},
		} {
			s.Property, s.Link = "opacity", &scene.Link{ID: "l" + s.ID, Kind: scene.Formula, Gain: 1, Formula: "({partner:@rotation} else 5) * 3"}
			c.RosterLinks = append(c.RosterLinks, s)
		}
		if turned {
			slices.Reverse(c.Items)
		}
		p := New(c)
		for range 2 {
			p.Evaluate(0)
			for _, k := range []struct {
				item scene.ID
				key  string
				want float64
			}{{"a", "rotation", 27}, {"b", "rotation", 0}, {"a", "opacity", 69}, {"b", "opacity", 37}} {
				if got := p.Value(scene.Ref{Item: k.item, Property: k.key}).At(0); got != k.want {
					t.Errorf("turned %v: %s of %s is %v, want %v", turned, k.key, k.item, got, k.want)
				}
			}
			if _, ok := p.Relink([]scene.Ref{{Item: "a", Property: "opacity"}, {Item: "a", Property: "rotation"}, {Item: "b", Property: "opacity"}, {Item: "b", Property: "rotation"}}); !ok {
				t.Fatal("not relinked")
			}
		}
	}
}
