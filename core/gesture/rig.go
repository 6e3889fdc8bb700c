package gesture

import (
	"math"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
)

// Rig gathers the operations that make items, controls and links on rows of them, so that what comes later can refer to what was made
// before.
type Rig struct {
	*Context
	Result
	taken map[string]bool // names of items
}

// NewRig returns a rig of which nothing is made yet.
func NewRig(c *Context) *Rig { return &Rig{Context: c, taken: c.ItemNames()} }

// Null adds a null with controls at a place in the composition.
func (r *Rig) Null(name string, at [3]float64, controls ...*scene.Control) *scene.Item {
	null := r.Item(scene.Null, name, controls...)
	for k := range at {
		at[k] = math.Round(at[k])
	}
	if at != [3]float64{} {
		null.Edit("position").Own = scene.Pt(at[:]...)
	}
	r.Add(null, 0)
	return null
}

// Item makes an item with a free name, which is not added yet.
func (r *Rig) Item(kind scene.Kind, name string, controls ...*scene.Control) *scene.Item {
	item := &scene.Item{ID: r.NewID(), Name: FreeName(ClipName(name), r.taken), Kind: kind, Controls: controls}
	r.taken[item.Name] = true
	return item
}

// Add adds an item at a place of the list.
func (r *Rig) Add(item *scene.Item, at int) {
	r.Ops = append(r.Ops, &change.ItemAdd{In: r.In(), Value: item, At: at})
	r.Made = append(r.Made, item.ID)
}

// Fader is a control in percent.
func (r *Rig) Fader(name string, value float64) *scene.Control {
	return &scene.Control{ID: r.NewID(), Name: name, Kind: scene.Fader, Unit: scene.Percent, SoftMax: 100, Default: scene.Num(value)}
}

// Row puts a formula, as it is stored, on a property of all members of a roster. The pair and the space of the composition are set
// afterwards.
func (r *Rig) Row(name string, roster scene.Roster, property, text string) *scene.RosterLink {
	s := &scene.RosterLink{
		ID: r.NewID(), Name: ClipName(name), Roster: roster, Property: property,
		Link: &scene.Link{ID: r.NewID(), Kind: scene.Formula, Gain: 1, Formula: text},
	}
	r.Ops = append(r.Ops, &change.RosterLinkAdd{In: r.In(), Value: s, At: -1})
	return s
}
