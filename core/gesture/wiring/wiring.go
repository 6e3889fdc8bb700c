// Package wiring has the gestures that let one thing drive another: links, maps, formulas, rows, and the controls that drive.
package wiring

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// linksOfNew returns the operations that let a control that is only being made drive properties, and give it the value of the first.
// The same property of several items is driven by one link on the row of them.
func linksOfNew(c *gesture.Context, g *Link, control *scene.Control) (ops change.Ops, note string, err error) {
	source := control.Spec()
	value := control.Default
	add := func(ref scene.Ref, target *scene.Spec, first bool) (*scene.Link, error) {
		l := &scene.Link{ID: c.NewID(), Kind: kindFor(source, target, ref.Component, g.Source.Component), Source: g.Source, Component: ref.Component, Gain: 1}
		kind := link.Of(l)
		fit, err := kind.Fits(source, "", target, ref.Component)
		if err != nil {
			return nil, err
		}
		now := seen(c, ref)
		switch {
		case kind.Stops:
			l.Stops = flat(c, source, now)
		case source.Type == scene.Switch && target.Type == scene.Number:
			l.Operation, value = scene.Multiply, scene.On(true)
		default:
			begins := value
			if first && source.Type != scene.Text {
				for k := len(fit.Parts) - 1; k >= 0; k-- {
					if p := fit.Parts[k]; p >= 0 && k < now.Len() && fit.Gain != 0 {
						begins = begins.With(p, source.Part(p).Limit(now.At(k)/fit.Gain))
					}
				}
			} else if first && target.Type == scene.Text {
				begins = now
			}
			if !gives(fit, begins, now) {
				if flatten(c, l, source, target, now) != nil {
					return nil, fmt.Errorf("%s: a %s can't stand for what %s is at; choose another kind of control", c.Composition.Item(ref.Item).Name, control.Kind, target.Name)
				}
				break
			}
			value = begins
			l.Gain, note = fit.Gain, fit.Note
		}
		return l, nil
	}
	for n, group := range together(g.Targets) {
		for _, ref := range group {
			item, target, err := c.Property(ref)
			if err != nil {
				return nil, "", err
			}
			if target.ReadOnly {
				return nil, "", fmt.Errorf("%s: %s is read-only", item.Name, target.Name)
			}
		}
		_, target, _ := c.Property(group[0])
		kind := link.Of(&scene.Link{Kind: kindFor(source, target, group[0].Component, "")})
		various := len(group) > 1 && differ(c, group)
		if covers := func(ref scene.Ref) bool { return covered(c, ref) }; len(group) == 1 || slices.ContainsFunc(group, covers) || various && kind.Stops && target.Type.Jumps() {
			for k, ref := range group {
				l, err := add(ref, target, n == 0 && k == 0)
				if err != nil {
					return nil, "", err
				}
				ops = append(ops, &change.LinkAdd{Of: c.Of(ref.Item, ref.Property), At: -1, Link: l})
			}
			continue
		}
		was := value
		l, err := add(group[0], target, n == 0)
		if err != nil {
			return nil, "", err
		}
		switch {
		case various && link.Of(l).Stops:
			neutral(c, l, source, target)
		case various && g.adds(source, target):
			value = was
			fromHere(l, source, target, value)
		}
		ops = append(ops, &change.RosterLinkAdd{In: c.In(), Value: rowOn(c, group, target, l), At: -1})
	}
	if source.Type != scene.Text {
		if wide := reaching(control, value, source); wide != nil {
			*control = *wide
		}
	}
	control.Default = value
	return ops, note, nil
}

// gives reports whether a follow link with a fit gives a value, where its source is at another, but for rounding.
func gives(fit link.Fit, from, to scene.Value) bool {
	if to.Str() != "" || from.Str() != "" {
		return true // a text takes any
	}
	for k, p := range fit.Parts {
		if p >= 0 && k < to.Len() && p < from.Len() {
			if got := float64(from.At(p) * fit.Gain); math.Abs(got-to.At(k)) > 1e-9*(1+math.Abs(to.At(k))) {
				return false
			}
		}
	}
	return true
}

