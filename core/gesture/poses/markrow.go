package poses

import (
	"fmt"
	"slices"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// rowOver returns the link on a row that has the last word on a property, where it is a map or can become one.
func rowOver(c *gesture.Context, item *scene.Item, spec *scene.Spec, component string) *scene.RosterLink {
	by := c.Drivers(item, spec, component)
	if len(by) == 0 || by[len(by)-1].Row == nil {
		return nil
	}
	s := by[len(by)-1].Row
	if kind := link.Of(s.Link); !kind.Stops && !kind.Linear {
		return nil
	}
	return s
}

// rowMarks are marks on members of rows. A stop of all members is one of the row's map; one of some of them makes these exceptions,
// with links of their own, so that the others stay as they are.
type rowMarks struct {
	*gesture.Context
	r     *gesture.Result
	which string
	rows  []*scene.RosterLink
	on    [][]scene.Member // by row
}

func (m *rowMarks) take(s *scene.RosterLink, member scene.Member) {
	m.r.Poses = append(m.r.Poses, gesture.Pose{Ref: scene.Ref{Item: member.Item.ID, Property: member.Key}})
	at := slices.Index(m.rows, s)
	if at < 0 {
		at = len(m.rows)
		m.rows, m.on = append(m.rows, s), append(m.on, nil)
	}
	m.on[at] = append(m.on[at], member)
}

func (m *rowMarks) mark() error {
	for k, s := range m.rows {
		if err := m.row(s, m.on[k]); err != nil {
			return err
		}
	}
	return nil
}

func (m *rowMarks) row(s *scene.RosterLink, on []scene.Member) error {
	members, counted := s.Members(m.Composition), wire.Counted(m.Composition, s)
	driven := 0
	for _, one := range members {
		if s.Drives(one) {
			driven++
		}
	}
	altered := s.Clone()
	if len(on) >= driven || s.Roster.OfOne() {
		first := on[0]
		alone := link.Alone(s.Link, counted[slices.Index(members, first)])
		if alone == nil {
			return fmt.Errorf("%s: type the stop, since what it gives comes ahead of time", s.Name)
		}
		alone.Component = s.Part(first)
		marked, err := withStop(m.Context, m.r, alone, first.Item, first.Item.Spec(first.Key), m.which)
		if err != nil {
			return err
		}
		altered.Link.Kind, altered.Link.Stops, altered.Link.Beyond = marked.Kind, marked.Stops, marked.Beyond
		if link.Of(s.Link).Linear { // which the stops hold now
			altered.Link.Gain, altered.Link.Offset, altered.Link.Offsets = marked.Gain, marked.Offset, marked.Offsets
		}
		m.r.Ops = append(m.r.Ops, &change.RosterLinkSet{In: m.In(), Value: altered})
		return nil
	}
	for _, one := range on {
		alone := wiring.AloneAt(m.Context, s, one, counted[slices.Index(members, one)])
		if alone == nil {
			return fmt.Errorf("%s: %s can't have a stop of its own, since what the row gives it comes ahead of time", s.Name, one.Item.Name)
		}
		add := &change.LinkAdd{Of: m.Of(one.Item.ID, one.Key), Weights: wiring.WeightOfRow(m.Context, s, alone), At: 0}
		var err error
		if add.Link, err = withStop(m.Context, m.r, alone, one.Item, one.Item.Spec(one.Key), m.which); err != nil {
			return err
		}
		m.r.Ops = append(m.r.Ops, add)
		altered.Out = append(altered.Out, one.ID())
	}
	m.r.Note = fmt.Sprintf("%s got a link of its own; select all of the row to set the stop for all", gesture.Plural(len(on), "item"))
	m.r.Ops = append(m.r.Ops, &change.RosterLinkSet{In: m.In(), Value: altered})
	return nil
}
