package scene

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
)

// listed is a composition of n items, with the ids as they should stand.
func listed(n int) (*Composition, []ID) {
	c := &Composition{ID: "main", Name: "Main"}
	var ids []ID
	for i := range n {
		ids = append(ids, ID(fmt.Sprint("i", i)))
		c.Items = append(c.Items, &Item{ID: ids[i], Name: "Item", Kind: Rectangle})
	}
	return c, ids
}

func stands(t *testing.T, c *Composition, want []ID) {
	t.Helper()
	for i, id := range want {
		if c.Items[i].ID != id || c.IndexOf(id) != i || c.Item(id) != c.Items[i] {
			t.Fatalf("at %d stands %s, which is found at %d; want %s", i, c.Items[i].ID, c.IndexOf(c.Items[i].ID), id)
		}
	}
	if len(c.Items) != len(want) {
		t.Fatalf("there are %d items, want %d", len(c.Items), len(want))
	}
}

// Items that come, go and are arranged at random are found where a plain list has them, and arranged back as they were.
func TestItemsAreFoundWhereTheyStand(t *testing.T) {
	for seed := range uint64(40) {
		r := rand.New(rand.NewPCG(seed, 7))
		c, ids := listed(3 + r.IntN(40))
		for step := range 60 {
			switch n := len(ids); {
			case r.IntN(4) == 0:
				at, id := r.IntN(n+1), ID(fmt.Sprint("new", step))
				c.Insert(at, &Item{ID: id, Name: "New", Kind: Null})
				ids = slices.Insert(ids, at, id)
			case r.IntN(3) == 0 && n > 1:
				at := c.IndexOf(ids[r.IntN(n)])
				c.Take(at)
				ids = slices.Delete(ids, at, at+1)
			default:
				moved := slices.Clone(ids)
				r.Shuffle(n, func(a, b int) { moved[a], moved[b] = moved[b], moved[a] })
				moved = moved[:1+r.IntN(n)]
				at := r.Perm(n)[:len(moved)]
				slices.Sort(at)
				rest := slices.DeleteFunc(slices.Clone(ids), func(id ID) bool { return slices.Contains(moved, id) })
				before := ids
				ids = nil
				for k := 0; len(ids) < n; {
					if k < len(at) && at[k] == len(ids) {
						ids = append(ids, moved[k])
						k++
					} else {
						ids, rest = append(ids, rest[0]), rest[1:]
					}
				}
				were, stood, ok := c.Arrange(moved, at)
				if !ok {
					t.Fatal("it was not arranged")
				}
				stands(t, c, ids)
				if _, _, ok := c.Arrange(were, stood); !ok {
					t.Fatal("it was not arranged back")
				}
				stands(t, c, before)
				c.Arrange(moved, at)
			}
			stands(t, c, ids)
		}
	}
}

func TestWhatCantBeArrangedStays(t *testing.T) {
	c, ids := listed(5)
	for _, k := range []struct {
		ids []ID
		at  []int
	}{{[]ID{"i1", "gone"}, []int{0, 1}}, {[]ID{"i1", "i1"}, []int{0, 1}}, {[]ID{"i1", "i2"}, []int{3, 3}}, {[]ID{"i1", "i2"}, []int{3, 0}}, {[]ID{"i1"}, []int{-1}}} {
		if _, _, ok := c.Arrange(k.ids, k.at); ok {
			t.Errorf("%v was arranged at %v", k.ids, k.at)
		}
		stands(t, c, ids)
	}
	if _, _, ok := c.Arrange([]ID{"i0", "i2"}, []int{7, 9}); !ok { // others have gone meanwhile: at the end
		t.Error("it was not arranged")
	}
	stands(t, c, []ID{"i1", "i3", "i4", "i0", "i2"})
	if at := c.Foremost([]ID{"i2", "i4", "i0"}); at != 2 {
		t.Errorf("the foremost stands at %d", at)
	}
}
