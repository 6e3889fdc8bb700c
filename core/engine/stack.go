package engine

import (
	"math"

	"wunderkammer/core/curve"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// stack is a driven component that takes more than one plain wire: several links, maps, weights,
// delays, operations.
type stack struct {
	slot, own int32
	spec      *scene.Spec
	partial   bool // without limits
	back      bool // feedback: before frame 0 it has its own value
	steps     []step
}

// step is one wire of a stack, made ready.
type step struct {
	link.Wire
	curve *curve.Track // of a map
	stops []scene.MapStop
	echo  *echo
	heard int32 // the slot of the source, for the echo
}

// sortTargets tells the targets that one plain wire drives from those that are stacks, and from
// formulas.
func (p *Plan) sortTargets(targets []link.Target) (plain []link.Target, stacks []stack, formulas []link.Target) {
	for _, t := range targets {
		switch {
		case t.Formula != nil:
			formulas = append(formulas, t)
			continue
		case len(t.Wires) == 1 && t.Wires[0].Plain() && !t.Partial && !p.order.Feedback(t.Made()):
			plain = append(plain, t)
			continue
		}
		s := stack{slot: t.Slot, own: t.Own, spec: t.Spec, partial: t.Partial, back: !t.Partial && p.order.Feedback(t.Made())}
		for _, w := range t.Wires {
			one := step{Wire: w}
			if w.Link.Kind == scene.Map {
				one.stops = w.Link.Stops
				one.curve = p.mapCurve(&w, t.Spec)
			}
			if w.Delay != 0 {
				one.echo, one.heard = p.heard[w.Heard()], w.Heard()
			}
			s.steps = append(s.steps, one)
		}
		stacks = append(stacks, s)
	}
	return plain, stacks, formulas
}

// mapCurve is the response of a map: its input in place of frames.
func (p *Plan) mapCurve(w *link.Wire, target *scene.Spec) *curve.Track {
	n := len(w.Link.Stops)
	in, out, easings := make([]float64, n), make([]float64, n), make([]curve.Easing, n)
	for i, s := range w.Link.Stops {
		in[i], easings[i] = s.In, s.Easing
		if target.Jumps() {
			easings[i] = curve.Hold
		}
		if w.Text {
			out[i] = p.handle(s.Out.Str())
		} else {
			out[i] = s.Out.At(w.Part)
		}
	}
	t := curve.New(in, out, easings)
	return &t
}

// response returns what a map gives at an input.
func (s *step) response(x float64) float64 {
	first, last := s.stops[0].In, s.stops[len(s.stops)-1].In
	if x >= first && x <= last {
		return s.curve.At(x)
	}
	span := last - first
	switch s.Link.Beyond {
	case scene.Repeat:
		return s.curve.At(x - float64(span*math.Floor((x-first)/span)))
	case scene.Mirror:
		turns := math.Floor((x - first) / span)
		rest := x - first - float64(span*turns)
		if math.Mod(turns, 2) != 0 {
			rest = span - rest
		}
		return s.curve.At(first + rest)
	case scene.GoOn:
		// Straight ahead from the end, as steep as the outermost span is on the whole.
		a, b := s.stops[0].In, s.stops[1].In
		end := first
		if x > last {
			a, b = s.stops[len(s.stops)-2].In, last
			end = last
		}
		slope := (s.curve.At(b) - s.curve.At(a)) / (b - a)
		return s.curve.At(end) + float64(slope*(x-end))
	}
	return s.curve.At(x)
}

// stackUp works out a driven component: it begins with its own value; each link turns its source,
// as it was a delay ago, into a value, which replaces what is below it, is added to it or multiplies
// it, mixed in by the link's weight; at the end, once, come the limits. A link that has nothing
// finite to say passes on what is below it. What only ever jumps is replaced from half of the weight.
func (p *Plan) stackUp(c *column, s *stack) {
	below := c.own[s.own]
	if s.back && c.frame < 0 {
		c.values[s.slot] = below
		return
	}
	for k := range s.steps {
		one := &s.steps[k]
		var source float64
		if one.echo != nil {
			source = p.hear(one.echo, one.heard, c.frame-one.Delay, c.frame)
		} else {
			source = c.values[one.Source]
		}
		v := float64(source*one.Gain) + one.Offset
		if one.curve != nil {
			v = float64(one.response(source)*one.Gain) + one.Offset
		}
		switch one.Link.Operation {
		case scene.Plus:
			v = below + v
		case scene.Multiply:
			v = float64(below * v)
		}
		if v-v != 0 { // not finite
			continue
		}
		if one.Weight >= 0 || one.Share != 1 {
			share := one.Share
			if one.Weight >= 0 {
				share = c.values[one.Weight] / 100
			}
			switch {
			case s.spec.Type == scene.Text || s.spec.Jumps():
				if share < 0.5 {
					v = below
				}
			case share != 1:
				v = below + float64((v-below)*share)
			}
		}
		below = v
	}
	if s.spec.Type != scene.Text && !s.partial {
		below = s.spec.Limit(below)
	}
	c.values[s.slot] = below
}

// Response returns what the map of a link gives at evenly spaced inputs: all of them for its first
// component, then for the next; nil where there is no such map.
func (p *Plan) Response(ref scene.Ref, id scene.ID, from, to float64, steps int) []float64 {
	var out []float64
	for _, l := range p.levels {
		for _, s := range l.stacks {
			for k := range s.steps {
				if one := &s.steps[k]; one.curve == nil || one.Link.ID != id {
					continue
				}
				if _, slot := p.Layout.Find(ref.Item, ref.Property); slot < 0 || s.slot < slot || s.slot >= slot+4 {
					continue
				}
				for i := range steps {
					x := from
					if steps > 1 {
						x += (to - from) * float64(i) / float64(steps-1)
					}
					out = append(out, s.steps[k].response(x))
				}
			}
		}
	}
	return out
}
