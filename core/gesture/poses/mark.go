package poses

import (
	"cmp"
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/formula"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/graph"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// Mark makes a stop of the map that drives each property: the present value of the property at the
// present value of the map's source. A follow link becomes a map by it.
type Mark struct {
	Targets []scene.Ref `json:"targets"`
	Which   string      `json:"which"` // low, high, here
}

// Do returns the operations that set the stops; the poses of what was marked are taken back.
func (g *Mark) Do(c *gesture.Context) (gesture.Result, error) {
	var r gesture.Result
	added := map[scene.ID]scene.ID{} // by control: the stop that was made where it stands
	rows := &rowMarks{Context: c, r: &r, which: g.Which}
	for _, ref := range g.Targets {
		item, spec, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
		}
		if l := posedBy(c, item, spec, ref.Component); l != nil {
			if err := markPose(c, &r, added, item, spec, l, g.Which); err != nil {
				return gesture.Result{}, err
			}
			continue
		}
		if row := rowOver(c, item, spec, ref.Component); row != nil {
			rows.take(row, scene.Member{Item: item, Key: spec.Key})
			continue
		}
		l := marked(c, item, spec, ref.Component)
		if l != nil && link.Of(l).Graphed {
			op, err := markSlip(c, l, scene.Ref{Item: ref.Item, Property: ref.Property, Component: l.Component}, g.Which)
			if err != nil {
				return gesture.Result{}, err
			}
			r.Ops = append(r.Ops, op)
			r.Poses = append(r.Poses, gesture.Pose{Ref: scene.Ref{Item: item.ID, Property: spec.Key}})
			continue
		}
		if l == nil {
			return gesture.Result{}, fmt.Errorf("%s: nothing drives %s yet; link it first, then set its stops", item.Name, spec.Name)
		}
		if l, err = withStop(c, &r, l, item, spec, g.Which); err != nil {
			return gesture.Result{}, err
		}
		r.Ops = append(r.Ops, &change.LinkSet{Of: c.Of(item.ID, spec.Key), Link: l})
		r.Poses = append(r.Poses, gesture.Pose{Ref: scene.Ref{Item: item.ID, Property: spec.Key}})
	}
	return r, rows.mark()
}

// withStop returns a link, a map or a follow link that becomes one, with a stop at which its property is where it is now.
func withStop(c *gesture.Context, r *gesture.Result, l *scene.Link, item *scene.Item, spec *scene.Spec, which string) (*scene.Link, error) {
	source := c.Plan().Value(l.Source)
	if source.Len() != 1 {
		return nil, fmt.Errorf("%s: the source of %s must be a single number", item.Name, spec.Name)
	}
	_, from, err := c.Property(l.Source)
	if err != nil {
		return nil, err
	}
	if link.Of(l).Linear {
		if l, err = wiring.Mapped(c, l, from, spec); err != nil {
			return nil, fmt.Errorf("%s: %w", item.Name, err)
		}
	}
	stop := scene.MapStop{In: source.At(0), Easing: curve.Linear}
	if stop.Out, err = given(c, l, scene.Ref{Item: item.ID, Property: spec.Key, Component: l.Component}); err != nil {
		return nil, err
	}
	if to, ok := away(c, l, stop.In, which); ok {
		stop.In = to
		r.Ops = append(r.Ops, &change.OwnSet{Of: c.Of(l.Source.Item, l.Source.Property), Value: scene.Num(to)})
	}
	l.Stops, err = stopPut(l.Stops, stop, which, c.Composition.NameOf(l.Source))
	return l, err
}

// given returns what a map has to give for a property to be where it is now, posed or not: without what the link adds to it, and what
// is below.
func given(c *gesture.Context, l *scene.Link, ref scene.Ref) (scene.Value, error) {
	now := c.Plan().Value(ref)
	if now.Len() == 0 { // a text
		return now, nil
	}
	part := func(k int) int {
		if l.Component != "" {
			return -1
		}
		return k
	}
	if l.Operation == scene.Replace {
		for k := range now.Len() {
			if l.Gain != 0 {
				now = now.With(k, (now.At(k)-l.Offset-l.Offsets.At(part(k)))/l.Gain)
			}
		}
		return now, nil
	}
	was := c.Plan().Unposed(ref)
	gives, err := formula.Through(l.Stops, l.Beyond, c.Plan().Value(l.Source).At(0))
	if err != nil || gives[0].Len() != now.Len() || was.Len() != now.Len() {
		return now, err
	}
	out := gives[0]
	for k := range now.Len() {
		switch {
		case l.Operation == scene.Multiply && was.At(k) != 0:
			out = out.With(k, out.At(k)*now.At(k)/was.At(k))
		case l.Operation == scene.Plus && l.Gain != 0:
			out = out.With(k, out.At(k)+(now.At(k)-was.At(k))/l.Gain)
		}
	}
	return out, nil
}

