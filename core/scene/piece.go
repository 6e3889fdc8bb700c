package scene

import (
	"fmt"
	"slices"
)

// Shown is what an item of kind piece shows: another composition of the project. The controls which that hands off are properties
// of the piece, by the ids of their offers.
type Shown struct {
	Composition ID `json:"composition"`

	whole *Composition // nil where there is none of that id
}

// Bounds of pieces.
const (
	MaxPieceDepth = 8 // pieces within pieces
	// MaxStaged bounds how many items all pieces of a composition show together, those of pieces in them among them.
	MaxStaged = 100_000
)

// The properties of a piece that say at what time it shows its composition.
const (
	PieceShow  = "pieceShow"  // one of Shows
	PieceTime  = "pieceTime"  // with a time of its own, that time, in seconds
	PieceStart = "pieceStart" // else, when it begins, in seconds
	PieceSpeed = "pieceSpeed" // and how fast it runs, in percent
	PieceEnds  = "pieceEnds"  // and what it shows beyond its ends, one of Ends
)

// Ends are what a piece shows before the first frame of its composition and behind the last, by number from 0.
var Ends = []string{"extend", "hold", "repeat", "mirror"}

// Join tells the pieces of the project which composition they show. Whoever reads a project, or writes to its list of
// compositions, calls it.
func (p *Project) Join() {
	for _, c := range p.Compositions {
		if c == nil {
			continue
		}
		c.join(p)
	}
	for _, b := range p.Befores {
		if b != nil && b.Value != nil {
			b.Value.join(p)
		}
	}
	for _, r := range p.Recipes {
		if r != nil {
			p.stage(r.Items)
		}
	}
}

func (c *Composition) join(p *Project) {
	c.home, c.handed = p, nil
	p.stage(c.Items)
}

// stage tells an item which composition it shows.
func (c *Composition) stage(item *Item) { c.home.stage([]*Item{item}) }

// stage tells items which compositions of the project they show.
func (p *Project) stage(items []*Item) {
	for _, item := range items {
		if item == nil || item.Piece == nil {
			continue
		}
		if item.Piece.whole = nil; p == nil {
			continue
		}
		for _, other := range p.Compositions {
			if other != nil && other.ID == item.Piece.Composition {
				item.Piece.whole = other
			}
		}
	}
}

// shown adds to a list of compositions those that items show, and all that these show.
func shown(list []*Composition, items []*Item) []*Composition {
	add := func(items []*Item) {
		for _, item := range items {
			if of := item.Stage(); of != nil && !slices.Contains(list, of) {
				list = append(list, of)
			}
		}
	}
	first := len(list)
	add(items)
	for k := first; k < len(list); k++ {
		add(list[k].Items)
	}
	return list
}

// Show has a piece of the composition show another one.
func (c *Composition) Show(piece *Item, of ID) {
	piece.Piece = &Shown{Composition: of}
	c.stage(piece)
}

// Stage returns the composition that a piece shows; nil for any other item, and where it is gone.
func (i *Item) Stage() *Composition {
	if i.Piece == nil {
		return nil
	}
	return i.Piece.whole
}

// Handed returns the controls that the composition of a piece hands off.
func (i *Item) Handed() []Handed { return i.Stage().Handed() }

// HandedAs returns the control that is handed off as a property of a piece; false where there is none.
func (i *Item) HandedAs(key string) (Handed, bool) {
	if i.Piece != nil {
		for _, h := range i.Handed() {
			if string(h.Offer.ID) == key {
				return h, true
			}
		}
	}
	return Handed{}, false
}

// Added lists the properties that an item has besides those of its kind: its controls, and those that the composition of a piece
// hands off.
func (i *Item) Added() (out []*Spec) {
	for _, c := range i.Controls {
		out = append(out, c.Spec())
	}
	if i.Piece != nil {
		for _, h := range i.Handed() {
			out = append(out, h.Spec())
		}
	}
	return out
}

// Given returns what a property shows while nobody sets it on the item, where that is more than the default of its kind: of a piece, what
// its composition does by itself.
func (i *Item) Given(key string) (*State, bool) {
	h, ok := i.HandedAs(key)
	if !ok {
		return nil, false
	}
	return h.Given(), true
}

// Untouched reports whether a property of a piece shows what its composition does by itself.
func (i *Item) Untouched(key string) bool {
	s := i.State(key)
	return s.Own.Absent() && len(s.Pins) == 0
}

// Stale lists the properties of a piece that were set, by key, and that its composition doesn't hand off any more, or holds other
// values in: they are kept, and count for nothing.
func (i *Item) Stale() (out []string) {
	if i.Piece == nil {
		return nil
	}
	for key := range i.States {
		if i.Kept(key) != nil {
			out = append(out, key)
		}
	}
	slices.Sort(out)
	return out
}

