// Package reel keeps what a composition looks like from frame to frame, for the formats that hold it as shapes that move: what of
// it is made of lines, from the hindmost to the foremost, with the values that change, and as few of them as a tolerance allows.
package reel

import (
	"math"
	"slices"

	"wunderkammer/core/engine"
	"wunderkammer/core/num"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// Look is how something made of lines is drawn at a frame, in the space of the composition: pixels from its middle, y up.
type Look struct {
	// Place leads from the space of the outline to the composition: x' = a·x + c·y + e, y' = b·x + d·y + f.
	Place   Matrix
	Opacity float64 // 0 to 1
	Outline outline.Path
	EvenOdd bool
	Fill    Paint
	// Width of the line, 0 for none. It runs along Line, which is the outline where Whole.
	Width  float64
	Line   outline.Path
	Whole  bool
	Stroke scene.Value // a colour
	Cap    int         // an index of scene.Caps
	Join   int         // an index of scene.Joins
	// Picture is what is shown in place of a fill; the outline is then a square of 1 about the origin, y down.
	Picture *scene.Frame
}

// Matrix is a transform of a plane: a, b, c, d, e, f.
type Matrix [6]float64

// Paint is what fills an outline: a colour, or a gradient.
type Paint struct {
	Kind   string      // of scene.Gradients
	Colour scene.Value // without a gradient
	Stops  []scene.Stop
	From   [2]float64
	To     [2]float64
	Across float64 // of a radial gradient, its width by the length of its axis
}

// Seen is an item as it is shown by itself or by a copy.
type Seen struct {
	Item int32 // of the plan's layout
	By   *engine.Copied
}

// Outlined calls visit for all that is made of lines, and for pictures, where they are in the output, from the hindmost to the foremost, at the frame that
// the plan was last evaluated at. It ends early where visit returns false.
func Outlined(p *engine.Plan, visit func(Seen) bool) {
	l := p.Layout
	going, painted := true, l.Painted()
	see := func(i int32, by *engine.Copied) {
		class := l.Items[i].Kind.Class()
		if going && (class == scene.Outlined || class == scene.Pictured && len(l.Items[i].Frames) > 0) && !l.Out[i] {
			going = visit(Seen{i, by})
		}
	}
	for n := len(painted) - 1; n >= 0 && going; n-- { // the first item is in front
		p.Pause()
		switch i := painted[n]; {
		case !p.Shown(i) || l.Out[i]:
		case l.Items[i].Kind == scene.CopiesItem:
			p.Copies(i, func(c *engine.Copied) { see(c.Item, c) })
		default:
			see(i, p.Alone(i))
		}
	}
}

// LookOf returns how an item is drawn at the frame that the plan was last evaluated at; nil where nothing of it is seen.
func LookOf(p *engine.Plan, s Seen) *Look {
	item := p.Layout.Items[s.Item]
	value := func(key string) scene.Value {
		v := p.ValueOf(s.Item, key)
		if slices.Contains(scene.Tinted, key) {
			return s.By.Dyed(v)
		}
		return v
	}
	path := p.Shape(s.Item)
	opacity := value("opacity").At(0) / 100 * s.By.Opacity
	if len(path.Verbs) == 0 || opacity == 0 {
		return nil
	}
	if len(item.Frames) > 0 {
		n := int(max(1, min(float64(len(item.Frames)), math.Round(value("frame").At(0)))))
		w, h := value("size").At(0), value("size").At(1)
		m := flat(p.World(s.Item))
		place := Matrix{m[0] * w, m[1] * w, -m[2] * h, -m[3] * h, m[4], m[5]}
		return &Look{Place: place, Opacity: opacity, Outline: outline.Rectangle(1, 1, 0), Whole: true, Fill: Paint{Kind: "none"}, Picture: &item.Frames[n-1]}
	}
	l := &Look{Place: flat(p.World(s.Item)), Opacity: opacity, Outline: path, EvenOdd: item.Path != nil && item.Path.EvenOdd, Width: value("strokeWidth").At(0)}
	l.Fill = paint(item, value, s.By)
	l.Line, l.Whole = path, true
	if l.Width > 0 {
		l.Line, l.Whole = p.Stroke(s.Item)
		l.Stroke, l.Cap, l.Join = value("stroke"), int(value("cap").At(0)), int(value("join").At(0))
	}
	return l
}

// flat is a transform seen straight from the front.
func flat(m num.Affine) Matrix { return Matrix{m[0], m[4], m[1], m[5], m[3], m[7]} }

func paint(item *scene.Item, value func(string) scene.Value, by *engine.Copied) Paint {
	kind := scene.Gradients[int(value("gradient").At(0))]
	if kind == "none" {
		return Paint{Kind: kind, Colour: value("fill")}
	}
	from, to := value("gradientFrom"), value("gradientTo")
	g := Paint{Kind: kind, From: [2]float64{from.At(0), from.At(1)}, To: [2]float64{to.At(0), to.At(1)}, Across: value("gradientWidth").At(0) / 100}
	g.Stops = item.Ramp(value("fill"), value("secondFill"))
	for k := range item.Stops {
		g.Stops[k+1].Colour = by.Dyed(g.Stops[k+1].Colour)
	}
	return g
}
