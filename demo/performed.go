package demo

import (
	"math"

	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/scene"
)

// performed is what a hand does with the panel: the kite is flown, and smoothed; the title settles; gusts come fast and go slowly; the
// places that matter are marked.
func (b *builder) performed(r *rig) {
	flight := pins.Performance{Ref: r.kite}
	for f := 0.0; f <= 275; f += 0.6 { // as often as a hand is looked at
		flight.Frames, flight.Values = append(flight.Frames, f), append(flight.Values, kiteAt(f))
	}
	b.gesture(&pins.Perform{Rows: []pins.Performance{flight}}, laidOut)
	b.gesture(&pins.SmoothPins{Pins: b.pinsOf(r.kite), Tolerance: 4}, laidOut)
	b.gesture(&pins.EasePins{Pins: b.pinsOf(r.titleSize)[:1], Easing: "settle 30 4 45"}, laidOut)
	var blows, dies []gesture.PinAt
	for k, p := range b.pinsOf(r.wind) {
		if k%2 == 0 {
			dies = append(dies, p)
		} else {
			blows = append(blows, p)
		}
	}
	b.gesture(&pins.EasePins{Pins: blows, Easing: "cubic 0.22 0.66 0.5 1.06"}, laidOut)
	b.gesture(&pins.EasePins{Pins: dies, Easing: "cubic 0.52 0 0.36 1"}, laidOut)
	for _, m := range []struct {
		name  string
		frame int
	}{{"Windows lit", 50}, {"Title stands", 70}, {"Squall", 150}, {"Sparks again", 250}} {
		b.gesture(&pins.AddMarker{Name: m.name, At: &m.frame}, laidOut)
	}
}

// pinsOf names the pins of a control.
func (b *builder) pinsOf(ref scene.Ref) (out []gesture.PinAt) {
	if b.err != nil {
		return nil
	}
	for _, p := range b.project.Composition(b.in.Composition).Item(ref.Item).State(ref.Property).Pins {
		out = append(out, gesture.PinAt{Item: ref.Item, Property: ref.Property, Frame: p.Frame})
	}
	return out
}

// kiteAt is where a hand holds the kite: across the harbour and back, in loops, with the small tremor that hands have.
func kiteAt(f float64) scene.Value {
	way := curve.New([]float64{0, 80, 160, 225, 275}, []float64{-420, -170, 150, 330, -60}, []curve.Easing{curve.Smooth, curve.Smooth, curve.Smooth, curve.Smooth, curve.Smooth})
	t := f / 25
	x := way.At(f) + 34*math.Sin(2.1*t) + 1.3*math.Sin(23*t)
	y := 150 + 78*math.Sin(0.9*t-0.8) + 30*math.Cos(2.1*t) + 1.1*math.Sin(19*t+1)
	return scene.Pt(math.Round(10*x)/10, math.Round(10*y)/10, 0)
}
