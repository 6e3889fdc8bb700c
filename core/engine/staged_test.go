package engine

import (
	"fmt"
	"math"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// lantern is a composition with a bit of everything: controls that are handed off, one of them pinned; formulas that look at other times
// and places; a row each of which trails the one before; copies; attachments; a text.
func lantern() *scene.Composition {
	c := scene.NewComposition("lantern", "Lantern")
	c.Rate, c.Frames = 25, 90
	pins := []scene.Pin{{Frame: 3, Value: scene.Num(7), Easing: curve.Smooth}, {Frame: 41, Value: scene.Num(-23), Easing: curve.Smooth}}
	formula := func(id scene.ID, text string) *scene.State {
		return &scene.State{Links: []*scene.Link{{ID: id, Kind: scene.Formula, Gain: 1, Formula: text}}}
	}
	follow := func(id, item scene.ID, key string) *scene.State {
		return &scene.State{Links: []*scene.Link{{ID: id, Kind: scene.Follow, Gain: 1, Source: scene.Ref{Item: item, Property: key}}}}
	}
	knob := &scene.Item{ID: "knob", Name: "Knob", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "sway", Name: "Sway", Kind: scene.Fader, SoftMin: -90, SoftMax: 90, Default: scene.Num(11)},
		{ID: "dye", Name: "Dye", Kind: scene.ColourWidget, Default: scene.RGBA(0.3, 0.7, 0.2, 1)},
		{ID: "word", Name: "Word", Kind: scene.TextWidget, Default: scene.Txt("Quay")},
		{ID: "on", Name: "Lit", Kind: scene.SwitchWidget, Default: scene.On(true)},
	}, States: map[string]*scene.State{"sway": {Pins: pins}, "dye": formula("f6", "mix(own, #204060, 0.3)")}}
	c.Items = []*scene.Item{
		knob,
		{ID: "frame", Name: "Frame", Kind: scene.Rectangle, States: map[string]*scene.State{
			"rotation": formula("f1", "{@knob:@sway} * 0.7 + delay({@knob:@sway}, 4f) + wave(time * 0.31) * 3"), "position": {Own: scene.Pt(13, -7, 2)},
			"fill": follow("f2", "knob", "dye"),
		}},
		{ID: "flame", Name: "Flame", Kind: scene.Ellipse, Parent: "frame", States: map[string]*scene.State{
			"position": {Own: scene.Pt(31, 5, 0)}, "opacity": formula("f3", "if({@knob:@on}, 80 + {@frame:@worldRotation} * 0.1, 9)"), "scale": {Own: scene.Pt(70, 120, 100)},
		}},
		{ID: "sign", Name: "Sign", Kind: scene.TextItem, States: map[string]*scene.State{"text": follow("f4", "knob", "word"), "rotation": formula("f5", "accumulate({@knob:@sway}) * 0.2 + {@flame:@worldPosition}.x")}},
		{ID: "b1", Name: "Bead 1", Kind: scene.Ellipse}, {ID: "b2", Name: "Bead 2", Kind: scene.Ellipse}, {ID: "b3", Name: "Bead 3", Kind: scene.Ellipse},
		{ID: "ring", Name: "Ring", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: 5}, States: map[string]*scene.State{"copiesNumber": {Own: scene.Num(4)}}},
		{ID: "dot", Name: "Dot", Kind: scene.Star, Parent: "ring"},
		{ID: "rope", Name: "Rope", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1, At: [2]float64{-70, 3}}, {ID: 2, At: [2]float64{11, 40}}, {ID: 3, At: [2]float64{64, -9}}}}}}, States: map[string]*scene.State{
			"vertex2": formula("f7", "below + [0, {@knob:@sway}]"),
		}},
		{ID: "bob", Name: "Bob", Kind: scene.Rectangle, States: map[string]*scene.State{"position": formula("f8", "along({@rope}, 0.3) + {@rope:@vertex3}")}},
	}
	row := &scene.RosterLink{ID: "row", Name: "Beads", Property: "rotation", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"b1", "b2", "b3"}},
		Link: &scene.Link{ID: "rowl", Kind: scene.Formula, Gain: 1, Formula: "delay({prev: @rotation}, 3f) else {@knob:@sway} * (1 + share)"}}
	each := &scene.RosterLink{ID: "each", Name: "Each", Property: "rotation", Roster: scene.Roster{Kind: scene.CopiesOf, Item: "ring"},
		Link: &scene.Link{ID: "eachl", Kind: scene.Formula, Gain: 1, Formula: "number * {@knob:@sway}"}}
	c.RosterLinks = []*scene.RosterLink{row, each}
	c.HandOff = &scene.HandOff{}
	for _, control := range knob.Controls {
		c.HandOff.Offers = append(c.HandOff.Offers, &scene.Offer{ID: "of" + control.ID, Item: "knob", Control: control.ID})
	}
	return c
}

