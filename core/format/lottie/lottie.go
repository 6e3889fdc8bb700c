// Package lottie writes a reel as an animation in JSON, in the form that the Lottie Animation Community publishes: shapes with
// keys, as few as a tolerance allows.
package lottie

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/format/reel"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// Options say how an animation is written.
type Options struct {
	Width, Height int     // in pixels; what is drawn is stretched to it
	Tolerance     float64 // how far anything may be off, in pixels of the composition
	Clear         bool    // without the background
}

type object map[string]any

// Write returns a reel as an animation.
func Write(r *reel.Reel, o Options) ([]byte, error) {
	c := r.Composition
	r = &reel.Reel{Composition: c, From: r.From, Count: r.Count, Parts: slices.DeleteFunc(slices.Clone(r.Parts), func(p *reel.Part) bool {
		picture := p.First().Picture
		return picture != nil && picture.Part != [4]int{}
	})}
	w := &writer{reel: r, tolerance: o.Tolerance, px: reel.Digits(o.Tolerance, 1), assets: []object{}}
	led := r.Leaders(o.Tolerance / 2)
	for k := range led {
		if by := led[k].By; by >= 0 && r.Parts[by].First().Picture != nil { // whose space is another
			led[k].By = -1
		}
	}
	layers := []object{}
	number := func(k int) int { return len(r.Parts) - k }
	for k := len(r.Parts) - 1; k >= 0; k-- { // the first layer is in front
		layer := w.layer(r.Parts[k], number(k), led[k])
		if by := led[k].By; by >= 0 {
			layer["parent"] = number(by)
		}
		layers = append(layers, layer)
	}
	if !o.Clear {
		ground := c.Background
		layers = append(layers, object{
			"ty": 1, "ind": len(layers) + 1, "nm": "Background", "ip": 0, "op": r.Count, "st": 0,
			"sw": c.Width, "sh": c.Height, "sc": ground.Hex(),
			"ks": object{"o": still(round(100*ground.At(3), 1))},
		})
	}
	assets := w.assets
	if o.Width != c.Width || o.Height != c.Height { // in a composition within one of the wanted size
		assets = append(assets, object{"id": "all", "layers": layers})
		scale := []float64{round(100*float64(o.Width)/float64(c.Width), 4), round(100*float64(o.Height)/float64(c.Height), 4)}
		layers = []object{{
			"ty": 0, "ind": 1, "nm": c.Name, "refId": "all", "w": c.Width, "h": c.Height, "ip": 0, "op": r.Count, "st": 0,
			"ks": object{"s": still(scale)},
		}}
	}
	return json.Marshal(object{
		"v": "5.7.0", "nm": c.Name, "fr": c.Rate, "ip": 0, "op": r.Count, "w": o.Width, "h": o.Height, "ddd": 0,
		"assets": assets, "layers": layers,
	})
}

type writer struct {
	reel      *reel.Reel
	tolerance float64
	px        int // digits of lengths behind the point
	assets    []object
}

func round(x float64, digits int) float64 {
	p := math.Pow10(digits)
	return math.Round(x*p)/p + 0 // no -0
}

func still(v any) object { return object{"a": 0, "k": v} }

// layer writes a part as a layer of shapes.
func (w *writer) layer(p *reel.Part, number int, led reel.Led) object {
	from, to := 0, w.reel.Count
	spans := p.Spans()
	if len(spans) == 1 {
		from, to = spans[0][0], spans[0][1]
	}
	head := object{"ind": number, "nm": p.Item.Name, "ip": from, "op": to, "st": 0, "ks": w.transform(p, led)}
	if picture := p.First().Picture; picture != nil {
		head["ty"], head["refId"] = 2, w.picture(p, head["ks"].(object))
		return head
	}
	shapes := []object{}
	whole := p.Whole()
	if widest := p.Widest(); widest.Width > 0 { // what comes first is in front
		if whole {
			shapes = append(shapes, w.line(p))
		} else {
			shapes = append(shapes, group("Line", append(w.outlines(p, func(l *reel.Look) outline.Path { return l.Line }), w.line(p))))
			shapes = append(shapes, group("Fill", append(w.outlines(p, func(l *reel.Look) outline.Path { return l.Outline }), w.fill(p))))
		}
	}
	if whole || p.Widest().Width == 0 {
		shapes = []object{group("Shape", append(append(w.outlines(p, func(l *reel.Look) outline.Path { return l.Outline }), shapes...), w.fill(p)))}
	}
	head["ty"], head["shapes"] = 4, shapes
	return head
}

// picture writes the picture of a part, which is led to by its name, and returns what it is called. The part is a square of 1 about the
// origin, y down; in the file the picture is as large as it is seen at first, from its upper left corner on, which place makes up for.
func (w *writer) picture(p *reel.Part, place object) string {
	scale := p.Motion(w.tolerance).All[0].Scale
	wide, high := max(1, math.Round(math.Abs(scale[0]))), max(1, math.Round(math.Abs(scale[1])))
	id := fmt.Sprintf("picture %d", len(w.assets)+1)
	w.assets = append(w.assets, object{"id": id, "w": wide, "h": high, "u": "", "p": "asset:" + string(p.First().Picture.Asset), "e": 1})
	fitted := func(v []float64) []float64 { return []float64{round(v[0]/wide, 4), round(-v[1]/high, 4)} }
	s := place["s"].(object)
	switch k := s["k"].(type) {
	case []float64:
		s["k"] = fitted(k)
	case []object:
		for _, one := range k {
			one["s"] = fitted(one["s"].([]float64))
		}
	}
	place["a"] = still([]float64{wide / 2, high / 2})
	return id
}

