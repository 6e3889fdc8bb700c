// Package looks has the gestures on what controls stood at, kept by a name: to keep it, to come back to it, to mix several by a fader.
package looks

import (
	"fmt"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// KeepLook keeps what the controls of an item, or of all items, are at. What links drive is left out, but for what a fader mixes of
// looks already.
type KeepLook struct {
	Of   scene.ID `json:"of,omitempty"`   // empty: the controls of all items
	Name string   `json:"name,omitempty"` // empty: one made
	Look scene.ID `json:"look,omitempty"` // one that is to keep this from now on; empty: a new one
}

// Do returns the operations that keep it, and that have a fader which mixes it hold it, too.
func (g *KeepLook) Do(c *gesture.Context) (r gesture.Result, err error) {
	kept := &scene.Look{ID: c.NewID(), Of: g.Of, Name: g.Name}
	if g.Look != "" {
		was, err := look(c, g.Look)
		if err != nil {
			return r, err
		}
		kept.ID, kept.Of, kept.Name = was.ID, was.Of, was.Name
	}
	if kept.Name == "" {
		kept.Name = free(c, kept.Of)
	}
	of := c.Composition.Items
	called := "The composition"
	if kept.Of != "" {
		item, err := c.Item(kept.Of)
		if err != nil {
			return r, err
		}
		of, called = []*scene.Item{item}, item.Name
	}
	driven := 0
	for _, item := range of {
		for _, control := range item.Controls {
			if mixes(c.Composition, control) {
				continue
			}
			of, fader := under(c, item, control)
			if of == driver {
				driven++
				continue
			}
			v := c.Plan().Value(ref(item, control))
			kept.Values = append(kept.Values, scene.LookValue{Item: item.ID, Control: control.ID, Value: v})
			if at := fader.at(kept.ID); at >= 0 {
				if was, ok := fader.link.HeldAt(kept.ID); !ok || was != v {
					held := fader.link.Clone()
					held.MakeRoom(fader.control)
					held.Hold(kept.ID, v)
					r.Ops = append(r.Ops, &change.LinkSet{Of: c.Of(item.ID, string(control.ID)), Link: held})
				}
			}
		}
	}
	switch {
	case len(kept.Values) == 0 && driven > 0:
		return gesture.Result{}, fmt.Errorf("links drive every control of %s, so there is nothing to keep. Keep a look of what drives them", called)
	case len(kept.Values) == 0:
		return gesture.Result{}, fmt.Errorf("%s has no controls yet; add one with C", called)
	}
	r.Ops = append(r.Ops, &change.LookSet{In: c.In(), Value: kept, At: -1})
	r.Made = []scene.ID{kept.ID}
	r.Note = fmt.Sprintf("%s keeps %s", kept.Name, gesture.Plural(len(kept.Values), "value"))
	return r, nil
}

// free returns a name that no look of the same controls has.
func free(c *gesture.Context, of scene.ID) string {
	taken := map[string]bool{}
	n := 1
	for _, l := range c.Composition.Looks {
		if l.Of == of {
			taken[l.Name] = true
			n++
		}
	}
	return gesture.Numbered("Look", n, taken, nil)
}

func look(c *gesture.Context, id scene.ID) (*scene.Look, error) {
	if l, _ := c.Composition.Look(id); l != nil {
		return l, nil
	}
	return nil, fmt.Errorf("the look is no longer there; it may have been deleted in another window")
}

func ref(item *scene.Item, control *scene.Control) scene.Ref {
	return scene.Ref{Item: item.ID, Property: string(control.ID)}
}

// mixes reports whether a control is one that mixes looks: its stops have their ids.
func mixes(c *scene.Composition, control *scene.Control) bool {
	for _, s := range control.Poses {
		if l, _ := c.Look(s.ID); l != nil {
			return true
		}
	}
	return false
}

// What a control is under.
type driven int

const (
	hand   driven = iota // nothing: a hand sets it
	mixed                // a control that mixes looks, and nothing else
	driver               // other links, which leave nothing of what a hand would set
)

// mixing is the control that mixes looks into another one, and the link by which it does.
type mixing struct {
	item    *scene.Item
	control *scene.Control
	link    *scene.Link
}

// at returns the place of a look among the stops of the control; -1 where it has none, or there is no control.
func (m mixing) at(look scene.ID) int {
	if m.control == nil {
		return -1
	}
	return m.control.Pose(look)
}

// under tells what a control is under.
func under(c *gesture.Context, item *scene.Item, control *scene.Control) (driven, mixing) {
	spec := item.Spec(string(control.ID))
	if !c.Driven(item, spec, "") {
		return hand, mixing{}
	}
	by := c.Drivers(item, spec, "")
	last := by[len(by)-1]
	if last.Row == nil && link.Of(last.Link).Posed && last.Link.Component == "" && last.Link.Operation == scene.Replace {
		if from := link.ControlOf(last.Link, c.Composition); from != nil && mixes(c.Composition, from) {
			return mixed, mixing{c.Composition.Item(last.Link.Source.Item), from, last.Link}
		}
	}
	return driver, mixing{}
}

// ApplyLook sets controls to what a look keeps of them, as a hand would: what has pins gets one at the playhead. What a fader mixes is
// brought there by that fader.
type ApplyLook struct {
	Look scene.ID `json:"look"`
}

// Do returns the operations that set them; the note says what stays as it is, and why.
func (g *ApplyLook) Do(c *gesture.Context) (r gesture.Result, err error) {
	l, err := look(c, g.Look)
	if err != nil {
		return r, err
	}
	return apply(c, l), nil
}

func apply(c *gesture.Context, l *scene.Look) (r gesture.Result) {
	var stay []string
	gone := 0
	moved := map[scene.ID]bool{}
	set := func(item *scene.Item, control *scene.Control, v scene.Value) {
		spec := item.Spec(string(control.ID))
		if state := item.State(spec.Key); c.Plan().Own(item.ID, spec.Key) == v && (!c.AutoPin || len(state.Pins) > 0) {
			return
		}
		op, _ := c.Own(item, spec, v)
		r.Ops = append(r.Ops, op)
	}
	for _, v := range l.Values {
		item, control := there(c.Composition, v)
		if control == nil {
			gone++
			continue
		}
		of, fader := under(c, item, control)
		at := fader.at(l.ID)
		switch {
		case of == hand:
			set(item, control, v.Value)
		case at < 0:
			stay = append(stay, c.Composition.NameOf(ref(item, control)))
		case !moved[fader.control.ID]:
			moved[fader.control.ID] = true
			if now, _ := under(c, fader.item, fader.control); now != hand {
				stay = append(stay, c.Composition.NameOf(ref(fader.item, fader.control)))
				continue
			}
			set(fader.item, fader.control, scene.Num(fader.control.PoseAt(at)))
		}
	}
	var notes []string
	if len(stay) > 0 {
		notes = append(notes, fmt.Sprintf("links drive %s, which stays as it is", strings.Join(stay[:min(3, len(stay))], ", ")))
		if len(stay) > 1 {
			notes[0] = fmt.Sprintf("links drive %s, which stay as they are", gesture.Plural(len(stay), "control"))
			r.Details = stay
		}
	}
	if gone > 0 {
		notes = append(notes, fmt.Sprintf("%s that it keeps a value of can’t be set any more", gesture.Plural(gone, "control")))
	}
	switch {
	case len(notes) > 0:
		r.Note = l.Name + ": " + strings.Join(notes, "; ")
	case len(r.Ops) == 0:
		r.Note = l.Name + " is what is shown"
	}
	return r
}

// there returns the control that a look keeps a value of; nil where it is gone, or takes no such value any more.
func there(c *scene.Composition, v scene.LookValue) (*scene.Item, *scene.Control) {
	item := c.Item(v.Item)
	if item == nil {
		return nil, nil
	}
	if control := item.Control(v.Control); control != nil && v.Value.Fits(control.Spec().Type) == nil {
		return item, control
	}
	return nil, nil
}

// Shown lists the looks that everything stands at now.
func Shown(c *gesture.Context) []scene.ID {
	out := []scene.ID{}
	for _, l := range c.Composition.Looks {
		if shown(c, l) {
			out = append(out, l.ID)
		}
	}
	return out
}

// shown reports whether all controls that are still there stand at what a look keeps of them.
func shown(c *gesture.Context, l *scene.Look) bool {
	n := 0
	for _, v := range l.Values {
		if item, control := there(c.Composition, v); control != nil {
			if c.Plan().Value(ref(item, control)) != item.Spec(string(control.ID)).Held(v.Value) {
				return false
			}
			n++
		}
	}
	return n > 0
}

// StepLook applies the look after, or before, the one that is shown; the first, or the last, where none is.
type StepLook struct {
	Of scene.ID `json:"of,omitempty"` // whose looks; empty: those of all items
	By int      `json:"by"`           // 1: the next, -1: the one before
}

// Do returns the operations that apply it.
func (g *StepLook) Do(c *gesture.Context) (r gesture.Result, err error) {
	var list []*scene.Look
	at := -1
	for _, l := range c.Composition.Looks {
		if l.Of == g.Of {
			if at < 0 && shown(c, l) {
				at = len(list)
			}
			list = append(list, l)
		}
	}
	if len(list) == 0 {
		return r, fmt.Errorf("there are no looks yet. Keep one from the menu of a drawer")
	}
	if at < 0 && g.By < 0 {
		at = 0
	}
	n := len(list)
	l := list[((at+g.By)%n+n)%n]
	r = apply(c, l)
	if r.Note == "" {
		r.Note = l.Name
	}
	return r, nil
}

// NameLook gives a look another name, and the stop that a fader has for it.
type NameLook struct {
	Look scene.ID `json:"look"`
	Name string   `json:"name"`
}

// Do returns the operations that rename it.
func (g *NameLook) Do(c *gesture.Context) (r gesture.Result, err error) {
	was, err := look(c, g.Look)
	if err != nil {
		return r, err
	}
	named := was.Clone()
	named.Name = g.Name
	r.Ops = change.Ops{&change.LookSet{In: c.In(), Value: named, At: -1}}
	for _, item := range c.Composition.Items {
		for _, control := range item.Controls {
			k := control.Pose(g.Look)
			if k < 0 || control.Poses[k].Name != was.Name {
				continue
			}
			altered := control.Clone()
			altered.Poses[k].Name = g.Name
			altered.SetPoses(altered.Poses)
			r.Ops = append(r.Ops, &change.ControlSet{On: c.On(item.ID), Value: altered})
		}
	}
	return r, nil
}
