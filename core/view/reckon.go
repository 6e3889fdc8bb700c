package view

import (
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/wire"
)

// Reckoned is what somebody typed into a field for a number: a sum, or any other formula that gives one.
type Reckoned struct {
	Value    *float64   `json:"value,omitempty"`
	Unit     scene.Unit `json:"unit,omitempty"`     // that it was given in: 2s are seconds
	Sentence string     `json:"sentence,omitempty"` // what is wrong with it, where it gives none
}

// Reckon works out a formula that stands by itself, at the frame last evaluated.
func Reckon(s *session.Session, text string) Reckoned {
	if len(text) > maxSum {
		return Reckoned{Sentence: "that is too long for a field; write a formula"}
	}
	plan := s.Plan()
	compiled, values := plan.TryIn(text, -1, wire.ScopeOf(plan.Layout, -1, nil, ""), plan.Frame())
	for _, p := range compiled.Errors() {
		return Reckoned{Sentence: p.Sentence}
	}
	if compiled.Type.Of != scene.Number || len(values) == 0 {
		return Reckoned{Sentence: "a number is wanted here"}
	}
	v := finite(values[0])
	if v.Absent() {
		return Reckoned{Sentence: "that is not finite"}
	}
	x := v.At(0)
	return Reckoned{Value: &x, Unit: compiled.Type.Unit}
}

// maxSum bounds the bytes of what is typed into a field.
const maxSum = 2000
