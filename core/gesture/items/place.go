package items

import (
	"fmt"

	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/scene"
)

// Move moves items by a way in the composition's space. An item that hangs on another one of them
// is moved by that alone.
type Move struct {
	Items []scene.ID `json:"items"`
	By    [3]float64 `json:"by"` // pixels
}

// Do returns the operations that move the items.
func (g *Move) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	for _, id := range c.Tops(g.Items) {
		item, err := c.Item(id)
		if err != nil {
			return gesture.Result{}, err
		}
		i := c.Planned.Layout.Index(id)
		by, err := c.Within(i, g.By)
		if err != nil {
			return gesture.Result{}, err
		}
		own := shown(c, item, "position")
		for k := range 3 {
			own = own.With(k, own.At(k)+by[k])
		}
		if err := put(c, &r, item, "position", own); err != nil {
			return gesture.Result{}, err
		}
	}
	return r, nil
}

// shown returns what a hand begins from: the value that a driven property has, else its own.
func shown(c *gesture.Context, item *scene.Item, key string) scene.Value {
	if c.Driven(item, item.Spec(key), "") {
		return c.Value(item, key)
	}
	return c.Plan().Own(item.ID, key)
}

// put sets a property as Set does, within the limits that the designer set: what is locked stays where it is under the hand.
func put(c *gesture.Context, r *gesture.Result, item *scene.Item, key string, value scene.Value) error {
	if spec := item.Spec(key); spec != nil && item.State(key).Limited() {
		value = spec.Held(value)
	}
	set, err := (&pins.Set{Targets: []scene.Ref{{Item: item.ID, Property: key}}, Value: value}).Do(c)
	if err != nil {
		return err
	}
	r.Ops = append(r.Ops, set.Ops...)
	r.Poses = append(r.Poses, set.Poses...)
	return nil
}

// Turn turns items about their pivots.
type Turn struct {
	Items []scene.ID `json:"items"`
	By    float64    `json:"by"`             // degrees, counter-clockwise
	Axis  string     `json:"axis,omitempty"` // "x" or "y"; else z
}

// Do returns the operations that turn the items.
func (g *Turn) Do(c *gesture.Context) (gesture.Result, error) {
	key := map[string]string{"x": "rotationX", "y": "rotationY"}[g.Axis]
	if key == "" {
		key = "rotation"
	}
	return each(c, g.Items, key, func(v float64, _ int) float64 { return v + g.By })
}

// Grow multiplies the scale of items.
type Grow struct {
	Items []scene.ID `json:"items"`
	By    [3]float64 `json:"by"` // 1 leaves it as it is
}

// Do returns the operations that scale the items.
func (g *Grow) Do(c *gesture.Context) (gesture.Result, error) {
	return each(c, g.Items, "scale", func(v float64, k int) float64 { return v * g.By[k] })
}

func each(c *gesture.Context, items []scene.ID, key string, change func(v float64, component int) float64) (gesture.Result, error) {
	var r gesture.Result
	for _, id := range items {
		item, err := c.Item(id)
		if err != nil {
			return gesture.Result{}, err
		}
		own := shown(c, item, key)
		for k := range own.Len() {
			own = own.With(k, change(own.At(k), k))
		}
		if err := put(c, &r, item, key, own); err != nil {
			return gesture.Result{}, err
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
func (g *Pivot) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	for _, id := range g.Items {
		item, err := c.Item(id)
		if err != nil {
			return gesture.Result{}, err
		}
		i := c.Planned.Layout.Index(id)
		at := [3]float64{}
		switch {
		case g.Middle:
			at = c.Plan().Middle(i)
		case g.At != nil:
			at = *g.At
		}
		local := c.Plan().Local(i)
		to, was := local.Apply(at), c.Value(item, "position")
		shift := func(v scene.Value) scene.Value {
			for k := range 3 {
				v = v.With(k, v.At(k)+to[k]-was.At(k))
			}
			return v
		}
		if err := put(c, &r, item, "pivot", scene.Pt(at[:]...)); err != nil {
			return gesture.Result{}, err
		}
		if len(r.Poses) > 0 {
			return gesture.Result{}, fmt.Errorf("the pivot of %s is driven and can't be moved", item.Name)
		}
		if c.Driven(item, item.Spec("position"), "") {
			r.Note = fmt.Sprintf("position of %s is driven, so the item moves with its new pivot", item.Name)
		}
		r.Ops = append(r.Ops, c.Remade(item, item.Spec("position"), shift)...)
	}
	return r, nil
}
