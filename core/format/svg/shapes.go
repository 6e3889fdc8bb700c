package svg

import (
	"fmt"
	"math"
	"strings"

	"wunderkammer/core/format/brought"
	"wunderkammer/core/num"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// contours returns the lines of a basic shape or path; ok is false for any other element.
func (r *reader) contours(e *element) (c []contour, ok bool) {
	n := func(name string) float64 { return measure(e.get(name), 0) }
	var p pen
	switch e.name {
	case "path":
		c, fine := parsePath(e.get("d"))
		if !fine {
			r.Miss("a path whose data ends too early")
		}
		return c, true
	case "rect":
		rectangle(&p, n("x"), n("y"), n("width"), n("height"), e)
	case "circle":
		ellipse(&p, n("cx"), n("cy"), n("r"), n("r"))
	case "ellipse":
		ellipse(&p, n("cx"), n("cy"), n("rx"), n("ry"))
	case "line":
		p.move(n("x1"), n("y1"))
		p.line(n("x2"), n("y2"))
	case "polyline", "polygon":
		points := numbers(e.get("points"))
		for k := 0; k+1 < len(points); k += 2 {
			if k == 0 {
				p.move(points[0], points[1])
			} else {
				p.line(points[k], points[k+1])
			}
		}
		if e.name == "polygon" {
			p.close()
		}
	default:
		return nil, false
	}
	return p.contours, true
}

func ellipse(p *pen, cx, cy, rx, ry float64) {
	if rx <= 0 || ry <= 0 {
		return
	}
	p.move(cx+rx, cy)
	p.arc(rx, ry, 0, false, true, cx, cy+ry)
	p.arc(rx, ry, 0, false, true, cx-rx, cy)
	p.arc(rx, ry, 0, false, true, cx, cy-ry)
	p.arc(rx, ry, 0, false, true, cx+rx, cy)
	p.close()
}

func rectangle(p *pen, x, y, w, h float64, e *element) {
	if w <= 0 || h <= 0 {
		return
	}
	rx, ry := radii(e, w, h)
	p.move(x+rx, y)
	p.line(x+w-rx, y)
	if rx > 0 {
		p.arc(rx, ry, 0, false, true, x+w, y+ry)
	}
	p.line(x+w, y+h-ry)
	if rx > 0 {
		p.arc(rx, ry, 0, false, true, x+w-rx, y+h)
	}
	p.line(x+rx, y+h)
	if rx > 0 {
		p.arc(rx, ry, 0, false, true, x, y+h-ry)
	}
	p.line(x, y+ry)
	if rx > 0 {
		p.arc(rx, ry, 0, false, true, x+rx, y)
	}
	p.close()
}

func radii(e *element, w, h float64) (rx, ry float64) {
	rx, ry = measure(e.get("rx"), w), measure(e.get("ry"), h)
	if e.get("rx") == "" {
		rx = ry
	}
	if e.get("ry") == "" {
		ry = rx
	}
	return math.Min(rx, w/2), math.Min(ry, h/2)
}

// kindNames are what shapes without a name are called.
var kindNames = map[string]string{"rect": "Rectangle", "circle": "Ellipse", "ellipse": "Ellipse", "line": "Line", "polyline": "Line", "polygon": "Polygon", "path": "Path", "text": "Text"}

// shape makes an item of a shape: a rectangle or an ellipse where it is one and nothing of its map is
// lost, else a path.
func (r *reader) shape(e *element, parent scene.ID, m matrix, s style, opacity float64, contours []contour) extent {
	if s["visibility"] == "hidden" || s["visibility"] == "collapse" || len(contours) == 0 {
		return nowhere
	}
	item := &scene.Item{ID: r.newID(), Name: nameOf(e, kindNames[e.name]), Kind: scene.PathItem, Parent: parent}
	upright(contours)
	box := bounds(contours)
	middle := translate((box[0]+box[2])/2, (box[1]+box[3])/2)
	_, rest := place(item, m.mul(middle))
	clean := math.Abs(rest.b)+math.Abs(rest.c) < 1e-9
	rx, ry := 0.0, 0.0
	if e.name == "rect" {
		rx, ry = radii(e, box[2]-box[0], box[3]-box[1])
	}
	switch {
	case clean && (e.name == "circle" || e.name == "ellipse"):
		item.Kind = scene.Ellipse
	case clean && e.name == "rect" && math.Abs(rx-ry) < 1e-9:
		item.Kind = scene.Rectangle
		if rx > 0 {
			item.Edit("cornerRadius").Own = scene.Num(rx)
		}
	}
	if item.Kind != scene.PathItem {
		item.Edit("size").Own = scene.Pt(brought.Tidy(box[2]-box[0]), brought.Tidy(box[3]-box[1]))
	}
	// From the element's coordinates into the item's own.
	inside := rest
	if back, ok := middle.inverse(); ok {
		inside = rest.mul(back)
	}
	if item.Kind == scene.PathItem {
		item.Path = shapeOf(contours, inside)
		item.Path.EvenOdd = s["fill-rule"] == "evenodd"
		if item.Path.Count() > scene.MaxVertices {
			r.Miss("a path with more vertices than one item holds")
			return nowhere
		}
	}
	if opacity < 1 {
		item.Edit("opacity").Own = scene.Num(brought.Tidy(opacity * 100))
	}
	r.fill(item, s, inside.mul(flip), [4]float64{box[0], -box[3], box[2], -box[1]})
	r.stroke(item, s, inside)
	r.out = append(r.out, item)
	return extent{box[0], box[1], box[2], box[3]}.through(m)
}

// upright turns y round.
func upright(contours []contour) {
	for _, c := range contours {
		for k := range c.vertices {
			v := &c.vertices[k]
			v.y, v.inY, v.outY = -v.y, -v.inY, -v.outY
		}
	}
}

func bounds(contours []contour) (box [4]float64) {
	box = [4]float64{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	take := func(x, y float64) {
		box[0], box[1], box[2], box[3] = math.Min(box[0], x), math.Min(box[1], y), math.Max(box[2], x), math.Max(box[3], y)
	}
	for _, c := range contours {
		for k := range c.vertices {
			v := &c.vertices[k]
			take(v.x, v.y)
			next := k + 1
			if next == len(c.vertices) {
				if !c.closed {
					continue
				}
				next = 0
			}
			n := &c.vertices[next]
			for t := 0.125; t < 1; t += 0.125 { // near enough for the middle of a curve
				u := 1 - t
				a, b, d, f := u*u*u, 3*u*u*t, 3*u*t*t, t*t*t
				take(float64(a*v.x)+float64(b*v.outX)+float64(d*n.inX)+float64(f*n.x), float64(a*v.y)+float64(b*v.outY)+float64(d*n.inY)+float64(f*n.y))
			}
		}
	}
	return box
}

func shapeOf(contours []contour, m matrix) *scene.PathShape {
	out := &scene.PathShape{}
	id := 0
	for _, c := range contours {
		made := scene.Contour{Closed: c.closed}
		for _, v := range c.vertices {
			id++
			x, y := m.at(v.x, v.y)
			ix, iy := m.way(v.inX-v.x, v.inY-v.y)
			ox, oy := m.way(v.outX-v.x, v.outY-v.y)
			made.Vertices = append(made.Vertices, scene.Vertex{ID: id, At: [2]float64{brought.Tidy(x), brought.Tidy(y)}, In: [2]float64{brought.Tidy(ix), brought.Tidy(iy)}, Out: [2]float64{brought.Tidy(ox), brought.Tidy(oy)}})
		}
		out.Contours = append(out.Contours, made)
	}
	return out
}

// colour reads a paint that is one colour; none gives a clear one.
func (r *reader) colour(s style, key, otherwise string) scene.Value {
	paint := s[key]
	if paint == "" {
		paint = otherwise
	}
	if paint == "none" {
		return scene.RGBA(0, 0, 0, 0)
	}
	if paint == "currentColor" || paint == "currentcolor" {
		paint = s["color"]
		if paint == "" {
			paint = "black"
		}
	}
	c, ok := parseColour(paint)
	if !ok {
		r.Miss("a paint “" + clip(paint) + "”")
		c = scene.RGBA(0, 0, 0, 1)
	}
	return c.With(3, c.At(3)*share(s[key+"-opacity"]))
}

func share(s string) float64 {
	if s == "" {
		return 1
	}
	x := first(numbers(s))
	if strings.HasSuffix(s, "%") {
		x /= 100
	}
	return num.Clamp(x, 0, 1)
}

func (r *reader) stroke(item *scene.Item, s style, m matrix) {
	paint := s["stroke"]
	if paint == "" || paint == "none" {
		return
	}
	width := 1.0
	if w := s["stroke-width"]; w != "" {
		width = measure(w, 100)
	}
	if width <= 0 {
		return
	}
	if g := r.gradient(paint); g != nil {
		r.Miss("a gradient along a stroke, drawn in its first colour")
		paint = ""
		if stops := r.stops(g); len(stops) > 0 {
			item.Edit("stroke").Own = stops[0].Colour.With(3, stops[0].Colour.At(3)*share(s["stroke-opacity"]))
		}
	} else {
		item.Edit("stroke").Own = r.colour(s, "stroke", "none")
	}
	k := math.Sqrt(math.Abs(m.det()))
	item.Edit("strokeWidth").Own = scene.Num(brought.Tidy(width * k))
	for key, names := range map[string][]string{"cap": scene.Caps, "join": scene.Joins} {
		for n, name := range names {
			if s["stroke-line"+key] == name && n > 0 {
				item.Edit(key).Own = scene.Num(float64(n))
			}
		}
	}
	dashes := numbers(s["stroke-dasharray"])
	if len(dashes) == 1 {
		dashes = append(dashes, dashes[0])
	}
	if len(dashes) > 2 {
		r.Miss("a pattern of more than one dash and one gap")
	}
	if len(dashes) >= 2 && dashes[0] > 0 && dashes[1] > 0 {
		item.Edit("dash").Own, item.Edit("gap").Own = scene.Num(brought.Tidy(dashes[0]*k)), scene.Num(brought.Tidy(dashes[1]*k))
		if offset := measure(s["stroke-dashoffset"], 0); offset != 0 {
			item.Edit("dashOffset").Own = scene.Num(brought.Tidy(offset * k))
		}
	}
}

// maxLetters bounds the letters of all texts of a drawing, in bytes.
const maxLetters = 20000

// words makes paths of a text: its letters as outlines, in one of the fonts that ship.
func (r *reader) words(e *element, parent scene.ID, m matrix, s style, opacity float64) extent {
	var all []contour
	x, y := measure(e.get("x"), 0), measure(e.get("y"), 0)
	var run func(e *element, s style)
	run = func(e *element, s style) {
		for _, c := range e.children {
			switch c.name {
			case "#text":
				words := strings.Join(strings.Fields(c.text.String()), " ")
				if words == "" {
					continue
				}
				if r.letters += len(words); r.letters > maxLetters {
					r.Miss(fmt.Sprintf("letters beyond the first %d", maxLetters))
					continue
				}
				if strings.HasSuffix(c.text.String(), " ") {
					words += " "
				}
				letters, wide := lettersOf(words, s, x, y)
				all = append(all, letters...)
				x += wide
			case "tspan":
				inner := r.style(c, s)
				for key, to := range map[string]*float64{"x": &x, "y": &y} {
					if v := c.get(key); v != "" {
						*to = measure(v, 0)
					}
					if v := c.get("d" + key); v != "" {
						*to += measure(v, 0)
					}
				}
				run(c, inner)
			default:
				r.Miss(missedNames(c.name))
			}
		}
	}
	run(e, s)
	if len(all) > 0 {
		r.Miss("the font of a text, replaced by one that ships with Wunderkammer")
		return r.shape(e, parent, m, s, opacity, all)
	}
	return nowhere
}

// lettersOf returns the outlines of words that begin at a place, and how far the pen went.
func lettersOf(words string, s style, x, y float64) ([]contour, float64) {
	size := 16.0
	if v := s["font-size"]; v != "" {
		size = measure(v, 16)
	}
	style := outline.Style{Font: brought.Face(s["font-family"]), Size: size, LineHeight: 1.2}
	wide := outline.Width(words, style)
	x -= float64(wide * map[string]float64{"middle": 0.5, "end": 1}[s["text-anchor"]])
	path := outline.Text(words, style)
	var p pen
	at := 0
	for _, v := range path.Verbs {
		c := path.Points[at:]
		fx := func(k int) float64 { return x + c[2*k] }
		fy := func(k int) float64 { return y - c[2*k+1] }
		switch v {
		case outline.MoveTo:
			p.move(fx(0), fy(0))
		case outline.LineTo:
			p.line(fx(0), fy(0))
		case outline.QuadTo:
			p.quad(fx(0), fy(0), fx(1), fy(1))
		case outline.CubicTo:
			p.cubic(fx(0), fy(0), fx(1), fy(1), fx(2), fy(2))
		case outline.Close:
			p.close()
		}
		at += v.Size()
	}
	return p.contours, wide
}
