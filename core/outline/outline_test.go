package outline

import (
	"math"
	"testing"
)

// points counts the coordinates that the verbs of a path ask for.
func points(p Path) (n int) {
	for _, v := range p.Verbs {
		n += [...]int{2, 2, 4, 6, 0}[v]
	}
	return n
}

func TestShapesFillTheirBox(t *testing.T) {
	for name, p := range map[string]Path{
		"rectangle": Rectangle(100, 40, 0), "rounded": Rectangle(100, 40, 8), "pill": Rectangle(100, 40, 900), "ellipse": Ellipse(100, 40),
	} {
		if box := p.Box(); box != (Box{-50, -20, 50, 20}) {
			t.Errorf("%s: box %v", name, box)
		}
		if points(p) != len(p.Points) || p.Verbs[0] != MoveTo || p.Verbs[len(p.Verbs)-1] != Close {
			t.Errorf("%s: %v with %d numbers", name, p.Verbs, len(p.Points))
		}
		first, last := p.Points[:2], p.Points[len(p.Points)-2:]
		if name != "rectangle" && (first[0] != last[0] || first[1] != last[1]) {
			t.Errorf("%s ends at %v, not at its start %v", name, last, first)
		}
	}
}

func TestEllipseIsRound(t *testing.T) {
	p := Ellipse(200, 200)
	x, y := p.Points[0], p.Points[1]
	at := 2
	for _, v := range p.Verbs[1:] {
		if v != CubicTo {
			continue
		}
		c := p.Points[at : at+6]
		for u := 0.0; u <= 1; u += 0.125 {
			w := 1 - u
			px := w*w*w*x + 3*w*w*u*c[0] + 3*w*u*u*c[2] + u*u*u*c[4]
			py := w*w*w*y + 3*w*w*u*c[1] + 3*w*u*u*c[3] + u*u*u*c[5]
			if r := math.Hypot(px, py); math.Abs(r-100) > 0.03 {
				t.Fatalf("radius %g", r)
			}
		}
		x, y, at = c[4], c[5], at+6
	}
}

func TestTextIsCentredScalesAndStandsOnItsBaseline(t *testing.T) {
	p := Text("HH", Style{Size: 100, LineHeight: 1.2, Align: 0.5})
	box := p.Box()
	if math.Abs(box.Left+box.Right) > 1 || box.Bottom != 0 || box.Top < 60 || box.Top > 80 {
		t.Errorf("HH stands in %v", box)
	}
	double := Text("HH", Style{Size: 200, LineHeight: 1.2, Align: 0.5})
	for i, x := range p.Points {
		if double.Points[i] != 2*x {
			t.Fatal("twice the size is not twice the outline")
		}
	}
	if one, two := Text("A", Style{Size: 50, LineHeight: 1.2, Align: 0.5}), Text("A\nA", Style{Size: 50, LineHeight: 1.2, Align: 0.5}); len(two.Points) != 2*len(one.Points) || math.Abs(two.Box().Bottom-(one.Box().Bottom-1.2*50)) > 1e-9 {
		t.Errorf("the second line stands at %v", two.Box())
	}
}

func TestTextKernsAndFallsBackToAnotherFont(t *testing.T) {
	width := func(s string) float64 {
		b := Text(s, Style{Size: 1000, Align: 0.5})
		box := b.Box()
		return box.Right - box.Left
	}
	if width("AV") >= width("AA")+width("VV")-width("A")-width("V") {
		t.Error("A and V stand as far apart as if the font had no kerning")
	}
	if len(Text("Порт", Style{Size: 50, LineHeight: 1.2, Align: 0.5}).Points) == 0 || len(Text("", Style{Size: 50, LineHeight: 1.2, Align: 0.5}).Points) != 0 || len(Text("   ", Style{Size: 50, LineHeight: 1.2, Align: 0.5}).Points) != 0 {
		t.Error("a text outside of the first font has no outline, or an empty one has")
	}
}

// A closed contour ends in a curve where either end of its last span has a handle, and in a straight line otherwise.
func TestTheLastSpanOfAClosedContour(t *testing.T) {
	for name, c := range map[string]struct {
		in, out [2]float64
		curves  int
	}{"straight": {}, "by the first": {in: [2]float64{1, 0}, curves: 1}, "by the last": {out: [2]float64{1, 0}, curves: 1}} {
		var p Path
		p.AddContour([]Vertex{{In: c.in}, {At: [2]float64{9, 0}}, {At: [2]float64{9, 9}, Out: c.out}}, true)
		curves := 0
		for _, v := range p.Verbs {
			if v == CubicTo {
				curves++
			}
		}
		if curves != c.curves || p.Verbs[len(p.Verbs)-1] != Close {
			t.Errorf("%s: %d curves, %v", name, curves, p.Verbs)
		}
	}
}
