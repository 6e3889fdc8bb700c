package copies

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// Retime lets items show a time of their own: copies that are among them all their copies; the others are put on copies that show them
// once, where they are. The time is pinned at the beginning and at the end, so that it goes on as it did until its pins are moved.
type Retime struct {
	Items []scene.ID `json:"items"`
}

// Do returns the operations that pin the time.
func (g *Retime) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	var others []scene.ID
	for _, id := range c.Tops(g.Items) {
		item, err := c.Item(id)
		if err != nil {
			return gesture.Result{}, err
		}
		if item.Kind != scene.CopiesItem {
			if !shows(c.Composition, item) {
				return gesture.Result{}, fmt.Errorf("%s and what hangs on it are not drawn, so there is nothing to show at another time", item.Name)
			}
			others = append(others, id)
			continue
		}
		if item.State(scene.CopiesShow).Own.At(0) == scene.OwnTime {
			return gesture.Result{}, fmt.Errorf("%s shows a time of its own already; move the pins of its time", item.Name)
		}
		r.Made = append(r.Made, id)
		for _, key := range []string{scene.CopiesShow, scene.CopiesTime} {
			if c.Driven(item, item.Spec(key), "") {
				return gesture.Result{}, fmt.Errorf("%s: %s is driven; remove its link first", item.Name, item.Spec(key).Name)
			}
		}
	}
	if len(others) == 0 && len(r.Made) == 0 {
		return r, fmt.Errorf("select what is to show a time of its own first")
	}
	if len(others) > 0 {
		made, err := (&Group{Items: others, Kind: scene.CopiesItem, Name: gesture.FreeName("Retimed", c.ItemNames())}).Do(c)
		if err != nil {
			return r, err
		}
		r.Ops, r.Note = append(r.Ops, made.Ops...), made.Note
		r.Made = append(r.Made, made.Made...)
		r.Ops = append(r.Ops, &change.OwnSet{Of: c.Of(made.Made[0], scene.CopiesNumber.Key), Value: scene.Num(1)})
	}
	last := c.Composition.Frames - 1
	for _, id := range r.Made {
		pins := []scene.Pin{{Value: scene.Num(0), Easing: curve.Linear}}
		if last > 0 {
			pins = append(pins, scene.Pin{Frame: last, Value: scene.Num(float64(last) / float64(c.Composition.Rate)), Easing: curve.Linear})
		}
		put := &change.PinsPut{Of: c.Of(id, scene.CopiesTime), Pins: pins}
		if item := c.Composition.Item(id); item != nil { // it had pins before it was turned off
			for _, pin := range item.State(scene.CopiesTime).Pins {
				put.Drop = append(put.Drop, pin.Frame)
			}
		}
		r.Ops = append(r.Ops, &change.OwnSet{Of: c.Of(id, scene.CopiesShow), Value: scene.Num(scene.OwnTime)}, put)
	}
	return r, nil
}

// shows reports whether an item, or something that hangs on it, is drawn.
func shows(c *scene.Composition, item *scene.Item) bool {
	return item.Kind.Drawn() || slices.ContainsFunc(c.Attached(item.ID), func(on *scene.Item) bool { return shows(c, on) })
}
