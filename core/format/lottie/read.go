package lottie

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"wunderkammer/core/curve"
	"wunderkammer/core/format/brought"
	"wunderkammer/core/scene"
)

// Drawing is what an animation comes to.
type Drawing struct {
	// Items are the animation's in the order of a tree. The middle of its picture is the origin.
	Items []*scene.Item
	// Frames is how long it plays, in frames of the composition.
	Frames int
	// Missed says what was not understood, with how often it occurs.
	Missed []string
}

// Bounds of what is made of a file.
const (
	maxMade  = 20000 // items
	maxDepth = 60    // of compositions and groups in each other
)

// reader makes items of a file.
type reader struct {
	file     *animation
	newID    func() scene.ID
	pictures []scene.AssetID
	brought.Missed
	made, keys, worked, vertices int
}

// node is an item with what hangs on it; the first is in front.
type node struct {
	item *scene.Item
	kids []*node
	// bare is one that stands where its parent does: it can be given a place of its own. Its own space is shifted by that much.
	bare  bool
	shift [2]float64
}

// open reads what a file says.
func open(file []byte) (*animation, error) {
	a := &animation{}
	if err := json.Unmarshal(file, a); err != nil {
		if errors.Is(err, errProperty) {
			return nil, errProperty
		}
		return nil, errors.New("it is not a Lottie animation, or damaged")
	}
	if len(a.Layers) == 0 || !(a.Rate > 0) || a.Rate > 1000 || !(a.To > a.From) || !(a.Width > 0) || !(a.Height > 0) || a.Width > far || a.Height > far {
		return nil, errors.New("it is not a Lottie animation: it says no size, rate or layers")
	}
	return a, nil
}

// Pictures returns the pictures of an animation, in the order of its assets; of what is none, an empty one. parts are the files that
// were chosen with it, by their names.
func Pictures(file []byte, parts map[string][]byte) ([]brought.Picture, error) {
	a, err := open(file)
	if err != nil {
		return nil, err
	}
	out := make([]brought.Picture, len(a.Assets))
	for k := range a.Assets {
		if one := &a.Assets[k]; one.File != "" && len(one.Layers) == 0 {
			data, err := brought.At(one.File, parts)
			if err != nil {
				return nil, err
			}
			out[k] = brought.Picture{Name: one.ID, Data: data}
		}
	}
	return out, nil
}

// Read makes items of an animation that begins at a frame of a composition of a rate: of layers and groups of shapes items that hang on
// each other as they do, of keys pins. pictures are where those that Pictures returned are kept. What is not understood is listed, and
// the rest is read.
func Read(file []byte, pictures []scene.AssetID, start int, rate float64, newID func() scene.ID) (*Drawing, error) {
	a, err := open(file)
	if err != nil {
		return nil, err
	}
	r := &reader{file: a, newID: newID, pictures: pictures}
	by := rate / a.Rate
	c := clock{by, float64(start) - float64(a.From*by)}
	seen := [2]float64{c.at(a.From), c.at(a.To)}
	roots, err := r.layers(a.Layers, context{clock: c, from: [2]float64{-a.Width / 2, a.Height / 2}, seen: seen, whole: seen})
	if err != nil {
		return nil, err
	}
	d := &Drawing{Missed: r.List(), Frames: int(math.Ceil(seen[1] - seen[0]))}
	var list func(nodes []*node, parent scene.ID)
	list = func(nodes []*node, parent scene.ID) {
		for _, n := range nodes {
			n.item.Parent = parent
			d.Items = append(d.Items, n.item)
			list(n.kids, n.item.ID)
		}
	}
	list(roots, "")
	if !slices.ContainsFunc(d.Items, func(i *scene.Item) bool { return i.Kind.Drawn() }) {
		return nil, errors.New("nothing in the animation can be shown" + because(d.Missed))
	}
	return d, nil
}

func because(missed []string) string {
	if len(missed) == 0 {
		return ""
	}
	return "; not understood: " + strings.Join(missed, ", ")
}

// context is where layers stand: in time, in space, and how much of them is seen.
type context struct {
	clock     clock
	from      [2]float64 // their upper left corner in the space of the item they hang on, y up
	seen      [2]float64 // the frames from and up to which they are
	whole     [2]float64 // those of the whole animation
	opacities []*motion
	depth     int
}

