package session

import (
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/looks"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// ControlFor returns a control that suits a property as it is at the playhead: of its kind, unit and range.
func (s *Session) ControlFor(ref scene.Ref) (*scene.Control, error) {
	return wiring.ControlFor(s.asked(), ref)
}

// asked is what a question is asked in, at the frame that is shown.
func (s *Session) asked() *gesture.Context {
	s.Evaluate(s.frame)
	c := &gesture.Context{Project: s.Project.ID, Composition: s.Composition(), Planned: s.plan, NewID: s.newID}
	c.Evaluated()
	return c
}

// LooksShown lists the looks that everything stands at, at the frame that is shown.
func (s *Session) LooksShown() []scene.ID { return looks.Shown(s.asked()) }

// Performable returns why a performance of a property would not be seen, as a sentence; nil where it would.
func (s *Session) Performable(ref scene.Ref) error { return pins.Performable(s.asked(), ref) }
