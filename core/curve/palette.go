package curve

// Named is an easing with a name, as it is chosen from.
type Named struct {
	Name   string `json:"name"`
	Easing Easing `json:"easing" ts:"text"`
	// Drawn is the share of the rise at even steps of the time, from the first pin to the next.
	Drawn []float64 `json:"drawn" ts:"list"`
}

// Palette is what easings are chosen from, the words first. Each shape is a place to begin: its numbers are changed where it is used.
var Palette = func() []Named {
	out := []Named{
		{Name: "Hold", Easing: Hold},
		{Name: "Linear", Easing: Linear},
		{Name: "Smooth", Easing: Smooth},
		{Name: "Soft start", Easing: "cubic 0.5 0 0.85 0.85"},
		{Name: "Soft stop", Easing: "cubic 0.15 0.15 0.5 1"},
		{Name: "Soft both", Easing: "cubic 0.42 0 0.58 1"},
		{Name: "Sharp", Easing: "cubic 0.85 0 0.15 1"},
		{Name: "Wind up", Easing: "cubic 0.4 -0.3 0.6 1"},
		{Name: "Overshoot", Easing: "cubic 0.3 0.2 0.45 1.35"},
		{Name: "Settle", Easing: "settle 12 3 35"},
		{Name: "Bounce", Easing: "bounce 35 3"},
	}
	for k := range out {
		out[k].Drawn = out[k].Easing.Drawn(24)
	}
	return out
}()

// Drawn returns the share of the rise at some even steps of the time, from 0 to 1.
func (e Easing) Drawn(steps int) []float64 {
	t := New([]float64{0, float64(steps)}, []float64{0, 1}, []Easing{e, Hold})
	out := make([]float64, steps+1)
	for k := range out {
		out[k] = t.At(float64(k))
	}
	return out
}
