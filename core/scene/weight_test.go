package scene

import "testing"

// Taking the weights of the links of a property leaves its links alone, whatever stands on the weights.
func TestTakingWeightsLeavesTheLinksAlone(t *testing.T) {
	first, second, on := &Link{ID: "first"}, &Link{ID: "second"}, &Link{ID: "on"}
	item := &Item{ID: "i", States: map[string]*State{
		"rotation":          {Links: []*Link{first, second}},
		WeightKey("second"): {Links: []*Link{on}},
		WeightKey("on"):     {Own: Num(37)},
	}}
	taken := item.TakeWeights(item.States["rotation"].Links...)
	if links := item.States["rotation"].Links; len(links) != 2 || links[0] != first || links[1] != second {
		t.Errorf("its links are %v and %v", links[0].ID, links[1].ID)
	}
	if len(taken) != 2 || len(item.States) != 1 || len(taken.Links()) != 1 {
		t.Errorf("%d weights were taken, %d states are left", len(taken), len(item.States))
	}
}
