// Package poses has the gestures that let controls hold values at stops, and those on values that are shown for the time being.
package poses

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/formula"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// AtStop names a stop of a control of poses.
type AtStop struct {
	Item    scene.ID `json:"item"`
	Control scene.ID `json:"control"`
	Stop    scene.ID `json:"stop"`
}

// stop returns the control and the place of the stop in its list.
func stop(c *gesture.Context, at AtStop) (*scene.Item, *scene.Control, int, error) {
	item, control, err := c.ControlOf(at.Item, at.Control)
	if err != nil {
		return nil, nil, 0, err
	}
	k := control.Pose(at.Stop)
	if k < 0 {
		return nil, nil, 0, fmt.Errorf("%s no longer has that stop; it may have been removed in another window", control.Name)
	}
	return item, control, k, nil
}

// GivePoses makes a control of poses of a fader, a choice or a switch: with two stops at the ends of its range, or one for each
// option.
type GivePoses struct {
	Item    scene.ID `json:"item"`
	Control scene.ID `json:"control"`
}

// Do returns the operation that alters the control.
func (g *GivePoses) Do(c *gesture.Context) (gesture.Result, error) {
	item, control, err := c.ControlOf(g.Item, g.Control)
	if err != nil {
		return gesture.Result{}, err
	}
	if !control.Kind.CanPose() {
		return gesture.Result{}, fmt.Errorf("%s is a %s; only a fader, a choice or a switch can have poses", control.Name, control.Kind)
	}
	if len(control.Poses) > 0 {
		return gesture.Result{}, fmt.Errorf("%s has poses already", control.Name)
	}
	altered := control.Clone()
	altered.SetPoses(firstStops(c, control))
	return gesture.Result{Ops: change.Ops{&change.ControlSet{On: c.On(item.ID), Value: altered}}}, nil
}

// firstStops are those that a control begins with.
func firstStops(c *gesture.Context, control *scene.Control) []scene.PoseStop {
	names := []string{"Stop 1", "Stop 2"}
	switch control.Kind {
	case scene.ChoiceWidget:
		if names = control.Options; len(names) == 1 {
			names = append(slices.Clone(names), "Option 2")
		}
	case scene.SwitchWidget:
		names = []string{"off", "on"}
	}
	spec := control.Spec()
	lo, hi := wiring.Ends(spec)
	out := make([]scene.PoseStop, len(names))
	for k, name := range names {
		out[k] = scene.PoseStop{ID: c.NewID(), Name: name, Easing: curve.Smooth}
		if control.Kind == scene.Fader {
			out[k].At = lo + float64((hi-lo)*float64(k))
		}
	}
	return out
}

// AddStop adds a stop to a fader or choice of poses. What it moves keeps its way there: the stop takes what stands between its
// neighbours until it is posed, or, as a duplicate, what another one holds.
type AddStop struct {
	Item    scene.ID `json:"item"`
	Control scene.ID `json:"control"`
	Name    string   `json:"name,omitempty"` // empty: one made
	At      *float64 `json:"at,omitempty"`   // on a fader; absent: where it stands
	Like    scene.ID `json:"like,omitempty"` // the stop that it is a duplicate of
}

// Do returns the operations that alter the control, and, for a duplicate, what it moves.
func (g *AddStop) Do(c *gesture.Context) (gesture.Result, error) {
	item, control, err := c.ControlOf(g.Item, g.Control)
	if err != nil {
		return gesture.Result{}, err
	}
	if len(control.Poses) == 0 || control.Kind == scene.SwitchWidget {
		return gesture.Result{}, fmt.Errorf("%s takes no further stops", control.Name)
	}
	taken := map[string]bool{}
	for _, s := range control.Poses {
		taken[s.Name] = true
	}
	name := g.Name
	like := control.Pose(g.Like)
	if name == "" {
		name = "Stop"
		if like >= 0 {
			name = gesture.Stem(control.Poses[like].Name)
		}
		name = gesture.FreeName(name, taken)
	}
	made := scene.PoseStop{ID: c.NewID(), Name: name, Easing: curve.Smooth}
	stops := slices.Clone(control.Poses)
	if control.Kind == scene.Fader {
		made.At = c.Plan().Value(scene.Ref{Item: item.ID, Property: string(control.ID)}).At(0)
		if g.At != nil {
			made.At = *g.At
		}
		if slices.ContainsFunc(stops, func(s scene.PoseStop) bool { return s.At == made.At }) {
			if g.At != nil || like >= 0 {
				made.At = gapAfter(stops, made.At)
			} else {
				return gesture.Result{}, fmt.Errorf("a stop of %s is at %s already; move the fader to where the new one is to be", control.Name, scene.Exact(made.At))
			}
		}
	}
	altered := control.Clone()
	altered.SetPoses(append(stops, made))
	r := gesture.Result{Ops: change.Ops{&change.ControlSet{On: c.On(item.ID), Value: altered}}, Made: []scene.ID{made.ID}}
	// A choice holds: without a value of its own it would be as the option before it, and that is said by giving it that.
	if like < 0 && control.Kind != scene.Fader {
		like = len(control.Poses) - 1
	}
	if like >= 0 {
		for _, d := range posed(c, item.ID, control.ID) {
			if v, ok := d.Link.HeldAt(control.Poses[like].ID); ok {
				r.Ops = append(r.Ops, holding(c, d, control, made.ID, v))
			}
		}
	}
	return r, nil
}

