package scene

import (
	"fmt"
	"strconv"
	"strings"
)

// CopiesShape is what an item of kind copies has besides its properties.
type CopiesShape struct {
	Limit int `json:"limit,omitempty"` // the most copies it ever shows; 0 for UsualCopies
	Along ID  `json:"along,omitempty"` // the path that its copies stand along, where they are arranged so
}

// Bounds of copies.
const (
	UsualCopies = 200  // that an item shows at most, where the designer set no limit
	MaxCopies   = 5000 // that the limit can be set to
	// MaxLanes bounds what the limits of all copies of a composition come to.
	MaxLanes = 50000
	// MaxCopied bounds how many items all copies of a composition show together.
	MaxCopied = 50000
	// MaxCopiesNested is how many items of kind copies can hang on one another.
	MaxCopiesNested = 2
)

// Arrangements are the ways in which copies stand, by number from 0.
var Arrangements = []string{"line", "ring", "grid", "path", "scattered"}

// Shows are the times that copies show what is below them at, by number from 0.
var Shows = []string{"now", "own time"}

// OwnTime is the place in Shows of a time of their own.
const OwnTime = 1

// CopiesShow and CopiesTime are the properties of copies that say which of Shows it is, and that time, in seconds.
const (
	CopiesShow = "copiesShow"
	CopiesTime = "copiesTime"
)

// Tinted are the colours of items that the tint of a copy is mixed into.
var Tinted = []string{"fill", "secondFill", "stroke", "colour"}

// The properties of a copy that say where the arrangement puts it, before its links.
const (
	Stand   = "copyStand"
	Heading = "copyHeading"
)

// Check refuses a limit that is out of bounds.
func (s *CopiesShape) Check() error {
	if s != nil && (s.Limit < 0 || s.Limit > MaxCopies) {
		return fmt.Errorf("the limit of copies must be from 1 to %d, not %d", MaxCopies, s.Limit)
	}
	return nil
}

// MostCopies returns how many copies an item shows at most; 0 for one that shows none.
func (i *Item) MostCopies() int {
	switch {
	case i.Kind != CopiesItem:
		return 0
	case i.Copies == nil || i.Copies.Limit == 0:
		return UsualCopies
	}
	return i.Copies.Limit
}

// laneMark stands in the id of a copy between that of the item whose children it shows and its number. No id that is
// stored has it.
const laneMark = "~"

// Lanes returns the copies that an item shows at most, as items: of kind Copy, attached to it. They are made of it and never
// stored; nothing of their own can be set, and links on a row drive them.
func (i *Item) Lanes() []*Item {
	n := i.MostCopies()
	if n == 0 {
		return nil
	}
	made, out := make([]Item, n), make([]*Item, n)
	for k := range made {
		made[k] = Item{ID: laneID(i.ID, strconv.Itoa(k+1)), Name: i.LaneName(k + 1), Kind: Copy, Parent: i.ID}
		out[k] = &made[k]
	}
	return out
}

// LaneName returns the name of a copy that the item shows, by its number from 1.
func (i *Item) LaneName(number int) string { return i.Name + " " + strconv.Itoa(number) }

// FirstLane returns the id of the first copy that an item shows.
func (i *Item) FirstLane() ID { return laneID(i.ID, "1") }

func laneID(of ID, number string) ID { return of + laneMark + ID(number) }

// LaneOf takes the id of a copy apart: into that of the item that shows it, and its number from 1.
func LaneOf(id ID) (of ID, number int, ok bool) {
	before, after, ok := strings.Cut(string(id), laneMark)
	if !ok {
		return id, 0, false
	}
	number, err := strconv.Atoi(after)
	return ID(before), number, err == nil
}

