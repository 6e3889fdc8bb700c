package session

import (
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// touched gathers what several operations touched of the composition that is looked at, to bring it into the plan at once.
type touched struct {
	anew     bool        // everything has to be planned anew: then nothing is brought into a plan that does not fit any more
	said     []scene.ID  // of which names or ranges changed
	values   []scene.Ref // whose own values or pins changed
	refs     []scene.Ref
	rosters  []scene.ID
	controls []scene.Ref // that are answered otherwise
	names    bool
	inside   map[*scene.Composition][]scene.Ref // whose links changed in what pieces show
}

// follow brings what operations did into the plan and the news, with the least work that is enough for it. With care it
// returns the cycle that they make.
func (s *Session) follow(effects []change.Effect, care bool) *wire.Cycle {
	var t touched
	for _, e := range effects {
		if e.Touch != change.Values {
			s.kept = nil
		}
		if e.Composition != s.current {
			// The bar lists all compositions and reads them whole.
			s.news.Structure = s.news.Structure || e.Touch == change.Structure
			s.staged(e, &t)
			continue
		}
		s.note(e, &t)
	}
	s.bring(&t)
	if !care || s.plan != nil || s.Project.Composition(s.current) == nil {
		return nil
	}
	if cycle := s.Plan().Cycle; cycle != nil {
		for _, e := range effects {
			if e.Composition == s.current && e.Makes(cycle) {
				return cycle
			}
		}
	}
	return nil
}

// note takes one effect on the composition that is looked at into the news, and into what has to be done.
func (s *Session) note(e change.Effect, t *touched) {
	ref := scene.Ref{Item: e.Item, Property: e.Property}
	if e.Graph != "" {
		s.news.graph(e.Graph)
		return
	}
	if e.Item != "" && e.Touch != change.Values {
		s.touch(e.Item)
	}
	switch e.Touch {
	case change.Offers: // of who shows the composition
	case change.Looks:
		if e.Property != "" {
			t.said = append(t.said, e.Item)
		}
	case change.Values:
		if s.news.States == nil {
			s.news.States = map[scene.Ref]bool{}
		}
		s.news.States[ref] = true
		if item := s.Composition().Item(e.Item); item != nil && item.Kind == scene.CopiesItem {
			s.news.Links = true // how many copies there are is looked over
		}
		t.values = append(t.values, ref)
		if item := s.Composition().Item(e.Item); item != nil && item.Piece != nil && slices.Contains(scene.Clocked, e.Property) && s.plan != nil && s.plan.Retimed(item) {
			t.anew = true
		}
	case change.Responses:
		t.controls = append(t.controls, ref)
		s.news.Links = true
	case change.Wiring:
		s.news.Links = true
		if e.RosterLink != "" {
			t.rosters = append(t.rosters, e.RosterLink)
			s.news.Structure = true
		} else {
			t.refs = append(t.refs, ref)
			t.said = append(t.said, e.Item) // weights are called after the places of their links
		}
	case change.Names:
		t.names = true
		t.said = append(t.said, e.Item)
	case change.Settings, change.Structure:
		t.anew = true
	}
}

// staged takes an effect on another composition into what has to be done, where the one that is looked at shows that as a piece.
func (s *Session) staged(e change.Effect, t *touched) {
	c := s.Project.Composition(s.current)
	if c == nil {
		return
	}
	if e.Touch == change.Structure && slices.ContainsFunc(c.Items, func(i *scene.Item) bool { return i.Piece != nil && i.Piece.Composition == e.Composition }) {
		t.anew = true // it may have come or gone
	}
	of := s.Project.Composition(e.Composition)
	switch {
	case s.plan == nil || !s.plan.Shows(e.Composition):
	case of == nil || e.Graph != "":
		t.anew = t.anew || of == nil
	case e.Touch == change.Values:
		t.anew = t.anew || !s.plan.PatchStaged(of, e.Item, e.Property)
		if of.HandOff.Of(e.Item, scene.ID(e.Property)) != nil {
			s.touchPieces(c, of)
		}
	case e.Touch == change.Wiring && e.RosterLink == "" && e.Property != "" && of.HandOff.Of(e.Item, scene.ID(e.Property)) == nil:
		if t.inside == nil {
			t.inside = map[*scene.Composition][]scene.Ref{}
		}
		t.inside[of] = append(t.inside[of], scene.Ref{Item: e.Item, Property: e.Property})
	case e.Touch > change.Looks || e.Property != "": // a control may be handed off
		t.anew = true
	}
	if t.anew && of != nil {
		s.touchPieces(c, of)
	}
}

// touchPieces notes that the pieces that show a composition may offer something else now.
func (s *Session) touchPieces(c, of *scene.Composition) {
	for _, item := range c.Items {
		if item.Stage() == of {
			s.touch(item.ID)
		}
	}
}

// bring brings what was touched into the plan; where that cannot be done piece by piece, there is none afterwards.
func (s *Session) bring(t *touched) {
	ok := !t.anew
	if ok && s.plan != nil {
		for _, id := range t.said {
			s.plan.Layout.Reread(id)
		}
		ok = s.plan.Patch(t.values...)
	}
	for _, ref := range t.controls {
		ok = ok && (s.plan == nil || s.plan.Respond(ref))
	}
	if ok && s.plan != nil && len(t.refs) > 0 {
		cycle, able := s.plan.Relink(t.refs)
		ok = able && cycle == nil
	}
	for of, refs := range t.inside {
		if ok && s.plan != nil {
			cycle, able := s.plan.RelinkStaged(of, refs)
			ok = able && cycle == nil
		}
	}
	if ok && t.names {
		ok = s.renamed(t)
	}
	for _, id := range t.rosters {
		if rosterLink, _ := s.Composition().RosterLink(id); ok && s.plan != nil && rosterLink != nil {
			cycle, able := s.plan.RelinkRoster(rosterLink)
			ok = able && cycle == nil
		} else {
			ok = false
		}
	}
	if !ok {
		s.plan, s.news.Structure = nil, true
	}
}

// renamed brings in what is found by names: members of rows and of lists, and what formulas name that nothing was called when
// they were written.
func (s *Session) renamed(t *touched) bool {
	if s.plan == nil {
		return true
	}
	var also []scene.Ref
	for _, d := range graph.Where(s.Composition(), func(l *scene.Link) bool { return syntax.Unbound(l.Formula) || syntax.Gathers(l.Formula) }) {
		if d.RosterLink != "" {
			t.rosters = append(t.rosters, d.RosterLink)
		} else {
			also = append(also, d.Ref)
		}
		s.news.Links = true
	}
	regrouped, ok := s.plan.Renamed(also)
	s.news.Structure = s.news.Structure || regrouped // members of rows are told with it
	return ok
}
