package machine

import "math"

// MaxFrame bounds the frames that can be looked at.
const MaxFrame = 1e7

// Within reports whether a frame can be looked at; NaN cannot.
func Within(frame float64) bool { return math.Abs(frame) < MaxFrame }

// Looks is what an env shows at other times where it knows what stands in the slot of a lane at a frame.
func Looks(out, frames []float64, at func(lane int, frame float64) float64) {
	for i, frame := range frames {
		out[i] = math.NaN()
		if Within(frame) {
			out[i] = at(i, frame)
		}
	}
}

// Areas is likewise what it has added up to.
func Areas(out, frames []float64, rate float64, at func(lane int, frame float64) float64) {
	Looks(out, frames, func(i int, frame float64) float64 {
		return Area(frame, rate, func(f float64) float64 { return at(i, f) })
	})
}

// Averages is likewise the mean over some frames.
func Averages(out, frames, spans []float64, at func(lane int, frame float64) float64) {
	Looks(out, frames, func(i int, frame float64) float64 {
		if !Within(spans[i]) {
			return math.NaN()
		}
		return Average(frame, spans[i], func(f float64) float64 { return at(i, f) })
	})
}

// Area returns what a value adds up to from frame 0 to a frame, by the second: frame by frame, each by its
// middle, which is exact for values that jump at whole frames and for straight lines.
func Area(frame, rate float64, at func(float64) float64) float64 {
	if frame < 0 {
		return -Over(frame, 0, at) / rate
	}
	return Over(0, frame, at) / rate
}

// Over returns the area under a value from one frame to a later one, cut at whole frames, each piece by its middle.
func Over(from, to float64, at func(float64) float64) float64 {
	sum := 0.0
	for from < to {
		next := min(math.Floor(from)+1, to)
		sum += float64(at(Middle(from, next)) * (next - from))
		from = next
	}
	return sum
}

// Middle returns the frame halfway between two, with the same bits on every processor.
func Middle(from, to float64) float64 { return from + float64((to-from)/2) }

// Average returns the mean of a value over some frames that end at a frame. At a whole frame it is the area over them
// by as many frames. In between, a window of whole frames is taken by the middles of the frames that it touches, the
// first and the last by as much as it has of them: that is exact for values that jump at whole frames and for straight
// lines, too, and averages of averages look at the same few frames. Any other window, and one of more than some
// thousand frames, is taken in even pieces by their middles.
func Average(frame, frames float64, at func(float64) float64) float64 {
	from, to := frame-frames, frame
	if frames < 0 {
		from, to = to, from
	}
	n := math.Ceil(to - from)
	switch {
	case n == 0:
		return at(frame)
	case n <= MaxAverage && frame == math.Floor(frame):
		return Over(from, to, at) / (to - from)
	case n <= MaxAverage && n == to-from:
		first := math.Floor(from)
		share := from - first // of the last
		sum := float64((1 - share) * at(first+0.5))
		for k := 1.0; k < n; k++ {
			sum += at(first + k + 0.5)
		}
		return (sum + float64(share*at(first+n+0.5))) / n
	}
	n = math.Min(n, MaxAverage)
	step, sum := (to-from)/n, 0.0
	for k := range int(n) {
		sum += at(to - float64((float64(k)+0.5)*step))
	}
	return sum / n
}

// MaxAverage bounds the pieces of an average.
const MaxAverage = 2000
