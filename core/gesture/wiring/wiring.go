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

// Link makes one source drive many targets.
type Link struct {
	Source  scene.Ref      `json:"source"`
	Targets []scene.Ref    `json:"targets"`
	Kind    scene.LinkKind `json:"kind,omitempty"` // empty: follow, or what keeps what is seen
	// FromHere keeps the present value: what the source does from now on is added to it.
	FromHere bool `json:"fromHere"`
	// Follow asks for the value of the source itself, whatever the target is at. Without it, a property that drives another one of
	// another sort begins from here.
	Follow bool `json:"follow,omitempty"`
}

// Do returns the operations that add the links. Targets that the source does not fit are left
// out and told in the note; it is an error if none fits.
func (g *Link) Do(c *gesture.Context) (gesture.Result, error) {
	_, source, err := c.Property(g.Source)
	if err != nil {
		return gesture.Result{}, err
	}
	r, begins := takeOver(c, g, source)
	var refused error
	wired := 0
	for n, ref := range g.Targets {
		if n > 0 {
			begins = nil // they all follow what suits the first
		}
		if of, _, copied := scene.LaneOf(ref.Item); copied {
			add, note, err := linkCopies(c, g, source, of, ref, begins)
			if err != nil {
				refused = err
				continue
			}
			r.Note, wired = note, wired+1
			r.Ops = append(r.Ops, add)
			continue
		}
		item, target, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
		}
		if ref.Item == g.Source.Item && ref.Property == g.Source.Property {
			refused = fmt.Errorf("%s: %s can't drive itself", item.Name, target.Name)
			continue
		}
		l, note, err := linkTo(c, g, source, ref, target, begins)
		if err != nil {
			refused = err
			continue
		}
		if note != "" {
			r.Note = target.Name + ": " + note
		}
		wired++
		r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(ref.Item, ref.Property), At: -1, Link: l})
	}
	if wired == 0 && refused != nil {
		return gesture.Result{}, refused
	}
	if refused != nil {
		r.Note = fmt.Sprintf("linked %d of %d: %s", wired, len(g.Targets), refused)
	}
	return r, nil
}

