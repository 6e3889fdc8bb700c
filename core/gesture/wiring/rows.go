package wiring

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// together puts targets into groups that one link on a row can drive each: the same property of several items, whichever of its
// components. What can't be a member of such a row, a vertex, a copy, the weight of one link, stands alone.
func together(targets []scene.Ref) [][]scene.Ref {
	var groups [][]scene.Ref
	ofProperty := map[string][]int{} // the groups of a property
	taken := map[scene.Ref]int{}     // by item and property: how many of these groups it is in
	for _, ref := range targets {
		_, _, copied := scene.LaneOf(ref.Item)
		_, _, vertex := scene.VertexOf(ref.Property)
		_, weight := scene.WeightOf(ref.Property)
		if copied || vertex || weight {
			groups = append(groups, []scene.Ref{ref})
			continue
		}
		of, whole := ofProperty[ref.Property], scene.Ref{Item: ref.Item, Property: ref.Property}
		nth := taken[whole]
		taken[whole] = nth + 1
		if nth == len(of) {
			ofProperty[ref.Property] = append(of, len(groups))
			groups = append(groups, nil)
			of = ofProperty[ref.Property]
		}
		groups[of[nth]] = append(groups[of[nth]], ref)
	}
	return groups
}

// covered reports whether a link of its own hides at a property what links on rows make of it.
func covered(c *gesture.Context, ref scene.Ref) bool {
	item, spec, err := c.Property(ref)
	if err != nil {
		return false
	}
	for _, d := range c.Drivers(item, spec, ref.Component) {
		if d.Row == nil && d.Hides() {
			return true
		}
	}
	return false
}

// rowOn is a link on the row of the items of some properties, one of each, with the components that they name.
func rowOn(c *gesture.Context, refs []scene.Ref, spec *scene.Spec, l *scene.Link) *scene.RosterLink {
	s := &scene.RosterLink{ID: c.NewID(), Property: spec.Key, Component: refs[0].Component, Link: l}
	l.Component = ""
	ids := make([]scene.ID, len(refs))
	for k, ref := range refs {
		ids[k] = ref.Item
		if ref.Component != s.Component {
			if s.Parts == nil {
				s.Parts = map[scene.ID]string{}
			}
			s.Parts[ref.Item] = ref.Component
		}
	}
	s.Roster = rosterOf(c, ids)
	s.Name = rosterLinkName(c, s, spec)
	return s
}

// differ reports whether properties are at different values.
func differ(c *gesture.Context, refs []scene.Ref) bool {
	first := seen(c, refs[0])
	for _, ref := range refs[1:] {
		if seen(c, ref) != first {
			return true
		}
	}
	return false
}

// linkRow returns the link by which a source drives a property of several items at once; nil where each is to have a link of its
// own, which holds what it is at: at the stops of poses, and where what jumps stands at different values. The source will be at what it
// begins with; nil for one that keeps what it is at.
func linkRow(c *gesture.Context, g *Link, source *scene.Spec, refs []scene.Ref, target *scene.Spec, begins *scene.Value) (*scene.RosterLink, string, error) {
	various := differ(c, refs)
	kind := link.Of(&scene.Link{Kind: g.kind(c, source, target, refs[0].Component)})
	if kind.Posed || various && kind.Stops && target.Type.Jumps() {
		return nil, "", nil
	}
	adds := various && g.adds(source, target) && begins != nil
	if adds {
		g = &Link{Source: g.Source, Kind: scene.Follow}
	}
	l, note, err := linkTo(c, g, source, refs[0], target, begins)
	switch {
	case err != nil:
		return nil, "", err
	case adds:
		fromHere(l, source, target, *begins)
	case various && link.Of(l).Stops:
		neutral(c, l, source, target)
	}
	return rowOn(c, refs, target, l), note, nil
}

// neutral makes a map leave whatever it drives as it is, where its members are at different values.
func neutral(c *gesture.Context, l *scene.Link, source, target *scene.Spec) {
	if target.Type == scene.Colour && l.Component == "" {
		l.Operation, l.Stops = scene.Multiply, flat(c, source, scene.RGBA(1, 1, 1, 1))
		return
	}
	l.Operation, l.Stops = scene.Plus, flat(c, source, scene.NewValue(make([]float64, l.Stops[0].Out.Len())))
}

// adds reports whether what a control says is added to properties that are at different values, unless something else is asked for: one
// value can't stand for all of them.
func (g *Link) adds(source, target *scene.Spec) bool {
	numeric := source.Type == scene.Number || source.Type == scene.Point2 || source.Type == scene.Point3
	return numeric && !target.Type.Jumps() && target.Type != scene.Colour && g.Kind == "" && !g.Follow && !g.FromHere
}

// fromHere lets a link add how far its source goes from where it begins.
func fromHere(l *scene.Link, source, target *scene.Spec, begins scene.Value) {
	fit, err := link.Of(l).Fits(source, l.Source.Component, target, l.Component)
	if err != nil {
		return
	}
	from, _ := source.Type.Component(l.Source.Component)
	l.Operation = scene.Plus
	for k, p := range fit.Parts {
		if p >= 0 {
			l.Shift(target, k, float64(-begins.At(from+p)*l.Gain))
		}
	}
}

// alterRow alters the follow link on a row, for what the first of its members that it drives is.
func alterRow(c *gesture.Context, id scene.ID, alter func(l *scene.Link, source, target *scene.Spec) (*scene.Link, error)) (gesture.Result, error) {
	old, _ := c.Composition.RosterLink(id)
	if old == nil {
		return gesture.Result{}, fmt.Errorf("that link is no longer there; it may have been removed in another window")
	}
	s := old.Clone()
	for _, m := range s.Members(c.Composition) {
		if !s.Drives(m) || !link.Of(s.Link).Linear {
			continue
		}
		_, source, err := c.Property(s.Link.Source)
		if err != nil {
			return gesture.Result{}, err
		}
		s.Link.Component = s.Part(m)
		altered, err := alter(s.Link, source, m.Item.Spec(m.Key))
		if err != nil {
			return gesture.Result{}, err
		}
		s.Link, altered.Component = altered, ""
		return gesture.Result{Ops: change.Ops{&change.RosterLinkSet{In: c.In(), Value: s}}}, nil
	}
	return gesture.Result{}, fmt.Errorf("%s: only a link that follows a source, on at least one item, can be made so", s.Name)
}
