package view

import (
	"slices"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// Gatherable is a set of items whose values a formula can gather into a list.
type Gatherable struct {
	Owner string         `json:"owner"` // as a formula names them: Lamp *
	Of    string         `json:"of"`    // in words
	Count int            `json:"count"`
	Reads []GatheredRead `json:"reads" ts:"list"` // the properties that all of them have
}

// GatheredRead is a property of a set of items.
type GatheredRead struct {
	Name    string     `json:"name"`
	Tag     string     `json:"tag"`
	Type    scene.Type `json:"type"`
	Stored  string     `json:"stored"` // the reference to it, as formulas hold it
	Control bool       `json:"control,omitempty"`
}

// Bounds of what is offered.
const (
	maxGatherables = 60
	maxAskedOf     = 200 // members that are asked whether they have a property
)

// GatherablesOf lists the sets that a composition offers: items that are numbered under one name, what is attached to an item, rows.
func GatherablesOf(s *session.Session) []Gatherable {
	c := s.Composition()
	scope := &binding.Scope{Gather: c.Gather, Find: c.Item, Named: c.Named, Rows: func() []*scene.RosterLink { return c.RosterLinks }}
	var sets []syntax.Reference
	for _, pattern := range binding.Patterns(c.Items) {
		sets = append(sets, syntax.Reference{Steps: 1, Of: scene.OfNames, Owner: pattern})
	}
	attached := map[scene.ID]int{}
	for _, item := range c.Items {
		attached[item.Parent]++
	}
	for _, item := range c.Items {
		if attached[item.ID] > 1 {
			sets = append(sets, syntax.Reference{Steps: 1, Of: scene.OfChildren, Item: item.ID})
		}
	}
	for _, row := range c.RosterLinks {
		if row.Roster.Kind != scene.CopiesOf && row.Roster.Kind != scene.Vertices {
			sets = append(sets, syntax.Reference{Steps: 1, Of: scene.OfRow, Item: row.ID})
		}
	}
	out := []Gatherable{}
	for k := range sets[:min(len(sets), maxGatherables)] {
		if set, ok := gatherable(c, scope, &sets[k]); ok {
			out = append(out, set)
		}
	}
	return out
}

func gatherable(c *scene.Composition, scope *binding.Scope, r *syntax.Reference) (Gatherable, bool) {
	found, err := c.Gather(r.Gathering())
	if err != nil {
		return Gatherable{}, false
	}
	stored := r.Bound()
	shown := binding.Print(stored, scope)
	out := Gatherable{Owner: shown[1 : len(shown)-1], Of: c.NameOfGathering(r.Gathering()), Count: len(found.Members), Reads: []GatheredRead{}}
	asked := found.Members[:min(len(found.Members), maxAskedOf)]
	for _, spec := range asked[0].Item.Readable() {
		all := !slices.ContainsFunc(asked[1:], func(m scene.Member) bool {
			other := m.Item.ReadableNamed(spec.Name)
			return other == nil || other.Type != spec.Type
		})
		if !all {
			continue
		}
		one := *r
		one.OfEach(spec)
		out.Reads = append(out.Reads, GatheredRead{Name: spec.Name, Tag: ManyTag + spec.Tag(), Type: spec.Type, Stored: one.Bound(), Control: one.ByName})
	}
	return out, len(out.Reads) > 0
}
