package items

import (
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// Remove takes items out. What was attached to them stays where it stands, attached to the next
// item above that remains. Links that had them as a source are kept and marked by the checks.
type Remove struct {
	Items []scene.ID `json:"items"`
}

// Do returns the operations that detach and remove.
func (g *Remove) Do(c *gesture.Context) (gesture.Result, error) {
	gone := map[scene.ID]bool{}
	for _, id := range g.Items {
		if _, err := c.Item(id); err != nil {
			return gesture.Result{}, err
		}
		gone[id] = true
	}
	var r gesture.Result
	tree, _ := c.Composition.Tree()
	for _, item := range tree {
		if gone[item.ID] || !gone[item.Parent] {
			continue
		}
		parent := item.Parent
		for gone[parent] {
			parent = c.Composition.Item(parent).Parent
		}
		moved, err := (&Attach{[]scene.ID{item.ID}, parent}).Do(c)
		if err != nil {
			return gesture.Result{}, err
		}
		r.Ops = append(r.Ops, moved.Ops...)
	}
	for _, s := range c.Composition.RosterLinks {
		if s.Roster.OfOne() && gone[s.Roster.Item] {
			r.Ops = append(r.Ops, &change.RosterLinkRemove{In: c.In(), RosterLink: s.ID})
		}
	}
	for k := len(tree) - 1; k >= 0; k-- { // what is attached goes before what it is attached to
		if gone[tree[k].ID] {
			r.Ops = append(r.Ops, &change.ItemRemove{On: c.On(tree[k].ID)})
		}
	}
	what := gesture.Plural(len(gone), "item")
	if len(g.Items) == 1 {
		what = c.Composition.Item(g.Items[0]).Name
	}
	r.Note = unwired(c, what, func(ref scene.Ref) bool { return gone[ref.Item] })
	return r, nil
}

// RemoveControls takes controls out of their drawers. Links that had them as a source are kept and marked by the checks.
type RemoveControls struct {
	Controls []scene.Ref `json:"controls"` // the property is the id of the control
}

// Do returns the operations that remove the controls.
func (g *RemoveControls) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	gone := map[scene.Ref]bool{}
	what := gesture.Plural(len(g.Controls), "control")
	for _, ref := range g.Controls {
		item, control, err := c.ControlOf(ref.Item, scene.ID(ref.Property))
		if err != nil {
			return gesture.Result{}, err
		}
		whole := scene.Ref{Item: item.ID, Property: string(control.ID)}
		if gone[whole] {
			continue
		}
		gone[whole] = true
		if len(g.Controls) == 1 {
			what = control.Name
		}
		r.Ops = append(r.Ops, &change.ControlRemove{On: c.On(item.ID), Control: control.ID})
	}
	if len(r.Ops) == 0 {
		return gesture.Result{}, fmt.Errorf("select the controls to remove first")
	}
	r.Note = unwired(c, what, func(ref scene.Ref) bool { return gone[ref] })
	return r, nil
}

// told is how many properties a note names; what is beyond is counted.
const told = 3

// unwired says what is no longer driven when something goes; empty where that drove nothing that stays.
func unwired(c *gesture.Context, what string, gone func(scene.Ref) bool) string {
	var names []string
	for source, targets := range link.Drives(c.Composition) {
		if !gone(source) {
			continue
		}
		for _, t := range targets {
			if item := c.Composition.Item(t.Item); item != nil && !gone(t) {
				if spec := item.Spec(t.Property); spec != nil {
					names = append(names, item.Name+": "+spec.Name)
				}
			}
		}
	}
	if len(names) == 0 {
		return ""
	}
	slices.Sort(names)
	names = slices.Compact(names)
	if more := len(names) - told; more > 0 {
		names = append(names[:told], fmt.Sprintf("%d more", more))
	}
	return fmt.Sprintf("Deleted %s, which drove %s.", what, strings.Join(names, ", "))
}