// gapAfter returns a free place half-way from one that is taken to the next, or, from the last one, to the one before it.
func gapAfter(stops []scene.PoseStop, at float64) float64 {
	k := slices.IndexFunc(stops, func(s scene.PoseStop) bool { return s.At == at })
	if k+1 < len(stops) {
		return float64(at+stops[k+1].At) / 2
	}
	return float64(stops[k-1].At+at) / 2
}

// posed lists the links of poses that a control drives.
func posed(c *gesture.Context, item, control scene.ID) []graph.Driven {
	return graph.Where(c.Composition, func(l *scene.Link) bool {
		return l.Kind == scene.Posed && l.Source.Item == item && l.Source.Property == string(control)
	})
}

// holding returns the operation that has a link of poses hold a value at a stop of its control.
func holding(c *gesture.Context, d graph.Driven, control *scene.Control, stop scene.ID, v scene.Value) change.Op {
	held := d.Link.Clone()
	held.MakeRoom(control)
	held.Hold(stop, v)
	return c.Relinked(d, held)
}

// SetStop renames, moves or eases a stop, or puts it at another place among the options of a choice.
type SetStop struct {
	AtStop
	Name   *string       `json:"name,omitempty"`
	At     *float64      `json:"at,omitempty"`
	Easing *curve.Easing `json:"easing,omitempty"`
	Place  *int          `json:"place,omitempty"` // of a choice
}

// Do returns the operations that alter the control, whose own value and pins stay at the stops where they were.
func (g *SetStop) Do(c *gesture.Context) (gesture.Result, error) {
	item, control, k, err := stop(c, g.AtStop)
	if err != nil {
		return gesture.Result{}, err
	}
	stops := slices.Clone(control.Poses)
	s := &stops[k]
	if g.Name != nil {
		s.Name = *g.Name
	}
	if g.At != nil {
		if control.Kind != scene.Fader {
			return gesture.Result{}, fmt.Errorf("only the stops of a fader stand at places")
		}
		s.At = *g.At
	}
	if g.Easing != nil {
		s.Easing = *g.Easing
	}
	if g.Place != nil && control.Kind == scene.ChoiceWidget {
		moved := stops[k]
		stops = slices.Insert(slices.Delete(stops, k, k+1), max(0, min(*g.Place, len(stops)-1)), moved)
	}
	return gesture.Result{Ops: withStops(c, item, control, stops)}, nil
}

// withStops returns the operations that give a control other stops. What a choice stands at, and is pinned to, stays the same
// stop; where that is gone, it is the nearest one before it.
func withStops(c *gesture.Context, item *scene.Item, control *scene.Control, stops []scene.PoseStop) change.Ops {
	altered := control.Clone()
	altered.SetPoses(stops)
	if control.Kind == scene.Fader {
		return change.Ops{&change.ControlSet{On: c.On(item.ID), Value: altered}}
	}
	now := func(v scene.Value) scene.Value {
		for k := min(int(v.At(0)), len(control.Poses)-1); k >= 0; k-- {
			if to := altered.Pose(control.Poses[k].ID); to >= 0 {
				return scene.Num(float64(to))
			}
		}
		return scene.Num(0)
	}
	altered.Default = now(control.Default)
	ops := change.Ops{&change.ControlSet{On: c.On(item.ID), Value: altered}}
	state, of := item.State(string(control.ID)), c.Of(item.ID, string(control.ID))
	if !state.Own.Absent() && now(state.Own) != state.Own {
		ops = append(ops, &change.OwnSet{Of: of, Value: now(state.Own)})
	}
	var pins []scene.Pin
	for _, pin := range state.Pins {
		pin = pin.Through(now)
		pins = append(pins, pin)
	}
	if !slices.Equal(pins, state.Pins) {
		ops = append(ops, &change.PinsPut{Of: of, Pins: pins})
	}
	return ops
}

