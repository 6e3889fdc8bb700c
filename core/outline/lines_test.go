package outline

import (
	"math"
	"testing"
)

func TestLengths(t *testing.T) {
	for name, c := range map[string]struct {
		path Path
		want float64
	}{
		"a rectangle": {Rectangle(30, 20, 0), 100}, "a circle": {Ellipse(200, 200), 200 * math.Pi},
		"a hexagon": {Polygon(100, 100, 6), 300}, "a star": {Star(100, 100, 4, 1), 8 * 50 * 2 * math.Sin(math.Pi/8)},
	} {
		if got := c.path.Length(); math.Abs(got-c.want) > c.want*3e-4 {
			t.Errorf("%s is %g long, want %g", name, got, c.want)
		}
	}
}

func TestTrimKeepsItsShareOfTheLength(t *testing.T) {
	p := Ellipse(200, 100)
	whole := p.Length()
	for _, c := range []struct{ start, end float64 }{{0, 0.25}, {0.5, 1}, {0.3, 0.31}, {0, 1}, {0.9, 0.2}, {0.4, 0.4}} {
		trimmed := p.Trim(c.start, c.end)
		want := math.Max(0, c.end-c.start) * whole
		if got := trimmed.Length(); math.Abs(got-want) > whole*1e-3 {
			t.Errorf("from %g to %g: %g of %g is left, want %g", c.start, c.end, got, whole, want)
		}
	}
	// Over several contours the shares are of all of them together.
	two := Rectangle(100, 100, 0)
	two.Verbs, two.Points = append(two.Verbs, two.Verbs...), append(two.Points, two.Points...)
	half := two.Trim(0, 0.5)
	if lines := half.Lines(); len(lines) != 1 || !lines[0].Closed {
		t.Errorf("half of two rectangles is %d lines, closed: %v", len(lines), lines[0].Closed)
	}
}

func TestDashes(t *testing.T) {
	var p Path
	p.AddContour([]Vertex{{At: [2]float64{0, 0}}, {At: [2]float64{100, 0}}}, false)
	for _, c := range []struct {
		dash, gap, offset float64
		want              []float64 // starts and ends
	}{
		{30, 20, 0, []float64{0, 30, 50, 80}}, {30, 20, 10, []float64{0, 20, 40, 70, 90, 100}}, {30, 20, -10, []float64{10, 40, 60, 90}},
		{0, 20, 0, []float64{0, 100}}, {30, 0, 0, []float64{0, 100}},
	} {
		dashed := p.Dash(c.dash, c.gap, c.offset)
		var got []float64
		for _, l := range dashed.Lines() {
			got = append(got, l.Points[0], l.Points[len(l.Points)-2])
		}
		same := len(got) == len(c.want)
		for i := range got {
			same = same && math.Abs(got[i]-c.want[i]) < 1e-9
		}
		if !same {
			t.Errorf("%g on, %g off, from %g: %v, want %v", c.dash, c.gap, c.offset, got, c.want)
		}
	}
}

func TestDashesAreBounded(t *testing.T) {
	p := Rectangle(100000, 100000, 0)
	dashed := p.Dash(0.001, 0.001, 0)
	if n := len(dashed.Lines()); n > maxDashes {
		t.Errorf("%d pieces", n)
	}
}

func TestContoursThroughVertices(t *testing.T) {
	var p Path
	p.AddContour([]Vertex{{At: [2]float64{0, 0}, Out: [2]float64{0, 50}}, {At: [2]float64{100, 0}, In: [2]float64{0, 50}}, {At: [2]float64{50, -50}}}, true)
	want := []Verb{MoveTo, CubicTo, LineTo, Close}
	if len(p.Verbs) != len(want) {
		t.Fatalf("verbs %v", p.Verbs)
	}
	for i := range want {
		if p.Verbs[i] != want[i] {
			t.Errorf("verb %d is %v, want %v", i, p.Verbs[i], want[i])
		}
	}
	lines := p.Lines()
	if top := lines[0].Points; math.Abs(maxY(top)-37.5) > 0.2 {
		t.Errorf("the curve reaches %g, want 37.5", maxY(top))
	}
}

func maxY(points []float64) float64 {
	y := math.Inf(-1)
	for k := 1; k < len(points); k += 2 {
		y = math.Max(y, points[k])
	}
	return y
}

