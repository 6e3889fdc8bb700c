package check

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// rosterLinks checks the links on rosters: one that drives nobody, does not work, or does what is hardly meant.
func (k *checker) rosterLinks() {
	crowded := k.c.Crowded()
	for _, s := range k.c.RosterLinks {
		if slices.Contains(crowded, s) {
			k.add(Error, scene.Ref{Item: s.Roster.Item, Property: s.Property}, fmt.Sprintf("%s: the rows of %s would have more than %d members together, so this one is left out; let it find fewer items, or remove other rows", s.Name, k.c.Name, scene.MaxMembers),
				Fix{Label: "remove the link", Ops: change.Ops{&change.RosterLinkRemove{In: change.In{Composition: k.c.ID}, RosterLink: s.ID}}})
			continue
		}
		at := scene.Ref{Item: s.Roster.Item, Property: s.Property}
		members := s.Members(k.c)
		if len(members) > 0 {
			at.Item, at.Property = members[0].Item.ID, members[0].Key
		}
		remove := Fix{Label: "remove the link", Ops: change.Ops{&change.RosterLinkRemove{In: change.In{Composition: k.c.ID}, RosterLink: s.ID}}}
		if len(members) == 0 {
			k.add(Warning, at, s.Name+": no item in this row has that property", remove)
			continue
		}
		if from := s.WeightFrom; from != nil {
			if _, ok := wire.WeightFrom(k.p.Layout, *from); !ok {
				whole := s.Clone()
				whole.WeightFrom = nil
				k.add(Warning, at, s.Name+": its weight source was deleted, so it is at 100 %", Fix{Label: "use a fixed weight", Ops: change.Ops{&change.RosterLinkSet{In: change.In{Composition: k.c.ID}, Value: whole}}})
			}
		}
		spec, scope := members[0].Item.Spec(members[0].Key), wire.RosterScope(k.p.Layout, s, -1)
		if scope.Target != nil {
			spec = scope.Target
		}
		sight := k.sight(spec, scope)
		fixes := func(f *link.Fault) (out []Fix) {
			if f.Reattach {
				out = append(out, Fix{Label: "reattach", Reattach: s.Link.ID, RosterLink: s.ID})
			}
			for _, m := range f.Mends {
				altered := s.Clone()
				m.Alter(altered.Link)
				out = append(out, Fix{Label: m.Label, Ops: change.Ops{&change.RosterLinkSet{In: change.In{Composition: k.c.ID}, Value: altered}}})
			}
			return out
		}
		if fault := link.Broken(s.Link, sight); fault != nil {
			k.add(Error, at, s.Name+": "+fault.Sentence, append(fixes(fault), remove)...)
			continue
		}
		if s.Link.Off {
			continue
		}
		over := func(m scene.Member) bool {
			return !s.Drives(m) || hides(m.Item.State(m.Key).Links, &scene.Link{Component: s.Part(m)}, m.Item) != nil
		}
		if slices.ContainsFunc(members, s.Drives) && !slices.ContainsFunc(members, func(m scene.Member) bool { return !over(m) }) {
			k.add(Warning, at, s.Name+" has no effect: every member has a link of its own that replaces it", remove)
		}
		for _, hint := range link.Hints(s.Link, sight) {
			k.add(Warning, at, s.Name+": "+hint.Sentence, fixes(&hint)...)
		}
	}
}
