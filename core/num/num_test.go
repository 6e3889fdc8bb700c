package num

import (
	"math"
	"slices"
	"testing"
	"testing/quick"
)

func TestSinCosAgreesWithTheStandardLibrary(t *testing.T) {
	for d := -1080.0; d <= 1080; d += 0.37 {
		s, c := SinCos(d)
		if math.Abs(s-math.Sin(d*math.Pi/180)) > 2e-14 || math.Abs(c-math.Cos(d*math.Pi/180)) > 2e-14 {
			t.Fatalf("SinCos(%g) = %g, %g", d, s, c)
		}
	}
}

func TestQuarterTurnsAreExact(t *testing.T) {
	for _, c := range []struct{ degrees, sin, cos float64 }{
		{0, 0, 1}, {90, 1, 0}, {180, 0, -1}, {270, -1, 0}, {360, 0, 1}, {-90, -1, 0}, {3690, 1, 0},
	} {
		if s, co := SinCos(c.degrees); s != c.sin || co != c.cos {
			t.Errorf("SinCos(%g) = %g, %g; want %g, %g", c.degrees, s, co, c.sin, c.cos)
		}
	}
}

func TestAtan2AgreesWithTheStandardLibrary(t *testing.T) {
	if err := quick.Check(func(y, x int16) bool {
		got, want := Atan2(float64(y), float64(x)), math.Atan2(float64(y), float64(x))*180/math.Pi
		return math.Abs(got-want) < 1e-12
	}, &quick.Config{MaxCount: 5000}); err != nil {
		t.Error(err)
	}
}

func TestPlaceTurnsAboutThePivotCounterClockwise(t *testing.T) {
	m := Place([3]float64{100, 50, 0}, [3]float64{0, 0, 90}, [3]float64{200, 200, 100}, [3]float64{10, 0, 0})
	if got := m.Apply([3]float64{10, 0, 0}); got != [3]float64{100, 50, 0} {
		t.Errorf("the pivot stands at %v, want the position", got)
	}
	if got := m.Apply([3]float64{11, 0, 0}); got != [3]float64{100, 52, 0} {
		t.Errorf("one to the right of the pivot turns up to %v", got)
	}
}

func TestPartsAndInverseUndoPlace(t *testing.T) {
	near := func(a, b [3]float64) bool {
		return math.Abs(a[0]-b[0])+math.Abs(a[1]-b[1])+math.Abs(a[2]-b[2]) < 1e-6
	}
	err := quick.Check(func(px, py, pz int8, rx, ry, rz int8, k uint8) bool {
		position := [3]float64{float64(px), float64(py), float64(pz)}
		rotation := [3]float64{float64(rx) / 2, float64(ry) / 2, float64(rz)}
		scale := [3]float64{50 + float64(k), 100, 75}
		pivot := [3]float64{3, -4, 5}
		m := Place(position, rotation, scale, pivot)
		p, r, s := m.Parts(pivot)
		again := Place(p, r, s, pivot)
		inverse, ok := m.Inverse()
		probe := [3]float64{7, 8, 9}
		return ok && near(p, position) && near(s, scale) && near(again.Apply(probe), m.Apply(probe)) && near(inverse.Apply(m.Apply(probe)), probe)
	}, &quick.Config{MaxCount: 2000})
	if err != nil {
		t.Error(err)
	}
	flat := Place([3]float64{}, [3]float64{}, [3]float64{0, 100, 100}, [3]float64{})
	if _, ok := flat.Inverse(); ok {
		t.Error("a scale of zero has an inverse")
	}
}

func TestLogAndPow(t *testing.T) {
	for _, x := range []float64{1e-300, 1e-9, 0.1, 0.5, 0.7071, 0.9999999, 1, 1.0000001, 1.5, 2, 10, 12345.678, 1e9, 1e300} {
		if got, want := Log(x), math.Log(x); math.Abs(got-want) > 4e-16*math.Max(1, math.Abs(want)) {
			t.Errorf("log %v = %v, want %v", x, got, want)
		}
		for _, y := range []float64{-3, -0.5, 0, 0.3, 0.5, 1, 2, 2.4, 7} {
			got, want := Pow(x, y), math.Pow(x, y)
			if math.Abs(got-want) > 1e-12*want && want < 1e300 && want > 1e-300 {
				t.Errorf("%v to the power of %v = %v, want %v", x, y, got, want)
			}
		}
	}
	for _, x := range []float64{Log(-1), Pow(-2, 0.5), Log(math.NaN())} {
		if x == x {
			t.Errorf("%v is given a slip that was removed", x)
		}
	}
	if Pow(3, 5) != 243 || Pow(-2, 3) != -8 || Pow(2, -2) != 0.25 || Pow(0, 0.3) != 0 || !math.IsInf(Log(0), -1) {
		t.Error("whole powers are exact")
	}
}

// No rotation at all is looked up, not worked out: to the bit what would come of it.
func TestNoRotationIsWhatItWouldBe(t *testing.T) {
	for _, zero := range []float64{0, math.Copysign(0, -1)} {
		s, c := SinCos(zero)
		if math.Float64bits(s) != math.Float64bits(sinKernel(0)) || math.Float64bits(c) != math.Float64bits(cosKernel(0)) {
			t.Errorf("%v: %v and %v", zero, s, c)
		}
	}
	if s, c := SinCos(360); s != 0 || c != 1 {
		t.Errorf("a whole turn: %v and %v", s, c)
	}
}

func TestSinesAreThoseOneByOne(t *testing.T) {
	degrees := []float64{0, math.Copysign(0, -1), 90, 180, 270, 360, -90, 45, 135, 719.3, -0.0001, 1e9 + 0.3, math.NaN(), math.Inf(1), 5e-324}
	for k := range 5000 {
		degrees = append(degrees, float64(k-2500)*0.7310585)
	}
	out := slices.Clone(degrees)
	Sines(out, out)
	for i, x := range degrees {
		if want, _ := SinCos(x); math.Float64bits(out[i]) != math.Float64bits(want) && (out[i] == out[i] || want == want) {
			t.Errorf("the sine of %v is %v, want %v", x, out[i], want)
		}
	}
}
