package gesture

import (
	"fmt"

	"wunderkammer/core/engine"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Value returns what a property of an item has at the frame, whatever drives it.
func (c *Context) Value(item *scene.Item, key string) scene.Value {
	return c.Plan().Value(scene.Ref{Item: item.ID, Property: key})
}

// Holds returns where an item stands that others are to hang on; the identity for none.
func (c *Context) Holds(id scene.ID) num.Posed {
	if i := c.Planned.Layout.Index(id); i >= 0 {
		return c.Plan().Posed(i)
	}
	return num.Posed{Affine: num.Identity}
}

// Translation moves by a way, in pixels.
func Translation(by [3]float64) *num.Affine {
	m := num.Identity
	m[3], m[7], m[11] = by[0], by[1], by[2]
	return &m
}

// Carried returns how a way in the space that item i is placed in is carried into the composition: the linear part of how its world
// place depends on its position, at the frame the plan was last evaluated at.
func Carried(plan *engine.Plan, i int32) num.Affine {
	holds := plan.Parent(i)
	m := holds.Affine
	m[3], m[7], m[11] = 0, 0, 0
	item := plan.Layout.Items[i]
	if weight := plan.Value(scene.Ref{Item: item.ID, Property: "attachWeight"}).At(0) / 100; weight != 1 && plan.Layout.Parents[i] >= 0 {
		stayed := num.Identity
		if item.Attachment.Stayed != nil {
			stayed = *item.Attachment.Stayed
		}
		for k := range m {
			if k%4 != 3 {
				m[k] = stayed[k] + float64((m[k]-stayed[k])*weight)
			}
		}
	}
	return m
}

// Within takes a way of the composition into the space that item i is placed in.
func (c *Context) Within(i int32, by [3]float64) ([3]float64, error) {
	m := Carried(c.Plan(), i)
	back, ok := m.Inverse()
	if !ok {
		return by, fmt.Errorf("%s can't be moved: its parent has a scale of zero", c.Planned.Layout.Items[i].Name)
	}
	return back.Apply(by), nil
}

// Tops returns the items that hang on none of the others.
func (c *Context) Tops(items []scene.ID) []scene.ID {
	in := map[scene.ID]bool{}
	for _, id := range items {
		in[id] = true
	}
	var out []scene.ID
	for _, id := range items {
		free := true
		for up := c.Composition.Item(id); up != nil && up.Parent != ""; up = c.Composition.Item(up.Parent) {
			if in[up.Parent] {
				free = false
				break
			}
		}
		if free {
			out = append(out, id)
		}
	}
	return out
}
