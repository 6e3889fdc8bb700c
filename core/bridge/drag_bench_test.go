package bridge

import (
	"fmt"
	"testing"
)

// BenchmarkDrag moves a fader that drives 1,000, 10,000 and 100,000 links by a step, as a hand does: from the call to the frame.
func BenchmarkDrag(b *testing.B) {
	for _, n := range []int{1000, 10000, 100000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			p := pageOf(b, grown(n), n)
			k := 0
			for b.Loop() {
				k++
				p.ask("do", o{"gesture": "set", "with": o{"targets": []o{{"item": "rig", "property": "amount"}}, "value": 11.3 + float64(k%71)}, "frame": 0, "preview": true})
				p.Evaluate(0)
			}
		})
	}
}