// posedBy returns the link of poses that drives a property, where it is the topmost of all.
func posedBy(c *gesture.Context, item *scene.Item, spec *scene.Spec, component string) *scene.Link {
	by := c.Drivers(item, spec, component)
	if len(by) == 0 || by[len(by)-1].Row != nil || !link.Of(by[len(by)-1].Link).Posed || by[len(by)-1].Link.Component != "" {
		return nil
	}
	return by[len(by)-1].Link
}

// markPose has a link of poses hold what a property is at now: at its first stop, at its last, or at one where its control stands,
// which is made where there is none.
func markPose(c *gesture.Context, r *gesture.Result, added map[scene.ID]scene.ID, item *scene.Item, spec *scene.Spec, l *scene.Link, which string) error {
	owner, control, err := c.ControlOf(l.Source.Item, scene.ID(l.Source.Property))
	if err != nil {
		return err
	}
	self := scene.Ref{Item: owner.ID, Property: string(control.ID)}
	at := len(control.Poses) - 1
	switch which {
	case "low":
		at = 0
	case "here":
		now := c.Plan().Value(self).At(0)
		at = slices.IndexFunc(control.Poses, func(s scene.PoseStop) bool {
			return s.ID == added[control.ID] || control.Kind == scene.Fader && s.At == now
		})
		if at < 0 && added[control.ID] == "" {
			made, err := (&AddStop{Item: owner.ID, Control: control.ID}).Do(c)
			if err != nil {
				return err
			}
			r.Ops = append(r.Ops, made.Ops...)
			added[control.ID] = made.Made[0]
		}
	}
	whole := scene.Ref{Item: item.ID, Property: spec.Key}
	r.Poses = append(r.Poses, gesture.Pose{Ref: whole})
	if at >= 0 {
		r.Ops = append(r.Ops, held(c, item, spec, self, control, at, c.Plan().Value(whole)))
		return nil
	}
	altered := l.Clone()
	v := c.Plan().Value(whole)
	if l.Operation == scene.Plus {
		gives := scene.NewValue(c.Plan().Response(whole, l.ID, c.Plan().Value(self).At(0), c.Plan().Value(self).At(0), 1))
		v = plus(gives, v, c.Plan().Unposed(whole))
	}
	altered.MakeRoom(control)
	altered.Hold(added[control.ID], v)
	r.Ops = append(r.Ops, &change.LinkSet{Of: c.Of(item.ID, spec.Key), Link: altered})
	return nil
}

// away returns where the source of a map is to move for a mark: to its other end, where it stands at the stop that the mark is
// to be set apart from, and is a control that nothing drives.
func away(c *gesture.Context, l *scene.Link, at float64, which string) (to float64, ok bool) {
	item := c.Composition.Item(l.Source.Item)
	spec := item.Spec(l.Source.Property)
	if item.Control(scene.ID(spec.Key)) == nil || spec.Type != scene.Number || c.Driven(item, spec, "") || len(item.State(spec.Key).Pins) > 0 {
		return 0, false
	}
	last := len(l.Stops) - 1
	switch {
	case which == "high" && at <= l.Stops[last-1].In && spec.SoftMax > l.Stops[last-1].In:
		return spec.SoftMax, true
	case which == "low" && at >= l.Stops[1].In && spec.SoftMin < l.Stops[1].In:
		return spec.SoftMin, true
	}
	return 0, false
}

// marked returns a copy of the link that a mark on a property is about: the topmost that is on, a map
// before any other; one of a graph is as good as its map.
func marked(c *gesture.Context, item *scene.Item, spec *scene.Spec, component string) *scene.Link {
	var found *scene.Link
	for _, l := range item.State(spec.Key).Links {
		kind := link.Of(l)
		if l.Off || !kind.Linear && !kind.Stops && !kind.Graphed || (component != "" && l.Component != "" && l.Component != component) {
			continue
		}
		if found == nil || kind.Stops || !link.Of(found).Stops {
			found = l
		}
	}
	if found == nil {
		return nil
	}
	return found.Clone()
}

// stopPut puts a stop where a mark wants it.
func stopPut(stops []scene.MapStop, stop scene.MapStop, which, source string) ([]scene.MapStop, error) {
	stops = slices.Clone(stops)
	last := len(stops) - 1
	switch which {
	case "low":
		if stop.In >= stops[1].In {
			return nil, fmt.Errorf("the low stop must come before the next stop: %s is at %s, and that stop at %s. Lower the source first", source, scene.Exact(stop.In), scene.Exact(stops[1].In))
		}
		stop.Easing = stops[0].Easing
		stops[0] = stop
	case "high":
		if stop.In <= stops[last-1].In {
			return nil, fmt.Errorf("the high stop must come after the stop before it: %s is at %s, and that stop at %s. Raise the source first", source, scene.Exact(stop.In), scene.Exact(stops[last-1].In))
		}
		stops[last] = stop
	default:
		at, there := slices.BinarySearchFunc(stops, stop.In, func(s scene.MapStop, x float64) int { return cmp.Compare(s.In, x) })
		if !there {
			return slices.Insert(stops, at, stop), nil
		}
		stop.Easing = stops[at].Easing
		stops[at] = stop
	}
	return stops, nil
}

