package curve

import (
	"math"
	"testing"
)

func TestATrackGoesOnBehindItsLastPin(t *testing.T) {
	track := func(how Tail) *Track {
		tr := New([]float64{5, 12, 35}, []float64{20, 83, 41}, []Easing{"cubic 0.3 0.2 0.45 1.35", Smooth, Linear})
		tr.GoOn(how)
		return &tr
	}
	rest := track(Rest)
	for frame := 35.0; frame < 170; frame += 0.7 {
		turns := math.Floor((frame - 5) / 30)
		within := frame - 30*turns
		back := within
		if int(turns)%2 == 1 {
			back = 40 - within
		}
		for _, c := range []struct {
			how  Tail
			want float64
		}{
			{Rest, 41},
			{Again, rest.At(within)},
			{Return, rest.At(back)},
			{Onward, rest.At(within) + 21*turns},
		} {
			if frame == 35 {
				c.want = 41 // the pin itself
			}
			if got := track(c.how).At(frame); math.Abs(got-c.want) > 1e-9 {
				t.Fatalf("%q at %g: %g, want %g", c.how, frame, got, c.want)
			}
		}
	}
	for _, how := range []Tail{Again, Return, Onward} {
		if tr := track(how); tr.At(3) != 20 || tr.At(20) != rest.At(20) {
			t.Errorf("%q is otherwise before its last pin, too", how)
		}
		one := New([]float64{7}, []float64{3}, []Easing{Smooth})
		if one.GoOn(how); one.At(70) != 3 {
			t.Errorf("a single pin goes on as %q", how)
		}
	}
}