func TestTextIsSetAsItsStyleSays(t *testing.T) {
	set := func(s string, style Style) Box { p := Text(s, style); return p.Box() }
	plain := Style{Size: 100, LineHeight: 1}
	left, right := set("HOLD", plain), set("HOLD", Style{Size: 100, LineHeight: 1, Align: 1})
	if math.Abs(left.Left-right.Left-Width("HOLD", plain)) > 1e-9 {
		t.Errorf("aligned to its start at %g, to its end at %g", left.Left, right.Left)
	}
	spaced := set("HOLD", Style{Size: 100, LetterSpacing: 10})
	if got := spaced.Right - spaced.Left - (left.Right - left.Left); math.Abs(got-30) > 1e-9 {
		t.Errorf("four letters with 10 between them are %g wider", got)
	}
	for font := range 3 {
		if box := set("H", Style{Size: 100, Font: font}); box.Top < 55 || box.Top > 85 {
			t.Errorf("font %d: H is %g tall", font, box.Top)
		}
	}
	if n := Letters("Ahoy there\n!"); n != 10 {
		t.Errorf("%d letters", n)
	}
}

// Every letter, set by itself at its place, is drawn where the text has it.
func TestATextIsTakenApart(t *testing.T) {
	for _, words := range []string{"AVATAR", "To all\nwaves!", "office fjord", "Zoë 7"} {
		for _, style := range []Style{{Font: 0, Size: 80, LineHeight: 1.2, Align: 0.5}, {Font: 1, Size: 33, LetterSpacing: 4, LineHeight: 1, Align: 1}} {
			var got []float64
			letters := Apart(words, style)
			for _, l := range letters {
				alone := style
				alone.Align = 0
				for i, x := range Text(l.Text, alone).Points {
					got = append(got, x+l.At[i%2])
				}
			}
			want := Text(words, style).Points
			if len(got) != len(want) {
				t.Fatalf("%q: %d numbers of letters, %d of the text", words, len(got), len(want))
			}
			for i := range got {
				if math.Abs(got[i]-want[i]) > 1e-9 {
					t.Fatalf("%q: number %d is %v, in the text %v", words, i, got[i], want[i])
				}
			}
		}
	}
	if letters := Apart("a b\n c", Style{Size: 10}); len(letters) != 3 || letters[2].Text != "c" {
		t.Errorf("blanks are letters: %v", letters)
	}
}

// Along a circle of four curves the direction turns evenly, though the way is measured by straight pieces; where handles lie on
// their vertices it goes on without a jump.
func TestTheDirectionAlongACurveIsItsOwn(t *testing.T) {
	const k = 0.5522847498 * 137
	circle := Path{Verbs: []Verb{MoveTo, CubicTo, CubicTo, CubicTo, CubicTo, Close}, Points: []float64{
		137, 0, 137, -k, k, -137, 0, -137, -k, -137, -137, -k, -137, 0, -137, k, -k, 137, 0, 137, k, 137, 137, k, 137, 0}}
	last := math.NaN()
	for n := range 400 {
		_, _, dx, dy, ok := circle.At((float64(n) + 0.37) / 400)
		now := math.Atan2(dy, dx) * 180 / math.Pi
		if step := math.Remainder(now-last, 360); !ok || n > 0 && (step > -0.87 || step < -0.93) {
			t.Fatalf("at %d it turns by %v", n, step)
		}
		last = now
	}
	blunt := Path{Verbs: []Verb{MoveTo, CubicTo}, Points: []float64{0, 0, 0, 0, 40, 90, 130, 20}}
	if _, _, dx, dy, ok := blunt.At(0); !ok || math.Abs(math.Atan2(dy, dx)-math.Atan2(90, 40)) > 1e-9 {
		t.Errorf("at its start it heads for %v, %v", dx, dy)
	}
	straight := Path{Verbs: []Verb{MoveTo, LineTo, Close}, Points: []float64{3, 4, 33, 44}}
	if x, y, dx, dy, _ := straight.At(0.25); math.Abs(x-18) > 1e-9 || math.Abs(y-24) > 1e-9 || math.Abs(dx-0.6) > 1e-9 || math.Abs(dy-0.8) > 1e-9 {
		t.Errorf("half way there it is at %v, %v and heads for %v, %v", x, y, dx, dy)
	}
	if _, _, dx, _, _ := straight.At(0.75); math.Abs(dx+0.6) > 1e-9 {
		t.Error("and back it heads the other way")
	}
}
