package copies

import (
	"fmt"
	"math"

	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// BreakUp turns the copies that an item shows at the playhead into items that look the same: the item becomes a null, each copy a
// null on it, and each of these holds items like those that were copied. What drove the places of the copies drives these nulls. A piece
// becomes a null that holds the items of its composition.
type BreakUp struct {
	Item scene.ID `json:"item"`
}

// maxBroken bounds the items that copies are turned into.
const maxBroken = 5000

// breaking is copies that are turned into items.
type breaking struct {
	*gesture.Context
	item  *scene.Item
	clip  Clip // what they show
	taken map[string]bool
	full  gesture.Full
	r     gesture.Result
	nulls []scene.ID
	mixed bool // something was left as it is at the playhead
	early bool // particles of late copies are born earlier than they were
}

// Do returns the operations.
func (g *BreakUp) Do(c *gesture.Context) (gesture.Result, error) {
	item, err := c.Item(g.Item)
	if err != nil {
		return gesture.Result{}, err
	}
	if item.Piece != nil {
		return breakUpPiece(c, item)
	}
	if item.Kind != scene.CopiesItem {
		return gesture.Result{}, fmt.Errorf("%s is %s; only copies and pieces can be broken up", item.Name, item.Kind.Info().One())
	}
	if c.Value(item, scene.CopiesShow).At(0) == scene.OwnTime {
		return gesture.Result{}, fmt.Errorf("%s shows a time of its own, which single items don't have; set what it shows to now first", item.Name)
	}
	c, moved, err := emptied(c, item)
	if err != nil {
		return gesture.Result{}, err
	}
	item = c.Composition.Item(item.ID)
	b := &breaking{Context: c, item: item, clip: Cut(c.Composition, []scene.ID{item.ID}), taken: c.ItemNames(), full: gesture.Full{}}
	b.clip.Items = b.clip.Items[1:]
	b.r.Ops = moved
	lanes := c.Plan().ShownCopies(c.Planned.Layout.Index(item.ID))
	if n := len(lanes) * (1 + len(b.clip.Items)); n > maxBroken {
		return gesture.Result{}, fmt.Errorf("%s would become %d items; at most %d are made, so lower its number first", item.Name, n, maxBroken)
	}
	if len(lanes) == 0 || len(b.clip.Items) == 0 {
		return gesture.Result{}, fmt.Errorf("%s shows no copies here that could be broken up", item.Name)
	}
	b.replace()
	for k := len(lanes) - 1; k >= 0; k-- { // the last copy lies in front
		if err := b.lane(lanes[k]); err != nil {
			return gesture.Result{}, err
		}
	}
	b.rows()
	b.r.Note = fmt.Sprintf("%s became %s", item.Name, gesture.Plural(len(b.nulls), "group"))
	if b.mixed {
		b.r.Note += "; opacity and tint of the copies stay as they are at this frame"
	}
	if b.early {
		b.r.Note += "; particles of late copies are no longer late, since an emitter has no time of its own"
	}
	if len(moved) > 0 {
		b.r.Note += "; the controls inside of it are its own now, one for all of them"
	}
	return b.r, nil
}

// emptied returns the context in which the controls of what copies show are controls of the copies themselves, and the operations
// that make it so: they are to stay one each, whatever becomes of the copies.
func emptied(c *gesture.Context, copies *scene.Item) (*gesture.Context, change.Ops, error) {
	var inside []scene.Ref
	for _, item := range Cut(c.Composition, []scene.ID{copies.ID}).Items {
		for _, control := range item.Controls {
			if item.ID != copies.ID {
				inside = append(inside, scene.Ref{Item: item.ID, Property: string(control.ID)})
			}
		}
	}
	if len(inside) == 0 {
		return c, nil, nil
	}
	out, ops := *c, change.Ops(nil)
	out.Composition = c.Composition.Clone()
	on := &scene.Project{Compositions: []*scene.Composition{out.Composition}}
	for _, ref := range inside {
		r, err := (&wiring.MoveControl{Item: ref.Item, Control: scene.ID(ref.Property), Onto: copies.ID, At: -1}).Do(&out)
		if err == nil {
			_, _, err = change.Apply(on, r.Ops)
		}
		if err != nil {
			return nil, nil, err
		}
		ops = append(ops, r.Ops...)
	}
	return &out, ops, nil
}

// lane makes a copy a null with what it shows.
func (b *breaking) lane(lane engine.Copied) error {
	l := b.Planned.Layout
	at := l.Items[lane.Lane]
	null := &scene.Item{ID: b.NewID(), Name: gesture.FreeName(at.Name, b.taken), Kind: scene.Null, Parent: b.item.ID}
	b.taken[null.Name] = true
	stand := func(key, from string) { null.Edit(key).Own = b.Plan().Value(scene.Ref{Item: at.ID, Property: from}) }
	stand("position", scene.Stand)
	stand("rotation", scene.Heading)
	b.r.Ops = append(b.r.Ops, &change.ItemAdd{In: b.In(), Value: null, At: -1})
	b.nulls = append([]scene.ID{null.ID}, b.nulls...)
	b.r.Made = append(b.r.Made, null.ID)
	made, ids, err := copies(b.Context, &Clip{Composition: b.Composition.ID, Items: b.clip.Items, Rows: b.inner()}, len(b.Composition.Items))
	if err != nil {
		return err
	}
	late := b.Plan().Value(scene.Ref{Item: at.ID, Property: "copyLate"}).At(0) * float64(b.Composition.Rate)
	for _, op := range made.Ops {
		if add, ok := op.(*change.ItemAdd); ok {
			one := add.Value
			one.Name = gesture.NextName(one.Name, b.taken, b.full)
			b.taken[one.Name] = true
			if one.Parent == b.item.ID {
				one.Parent = null.ID
			}
			later(one, late, ids)
			b.early = b.early || late != 0 && one.Kind == scene.Emitter
			b.dye(one, lane)
		}
		b.r.Ops = append(b.r.Ops, op)
	}
	return nil
}

// inner returns the links on the rows of copies inside of those that are broken up.
func (b *breaking) inner() (out []*scene.RosterLink) {
	for _, s := range b.clip.Rows {
		if s.Roster.Item != b.item.ID {
			out = append(out, s)
		}
	}
	return out
}

// later moves the pins of an item by some frames, and delays what its links bring from elsewhere.
func later(item *scene.Item, frames float64, copied map[scene.ID]scene.ID) {
	if frames == 0 {
		return
	}
	own := map[scene.ID]bool{}
	for _, id := range copied {
		own[id] = true
	}
	for _, state := range item.States {
		for k := range state.Pins {
			state.Pins[k].Frame += int(math.Round(frames))
		}
		for _, l := range state.Links {
			inside, any := true, false
			r := link.ReaderOf(l)
			r.Items(func(id scene.ID) { inside, any = inside && own[id], true })
			if !any || !inside { // what is copied along is late already
				l.Delay += frames
			}
		}
	}
}

// dye gives an item the opacity and the tint that its copy gave it.
func (b *breaking) dye(item *scene.Item, lane engine.Copied) {
	set := func(key string, share float64, mix func(v scene.Value) scene.Value, formula string) {
		spec := item.Spec(key)
		if spec == nil || share == 0 {
			return
		}
		b.mixed = true
		state := item.Edit(key)
		state.Own = mix(state.OwnOr(spec))
		for k := range state.Pins {
			state.Pins[k] = state.Pins[k].Through(mix)
		}
		if len(state.Links) > 0 {
			state.Links = append(state.Links, &scene.Link{ID: b.NewID(), Kind: scene.Formula, Gain: 1, Formula: formula})
		}
	}
	set("opacity", 1-lane.Opacity, func(v scene.Value) scene.Value { return scene.Num(v.At(0) * lane.Opacity) }, "below * "+scene.Exact(lane.Opacity))
	for _, key := range scene.Tinted {
		set(key, lane.Tinted, lane.Dyed, fmt.Sprintf("alpha(rgb(below.r + (%[1]s - below.r) * %[4]s, below.g + (%[2]s - below.g) * %[4]s, below.b + (%[3]s - below.b) * %[4]s), below.a)",
			scene.Exact(lane.Tint[0]), scene.Exact(lane.Tint[1]), scene.Exact(lane.Tint[2]), scene.Exact(lane.Tinted)))
	}
}

// rows lets what drove the places of the copies drive the nulls.
func (b *breaking) rows() {
	for _, s := range b.clip.Rows {
		if s.Roster.Item != b.item.ID {
			continue
		}
		if (&scene.Item{Kind: scene.Null}).Spec(s.Property) == nil {
			continue
		}
		row := s.Clone()
		row.ID, row.Link.ID = b.NewID(), b.NewID()
		row.Roster = scene.Roster{Kind: scene.Picked, Items: b.nulls}
		row.Renamed(func(id scene.ID) (scene.ID, bool) {
			if _, n, ok := scene.LaneOf(id); ok && n <= len(b.nulls) {
				return b.nulls[n-1], true
			}
			return "", false
		})
		b.r.Ops = append(b.r.Ops, &change.RosterLinkAdd{In: b.In(), Value: row, At: -1})
	}
}

// replace puts a null in place of the copies, with the same id, place and controls.
func (b *breaking) replace() {
	for _, s := range b.clip.Rows {
		b.r.Ops = append(b.r.Ops, &change.RosterLinkRemove{In: b.In(), RosterLink: s.ID})
	}
	for k := len(b.clip.Items) - 1; k >= 0; k-- {
		b.r.Ops = append(b.r.Ops, &change.ItemRemove{On: b.On(b.clip.Items[k].ID)})
	}
	null := b.item.Clone()
	null.Kind, null.Copies = scene.Null, nil
	for key := range null.States {
		if null.Spec(key) == nil {
			delete(null.States, key)
		}
	}
	null.DropLeftWeights()
	at := b.Composition.IndexOf(b.item.ID) - below(b.Composition, b.clip.Items, b.item.ID)
	b.r.Ops = append(b.r.Ops, &change.ItemRemove{On: b.On(b.item.ID)}, &change.ItemAdd{In: b.In(), Value: null, At: at})
}

// below counts the items of a list that stand before another in the composition.
func below(c *scene.Composition, items []*scene.Item, id scene.ID) (n int) {
	for _, item := range items {
		if c.IndexOf(item.ID) < c.IndexOf(id) {
			n++
		}
	}
	return n
}
