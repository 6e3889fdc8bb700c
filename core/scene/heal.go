package scene

import (
	"fmt"
	"maps"
	"slices"
)

// Heal mends what earlier versions could leave behind in a project that was saved, so that it passes Check
// again as far as it can: what was set of a weight whose link is gone, or of a property that is not there;
// entries that are empty; ids that occur twice; attachments to nothing or in a cycle. It returns what was
// dropped or altered, a sentence each.
func (p *Project) Heal() []string {
	h := &healer{taken: ids{}}
	p.ids = nil
	n := len(p.Compositions)
	p.Compositions = slices.DeleteFunc(p.Compositions, func(c *Composition) bool { return c == nil })
	p.Join()
	p.Recipes = slices.DeleteFunc(p.Recipes, func(r *SavedRecipe) bool {
		err := r.Check()
		if err != nil {
			h.say("A recipe could not be kept: %v.", err)
		}
		return err != nil
	})
	p.Sets = slices.DeleteFunc(p.Sets, func(s *ControlSet) bool {
		err := s.Check()
		if err != nil {
			h.say("A set of controls could not be kept: %v.", err)
		}
		return err != nil
	})
	p.healBefores(h.say)
	if len(p.Compositions) < n {
		h.say("An empty composition was left out.")
	}
	for _, c := range p.Compositions {
		h.composition(c)
	}
	return h.said
}

type healer struct {
	taken ids
	last  int
	said  []string
}

func (h *healer) say(format string, args ...any) {
	h.said = append(h.said, fmt.Sprintf(format, args...))
}

// own returns an id, or another one where it is taken already, or none at all.
func (h *healer) own(id ID) ID {
	for fresh := id; ; {
		if !h.taken[fresh] && CheckID(fresh) == nil {
			h.taken[fresh] = true
			return fresh
		}
		h.last++
		fresh = ID(fmt.Sprintf("healed%d", h.last))
	}
}

func (h *healer) composition(c *Composition) {
	c.index = nil
	c.ID = h.own(c.ID)
	n := len(c.Items) + len(c.RosterLinks)
	c.Items = slices.DeleteFunc(c.Items, func(i *Item) bool { return i == nil })
	c.RosterLinks = slices.DeleteFunc(c.RosterLinks, func(s *RosterLink) bool { return s == nil || s.Link == nil })
	if len(c.Items)+len(c.RosterLinks) < n {
		h.say("%s: %d empty entries were left out.", c.Name, n-len(c.Items)-len(c.RosterLinks))
	}
	for _, item := range c.Items {
		if fresh := h.own(item.ID); fresh != item.ID {
			item.ID = fresh
			h.say("%s: %s had the id of something else and was given one of its own.", c.Name, item.Name)
		}
		h.item(c, item)
	}
	for _, item := range c.Items {
		if item.Parent != "" && c.Item(item.Parent) == nil {
			item.Parent, item.Attachment = "", Attachment{}
			h.say("%s: %s was attached to an item that does not exist, and is attached to nothing now.", c.Name, item.Name)
		}
	}
	for item := c.cycleOf(); item != nil; item = c.cycleOf() { // each round opens a cycle
		item.Parent, item.Attachment = "", Attachment{}
		h.say("%s: %s was attached to itself by way of others, and is attached to nothing now.", c.Name, item.Name)
	}
	for _, item := range c.Items {
		if item.Kind == CopiesItem && c.CheckLanes() != nil {
			shape := CopiesShape{Limit: 1}
			if item.Copies != nil {
				shape.Along = item.Copies.Along
			}
			item.Copies = &shape
			h.say("%s: there were more copies than can be shown, so the limit of %s was set to 1.", c.Name, item.Name)
		}
	}
	for item := c.nested(); item != nil; item = c.nested() {
		item.Parent, item.Attachment = "", Attachment{}
		h.say("%s: %s was nested too deep in other copies, and is attached to nothing now.", c.Name, item.Name)
	}
	c.Looks = slices.DeleteFunc(c.Looks, func(l *Look) bool {
		if l != nil {
			l.ID = h.own(l.ID)
		}
		err := l.Check()
		if err != nil {
			h.say("%s: a look could not be kept: %v.", c.Name, err)
		}
		return err != nil
	})
	for _, s := range c.RosterLinks {
		s.ID, s.Link.ID = h.own(s.ID), h.own(s.Link.ID)
	}
	h.graphs(c)
	c.index = nil
}

