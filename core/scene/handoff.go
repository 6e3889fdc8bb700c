package scene

import (
	"fmt"
	"slices"
	"unicode/utf8"
)

// HandOff is what of a composition is handed to whoever uses it without its wiring: a colleague, or another composition that
// shows it as a piece.
type HandOff struct {
	Note   string   `json:"note,omitempty"` // to who gets it
	Offers []*Offer `json:"offers,omitempty"`
}

// Offer is a control that is handed off, with what is different about it there: what is absent is as the control has it.
type Offer struct {
	ID      ID     `json:"id"`
	Item    ID     `json:"item"` // that carries the control
	Control ID     `json:"control"`
	Heading string `json:"heading,omitempty"` // of the offers from this one on
	Name    string `json:"name,omitempty"`
	Note    string `json:"note,omitempty"`
	// Limits within those of the control. For a text, Max is how many letters it may have.
	Min     *float64 `json:"min,omitempty"`
	Max     *float64 `json:"max,omitempty"`
	Default Value    `json:"default,omitzero"` // absent: what the composition itself shows, its pins among it
	NoPins  bool     `json:"noPins,omitempty"` // it can be set, but not pinned
}

// MaxOffers bounds the controls that a composition hands off.
const MaxOffers = 500

// Offer returns the offer with an id, and where it stands; nil where there is none.
func (h *HandOff) Offer(id ID) (*Offer, int) {
	if h != nil {
		for k, o := range h.Offers {
			if o.ID == id {
				return o, k
			}
		}
	}
	return nil, -1
}

// Of returns the offer of a control; nil where it is not handed off.
func (h *HandOff) Of(item, control ID) *Offer {
	if h != nil {
		for _, o := range h.Offers {
			if o.Item == item && o.Control == control {
				return o
			}
		}
	}
	return nil
}

// Clone returns a copy that shares nothing that can be changed.
func (h *HandOff) Clone() *HandOff {
	if h == nil {
		return nil
	}
	out := &HandOff{Note: h.Note}
	for _, o := range h.Offers {
		out.Offers = append(out.Offers, o.Clone())
	}
	return out
}

// Clone returns a copy that shares nothing that can be changed.
func (o *Offer) Clone() *Offer {
	out := *o
	out.Min, out.Max = cloned(o.Min), cloned(o.Max)
	return &out
}

// Check refuses a hand-off that could not be shown. Whether its controls are still there is not looked at: what was removed may
// come back.
func (h *HandOff) Check() error {
	if h == nil {
		return nil
	}
	if utf8.RuneCountInString(h.Note) > MaxNote {
		return fmt.Errorf("the note of the hand-off is longer than %d characters", MaxNote)
	}
	if len(h.Offers) > MaxOffers {
		return fmt.Errorf("the hand-off would have %d controls; at most %d are handed off", len(h.Offers), MaxOffers)
	}
	if h.Note == "" && len(h.Offers) == 0 {
		return fmt.Errorf("the hand-off is empty")
	}
	for _, o := range h.Offers {
		if err := o.check(); err != nil {
			return err
		}
	}
	return nil
}

func (o *Offer) check() error {
	if o == nil {
		return fmt.Errorf("a control of the hand-off is empty")
	}
	for _, id := range []ID{o.ID, o.Item, o.Control} {
		if err := CheckID(id); err != nil {
			return err
		}
	}
	if reserved[string(o.ID)] {
		return fmt.Errorf("%q is the name of a property and can't be the id of a control that is handed off", o.ID)
	}
	for _, text := range []string{o.Name, o.Heading} {
		if text != "" {
			if err := CheckName(text); err != nil {
				return err
			}
		}
	}
	if utf8.RuneCountInString(o.Note) > MaxNote {
		return fmt.Errorf("the note of a control that is handed off is longer than %d characters", MaxNote)
	}
	if err := (Limits{o.Min, o.Max}).check("a control that is handed off"); err != nil {
		return err
	}
	if !o.Default.Absent() {
		if err := o.Default.Fits(o.Default.Kind()); err != nil {
			return fmt.Errorf("the default of a control that is handed off: %w", err)
		}
	}
	return nil
}

