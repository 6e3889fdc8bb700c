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
	stage := int32(0)
	if item >= 0 {
		stage = l.StageOf(item)
	}
	s := stageScope(l, stage)
	s.Target, s.Part = spec, component
	if item >= 0 {
		s.Self = l.Items[item]
	}
	return s
}

// stageScope returns what all formulas of a stage stand in.
func stageScope(l *layout.Layout, stage int32) *binding.Scope {
	c := l.Stages[stage].Composition
	return &binding.Scope{
		Rate: float64(c.Rate), Frames: float64(c.Frames), Width: float64(c.Width), Height: float64(c.Height),
		Find: func(id scene.ID) *scene.Item {
			if i := l.In(stage, id); i >= 0 {
				return l.Items[i]
			}
			return nil
		},
		Items: func() []*scene.Item {
			first := l.Stages[stage].First
			return l.Items[first : first+int32(len(c.Items))]
		},
		Named: func(name string) []*scene.Item {
			found := c.Named(name)
			if len(found) > 1 { // in the order of the layout
				found = slices.Clone(found)
				slices.SortFunc(found, func(a, b *scene.Item) int { return int(l.In(stage, a.ID) - l.In(stage, b.ID)) })
			}
			return found
		},
		Rows:   func() []*scene.RosterLink { return c.RosterLinks },
		Gather: c.Gather,
	}
}
