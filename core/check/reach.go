package check

import (
	"fmt"

	"wunderkammer/core/engine"
	"wunderkammer/core/formula"
	"wunderkammer/core/scene"
)

// Reach walks what a property drives, directly and by way of others, with every value at the frame
// that the plan was last evaluated at. A link that is off or broken ends the way there.
func Reach(c *scene.Composition, p *engine.Plan, ref scene.Ref) []Step {
	driven := map[scene.Ref][]taken{}
	for _, item := range p.Layout.Items {
		for _, spec := range item.Specs() {
			for _, l := range item.State(spec.Key).Links {
				for _, read := range formula.Reads(l, item.ID, item.Parent) {
					from := scene.Ref{Item: read.Item, Property: read.Property}
					driven[from] = append(driven[from], taken{scene.Ref{Item: item.ID, Property: spec.Key}, spec, l})
				}
			}
		}
	}
	for _, s := range c.Spreads {
		references := formula.References(s.Link.Formula)
		for _, item := range s.Members(c) {
			if !s.Drives(item.ID) {
				continue
			}
			for _, read := range formula.ReadsOf(s.Link, references, item.ID, item.Parent) {
				from := scene.Ref{Item: read.Item, Property: read.Property}
				driven[from] = append(driven[from], taken{scene.Ref{Item: item.ID, Property: s.Property}, item.Spec(s.Property), s.Link})
			}
		}
	}
	w := &walk{c: c, p: p, seen: map[scene.Ref]bool{}}
	w.down(scene.Ref{Item: ref.Item, Property: ref.Property}, driven, 0)
	return w.out
}

// taken is a link with the property that it is on.
type taken struct {
	at   scene.Ref
	spec *scene.Spec
	link *scene.Link
}

func (w *walk) down(from scene.Ref, driven map[scene.Ref][]taken, depth int) {
	if w.seen[from] {
		return
	}
	w.seen[from] = true
	if len(driven[from]) == 0 && depth == 0 {
		w.say(from, true, "%s drives nothing yet", w.c.NameOf(from))
	}
	for _, t := range driven[from] {
		name := w.c.NameOf(t.at)
		dead := ""
		switch {
		case t.link.Off:
			dead = "the link is off"
		case t.link.Kind != scene.Formula:
			dead = broken(w.p, t.spec, t.link)
		}
		if dead != "" {
			w.say(t.at, true, "%s: %s", name, dead)
		} else {
			w.say(t.at, false, "%s", fmt.Sprintf("%s, now %s", name, w.p.Value(t.at)))
		}
		w.out[len(w.out)-1].Depth = depth
		if dead == "" {
			w.down(t.at, driven, depth+1)
		}
	}
}
