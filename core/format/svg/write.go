// Package svg writes one frame of a composition as SVG 1.1, and reads SVG into items.
package svg

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"wunderkammer/core/engine"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// Frame returns the picture of a composition at the frame its plan was last evaluated at: shapes
// and texts as paths, seen straight from the front. Nulls, hidden items and those not in output
// are left out, and so are pictures, objects and particles, which are no lines. What would be larger than MaxFrame ends
// there, which truncated says.
func Frame(c *scene.Composition, p *engine.Plan) (picture []byte, truncated bool) {
	w := &writer{p: p}
	width, height := float64(c.Width), float64(c.Height)
	fmt.Fprintf(&w.body, `<rect width="%d" height="%d"%s/>`, c.Width, c.Height, paint("fill", c.Background))
	// The y axis of a composition points up and its origin is in the middle.
	fmt.Fprintf(&w.body, `<g transform="matrix(1 0 0 -1 %s %s)">`, short(width/2), short(height/2))
	for i := len(p.Layout.Items) - 1; i >= 0; i-- { // the first item is in front
		p.Pause()
		if truncated = w.full(); truncated {
			break
		}
		switch kind := p.Layout.Items[i].Kind; {
		case !p.Shown(int32(i)) || p.Layout.Out[i]:
		case kind == scene.CopiesItem:
			p.Copies(int32(i), func(c *engine.Copied) {
				if !p.Layout.Out[c.Item] && !w.full() {
					p.Pause()
					w.item(c.Item, c)
				}
			})
		case kind.Class() == scene.Outlined:
			w.item(int32(i), &alone)
		}
	}
	truncated = truncated || w.full()
	w.body.WriteString("</g></svg>\n")
	var out strings.Builder
	fmt.Fprintf(&out, `<svg xmlns="http://www.w3.org/2000/svg" width="%d" height="%d" viewBox="0 0 %d %d">`, c.Width, c.Height, c.Width, c.Height)
	if w.defs.Len() > 0 {
		out.WriteString("<defs>" + w.defs.String() + "</defs>")
	}
	out.WriteString(w.body.String())
	return []byte(out.String()), truncated
}

// MaxFrame bounds the picture of a frame, in bytes; the item that goes beyond is the last.
const MaxFrame = 24 << 20

func (w *writer) full() bool { return w.body.Len()+w.defs.Len() > MaxFrame }

// alone is an item that no copy shows.
var alone = engine.Copied{Opacity: 1}

// writer gathers a picture.
type writer struct {
	p          *engine.Plan
	by         *engine.Copied // who shows the item
	body, defs strings.Builder
	gradients  int
}

// item writes an item, if it is made of lines, as it is shown by itself or by a copy.
func (w *writer) item(i int32, by *engine.Copied) {
	item := w.p.Layout.Items[i]
	if item.Kind.Class() != scene.Outlined {
		return
	}
	w.by = by
	value := func(key string) scene.Value {
		v := w.p.Value(scene.Ref{Item: item.ID, Property: key})
		if slices.Contains(scene.Tinted, key) {
			return by.Dyed(v)
		}
		return v
	}
	path := w.p.Shape(i)
	opacity := value("opacity").At(0) / 100 * by.Opacity
	if len(path.Verbs) == 0 || opacity == 0 {
		return
	}
	m := w.p.World(i)
	place := fmt.Sprintf(`transform="matrix(%s %s %s %s %s %s)"`, short(m[0]), short(m[4]), short(m[1]), short(m[5]), short(m[3]), short(m[7]))
	width := value("strokeWidth").At(0)
	line, whole := w.p.Stroke(i)
	if width == 0 {
		whole = true
	}
	group := !whole && opacity != 1
	if group {
		fmt.Fprintf(&w.body, `<g opacity="%s">`, short(opacity))
		opacity = 1
	}
	see := func() string {
		if opacity != 1 {
			return fmt.Sprintf(` opacity="%s"`, short(opacity))
		}
		return ""
	}
	fmt.Fprintf(&w.body, `<path %s d="%s"%s`, place, data(path), w.fill(item, value))
	if item.Path != nil && item.Path.EvenOdd {
		w.body.WriteString(` fill-rule="evenodd"`)
	}
	if width > 0 && whole {
		w.body.WriteString(strokeOf(value, width))
	}
	w.body.WriteString(see() + "/>")
	if !whole && len(line.Verbs) > 0 {
		fmt.Fprintf(&w.body, `<path %s d="%s" fill="none"%s%s/>`, place, data(line), strokeOf(value, width), see())
	}
	if group {
		w.body.WriteString("</g>")
	}
}

