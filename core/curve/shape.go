package curve

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"wunderkammer/core/num"
)

// The shapes that an Easing can have, by its first word, with the numbers that stand behind each. A shape is drawn in shares: of the
// time and of the rise between the two pins.
const (
	// Cubic is a cubic Bézier curve by two handles: leave x, leave y, arrive x, arrive y. The shares of time lie from 0 to 1, so that
	// time never runs back; those of the rise may lie beyond, so that the value overshoots.
	Cubic = "cubic"
	// Settle runs beyond the next value and swings around it: the first overshoot in percent, how many half swings there are, and
	// how much of each is left in the next, in percent.
	Settle = "settle"
	// Bounce falls onto the next value and is thrown back: how high first, in percent, and how often. Each bounce is as much lower
	// than the one before.
	Bounce = "bounce"
)

// Shape is what an Easing says that is more than a word.
type Shape struct {
	Word    string
	Numbers []float64
}

// Number is what one of the numbers of a shape is called in a sentence, and from where to where it goes.
type Number struct {
	Name  string  `json:"name"`
	From  float64 `json:"from"`
	To    float64 `json:"to"`
	Whole bool    `json:"whole,omitempty"`
}

// Numbers are those of each shape, in order.
var Numbers = map[string][]Number{
	Cubic:  {{"leave x", 0, 1, false}, {"leave y", -10, 10, false}, {"arrive x", 0, 1, false}, {"arrive y", -10, 10, false}},
	Settle: {{"overshoot", 0.1, 95, false}, {"swings", 1, 20, true}, {"what is left", 1, 95, false}},
	Bounce: {{"height", 0.1, 95, false}, {"bounces", 1, 20, true}},
}

// Easing writes a shape as an Easing, the numbers as short as they can be.
func (s Shape) Easing() Easing {
	var b strings.Builder
	b.WriteString(s.Word)
	for _, x := range s.Numbers {
		b.WriteString(" " + strconv.FormatFloat(x, 'f', -1, 64))
	}
	return Easing(b.String())
}

// Shape returns the shape of an easing; false for one that is a word, or nothing that there is.
func (e Easing) Shape() (Shape, bool) {
	words := strings.Split(string(e), " ")
	of, known := Numbers[words[0]]
	if !known || len(words) != len(of)+1 {
		return Shape{}, false
	}
	out := Shape{Word: words[0], Numbers: make([]float64, len(of))}
	for k := range of {
		x, err := strconv.ParseFloat(words[k+1], 64)
		if err != nil {
			return Shape{}, false
		}
		out.Numbers[k] = x
	}
	return out, true
}

// Check refuses what is neither a word nor a shape with its numbers within bounds; the error is a sentence.
func (e Easing) Check() error {
	if e.Plain() {
		return nil
	}
	shape, ok := e.Shape()
	if !ok {
		if len(e) > 60 {
			e = e[:60]
		}
		return fmt.Errorf("%q is not an easing; use hold, linear, smooth, or cubic, settle or bounce with their numbers", strings.ToValidUTF8(string(e), ""))
	}
	for k, l := range Numbers[shape.Word] {
		switch x := shape.Numbers[k]; {
		case !(x >= l.From && x <= l.To):
			return fmt.Errorf("%s of %s can be from %g to %g, not %g", l.Name, shape.Word, l.From, l.To, x)
		case l.Whole && x != math.Trunc(x):
			return fmt.Errorf("%s of %s is a whole number, not %g", l.Name, shape.Word, x)
		}
	}
	if shape.Easing() != e {
		return fmt.Errorf("the easing %q is written %q", string(e), string(shape.Easing()))
	}
	return nil
}

// Turned returns the easing that goes the same way back. Settle and bounce, which only come to rest, stay as they are.
func (e Easing) Turned() Easing {
	shape, ok := e.Shape()
	if !ok || shape.Word != Cubic {
		return e
	}
	n := shape.Numbers
	return Shape{Cubic, []float64{back(n[2]), back(n[3]), back(n[0]), back(n[1])}}.Easing()
}

// back is 1 − x, rounded so that twice back is the same again.
func back(x float64) float64 { return math.Round((1-x)*1e9) / 1e9 }

// path is a shape made ready: the share of the rise at a share of the time.
type path interface{ at(u float64) float64 }

// pathOf makes a shape ready; nil for a word, and for what is none.
func pathOf(e Easing) path {
	if e.Plain() {
		return nil
	}
	shape, ok := e.Shape()
	if !ok {
		return nil
	}
	n := shape.Numbers
	switch shape.Word {
	case Cubic:
		return newBezier(n[0], n[1], n[2], n[3])
	case Settle:
		return newSwings(n[0]/100, n[1], n[2]/100)
	}
	return newBounces(n[0]/100, int(n[1]))
}

// Reach returns how far an easing runs beyond the values of its pins, as shares of the rise: under the first and over the second.
func (e Easing) Reach() (under, over float64) {
	p := pathOf(e)
	if p == nil {
		return 0, 0
	}
	const steps = 2000
	for k := range steps + 1 {
		y := p.at(float64(k) / steps)
		under, over = max(under, -y), max(over, y-1)
	}
	return under, over
}

// bezier is a cubic Bézier curve from 0, 0 to 1, 1 as polynomials of its parameter: ((a s + b) s + c) s.
type bezier struct {
	ax, bx, cx, ay, by, cy float64
	near                   [parts]stretch
}

