package lottie

import (
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/format/brought"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// styles are what shapes are drawn with, from the front to the back: fills and lines, and what a line is trimmed to.
type styles struct {
	paints []*shape
	trim   *shape
}

// leftOut are the shapes that change others and are not understood.
var leftOut = map[string]string{
	"rp": "a repeater", "rd": "rounded corners of other shapes", "pb": "a shape that is puckered",
	"zz": "a zigzag", "op": "an offset of an outline", "tw": "a twist",
}

// geometries are the shapes with an outline.
var geometries = map[string]bool{"sh": true, "rc": true, "el": true, "sr": true}

// shapes makes items of the shapes of a group, the first in front. outer is what those are drawn with that have no style of their own.
func (r *reader) shapes(list []shape, outer styles, in context) (out []*node, err error) {
	if in.depth > maxDepth {
		return nil, fmt.Errorf("its groups are nested more than %d deep", maxDepth)
	}
	var outlines []*shape
	own := styles{trim: outer.trim}
	first := len(list) // where the first outline stands, which those behind it are drawn with
	for k := range list {
		s := &list[k]
		switch {
		case s.Hidden:
		case geometries[s.Type]:
			outlines = append(outlines, s)
			first = min(first, k)
		case s.Type == "fl" || s.Type == "st" || s.Type == "gf" || s.Type == "gs":
			own.paints = append(own.paints, s)
		case s.Type == "tm":
			own.trim = s
		case s.Type == "gr" || s.Type == "tr" || s.Type == "mm" && s.Merge <= 1:
		case s.Type == "mm":
			r.Miss("shapes that are cut out of each other")
		case leftOut[s.Type] != "":
			r.Miss(leftOut[s.Type])
		default:
			r.Miss("an unknown sort of shape")
		}
	}
	if len(own.paints) == 0 {
		own.paints = outer.paints
	}
	for k := range list {
		s := &list[k]
		if s.Type == "gr" && !s.Hidden {
			one, err := r.group(s, own, in)
			if err != nil {
				return nil, err
			}
			out = append(out, one...)
		}
		if k == first {
			made, err := r.painted(outlines, own, in)
			if err != nil {
				return nil, err
			}
			out = append(out, made...)
		}
	}
	return out, nil
}

// group makes items of a group: those in it, where it stands as its parent does; the one in it, if that can be given its place; else a
// null that they hang on.
func (r *reader) group(s *shape, outer styles, in context) ([]*node, error) {
	at := transform{}
	if n := len(s.Items); n > 0 && s.Items[n-1].Type == "tr" {
		at = s.Items[n-1].place()
	}
	in.depth++
	if !at.Opacity.absent() {
		in.opacities = append(in.opacities[:len(in.opacities):len(in.opacities)], r.motion(&at.Opacity, in.clock, 100))
	}
	in.from = [2]float64{}
	kids, err := r.shapes(s.Items, outer, in)
	if err != nil || len(kids) == 0 {
		return nil, err
	}
	if len(kids) == 1 && kids[0].bare {
		one := kids[0]
		one.item.Name = brought.Named(s.Name, one.item.Name)
		if at.stands() {
			return kids, nil
		}
		one.bare = false
		r.place(one.item, &at, in, one.shift)
		return kids, nil
	}
	if at.stands() {
		return kids, nil
	}
	item, err := r.item(scene.Null, s.Name, "Group")
	if err != nil {
		return nil, err
	}
	r.place(item, &at, in, [2]float64{})
	return []*node{{item: item, kids: kids}}, nil
}

// stands reports whether a transform leaves everything where it is.
func (t *transform) stands() bool {
	return t.Anchor.is(0, 2) && t.Position.is(0, 2) && t.Scale.is(100, 2) && t.Rotation.is(0, 1) && t.Skew.is(0, 1)
}

// painted makes items of outlines, one for each line with the fill behind it, and for each other fill.
func (r *reader) painted(outlines []*shape, with styles, in context) (out []*node, err error) {
	for k := 0; k < len(with.paints); k++ {
		var line, fill *shape
		if s := with.paints[k]; s.Type == "st" || s.Type == "gs" {
			line = s
			if k+1 < len(with.paints) && (with.paints[k+1].Type == "fl" || with.paints[k+1].Type == "gf") {
				k++
				fill = with.paints[k]
			}
		} else {
			fill = s
		}
		made, err := r.formed(outlines, with.trim != nil, in)
		if err != nil {
			return nil, err
		}
		for _, n := range made {
			r.fill(n.item, fill, n.shift, in)
			r.line(n.item, line, in)
			if with.trim != nil {
				r.trim(n.item, with.trim, in)
			}
			r.show(n.item, in)
		}
		out = append(out, made...)
	}
	return out, nil
}

// formed makes items with outlines: one for all, or of those that change their size by themselves, one for each. Where lines are
// trimmed, it matters where outlines by numbers begin: they become paths.
func (r *reader) formed(outlines []*shape, trimmed bool, in context) (out []*node, err error) {
	var together []*shape
	for _, s := range outlines {
		if (len(outlines) > 1 || trimmed && s.Type != "sh") && (s.Type == "sh" || s.rests()) {
			together = append(together, s)
			continue
		}
		one, err := r.form(s, in)
		if err != nil {
			return nil, err
		}
		if one != nil {
			out = append(out, one)
		}
	}
	if len(together) == 0 {
		return out, nil
	}
	item, err := r.item(scene.PathItem, together[0].Name, "Path")
	if err != nil {
		return nil, err
	}
	item.Path = &scene.PathShape{}
	for _, s := range together {
		if s.Type == "sh" {
			r.path(item, &s.Path, in)
		} else {
			r.contour(item, []bezier{r.drawnBy(s, in)}, nil, nil)
		}
	}
	if item.Path.Count() == 0 {
		return out, nil
	}
	return append([]*node{{item: item, bare: true}}, out...), nil
}

// rests reports whether an outline by numbers stays as it is.
func (s *shape) rests() bool {
	turned := s.turned()
	return !slices.ContainsFunc([]*property{&s.P, &s.S, &turned, &s.PT, &s.OR, &s.IR}, (*property).moves)
}

// form makes an item of one outline.
func (r *reader) form(s *shape, in context) (*node, error) {
	if s.Type == "sh" {
		item, err := r.item(scene.PathItem, s.Name, "Path")
		if err != nil {
			return nil, err
		}
		item.Path = &scene.PathShape{}
		r.path(item, &s.Path, in)
		if item.Path.Count() == 0 {
			return nil, nil
		}
		return &node{item: item, bare: true}, nil
	}
	kind, name := scene.Rectangle, "Rectangle"
	switch {
	case s.Type == "el":
		kind, name = scene.Ellipse, "Ellipse"
	case s.Type == "sr" && s.SY == 2:
		kind, name = scene.Polygon, "Polygon"
	case s.Type == "sr":
		kind, name = scene.Star, "Star"
	}
	item, err := r.item(kind, s.Name, name)
	if err != nil {
		return nil, err
	}
	pair := func(v []float64) scene.Value { return scene.Pt(brought.Tidy(v[0]), brought.Tidy(v[1])) }
	turned := s.turned()
	if s.Type == "sr" {
		r.set(item, "size", r.joined(smallest, func(v [][]float64) []float64 { return []float64{2 * v[0][0], 2 * v[0][0]} }, r.motion(&s.OR, in.clock, 100)), pair)
		key := "points"
		if kind == scene.Polygon {
			key = "sides"
		} else {
			r.set(item, "innerRadius", r.joined(smallest, func(v [][]float64) []float64 { return []float64{100 * v[1][0] / max(1e-6, v[0][0])} }, r.motion(&s.OR, in.clock, 100), r.motion(&s.IR, in.clock, 50)), number)
		}
		r.set(item, key, r.motion(&s.PT, in.clock, 5), number)
		if round := r.motion(&s.OS, in.clock, 0); round.moves() || round.values[0][0] != 0 {
			r.Miss("a rounded star")
		}
		r.set(item, "rotation", r.motion(&turned, in.clock, 0), func(v []float64) scene.Value { return scene.Num(brought.Tidy(-v[0])) })
	} else {
		r.set(item, "size", r.motion(&s.S, in.clock, 100, 100), pair)
		if kind == scene.Rectangle {
			r.set(item, "cornerRadius", r.motion(&turned, in.clock, 0), number)
		}
	}
	place := r.motion(&s.P, in.clock, 0, 0)
	n := &node{item: item}
	if _, spun := item.States["rotation"]; !place.moves() && !spun {
		n.bare, n.shift = true, [2]float64{place.values[0][0], -place.values[0][1]}
		if n.shift == [2]float64{} {
			return n, nil
		}
	}
	r.set(item, "position", place, func(v []float64) scene.Value { return scene.Pt(brought.Tidy(v[0]), brought.Tidy(-v[1]), 0) })
	return n, nil
}

func number(v []float64) scene.Value { return scene.Num(brought.Tidy(v[0])) }

// drawnBy is the outline of a shape by numbers as a path, y down, from where the form has it begin: clockwise, an ellipse and a star from
// the top, a rectangle from its upper right corner.
func (r *reader) drawnBy(s *shape, in context) (out bezier) {
	now := func(p *property, otherwise ...float64) []float64 {
		return r.motion(p, in.clock, otherwise...).values[0]
	}
	size, turned, at := now(&s.S, 100, 100), s.turned(), now(&s.P, 0, 0)
	w, h := float64(size[0]/2), float64(size[1]/2)
	add := func(x, y, inX, inY, outX, outY float64) {
		out.V, out.I, out.O = append(out.V, [2]float64{at[0] + x, at[1] + y}), append(out.I, [2]float64{inX, inY}), append(out.O, [2]float64{outX, outY})
	}
	out.Closed = true
	switch s.Type {
	case "el":
		kx, ky := float64(w*arc), float64(h*arc)
		add(0, -h, -kx, 0, kx, 0)
		add(w, 0, 0, -ky, 0, ky)
		add(0, h, kx, 0, -kx, 0)
		add(-w, 0, 0, ky, 0, -ky)
	case "rc":
		round := num.Clamp(now(&turned, 0)[0], 0, min(math.Abs(w), math.Abs(h)))
		k := float64(round * arc)
		if round == 0 {
			add(w, -h, 0, 0, 0, 0)
			add(w, h, 0, 0, 0, 0)
			add(-w, h, 0, 0, 0, 0)
			add(-w, -h, 0, 0, 0, 0)
			break
		}
		add(w, -h+round, 0, -k, 0, 0)
		add(w, h-round, 0, 0, 0, k)
		add(w-round, h, k, 0, 0, 0)
		add(-w+round, h, 0, 0, -k, 0)
		add(-w, h-round, 0, k, 0, 0)
		add(-w, -h+round, 0, 0, 0, -k)
		add(-w+round, -h, -k, 0, 0, 0)
		add(w-round, -h, 0, 0, k, 0)
	default:
		reach, inner, points := now(&s.OR, 100)[0], now(&s.IR, 50)[0], int(num.Clamp(now(&s.PT, 5)[0], 2, 200))
		corners := 2 * points
		if s.SY == 2 {
			corners = max(3, points)
		}
		for k := range corners {
			sin, cos := num.SinCos(now(&turned, 0)[0] - 90 + 360*float64(k)/float64(corners))
			far := reach
			if s.SY != 2 && k%2 == 1 {
				far = inner
			}
			add(float64(far*cos), float64(far*sin), 0, 0, 0, 0)
		}
	}
	return out
}

// arc is how long the handles of a quarter of a circle are, of its radius.
const arc = 0.5522847498

// path gives an item the outlines of a property, with pins on what of their vertices moves.
func (r *reader) path(item *scene.Item, p *property, in context) {
	var all [][]bezier
	var keys []*keyframe
	for k := range p.keys {
		if key := &p.keys[k]; len(key.paths) > 0 {
			all, keys = append(all, key.paths), append(keys, key)
		}
	}
	if len(all) == 0 {
		return
	}
	r.contour(item, all[0], all, func(of func(paths []bezier) []float64) *motion {
		moved := property{}
		for k, key := range keys {
			one := *key
			one.value, one.paths = of(all[k]), nil
			moved.keys = append(moved.keys, one)
		}
		return r.motion(&moved, in.clock, 0, 0)
	})
}

// contour adds outlines to a path, y up. Over time there are others in all, which over makes the motion of a vertex of.
func (r *reader) contour(item *scene.Item, now []bezier, all [][]bezier, over func(of func(paths []bezier) []float64) *motion) {
	handle := func(list [][2]float64, k int) [2]float64 {
		if k < len(list) && math.Abs(list[k][0]) < far && math.Abs(list[k][1]) < far {
			return [2]float64{brought.Tidy(list[k][0]), brought.Tidy(-list[k][1])}
		}
		return [2]float64{}
	}
	for c, b := range now {
		made, id := scene.Contour{Closed: b.Closed}, item.Path.Count()
		if r.vertices += len(b.V); r.vertices > scene.MaxVertices*4 || id+len(b.V) > scene.MaxVertices {
			r.Miss("outlines with more vertices than can be kept")
			return
		}
		alike, bent := true, false
		for _, other := range all {
			alike = alike && c < len(other) && len(other[c].V) == len(b.V)
		}
		for k := range b.V {
			id++
			v := scene.Vertex{ID: id, At: handle(b.V, k), In: handle(b.I, k), Out: handle(b.O, k)}
			made.Vertices = append(made.Vertices, v)
			for _, other := range all {
				bent = bent || alike && (handle(other[c].I, k) != v.In || handle(other[c].O, k) != v.Out)
			}
		}
		if len(made.Vertices) == 0 {
			continue
		}
		item.Path.Contours = append(item.Path.Contours, made)
		if len(all) < 2 {
			continue
		}
		if !alike {
			r.Miss("an outline whose number of vertices changes; it stays as it is at first")
			continue
		}
		if bent {
			r.Miss("an outline whose handles move; they stay as they are at first")
		}
		for k, v := range made.Vertices {
			r.set(item, scene.VertexKey(v.ID), over(func(paths []bezier) []float64 {
				at := handle(paths[c].V, k)
				return at[:]
			}), func(v []float64) scene.Value { return scene.Pt(v[0], v[1]) })
		}
	}
}
