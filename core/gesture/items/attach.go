package items

import (
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Attach makes items parts of another, or of none, so that nothing moves at the playhead.
type Attach struct {
	Items  []scene.ID `json:"items"`
	Parent scene.ID   `json:"parent"` // empty: detach
}

// Do returns the operations that attach the items and keep them where they stand.
func (g *Attach) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	var left Left
	for _, id := range g.Items {
		item, err := c.Item(id)
		if err != nil {
			return gesture.Result{}, err
		}
		if item.Parent == g.Parent {
			continue
		}
		a := scene.Attachment{NoPosition: item.Attachment.NoPosition, NoRotation: item.Attachment.NoRotation, NoScale: item.Attachment.NoScale}
		left = append(left, hang(c, &r, item, g.Parent, a)...)
	}
	r.Note = left.Note()
	return r, nil
}

// Inherit says what items take over from what they are attached to, so that nothing moves at the
// playhead. What is left out stays as it is.
type Inherit struct {
	Items    []scene.ID `json:"items"`
	Position *bool      `json:"position"`
	Rotation *bool      `json:"rotation"`
	Scale    *bool      `json:"scale"`
}

// Do returns the operations that alter the attachments.
func (g *Inherit) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	var left Left
	for _, id := range g.Items {
		item, err := c.Item(id)
		if err != nil {
			return gesture.Result{}, err
		}
		a := item.Attachment
		for _, f := range []struct {
			no *bool
			to *bool
		}{{&a.NoPosition, g.Position}, {&a.NoRotation, g.Rotation}, {&a.NoScale, g.Scale}} {
			if f.to != nil {
				*f.no = !*f.to
			}
		}
		left = append(left, hang(c, &r, item, item.Parent, a)...)
	}
	r.Note = left.Note()
	return r, nil
}

// hang adds the operations that attach an item, remember where the parent stands now, and keep the
// item where it stands, and returns what they leave.
func hang(c *gesture.Context, r *gesture.Result, item *scene.Item, parent scene.ID, a scene.Attachment) Left {
	to := num.Posed{Affine: num.Identity}
	a.Stayed, a.Turns = nil, 0
	if p := c.Planned.Layout.Index(parent); p >= 0 {
		to = c.Plan().Posed(p)
		a.Stayed, a.Turns = (*[12]float64)(&to.Affine), to.Turn
	} else {
		a = scene.Attachment{}
	}
	r.Ops = append(r.Ops, &change.ItemAttach{On: c.On(item.ID), Parent: parent, Attachment: a.Clone()})
	keep, left := KeepPlace(c, item, &to)
	r.Ops = append(r.Ops, keep...)
	return left
}

// Left are sentences about what items could not be given to stay in their place.
type Left []string

// Note is what is told of them all: the first, and how many more.
func (l Left) Note() string {
	switch len(l) {
	case 0:
		return ""
	case 1:
		return l[0]
	}
	return fmt.Sprintf("%s (and %d more)", l[0], len(l)-1)
}

// placed are the properties that keep an item in its place when what it hangs on changes.
var placed = []string{"position", "rotation", "rotationX", "rotationY", "scale"}

