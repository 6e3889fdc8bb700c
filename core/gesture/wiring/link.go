package wiring

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// Link makes one source drive many targets. The same property of several items is driven by one link on the row of them, unless
// single links are asked for.
type Link struct {
	Source  scene.Ref      `json:"source"`
	Targets []scene.Ref    `json:"targets"`
	Kind    scene.LinkKind `json:"kind,omitempty"` // empty: follow, or what keeps what is seen
	// FromHere keeps the present value: what the source does from now on is added to it.
	FromHere bool `json:"fromHere"`
	// Follow asks for the value of the source itself, whatever the target is at. Without it, a property that drives another one of
	// another sort begins from here.
	Follow bool `json:"follow,omitempty"`
	// Single gives each target a link of its own.
	Single bool `json:"single,omitempty"`
}

// Do returns the operations that add the links. Targets that the source does not fit are left
// out and told in the note; it is an error if none fits.
func (g *Link) Do(c *gesture.Context) (gesture.Result, error) {
	_, source, err := c.Property(g.Source)
	if err != nil {
		return gesture.Result{}, err
	}
	w := &wiring{Context: c, g: g, source: source}
	groups := w.groups()
	var begins *scene.Value
	w.r, begins = takeOver(c, g, source)
	for n, group := range groups {
		if n > 0 {
			begins = nil // they all follow what suits the first
		}
		if err := w.link(group, begins); err != nil {
			return gesture.Result{}, err
		}
	}
	if w.wired == 0 && w.refused != nil {
		return gesture.Result{}, w.refused
	}
	if w.refused != nil {
		w.r.Note = fmt.Sprintf("linked %d of %d: %s", w.wired, len(g.Targets), w.refused)
	}
	return w.r, nil
}

// wiring is one source on its way to many targets.
type wiring struct {
	*gesture.Context
	g       *Link
	source  *scene.Spec
	r       gesture.Result
	wired   int
	refused error // why one of the targets was left out
}

// groups are the targets that one link each can drive.
func (w *wiring) groups() [][]scene.Ref {
	if !w.g.Single {
		return together(w.g.Targets)
	}
	var out [][]scene.Ref
	for _, ref := range w.g.Targets {
		out = append(out, []scene.Ref{ref})
	}
	return out
}

// link puts one link on all properties of a group that it fits; those that a row can't drive get links of their own.
func (w *wiring) link(group []scene.Ref, begins *scene.Value) error {
	if of, _, copied := scene.LaneOf(group[0].Item); copied {
		add, note, err := linkCopies(w.Context, w.g, w.source, of, group[0], begins)
		if err != nil {
			w.refused = err
			return nil
		}
		w.r.Note, w.wired = note, w.wired+1
		w.r.Ops = append(w.r.Ops, add)
		return nil
	}
	var onRow, alone []scene.Ref
	for _, ref := range group {
		item, target, err := w.Property(ref)
		if err != nil {
			return err
		}
		switch {
		case ref.Item == w.g.Source.Item && ref.Property == w.g.Source.Property:
			w.refused = fmt.Errorf("%s: %s can't drive itself", item.Name, target.Name)
		case len(group) == 1 || covered(w.Context, ref):
			alone = append(alone, ref)
		default:
			if err := w.fits(ref, target); err != nil {
				w.refused = err
				continue
			}
			onRow = append(onRow, ref)
		}
	}
	if len(onRow) == 1 {
		alone, onRow = append(onRow, alone...), nil
	}
	if len(onRow) > 0 {
		_, target, _ := w.Property(onRow[0])
		row, note, err := linkRow(w.Context, w.g, w.source, onRow, target, begins)
		switch {
		case err != nil:
			w.refused = err
		case row == nil:
			alone, onRow = append(onRow, alone...), nil
		default:
			w.add(&change.RosterLinkAdd{In: w.In(), Value: row, At: -1}, len(onRow), target, note)
			w.r.Made = append(w.r.Made, row.ID)
			if len(alone) > 0 {
				w.r.Note = gesture.Plural(len(alone), "item") + " with links of its own that would hide the row: linked on its own"
			}
		}
	}
	for n, ref := range alone {
		if n > 0 || len(onRow) > 0 {
			begins = nil
		}
		item, target, _ := w.Property(ref)
		if row := w.joined(ref, target); row != nil {
			w.add(&change.RosterLinkSet{In: w.In(), Value: row}, 1, target, "")
			w.r.Note = fmt.Sprintf("%s joined the row %s at its end, as number %d", item.Name, row.Name, len(row.Roster.Items))
			continue
		}
		l, note, err := linkTo(w.Context, w.g, w.source, ref, target, begins)
		if err != nil {
			w.refused = err
			continue
		}
		w.add(&change.LinkAdd{Of: w.Of(ref.Item, ref.Property), At: -1, Link: l}, 1, target, note)
	}
	return nil
}

// joined returns a row of chosen items that the source drives already in the way that is asked for, with one more item; nil where there
// is none, or a link alone is asked for.
func (w *wiring) joined(ref scene.Ref, target *scene.Spec) *scene.RosterLink {
	if w.g.Single || w.g.FromHere || len(w.g.Targets) > 1 || covered(w.Context, ref) || w.fits(ref, target) != nil {
		return nil
	}
	kind := w.g.kind(w.Context, w.source, target, ref.Component)
	for _, s := range w.Composition.RosterLinks {
		member := scene.Member{Item: w.Composition.Item(ref.Item), Key: ref.Property}
		if s.Roster.Kind != scene.Picked || s.Link.Off || s.Link.Source != w.g.Source || s.Link.Kind != kind || s.Property != ref.Property || s.Component != ref.Component || s.IndexOf(w.Composition, member) >= 0 {
			continue
		}
		more := s.Clone()
		more.Roster.Items = append(more.Roster.Items, ref.Item)
		return more
	}
	return nil
}

func (w *wiring) add(op change.Op, targets int, target *scene.Spec, note string) {
	w.r.Ops = append(w.r.Ops, op)
	w.wired += targets
	if note != "" {
		w.r.Note = target.Name + ": " + note
	}
}

// fits refuses a property that the source can't drive.
func (w *wiring) fits(ref scene.Ref, target *scene.Spec) error {
	kind := link.Of(&scene.Link{Kind: w.g.kind(w.Context, w.source, target, ref.Component)})
	if !kind.Sourced {
		return fmt.Errorf("a link of that kind has no source")
	}
	_, err := kind.Fits(w.source, w.g.Source.Component, target, ref.Component)
	return err
}

// linkCopies makes one source drive the same property of all copies that an item shows; ref is that of one of them. What the
// arrangement makes of their places is added to.
func linkCopies(c *gesture.Context, g *Link, source *scene.Spec, of scene.ID, ref scene.Ref, begins *scene.Value) (change.Op, string, error) {
	item, target, err := c.OfCopies(of, ref.Property)
	if err != nil {
		return nil, "", err
	}
	if c.Planned.Layout.Index(ref.Item) < 0 {
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
	now := c.Plan().Value(scene.Ref{Item: g.Source.Item, Property: g.Source.Property})
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