func group(name string, items []object) object {
	return object{"ty": "gr", "nm": name, "it": append(items, object{
		"ty": "tr", "p": still([]float64{0, 0}), "a": still([]float64{0, 0}), "s": still([]float64{100, 100}), "r": still(0), "o": still(100),
	})}
}

// transform writes where a part stands, y down: from the upper left corner, or in the space of the part that it goes along with.
func (w *writer) transform(p *reel.Part, led reel.Led) object {
	var m *reel.Motion
	x, y := float64(w.reel.Composition.Width)/2, float64(w.reel.Composition.Height)/2
	if led.By >= 0 {
		m, x, y = led.At.Motion(), 0, 0
	} else {
		m = p.Motion(w.tolerance)
	}
	over := func(keys []reel.Key, digits int, of func(t *reel.Turned) []float64) object {
		return rows(keys, digits, func(k int) []float64 { return of(&m.All[k]) })
	}
	out := object{
		"p": over(m.Move, w.px, func(t *reel.Turned) []float64 {
			return []float64{x + t.Move[0], y - t.Move[1]}
		}),
		"r": single(m.Angle, 3, func(k int) float64 { return -m.All[k].Angle }),
		"s": over(m.Scale, 3, func(t *reel.Turned) []float64 { return []float64{100 * t.Scale[0], 100 * t.Scale[1]} }),
	}
	if len(m.Shear) > 1 || math.Abs(m.All[0].Shear) > 1e-6 {
		out["sk"], out["sa"] = single(m.Shear, 3, func(k int) float64 { return m.All[k].Shear }), still(0)
	}
	seen := make([]float64, len(p.Looks))
	for k, look := range p.Looks {
		if look != nil {
			seen[k] = 100 * look.Opacity
		}
	}
	if spans := p.Spans(); len(spans) == 1 { // before and behind it the layer is not there
		for k := range seen {
			seen[k] = seen[max(spans[0][0], min(spans[0][1]-1, k))]
		}
	}
	all := make([][]float64, len(seen))
	for k := range seen {
		all[k] = seen[k : k+1]
	}
	out["o"] = single(reel.Keys(all, 100*reel.OpacityTolerance), 1, func(k int) float64 { return seen[k] })
	return out
}

// outlines writes the contours of a part.
func (w *writer) outlines(p *reel.Part, of func(*reel.Look) outline.Path) []object {
	all, keys, smooth := p.Outlines(of, w.tolerance)
	fine := reel.Digits(w.tolerance, p.Size())
	contours := make([][]object, len(keys))
	most := 0
	for n, k := range keys {
		contours[n] = contoursOf(all[k.Frame], fine)
		most = max(most, len(contours[n]))
	}
	out := make([]object, most)
	for c := range out {
		at := func(n int) object {
			if c < len(contours[n]) {
				return contours[n][c]
			}
			return nothing
		}
		value := still(at(0))
		if len(keys) > 1 {
			frames := make([]object, len(keys))
			for n, k := range keys {
				frames[n] = key(k, []object{at(n)}, n == len(keys)-1, !smooth)
			}
			value = object{"a": 1, "k": frames}
		}
		out[c] = object{"ty": "sh", "nm": "Path", "ks": value}
	}
	return out
}

// nothing is a contour of which nothing is seen.
var nothing = object{"c": false, "v": [][2]float64{{0, 0}}, "i": [][2]float64{{0, 0}}, "o": [][2]float64{{0, 0}}}

// contoursOf are the contours of an outline: their points, with handles that are counted from them, y down.
func contoursOf(p outline.Path, digits int) (out []object) {
	var v, in, to [][2]float64
	closed := false
	end := func() {
		if len(v) == 0 {
			return
		}
		if last := len(v) - 1; closed && last > 0 && v[last] == v[0] { // the end is the beginning
			in[0] = in[last]
			v, in, to = v[:last], in[:last], to[:last]
		}
		out = append(out, object{"c": closed, "v": v, "i": in, "o": to})
		v, in, to, closed = nil, nil, nil, false
	}
	xy := func(k int) [2]float64 { return [2]float64{round(p.Points[k], digits), round(-p.Points[k+1], digits)} }
	less := func(a, b [2]float64) [2]float64 {
		return [2]float64{round(a[0]-b[0], digits), round(a[1]-b[1], digits)}
	}
	point := func(at, handle [2]float64) {
		v, in, to = append(v, at), append(in, handle), append(to, [2]float64{})
	}
	k := 0
	for _, verb := range p.Verbs {
		switch verb {
		case outline.MoveTo:
			end()
			point(xy(k), [2]float64{})
			k += 2
		case outline.LineTo:
			point(xy(k), [2]float64{})
			k += 2
		case outline.QuadTo:
			before, control, at := v[len(v)-1], xy(k), xy(k+2)
			third := func(end [2]float64) [2]float64 { // two thirds of the way to the control point
				return [2]float64{round((control[0]-end[0])*2/3, digits), round((control[1]-end[1])*2/3, digits)}
			}
			to[len(to)-1] = third(before)
			point(at, third(at))
			k += 4
		case outline.CubicTo:
			before, at := v[len(v)-1], xy(k+4)
			to[len(to)-1] = less(xy(k), before)
			point(at, less(xy(k+2), at))
			k += 6
		case outline.Close:
			closed = true
		}
	}
	end()
	return out
}

