package demo

import (
	"fmt"
	"math"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// ID is the id of the demo project.
const ID scene.ID = "lanternfall"

// The lengths of the opener: 12 seconds at 25 frames a second.
const (
	width, height = 1280, 720
	frames        = 300
)

// Build returns the demo project.
func Build() (*scene.Project, error) {
	p := scene.NewProject(ID, "Lanternfall")
	c := p.Compositions[0]
	b := &builder{project: p, in: change.In{Composition: c.ID}}
	name, background := "Harbour opener", rgb("#16213d")
	b.do(&change.CompositionSet{In: b.in, Name: &name, Background: &background})
	rig := b.panels()
	b.title(rig)
	b.garland(rig)
	b.lighthouse(rig)
	b.boats(rig)
	b.harbour(rig)
	b.sky(rig)
	return p, b.err
}

// rig is the controls that the rest of the composition is wired to.
type rig struct {
	weather, title                                       scene.ID
	wind, tide, dusk, glow, tint, beam, lamps            scene.Ref
	titleSize, titleShown, titleTint, titlePlace, stroke scene.Ref
}

// panels adds the nulls whose drawers make the Desk, with the pins that animate everything.
func (b *builder) panels() *rig {
	r := &rig{}
	r.weather = b.item(scene.Null, "Weather", "", values{"position": scene.Pt(-540, 290, 0)})
	r.wind = b.control(r.weather, scene.Control{
		Name: "Wind", Kind: scene.Slider, Unit: scene.Percent, SoftMin: -100, SoftMax: 100, Default: scene.Num(0),
		Note: "How far the lanterns and boats lean, and to which side.",
	}, curve.Smooth, gusts()...)
	r.tide = b.control(r.weather, scene.Control{
		Name: "Tide", Kind: scene.Slider, Unit: scene.Metres, SoftMin: 0, SoftMax: 4, Default: scene.Num(1),
		Note: "Height of the water above the low mark. The boats ride on it.",
	}, curve.Smooth, pin{0, scene.Num(0.6)}, pin{110, scene.Num(2.2)}, pin{220, scene.Num(1.4)}, pin{299, scene.Num(3)})
	r.dusk = b.control(r.weather, scene.Control{
		Name: "Sky tint", Kind: scene.ColourControl, Default: rgb("#3b3f6e"),
		Note: "The colour of the low sky, and of the haze over the water.",
	}, curve.Smooth, pin{0, rgb("#c2664f")}, pin{120, rgb("#7a4a72")}, pin{260, rgb("#2f3a6b")})
	r.beam = b.control(r.weather, scene.Control{
		Name: "Beam angle", Kind: scene.AngleControl, SoftMin: -180, SoftMax: 180, Default: scene.Num(0),
	}, curve.Linear, pin{0, scene.Num(150)}, pin{150, scene.Num(200)}, pin{299, scene.Num(140)})
	r.title = b.item(scene.Null, "Title", "", values{"position": scene.Pt(-540, 220, 0)})
	r.titleSize = b.control(r.title, scene.Control{
		Name: "Size", Kind: scene.Slider, Unit: scene.Percent, SoftMin: 0, SoftMax: 150, Default: scene.Num(100),
	}, curve.Smooth, pin{20, scene.Num(82)}, pin{70, scene.Num(100)}, pin{299, scene.Num(108)})
	r.titleShown = b.control(r.title, scene.Control{
		Name: "Shown", Kind: scene.Slider, Unit: scene.Percent, SoftMin: 0, SoftMax: 100, Default: scene.Num(100),
	}, curve.Smooth, pin{15, scene.Num(18)}, pin{60, scene.Num(100)})
	r.titleTint = b.control(r.title, scene.Control{
		Name: "Title tint", Kind: scene.ColourControl, Default: rgb("#f8ecd0"),
	}, curve.Smooth, pin{60, rgb("#f8ecd0")}, pin{200, rgb("#ffd98a")})
	r.titlePlace = b.control(r.title, scene.Control{
		Name: "Place", Kind: scene.PointControl, SoftMin: -640, SoftMax: 640, Default: scene.Pt(0, -40),
	}, curve.Smooth, pin{0, scene.Pt(0, -84)}, pin{60, scene.Pt(0, -40)})
	r.tint = b.control(r.title, scene.Control{
		Name: "Lantern tint", Kind: scene.ColourControl, Default: rgb("#e8a33d"),
	}, curve.Smooth, pin{40, rgb("#e8a33d")}, pin{150, rgb("#e06a42")}, pin{280, rgb("#f0bf55")})
	r.glow = b.control(r.title, scene.Control{
		Name: "Glow", Kind: scene.Slider, Unit: scene.Percent, SoftMin: 0, SoftMax: 100, Default: scene.Num(30),
	}, curve.Smooth, flicker()...)
	r.lamps = b.control(r.title, scene.Control{
		Name: "Window lights", Kind: scene.SwitchControl, Default: scene.On(true),
		Note: "The windows on the quay.",
	}, curve.Hold, pin{0, scene.On(false)}, pin{50, scene.On(true)})
	return r
}

// gusts are the pins of the wind: a swing that dies down and comes again.
func gusts() []pin {
	var pins []pin
	for i := range 13 {
		x := float64(i)
		strength := 34 + 46*math.Pow(math.Sin(x*0.27), 2)
		if i%2 == 1 {
			strength *= -0.55
		}
		pins = append(pins, pin{i * 25, scene.Num(math.Round(strength))})
	}
	return pins
}

func flicker() []pin {
	var pins []pin
	for i, v := range []float64{6, 18, 30, 26, 34, 28, 36, 30, 34} {
		pins = append(pins, pin{i * 36, scene.Num(v)})
	}
	return pins
}

func (b *builder) title(r *rig) {
	word := b.item(scene.TextItem, "LANTERNFALL", "", values{
		"text": scene.Txt("LANTERNFALL"), "fontSize": scene.Num(112), "position": scene.Pt(0, -40, 0),
	})
	b.follow(r.titleSize, word, "scale", "", 1, 0)
	b.follow(r.titleShown, word, "opacity", "", 1, 0)
	b.follow(r.titleTint, word, "fill", "", 1, 0)
	b.follow(r.titlePlace, word, "position", "", 1, 0)
	line := b.item(scene.TextItem, "Subtitle", "", values{
		"text": scene.Txt("a winter evening in the old harbour"), "fontSize": scene.Num(26), "position": scene.Pt(0, -86, 0),
	})
	b.follow(r.titleShown, line, "opacity", "", 1, -20)
	b.follow(r.titleTint, line, "fill", "", 1, 0)
	b.follow(scene.Ref{Item: r.titlePlace.Item, Property: r.titlePlace.Property, Component: "y"}, line, "position", "y", 1, -46)
}

// garland hangs 14 lanterns from a sagging line between two masts. Each lantern is a glow, a
// body, two caps and a cord, attached to a null at its hook, so that one rotation swings them all.
func (b *builder) garland(r *rig) {
	const count = 14
	hook := func(i float64) (x, y float64) {
		u := i/(count-1)*2 - 1
		return u * 500, 150 + 118*u*u
	}
	row := b.item(scene.Null, "Upper garland", "", nil)
	for i := range count {
		x, y := hook(float64(i))
		name := fmt.Sprintf("Lantern %d", i+1)
		lantern := b.item(scene.Null, name, row, values{"position": scene.Pt(round(x), round(y), 0)})
		// Lanterns in the middle of the line swing further.
		u := x / 500
		b.follow(r.wind, lantern, "rotation", "", round2(0.16+0.12*(1-u*u)), 0)
		tall := 46 + float64(i*37%11)
		b.item(scene.Rectangle, name+" cap", lantern, values{"size": scene.Pt(18, 6), "position": scene.Pt(0, -18, 0), "cornerRadius": scene.Num(2), "fill": rgb("#2a2030")})
		b.item(scene.Rectangle, name+" foot", lantern, values{"size": scene.Pt(14, 5), "position": scene.Pt(0, -20-tall, 0), "cornerRadius": scene.Num(2), "fill": rgb("#2a2030")})
		body := b.item(scene.Ellipse, name+" body", lantern, values{"size": scene.Pt(38, tall), "position": scene.Pt(0, -20-tall/2, 0), "stroke": rgb("#7a3b22"), "strokeWidth": scene.Num(1.5)})
		b.follow(r.tint, body, "fill", "", 1, 0)
		b.item(scene.Rectangle, name+" cord", lantern, values{"size": scene.Pt(1.5, 18), "position": scene.Pt(0, -8, 0), "fill": rgb("#2a2030")})
		for k, size := range []float64{92, 140} {
			glow := b.item(scene.Ellipse, fmt.Sprintf("%s glow %d", name, k+1), lantern, values{"size": scene.Pt(size, size+14), "position": scene.Pt(0, -20-tall/2, 0)})
			b.follow(r.tint, glow, "fill", "", 1, 0)
			b.follow(r.glow, glow, "opacity", "", round2(0.6-0.3*float64(k)), 0)
		}
	}
	for i := range count - 1 {
		x0, y0 := hook(float64(i))
		x1, y1 := hook(float64(i + 1))
		length := math.Hypot(x1-x0, y1-y0)
		b.item(scene.Rectangle, fmt.Sprintf("Line %d", i+1), row, values{
			"size": scene.Pt(round(length+1), 2), "position": scene.Pt(round((x0+x1)/2), round((y0+y1)/2), 0),
			"rotation": scene.Num(round2(math.Atan2(y1-y0, x1-x0) * 180 / math.Pi)), "fill": rgb("#2a2030"),
		})
	}
	for i, x := range []float64{-500, 500} {
		b.item(scene.Rectangle, fmt.Sprintf("Mast %d", i+1), row, values{"size": scene.Pt(7, 480), "position": scene.Pt(x, 40, 0), "fill": rgb("#2a2030")})
	}
}

func (b *builder) lighthouse(r *rig) {
	tower := b.item(scene.Null, "Lighthouse", "", values{"position": scene.Pt(540, -150, 0)})
	for _, part := range []struct {
		name    string
		w, h, y float64
		colour  string
		radius  float64
	}{
		{"Roof", 46, 16, 246, "#3a2733", 6}, {"Lamp room", 34, 34, 222, "#ffe9b0", 3}, {"Gallery", 56, 8, 202, "#3a2733", 2},
		{"Band 1", 44, 36, 150, "#9b2c3b", 0}, {"Band 2", 44, 36, 70, "#9b2c3b", 0}, {"Tower", 44, 200, 100, "#efe5d2", 2},
	} {
		b.item(scene.Rectangle, part.name, tower, values{"size": scene.Pt(part.w, part.h), "position": scene.Pt(0, part.y, 0), "cornerRadius": scene.Num(part.radius), "fill": rgb(part.colour)})
	}
	for k, width := range []float64{14, 38, 78} {
		beam := b.item(scene.Ellipse, fmt.Sprintf("Beam %d", k+1), tower, values{
			"size": scene.Pt(900, width), "position": scene.Pt(0, 222, 0), "pivot": scene.Pt(-450, 0, 0),
			"fill": rgb("#ffe9b0"), "opacity": scene.Num(14),
		})
		b.follow(r.beam, beam, "rotation", "", 1, 0)
	}
}

func (b *builder) boats(r *rig) {
	fleet := b.item(scene.Null, "Boats", "", values{"position": scene.Pt(0, -250, 0)})
	for i, boat := range []struct {
		x, y, scale float64
		hull        string
	}{{-470, 6, 100, "#7d3a33"}, {-230, -22, 122, "#35506e"}, {30, 2, 96, "#7d3a33"}, {215, -34, 130, "#4d5b3a"}, {-60, -58, 150, "#5a3550"}} {
		name := fmt.Sprintf("Boat %d", i+1)
		hull := b.item(scene.Null, name, fleet, values{"position": scene.Pt(boat.x, boat.y, 0), "scale": scene.Pt(boat.scale, boat.scale, 100)})
		b.follow(r.tide, hull, "position", "y", 14, boat.y)
		gain := 0.06
		if i%2 == 1 {
			gain = -0.05
		}
		b.follow(r.wind, hull, "rotation", "", gain, 0)
		b.item(scene.Ellipse, name+" lamp", hull, values{"size": scene.Pt(7, 7), "position": scene.Pt(2, 62, 0), "fill": rgb("#ffe0a0")})
		b.item(scene.Rectangle, name+" sail", hull, values{"size": scene.Pt(30, 44), "position": scene.Pt(18, 32, 0), "cornerRadius": scene.Num(12), "fill": rgb("#e9dfc9")})
		b.item(scene.Rectangle, name+" mast", hull, values{"size": scene.Pt(3, 62), "position": scene.Pt(1, 28, 0), "fill": rgb("#2a2030")})
		b.item(scene.Rectangle, name+" hull", hull, values{"size": scene.Pt(70, 18), "position": scene.Pt(0, -2, 0), "cornerRadius": scene.Num(9), "fill": rgb(boat.hull)})
	}
}

// harbour is the water, which rises with the tide, and the quay with its houses.
func (b *builder) harbour(r *rig) {
	quay := b.item(scene.Null, "Quay", "", nil)
	b.item(scene.Rectangle, "Quay wall", quay, values{"size": scene.Pt(330, 230), "position": scene.Pt(490, -275, 0), "cornerRadius": scene.Num(6), "fill": rgb("#332a3d")})
	for i, h := range []float64{96, 132, 84, 118} {
		x := []float64{356, 404, 452, 606}[i]
		window := b.item(scene.Rectangle, fmt.Sprintf("Window %d", i+1), quay, values{"size": scene.Pt(10, 14), "position": scene.Pt(x, -160+h-26, 0), "fill": rgb("#ffd98a")})
		b.follow(r.lamps, window, "opacity", "", 100, 0)
		b.item(scene.Rectangle, fmt.Sprintf("House %d", i+1), quay, values{"size": scene.Pt(44, h), "position": scene.Pt(x, -160+h/2, 0), "cornerRadius": scene.Num(4), "fill": rgb([]string{"#3d3350", "#453a58", "#382f49", "#413552"}[i])})
	}
	water := b.item(scene.Null, "Water", "", values{"position": scene.Pt(0, -250, 0)})
	b.follow(r.tide, water, "position", "y", 14, -262)
	for i, glint := range []struct{ x, y, w float64 }{{-420, -30, 120}, {-150, -64, 190}, {90, -18, 140}, {-330, -96, 210}, {240, -84, 170}, {-20, -120, 240}} {
		item := b.item(scene.Rectangle, fmt.Sprintf("Glint %d", i+1), water, values{"size": scene.Pt(glint.w, 3), "position": scene.Pt(glint.x, glint.y, 0), "cornerRadius": scene.Num(1.5), "opacity": scene.Num(26)})
		b.follow(r.dusk, item, "fill", "", 1, 0)
		b.follow(r.wind, item, "position", "x", 0.3, glint.x)
	}
	for i, band := range []struct {
		y      float64
		colour string
	}{{-120, "#17264a"}, {-60, "#1c3058"}, {0, "#243c68"}} {
		b.item(scene.Rectangle, fmt.Sprintf("Water band %d", i+1), water, values{"size": scene.Pt(width+80, 300), "position": scene.Pt(0, band.y-110, 0), "cornerRadius": scene.Num(18), "fill": rgb(band.colour)})
	}
}

// sky is strips from the night above to the tint of the dusk at the horizon, with a moon and stars.
func (b *builder) sky(r *rig) {
	sky := b.item(scene.Null, "Sky", "", nil)
	b.item(scene.Ellipse, "Moon", sky, values{"size": scene.Pt(64, 64), "position": scene.Pt(-330, 262, 0), "fill": rgb("#f6ecd2")})
	b.item(scene.Ellipse, "Moon haze", sky, values{"size": scene.Pt(150, 150), "position": scene.Pt(-330, 262, 0), "fill": rgb("#f6ecd2"), "opacity": scene.Num(9)})
	for i := range 26 {
		x := float64((i*173)%1240) - 620
		y := 60 + float64((i*97)%290)
		size := 2 + float64(i%3)
		b.item(scene.Ellipse, fmt.Sprintf("Star %d", i+1), sky, values{"size": scene.Pt(size, size), "position": scene.Pt(x, y, 0), "fill": rgb("#f6ecd2"), "opacity": scene.Num(float64(40 + i*7%50))})
	}
	// Strips side by side, so that nothing is painted twice: the tint is strongest at the horizon.
	const strips, tall = 36, 15.0
	for i := range strips {
		share := 1 - float64(i)/strips
		strip := b.item(scene.Rectangle, fmt.Sprintf("Dusk %d", i+1), sky, values{
			"size": scene.Pt(width+40, tall), "position": scene.Pt(0, -270+tall*(float64(i)+0.5), 0), "opacity": scene.Num(round(82 * share * math.Sqrt(share))),
		})
		b.follow(r.dusk, strip, "fill", "", 1, 0)
	}
}

func round(x float64) float64  { return math.Round(x*10) / 10 }
func round2(x float64) float64 { return math.Round(x*100) / 100 }

// rgb reads #rrggbb.
func rgb(hex string) scene.Value {
	var r, g, b int
	if _, err := fmt.Sscanf(hex, "#%02x%02x%02x", &r, &g, &b); err != nil {
		panic("demo: " + hex + " is not a colour")
	}
	return scene.RGBA(float64(r)/255, float64(g)/255, float64(b)/255, 1)
}
