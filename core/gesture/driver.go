package gesture

import (
	"wunderkammer/core/formula"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// driver is a link that drives a property: one of its own, or one on a row that its item is a member of.
type driver struct {
	link *scene.Link
	row  *scene.RosterLink // nil for one of its own
}

// drivers returns what drives a property, or a component of it, the lowest first: links on rows, then those of its own; graphs
// and poses are links, too. What is off is none of them. Every hand that has to know asks here.
func (c *Context) drivers(item *scene.Item, spec *scene.Spec, component string) (out []driver) {
	meets := func(part string) bool { return component == "" || part == "" || part == component }
	for _, s := range c.Composition.RosterLinksOn(item, spec.Key) {
		if m := (scene.Member{Item: item, Key: spec.Key}); !s.Link.Off && meets(s.Part(m)) {
			out = append(out, driver{s.Link, s})
		}
	}
	for _, l := range item.State(spec.Key).Links {
		if !l.Off && meets(l.Component) {
			out = append(out, driver{l, nil})
		}
	}
	if len(out) > 0 && !c.Plan.Driven(item.ID, spec.Key) { // none of them works
		return nil
	}
	return out
}

// driven reports whether what a hand sets of a property would not be seen, since links drive it: one of its own does, or one on
// a row that leaves nothing of the own value. Such a property is posed.
func (c *Context) driven(item *scene.Item, spec *scene.Spec, component string) bool {
	for _, d := range c.drivers(item, spec, component) {
		if d.row == nil || d.hides() {
			return true
		}
	}
	return false
}

// moved reports whether links drive a property in whatever way, so that it is not where its own value puts it.
func (c *Context) moved(item *scene.Item, spec *scene.Spec) bool {
	return len(c.drivers(item, spec, "")) > 0
}

// hides reports whether a link on a row leaves nothing of what is below it.
func (d driver) hides() bool {
	if d.link.Operation != scene.Replace || d.row.WeightFrom != nil || d.row.Weight != nil && *d.row.Weight < 100 {
		return false
	}
	kind := link.Of(d.link)
	return kind.Formula == nil || !formula.UsesOwn(kind.Formula(d.link))
}

// name is how a driver is called in a sentence.
func (d driver) name(c *scene.Composition) string {
	switch {
	case d.row != nil:
		return "the row " + d.row.Name
	case d.link.Source.Item != "":
		return c.NameOf(d.link.Source)
	}
	return "its " + link.Of(d.link).Name
}
