package curve

import "math"

// Sampled makes a track of values at evenly spaced frames, with straight lines between them: step frames apart from first on.
// Before and behind them it rests. There is at least one value, and they are kept.
func Sampled(first, step float64, values []float64) Track {
	return Track{frames: []float64{first}, values: values, step: step}
}

// sampled is At for evenly spaced values.
func (t *Track) sampled(frame float64) float64 {
	at := (frame - t.frames[0]) / t.step
	k := math.Floor(at)
	switch {
	case !(k >= 0):
		return t.values[0]
	case k >= float64(len(t.values)-1):
		return t.values[len(t.values)-1]
	}
	a, b := t.values[int(k)], t.values[int(k)+1]
	return a + float64((at-k)*(b-a))
}
