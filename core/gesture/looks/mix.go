package looks

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// MixLooks has a fader mix looks: it gets a stop for each, in their order, and drives the controls in which they differ. A fader that
// mixes some of them already gets stops for the others, behind those that it has.
type MixLooks struct {
	Looks []scene.ID `json:"looks"`
	On    scene.ID   `json:"on,omitempty"` // the item that gets the fader; empty: a null of its own
}

// Do returns the operations that make the fader, and its links.
func (g *MixLooks) Do(c *gesture.Context) (r gesture.Result, err error) {
	var list []*scene.Look
	for _, id := range g.Looks {
		l, err := look(c, id)
		if err != nil {
			return r, err
		}
		if slices.Contains(list, l) {
			return r, fmt.Errorf("%s is to be mixed with itself; choose another look", l.Name)
		}
		list = append(list, l)
	}
	m, err := g.fader(c, list)
	if err != nil {
		return r, err
	}
	r.Made = []scene.ID{m.control.ID}
	r.Ops = m.ops
	seen := map[scene.Ref]bool{}
	moves, out := 0, []string{}
	for _, l := range list {
		for _, v := range l.Values {
			item, control := there(c.Composition, v)
			if control == nil || seen[ref(item, control)] || control.ID == m.control.ID {
				continue
			}
			seen[ref(item, control)] = true
			values := at(c, list, item, control)
			of, by := under(c, item, control)
			switch {
			case of == mixed && by.control.ID == m.control.ID:
				held := by.link.Clone()
				held.MakeRoom(m.control)
				for k, l := range list {
					held.Hold(l.ID, values[k])
				}
				moves++
				r.Ops = append(r.Ops, &change.LinkSet{Of: c.Of(item.ID, string(control.ID)), Link: held})
			case !m.differ(list, values, c.Plan().Value(ref(item, control))):
			case of != hand:
				out = append(out, c.Composition.NameOf(ref(item, control)))
			default:
				moves++
				r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(item.ID, string(control.ID)), Link: m.link(c, list, values, c.Plan().Value(ref(item, control))), At: -1})
				if len(item.State(string(control.ID)).Pins) > 0 {
					r.Details = append(r.Details, fmt.Sprintf("%s has pins, which come back when the link is switched off", c.Composition.NameOf(ref(item, control))))
				}
			}
		}
	}
	if moves == 0 {
		return gesture.Result{}, fmt.Errorf("the looks don’t differ in anything that a fader could move; change a control, and keep another look")
	}
	if len(out) > 0 {
		r.Details = append(r.Details, fmt.Sprintf("links drive %s, so %s not mixed", gesture.Plural(len(out), "control"), be(len(out))))
	}
	r.Note = fmt.Sprintf("%s mixes %s: it drives %s", m.control.Name, gesture.Plural(len(list), "look"), gesture.Plural(moves, "control"))
	return r, nil
}

func be(n int) string {
	if n == 1 {
		return "it is"
	}
	return "they are"
}

// at returns what each look keeps of a control; what it shows now for those that keep nothing of it.
func at(c *gesture.Context, list []*scene.Look, item *scene.Item, control *scene.Control) []scene.Value {
	out := make([]scene.Value, len(list))
	for k, l := range list {
		out[k] = c.Plan().Value(ref(item, control))
		for _, v := range l.Values {
			if v.Item == item.ID && v.Control == control.ID && v.Value.Fits(out[k].Kind()) == nil {
				out[k] = v.Value
			}
		}
	}
	return out
}

// fader is what mixes, as it is after the gesture, with the operations that make it so.
type fader struct {
	control *scene.Control
	self    scene.Ref
	was     int // how many stops it had
	ops     change.Ops
}

