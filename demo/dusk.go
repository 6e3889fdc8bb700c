package demo

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// posed lets a control of poses move a property: a value for each of its stops.
func (b *builder) posed(control scene.Ref, item scene.ID, key string, at ...scene.Value) {
	if b.err != nil {
		return
	}
	owner := b.project.Composition(b.in.Composition).Item(control.Item).Control(scene.ID(control.Property))
	if len(owner.Poses) != len(at) {
		b.err = fmt.Errorf("demo: %s has %d stops, and %s %d values", owner.Name, len(owner.Poses), key, len(at))
		return
	}
	l := &scene.Link{ID: b.id("l"), Kind: scene.Posed, Source: control, Gain: 1}
	for k, s := range owner.Poses {
		l.Hold(s.ID, at[k])
	}
	b.do(&change.LinkAdd{Of: change.Of{On: change.On{In: b.in, Item: item}, Property: key}, At: -1, Link: l})
}

// stopsOf are the stops of a control of poses, evenly over 0 to 100.
func stopsOf(names ...string) []scene.PoseStop {
	out := make([]scene.PoseStop, len(names))
	for k, name := range names {
		out[k] = scene.PoseStop{ID: scene.ID(fmt.Sprint("stop", k+1)), Name: name, At: float64(100*k) / float64(len(names)-1), Easing: curve.Smooth}
	}
	return out
}

// dusk is one view of the harbour at noon, at dusk and at night, on one fader of poses; fog is a second one that stacks on it. The
// letters rise as a zone passes over them.
func (b *builder) dusk() {
	b.composition("dusk", "Dusk", rgb("#bcd6e6"), "Drag Hour from noon to night, and switch\nFog on: both move the same things.\nDrag Sweep across: the letters rise.\nThe lanterns are copies along the cord.")
	rig := b.item(scene.Null, "Hours", "", values{"position": scene.Pt(-560, 310, 0)})
	hour := b.control(rig, scene.Control{Name: "Hour", Kind: scene.Fader, Unit: scene.Percent, SoftMax: 100, Default: scene.Num(0), Poses: stopsOf("noon", "dusk", "night"), Note: "Press Pose at one of its stops, and change anything."}, curve.Smooth, pin{0, scene.Num(0)}, pin{150, scene.Num(50)}, pin{299, scene.Num(100)})
	fog := b.control(rig, scene.Control{Name: "Fog", Kind: scene.SwitchWidget, Default: scene.On(false), Poses: stopsOf("off", "on")}, curve.Hold)

	b.sweptWord("HARBOUR")
	b.festoon(hour)

	mist := b.item(scene.Rectangle, "Mist", "", values{"size": scene.Pt(width+20, 240), "position": scene.Pt(0, -60, 0), "fill": rgb("#e9eef2"), "opacity": scene.Num(0)})
	b.posed(fog, mist, "opacity", scene.Num(0), scene.Num(62))
	for k := range 6 {
		x, tall := -520+208*float64(k), []float64{150, 210, 170, 240, 140, 190}[k]
		window := b.item(scene.Rectangle, fmt.Sprintf("Window %d", k+1), "", values{"size": scene.Pt(26, 34), "position": scene.Pt(x+20, -110+tall/3, 0), "fill": rgb("#ffd98a")})
		b.posed(hour, window, "opacity", scene.Num(0), scene.Num(55), scene.Num(100))
		house := b.item(scene.Rectangle, fmt.Sprintf("House %d", k+1), "", values{"size": scene.Pt(150, tall), "position": scene.Pt(x, -160+tall/2, 0)})
		b.posed(hour, house, "fill", rgb([]string{"#c98f6a", "#b9785c", "#d3a57a"}[k%3]), rgb("#7a4f5c"), rgb("#2c2c47"))
	}
	sun := b.item(scene.Ellipse, "Sun", "", values{"size": scene.Pt(110, 110)})
	b.posed(hour, sun, "position", scene.Pt(-180, 240, 0), scene.Pt(120, 20, 0), scene.Pt(380, -220, 0))
	b.posed(hour, sun, "fill", rgb("#fff3c4"), rgb("#f08a4b"), rgb("#c0483f"))
	b.posed(fog, sun, "scale", scene.Pt(100, 100, 100), scene.Pt(150, 150, 100))
	moon := b.item(scene.Ellipse, "Moon", "", values{"size": scene.Pt(70, 70), "fill": rgb("#f2ead0")})
	b.posed(hour, moon, "position", scene.Pt(-420, -240, 0), scene.Pt(-400, 60, 0), scene.Pt(-330, 250, 0))
	b.posed(hour, moon, "opacity", scene.Num(0), scene.Num(40), scene.Num(100))
	sea := b.item(scene.Rectangle, "Sea", "", values{"size": scene.Pt(width+20, 220), "position": scene.Pt(0, -262, 0)})
	b.posed(hour, sea, "fill", rgb("#5f9db8"), rgb("#6b5a7d"), rgb("#1c2740"))
	sky := b.item(scene.Rectangle, "Sky", "", values{"size": scene.Pt(width+20, height+20), "gradient": scene.Num(1), "gradientFrom": scene.Pt(0, height/2), "gradientTo": scene.Pt(0, -140)})
	b.posed(hour, sky, "fill", rgb("#8fc0de"), rgb("#4d4a82"), rgb("#141a33"))
	b.posed(hour, sky, "secondFill", rgb("#dcecf2"), rgb("#f2a36b"), rgb("#33345c"))
}

