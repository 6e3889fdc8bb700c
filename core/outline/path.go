// Package outline makes the outlines of what is drawn: shapes, and texts laid out and outlined
// with the fonts that ship with the application. Outlines are exact and independent of any screen.
package outline

import (
	"math"

	"wunderkammer/core/num"
)

// Verb says what the next points of a path are: a start, a line, a curve, or that the contour closes.
type Verb uint8

// The verbs, with the number of points each takes: 1, 1, 2, 3, 0.
const (
	MoveTo Verb = iota
	LineTo
	QuadTo
	CubicTo
	Close
)

// Path is a list of closed or open contours in an item's own space: pixels, y up.
type Path struct {
	Verbs  []Verb
	Points []float64 // x, y, x, y …
}

func (p *Path) add(v Verb, xy ...float64) {
	p.Verbs = append(p.Verbs, v)
	p.Points = append(p.Points, xy...)
}

// Box is a rectangle: left, bottom, right, top.
type Box struct{ Left, Bottom, Right, Top float64 }

// Box returns the box around all points of the path, control points included; the zero Box for
// an empty path.
func (p *Path) Box() Box {
	if len(p.Points) == 0 {
		return Box{}
	}
	b := Box{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	for i := 0; i < len(p.Points); i += 2 {
		x, y := p.Points[i], p.Points[i+1]
		b.Left, b.Right = min(b.Left, x), max(b.Right, x)
		b.Bottom, b.Top = min(b.Bottom, y), max(b.Top, y)
	}
	return b
}

// arc is the length of the handles of a cubic that draws a quarter of a circle of radius 1:
// 4/3 · (√2 - 1). The error of the radius is below 0.03 %.
const arc = 0.5522847498307936

// Ellipse returns an ellipse of the given width and height about the origin.
func Ellipse(width, height float64) Path {
	return RoundedRectangle(width, height, width/2, height/2)
}

// Rectangle returns a rectangle about the origin with its corners rounded by a radius, which is
// held to half of the shorter side.
func Rectangle(width, height, radius float64) Path {
	radius = min(radius, width/2, height/2)
	return RoundedRectangle(width, height, radius, radius)
}

// RoundedRectangle returns a rectangle about the origin whose corners are quarters of an ellipse.
// The contour runs counter-clockwise.
func RoundedRectangle(width, height, rx, ry float64) Path {
	x, y := float64(width/2), float64(height/2)
	var p Path
	if rx <= 0 || ry <= 0 {
		p.add(MoveTo, -x, -y)
		p.add(LineTo, x, -y)
		p.add(LineTo, x, y)
		p.add(LineTo, -x, y)
		p.add(Close)
		return p
	}
	kx, ky := float64(rx*(1-arc)), float64(ry*(1-arc))
	p.add(MoveTo, -x+rx, -y)
	for _, corner := range [...][2]float64{{1, -1}, {1, 1}, {-1, 1}, {-1, -1}} {
		cx, cy := float64(corner[0]*x), float64(corner[1]*y)
		// dx, dy: from the corner back along both sides
		dx, dy := -corner[0], -corner[1]
		alongX := [2][2]float64{{cx + float64(dx*rx), cy}, {cx + float64(dx*kx), cy}}
		alongY := [2][2]float64{{cx, cy + float64(dy*ry)}, {cx, cy + float64(dy*ky)}}
		first, last := alongX, alongY
		if corner[0] == corner[1] { // arriving along a vertical side
			first, last = alongY, alongX
		}
		if n := len(p.Points); p.Points[n-2] != first[0][0] || p.Points[n-1] != first[0][1] {
			p.add(LineTo, first[0][0], first[0][1])
		}
		p.add(CubicTo, first[1][0], first[1][1], last[1][0], last[1][1], last[0][0], last[0][1])
	}
	p.add(Close)
	return p
}

// Polygon returns a polygon with its corners on an ellipse of the given width and height, the first
// of them on top.
func Polygon(width, height float64, sides int) Path {
	return spokes(sides, func(int) float64 { return 1 }, width, height)
}

// Star returns a star with its points on an ellipse of the given width and height, the first of
// them on top; inner is where its inner corners lie, as a share of the way out.
func Star(width, height float64, points int, inner float64) Path {
	return spokes(2*points, func(k int) float64 {
		if k%2 == 1 {
			return inner
		}
		return 1
	}, width, height)
}

func spokes(n int, reach func(k int) float64, width, height float64) Path {
	var p Path
	for k := range n {
		sin, cos := num.SinCos(90 + 360*float64(k)/float64(n))
		r := reach(k)
		verb := LineTo
		if k == 0 {
			verb = MoveTo
		}
		p.add(verb, width/2*r*cos, height/2*r*sin)
	}
	p.add(Close)
	return p
}

// Vertex is a corner or a smooth point: its place and its handles, counted from it.
type Vertex struct{ At, In, Out [2]float64 }

// AddContour adds a line through vertices: straight where both handles of a span are zero.
func (p *Path) AddContour(vertices []Vertex, closed bool) {
	if len(vertices) == 0 {
		return
	}
	p.add(MoveTo, vertices[0].At[0], vertices[0].At[1])
	span := func(a, b *Vertex) {
		if a.Out == [2]float64{} && b.In == [2]float64{} {
			p.add(LineTo, b.At[0], b.At[1])
			return
		}
		p.add(CubicTo, a.At[0]+a.Out[0], a.At[1]+a.Out[1], b.At[0]+b.In[0], b.At[1]+b.In[1], b.At[0], b.At[1])
	}
	for k := 1; k < len(vertices); k++ {
		span(&vertices[k-1], &vertices[k])
	}
	if closed {
		if last := &vertices[len(vertices)-1]; last.Out != [2]float64{} || vertices[0].In != [2]float64{} {
			span(last, &vertices[0])
		}
		p.add(Close)
	}
}
