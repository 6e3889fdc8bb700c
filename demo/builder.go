// Package demo builds the demo project, Lanternfall: a made-up winter lantern festival in a
// made-up harbour. It uses the operations that a user's gestures send, so it proves them as well.
package demo

import (
	"fmt"
	"strconv"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/layout"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// builder adds items one behind the other. The first mistake is kept and ends in an error.
type builder struct {
	project *scene.Project
	in      change.In
	next    int
	err     error
}

func (b *builder) do(ops ...change.Op) {
	if b.err == nil {
		_, _, b.err = change.Replay(b.project, ops)
	}
}

// sound refuses a project in which links run in a cycle: they are looked for once, at the end.
func (b *builder) sound() {
	for _, c := range b.project.Compositions {
		if plan := engine.New(c); b.err == nil && plan.Cycle != nil {
			b.err = plan.Cycle
		}
	}
}

func (b *builder) id(prefix string) scene.ID {
	b.next++
	return scene.ID(prefix + strconv.Itoa(b.next))
}

// part makes an item that needs more than values: set fills in its path, its pictures, its stops.
func (b *builder) part(kind scene.Kind, name string, parent scene.ID, set values, more func(item *scene.Item)) scene.ID {
	item := &scene.Item{ID: b.id("i"), Name: name, Kind: kind, Parent: parent}
	for key, v := range set {
		item.Edit(key).Own = v
	}
	if more != nil {
		more(item)
	}
	b.do(&change.ItemAdd{In: b.in, Value: item, At: -1})
	return item.ID
}

// values are own values by the key of the property.
type values map[string]scene.Value

// item adds an item behind all that are there, attached to a parent ("" for none).
func (b *builder) item(kind scene.Kind, name string, parent scene.ID, set values) scene.ID {
	return b.part(kind, name, parent, set, nil)
}

// pin is a frame with a value.
type pin struct {
	frame int
	value scene.Value
}

// control adds a control with pins.
func (b *builder) control(owner scene.ID, c scene.Control, easing curve.Easing, pins ...pin) scene.Ref {
	c.ID = b.id("c")
	on := change.On{In: b.in, Item: owner}
	b.do(&change.ControlAdd{On: on, Value: &c, At: -1})
	if len(pins) > 0 {
		put := &change.PinsPut{Of: change.Of{On: on, Property: string(c.ID)}}
		for _, p := range pins {
			put.Pins = append(put.Pins, scene.Pin{Frame: p.frame, Value: p.value, Easing: easing})
		}
		b.do(put)
	}
	return scene.Ref{Item: owner, Property: string(c.ID)}
}

// follow makes a property (or one component of it: "position.y") follow a control.
func (b *builder) follow(source scene.Ref, item scene.ID, property, component string, gain, offset float64) {
	if b.err == nil {
		if err := b.fits(source, item, property, component); err != nil {
			b.err = err
		}
	}
	b.do(&change.LinkAdd{
		Of: change.Of{On: change.On{In: b.in, Item: item}, Property: property}, At: -1,
		Link: &scene.Link{ID: b.id("l"), Kind: scene.Follow, Source: source, Component: component, Gain: gain, Offset: offset},
	})
}

// gesture makes a gesture at frame 0, with a plan of the composition.
func (b *builder) gesture(g gesture.Gesture, plan func(*scene.Composition) *engine.Plan) {
	if b.err != nil {
		return
	}
	c := b.project.Composition(b.in.Composition)
	r, err := g.Do(&gesture.Context{Composition: c, Planned: plan(c), NewID: func() scene.ID { return b.id("i") }})
	if err != nil {
		b.err = err
		return
	}
	b.do(r.Ops...)
}

func evaluated(c *scene.Composition) *engine.Plan {
	plan := engine.New(c)
	plan.Evaluate(0)
	return plan
}

// laidOut is all that a formula needs of a plan.
func laidOut(c *scene.Composition) *engine.Plan { return &engine.Plan{Layout: layout.Of(c)} }

// formula writes a formula onto a property, or one component of it: "position.y".
func (b *builder) formula(item scene.ID, key, text string) {
	b.gesture(&wiring.Formula{Targets: []scene.Ref{property(item, key)}, Text: text}, laidOut)
	if b.err != nil {
		return
	}
	b.works(b.project.Composition(b.in.Composition).Item(item).State(strings.Split(key, ".")[0]).Links, text)
}

// row writes one formula onto the same property of a row of items, in their order.
func (b *builder) row(name string, items []scene.ID, key, text string) {
	g := &wiring.Spread{Text: text}
	for _, item := range items {
		g.Targets = append(g.Targets, property(item, key))
	}
	b.gesture(g, laidOut)
	if made := b.call(name); made != nil {
		b.works([]*scene.Link{made.Link}, text)
	}
}

// call names the link on a row that was made last, and returns it; nil where there is none.
func (b *builder) call(name string) *scene.RosterLink {
	if b.err != nil {
		return nil
	}
	rosterLinks := b.project.Composition(b.in.Composition).RosterLinks
	if len(rosterLinks) == 0 {
		return nil
	}
	made := rosterLinks[len(rosterLinks)-1].Clone()
	made.Name = name
	b.do(&change.RosterLinkSet{In: b.in, Value: made})
	return made
}

// together puts one link on a row of items in place of the links that each of them has on a property.
func (b *builder) together(name string, items []scene.ID, key string) {
	if b.err != nil {
		return
	}
	g := &wiring.OneLink{}
	for _, item := range items {
		g.Targets = append(g.Targets, property(item, key))
		g.Links = append(g.Links, b.project.Composition(b.in.Composition).Item(item).State(key).Links[0].ID)
	}
	b.gesture(g, laidOut)
	b.call(name)
}

// roster writes one formula onto a property of a roster.
func (b *builder) roster(name string, r scene.Roster, key, text string) {
	if b.err != nil {
		return
	}
	made := &scene.RosterLink{ID: b.id("s"), Name: name, Roster: r, Property: key, Link: &scene.Link{ID: b.id("l"), Kind: scene.Formula, Gain: 1, Draft: text}}
	b.do(&change.RosterLinkAdd{In: b.in, Value: made, At: -1})
	b.gesture(&wiring.RosterFormula{RosterLink: made.ID, Text: text}, laidOut)
	if b.err == nil {
		s, _ := b.project.Composition(b.in.Composition).RosterLink(made.ID)
		b.works([]*scene.Link{s.Link}, text)
	}
}

// each writes one formula onto a property of all copies that an item shows.
func (b *builder) each(name string, copies scene.ID, key, text string) {
	b.roster(name, scene.Roster{Kind: scene.CopiesOf, Item: copies}, key, text)
}

// works refuses a formula that was only kept as typed.
func (b *builder) works(links []*scene.Link, text string) {
	for _, l := range links {
		if b.err == nil && l.Draft != "" {
			b.err = fmt.Errorf("demo: the formula %q does not work", text)
		}
	}
}

// stops is a list of inputs with what they give.
type stops []struct {
	in  float64
	out scene.Value
}

// maps makes a property (or one component of it) a map of a control.
func (b *builder) maps(source scene.Ref, item scene.ID, property, component string, list stops) {
	l := &scene.Link{ID: b.id("l"), Kind: scene.Map, Source: source, Component: component, Gain: 1}
	for _, s := range list {
		l.Stops = append(l.Stops, scene.MapStop{In: s.in, Out: s.out, Easing: curve.Smooth})
	}
	b.do(&change.LinkAdd{Of: change.Of{On: change.On{In: b.in, Item: item}, Property: property}, At: -1, Link: l})
}

// fits refuses a link that a user could not make either.
func (b *builder) fits(source scene.Ref, item scene.ID, property, component string) error {
	c := b.project.Composition(b.in.Composition)
	from, to := c.Item(source.Item), c.Item(item)
	if from == nil || to == nil || from.Spec(source.Property) == nil || to.Spec(property) == nil {
		return fmt.Errorf("demo: %s does not exist", c.NameOf(scene.Ref{Item: item, Property: property}))
	}
	_, err := link.FitOf(from.Spec(source.Property), source.Component, to.Spec(property), component)
	return err
}

// property points at a property of an item, with a component behind a point: "position.y".
func property(item scene.ID, key string) scene.Ref {
	key, component, _ := strings.Cut(key, ".")
	return scene.Ref{Item: item, Property: key, Component: component}
}

// attach hangs an item on another, so that nothing moves.
func (b *builder) attach(item, parent scene.ID) {
	b.gesture(&items.Attach{Items: []scene.ID{item}, Parent: parent}, evaluated)
}

// composition begins another composition.
func (b *builder) composition(id scene.ID, name string, background scene.Value, note string) {
	c := scene.NewComposition(id, name)
	c.Background = background
	b.do(&change.CompositionAdd{Value: c, At: -1})
	b.in = change.In{Composition: id}
	b.note(note)
}

// note is a card in the corner of a composition that says what to try. It is not in output.
func (b *builder) note(text string) {
	b.part(scene.TextItem, "What to try", "", values{
		"text": scene.Txt(text), "font": scene.Num(1), "fontSize": scene.Num(19), "lineHeight": scene.Num(140), "alignment": scene.Num(0), "position": scene.Pt(-590, 250, 0), "fill": rgb("#6b6170"),
	}, func(item *scene.Item) { item.NotInOutput = true })
}

// line is an open contour through places, the vertices numbered from 1.
func line(places ...[2]float64) *scene.PathShape {
	c := scene.Contour{}
	for k, at := range places {
		c.Vertices = append(c.Vertices, scene.Vertex{ID: k + 1, At: at})
	}
	return &scene.PathShape{Contours: []scene.Contour{c}}
}

// loop is line, closed.
func loop(places ...[2]float64) *scene.PathShape {
	p := line(places...)
	p.Contours[0].Closed = true
	return p
}
