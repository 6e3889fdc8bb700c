package change

import (
	"fmt"
	"slices"

	"wunderkammer/core/scene"
)

// OfferSet hands a control off, or says otherwise how one is handed off that is already; it goes to a place of the list.
type OfferSet struct {
	In
	Value *scene.Offer `json:"value"`
	At    int          `json:"at"` // below 0: where it is, or the end
}

func (o *OfferSet) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if o.Value == nil {
		return nil, Effect{}, fmt.Errorf("no control to hand off was given")
	}
	next := c.HandOff.Clone()
	if next == nil {
		next = &scene.HandOff{}
	}
	if of := next.Of(o.Value.Item, o.Value.Control); of != nil && of.ID != o.Value.ID {
		return nil, Effect{}, fmt.Errorf("the control is handed off already")
	}
	was, k := next.Offer(o.Value.ID)
	if was != nil && (was.Item != o.Value.Item || was.Control != o.Value.Control) {
		return nil, Effect{}, fmt.Errorf("which control is handed off can't be changed; hand the other one off by itself")
	}
	at := o.At
	if k >= 0 {
		next.Offers = slices.Delete(next.Offers, k, k+1)
		if at < 0 {
			at = k
		}
	}
	next.Offers = slices.Insert(next.Offers, place(at, len(next.Offers)), o.Value.Clone())
	if err := next.Check(); err != nil {
		return nil, Effect{}, err
	}
	var inverse Op = &OfferRemove{o.In, o.Value.ID}
	if k >= 0 {
		inverse = &OfferSet{o.In, was, k}
	} else if err := claim(p, o.Value.ID); err != nil {
		return nil, Effect{}, err
	}
	c.HandOff = next
	return inverse, Effect{Composition: o.Composition, Touch: Offers}, nil
}

// OfferRemove hands a control off no longer.
type OfferRemove struct {
	In
	Offer scene.ID `json:"offer"`
}

func (o *OfferRemove) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	was, k := c.HandOff.Offer(o.Offer)
	if k < 0 {
		return nil, Effect{}, fmt.Errorf("the control is not handed off any more; that may have been done in another window")
	}
	next := c.HandOff.Clone()
	next.Offers = slices.Delete(next.Offers, k, k+1)
	c.HandOff = kept(next)
	p.Release(o.Offer)
	return &OfferSet{o.In, was, k}, Effect{Composition: o.Composition, Touch: Offers}, nil
}

// HandOffNote writes the note that goes with what is handed off; empty for none.
type HandOffNote struct {
	In
	Note string `json:"note"`
}

func (o *HandOffNote) apply(p *scene.Project) (Op, Effect, error) {
	c, err := o.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	next := c.HandOff.Clone()
	if next == nil {
		next = &scene.HandOff{}
	}
	inverse := &HandOffNote{o.In, next.Note}
	next.Note = o.Note
	next = kept(next)
	if err := next.Check(); err != nil {
		return nil, Effect{}, err
	}
	c.HandOff = next
	return inverse, Effect{Composition: o.Composition}, nil
}

// kept returns a hand-off, or nil where nothing is left of it.
func kept(h *scene.HandOff) *scene.HandOff {
	if h.Note == "" && len(h.Offers) == 0 {
		return nil
	}
	return h
}

// ItemPiece has a piece show another composition.
type ItemPiece struct {
	On
	Shows scene.ID `json:"shows"`
}

func (o *ItemPiece) apply(p *scene.Project) (Op, Effect, error) {
	c, item, err := o.On.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	if item.Piece == nil {
		return nil, Effect{}, fmt.Errorf("%s is not a piece, and shows no composition", item.Name)
	}
	if err := scene.CheckID(o.Shows); err != nil {
		return nil, Effect{}, err
	}
	inverse := &ItemPiece{o.On, item.Piece.Composition}
	c.Show(item, o.Shows)
	return inverse, o.structure(), nil
}

// PieceKept takes away what is kept of a property that the composition of a piece doesn't hand off any more, or holds other values in; or
// brings it back.
type PieceKept struct {
	Of
	State   *scene.State  `json:"state,omitempty"` // absent: nothing any more
	Weights scene.Weights `json:"weights,omitempty"`
}

func (o *PieceKept) apply(p *scene.Project) (Op, Effect, error) {
	_, item, err := o.On.find(p)
	if err != nil {
		return nil, Effect{}, err
	}
	was := item.States[o.Property]
	if o.State == nil && item.Kept(o.Property) == nil {
		return nil, Effect{}, fmt.Errorf("nothing is kept of %q on %s", clip(o.Property), item.Name)
	}
	trial := &scene.Item{ID: item.ID, Name: item.Name, Kind: item.Kind, Piece: item.Piece, Controls: item.Controls, States: map[string]*scene.State{}}
	if o.State != nil {
		trial.States[o.Property] = o.State
		if err := trial.Check(); err != nil {
			return nil, Effect{}, err
		}
		if trial.Kept(o.Property) == nil || was != nil {
			return nil, Effect{}, fmt.Errorf("%s has that property now; set it as any other", item.Name)
		}
		if err := o.Weights.Check(o.State.Links...); err != nil {
			return nil, Effect{}, fmt.Errorf("%s: %w", item.Name, err)
		}
		if err := claim(p, scene.LinkIDs(o.State.Links, o.Weights.Links())...); err != nil {
			return nil, Effect{}, err
		}
		if item.States == nil {
			item.States = map[string]*scene.State{}
		}
		item.States[o.Property] = o.State.Clone()
		item.PutWeights(o.Weights)
		return &PieceKept{Of: o.Of}, o.structure(), nil
	}
	inverse := &PieceKept{Of: o.Of, State: was}
	delete(item.States, o.Property)
	inverse.Weights = item.TakeWeights(was.Links...)
	p.Release(scene.LinkIDs(was.Links, inverse.Weights.Links())...)
	item.Tidy(o.Property)
	return inverse, o.structure(), nil
}
