package gesture

import (
	"wunderkammer/core/change"
	"wunderkammer/core/scene"
)

// IntoStop gives what a gesture sets to a stop of a control of poses in place of the document: while one is posed, all of it;
// else what is changed of a property that poses move, where their control stands at one of its stops.
func (c *Context) IntoStop(r Result, posing *AtStop) (Result, error) {
	if posing == nil {
		return c.intoOwnStops(r), nil
	}
	item, control, at, err := c.stop(*posing)
	if err != nil {
		return Result{}, err
	}
	self := scene.Ref{Item: item.ID, Property: string(control.ID)}
	out := Result{Made: r.Made, Note: r.Note, Details: r.Details}
	take := func(ref scene.Ref, v scene.Value) bool {
		on := c.Composition.Item(ref.Item)
		if on == nil || ref == self {
			return false
		}
		spec := on.Spec(ref.Property)
		if spec == nil || spec.ReadOnly {
			return false
		}
		if v.Absent() {
			v = spec.Default
		}
		out.Ops = append(out.Ops, c.held(on, spec, self, control, at, v))
		return true
	}
	for _, op := range r.Ops {
		switch o := op.(type) {
		case *change.OwnSet:
			if take(scene.Ref{Item: o.Item, Property: o.Property}, o.Value) {
				continue
			}
		case *change.PinsPut: // a value that was set is pinned where there are pins; a pin that holds what is there is only a pin
			ref := scene.Ref{Item: o.Item, Property: o.Property}
			if len(o.Drop) == 0 && len(o.Pins) == 1 && o.Pins[0].Frame == c.Frame && o.Pins[0].Value != c.Plan.Own(o.Item, o.Property) && take(ref, o.Pins[0].Value) {
				continue
			}
		}
		out.Ops = append(out.Ops, op)
	}
	for _, p := range r.Poses {
		if p.Value.Absent() || !take(scene.Ref{Item: p.Ref.Item, Property: p.Ref.Property}, p.Value) {
			out.Poses = append(out.Poses, p)
		}
	}
	return out, nil
}

// held returns the operation that lets a link of poses hold a value at a stop: the one that is there, or a new one, at whose other
// stops the property stays as it is. A property that moves by itself, by pins or links, has the difference added to it.
func (c *Context) held(on *scene.Item, spec *scene.Spec, source scene.Ref, control *scene.Control, at int, v scene.Value) change.Op {
	state := on.State(spec.Key)
	whole := scene.Ref{Item: on.ID, Property: spec.Key}
	shown := c.Plan.Value(whole)
	for k := len(state.Links) - 1; k >= 0; k-- {
		l := state.Links[k]
		if l.Kind != scene.Posed || l.Source != source || l.Component != "" || l.Off || l.Operation == scene.Multiply {
			continue
		}
		altered := l.Clone()
		if l.Operation == scene.Plus {
			was, ok := l.HeldAt(control.Poses[at].ID)
			if !ok {
				was = scene.NewValue(c.Plan.Response(whole, l.ID, control.PoseAt(at), control.PoseAt(at), 1))
			}
			v = plus(was, v, shown)
		}
		altered.MakeRoom(control)
		altered.Hold(control.Poses[at].ID, v)
		return &change.LinkSet{Of: c.of(on.ID, spec.Key), Link: altered}
	}
	l := &scene.Link{ID: c.NewID(), Kind: scene.Posed, Source: source, Gain: 1}
	rest := shown
	if moves := len(state.Pins) > 0 || c.moved(on, spec); moves && !spec.Jumps() {
		l.Operation = scene.Plus
		rest = scene.NewValue(make([]float64, shown.Len()))
		v = plus(rest, v, shown)
	}
	for k, s := range control.Poses {
		if k == at {
			l.Hold(s.ID, v)
		} else {
			l.Hold(s.ID, rest)
		}
	}
	return &change.LinkAdd{Of: c.of(on.ID, spec.Key), Link: l, At: -1}
}

// plus returns a value with the way from one to another added.
func plus(v, to, from scene.Value) scene.Value {
	for k := range v.Len() {
		v = v.With(k, v.At(k)+to.At(k)-from.At(k))
	}
	return v
}

// intoOwnStops gives to the stop at which a control of poses stands what is changed of the properties that it moves.
func (c *Context) intoOwnStops(r Result) Result {
	kept := r.Poses[:0:0]
	for _, p := range r.Poses {
		if op := c.atItsStop(p); op != nil {
			r.Ops = append(r.Ops, op)
		} else {
			kept = append(kept, p)
		}
	}
	r.Poses = kept
	return r
}

func (c *Context) atItsStop(p Pose) change.Op {
	on := c.Composition.Item(p.Ref.Item)
	if p.Value.Absent() || on == nil || on.Spec(p.Ref.Property) == nil {
		return nil
	}
	links := on.State(p.Ref.Property).Links
	for k := len(links) - 1; k >= 0; k-- {
		l := links[k]
		if l.Off {
			continue
		}
		if l.Kind != scene.Posed || l.Component != "" {
			return nil
		}
		owner := c.Composition.Item(l.Source.Item)
		if owner == nil || owner.Control(scene.ID(l.Source.Property)) == nil {
			return nil
		}
		control := owner.Control(scene.ID(l.Source.Property))
		now := c.Plan.Value(l.Source).At(0)
		for at := range control.Poses {
			if control.PoseAt(at) == now {
				return c.held(on, on.Spec(p.Ref.Property), l.Source, control, at, p.Value)
			}
		}
		return nil
	}
	return nil
}
