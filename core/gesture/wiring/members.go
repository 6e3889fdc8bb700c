package wiring

import (
	"fmt"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// FindMembers finds the members of a row in another way. Those that stay are counted in the order in which they were.
type FindMembers struct {
	RosterLink scene.ID     `json:"spread"`
	Roster     scene.Roster `json:"roster"`
}

// Do returns the operation that alters the row, and says who is left out and who joins.
func (g *FindMembers) Do(c *gesture.Context) (gesture.Result, error) {
	s, _ := c.Composition.RosterLink(g.RosterLink)
	if s == nil {
		return gesture.Result{}, fmt.Errorf("the row is no longer there; it may have been removed in another window")
	}
	altered := s.Clone()
	altered.Roster = *g.Roster.Clone()
	was := map[scene.ID]bool{}
	altered.Roster.Made = altered.Roster.Kind != scene.Picked && altered.Roster.Kind != scene.Vertices
	var order []scene.ID
	for _, m := range s.Members(c.Composition) {
		was[m.ID()] = true
		order = append(order, m.ID())
	}
	if altered.Roster.Made { // those that are there now follow as they stand in the tree; only what comes later joins as it is made
		found := altered.Roster.Clone()
		found.Made = false
		for _, row := range found.Rows(c.Composition, s.Property) {
			for _, m := range row.Members {
				if !was[m.Item.ID] {
					order = append(order, m.Item.ID)
				}
			}
		}
		altered.Roster.Items = order
	}
	joined := 0
	for _, m := range altered.Members(c.Composition) {
		if !was[m.ID()] {
			joined++
		}
		delete(was, m.ID())
	}
	r := gesture.Result{Ops: change.Ops{&change.RosterLinkSet{In: c.In(), Value: altered}}}
	var told []string
	if len(was) > 0 {
		told = append(told, gesture.Plural(len(was), "item")+" left out")
	}
	if joined > 0 && altered.Roster.Made {
		told = append(told, gesture.Plural(joined, "item")+" joined at the end")
	}
	if len(told) > 0 {
		r.Note = strings.Join(told, ", ") + "; the others keep their order"
	}
	return r, nil
}
