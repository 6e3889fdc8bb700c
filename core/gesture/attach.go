package gesture

import (
	"wunderkammer/core/change"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Attach makes items parts of another, or of none, so that nothing moves at the playhead.
type Attach struct {
	Items  []scene.ID `json:"items"`
	Parent scene.ID   `json:"parent"` // empty: detach
}

// Do returns the operations that attach the items and keep them where they stand.
func (g *Attach) Do(c *Context) (Result, error) {
	var r Result
	for _, id := range g.Items {
		item, err := c.item(id)
		if err != nil {
			return Result{}, err
		}
		if item.Parent == g.Parent {
			continue
		}
		r.Ops = append(r.Ops, &change.ItemAttach{On: c.on(id), Parent: g.Parent})
		keep, note := c.keepPlace(item, g.Parent)
		r.Ops = append(r.Ops, keep...)
		if note != "" {
			r.Note = note
		}
	}
	return r, nil
}

// keepPlace returns the operations that give an item such own values that it stands under another
// parent where it stands now. Pins are carried over one by one.
func (c *Context) keepPlace(item *scene.Item, parent scene.ID) (change.Ops, string) {
	i := c.Plan.Layout.Index(item.ID)
	if i < 0 {
		return nil, ""
	}
	from, to := num.Identity, num.Identity
	if p := c.Plan.Layout.Parents[i]; p >= 0 {
		from = c.Plan.World(p)
	}
	if p := c.Plan.Layout.Index(parent); p >= 0 {
		to = c.Plan.World(p)
	}
	back, ok := to.Inverse()
	if !ok {
		return nil, item.Name + " could not be kept in its place: what it is attached to has a scale of zero"
	}
	across := back.Mul(&from) // from the old parent's space into the new one's
	world := c.Plan.World(i)
	local := back.Mul(&world)
	pivot := [3]float64(c.value(item, "pivot").Nums())
	position, rotation, scale := local.Parts(pivot)
	was := c.value(item, "rotation").At(0)
	for rotation[2]-was > 180 {
		rotation[2] -= 360
	}
	for rotation[2]-was < -180 {
		rotation[2] += 360
	}
	// Whatever turned the own rotation into the new one turns every pin of it as well, and so
	// for scale; positions are taken across point by point.
	set := []struct {
		key   string
		now   []float64
		carry func(v []float64)
	}{
		{"position", position[:], func(v []float64) { copy(v, applyTo(&across, v)) }},
		{"rotation", rotation[2:3], shiftBy(rotation[2] - was)},
		{"rotationX", rotation[0:1], shiftBy(rotation[0] - c.value(item, "rotationX").At(0))},
		{"rotationY", rotation[1:2], shiftBy(rotation[1] - c.value(item, "rotationY").At(0))},
		{"scale", scale[:], stretchBy(scale, c.value(item, "scale"))},
	}
	var ops change.Ops
	for _, s := range set {
		state := item.State(s.key)
		if len(state.Pins) == 0 {
			ops = append(ops, &change.OwnSet{Of: c.of(item.ID, s.key), Value: scene.NewValue(s.now)})
			continue
		}
		put := &change.PinsPut{Of: c.of(item.ID, s.key)}
		for _, pin := range state.Pins {
			v := pin.Value.Nums()
			s.carry(v)
			pin.Value = scene.NewValue(v)
			put.Pins = append(put.Pins, pin)
		}
		ops = append(ops, put)
	}
	return ops, ""
}

func (c *Context) value(item *scene.Item, key string) scene.Value {
	return c.Plan.Value(scene.Ref{Item: item.ID, Property: key})
}

func applyTo(m *num.Affine, v []float64) []float64 {
	p := m.Apply([3]float64(v))
	return p[:]
}

func shiftBy(d float64) func([]float64) {
	return func(v []float64) { v[0] += d }
}

func stretchBy(now [3]float64, was scene.Value) func([]float64) {
	return func(v []float64) {
		for k := range v {
			if was.At(k) != 0 {
				v[k] *= now[k] / was.At(k)
			}
		}
	}
}

// Order puts items before another in the tree, attached to a parent.
type Order struct {
	Items  []scene.ID `json:"items"`
	Parent scene.ID   `json:"parent"`
	Before scene.ID   `json:"before"` // empty: at the end
}

// Do returns the operations that attach and move the items.
func (g *Order) Do(c *Context) (Result, error) {
	r, err := (&Attach{g.Items, g.Parent}).Do(c)
	if err != nil {
		return Result{}, err
	}
	// Worked out on a list of ids, since each move shifts the places of the rest.
	var order []scene.ID
	for _, item := range c.Composition.Items {
		order = append(order, item.ID)
	}
	for _, id := range g.Items {
		if id == g.Before {
			continue
		}
		order = without(order, id)
		at := len(order)
		for k, other := range order {
			if other == g.Before {
				at = k
			}
		}
		order = append(order[:at:at], append([]scene.ID{id}, order[at:]...)...)
		r.Ops = append(r.Ops, &change.ItemMove{On: c.on(id), At: at})
	}
	return r, nil
}

func without(ids []scene.ID, id scene.ID) []scene.ID {
	var out []scene.ID
	for _, other := range ids {
		if other != id {
			out = append(out, other)
		}
	}
	return out
}

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
	return r, nil
}
