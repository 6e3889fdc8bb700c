package session

import (
	"maps"

	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/graphs"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

func init() { maps.Copy(gestures, slipGestures) }

func (h *hand) graph() *scene.Graph {
	if graphs := h.s.Composition().Graphs; len(graphs) > 0 {
		return pick(h.r, graphs)
	}
	return &scene.Graph{ID: "none"}
}

// slip is one of a graph, or one that is put there.
func (h *hand) slip(g *scene.Graph) scene.ID {
	if len(g.Slips) > 0 && !h.chance(4) {
		return pick(h.r, g.Slips).ID
	}
	return pick(h.r, []scene.ID{"#0", "#1", "none"})
}

// slipGestures are those on graphs.
var slipGestures = map[string]func(h *hand) gesture.Gesture{
	"new graph": func(h *hand) gesture.Gesture { return &graphs.NewGraph{Text: h.text()} },
	"open as graph": func(h *hand) gesture.Gesture {
		if h.chance(2) {
			return &graphs.OpenAsGraph{LinkAt: gesture.LinkAt{RosterLink: h.rosterLink().ID}}
		}
		at, l := h.linked()
		return &graphs.OpenAsGraph{LinkAt: gesture.LinkAt{Target: at, Link: l.ID}}
	},
	"as formula": func(h *hand) gesture.Gesture {
		for _, g := range h.s.Composition().Graphs {
			for _, d := range graph.Drives(h.s.Composition(), g.ID) {
				return &graphs.WriteAsFormula{LinkAt: gesture.LinkAt{Target: d.Ref, RosterLink: d.RosterLink, Link: d.Link.ID}}
			}
		}
		at, l := h.linked()
		return &graphs.WriteAsFormula{LinkAt: gesture.LinkAt{Target: at, Link: l.ID}}
	},
	"put slips": func(h *hand) gesture.Gesture {
		g := h.graph()
		put := &graphs.PutSlips{Graph: g.ID, Slips: []scene.Slip{
			{Kind: scene.ApplySlip, Text: pick(h.r, []string{"wave", "+", "min", "nothing"}), Fields: map[string]string{"1": "time", "2": pick(h.r, []string{"", "3", "index *"})}},
			{Kind: scene.MapSlip, Fields: map[string]string{"1": "time * 9"}, Stops: []scene.MapStop{{In: 0, Out: scene.Num(3), Easing: curve.Smooth}, {In: 9, Out: scene.Num(40), Easing: curve.Linear}}},
			{Kind: pick(h.r, []scene.SlipKind{scene.WordsSlip, scene.ReadSlip, scene.FormulaSlip}), Text: pick(h.r, []string{"clock", "{self: rotation}", "a + b"})},
		}}
		for range h.r.IntN(4) {
			put.Wires = append(put.Wires, scene.Wire{From: h.slip(g), Out: pick(h.r, []string{"", "", "x", "time"}), To: h.slip(g), In: pick(h.r, []string{"1", "2", "in", "a"})})
		}
		return put
	},
	"fill input": func(h *hand) gesture.Gesture {
		g := h.graph()
		return &graphs.FillInput{Graph: g.ID, Slip: h.slip(g), In: pick(h.r, []string{"1", "2", "in"}), Text: pick(h.r, []string{"2 + 1", "37", "", "{self: rotation} * 0.7", "x = 3\nx * 2", "2) * (", "{Lamp*: opacity}", "a * b"})}
	},
	"take slips": func(h *hand) gesture.Gesture {
		g := h.graph()
		return &graphs.TakeSlips{Graph: g.ID, Slips: []scene.ID{h.slip(g), h.slip(g)}}
	},
	"arrange slips": func(h *hand) gesture.Gesture { return &graphs.ArrangeSlips{Graph: h.graph().ID} },
	"remove graph":  func(h *hand) gesture.Gesture { return &graphs.RemoveGraph{Graph: h.graph().ID, Formulas: h.chance(2)} },
	"drive": func(h *hand) gesture.Gesture {
		g := h.graph()
		d := &graphs.Drive{Graph: g.ID, Targets: h.refs(), Roster: h.chance(3)}
		if copies := h.copies(); copies != nil && h.chance(3) {
			d.Targets = []scene.Ref{{Item: copies.FirstLane(), Property: pick(h.r, []string{"position", "opacity", "tint"})}}
		}
		for _, s := range g.Slips {
			if s.Kind == scene.DriveSlip {
				d.Slip = s.ID
			}
		}
		return d
	},
	"pull slips": func(h *hand) gesture.Gesture {
		g := h.graph()
		return &graphs.PullSlips{Graph: g.ID, Slips: []scene.ID{h.slip(g)}}
	},
	"align slips": func(h *hand) gesture.Gesture {
		g := h.graph()
		return &graphs.AlignSlips{Graph: g.ID, Slips: []scene.ID{h.slip(g), h.slip(g)}, How: pick(h.r, []string{"left", "top", "across", "down", "up"})}
	},
	"fold slips": func(h *hand) gesture.Gesture {
		g := h.graph()
		return &graphs.FoldSlips{Graph: g.ID, Slips: []scene.ID{h.slip(g), h.slip(g), h.slip(g)}}
	},
	"unfold": func(h *hand) gesture.Gesture {
		g := h.graph()
		for _, s := range g.Slips {
			if s.Kind == scene.FoldSlip {
				return &graphs.Unfold{Graph: g.ID, Slip: s.ID}
			}
		}
		return &graphs.Unfold{Graph: g.ID, Slip: h.slip(g)}
	},
	"mark slip": func(h *hand) gesture.Gesture {
		g := h.graph()
		for _, s := range g.Slips {
			if s.Kind == scene.MapSlip && h.chance(2) {
				return &poses.MarkSlip{Graph: g.ID, Slip: s.ID, Which: pick(h.r, []string{"low", "high", "here"})}
			}
		}
		return &poses.MarkSlip{Graph: g.ID, Slip: h.slip(g), Which: "here"}
	},
	"mend wire": func(h *hand) gesture.Gesture {
		g := h.graph()
		return &graphs.MendWire{Graph: g.ID, Wire: scene.Wire{From: h.slip(g), To: h.slip(g), In: pick(h.r, []string{"1", "2", "in"})}, Text: pick(h.r, []string{"held.x", "held * 1f", "text(held)", "3"})}
	},
	"value control": func(h *hand) gesture.Gesture {
		g := h.graph()
		for _, s := range g.Slips {
			if s.Kind == scene.ValueSlip {
				return &graphs.ValueControl{Graph: g.ID, Slip: s.ID, Onto: h.item()}
			}
			if s.Fields["2"] != "" {
				return &graphs.ValueControl{Graph: g.ID, Slip: s.ID, In: "2", Onto: pick(h.r, []scene.ID{"", h.item()})}
			}
		}
		return &graphs.ValueControl{Graph: g.ID, Slip: h.slip(g)}
	},
}
