package view

import "wunderkammer/core/curve"

// EasingView is what an editor shows of the way from a pin to the next one.
type EasingView struct {
	Word string `json:"word"` // of a shape; else the easing itself
	// Numbers are those of the shape, with their bounds; none of a word.
	Numbers []EasingNumber `json:"numbers" ts:"list"`
	// Drawn is the share of the rise at even steps of the time.
	Drawn []float64 `json:"drawn" ts:"list"`
	// Under and Over are how far it runs beyond the values of its pins, as shares of the rise.
	Under float64 `json:"under"`
	Over  float64 `json:"over"`
}

// EasingNumber is a number of a shape.
type EasingNumber struct {
	curve.Number
	Value float64 `json:"value"`
}

// EasingAsk asks for the way that an easing goes.
type EasingAsk struct {
	Easing curve.Easing `json:"easing" ts:"text"`
	Steps  int          `json:"steps"` // to draw it in
}

// EasingOf says how an easing goes, or in a sentence why it is none.
func EasingOf(a EasingAsk) (EasingView, error) {
	if err := a.Easing.Check(); err != nil {
		return EasingView{}, err
	}
	out := EasingView{Word: string(a.Easing), Numbers: []EasingNumber{}, Drawn: a.Easing.Drawn(max(1, min(a.Steps, 1000)))}
	out.Under, out.Over = a.Easing.Reach()
	if shape, ok := a.Easing.Shape(); ok {
		out.Word = shape.Word
		for k, n := range curve.Numbers[shape.Word] {
			out.Numbers = append(out.Numbers, EasingNumber{n, shape.Numbers[k]})
		}
	}
	return out, nil
}
