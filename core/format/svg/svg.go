// Package svg writes one frame of a composition as SVG 1.1.
package svg

import (
	"fmt"
	"strconv"
	"strings"

	"wunderkammer/core/engine"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// Frame returns the picture of a composition at the frame its plan was last evaluated at: shapes
// and texts as paths, seen straight from the front. Nulls, hidden items and those not in output
// are left out.
func Frame(c *scene.Composition, p *engine.Plan) []byte {
	var b strings.Builder
	w, h := float64(c.Width), float64(c.Height)
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%d" height="%d" viewBox="0 0 %d %d">`, c.Width, c.Height, c.Width, c.Height)
	fmt.Fprintf(&b, `<rect width="%d" height="%d"%s/>`, c.Width, c.Height, paint("fill", c.Background))
	// The y axis of a composition points up and its origin is in the middle.
	fmt.Fprintf(&b, `<g transform="matrix(1 0 0 -1 %s %s)">`, short(w/2), short(h/2))
	for i := len(p.Layout.Items) - 1; i >= 0; i-- { // the first item is in front
		item := p.Layout.Items[i]
		if item.Kind.Drawn() && !item.Hidden && !item.NotInOutput {
			draw(&b, p, int32(i))
		}
	}
	b.WriteString("</g></svg>\n")
	return []byte(b.String())
}

func draw(b *strings.Builder, p *engine.Plan, i int32) {
	id := p.Layout.Items[i].ID
	value := func(key string) scene.Value { return p.Value(scene.Ref{Item: id, Property: key}) }
	path := p.Shape(i)
	opacity := value("opacity").At(0) / 100
	if len(path.Verbs) == 0 || opacity == 0 {
		return
	}
	m := p.World(i)
	fmt.Fprintf(b, `<path transform="matrix(%s %s %s %s %s %s)" d="%s"`, short(m[0]), short(m[4]), short(m[1]), short(m[5]), short(m[3]), short(m[7]), data(path))
	b.WriteString(paint("fill", value("fill")))
	if width := value("strokeWidth").At(0); width > 0 {
		b.WriteString(paint("stroke", value("stroke")))
		fmt.Fprintf(b, ` stroke-width="%s"`, short(width))
	}
	if opacity != 1 {
		fmt.Fprintf(b, ` opacity="%s"`, short(opacity))
	}
	b.WriteString("/>")
}

// paint returns an attribute with a colour, and one with its opacity where it lets light through.
func paint(name string, c scene.Value) string {
	byte255 := func(x float64) int { return int(x*255 + 0.5) }
	s := fmt.Sprintf(` %s="#%02x%02x%02x"`, name, byte255(c.At(0)), byte255(c.At(1)), byte255(c.At(2)))
	if c.At(3) != 1 {
		s += fmt.Sprintf(` %s-opacity="%s"`, name, short(c.At(3)))
	}
	return s
}

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
