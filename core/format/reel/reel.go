package reel

import (
	"fmt"
	"slices"

	"wunderkammer/core/engine"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// Reel is a run of frames of a composition.
type Reel struct {
	Composition *scene.Composition
	From, Count int     // frames
	Parts       []*Part // from the hindmost to the foremost
}

// Part is something made of lines that is seen at some frame.
type Part struct {
	Item  *scene.Item
	Looks []*Look // one for each frame; nil where it is not seen
}

// MaxLooks bounds a reel: parts, each at each frame.
const MaxLooks = 2_000_000

// Recording makes a reel, frame by frame.
type Recording struct {
	Reel
	plan  *engine.Plan
	parts map[seenAs]*Part
	order map[int32][]*Part // by the item that stands in the order of layers
	looks int
	done  int
}

// seenAs tells an item from itself as another copy shows it, and as it is painted in a way that nothing leads to from another.
type seenAs struct {
	item, lane int32
	paint      string // the sort of its fill, or its picture
	cap, join  int
}

// Record begins a reel of the frames from one to another.
func Record(p *engine.Plan, from, to int) *Recording {
	return &Recording{
		Reel: Reel{Composition: p.Layout.Composition, From: from, Count: to - from + 1},
		plan: p, parts: map[seenAs]*Part{}, order: map[int32][]*Part{},
	}
}

// Step takes in the next frame, and reports whether there are more.
func (r *Recording) Step() (more bool, err error) {
	p := r.plan
	p.Evaluate(float64(r.From + r.done))
	Outlined(p, func(s Seen) bool {
		look := LookOf(p, s)
		if look == nil {
			return true
		}
		if r.looks++; r.looks > MaxLooks {
			err = fmt.Errorf("there is too much of it: %d shapes at %d frames. Export fewer frames, or pictures that move", len(r.parts), r.Count)
			return false
		}
		part := r.part(s, look)
		if before := part.before(r.done); before != nil {
			look.share(before)
		}
		part.Looks[r.done] = look
		return true
	})
	if err != nil {
		return false, err
	}
	if r.done++; r.done < r.Count {
		return true, nil
	}
	painted := p.Layout.Painted()
	for n := len(painted) - 1; n >= 0; n-- {
		r.Parts = append(r.Parts, r.order[painted[n]]...)
	}
	return false, nil
}

// Done returns how many frames are in.
func (r *Recording) Done() int { return r.done }

// part returns the part that something seen belongs to. The parts of copies stand where what shows them does.
func (r *Recording) part(s Seen, l *Look) *Part {
	key := seenAs{s.Item, s.By.Lane, l.Fill.Kind, l.Cap, l.Join}
	if l.Picture != nil {
		key.paint = fmt.Sprint(*l.Picture)
	}
	layer := s.Item
	if key.lane >= 0 {
		layer = r.layer(s.By.Lane)
	}
	part := r.parts[key]
	if part == nil {
		part = &Part{Item: r.plan.Layout.Items[s.Item], Looks: make([]*Look, r.Count)}
		r.parts[key] = part
		r.order[layer] = append(r.order[layer], part)
	}
	return part
}

// layer returns the outermost item that shows copies around one.
func (r *Recording) layer(lane int32) int32 {
	at, l := lane, r.plan.Layout
	out := at
	for ; at >= 0; at = l.Holder(at) {
		if l.Items[at].Kind == scene.CopiesItem {
			out = at
		}
	}
	return out
}

// before returns the look at the last frame before one at which it was seen.
func (p *Part) before(k int) *Look {
	for k--; k >= 0; k-- {
		if p.Looks[k] != nil {
			return p.Looks[k]
		}
	}
	return nil
}

// share lets a look have its outlines in common with an earlier one, where they are the same.
func (l *Look) share(before *Look) {
	if same(l.Outline, before.Outline) {
		l.Outline = before.Outline
	}
	switch {
	case l.Whole:
		l.Line = l.Outline
	case same(l.Line, before.Line):
		l.Line = before.Line
	}
}

func same(a, b outline.Path) bool {
	return Alike(a, b) && slices.Equal(a.Points, b.Points)
}

// Alike reports whether two outlines have the same pieces, so that there is something between them.
func Alike(a, b outline.Path) bool { return slices.Equal(a.Verbs, b.Verbs) }

// First returns the first look of a part; nil for none.
func (p *Part) First() *Look {
	for _, look := range p.Looks {
		if look != nil {
			return look
		}
	}
	return nil
}

// Whole reports whether the line of a part runs along all of its outline, at every frame.
func (p *Part) Whole() bool {
	return !slices.ContainsFunc(p.Looks, func(l *Look) bool { return l != nil && !l.Whole })
}

// Size returns how long the longest side of a unit square of the part gets at most.
func (p *Part) Size() float64 {
	size := 0.0
	for _, look := range p.Looks {
		if look != nil {
			size = max(size, look.Place.size())
		}
	}
	return size
}

// Widest returns the look with the widest line.
func (p *Part) Widest() *Look {
	widest := p.First()
	for _, look := range p.Looks {
		if look != nil && look.Width > widest.Width {
			widest = look
		}
	}
	return widest
}
