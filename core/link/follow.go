package link

import (
	"wunderkammer/core/scene"
)

// A link that follows gives source × gain + offset.
func init() {
	register(&Kind{
		Key: scene.Follow, Name: "Follow", Sourced: true, Linear: true,
		Fits: FitOf,
		Hints: func(l *scene.Link, s *Sight) []Fault {
			source := s.Source(l)
			mismatch := Mismatch(source, s.Target)
			if mismatch == "" || l.Gain != 1 || l.Offset != 0 || l.Operation != scene.Replace {
				return nil
			}
			fault := Fault{Sentence: mismatch + "; values pass through unconverted"}
			if gain, offset, ok := Range(source, s.Target); ok {
				fault.Mends = []Mend{{"match ranges", func(l *scene.Link) { l.Gain, l.Offset = gain, offset }}}
			}
			return []Fault{fault}
		},
		Idle: func(l *scene.Link, s *Sight) (string, bool) {
			if l.Gain != 0 || s.Value(l.Source).IsText() {
				return "", false
			}
			return Called(l, s.Composition) + " has a gain of 0", true
		},
	})
}
