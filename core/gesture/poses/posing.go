package poses

import (
	"fmt"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// IntoStop gives what a gesture sets to a stop of a control of poses in place of the document: while one is posed, all of it;
// else what is changed of a property that poses move, where their control stands at one of its stops.
func IntoStop(c *gesture.Context, r gesture.Result, posing *AtStop) (gesture.Result, error) {
	if posing == nil {
		return intoOwnStops(c, r), nil
	}
	item, control, at, err := stop(c, *posing)
	if err != nil {
		return gesture.Result{}, err
	}
	self := scene.Ref{Item: item.ID, Property: string(control.ID)}
	out := gesture.Result{Made: r.Made, Note: r.Note, Details: r.Details}
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
		out.Ops = append(out.Ops, held(c, on, spec, self, control, at, v))
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
			if len(o.Drop) == 0 && len(o.Pins) == 1 && o.Pins[0].Frame == c.Frame && o.Pins[0].Value != c.Plan().Own(o.Item, o.Property) && take(ref, o.Pins[0].Value) {
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
func held(c *gesture.Context, on *scene.Item, spec *scene.Spec, source scene.Ref, control *scene.Control, at int, v scene.Value) change.Op {
	state := on.State(spec.Key)
	whole := scene.Ref{Item: on.ID, Property: spec.Key}
	shown := c.Plan().Value(whole)
	for k := len(state.Links) - 1; k >= 0; k-- {
		l := state.Links[k]
		if l.Kind != scene.Posed || l.Source != source || l.Component != "" || l.Off || l.Operation == scene.Multiply {
			continue
		}
		altered := l.Clone()
		if l.Operation == scene.Plus {
			was, ok := l.HeldAt(control.Poses[at].ID)
			if !ok {
				was = scene.NewValue(c.Plan().Response(whole, l.ID, control.PoseAt(at), control.PoseAt(at), 1))
			}
			v = plus(was, v, shown)
		}
		altered.MakeRoom(control)
		altered.Hold(control.Poses[at].ID, v)
		return &change.LinkSet{Of: c.Of(on.ID, spec.Key), Link: altered}
	}
	l := &scene.Link{ID: c.NewID(), Kind: scene.Posed, Source: source, Gain: 1}
	rest := shown
	if moves := len(state.Pins) > 0 || c.Moved(on, spec); moves && !spec.Jumps() {
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
	return &change.LinkAdd{Of: c.Of(on.ID, spec.Key), Link: l, At: -1}
}

// plus returns a value with the way from one to another added.
func plus(v, to, from scene.Value) scene.Value {
	for k := range v.Len() {
		v = v.With(k, v.At(k)+to.At(k)-from.At(k))
	}
	return v
}

// intoOwnStops gives to the stop at which a control of poses stands what is changed of the properties that it moves.
func intoOwnStops(c *gesture.Context, r gesture.Result) gesture.Result {
	kept := r.Poses[:0:0]
	for _, p := range r.Poses {
		if op := atItsStop(c, p); op != nil {
			r.Ops = append(r.Ops, op)
		} else {
			kept = append(kept, p)
		}
	}
	r.Poses = kept
	return r
}

func atItsStop(c *gesture.Context, p gesture.Pose) change.Op {
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
		now := c.Plan().Value(l.Source).At(0)
		for at := range control.Poses {
			if control.PoseAt(at) == now {
				return held(c, on, on.Spec(p.Ref.Property), l.Source, control, at, p.Value)
			}
		}
		return nil
	}
	return nil
}

// UsePose turns the poses of properties into something that stays, or drops them.
type UsePose struct {
	Targets []scene.Ref `json:"targets"`
	As      string      `json:"as,omitempty"` // own: the own value under the links; offset: of the follow link; empty: drop
}

// Do returns the operations that keep the poses.
func (g *UsePose) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	for _, ref := range g.Targets {
		item, spec, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
		}
		whole := scene.Ref{Item: ref.Item, Property: ref.Property}
		posed := c.Plan().Value(whole)
		r.Poses = append(r.Poses, gesture.Pose{Ref: whole})
		switch g.As {
		case "own":
			by := c.Drivers(item, spec, "")
			hidden := len(by) > 0 && by[len(by)-1].Hides()
			if !hidden && spec.Type != scene.Text && !spec.Jumps() { // what the links add to it stays added
				posed = plus(c.Plan().Own(item.ID, spec.Key), posed, c.Plan().Unposed(whole))
			}
			op, pinned := c.Own(item, spec, posed)
			r.Ops = append(r.Ops, op)
			if hidden {
				kept := "kept as the own value"
				if pinned {
					kept = "pinned under its links"
				}
				r.Note = fmt.Sprintf("%s: %s is %s; it shows where %s doesn’t drive it", item.Name, spec.Name, kept, by[len(by)-1].Name(c.Composition))
			}
		case "offset":
			ops, err := shift(c, item, spec, posed, c.Plan().Unposed(whole))
			if err != nil {
				return gesture.Result{}, err
			}
			r.Ops = append(r.Ops, ops...)
		}
	}
	return r, nil
}

// shift adds to the offsets of the follow link on top of a property what is missing to a value.
func shift(c *gesture.Context, item *scene.Item, spec *scene.Spec, want, now scene.Value) (change.Ops, error) {
	links := item.State(spec.Key).Links
	for at := len(links) - 1; at >= 0; at-- {
		l := links[at]
		if l.Off || !link.Of(l).Linear && !link.Of(l).Posed || l.Operation == scene.Multiply {
			continue
		}
		moved := l.Clone()
		if link.Of(l).Posed { // further by as much at all stops
			part, _ := spec.Type.Component(l.Component)
			for k := range moved.Held {
				if v := moved.Held[k].Value; l.Component != "" {
					moved.Held[k].Value = scene.Num(v.At(0) + want.At(part) - now.At(part))
				} else {
					moved.Held[k].Value = plus(v, want, now)
				}
			}
			return change.Ops{&change.LinkSet{Of: c.Of(item.ID, spec.Key), Link: moved}}, nil
		}
		for k := range spec.Type.Size() {
			if part, _ := spec.Type.Component(l.Component); l.Component == "" || part == k {
				moved.Shift(spec, k, want.At(k)-now.At(k))
			}
		}
		return change.Ops{&change.LinkSet{Of: c.Of(item.ID, spec.Key), Link: moved}}, nil
	}
	if by := c.Drivers(item, spec, ""); len(by) > 0 && by[len(by)-1].Row != nil && spec.Type != scene.Text && !spec.Jumps() {
		// On top of what the row gives, this member alone.
		return change.Ops{&change.LinkAdd{Of: c.Of(item.ID, spec.Key), At: -1, Link: &scene.Link{ID: c.NewID(), Kind: scene.Formula, Gain: 1, Formula: "below + " + wayFrom(now, want)}}}, nil
	}
	return nil, fmt.Errorf("%s: no follow link on %s has an offset; set the pose as a stop of its map instead", item.Name, spec.Name)
}

// wayFrom writes the way from one value to another as a formula does.
func wayFrom(from, to scene.Value) string {
	parts := make([]string, to.Len())
	for k := range parts {
		parts[k] = scene.Exact(to.At(k) - from.At(k))
	}
	if len(parts) == 1 {
		return parts[0]
	}
	return "[" + strings.Join(parts, ", ") + "]"
}
