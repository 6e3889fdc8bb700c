package num

import (
	"math"
	"math/rand"
	"testing"
)

// posedAt is a place with a rotation that counts whole turns.
func posedAt(x, y, turn, sx, sy float64) Posed {
	return Posed{Place([3]float64{x, y, 0}, [3]float64{0, 0, turn}, [3]float64{sx, sy, 100}, [3]float64{}), turn}
}

func near(a, b [3]float64) bool {
	return math.Abs(a[0]-b[0])+math.Abs(a[1]-b[1])+math.Abs(a[2]-b[2]) < 1e-9
}

func TestMixAtItsEndsIsWhatIsMixed(t *testing.T) {
	a, b := posedAt(10, 20, 30, 100, 50), posedAt(-5, 0, 400, 200, 100)
	if Mix(&a, &b, 0, [3]float64{}) != a || Mix(&a, &b, 1, [3]float64{}) != b {
		t.Error("the ends of a mixture are not what is mixed")
	}
}

// Place and scale are mixed straight, the rotation along all of its turns.
func TestMixHalfWay(t *testing.T) {
	for _, c := range []struct{ from, to, want float64 }{{0, 90, 45}, {0, 350, 175}, {30, 430, 230}, {-170, 170, 0}, {0, -720, -360}} {
		a, b := posedAt(0, 0, c.from, 100, 100), posedAt(100, 0, c.to, 300, 100)
		half := Mix(&a, &b, 0.5, [3]float64{})
		if math.Abs(half.Turn-c.want) > 1e-9 {
			t.Errorf("from %g to %g: turned by %g, want %g", c.from, c.to, half.Turn, c.want)
		}
		want := posedAt(50, 0, c.want, 200, 100)
		if got := half.Apply([3]float64{1, 2, 3}); !near(got, want.Apply([3]float64{1, 2, 3})) {
			t.Errorf("from %g to %g: a corner stands at %v, want %v", c.from, c.to, got, want.Apply([3]float64{1, 2, 3}))
		}
	}
}

// The pivot goes straight, whatever the rotations do.
func TestMixTakesThePivotStraight(t *testing.T) {
	pivot := [3]float64{40, -10, 0}
	a, b := posedAt(0, 0, 0, 100, 100), posedAt(100, 60, 180, 100, 100)
	from, to := a.Apply(pivot), b.Apply(pivot)
	for share := 0.0; share <= 1; share += 0.125 {
		m := Mix(&a, &b, share, pivot)
		got := m.Apply(pivot)
		want := lerp3(from, to, share)
		if !near(got, want) {
			t.Errorf("at %g the pivot stands at %v, want %v", share, got, want)
		}
	}
}

func TestMixIsContinuous(t *testing.T) {
	r := rand.New(rand.NewSource(1))
	for range 200 {
		a := posedAt(r.NormFloat64()*100, r.NormFloat64()*100, r.NormFloat64()*400, 50+r.Float64()*100, 50+r.Float64()*100)
		b := posedAt(r.NormFloat64()*100, r.NormFloat64()*100, a.Turn+r.NormFloat64()*100, 50+r.Float64()*100, 50+r.Float64()*100)
		last := a.Apply([3]float64{50, 0, 0})
		for share := 0.01; share <= 1; share += 0.01 {
			m := Mix(&a, &b, share, [3]float64{})
			now := m.Apply([3]float64{50, 0, 0})
			if math.Hypot(now[0]-last[0], now[1]-last[1]) > 20 {
				t.Fatalf("at %g it jumps from %v to %v", share, last, now)
			}
			last = now
		}
	}
}

func TestChooseTakesEachPartFromWhereItIsWanted(t *testing.T) {
	a, b := posedAt(10, 20, 30, 100, 50), posedAt(-5, 7, 400, 200, 100)
	for _, c := range []struct {
		rotation, stretch bool
		want              Posed
	}{
		{true, true, posedAt(0, 0, 400, 200, 100)}, {false, false, posedAt(0, 0, 30, 100, 50)},
		{true, false, posedAt(0, 0, 400, 100, 50)}, {false, true, posedAt(0, 0, 30, 200, 100)},
	} {
		got := Choose(&a, &b, c.rotation, c.stretch)
		if !near(got.Apply([3]float64{9, 8, 0}), c.want.Apply([3]float64{9, 8, 0})) || got.Turn != c.want.Turn {
			t.Errorf("rotation %v, scale %v: turned by %g, want %g", c.rotation, c.stretch, got.Turn, c.want.Turn)
		}
	}
}

func TestExpAgreesWithTheStandardLibrary(t *testing.T) {
	for x := -680.0; x < 700; x += 0.731 {
		if got, want := Exp(x), math.Exp(x); math.Abs(got-want) > 1e-14*want {
			t.Fatalf("Exp(%g) = %g, want %g", x, got, want)
		}
	}
	if Exp(-1e9) != 0 || !math.IsInf(Exp(1e9), 1) || Exp(0) != 1 || Exp(math.NaN()) == Exp(math.NaN()) {
		t.Error("beyond its range, Exp is wrong")
	}
}

// Shares are even, and neighbouring seeds have nothing to do with each other.
func TestChanceIsEvenAndTheSameAlways(t *testing.T) {
	const n = 20000
	var bins [10]int
	same := 0.0
	for i := range uint64(n) {
		x := Share(Hash(7, i))
		if x < 0 || x >= 1 {
			t.Fatalf("a share of %g", x)
		}
		bins[int(x*10)]++
		same += (x - 0.5) * (Share(Hash(8, i)) - 0.5)
	}
	for k, count := range bins {
		if count < n/10*9/10 || count > n/10*11/10 {
			t.Errorf("bin %d holds %d of %d", k, count, n)
		}
	}
	if correlation := same / n * 12; math.Abs(correlation) > 0.05 {
		t.Errorf("two seeds go together by %g", correlation)
	}
	if Hash(1, 2) != Hash(1, 2) || Hash(1, 2) == Hash(2, 1) {
		t.Error("a hash is not its own, or not of the order")
	}
}
