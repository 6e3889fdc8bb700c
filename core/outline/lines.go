package outline

import "math"

// Line is a contour made of straight pieces: x, y, x, y …
type Line struct {
	Points []float64
	Closed bool
}

// Lines returns the path with its curves cut into straight pieces: the more the longer they are,
// about one for each two pixels of a small curve.
func (p *Path) Lines() []Line {
	var out []Line
	var line Line
	end := func() {
		if len(line.Points) > 2 {
			out = append(out, line)
		}
		line = Line{}
	}
	at := 0
	for _, v := range p.Verbs {
		n := verbSizes[v]
		c := p.Points[at : at+n]
		at += n
		switch v {
		case MoveTo:
			end()
			line.Points = append(line.Points, c...)
		case LineTo:
			line.to(c[0], c[1])
		case QuadTo:
			x, y := line.last()
			x1, y1, x2, y2 := raised(x, y, c[0], c[1], c[2], c[3])
			line.curve(x1, y1, x2, y2, c[2], c[3])
		case CubicTo:
			line.curve(c[0], c[1], c[2], c[3], c[4], c[5])
		case Close:
			line.Closed = true
			end()
		}
	}
	end()
	return out
}

// verbSizes is how many numbers each verb takes.
var verbSizes = [...]int{MoveTo: 2, LineTo: 2, QuadTo: 4, CubicTo: 6, Close: 0}

// Size returns how many coordinates the verb takes.
func (v Verb) Size() int { return verbSizes[v] }

func (l *Line) last() (x, y float64) {
	n := len(l.Points)
	return l.Points[n-2], l.Points[n-1]
}

func (l *Line) to(x, y float64) {
	if px, py := l.last(); px != x || py != y {
		l.Points = append(l.Points, x, y)
	}
}

func (l *Line) curve(x1, y1, x2, y2, x3, y3 float64) {
	x0, y0 := l.last()
	n := pieces(x0, y0, x1, y1, x2, y2, x3, y3)
	for k := 1.0; k <= n; k++ {
		l.to(cubic(k/n, x0, y0, x1, y1, x2, y2, x3, y3))
	}
}

// pieces is how many straight pieces a cubic curve is cut into.
func pieces(x0, y0, x1, y1, x2, y2, x3, y3 float64) float64 {
	long := math.Hypot(x1-x0, y1-y0) + math.Hypot(x2-x1, y2-y1) + math.Hypot(x3-x2, y3-y2)
	return min(96, max(6, math.Ceil(2*math.Sqrt(long))))
}

// ring returns the points of the line, back to its start where it is closed.
func (l *Line) ring() []float64 {
	if !l.Closed || len(l.Points) < 4 {
		return l.Points
	}
	return append(l.Points[:len(l.Points):len(l.Points)], l.Points[0], l.Points[1])
}

// Length returns the length of all contours together, in pixels.
func (p *Path) Length() float64 {
	sum := 0.0
	for _, l := range p.Lines() {
		sum += length(l.ring())
	}
	return sum
}

func length(points []float64) float64 {
	sum := 0.0
	for k := 2; k < len(points); k += 2 {
		dx, dy := points[k]-points[k-2], points[k+1]-points[k-1]
		sum += math.Sqrt(float64(dx*dx) + float64(dy*dy))
	}
	return sum
}

// ofLines makes a path of straight pieces.
func ofLines(lines []Line) Path {
	var p Path
	for _, l := range lines {
		for k := 0; k < len(l.Points); k += 2 {
			verb := LineTo
			if k == 0 {
				verb = MoveTo
			}
			p.add(verb, l.Points[k], l.Points[k+1])
		}
		if l.Closed {
			p.add(Close)
		}
	}
	return p
}

// Trim returns what lies between two shares of the length of the whole path, 0 to 1, open. A start
// behind the end gives nothing.
func (p *Path) Trim(start, end float64) Path {
	if start <= 0 && end >= 1 {
		return *p
	}
	lines := p.Lines()
	total := 0.0
	for _, l := range lines {
		total += length(l.ring())
	}
	var out []Line
	from, to := start*total, end*total
	for _, l := range lines {
		ring := l.ring()
		long := length(ring)
		if from <= 0 && to >= long {
			out = append(out, l)
		} else if piece := cut(ring, from, to); len(piece) >= 4 {
			out = append(out, Line{Points: piece})
		}
		from, to = from-long, to-long
	}
	return ofLines(out)
}

// cut returns the part of a line between two lengths from its start.
func cut(points []float64, from, to float64) []float64 {
	var out []float64
	at := 0.0
	for k := 2; k < len(points); k += 2 {
		x0, y0, x1, y1 := points[k-2], points[k-1], points[k], points[k+1]
		long := math.Hypot(x1-x0, y1-y0)
		a, b := max(from, at), min(to, at+long)
		if a < b {
			if len(out) == 0 {
				out = append(out, x0+(x1-x0)*(a-at)/long, y0+(y1-y0)*(a-at)/long)
			}
			out = append(out, x0+(x1-x0)*(b-at)/long, y0+(y1-y0)*(b-at)/long)
		}
		at += long
	}
	return out
}

// maxDashes bounds the pieces that a path falls into.
const maxDashes = 20000

// Dash returns the path cut into dashes with gaps between them, both in pixels. The pattern begins
// offset pixels before the start of each contour. A dash or gap of nothing leaves the path whole.
func (p *Path) Dash(dash, gap, offset float64) Path {
	period := dash + gap
	if dash <= 0 || gap <= 0 || p.Length()/period > maxDashes {
		return *p
	}
	var out []Line
	for _, l := range p.Lines() {
		ring := l.ring()
		long := length(ring)
		start := -(offset - float64(period*math.Floor(offset/period)))
		for ; start < long; start += period {
			if piece := cut(ring, max(0, start), min(long, start+dash)); len(piece) >= 4 {
				out = append(out, Line{Points: piece})
			}
		}
	}
	return ofLines(out)
}