// RemoveStop takes a stop away. What was held there is kept by the links, and comes back where this is undone.
type RemoveStop struct{ AtStop }

// Do returns the operations that alter the control.
func (g *RemoveStop) Do(c *gesture.Context) (gesture.Result, error) {
	item, control, k, err := stop(c, g.AtStop)
	if err != nil {
		return gesture.Result{}, err
	}
	if len(control.Poses) <= 2 {
		return gesture.Result{}, fmt.Errorf("%s has two stops at least; remove the control instead", control.Name)
	}
	return gesture.Result{Ops: withStops(c, item, control, slices.Delete(slices.Clone(control.Poses), k, k+1))}, nil
}

// HoldAt writes what a link of poses gives at a stop.
type HoldAt struct {
	AtStop
	gesture.LinkAt
	Value scene.Value `json:"value"`
}

// Do returns the operation that alters the link.
func (g *HoldAt) Do(c *gesture.Context) (gesture.Result, error) {
	_, control, _, err := stop(c, g.AtStop)
	if err != nil {
		return gesture.Result{}, err
	}
	d, _, name, err := c.LinkAt(g.LinkAt)
	if err != nil {
		return gesture.Result{}, err
	}
	if d.Link.Kind != scene.Posed || d.Link.Source != (scene.Ref{Item: g.Item, Property: string(g.Control)}) {
		return gesture.Result{}, fmt.Errorf("the link on %s holds nothing at the stops of %s", name, control.Name)
	}
	return gesture.Result{Ops: change.Ops{holding(c, d, control, g.Stop, g.Value)}}, nil
}

// TurnPoses turns a fader of poses into a choice, which holds, or a choice of poses into a fader, which mixes.
type TurnPoses struct {
	Item    scene.ID     `json:"item"`
	Control scene.ID     `json:"control"`
	Kind    scene.Widget `json:"kind"`
}

// Do returns the operations that put the control, as another kind, in its own place.
func (g *TurnPoses) Do(c *gesture.Context) (gesture.Result, error) {
	item, control, err := c.ControlOf(g.Item, g.Control)
	if err != nil {
		return gesture.Result{}, err
	}
	if len(control.Poses) == 0 || control.Kind == scene.SwitchWidget || (g.Kind != scene.Fader && g.Kind != scene.ChoiceWidget) {
		return gesture.Result{}, fmt.Errorf("only a fader of poses can be turned into a choice, and a choice of poses into a fader")
	}
	if control.Kind == g.Kind {
		return gesture.Result{}, fmt.Errorf("%s is a %s already", control.Name, g.Kind)
	}
	altered := control.Clone()
	altered.Kind, altered.Options, altered.Unit, altered.Min, altered.Max, altered.Step, altered.Whole = g.Kind, nil, "", nil, nil, 0, false
	stops := slices.Clone(control.Poses)
	lo, hi := 0.0, 100.0
	for k := range stops { // evenly over the fader; as they were, where they were on one before
		if g.Kind == scene.Fader && (stops[len(stops)-1].At <= stops[0].At) {
			stops[k].At = lo + float64((hi-lo)*float64(k))/float64(len(stops)-1)
		}
	}
	if altered.SoftMin, altered.SoftMax = 0, 0; g.Kind == scene.Fader {
		altered.SoftMin, altered.SoftMax, altered.Unit = min(lo, stops[0].At), max(hi, stops[len(stops)-1].At), scene.Percent
	}
	altered.SetPoses(stops)
	to := func(v scene.Value) scene.Value { return scene.Num(altered.PoseAt(nearest(control, v.At(0)))) }
	altered.Default = to(control.Default)
	var ops change.Ops
	if g.Kind != scene.Fader {
		ops = filled(c, item, control)
	}
	ops = append(ops, wiring.Again(c, item, item, altered, slices.Index(item.Controls, control))...)
	if add := ops[len(ops)-1].(*change.ControlAdd); add.State != nil {
		if !add.State.Own.Absent() {
			add.State.Own = to(add.State.Own)
		}
		for k := range add.State.Pins {
			add.State.Pins[k] = add.State.Pins[k].Through(to)
			if g.Kind == scene.ChoiceWidget {
				add.State.Pins[k].Easing = curve.Hold
			}
		}
	}
	return gesture.Result{Ops: ops}, nil
}

