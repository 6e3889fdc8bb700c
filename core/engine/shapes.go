package engine

import (
	"wunderkammer/core/num"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
	"wunderkammer/core/solid"
)

// look reads numbers of one item by key.
type look struct {
	p *Plan
	c *snapshot
	i int32
}

// n returns the first number of a property; 0 where the item has none of that name.
func (l look) n(key string) float64 { return l.at(key, 0) }

func (l look) at(key string, component int32) float64 {
	spec, slot := l.p.Layout.FindAt(l.i, key)
	if spec == nil {
		return 0
	}
	return held(l.c.values[slot+component])
}

// outlines says how the outline of each flat kind is made.
var outlines = map[scene.Kind]func(l look) outline.Path{
	scene.Rectangle: func(l look) outline.Path {
		return outline.Rectangle(l.at("size", 0), l.at("size", 1), l.n("cornerRadius"))
	},
	scene.Ellipse: func(l look) outline.Path { return outline.Ellipse(l.at("size", 0), l.at("size", 1)) },
	scene.Polygon: func(l look) outline.Path {
		return outline.Polygon(l.at("size", 0), l.at("size", 1), int(l.n("sides")))
	},
	scene.Star: func(l look) outline.Path {
		return outline.Star(l.at("size", 0), l.at("size", 1), int(l.n("points")), l.n("innerRadius")/100)
	},
	scene.TextItem: func(l look) outline.Path {
		return outline.Text(l.p.words.texts[int(l.n("text"))], outline.Style{
			Font: int(l.n("font")), Size: l.n("fontSize"), LetterSpacing: l.n("letterSpacing"),
			LineHeight: l.n("lineHeight") / 100, Align: l.n("alignment") / 2,
		})
	},
	scene.PathItem: func(l look) outline.Path { return l.p.contours(l.c, l.i) },
	scene.Picture:  func(l look) outline.Path { return outline.Rectangle(l.at("size", 0), l.at("size", 1), 0) },
	scene.Flipbook: func(l look) outline.Path { return outline.Rectangle(l.at("size", 0), l.at("size", 1), 0) },
}

// contours returns the lines of a path through its vertices as they stand.
func (p *Plan) contours(c *snapshot, i int32) outline.Path {
	var out outline.Path
	var vertices []outline.Vertex
	for _, contour := range p.Layout.Items[i].Path.Contours {
		vertices = vertices[:0]
		for k := range contour.Vertices {
			v := &contour.Vertices[k]
			at := p.vertexOfPath(c, i, v)
			vertices = append(vertices, outline.Vertex{At: [2]float64{held(at[0]), held(at[1])}, In: v.In, Out: v.Out})
		}
		out.AddContour(vertices, contour.Closed)
	}
	return out
}

// Shape returns the outline of flat item i at the frame last evaluated, bent, in the item's own
// space; an empty path for an item that has none.
func (p *Plan) Shape(i int32) outline.Path {
	item := p.Layout.Items[i]
	make, ok := outlines[item.Kind]
	if !ok {
		return outline.Path{}
	}
	l := look{p, &p.now, i}
	path := make(l)
	if angle := l.n("bend"); angle != 0 && item.Kind.Class() == scene.Outlined {
		return bent(path, l, angle)
	}
	return path
}

// bentStep is how long a straight piece of something bent may be, as a share of what is bent.
const bentStep = 1.0 / 48

func bent(path outline.Path, l look, angle float64) outline.Path {
	box := path.Box()
	upright := l.n("bendAxis") == 1
	lo, hi := box.Left, box.Right
	if upright {
		lo, hi = box.Bottom, box.Top
	}
	middle := (lo + hi) / 2
	b := num.Bending{Half: (hi - lo) / 2, Angle: angle, Extent: l.n("bendExtent") / 100, Fixed: l.n("bendFixed") - 1}
	if b.None() {
		return path
	}
	return path.Map(max(1, (hi-lo)*bentStep), func(x, y float64) (float64, float64) {
		if upright {
			s, t := b.At(y-middle, x)
			return t, s + middle
		}
		s, t := b.At(x-middle, y)
		return s + middle, t
	})
}

// Stroke returns the line that is drawn along the outline of item i: trimmed and dashed. whole
// says that it is the outline itself.
func (p *Plan) Stroke(i int32) (path outline.Path, whole bool) {
	l := look{p, &p.now, i}
	path = p.Shape(i)
	start, end, dash := l.n("trimStart"), l.n("trimEnd"), l.n("dash")
	if (start <= 0 && end >= 100) && (dash <= 0 || l.n("gap") <= 0) {
		return path, true
	}
	path = path.Trim(start/100, end/100)
	return path.Dash(dash, l.n("gap"), l.n("dashOffset")), false
}

// body returns what the surface of an object is made of; with moved, its vertices stand where they
// were set or are driven to.
func (p *Plan) body(c *snapshot, i int32, moved bool) solid.Body {
	l := look{p, c, i}
	b := solid.Body{
		Kind: p.Layout.Items[i].Kind, Surface: p.Layout.Items[i].Mesh,
		Size: [3]float64{l.at("size", 0), l.at("size", 1), l.at("size", 2)},
		Axis: int(l.n("bendAxis")),
	}
	b.Bend = solid.Bending(b.Size, b.Axis, l.n("bend"), l.n("bendExtent")/100, l.n("bendFixed")-1)
	if !moved {
		return b
	}
	specs := p.Layout.Specs(i)
	for k := len(scene.Of(b.Kind)); k < len(specs); k++ {
		id, world, ok := scene.VertexOf(specs[k].Key)
		if !ok || world {
			continue
		}
		if b.Moved == nil {
			b.Moved = map[int][3]float64{}
		}
		slot := p.Layout.Slot(i, k)
		b.Moved[id] = [3]float64{held(c.values[slot]), held(c.values[slot+1]), held(c.values[slot+2])}
	}
	return b
}

// Mesh returns the surface of object i at the frame last evaluated.
func (p *Plan) Mesh(i int32) solid.Mesh {
	b := p.body(&p.now, i, true)
	return b.Mesh()
}

// Points returns where the numbered vertices of object i stand, in its own space; nil for what is
// no object.
func (p *Plan) Points(i int32) [][3]float64 {
	if p.Layout.Items[i].Kind.Class() != scene.Solid {
		return nil
	}
	b := p.body(&p.now, i, true)
	return b.Points()
}
