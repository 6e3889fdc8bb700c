package engine

import (
	"wunderkammer/core/layout"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// placeKeys are the properties that a place is made of, in the order of num.Place; rotation is
// gathered from three properties of one component each.
var placeKeys = []string{"position", "rotationX", "rotationY", "rotation", "scale", "pivot"}

// placeSizes is how many components each of them has.
var placeSizes = []int32{3, 1, 1, 1, 3, 3}

// placeSlots holds the first slot of each of the place keys of one item.
type placeSlots [6]int32

func isPlace(key string) bool {
	for _, k := range placeKeys {
		if k == key {
			return true
		}
	}
	return false
}

func (p *Plan) findPlaces() {
	slots := make([]placeSlots, len(p.Layout.Items))
	byKind := map[scene.Kind]placeSlots{} // counted from the item's base
	for i, item := range p.Layout.Items {
		offsets, ok := byKind[item.Kind]
		if !ok {
			for k, key := range placeKeys {
				_, slot := p.Layout.Find(item.ID, key)
				offsets[k] = slot - p.Layout.Base[i]
			}
			byKind[item.Kind] = offsets
		}
		for k, offset := range offsets {
			slots[i][k] = p.Layout.Base[i] + offset
		}
	}
	p.place = slots
}

// findMoving lists the items whose place is pinned, wired, or attached to one that moves.
func (p *Plan) findMoving() {
	moves := make([]bool, len(p.Layout.Items))
	p.moving = p.moving[:0]
	for i := range p.Layout.Items {
		if parent := p.Layout.Parents[i]; parent >= 0 && moves[parent] {
			moves[i] = true
		}
		for k, slot := range p.place[i] {
			if _, pinned := p.trackOf[slot]; pinned {
				moves[i] = true
			}
			for c := slot; c < slot+placeSizes[k]; c++ {
				moves[i] = moves[i] || p.wired[c]
			}
		}
		if moves[i] {
			p.moving = append(p.moving, int32(i))
		}
	}
}

// places works out the world transforms that may have changed; parents stand before what is
// attached to them.
func (p *Plan) places() {
	if p.stale {
		p.stale = false
		for i := range p.Layout.Items {
			p.placeItem(int32(i))
		}
		return
	}
	for _, i := range p.moving {
		p.placeItem(i)
	}
}

func (p *Plan) placeItem(i int32) {
	m := p.local(i)
	if parent := p.Layout.Parents[i]; parent >= 0 {
		w := p.World(parent)
		m = w.Mul(&m)
	}
	at := p.Layout.WorldOf(i)
	copy(p.values[at:at+layout.WorldSize], m[:])
}

// local returns the transform of an item within its parent.
func (p *Plan) local(i int32) num.Affine {
	s := &p.place[i]
	v := p.values
	return num.Place(
		[3]float64(v[s[0]:s[0]+3]),
		[3]float64{v[s[1]], v[s[2]], v[s[3]]},
		[3]float64(v[s[4]:s[4]+3]),
		[3]float64(v[s[5]:s[5]+3]),
	)
}
