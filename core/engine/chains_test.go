package engine

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// chained rows trail by formulas, of which each is written once so that it is led to the first member, and once so that it is not.
var chainedRows = []struct{ led, plain string }{
	{"if(index = 0, noise(time) * 40 + {Rig: Amount}, delay({prev: rotation}, 3f))", "if(index = 0, noise(time) * 40 + {Rig: Amount}, delay({prev: rotation}, 3f) + 0 * index)"},
	{"if(index = 0, noise(time) * 40, delay({prev: rotation}, {Rig: Lag}))", "if(index = 0, noise(time) * 40, delay({prev: rotation}, {Rig: Lag}) + 0 * index)"},
	{"if(mod(index, 7) = 0, noise(time, index) * 40, delay({prev: rotation}, {Rig: Lag} * 2 + 1f))", "if(mod(index, 7) = 0, noise(time, index) * 40, delay({prev: rotation}, {Rig: Lag} * 2 + 1f) + 0 * index)"},
	{"delay({prev: rotation} else (noise(time) * 40), {Rig: Lag})", "delay({prev: rotation} else (noise(time) * 40), {Rig: Lag}) + 0 * index"},
	{"if(index = 0, {Rig: Amount}, if(index < 20, delay({prev: rotation}, 2f), delay({prev: rotation}, 5f)))", "if(index = 0, {Rig: Amount}, if(index < 20, delay({prev: rotation}, 2f), delay({prev: rotation}, 5f)) + 0 * index)"},
}

// What trails what trails is led to where that begins, and gives what it gave; also where some have links, limits or pins of their own, and
// how late they are is set anew, or moves.
func TestChainsOfDelaysAreLedToTheirBeginning(t *testing.T) {
	const n = 60
	for k, text := range chainedRows {
		for seed := range uint64(6) {
			r := rand.New(rand.NewPCG(seed, uint64(k)))
			led, plain := flags(n), flags(n)
			rostered(t, led, text.led)
			rostered(t, plain, text.plain)
			some := scene.ID(fmt.Sprint("i", 1+r.IntN(n-2)))
			edit := func(change func(c *scene.Composition)) { change(led); change(plain) }
			compare := func(after string, p *Plan) {
				t.Helper()
				q := New(plain)
				for _, frame := range []float64{100, 101, 37.5, 300, 2, -11, 299} {
					if got, want := turned(p, n, frame), turned(q, n, frame); !slices.Equal(got, want) {
						t.Fatalf("%s, seed %d, %s: frame %v is %v, want %v", text.led, seed, after, frame, got, want)
					}
				}
			}
			p := New(led)
			if p.past.Count() > n/3 {
				t.Errorf("%s: there are %d histories", text.led, p.past.Count())
			}
			compare("at first", p)
			lag := scene.Ref{Item: "rig", Property: "lag"}
			late := float64(1+r.IntN(9)) / 25
			edit(func(c *scene.Composition) { c.Items[0].Edit("lag").Own = scene.Num(late) })
			if !p.Patch(lag) {
				t.Error("how late it is cannot be set")
			}
			compare("later", p)
			edit(func(c *scene.Composition) { c.Item(some).Edit("rotation").Own = scene.Num(13) })
			p.Patch(scene.Ref{Item: some, Property: "rotation"})
			compare("with another own value", p)
			edit(func(c *scene.Composition) {
				c.Item(some).Edit("rotation").Links = []*scene.Link{{ID: "own", Kind: scene.Formula, Gain: 1, Formula: "time * 31"}}
			})
			if _, ok := p.Relink([]scene.Ref{{Item: some, Property: "rotation"}}); ok && k < 2 {
				t.Error("one that others were led past is driven otherwise, and they are not led anew")
			}
			p = New(led)
			compare("with a link of its own", p)
			edit(func(c *scene.Composition) { c.Item(some).State("rotation").Links = nil })
			if _, ok := p.Relink([]scene.Ref{{Item: some, Property: "rotation"}}); !ok {
				p = New(led)
			}
			compare("without it", p)
			edit(func(c *scene.Composition) {
				most := 17.0
				c.Item(some).Edit("rotation").Max = &most
			})
			p = New(led)
			compare("with a limit", p)
			edit(func(c *scene.Composition) {
				c.Items[0].Edit("lag").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(0.04), Easing: curve.Linear}, {Frame: 250, Value: scene.Num(0.36), Easing: curve.Linear}}
			})
			if !p.Patch(lag) {
				p = New(led)
			}
			compare("with pins on how late it is", p)
			edit(func(c *scene.Composition) { c.Items[0].State("lag").Pins = nil })
			if !p.Patch(lag) {
				p = New(led)
			}
			compare("without them", p)
		}
	}
}

// Links with a delay that follow one another are led likewise, through the components of positions, too; a circle stays one.
func TestChainsOfLinksAreLedToTheirBeginning(t *testing.T) {
	const n = 40
	for _, kind := range []string{"links", "formulas", "circle"} {
		led, plain := flags(n), flags(n)
		for at, c := range []*scene.Composition{led, plain} {
			c.Items[1].Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(3, 70, -9), Easing: curve.Smooth}, {Frame: 90, Value: scene.Pt(310, -41, 27), Easing: curve.Smooth}}
			for i := 1; i < n; i++ {
				before := scene.ID(fmt.Sprint("i", i-1))
				l := &scene.Link{ID: scene.ID(fmt.Sprint("l", i)), Kind: scene.Follow, Gain: 1, Delay: float64(1 + i%3), Source: scene.Ref{Item: before, Property: "position"}}
				if kind == "formulas" {
					l = &scene.Link{ID: l.ID, Kind: scene.Formula, Gain: 1, Formula: fmt.Sprintf("delay({@%s:@position}, %df)", before, 1+i%3)}
				}
				if at == 1 { // it is led no further than to what is before it
					l.Operation = scene.Plus
				}
				c.Item(scene.ID(fmt.Sprint("i", i))).Edit("position").Own = scene.Pt(0, 0, 0)
				c.Item(scene.ID(fmt.Sprint("i", i))).Edit("position").Links = []*scene.Link{l}
			}
			if kind == "circle" {
				c.Items[1].Edit("position").Links = []*scene.Link{{ID: "round", Kind: scene.Follow, Gain: 1, Delay: 2, Operation: c.Items[2].State("position").Links[0].Operation, Source: scene.Ref{Item: "i19", Property: "position"}}}
			}
		}
		p, q := New(led), New(plain)
		if histories := p.past.Count(); kind != "circle" && (histories > 12 || q.past.Count() < n-2) {
			t.Errorf("%s: there are %d histories, and %d where nothing is led", kind, histories, q.past.Count())
		}
		for _, frame := range []float64{80, 81, 40.25, 3, 200, -5} {
			p.Evaluate(frame)
			q.Evaluate(frame)
			for i := range n {
				ref := scene.Ref{Item: scene.ID(fmt.Sprint("i", i)), Property: "position"}
				if got, want := p.Value(ref), q.Value(ref); kind != "circle" && got != want {
					t.Fatalf("%s: frame %v: %s is at %v, want %v", kind, frame, ref.Item, got, want)
				}
			}
		}
		again := New(led)
		for _, frame := range []float64{3, 200, 80} {
			if kind == "circle" && !slices.Equal(again.Evaluate(frame), New(led).Evaluate(frame)) {
				t.Errorf("a circle is another one after other frames, at %v", frame)
			}
		}
	}
}
