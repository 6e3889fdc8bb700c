package session

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/handoffs"
	"wunderkammer/core/gesture/looks"
	"wunderkammer/core/scene"
)

// lamp is a composition that hands two of its controls off.
func (h *hand) lamp() *scene.Composition {
	c := scene.NewComposition(h.id(), "Lamp room")
	c.Rate = h.s.Composition().Rate
	knob, post, glass := h.id(), h.id(), h.id()
	glow, tint, spare := h.id(), h.id(), h.id()
	link := func(kind scene.LinkKind, source scene.ID, text string) *scene.State {
		l := &scene.Link{ID: h.id(), Kind: kind, Gain: 1, Formula: text}
		if source != "" {
			l.Source = scene.Ref{Item: knob, Property: string(source)}
		}
		return &scene.State{Links: []*scene.Link{l}}
	}
	c.Items = []*scene.Item{
		{ID: knob, Name: "Knob", Kind: scene.Null, Controls: []*scene.Control{
			{ID: glow, Name: "Glow", Kind: scene.Fader, SoftMax: 80, Default: scene.Num(23)}, {ID: tint, Name: "Tint", Kind: scene.ColourWidget, Default: scene.RGBA(0.4, 0.3, 0.9, 1)},
			{ID: spare, Name: "Spare", Kind: scene.DialWidget, Default: scene.Num(7)},
		}},
		{ID: post, Name: "Post", Kind: scene.Rectangle, States: map[string]*scene.State{
			"rotation": link(scene.Formula, "", fmt.Sprintf("delay({@%s:@%s}, 2f) + {@%s:@%s} * 0.3", knob, glow, knob, spare)), "fill": link(scene.Follow, tint, ""), "position": {Own: scene.Pt(9, -4, 0)},
		}},
		{ID: glass, Name: "Glass", Kind: scene.Ellipse, Parent: post, States: map[string]*scene.State{"opacity": link(scene.Follow, glow, "")}},
	}
	c.HandOff = &scene.HandOff{Offers: []*scene.Offer{{ID: h.id(), Item: knob, Control: glow}, {ID: h.id(), Item: knob, Control: tint, NoPins: h.chance(2)}}}
	return c
}

// other is a composition that is not looked at; nil for none.
func (h *hand) other() *scene.Composition {
	for _, c := range h.s.Project.Compositions {
		if c != h.s.Composition() {
			return c
		}
	}
	return nil
}

// offer is one of a composition, or what is none.
func (h *hand) offer(c *scene.Composition) *scene.Offer {
	if c == nil || c.HandOff == nil || len(c.HandOff.Offers) == 0 {
		return &scene.Offer{ID: "none", Item: "none", Control: "none"}
	}
	return pick(h.r, c.HandOff.Offers)
}

// piece is an item that shows a composition, or what is none.
func (h *hand) piece() *scene.Item {
	for _, item := range h.items() {
		if item.Piece != nil {
			return item
		}
	}
	return pick(h.r, h.items())
}

// reading is a reading of the composition that is looked at; nil for none.
func (h *hand) reading() *scene.Composition {
	if all := h.s.Project.Readings(h.s.Composition().ID); len(all) > 0 {
		return pick(h.r, all)
	}
	return nil
}

// read makes a reading of the composition that is looked at, with something set in it.
func (h *hand) read() change.Ops {
	of := h.s.Composition()
	made := of.NewReading(h.id(), h.id(), pick(h.r, names))
	for _, handed := range of.Handed() {
		if v := h.value(); v.Fits(handed.Spec().Type) == nil {
			if state := made.Items[0].Edit(string(handed.Offer.ID)); h.chance(2) || handed.Offer.NoPins {
				state.Own = v
			} else {
				state.Pins = []scene.Pin{{Frame: h.r.IntN(20), Value: v, Easing: curve.Smooth}}
			}
		}
	}
	return change.Ops{&change.CompositionAdd{Value: made, At: -1}}
}

