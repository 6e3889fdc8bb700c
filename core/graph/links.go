package graph

import (
	"wunderkammer/core/formula"
	"wunderkammer/core/scene"
)

// Driven is a link that a drive slip gives its value: on a property of an item, or on a roster.
type Driven struct {
	Ref        scene.Ref // the property; empty for a link on a roster
	RosterLink scene.ID
	Link       *scene.Link
	set        func(l *scene.Link)
}

// Drives lists the links that a graph gives their values.
func Drives(c *scene.Composition, id scene.ID) (out []Driven) {
	for _, item := range c.Items {
		for key, state := range item.States {
			for k, l := range state.Links {
				if l.Graph == id {
					out = append(out, Driven{Ref: scene.Ref{Item: item.ID, Property: key}, Link: l, set: func(l *scene.Link) { state.Links[k] = l }})
				}
			}
		}
	}
	for _, s := range c.RosterLinks {
		if s.Link.Graph == id {
			out = append(out, Driven{RosterLink: s.ID, Link: s.Link, set: func(l *scene.Link) { s.Link = l }})
		}
	}
	return out
}

// Write gives a link of an item's property, or of a member of a roster, the formula of the drive slip that it names.
// Where that gives none, the link goes on with the one that it has.
func Write(l *scene.Link, c *scene.Composition, item *scene.Item, target *scene.Spec) {
	if g, _ := c.Graph(l.Graph); g != nil {
		if text, err := Lower(g, l.Slip); err == nil {
			l.Formula = formula.BindNames(text, c, item, target)
		}
	}
}

// Bring writes the formulas of a graph into the links that it gives their values, and returns those that are others now.
func Bring(c *scene.Composition, id scene.ID) (changed []Driven) {
	for _, d := range Drives(c, id) {
		item, key := c.Item(d.Ref.Item), d.Ref.Property
		if s, _ := c.RosterLink(d.RosterLink); s != nil {
			if members := s.Members(c); len(members) > 0 {
				m := members[len(members)/2]
				item, key = m.Item, m.Key
			}
		}
		var target *scene.Spec
		if item != nil {
			target = item.Spec(key)
		}
		fresh := d.Link.Clone()
		if Write(fresh, c, item, target); fresh.Formula != d.Link.Formula {
			d.set(fresh)
			d.Link = fresh
			changed = append(changed, d)
		}
	}
	return changed
}

// Refresh brings the formulas of all graphs of a project, which may come from elsewhere.
func Refresh(p *scene.Project) {
	for _, c := range p.Compositions {
		for _, g := range c.Graphs {
			Bring(c, g.ID)
		}
	}
}