// staged is a project whose first composition shows others.
func staged(items []*scene.Item, others ...*scene.Composition) *scene.Project {
	c := scene.NewComposition("quay", "Quay")
	c.Rate, c.Frames, c.Items = 25, 120, items
	p := &scene.Project{ID: "p", Name: "P", Compositions: append([]*scene.Composition{c}, others...)}
	p.Join()
	return p
}

// alone is a composition by itself with other values of its controls.
func alone(c *scene.Composition, values map[string]*scene.State) *Plan {
	own := c.Clone()
	for key, s := range values {
		state := own.Item("knob").Edit(key)
		state.Own, state.Pins = s.Own, s.Pins
	}
	return New(own)
}

// sameInside compares all that a piece shows with the composition by itself, bit for bit.
func sameInside(t *testing.T, p *Plan, piece scene.ID, by *Plan, frame float64) {
	t.Helper()
	by.Evaluate(frame)
	at := p.Layout.Showing(p.Layout.Index(piece))
	for i, item := range by.Layout.Items {
		inside := p.Layout.In(at, item.ID)
		for n, spec := range by.Layout.Specs(int32(i)) {
			m, ok := p.Layout.Property(inside, spec.Key)
			if !ok {
				t.Fatalf("%s: %s has no slot in the piece", item.Name, spec.Name)
			}
			for c := range int32(spec.Type.Size()) {
				got, want := p.At(p.Layout.Slot(inside, m)+c), by.At(by.Layout.Slot(int32(i), n)+c)
				if spec.Type == scene.Text {
					if a, b := p.ValueOf(inside, spec.Key), by.ValueOf(int32(i), spec.Key); a != b {
						t.Fatalf("at %v %s: %s of the piece %s is %v, by itself %v", frame, item.Name, spec.Name, piece, a, b)
					}
				} else if math.Float64bits(got) != math.Float64bits(want) {
					t.Fatalf("at %v %s: %s of the piece %s is %v, by itself %v", frame, item.Name, spec.Name, piece, got, want)
				}
			}
		}
		a, b := p.posed(&p.now, inside), by.posed(&by.now, int32(i))
		if a != b {
			t.Fatalf("at %v %s of the piece %s stands at %v, by itself at %v", frame, item.Name, piece, a, b)
		}
	}
}

// values are what pieces of the lantern are set to.
var values = []map[string]*scene.State{
	{},
	{"sway": {Own: scene.Num(37)}, "dye": {Own: scene.RGBA(0.9, 0.1, 0.4, 1)}},
	{"word": {Own: scene.Txt("Mole")}, "on": {Own: scene.On(false)}},
	{"sway": {Pins: []scene.Pin{{Frame: 5, Value: scene.Num(-3), Easing: curve.Linear}, {Frame: 33, Value: scene.Num(61), Easing: curve.Linear}}}},
}

func pieces() (out []*scene.Item) {
	for k, set := range values {
		item := &scene.Item{ID: scene.ID(fmt.Sprintf("p%d", k)), Name: fmt.Sprintf("Piece %d", k), Kind: scene.Piece, Piece: &scene.Shown{Composition: "lantern"}}
		for key, s := range set {
			item.Edit("of"+key).Own, item.Edit("of"+key).Pins = s.Own, s.Pins
		}
		item.Edit("position").Own = scene.Pt(float64(17*k), -3, 0)
		out = append(out, item)
	}
	return out
}

func TestPiecesAreTheirCompositionBitForBit(t *testing.T) {
	project := staged(pieces(), lantern())
	if err := project.Check(); err != nil {
		t.Fatal(err)
	}
	p := New(project.Compositions[0])
	for _, frame := range []float64{0, 37, 8, 88.25, 119, 3, -4} {
		p.Evaluate(frame)
		for k, set := range values {
			sameInside(t, p, scene.ID(fmt.Sprintf("p%d", k)), alone(project.Compositions[1], set), frame)
		}
	}
}

