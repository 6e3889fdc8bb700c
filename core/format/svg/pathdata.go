package svg

import (
	"math"
	"strconv"
	"strings"
)

// vertex is a point of a contour with its handles, all as places.
type vertex struct{ x, y, inX, inY, outX, outY float64 }

// contour is a line through vertices, in the file's coordinates.
type contour struct {
	vertices []vertex
	closed   bool
}

// pen draws contours.
type pen struct {
	contours []contour
	x, y     float64
	open     bool
}

func (p *pen) move(x, y float64) {
	p.contours = append(p.contours, contour{vertices: []vertex{{x, y, x, y, x, y}}})
	p.x, p.y, p.open = x, y, true
}

func (p *pen) here() *contour {
	if !p.open {
		p.move(p.x, p.y)
	}
	return &p.contours[len(p.contours)-1]
}

func (p *pen) line(x, y float64) {
	c := p.here()
	c.vertices = append(c.vertices, vertex{x, y, x, y, x, y})
	p.x, p.y = x, y
}

func (p *pen) cubic(x1, y1, x2, y2, x, y float64) {
	c := p.here()
	last := &c.vertices[len(c.vertices)-1]
	last.outX, last.outY = x1, y1
	c.vertices = append(c.vertices, vertex{x, y, x2, y2, x, y})
	p.x, p.y = x, y
}

func (p *pen) quad(x1, y1, x, y float64) {
	p.cubic(p.x+(x1-p.x)*2/3, p.y+(y1-p.y)*2/3, x+(x1-x)*2/3, y+(y1-y)*2/3, x, y)
}

// close joins the contour's end to its start; a last vertex that lies on the first becomes it.
func (p *pen) close() {
	if !p.open {
		return
	}
	c := &p.contours[len(p.contours)-1]
	c.closed, p.open = true, false
	first, last := &c.vertices[0], &c.vertices[len(c.vertices)-1]
	if n := len(c.vertices); n > 1 && math.Abs(first.x-last.x)+math.Abs(first.y-last.y) < 1e-9 {
		first.inX, first.inY = last.inX, last.inY
		c.vertices = c.vertices[:n-1]
	}
	p.x, p.y = c.vertices[0].x, c.vertices[0].y
}

// arc draws an elliptical arc by the rules of the SVG definition's appendix on arcs, in pieces of
// at most a quarter.
func (p *pen) arc(rx, ry, turn float64, large, sweep bool, x, y float64) {
	rx, ry = math.Abs(rx), math.Abs(ry)
	if rx == 0 || ry == 0 || (x == p.x && y == p.y) {
		p.line(x, y)
		return
	}
	sin, cos := math.Sincos(turn * math.Pi / 180)
	dx, dy := (p.x-x)/2, (p.y-y)/2
	x1, y1 := float64(cos*dx)+float64(sin*dy), float64(-sin*dx)+float64(cos*dy)
	if over := x1*x1/(rx*rx) + y1*y1/(ry*ry); over > 1 {
		rx, ry = rx*math.Sqrt(over), ry*math.Sqrt(over)
	}
	k := math.Sqrt(math.Max(0, (float64(rx*rx*ry*ry)-float64(rx*rx*y1*y1)-float64(ry*ry*x1*x1))/(float64(rx*rx*y1*y1)+float64(ry*ry*x1*x1))))
	if large == sweep {
		k = -k
	}
	cx1, cy1 := k*rx*y1/ry, -k*ry*x1/rx
	cx, cy := float64(cos*cx1)-float64(sin*cy1)+float64((p.x+x)/2), float64(sin*cx1)+float64(cos*cy1)+float64((p.y+y)/2)
	start := math.Atan2((y1-cy1)/ry, (x1-cx1)/rx)
	sweepBy := math.Atan2((-y1-cy1)/ry, (-x1-cx1)/rx) - start
	switch {
	case sweep && sweepBy < 0:
		sweepBy += 2 * math.Pi
	case !sweep && sweepBy > 0:
		sweepBy -= 2 * math.Pi
	}
	n := math.Max(1, math.Ceil(math.Abs(sweepBy)/(math.Pi/2)-1e-9))
	step := sweepBy / n
	h := 4.0 / 3 * math.Tan(step/4)
	at := func(a float64) (x, y, tx, ty float64) {
		s, c := math.Sincos(a)
		return cx + float64(rx*c*cos) - float64(ry*s*sin), cy + float64(rx*c*sin) + float64(ry*s*cos), float64(-rx*s*cos) - float64(ry*c*sin), float64(-rx*s*sin) + float64(ry*c*cos)
	}
	for i := range int(n) {
		a := start + float64(step*float64(i))
		x0, y0, tx0, ty0 := at(a)
		x3, y3, tx3, ty3 := at(a + step)
		if i == int(n)-1 {
			x3, y3 = x, y
		}
		p.cubic(x0+float64(h*tx0), y0+float64(h*ty0), x3-float64(h*tx3), y3-float64(h*ty3), x3, y3)
	}
}

