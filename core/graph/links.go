package graph

import (
	"maps"
	"slices"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// Driven is a link where it stands: on a property of an item, or on a roster.
type Driven struct {
	Ref        scene.Ref // the property; empty for a link on a roster
	RosterLink scene.ID
	Link       *scene.Link
	set        func(l *scene.Link)
}

// Drives lists the links that a graph gives their values.
func Drives(c *scene.Composition, id scene.ID) []Driven {
	return Where(c, func(l *scene.Link) bool { return l.Graph == id })
}

// Where lists the links that match, those of items first, in the order of the tree.
func Where(c *scene.Composition, match func(l *scene.Link) bool) (out []Driven) {
	for _, item := range c.Items {
		for _, key := range slices.Sorted(maps.Keys(item.States)) {
			state := item.States[key]
			for k, l := range state.Links {
				if match(l) {
					out = append(out, Driven{Ref: scene.Ref{Item: item.ID, Property: key}, Link: l, set: func(l *scene.Link) { state.Links[k] = l }})
				}
			}
		}
	}
	for _, s := range c.RosterLinks {
		if match(s.Link) {
			out = append(out, Driven{RosterLink: s.ID, Link: s.Link, set: func(l *scene.Link) { s.Link = l }})
		}
	}
	return out
}

// Write gives a link of a graph the formula of the drive slip that it names; an empty one where that gives none. So what
// stands in it is always what its graph says, whatever was done before.
func Write(l *scene.Link, c *scene.Composition) {
	if l.Graph == "" {
		return
	}
	l.Formula = ""
	if g, _ := c.Graph(l.Graph); g != nil {
		l.Formula, _ = Lower(g, l.Slip)
	}
}

// Bring writes the formulas of a graph, which may be gone, into the links that it gives their values, and returns those
// that are others now.
func Bring(c *scene.Composition, id scene.ID) (changed []Driven) {
	for _, d := range Drives(c, id) {
		fresh := d.Link.Clone()
		if Write(fresh, c); fresh.Formula != d.Link.Formula {
			d.set(fresh)
			d.Link = fresh
			changed = append(changed, d)
		}
	}
	return changed
}

// Leading returns the part of a graph that leads to some of its drive slips, with the notes of its sheet.
func Leading(g *scene.Graph, drives map[scene.ID]bool) *scene.Graph {
	kept := map[scene.ID]bool{}
	for id := range drives {
		kept[id] = true
		maps.Copy(kept, Before(g, id))
	}
	for _, s := range g.Slips {
		for within := s.Within; kept[s.ID] && within != "" && !kept[within]; {
			kept[within] = true
			fold, _ := g.Slip(within)
			within = fold.Within
		}
	}
	out := g.Clone()
	out.Slips = slices.DeleteFunc(out.Slips, func(s *scene.Slip) bool {
		return !kept[s.ID] && (s.Kind != scene.NoteSlip || s.Within != "" && !kept[s.Within])
	})
	out.Wires = slices.DeleteFunc(out.Wires, func(w *scene.Wire) bool { return !kept[w.From] || !kept[w.To] })
	for _, s := range out.Slips {
		s.Ports = slices.DeleteFunc(s.Ports, func(p scene.FoldPort) bool { return !kept[p.Slip] })
	}
	return out
}

// Renamed returns a copy of a graph under other ids: its own, those of its slips, and those of what they look at.
func Renamed(g *scene.Graph, to func(scene.ID) (scene.ID, bool)) *scene.Graph {
	out := g.Clone()
	lead := func(ids ...*scene.ID) {
		for _, id := range ids {
			if other, ok := to(*id); ok {
				*id = other
			}
		}
	}
	lead(&out.ID)
	for _, s := range out.Slips {
		lead(&s.ID, &s.Within)
		if s.Kind != scene.NoteSlip {
			s.Text = syntax.Renamed(s.Text, to)
		}
		for in, text := range s.Fields {
			s.Fields[in] = syntax.Renamed(text, to)
		}
		for k := range s.Ports {
			lead(&s.Ports[k].Slip)
		}
	}
	for _, w := range out.Wires {
		lead(&w.From, &w.To)
	}
	return out
}

// SaysTheSame reports whether two states of a slip come to the same formula: they differ in where the slip lies, and how it is
// shown.
func SaysTheSame(a, b *scene.Slip) bool {
	return a.Kind == b.Kind && a.Title == b.Title && a.Text == b.Text && a.Beyond == b.Beyond && maps.Equal(a.Fields, b.Fields) && slices.Equal(a.Stops, b.Stops)
}

// Bind returns a slip in whose text names stand for ids, as far as they can be found.
func Bind(s *scene.Slip, c *scene.Composition) *scene.Slip {
	out := s.Clone()
	if out.Kind != scene.NoteSlip {
		out.Text = binding.BindNames(out.Text, c, nil, nil)
	}
	for in, text := range out.Fields {
		out.Fields[in] = binding.BindNames(text, c, nil, nil)
	}
	return out
}

// BindAll binds the names in all formulas of a project that was written by hand, as Bind and the operations do, so that they hold when
// what they name is renamed.
func BindAll(p *scene.Project) {
	bind := func(l *scene.Link, c *scene.Composition, item *scene.Item, spec *scene.Spec) {
		if text := binding.BindNames(l.Formula, c, item, spec); len(text) <= scene.MaxFormula {
			l.Formula = text
		}
	}
	for _, c := range p.Compositions {
		for _, item := range c.Items {
			for key, state := range item.States {
				for _, l := range state.Links {
					bind(l, c, item, item.Spec(key))
				}
			}
		}
		for _, s := range c.RosterLinks {
			if members := s.Members(c); len(members) > 0 && syntax.Unbound(s.Link.Formula) {
				m := members[len(members)/2]
				bind(s.Link, c, m.Item, m.Item.Spec(m.Key))
			}
		}
		for _, g := range c.Graphs {
			for k, s := range g.Slips {
				if bound := Bind(s, c); len(bound.Text) <= scene.MaxFormula {
					g.Slips[k] = bound
				}
			}
		}
	}
}

// Refresh brings the formulas of all links of graphs of a project, which may come from elsewhere.
func Refresh(p *scene.Project) {
	for _, c := range p.Compositions {
		for _, item := range c.Items {
			for _, state := range item.States {
				for _, l := range state.Links {
					Write(l, c)
				}
			}
		}
		for _, s := range c.RosterLinks {
			Write(s.Link, c)
		}
	}
}
