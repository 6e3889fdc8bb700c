package formula

import "wunderkammer/core/scene"

// BindNames binds the names of a formula that holds some, as one may that no editor has checked, to the ids of
// what they name in a composition. What cannot be found, or is ambiguous, stays as it was typed. Self is the item that
// is driven, or one of a roster.
func BindNames(text string, c *scene.Composition, self *scene.Item, target *scene.Spec) string {
	unbound := false
	for _, r := range References(text) {
		unbound = unbound || r.Item == "" && r.Relative == "" || r.Key == "" && r.Property != ""
	}
	if !unbound {
		return text
	}
	s := &Scope{Find: c.Item, Items: func() []*scene.Item { return c.Items }, Self: self, Target: target}
	return replaceReferences(text, func(r *Reference) string {
		item, p := s.owner(r)
		switch {
		case r.Relative != "" && p != nil:
			item = self // of the same kind, mostly
		case p != nil:
			return "{" + r.typed() + "}"
		case r.Relative == "":
			r.Item = item.ID
		}
		if item != nil && r.chosen() == "" && r.Key == "" && r.Property != "" {
			if _, p := s.property(r, item); p != nil {
				return "{" + r.typedAs(item) + "}"
			}
		}
		if r.Key == "" && r.Property != "" {
			return "{" + r.typed() + "}"
		}
		return r.bound()
	})
}

// typedAs writes a reference of which only the owner is known.
func (r *Reference) typedAs(item *scene.Item) string {
	owner := r.relative()
	if r.Relative == "" {
		owner = "@" + string(item.ID)
	}
	return owner + ": " + r.Property
}
