package solid

import (
	"math"
	"testing"

	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

var kinds = []scene.Kind{scene.Box, scene.Ball, scene.Cylinder, scene.Cone, scene.Torus, scene.Plane, scene.Capsule}

func TestEveryKindHasItsNumberedPointsWithinItsSize(t *testing.T) {
	for _, kind := range kinds {
		b := Body{Kind: kind, Size: [3]float64{100, 80, 60}}
		points := b.Points()
		if len(points) != (&scene.Item{Kind: kind}).SolidVertices() {
			t.Errorf("%s has %d points, want %d", kind, len(points), (&scene.Item{Kind: kind}).SolidVertices())
		}
		var reach [3]float64
		for _, p := range points {
			for axis := range 3 {
				reach[axis] = math.Max(reach[axis], math.Abs(p[axis]))
			}
		}
		want := [3]float64{50, 40, 30}
		if kind == scene.Plane {
			want[2] = 0
		}
		for axis := range 3 {
			if math.Abs(reach[axis]-want[axis]) > 1e-9 {
				t.Errorf("%s reaches %v, want %v", kind, reach, want)
				break
			}
		}
	}
}

// A closed surface that is seen from outside: the volume under its triangles is positive, and every
// edge is walked once in each direction.
func TestSurfacesAreClosedAndFaceOutside(t *testing.T) {
	for _, kind := range kinds {
		for _, bend := range []float64{0, 60} {
			b := Body{Kind: kind, Size: [3]float64{100, 80, 60}, Bend: Bending([3]float64{100, 80, 60}, 0, bend, 1, 0)}
			f := formOf(kind, bend != 0)
			m := b.Mesh()
			at := func(k uint32) [3]float64 {
				return [3]float64{float64(m.Places[3*k]), float64(m.Places[3*k+1]), float64(m.Places[3*k+2])}
			}
			volume := 0.0
			edges := map[[2]int32]int{}
			for i := 0; i < len(m.Index); i += 3 {
				p, q, r := at(m.Index[i]), at(m.Index[i+1]), at(m.Index[i+2])
				volume += p[0]*(q[1]*r[2]-q[2]*r[1]) - p[1]*(q[0]*r[2]-q[2]*r[0]) + p[2]*(q[0]*r[1]-q[1]*r[0])
				for e := range 3 {
					edges[[2]int32{f.corners[m.Index[i+e]].Point, f.corners[m.Index[i+(e+1)%3]].Point}]++
				}
			}
			if kind == scene.Plane {
				continue
			}
			if volume/6 < 50000 {
				t.Errorf("%s bent by %g: the volume is %g", kind, bend, volume/6)
			}
			if kind == scene.Box && bend != 0 {
				continue // its faces are cut apart, with points of their own along the edges
			}
			for e, n := range edges {
				if n != 1 || edges[[2]int32{e[1], e[0]}] != 1 {
					t.Errorf("%s bent by %g: the edge %v is walked %d times, and %d times back", kind, bend, e, n, edges[[2]int32{e[1], e[0]}])
					break
				}
			}
		}
	}
}

func TestNormalsPointOutOfTheMiddle(t *testing.T) {
	for _, kind := range []scene.Kind{scene.Box, scene.Ball, scene.Cylinder, scene.Cone, scene.Capsule} {
		b := Body{Kind: kind, Size: [3]float64{100, 100, 100}}
		m := b.Mesh()
		for i := 0; i < len(m.Places); i += 3 {
			dot, long := 0.0, 0.0
			for axis := range 3 {
				dot += float64(m.Places[i+axis]) * float64(m.Normals[i+axis])
				long += float64(m.Normals[i+axis]) * float64(m.Normals[i+axis])
			}
			if dot < -1e-3 || math.Abs(long-1) > 1e-3 {
				t.Errorf("%s: the normal at corner %d points inside, or is %g long", kind, i/3, long)
				break
			}
		}
	}
}

func TestMovedPointsTakeTheSurfaceAlong(t *testing.T) {
	size := [3]float64{100, 100, 100}
	b := Body{Kind: scene.Box, Size: size, Bend: Bending(size, 0, 0.0001, 1, 0), Moved: map[int][3]float64{8: {90, 90, 90}}}
	if got := b.Points()[7]; got != [3]float64{90, 90, 90} {
		t.Errorf("point 8 stands at %v", got)
	}
	m := b.Mesh()
	far := float32(0)
	for _, x := range m.Places {
		far = max(far, x)
	}
	if far != 90 {
		t.Errorf("the surface reaches %g", far)
	}
	// The middle of an edge that ends at the moved corner goes half of its way.
	near := 0
	for i := 0; i < len(m.Places); i += 3 {
		if math.Abs(float64(m.Places[i]-70))+math.Abs(float64(m.Places[i+1]-70))+math.Abs(float64(m.Places[i+2]-20)) < 0.1 {
			near++
		}
	}
	if near == 0 {
		t.Error("the middle of the edge was left behind")
	}
}

func TestBendKeepsLengthsAlongItsAxisAndTheFixedEnd(t *testing.T) {
	for _, fixed := range []float64{-1, 0, 1} {
		for _, extent := range []float64{1, 0.4} {
			b := num.Bending{Half: 50, Angle: 90, Extent: extent, Fixed: fixed}
			if s, c := b.At(50*fixed, 7); math.Abs(s-50*fixed)+math.Abs(c-7) > 1e-9 {
				t.Errorf("fixed %g: the fixed end went to %g, %g", fixed, s, c)
			}
			long := 0.0
			x0, y0 := b.At(-50, 0)
			for s := -49.5; s <= 50; s += 0.5 {
				x, y := b.At(s, 0)
				long += math.Hypot(x-x0, y-y0)
				x0, y0 = x, y
			}
			if math.Abs(long-100) > 0.01 {
				t.Errorf("fixed %g, extent %g: the axis is %g long", fixed, extent, long)
			}
			ax, ay := b.At(-50, 0)
			bx, by := b.At(-49, 0)
			cx, cy := b.At(49, 0)
			dx, dy := b.At(50, 0)
			turn := (math.Atan2(dy-cy, dx-cx) - math.Atan2(by-ay, bx-ax)) * 180 / math.Pi
			if math.Abs(turn-90) > 3 {
				t.Errorf("fixed %g, extent %g: the ends are turned by %g", fixed, extent, turn)
			}
		}
	}
}

func BenchmarkMesh(b *testing.B) {
	for _, kind := range []scene.Kind{scene.Box, scene.Torus} {
		body := Body{Kind: kind, Size: [3]float64{100, 80, 60}}
		b.Run(string(kind), func(b *testing.B) {
			for b.Loop() {
				body.Mesh()
			}
		})
	}
}
