package engine

import (
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/scene"
)

// many is a composition of so many items, of which each has links and formulas of its own on what two controls say.
func many(n int) *scene.Composition {
	c := scene.NewComposition("lantern", "Lantern")
	c.Rate = 25
	c.Items = []*scene.Item{{ID: "knob", Name: "Knob", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "sway", Name: "Sway", Kind: scene.Fader, SoftMax: 90, Default: scene.Num(11)}, {ID: "dye", Name: "Dye", Kind: scene.ColourWidget, Default: scene.RGBA(0.3, 0.7, 0.2, 1)},
	}}}
	for k := range n - 1 {
		item := &scene.Item{ID: scene.ID(fmt.Sprintf("i%d", k)), Name: fmt.Sprint("Item ", k), Kind: scene.Ellipse}
		link := func(key string, l scene.Link) {
			l.ID, l.Gain = scene.ID(fmt.Sprintf("l%d%s", k, map[string]string{"rotation": "r", "fill": "f", "opacity": "o", "position": "p"}[key])), 1
			item.Edit(key).Links = []*scene.Link{&l}
		}
		link("rotation", scene.Link{Kind: scene.Formula, Formula: fmt.Sprintf("{@knob:@sway} * %d + wave(time * 0.3) * 7", k+2)})
		link("fill", scene.Link{Kind: scene.Follow, Source: scene.Ref{Item: "knob", Property: "dye"}})
		link("opacity", scene.Link{Kind: scene.Formula, Formula: fmt.Sprintf("clamp({@knob:@sway} + %d, 0, 100)", k)})
		c.Items = append(c.Items, item)
	}
	c.HandOff = &scene.HandOff{Offers: []*scene.Offer{{ID: "ofsway", Item: "knob", Control: "sway"}, {ID: "ofdye", Item: "knob", Control: "dye"}}}
	return c
}

// pieced is a composition with so many pieces of another one, each with other values; and all the same items laid out by themselves.
func pieced(n int, of *scene.Composition) (pieces, flat *scene.Composition) {
	var items []*scene.Item
	flat = scene.NewComposition("flat", "Flat")
	flat.Rate = 25
	for k := range n {
		piece := &scene.Item{ID: scene.ID(fmt.Sprintf("p%d", k)), Name: fmt.Sprint("Piece ", k), Kind: scene.Piece, Piece: &scene.Shown{Composition: of.ID}}
		piece.Edit("ofsway").Own = scene.Num(float64(k) * 0.37)
		piece.Edit("position").Own = scene.Pt(float64(k), 3, 0)
		items = append(items, piece)
		holder := &scene.Item{ID: piece.ID, Name: piece.Name, Kind: scene.Null}
		holder.Edit("position").Own = scene.Pt(float64(k), 3, 0)
		flat.Items = append(flat.Items, holder)
		for _, item := range of.Items {
			one := item.Clone()
			one.ID, one.Parent = scene.ID(fmt.Sprintf("%sx%d", item.ID, k)), piece.ID
			for _, control := range one.Controls {
				key := string(control.ID)
				control.ID = scene.ID(fmt.Sprintf("%sx%d", key, k))
				if key == "sway" {
					one.Edit(string(control.ID)).Own = scene.Num(float64(k) * 0.37)
				}
			}
			for _, s := range one.States {
				for _, l := range s.Links {
					if l.Source.Item != "" {
						l.Source = scene.Ref{Item: scene.ID(fmt.Sprintf("knobx%d", k)), Property: fmt.Sprintf("%sx%d", l.Source.Property, k)}
					}
					l.ID = scene.ID(fmt.Sprintf("%sx%d", l.ID, k))
					if l.Formula != "" {
						l.Formula = strings.ReplaceAll(l.Formula, "{@knob:@sway}", fmt.Sprintf("{@knobx%d:@swayx%d}", k, k))
					}
				}
			}
			flat.Items = append(flat.Items, one)
		}
	}
	project := staged(items, of)
	return project.Compositions[0], flat
}

// A frame of 200 pieces of 50 items with other values, and of the same 10,000 items laid out by themselves; with times of their own; and what
// it takes to plan them.
func BenchmarkPieces(b *testing.B) {
	pieces, flat := pieced(200, many(50))
	frames := func(c *scene.Composition) func(b *testing.B) {
		return func(b *testing.B) {
			p := New(c)
			frame := 0.0
			p.Evaluate(0)
			for b.Loop() {
				frame++
				p.Evaluate(float64(int(frame) % 250))
			}
		}
	}
	b.Run("pieces", frames(pieces))
	b.Run("flat", frames(flat))
	for k, item := range pieces.Items {
		item.Edit(scene.PieceStart).Own = scene.Num(float64(k%7) * 0.2)
	}
	b.Run("shifted", frames(pieces))
	for _, item := range pieces.Items {
		delete(item.States, scene.PieceStart)
	}
	b.Run("plan of pieces", func(b *testing.B) {
		for b.Loop() {
			New(pieces)
		}
	})
	b.Run("plan of flat", func(b *testing.B) {
		for b.Loop() {
			New(flat)
		}
	})
	b.Run("a link inside", func(b *testing.B) {
		p := New(pieces)
		p.Evaluate(3)
		inner := pieces.Items[0].Stage()
		item := inner.Items[len(inner.Items)-1]
		x := 0.0
		for b.Loop() {
			x++
			item.Edit("rotation").Links = []*scene.Link{{ID: "inside", Kind: scene.Follow, Source: scene.Ref{Item: "knob", Property: "sway"}, Gain: float64(int(x)%9) / 10}}
			if cycle, ok := p.RelinkStaged(inner, []scene.Ref{{Item: item.ID, Property: "rotation"}}); cycle != nil || !ok {
				b.Fatal(cycle, ok)
			}
			p.Evaluate(3)
		}
	})
	b.Run("a value inside", func(b *testing.B) {
		p := New(pieces)
		inner := pieces.Items[0].Stage()
		x := 0.0
		for b.Loop() {
			x++
			inner.Item("knob").Edit("dye").Own = scene.RGBA(0.3, float64(int(x)%9)/10, 0.2, 1)
			p.PatchStaged(inner, "knob", "dye")
			p.Evaluate(3)
		}
	})
}
