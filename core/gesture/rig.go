package gesture

import (
	"fmt"
	"math"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
)

// rig is what a recipe makes: items, controls and links on rows, out of operations.
type rig struct {
	*Context
	Result
	taken map[string]bool // names of items
}

func newRig(c *Context) *rig { return &rig{Context: c, taken: c.itemNames()} }

// null adds a null with controls at a place in the composition.
func (r *rig) null(name string, at [3]float64, controls ...*scene.Control) *scene.Item {
	null := r.item(scene.Null, name, controls...)
	for k := range at {
		at[k] = math.Round(at[k])
	}
	if at != [3]float64{} {
		null.Edit("position").Own = scene.Pt(at[:]...)
	}
	r.add(null, 0)
	return null
}

// item makes an item with a free name, which is not added yet.
func (r *rig) item(kind scene.Kind, name string, controls ...*scene.Control) *scene.Item {
	item := &scene.Item{ID: r.NewID(), Name: freeName(clipName(name), r.taken), Kind: kind, Controls: controls}
	r.taken[item.Name] = true
	return item
}

// add adds an item at a place of the list.
func (r *rig) add(item *scene.Item, at int) {
	r.Ops = append(r.Ops, &change.ItemAdd{In: r.in(), Value: item, At: at})
	r.Made = append(r.Made, item.ID)
}

// fader is a control in percent.
func (r *rig) fader(name string, value float64) *scene.Control {
	return &scene.Control{ID: r.NewID(), Name: name, Kind: scene.Fader, Unit: scene.Percent, SoftMax: 100, Default: scene.Num(value)}
}

// reading writes a control as formulas that are stored have it.
func reading(item *scene.Item, control *scene.Control) string {
	return fmt.Sprintf("{@%s:@%s}", item.ID, control.ID)
}

// world writes where an item stands as formulas that are stored have it.
func world(id scene.ID) string { return fmt.Sprintf("{@%s:@worldPosition}", id) }

// row puts a formula, as it is stored, on a property of all members of a roster. The pair and the space of the composition are set
// afterwards.
func (r *rig) row(name string, roster scene.Roster, property, text string) *scene.RosterLink {
	s := &scene.RosterLink{
		ID: r.NewID(), Name: clipName(name), Roster: roster, Property: property,
		Link: &scene.Link{ID: r.NewID(), Kind: scene.Formula, Gain: 1, Formula: text},
	}
	r.Ops = append(r.Ops, &change.RosterLinkAdd{In: r.in(), Value: s, At: -1})
	return s
}

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
func (c *Context) bounds(items []*scene.Item) (low, high, middle [3]float64) {
	for k := range 3 {
		low[k], high[k] = math.Inf(1), math.Inf(-1)
	}
	for _, item := range items {
		at := c.Plan.Derived(c.Plan.Layout.Index(item.ID), "worldPosition")
		for k := range 3 {
			low[k], high[k] = min(low[k], at.At(k)), max(high[k], at.At(k))
			middle[k] += at.At(k) / float64(len(items))
		}
	}
	return low, high, middle
}
