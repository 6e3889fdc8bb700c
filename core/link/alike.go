package link

import "wunderkammer/core/scene"

// Alike returns, by target, the links that are edited together: that of the first target that has an id, and of each
// other target the one that stands for it; nil for targets that have none.
func Alike(c *scene.Composition, targets []scene.Ref, id scene.ID) []*scene.Link {
	out := make([]*scene.Link, len(targets))
	for k, ref := range targets {
		item := c.Item(ref.Item)
		if item == nil {
			continue
		}
		if links := item.State(ref.Property).Links; out[0] != nil {
			out[k] = standsFor(out[0], links)
		} else if k == 0 {
			out[0], _ = item.State(ref.Property).Link(id)
		}
	}
	return out
}

// standsFor returns the link of a list that stands for one of another item: that of the same id, else the first of the
// same kind, on the same component, that reads the same.
func standsFor(l *scene.Link, list []*scene.Link) *scene.Link {
	var found *scene.Link
	for _, other := range list {
		switch {
		case other.ID == l.ID:
			return other
		case found == nil && other.Kind == l.Kind && other.Component == l.Component && other.Source == l.Source && other.Formula == l.Formula:
			found = other
		}
	}
	return found
}
