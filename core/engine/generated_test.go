package engine

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/formula"
	"wunderkammer/core/layout"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// generated is a composition made at random: a rig with pins, two rows that hang on it, links on
// rosters and on single items that trail, feed back, add up, and look ahead.
func generated(t *testing.T, r *rand.Rand) *scene.Composition {
	c := flags(5)
	c.Items[0].Edit("amount").Pins = nil
	for f := 0; f < 80; f += 7 + r.IntN(20) {
		c.Items[0].Edit("amount").Pins = append(c.Items[0].Edit("amount").Pins, scene.Pin{Frame: f, Value: scene.Num(float64(r.IntN(120) - 40)), Easing: []curve.Easing{curve.Linear, curve.Smooth, curve.Hold}[r.IntN(3)]})
	}
	for _, item := range c.Items[1:] {
		item.Parent = "rig"
		item.Edit("position").Own = scene.Pt(float64(r.IntN(200)), float64(r.IntN(200)), 0)
	}
	texts := []string{
		"noise(time * 3, index) * {Rig: Amount}", "delay({self: rotation}, 1f) * 0.8 + {Rig: Amount} / 9", "if(index = 0, {Rig: Amount}, delay({prev: rotation}, {Rig: Lag}))",
		"accumulate({self: opacity}) / 20 + own", "average({Rig: Amount} + delay({self: rotation}, 4f) * 0.1, 5f)", "at({next: opacity} else 3, time + 1s)", "loop({Rig: Amount}, 5f, 19f) + {first: opacity}",
		"every(accumulate(delay({last: rotation}, 3f)) * 0.05, 3f)", "below + {self: world.position.x} / 40",
	}
	for k := range 2 + r.IntN(3) {
		property := []string{"rotation", "opacity", "strokeWidth"}[k%3]
		s := &scene.RosterLink{ID: scene.ID(fmt.Sprint("s", k)), Name: "Row", Roster: scene.Roster{Kind: scene.Children, Item: "rig"}, Property: property, Link: &scene.Link{ID: "l", Kind: scene.Formula, Gain: 1}}
		if r.IntN(2) == 0 {
			s.Link.Stagger = &scene.Stagger{Delay: float64(r.IntN(4)), Offset: float64(r.IntN(3)), Seed: r.IntN(2)}
		}
		if r.IntN(3) == 0 {
			s.Link.Operation = scene.Plus
		}
		compiled := formula.Compile(texts[r.IntN(len(texts))], wire.RosterScope(layout.Of(c), s, -1))
		if errs := compiled.Errors(); len(errs) > 0 {
			t.Fatal(errs[0].Sentence)
		}
		s.Link.Formula = compiled.Bound
		c.RosterLinks = append(c.RosterLinks, s)
	}
	// Rows of rows, and the vertices of a path.
	for k := range 3 {
		c.Items = append(c.Items, &scene.Item{ID: scene.ID(fmt.Sprint("tail", k)), Name: fmt.Sprint("Tail ", k), Kind: scene.Rectangle, Parent: []scene.ID{"i0", "tail0", "i2"}[k]})
	}
	line(c, 4)
	nested := []scene.Roster{rows(), {Kind: scene.Chain, Of: &scene.Roster{Kind: scene.Children, Item: "rig"}}}[r.IntN(2)]
	rosterLink(t, c, &scene.RosterLink{Roster: nested, Property: "opacity"}, []string{
		"delay({outer self: rotation}, {Rig: Lag}) + index", "({outer prev: rotation} else 5) + delay({prev: opacity} else 3, outer index * 2f + 1f)", "average({outer next: opacity} else 9, 3f) + outer number",
	}[r.IntN(3)])
	rosterLink(t, c, &scene.RosterLink{Roster: scene.Roster{Kind: scene.Vertices, Item: "line"}, Property: scene.OwnVertex}, []string{
		"[own.x + delay({prev: vertex.y} else {Rig: Amount}, 2f), index * {Flag 1: rotation}]", "own + delay({self: vertex}, 1f) * 0.3",
	}[r.IntN(2)])
	written(t, c, scene.Ref{Item: "tail2", Property: "rotation"}, "{Line: vertices[mod(frame, 6)].y} + accumulate({Line: vertices[2].x}) / 50")
	last := scene.Ref{Item: "i4", Property: "scale"}
	written(t, c, last, "[100 + {Flag 0: rotation} / 10, 100 + delay({Flag 1: rotation}, 2f) / 10, 100]")
	return c
}

