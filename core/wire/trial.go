package wire

import (
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/layout"
	"wunderkammer/core/machine"
)

// Trial lowers a program that is no part of the composition, in a scope on item, as Targets lowers a
// formula link. The last target is the program itself, those before it are what it looks at at other
// times. Their slots begin behind size.
func Trial(l *layout.Layout, item int32, scope *binding.Scope, p *machine.Program, size int) []Target {
	t := &lowerer{l: l, next: int32(size), trial: true}
	s := &stack{item: max(0, item), spec: scope.Target}
	if scope.Target != nil {
		if _, slot := l.FindAt(item, scope.Target.Key); slot >= 0 {
			s.slot = slot
		}
	}
	t.place(s, scope, p, nil)
	return t.targets
}