func strokeOf(value func(string) scene.Value, width float64) string {
	s := paint("stroke", value("stroke")) + fmt.Sprintf(` stroke-width="%s"`, short(width))
	if c := int(value("cap").At(0)); c > 0 {
		s += fmt.Sprintf(` stroke-linecap="%s"`, scene.Caps[c])
	}
	if j := int(value("join").At(0)); j > 0 {
		s += fmt.Sprintf(` stroke-linejoin="%s"`, scene.Joins[j])
	}
	return s
}

// fill returns the attributes of a fill; a gradient is put among the definitions.
func (w *writer) fill(item *scene.Item, value func(string) scene.Value) string {
	kind := scene.Gradients[int(value("gradient").At(0))]
	if kind == "none" {
		return paint("fill", value("fill"))
	}
	w.gradients++
	from, to := value("gradientFrom"), value("gradientTo")
	if kind == "linear" {
		fmt.Fprintf(&w.defs, `<linearGradient id="g%d" gradientUnits="userSpaceOnUse" x1="%s" y1="%s" x2="%s" y2="%s">`,
			w.gradients, short(from.At(0)), short(from.At(1)), short(to.At(0)), short(to.At(1)))
	} else {
		// A circle of radius 1, stretched onto the axis and the width across it.
		dx, dy, k := to.At(0)-from.At(0), to.At(1)-from.At(1), value("gradientWidth").At(0)/100
		fmt.Fprintf(&w.defs, `<radialGradient id="g%d" gradientUnits="userSpaceOnUse" cx="0" cy="0" r="1" gradientTransform="matrix(%s %s %s %s %s %s)">`,
			w.gradients, short(dx), short(dy), short(-dy*k), short(dx*k), short(from.At(0)), short(from.At(1)))
	}
	for k, s := range item.Ramp(value("fill"), value("secondFill")) {
		if k > 0 && k <= len(item.Stops) {
			s.Colour = w.by.Dyed(s.Colour)
		}
		fmt.Fprintf(&w.defs, `<stop offset="%s"%s/>`, short(s.At), paint("stop-color", s.Colour))
	}
	fmt.Fprintf(&w.defs, `</%sGradient>`, kind)
	return fmt.Sprintf(` fill="url(#g%d)"`, w.gradients)
}

// paint returns an attribute with a colour, and one with its opacity where it lets light through.
func paint(name string, c scene.Value) string {
	byte255 := func(x float64) int { return int(float64(x*255) + 0.5) }
	s := fmt.Sprintf(` %s="#%02x%02x%02x"`, name, byte255(c.At(0)), byte255(c.At(1)), byte255(c.At(2)))
	if c.At(3) != 1 {
		s += fmt.Sprintf(` %s="%s"`, opacityNames[name], short(c.At(3)))
	}
	return s
}

var opacityNames = map[string]string{"fill": "fill-opacity", "stroke": "stroke-opacity", "stop-color": "stop-opacity"}

var letters = map[outline.Verb]struct {
	letter byte
	points int
}{outline.MoveTo: {'M', 1}, outline.LineTo: {'L', 1}, outline.QuadTo: {'Q', 2}, outline.CubicTo: {'C', 3}, outline.Close: {'Z', 0}}

func data(path outline.Path) string {
	var b strings.Builder
	at := 0
	for _, v := range path.Verbs {
		l := letters[v]
		b.WriteByte(l.letter)
		for k := range 2 * l.points {
			if k > 0 {
				b.WriteByte(' ')
			}
			b.WriteString(short(path.Points[at]))
			at++
		}
	}
	return b.String()
}

// short prints a number to a hundred-thousandth, without trailing zeros.
func short(x float64) string {
	s := strings.TrimRight(strconv.FormatFloat(x, 'f', 5, 64), "0")
	s = strings.TrimSuffix(s, ".")
	if s == "-0" {
		return "0"
	}
	return s
}
