package engine

import (
	"math"

	"wunderkammer/core/curve"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// stack is a driven component that takes more than one plain wire: several links, maps, weights,
// delays, operations.
type stack struct {
	slot, own int32
	target    *wire.Target
	spec      *scene.Spec
	partial   bool // without limits
	layers    []layer
}

// layer is one wire of a stack, made ready.
type layer struct {
	wire.Wire
	curve    *curve.Track // of a map
	stops    []scene.MapStop
	late     bool  // it looks at the source as it was
	original int32 // the slot of the source, in the layout
}

// sortTargets tells the targets that one plain wire drives from those that are stacks, from formulas, and from what is made of
// lists.
func (p *Plan) sortTargets(targets []*wire.Target) (plain []*wire.Target, stacks []stack, formulas, reduced []*wire.Target) {
	plain = make([]*wire.Target, 0, len(targets))
	for _, t := range targets {
		switch {
		case t.Formula != nil:
			formulas = append(formulas, t)
			continue
		case t.Reduced() != nil:
			reduced = append(reduced, t)
			continue
		case len(t.Wires) == 1 && t.Wires[0].Plain() && !t.Partial && !p.order.Feedback(t.Original()):
			plain = append(plain, t)
			continue
		}
		s := stack{slot: t.Slot, own: t.Own, target: t, spec: t.Spec, partial: t.Partial}
		for _, w := range t.Wires {
			one := layer{Wire: w}
			if w.Response != nil {
				one.stops = w.Response.Stops
				one.curve = p.responseOf(&w, t.Spec)
			}
			if w.Delay != 0 {
				one.late, one.original = true, w.Original()
			}
			s.layers = append(s.layers, one)
		}
		stacks = append(stacks, s)
	}
	return plain, stacks, formulas, reduced
}

// responseOf is the response of a wire as a curve: its input in place of frames.
func (p *Plan) responseOf(w *wire.Wire, target *scene.Spec) *curve.Track {
	n := len(w.Response.Stops)
	in, out, easings := make([]float64, n), make([]float64, n), make([]curve.Easing, n)
	for i, s := range w.Response.Stops {
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
func (s *layer) response(x float64) float64 {
	first, last := s.stops[0].In, s.stops[len(s.stops)-1].In
	if x >= first && x <= last {
		return s.curve.At(x)
	}
	span := last - first
	switch s.Response.Beyond {
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
func (p *Plan) stackUp(c *snapshot, s *stack) {
	below := c.own[s.own]
	for k := range s.layers {
		one := &s.layers[k]
		var source, weight float64
		if one.late {
			source = p.past.Value(one.original, c.frame-one.Delay, c.frame)
		} else {
			source = c.values[one.Source]
		}
		if one.Weight >= 0 {
			weight = c.values[one.Weight]
		}
		below = one.over(s.spec, below, source, weight)
	}
	c.values[s.slot] = s.limit(below)
}

// over lays one link over what is below it; weight is what stands in its slot, where it has one.
func (s *layer) over(target *scene.Spec, below, source, weight float64) float64 {
	v := float64(source*s.Gain) + s.Offset
	if s.curve != nil {
		v = float64(s.response(source)*s.Gain) + s.Offset
	}
	switch s.Link.Operation {
	case scene.Plus:
		v = below + v
	case scene.Multiply:
		v = float64(below * v)
	}
	if v-v != 0 { // not finite
		return below
	}
	if s.Weight < 0 && s.Share == 1 {
		return v
	}
	share := s.Share
	if s.Weight >= 0 {
		share = num.Clamp(weight/100, 0, 1)
		if share != share {
			return below
		}
	}
	switch {
	case target.Type.Jumps():
		if share < 0.5 {
			v = below
		}
	case share != 1:
		v = below + float64((v-below)*share)
	}
	return v
}

// limit keeps the result within the limits of the target.
func (s *stack) limit(v float64) float64 {
	if s.spec.Type == scene.Text || s.partial {
		return v
	}
	return s.spec.Limit(v)
}

// ahead asks at once for what stacks look at at other times.
func (p *Plan) ahead(c *snapshot, late []lateRead) {
	missing := false
	for _, l := range late {
		missing = p.past.Want(l.slot, c.frame-l.delay) || missing
	}
	if missing {
		p.foresee(c)
		p.past.Fetch()
	}
}

// lateRead is a look of a link at its source as it was.
type lateRead struct {
	slot  int32
	delay float64
}

// lateReads lists those of stacks.
func lateReads(stacks []stack) (out []lateRead) {
	for _, s := range stacks {
		for k := range s.layers {
			if s.layers[k].late {
				out = append(out, lateRead{s.layers[k].original, s.layers[k].Delay})
			}
		}
	}
	return out
}

// Response returns what the map of a link gives at evenly spaced inputs: all of them for its first
// component, then for the next; nil where there is no such map.
func (p *Plan) Response(ref scene.Ref, id scene.ID, from, to float64, steps int) []float64 {
	var out []float64
	whole := scene.Ref{Item: ref.Item, Property: ref.Property}
	for _, l := range p.levels {
		for _, s := range l.stacks {
			for k := range s.layers {
				if one := &s.layers[k]; one.curve == nil || one.Link.ID != id || s.target.Ref(p.Layout) != whole {
					continue
				}
				for i := range steps {
					x := from
					if steps > 1 {
						x += (to - from) * float64(i) / float64(steps-1)
					}
					out = append(out, s.layers[k].response(x))
				}
			}
		}
	}
	return out
}