// stretch is a share of the time, in which the parameter is all but known: by a polynomial of the way through it, ((d v + c) v + b) v + a.
type stretch struct{ a, b, c, d, to float64 }

const parts = 64

func newBezier(x1, y1, x2, y2 float64) *bezier {
	z := &bezier{cx: float64(3 * x1), cy: float64(3 * y1)}
	z.bx, z.by = float64(3*(x2-x1))-z.cx, float64(3*(y2-y1))-z.cy
	z.ax, z.ay = 1-z.cx-z.bx, 1-z.cy-z.by
	from := 0.0
	for k := range parts {
		to := 1.0
		if k < parts-1 {
			u, lo := float64(k+1)/parts, from
			for range 60 { // halved until it is as near as numbers are
				mid := float64((lo + to) / 2)
				if z.x(mid) < u {
					lo = mid
				} else {
					to = mid
				}
			}
		}
		// Hermite's form, with how fast the parameter goes at both ends; straight where it goes at once.
		m0, m1, rise := float64(1/z.slope(from)/parts), float64(1/z.slope(to)/parts), to-from
		one := &z.near[k]
		*one = stretch{a: from, b: rise, to: to}
		if m0 > 0 && m1 > 0 && m0 < 3*rise && m1 < 3*rise {
			one.b, one.c, one.d = m0, float64(3*rise)-float64(2*m0)-m1, m0+m1-float64(2*rise)
		}
		from = to
	}
	return z
}

func (z *bezier) x(s float64) float64 {
	return float64((float64((float64(z.ax*s)+z.bx)*s) + z.cx) * s)
}

func (z *bezier) slope(s float64) float64 {
	return float64((float64(3*float64(z.ax*s))+float64(2*z.bx))*s) + z.cx
}

// at finds the parameter by Newton's method, kept within its stretch, and gives the value there. Mostly one step is enough.
func (z *bezier) at(u float64) float64 {
	v := float64(u * parts)
	k := min(int(v), parts-1)
	one := &z.near[k]
	v -= float64(k)
	s := float64((float64((float64(one.d*v)+one.c)*v)+one.b)*v) + one.a
	slope := z.slope(s)
	step := (z.x(s) - u) / slope
	if s -= step; !(step < 4e-9 && step > -4e-9 && slope > 0.05) { // else the next one would be its square
		s = z.nearer(s, u, one.a, one.to)
	}
	return float64((float64((float64(z.ay*s)+z.by)*s) + z.cy) * s)
}

// nearer is at where the parameter is not all but known.
func (z *bezier) nearer(s, u, lo, hi float64) float64 {
	if !(s > lo && s < hi) {
		s = float64((lo + hi) / 2)
	}
	for range 24 {
		off := z.x(s) - u
		if off > 0 {
			hi = s
		} else {
			lo = s
		}
		step := off / z.slope(s)
		if step < 1e-15 && step > -1e-15 {
			break
		}
		if s -= step; !(s > lo && s < hi) {
			s = float64((lo + hi) / 2)
		}
	}
	return s
}

// swings is a cosine around 1 that dies away: 1 − A(t) cos(180° t), t in half swings, which starts at 0 and ends on 1.
type swings struct {
	half         float64 // the half swings of the whole way
	first, later float64 // how fast the logarithm of A falls in a half swing: in the first one, and from the third on
}

func newSwings(overshoot, count, left float64) *swings {
	// The first peak lies where the tangent of the swing is that of the fall, a little before its half swing is over.
	lo, hi := -60.0, 0.0
	for range 80 {
		mid := float64((lo + hi) / 2)
		at := 1 + num.Atan2(mid/math.Pi, 1)/180
		if num.Exp(float64(mid*at))/math.Sqrt(1+float64(mid*mid)/(math.Pi*math.Pi)) < overshoot {
			lo = mid
		} else {
			hi = mid
		}
	}
	return &swings{half: count + 0.5, first: lo, later: num.Log(left)}
}

func (z *swings) at(u float64) float64 {
	if u >= 1 {
		return 1
	}
	t := float64(u * z.half)
	_, cos := num.SinCos(float64(180 * t))
	fall := float64(z.first * t)
	if over := min(t, 2) - 1; over > 0 { // bent evenly into the later fall
		fall = z.first + float64(z.first*over) + float64(float64(float64((z.later-z.first)*over)*over)/2)
	}
	if t > 2 {
		fall += float64(z.later * (t - 2))
	}
	return 1 - float64(num.Exp(fall)*cos)
}

// bounces is a fall and arcs below 1, each as long as it takes to rise and fall as high.
type bounces struct {
	ends    []float64 // of the fall, then of each arc
	heights []float64
}

func newBounces(height float64, count int) *bounces {
	z := &bounces{ends: []float64{1}, heights: []float64{1}}
	h, last := 1.0, 1.0
	for range count {
		h = float64(h * height)
		last += float64(2 * math.Sqrt(h))
		z.ends, z.heights = append(z.ends, last), append(z.heights, h)
	}
	for k := range z.ends {
		z.ends[k] /= last
	}
	return z
}

func (z *bounces) at(u float64) float64 {
	if u >= 1 {
		return 1
	}
	if u < z.ends[0] {
		v := u / z.ends[0]
		return float64(v * v)
	}
	k := 1
	for k < len(z.ends)-1 && u >= z.ends[k] {
		k++
	}
	v := (u - z.ends[k-1]) / (z.ends[k] - z.ends[k-1])
	return 1 - float64(float64(4*float64(v*(1-v)))*z.heights[k])
}