// elsewhere alters a composition that is not looked at: what pieces show.
func (h *hand) elsewhere() change.Ops {
	c := h.other()
	if c == nil {
		return change.Ops{&change.CompositionAdd{Value: h.lamp(), At: -1}}
	}
	in := change.In{Composition: c.ID}
	if len(c.Items) == 0 {
		return change.Ops{&change.CompositionRemove{In: in}}
	}
	item := pick(h.r, c.Items)
	on := change.On{In: in, Item: item.ID}
	key := pick(h.r, []string{"rotation", "position", "opacity"})
	if len(item.Controls) > 0 {
		key = string(pick(h.r, item.Controls).ID)
	}
	of := change.Of{On: on, Property: key}
	name := pick(h.r, names)
	switch h.r.IntN(15) {
	case 0:
		return change.Ops{&change.PinsPut{Of: of, Pins: []scene.Pin{{Frame: h.r.IntN(20), Value: h.value(), Easing: curve.Smooth}}}}
	case 1:
		return change.Ops{&change.ItemSet{On: on, Name: &name}}
	case 2:
		return change.Ops{&change.ItemAdd{In: in, Value: &scene.Item{ID: h.id(), Name: name, Kind: scene.Ellipse}, At: h.r.IntN(3)}}
	case 3:
		offer := h.offer(c).Clone()
		offer.Name, offer.NoPins = name, h.chance(2)
		low := float64(h.r.IntN(9))
		if offer.Min = nil; h.chance(2) {
			offer.Min = &low
		}
		return change.Ops{&change.OfferSet{In: in, Value: offer, At: h.r.IntN(3) - 1}}
	case 4:
		return change.Ops{&change.OfferRemove{In: in, Offer: h.offer(c).ID}}
	case 5:
		if len(item.Controls) > 0 && h.chance(2) {
			return change.Ops{&change.ControlRemove{On: on, Control: scene.ID(key)}}
		}
	case 6:
		if h.chance(4) {
			return change.Ops{&change.CompositionRemove{In: in}}
		}
	case 7:
		if len(item.Controls) > 0 {
			value := pick(h.r, item.Controls).Clone()
			value.Name, value.SoftMax = name, float64(90+h.r.IntN(9))
			return change.Ops{&change.ControlSet{On: on, Value: value}}
		}
	case 9, 10:
		if from := pick(h.r, c.Items); len(from.Controls) > 0 && !c.IsReading() {
			return change.Ops{&change.LinkAdd{Of: of, At: -1, Link: &scene.Link{ID: h.id(), Kind: scene.Follow, Source: scene.Ref{Item: from.ID, Property: string(pick(h.r, from.Controls).ID)}, Gain: 0.7, Offset: 3}}}
		}
	case 11:
		if links := item.State(key).Links; len(links) > 0 {
			return change.Ops{&change.LinkRemove{Of: of, Link: pick(h.r, links).ID}}
		}
	case 8:
		hidden := h.chance(2)
		return change.Ops{&change.ItemSet{On: on, Hidden: &hidden}}
	}
	return change.Ops{&change.OwnSet{Of: of, Value: h.value()}}
}

// The gestures on what is handed off and on pieces.
func init() {
	gestures["hand off"] = func(h *hand) gesture.Gesture {
		item, control := h.control()
		return &handoffs.HandOff{Controls: []scene.Ref{{Item: item, Property: string(control)}}}
	}
	gestures["set offer"] = func(h *hand) gesture.Gesture {
		offer := h.offer(h.s.Composition()).Clone()
		offer.Heading, offer.Name, offer.NoPins = pick(h.r, names), pick(h.r, names), h.chance(2)
		if low, high := float64(h.r.IntN(20)), float64(30+h.r.IntN(20)); h.chance(2) {
			offer.Min, offer.Max = &low, &high
		}
		if h.chance(3) {
			offer.Default = h.value()
		}
		at := h.r.IntN(3) - 1
		return &handoffs.SetOffer{Value: offer, At: &at}
	}
	gestures["withdraw"] = func(h *hand) gesture.Gesture {
		return &handoffs.Withdraw{Offers: []scene.ID{h.offer(h.s.Composition()).ID}}
	}
	gestures["hand-off note"] = func(h *hand) gesture.Gesture {
		return &handoffs.Note{Note: pick(h.r, []string{"", "Mind the gap", "Slowly"})}
	}
	gestures["reset"] = func(h *hand) gesture.Gesture {
		on := h.piece()
		return &handoffs.Reset{Targets: []scene.Ref{{Item: on.ID, Property: pick(h.r, h.keys(on))}}}
	}
	gestures["apply reading"] = func(h *hand) gesture.Gesture {
		if of := h.reading(); of != nil {
			return &handoffs.ApplyReading{Reading: of.ID}
		}
		return &handoffs.ApplyReading{Reading: "none"}
	}
	gestures["forget"] = func(h *hand) gesture.Gesture {
		on := h.piece()
		for _, item := range h.items() {
			if len(item.Stale()) > 0 {
				on = item
			}
		}
		if len(on.Stale()) == 0 {
			return &handoffs.Forget{Item: on.ID, Properties: []string{"none"}}
		}
		return &handoffs.Forget{Item: on.ID}
	}
	gestures["show another"] = func(h *hand) gesture.Gesture {
		of := h.s.Composition().ID
		if other := h.other(); other != nil && h.chance(3) {
			of = other.ID
		}
		if h.chance(4) {
			of = "nowhere"
		}
		return &handoffs.ShowAnother{Pieces: []scene.ID{h.piece().ID}, Shows: of}
	}
}

