package session

import (
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/catalogue"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/gesture/recipes"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// hand makes gestures at random on a session.
type hand struct {
	r *rand.Rand
	s *Session
	n int // ids that it made itself
}

func pick[T any](r *rand.Rand, list []T) T { return list[r.IntN(len(list))] }

func (h *hand) items() []*scene.Item { return h.s.Composition().Items }

func (h *hand) item() scene.ID { return pick(h.r, h.items()).ID }

// copies is one that shows its children many times, or nil.
func (h *hand) copies() *scene.Item {
	for _, item := range h.items() {
		if item.Kind == scene.CopiesItem {
			return item
		}
	}
	return nil
}

func (h *hand) chance(n int) bool { return h.r.IntN(n) == 0 }

func (h *hand) id() scene.ID { h.n++; return scene.ID(fmt.Sprint("hand", h.n)) }

// keys are the properties of an item that a hand is likely to be at: common ones, controls, vertices, what
// something was set of, weights among it.
func (h *hand) keys(item *scene.Item) []string {
	keys := []string{"rotation", "opacity", "position", "position", "scale", "strokeWidth", "attachWeight", "fill", "pivot"}
	for _, spec := range item.Added() {
		keys = append(keys, spec.Key, spec.Key)
	}
	if item.Piece != nil {
		keys = append(keys, scene.Clocked...)
		keys = append(keys, "opacity", "pieceDepth")
	}
	keys = append(keys, item.VertexKeys()...)
	for _, key := range slices.Sorted(maps.Keys(item.States)) {
		keys = append(keys, key)
		for _, l := range item.States[key].Links {
			keys = append(keys, scene.WeightKey(l.ID))
		}
	}
	return keys
}

func (h *hand) ref() scene.Ref {
	item := pick(h.r, h.items())
	at := scene.Ref{Item: item.ID, Property: pick(h.r, h.keys(item))}
	if spec := item.Spec(at.Property); spec != nil && h.chance(3) {
		if parts := append(spec.Type.Components(), ""); len(parts) > 1 {
			at.Component = pick(h.r, parts)
		}
		if spec.Type == scene.Colour && h.chance(2) {
			at.Component = pick(h.r, scene.Hues)
		}
	}
	return at
}

// control returns a control, or what is none.
func (h *hand) control() (item, control scene.ID) {
	if len(h.items()) == 0 {
		return "none", "none"
	}
	for range 10 {
		if on := pick(h.r, h.items()); len(on.Controls) > 0 {
			return on.ID, pick(h.r, on.Controls).ID
		}
	}
	return h.item(), "none"
}

// stop is one of a control of poses, if there is any.
func (h *hand) stop() poses.AtStop {
	for range 30 {
		item, id := h.control()
		if on := h.s.Composition().Item(item); on != nil {
			if control := on.Control(id); control != nil && len(control.Poses) > 0 {
				return poses.AtStop{Item: item, Control: id, Stop: pick(h.r, control.Poses).ID}
			}
		}
	}
	item, id := h.control()
	return poses.AtStop{Item: item, Control: id, Stop: "none"}
}

func (h *hand) source() scene.Ref {
	if h.chance(5) {
		return scene.Ref{Item: h.item(), Property: "worldPosition", Component: pick(h.r, []string{"", "x", "y"})}
	}
	if at := h.stop(); at.Stop != "none" && h.chance(3) {
		return scene.Ref{Item: at.Item, Property: string(at.Control)}
	}
	return h.ref()
}

func (h *hand) some() (out []scene.ID) {
	for _, item := range h.items() {
		if h.chance(3) {
			out = append(out, item.ID)
		}
	}
	if len(out) == 0 {
		out = append(out, h.item())
	}
	return out
}

// refs is mostly one property, sometimes the same of several items, sometimes one twice or by component.
func (h *hand) refs() (out []scene.Ref) {
	at := h.ref()
	out = append(out, at)
	switch h.r.IntN(5) {
	case 0:
		for _, id := range h.some() {
			out = append(out, scene.Ref{Item: id, Property: at.Property, Component: at.Component})
		}
	case 1:
		out = append(out, at)
	case 2:
		out = append(out, scene.Ref{Item: at.Item, Property: at.Property, Component: "x"}, scene.Ref{Item: at.Item, Property: at.Property, Component: "y"})
	}
	return out
}

// linked returns a property with links, and one of them; of weights sometimes.
func (h *hand) linked() (scene.Ref, *scene.Link) {
	for range 20 {
		at := h.ref()
		if links := h.s.Composition().Item(at.Item).State(at.Property).Links; len(links) > 0 {
			return at, pick(h.r, links)
		}
	}
	return h.ref(), &scene.Link{ID: "none", Kind: scene.Follow, Gain: 1}
}

func (h *hand) pins() (out []gesture.PinAt) {
	for _, item := range h.items() {
		for _, key := range slices.Sorted(maps.Keys(item.States)) {
			for _, p := range item.States[key].Pins {
				if h.chance(4) {
					out = append(out, gesture.PinAt{Item: item.ID, Property: key, Frame: p.Frame})
				}
			}
		}
	}
	return out
}

func (h *hand) allPins() (out []gesture.PinAt) {
	for _, item := range h.s.Composition().Items {
		for _, key := range slices.Sorted(maps.Keys(item.States)) {
			for _, p := range item.States[key].Pins {
				out = append(out, gesture.PinAt{Item: item.ID, Property: key, Frame: p.Frame})
			}
		}
	}
	return out
}

// pathPins names the pins of points.
func (h *hand) pathPins() (out []gesture.PinAt) {
	for _, p := range h.allPins() {
		if spec := h.s.Composition().Item(p.Item).Spec(p.Property); spec != nil && spec.Pathable() {
			out = append(out, p)
		}
	}
	return out
}

func (h *hand) rosterLink() *scene.RosterLink {
	if rosterLinks := h.s.Composition().RosterLinks; len(rosterLinks) > 0 {
		return pick(h.r, rosterLinks)
	}
	return &scene.RosterLink{ID: "none", Link: &scene.Link{ID: "no"}}
}

func (h *hand) text() string {
	return pick(h.r, []string{
		"time * 30", "own + index", "below * 2 + 1", "delay({self: rotation}, 2f) * 0.5 + 3", "{self: opacity} / 3", "noise(time, number) * 20",
		"({prev: rotation} else 4) + 1", "1 +", "accumulate({self: opacity}) / 50", "{parent: rotation} + 5", "own + [time, 2]", "delay({self: position}, 1f) * 0.9",
		"{self: world.position}", "average({next: opacity} else 1, 4f)", "hsl(time * 40, 0.5, 0.5)", "text(frame)", "({prev: vertex.y} else 3) + index", "1 / (frame - 3)",
		"{Lamp: opacity} + 3", "{Rig: Glow} / 7 + {Gate: rotation}", "({prev: opacity} else 50) - 7", "({prev: strokeWidth} else 31) + index", "width / 9 + duration",
		"sum({Lamp*: opacity}) / 7", "mean({* > *: rotation})", "weighted({*a*: rotation}, {*a*: opacity} + 1)", "sum({self > *: rotation} * index) + 2", "count({Gate >> *}) * 5 + sum({Lamp*: Glow})", "nearest({parent > *: position}, {self: position})",
		"delay(sum({*: opacity}), 2f) / 9", "greatest({Rig >> *: world.position.x}) / 3", "sum({Row: rotation}) / 11", "nth({*e*: fill}, time * 2)",
		"{Table: height} * 3", "cell({Table: height}, number) + 2", "cell({Table: wind}, \"Gate\") else 7", "below + [sin(time * 90) * 10, 0]", "at({first: rotation}, 1s) + {last: opacity}",
	})
}

func (h *hand) table() *scene.Table {
	t := &scene.Table{}
	rows := 1 + h.r.IntN(5)
	for _, name := range []string{"height", "day", "wind"}[h.r.IntN(3):] {
		column := &scene.Column{ID: scene.ID(name), Name: name}
		for range rows {
			if name == "day" {
				column.Texts = append(column.Texts, pick(h.r, []string{"Gate", "Row", "", "7"}))
			} else {
				column.Numbers = append(column.Numbers, h.r.Float64()*30-7)
			}
		}
		t.Columns = append(t.Columns, column)
	}
	return t
}

func (h *hand) value() scene.Value {
	x := func() float64 { return float64(h.r.IntN(200) - 50) }
	return pick(h.r, []scene.Value{scene.Num(x()), scene.Num(x()), scene.Pt(x(), x()), scene.Pt(x(), x(), x()), scene.RGBA(0.1, 0.5, 0.2, 1), scene.Txt("Gate"), scene.Num(0)})
}

func (h *hand) roster() scene.Roster {
	kind := pick(h.r, []scene.RosterKind{scene.Children, scene.Chain, scene.Picked, scene.Named, scene.Vertices})
	pattern := func() string { return pick(h.r, []string{"R*", "*", "lamp*", "Row ?", "Gate"}) }
	out := scene.Roster{Kind: kind, Item: h.item(), Items: h.some(), Pattern: pattern(), Made: h.chance(2)}
	if out.Hangs() && h.chance(2) {
		out.Of = &scene.Roster{Kind: pick(h.r, []scene.RosterKind{scene.Picked, scene.Named}), Items: h.some(), Pattern: pattern()}
	}
	return out
}

// names are few, so that items come into rows that find them by name, and leave them, and formulas find them.
var names = []string{"Row 1", "Row 2", "R", "Gate", "Lamp", "Rig", "Lamp post"}

// setting alters names, looks, settings and what controls are.
func (h *hand) setting(in change.In, item scene.ID) change.Op {
	on := change.On{In: in, Item: item}
	name, yes, x := pick(h.r, names), h.chance(2), 10+h.r.IntN(30)
	if owner, id := h.control(); h.chance(2) && h.s.Composition().Item(owner) != nil {
		if control := h.s.Composition().Item(owner).Control(id); control != nil {
			value, low, high := control.Clone(), float64(x), float64(x+70)
			switch h.r.IntN(5) {
			case 0:
				value.Name = pick(h.r, []string{"Amount", "Glow", "Row"})
			case 1:
				value.SoftMin, value.SoftMax = -low, high
			case 2:
				value.Min, value.Max = &low, &high
			case 3:
				value.Note = name
			default:
				value.Default = h.value()
			}
			return &change.ControlSet{On: change.On{In: in, Item: owner}, Value: value}
		}
	}
	switch h.r.IntN(8) {
	case 0:
		return &change.CompositionSet{In: in, Rate: &x}
	case 1:
		return &change.CompositionSet{In: in, Width: &x}
	case 2:
		return &change.CompositionSet{In: in, Frames: &x}
	case 3:
		return &change.ItemSet{On: on, Hidden: &yes}
	case 4:
		return &change.ItemSet{On: on, Note: &name, NotInOutput: &yes}
	}
	return &change.ItemSet{On: on, Name: &name}
}

// operations alters what no gesture of the table does: links, their order and limits, rosters.
func (h *hand) operations() change.Ops {
	in := change.In{Composition: h.s.Composition().ID}
	at, l := h.linked()
	of := change.Of{On: change.On{In: in, Item: at.Item}, Property: at.Property}
	x := float64(h.r.IntN(60))
	altered := l.Clone()
	altered.Off = h.chance(4)
	altered.Operation = pick(h.r, []scene.Operation{scene.Replace, scene.Plus, scene.Multiply})
	altered.Delay = float64(h.r.IntN(3) * h.r.IntN(4))
	altered.Gain = pick(h.r, []float64{1, 0.5, -2})
	altered.World = h.chance(8)
	if altered.Offsets = nil; h.chance(3) {
		altered.Offsets = scene.ByComponent{x, -3}
	}
	if copies := h.copies(); copies != nil && h.chance(3) {
		on := change.On{In: in, Item: copies.ID}
		return change.Ops{
			&change.ItemCopies{On: on, Copies: &scene.CopiesShape{Limit: 1 + h.r.IntN(6), Along: h.item()}},
			&change.OwnSet{Of: change.Of{On: on, Property: "copiesArrangement"}, Value: scene.Num(float64(h.r.IntN(5)))},
		}
	}
	if h.chance(3) {
		return change.Ops{h.setting(in, at.Item)}
	}
	switch h.r.IntN(8) {
	case 0:
		return change.Ops{&change.LinkRemove{Of: of, Link: l.ID}}
	case 1:
		return change.Ops{&change.LinkMove{Of: of, Link: l.ID, At: 0}}
	case 2:
		return change.Ops{&change.OwnSet{Of: change.Of{On: of.On, Property: scene.WeightKey(l.ID)}, Value: scene.Num(x)}}
	case 3:
		if h.chance(2) {
			return change.Ops{&change.PinsBeyond{Of: of, Beyond: pick(h.r, []curve.Tail{"", curve.Again, curve.Return, curve.Onward, "never"})}}
		}
		high := x + 10
		set := &change.LimitsSet{Of: of, Min: &x, Max: &high}
		if h.chance(2) {
			set.Component = pick(h.r, []string{"x", "y", "g"})
		}
		return change.Ops{set}
	case 4: // all links of a property at once
		var ops change.Ops
		for _, l := range h.s.Composition().Item(at.Item).State(at.Property).Links {
			ops = append(ops, &change.LinkRemove{Of: of, Link: l.ID})
		}
		return ops
	case 5:
		s := h.rosterLink().Clone()
		switch h.r.IntN(7) {
		case 5:
			s.Parts = map[scene.ID]string{h.item(): pick(h.r, []string{"", "x", "y", "g"})}
		case 6:
			s.Keys = map[scene.ID]string{h.item(): pick(h.r, []string{"rotation", "opacity", "position", "fill", "nothing"}), h.item(): h.ref().Property}
		case 0:
			s.Out = h.some()
		case 1:
			s.Roster = h.roster()
		case 2:
			from := h.ref()
			s.WeightFrom = &from
		case 3:
			s.Link.Stagger = &scene.Stagger{Delay: float64(h.r.IntN(4)), Offset: x, Gain: 0.1}
			if h.chance(2) {
				s.Link.Stagger.By, s.Link.Stagger.Curve = scene.ByCurve, []scene.MapStop{{In: 0, Out: scene.Num(0.3), Easing: curve.Linear}, {In: 0.7, Out: scene.Num(x), Easing: curve.Smooth}}
			}
		case 4:
			s.Link.Operation, s.Weight = scene.Plus, &x
		}
		if h.chance(3) {
			pair := h.roster()
			s.Pair = &pair
		}
		return change.Ops{&change.RosterLinkSet{In: in, Value: s}}
	case 6:
		roster := h.roster()
		s := &scene.RosterLink{ID: h.id(), Name: "Row", Roster: roster, Property: pick(h.r, []string{"rotation", "opacity", "scale", "strokeWidth"}), Link: &scene.Link{ID: h.id(), Kind: scene.Follow, Source: h.source(), Gain: 1}}
		if h.chance(2) {
			s.Link.Kind, s.Link.Formula = scene.Formula, h.text()
		}
		if roster.Kind == scene.Vertices {
			s.Property = scene.OwnVertex
		}
		return change.Ops{&change.RosterLinkAdd{In: in, Value: s, At: -1}}
	}
	return change.Ops{&change.LinkSet{Of: of, Link: altered}}
}

// gestures makes one of each kind.
var gestures = map[string]func(h *hand) gesture.Gesture{
	"add": func(h *hand) gesture.Gesture {
		g := add(pick(h.r, []scene.Kind{scene.Rectangle, scene.Null, scene.TextItem, scene.PathItem, scene.Box, scene.Emitter, scene.Picture, scene.TableItem}), pick(h.r, []string{"", "Row"}))
		if g.Kind == scene.Picture {
			g.Frames = []scene.Frame{{Asset: scene.AssetID(strings.Repeat("ab", 32))}}
		}
		if g.Kind == scene.TableItem && h.chance(2) {
			g.Name, g.Table = "", h.table()
		}
		return g
	},
	"add control": func(h *hand) gesture.Gesture {
		return &wiring.AddControl{Item: h.item(), Control: scene.Control{Kind: pick(h.r, []scene.Widget{scene.Fader, scene.ColourWidget, scene.PointWidget, scene.SwitchWidget, scene.ChoiceWidget})}}
	},
	"set":         func(h *hand) gesture.Gesture { return &pins.Set{Targets: h.refs(), Value: h.value()} },
	"keep before": func(h *hand) gesture.Gesture { return &pins.KeepBefore{} },
	"go back": func(h *hand) gesture.Gesture {
		if kept := h.s.Project.Befores; len(kept) > 0 {
			return &pins.GoBack{Before: pick(h.r, kept).ID}
		}
		return &pins.GoBack{Before: "none"}
	},
	"even speed": func(h *hand) gesture.Gesture { return &pins.EvenSpeed{Pins: h.allPins()} },
	"retime":     func(h *hand) gesture.Gesture { return &copies.Retime{Items: []scene.ID{h.item()}} },
	"bend path": func(h *hand) gesture.Gesture {
		g := &pins.BendPath{Straight: h.chance(4)}
		for _, p := range h.pathPins() {
			if ref := (scene.Ref{Item: p.Item, Property: p.Property}); !slices.Contains(g.Targets, ref) {
				g.Targets = append(g.Targets, ref)
			}
		}
		return g
	},
	"shape path": func(h *hand) gesture.Gesture {
		all := h.pathPins()
		if len(all) == 0 {
			return &pins.ShapePath{Pin: gesture.PinAt{Item: h.item(), Property: "position"}, Part: pins.PathLead, To: scene.Pt(3, 5, 0)}
		}
		at := pick(h.r, all)
		to := scene.Pt(17, -43, 5)
		if h.s.Composition().Item(at.Item).Spec(at.Property).Type == scene.Point2 {
			to = scene.Pt(17, -43)
		}
		return &pins.ShapePath{Pin: at, Part: pick(h.r, []string{pins.PathPlace, pins.PathLead, pins.PathArrive}), To: to, Alone: h.chance(3)}
	},
	"set each": func(h *hand) gesture.Gesture {
		return &pins.SetEach{Sets: []pins.Set{{Targets: h.refs(), Value: h.value()}, {Targets: h.refs(), Value: h.value()}}}
	},
	"pin": func(h *hand) gesture.Gesture {
		g := &pins.Pin{Targets: h.refs(), Toggle: h.chance(2)}
		if h.chance(4) {
			g.Targets, g.Drawer = nil, h.item()
		}
		return g
	},
	"move pins": func(h *hand) gesture.Gesture {
		return &pins.MovePins{Pins: h.pins(), By: h.r.IntN(9) - 4, Copy: h.chance(3), Landing: pins.Landing{Replace: h.chance(2)}}
	},
	"ease pins": func(h *hand) gesture.Gesture {
		return &pins.EasePins{Pins: h.pins(), Easing: pick(h.r, []curve.Easing{curve.Hold, curve.Linear, curve.Smooth, "cubic 0.3 0.2 0.45 1.35", "settle 12 3 35", "bounce 40 2", "cubic 2 0 0 1"})}
	},
	"stretch pins": func(h *hand) gesture.Gesture {
		return &pins.StretchPins{Pins: h.pins(), Stays: h.r.IntN(40), From: h.r.IntN(60), To: h.r.IntN(90) - 30, Landing: pins.Landing{Replace: h.chance(2)}}
	},
	"reverse pins": func(h *hand) gesture.Gesture {
		return &pins.ReversePins{Pins: h.pins(), Landing: pins.Landing{Replace: h.chance(2)}}
	},
	"spread pins": func(h *hand) gesture.Gesture {
		return &pins.SpreadPins{Pins: h.pins(), Landing: pins.Landing{Replace: true}}
	},
	"stagger pins": func(h *hand) gesture.Gesture {
		return &pins.StaggerPins{Pins: h.pins(), By: h.r.IntN(9) - 4, Landing: pins.Landing{Replace: h.chance(2)}}
	},
	"paste pins": func(h *hand) gesture.Gesture {
		g := &pins.PastePins{Clip: pins.Copy(h.s.Composition(), h.pins()), Landing: pins.Landing{Replace: h.chance(2)}}
		if h.chance(3) {
			g.Targets = h.refs()
		}
		return g
	},
	"add marker": func(h *hand) gesture.Gesture { return &pins.AddMarker{} },
	"insert time": func(h *hand) gesture.Gesture {
		g := &pins.InsertTime{At: h.r.IntN(50), Frames: h.r.IntN(31) - 15}
		if h.chance(2) {
			g.Item = h.id()
		}
		return g
	},
	"show": func(h *hand) gesture.Gesture {
		return &pins.Show{Values: []gesture.Pose{{Ref: h.ref(), Value: scene.Num(float64(h.r.IntN(90)))}}}
	},
	"perform": func(h *hand) gesture.Gesture {
		g := &pins.Perform{}
		for range h.r.IntN(3) {
			row := pins.Performance{Ref: h.ref()}
			for k := range 2 + h.r.IntN(9) {
				row.Frames = append(row.Frames, float64(k)*1.7-3)
				x := float64(h.r.IntN(90))
				v := scene.Num(x)
				if spec := h.s.Composition().Item(row.Ref.Item).Spec(row.Ref.Property); spec != nil && spec.Type == scene.Point3 {
					v = scene.Pt(x, 7-x, 3)
				}
				row.Values = append(row.Values, v)
			}
			g.Rows = append(g.Rows, row)
		}
		g.Adds = len(g.Rows) == 2
		return g
	},
	"smooth pins": func(h *hand) gesture.Gesture {
		return &pins.SmoothPins{Pins: h.allPins(), Tolerance: float64(h.r.IntN(30)) / 7}
	},
	"set pins": func(h *hand) gesture.Gesture {
		return &pins.SetPins{Pins: h.pins(), Value: scene.Num(float64(h.r.IntN(200))), Component: pick(h.r, []string{"", "x", "r"})}
	},
	"drop pins": func(h *hand) gesture.Gesture { return &pins.DropPins{Pins: h.pins()} },
	"link": func(h *hand) gesture.Gesture {
		return &wiring.Link{Source: h.source(), Targets: h.refs(), FromHere: h.chance(2), Kind: pick(h.r, []scene.LinkKind{"", "", scene.Map})}
	},
	"mark": func(h *hand) gesture.Gesture {
		return &poses.Mark{Targets: h.refs(), Which: pick(h.r, []string{"low", "high", "here"})}
	},
	"use pose": func(h *hand) gesture.Gesture {
		return &poses.UsePose{Targets: h.refs(), As: pick(h.r, []string{"own", "offset", ""})}
	},
	"gather": func(h *hand) gesture.Gesture { return &wiring.Gather{Refs: h.refs(), Onto: h.item()} },
	"formula": func(h *hand) gesture.Gesture {
		g := &wiring.Formula{Targets: h.refs(), Text: h.text()}
		if at, l := h.linked(); h.chance(2) {
			g.Targets, g.Link = append([]scene.Ref{at}, g.Targets...), l.ID
		}
		return g
	},
	"bake": func(h *hand) gesture.Gesture {
		g := &pins.Bake{Targets: h.refs(), To: 20, Tolerance: 0.5}
		if at, _ := h.linked(); h.chance(2) {
			g.Targets = []scene.Ref{at}
		}
		return g
	},
	"recipe": func(h *hand) gesture.Gesture {
		recipe := pick(h.r, recipes.Recipes)
		g := &recipes.MakeRecipe{Recipe: recipe.Key, Items: h.some(), Values: map[string]float64{}}
		if all := h.s.Project.Recipes; len(all) > 0 && h.chance(3) {
			g.Recipe = string(pick(h.r, all).ID)
			return g
		}
		for _, f := range recipe.Fields {
			if h.chance(3) {
				g.Values[f.Key] = float64(h.r.IntN(4))
			}
		}
		return g
	},
	"give poses": func(h *hand) gesture.Gesture {
		item, control := h.control()
		return &poses.GivePoses{Item: item, Control: control}
	},
	"add stop": func(h *hand) gesture.Gesture {
		at := h.stop()
		x := float64(h.r.IntN(100))
		g := &poses.AddStop{Item: at.Item, Control: at.Control, At: &x}
		if h.chance(2) {
			g.At, g.Like = nil, at.Stop
		}
		return g
	},
	"set stop": func(h *hand) gesture.Gesture {
		name, x, easing, place := fmt.Sprint("stop ", h.r.IntN(9)), float64(h.r.IntN(100)), curve.Hold, h.r.IntN(3)
		return pick(h.r, []gesture.Gesture{
			&poses.SetStop{AtStop: h.stop(), Name: &name}, &poses.SetStop{AtStop: h.stop(), At: &x},
			&poses.SetStop{AtStop: h.stop(), Easing: &easing}, &poses.SetStop{AtStop: h.stop(), Place: &place},
		})
	},
	"remove stop": func(h *hand) gesture.Gesture { return &poses.RemoveStop{AtStop: h.stop()} },
	"hold at stop": func(h *hand) gesture.Gesture {
		g := &poses.HoldAt{AtStop: h.stop(), Value: h.value()}
		held := func(l *scene.Link) bool { return l.Kind == scene.Posed && len(l.Held) > 0 }
		if all := graph.Where(h.s.Composition(), held); len(all) > 0 {
			d := pick(h.r, all)
			g.LinkAt = gesture.LinkAt{Target: d.Ref, Link: d.Link.ID, RosterLink: d.RosterLink}
			g.AtStop = poses.AtStop{Item: d.Link.Source.Item, Control: scene.ID(d.Link.Source.Property), Stop: d.Link.Held[0].Stop}
			g.Value = pick(h.r, d.Link.Held).Value
		}
		return g
	},
	"turn poses": func(h *hand) gesture.Gesture {
		at := h.stop()
		return &poses.TurnPoses{Item: at.Item, Control: at.Control, Kind: pick(h.r, []scene.Widget{scene.Fader, scene.ChoiceWidget})}
	},
	"replace table": func(h *hand) gesture.Gesture {
		g := &items.ReplaceTable{Item: h.item(), Table: h.table()}
		for _, item := range h.items() {
			if item.Kind == scene.TableItem {
				g.Item = item.ID
			}
		}
		return g
	},
	"cut frames": func(h *hand) gesture.Gesture {
		g := &items.CutFrames{Item: h.item(), Columns: 1 + h.r.IntN(3), Rows: 1 + h.r.IntN(3), Size: [2]int{64, 48}}
		for _, item := range h.s.Composition().Items {
			if len(item.Frames) == 1 {
				g.Item = item.ID
			}
		}
		return g
	},
	"set options": func(h *hand) gesture.Gesture {
		at := h.stop()
		g := &poses.SetOptions{Item: at.Item, Control: at.Control}
		for range 1 + h.r.IntN(4) {
			g.Options = append(g.Options, pick(h.r, []string{"Stop 1", "Option 2", "noon", "storm", "off", "on"}))
		}
		return g
	},
	"pose stop": func(h *hand) gesture.Gesture { return &poses.PoseStop{AtStop: h.stop()} },
	"undo bake": func(h *hand) gesture.Gesture {
		g := &pins.UndoBake{Targets: h.refs()}
		for _, item := range h.s.Composition().Items {
			for _, spec := range item.Specs() {
				if item.State(spec.Key).Baked != nil {
					g.Targets = append(g.Targets, scene.Ref{Item: item.ID, Property: spec.Key})
				}
			}
		}
		return g
	},
	"single links": func(h *hand) gesture.Gesture {
		s := h.rosterLink()
		g := &wiring.SingleLinks{RosterLink: s.ID}
		if members := s.Members(h.s.Composition()); len(members) > 0 && h.chance(2) {
			g.Members = []scene.ID{pick(h.r, members).ID()}
		}
		return g
	},
	"one link": func(h *hand) gesture.Gesture {
		at, l := h.linked()
		g := &wiring.OneLink{Targets: []scene.Ref{at}, Links: []scene.ID{l.ID}}
		for _, item := range h.s.Composition().Items {
			if links := item.State(at.Property).Links; item.ID != at.Item && len(links) > 0 {
				g.Targets, g.Links = append(g.Targets, scene.Ref{Item: item.ID, Property: at.Property}), append(g.Links, links[0].ID)
			}
		}
		return g
	},
	"spread": func(h *hand) gesture.Gesture {
		at, l := h.linked()
		g := &wiring.Spread{Targets: []scene.Ref{at}, Link: l.ID}
		for _, id := range h.some() {
			g.Targets = append(g.Targets, scene.Ref{Item: id, Property: at.Property})
		}
		if h.chance(2) {
			g.Link, g.Text = "", h.text()
		}
		if copies := h.copies(); copies != nil && h.chance(2) {
			g.Copies = &scene.Ref{Item: copies.ID, Property: pick(h.r, []string{"position", "rotation", "opacity", "copyLate", "tint"})}
			g.Text = pick(h.r, []string{"below + index", "index * 3f", "count * share", "{prev: copyLate} else 1f", h.text()})
		}
		return g
	},
	"spread formula": func(h *hand) gesture.Gesture {
		return &wiring.RosterFormula{RosterLink: h.rosterLink().ID, Text: h.text()}
	},
	"find members": func(h *hand) gesture.Gesture {
		return &wiring.FindMembers{RosterLink: h.rosterLink().ID, Roster: h.rosterLink().Roster}
	},
	"copy control": func(h *hand) gesture.Gesture {
		for _, item := range h.items() {
			if len(item.Controls) > 0 && h.chance(2) {
				return &wiring.CopyControl{Item: item.ID, Control: pick(h.r, item.Controls).ID, Onto: h.item(), Wired: h.chance(2)}
			}
		}
		return &wiring.CopyControl{Item: h.item(), Control: "none", Onto: h.item()}
	},
	"turn round": func(h *hand) gesture.Gesture { at, l := h.linked(); return &wiring.TurnRound{Target: at, Link: l.ID} },
	"paste link": func(h *hand) gesture.Gesture {
		_, l := h.linked()
		return &wiring.PasteLink{Link: *l.Clone(), Targets: h.refs()}
	},
	"fit ranges": func(h *hand) gesture.Gesture {
		at, l := h.linked()
		return &wiring.FitRanges{Targets: append([]scene.Ref{at}, h.refs()...), Link: l.ID}
	},
	"attach": func(h *hand) gesture.Gesture {
		return &items.Attach{Items: h.some(), Parent: pick(h.r, []scene.ID{"", h.item(), h.item()})}
	},
	"inherit": func(h *hand) gesture.Gesture {
		on := h.chance(2)
		return &items.Inherit{Items: h.some(), Position: &on, Scale: pick(h.r, []*bool{nil, &on}), Rotation: pick(h.r, []*bool{nil, &on})}
	},
	"group": func(h *hand) gesture.Gesture {
		return &copies.Group{Items: h.some(), Kind: pick(h.r, []scene.Kind{"", scene.CopiesItem})}
	},
	"save recipe": func(h *hand) gesture.Gesture {
		return &recipes.SaveRecipe{Items: h.some(), Name: "Rig", Fields: []scene.SavedField{{Ref: h.ref(), Name: "Field"}}}
	},
	"more": func(h *hand) gesture.Gesture { return &copies.More{Items: h.some()} },
	"break up": func(h *hand) gesture.Gesture {
		if item := h.copies(); item != nil {
			return &copies.BreakUp{Item: item.ID}
		}
		return &copies.Group{Items: h.some(), Kind: scene.CopiesItem}
	},
	"letters": func(h *hand) gesture.Gesture {
		for _, item := range h.items() {
			if item.Kind == scene.TextItem {
				return &copies.Letters{Item: item.ID}
			}
		}
		return &copies.Letters{Item: h.item()}
	},
	"duplicate": func(h *hand) gesture.Gesture { return &copies.Duplicate{Items: []scene.ID{h.item()}} },
	"paste": func(h *hand) gesture.Gesture {
		clip := copies.Take(h.s.Project.ID, h.s.Composition(), h.some())
		if h.chance(2) {
			clip.Composition = "elsewhere"
		}
		return &copies.Paste{Clip: clip}
	},
	"move": func(h *hand) gesture.Gesture {
		return &items.Move{Items: h.some(), By: [3]float64{float64(h.r.IntN(40)), 5, 0}}
	},
	"turn": func(h *hand) gesture.Gesture {
		return &items.Turn{Items: h.some(), By: float64(h.r.IntN(90)), Axis: pick(h.r, []string{"", "x"})}
	},
	"grow":  func(h *hand) gesture.Gesture { return &items.Grow{Items: h.some(), By: [3]float64{1.2, 0.8, 1}} },
	"pivot": func(h *hand) gesture.Gesture { return &items.Pivot{Items: h.some(), Middle: true} },
	"move vertex": func(h *hand) gesture.Gesture {
		return &items.MoveVertex{Item: h.path(), Vertex: 1 + h.r.IntN(4), To: [3]float64{float64(h.r.IntN(90)), 7, 0}}
	},
	"reshape": func(h *hand) gesture.Gesture {
		g := &items.Reshape{Item: h.path()}
		switch h.r.IntN(3) {
		case 0:
			g.Remove = []int{1 + h.r.IntN(4)}
		case 1:
			g.Smooth = []int{1 + h.r.IntN(4)}
		default:
			g.Insert = &struct {
				After int     `json:"after"`
				Share float64 `json:"share"`
			}{1 + h.r.IntN(3), 0.4}
		}
		return g
	},
	"order": func(h *hand) gesture.Gesture {
		return &items.Order{Items: []scene.ID{h.item()}, Parent: pick(h.r, []scene.ID{"", h.item()}), Before: pick(h.r, []scene.ID{"", h.item()})}
	},
	"bring svg": func(h *hand) gesture.Gesture {
		return &items.BringSVG{Name: "mast.svg", Text: `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40"><rect width="9" height="30"/></svg>`}
	},
	"bring model": func(h *hand) gesture.Gesture {
		place := [3]float64{13, -7, 40}
		return &items.BringModel{Name: "hull.gltf", Place: &place, File: []byte(`{"asset":{"version":"2.0"},"nodes":[{"mesh":0,"scale":[2,1,3]}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
			"buffers":[{"byteLength":36,"uri":"data:;base64,AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAAEAAAAAA"}],"bufferViews":[{"buffer":0,"byteLength":36}],
			"accessors":[{"bufferView":0,"componentType":5126,"type":"VEC3","count":3}]}`)}
	},
	"bring lottie": func(h *hand) gesture.Gesture {
		return &items.BringLottie{Name: "flag.json", File: []byte(`{"fr":30,"ip":0,"op":45,"w":90,"h":60,"layers":[{"ty":4,"nm":"Cloth","ks":{"r":{"a":1,"k":[{"t":0,"s":[0]},{"t":40,"s":[35]}]}},
			"shapes":[{"ty":"rc","s":{"k":[30,20]},"p":{"k":[7,0]},"r":{"k":2}},{"ty":"fl","c":{"k":[0.8,0.3,0.1,1]},"o":{"k":70}}]}]}`)}
	},
	"to map": func(h *hand) gesture.Gesture {
		at, l := h.linked()
		return &wiring.ToMap{Targets: append([]scene.Ref{at}, h.refs()...), Link: l.ID}
	},
	"move control": func(h *hand) gesture.Gesture {
		item, control := h.control()
		return &wiring.MoveControl{Item: item, Control: control, Onto: h.item(), At: -1 + h.r.IntN(3)}
	},
	"set depth": func(h *hand) gesture.Gesture {
		item, control := h.control()
		return &wiring.SetDepth{Item: item, Control: control, Depth: h.chance(2)}
	},
	"remove controls": func(h *hand) gesture.Gesture {
		g := &items.RemoveControls{}
		for range 1 + h.r.IntN(2) {
			item, control := h.control()
			g.Controls = append(g.Controls, scene.Ref{Item: item, Property: string(control)})
		}
		return g
	},
	"remove":     func(h *hand) gesture.Gesture { return &items.Remove{Items: []scene.ID{h.item()}} },
	"operations": func(h *hand) gesture.Gesture { return &gesture.Operations{Ops: h.operations()} },
}

func (h *hand) path() scene.ID {
	for _, item := range h.items() {
		if item.Kind == scene.PathItem && h.chance(2) {
			return item.ID
		}
	}
	return h.item()
}

// likely holds the names of gestures, those that change links more often than others.
var likely = func() (out []string) {
	for name := range catalogue.All() {
		n := 1
		switch name {
		case "link", "formula", "operations":
			n = 8
		case "spread", "single links", "one link", "mark", "set", "spread formula", "add control", "put slips", "fold slips", "unfold", "mark slip", "letters", "give poses", "add stop", "pose stop", "set stop", "hold at stop", "turn poses", "as formula", "bake", "undo bake", "cut frames", "replace table", "hand off", "set offer", "reset":
			n = 4
		case "remove stop", "withdraw", "show another", "forget":
			n = 8
		}
		for range n {
			out = append(out, name)
		}
	}
	return out
}()

// gesture is any of all.
func (h *hand) gesture() (string, gesture.Gesture) {
	if len(h.items()) == 3 && h.chance(3) {
		return "add", &items.Add{Kind: scene.TableItem, Table: h.table()}
	}
	if len(h.items()) < 4 {
		return "add", add(pick(h.r, []scene.Kind{scene.Null, scene.Rectangle, scene.Ellipse, scene.PathItem, scene.TextItem}), "")
	}
	switch other := h.other(); {
	case other == nil && h.chance(12), other != nil && h.chance(9):
		return "operations", &gesture.Operations{Ops: h.elsewhere()}
	case len(h.s.Composition().Handed()) > 0 && h.reading() == nil && h.chance(5):
		return "operations", &gesture.Operations{Ops: h.read()}
	case h.reading() != nil && h.chance(9):
		return "apply reading", gestures["apply reading"](h)
	case other != nil && h.chance(20) && h.piece().Piece == nil:
		return "add", &items.Add{Kind: scene.Piece, Shows: other.ID}
	case len(h.piece().Stale()) > 0 && h.chance(4):
		return "forget", gestures["forget"](h)
	case len(h.s.Composition().Looks) < 2 && h.chance(7):
		if l := h.kept(); l != nil {
			return "operations", &gesture.Operations{Ops: change.Ops{&change.LookSet{In: change.In{Composition: h.s.Composition().ID}, Value: l, At: -1}}}
		}
	case len(h.s.Composition().Looks) > 1 && h.chance(12):
		return "mix looks", gestures["mix looks"](h)
	}
	name := pick(h.r, likely)
	if n := len(h.items()); n > 14 && (name == "duplicate" || name == "paste" || name == "letters" || name == "group" || name == "more" || name == "break up" || name == "bring svg" || name == "bring model" || name == "bring lottie" || name == "recipe") {
		name = "remove"
	}
	return name, gestures[name](h)
}
