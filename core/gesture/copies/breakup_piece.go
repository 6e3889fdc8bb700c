package copies

import (
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// unpacking is a piece that is turned into the items that it shows.
type unpacking struct {
	*gesture.Context
	piece *scene.Item
	of    *scene.Composition
	ids   map[scene.ID]scene.ID // of the copies, by those in the composition
	made  map[scene.ID]*scene.Item
	r     gesture.Result
}

// breakUpPiece puts the items that a piece shows in its place: the piece becomes a null of the same id, on which they hang, and what it set
// and what drove it is set of their controls.
func breakUpPiece(c *gesture.Context, item *scene.Item) (gesture.Result, error) {
	of := item.Stage()
	switch {
	case of == nil:
		return gesture.Result{}, fmt.Errorf("%s shows a composition that was deleted, so there is nothing to break up", item.Name)
	case !c.Composition.InStep(item):
		return gesture.Result{}, fmt.Errorf("%s has a time of its own, which single items don't have. Let it show now, start at 0 s, at a speed of 100 %%, and extend beyond its ends first", item.Name)
	case len(of.Items) > maxBroken:
		return gesture.Result{}, fmt.Errorf("%s would become %d items; at most %d are made", item.Name, len(of.Items), maxBroken)
	}
	all := make([]scene.ID, len(of.Items))
	for k, one := range of.Items {
		all[k] = one.ID
	}
	clip := Take(c.Project, of, all)
	at := c.Composition.IndexOf(item.ID)
	copied, ids, err := CopiesWith(c, &clip, at, nil)
	if err != nil {
		return gesture.Result{}, err
	}
	u := &unpacking{Context: c, piece: item, of: of, ids: ids, made: map[scene.ID]*scene.Item{}}
	for _, op := range copied.Ops {
		if add, ok := op.(*change.ItemAdd); ok {
			u.made[add.Value.ID] = add.Value
			if add.Value.Parent == "" {
				add.Value.Parent = item.ID
			}
		}
	}
	u.hold(at)
	u.set()
	u.r.Ops = append(u.r.Ops, copied.Ops...)
	u.lead()
	u.r.Made = append([]scene.ID{item.ID}, copied.Made...)
	u.told(&clip)
	return u.r, nil
}

// hold puts a null in the place of the piece.
func (u *unpacking) hold(at int) {
	children := u.Composition.Attached(u.piece.ID)
	for _, child := range children {
		u.r.Ops = append(u.r.Ops, &change.ItemAttach{On: u.On(child.ID)})
	}
	holder := u.piece.Clone()
	holder.Kind, holder.Piece, holder.States = scene.Null, nil, nil
	for key, s := range u.piece.States {
		if holder.Spec(key) == nil {
			continue
		}
		*holder.Edit(key) = *s.Clone()
		for _, l := range s.Links {
			if weight := u.piece.States[scene.WeightKey(l.ID)]; weight != nil {
				*holder.Edit(scene.WeightKey(l.ID)) = *weight.Clone()
			}
		}
	}
	u.r.Ops = append(u.r.Ops, &change.ItemRemove{On: u.On(u.piece.ID)}, &change.ItemAdd{In: u.In(), Value: holder, At: at})
	for _, child := range children {
		u.r.Ops = append(u.r.Ops, &change.ItemAttach{On: u.On(child.ID), Parent: child.Parent, Attachment: child.Attachment.Clone()})
	}
}

// set gives the controls what the piece set of them, and what drove that.
func (u *unpacking) set() {
	for _, h := range u.piece.Handed() {
		key := string(h.Offer.ID)
		item, to := u.made[u.ids[h.Item.ID]], string(u.ids[h.From.ID])
		if item == nil {
			continue
		}
		s, state := u.piece.State(key), item.Edit(to)
		if !u.piece.Untouched(key) && u.piece.Kept(key) == nil {
			state.Own, state.Pins, state.Beyond = s.Own, slices.Clone(s.Pins), s.Beyond
		} else if !h.Offer.Default.Absent() {
			state.Own, state.Pins = h.Control.Default, nil
		}
		if h.From.Kind != scene.TextWidget {
			if h.Offer.Min != nil {
				state.Min = h.Control.Min
			}
			if h.Offer.Max != nil {
				state.Max = h.Control.Max
			}
		}
		var links []*scene.Link
		for _, l := range s.Links {
			links = append(links, l.Clone())
			if weight := u.piece.States[scene.WeightKey(l.ID)]; weight != nil {
				*item.Edit(scene.WeightKey(l.ID)) = *weight.Clone()
			}
		}
		state.Links = append(links, state.Links...)
		item.Tidy(to)
	}
}

// moved returns where a property of the piece is now, that its composition handed off.
func (u *unpacking) moved(item scene.ID, key string) (to scene.Ref, ok bool) {
	if item != u.piece.ID {
		return to, false
	}
	h, ok := u.piece.HandedAs(key)
	return scene.Ref{Item: u.ids[h.Item.ID], Property: string(u.ids[h.From.ID])}, ok
}

// again returns a link that looks at the controls in place of the properties of the piece; false where it looks at none.
func (u *unpacking) again(l *scene.Link) (*scene.Link, bool) {
	out, found := l.Clone(), false
	if to, ok := u.moved(l.Source.Item, l.Source.Property); ok {
		out.Source.Item, out.Source.Property, found = to.Item, to.Property, true
	}
	text := u.text(out.Formula)
	found = found || text != out.Formula
	out.Formula = text
	return out, found
}

func (u *unpacking) text(formula string) string {
	return syntax.ReplaceReferences(formula, func(r *syntax.Reference) string {
		if to, ok := u.moved(r.Item, r.Key); ok {
			r.Item, r.Key = to.Item, to.Property
		}
		return r.Bound()
	})
}

// lead has all links elsewhere look at the controls that looked at the piece.
func (u *unpacking) lead() {
	for _, item := range u.Composition.Items {
		if item == u.piece {
			continue
		}
		for key, s := range item.States {
			for _, l := range s.Links {
				if now, ok := u.again(l); ok && l.Graph == "" {
					u.r.Ops = append(u.r.Ops, &change.LinkSet{Of: u.Of(item.ID, key), Link: now})
				}
			}
		}
	}
	for _, s := range u.Composition.RosterLinks {
		now := s.Clone()
		link, found := u.again(s.Link)
		now.Link = link
		if s.WeightFrom != nil {
			if to, ok := u.moved(s.WeightFrom.Item, s.WeightFrom.Property); ok {
				now.WeightFrom, found = &to, true
			}
		}
		if found && s.Link.Graph == "" {
			u.r.Ops = append(u.r.Ops, &change.RosterLinkSet{In: u.In(), Value: now})
		}
	}
	for _, g := range u.Composition.Graphs {
		for _, slip := range g.Slips {
			if slip.Kind == scene.NoteSlip {
				continue
			}
			now := slip.Clone()
			now.Text = u.text(slip.Text)
			changed := now.Text != slip.Text
			for name, text := range slip.Fields {
				if written := u.text(text); written != text {
					now.Fields[name], changed = written, true
				}
			}
			if changed {
				u.r.Ops = append(u.r.Ops, &change.SlipSet{In: u.In(), Graph: g.ID, Value: now})
			}
		}
	}
}

// told says what is another thing than before.
func (u *unpacking) told(clip *Clip) {
	if spec := u.piece.Spec("opacity"); u.Value(u.piece, "opacity").At(0) != 100 || u.Driven(u.piece, spec, "") {
		u.r.Details = append(u.r.Details, "its opacity: set it on the items")
	}
	rows := map[scene.ID]bool{}
	for _, h := range u.piece.Handed() {
		for _, s := range u.Composition.RosterLinksOn(u.piece, string(h.Offer.ID)) {
			rows[s.ID] = true
		}
	}
	if len(rows) > 0 {
		u.r.Details = append(u.r.Details, gesture.Plural(len(rows), "link")+" on rows of pieces, which it is in no longer")
	}
	world := false
	for _, item := range clip.Items {
		for _, s := range item.States {
			for _, l := range s.Links {
				world = world || l.World || strings.HasPrefix(l.Source.Property, "world") || slices.ContainsFunc(syntax.References(l.Formula), func(r *syntax.Reference) bool { return strings.HasPrefix(r.Key, "world") })
			}
		}
	}
	if world {
		u.r.Details = append(u.r.Details, "places in the composition, which are those in this one now")
	}
	if len(u.r.Details) > 0 {
		u.r.Note = "Broken up. Not as before"
	}
}
