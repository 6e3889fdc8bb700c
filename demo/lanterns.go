package demo

import (
	"fmt"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture/handoffs"
	"wunderkammer/core/gesture/looks"
	"wunderkammer/core/scene"
)

// lantern is a composition of its own: a lantern that hangs below its hook, and hands its controls off. The garlands show it as pieces.
func (b *builder) lantern() {
	const name = "Lantern"
	c := scene.NewComposition("lantern", name)
	c.Width, c.Height, c.Background = 180, 240, rgb("#1b2440")
	b.do(&change.CompositionAdd{Value: c, At: -1})
	b.in = change.In{Composition: c.ID}
	desk := b.item(scene.Null, name, "", nil)
	tint := b.control(desk, scene.Control{Name: "Tint", Kind: scene.ColourWidget, Default: rgb("#e8a33d"), Note: "The paper, and the light that comes through it."}, curve.Smooth)
	glow := b.control(desk, scene.Control{Name: "Glow", Kind: scene.Fader, Unit: scene.Percent, SoftMin: 0, SoftMax: 100, Default: scene.Num(60)}, curve.Smooth)
	tall := b.control(desk, scene.Control{Name: "Height", Kind: scene.Fader, Unit: scene.Pixels, SoftMin: 20, SoftMax: 90, Default: scene.Num(50), Note: "Of the paper."}, curve.Smooth)
	body := b.item(scene.Ellipse, "Paper", desk, values{"size": scene.Pt(38, 50), "position": scene.Pt(0, -45, 0), "stroke": rgb("#7a3b22"), "strokeWidth": scene.Num(1.5)})
	b.follow(tint, body, "fill", "", 1, 0)
	b.follow(tall, body, "size", "y", 1, 0)
	b.follow(tall, body, "position", "y", -0.5, -20)
	b.part(scene.PathItem, "Wire", desk, values{"fill": rgb("#2a2030")}, func(item *scene.Item) {
		item.Path = &scene.PathShape{Contours: []scene.Contour{rectangleAt(1, 1.5, 18, 0, -8), rectangleAt(5, 18, 6, 0, -18)}}
	})
	foot := b.item(scene.Rectangle, "Foot", desk, values{"size": scene.Pt(14, 5), "position": scene.Pt(0, -70, 0), "fill": rgb("#2a2030")})
	b.follow(tall, foot, "position", "y", -1, -20)
	light := b.item(scene.Ellipse, "Light", desk, values{
		"size": scene.Pt(150, 164), "position": scene.Pt(0, -45, 0),
		"gradient": scene.Num(2), "gradientFrom": scene.Pt(0, 0), "gradientTo": scene.Pt(75, 0), "secondFill": scene.RGBA(0.91, 0.5, 0.2, 0),
	})
	b.follow(tall, light, "position", "y", -0.5, -20)
	b.follow(tint, light, "fill", "", 1, 0)
	for _, part := range []string{"r", "g", "b"} {
		source := tint
		source.Component = part
		b.follow(source, light, "secondFill", part, 1, 0)
	}
	b.follow(glow, light, "opacity", "", 1, 0)
	b.gesture(&handoffs.HandOff{Drawer: desk}, laidOut)
}

// handed returns the property of pieces that a control is handed off as.
func (b *builder) handed(composition scene.ID, name string) string {
	for _, h := range b.project.Composition(composition).Handed() {
		if h.Name == name {
			return string(h.Offer.ID)
		}
	}
	if b.err == nil {
		b.err = fmt.Errorf("demo: %s hands off no %s", composition, name)
	}
	return ""
}

const garlandCount = 14

// garlands are two rows of lanterns between three masts. Each lantern is a piece, swings about its hook, and has a height, a tint and a
// glow that are driven along its row; the lines hang from where the hooks are.
func (b *builder) garlands(r *rig) {
	height, tint, glow := b.handed("lantern", "Height"), b.handed("lantern", "Tint"), b.handed("lantern", "Glow")
	for g, spec := range []struct {
		name       string
		x, y, wide float64
		sag        float64
		scale      float64
	}{{"Upper garland", -40, 236, 1000, 118, 100}, {"Lower garland", -230, 92, 560, 74, 72}} {
		row := b.item(scene.Null, spec.name, "", values{"position": scene.Pt(spec.x, spec.y, 0)})
		var hooks []scene.ID
		var places [][2]float64
		for i := range garlandCount {
			u := float64(i)/(garlandCount-1)*2 - 1
			x, y := round(u*spec.wide/2), round(-spec.sag*(1-u*u))
			lantern := b.part(scene.Piece, fmt.Sprintf("Lantern %d", g*garlandCount+i+1), row, values{"position": scene.Pt(x, y, 0), "scale": scene.Pt(spec.scale, spec.scale, 100)}, func(item *scene.Item) {
				item.Piece = &scene.Shown{Composition: "lantern"}
			})
			b.follow(r.wind, lantern, "position", "y", round2(0.03+0.05*(1-u*u)), y) // those in the middle of the line bob
			hooks, places = append(hooks, lantern), append(places, [2]float64{x, y})
		}
		cord := b.part(scene.PathItem, spec.name+" line", row, values{"stroke": rgb("#2a2030"), "strokeWidth": scene.Num(2), "fill": scene.RGBA(0, 0, 0, 0)}, func(item *scene.Item) { item.Path = line(places...) })
		for i, hook := range hooks {
			b.follow(property(hook, "position"), cord, scene.VertexKey(i+1), "", 1, 0)
		}
		of := " of the " + strings.ToLower(spec.name)
		b.row("sway"+of, hooks, "rotation", `// the first leans with the wind, the others trail it
lean = {Weather: Wind} * 0.22
gust = noise(time * 0.9, 3) * {Weather: Gusts} * 0.3
if(index = 0, lean + gust, delay({prev: rotation}, {Weather: Sway lag}))`)
		b.row("height"+of, hooks, height, "46 + mod(index * 37, 11)")
		b.row("tint"+of, hooks, tint, "{Light: Lantern tint}")
		b.row("glow"+of, hooks, glow, `restless = noise(time * 5, index) * {Light: Flicker} / 100
// the music runs along the line, from lantern to lantern
heard = delay({Festival music: loudness}, index * 1f) * {Light: Flicker} / 100
{Light: Glow} * 0.6 * (1 + restless) + heard`)
	}
	for i, x := range []float64{-540, 50, 460} {
		b.item(scene.Rectangle, fmt.Sprintf("Mast %d", i+1), "", values{"size": scene.Pt(6, []float64{500, 330, 500}[i]), "position": scene.Pt(x, []float64{-10, -70, -10}[i], 0), "fill": rgb("#2a2030")})
	}
}