// Handed is a control as it is handed off: its id is that of the offer, its name, ranges and default are those that hold there.
type Handed struct {
	*Control
	Offer *Offer
	Item  *Item    // that carries the control in its composition
	From  *Control // the control there
}

// Handed lists the controls that a composition hands off and that are there, in their order.
func (c *Composition) Handed() []Handed {
	if c == nil || c.HandOff == nil {
		return nil
	}
	if c.handed != nil {
		return c.handed
	}
	c.handed = []Handed{}
	for _, o := range c.HandOff.Offers {
		if item := c.Item(o.Item); item != nil {
			if control := item.Control(o.Control); control != nil {
				c.handed = append(c.handed, Handed{o.as(control, item.State(string(control.ID))), o, item, control})
			}
		}
	}
	return c.handed
}

// Offered is called when what is handed off may be something else: the controls, or what is said of them.
func (c *Composition) Offered() { c.handed = nil }

// as returns a control with what an offer says about it.
func (o *Offer) as(from *Control, state *State) *Control {
	c := from.Clone()
	c.ID, c.Heading, c.Laid, c.Accent = o.ID, o.Heading, nil, 0
	if o.Name != "" {
		c.Name = o.Name
	}
	if o.Note != "" {
		c.Note = o.Note
	}
	within := from.Spec().Within(state)
	c.Default = state.OwnOr(within)
	if !o.Default.Absent() && o.Default.Fits(within.Type) == nil {
		c.Default = o.Default
	}
	if within.Type == Text || c.Kind == ChoiceWidget || c.Kind == SwitchWidget || c.Kind == ColourWidget {
		c.Min, c.Max = nil, nil
		if within.Type == Text {
			c.Max = o.Max
		}
		return c
	}
	lo, hi := within.Min, within.Max
	if o.Min != nil && *o.Min > lo && *o.Min <= hi {
		lo = *o.Min
	}
	if o.Max != nil && *o.Max < hi && *o.Max >= lo {
		hi = *o.Max
	}
	c.Min, c.Max = nil, nil
	if lo > -inf {
		c.Min = &lo
	}
	if hi < inf {
		c.Max = &hi
	}
	c.SoftMin, c.SoftMax = max(c.SoftMin, lo), min(c.SoftMax, hi)
	if c.SoftMin > c.SoftMax {
		c.SoftMin, c.SoftMax = max(lo, -MaxMagnitude), min(hi, MaxMagnitude)
	}
	c.Default = c.Spec().Held(c.Default)
	return c
}

// Spec returns the control as a property of a piece: its key is the id of the offer.
func (h Handed) Spec() *Spec {
	s := h.Control.Spec()
	s.NoPins = h.Offer.NoPins
	return s
}

// Given returns what a control that is handed off shows while nobody sets it: what was set of the control in its composition, or
// the default of the offer.
func (h Handed) Given() *State {
	if h.Offer.Default.Absent() || h.Offer.Default.Fits(h.Spec().Type) != nil {
		state := h.Item.State(string(h.From.ID))
		return &State{Own: state.Own, Pins: state.Pins, Beyond: state.Beyond}
	}
	return &State{Own: h.Control.Default}
}

// Lost lists the offers whose controls are gone.
func (c *Composition) Lost() (out []*Offer) {
	if c.HandOff == nil {
		return nil
	}
	there := map[ID]bool{}
	for _, h := range c.Handed() {
		there[h.Offer.ID] = true
	}
	return slices.DeleteFunc(slices.Clone(c.HandOff.Offers), func(o *Offer) bool { return there[o.ID] })
}

// MayHold refuses a value that was handed off as one that can't be set so: a pin where there may be none, a text that is too long. Numbers
// are held within their limits where they are worked out.
func (h Handed) MayHold(pinned bool, value Value) error {
	if pinned && h.Offer.NoPins {
		return fmt.Errorf("%s can be set, but not pinned: it was handed off so", h.Name)
	}
	if n := utf8.RuneCountInString(value.Str()); value.IsText() && h.Offer.Max != nil && float64(n) > *h.Offer.Max {
		return fmt.Errorf("%s may have %g letters, and this has %d", h.Name, *h.Offer.Max, n)
	}
	return nil
}
