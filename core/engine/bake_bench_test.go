package engine

import (
	"testing"

	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// BenchmarkBake works out 1,000 properties over 600 frames, against the same arithmetic in a loop
// written by hand.
func BenchmarkBake(b *testing.B) {
	const members, frames = 1000, 600
	c := flags(members)
	rostered(b, c, "noise(time * 0.6, index) * {Rig: Amount} + wave(time * 0.3 - share) * 40", func(s *scene.RosterLink) { s.Property = "opacity" })
	p := New(c)
	var refs []scene.Ref
	for _, item := range c.Items[1:] {
		refs = append(refs, scene.Ref{Item: item.ID, Property: "opacity"})
	}
	each := func(b *testing.B) {
		b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/members/frames, "ns/value")
	}
	var r rival
	b.Run("series", func(b *testing.B) {
		for b.Loop() {
			p.Series(refs, 0, frames-1, frames)
		}
		each(b)
		r.note(b)
	})
	b.Run("by hand", func(b *testing.B) {
		for b.Loop() {
			out := make([][]float64, members)
			for i := range out {
				for f := range frames {
					time, amount := float64(f)/25, min(float64(f), 100)
					s, _ := num.SinCos(360 * fract(time*0.3-float64(i)/(members-1)))
					out[i] = append(out[i], num.Clamp(handNoise(time*0.6, float64(i))*amount+s*40, 0, 100))
				}
			}
		}
		each(b)
		r.compare(b)
	})
}
