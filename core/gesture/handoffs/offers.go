// Package handoffs has the gestures on what a composition hands off, and on the pieces that show it in others.
package handoffs

import (
	"fmt"
	"slices"
	"unicode/utf8"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// HandOff hands controls off, behind those that are handed off already. What is at the same time a control and driven by links
// is refused: whoever gets it would move nothing.
type HandOff struct {
	Controls []scene.Ref `json:"controls"`         // in the order in which they are to stand
	Drawer   scene.ID    `json:"drawer,omitempty"` // all controls of this item as well
}

// Do returns the operations that hand the controls off. Those that are handed off already stay as they are.
func (g *HandOff) Do(c *gesture.Context) (r gesture.Result, err error) {
	refs := g.Controls
	if g.Drawer != "" {
		item, err := c.Item(g.Drawer)
		if err != nil {
			return r, err
		}
		for _, control := range item.Controls {
			refs = append(refs, scene.Ref{Item: item.ID, Property: string(control.ID)})
		}
	}
	there := 0
	var last scene.ID // whose controls stand before, under one heading
	if h := c.Composition.HandOff; h != nil && len(h.Offers) > 0 {
		last = h.Offers[len(h.Offers)-1].Item
	}
	for _, ref := range refs {
		item, spec, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
		}
		control := item.Control(scene.ID(spec.Key))
		if control == nil {
			return gesture.Result{}, fmt.Errorf("%s of %s is no control. Turn it into one first: only controls are handed off", spec.Name, item.Name)
		}
		if c.Driven(item, spec, "") {
			by := c.Drivers(item, spec, "")
			return gesture.Result{}, fmt.Errorf("%s is driven by %s, so whoever gets it would move nothing. Hand that off instead", spec.Name, by[len(by)-1].Name(c.Composition))
		}
		if c.Composition.HandOff.Of(item.ID, control.ID) != nil {
			there++
			continue
		}
		offer := &scene.Offer{ID: c.NewID(), Item: item.ID, Control: control.ID}
		if item.ID != last {
			offer.Heading = item.Name
		}
		if control.Heading != "" {
			offer.Heading = control.Heading
		}
		last = item.ID
		r.Ops = append(r.Ops, &change.OfferSet{In: c.In(), Value: offer, At: -1})
		r.Made = append(r.Made, offer.ID)
	}
	switch {
	case len(r.Ops) == 0 && there > 0:
		r.Note = "handed off already"
	case len(r.Ops) == 0:
		return r, fmt.Errorf("there are no controls to hand off. Add one with C")
	}
	return r, nil
}

// SetOffer says how a control is handed off: under which name and heading, with which note, limits and default, and at which place.
type SetOffer struct {
	Value *scene.Offer `json:"value"`
	At    *int         `json:"at,omitempty"` // its place; absent: where it is
}

// Do returns the operation that sets it. Limits that lie outside those of the control, and a default outside of the limits, are refused.
func (g *SetOffer) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	if g.Value == nil {
		return r, fmt.Errorf("nothing is said of the control that is handed off")
	}
	was, _ := c.Composition.HandOff.Offer(g.Value.ID)
	if was == nil {
		return r, gone()
	}
	value := g.Value.Clone()
	if item := c.Composition.Item(was.Item); item != nil {
		if control := item.Control(was.Control); control != nil {
			if err := fits(value, control, control.Spec().Within(item.States[string(control.ID)])); err != nil {
				return r, err
			}
		}
	}
	at := -1
	if g.At != nil {
		at = *g.At
	}
	r.Ops = change.Ops{&change.OfferSet{In: c.In(), Value: value, At: at}}
	return r, nil
}

func gone() error {
	return fmt.Errorf("the control is not handed off any more; that may have been done in another window")
}

// fits refuses what an offer can't say about a control, and leaves out what is as the control has it.
func fits(o *scene.Offer, control *scene.Control, spec *scene.Spec) error {
	if o.Name == control.Name {
		o.Name = ""
	}
	if o.Note == control.Note {
		o.Note = ""
	}
	name := control.Name
	if o.Name != "" {
		name = o.Name
	}
	limited := spec.Type == scene.Number || spec.Type == scene.Point2 || spec.Type == scene.Point3 || spec.Type == scene.Text
	if (o.Min != nil || o.Max != nil) && !limited {
		return fmt.Errorf("a %s has no limits", spec.Type.Word())
	}
	if spec.Type == scene.Text && (o.Min != nil || o.Max != nil && *o.Max < 1) {
		return fmt.Errorf("a text is limited by how many letters it may have, 1 or more")
	}
	if o.Min != nil && o.Max != nil && *o.Min > *o.Max {
		return fmt.Errorf("the limits of %s cross: %g is above %g", name, *o.Min, *o.Max)
	}
	if spec.Type != scene.Text {
		for _, x := range []*float64{o.Min, o.Max} {
			if x != nil && (*x < spec.Min || *x > spec.Max) {
				return fmt.Errorf("%g lies outside of the limits that %s has itself, %g to %g", *x, control.Name, spec.Min, spec.Max)
			}
		}
	}
	if o.Default.Absent() {
		return nil
	}
	if err := o.Default.Fits(spec.Type); err != nil {
		return fmt.Errorf("the default of %s: %w", name, err)
	}
	if spec.Type == scene.Text {
		return short(name, o.Default, o.Max)
	}
	lo, hi := spec.Min, spec.Max
	if o.Min != nil {
		lo = *o.Min
	}
	if o.Max != nil {
		hi = *o.Max
	}
	for k := range o.Default.Len() {
		if x := o.Default.At(k); limited && (x < lo || x > hi) {
			return fmt.Errorf("the default of %s, %g, lies outside of its limits, %g to %g", name, x, lo, hi)
		}
	}
	return nil
}

// short refuses a text that has more letters than may be.
func short(name string, text scene.Value, most *float64) error {
	if n := utf8.RuneCountInString(text.Str()); most != nil && float64(n) > *most {
		return fmt.Errorf("%s may have %g letters, and this has %d", name, *most, n)
	}
	return nil
}

// Withdraw hands controls off no longer. What pieces and readings set of them is kept, and comes back when they do.
type Withdraw struct {
	Offers []scene.ID `json:"offers"`
}

// Do returns the operations that take them out. A heading goes on to the next control under it.
func (g *Withdraw) Do(c *gesture.Context) (r gesture.Result, err error) {
	h := c.Composition.HandOff
	for _, id := range g.Offers {
		o, k := h.Offer(id)
		if o == nil {
			return gesture.Result{}, gone()
		}
		if next := k + 1; o.Heading != "" && next < len(h.Offers) && h.Offers[next].Heading == "" && !slices.Contains(g.Offers, h.Offers[next].ID) {
			heir := h.Offers[next].Clone()
			heir.Heading = o.Heading
			r.Ops = append(r.Ops, &change.OfferSet{In: c.In(), Value: heir, At: -1})
		}
		r.Ops = append(r.Ops, &change.OfferRemove{In: c.In(), Offer: id})
	}
	return r, nil
}

// Note writes the note that goes with what is handed off.
type Note struct {
	Note string `json:"note"`
}

// Do returns the operation that writes it.
func (g *Note) Do(c *gesture.Context) (gesture.Result, error) {
	return gesture.Result{Ops: change.Ops{&change.HandOffNote{In: c.In(), Note: g.Note}}}, nil
}