// filled has links of poses hold what they give between, at stops where they hold nothing, before their control comes to hold from
// stop to stop.
func filled(c *gesture.Context, item *scene.Item, control *scene.Control) (ops change.Ops) {
	for _, d := range posed(c, item.ID, control.ID) {
		held := d.Link.Clone()
		held.MakeRoom(control)
		for k, s := range control.Poses {
			if _, ok := held.HeldAt(s.ID); ok || len(held.Held) == 0 {
				continue
			}
			if v, err := formula.Through(control.Posed(d.Link.Held), scene.HoldEnds, control.PoseAt(k)); err == nil {
				held.Hold(s.ID, v[0])
			}
		}
		if len(held.Held) != len(d.Link.Held) {
			ops = append(ops, c.Relinked(d, held))
		}
	}
	return ops
}

// SetOptions gives a choice other options. One that has poses keeps its stops by their names, else by their places; what is new is a
// stop that is as the last one before it until it is posed.
type SetOptions struct {
	Item    scene.ID `json:"item"`
	Control scene.ID `json:"control"`
	Options []string `json:"options"`
}

// Do returns the operations that alter the control, and what it moves.
func (g *SetOptions) Do(c *gesture.Context) (gesture.Result, error) {
	item, control, err := c.ControlOf(g.Item, g.Control)
	if err != nil {
		return gesture.Result{}, err
	}
	if control.Kind != scene.ChoiceWidget || len(g.Options) == 0 {
		return gesture.Result{}, fmt.Errorf("%s needs an option at least, and to be a choice", control.Name)
	}
	if len(control.Poses) == 0 {
		altered := control.Clone()
		altered.Options = g.Options
		return gesture.Result{Ops: change.Ops{&change.ControlSet{On: c.On(item.ID), Value: altered}}}, nil
	}
	if len(g.Options) < 2 {
		return gesture.Result{}, fmt.Errorf("%s has poses, so it needs two options at least", control.Name)
	}
	stops, kept := make([]scene.PoseStop, len(g.Options)), map[scene.ID]bool{}
	keep := func(k int, s scene.PoseStop) {
		kept[s.ID] = true
		stops[k] = s
		stops[k].Name = g.Options[k]
	}
	for k, name := range g.Options {
		for _, s := range control.Poses {
			if s.Name == name && !kept[s.ID] {
				keep(k, s)
				break
			}
		}
	}
	like := map[scene.ID]scene.ID{}
	for k := range stops {
		switch {
		case stops[k].ID != "":
		case k < len(control.Poses) && !kept[control.Poses[k].ID]:
			keep(k, control.Poses[k])
		default:
			stops[k] = scene.PoseStop{ID: c.NewID(), Name: g.Options[k], Easing: curve.Smooth}
			before := control.Poses[0].ID
			if k > 0 {
				before = cmp.Or(like[stops[k-1].ID], stops[k-1].ID)
			}
			like[stops[k].ID] = before
		}
	}
	r := gesture.Result{Ops: withStops(c, item, control, stops)}
	if len(like) == 0 {
		return r, nil
	}
	for _, d := range posed(c, item.ID, control.ID) {
		held := d.Link.Clone()
		held.MakeRoom(control)
		for _, s := range stops {
			if v, ok := held.HeldAt(like[s.ID]); ok {
				held.Hold(s.ID, v)
			}
		}
		r.Ops = append(r.Ops, c.Relinked(d, held))
	}
	return r, nil
}

// nearest returns the stop that a control stands at, or is nearest to.
func nearest(control *scene.Control, x float64) int {
	best := 0
	for k := range control.Poses {
		if math.Abs(control.PoseAt(k)-x) < math.Abs(control.PoseAt(best)-x) {
			best = k
		}
	}
	return best
}

// PoseStop shows a control of poses at one of its stops for the time being, while what is changed belongs to it.
type PoseStop struct{ AtStop }

// Do returns the pose of the control.
func (g *PoseStop) Do(c *gesture.Context) (gesture.Result, error) {
	item, control, k, err := stop(c, g.AtStop)
	if err != nil {
		return gesture.Result{}, err
	}
	return gesture.Result{Poses: []gesture.Pose{{Ref: scene.Ref{Item: item.ID, Property: string(control.ID)}, Value: scene.Num(control.PoseAt(k))}}}, nil
}
