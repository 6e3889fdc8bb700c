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

// Show shows properties at other values for the time being, whatever is pinned, as a hand does that performs them.
type Show struct {
	Values []gesture.Pose `json:"values"`
}

// Do returns the values that are shown.
func (g *Show) Do(c *gesture.Context) (gesture.Result, error) {
	for _, v := range g.Values {
		item, spec, err := c.Property(v.Ref)
		if err != nil {
			return gesture.Result{}, err
		}
		if err := v.Value.Fits(spec.Type); err != nil && !v.Value.Absent() {
			return gesture.Result{}, fmt.Errorf("%s: %s: %w", item.Name, spec.Name, err)
		}
	}
	return gesture.Result{Poses: g.Values}, nil
}

// Performance is what a hand did with a property, sample by sample: where the playhead was, and what the value was made.
type Performance struct {
	Ref    scene.Ref     `json:"ref"`
	Frames []float64     `json:"frames" ts:"list"` // in rising order; several may lie within one frame
	Values []scene.Value `json:"values" ts:"list"`
}

// Perform puts what was performed into pins, one at each frame, in the place of those that were there.
type Perform struct {
	Rows []Performance `json:"rows"`
}

// Do returns the operations that put the pins. At a frame, a value is that of the last sample up to it, and between samples of numbers,
// on the straight line.
func (g *Perform) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	number := 0
	for _, row := range g.Rows {
		if len(row.Frames) == 0 {
			continue
		}
		if len(row.Frames) != len(row.Values) {
			return r, fmt.Errorf("a performance has %d frames and %d values", len(row.Frames), len(row.Values))
		}
		item, spec, err := c.Property(row.Ref)
		if err != nil {
			return r, err
		}
		if spec.ReadOnly {
			return r, fmt.Errorf("%s: %s is read-only", item.Name, spec.Name)
		}
		first, last := math.Ceil(row.Frames[0]), math.Floor(row.Frames[len(row.Frames)-1])
		if !(first >= -scene.MaxFrames && last <= scene.MaxFrames) || !slices.IsSorted(row.Frames) {
			return r, fmt.Errorf("the samples of %s are not in the order of their frames", c.Composition.NameOf(row.Ref))
		}
		last = max(first, last)
		if last-first >= scene.MaxPins {
			return r, fmt.Errorf("a performance of %g frames is too long; at most %d pins are kept", last-first+1, scene.MaxPins)
		}
		put := &change.PinsPut{Of: c.Of(item.ID, spec.Key)}
		easing := curve.Linear
		if spec.Jumps() {
			easing = curve.Hold
		}
		k := 0
		for f := first; f <= last; f++ {
			for k < len(row.Frames)-1 && row.Frames[k+1] <= f {
				k++
			}
			v := row.Values[k]
			if k < len(row.Frames)-1 && !spec.Jumps() && row.Frames[k] < f {
				share := (f - row.Frames[k]) / (row.Frames[k+1] - row.Frames[k])
				for n := range v.Len() {
					v = v.With(n, v.At(n)+float64((row.Values[k+1].At(n)-v.At(n))*share))
				}
			}
			if err := v.Fits(spec.Type); err != nil {
				return r, fmt.Errorf("%s: %w", c.Composition.NameOf(row.Ref), err)
			}
			put.Pins = append(put.Pins, scene.Pin{Frame: int(f), Value: v, Easing: easing})
		}
		for _, pin := range item.State(spec.Key).Pins {
			if f := float64(pin.Frame); f >= first && f <= last {
				put.Drop = append(put.Drop, pin.Frame)
			}
		}
		number += len(put.Pins)
		r.Ops, r.Pins = append(r.Ops, put), append(r.Pins, at(put.Of, put.Pins)...)
		r.Poses = append(r.Poses, gesture.Pose{Ref: row.Ref}) // no longer shown otherwise
	}
	if len(r.Ops) == 0 {
		return r, fmt.Errorf("nothing was performed: move an armed control while it records")
	}
	r.Note = fmt.Sprintf("performed %s into %s", gesture.Plural(len(r.Ops), "control"), gesture.Plural(number, "pin"))
	return r, nil
}