// MarkSlip makes a stop of a map slip: at the present value of what is led to it, the present value of the first property
// that a drive slip behind it drives. Where it leads to none, the stop gives what the map gives there.
type MarkSlip struct {
	Graph scene.ID `json:"graph"`
	Slip  scene.ID `json:"slip"`
	Which string   `json:"which"` // low, high, here
}

// Do returns the operation that sets the stop; the poses of what was marked are taken back.
func (g *MarkSlip) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	for _, d := range graph.Drives(c.Composition, on.ID) {
		if w, _ := on.WireTo(d.Link.Slip, graph.In); w != nil && w.From == g.Slip && w.Out == "" && d.RosterLink == "" {
			ref := d.Ref
			ref.Component = d.Link.Component
			op, err := markSlip(c, d.Link, ref, g.Which)
			return gesture.Result{Ops: change.Ops{op}, Poses: []gesture.Pose{{Ref: d.Ref}}}, err
		}
	}
	slip, _ := on.Slip(g.Slip)
	if slip == nil || slip.Kind != scene.MapSlip {
		return gesture.Result{}, fmt.Errorf("that is no longer a map")
	}
	if g.Which != "here" {
		return gesture.Result{}, fmt.Errorf("the map doesn't lead directly to one property, so no stop can be set from the picture; connect it to a drive slip, or type its stops")
	}
	x, err := comesTo(c, on, slip, scene.Ref{})
	if err != nil {
		return gesture.Result{}, err
	}
	out, err := formula.Through(slip.Stops, slip.Beyond, x)
	if err != nil {
		return gesture.Result{}, err
	}
	op, err := stopAt(c, on, slip, scene.MapStop{In: x, Out: out[0], Easing: curve.Linear}, g.Which)
	return gesture.Result{Ops: change.Ops{op}}, err
}

// markSlip marks in the map that leads straight to the drive slip of a link.
func markSlip(c *gesture.Context, l *scene.Link, ref scene.Ref, which string) (change.Op, error) {
	name := c.Composition.NameOf(ref)
	on, err := c.Graph(l.Graph)
	if err != nil {
		return nil, err
	}
	w, _ := on.WireTo(l.Slip, graph.In)
	if w == nil || w.Out != "" {
		return nil, fmt.Errorf("%s: no map in the graph leads directly to it, so there is no stop to set", name)
	}
	slip, _ := on.Slip(w.From)
	if slip.Kind != scene.MapSlip {
		return nil, fmt.Errorf("%s: the graph drives it with %s, which is not a map, so there is no stop to set", name, graph.Called(slip))
	}
	x, err := comesTo(c, on, slip, ref)
	if err != nil {
		return nil, err
	}
	return stopAt(c, on, slip, scene.MapStop{In: x, Out: c.Plan().Value(ref), Easing: curve.Linear}, which)
}

// stopAt puts a stop into a map slip. One of another type than the others begins the map anew.
func stopAt(c *gesture.Context, on *scene.Graph, slip *scene.Slip, stop scene.MapStop, which string) (change.Op, error) {
	marked := slip.Clone()
	if kind := stop.Out.Kind(); stop.Out.Fits(marked.Stops[0].Out.Kind()) != nil {
		for k := range marked.Stops {
			if stop.Out.Fits(kind) != nil {
				return nil, fmt.Errorf("%s gives no value to store as a stop", graph.Called(slip))
			}
			marked.Stops[k].Out = stop.Out
		}
	}
	var err error
	marked.Stops, err = stopPut(marked.Stops, stop, which, "what is led to "+graph.Called(slip))
	return &change.SlipSet{In: c.In(), Graph: on.ID, Value: marked}, err
}

// comesTo returns the number that is led to a map slip at the frame, in the place of a property.
func comesTo(c *gesture.Context, on *scene.Graph, slip *scene.Slip, ref scene.Ref) (float64, error) {
	text, err := graph.LowerInput(on, slip.ID, graph.First)
	if err != nil {
		return 0, err
	}
	compiled, values := c.Plan().Try(text, ref, c.Plan().Frame())
	if len(values) == 0 || values[0].Len() != 1 && compiled.Type.Of != scene.Number || values[0].At(0)-values[0].At(0) != 0 {
		return 0, fmt.Errorf("the input of %s is not a single number at this frame, so no stop can be set", graph.Called(slip))
	}
	return values[0].At(0), nil
}