// line writes the line of a part.
func (w *writer) line(p *reel.Part) object {
	first := p.Widest()
	widths, wide := p.Over(func(l *reel.Look) []float64 { return []float64{l.Width} }, w.tolerance)
	colour, opacity := colourOf(p, func(l *reel.Look) scene.Value {
		if l.Width == 0 { // a line of no width has no colour
			return first.Stroke
		}
		return l.Stroke
	})
	return object{
		"ty": "st", "nm": "Stroke", "c": colour, "o": opacity, "w": single(wide, w.px, only(widths)),
		"lc": 1 + first.Cap, "lj": 1 + first.Join, "ml": 4,
	}
}

// colourOf writes a colour of a part, and its opacity in percent.
func colourOf(p *reel.Part, of func(*reel.Look) scene.Value) (colour, opacity object) {
	colours, coloured, alphas, covered := p.Colours(of)
	return rows(coloured, 4, at(colours)), single(covered, 1, func(k int) float64 { return 100 * alphas[k][0] })
}

// fill writes what fills a part.
func (w *writer) fill(p *reel.Part) object {
	first := p.First()
	rule := 1
	if first.EvenOdd {
		rule = 2
	}
	if first.Fill.Kind == "none" {
		colour, opacity := colourOf(p, func(l *reel.Look) scene.Value { return l.Fill.Colour })
		return object{"ty": "fl", "nm": "Fill", "c": colour, "o": opacity, "r": rule}
	}
	kind := 1
	if first.Fill.Kind == "radial" {
		kind = 2
	}
	begins, from := p.Over(func(l *reel.Look) []float64 { return []float64{l.Fill.From[0], -l.Fill.From[1]} }, w.tolerance)
	ends, to := p.Over(func(l *reel.Look) []float64 { return []float64{l.Fill.To[0], -l.Fill.To[1]} }, w.tolerance)
	stops, keys := p.Over(func(l *reel.Look) []float64 { return ramp(l.Fill.Stops) }, reel.ColourTolerance)
	return object{
		"ty": "gf", "nm": "Fill", "t": kind, "s": rows(from, w.px, at(begins)), "e": rows(to, w.px, at(ends)), "o": still(100), "r": rule,
		"g": object{"p": len(first.Fill.Stops), "k": rows(keys, 4, at(stops))},
	}
}

// ramp lists the stops of a gradient, and behind them how much light they let through.
func ramp(stops []scene.Stop) []float64 {
	var out, clear []float64
	for _, s := range stops {
		out = append(out, s.At, s.Colour.At(0), s.Colour.At(1), s.Colour.At(2))
		clear = append(clear, s.At, s.Colour.At(3))
	}
	return append(out, clear...)
}

// key writes the value at a frame, and how it goes on.
func key(k reel.Key, value any, last, holds bool) object {
	out := object{"t": k.Frame, "s": value}
	switch {
	case last:
	case holds:
		out["h"] = 1
	case k.Ease == reel.Straight:
		out["o"], out["i"] = handle{0, 0}, handle{1, 1}
	default:
		out["o"], out["i"] = handle{0.333, round(k.Out, 3)}, handle{0.667, round(k.In, 3)}
	}
	return out
}

// handle is one of an easing.
type handle struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// rows writes keys of several numbers.
func rows(keys []reel.Key, digits int, of func(k int) []float64) object {
	fine := func(k int) []float64 {
		out := make([]float64, 0, 4)
		for _, x := range of(k) {
			out = append(out, round(x, digits))
		}
		return out
	}
	if len(keys) == 1 {
		return still(fine(keys[0].Frame))
	}
	out := make([]object, len(keys))
	for n, k := range keys {
		out[n] = key(k, fine(k.Frame), n == len(keys)-1, false)
	}
	return object{"a": 1, "k": out}
}

// at reads rows.
func at(all [][]float64) func(k int) []float64 { return func(k int) []float64 { return all[k] } }

// only reads rows of one number.
func only(all [][]float64) func(k int) float64 { return func(k int) float64 { return all[k][0] } }

// single writes keys of one number.
func single(keys []reel.Key, digits int, of func(k int) float64) object {
	if len(keys) == 1 {
		return still(round(of(keys[0].Frame), digits))
	}
	return rows(keys, digits, func(k int) []float64 { return []float64{of(k)} })
}