func rectangleAt(id int, w, h, x, y float64) scene.Contour {
	c := scene.Contour{Closed: true}
	for k, s := range [][2]float64{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}} {
		c.Vertices = append(c.Vertices, scene.Vertex{ID: id + k, At: [2]float64{x + s[0]*w/2, y + s[1]*h/2}})
	}
	return c
}

// moods keeps three looks of the light, and has a fader mix them over the evening.
func (b *builder) moods(r *rig) {
	var kept []scene.ID
	for _, mood := range []struct {
		name          string
		tint          string
		flicker, cone float64
	}{{"Calm evening", "#e8a33d", 35, 26}, {"Feast", "#e06a42", 72, 44}, {"Storm watch", "#f0cf7a", 11, 13}} {
		l := &scene.Look{ID: b.id("look"), Name: mood.name, Of: r.light}
		for _, v := range []struct {
			of    scene.Ref
			value scene.Value
		}{{r.tint, rgb(mood.tint)}, {r.flicker, scene.Num(mood.flicker)}, {r.cone, scene.Num(mood.cone)}} {
			l.Values = append(l.Values, scene.LookValue{Item: v.of.Item, Control: scene.ID(v.of.Property), Value: v.value})
		}
		b.do(&change.LookSet{In: b.in, Value: l, At: -1})
		kept = append(kept, l.ID)
	}
	b.gesture(&looks.MixLooks{Looks: kept, On: r.light}, evaluated)
	if b.err != nil {
		return
	}
	mood := b.project.Composition(b.in.Composition).Item(r.light).Controls[0].Clone() // the fader that mixes them
	mood.Name, mood.Note = "Mood", "From a calm evening by the feast to the storm watch: it mixes the looks of the light."
	on := change.On{In: b.in, Item: r.light}
	b.do(&change.ControlSet{On: on, Value: mood})
	put := &change.PinsPut{Of: change.Of{On: on, Property: string(mood.ID)}}
	for _, p := range []pin{{60, scene.Num(0)}, {150, scene.Num(50)}, {215, scene.Num(50)}, {280, scene.Num(92)}} {
		put.Pins = append(put.Pins, scene.Pin{Frame: p.frame, Value: p.value, Easing: curve.Smooth})
	}
	b.do(put)
}

// handedOver hands the controls of the weather and of the flag to whoever decides on them, with a reading that is there already.
func (b *builder) handedOver(r *rig) {
	b.gesture(&handoffs.HandOff{Controls: []scene.Ref{r.wind, r.gusts, r.tide, r.flag}}, laidOut)
	if b.err != nil {
		return
	}
	c := b.project.Composition(b.in.Composition)
	b.do(&change.HandOffNote{In: b.in, Note: "The festival’s opening. Set the weather and choose the flag; the rest follows."})
	low, high, deep := -60.0, 60.0, 3.5
	for k, offer := range c.HandOff.Clone().Offers {
		switch k {
		case 0:
			offer.Heading, offer.Min, offer.Max = "Weather", &low, &high
		case 2:
			offer.Max, offer.NoPins = &deep, true
		case 3:
			offer.Heading, offer.Name, offer.Note = "Quay", "Flag on the quay", "Which of the six flags hangs there, and how high."
		}
		b.do(&change.OfferSet{In: b.in, Value: offer, At: -1})
	}
	reading := c.NewReading("squall", "squall1", "Squall, for Ines")
	b.do(&change.CompositionAdd{Value: reading, At: -1})
	b.in = change.In{Composition: reading.ID}
	on := change.On{In: b.in, Item: "squall1"}
	for k, own := range []scene.Value{scene.Num(54), scene.Num(88), scene.Num(2.9)} {
		b.do(&change.OwnSet{Of: change.Of{On: on, Property: string(c.HandOff.Offers[k].ID)}, Value: own})
	}
	b.do(&change.PinsPut{Of: change.Of{On: on, Property: string(c.HandOff.Offers[3].ID)}, Pins: []scene.Pin{{Frame: 0, Value: scene.Num(3), Easing: curve.Hold}, {Frame: 130, Value: scene.Num(5), Easing: curve.Hold}}})
}
