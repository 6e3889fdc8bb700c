package engine

import (
	"slices"
	"testing"
	"time"

	"wunderkammer/core/scene"
)

// Whatever a formula says, it is told what is wrong with it, or works out in little time, the same jumped to and played.
func FuzzFormula(f *testing.F) {
	for _, text := range []string{
		"delay({Rig: N}, 2f)", "average(noise(time), {Rig: N} * 1f)", "accumulate(accumulate({Rig: N}))", "a = delay({self: rotation}, 1f)\nb = average(a, 9f)\nb + delay(b, 3f)",
		"at({Box 1: rotation}, time * 2)", "loop({Rig: N}, 2f, 9f) + every(noise(time), {Rig: N} * 1s)", "delay(time, 1e9s)", "average(time, -1e7f)", "text(frame)", "{Line: vertices[{Rig: N}].x}", "1 / 0", "{self: world.position.x}",
	} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		if len(text) > 400 {
			return
		}
		c := rigged()
		line(c, 4)
		at := scene.Ref{Item: "i0", Property: "rotation"}
		compiled, _ := New(c).Try(text, at, 3)
		if len(compiled.Errors()) > 0 {
			for _, p := range compiled.Problems {
				if p.Sentence == "" || p.At < 0 || p.End > len(text) || p.At > p.End {
					t.Fatalf("%q: %+v", text, p)
				}
			}
			return
		}
		start := time.Now()
		put(c, "i0", "rotation", &scene.Link{Kind: scene.Formula, Gain: 1, Formula: compiled.Bound})
		jumped, played := New(c), New(c)
		want := slices.Clone(jumped.Evaluate(12))
		for k := range 13 {
			played.Evaluate(float64(k))
		}
		if got := played.Evaluate(12); jumped.Cycle == nil && !slices.EqualFunc(got, want, func(a, b float64) bool { return a == b || a != a && b != b }) {
			t.Fatalf("%q: played to it is something else", text)
		}
		if took := time.Since(start); took > 8*time.Second {
			t.Fatalf("%q takes %v", text, took)
		}
	})
}