// Map returns the path, cut into straight pieces no longer than step, with every point moved.
func (p *Path) Map(step float64, move func(x, y float64) (float64, float64)) Path {
	lines := p.Lines()
	for k := range lines {
		l := &lines[k]
		ring := l.ring()
		moved := make([]float64, 0, len(ring))
		for i := 0; i < len(ring); i += 2 {
			if i > 0 {
				dx, dy := ring[i]-ring[i-2], ring[i+1]-ring[i-1]
				n := math.Min(200, math.Ceil(math.Hypot(dx, dy)/step))
				for s := 1.0; s < n; s++ {
					x, y := move(ring[i-2]+dx*s/n, ring[i-1]+dy*s/n)
					moved = append(moved, x, y)
				}
			}
			x, y := move(ring[i], ring[i+1])
			moved = append(moved, x, y)
		}
		if l.Closed {
			moved = moved[:len(moved)-2]
		}
		l.Points = moved
	}
	return ofLines(lines)
}

// At returns the place at a share of the way along all contours, and the direction of travel there: that of the curve itself,
// not of the straight pieces that its length is measured by. Shares before 0 and behind 1 are held at the ends.
func (p *Path) At(share float64) (x, y, dx, dy float64, ok bool) {
	left := p.Length() * min(max(share, 0), 1)
	var sx, sy, px, py float64 // where the contour began, and where the pen is
	// step goes a straight piece on; turn gives the direction at a share of it, where the piece is one of a curve.
	step := func(toX, toY float64, turn func(share float64) (dx, dy float64)) (there bool) {
		wayX, wayY := toX-px, toY-py
		long := math.Sqrt(float64(wayX*wayX) + float64(wayY*wayY))
		if long == 0 {
			return false
		}
		dx, dy, ok = wayX/long, wayY/long, true
		gone := min(left, long)
		x, y = px+float64(dx*gone), py+float64(dy*gone)
		if turn != nil {
			if tx, ty := turn(gone / long); tx != 0 || ty != 0 {
				n := math.Sqrt(float64(tx*tx) + float64(ty*ty))
				dx, dy = tx/n, ty/n
			}
		}
		px, py = toX, toY
		if left <= long {
			return true
		}
		left -= long
		return false
	}
	curve := func(x1, y1, x2, y2, x3, y3 float64) (there bool) {
		x0, y0, n := px, py, pieces(px, py, x1, y1, x2, y2, x3, y3)
		for k := 1.0; k <= n; k++ {
			toX, toY := cubic(k/n, x0, y0, x1, y1, x2, y2, x3, y3)
			if step(toX, toY, func(share float64) (float64, float64) {
				return along((k-1+share)/n, x0, y0, x1, y1, x2, y2, x3, y3)
			}) {
				return true
			}
		}
		return false
	}
	at := 0
	for _, v := range p.Verbs {
		c := p.Points[at : at+v.Size()]
		at += v.Size()
		there := false
		switch v {
		case MoveTo:
			px, py, sx, sy = c[0], c[1], c[0], c[1]
		case LineTo:
			there = step(c[0], c[1], nil)
		case QuadTo:
			x1, y1, x2, y2 := raised(px, py, c[0], c[1], c[2], c[3])
			there = curve(x1, y1, x2, y2, c[2], c[3])
		case CubicTo:
			there = curve(c[0], c[1], c[2], c[3], c[4], c[5])
		case Close:
			there = step(sx, sy, nil)
		}
		if there {
			return x, y, dx, dy, true
		}
	}
	return x, y, dx, dy, ok
}

// raised returns the inner control points of the cubic curve that a quadratic one is.
func raised(x0, y0, x1, y1, x2, y2 float64) (ax, ay, bx, by float64) {
	third := func(a, b float64) float64 { return a + (b-a)*2/3 }
	return third(x0, x1), third(y0, y1), third(x2, x1), third(y2, y1)
}

// cubic returns the place on a cubic curve at t, 0 to 1.
func cubic(t, x0, y0, x1, y1, x2, y2, x3, y3 float64) (x, y float64) {
	u := 1 - t
	a, b, c, d := u*u*u, 3*u*u*t, 3*u*t*t, t*t*t
	return float64(a*x0) + float64(b*x1) + float64(c*x2) + float64(d*x3), float64(a*y0) + float64(b*y1) + float64(c*y2) + float64(d*y3)
}

// along returns the derivative of a cubic curve at t, a third of it. Where it vanishes, since control points lie on one another,
// it is that of the next derivative which does not.
func along(t, x0, y0, x1, y1, x2, y2, x3, y3 float64) (dx, dy float64) {
	u := 1 - t
	a, b, c := float64(u*u), float64(2*u*t), float64(t*t)
	dx = float64(a*(x1-x0)) + float64(b*(x2-x1)) + float64(c*(x3-x2))
	dy = float64(a*(y1-y0)) + float64(b*(y2-y1)) + float64(c*(y3-y2))
	const nothing = 1e-9
	if math.Abs(dx)+math.Abs(dy) > nothing*(math.Abs(x3-x0)+math.Abs(y3-y0)+math.Abs(x2-x1)+math.Abs(y2-y1)) {
		return dx, dy
	}
	switch {
	case t < 0.5 && (x2 != x0 || y2 != y0):
		return x2 - x0, y2 - y0
	case t >= 0.5 && (x3 != x1 || y3 != y1):
		return x3 - x1, y3 - y1
	}
	return x3 - x0, y3 - y0
}