// layers makes items of the layers of a composition.
func (r *reader) layers(list []fileLayer, in context) ([]*node, error) {
	if in.depth > maxDepth {
		return nil, fmt.Errorf("its compositions are nested more than %d deep", maxDepth)
	}
	byIndex := map[int]int{}
	for k := range list {
		if l := &list[k]; l.Index != nil {
			byIndex[*l.Index] = k
		}
	}
	up := make([]int, len(list)) // what each hangs on, -1 for none
	below := make([][]int, len(list))
	var tops []int
	for k := range list {
		up[k] = -1
		if p := list[k].Parent; p != nil {
			if at, ok := byIndex[*p]; ok && at != k {
				up[k] = at
			}
		}
	}
	for k := range list { // what hangs on itself hangs on nothing
		steps := 0
		for at := up[k]; at >= 0; at = up[at] {
			if steps++; steps > len(list) {
				up[k] = -1
				break
			}
		}
	}
	for k := range list {
		if up[k] < 0 {
			tops = append(tops, k)
		} else {
			below[up[k]] = append(below[up[k]], k)
		}
	}
	var order []int // in which the layers are drawn
	var build func(at []int, on context) ([]*node, error)
	build = func(at []int, on context) (out []*node, err error) {
		for _, k := range at {
			inner := on
			inner.from = [2]float64{}
			if inner.depth++; inner.depth > maxDepth*4 {
				return nil, errors.New("its layers hang on each other in too long a chain")
			}
			var front, behind []int
			for _, child := range below[k] {
				if child < k {
					front = append(front, child)
				} else {
					behind = append(behind, child)
				}
			}
			first, err := build(front, inner)
			if err != nil {
				return nil, err
			}
			order = append(order, k)
			one, err := r.layer(&list[k], on, len(below[k]) == 0, len(front) == 0)
			if err != nil {
				return nil, err
			}
			last, err := build(behind, inner)
			if err != nil {
				return nil, err
			}
			one.kids = append(append(first, one.kids...), last...)
			out = append(out, one)
		}
		return out, nil
	}
	out, err := build(tops, in)
	if !slices.IsSorted(order) {
		r.Miss("layers that hang on others and lie between them; those that hang together are drawn together")
	}
	return out, err
}

// item makes an item.
func (r *reader) item(kind scene.Kind, name, otherwise string) (*scene.Item, error) {
	if r.made++; r.made > maxMade {
		return nil, fmt.Errorf("it comes to more than %d items", maxMade)
	}
	return &scene.Item{ID: r.newID(), Kind: kind, Name: brought.Named(name, otherwise)}, nil
}

// lost notes what of a layer is not understood.
func (r *reader) lost(l *fileLayer) {
	for _, left := range []struct {
		there bool
		what  string
	}{
		{len(l.Masks) > 0, "a mask"}, {l.Matte != 0, "a matte"}, {len(l.Effects) > 0, "the effects of a layer"}, {l.Blend != 0, "a blend mode"},
		{l.Along != 0, "a layer that turns along its path"}, {l.Remapped != nil, "a time that runs at another pace"},
	} {
		if left.there {
			r.Miss(left.what)
		}
	}
}

// layer makes an item of a layer: the one thing that it draws, where that can stand for it, or a null. alone says that no layer hangs on
// it, plain that none does that lies in front.
func (r *reader) layer(l *fileLayer, in context, alone, plain bool) (*node, error) {
	r.lost(l)
	from, to := in.clock.at(l.From), in.clock.at(l.To)
	seen := [2]float64{max(from, in.seen[0]), min(to, in.seen[1])}
	opacities := slices.Clone(in.opacities)
	if !l.Place.Opacity.absent() {
		opacities = append(opacities, r.motion(&l.Place.Opacity, in.clock, 100))
	}
	if l.To > l.From && (seen[0] > in.whole[0]+0.01 || seen[1] < in.whole[1]-0.01) {
		opacities = append(opacities, gate(seen, in.whole))
	}
	if l.IsMatte != 0 || l.Hidden {
		opacities = append(opacities, fixed(0))
	}
	kids, err := r.drawn(l, context{clock: in.clock, seen: seen, whole: in.whole, opacities: opacities, depth: in.depth + 1})
	if err != nil {
		return nil, err
	}
	if len(kids) == 1 && kids[0].bare && plain && (alone || kids[0].shift == [2]float64{}) {
		one := kids[0]
		one.item.Name = brought.Named(l.Name, one.item.Name)
		one.bare = false
		r.place(one.item, &l.Place, in, one.shift)
		return one, nil
	}
	item, err := r.item(scene.Null, l.Name, "Layer")
	if err != nil {
		return nil, err
	}
	r.place(item, &l.Place, in, [2]float64{})
	return &node{item: item, kids: kids}, nil
}