// graphs leaves out of the graphs of a composition what cannot be kept: empty entries, slips that are none or too many,
// wires that lead nowhere or to an input that has one, folds that are not there.
func (h *healer) graphs(c *Composition) {
	c.Graphs = slices.DeleteFunc(c.Graphs, func(g *Graph) bool { return g == nil })
	renamed := map[ID]ID{}
	for _, g := range c.Graphs {
		slips, wires := len(g.Slips), len(g.Wires)
		g.Slips = slices.DeleteFunc(g.Slips, func(s *Slip) bool {
			if s == nil {
				return true
			}
			named := *s
			named.ID = "one" // which it is given where it has none
			return named.Check() != nil
		})
		g.Slips = g.Slips[:min(len(g.Slips), MaxSlips)]
		was := g.ID
		g.ID = h.own(g.ID)
		fresh := map[ID]ID{was: g.ID}
		for _, s := range g.Slips {
			id := s.ID
			s.ID = h.own(id)
			if _, known := fresh[id]; !known { // of two with one id the first keeps its wires
				fresh[id] = s.ID
			}
		}
		seen := map[Wire]bool{}
		g.Wires = slices.DeleteFunc(g.Wires, func(w *Wire) bool {
			if w == nil || len(w.In) > maxPort || len(w.Out) > maxPort || fresh[w.From] == "" || fresh[w.To] == "" {
				return true
			}
			w.From, w.To = fresh[w.From], fresh[w.To]
			input := Wire{To: w.To, In: w.In}
			twice := seen[input]
			seen[input] = true
			return twice
		})
		g.Wires = g.Wires[:min(len(g.Wires), MaxWires)]
		h.folds(c, g, fresh)
		for was, id := range fresh {
			if was != id {
				renamed[was] = id
			}
		}
		if n := slips - len(g.Slips); n > 0 {
			h.say("%s: %d slips of the graph %s were left out: they are no slips, or more than %d.", c.Name, n, g.Name, MaxSlips)
		}
		if n := wires - len(g.Wires); n > 0 {
			h.say("%s: %d wires of the graph %s were left out, since they lead nowhere.", c.Name, n, g.Name)
		}
	}
	if len(renamed) == 0 {
		return
	}
	follow := func(l *Link) {
		for _, id := range []*ID{&l.Graph, &l.Slip} {
			if fresh, ok := renamed[*id]; ok {
				*id = fresh
			}
		}
	}
	for _, item := range c.Items {
		for _, s := range item.States {
			for _, l := range s.Links {
				follow(l)
			}
		}
	}
	for _, s := range c.RosterLinks {
		follow(s.Link)
	}
}

// folds takes slips out of folds that are not there, or that lie in one another.
func (h *healer) folds(c *Composition, g *Graph, fresh map[ID]ID) {
	for _, s := range g.Slips {
		follow := func(id *ID) { // what is not there stays named: it may come back
			if to, ok := fresh[*id]; ok {
				*id = to
			}
		}
		follow(&s.Within)
		for k := range s.Ports {
			follow(&s.Ports[k].Slip)
		}
	}
	n := 0
	for g.checkFolds() != nil {
		for _, s := range g.Slips {
			within, _ := g.Slip(s.Within)
			if s.Within != "" && (n > 0 || within == nil || within.Kind != FoldSlip) {
				s.Within = ""
			}
		}
		n++
	}
	if n > 0 {
		h.say("%s: slips of the graph %s were taken out of folds that are not there, or that lay in one another.", c.Name, g.Name)
	}
}

func (h *healer) item(c *Composition, item *Item) {
	n := len(item.Controls)
	item.Controls = slices.DeleteFunc(item.Controls, func(k *Control) bool { return k == nil })
	if len(item.Controls) < n {
		h.say("%s: an empty control of %s was left out.", c.Name, item.Name)
	}
	for _, control := range item.Controls {
		if fresh := h.own(control.ID); fresh != control.ID {
			control.ID = fresh
			h.say("%s: the control %s of %s had the id of something else and was given one of its own.", c.Name, control.Name, item.Name)
		}
	}
	for _, s := range item.States {
		if s != nil {
			s.Links = slices.DeleteFunc(s.Links, func(l *Link) bool { return l == nil })
		}
	}
	maps.DeleteFunc(item.States, func(_ string, s *State) bool { return s == nil })
	if n := item.DropLeftWeights(); n > 0 {
		h.say("%s: what was set of the weight of %d links on %s was dropped, since the links are gone.", c.Name, n, item.Name)
	}
	for _, key := range slices.Sorted(maps.Keys(item.States)) {
		if spec := item.Spec(key); (spec == nil && item.Kept(key) == nil) || spec != nil && spec.ReadOnly {
			delete(item.States, key)
			h.say("%s: what was set of %s of %s was dropped, since it has no such property.", c.Name, Clip(key), item.Name)
		}
	}
	for _, key := range slices.Sorted(maps.Keys(item.States)) {
		s := item.States[key]
		if s == nil { // a weight that got another key meanwhile
			continue
		}
		for _, l := range s.Links {
			was := l.ID
			if l.ID = h.own(l.ID); l.ID == was {
				continue
			}
			if weight := item.States[WeightKey(was)]; weight != nil {
				item.States[WeightKey(l.ID)] = weight.Clone()
				for _, on := range item.States[WeightKey(l.ID)].Links {
					on.ID = h.own(on.ID)
				}
			}
		}
		item.Tidy(key)
	}
	item.DropLeftWeights() // of links that have another id now
}
