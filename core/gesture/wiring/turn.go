package wiring

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/gesture"
	"wunderkammer/core/graph"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// TurnRound makes the source of a follow link follow its target instead, or, of a graph, what it reads in one row of slips
// that each can be turned round.
type TurnRound struct {
	Target scene.Ref `json:"target"`
	Link   scene.ID  `json:"link"`
}

// Do returns the operations that turn the link.
func (g *TurnRound) Do(c *gesture.Context) (gesture.Result, error) {
	item, spec, err := c.Property(scene.Ref{Item: g.Target.Item, Property: g.Target.Property})
	if err != nil {
		return gesture.Result{}, err
	}
	l, _ := item.State(spec.Key).Link(g.Link)
	if l == nil {
		return gesture.Result{}, fmt.Errorf("%s: that link is no longer there", item.Name)
	}
	if link.Of(l).Graphed {
		return turnGraph(c, item, spec, l)
	}
	at, world := settable(l.Source)
	from, source, err := c.Property(at)
	if err != nil {
		return gesture.Result{}, err
	}
	if !link.Of(l).Linear || l.Gain == 0 || l.Operation != scene.Replace {
		return gesture.Result{}, fmt.Errorf("only a follow link whose gain isn't 0 can be reversed")
	}
	if _, err := link.FitOf(spec, l.Component, source, l.Source.Component); err != nil {
		return gesture.Result{}, err
	}
	turned := &scene.Link{
		ID: l.ID, Kind: l.Kind, Source: asSeen(scene.Ref{Item: item.ID, Property: spec.Key, Component: l.Component}, l.World), Component: at.Component, World: world,
		Gain: 1 / l.Gain, Offset: -l.Offset / l.Gain, Delay: l.Delay, Seconds: l.Seconds,
	}
	for _, x := range l.Offsets {
		turned.Offsets = append(turned.Offsets, -x/l.Gain)
	}
	r, weights := released(c, item, spec, l)
	r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(from.ID, source.Key), Link: turned, At: -1, Weights: weights})
	return r, nil
}

// released takes a link off a property, which stays where the link had brought it, and returns what was set of its weight.
func released(c *gesture.Context, item *scene.Item, spec *scene.Spec, l *scene.Link) (r gesture.Result, weights scene.Weights) {
	whole := scene.Ref{Item: item.ID, Property: spec.Key}
	r.Ops = change.Ops{&change.LinkRemove{Of: c.Of(item.ID, spec.Key), Link: l.ID}}
	if len(item.State(spec.Key).Pins) == 0 {
		r.Ops = append(r.Ops, &change.OwnSet{Of: c.Of(item.ID, spec.Key), Value: c.Plan().Value(whole)})
	}
	if w := item.States[scene.WeightKey(l.ID)]; w != nil && len(w.Links) > 0 {
		r.Note = "the link is now at 100 %: its weight's source couldn't be kept"
	} else if w != nil {
		weights = item.WeightsOf(l)
	}
	return r, weights
}

// worlds are the properties that show in the composition's space what others set.
var worlds = map[string]string{"worldPosition": "position", "worldRotation": "rotation"}

// settable returns what is set where something is to be as it is read; world: in the composition's space.
func settable(ref scene.Ref) (set scene.Ref, world bool) {
	set = ref
	if key, ok := worlds[ref.Property]; ok {
		set.Property = key
	} else if id, of, ok := scene.VertexOf(ref.Property); ok && of {
		set.Property = scene.VertexKey(id)
	}
	return set, set != ref
}

// asSeen returns what shows a property, in the composition's space where it is set there.
func asSeen(ref scene.Ref, world bool) scene.Ref {
	if !world {
		return ref
	}
	for shows, key := range worlds {
		if ref.Property == key {
			ref.Property = shows
			return ref
		}
	}
	if id, _, ok := scene.VertexOf(ref.Property); ok {
		ref.Property = scene.WorldVertexKey(id)
	}
	return ref
}

// turnGraph turns round a row of slips from one that reads to one that drives.
func turnGraph(c *gesture.Context, item *scene.Item, spec *scene.Spec, l *scene.Link) (gesture.Result, error) {
	on, err := c.Graph(l.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	if n := len(slices.DeleteFunc(graph.Drives(c.Composition, on.ID), func(d graph.Driven) bool { return d.Link.Slip != l.Slip })); n > 1 || l.Gain != 1 || l.Offset != 0 || l.Operation != scene.Replace {
		return gesture.Result{}, fmt.Errorf("only a graph that drives a single property, without gain, offset or mode, can be reversed")
	}
	turned, wires, read, err := graph.TurnedRound(on, l.Slip)
	if err != nil {
		return gesture.Result{}, err
	}
	at, world := settable(read)
	from, source, err := c.Property(at)
	if err != nil {
		return gesture.Result{}, err
	}
	if source.ReadOnly {
		return gesture.Result{}, fmt.Errorf("%s: %s is read-only", from.Name, source.Name)
	}
	shown := asSeen(scene.Ref{Item: item.ID, Property: spec.Key, Component: l.Component}, l.World)
	for _, s := range turned {
		if s.Kind == scene.ReadSlip {
			s.Text = syntax.Bound(shown)
		}
	}
	r, weights := released(c, item, spec, l)
	for _, s := range turned {
		r.Ops = append(r.Ops, &change.SlipSet{In: c.In(), Graph: on.ID, Value: s})
	}
	for _, w := range on.Wires {
		if !slices.ContainsFunc(wires, func(o *scene.Wire) bool { return *o == *w }) {
			r.Ops = append(r.Ops, &change.WireRemove{In: c.In(), Graph: on.ID, To: w.To, Input: w.In})
		}
	}
	for _, w := range wires {
		if old, _ := on.WireTo(w.To, w.In); old == nil || *old != *w {
			r.Ops = append(r.Ops, &change.WireAdd{In: c.In(), Graph: on.ID, Value: w})
		}
	}
	fresh := &scene.Link{ID: l.ID, Kind: l.Kind, Component: at.Component, Gain: 1, Delay: l.Delay, Seconds: l.Seconds, World: world, Graph: l.Graph, Slip: l.Slip}
	r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(from.ID, source.Key), Link: fresh, At: -1, Weights: weights})
	return r, nil
}