// fits reports whether values of a property can be what a state holds.
func (s *State) fits(spec *Spec) bool {
	if !s.Own.Absent() && s.Own.Fits(spec.Type) != nil {
		return false
	}
	return !slices.ContainsFunc(s.Pins, func(p Pin) bool { return p.Value.Fits(spec.Type) != nil })
}

// checkPiece refuses a piece that shows nothing, and what is no piece and shows something.
func (i *Item) checkPiece() error {
	if (i.Piece != nil) != (i.Kind == Piece) {
		return fmt.Errorf("only a piece shows a composition, and every piece does")
	}
	if i.Piece != nil {
		return CheckID(i.Piece.Composition)
	}
	return nil
}

// CheckPieces refuses compositions that show themselves by way of pieces, and pieces that are nested too deep or come to too much.
func (p *Project) CheckPieces() error {
	known := map[*Composition]staged{}
	for _, c := range p.Compositions {
		all, err := c.staged(known, nil)
		if err != nil {
			return err
		}
		if all.depth > MaxPieceDepth {
			return fmt.Errorf("%s would show pieces in pieces %d deep; they can be nested %d deep", c.Name, all.depth, MaxPieceDepth)
		}
		if all.items > MaxStaged {
			return fmt.Errorf("the pieces of %s would show more than %d items altogether; use fewer of them, or smaller ones", c.Name, MaxStaged)
		}
	}
	return nil
}

// staged is how much the pieces of a composition show.
type staged struct{ items, depth int }

func (c *Composition) staged(known map[*Composition]staged, within []*Composition) (all staged, err error) {
	if slices.Contains(within, c) {
		return all, fmt.Errorf("%s can't show itself, not by way of %s either", c.Name, within[len(within)-1].Name)
	}
	if all, ok := known[c]; ok {
		return all, nil
	}
	for _, item := range c.Items {
		of := item.Stage()
		if of == nil {
			continue
		}
		inner, err := of.staged(known, append(within, c))
		if err != nil {
			return all, err
		}
		all.items = min(all.items+inner.items+of.Laid(), MaxStaged+1)
		all.depth = max(all.depth, inner.depth+1)
	}
	known[c] = all
	return all, nil
}

// Laid returns how many items are laid out of a composition itself: its own, and the copies that they show.
func (c *Composition) Laid() int {
	n := len(c.Items)
	for _, item := range c.Items {
		n += item.MostCopies()
	}
	return n
}

// Pieces lists the compositions that show another one as a piece, directly or by way of others, itself first.
func (p *Project) Pieces(of ID) (out []*Composition) {
	c := p.Composition(of)
	if c == nil {
		return nil
	}
	out = []*Composition{c}
	for k := 0; k < len(out); k++ {
		for _, other := range p.Compositions {
			if slices.Contains(out, other) {
				continue
			}
			if slices.ContainsFunc(other.Items, func(i *Item) bool { return i.Stage() == out[k] }) {
				out = append(out, other)
			}
		}
	}
	return out
}

// loose returns a specification that what was set of a property of a piece fits, where its composition has none of that key, or one of
// other values; nil where no property can hold that.
func (s *State) loose(key string) *Spec {
	if CheckID(ID(key)) != nil {
		return nil
	}
	var fit *Spec
	for _, of := range []Type{Number, Colour, Point3, Point2, Text} {
		spec := &Spec{Key: key, Name: "what is no longer handed off", Group: GroupControls, Type: of, Default: NewValue(make([]float64, of.Size())), Min: -inf, Max: inf, Step: 1}
		if fit == nil {
			fit = spec
		}
		if CheckState(spec, s) == nil {
			return spec
		}
	}
	return fit
}

// Kept returns the specification of a property that was set on a piece and that its composition doesn't hand off any more, so that it can
// be taken away; nil for any other.
func (i *Item) Kept(key string) *Spec {
	s := i.States[key]
	if i.Piece == nil || s == nil || byKey[i.Kind][key] != nil || i.Control(ID(key)) != nil {
		return nil
	}
	if _, weight := WeightOf(key); weight {
		return nil
	}
	if spec := i.Spec(key); spec != nil && s.fits(spec) {
		return nil
	}
	return s.loose(key)
}

// Clocked are the properties of a piece that say at what time it shows its composition.
var Clocked = []string{PieceShow, PieceTime, PieceStart, PieceSpeed, PieceEnds}

// InStep reports whether a piece shows its composition at the same frame, always: nothing of its time is set or driven, and both have as
// many frames a second.
func (c *Composition) InStep(piece *Item) bool {
	of := piece.Stage()
	if of == nil || of.Rate != c.Rate {
		return false
	}
	for _, key := range Clocked {
		s := piece.State(key)
		if len(s.Pins) > 0 || len(s.Links) > 0 || len(c.RosterLinksOn(piece, key)) > 0 {
			return false
		}
		spec := piece.Spec(key)
		if own := spec.Held(s.OwnOr(spec)); own != spec.Default && (key != PieceTime) {
			return false
		}
	}
	return true
}
