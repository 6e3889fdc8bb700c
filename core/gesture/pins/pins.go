// Package pins has the gestures that set values and pin them, move and ease pins, and bake what is driven into them.
package pins

import (
	"fmt"
	"math"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// picked is the pins of one property that a gesture is about.
type picked struct {
	of   change.Of
	item *scene.Item
	spec *scene.Spec
	pins []scene.Pin
}

// gather sorts named pins by property, in the order they were named first. One that is named twice is picked once.
func gather(c *gesture.Context, named []gesture.PinAt) ([]*picked, error) {
	var out []*picked
	places, once := map[scene.Ref]*picked{}, map[gesture.PinAt]bool{}
	for _, n := range named {
		if once[n] {
			continue
		}
		once[n] = true
		item, spec, err := c.Property(scene.Ref{Item: n.Item, Property: n.Property})
		if err != nil {
			return nil, err
		}
		state := item.State(spec.Key)
		at, there := state.PinAt(n.Frame)
		if !there {
			return nil, fmt.Errorf("%s: %s no longer has a pin at frame %d", item.Name, spec.Name, n.Frame)
		}
		of := scene.Ref{Item: item.ID, Property: spec.Key}
		p := places[of]
		if p == nil {
			p = &picked{of: c.Of(item.ID, spec.Key), item: item, spec: spec}
			places[of], out = p, append(out, p)
		}
		p.pins = append(p.pins, state.Pins[at])
	}
	return out, nil
}

// frames lists the frames of the pins.
func (p *picked) frames() []int {
	out := make([]int, len(p.pins))
	for i, pin := range p.pins {
		out[i] = pin.Frame
	}
	return out
}

// MovePins moves pins in time and in value, or copies of them.
type MovePins struct {
	Pins []gesture.PinAt `json:"pins"`
	By   int             `json:"by"`             // frames
	Copy bool            `json:"copy,omitempty"` // they stay, and copies go
	// Rise is added to their values, within limits: to one component, where that is named, of those that have it; else to single
	// numbers.
	Rise      float64 `json:"rise,omitempty"`
	Component string  `json:"component,omitempty"`
	Landing
}

// lift adds to the values of pins, as MovePins says.
func (g *MovePins) lift(p *picked) {
	k, ok := p.spec.Type.Component(g.Component)
	if !ok || p.spec.Type.Jumps() || g.Component == "" && p.spec.Type.Size() > 1 {
		return
	}
	limits := p.spec.Part(k)
	for n, pin := range p.pins {
		p.pins[n].Value = pin.Value.With(k, limits.Limit(pin.Value.At(k)+g.Rise))
	}
}

// Do returns the operations that move the pins.
func (g *MovePins) Do(c *gesture.Context) (gesture.Result, error) {
	groups, err := gather(c, g.Pins)
	if err != nil || g.By == 0 && g.Rise == 0 {
		return gesture.Result{}, err
	}
	if !(math.Abs(g.Rise) <= scene.MaxMagnitude) {
		return gesture.Result{}, fmt.Errorf("pins can't be raised by %g", g.Rise)
	}
	for _, p := range groups {
		g.lift(p)
	}
	if !g.Copy {
		return retimed(c, groups, func(_, frame int) float64 { return float64(frame + g.By) }, g.Landing)
	}
	l := &lands{c: c}
	for _, p := range groups {
		for k := range p.pins {
			p.pins[k].Frame += g.By
		}
		if err := l.put(p.of, p.pins, nil); err != nil {
			return gesture.Result{}, err
		}
	}
	return l.result(g.Landing), nil
}

// EasePins says how the value travels on from pins.
type EasePins struct {
	Pins   []gesture.PinAt `json:"pins"`
	Easing curve.Easing    `json:"easing" ts:"text"`
}

// Do returns the operations that set the easing; values that always hold are passed over.
func (g *EasePins) Do(c *gesture.Context) (gesture.Result, error) {
	groups, err := gather(c, g.Pins)
	if err != nil {
		return gesture.Result{}, err
	}
	var r gesture.Result
	for _, p := range groups {
		r.Pins = append(r.Pins, at(p.of, p.pins)...)
		if p.spec.Jumps() {
			r.Note = fmt.Sprintf("%s holds between pins; easing doesn't apply", p.spec.Name)
			continue
		}
		for i := range p.pins {
			p.pins[i].Easing = g.Easing
		}
		r.Ops = append(r.Ops, &change.PinsPut{Of: p.of, Pins: p.pins})
	}
	return r, nil
}

// DropPins takes pins away. A property that loses its last pin keeps the value it has at the
// playhead.
type DropPins struct {
	Pins []gesture.PinAt `json:"pins"`
}

// Do returns the operations that take the pins away.
func (g *DropPins) Do(c *gesture.Context) (gesture.Result, error) {
	groups, err := gather(c, g.Pins)
	if err != nil {
		return gesture.Result{}, err
	}
	var r gesture.Result
	for _, p := range groups {
		r.Ops = append(r.Ops, without(c, p.item, p.spec, p.frames())...)
	}
	return r, nil
}

// without returns the operations that take pins away; where none is left, the value at the playhead
// becomes the own value.
func without(c *gesture.Context, item *scene.Item, spec *scene.Spec, frames []int) change.Ops {
	of := c.Of(item.ID, spec.Key)
	ops := change.Ops{&change.PinsDrop{Of: of, Frames: frames}}
	if len(frames) == len(item.State(spec.Key).Pins) {
		ops = append(change.Ops{&change.OwnSet{Of: of, Value: c.Plan().Own(item.ID, spec.Key)}}, ops...)
	}
	return ops
}