// linksOfNew returns the operations that let a control that is only being made drive properties, and give it the value of the first.
func linksOfNew(c *gesture.Context, g *Link, control *scene.Control) (ops change.Ops, note string, err error) {
	source := control.Spec()
	value := control.Default
	for n, ref := range g.Targets {
		item, target, err := c.Property(ref)
		if err != nil {
			return nil, "", err
		}
		if target.ReadOnly {
			return nil, "", fmt.Errorf("%s: %s is read-only", item.Name, target.Name)
		}
		l := &scene.Link{ID: c.NewID(), Kind: kindFor(source, target, ref.Component, g.Source.Component), Source: g.Source, Component: ref.Component, Gain: 1}
		kind := link.Of(l)
		fit, err := kind.Fits(source, "", target, ref.Component)
		if err != nil {
			return nil, "", err
		}
		now := seen(c, ref)
		switch {
		case kind.Stops:
			l.Stops = flat(c, source, now)
		case source.Type == scene.Switch && target.Type == scene.Number:
			l.Operation, value = scene.Multiply, scene.On(true)
		default:
			begins := value
			if n == 0 && source.Type != scene.Text {
				for k := len(fit.Parts) - 1; k >= 0; k-- {
					if p := fit.Parts[k]; p >= 0 && k < now.Len() && fit.Gain != 0 {
						begins = begins.With(p, source.Part(p).Limit(now.At(k)/fit.Gain))
					}
				}
			} else if n == 0 && target.Type == scene.Text {
				begins = now
			}
			if !gives(fit, begins, now) {
				if flatten(c, l, source, target, now) != nil {
					return nil, "", fmt.Errorf("%s: a %s can't stand for what %s is at; choose another kind of control", item.Name, control.Kind, target.Name)
				}
				break
			}
			value = begins
			l.Gain, note = fit.Gain, fit.Note
		}
		ops = append(ops, &change.LinkAdd{Of: c.Of(ref.Item, ref.Property), At: -1, Link: l})
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

// linkCopies makes one source drive the same property of all copies that an item shows; ref is that of one of them. What the
// arrangement makes of their places is added to.
func linkCopies(c *gesture.Context, g *Link, source *scene.Spec, of scene.ID, ref scene.Ref, begins *scene.Value) (change.Op, string, error) {
	item, target, err := c.OfCopies(of, ref.Property)
	if err != nil {
		return nil, "", err
	}
	if c.Plan.Layout.Index(ref.Item) < 0 {
		return nil, "", fmt.Errorf("%s shows no such copy", item.Name)
	}
	l, note, err := linkTo(c, g, source, ref, target, begins)
	if err != nil {
		return nil, "", err
	}
	if link.Of(l).Linear && gesture.Arranged(ref.Property) {
		l.Operation = scene.Plus
	}
	s := c.RowOfCopies(item, target, ref.Component)
	s.Link, l.Component = l, ""
	return &change.RosterLinkAdd{In: c.In(), Value: s, At: -1}, note, nil
}

// linkTo returns the link that a source and a target make, where the source will be at what it begins with; nil for one that keeps
// what it is at.
func linkTo(c *gesture.Context, g *Link, source *scene.Spec, ref scene.Ref, target *scene.Spec, begins *scene.Value) (*scene.Link, string, error) {
	l := &scene.Link{ID: c.NewID(), Kind: g.kind(c, source, target, ref.Component), Source: g.Source, Component: ref.Component, Gain: 1}
	kind := link.Of(l)
	if !kind.Sourced {
		return nil, "", fmt.Errorf("a link of that kind has no source")
	}
	fit, err := kind.Fits(source, g.Source.Component, target, ref.Component)
	if err != nil {
		return nil, "", err
	}
	if kind.Posed {
		for _, s := range link.ControlOf(l, c.Composition).Poses {
			l.Hold(s.ID, seen(c, ref))
		}
		return l, "", nil
	}
	if kind.Stops {
		l.Stops = flat(c, source, seen(c, ref))
	}
	l.Gain = fit.Gain
	if !kind.Linear {
		return l, fit.Note, nil
	}
	if now := seen(c, ref); g.Kind == "" && !g.Follow && !g.FromHere && begins != nil && (source.Type != scene.Switch || target.Type != scene.Number) && !gives(fit, *begins, now) {
		if flatten(c, l, source, target, now) == nil {
			return l, "", nil
		}
	}
	here := g.FromHere || g.Kind == "" && !g.Follow && source.Group != scene.GroupControls && !alike(source, g.Source.Component, target, ref.Component)
	if !here && source.Type == scene.Switch && target.Type == scene.Number {
		l.Operation, l.Gain = scene.Multiply, 1 // on leaves it as it is
	}
	if !here || target.Type.Jumps() {
		return l, fit.Note, nil
	}
	now := c.Plan.Value(scene.Ref{Item: g.Source.Item, Property: g.Source.Property})
	from, _ := source.Type.Component(g.Source.Component)
	l.Operation = scene.Plus
	for k, p := range fit.Parts {
		if p >= 0 {
			l.Shift(target, k, float64(-now.At(from+p)*l.Gain))
		}
	}
	return l, fit.Note, nil
}

// kind returns the kind of link that is wanted, or the one that changes least: a number that drives a colour begins as a map
// from the present colour, else it follows.
func (g *Link) kind(c *gesture.Context, source, target *scene.Spec, component string) scene.LinkKind {
	if g.Kind != "" {
		return g.Kind
	}
	if control := c.Composition.Item(g.Source.Item).Control(scene.ID(g.Source.Property)); control != nil && len(control.Poses) > 0 && g.Source.Component == "" && !g.FromHere {
		return scene.Posed
	}
	if g.Follow && target.Type != scene.Colour {
		return scene.Follow
	}
	if source.Group != scene.GroupControls && target.Type.Jumps() && !alike(source, g.Source.Component, target, component) && !g.FromHere {
		return scene.Map
	}
	return kindFor(source, target, component, g.Source.Component)
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
		return c.Plan.Value(ref)
	}
	_, values := c.Plan.Try(fmt.Sprintf("{@%s:@%s}.%s", ref.Item, ref.Property, ref.Component), scene.Ref{}, float64(c.Frame))
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

// PasteLink puts copies of a link onto properties of any kind where it fits.
type PasteLink struct {
	Link    scene.Link  `json:"link"`
	Targets []scene.Ref `json:"targets"`
}

// Do returns the operations that add the copies; those that do not fit are told in the note.
func (g *PasteLink) Do(c *gesture.Context) (gesture.Result, error) {
	kind := link.Of(&g.Link)
	on, _ := c.Composition.Graph(g.Link.Graph)
	if kind.Written || kind.Graphed && on == nil {
		text := binding.Print(g.Link.Formula, wire.ScopeOf(c.Plan.Layout, -1, nil, ""))
		return (&Formula{Targets: g.Targets, Text: text}).Do(c)
	}
	_, source, err := c.Property(g.Link.Source)
	if kind.Sourced && err != nil {
		return gesture.Result{}, fmt.Errorf("the copied link's source isn't in this composition")
	}
	var r gesture.Result
	var refused error
	for _, ref := range g.Targets {
		item, target, err := c.Property(ref)
		if err != nil {
			return gesture.Result{}, err
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
			continue
		}
		r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(ref.Item, ref.Property), Link: l, At: -1})
	}
	if len(r.Ops) == 0 && refused != nil {
		return gesture.Result{}, refused
	}
	if refused != nil {
		r.Note = fmt.Sprintf("pasted %d of %d: %s", len(r.Ops), len(g.Targets), refused)
	}
	return r, nil
}

// FitRanges gives a follow link the gain and offset that lead the whole range of the source over the whole range of the
// target, and those of other targets that are alike with it.
type FitRanges struct {
	Targets []scene.Ref `json:"targets"`
	Link    scene.ID    `json:"link"` // of the first target
}

// Do returns the operations that alter the links.
func (g *FitRanges) Do(c *gesture.Context) (gesture.Result, error) {
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
		fitted := l.Clone()
		fitted.Offsets = nil
		var ok bool
		if fitted.Gain, fitted.Offset, ok = link.Range(source, spec); !ok {
			return gesture.Result{}, fmt.Errorf("%s has no range to match", source.Name)
		}
		r.Ops = append(r.Ops, &change.LinkSet{Of: c.Of(item.ID, spec.Key), Link: fitted})
	}
	return r, nil
}
