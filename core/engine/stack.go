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
	slot  int32
	spec  *scene.Spec
	steps []step
}

// step is one wire of a stack, made ready.
type step struct {
	link.Wire
	curve *curve.Track // of a map
	stops []scene.MapStop
	echo  *echo
}

// sortTargets tells the targets that one plain wire drives from those that are stacks.
func (p *Plan) sortTargets(targets []link.Target) (plain []link.Target, stacks []stack) {
	for _, t := range targets {
		if len(t.Wires) == 1 && t.Wires[0].Plain() {
			plain = append(plain, t)
			continue
		}
		s := stack{slot: t.Slot, spec: t.Spec}
		for _, w := range t.Wires {
			one := step{Wire: w}
			if w.Link.Kind == scene.Map {
				one.stops = w.Link.Stops
				one.curve = p.mapCurve(&w, t.Spec)
			}
			if w.Delay != 0 {
				one.echo = p.echo(&w)
			}
			s.steps = append(s.steps, one)
		}
		stacks = append(stacks, s)
	}
	return plain, stacks
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
	below := c.own[s.slot]
	for k := range s.steps {
		one := &s.steps[k]
		source := c.values[one.Source]
		if one.echo != nil {
			source = p.heard(one.echo, one.Source, c.frame-one.Delay)
		}
		v := float64(source*one.Gain) + one.Offset
		if one.curve != nil {
			v = one.response(source)
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
		if one.Weight >= 0 {
			share := c.values[one.Weight] / 100
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
	if s.spec.Type != scene.Text {
		below = s.spec.Limit(below)
	}
	c.values[s.slot] = below
}

// echo is the sources of links with one delay, as they were that long ago. They are those of one
// level, so that none of them is made of another: an echo may ask for echoes of lower levels, and so
// comes to an end.
type echo struct {
	delay float64
	level int32
	slots map[int32]int // where a source stands among the values that are kept
	probe *probe
	kept  map[float64][]float64 // by frame; only ever a cache
}

// maxKept bounds the frames that an echo keeps.
const maxKept = 256

// echo returns the echo that a wire listens to, made if it is not there.
func (p *Plan) echo(w *link.Wire) *echo {
	level := p.order.LevelOf(w.Source)
	for _, e := range p.echoes {
		if e.delay == w.Delay && e.level == level {
			return e
		}
	}
	e := &echo{delay: w.Delay, level: level, slots: map[int32]int{}, kept: map[float64][]float64{}}
	p.echoes = append(p.echoes, e)
	return e
}

func (e *echo) patched(slot int32) {
	if e.probe != nil && e.probe.reads[slot] {
		e.probe = nil
		clear(e.kept)
	}
}

// heard returns the value of a source at a frame.
func (p *Plan) heard(e *echo, slot int32, frame float64) float64 {
	values, ok := e.kept[frame]
	if !ok {
		if e.probe == nil {
			slots := make([]int32, 0, len(e.slots))
			for s := range e.slots {
				slots = append(slots, s)
			}
			for k, s := range slots {
				e.slots[s] = k
			}
			e.probe = p.newProbe(slots, nil)
		}
		if len(e.kept) >= maxKept {
			clear(e.kept)
		}
		values = make([]float64, len(e.slots))
		p.at(e.probe, frame, func(c *column) {
			for s, k := range e.slots {
				values[k] = c.values[s]
			}
		})
		e.kept[frame] = values
	}
	return values[e.slots[slot]]
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
