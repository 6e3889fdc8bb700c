package scene

import (
	"fmt"
	"slices"
	"strings"
)

// index finds the items of a composition by their ids. It is made when it is first asked for and kept
// by Insert, Take and Hang, so that finding one takes the same time however many there are.
type index struct {
	items    map[ID]*Item
	children map[ID]int         // how many items hang on an item
	names    map[string][]*Item // by Fold of their names; nil: not made yet
	size     int                // of Items when it was last right
	places   map[*Item]int      // where items stood when it was made; nil: not made yet
	drift    int                // how far from there the one that was looked for last stands now
	found    *foundRows         // what links on rows find; nil: not looked for yet
	rows     int                // how many of them there were
	gathered map[Gathering]gathered
	gatherer *finder // of all that is gathered, so that it stays bounded
}

func (c *Composition) indexed() *index {
	if c.index == nil || c.index.size != len(c.Items) { // never made, or Items was written to directly
		c.index = &index{items: make(map[ID]*Item, len(c.Items)), children: map[ID]int{}, size: len(c.Items)}
		for _, item := range c.Items {
			c.index.items[item.ID] = item
			c.index.children[item.Parent]++
		}
	}
	return c.index
}

// Item returns the item with the id, or nil. Like all that reads a composition, it is not safe for
// concurrent use: the index behind it is made on the way.
func (c *Composition) Item(id ID) *Item {
	item := c.indexed().items[id]
	if item != nil && item.ID != id {
		return nil
	}
	return item
}

// IndexOf returns where the item stands in Items, or -1.
func (c *Composition) IndexOf(id ID) int {
	item := c.Item(id)
	if item == nil {
		return -1
	}
	x := c.indexed()
	if x.places == nil {
		x.places, x.drift = make(map[*Item]int, len(c.Items)), 0
		for i, other := range c.Items {
			x.places[other] = i
		}
	}
	// Of many that are looked for in turn, while others come and go, the next one has drifted about as far as the last.
	at := x.places[item]
	for i, j := at+x.drift, at+x.drift+1; i >= 0 || j < len(c.Items); i, j = i-1, j+1 {
		if i >= 0 && i < len(c.Items) && c.Items[i] == item {
			x.drift = i - at
			return i
		}
		if j >= 0 && j < len(c.Items) && c.Items[j] == item {
			x.drift = j - at
			return j
		}
	}
	return -1
}

// Foremost returns where the first of some items stands in Items; behind all where there are none.
func (c *Composition) Foremost(ids []ID) int {
	wanted := make(map[ID]bool, len(ids))
	for _, id := range ids {
		wanted[id] = true
	}
	for i, item := range c.Items {
		if wanted[item.ID] {
			return i
		}
	}
	return len(c.Items)
}

// Arrange puts some items at other places of Items: each to stand at the place that is given for it, in rising order, while the
// others keep theirs among each other; at the end where the list has become shorter. It returns where they stood, likewise, and is
// false where an item is missing or named twice, or the places don't rise.
func (c *Composition) Arrange(ids []ID, at []int) (were []ID, stood []int, ok bool) {
	moved := make(map[*Item]bool, len(ids))
	for k, id := range ids {
		item := c.Item(id)
		if item == nil || moved[item] || at[k] < 0 || k > 0 && at[k] <= at[k-1] {
			return nil, nil, false
		}
		moved[item] = true
	}
	before := len(c.Items) - len(ids) // how many of the others can stand before
	var rest []*Item
	for i, item := range c.Items {
		if moved[item] {
			were, stood = append(were, item.ID), append(stood, i)
		} else {
			rest = append(rest, item)
		}
	}
	x, out := c.indexed(), make([]*Item, 0, len(c.Items))
	for k := 0; len(out) < len(c.Items); {
		if k < len(ids) && min(at[k], before+k) == len(out) {
			out = append(out, x.items[ids[k]])
			k++
		} else {
			out, rest = append(out, rest[0]), rest[1:]
		}
	}
	c.Items = out
	x.places, x.names, x.found = nil, nil, nil
	return were, stood, true
}

// Carries reports whether anything hangs on an item.
func (c *Composition) Carries(id ID) bool { return c.indexed().children[id] > 0 }

