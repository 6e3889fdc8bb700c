// Package curve carries a value from one pin to the next.
package curve

import "math"

// Easing is how a value travels from a pin to the next one: a word, or a shape with its numbers behind it, such as
// "cubic 0.42 0 0.58 1.24". Stops of maps and of poses have words only.
type Easing string

// The easings.
const (
	Hold   Easing = "hold"   // stays, and jumps at the next pin
	Linear Easing = "linear" // a straight line
	Smooth Easing = "smooth" // flows through its pins without ever overshooting them
)

// Tail is how a value goes on behind its last pin.
type Tail string

// The ways to go on. All but the first repeat the way from the first pin to the last.
const (
	Rest   Tail = ""       // it stays
	Again  Tail = "repeat" // from the first pin, each time
	Return Tail = "mirror" // back, and forth again
	Onward Tail = "onward" // each time from where the one before ended
)

// Valid reports whether there is such a way.
func (b Tail) Valid() bool { return b == Rest || b == Again || b == Return || b == Onward }

// Plain reports whether the easing is one of the words.
func (e Easing) Plain() bool { return e == Hold || e == Linear || e == Smooth }

// Track is one component of a pinned property: frames in rising order, a value and an easing for
// each. The slopes that smooth spans need, and the paths of shapes, are worked out once, by New.
type Track struct {
	frames  []float64
	values  []float64
	easings []Easing
	slopes  []float64 // at each pin, per frame
	paths   []path    // of the easings that are shapes; nil where none is
	beyond  Tail
	way     *way                        // along which the value moves; nil: each component by itself
	part    int                         // which component this is, of what moves along a way
	step    float64                     // between values that are evenly spaced; 0: each has its frame
	given   func(frame float64) float64 // what gives the value in place of pins; nil: nothing does
}

// From makes a track whose value is given from elsewhere.
func From(given func(frame float64) float64) Track { return Track{given: given} }

// Given reports whether the value is given from elsewhere.
func (t *Track) Given() bool { return t.given != nil }

// Values returns the values at the pins; they are not to be changed.
func (t *Track) Values() []float64 { return t.values }

// New makes a track. The three lists have the same length of at least one and are kept.
func New(frames, values []float64, easings []Easing) Track {
	t := Track{frames: frames, values: values, easings: easings, slopes: make([]float64, len(frames))}
	var known map[Easing]path
	for i, s := range easings {
		if s.Plain() {
			continue
		}
		if known == nil {
			known, t.paths = map[Easing]path{}, make([]path, len(easings))
		}
		p, ok := known[s]
		if !ok {
			p = pathOf(s)
			known[s] = p
		}
		t.paths[i] = p
	}
	for i := 1; i < len(frames)-1; i++ {
		if easings[i-1] != Smooth || easings[i] != Smooth {
			continue
		}
		t.slopes[i] = slope(
			frames[i]-frames[i-1], (values[i]-values[i-1])/(frames[i]-frames[i-1]),
			frames[i+1]-frames[i], (values[i+1]-values[i])/(frames[i+1]-frames[i]),
		)
	}
	return t
}

// GoOn says how the track goes on behind its last pin.
func (t *Track) GoOn(how Tail) { t.beyond = how }

// behind returns where within the pins a frame behind the last one lies, and what is added to the value there.
func (t *Track) behind(frame float64) (within, more float64) {
	n := len(t.frames)
	first, last := t.frames[0], t.frames[n-1]
	span := last - first
	turns := math.Floor((frame - first) / span)
	within = min(last, max(first, frame-float64(turns*span)))
	switch t.beyond {
	case Return:
		if math.Mod(turns, 2) != 0 {
			within = first + (last - within)
		}
	case Onward:
		more = float64((t.values[n-1] - t.values[0]) * turns)
	}
	return within, more
}

// slope is the tangent of Fritsch and Butland (SIAM J. Sci. Stat. Comput. 5, 1984): a weighted
// harmonic mean of the rise on both sides, flat where the direction turns, so that the curve
// through the pins is monotone between them.
func slope(h0, d0, h1, d1 float64) float64 {
	if float64(d0*d1) <= 0 {
		return 0
	}
	w0, w1 := float64(2*h1)+h0, h1+float64(2*h0)
	return (w0 + w1) / (w0/d0 + w1/d1)
}

// At returns the value at a frame, which may lie between whole frames. Before the first pin the value is that of the pin; behind the
// last one it goes on as GoOn says.
func (t *Track) At(frame float64) float64 {
	if t.given != nil {
		return t.given(frame)
	}
	if t.step > 0 {
		return t.sampled(frame)
	}
	n := len(t.frames)
	if frame <= t.frames[0] {
		return t.values[0]
	}
	more := 0.0
	if frame >= t.frames[n-1] {
		if t.beyond == Rest || n == 1 || frame == t.frames[n-1] {
			return t.values[n-1]
		}
		if frame, more = t.behind(frame); frame <= t.frames[0] || frame >= t.frames[n-1] {
			end := 0
			if frame >= t.frames[n-1] {
				end = n - 1
			}
			return t.values[end] + more
		}
	}
	lo, hi := 0, n-1 // frames[lo] <= frame < frames[hi]
	for hi-lo > 1 {
		mid := (lo + hi) / 2
		if t.frames[mid] <= frame {
			lo = mid
		} else {
			hi = mid
		}
	}
	if t.way != nil {
		return t.way.at(frame, lo, t.part) + more
	}
	a, b := t.values[lo], t.values[hi]
	h := t.frames[hi] - t.frames[lo]
	u := (frame - t.frames[lo]) / h
	switch t.easings[lo] {
	case Hold:
		return a + more
	case Linear:
		return a + float64(u*(b-a)) + more
	case Smooth:
	default:
		if p := t.paths[lo]; p != nil {
			return a + float64(p.at(u)*(b-a)) + more
		}
	}
	// Cubic Hermite form with the slopes at both ends.
	v := 1 - u
	m0, m1 := float64(h*t.slopes[lo]), float64(h*t.slopes[hi])
	rise := float64(float64(u*u)*(3-float64(2*u))) * (b - a)
	bend := float64(float64(u*v) * (float64(v*m0) - float64(u*m1)))
	return a + float64(rise) + bend + more
}
