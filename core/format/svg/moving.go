package svg

import (
	"fmt"
	"strconv"
	"strings"

	"wunderkammer/core/format/reel"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// Options say how a picture that moves is written.
type Options struct {
	Width, Height int     // in pixels; the picture is stretched to it
	Tolerance     float64 // how far anything may be off, in pixels of the composition
	Loop          int     // how often it plays; 0 is for ever
	Clear         bool    // without the background
}

// Moving returns a reel as SVG that moves by itself (SMIL), its shapes with keys as few as the tolerance allows.
func Moving(r *reel.Reel, o Options) []byte {
	c := r.Composition
	w := &movingWriter{count: r.Count, tolerance: o.Tolerance}
	repeat := "indefinite"
	if o.Loop > 0 {
		repeat = strconv.Itoa(o.Loop)
	}
	w.time = fmt.Sprintf(`dur="%ss" repeatCount="%s" fill="freeze"`, short(float64(r.Count)/float64(c.Rate)), repeat)
	for _, part := range r.Parts {
		w.part(part)
	}
	var out strings.Builder
	fmt.Fprintf(&out, `<svg xmlns="http://www.w3.org/2000/svg" width="%d" height="%d" viewBox="0 0 %d %d" preserveAspectRatio="none">`, o.Width, o.Height, c.Width, c.Height)
	if w.defs.Len() > 0 {
		out.WriteString("<defs>" + w.defs.String() + "</defs>")
	}
	if !o.Clear {
		fmt.Fprintf(&out, `<rect width="%d" height="%d"%s/>`, c.Width, c.Height, paint("fill", c.Background))
	}
	// The y axis of a composition points up and its origin is in the middle.
	fmt.Fprintf(&out, `<g transform="matrix(1 0 0 -1 %s %s)">`, short(float64(c.Width)/2), short(float64(c.Height)/2))
	out.WriteString(w.body.String() + "</g></svg>\n")
	return []byte(out.String())
}

// movingWriter gathers a picture that moves.
type movingWriter struct {
	body, defs strings.Builder
	gradients  int
	count      int // frames
	tolerance  float64
	time       string // the attributes of every animation that say how long it lasts
}

func (w *movingWriter) part(p *reel.Part) {
	first := p.First()
	w.body.WriteString("<g")
	opacities, keys := p.Over(func(l *reel.Look) []float64 { return []float64{l.Opacity} }, reel.OpacityTolerance)
	if first.Opacity != 1 {
		fmt.Fprintf(&w.body, ` opacity="%s"`, short(first.Opacity))
	}
	placed := w.place(p)
	w.body.WriteString(">" + placed)
	w.animate(&w.body, "opacity", keys, func(k int) string { return short(opacities[k][0]) })
	w.seen(p)
	if first.Picture != nil {
		w.body.WriteString(shown(first.Picture) + "</g>")
		return
	}
	whole := p.Whole()
	w.outline(p, func(l *reel.Look) outline.Path { return l.Outline }, true, whole)
	if !whole {
		w.outline(p, func(l *reel.Look) outline.Path { return l.Line }, false, true)
	}
	w.body.WriteString("</g>")
}

// outline writes a path that is filled, or has a line, or both.
func (w *movingWriter) outline(p *reel.Part, of func(*reel.Look) outline.Path, filled, lined bool) {
	first := p.First()
	all, keys, smooth := p.Outlines(of, w.tolerance)
	var inside strings.Builder
	digits := reel.Digits(w.tolerance, p.Size())
	animate := w.animate
	if !smooth {
		animate = w.switched
	}
	animate(&inside, "d", keys, func(k int) string { return data(all[k], digits) })
	fmt.Fprintf(&w.body, `<path d="%s"`, data(all[0], digits))
	if filled {
		w.fill(p, &inside)
		if first.EvenOdd {
			w.body.WriteString(` fill-rule="evenodd"`)
		}
	} else {
		w.body.WriteString(` fill="none"`)
	}
	widths, wide := p.Over(func(l *reel.Look) []float64 { return []float64{l.Width} }, w.tolerance)
	if lined && (widths[0][0] > 0 || len(wide) > 1) {
		w.body.WriteString(strokeOf(p.Widest()))
		w.colour(p, "stroke", &inside, func(l *reel.Look) scene.Value { return l.Stroke })
		if len(wide) > 1 {
			w.animate(&inside, "stroke-width", wide, func(k int) string { return short(widths[k][0]) })
		}
	}
	w.body.WriteString(">" + inside.String() + "</path>")
}

// colour animates a colour and how much light it lets through.
func (w *movingWriter) colour(p *reel.Part, name string, into *strings.Builder, of func(*reel.Look) scene.Value) {
	colours, coloured, alphas, covered := p.Colours(of)
	w.animate(into, name, coloured, func(k int) string { return scene.NewValue(colours[k]).Hex() })
	w.animate(into, opacityNames[name], covered, func(k int) string { return short(alphas[k][0]) })
}

// fill writes what fills a path, and what changes of it.
func (w *movingWriter) fill(p *reel.Part, inside *strings.Builder) {
	first := p.First()
	if first.Fill.Kind == "none" {
		w.body.WriteString(paint("fill", first.Fill.Colour))
		w.colour(p, "fill", inside, func(l *reel.Look) scene.Value { return l.Fill.Colour })
		return
	}
	w.gradients++
	fmt.Fprintf(&w.body, ` fill="url(#g%d)"`, w.gradients)
	if first.Fill.Kind == "linear" {
		ends, keys := p.Over(func(l *reel.Look) []float64 {
			return []float64{l.Fill.From[0], l.Fill.From[1], l.Fill.To[0], l.Fill.To[1]}
		}, w.tolerance)
		fmt.Fprintf(&w.defs, `<linearGradient id="g%d" gradientUnits="userSpaceOnUse" x1="%s" y1="%s" x2="%s" y2="%s">`,
			w.gradients, short(ends[0][0]), short(ends[0][1]), short(ends[0][2]), short(ends[0][3]))
		for c, name := range []string{"x1", "y1", "x2", "y2"} {
			w.animate(&w.defs, name, keys, func(k int) string { return short(ends[k][c]) })
		}
	} else {
		lying := *p
		lying.Looks = make([]*reel.Look, len(p.Looks))
		for k, look := range p.Looks {
			if look != nil {
				lying.Looks[k] = &reel.Look{Place: circled(&look.Fill), Outline: outline.Ellipse(2, 2)}
			}
		}
		m := lying.First().Place
		fmt.Fprintf(&w.defs, `<radialGradient id="g%d" gradientUnits="userSpaceOnUse" cx="0" cy="0" r="1" gradientTransform="matrix(%s %s %s %s %s %s)">`,
			w.gradients, short(m[0]), short(m[1]), short(m[2]), short(m[3]), short(m[4]), short(m[5]))
		if motion := lying.Motion(w.tolerance); !motion.Still() {
			w.defs.WriteString(w.turned("gradientTransform", motion))
		}
	}
	for n, stop := range first.Fill.Stops {
		fmt.Fprintf(&w.defs, `<stop offset="%s"%s>`, short(stop.At), paint("stop-color", stop.Colour))
		w.colour(p, "stop-color", &w.defs, func(l *reel.Look) scene.Value { return l.Fill.Stops[n].Colour })
		w.defs.WriteString("</stop>")
	}
	fmt.Fprintf(&w.defs, `</%sGradient>`, first.Fill.Kind)
}

// place writes where a part stands, as an attribute, and returns what moves it.
func (w *movingWriter) place(p *reel.Part) string {
	if motion := p.Motion(w.tolerance); !motion.Still() {
		return w.turned("transform", motion)
	}
	m := p.First().Place
	fmt.Fprintf(&w.body, ` transform="matrix(%s %s %s %s %s %s)"`, short(m[0]), short(m[1]), short(m[2]), short(m[3]), short(m[4]), short(m[5]))
	return ""
}

// turned animates a transform in its parts: each is put behind those before.
func (w *movingWriter) turned(name string, m *reel.Motion) string {
	var out strings.Builder
	px := reel.Digits(w.tolerance, 1)
	for _, part := range []struct {
		kind string
		keys []reel.Key
		of   func(*reel.Turned) string
		none string
	}{
		{"translate", m.Move, func(t *reel.Turned) string { return rounded(t.Move[0], px) + " " + rounded(t.Move[1], px) }, ""},
		{"rotate", m.Angle, func(t *reel.Turned) string { return rounded(t.Angle, 3) }, "0"},
		{"skewX", m.Shear, func(t *reel.Turned) string { return rounded(t.Shear, 3) }, "0"},
		{"scale", m.Scale, func(t *reel.Turned) string { return rounded(t.Scale[0], 4) + " " + rounded(t.Scale[1], 4) }, "1 1"},
	} {
		sum := ""
		if part.kind != "translate" {
			sum = ` additive="sum"`
		}
		value := func(k int) string { return part.of(&m.All[k]) }
		switch {
		case len(part.keys) > 1:
			fmt.Fprintf(&out, `<animateTransform attributeName="%s" type="%s"%s %s %s/>`, name, part.kind, sum, w.eased(part.keys, value), w.time)
		case value(0) != part.none:
			fmt.Fprintf(&out, `<animateTransform attributeName="%s" type="%s"%s values="%s" %s/>`, name, part.kind, sum, value(0), w.time)
		}
	}
	return out.String()
}

// values lists what keys say, with their times; the last holds until the end.
func (w *movingWriter) values(keys []reel.Key, value func(k int) string) string {
	values, times := make([]string, len(keys), len(keys)+1), make([]string, len(keys), len(keys)+1)
	for n, k := range keys {
		values[n], times[n] = value(k.Frame), short(float64(k.Frame)/float64(w.count))
	}
	return fmt.Sprintf(`values="%s" keyTimes="%s"`, strings.Join(append(values, values[len(values)-1]), ";"), strings.Join(append(times, "1"), ";"))
}

// eased lists what keys say, and how they go on.
func (w *movingWriter) eased(keys []reel.Key, value func(k int) string) string {
	splines := make([]string, len(keys))
	straight := true
	for n, k := range keys {
		splines[n] = "0 0 1 1"
		if k.Ease != reel.Straight {
			splines[n] = fmt.Sprintf(".333 %s .667 %s", rounded(k.Out, 3), rounded(k.In, 3))
			straight = false
		}
	}
	out := w.values(keys, value)
	if !straight {
		out += fmt.Sprintf(` calcMode="spline" keySplines="%s"`, strings.Join(splines, ";"))
	}
	return out
}

// animate writes what changes an attribute, where there is more than one key.
func (w *movingWriter) animate(into *strings.Builder, name string, keys []reel.Key, value func(k int) string) {
	if len(keys) > 1 {
		fmt.Fprintf(into, `<animate attributeName="%s" %s %s/>`, name, w.eased(keys, value), w.time)
	}
}

// switched writes what changes an attribute at once, at each key.
func (w *movingWriter) switched(into *strings.Builder, name string, keys []reel.Key, value func(k int) string) {
	if len(keys) > 1 {
		fmt.Fprintf(into, `<animate attributeName="%s" calcMode="discrete" %s %s/>`, name, w.values(keys, value), w.time)
	}
}

// seen writes when a part is seen, where that is not always.
func (w *movingWriter) seen(p *reel.Part) {
	var keys []reel.Key
	shown := func(k int) bool { return p.Looks[k] != nil }
	for k := range p.Looks {
		if k == 0 || shown(k) != shown(k-1) {
			keys = append(keys, reel.Key{Frame: k})
		}
	}
	w.switched(&w.body, "visibility", keys, func(k int) string {
		if shown(k) {
			return "visible"
		}
		return "hidden"
	})
}
