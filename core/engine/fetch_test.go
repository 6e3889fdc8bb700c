package engine

import (
	"fmt"
	"runtime"
	"slices"
	"testing"

	"wunderkammer/core/scene"
)

// turned returns how far each of some flags is turned at a frame.
func turned(p *Plan, n int, frame float64) (out []float64) {
	p.Evaluate(frame)
	for i := range n {
		out = append(out, p.Value(scene.Ref{Item: scene.ID(fmt.Sprint("i", i)), Property: "rotation"}).At(0))
	}
	return out
}

// Each of 10,000 trails the one before, and none loses its delay; what is held meanwhile stays small.
func TestALongRowTrails(t *testing.T) {
	if testing.Short() {
		t.Skip("it takes its time")
	}
	const n = 10000
	for _, delay := range []int{2} {
		trailing, told := flags(n), flags(n)
		rostered(t, trailing, fmt.Sprintf("if(index = 0, noise(time), delay({prev: rotation}, %df) + 0 * index)", delay)) // more than a delay, so that each has a history of its own
		rostered(t, told, fmt.Sprintf("noise((frame - index * %d) / 25)", delay))
		p, q := New(trailing), New(told)
		runtime.GC()
		var m runtime.MemStats
		runtime.ReadMemStats(&m)
		before, most, looks := m.HeapAlloc, uint64(0), 0
		p.Stop = func() bool {
			if looks++; looks%20000 == 0 {
				runtime.GC()
				runtime.ReadMemStats(&m)
				most = max(most, m.HeapAlloc-before)
			}
			return false
		}
		for _, frame := range []float64{12345, 12346, 12347} {
			if got, want := turned(p, n, frame), turned(q, n, frame); !slices.Equal(got, want) {
				t.Fatalf("by %d frames: frame %v differs", delay, frame)
			}
		}
		if leftOut, _ := p.LeftOut(); leftOut > 0 || most == 0 || most > 64<<20 {
			t.Errorf("by %d frames: %d members lose their delay, %d MB were held", delay, leftOut, most>>20)
		}
		runtime.KeepAlive(p)
	}
}

// Gathered in pieces, of which little is kept, rows come to the same as at once.
func TestPiecesOfARow(t *testing.T) {
	const n = 250
	for _, text := range []string{
		"if(index = 0, {Rig: Amount}, delay({prev: rotation}, {Rig: Lag}))",
		"if(index = 0, noise(time), delay({prev: rotation}, 0.3f) + delay({prev: rotation}, 2f) / 2)",
		"if(index = 0, noise(time), average({prev: rotation}, 3f) + index / 100)",
		"if(index < 2, noise(time), delay({prev: rotation}, 1f * (1 + {Rig: Amount} / 50)) / 2)",
		"if(index = 0, noise(time), delay({prev: rotation}, 2f * {self: opacity}))",
		"if(index = 0, noise(time), delay({prev: rotation}, abs(delay({Rig: Amount}, 3f)) * 0.1f + 1f))",
		"if(mod(index, 40) = 0, accumulate({Rig: Amount}), delay({prev: rotation}, 1f) + at({first: rotation}, time / 2))",
		"if(index = 0, noise(time), at({prev: rotation}, time - 1f) - delay({self: rotation}, 1f) * 0.1)",
	} {
		c := flags(n)
		rostered(t, c, text)
		for k := range n {
			c.Item(scene.ID(fmt.Sprint("i", k))).Edit("opacity").Own = scene.Num(float64(k%3) + 1)
		}
		p, q := New(c), New(c)
		q.past.Pieces, q.past.Piece = true, 500
		for _, frame := range []float64{300, 301, 302, 90.5, 300, 303, 2, -40} {
			if got, want := turned(q, n, frame), turned(p, n, frame); !slices.Equal(got, want) {
				t.Errorf("%s: frame %v differs", text, frame)
			}
		}
	}
}
