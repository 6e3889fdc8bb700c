package check

import (
	"fmt"
	"slices"

	"wunderkammer/core/engine"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// Step is one thing on the way of an influence, from a property up to what moves it in the end.
type Step struct {
	At       scene.Ref   `json:"at"`
	Sentence string      `json:"sentence"`
	Value    scene.Value `json:"value"`
	Dead     bool        `json:"dead,omitempty"`  // the influence dies here
	Depth    int         `json:"depth,omitempty"` // how many others it comes by way of
}

// Why walks what drives a property, at the frame the plan was last evaluated at, and marks where the
// influence dies: a link that is off, a weight of nothing, a gain of nothing, a flat span of a map, a
// limit, a later link that replaces it, nothing wired.
func Why(c *scene.Composition, p *engine.Plan, ref scene.Ref) []Step {
	w := &walk{c: c, p: p, seen: map[scene.Ref]bool{}}
	w.up(scene.Ref{Item: ref.Item, Property: ref.Property}, ref.Component)
	return w.out
}

type walk struct {
	c    *scene.Composition
	p    *engine.Plan
	seen map[scene.Ref]bool
	out  []Step
}

func (w *walk) say(at scene.Ref, dead bool, format string, args ...any) {
	w.out = append(w.out, Step{at, fmt.Sprintf(format, args...), w.p.Value(at), dead, 0})
}

func (w *walk) up(at scene.Ref, component string) {
	i := w.p.Layout.Index(at.Item)
	if i < 0 {
		return
	}
	item := w.p.Layout.Items[i]
	if w.seen[at] || item.Spec(at.Property) == nil {
		return
	}
	w.seen[at] = true
	spec, state, name := item.Spec(at.Property), item.State(at.Property), w.c.NameOf(at)
	parts := spec.Type.Components()
	if len(parts) == 0 {
		parts = []string{""}
	}
	for k, part := range parts {
		if held := spec.Part(k); held.Min == held.Max && spec.Type != scene.Text && (component == "" || component == part || part == "") {
			locked := name
			if part != "" {
				locked += "." + part
			}
			w.say(at, true, "%s is locked: both of its limits are %s", locked, scene.Exact(held.Min))
		}
	}
	for n := len(state.Links) - 1; n >= 0; n-- {
		l := state.Links[n]
		if component != "" && l.Component != "" && l.Component != component {
			continue
		}
		if w.link(at, item, spec, l) && !link.PassesBelow(l) && item.States[scene.WeightKey(l.ID)] == nil {
			if n > 0 {
				w.say(at, true, "it replaces the links below it (%d)", n)
			}
			return
		}
	}
	rows := w.c.RosterLinksOn(item, at.Property)
	for n := len(rows) - 1; n >= 0; n-- {
		s := rows[n]
		part := s.Part(scene.Member{Item: item, Key: spec.Key})
		if component != "" && part != "" && part != component {
			continue
		}
		if w.row(at, item, spec, s) && !link.PassesBelow(s.Link) && s.WeightFrom == nil && (s.Weight == nil || *s.Weight == 100) {
			return
		}
	}
	for _, s := range w.c.RosterLinks {
		if slices.Contains(s.Out, item.ID) && slices.Contains(s.Members(w.c), scene.Member{Item: item, Key: spec.Key}) {
			w.say(at, len(state.Links) == 0, "%s is left out of the row %s", item.Name, s.Name)
		}
	}
	switch {
	case len(state.Pins) > 1:
		w.say(at, false, "%s moves with %d pins of its own", name, len(state.Pins))
	case len(state.Pins) == 1:
		w.say(at, true, "%s has only one pin, so its value is constant; pin another value at another frame", name)
	case spec.ReadOnly:
		w.say(at, false, "%s comes from other properties of %s", name, item.Name)
	case len(state.Links) == 0:
		w.say(at, true, "%s has no pins and no links", name)
	}
}

// link tells of one link of a property, and reports whether its influence comes through.
func (w *walk) link(at scene.Ref, item *scene.Item, spec *scene.Spec, l *scene.Link) bool {
	scope := wire.ScopeOf(w.p.Layout, w.p.Layout.Index(item.ID), spec, l.Component)
	return w.tell(at, item, spec, l, scope, link.Called(l, w.c), "", w.weightless(item, l))
}

// row tells of a link on a row where it drives one of its members, and reports whether its influence comes through.
func (w *walk) row(at scene.Ref, item *scene.Item, spec *scene.Spec, s *scene.RosterLink) bool {
	member := scene.Member{Item: item, Key: spec.Key}
	members := s.Members(w.c)
	index := slices.Index(members, member)
	on := s.Link.Clone()
	on.Component = s.Part(member)
	weightless := s.Weight != nil && *s.Weight == 0
	if from := s.WeightFrom; from != nil {
		weight := w.p.Value(*from)
		weightless = weight.Len() > 0 && weight.At(0) == 0
	}
	place := fmt.Sprintf(", as number %d of the %d in the row %s", index+1, len(members), s.Name)
	if g := s.Link.Stagger; g != nil && g.Delay != 0 {
		if late := s.Link.Delay + float64(g.Delay*wire.Counted(w.c, s)[index]); late != 0 {
			place += fmt.Sprintf(", %s frames later", scene.Exact(late))
		}
	}
	return w.tell(at, item, spec, on, wire.RosterScope(w.p.Layout, s, index), "the row "+s.Name, place, weightless)
}

// tell tells of a link in its scope, and where the item stands in its row.
func (w *walk) tell(at scene.Ref, item *scene.Item, spec *scene.Spec, l *scene.Link, scope *binding.Scope, called, place string, weightless bool) bool {
	sight := sightOf(w.c, w.p, spec, scope)
	fault := link.Broken(l, sight)
	switch {
	case l.Off:
		w.say(at, true, "%s is off", called)
		return false
	case fault != nil && !fault.Runs:
		w.say(at, true, "%s", fault.Sentence)
		return false
	case weightless:
		w.say(at, true, "%s has a weight of 0 at this frame", called)
		return false
	case w.p.Skipped(at, l.ID):
		w.say(at, true, "%s has no valid result at this frame", called)
		return false
	}
	if sentence, dead := link.Idle(l, sight); sentence != "" {
		w.say(at, true, "%s", sentence)
		if dead {
			return false
		}
	} else {
		w.say(at, false, "%s is driven by %s%s", w.c.NameOf(at), link.By(l, w.c), place)
	}
	value := w.p.Value(at)
	for k := range value.Len() {
		if x := value.At(k); spec.Type == scene.Number && spec.Min < spec.Max && (x == spec.Min || x == spec.Max) {
			w.say(at, true, "%s is at its limit (%s)", w.c.NameOf(at), scene.Exact(x))
		}
	}
	w.follow(l, item)
	return true
}

// follow walks on to all that a link looks at.
func (w *walk) follow(l *scene.Link, item *scene.Item) {
	link.ReadsOf(l, item.ID, item.Parent, func(from scene.Ref) {
		w.up(scene.Ref{Item: from.Item, Property: from.Property}, from.Component)
	})
	w.gathered(l, item)
}

// maxToldOf is of how many members of a list it is told what they do.
const maxToldOf = 5

// gathered tells of what a link gathers into lists, and walks on to the first of it.
func (w *walk) gathered(l *scene.Link, item *scene.Item) {
	r := link.ReaderOf(l)
	told := map[scene.Gathering]bool{}
	r.Gatherings(item.ID, item.Parent, func(g scene.Gathering) {
		found, err := w.c.Gather(g)
		if err != nil || told[g] {
			return
		}
		told[g] = true
		n := len(found.Members)
		if g.Items() {
			w.say(scene.Ref{Item: item.ID}, false, "%s are counted: %d", w.c.NameOfGathering(g), n)
			return
		}
		sentence := fmt.Sprintf("it gathers %s of %s: %d in all", found.Spec.Name, w.c.NameOfGathering(g), n)
		if n > maxToldOf {
			sentence += fmt.Sprintf(", of which the first %d follow", maxToldOf)
		}
		w.say(scene.Ref{Item: found.Members[0].Item.ID, Property: found.Members[0].Key}, false, "%s", sentence)
		for _, m := range found.Members[:min(n, maxToldOf)] {
			w.up(scene.Ref{Item: m.Item.ID, Property: m.Key}, "")
		}
	})
}

// weightless reports whether a link has a weight of 0 at the frame that is looked at.
func (w *walk) weightless(item *scene.Item, l *scene.Link) bool {
	weight := w.p.Value(scene.Ref{Item: item.ID, Property: scene.WeightKey(l.ID)})
	return !weight.Absent() && weight.At(0) == 0
}