// festoon is a cord with lanterns along it, which are copies: they swing in the wind, each later than the one before, and their light
// comes with the night.
func (b *builder) festoon(hour scene.Ref) {
	cord := b.part(scene.PathItem, "Cord", "", values{"position": scene.Pt(0, 150, 0), "stroke": rgb("#3a3145"), "strokeWidth": scene.Num(3), "fill": scene.RGBA(0, 0, 0, 0)}, func(item *scene.Item) {
		item.Path = &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{
			{ID: 1, At: [2]float64{-640, 60}, Out: [2]float64{180, -170}}, {ID: 2, At: [2]float64{0, 40}, In: [2]float64{-200, -170}, Out: [2]float64{200, -170}}, {ID: 3, At: [2]float64{640, 60}, In: [2]float64{-180, -170}},
		}}}}
	})
	lanterns := b.part(scene.CopiesItem, "Festoon", "", values{
		"copiesArrangement": scene.Num(3), "copiesNumber": scene.Num(15), "copiesStart": scene.Num(4), "copiesEnd": scene.Num(96), "copiesFacing": scene.On(false),
	}, func(item *scene.Item) { item.Copies = &scene.CopiesShape{Limit: 40, Along: cord} })
	swing := b.part(scene.Null, "Hook", lanterns, nil, func(item *scene.Item) {
		item.Edit("rotation").Pins = []scene.Pin{
			{Frame: 0, Value: scene.Num(9), Easing: curve.Smooth}, {Frame: 37, Value: scene.Num(-12), Easing: curve.Smooth}, {Frame: 80, Value: scene.Num(15), Easing: curve.Smooth}, {Frame: 128, Value: scene.Num(-7), Easing: curve.Smooth},
			{Frame: 175, Value: scene.Num(11), Easing: curve.Smooth}, {Frame: 226, Value: scene.Num(-14), Easing: curve.Smooth}, {Frame: 299, Value: scene.Num(9), Easing: curve.Smooth},
		}
	})
	body := b.item(scene.Ellipse, "Lantern", swing, values{"size": scene.Pt(34, 42), "position": scene.Pt(0, -28, 0), "stroke": rgb("#6e3a2a"), "strokeWidth": scene.Num(2)})
	b.posed(hour, body, "fill", rgb("#d9a06a"), rgb("#f0b45a"), rgb("#ffd071"))
	glow := b.item(scene.Ellipse, "Lantern glow", swing, values{"size": scene.Pt(150, 150), "position": scene.Pt(0, -28, 0), "gradient": scene.Num(2), "gradientFrom": scene.Pt(0, 0), "gradientTo": scene.Pt(75, 0), "fill": rgb("#ffd98a").With(3, 0.5), "secondFill": rgb("#ffd98a").With(3, 0)})
	b.posed(hour, glow, "opacity", scene.Num(0), scene.Num(45), scene.Num(100))
	b.each("swing of the festoon", lanterns, "copyLate", "index * 4f")
	b.each("tints of the festoon", lanterns, "tint", "hsl(20 + 30 * noise(index * 0.7), 0.7, 0.5)")
	b.each("strength of the tints", lanterns, "tintStrength", "35")
}

// sweptWord is a word whose letters rise as a zone passes over them.
func (b *builder) sweptWord(word string) {
	b.part(scene.Zone, "Sweep", "", values{"zoneShape": scene.Num(3), "falloff": scene.Num(260)}, func(item *scene.Item) {
		item.Edit("position").Pins = []scene.Pin{
			{Frame: 10, Value: scene.Pt(-420, 60, 0), Easing: curve.Linear}, {Frame: 110, Value: scene.Pt(720, 60, 0), Easing: curve.Linear},
		}
	})
	var letters []scene.ID
	for k, letter := range word {
		x := 128 * (float64(k) - float64(len(word)-1)/2)
		letters = append(letters, b.item(scene.TextItem, fmt.Sprintf("Letter %d", k+1), "", values{
			"text": scene.Txt(string(letter)), "fontSize": scene.Num(140), "position": scene.Pt(x, 60, 0), "fill": rgb("#fff6e2"),
		}))
	}
	b.row("letters rise", letters, "position", "mix(below - [0, 150, 0], below, zone({Sweep}))")
	b.row("letters turn", letters, "rotation", "mix(below - 35, below, zone({Sweep}))")
	b.row("letters appear", letters, "opacity", "below * zone({Sweep})")
}