// fader returns the one that mixes: that of the item which does already, with stops for the looks that it has none for; or a new one.
func (g *MixLooks) fader(c *gesture.Context, list []*scene.Look) (*fader, error) {
	on := c.Composition.Item(g.On)
	if g.On != "" && on == nil {
		_, err := c.Item(g.On)
		return nil, err
	}
	if on != nil {
		for _, control := range on.Controls {
			if mixes(c.Composition, control) {
				return more(c, on, control, list), nil
			}
		}
	}
	if len(list) < 2 {
		return nil, fmt.Errorf("keep two looks at least; a fader mixes one with another")
	}
	if len(list) > scene.MaxPoses {
		return nil, fmt.Errorf("a fader mixes at most %d looks, not %d", scene.MaxPoses, len(list))
	}
	control := &scene.Control{ID: c.NewID(), Name: "Look", Kind: scene.Fader, Unit: scene.Percent, SoftMax: 100, Default: scene.Num(0)}
	start := 0.0
	for k, l := range list {
		place := float64(100*k) / float64(len(list)-1)
		control.Poses = append(control.Poses, scene.PoseStop{ID: l.ID, Name: l.Name, At: place, Easing: curve.Linear})
		if shown(c, l) {
			start = place
		}
	}
	m := &fader{control: control}
	if on != nil {
		control.Name = gesture.FreeName("Look", gesture.ControlNames(on))
		m.ops = change.Ops{&change.ControlAdd{On: c.On(on.ID), Value: control, At: 0}}
	} else {
		on = &scene.Item{ID: c.NewID(), Name: gesture.FreeName("Looks", c.ItemNames()), Kind: scene.Null, Controls: []*scene.Control{control}}
		m.ops = change.Ops{&change.ItemAdd{In: c.In(), Value: on, At: 0}}
	}
	m.self = ref(on, control)
	if start != 0 {
		m.ops = append(m.ops, &change.OwnSet{Of: c.Of(on.ID, m.self.Property), Value: scene.Num(start)})
	}
	return m, nil
}

// more returns a fader that mixes looks already, with stops for those that it has none for, each as far behind the last as that is behind
// the one before it.
func more(c *gesture.Context, on *scene.Item, control *scene.Control, list []*scene.Look) *fader {
	altered := control.Clone()
	m := &fader{control: altered, self: ref(on, control), was: len(control.Poses)}
	for _, l := range list {
		if altered.Pose(l.ID) >= 0 || len(altered.Poses) >= scene.MaxPoses {
			continue
		}
		stops := slices.Clone(altered.Poses)
		last := len(stops) - 1
		further := stops[last].At + float64(stops[last].At-stops[last-1].At)
		stops = append(stops, scene.PoseStop{ID: l.ID, Name: l.Name, At: further, Easing: curve.Linear})
		if altered.Kind == scene.Fader {
			altered.SoftMax = max(altered.SoftMax, further)
			if altered.Max != nil {
				altered.Max = ptr(max(*altered.Max, further))
			}
		}
		altered.SetPoses(stops)
	}
	if len(altered.Poses) > m.was {
		m.ops = change.Ops{&change.ControlSet{On: c.On(on.ID), Value: altered}}
	}
	return m
}

func ptr(x float64) *float64 { return &x }

// differ reports whether a control is at another value in one look than in another, or than at the stops that the fader has besides.
func (m *fader) differ(list []*scene.Look, values []scene.Value, now scene.Value) bool {
	first := values[0]
	if len(m.control.Poses) > len(list) {
		first = now
	}
	return slices.ContainsFunc(values, func(v scene.Value) bool { return v != first })
}

// link returns the link by which the fader drives a control: as in each look at its stop, and as now at those of others.
func (m *fader) link(c *gesture.Context, list []*scene.Look, values []scene.Value, now scene.Value) *scene.Link {
	l := &scene.Link{ID: c.NewID(), Kind: scene.Posed, Source: m.self, Gain: 1}
	for _, s := range m.control.Poses {
		l.Hold(s.ID, now)
	}
	for k, look := range list {
		if m.control.Pose(look.ID) >= 0 {
			l.Hold(look.ID, values[k])
		}
	}
	return l
}
