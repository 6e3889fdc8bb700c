package engine

import (
	"wunderkammer/core/layout"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// findMoving finds the items whose place is pinned, wired, or attached to one that moves, and those
// that hang on their parent in another way than wholly.
func (p *Plan) findMoving() {
	p.moves = make([]bool, len(p.Layout.Items))
	p.posing = make([]bool, len(p.Layout.Items))
	weight := len(layout.Place) - 1
	for i, item := range p.Layout.Items {
		parent := p.Layout.Parents[i]
		if parent >= 0 && p.moves[parent] {
			p.moves[i] = true
		}
		for k, slot := range p.place[i] {
			changes := false
			if _, pinned := p.trackOf[slot]; pinned {
				changes = true
			}
			for c := slot; c < slot+layout.PlaceSizes[k]; c++ {
				changes = changes || p.wired[c]
			}
			p.moves[i] = p.moves[i] || changes
			p.posing[i] = p.posing[i] || (k == weight && (changes || !item.State(layout.Place[weight]).Own.Absent()))
		}
		a := &item.Attachment
		p.posing[i] = parent >= 0 && (p.posing[i] || a.NoPosition || a.NoRotation || a.NoScale)
	}
}

// placeItem works out where an item stands: its parent's transform times its own, mixed by the
// weight of the attachment with where it would stand if the parent had stayed where it was when the
// item was attached. What is not inherited is taken from where the parent stood then.
func (p *Plan) placeItem(c *snapshot, i int32) {
	local := num.Posed{Affine: p.local(c, i), Turn: c.values[p.place[i][3]]}
	parent := p.Layout.Parents[i]
	if parent < 0 {
		p.stand(c, i, &local)
		return
	}
	holds := p.posed(c, parent)
	if !p.posing[i] {
		placed := compose(&holds, &local)
		p.stand(c, i, &placed)
		return
	}
	a := &p.Layout.Items[i].Attachment
	stayed := stayedOf(a)
	pivot := [3]float64(c.values[p.place[i][5] : p.place[i][5]+3])
	left, taken := compose(&stayed, &local), inherit(&stayed, &holds, &local, pivot, a)
	placed := num.Mix(&left, &taken, c.values[p.place[i][6]]/100, pivot)
	p.stand(c, i, &placed)
}

// inherit returns where an item stands by what it takes over of its parent, each by itself: its place is that
// of its pivot within the parent, or within the parent as it stood when the item was attached; its rotation
// and its stretch follow likewise, about the pivot.
func inherit(stayed, holds, local *num.Posed, pivot [3]float64, a *scene.Attachment) num.Posed {
	if !a.NoPosition && !a.NoRotation && !a.NoScale {
		return compose(holds, local)
	}
	within := num.Choose(stayed, holds, !a.NoRotation, !a.NoScale)
	placed := compose(&within, local)
	by := holds
	if a.NoPosition {
		by = stayed
	}
	at, is := by.Apply(local.Apply(pivot)), placed.Apply(pivot)
	for k := range 3 {
		placed.Affine[4*k+3] += at[k] - is[k]
	}
	return placed
}

func compose(a, b *num.Posed) num.Posed {
	return num.Posed{Affine: a.Mul(&b.Affine), Turn: a.Turn + b.Turn}
}

func (p *Plan) stand(c *snapshot, i int32, placed *num.Posed) {
	at := p.Layout.WorldOf(i)
	copy(c.values[at:at+12], placed.Affine[:])
	c.values[at+12] = placed.Turn
}

func (p *Plan) posed(c *snapshot, i int32) num.Posed {
	at := p.Layout.WorldOf(i)
	return num.Posed{Affine: num.Affine(c.values[at : at+12]), Turn: c.values[at+12]}
}

// local returns the transform of an item within its parent.
func (p *Plan) local(c *snapshot, i int32) num.Affine {
	s := &p.place[i]
	v := c.values
	return num.Place(
		[3]float64(v[s[0]:s[0]+3]),
		[3]float64{v[s[1]], v[s[2]], v[s[3]]},
		[3]float64(v[s[4]:s[4]+3]),
		[3]float64(v[s[5]:s[5]+3]),
	)
}

// World returns where item i stands in the composition, at the frame last evaluated; of what a piece shows, where it is seen.
func (p *Plan) World(i int32) num.Affine {
	slot := p.Layout.SeenOf(i)
	return num.Affine(p.now.values[slot : slot+12])
}

// Posed is World with the whole turns of the rotation about z.
func (p *Plan) Posed(i int32) num.Posed { return p.posed(&p.now, i) }

// Local returns the transform of item i within its parent, at the frame last evaluated.
func (p *Plan) Local(i int32) num.Affine { return p.local(&p.now, i) }

// Parent returns the transform that the position of item i is counted in when its attachment is whole: that of its
// parent, or of its parent as it stood when the item was attached, where it does not take over its position.
func (p *Plan) Parent(i int32) num.Posed {
	parent, a := p.Layout.Parents[i], &p.Layout.Items[i].Attachment
	switch {
	case parent < 0:
		return num.Posed{Affine: num.Identity}
	case a.NoPosition:
		return stayedOf(a)
	}
	return p.posed(&p.now, parent)
}

// stayedOf returns where the parent stood when the item was attached.
func stayedOf(a *scene.Attachment) num.Posed {
	stayed := num.Posed{Affine: num.Identity, Turn: a.Turns}
	if a.Stayed != nil {
		stayed.Affine = *a.Stayed
	}
	return stayed
}