func TestPiecesInPieces(t *testing.T) {
	garland := scene.NewComposition("garland", "Garland")
	garland.Rate, garland.Items = 25, pieces()
	item := &scene.Item{ID: "g", Name: "Garland", Kind: scene.Piece, Piece: &scene.Shown{Composition: "garland"}}
	item.Edit("position").Own = scene.Pt(100, 40, 0)
	item.Edit("opacity").Own = scene.Num(30)
	project := staged([]*scene.Item{item}, lantern(), garland)
	p := New(project.Compositions[0])
	p.Evaluate(29)
	outer := p.Layout.Showing(p.Layout.Index("g"))
	inner := p.Layout.Showing(p.Layout.In(outer, "p1"))
	i := p.Layout.In(inner, "frame")
	by := alone(project.Compositions[1], values[1])
	by.Evaluate(29)
	if got, want := p.ValueOf(i, "rotation"), by.Value(scene.Ref{Item: "frame", Property: "rotation"}); got != want {
		t.Errorf("two deep the rotation is %v, by itself %v", got, want)
	}
	at := p.World(i)
	if x, y := at[3], at[7]; x != 100+17+13 || y != 40-3-7 {
		t.Errorf("it is seen at %v, %v", x, y)
	}
	if o := p.Opacity(i); o != 0.3 {
		t.Errorf("%v of its opacity is left", o)
	}
}

// What is changed of a composition while another shows it is brought into the plan of that one.
func TestAChangeInsideReachesAllPieces(t *testing.T) {
	project := staged(pieces(), lantern())
	c := project.Compositions[1]
	p := New(project.Compositions[0])
	p.Evaluate(12)
	c.Item("knob").Edit("dye").Own = scene.RGBA(0.25, 0.5, 0.75, 1)
	p.PatchStaged(c, "knob", "dye")
	c.Item("frame").Edit("position").Own = scene.Pt(-9, 4, 1)
	p.PatchStaged(c, "frame", "position")
	p.Evaluate(13)
	for k, set := range values {
		sameInside(t, p, scene.ID(fmt.Sprintf("p%d", k)), alone(c, set), 13)
	}
}

// The links of a composition are brought into the plan of one that shows it: others, fewer, onto what was free, and onto places.
func TestLinksInsideReachAllPieces(t *testing.T) {
	project := staged(pieces(), lantern())
	c := project.Compositions[1]
	p := New(project.Compositions[0])
	p.Evaluate(12)
	link := func(id scene.ID, from scene.Ref, gain float64) *scene.Link {
		return &scene.Link{ID: id, Kind: scene.Follow, Source: from, Gain: gain, Offset: 7}
	}
	frame := c.Item("frame")
	for step, change := range []struct {
		key   string
		links []*scene.Link
	}{
		{"opacity", []*scene.Link{link("inside1", scene.Ref{Item: "knob", Property: "sway"}, 0.3)}},
		{"rotation", []*scene.Link{link("inside2", scene.Ref{Item: "knob", Property: "sway"}, 1.7), link("inside3", scene.Ref{Item: "frame", Property: "opacity"}, 0.2)}},
		{"position", []*scene.Link{{ID: "inside4", Kind: scene.Follow, Source: scene.Ref{Item: "knob", Property: "sway"}, Component: "x", Gain: 2.3}}},
		{"position", nil},
		{"opacity", nil},
	} {
		frame.Edit(change.key).Links = change.links
		if cycle, ok := p.RelinkStaged(c, []scene.Ref{{Item: "frame", Property: change.key}}); cycle != nil || !ok {
			t.Fatalf("step %d: %v %v", step, cycle, ok)
		}
		for _, at := range []float64{13 + float64(step), 3.25} {
			p.Evaluate(at)
			for k, set := range values {
				sameInside(t, p, scene.ID(fmt.Sprintf("p%d", k)), alone(c, set), at)
			}
		}
	}
	frame.Edit("opacity").Links = []*scene.Link{link("inside5", scene.Ref{Item: "frame", Property: "rotation"}, 1)}
	frame.Edit("rotation").Links = []*scene.Link{link("inside6", scene.Ref{Item: "frame", Property: "opacity"}, 1)}
	if cycle, ok := p.RelinkStaged(c, []scene.Ref{{Item: "frame", Property: "opacity"}, {Item: "frame", Property: "rotation"}}); cycle == nil && ok {
		t.Error("a cycle inside is not seen")
	}
}
