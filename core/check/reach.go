package check

import (
	"cmp"
	"fmt"
	"slices"

	"wunderkammer/core/engine"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// maxReached bounds what is followed from all members of one list.
const maxReached = 200_000

// Reach walks what a property drives, directly and by way of others, with every value at the frame
// that the plan was last evaluated at. A link that is off or broken ends the way there.
func Reach(c *scene.Composition, p *engine.Plan, ref scene.Ref) []Step {
	driven := map[scene.Ref][]taken{}
	link.Reads(c, func(source, target scene.Ref, l *scene.Link) {
		if item := p.Layout.Index(target.Item); item >= 0 {
			if spec := p.Layout.Items[item].Spec(target.Property); spec != nil {
				driven[source] = append(driven[source], taken{target, spec, l})
			}
		}
	})
	lists := map[scene.Gathering][]taken{}
	link.Gathers(c, func(g scene.Gathering, target scene.Ref, l *scene.Link) {
		if item := p.Layout.Index(target.Item); item >= 0 {
			if spec := p.Layout.Items[item].Spec(target.Property); spec != nil {
				lists[g] = append(lists[g], taken{target, spec, l})
			}
		}
	})
	for g, list := range lists {
		if found, err := c.Gather(g); err == nil && !g.Items() {
			for _, m := range found.Members {
				from := scene.Ref{Item: m.Item.ID, Property: m.Key}
				driven[from] = append(driven[from], list[:min(len(list), max(1, maxReached/len(found.Members)))]...)
			}
		}
	}
	for _, list := range driven { // states have no order; a walk does
		slices.SortStableFunc(list, func(a, b taken) int {
			return cmp.Or(cmp.Compare(p.Layout.Index(a.at.Item), p.Layout.Index(b.at.Item)), cmp.Compare(a.at.Property, b.at.Property))
		})
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
		w.say(from, true, "%s drives nothing", w.c.NameOf(from))
	}
	for _, t := range driven[from] {
		name := w.c.NameOf(t.at)
		dead := ""
		scope := wire.ScopeOf(w.p.Layout, w.p.Layout.Index(t.at.Item), t.spec, t.link.Component)
		if fault := link.Broken(t.link, sightOf(w.c, w.p, t.spec, scope)); t.link.Off {
			dead = "the link is off"
		} else if fault != nil && !fault.Runs {
			dead = fault.Sentence
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
