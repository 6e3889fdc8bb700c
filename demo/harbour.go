package demo

import (
	"fmt"

	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// titleStyle is how the title is set, to find the places of its letters.
var titleStyle = outline.Style{Size: 112, LineHeight: 1.2}

// title is the word in separate letters that come up one after the other, with a line below.
func (b *builder) title(r *rig) {
	const word = "LANTERNFALL"
	wide := outline.Width(word, titleStyle)
	frame := b.item(scene.Null, "LANTERNFALL", "", values{"position": scene.Pt(0, -52, 0)})
	b.follow(r.titleSize, frame, "scale", "", 1, 0)
	zone := b.item(scene.Zone, "Title sweep", "", values{"zoneShape": scene.Num(3), "position": scene.Pt(0, -52, 0)})
	b.follow(r.titleSweep, zone, "position", "x", 16, -760)
	b.follow(r.titleFalloff, zone, "falloff", "", 1, 0)
	var letters []scene.ID
	for i := range word {
		at := -wide/2 + outline.Width(word[:i], titleStyle) + outline.Width(word[i:i+1], titleStyle)/2
		letter := b.item(scene.TextItem, fmt.Sprintf("Letter %d %c", i+1, word[i]), frame, values{
			"text": scene.Txt(word[i : i+1]), "fontSize": scene.Num(titleStyle.Size), "position": scene.Pt(round(at), 0, 0),
		})
		letters = append(letters, letter)
		b.follow(r.titleTint, letter, "fill", "", 1, 0)
	}
	line := b.item(scene.TextItem, "Subtitle", frame, values{
		"text": scene.Txt("a winter evening in the old harbour"), "font": scene.Num(1), "fontSize": scene.Num(24), "letterSpacing": scene.Num(2), "position": scene.Pt(0, -46, 0),
	})
	b.follow(r.titleSweep, line, "opacity", "", 3, -200)
	b.row("letters rise", letters, "position", "mix(below - [0, 70, 0], below, zone({Title sweep}))")
	b.row("letters turn", letters, "rotation", "mix(below - 14, below, zone({Title sweep}))")
	b.row("letters appear", letters, "opacity", "below * zone({Title sweep})")
	b.follow(r.titleTint, line, "fill", "", 1, 0)
	b.together("tint of the title", append(letters, line), "fill")
}

// signals are a flag on the quay, out of a flipbook of six, and sparks that a kite leaves behind.
func (b *builder) signals(r *rig) {
	flag := b.part(scene.Flipbook, "Signal flag", "", values{"size": scene.Pt(72, 48), "position": scene.Pt(332, 44, 0), "lit": scene.On(false)}, func(item *scene.Item) {
		for _, p := range Pictures() {
			item.Frames = append(item.Frames, scene.Frame{Asset: p.ID})
		}
	})
	b.posed(r.flag, flag, "frame", scene.Num(1), scene.Num(2), scene.Num(3), scene.Num(4), scene.Num(5), scene.Num(6))
	b.posed(r.flag, flag, "position", scene.Pt(332, 44, 0), scene.Pt(332, 36, 0), scene.Pt(332, 44, 0), scene.Pt(332, 20, 0), scene.Pt(332, 44, 0), scene.Pt(332, -6, 0))
	b.follow(r.wind, flag, "rotation", "", 0.05, 0)
	b.item(scene.Rectangle, "Flagstaff", "", values{"size": scene.Pt(4, 210), "position": scene.Pt(294, -32, 0), "fill": rgb("#2a2030")})
	sparks := b.item(scene.Emitter, "Sparks", "", values{
		"life": scene.Num(2.4), "speed": scene.Num(46), "direction": scene.Num(90), "spread": scene.Num(220), "variety": scene.Num(55),
		"gravity": scene.Num(28), "drag": scene.Num(0.5), "inheritMotion": scene.Num(18), "startSize": scene.Num(7), "endSize": scene.Num(1.5),
		"startColour": rgb("#ffe3a0"), "endColour": scene.RGBA(0.88, 0.36, 0.2, 0), "seed": scene.Num(7),
	})
	b.follow(r.kite, sparks, "position", "", 1, 0)
	b.follow(r.sparks, sparks, "rate", "", 90, 0)
	b.formula(sparks, "rate", `// looked at every four frames; the pace is added up, so that changing it never jumps
restless = every(noise(accumulate({Signals: Spark pace}), 2), 4f)
below * clamp(1 + restless, 0.3, 1.7)`)
	kite := b.part(scene.PathItem, "Kite drawing", "", values{"fill": rgb("#9b2c3b"), "stroke": rgb("#f8ecd0"), "strokeWidth": scene.Num(1.5)}, func(item *scene.Item) {
		item.Path = loop([2]float64{0, 22}, [2]float64{13, 4}, [2]float64{0, -22}, [2]float64{-13, 4})
	})
	b.follow(r.kite, kite, "position", "", 1, 0)
	b.follow(r.wind, kite, "rotation", "", 0.3, -12)
}

// lights are the evening, the moon, and the spot light of the lighthouse. The quay, its houses and
// the hulls of the boats are lit by them.
func (b *builder) lights(r *rig) {
	b.item(scene.AmbientLight, "Evening", "", values{"colour": rgb("#c3c6e4"), "intensity": scene.Num(78)})
	b.item(scene.DirectionalLight, "Moonlight", "", values{"position": scene.Pt(-330, 262, 300), "colour": rgb("#dfe6ff"), "intensity": scene.Num(44)})
	tower := b.item(scene.Null, "Lighthouse", "", values{"position": scene.Pt(560, -152, 0)})
	spot := b.item(scene.SpotLight, "Lighthouse spot", tower, values{
		"position": scene.Pt(0, 232, 140), "target": scene.Pt(-320, 80, 0), "colour": rgb("#ffe9b0"), "intensity": scene.Num(220), "range": scene.Num(1600), "coneSoftness": scene.Num(60),
	})
	b.follow(r.beam, spot, "rotation", "", 1, 0)
	b.follow(r.cone, spot, "coneAngle", "", 1, 0)
	for _, part := range []struct {
		name    string
		w, h, y float64
		colour  string
		radius  float64
		lit     bool
	}{
		{"Roof", 46, 16, 246, "#3a2733", 6, false}, {"Lamp room", 34, 34, 222, "#ffe9b0", 3, false}, {"Gallery", 56, 8, 202, "#3a2733", 2, false},
		{"Band 1", 44, 36, 150, "#b03445", 0, true}, {"Band 2", 44, 36, 70, "#b03445", 0, true}, {"Tower", 44, 200, 100, "#efe5d2", 2, true},
	} {
		b.item(scene.Rectangle, part.name, tower, values{"size": scene.Pt(part.w, part.h), "position": scene.Pt(0, part.y, 0), "cornerRadius": scene.Num(part.radius), "fill": rgb(part.colour), "lit": scene.On(part.lit)})
	}
	beam := b.part(scene.PathItem, "Beam", tower, values{
		"position": scene.Pt(0, 222, 0), "gradient": scene.Num(1), "gradientFrom": scene.Pt(0, 0), "gradientTo": scene.Pt(-1000, 0),
		"fill": rgb("#ffe9b0").With(3, 0.75), "secondFill": rgb("#ffe9b0").With(3, 0), "opacity": scene.Num(46),
	}, func(item *scene.Item) {
		item.Path = loop([2]float64{0, 3}, [2]float64{-1000, 130}, [2]float64{-1000, -130}, [2]float64{0, -3})
	})
	b.follow(r.beam, beam, "rotation", "", 1, 12)
	b.follow(r.cone, beam, "scale", "y", 4, 0)
}

// boats ride on the tide and lean with the wind, each in its own way.
func (b *builder) boats(r *rig) {
	fleet := b.item(scene.Null, "Boats", "", values{"position": scene.Pt(0, -250, 0)})
	var sails []scene.ID
	for i, boat := range []struct {
		x, y, scale float64
		hull        string
	}{{-470, 6, 100, "#9d4a40"}, {-230, -22, 122, "#44668a"}, {30, 2, 96, "#9d4a40"}, {215, -34, 130, "#62734a"}, {-60, -58, 150, "#744468"}} {
		name := fmt.Sprintf("Boat %d", i+1)
		hull := b.item(scene.Null, name, fleet, values{"position": scene.Pt(boat.x, boat.y, 0), "scale": scene.Pt(boat.scale, boat.scale, 100)})
		b.follow(r.tide, hull, "position", "y", 14, boat.y)
		gain := 0.06
		if i%2 == 1 {
			gain = -0.05
		}
		b.follow(r.wind, hull, "rotation", "", gain, 0)
		b.item(scene.Ellipse, name+" lamp", hull, values{"size": scene.Pt(7, 7), "position": scene.Pt(2, 62, 0), "fill": rgb("#ffe0a0")})
		sail := b.part(scene.PathItem, name+" sail", hull, values{"fill": rgb("#f2e8d2"), "lit": scene.On(true), "bendAxis": scene.Num(1), "bendFixed": scene.Num(0)}, func(item *scene.Item) {
			item.Path = &scene.PathShape{Contours: []scene.Contour{{Closed: true, Vertices: []scene.Vertex{
				{ID: 1, At: [2]float64{4, 58}, Out: [2]float64{14, -12}}, {ID: 2, At: [2]float64{36, 12}, In: [2]float64{0, 20}}, {ID: 3, At: [2]float64{4, 10}},
			}}}}
		})
		b.follow(r.wind, sail, "bend", "", 0.3, 0)
		sails = append(sails, sail)
		b.item(scene.Rectangle, name+" mast", hull, values{"size": scene.Pt(3, 62), "position": scene.Pt(1, 28, 0), "fill": rgb("#2a2030")})
		b.part(scene.PathItem, name+" hull", hull, values{"fill": rgb(boat.hull), "lit": scene.On(true)}, func(item *scene.Item) {
			item.Path = &scene.PathShape{Contours: []scene.Contour{{Closed: true, Vertices: []scene.Vertex{
				{ID: 1, At: [2]float64{-38, 8}, Out: [2]float64{24, -5}}, {ID: 2, At: [2]float64{40, 10}, In: [2]float64{-24, -7}, Out: [2]float64{-6, -14}},
				{ID: 3, At: [2]float64{22, -10}}, {ID: 4, At: [2]float64{-24, -10}, Out: [2]float64{-8, 4}},
			}}}}
		})
	}
	b.together("sails in the wind", sails, "bend")
}

func (b *builder) harbour(r *rig) {
	quay := b.item(scene.Null, "Quay", "", nil)
	for i, crate := range []struct{ x, y, size float64 }{{352, -118, 34}, {390, -120, 30}, {368, -87, 28}} {
		b.item(scene.Box, fmt.Sprintf("Crate %d", i+1), quay, values{
			"size": scene.Pt(crate.size, crate.size, crate.size), "position": scene.Pt(crate.x, crate.y, 20), "rotationX": scene.Num(14), "rotationY": scene.Num(float64(24 + 17*i)), "colour": rgb("#a9793f"), "roughness": scene.Num(90),
		})
	}
	b.item(scene.Rectangle, "Quay wall", quay, values{"size": scene.Pt(360, 230), "position": scene.Pt(490, -250, 0), "cornerRadius": scene.Num(6), "fill": rgb("#56486a"), "lit": scene.On(true)})
	var windows []scene.ID
	for i, h := range []float64{96, 132, 84, 118} {
		x := []float64{426, 472, 516, 614}[i]
		window := b.item(scene.Rectangle, fmt.Sprintf("Window %d", i+1), quay, values{"size": scene.Pt(10, 14), "position": scene.Pt(x, -136+h-26, 0), "fill": rgb("#ffd98a")})
		b.follow(r.lamps, window, "opacity", "", 100, 0)
		windows = append(windows, window)
		b.part(scene.PathItem, fmt.Sprintf("House %d", i+1), quay, values{"position": scene.Pt(x, -136, 0), "fill": rgb([]string{"#5b4d78", "#66577f", "#52466e", "#604f79"}[i]), "lit": scene.On(true)}, func(item *scene.Item) {
			item.Path = loop([2]float64{-22, 0}, [2]float64{-22, h - 18}, [2]float64{0, h}, [2]float64{22, h - 18}, [2]float64{22, 0})
		})
	}
	b.together("windows light up", windows, "opacity")
	water := b.item(scene.Null, "Water", "", values{"position": scene.Pt(0, -250, 0)})
	b.follow(r.tide, water, "position", "y", 14, -262)
	var glints []scene.ID
	for i, glint := range []struct{ x, y, w float64 }{{-420, -30, 120}, {-150, -64, 190}, {90, -18, 140}, {-330, -96, 210}, {240, -84, 170}, {-20, -90, 240}} {
		item := b.item(scene.Rectangle, fmt.Sprintf("Glint %d", i+1), water, values{"size": scene.Pt(glint.w, 3), "position": scene.Pt(glint.x, glint.y, 0), "cornerRadius": scene.Num(1.5), "opacity": scene.Num(40)})
		b.follow(r.dusk, item, "fill", "", 1, 0)
		b.follow(r.wind, item, "position", "x", 0.3, glint.x)
		glints = append(glints, item)
	}
	b.item(scene.Rectangle, "Water surface", water, values{
		"size": scene.Pt(width+80, 420), "position": scene.Pt(0, -170, 0), "gradient": scene.Num(1), "gradientFrom": scene.Pt(0, 210), "gradientTo": scene.Pt(0, -60), "fill": rgb("#2c477a"), "secondFill": rgb("#131f3e"),
	})
	b.together("glints in the tint of the sky", glints, "fill")
}

// sky is one rectangle from the night above to the tint of the dusk at the horizon, with a moon and
// stars, which are copies.
func (b *builder) sky(r *rig) {
	sky := b.item(scene.Null, "Sky", "", nil)
	b.item(scene.Ellipse, "Moon", sky, values{"size": scene.Pt(64, 64), "position": scene.Pt(-330, 262, 0), "fill": rgb("#f6ecd2")})
	b.item(scene.Ellipse, "Moon haze", sky, values{
		"size": scene.Pt(260, 260), "position": scene.Pt(-330, 262, 0), "gradient": scene.Num(2), "gradientFrom": scene.Pt(0, 0), "gradientTo": scene.Pt(130, 0), "fill": rgb("#f6ecd2").With(3, 0.35), "secondFill": rgb("#f6ecd2").With(3, 0),
	})
	stars := b.part(scene.CopiesItem, "Stars", sky, values{
		"copiesArrangement": scene.Num(4), "copiesNumber": scene.Num(30), "copiesArea": scene.Pt(1240, 280, 0), "seed": scene.Num(11), "position": scene.Pt(0, 210, 0),
	}, func(item *scene.Item) { item.Copies = &scene.CopiesShape{Limit: 60} })
	b.item(scene.Star, "Star", stars, values{"size": scene.Pt(8, 8), "points": scene.Num(4), "innerRadius": scene.Num(30), "fill": rgb("#f6ecd2")})
	b.each("twinkle of the stars", stars, "opacity", "45 + 40 * noise(time * 1.5, index)")
	b.each("size of the stars", stars, "scale", "below * random(0.5, 1, index)")
	night := b.part(scene.Rectangle, "Night", sky, values{
		"size": scene.Pt(width+40, height), "position": scene.Pt(0, 90, 0), "gradient": scene.Num(1), "gradientFrom": scene.Pt(0, 340), "gradientTo": scene.Pt(0, -340), "fill": rgb("#131c38"),
	}, func(item *scene.Item) { item.Stops = []scene.Stop{{At: 0.35, Colour: rgb("#1d2850")}} })
	b.follow(r.dusk, night, "secondFill", "", 1, 0)
}