// kept is a look at which a control is at some value; nil where there is no control.
func (h *hand) kept() *scene.Look {
	item, id := h.control()
	on := h.s.Composition().Item(item)
	if on == nil || on.Control(id) == nil {
		return nil
	}
	for {
		if v := h.value(); v.Fits(on.Control(id).Spec().Type) == nil || h.chance(20) {
			return &scene.Look{ID: scene.ID(fmt.Sprint("look", h.r.Uint32())), Name: "Dawn", Values: []scene.LookValue{{Item: item, Control: id, Value: v}}}
		}
	}
}

// look is a look of the composition, or what is none.
func (h *hand) look() scene.ID {
	if list := h.s.Composition().Looks; len(list) > 0 {
		return pick(h.r, list).ID
	}
	return "none"
}

// set is a set of controls of the project, or what is none.
func (h *hand) set() *scene.ControlSet {
	if sets := h.s.Project.Sets; len(sets) > 0 {
		return pick(h.r, sets)
	}
	return &scene.ControlSet{ID: "none", Name: "None", Controls: []*scene.Control{{ID: "n1", Name: "Glow", Kind: scene.Fader, SoftMax: 3, Default: scene.Num(1)}}}
}

func init() {
	gestures["keep set"] = func(h *hand) gesture.Gesture {
		item, _ := h.control()
		return &handoffs.KeepSet{Item: item, Name: pick(h.r, []string{"", "Weather"})}
	}
	gestures["bring project"] = func(h *hand) gesture.Gesture { // what was saved of this one
		g := &handoffs.BringProject{Part: pick(h.r, []scene.Part{scene.CompositionPart, scene.HandOffPart, scene.RecipePart, scene.SetPart})}
		p, of := h.s.Project, h.s.Composition().ID
		switch {
		case g.Part == scene.RecipePart && len(p.Recipes) > 0:
			of = pick(h.r, p.Recipes).ID
		case g.Part == scene.SetPart:
			of = h.set().ID
		case g.Part.Composed() && len(p.Compositions) > 3:
			return &handoffs.BringProject{}
		}
		g.Value, _ = p.Parted(g.Part, of)
		if g.Value != nil && g.Part == scene.SetPart && h.chance(2) {
			g.Value.Sets[0].Name = "Knobs"
		}
		return g
	}
	gestures["keep look"] = func(h *hand) gesture.Gesture {
		g := &looks.KeepLook{Name: pick(h.r, []string{"", "Dusk"})}
		if item, _ := h.control(); h.chance(3) {
			g.Of = item
		}
		if h.chance(3) {
			g.Look = h.look()
		}
		return g
	}
	gestures["apply look"] = func(h *hand) gesture.Gesture { return &looks.ApplyLook{Look: h.look()} }
	gestures["name look"] = func(h *hand) gesture.Gesture {
		return &looks.NameLook{Look: h.look(), Name: pick(h.r, []string{"Dawn", "Dusk", ""})}
	}
	gestures["step look"] = func(h *hand) gesture.Gesture { return &looks.StepLook{By: pick(h.r, []int{-1, 1, 5})} }
	gestures["mix looks"] = func(h *hand) gesture.Gesture {
		g := &looks.MixLooks{}
		for _, l := range h.s.Composition().Looks {
			if !h.chance(3) {
				g.Looks = append(g.Looks, l.ID)
			}
		}
		if item, _ := h.control(); h.chance(2) {
			g.On = item
		}
		return g
	}
	gestures["put set"] = func(h *hand) gesture.Gesture { return &handoffs.PutSet{Set: h.set().ID, Items: h.some()} }
}