// Playing, jumping in any order, by columns or cell by cell, with much memory or little, looking at a
// property alone, and a plan in which a value was changed and changed back, give the same bits.
func TestGeneratedCompositionsAreExact(t *testing.T) {
	fed, tried := 0, 0
	for seed := range uint64(26) {
		r := rand.New(rand.NewPCG(seed, 21))
		c := generated(t, r)
		played := New(c)
		if played.Cycle != nil {
			continue
		}
		tried++
		for slot := range played.Layout.World {
			if played.order.Feedback(slot) {
				fed++
			}
		}
		var all [][]float64
		for f := range 70 {
			all = append(all, slices.Clone(played.Evaluate(float64(f))))
		}
		jumped, cells, tight, pieces := New(c), New(c), New(c), New(c)
		cells.past.Cells, tight.past.Numbers, pieces.past.Pieces, pieces.past.Piece = true, 200, true, 1
		for range 12 {
			f := r.IntN(70)
			for name, p := range map[string]*Plan{"by columns": jumped, "cell by cell": cells, "with little memory": tight, "in pieces": pieces} {
				if got := p.Evaluate(float64(f)); !slices.Equal(got, all[f]) {
					t.Fatalf("seed %d: frame %d differs when it is jumped to %s", seed, f, name)
				}
			}
		}
		for _, ref := range []scene.Ref{{Item: "i3", Property: "rotation"}, {Item: "i4", Property: "scale"}, {Item: "i2", Property: "opacity"}, {Item: "tail2", Property: "rotation"}, {Item: "tail0", Property: "opacity"}, {Item: "line", Property: "vertex5"}} {
			spec, slot := played.Layout.Find(ref.Item, ref.Property)
			size := spec.Type.Size()
			for f, x := range New(c).Series([]scene.Ref{ref}, 0, 69, 70)[0] {
				if want := all[f/size][int(slot)+f%size]; x != want {
					t.Fatalf("seed %d: %s alone is %v at %d, want %v", seed, ref.Property, x, f/size, want)
				}
			}
		}
		was := c.Items[0].State("lag").Own
		c.Items[0].Edit("lag").Own = scene.Num(0.4)
		jumped.Patch(scene.Ref{Item: c.Items[0].ID, Property: "lag"})
		if !slices.Equal(jumped.Evaluate(50), New(c).Evaluate(50)) {
			t.Fatalf("seed %d: with another lag it differs from one planned anew", seed)
		}
		c.Items[0].Edit("lag").Own = was
		jumped.Patch(scene.Ref{Item: c.Items[0].ID, Property: "lag"})
		if !slices.Equal(jumped.Evaluate(33), all[33]) {
			t.Fatalf("seed %d: with the lag of before it is not as before", seed)
		}
	}
	if fed < 50 || tried < 14 {
		t.Errorf("%d compositions, in which %d slots were fed back", tried, fed)
	}
}

// Every kind that is drawn has something to be drawn, which is another where a property changes that the catalogue
// says its shape is made of.
func TestEveryKindIsDrawn(t *testing.T) {
	for _, k := range scene.Kinds {
		c := scene.NewComposition("main", "Main")
		item := &scene.Item{ID: "a", Name: "A", Kind: k.Kind}
		if k.Kind == scene.PathItem {
			item.Path = &scene.PathShape{Contours: []scene.Contour{{Closed: true, Vertices: []scene.Vertex{{ID: 1}, {ID: 2, At: [2]float64{90, 0}}, {ID: 3, At: [2]float64{40, 70}}}}}}
		}
		if k.Kind == scene.MeshItem {
			item.Mesh = scene.Gem()
		}
		c.Items = []*scene.Item{item}
		p := New(c)
		p.Evaluate(0)
		box := func() outline.Box { path := p.Shape(0); return path.Box() }
		drawn := func() string {
			if k.Class == scene.Solid {
				return fmt.Sprint(p.Mesh(0).Places)
			}
			return fmt.Sprint(box())
		}
		switch k.Class {
		case scene.Outlined, scene.Pictured:
			if b := box(); b.Right <= b.Left {
				t.Errorf("a %s has no outline", k.Name)
			}
		case scene.Solid:
			if len(p.Mesh(0).Index) == 0 {
				t.Errorf("a %s has no surface", k.Name)
			}
		default:
			continue
		}
		for _, spec := range scene.Of(k.Kind) {
			if spec.Key != "size" && spec.Key != "fontSize" {
				continue
			}
			if !spec.Shapes() {
				t.Errorf("the shape of a %s is not made of its %s", k.Name, spec.Name)
			}
			before := drawn()
			item.Edit(spec.Key).Own = scene.Num(17)
			if spec.Type != scene.Number {
				item.Edit(spec.Key).Own = scene.Pt([]float64{17, 18, 19}[:spec.Type.Size()]...)
			}
			p.Patch(scene.Ref{Item: item.ID, Property: spec.Key})
			p.Evaluate(0)
			if drawn() == before {
				t.Errorf("a %s looks the same with another %s", k.Name, spec.Name)
			}
		}
	}
}
