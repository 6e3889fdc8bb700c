package pins

import (
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// SmoothPins leaves out pins that smooth spans between the others pass within a tolerance, as after a performance.
type SmoothPins struct {
	Pins      []gesture.PinAt `json:"pins"`
	Tolerance float64         `json:"tolerance"` // how far a value may be off afterwards, in its own unit
}

// outcome is what smoothing comes to.
type outcome struct {
	before, after int     // pins
	off           float64 // how far the value that strays most is off
}

// Do returns the operations that take the pins away, and let the others be passed smoothly.
func (g *SmoothPins) Do(c *gesture.Context) (gesture.Result, error) {
	r, s, err := g.smooth(c)
	if err == nil && s.before > 0 {
		r.Note = fmt.Sprintf("%s to %d, at most %s off", gesture.Plural(s.before, "pin"), s.after, scene.Exact(math.Ceil(s.off*1000)/1000))
	}
	return r, err
}

func (g *SmoothPins) smooth(c *gesture.Context) (r gesture.Result, s outcome, err error) {
	if !(g.Tolerance >= 0 && g.Tolerance <= scene.MaxMagnitude) {
		return r, s, fmt.Errorf("the tolerance is a number from 0")
	}
	groups, err := gather(c, g.Pins)
	if err != nil {
		return r, s, err
	}
	for _, p := range groups {
		if p.spec.Jumps() || len(p.pins) < 3 {
			continue
		}
		slices.SortFunc(p.pins, func(a, b scene.Pin) int { return a.Frame - b.Frame })
		kept, off := p.fewer(g.Tolerance)
		s.before, s.after, s.off = s.before+len(p.pins), s.after+len(kept), max(s.off, off)
		put := &change.PinsPut{Of: p.of, Pins: kept}
		stays := make(map[int]bool, len(kept))
		for _, pin := range kept {
			stays[pin.Frame] = true
		}
		for _, pin := range p.pins {
			if !stays[pin.Frame] {
				put.Drop = append(put.Drop, pin.Frame)
			}
		}
		r.Ops, r.Pins = append(r.Ops, put), append(r.Pins, at(p.of, kept)...)
	}
	if len(r.Ops) == 0 {
		return r, s, fmt.Errorf("select three pins or more of a control to smooth them")
	}
	return r, s, nil
}

// fewer returns the pins that stay, and how far the others are off then. What comes before and behind may bend the first and the last
// span: where it does too much, more pins stay.
func (p *picked) fewer(tolerance float64) ([]scene.Pin, float64) {
	frames, values := make([]float64, len(p.pins)), make([][]float64, len(p.pins))
	for k, pin := range p.pins {
		frames[k], values[k] = float64(pin.Frame), pin.Value.Nums()
	}
	for asked := tolerance; ; asked /= 2 {
		places, _ := curve.Fewer(frames, values, asked)
		kept := make([]scene.Pin, len(places))
		for i, k := range places {
			if kept[i] = p.pins[k]; i < len(places)-1 {
				kept[i].Easing = curve.Smooth
			}
		}
		off := p.strays(kept)
		if off <= tolerance || len(kept) == len(p.pins) {
			return kept, off
		}
		if asked < tolerance/100 {
			return p.pins, 0
		}
	}
}

// strays returns how far the picked pins lie off the property, with some of them alone among its other pins.
func (p *picked) strays(kept []scene.Pin) (off float64) {
	first, last := p.pins[0].Frame, p.pins[len(p.pins)-1].Frame
	var all []scene.Pin
	for _, pin := range p.item.State(p.spec.Key).Pins {
		if pin.Frame < first || pin.Frame > last {
			all = append(all, pin)
		}
	}
	all = append(all, kept...)
	slices.SortFunc(all, func(a, b scene.Pin) int { return a.Frame - b.Frame })
	for part, t := range p.spec.Tracks(all, nil) {
		for _, pin := range p.pins {
			off = max(off, math.Abs(t.At(float64(pin.Frame))-pin.Value.At(part)))
		}
	}
	return off
}
