package gesture

import (
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// Driver is a link that drives a property: one of its own, or one on a row that its item is a member of.
type Driver struct {
	Link *scene.Link
	Row  *scene.RosterLink // nil for one of its own
	// weighed tells that the weight of one of its own was set.
	weighed bool
}

// Drivers returns what drives a property, or a component of it, the lowest first: links on rows, then those of its own; graphs
// and poses are links, too. What is off is none of them. Every hand that has to know asks here.
func (c *Context) Drivers(item *scene.Item, spec *scene.Spec, component string) (out []Driver) {
	meets := func(part string) bool { return component == "" || part == "" || part == component }
	for _, s := range c.Composition.RosterLinksOn(item, spec.Key) {
		if m := (scene.Member{Item: item, Key: spec.Key}); !s.Link.Off && meets(s.Part(m)) {
			out = append(out, Driver{Link: s.Link, Row: s})
		}
	}
	for _, l := range item.State(spec.Key).Links {
		if !l.Off && meets(l.Component) {
			out = append(out, Driver{Link: l, weighed: item.States[scene.WeightKey(l.ID)] != nil})
		}
	}
	if len(out) > 0 && !c.Planned.Driven(item.ID, spec.Key) { // none of them works
		return nil
	}
	return out
}

// Driven reports whether what a hand sets of a property would not be seen, or is to become a stop, since links drive it: one of its own
// does, or one on a row that leaves nothing of the own value, or is a map. Such a property is posed.
func (c *Context) Driven(item *scene.Item, spec *scene.Spec, component string) bool {
	for _, d := range c.Drivers(item, spec, component) {
		if d.Row == nil || d.Hides() || link.Of(d.Link).Stops {
			return true
		}
	}
	return false
}

// Moved reports whether links drive a property in whatever way, so that it is not where its own value puts it.
func (c *Context) Moved(item *scene.Item, spec *scene.Spec) bool {
	return len(c.Drivers(item, spec, "")) > 0
}

// Hides reports whether a link leaves nothing of what is below it.
func (d Driver) Hides() bool {
	if d.Link.Operation != scene.Replace || d.weighed || d.Row != nil && (d.Row.WeightFrom != nil || d.Row.Weight != nil && *d.Row.Weight < 100) {
		return false
	}
	kind := link.Of(d.Link)
	return kind.Formula == nil || !syntax.UsesOwn(kind.Formula(d.Link))
}

// Name is how a driver is called in a sentence.
func (d Driver) Name(c *scene.Composition) string {
	switch {
	case d.Row != nil:
		return "the row " + d.Row.Name
	case d.Link.Source.Item != "":
		return c.NameOf(d.Link.Source)
	}
	return "its " + link.Of(d.Link).Name
}
