package demo

import (
	"fmt"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// quayShadows are crates and bollards with a shadow under each of two lamps, which fade into each other:
// it falls away from its lamp, longer as that sinks, and is steady once it is no higher than the thing.
func (b *builder) quayShadows() {
	b.composition("shadows", "Quay shadows", rgb("#e9dcc3"), "Drag Lamp height down: the shadows grow.\nDrag Fade over: one lamp and its shadows\nfade into the other.")
	lamps := b.item(scene.Null, "Lamps", "", values{"position": scene.Pt(-560, 310, 0)})
	height := b.control(lamps, scene.Control{Name: "Lamp height", Kind: scene.Fader, Unit: scene.Pixels, SoftMin: -60, SoftMax: 300, Default: scene.Num(220)}, curve.Smooth, pin{0, scene.Num(260)}, pin{299, scene.Num(60)})
	fade := b.control(lamps, scene.Control{Name: "Fade over", Kind: scene.Fader, Unit: scene.Percent, SoftMin: 0, SoftMax: 100, Default: scene.Num(20), Note: "From the first lamp to the second."}, curve.Smooth, pin{0, scene.Num(0)}, pin{299, scene.Num(100)})
	var rows, lights [2]scene.ID
	for k, name := range []string{"First lamp", "Second lamp"} {
		lamp := b.item(scene.PointLight, name, "", values{"position": scene.Pt([]float64{-420, 420}[k], 220, 80), "range": scene.Num(1400)})
		b.follow(height, lamp, "position", "y", 1, 0)
		gain, offset := -1.0, 100.0
		if k == 1 {
			gain, offset = 1, 0
		}
		b.follow(fade, lamp, "intensity", "", gain, offset)
		rows[k], lights[k] = b.item(scene.Null, name+" shadows", "", nil), lamp
	}
	things := b.item(scene.Null, "Things", "", nil)
	var models [2]scene.ID       // a crate and a bollard, as large as all others
	var shadows [2][2][]scene.ID // by lamp, of crates and of bollards
	for i := range 8 {
		x := -350 + 100*float64(i)
		name, kind, w, h, colour := fmt.Sprintf("Crate %d", i/2+1), scene.Box, 64.0, 64.0, "#a9793f"
		if i%2 == 1 {
			name, kind, w, h, colour = fmt.Sprintf("Bollard %d", i/2+1), scene.Capsule, 34, 74, "#5a4a55"
		}
		thing := b.item(kind, name, things, values{"size": scene.Pt(w, h, w), "position": scene.Pt(x, -60+h/2, 0), "colour": rgb(colour), "rotationY": scene.Num(float64(i * 9))})
		if models[i%2] == "" {
			models[i%2] = thing
		}
		for k, row := range rows {
			shadow := b.part(scene.PathItem, fmt.Sprintf("%s shadow %d", name, k+1), row, values{"position": scene.Pt(x, -60, 0), "fill": rgb("#3a2f3f"), "opacity": scene.Num(45)}, func(item *scene.Item) {
				item.Path = loop([2]float64{-w / 2, 0}, [2]float64{w / 2, 0}, [2]float64{w/2 + []float64{90, -90}[k], -110}, [2]float64{-w/2 + []float64{90, -90}[k], -110})
			})
			shadows[k][i%2] = append(shadows[k][i%2], shadow)
			gain, offset := -0.45, 45.0
			if k == 1 {
				gain, offset = 0.45, 0
			}
			b.follow(fade, shadow, "opacity", "", gain, offset)
		}
	}
	for k, lamp := range []string{"first", "second"} {
		b.shadowGraph("Crates under the "+lamp+" lamp", lights[k], models[0], shadows[k][0])
		b.shadowGraph("Bollards under the "+lamp+" lamp", lights[k], models[1], shadows[k][1])
	}
	b.item(scene.Rectangle, "Quay floor", "", values{"size": scene.Pt(width+20, 320), "position": scene.Pt(0, -220, 0), "fill": rgb("#cbb793")})
	b.item(scene.AmbientLight, "Daylight", "", values{"intensity": scene.Num(55)})
}

// ferryDeck gathers rope widths, the bend of an awning and the light of four lamps on one null; a
// crate hangs on the crane's hook, and a weight loosens it.
func (b *builder) ferryDeck() {
	b.composition("ferry", "Ferry deck", rgb("#22304a"), "All controls are in the Deck drawer.\nDrag Hold of the hook down: the crate\nlets go of the crane.")
	deck := b.item(scene.Null, "Deck", "", values{"position": scene.Pt(-560, 310, 0)})
	rope := b.control(deck, scene.Control{Name: "Rope width", Kind: scene.Fader, Unit: scene.Pixels, SoftMin: 0, SoftMax: 20, Default: scene.Num(5)}, curve.Smooth, pin{0, scene.Num(3)}, pin{150, scene.Num(9)}, pin{299, scene.Num(4)})
	bend := b.control(deck, scene.Control{Name: "Awning", Kind: scene.DialWidget, SoftMin: -120, SoftMax: 120, Default: scene.Num(40), Note: "How far the awning bends."}, curve.Smooth, pin{0, scene.Num(20)}, pin{150, scene.Num(70)}, pin{299, scene.Num(20)})
	light := b.control(deck, scene.Control{Name: "Lamps", Kind: scene.Fader, Unit: scene.Percent, SoftMin: 0, SoftMax: 300, Default: scene.Num(120)}, curve.Smooth, pin{0, scene.Num(40)}, pin{150, scene.Num(180)}, pin{299, scene.Num(60)})
	hold := b.control(deck, scene.Control{Name: "Hold of the hook", Kind: scene.Fader, Unit: scene.Percent, SoftMin: 0, SoftMax: 100, Default: scene.Num(100), Note: "How far the crate follows the crane; at 0 it stays behind."}, curve.Smooth, pin{0, scene.Num(100)}, pin{200, scene.Num(100)}, pin{299, scene.Num(30)})
	swing := b.control(deck, scene.Control{Name: "Crane", Kind: scene.DialWidget, SoftMin: -60, SoftMax: 60, Default: scene.Num(0)}, curve.Smooth, pin{0, scene.Num(0)}, pin{120, scene.Num(-24)}, pin{240, scene.Num(14)}, pin{299, scene.Num(0)})
	var lamps, ropes []scene.ID
	for i := range 4 {
		x := -330 + 220*float64(i)
		lamp := b.item(scene.PointLight, fmt.Sprintf("Lamp %d", i+1), "", values{"position": scene.Pt(x, 120, 140), "range": scene.Num(520), "colour": rgb("#ffdca0")})
		line := b.part(scene.PathItem, fmt.Sprintf("Rope %d", i+1), "", values{"stroke": rgb("#d8c49a"), "fill": scene.RGBA(0, 0, 0, 0)}, func(item *scene.Item) {
			item.Path = line([2]float64{x - 110, -110}, [2]float64{x, -140}, [2]float64{x + 110, -110})
			item.Path.Contours[0].Vertices[1].In, item.Path.Contours[0].Vertices[1].Out = [2]float64{-50, 0}, [2]float64{50, 0}
		})
		lamps, ropes = append(lamps, lamp), append(ropes, line)
	}
	b.lampGraph(light, lamps)
	b.ropeGraph(rope, ropes)
	crane := b.item(scene.Null, "Crane", "", values{"position": scene.Pt(360, 100, 0)})
	b.follow(swing, crane, "rotation", "", 1, 0)
	hook := b.item(scene.Null, "Hook", crane, values{"position": scene.Pt(-260, -10, 0)})
	b.item(scene.Torus, "Hook ring", hook, values{"size": scene.Pt(34, 34, 10), "colour": rgb("#c7a250"), "roughness": scene.Num(30)})
	b.item(scene.Box, "Jib", crane, values{"size": scene.Pt(290, 16, 16), "position": scene.Pt(-130, 0, 0), "colour": rgb("#b8752f")})
	b.item(scene.Cylinder, "Crane post", "", values{"size": scene.Pt(26, 280, 26), "position": scene.Pt(360, -30, -10), "colour": rgb("#8a5a2a")})
	crate := b.item(scene.Box, "Crate", "", values{"size": scene.Pt(76, 76, 76), "position": scene.Pt(100, 30, 0), "rotationY": scene.Num(30), "rotationX": scene.Num(12), "colour": rgb("#a9793f")})
	b.attach(crate, hook)
	b.follow(hold, crate, "attachWeight", "", 1, 0)
	awning := b.item(scene.Plane, "Awning", "", values{"size": scene.Pt(420, 170, 10), "position": scene.Pt(-200, 90, -20), "rotationX": scene.Num(-24), "colour": rgb("#9b2c3b")})
	b.follow(bend, awning, "bend", "", 1, 0)
	b.item(scene.Box, "Planks", "", values{"size": scene.Pt(1100, 26, 240), "position": scene.Pt(0, -190, 0), "rotationX": scene.Num(16), "colour": rgb("#7c6248"), "roughness": scene.Num(85)})
	b.item(scene.AmbientLight, "Night", "", values{"colour": rgb("#9fb0d8"), "intensity": scene.Num(34)})
}

// netFloats hang a net between two floats: the nearer they are, the deeper and the denser it hangs.
func (b *builder) netFloats() {
	b.composition("floats", "Net floats", rgb("#d9e4df"), "Drag the two points on the Desk, or in\nthe picture: the nearer the floats, the\ndeeper the net hangs.")
	rig := b.item(scene.Null, "Floats", "", values{"position": scene.Pt(-560, 310, 0)})
	var ends [2]scene.ID
	for k, name := range []string{"Left float", "Right float"} {
		x := []float64{-300, 300}[k]
		place := b.control(rig, scene.Control{Name: name, Kind: scene.PointWidget, SoftMin: -600, SoftMax: 600, Default: scene.Pt(x, 60)}, curve.Smooth, pin{0, scene.Pt(x, 60)}, pin{150, scene.Pt(x*0.5, 90)}, pin{299, scene.Pt(x, 60)})
		ends[k] = b.item(scene.Ball, name+" cork", "", values{"size": scene.Pt(56, 56, 56), "colour": rgb("#c4562f"), "roughness": scene.Num(50)})
		b.follow(place, ends[k], "position", "", 1, 0)
	}
	var lines []scene.ID
	for row := range 3 {
		net := b.part(scene.PathItem, fmt.Sprintf("Net line %d", row+1), "", values{"stroke": rgb("#3d5a52"), "strokeWidth": scene.Num(2), "fill": scene.RGBA(0, 0, 0, 0), "dash": scene.Num(float64(10 * row)), "gap": scene.Num(6)}, func(item *scene.Item) {
			drop := -110 - 60*float64(row)
			item.Path = line([2]float64{-300, 60}, [2]float64{0, drop}, [2]float64{300, 60})
			item.Path.Contours[0].Vertices[1].In, item.Path.Contours[0].Vertices[1].Out = [2]float64{-150, 0}, [2]float64{150, 0}
		})
		b.follow(property(ends[0], "worldPosition"), net, scene.VertexKey(1), "", 1, 0)
		b.follow(property(ends[1], "worldPosition"), net, scene.VertexKey(3), "", 1, 0)
		lines = append(lines, net)
	}
	b.netGraph(ends, lines)
	b.item(scene.Rectangle, "Sea", "", values{"size": scene.Pt(width+20, 420), "position": scene.Pt(0, -160, 0), "gradient": scene.Num(1), "gradientFrom": scene.Pt(0, 210), "gradientTo": scene.Pt(0, -210), "fill": rgb("#9cc4bd"), "secondFill": rgb("#3f7c7a")})
}

// buoy is drawn with lines that keep their width while the buoy is scaled, evenly or not: formulas scale
// sizes and places instead of the drawing.
func (b *builder) buoy() {
	b.composition("buoy", "Buoy", rgb("#f0e7d6"), "Drag Scale, across and up, down to 0:\nthe lines keep their width.")
	rig := b.item(scene.Null, "Buoy rig", "", values{"position": scene.Pt(-560, 310, 0)})
	b.control(rig, scene.Control{Name: "Scale", Kind: scene.PointWidget, SoftMin: 0, SoftMax: 170, Default: scene.Pt(100, 100), Note: "Across and up, in percent."}, curve.Smooth, pin{0, scene.Pt(100, 100)}, pin{100, scene.Pt(160, 60)}, pin{200, scene.Pt(40, 130)}, pin{299, scene.Pt(100, 100)})
	rock := b.control(rig, scene.Control{Name: "Rocking", Kind: scene.DialWidget, SoftMin: -45, SoftMax: 45, Default: scene.Num(0)}, curve.Smooth, pin{0, scene.Num(-8)}, pin{75, scene.Num(8)}, pin{150, scene.Num(-8)}, pin{225, scene.Num(8)}, pin{299, scene.Num(-8)})
	body := b.item(scene.Null, "Buoy body", "", values{"position": scene.Pt(0, -60, 0)})
	b.follow(rock, body, "rotation", "", 1, 0)
	ink := values{"stroke": rgb("#2b2530"), "strokeWidth": scene.Num(5), "join": scene.Num(1)}
	with := func(more values) values {
		out := values{}
		for _, set := range []values{ink, more} {
			for key, v := range set {
				out[key] = v
			}
		}
		return out
	}
	mark := b.item(scene.Star, "Top mark", body, with(values{"size": scene.Pt(54, 54), "points": scene.Num(5), "position": scene.Pt(0, 232, 0), "fill": rgb("#e2b148")}))
	cage := b.part(scene.PathItem, "Cage", body, with(values{"fill": rgb("#f4ead6")}), func(item *scene.Item) {
		item.Path = loop([2]float64{-50, 30}, [2]float64{50, 30}, [2]float64{16, 200}, [2]float64{-16, 200})
	})
	float := b.item(scene.Ellipse, "Float", body, with(values{"size": scene.Pt(220, 90), "fill": rgb("#b03445")}))
	keel := b.item(scene.Polygon, "Keel", body, with(values{"size": scene.Pt(90, 90), "sides": scene.Num(3), "rotation": scene.Num(180), "position": scene.Pt(0, -70, 0), "fill": rgb("#2a2030")}))
	b.row("size of the buoy", []scene.ID{mark, float, keel}, "size", "own * {Buoy rig: Scale} / 100")
	b.row("places on the buoy", []scene.ID{mark, float, keel, cage}, "position", "[own.x * {Buoy rig: Scale.x}, own.y * {Buoy rig: Scale.y}] / 100")
	for k := range 4 {
		b.formula(cage, scene.VertexKey(k+1), "own * {Buoy rig: Scale} / 100")
	}
}

// winch is a hand wheel that turns a drum by a gear ratio, over many turns; the rope is as long as it
// was unwound, and the hook stops at the beam.
func (b *builder) winch() {
	b.composition("winch", "Winch", rgb("#e8dfcf"), "Turn Hand wheel as far as you like.\nThe hook stops below the beam.")
	rig := b.item(scene.Null, "Winch rig", "", values{"position": scene.Pt(-560, 310, 0)})
	b.control(rig, scene.Control{Name: "Hand wheel", Kind: scene.DialWidget, SoftMin: -3600, SoftMax: 3600, Default: scene.Num(0), Note: "Ten turns lift the hook about as far as it goes."}, curve.Smooth, pin{0, scene.Num(0)}, pin{180, scene.Num(3240)}, pin{299, scene.Num(1080)})
	b.control(rig, scene.Control{Name: "Gear ratio", Kind: scene.Fader, SoftMin: 1, SoftMax: 12, Default: scene.Num(4), Step: 0.5, Note: "Turns of the wheel for one of the drum."}, curve.Smooth)
	b.item(scene.Rectangle, "Beam", "", values{"size": scene.Pt(620, 34), "position": scene.Pt(60, 230, 0), "fill": rgb("#6b4a2d")})
	wheel := b.item(scene.Null, "Wheel", "", values{"position": scene.Pt(-260, -40, 0)})
	b.item(scene.Ellipse, "Rim", wheel, values{"size": scene.Pt(170, 170), "fill": scene.RGBA(0, 0, 0, 0), "stroke": rgb("#2b2530"), "strokeWidth": scene.Num(14)})
	for k := range 3 {
		b.item(scene.Rectangle, fmt.Sprintf("Spoke %d", k+1), wheel, values{"size": scene.Pt(160, 8), "rotation": scene.Num(float64(60 * k)), "fill": rgb("#2b2530")})
	}
	b.item(scene.Ellipse, "Grip", wheel, values{"size": scene.Pt(26, 26), "position": scene.Pt(78, 0, 0), "fill": rgb("#9b2c3b")})
	drum := b.item(scene.Null, "Drum", "", values{"position": scene.Pt(-60, 150, 0)})
	b.item(scene.Ellipse, "Drum side", drum, values{"size": scene.Pt(90, 90), "fill": rgb("#b8752f"), "stroke": rgb("#2b2530"), "strokeWidth": scene.Num(4)})
	b.item(scene.Rectangle, "Drum mark", drum, values{"size": scene.Pt(40, 8), "position": scene.Pt(20, 0, 0), "fill": rgb("#2b2530")})
	hook := b.item(scene.Null, "Hook", "", values{"position": scene.Pt(210, -240, 0)})
	b.item(scene.Torus, "Hook ring", hook, values{"size": scene.Pt(50, 50, 14), "position": scene.Pt(0, -25, 0), "colour": rgb("#4a4353")})
	b.formula(wheel, "rotation", "-{Winch rig: Hand wheel}")
	b.formula(drum, "rotation", "-{Winch rig: Hand wheel} / {Winch rig: Gear ratio}")
	b.formula(hook, "position.y", `around = pi * 90                    // how much rope one turn of the drum takes up
taken = {Drum: rotation} / -360 * around
min(own + taken, 190)               // the beam`)
	rope := b.part(scene.PathItem, "Rope", "", values{"stroke": rgb("#8a7350"), "strokeWidth": scene.Num(5), "fill": scene.RGBA(0, 0, 0, 0)}, func(item *scene.Item) {
		item.Path = line([2]float64{-60, 195}, [2]float64{210, 195}, [2]float64{210, -240})
	})
	b.follow(property(hook, "position"), rope, scene.VertexKey(3), "", 1, 0)
}

// pennants are rows of cloth in the wind: each joint follows the one before it, later and further, and
// each row the row above it.
func (b *builder) pennants() {
	b.composition("pennants", "Pennants", rgb("#dbe7ee"), "Drag Gust strength\nand Stiffness. Each joint\nand each row follows\nthe one before it.")
	rig := b.item(scene.Null, "Cloth", "", values{"position": scene.Pt(-560, 310, 0)})
	b.control(rig, scene.Control{Name: "Gust strength", Kind: scene.Fader, Unit: scene.Percent, SoftMax: 100, Default: scene.Num(60)}, curve.Smooth, pin{0, scene.Num(30)}, pin{150, scene.Num(90)}, pin{299, scene.Num(45)})
	b.control(rig, scene.Control{Name: "Gust pace", Kind: scene.Fader, SoftMax: 3, Default: scene.Num(0.8), Step: 0.1, Note: "Gusts a second. It is added up, so that changing it never makes the cloth jump."}, curve.Smooth, pin{0, scene.Num(0.5)}, pin{150, scene.Num(1.4)}, pin{299, scene.Num(0.6)})
	b.control(rig, scene.Control{Name: "Stiffness", Kind: scene.Fader, Unit: scene.Percent, SoftMax: 100, Default: scene.Num(40)}, curve.Smooth)
	b.control(rig, scene.Control{Name: "Row lag", Kind: scene.Fader, Unit: scene.Seconds, SoftMax: 1, Default: scene.Num(0.2), Step: 0.01}, curve.Smooth)
	pole := b.item(scene.Rectangle, "Pole", "", values{"size": scene.Pt(12, 620), "position": scene.Pt(-306, -10, 0), "fill": rgb("#4a4353")})
	colours := []string{"#9b2c3b", "#c4812f", "#1f7a6e", "#3a4a8a"}
	for r := range 4 {
		parent := b.item(scene.Null, fmt.Sprintf("Pennant %d", r+1), pole, values{"position": scene.Pt(6, 210-130*float64(r), 0)})
		for j := range 7 {
			tall := 70 - 9*float64(j)
			parent = b.part(scene.PathItem, fmt.Sprintf("Pennant %d joint %d", r+1, j+1), parent, values{"position": scene.Pt(min(float64(j), 1)*86, 0, 0), "fill": rgb(colours[r])}, func(item *scene.Item) {
				item.Path = loop([2]float64{0, tall / 2}, [2]float64{90, tall/2 - 4.5}, [2]float64{90, 4.5 - tall/2}, [2]float64{0, -tall / 2})
			})
		}
	}
	b.roster("wind in the pennants", scene.Roster{Kind: scene.Chain, Of: &scene.Roster{Kind: scene.Children, Item: pole}}, "rotation", `// each row follows the one above it, each joint the one before it
late = outer index * {Cloth: Row lag} + index * (1 - {Cloth: Stiffness} / 100) * 5f
soft = (0.3 + share) * (1.2 - {Cloth: Stiffness} / 100)
wind = noise(accumulate({Cloth: Gust pace}), 4) * {Cloth: Gust strength} * 0.5
delay(wind, late) * soft`)
}

// drawbridge is a sequence on one percent slider: the lamps, the barriers, a pause, then the leaves;
// each has its own span of it.
func (b *builder) drawbridge() {
	b.composition("drawbridge", "Drawbridge", rgb("#dfe6ea"), "Drag Sequence from 0 to 100 %.\nEach part moves in its own part of the\nrange: look at the maps, and set other\nstops.")
	rig := b.item(scene.Null, "Bridge keeper", "", values{"position": scene.Pt(-560, 310, 0)})
	sequence := b.control(rig, scene.Control{Name: "Sequence", Kind: scene.Fader, Unit: scene.Percent, SoftMax: 100, Default: scene.Num(0), Note: "Lamps to 12, barriers from 12 to 34, a pause, the leaves from 46 on."}, curve.Linear, pin{0, scene.Num(0)}, pin{220, scene.Num(100)}, pin{299, scene.Num(100)})
	mode := b.control(rig, scene.Control{Name: "Signal", Kind: scene.ChoiceWidget, Options: []string{"red", "amber"}, Default: scene.Num(0)}, curve.Hold)
	for k, side := range []float64{-1, 1} {
		name := []string{"Left", "Right"}[k]
		lamp := b.item(scene.Ellipse, name+" lamp", "", values{"size": scene.Pt(34, 34), "position": scene.Pt(side*330, 96, 0), "stroke": rgb("#2b2530"), "strokeWidth": scene.Num(4)})
		b.maps(sequence, lamp, "opacity", "", stops{{0, scene.Num(25)}, {12, scene.Num(100)}})
		b.maps(mode, lamp, "fill", "", stops{{0, rgb("#c23b46")}, {1, rgb("#e2a13a")}})
		b.item(scene.Rectangle, name+" post", "", values{"size": scene.Pt(16, 150), "position": scene.Pt(side*330, 10, 0), "fill": rgb("#4a4353")})
		barrier := b.item(scene.Rectangle, name+" barrier", "", values{"size": scene.Pt(190, 12), "pivot": scene.Pt(side*95, 0, 0), "position": scene.Pt(side*322, -8, 0), "fill": rgb("#f4ead6"), "stroke": rgb("#9b2c3b"), "strokeWidth": scene.Num(3), "dash": scene.Num(22), "gap": scene.Num(22)})
		b.maps(sequence, barrier, "rotation", "", stops{{12, scene.Num(-side * 80)}, {34, scene.Num(0)}})
		leaf := b.item(scene.Rectangle, name+" leaf", "", values{"size": scene.Pt(250, 24), "pivot": scene.Pt(side*125, 0, 0), "position": scene.Pt(side*250, -90, 0), "fill": rgb("#7c6248")})
		b.maps(sequence, leaf, "rotation", "", stops{{46, scene.Num(0)}, {100, scene.Num(-side * 68)}})
		b.item(scene.Rectangle, name+" bank", "", values{"size": scene.Pt(400, 250), "position": scene.Pt(side*450, -215, 0), "fill": rgb("#8d8579")})
	}
	b.item(scene.Rectangle, "Channel", "", values{"size": scene.Pt(width+20, 240), "position": scene.Pt(0, -290, 0), "fill": rgb("#5d8ea3")})
}
