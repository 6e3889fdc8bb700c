package demo

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/gesture/graphs"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// sheet is a graph that is being laid out: places are columns and rows of slips.
type sheet struct {
	b *builder
	g *scene.Graph
}

// sheet begins a graph.
func (b *builder) sheet(name, note string) *sheet {
	return &sheet{b, &scene.Graph{ID: b.id("g"), Name: name, Note: note}}
}

const columnWidth, rowHeight = 210, 40

// slip puts a slip down; what comes behind it is led to its inputs, in their order: ids of slips, or texts.
func (s *sheet) slip(kind scene.SlipKind, text, title string, column, row float64, inputs ...any) scene.ID {
	slip := &scene.Slip{ID: s.b.id("n"), Kind: kind, Text: text, Title: title, At: [2]float64{column * columnWidth, row * rowHeight}}
	s.g.Slips = append(s.g.Slips, slip)
	for k, from := range inputs {
		in := graph.In
		if kind != scene.DriveSlip {
			in = string(rune('1' + k))
		}
		switch from := from.(type) {
		case scene.ID:
			s.g.Wires = append(s.g.Wires, &scene.Wire{From: from, To: slip.ID, In: in})
		case graph.Source:
			s.g.Wires = append(s.g.Wires, &scene.Wire{From: from.Slip, Out: from.Out, To: slip.ID, In: in})
		case string:
			if slip.Fields == nil {
				slip.Fields = map[string]string{}
			}
			slip.Fields[in] = from
		}
	}
	return slip.ID
}

// apply puts a function or operator down.
func (s *sheet) apply(text, title string, column, row float64, inputs ...any) scene.ID {
	return s.slip(scene.ApplySlip, text, title, column, row, inputs...)
}

// read puts down what reads a property, or a relative one such as "{partner: size}".
func (s *sheet) read(ref any, column, row float64) scene.ID {
	text, known := ref.(string)
	if !known {
		text = syntax.Bound(ref.(scene.Ref))
	}
	return s.slip(scene.ReadSlip, text, "", column, row)
}

// words puts down what gives the time, or where a member stands.
func (s *sheet) words(text string, column, row float64) scene.ID {
	return s.slip(scene.WordsSlip, text, "", column, row)
}

// maps puts a map of straight lines down: pairs of what comes in and what is given.
func (s *sheet) maps(title string, column, row float64, from any, beyond scene.Beyond, pairs ...[2]float64) scene.ID {
	id := s.slip(scene.MapSlip, "", title, column, row, from)
	slip, _ := s.g.Slip(id)
	slip.Beyond = beyond
	for _, p := range pairs {
		slip.Stops = append(slip.Stops, scene.MapStop{In: p[0], Out: scene.Num(p[1]), Easing: curve.Linear})
	}
	return id
}

// note lays a coloured sheet behind slips.
func (s *sheet) note(title, text string, label int, column, row, width, height float64) {
	id := s.slip(scene.NoteSlip, text, title, column, row)
	slip, _ := s.g.Slip(id)
	slip.Label, slip.Size = label, &[2]float64{width * columnWidth, height * rowHeight}
}

// lay puts the graph into the composition.
func (s *sheet) lay() { s.b.do(&change.GraphAdd{In: s.b.in, Value: s.g, At: -1}) }

// drive lets a drive slip drive a property of a roster.
func (s *sheet) drive(slip scene.ID, name string, roster scene.Roster, key string) {
	s.b.do(&change.RosterLinkAdd{In: s.b.in, At: -1, Value: &scene.RosterLink{
		ID: s.b.id("s"), Name: name, Roster: roster, Property: key, Link: &scene.Link{ID: s.b.id("l"), Kind: scene.Graphed, Graph: s.g.ID, Slip: slip, Gain: 1},
	}})
}

// lampGraph lets four lamps burn as the panel says, each with a flicker of its own.
func (b *builder) lampGraph(light scene.Ref, lamps []scene.ID) {
	s := b.sheet("Lamps", "What the panel says, with a flicker of its own for each lamp.")
	s.note("Flicker", "Random over time. The number of the lamp is the seed, so no two flicker alike.", 2, -0.1, -2, 3.2, 9.2)
	clock := s.words("clock", 0, 0)
	row := s.words("row", 0, 3.6)
	speed := s.apply("*", "", 1, 0.4, graph.Source{Slip: clock, Out: "time"}, "2.5")
	flicker := s.apply("noise", "flicker", 2, 1.4, speed, graph.Source{Slip: row, Out: "number"})
	panel := s.read(light, 2, -5)
	around := s.maps("around one", 3.3, 0, flicker, scene.GoOn, [2]float64{-1, 0.85}, [2]float64{1, 1.15})
	burns := s.apply("*", "burns", 4.6, -4, panel, around)
	out := s.slip(scene.DriveSlip, "", "", 5.6, -4, burns)
	s.lay()
	s.drive(out, "light of the lamps", scene.Roster{Kind: scene.Picked, Items: lamps}, "intensity")
}

