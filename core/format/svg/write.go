// Package svg writes one frame of a composition as SVG 1.1, and reads SVG into items.
package svg

import (
	"fmt"
	"strconv"
	"strings"

	"wunderkammer/core/engine"
	"wunderkammer/core/format/reel"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// Frame returns the picture of a composition at the frame its plan was last evaluated at: shapes
// and texts as paths, seen straight from the front. Nulls, hidden items and those not in output
// are left out, and so are objects and particles, which are no lines. Pictures are there where they are asked for; they lead to
// asset: with the name of their content, which Embedded puts in its place. What would be larger than MaxFrame ends there, which
// truncated says.
func Frame(c *scene.Composition, p *engine.Plan, pictures bool) (picture []byte, truncated bool) {
	w := &writer{}
	width, height := float64(c.Width), float64(c.Height)
	fmt.Fprintf(&w.body, `<rect width="%d" height="%d"%s/>`, c.Width, c.Height, paint("fill", c.Background))
	// The y axis of a composition points up and its origin is in the middle.
	fmt.Fprintf(&w.body, `<g transform="matrix(1 0 0 -1 %s %s)">`, short(width/2), short(height/2))
	reel.Outlined(p, func(s reel.Seen) bool {
		p.Pause()
		if look := reel.LookOf(p, s); look != nil && (pictures || look.Picture == nil) {
			w.item(look)
		}
		return !w.full()
	})
	truncated = w.full()
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

// writer gathers a picture.
type writer struct {
	body, defs strings.Builder
	gradients  int
}

// item writes how an item looks.
func (w *writer) item(l *reel.Look) {
	m := l.Place
	place := fmt.Sprintf(`transform="matrix(%s %s %s %s %s %s)"`, short(m[0]), short(m[1]), short(m[2]), short(m[3]), short(m[4]), short(m[5]))
	opacity := l.Opacity
	if l.Picture != nil {
		fmt.Fprintf(&w.body, `<g %s`, place)
		if opacity != 1 {
			fmt.Fprintf(&w.body, ` opacity="%s"`, short(opacity))
		}
		w.body.WriteString(">" + shown(l.Picture) + "</g>")
		return
	}
	group := !l.Whole && opacity != 1
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
	fmt.Fprintf(&w.body, `<path %s d="%s"%s`, place, data(l.Outline, exact), w.fill(&l.Fill))
	if l.EvenOdd {
		w.body.WriteString(` fill-rule="evenodd"`)
	}
	if l.Width > 0 && l.Whole {
		w.body.WriteString(strokeOf(l))
	}
	w.body.WriteString(see() + "/>")
	if !l.Whole && len(l.Line.Verbs) > 0 {
		fmt.Fprintf(&w.body, `<path %s d="%s" fill="none"%s%s/>`, place, data(l.Line, exact), strokeOf(l), see())
	}
	if group {
		w.body.WriteString("</g>")
	}
}

// shown writes a picture, or a part of one, onto a square of 1.
func shown(f *scene.Frame) string {
	const square = `x="-0.5" y="-0.5" width="1" height="1" preserveAspectRatio="none"`
	if f.Part == [4]int{} {
		return fmt.Sprintf(`<image %s href="asset:%s"/>`, square, f.Asset)
	}
	return fmt.Sprintf(`<svg %s viewBox="%d %d %d %d"><image href="asset:%s"/></svg>`, square, f.Part[0], f.Part[1], f.Part[2], f.Part[3], f.Asset)
}

func strokeOf(l *reel.Look) string {
	s := paint("stroke", l.Stroke) + fmt.Sprintf(` stroke-width="%s"`, short(l.Width))
	if l.Cap > 0 {
		s += fmt.Sprintf(` stroke-linecap="%s"`, scene.Caps[l.Cap])
	}
	if l.Join > 0 {
		s += fmt.Sprintf(` stroke-linejoin="%s"`, scene.Joins[l.Join])
	}
	return s
}

// fill returns the attributes of a fill; a gradient is put among the definitions.
func (w *writer) fill(p *reel.Paint) string {
	if p.Kind == "none" {
		return paint("fill", p.Colour)
	}
	w.gradients++
	if p.Kind == "linear" {
		fmt.Fprintf(&w.defs, `<linearGradient id="g%d" gradientUnits="userSpaceOnUse" x1="%s" y1="%s" x2="%s" y2="%s">`,
			w.gradients, short(p.From[0]), short(p.From[1]), short(p.To[0]), short(p.To[1]))
	} else {
		m := circled(p)
		fmt.Fprintf(&w.defs, `<radialGradient id="g%d" gradientUnits="userSpaceOnUse" cx="0" cy="0" r="1" gradientTransform="matrix(%s %s %s %s %s %s)">`,
			w.gradients, short(m[0]), short(m[1]), short(m[2]), short(m[3]), short(m[4]), short(m[5]))
	}
	for _, s := range p.Stops {
		fmt.Fprintf(&w.defs, `<stop offset="%s"%s/>`, short(s.At), paint("stop-color", s.Colour))
	}
	fmt.Fprintf(&w.defs, `</%sGradient>`, p.Kind)
	return fmt.Sprintf(` fill="url(#g%d)"`, w.gradients)
}

// circled stretches a circle of radius 1 onto the axis of a radial gradient and the width across it.
func circled(p *reel.Paint) reel.Matrix {
	dx, dy := p.To[0]-p.From[0], p.To[1]-p.From[1]
	return reel.Matrix{dx, dy, -dy * p.Across, dx * p.Across, p.From[0], p.From[1]}
}

// paint returns an attribute with a colour, and one with its opacity where it lets light through.
func paint(name string, c scene.Value) string {
	s := fmt.Sprintf(` %s="%s"`, name, c.Hex())
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

// data writes an outline, its numbers with so many digits behind the point.
func data(path outline.Path, digits int) string {
	var b strings.Builder
	at := 0
	for _, v := range path.Verbs {
		l := letters[v]
		b.WriteByte(l.letter)
		for k := range 2 * l.points {
			if k > 0 {
				b.WriteByte(' ')
			}
			b.WriteString(rounded(path.Points[at], digits))
			at++
		}
	}
	return b.String()
}

// exact is how many digits behind the point numbers have where nothing says how fine they have to be.
const exact = 5

// short prints a number to a hundred-thousandth, without trailing zeros.
func short(x float64) string { return rounded(x, exact) }

// rounded prints a number with so many digits behind the point, without trailing zeros.
func rounded(x float64, digits int) string {
	s := strconv.FormatFloat(x, 'f', digits, 64)
	if digits > 0 {
		s = strings.TrimSuffix(strings.TrimRight(s, "0"), ".")
	}
	if s == "-0" {
		return "0"
	}
	return s
}
