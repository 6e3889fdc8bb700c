package gesture

import (
	"fmt"

	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Move moves items by a way in the composition's space. An item that hangs on another one of them
// is moved by that alone.
type Move struct {
	Items []scene.ID `json:"items"`
	By    [3]float64 `json:"by"` // pixels
}

// Do returns the operations that move the items.
func (g *Move) Do(c *Context) (Result, error) {
	var r Result
	for _, id := range c.tops(g.Items) {
		item, err := c.item(id)
		if err != nil {
			return Result{}, err
		}
		i := c.Plan.Layout.Index(id)
		by, err := c.within(i, g.By)
		if err != nil {
			return Result{}, err
		}
		own := c.shown(item, "position")
		for k := range 3 {
			own = own.With(k, own.At(k)+by[k])
		}
		if err := c.put(&r, item, "position", own); err != nil {
			return Result{}, err
		}
	}
	return r, nil
}

// within takes a way of the composition into the space that item i is placed in: the linear part
// of how its world place depends on its position, turned round.
func (c *Context) within(i int32, by [3]float64) ([3]float64, error) {
	holds := c.Plan.Parent(i)
	m := holds.Affine
	m[3], m[7], m[11] = 0, 0, 0
	item := c.Plan.Layout.Items[i]
	if weight := c.value(item, "attachWeight").At(0) / 100; weight != 1 && c.Plan.Layout.Parents[i] >= 0 {
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
	back, ok := m.Inverse()
	if !ok {
		return by, fmt.Errorf("%s can't be moved: its parent has a scale of zero", item.Name)
	}
	return back.Apply(by), nil
}

// shown returns what a hand begins from: the value that a driven property has, else its own.
func (c *Context) shown(item *scene.Item, key string) scene.Value {
	if c.driven(item, item.Spec(key), "") {
		return c.value(item, key)
	}
	return c.Plan.Own(item.ID, key)
}

// put sets a property as Set does, within the limits that the designer set: what is locked stays where it is under the hand.
func (c *Context) put(r *Result, item *scene.Item, key string, value scene.Value) error {
	if spec := item.Spec(key); spec != nil && item.State(key).Limited() {
		value = spec.Held(value)
	}
	set, err := (&Set{Targets: []scene.Ref{{Item: item.ID, Property: key}}, Value: value}).Do(c)
	if err != nil {
		return err
	}
	r.Ops = append(r.Ops, set.Ops...)
	r.Poses = append(r.Poses, set.Poses...)
	return nil
}

// tops returns the items that hang on none of the others.
func (c *Context) tops(items []scene.ID) []scene.ID {
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

// Turn turns items about their pivots.
type Turn struct {
	Items []scene.ID `json:"items"`
	By    float64    `json:"by"`             // degrees, counter-clockwise
	Axis  string     `json:"axis,omitempty"` // "x" or "y"; else z
}

// Do returns the operations that turn the items.
func (g *Turn) Do(c *Context) (Result, error) {
	key := map[string]string{"x": "rotationX", "y": "rotationY"}[g.Axis]
	if key == "" {
		key = "rotation"
	}
	return c.each(g.Items, key, func(v float64, _ int) float64 { return v + g.By })
}

// Grow multiplies the scale of items.
type Grow struct {
	Items []scene.ID `json:"items"`
	By    [3]float64 `json:"by"` // 1 leaves it as it is
}

// Do returns the operations that scale the items.
func (g *Grow) Do(c *Context) (Result, error) {
	return c.each(g.Items, "scale", func(v float64, k int) float64 { return v * g.By[k] })
}

func (c *Context) each(items []scene.ID, key string, change func(v float64, component int) float64) (Result, error) {
	var r Result
	for _, id := range items {
		item, err := c.item(id)
		if err != nil {
			return Result{}, err
		}
		own := c.shown(item, key)
		for k := range own.Len() {
			own = own.With(k, change(own.At(k), k))
		}
		if err := c.put(&r, item, key, own); err != nil {
			return Result{}, err
		}
	}
	return r, nil
}

// Pivot puts the pivot of items somewhere else without moving them.
type Pivot struct {
	Items  []scene.ID  `json:"items"`
	At     *[3]float64 `json:"at"`     // in the item's own space
	Middle bool        `json:"middle"` // of what is drawn, instead
}

// Do returns the operations that set the pivots, and the positions that make up for them.
func (g *Pivot) Do(c *Context) (Result, error) {
	var r Result
	for _, id := range g.Items {
		item, err := c.item(id)
		if err != nil {
			return Result{}, err
		}
		i := c.Plan.Layout.Index(id)
		at := [3]float64{}
		switch {
		case g.Middle:
			at = c.Plan.Middle(i)
		case g.At != nil:
			at = *g.At
		}
		local := c.Plan.Local(i)
		to, was := local.Apply(at), c.value(item, "position")
		shift := func(v scene.Value) scene.Value {
			for k := range 3 {
				v = v.With(k, v.At(k)+to[k]-was.At(k))
			}
			return v
		}
		if err := c.put(&r, item, "pivot", scene.Pt(at[:]...)); err != nil {
			return Result{}, err
		}
		if len(r.Poses) > 0 {
			return Result{}, fmt.Errorf("the pivot of %s is driven and can't be moved", item.Name)
		}
		if c.driven(item, item.Spec("position"), "") {
			r.Note = fmt.Sprintf("position of %s is driven, so the item moves with its new pivot", item.Name)
		}
		r.Ops = append(r.Ops, c.remade(item, item.Spec("position"), shift)...)
	}
	return r, nil
}
