package handoffs

import (
	"fmt"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// KeepSet keeps the controls of a drawer as a set of the project.
type KeepSet struct {
	Item scene.ID `json:"item"`
	Name string   `json:"name,omitempty"` // empty: that of the item
}

// Do returns the operation that keeps it.
func (g *KeepSet) Do(c *gesture.Context) (gesture.Result, error) {
	item, err := c.Item(g.Item)
	if err != nil {
		return gesture.Result{}, err
	}
	if len(item.Controls) == 0 {
		return gesture.Result{}, fmt.Errorf("%s has no controls to keep as a set; add one with C", item.Name)
	}
	name := g.Name
	if name == "" {
		name = item.Name
	}
	s := &scene.ControlSet{ID: c.NewID(), Name: free(c, name)}
	for _, control := range item.Controls {
		kept := control.Clone()
		kept.Laid = nil
		s.Controls = append(s.Controls, kept)
	}
	if err := s.Check(); err != nil {
		return gesture.Result{}, err
	}
	return gesture.Result{Ops: change.Ops{&change.SetAdd{Value: s, At: -1}}, Made: []scene.ID{s.ID}, Note: fmt.Sprintf("%s is kept as a set of %s", s.Name, gesture.Plural(len(s.Controls), "control"))}, nil
}

// free returns a name that no set of the project has.
func free(c *gesture.Context, name string) string {
	taken := map[string]bool{}
	for _, s := range c.Sets {
		taken[s.Name] = true
	}
	return gesture.FreeName(name, taken)
}

// PutSet puts the controls of a set onto items, behind those that they have. One that is there by its name, with the same kind of
// value, stays as it is; where something else has the name, the new one gets a free one.
type PutSet struct {
	Set   scene.ID   `json:"set"`
	Items []scene.ID `json:"items"`
}

// Do returns the operations that add the controls.
func (g *PutSet) Do(c *gesture.Context) (r gesture.Result, err error) {
	var set *scene.ControlSet
	for _, s := range c.Sets {
		if s.ID == g.Set {
			set = s
		}
	}
	if set == nil {
		return r, fmt.Errorf("the set of controls is no longer there; it may have been removed in another window")
	}
	if len(g.Items) == 0 {
		return r, fmt.Errorf("select the items that %s is to be put onto", set.Name)
	}
	added, there := 0, []string{}
	for _, id := range g.Items {
		item, err := c.Item(id)
		if err != nil {
			return gesture.Result{}, err
		}
		taken := gesture.ControlNames(item)
		for _, control := range set.Controls {
			if has(item, control) {
				there = append(there, control.Name)
				continue
			}
			made := control.Clone()
			made.ID, made.Name = c.NewID(), gesture.FreeName(control.Name, taken)
			if made.Name != control.Name {
				r.Details = append(r.Details, fmt.Sprintf("%s is called %s on %s, which has another %s", control.Name, made.Name, item.Name, control.Name))
			}
			taken[made.Name] = true
			added++
			r.Ops = append(r.Ops, &change.ControlAdd{On: c.On(id), Value: made, At: -1})
			r.Made = append(r.Made, made.ID)
		}
	}
	switch {
	case added == 0:
		r.Note = "All of " + set.Name + " is there already"
	case len(there) > 0:
		r.Note = fmt.Sprintf("%s added; there already: %s", gesture.Plural(added, "control"), strings.Join(there[:min(5, len(there))], ", "))
	case len(r.Details) > 0:
		r.Note = gesture.Plural(added, "control") + " added"
	}
	return r, nil
}

// has reports whether an item has a control of the same name and kind of value.
func has(item *scene.Item, like *scene.Control) bool {
	for _, control := range item.Controls {
		a, b := control.Spec(), like.Spec()
		if scene.Fold(control.Name) == scene.Fold(like.Name) && a.Type == b.Type && a.Unit == b.Unit && len(a.Options) == len(b.Options) {
			return true
		}
	}
	return false
}
