package engine

import (
	"fmt"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// BenchmarkPoses drags a fader of poses with three stops over 500 properties.
func BenchmarkPoses(b *testing.B) {
	c := flags(500)
	mood := &scene.Control{ID: "mood", Name: "Mood", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(0), Poses: []scene.PoseStop{
		{ID: "a", Name: "A", Easing: curve.Smooth}, {ID: "b", Name: "B", At: 50, Easing: curve.Smooth}, {ID: "c", Name: "C", At: 100, Easing: curve.Smooth},
	}}
	c.Items[0].Controls = append(c.Items[0].Controls, mood)
	for k, item := range c.Items[1:] {
		x := float64(k)
		item.Edit("opacity").Links = []*scene.Link{{ID: scene.ID(fmt.Sprint("p", k)), Kind: scene.Posed, Source: scene.Ref{Item: "rig", Property: "mood"}, Gain: 1, Held: []scene.Held{{Stop: "a", Value: scene.Num(0)}, {Stop: "b", Value: scene.Num(x / 10)}, {Stop: "c", Value: scene.Num(80)}}}}
	}
	p := New(c)
	x := 0.0
	for b.Loop() {
		if x++; x > 100 {
			x = 0
		}
		c.Items[0].Edit("mood").Own = scene.Num(x)
		p.Patch(scene.Ref{Item: c.Items[0].ID, Property: "mood"})
		p.Evaluate(0)
	}
}

// BenchmarkZones has 1,000 members with a plain formula, and the same under three zones: the second against the first.
func BenchmarkZones(b *testing.B) {
	var plain rival
	for _, k := range []struct{ name, text string }{
		{"plain", "noise(time, index) * 20 + {Rig: Amount}"},
		{"three zones", "noise(time, index) * 20 + {Rig: Amount} * zone({Sweep}) * zone({Zone 0}) * zone({Zone 1})"},
	} {
		b.Run(k.name, func(b *testing.B) {
			c := swept(1000, nil)
			for n := range 2 {
				zone := c.Items[len(c.Items)-1-n].Clone()
				zone.ID, zone.Name = scene.ID(fmt.Sprint("zone", n)), fmt.Sprint("Zone ", n)
				c.Items = append(c.Items, zone)
			}
			rostered(b, c, k.text)
			played(b, New(c))
			if k.name == "plain" {
				plain.note(b)
				return
			}
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/plain.took, "times-plain")
		})
	}
}

// lateCopies is copies of three shapes, each later by its index in frames.
func lateCopies(n int) *scene.Composition {
	c := scene.NewComposition("main", "C")
	c.Frames = 4000
	beads := &scene.Item{ID: "beads", Name: "Beads", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: n}}
	beads.Edit("copiesNumber").Own, beads.Edit("copiesArrangement").Own = scene.Num(float64(n)), scene.Num(2)
	c.Items = []*scene.Item{beads}
	for k := range 3 {
		one := &scene.Item{ID: scene.ID(fmt.Sprintf("one%d", k)), Name: "One", Kind: scene.Ellipse, Parent: "beads"}
		one.Edit("rotation").Links = []*scene.Link{{ID: scene.ID(fmt.Sprintf("l%d", k)), Kind: scene.Formula, Gain: 1, Formula: fmt.Sprintf("wave(time * 0.3 + %d / 3) * 40", k)}}
		one.Edit("position").Pins = []scene.Pin{{Frame: 0, Value: scene.Pt(0, 0, 0), Easing: curve.Smooth}, {Frame: 4000, Value: scene.Pt(400, 100, 0), Easing: curve.Smooth}}
		c.Items = append(c.Items, one)
	}
	driveCopies(c, "copyLate", "index * 1f")
	return c
}

func BenchmarkCopies(b *testing.B) {
	for name, step := range map[string]float64{"next frame": 1, "cold jump": 1000.37} {
		b.Run(name, func(b *testing.B) {
			p := New(lateCopies(1000))
			frame, n := 1500.0, 0
			one := func() {
				p.Evaluate(frame)
				p.Copies(p.Layout.Index("beads"), func(*Copied) { n++ })
				frame += step
				if frame > 3900 {
					frame -= 2400
				}
			}
			one()
			for b.Loop() {
				one()
			}
			if n%3000 != 0 {
				b.Errorf("%d were shown", n)
			}
		})
	}
}
