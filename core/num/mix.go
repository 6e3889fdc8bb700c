package num

import "math"

// split takes the linear part of a transform apart into a rotation, as the angles of Place in
// degrees, and the stretch that comes before it: L = R · K. The stretch holds scale and shear.
func (a *Affine) split() (angles [3]float64, stretch [9]float64) {
	e := a.Basis()
	r := Affine{e[0][0], e[1][0], e[2][0], 0, e[0][1], e[1][1], e[2][1], 0, e[0][2], e[1][2], e[2][2], 0}
	_, angles, _ = r.Parts([3]float64{})
	for row := range 3 {
		for c := range 3 {
			stretch[3*row+c] = float64(e[row][0]*a[c]) + float64(e[row][1]*a[4+c]) + float64(e[row][2]*a[8+c])
		}
	}
	return angles, stretch
}

// Basis returns three directions at right angles to each other, the first two along and next to
// the first two axes of the transform (the method of Gram and Schmidt). An axis that was scaled to
// nothing gives way to that of the space around it.
func (a *Affine) Basis() [3][3]float64 {
	c0 := [3]float64{a[0], a[4], a[8]}
	c1 := [3]float64{a[1], a[5], a[9]}
	e0, ok := Unit(c0)
	if !ok {
		e0 = [3]float64{1, 0, 0}
	}
	along := Scalar(c1, e0)
	e1, ok := Unit([3]float64{c1[0] - float64(along*e0[0]), c1[1] - float64(along*e0[1]), c1[2] - float64(along*e0[2])})
	if !ok {
		e1, ok = Unit([3]float64{-e0[1], e0[0], 0})
		if !ok {
			e1 = [3]float64{0, 1, 0}
		}
	}
	return [3][3]float64{e0, e1, Cross(e0, e1)}
}

// Unit returns the vector of length 1 in a direction; false where it has none.
func Unit(v [3]float64) ([3]float64, bool) {
	d := math.Sqrt(Scalar(v, v))
	if d < 1e-9 || !Finite(d) {
		return v, false
	}
	return [3]float64{v[0] / d, v[1] / d, v[2] / d}, true
}

// Scalar is the scalar product of two vectors.
func Scalar(a, b [3]float64) float64 {
	return float64(a[0]*b[0]) + float64(a[1]*b[1]) + float64(a[2]*b[2])
}

// Cross is the vector product of two vectors.
func Cross(a, b [3]float64) [3]float64 {
	return [3]float64{
		float64(a[1]*b[2]) - float64(a[2]*b[1]),
		float64(a[2]*b[0]) - float64(a[0]*b[2]),
		float64(a[0]*b[1]) - float64(a[1]*b[0]),
	}
}

// Posed is a transform with the rotation about z that it came from, in degrees, with whole turns
// counted.
type Posed struct {
	Affine
	Turn float64
}

// Mix returns the transform a share of the way from a to b, 0 to 1: the place of the pivot and the
// stretch go in a straight line, the rotation by its angles, about z with whole turns. It is
// continuous in the share and gives a and b at its ends.
func Mix(a, b *Posed, share float64, pivot [3]float64) Posed {
	switch share {
	case 0:
		return *a
	case 1:
		return *b
	}
	angA, kA := a.split()
	angB, kB := b.split()
	var angles [3]float64
	for i := range 3 {
		d := angB[i] - angA[i]
		d -= float64(360 * math.Floor(d/360+0.5)) // the short way
		if i == 2 {
			whole := b.Turn - a.Turn - d
			d += float64(360 * math.Floor(whole/360+0.5))
		}
		angles[i] = angA[i] + float64(d*share)
	}
	return Posed{join(lerp3(a.Apply(pivot), b.Apply(pivot), share), angles, lerp9(kA, kB, share), pivot), a.Turn + float64((b.Turn-a.Turn)*share)}
}

// Choose returns a transform whose rotation and stretch each are those of a or of b. Its place is the origin.
func Choose(a, b *Posed, rotation, stretch bool) Posed {
	angles, k := a.split()
	angB, kB := b.split()
	turn := a.Turn
	if rotation {
		angles, turn = angB, b.Turn
	}
	if stretch {
		k = kB
	}
	return Posed{join([3]float64{}, angles, k, [3]float64{}), turn}
}

// join builds translate(place) · rotate(angles) · stretch · translate(-pivot).
func join(place, angles [3]float64, k [9]float64, pivot [3]float64) Affine {
	r := Place([3]float64{}, angles, [3]float64{100, 100, 100}, [3]float64{})
	var m Affine
	for row := range 3 {
		for c := range 3 {
			m[4*row+c] = float64(r[4*row]*k[c]) + float64(r[4*row+1]*k[3+c]) + float64(r[4*row+2]*k[6+c])
		}
		m[4*row+3] = place[row] - dot(m[4*row], m[4*row+1], m[4*row+2], pivot)
	}
	return m
}

func lerp3(a, b [3]float64, t float64) (out [3]float64) {
	for i := range out {
		out[i] = a[i] + float64((b[i]-a[i])*t)
	}
	return out
}

func lerp9(a, b [9]float64, t float64) (out [9]float64) {
	for i := range out {
		out[i] = a[i] + float64((b[i]-a[i])*t)
	}
	return out
}