// flatten lets a link begin as a map that is the same all over, where one number cannot stand for all that is there. An error says
// that no map fits.
func flatten(c *gesture.Context, l *scene.Link, source, target *scene.Spec, now scene.Value) error {
	if _, err := link.Of(&scene.Link{Kind: scene.Map}).Fits(source, l.Source.Component, target, l.Component); err != nil {
		return err
	}
	l.Kind, l.Stops, l.Gain = scene.Map, flat(c, source, now), 1
	return nil
}

// kindFor is the kind of link that leaves a target as it is seen where its source is of another sort: a colour, or its hue, what is
// chosen or switched by a number, and what an option gives, begin as a map that is the same all over.
func kindFor(source, target *scene.Spec, component, part string) scene.LinkKind {
	from := source.Type
	if part != "" {
		from = scene.Number
	}
	numeric := from.Size() == 1 && from != scene.Text
	switch to := target.Type; {
	case !numeric || to == scene.Text:
		return scene.Follow
	case to == scene.Colour, from == scene.Choice && to != scene.Choice, to.Jumps() && from != to, from == scene.Switch && to != scene.Number && to != scene.Switch:
		return scene.Map
	case from == scene.Choice && len(source.Options) != len(target.Options):
		return scene.Map
	}
	return scene.Follow
}

// alike reports whether a property, or a component of it, is of the same sort as another, so that one follows the other as it is: the
// same property, one in the composition and one in its own space, or two places.
func alike(source *scene.Spec, part string, target *scene.Spec, component string) bool {
	own := func(key string) string { // world.rotation is a rotation, and where something is aimed at is a place
		if rest, world := strings.CutPrefix(key, "world"); world && rest != "" {
			key = strings.ToLower(rest[:1]) + rest[1:]
		}
		if _, _, vertex := scene.VertexOf(key); vertex || key == "target" {
			return "position"
		}
		return key
	}
	switch {
	case source.Type == scene.Text:
		return true
	case part != component:
		return false
	case source.Type == scene.Colour:
		return target.Type == scene.Colour
	case source.Type == scene.Choice:
		return slices.Equal(source.Options, target.Options)
	}
	return own(source.Key) == own(target.Key)
}

// seen returns what a property, or a component of it, is now; a hue and its like are worked out from the colour.
func seen(c *gesture.Context, ref scene.Ref) scene.Value {
	if !slices.Contains(scene.Hues, ref.Component) {
		return c.Plan().Value(ref)
	}
	_, values := c.Plan().Try(fmt.Sprintf("{@%s:@%s}.%s", ref.Item, ref.Property, ref.Component), scene.Ref{}, float64(c.Frame))
	if len(values) == 0 {
		return scene.Num(0)
	}
	return values[0]
}

// flat is a map that gives one value all over the range of its source.
func flat(c *gesture.Context, source *scene.Spec, value scene.Value) []scene.MapStop {
	lo, hi := Ends(source)
	return []scene.MapStop{{In: lo, Out: value, Easing: curve.Linear}, {In: hi, Out: value, Easing: curve.Linear}}
}

// PasteLink puts copies of a link onto properties of any kind where it fits: on the same property of several items one, on the row of
// them.
type PasteLink struct {
	Link    scene.Link  `json:"link"`
	Targets []scene.Ref `json:"targets"`
}

