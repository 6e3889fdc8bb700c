package gesture

import (
	"fmt"

	"wunderkammer/core/scene"
)

// OfCopies returns an item that shows copies, and what all of them have as a property that can be driven.
func (c *Context) OfCopies(of scene.ID, key string) (*scene.Item, *scene.Spec, error) {
	item, err := c.Item(of)
	if err != nil {
		return nil, nil, err
	}
	lanes := item.Lanes()
	if len(lanes) == 0 {
		return nil, nil, fmt.Errorf("%s is %s, which shows no copies", item.Name, item.Kind.Info().One())
	}
	spec := lanes[0].Spec(key)
	if spec == nil || spec.ReadOnly {
		return nil, nil, fmt.Errorf("copies have no property %q that could be driven", scene.Clip(key))
	}
	return item, spec, nil
}

// Arranged reports whether the arrangement of copies makes a property of theirs.
func Arranged(key string) bool { return key == "position" || key == "rotation" }

// RowOfCopies is a link on a property of all copies that an item shows, which gives nothing yet.
func (c *Context) RowOfCopies(item *scene.Item, spec *scene.Spec, component string) *scene.RosterLink {
	return &scene.RosterLink{
		ID: c.NewID(), Name: ClipName(spec.Name + " of the copies of " + item.Name), Property: spec.Key, Component: component,
		Roster: scene.Roster{Kind: scene.CopiesOf, Item: item.ID}, Link: &scene.Link{ID: c.NewID(), Kind: scene.Formula, Gain: 1},
	}
}
