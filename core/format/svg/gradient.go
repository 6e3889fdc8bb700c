package svg

import (
	"math"
	"strings"

	"wunderkammer/core/format/brought"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// gradient returns the gradient that a paint refers to, or nil.
func (r *reader) gradient(paint string) *element {
	inside, ok := strings.CutPrefix(paint, "url(")
	if !ok {
		return nil
	}
	id := strings.Trim(strings.TrimSpace(strings.SplitN(inside, ")", 2)[0]), `"'`)
	e := r.ids[strings.TrimPrefix(id, "#")]
	if e == nil || (e.name != "linearGradient" && e.name != "radialGradient") {
		return nil
	}
	return e
}

// value looks an attribute of a gradient up, also in those that it refers to.
func (r *reader) value(e *element, name string) string {
	for range 16 {
		if v := e.get(name); v != "" {
			return v
		}
		next := r.ids[strings.TrimPrefix(e.get("href"), "#")]
		if next == nil || next == e {
			return ""
		}
		e = next
	}
	return ""
}

// stops returns the colours of a gradient, its own or those of one that it refers to.
func (r *reader) stops(e *element) []scene.Stop {
	for range 16 {
		var out []scene.Stop
		last := 0.0
		for _, c := range e.children {
			if c.name != "stop" {
				continue
			}
			s := r.style(c, nil)
			colour := r.colour(style{"stop": s["stop-color"], "stop-opacity": s["stop-opacity"], "color": s["color"]}, "stop", "black")
			last = max(last, share("0"+strings.TrimSpace(c.get("offset"))))
			out = append(out, scene.Stop{At: last, Colour: colour})
		}
		next := r.ids[strings.TrimPrefix(e.get("href"), "#")]
		if len(out) > 0 || next == nil || next == e {
			return out
		}
		e = next
	}
	return nil
}

// fill sets the fill of an item. m leads from the file's coordinates into the item's own, box is
// the shape's in the file's.
func (r *reader) fill(item *scene.Item, s style, m matrix, box [4]float64) {
	paint := s["fill"]
	if !strings.HasPrefix(paint, "url(") {
		item.Edit("fill").Own = r.colour(s, "fill", "black")
		return
	}
	g := r.gradient(paint)
	var stops []scene.Stop
	if g != nil {
		stops = r.stops(g)
	}
	if len(stops) == 0 {
		rest := strings.TrimSpace(paint[strings.Index(paint+")", ")")+1:])
		r.Miss("a paint “" + clip(strings.TrimSpace(strings.TrimSuffix(paint, rest))) + "”")
		if rest == "" {
			rest = "none"
		}
		item.Edit("fill").Own = r.colour(style{"fill": rest}, "fill", "none")
		return
	}
	for k := range stops {
		stops[k].Colour = stops[k].Colour.With(3, stops[k].Colour.At(3)*share(s["fill-opacity"]))
	}
	brought.Ramp(item, stops, &r.Missed)
	whole := matrix{a: 1, d: 1}
	if r.value(g, "gradientUnits") != "userSpaceOnUse" {
		whole = matrix{a: box[2] - box[0], d: box[3] - box[1], e: box[0], f: box[1]}
	}
	if t, ok := parseTransform(r.value(g, "gradientTransform")); ok {
		whole = whole.mul(t)
	}
	whole = m.mul(whole)
	if spread := r.value(g, "spreadMethod"); spread != "" && spread != "pad" {
		r.Miss("a gradient that is repeated or mirrored, drawn once")
	}
	length := func(name string, otherwise float64) float64 {
		v := r.value(g, name)
		if v == "" {
			return otherwise
		}
		return measure(v, 1)
	}
	if g.name == "linearGradient" {
		linear(item, whole, length("x1", 0), length("y1", 0), length("x2", 1), length("y2", 0))
		return
	}
	cx, cy := length("cx", 0.5), length("cy", 0.5)
	if length("fx", cx) != cx || length("fy", cy) != cy {
		r.Miss("the focus of a gradient, drawn at its centre")
	}
	radial(item, whole, cx, cy, length("r", 0.5))
}

// linear sets a linear gradient. Under a map that is no similarity the lines of equal colour are no
// longer at a right angle to the axis; the axis that they are at a right angle to is found through
// the gradient of the share, which is mapped by the transposed inverse.
func linear(item *scene.Item, m matrix, x1, y1, x2, y2 float64) {
	dx, dy := x2-x1, y2-y1
	d := float64(dx*dx) + float64(dy*dy)
	back, ok := m.inverse()
	fx, fy := m.at(x1, y1)
	tx, ty := fx, fy
	if d > 0 && ok {
		gx, gy := (float64(back.a*dx)+float64(back.b*dy))/d, (float64(back.c*dx)+float64(back.d*dy))/d
		if g := float64(gx*gx) + float64(gy*gy); g > 0 {
			tx, ty = fx+gx/g, fy+gy/g
		}
	}
	item.Edit("gradient").Own = scene.Num(1)
	item.Edit("gradientFrom").Own = scene.Pt(brought.Tidy(fx), brought.Tidy(fy))
	item.Edit("gradientTo").Own = scene.Pt(brought.Tidy(tx), brought.Tidy(ty))
}

// radial sets a radial gradient: the circle becomes an ellipse, whose longer half axis leads from
// gradientFrom to gradientTo. The axes are those of the singular values of the map.
func radial(item *scene.Item, m matrix, cx, cy, r float64) {
	fx, fy := m.at(cx, cy)
	a, b, c, d := m.a*r, m.b*r, m.c*r, m.d*r
	turn := float64(math.Atan2(float64(2*(float64(a*c)+float64(b*d))), float64(a*a)+float64(b*b)-float64(c*c)-float64(d*d)) / 2) // the direction that becomes the long axis
	sin, cos := math.Sincos(turn)
	lx, ly := float64(a*cos)+float64(c*sin), float64(b*cos)+float64(d*sin)
	sx, sy := float64(-a*sin)+float64(c*cos), float64(-b*sin)+float64(d*cos)
	long, short := math.Hypot(lx, ly), math.Hypot(sx, sy)
	width := 100.0
	if long > 0 {
		width = num.Clamp(short/long*100, 0, 100000)
	}
	item.Edit("gradient").Own = scene.Num(2)
	item.Edit("gradientFrom").Own = scene.Pt(brought.Tidy(fx), brought.Tidy(fy))
	item.Edit("gradientTo").Own = scene.Pt(brought.Tidy(fx+lx), brought.Tidy(fy+ly))
	if brought.Tidy(width) != 100 {
		item.Edit("gradientWidth").Own = scene.Num(brought.Tidy(width))
	}
}