// ropeGraph makes each rope a little thinner than the one before it.
func (b *builder) ropeGraph(width scene.Ref, ropes []scene.ID) {
	s := b.sheet("Ropes", "The ropes get thinner along the deck.")
	panel := s.read(width, 1, -3)
	row := s.words("row", 0, 0)
	thinner := s.maps("thinner along the row", 1, 0.6, graph.Source{Slip: row, Out: "share"}, scene.HoldEnds, [2]float64{0, 1}, [2]float64{1, 0.7})
	out := s.slip(scene.DriveSlip, "", "", 3.4, -2, s.apply("*", "", 2.4, -2, panel, thinner))
	s.lay()
	s.drive(out, "width of the ropes", scene.Roster{Kind: scene.Picked, Items: ropes}, "strokeWidth")
}

// shadowGraph lets the far corners of the shadows of some things that are as large as one of them fall away from a lamp:
// further, as it sinks toward their tops.
func (b *builder) shadowGraph(name string, lamp, thing scene.ID, shadows []scene.ID) {
	s := b.sheet(name, "How far the shadows fall.")
	s.note("Over the thing", "How high the lamp hangs over its top. It never counts as lower than that, so that shadows stay on the quay.", 2, 0.9, -2.4, 2.85, 8.2)
	light, size, at := s.read(property(lamp, "position"), 0, 0), s.read(property(thing, "size"), 0, 4), s.read("{self: position}", 1, 9)
	height := s.apply("+", "over the quay", 1, -0.4, graph.Source{Slip: light, Out: "y"}, "60")
	over := s.apply("-", "", 1.9, 2, height, graph.Source{Slip: size, Out: "y"})
	above := s.apply("max", "above", 2.8, 1.4, over, "30")
	side := s.apply("-", "", 2, 9, graph.Source{Slip: at, Out: "x"}, graph.Source{Slip: light, Out: "x"})
	reach := s.apply("clamp", "reach", 4.8, 6, s.apply("/", "", 3.9, 7, s.apply("*", "", 3, 8.4, side, graph.Source{Slip: size, Out: "y"}), above), "-420", "420")
	deep := s.apply("min", "", 4.8, 0, s.apply("/", "", 3.9, -0.6, s.apply("*", "", 3, -5.6, graph.Source{Slip: size, Out: "y"}, "60"), above), "130")
	down := s.apply(syntax.Negative, "down the quay", 5.7, 0, deep)
	half := s.apply("/", "half as wide", 4.8, 11.6, graph.Source{Slip: size, Out: "x"}, "2")
	corner := func(sign, title string, row float64) scene.ID {
		at := s.apply(syntax.Point, title, 6.7, row-2, s.apply(sign, "", 5.8, row, reach, half), down)
		return s.slip(scene.DriveSlip, "", "", 7.6, row-2, at)
	}
	right, left := corner("+", "right corner", 5), corner("-", "left corner", 10.6)
	s.lay()
	s.each(right, shadows, scene.VertexKey(3))
	s.each(left, shadows, scene.VertexKey(4))
}

// each lets a drive slip drive a property of items, each by a link of its own.
func (s *sheet) each(slip scene.ID, items []scene.ID, key string) {
	g := &graphs.Drive{Graph: s.g.ID, Slip: slip}
	for _, item := range items {
		g.Targets = append(g.Targets, property(item, key))
	}
	s.b.gesture(g, laidOut)
}

// netGraph lets a net of some lines hang between two floats: deeper and denser, the nearer they are.
func (b *builder) netGraph(floats [2]scene.ID, lines []scene.ID) {
	s := b.sheet("Net", "The nearer the floats, the deeper and the denser the net.")
	s.note("Sag", "Extends beyond both ends: floats that are further apart pull the net up.", 2, 2.9, -1.6, 2.45, 9.4)
	left, right := s.read(property(floats[0], "worldPosition"), 0, 0), s.read(property(floats[1], "worldPosition"), 0, 2.4)
	apart := s.apply("distance", "apart", 1.3, 0, left, right)
	middle := s.apply("/", "middle", 2, 5.6, s.apply("+", "", 1.2, 5, left, right), "2")
	sag := s.maps("sag", 3.1, 0.4, apart, scene.GoOn, [2]float64{200, 330}, [2]float64{600, 130})
	hang := s.apply("-", "lowest", 4.4, 2, graph.Source{Slip: middle, Out: "y"}, sag)
	outs := make([]scene.ID, len(lines))
	for k := range lines {
		row := 1 + 6*float64(k)
		deeper := s.apply("-", "", 5.4, row, hang, fmt.Sprint(60*k))
		outs[k] = s.slip(scene.DriveSlip, "", "", 7.2, row, s.apply(syntax.Point, fmt.Sprintf("line %d", k+1), 6.3, row, graph.Source{Slip: middle, Out: "x"}, deeper))
	}
	dense := s.maps("dense", 3.1, -8, apart, scene.GoOn, [2]float64{200, 100}, [2]float64{600, 45})
	shows := s.slip(scene.DriveSlip, "", "", 4.7, -7, dense)
	s.lay()
	for k, line := range lines {
		s.each(outs[k], []scene.ID{line}, scene.VertexKey(2))
	}
	s.drive(shows, "density of the net", scene.Roster{Kind: scene.Picked, Items: lines}, "opacity")
}
