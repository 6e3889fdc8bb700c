package session

import (
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// ControlFor returns a control that suits a property as it is at the playhead: of its kind, unit and range.
func (s *Session) ControlFor(ref scene.Ref) (*scene.Control, error) {
	s.Evaluate(s.frame)
	return wiring.ControlFor((&gesture.Context{Project: s.Project.ID, Composition: s.Composition(), Plan: s.plan, NewID: s.newID}), ref)
}
