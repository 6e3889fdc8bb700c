package scene

import "testing"

// Limits that lie beyond what a property can be at all hold it at its own end, and never beyond.
func TestLimitsStayWithinWhatAPropertyCanBe(t *testing.T) {
	far, near := 52.0, -37.0
	for _, c := range []struct {
		kind     Kind
		key      string
		state    State
		low, top float64
	}{
		{CopiesItem, "copiesArrangement", State{Min: &far, Max: &far}, 4, 4},
		{CopiesItem, "copiesArrangement", State{Max: &near}, 0, 0},
		{CopiesItem, "copiesArrangement", State{Min: &far}, 4, 4},
		{Rectangle, "opacity", State{Max: &far}, 0, 52},
	} {
		item := &Item{ID: "i", Kind: c.kind, States: map[string]*State{c.key: &c.state}}
		if spec := item.Spec(c.key); spec.Min != c.low || spec.Max != c.top {
			t.Errorf("%s is held from %g to %g, not from %g to %g", c.key, spec.Min, spec.Max, c.low, c.top)
		}
	}
}