// Insert puts an item at a place of Items, 0 to their number, and keeps what is found by id and by parent in step.
func (c *Composition) Insert(at int, item *Item) {
	x := c.indexed()
	c.Items = slices.Insert(c.Items, at, item)
	c.stage(item)
	x.items[item.ID] = item
	x.children[item.Parent]++
	x.names, x.found = nil, nil
	x.size++
}

// Take takes the item at a place of Items out.
func (c *Composition) Take(at int) *Item {
	x, item := c.indexed(), c.Items[at]
	if at < len(c.Items)/2 { // the shorter side moves up, so that all are taken from the first on in no time
		copy(c.Items[1:at+1], c.Items[:at])
		c.Items[0] = nil
		c.Items = c.Items[1:]
	} else {
		c.Items = slices.Delete(c.Items, at, at+1)
	}
	delete(x.items, item.ID)
	x.children[item.Parent]--
	x.names, x.found = nil, nil
	x.size--
	return item
}

// Fold is a name as it is compared with another: capitals and spaces around it do not count.
func Fold(name string) string { return strings.ToLower(strings.TrimSpace(name)) }

// Named returns the items with a name, compared by Fold, in their order. The slice is not to be changed.
func (c *Composition) Named(name string) []*Item {
	x := c.indexed()
	if x.names == nil {
		x.names = make(map[string][]*Item, len(c.Items))
		for _, item := range c.Items {
			folded := Fold(item.Name)
			x.names[folded] = append(x.names[folded], item)
		}
	}
	return x.names[Fold(name)]
}

// Renamed is called when an item has got another name.
func (c *Composition) Renamed() {
	x := c.indexed()
	x.names, x.found = nil, nil
}

// Hang attaches an item to another one, or to none.
func (c *Composition) Hang(item *Item, parent ID, a Attachment) {
	x := c.indexed()
	x.children[item.Parent]--
	item.Parent, item.Attachment = parent, a
	x.children[parent]++
	x.found = nil
}

// ids are all ids that are taken in a project.
type ids map[ID]bool

// Claim takes ids; where one is taken already, it takes none and returns that one.
func (p *Project) Claim(list ...ID) (taken ID, ok bool) {
	known := p.known()
	for i, id := range list {
		if known[id] {
			for _, claimed := range list[:i] {
				delete(known, claimed)
			}
			return id, false
		}
		known[id] = true
	}
	return "", true
}

// Release makes ids that were taken free for other things; those that are not known are left alone.
func (p *Project) Release(list ...ID) {
	known := p.known()
	for _, id := range list {
		delete(known, id)
	}
}

// known returns the ids that are taken.
func (p *Project) known() ids {
	if p.ids == nil {
		p.ids = ids{}
		for _, c := range p.Compositions {
			for _, id := range c.IDs() {
				p.ids[id] = true
			}
		}
	}
	return p.ids
}

// Taken says that an id is not free.
func Taken(id ID) error { return fmt.Errorf("the id %s is taken already", id) }

// IDs lists the ids of a composition and of all in it: items, controls, links, links on rosters, graphs and their slips, markers.
func (c *Composition) IDs() []ID {
	out := []ID{c.ID}
	for _, item := range c.Items {
		out = append(out, item.IDs()...)
	}
	for _, s := range c.RosterLinks {
		out = append(out, s.IDs()...)
	}
	for _, g := range c.Graphs {
		out = append(out, g.IDs()...)
	}
	for _, m := range c.Markers {
		out = append(out, m.ID)
	}
	for _, l := range c.Looks {
		out = append(out, l.ID)
	}
	if c.HandOff != nil {
		for _, o := range c.HandOff.Offers {
			out = append(out, o.ID)
		}
	}
	return out
}

// IDs lists the ids of an item, its controls and its links.
func (i *Item) IDs() []ID {
	out := []ID{i.ID}
	for _, control := range i.Controls {
		out = append(out, control.ID)
	}
	for _, s := range i.States {
		if s != nil {
			out = append(out, LinkIDs(s.Links)...)
		}
	}
	return out
}

// LinkIDs lists the ids of links.
func LinkIDs(lists ...[]*Link) (out []ID) {
	for _, list := range lists {
		for _, l := range list {
			out = append(out, l.ID)
		}
	}
	return out
}

// IDs lists the ids of a link on a roster: its own, and that of what it does.
func (s *RosterLink) IDs() []ID { return []ID{s.ID, s.Link.ID} }
