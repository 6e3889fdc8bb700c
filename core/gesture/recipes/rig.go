package recipes

import (
	"fmt"
	"math"
	"strings"

	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// reading writes a control as formulas that are stored have it.
func reading(item *scene.Item, control *scene.Control) string {
	return fmt.Sprintf("{@%s:@%s}", item.ID, control.ID)
}

// world writes where an item stands as formulas that are stored have it.
func world(id scene.ID) string { return fmt.Sprintf("{@%s:@worldPosition}", id) }

// rowOf is the roster of items that have a property, or an error where none of them does.
func rowOf(items []*scene.Item, property string) (scene.Roster, error) {
	out := scene.Roster{Kind: scene.Picked}
	for _, item := range items {
		if item.Spec(property) != nil {
			out.Items = append(out.Items, item.ID)
		}
	}
	if len(out.Items) == 0 {
		return out, fmt.Errorf("none of the selected items has the property %s", property)
	}
	return out, nil
}

// filled writes the values of a form into a text, where %key stands: behind f as a time in frames, which is never below 0.
func (v values) filled(text string) string {
	for key := range v {
		text = strings.ReplaceAll(text, "%"+key+"f)", scene.Exact(max(0, v[key]))+"f)")
	}
	for key := range v {
		text = strings.ReplaceAll(text, "%"+key, v.text(key))
	}
	return text
}

// bounds returns the middle of items in the composition, and how far they reach, by their pivots.
func bounds(c *gesture.Context, items []*scene.Item) (low, high, middle [3]float64) {
	for k := range 3 {
		low[k], high[k] = math.Inf(1), math.Inf(-1)
	}
	for _, item := range items {
		at := c.Plan().Derived(c.Planned.Layout.Index(item.ID), "worldPosition")
		for k := range 3 {
			low[k], high[k] = min(low[k], at.At(k)), max(high[k], at.At(k))
			middle[k] += at.At(k) / float64(len(items))
		}
	}
	return low, high, middle
}
