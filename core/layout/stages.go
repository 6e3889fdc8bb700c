package layout

import (
	"slices"

	"wunderkammer/core/scene"
)

// SeenSize is how many slots say where something that a piece shows is seen: the rows of num.Affine in the space of the composition, the
// rotation about z as in a world transform, and how much the pieces around it leave of its opacity, 0 to 1.
const SeenSize = WorldSize + 1

// Stage is a composition with its items, as they are laid out: by itself, or as a piece shows it.
type Stage struct {
	Composition  *scene.Composition
	Piece        int32 // the item that shows it; -1 for the composition itself
	First, Count int32 // its items, and behind them the copies that they show
	// Apart says that it is shown at a time of its own, or that what shows it is: it is worked out by itself.
	Apart bool
	index map[scene.ID]int32 // counted from First; of all stages of one composition
}

// cast is the items of a composition in the order in which they are laid out.
type cast struct {
	items  []*scene.Item
	depths []int
	own    int
	index  map[scene.ID]int32
}

func castOf(c *scene.Composition) *cast {
	items, depths := c.Tree()
	k := &cast{own: len(items)}
	for i, item := range items {
		for _, lane := range item.Lanes() {
			items, depths = append(items, lane), append(depths, depths[i]+1)
		}
	}
	k.items, k.depths, k.index = items, depths, make(map[scene.ID]int32, len(items))
	for i, item := range items {
		k.index[item.ID] = int32(i)
	}
	return k
}

// stages lists the items of the composition, and those of all that its pieces show. Those that would come to more than scene.MaxStaged, or
// show themselves, are left out: nothing makes such, but what others wrote may.
func (l *Layout) stages() {
	known := map[*scene.Composition]*cast{}
	set := func(c *scene.Composition, piece int32, apart bool) {
		k := known[c]
		if k == nil {
			k = castOf(c)
			known[c] = k
		}
		if piece < 0 {
			l.Own, l.Items, l.Depths = k.own, slices.Clip(k.items), slices.Clip(k.depths)
		} else {
			l.Items = append(l.Items, k.items...)
			for _, depth := range k.depths {
				l.Depths = append(l.Depths, depth+1+l.Depths[piece])
			}
		}
		first := int32(len(l.Items) - len(k.items))
		if piece >= 0 {
			l.shows[piece] = int32(len(l.Stages))
		}
		l.Stages = append(l.Stages, Stage{c, piece, first, int32(len(k.items)), apart, k.index})
		for range k.items {
			l.stage = append(l.stage, int32(len(l.Stages)-1))
		}
	}
	set(l.Composition, -1, false)
	for at := 0; at < len(l.Stages); at++ {
		stage := l.Stages[at]
		for i := stage.First; i < stage.First+stage.Count; i++ {
			of := l.Items[i].Stage()
			if of == nil || l.within(at, of) || len(l.Items)-int(l.Stages[0].Count)+of.Laid() > scene.MaxStaged {
				continue
			}
			set(of, i, stage.Apart || !stage.Composition.InStep(l.Items[i]))
		}
	}
}

// within reports whether a stage, or one around it, is of a composition.
func (l *Layout) within(at int, c *scene.Composition) bool {
	for {
		if l.Stages[at].Composition == c {
			return true
		}
		piece := l.Stages[at].Piece
		if piece < 0 {
			return false
		}
		at = int(l.stage[piece])
	}
}

// In returns where an item of a stage, or a copy that one shows, stands in Items, or -1.
func (l *Layout) In(stage int32, id scene.ID) int32 {
	if i, ok := l.Stages[stage].index[id]; ok {
		return l.Stages[stage].First + i
	}
	return -1
}

// StageOf returns the stage that item i is on.
func (l *Layout) StageOf(i int32) int32 { return l.stage[i] }

// CompositionOf returns the composition that item i is of.
func (l *Layout) CompositionOf(i int32) *scene.Composition { return l.Stages[l.stage[i]].Composition }

// Apart reports whether item i is worked out apart from the composition, at a time of its own.
func (l *Layout) Apart(i int32) bool { return l.Stages[l.stage[i]].Apart }

// Showing returns the stage that a piece shows; -1 where it shows none.
func (l *Layout) Showing(piece int32) int32 {
	if at, ok := l.shows[piece]; ok {
		return at
	}
	return -1
}

// Same returns where an item of the layout stands in another one of the same composition, or -1.
func (l *Layout) Same(in *Layout, i int32) int32 {
	at := int32(0)
	if s := &l.Stages[l.stage[i]]; s.Piece >= 0 {
		piece := l.Same(in, s.Piece)
		if piece < 0 {
			return -1
		}
		if at = in.Showing(piece); at < 0 {
			return -1
		}
	}
	return in.In(at, l.Items[i].ID)
}

// Holder returns what item i hangs on, or else the piece that shows it; -1 for neither.
func (l *Layout) Holder(i int32) int32 {
	if p := l.Parents[i]; p >= 0 {
		return p
	}
	return l.Stages[l.stage[i]].Piece
}

// Outermost returns the piece of the composition itself by way of which item i is shown; -1 where none shows it.
func (l *Layout) Outermost(i int32) int32 {
	piece := l.Stages[l.stage[i]].Piece
	for piece >= 0 && l.Staged(piece) {
		piece = l.Stages[l.stage[piece]].Piece
	}
	return piece
}

// Anywhere returns where an item stands in Items, be it of the composition or of one that a piece shows; the first of several, or -1.
func (l *Layout) Anywhere(id scene.ID) int32 {
	for at := range l.Stages {
		if i := l.In(int32(at), id); i >= 0 {
			return i
		}
	}
	return -1
}

// Laid returns the items of the composition itself, and the copies that they show.
func (l *Layout) Laid() []*scene.Item { return l.Items[:l.Stages[0].Count] }

// Staged reports whether a piece shows item i.
func (l *Layout) Staged(i int32) bool { return i >= l.Stages[0].Count }

// SeenOf returns the first slot of where item i is seen in the composition: of what a piece shows SeenSize slots, else its world transform.
func (l *Layout) SeenOf(i int32) int32 {
	if !l.Staged(i) {
		return l.WorldOf(i)
	}
	return l.Seen + SeenSize*(i-l.Stages[0].Count)
}

// Painted lists all items in the order in which they are painted over one another, the front first: what a piece shows stands where the piece
// does, in front of what hangs on it. Copies that items show are not among them.
func (l *Layout) Painted() []int32 {
	out := make([]int32, 0, len(l.Items))
	var list func(at int32)
	list = func(at int32) {
		s := &l.Stages[at]
		for i := s.First; i < s.First+s.Count; i++ {
			if l.Items[i].Kind == scene.Copy {
				continue
			}
			out = append(out, i)
			if inner := l.Showing(i); inner > 0 {
				list(inner)
			}
		}
	}
	list(0)
	return out
}
