package engine

import (
	"wunderkammer/core/layout"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// carrying is where a piece takes what it shows, as it was last worked out.
type carrying struct {
	num.Posed
	opacity float64 // that is left, 0 to 1
	known   bool
}

// flatness is how much is left of the depth of what a piece shows flat: enough to tell what lies in front.
const flatness = 1e-3

// Where properties of pieces stand in scene.Of(scene.Piece).
var pieceOpacity, pieceDepth = ofKind(scene.Piece, "opacity"), ofKind(scene.Piece, "pieceDepth")

// see works out where all that pieces show is seen, at the frame last evaluated. Outer pieces come before those in them.
func (p *Plan) see() {
	for at := 1; at < len(p.Layout.Stages); at++ {
		p.seeStage(at, false)
	}
}

// seeStage works out where all that one piece shows is seen; whole: though the piece stands where it did.
func (p *Plan) seeStage(at int, whole bool) {
	s, now := &p.Layout.Stages[at], p.carried(at)
	was := &p.carries[at]
	whole = whole || p.seenStale || s.Apart || !was.known || was.Posed != now.Posed || was.opacity != now.opacity
	*was = now
	for i := s.First; i < s.First+s.Count; i++ {
		if whole || p.moves[i] {
			p.seeItem(i, &now)
		}
	}
}

// carried works out where a piece takes what it shows.
func (p *Plan) carried(at int) carrying {
	piece := p.Layout.Stages[at].Piece
	slot := p.Layout.SeenOf(piece)
	v := p.now.values
	out := carrying{opacity: held(v[p.Layout.Slot(piece, pieceOpacity)]) / 100, known: true}
	out.Affine, out.Turn = num.Affine(v[slot:slot+12]), v[slot+12]
	if p.Layout.Staged(piece) {
		out.opacity = float64(out.opacity * v[slot+layout.WorldSize])
	}
	if v[p.Layout.Slot(piece, pieceDepth)] < 0.5 {
		flat := num.Identity
		flat[10] = flatness
		out.Affine = out.Mul(&flat)
	}
	return out
}

// seeItem puts where an item is seen into its slots.
func (p *Plan) seeItem(i int32, by *carrying) {
	world := p.posed(&p.now, i)
	seen := compose(&by.Posed, &world)
	slot := p.Layout.SeenOf(i)
	copy(p.now.values[slot:slot+12], seen.Affine[:])
	p.now.values[slot+12], p.now.values[slot+layout.WorldSize] = seen.Turn, by.opacity
}

// carry returns where the piece that shows item i takes it, and what it leaves of its opacity: as it is for an item that none shows.
func (p *Plan) carry(i int32) (through num.Affine, opacity float64) {
	if at := p.Layout.StageOf(i); at > 0 {
		return p.carries[at].Affine, p.carries[at].opacity
	}
	return num.Identity, 1
}

// Opacity returns what the pieces around item i leave of its opacity at the frame last evaluated, 0 to 1.
func (p *Plan) Opacity(i int32) float64 {
	_, opacity := p.carry(i)
	return opacity
}

// PatchStaged is Patch for an item wherever pieces show the composition that it is of.
func (p *Plan) PatchStaged(of *scene.Composition, item scene.ID, key string) bool {
	var after patching
	for at := 1; at < len(p.Layout.Stages); at++ {
		s := &p.Layout.Stages[at]
		if s.Composition != of {
			continue
		}
		if s.Apart {
			p.apartAnew()
		}
		if i := p.Layout.In(int32(at), item); i >= 0 && !p.patch(i, key, &after) {
			return false
		}
		for _, h := range of.Handed() {
			if h.Item.ID == item && string(h.From.ID) == key { // which the piece shows while nobody sets it
				p.Layout.RereadAt(s.Piece)
				if !p.patch(s.Piece, string(h.Offer.ID), &after) {
					return false
				}
			}
		}
	}
	p.patched(&after)
	return true
}

// Shows reports whether a piece shows a composition, be it in another piece.
func (p *Plan) Shows(of scene.ID) bool {
	for _, s := range p.Layout.Stages[1:] {
		if s.Composition.ID == of {
			return true
		}
	}
	return false
}

// Retimed reports whether a piece is worked out in step with the composition around it and should not be now, or the other way round.
func (p *Plan) Retimed(item *scene.Item) bool {
	at := p.Layout.Showing(p.Layout.Index(item.ID))
	return at > 0 && p.Layout.Stages[at].Apart == p.Layout.Composition.InStep(item)
}