// KeepPlace returns the operations that give an item such own values that it stands within another
// transform where it stands now, and a sentence for each value that would have to be another and could not be. Pins are
// carried over one by one.
func KeepPlace(c *gesture.Context, item *scene.Item, to *num.Posed) (ops change.Ops, left Left) {
	i := c.Planned.Layout.Index(item.ID)
	if i < 0 {
		return nil, nil
	}
	back, ok := to.Inverse()
	if !ok {
		return nil, Left{item.Name + " couldn't be kept in place: its parent has a scale of zero"}
	}
	world := c.Plan().World(i)
	was := c.Plan().Local(i)
	across := back.Mul(&world) // from the old parent's space into the new one's, once the own part is taken off
	if own, ok := was.Inverse(); ok {
		across = across.Mul(&own)
	}
	local := back.Mul(&world)
	pivot := [3]float64(c.Value(item, "pivot").Nums())
	position, rotation, scale := local.Parts(pivot)
	turned := c.Plan().Posed(i).Turn - to.Turn // with whole turns
	for rotation[2]-turned > 180 {
		rotation[2] -= 360
	}
	for rotation[2]-turned < -180 {
		rotation[2] += 360
	}
	// Whatever turned the own rotation into the new one turns every pin of it as well, and so
	// for scale; positions are taken across point by point.
	set := []struct {
		now   []float64
		carry func(v []float64)
	}{
		{position[:], func(v []float64) { copy(v, applyTo(&across, v)) }},
		{rotation[2:3], shiftBy(rotation[2] - c.Value(item, "rotation").At(0))},
		{rotation[0:1], shiftBy(rotation[0] - c.Value(item, "rotationX").At(0))},
		{rotation[1:2], shiftBy(rotation[1] - c.Value(item, "rotationY").At(0))},
		{scale[:], stretchBy(scale, c.Value(item, "scale"))},
	}
	for k, s := range set {
		key := placed[k]
		state, shown := item.State(key), c.Value(item, key)
		if c.Driven(item, item.Spec(key), "") {
			if !near(s.now, shown) {
				left = append(left, fmt.Sprintf("%s of %s is driven and was left unchanged", item.Spec(key).Name, item.Name))
			}
			continue
		}
		if len(state.Pins) == 0 {
			if !near(s.now, shown) { // what a row adds to it stays added
				own := c.Plan().Own(item.ID, key)
				for n, x := range s.now {
					own = own.With(n, own.At(n)+x-shown.At(n))
				}
				ops = append(ops, &change.OwnSet{Of: c.Of(item.ID, key), Value: own})
			}
			continue
		}
		put := &change.PinsPut{Of: c.Of(item.ID, key)}
		for _, pin := range state.Pins {
			put.Pins = append(put.Pins, pin.Through(func(v scene.Value) scene.Value {
				n := v.Nums()
				s.carry(n)
				return scene.NewValue(n)
			}))
		}
		ops = append(ops, put)
	}
	return ops, left
}

// near reports whether numbers are those of a value, but for what working them out anew makes of them.
func near(now []float64, v scene.Value) bool {
	for k, x := range now {
		if math.Abs(x-v.At(k)) > 1e-6*max(1, math.Abs(x)) {
			return false
		}
	}
	return true
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
func (g *Order) Do(c *gesture.Context) (gesture.Result, error) {
	r, err := (&Attach{g.Items, g.Parent}).Do(c)
	if err != nil {
		return gesture.Result{}, err
	}
	if len(g.Items) == 1 && g.Items[0] != g.Before {
		at := len(c.Composition.Items) - 1
		if before := c.Composition.IndexOf(g.Before); before >= 0 {
			at = before
			if c.Composition.IndexOf(g.Items[0]) < before {
				at--
			}
		}
		r.Ops = append(r.Ops, &change.ItemMove{On: c.On(g.Items[0]), At: at})
		return r, nil
	}
	if ids, at := g.arranged(c.Composition); len(ids) > 0 {
		r.Ops = append(r.Ops, &change.ItemsArrange{In: c.In(), Items: ids, At: at})
	}
	return r, nil
}

// arranged returns the items with the places they are to stand at, in the order in which they are named.
func (g *Order) arranged(c *scene.Composition) (ids []scene.ID, at []int) {
	moved := map[scene.ID]bool{g.Before: true}
	for _, id := range slices.Backward(g.Items) { // one that is named twice stands where it is named last
		if !moved[id] {
			moved[id] = true
			ids = append(ids, id)
		}
	}
	slices.Reverse(ids)
	delete(moved, g.Before)
	first := 0
	for _, item := range c.Items {
		if item.ID == g.Before {
			break
		}
		if !moved[item.ID] {
			first++
		}
	}
	for k := range ids {
		at = append(at, first+k)
	}
	return ids, at
}
