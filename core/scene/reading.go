package scene

import (
	"fmt"
	"slices"
)

// A reading is what somebody made of a composition that was handed off to them: a composition of its own with one piece that shows it,
// whose values and pins are theirs. It is in the list of the readings of that composition, and nowhere else.

// IsReading reports whether the composition is a reading of another one.
func (c *Composition) IsReading() bool { return c.Reading != "" }

// Read returns the piece of a reading; nil for any other composition.
func (c *Composition) Read() *Item {
	if !c.IsReading() || len(c.Items) != 1 {
		return nil
	}
	return c.Items[0]
}

// CheckReading refuses a reading that is more than a piece of what it is a reading of.
func (c *Composition) CheckReading() error {
	if !c.IsReading() {
		return nil
	}
	item := c.Read()
	if item == nil || item.Piece == nil || item.Piece.Composition != c.Reading || len(c.RosterLinks)+len(c.Graphs) > 0 || len(c.Looks) > 0 || c.HandOff != nil || len(item.Controls) > 0 {
		return fmt.Errorf("%s is a reading, and so has one piece of the composition that it reads, and nothing else", c.Name)
	}
	return nil
}

// Readings lists the readings of a composition, in their order.
func (p *Project) Readings(of ID) (out []*Composition) {
	for _, c := range p.Compositions {
		if c.IsReading() && c.Reading == of {
			out = append(out, c)
		}
	}
	return out
}

// NewReading returns a reading of a composition, under a name: like it in all that a composition has besides its items.
func (c *Composition) NewReading(id, piece ID, name string) *Composition {
	return &Composition{
		ID: id, Name: name, Width: c.Width, Height: c.Height, Rate: c.Rate, Frames: c.Frames, Background: c.Background, Reading: c.ID,
		Items: []*Item{{ID: piece, Name: c.Name, Kind: Piece, Piece: &Shown{Composition: c.ID}}},
	}
}

// HandedOff returns what of a project somebody gets to whom a composition is handed off, as a project of its own: its readings, the
// composition, and what is shown in it. A reading that is named comes first. False where there is no such composition.
func (p *Project) HandedOff(of, reading ID) (*Project, bool) {
	c := p.Composition(of)
	if c == nil || c.IsReading() {
		return nil, false
	}
	list := p.Readings(of)
	if k := slices.IndexFunc(list, func(r *Composition) bool { return r.ID == reading }); k > 0 {
		list[0], list[k] = list[k], list[0]
	}
	list = append(list, c)
	list = shown(list, c.Items)
	out := &Project{ID: p.ID, Name: c.Name}
	for _, c := range list {
		out.Compositions = append(out.Compositions, c.Clone())
	}
	out.Join()
	return out, true
}