// Do returns the operations that add the copies; those that do not fit are told in the note.
func (g *PasteLink) Do(c *gesture.Context) (gesture.Result, error) {
	kind := link.Of(&g.Link)
	on, _ := c.Composition.Graph(g.Link.Graph)
	if kind.Written || kind.Graphed && on == nil {
		text := binding.Print(g.Link.Formula, wire.ScopeOf(c.Planned.Layout, -1, nil, ""))
		if groups := together(g.Targets); len(groups) == 1 && len(g.Targets) > 1 && !slices.ContainsFunc(g.Targets, func(ref scene.Ref) bool { return covered(c, ref) }) {
			return (&Spread{Targets: g.Targets, Text: text}).Do(c)
		}
		return (&Formula{Targets: g.Targets, Text: text}).Do(c)
	}
	_, source, err := c.Property(g.Link.Source)
	if kind.Sourced && err != nil {
		return gesture.Result{}, fmt.Errorf("the copied link's source isn't in this composition")
	}
	var r gesture.Result
	var refused error
	pasted := 0
	copied := func(ref scene.Ref) (*scene.Link, *scene.Spec) {
		item, target, err := c.Property(ref)
		if err != nil {
			refused = err
			return nil, nil
		}
		l := g.Link.Clone()
		l.ID = c.NewID()
		l.Onto(target, ref.Component)
		if err = l.Check(target); err == nil && kind.Sourced {
			_, err = kind.Fits(source, l.Source.Component, target, l.Component)
		}
		if err == nil && ref.Item == l.Source.Item && ref.Property == l.Source.Property {
			err = fmt.Errorf("%s: %s can't drive itself", item.Name, target.Name)
		}
		if err != nil {
			refused = err
			return nil, nil
		}
		return l, target
	}
	for _, group := range together(g.Targets) {
		var onRow []scene.Ref
		var first *scene.Link
		var spec *scene.Spec
		for _, ref := range group {
			l, target := copied(ref)
			switch {
			case l == nil:
				continue
			case len(group) == 1 || covered(c, ref):
				r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(ref.Item, ref.Property), Link: l, At: -1})
			default:
				if first == nil {
					first, spec = l, target
				}
				onRow = append(onRow, ref)
			}
			pasted++
		}
		switch len(onRow) {
		case 0:
		case 1:
			r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(onRow[0].Item, onRow[0].Property), Link: first, At: -1})
		default:
			r.Ops = append(r.Ops, &change.RosterLinkAdd{In: c.In(), Value: rowOn(c, onRow, spec, first), At: -1})
		}
	}
	if pasted == 0 && refused != nil {
		return gesture.Result{}, refused
	}
	if refused != nil {
		r.Note = fmt.Sprintf("pasted %d of %d: %s", pasted, len(g.Targets), refused)
	}
	return r, nil
}

// FitRanges gives a follow link the gain and offset that lead the whole range of the source over the whole range of the
// target, and those of other targets that are alike with it.
type FitRanges struct {
	Targets []scene.Ref `json:"targets"`
	Link    scene.ID    `json:"link"` // of the first target
	// RosterLink is a link on a row, in place of targets.
	RosterLink scene.ID `json:"spread,omitempty"`
}

// Do returns the operations that alter the links.
func (g *FitRanges) Do(c *gesture.Context) (gesture.Result, error) {
	fitted := func(l *scene.Link, source, target *scene.Spec) (*scene.Link, error) {
		out := l.Clone()
		out.Offsets = nil
		var ok bool
		if out.Gain, out.Offset, ok = link.Range(source, target); !ok {
			return nil, fmt.Errorf("%s has no range to match", source.Name)
		}
		return out, nil
	}
	if g.RosterLink != "" {
		return alterRow(c, g.RosterLink, fitted)
	}
	var r gesture.Result
	alike := link.Alike(c.Composition, g.Targets, g.Link)
	for k, ref := range g.Targets {
		item, spec, err := c.Property(scene.Ref{Item: ref.Item, Property: ref.Property})
		if err != nil {
			return gesture.Result{}, err
		}
		l := alike[k]
		if l == nil || !link.Of(l).Linear {
			continue
		}
		_, source, err := c.Property(l.Source)
		if err != nil {
			return gesture.Result{}, err
		}
		altered, err := fitted(l, source, spec)
		if err != nil {
			return gesture.Result{}, err
		}
		r.Ops = append(r.Ops, &change.LinkSet{Of: c.Of(item.ID, spec.Key), Link: altered})
	}
	return r, nil
}