// The lines of the formulas that arrange copies. $name is a property of the item that shows them, $$path the path along which
// they stand.
const (
	waySpan = `n = max(1, min($$limit, if({$copiesFade}, {$copiesNumber}, floor({$copiesNumber}))))
from = {$copiesStart} / 100
span = {$copiesEnd} / 100 - from
round = span != 0 and abs(span - floor(span + 0.5)) < 0.000001
angle = 90 - 360 * (from + span * index / max(1, if(round, n, n - 1)))
columns = max(1, {$copiesColumns})
chance = {$seed} * 7919 + index * 3
`
	wayAlong = `gone = from + span * index / max(1, if($$closed and round, n, n - 1))
placed = if($$closed, gone - floor(gone), gone)
off = along({$$path}, placed) - [{$worldPosition}.x, {$worldPosition}.y]
right = (cos({$worldRotation}) * off.x + sin({$worldRotation}) * off.y) * 100 / {$worldScale}.x
up = (cos({$worldRotation}) * off.y - sin({$worldRotation}) * off.x) * 100 / {$worldScale}.y
`
	wayStand = `pick({$copiesArrangement}, {$copiesSpacing} * index, {$copiesRadius} * [cos(angle), sin(angle), 0],
{$copiesSpacing} * mod(index, columns) + {$rowSpacing} * floor(index / columns), $$along,
[random(-0.5, 0.5, chance) * {$copiesArea}.x, random(-0.5, 0.5, chance + 1) * {$copiesArea}.y, random(-0.5, 0.5, chance + 2) * {$copiesArea}.z])`
	wayHeading = `{$copiesTurn} * index + pick({$copiesArrangement}, 0, if({$copiesFacing}, angle - 90, 0), 0, if({$copiesFacing}, $$towards, 0), 0)`
)

// arrangement says where the copies of an item stand and how far they are turned, in the space of the item: formulas on the row of
// its copies, for Stand and for Heading.
//
// Of n copies the one with index k stands, in a line, k spacings from the start; in a grid, likewise by column and by row; in a
// ring or along a path, at the share start + (end - start)·k/(n - 1) of the way, with n in place of n - 1 where the way closes;
// scattered, at random in the area. A ring begins at the top and runs clockwise.
func (i *Item) arrangement(path *Item) (stand, heading string) {
	lines, along, towards, closed := waySpan, "[0, 0, 0]", "0", "false"
	id := ID("")
	if path != nil && path.Path != nil && len(path.Path.Contours) > 0 {
		lines, along, towards, id = waySpan+wayAlong, "[right, up, 0]", "heading({$$path}, placed) - {$worldRotation}", path.ID
		if path.Path.Contours[0].Closed {
			closed = "true"
		}
	}
	whole := strings.NewReplacer("$$along", along, "$$towards", towards)
	of := strings.NewReplacer("$$limit", strconv.Itoa(i.MostCopies()), "$$closed", closed, "$$path", "@"+string(id), "$", "@"+string(i.ID)+":@")
	return of.Replace(whole.Replace(lines + wayStand)), of.Replace(whole.Replace(lines + wayHeading))
}

// arrangements returns what arranges the copies of an item, as links on the row of them.
func (c *Composition) arrangements(i *Item) []*RosterLink {
	var path *Item
	if i.Copies != nil {
		path = c.Item(i.Copies.Along)
	}
	stand, heading := i.arrangement(path)
	out := make([]*RosterLink, 2)
	for k, text := range []string{stand, heading} {
		out[k] = &RosterLink{
			Name: i.Name, Roster: Roster{Kind: CopiesOf, Item: i.ID}, Property: []string{Stand, Heading}[k],
			Link: &Link{Kind: Formula, Gain: 1, Formula: text},
		}
	}
	return out
}

// Wiring returns all links on rosters: those of the composition, and behind them those that arrange copies, which have no id.
func (c *Composition) Wiring() []*RosterLink {
	all := c.RosterLinks[:len(c.RosterLinks):len(c.RosterLinks)]
	for _, item := range c.Items {
		if item.Kind == CopiesItem {
			all = append(all, c.arrangements(item)...)
		}
	}
	return all
}

// CheckLanes refuses copies whose limits come to more than is made ready.
func (c *Composition) CheckLanes() error {
	n := 0
	for _, item := range c.Items {
		n += item.MostCopies()
	}
	if n > MaxLanes {
		return fmt.Errorf("the limits of all copies of %s would come to %d; together they can be %d, so lower some of them", c.Name, n, MaxLanes)
	}
	return nil
}

// nested returns an item of kind copies that hangs on more of them than it can, or nil. The items do not hang on each other in a
// cycle.
func (c *Composition) nested() *Item {
	tree, _ := c.Tree()
	around := make(map[ID]int, len(tree))
	for _, item := range tree {
		n := around[item.Parent]
		if item.Kind == CopiesItem {
			n++
		}
		if n > MaxCopiesNested {
			return item
		}
		if n > 0 {
			around[item.ID] = n
		}
	}
	return nil
}
