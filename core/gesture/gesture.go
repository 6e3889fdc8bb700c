// Package gesture is what all gestures stand on: what one is made in, what it comes to, and what several of them ask of a
// composition. A gesture turns what a user does with a hand into operations of package change, and works out what the hand leaves
// open: a free name, the gain that mends two units, the values that keep an attached item in its place. The gestures themselves are
// in packages by subject below it; catalogue names them all.
package gesture

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

// Context is what a gesture is made in. A gesture changes nothing of it.
type Context struct {
	Project     scene.ID // that the composition is of; empty where it is not known
	Composition *scene.Composition
	Planned     *engine.Plan // of what there is; its values are asked of Plan
	Frame       int
	NewID       func() scene.ID
	AutoPin     bool                 // whatever is set is pinned at Frame
	Recipes     []*scene.SavedRecipe // of the project
	Befores     []*scene.Before      // of the project
	Others      []*scene.Composition // all compositions of the project
	Sets        []*scene.ControlSet  // of the project

	worked bool // whether Planned was evaluated, and for which frame
	at     int
}

// Plan returns the plan evaluated at Frame: it is worked out when it is first asked for, since many gestures need no values.
func (c *Context) Plan() *engine.Plan {
	if !c.worked || c.at != c.Frame {
		c.Planned.Evaluate(c.Composition.Held(float64(c.Frame)))
		c.Evaluated()
	}
	return c.Planned
}

// Evaluated says that Planned is evaluated already where it is to be looked at, perhaps between whole frames.
func (c *Context) Evaluated() { c.worked, c.at = true, c.Frame }

// Result is what a gesture comes to.
type Result struct {
	Ops  change.Ops
	Made []scene.ID // ids of items or controls that the gesture adds
	Note string     // something the user should know, in a sentence
	// Poses are driven properties that are shown at another value for the time being, and those that
	// no longer are (with an absent value).
	Poses []Pose
	// Details lists what the note is about, one thing each.
	Details []string
	// Pins are those that a gesture on pins leaves in the hand, where they are now.
	Pins []PinAt
	// Asks is what the user has to say before the gesture is made, which has no operations then: the note says why. Empty: nothing.
	Asks string
}

// Pose is a value that a driven property is shown at for the time being, in place of what drives it.
type Pose struct {
	Ref   scene.Ref   `json:"ref"`
	Value scene.Value `json:"value"`
}

// PinAt names one pin.
type PinAt struct {
	Item     scene.ID `json:"item"`
	Property string   `json:"property"`
	Frame    int      `json:"frame"`
}

// Gesture is one act of a user, with all that it takes besides where it is made. An error is a sentence, without a full stop.
type Gesture interface {
	Do(c *Context) (Result, error)
}

// Operations makes operations as they are given.
type Operations struct {
	Ops change.Ops `json:"ops"`
}

// UnmarshalJSON reads operations of which every field is known.
func (g *Operations) UnmarshalJSON(data []byte) error {
	var exact struct {
		Ops change.Exact `json:"ops"`
	}
	err := scene.ReadExactly(data, &exact)
	g.Ops = change.Ops(exact.Ops)
	return err
}

// Do returns the operations.
func (g *Operations) Do(*Context) (Result, error) { return Result{Ops: g.Ops}, nil }

// In addresses an operation to the composition.
func (c *Context) In() change.In { return change.In{Composition: c.Composition.ID} }

// On addresses an operation to an item of the composition.
func (c *Context) On(id scene.ID) change.On { return change.On{In: c.In(), Item: id} }

// Of addresses an operation to a property of an item of the composition.
func (c *Context) Of(id scene.ID, key string) change.Of {
	return change.Of{On: c.On(id), Property: key}
}

// Item returns an item of the composition or an error in plain words.
func (c *Context) Item(id scene.ID) (*scene.Item, error) {
	if item := c.Composition.Item(id); item != nil {
		return item, nil
	}
	return nil, fmt.Errorf("the item is no longer there; it may have been removed in another window")
}

// Property returns an item and what one of its properties is, whatever component is named, or an error in plain words.
func (c *Context) Property(ref scene.Ref) (*scene.Item, *scene.Spec, error) {
	item, err := c.Item(ref.Item)
	if err != nil {
		return nil, nil, err
	}
	spec := item.Spec(ref.Property)
	if spec == nil {
		return nil, nil, fmt.Errorf("%s no longer has that property; its control may have been removed", item.Name)
	}
	return item, spec, nil
}

// ItemNames returns the names of all items, which are taken.
func (c *Context) ItemNames() map[string]bool {
	taken := map[string]bool{}
	for _, item := range c.Composition.Items {
		taken[item.Name] = true
	}
	return taken
}

// ControlNames returns the names of all controls of an item.
func ControlNames(item *scene.Item) map[string]bool {
	taken := map[string]bool{}
	for _, control := range item.Controls {
		taken[control.Name] = true
	}
	return taken
}

// Plural writes how many there are of something.
func Plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}

// LeftOut says how many links were left out.
func LeftOut(n int) string {
	if n == 1 {
		return "1 link was left out"
	}
	return Plural(n, "link") + " were left out"
}