// gate is an opacity that is there from a frame up to another.
func gate(seen, whole [2]float64) *motion {
	m := &motion{}
	add := func(frame, value float64) {
		m.frames, m.values = append(m.frames, frame), append(m.values, []float64{value})
		m.easings = append(m.easings, []curve.Easing{curve.Hold})
	}
	if seen[1] <= seen[0] {
		return fixed(0)
	}
	if seen[0] > whole[0]+0.01 {
		add(whole[0], 0)
	}
	add(seen[0], 100)
	if seen[1] < whole[1]-0.01 {
		add(seen[1], 0)
	}
	return m
}

// drawn makes items of what a layer shows.
func (r *reader) drawn(l *fileLayer, in context) ([]*node, error) {
	switch l.Type {
	case nullLayer:
		return nil, nil
	case shapeLayer:
		return r.shapes(l.Shapes, styles{}, in)
	case solidLayer:
		return r.solid(l, in)
	case textLayer:
		return r.text(l, in)
	case imageLayer:
		return r.image(l, in)
	case compLayer:
		for k := range r.file.Assets {
			if a := &r.file.Assets[k]; a.ID == l.Ref && len(a.Layers) > 0 {
				stretch := 1.0
				if l.Stretch != nil && *l.Stretch > 0 {
					stretch = *l.Stretch
				}
				in.clock = in.clock.within(clock{stretch, l.Start})
				return r.layers(a.Layers, in)
			}
		}
		r.Miss("a composition that isn’t in the file")
	default:
		r.Miss("a layer that can’t be shown: sound, camera or data")
	}
	return nil, nil
}

// place gives an item the transform of a layer or a group. Where the item's own space is shifted, its pivot makes up for that.
func (r *reader) place(item *scene.Item, t *transform, in context, shift [2]float64) {
	delete(item.States, "position")
	spatial := func(v []float64) scene.Value {
		return scene.Pt(brought.Tidy(in.from[0]+v[0]), brought.Tidy(in.from[1]-v[1]), brought.Tidy(-v[2]))
	}
	r.set(item, "position", r.motion(&t.Position, in.clock, 0, 0, 0), spatial)
	r.set(item, "pivot", r.motion(&t.Anchor, in.clock, 0, 0, 0), func(v []float64) scene.Value {
		return scene.Pt(brought.Tidy(v[0]-shift[0]), brought.Tidy(-v[1]-shift[1]), brought.Tidy(-v[2]))
	})
	r.set(item, "scale", r.motion(&t.Scale, in.clock, 100, 100, 100), func(v []float64) scene.Value {
		return scene.Pt(brought.Tidy(v[0]), brought.Tidy(v[1]), brought.Tidy(v[2]))
	})
	turn := &t.Rotation
	if turn.absent() {
		turn = &t.Z
	}
	for _, one := range []struct {
		key  string
		p    *property
		sign float64
	}{{"rotation", turn, -1}, {"rotationX", &t.X, 1}, {"rotationY", &t.Y, -1}} {
		r.set(item, one.key, r.motion(one.p, in.clock, 0), func(v []float64) scene.Value { return scene.Num(brought.Tidy(one.sign * v[0])) })
	}
	if skew := r.motion(&t.Skew, in.clock, 0); skew.moves() || skew.values[0][0] != 0 {
		r.Miss("a skew")
	}
}

// show gives an item the opacities of all that it stands in, in percent each.
func (r *reader) show(item *scene.Item, in context) {
	if len(in.opacities) == 0 {
		return
	}
	all := r.joined(100*opacity, func(v [][]float64) []float64 {
		out := 100.0
		for _, one := range v {
			out *= min(100, max(0, one[0])) / 100
		}
		return []float64{out}
	}, in.opacities...)
	r.set(item, "opacity", all, func(v []float64) scene.Value { return scene.Num(brought.Tidy(v[0])) })
}

// opacity is how far one that is worked out may be off.
const opacity = 0.002
