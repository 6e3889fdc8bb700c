package gesture

import (
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// Remove takes items out. What was attached to them stays where it stands, attached to the next
// item above that remains. Links that had them as a source are kept and marked by the checks.
type Remove struct {
	Items []scene.ID `json:"items"`
}

// Do returns the operations that detach and remove.
func (g *Remove) Do(c *Context) (Result, error) {
	gone := map[scene.ID]bool{}
	for _, id := range g.Items {
		if _, err := c.item(id); err != nil {
			return Result{}, err
		}
		gone[id] = true
	}
	var r Result
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
			return Result{}, err
		}
		r.Ops = append(r.Ops, moved.Ops...)
	}
	for k := len(tree) - 1; k >= 0; k-- { // what is attached goes before what it is attached to
		if gone[tree[k].ID] {
			r.Ops = append(r.Ops, &change.ItemRemove{On: c.on(tree[k].ID)})
		}
	}
	what := plural(len(gone), "item")
	if len(g.Items) == 1 {
		what = c.Composition.Item(g.Items[0]).Name
	}
	r.Note = c.unwired(what, func(ref scene.Ref) bool { return gone[ref.Item] })
	return r, nil
}

// RemoveControl takes a control out of its drawer. Links that had it as a source are kept and marked by the checks.
type RemoveControl struct {
	Item    scene.ID `json:"item"`
	Control scene.ID `json:"control"`
}

// Do returns the operation that removes the control.
func (g *RemoveControl) Do(c *Context) (Result, error) {
	item, control, err := c.controlOf(g.Item, g.Control)
	if err != nil {
		return Result{}, err
	}
	gone := scene.Ref{Item: item.ID, Property: string(control.ID)}
	return Result{
		Ops:  change.Ops{&change.ControlRemove{On: c.on(item.ID), Control: control.ID}},
		Note: c.unwired(control.Name, func(ref scene.Ref) bool { return ref == gone }),
	}, nil
}

// told is how many properties a note names; what is beyond is counted.
const told = 3

// unwired says what is no longer driven when something goes; empty where that drove nothing that stays.
func (c *Context) unwired(what string, gone func(scene.Ref) bool) string {
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
	return fmt.Sprintf("Removed %s, which drove %s.", what, strings.Join(names, ", "))
}
