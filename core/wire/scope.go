package wire

import (
	"slices"

	"wunderkammer/core/formula/binding"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
)

// ScopeOf returns what a formula on a property stands in; without an item and a property, what one by
// itself does.
func ScopeOf(l *layout.Layout, item int32, spec *scene.Spec, component string) *binding.Scope {
	s := &binding.Scope{
		Rate: float64(l.Composition.Rate), Frames: float64(l.Composition.Frames), Width: float64(l.Composition.Width), Height: float64(l.Composition.Height),
		Find: func(id scene.ID) *scene.Item {
			if i := l.Index(id); i >= 0 {
				return l.Items[i]
			}
			return nil
		},
		Items: func() []*scene.Item { return l.Items[:l.Own] },
		Named: func(name string) []*scene.Item {
			found := l.Composition.Named(name)
			if len(found) > 1 { // in the order of the layout
				found = slices.Clone(found)
				slices.SortFunc(found, func(a, b *scene.Item) int { return int(l.Index(a.ID) - l.Index(b.ID)) })
			}
			return found
		},
		Target: spec, Part: component,
	}
	if item >= 0 {
		s.Self = l.Items[item]
	}
	return s
}
