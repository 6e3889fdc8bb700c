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
	// Began are the frames at which the hand took each of them, where what it does is added to how they move.
	Began []float64 `json:"began,omitempty" ts:"list"`
}

// Do returns the values that are shown.
func (g *Show) Do(c *gesture.Context) (gesture.Result, error) {
	if len(g.Began) > 0 && len(g.Began) != len(g.Values) {
		return gesture.Result{}, fmt.Errorf("%d values are shown, of %d hands", len(g.Values), len(g.Began))
	}
	shown := slices.Clone(g.Values)
	for k, v := range shown {
		item, spec, err := c.Property(v.Ref)
		if err != nil {
			return gesture.Result{}, err
		}
		if err := v.Value.Fits(spec.Type); err != nil && !v.Value.Absent() {
			return gesture.Result{}, fmt.Errorf("%s: %s: %w", item.Name, spec.Name, err)
		}
		if len(g.Began) > 0 && !v.Value.Absent() {
			shown[k].Value = added(c, item, spec, g.Began[k])(v.Value, float64(c.Frame))
		}
	}
	return gesture.Result{Poses: shown}, nil
}

// added returns what a hand makes of a property that it took at a frame, and adds to: how that moves by itself, and how far the
// hand is from where it was then, within the limits of the property. What jumps cannot be added to.
func added(c *gesture.Context, item *scene.Item, spec *scene.Spec, began float64) func(v scene.Value, frame float64) scene.Value {
	state := item.State(spec.Key)
	if spec.Jumps() || len(state.Pins) == 0 {
		return func(v scene.Value, _ float64) scene.Value { return v }
	}
	tracks, took := spec.Tracks(state.Pins, nil), make([]float64, spec.Type.Size())
	for k := range tracks {
		tracks[k].GoOn(state.Beyond)
		took[k] = tracks[k].At(began)
	}
	return func(v scene.Value, frame float64) scene.Value {
		for k := range tracks {
			v = v.With(k, spec.Part(k).Limit(tracks[k].At(frame)+(v.At(k)-took[k])))
		}
		return v
	}
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
	// Adds adds what the hand did to how they move, from the frame on at which it took them.
	Adds bool `json:"adds,omitempty"`
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
		add := func(v scene.Value, _ float64) scene.Value { return v }
		if g.Adds {
			add = added(c, item, spec, row.Frames[0])
		}
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
			put.Pins = append(put.Pins, scene.Pin{Frame: int(f), Value: add(v, f), Easing: easing})
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

// Performable returns why a performance of a property would not be seen, as a sentence; nil where it would.
func Performable(c *gesture.Context, ref scene.Ref) error {
	item, spec, err := c.Property(ref)
	if err != nil || !c.Driven(item, spec, "") {
		return err
	}
	by := c.Drivers(item, spec, "")
	return fmt.Errorf("%s is driven by %s, so what is performed with it would not be seen; perform that, or turn the link off", c.Composition.NameOf(ref), by[len(by)-1].Name(c.Composition))
}
