package engine

import (
	"fmt"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// Two hundred faders with 25 pins each, by how they are eased.
func BenchmarkPins(b *testing.B) {
	for _, easing := range []curve.Easing{curve.Smooth, "cubic 0.42 0 0.58 1.24", "settle 12 3 35", "bounce 35 3"} {
		rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null}
		for k := range 200 {
			c := &scene.Control{ID: scene.ID(fmt.Sprint("c", k)), Name: fmt.Sprint("C ", k), Kind: scene.Fader, SoftMax: 100, Default: scene.Num(0)}
			rig.Controls = append(rig.Controls, c)
			for n := range 25 {
				rig.Edit(string(c.ID)).Pins = append(rig.Edit(string(c.ID)).Pins, scene.Pin{Frame: n * 12, Value: scene.Num(float64((n*37 + k*11) % 100)), Easing: easing})
			}
		}
		p := scene.NewProject("p", "P")
		p.Compositions[0].Items = []*scene.Item{rig}
		plan := New(p.Compositions[0])
		b.Run(string(easing), func(b *testing.B) {
			for n := range b.N {
				plan.Evaluate(float64(n%2879) / 10)
			}
		})
	}
}
