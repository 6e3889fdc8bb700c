package change

import (
	"fmt"
	"slices"

	"wunderkammer/core/scene"
)

// errNotHandedOff is told to whoever got a composition handed off and wants to change what is inside.
var errNotHandedOff = fmt.Errorf("only what was handed off can be changed here")

// OfReading refuses operations that do more than somebody may to whom a composition was handed off: make readings of it, rename and delete
// them, and set and pin in them what is handed off, as it may be set.
func (ops Ops) OfReading(p *scene.Project, of scene.ID) error {
	made := map[scene.ID]*scene.Composition{}
	reading := func(id scene.ID) *scene.Composition {
		if c := made[id]; c != nil {
			return c
		}
		if c := p.Composition(id); c != nil && c.Reading == of {
			return c
		}
		return nil
	}
	whole := p.Composition(of)
	if whole == nil {
		return errNotHandedOff
	}
	set := func(o Of, pinned bool, values ...scene.Value) error {
		c := reading(o.Composition)
		if c == nil || c.Read() == nil || c.Read().ID != o.Item {
			return errNotHandedOff
		}
		return mayHold(whole, o.Property, pinned, values...)
	}
	for _, op := range ops {
		var err error
		switch o := op.(type) {
		case *CompositionAdd:
			if o.Value == nil || o.Value.Reading != of {
				return errNotHandedOff
			}
			if err = o.Value.CheckWhole(); err == nil {
				made[o.Value.ID] = o.Value
				err = onlySet(whole, o.Value)
			}
		case *CompositionRemove:
			if reading(o.Composition) == nil {
				return errNotHandedOff
			}
		case *CompositionSet:
			if reading(o.Composition) == nil || o.Width != nil || o.Height != nil || o.Rate != nil || o.Frames != nil || o.Background != nil || o.Drawers != nil {
				return errNotHandedOff
			}
		case *OwnSet:
			err = set(o.Of, false, o.Value)
		case *PinsPut:
			for _, pin := range o.Pins {
				if err == nil {
					err = set(o.Of, true, pin.Value)
				}
			}
			if err == nil {
				err = set(o.Of, false)
			}
		case *PinsDrop:
			err = set(o.Of, false)
		case *PinsBeyond:
			err = set(o.Of, false)
		case *PieceKept:
			if c := reading(o.Composition); c == nil || c.Read() == nil || c.Read().ID != o.Item || o.State != nil && len(o.State.Links) > 0 || len(o.Weights) > 0 {
				return errNotHandedOff
			}
		default:
			return errNotHandedOff
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// onlySet refuses a reading in which more is set than what is handed off: what a catalogue of pieces has, links, limits.
func onlySet(whole, reading *scene.Composition) error {
	item := reading.Read()
	if item == nil || item.Parent != "" || reading.Width != whole.Width || reading.Height != whole.Height || reading.Rate != whole.Rate || reading.Frames != whole.Frames {
		return errNotHandedOff
	}
	for key, s := range item.States {
		if len(s.Links) > 0 || s.Limited() || s.Baked != nil {
			return errNotHandedOff
		}
		values := []scene.Value{s.Own}
		for _, pin := range s.Pins {
			values = append(values, pin.Value)
		}
		if err := mayHold(whole, key, len(s.Pins) > 0, values...); err != nil {
			return err
		}
	}
	return nil
}

// mayHold refuses a property that is no control that a composition hands off or once did, and values that such a one may not have.
func mayHold(whole *scene.Composition, key string, pinned bool, values ...scene.Value) error {
	for _, spec := range scene.Of(scene.Piece) {
		if spec.Key == key {
			return errNotHandedOff
		}
	}
	if _, weight := scene.WeightOf(key); weight {
		return errNotHandedOff
	}
	for _, h := range whole.Handed() {
		if string(h.Offer.ID) != key {
			continue
		}
		for _, v := range values {
			if err := h.MayHold(pinned, v); err != nil {
				return err
			}
		}
	}
	return nil
}

// Reads reports whether operations are within readings of a composition alone, as a project has them now.
func (ops Ops) Reads(p *scene.Project, of scene.ID) bool {
	for _, op := range ops {
		if made, ok := op.(*CompositionAdd); ok && made.Value != nil && made.Value.Reading == of {
			continue
		}
		in, ok := op.(within)
		if !ok {
			return false
		}
		if c := p.Composition(in.composition()); c == nil || c.Reading != of {
			return false
		}
	}
	return true
}

// Touches lists the compositions that operations are on, each once; of the project itself, such as its name, there is none.
func (ops Ops) Touches() (out []scene.ID) {
	for _, op := range ops {
		id := scene.ID("")
		switch o := op.(type) {
		case *CompositionAdd:
			if o.Value != nil {
				id = o.Value.ID
			}
		case within:
			id = o.composition()
		}
		if id != "" && !slices.Contains(out, id) {
			out = append(out, id)
		}
	}
	return out
}

// within is an operation within a composition.
type within interface{ composition() scene.ID }

func (in In) composition() scene.ID { return in.Composition }