// arguments is how many numbers each command of path data takes.
var arguments = map[byte]int{'m': 2, 'l': 2, 'h': 1, 'v': 1, 'c': 6, 's': 4, 'q': 4, 't': 2, 'a': 7, 'z': 0}

// parsePath reads path data. As the SVG definition asks, what stands before a mistake is drawn; ok
// says that there was none.
func parsePath(d string) (contours []contour, ok bool) {
	var p pen
	s := scanner{s: d}
	var command byte
	var n [7]float64
	lastX, lastY := 0.0, 0.0 // the last handle, of a curve of the kind that a smooth one goes on from
	var before byte
	for {
		s.blanks()
		if s.done() {
			return p.contours, true
		}
		if c := s.s[s.at]; arguments[c|0x20] > 0 || c|0x20 == 'z' {
			command = c
			s.at++
		} else if command == 0 || command|0x20 == 'z' {
			return p.contours, false
		}
		low := command | 0x20
		for i := range arguments[low] {
			var fine bool
			if low == 'a' && (i == 3 || i == 4) {
				n[i], fine = s.flag()
			} else {
				n[i], fine = s.number()
			}
			if !fine {
				return p.contours, false
			}
		}
		ox, oy := 0.0, 0.0
		if command >= 'a' {
			ox, oy = p.x, p.y
		}
		x0, y0 := p.x, p.y
		switch low {
		case 'm':
			p.move(ox+n[0], oy+n[1])
			command -= 'm' - 'l' // what follows without a letter is a line
		case 'l':
			p.line(ox+n[0], oy+n[1])
		case 'h':
			p.line(ox+n[0], p.y)
		case 'v':
			p.line(p.x, oy+n[0])
		case 'c':
			p.cubic(ox+n[0], oy+n[1], ox+n[2], oy+n[3], ox+n[4], oy+n[5])
			lastX, lastY = ox+n[2], oy+n[3]
		case 's':
			hx, hy := x0, y0
			if before == 'c' || before == 's' {
				hx, hy = 2*x0-lastX, 2*y0-lastY
			}
			p.cubic(hx, hy, ox+n[0], oy+n[1], ox+n[2], oy+n[3])
			lastX, lastY = ox+n[0], oy+n[1]
		case 'q':
			p.quad(ox+n[0], oy+n[1], ox+n[2], oy+n[3])
			lastX, lastY = ox+n[0], oy+n[1]
		case 't':
			hx, hy := x0, y0
			if before == 'q' || before == 't' {
				hx, hy = 2*x0-lastX, 2*y0-lastY
			}
			p.quad(hx, hy, ox+n[0], oy+n[1])
			lastX, lastY = hx, hy
		case 'a':
			p.arc(n[0], n[1], n[2], n[3] != 0, n[4] != 0, ox+n[5], oy+n[6])
		case 'z':
			p.close()
		}
		before = low
	}
}

// scanner reads numbers one after the other, as SVG writes them: commas and blanks between them
// may be left out where nothing is lost.
type scanner struct {
	s  string
	at int
}

func (s *scanner) done() bool { return s.at >= len(s.s) }

func (s *scanner) blanks() {
	for !s.done() && strings.IndexByte(" \t\r\n,\f", s.s[s.at]) >= 0 {
		s.at++
	}
}

func (s *scanner) flag() (float64, bool) {
	s.blanks()
	if s.done() || (s.s[s.at] != '0' && s.s[s.at] != '1') {
		return 0, false
	}
	s.at++
	return float64(s.s[s.at-1] - '0'), true
}

func (s *scanner) number() (float64, bool) {
	s.blanks()
	start := s.at
	digits := func() {
		for !s.done() && s.s[s.at] >= '0' && s.s[s.at] <= '9' {
			s.at++
		}
	}
	sign := func() {
		if !s.done() && (s.s[s.at] == '-' || s.s[s.at] == '+') {
			s.at++
		}
	}
	sign()
	digits()
	if !s.done() && s.s[s.at] == '.' {
		s.at++
		digits()
	}
	if end := s.at; !s.done() && s.s[s.at]|0x20 == 'e' {
		s.at++
		sign()
		from := s.at
		digits()
		if s.at == from { // the e of "em" or "ex"
			s.at = end
		}
	}
	x, err := strconv.ParseFloat(s.s[start:s.at], 64)
	if err != nil || math.IsInf(x, 0) || math.Abs(x) > 1e9 {
		return 0, false
	}
	return x, true
}

// numbers reads a list of numbers as far as it goes.
func numbers(text string) []float64 {
	var out []float64
	s := scanner{s: text}
	for {
		x, ok := s.number()
		if !ok {
			return out
		}
		out = append(out, x)
	}
}
