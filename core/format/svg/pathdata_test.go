package svg

import (
	"fmt"
	"math"
	"strings"
	"testing"
)

// sketch writes contours as vertices, with their handles where they have some.
func sketch(contours []contour) string {
	var b strings.Builder
	r := func(x float64) string { return fmt.Sprint(math.Round(x*100)/100 + 0) }
	for _, c := range contours {
		for i, v := range c.vertices {
			if i > 0 {
				b.WriteByte(' ')
			}
			if v.inX != v.x || v.inY != v.y {
				b.WriteString("(" + r(v.inX) + "," + r(v.inY) + ")")
			}
			b.WriteString(r(v.x) + "," + r(v.y))
			if v.outX != v.x || v.outY != v.y {
				b.WriteString("(" + r(v.outX) + "," + r(v.outY) + ")")
			}
		}
		if c.closed {
			b.WriteString(" z")
		}
		b.WriteString("; ")
	}
	return strings.TrimSpace(b.String())
}

func TestPathData(t *testing.T) {
	for d, want := range map[string]string{
		"":                              "",
		"M1 2":                          "1,2;",
		"M1,2L3,4":                      "1,2 3,4;",
		"m1 2 3 4 5 6":                  "1,2 4,6 9,12;",
		"M0 0 10 0 10 10z":              "0,0 10,0 10,10 z;",
		"M0 0H10V5h-3v-2":               "0,0 10,0 10,5 7,5 7,3;",
		"M0 0C1 2 3 4 5 6":              "0,0(1,2) (3,4)5,6;",
		"M10 10c1 2 3 4 5 6s1 1 2 2":    "10,10(11,12) (13,14)15,16(17,18) (16,17)17,18;",
		"M0 0S1 1 2 2":                  "0,0 (1,1)2,2;",
		"M0 0Q3 3 6 0":                  "0,0(2,2) (4,2)6,0;",
		"M0 0Q3 3 6 0T12 0":             "0,0(2,2) (4,2)6,0(8,-2) (10,-2)12,0;",
		"M0 0L1 1zL5 5":                 "0,0 1,1 z; 0,0 5,5;",
		"M.5.5-1-1":                     "0.5,0.5 -1,-1;",
		"M1e1 1E-1":                     "10,0.1;",
		"M0 0A5 5 0 0110 0":             "0,0(0,-2.76) (2.24,-5)5,-5(7.76,-5) (10,-2.76)10,0;",
		"M0 0A0 5 0 0 1 10 0":           "0,0 10,0;",
		"M0 0L10 0 10 10 0 0Z":          "0,0 10,0 10,10 z;",
		"M0 0C1 1 2 2 3 3 2 2 1 1 0 0z": "(1,1)0,0(1,1) (2,2)3,3(2,2) z;",
	} {
		contours, ok := parsePath(d)
		if got := sketch(contours); got != want || !ok {
			t.Errorf("%q is %q (%v), want %q", d, got, ok, want)
		}
	}
}

func TestWhatStandsBeforeAMistakeIsDrawn(t *testing.T) {
	for d, want := range map[string]string{
		"M0 0L1 1L": "0,0 1,1;", "M0 0L1 1 x 3": "0,0 1,1;", "L1 1": "0,0 1,1;", "10 10": "", "M0 0A1 1 0 2 0 5 5": "0,0;", "M0 0L1 1e999": "0,0;", "M0 0 L 5": "0,0;",
	} {
		contours, ok := parsePath(d)
		if got := sketch(contours); got != want || (ok && d != "L1 1") {
			t.Errorf("%q is %q (%v), want %q", d, got, ok, want)
		}
	}
}

func TestTransforms(t *testing.T) {
	for text, want := range map[string][2]float64{
		"": {3, 4}, "translate(10)": {13, 4}, "translate(10,20)": {13, 24}, "scale(2)": {6, 8}, "scale(2 3)": {6, 12}, "rotate(90)": {-4, 3}, "rotate(90 3 4)": {3, 4},
		"skewX(45)": {7, 4}, "skewY(45)": {3, 7}, "matrix(1 2 3 4 5 6)": {20, 28}, "translate(10 0) scale(2)": {16, 8}, "scale(2),translate(10 0)": {26, 8},
	} {
		m, ok := parseTransform(text)
		x, y := m.at(3, 4)
		if !ok || math.Abs(x-want[0])+math.Abs(y-want[1]) > 1e-9 {
			t.Errorf("%q leads to %g, %g (%v), want %v", text, x, y, ok, want)
		}
	}
	for _, text := range []string{"turn(3)", "scale()", "rotate(1 2)", "matrix(1 2 3)", "translate", "translate(1"} {
		if _, ok := parseTransform(text); ok {
			t.Errorf("%q is understood", text)
		}
	}
	for _, m := range []matrix{rotate(30), {2, 0, 0, 3, 5, 6}, {-1, 0, 0, 1, 0, 0}} {
		_, _, degrees, sx, sy, whole := m.parts()
		again := translate(m.e, m.f).mul(rotate(degrees)).mul(matrix{a: sx, d: sy})
		ax, ay := again.at(7, 8)
		bx, by := m.at(7, 8)
		if !whole || math.Abs(ax-bx)+math.Abs(ay-by) > 1e-9 {
			t.Errorf("%v is taken apart into %g, %g, %g", m, degrees, sx, sy)
		}
	}
	if _, _, _, _, _, whole := (matrix{1, 0, 1, 1, 0, 0}).parts(); whole {
		t.Error("a skew is a rotation and a scale")
	}
}
