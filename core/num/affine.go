package num

import "math"

// Affine is a place in space: the upper three rows of a 4 × 4 matrix, row by row.
// Column 3 is the translation in pixels.
type Affine [12]float64

// Identity is the transform that moves nothing.
var Identity = Affine{1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0}

// Place builds the transform of an item: translate(position) · rotate · scale · translate(-pivot).
// Rotation is in degrees, counter-clockwise positive, turned about x first, then y, then z;
// scale is in percent (100 is whole).
func Place(position, rotation, scale, pivot [3]float64) Affine {
	sx, cx := SinCos(rotation[0])
	sy, cy := SinCos(rotation[1])
	sz, cz := SinCos(rotation[2])
	kx, ky, kz := scale[0]/100, scale[1]/100, scale[2]/100
	szsx, szcx := float64(sy*sx), float64(sy*cx)
	m := Affine{
		float64(float64(cz*cy) * kx), float64((float64(cz*szsx) - float64(sz*cx)) * ky), float64((float64(cz*szcx) + float64(sz*sx)) * kz), 0,
		float64(float64(sz*cy) * kx), float64((float64(sz*szsx) + float64(cz*cx)) * ky), float64((float64(sz*szcx) - float64(cz*sx)) * kz), 0,
		float64(-sy * kx), float64(float64(cy*sx) * ky), float64(float64(cy*cx) * kz), 0,
	}
	for r := range 3 {
		m[4*r+3] = position[r] - dot(m[4*r], m[4*r+1], m[4*r+2], pivot)
	}
	return m
}

func dot(a, b, c float64, p [3]float64) float64 {
	return float64(a*p[0]) + float64(b*p[1]) + float64(c*p[2])
}

// Mul returns the transform that applies b first and a after it.
func (a *Affine) Mul(b *Affine) Affine {
	var m Affine
	for r := 0; r < 12; r += 4 {
		for c := range 4 {
			m[r+c] = float64(a[r]*b[c]) + float64(a[r+1]*b[4+c]) + float64(a[r+2]*b[8+c])
		}
		m[r+3] += a[r+3]
	}
	return m
}

// Apply returns where the transform takes the point p.
func (a *Affine) Apply(p [3]float64) [3]float64 {
	return [3]float64{
		dot(a[0], a[1], a[2], p) + a[3],
		dot(a[4], a[5], a[6], p) + a[7],
		dot(a[8], a[9], a[10], p) + a[11],
	}
}

// Inverse returns the transform that undoes a, and false where a flattens space
// (a scale of zero) and nothing can undo it.
func (a *Affine) Inverse() (Affine, bool) {
	c00 := float64(a[5]*a[10]) - float64(a[6]*a[9])
	c01 := float64(a[6]*a[8]) - float64(a[4]*a[10])
	c02 := float64(a[4]*a[9]) - float64(a[5]*a[8])
	det := float64(a[0]*c00) + float64(a[1]*c01) + float64(a[2]*c02)
	if !Finite(det) || math.Abs(det) < 1e-12 {
		return Identity, false
	}
	d := 1 / det
	m := Affine{
		float64(c00 * d), float64((float64(a[2]*a[9]) - float64(a[1]*a[10])) * d), float64((float64(a[1]*a[6]) - float64(a[2]*a[5])) * d), 0,
		float64(c01 * d), float64((float64(a[0]*a[10]) - float64(a[2]*a[8])) * d), float64((float64(a[2]*a[4]) - float64(a[0]*a[6])) * d), 0,
		float64(c02 * d), float64((float64(a[1]*a[8]) - float64(a[0]*a[9])) * d), float64((float64(a[0]*a[5]) - float64(a[1]*a[4])) * d), 0,
	}
	t := [3]float64{a[3], a[7], a[11]}
	for r := range 3 {
		m[4*r+3] = -dot(m[4*r], m[4*r+1], m[4*r+2], t)
	}
	return m, true
}

// Parts takes a transform apart into position, rotation in degrees and scale in percent, so that
// Place(position, rotation, scale, pivot) gives it back. A shear, which an unevenly scaled parent
// can cause, cannot be expressed and is dropped.
func (a *Affine) Parts(pivot [3]float64) (position, rotation, scale [3]float64) {
	var k [3]float64
	for c := range 3 {
		k[c] = math.Sqrt(float64(a[c]*a[c]) + float64(a[4+c]*a[4+c]) + float64(a[8+c]*a[8+c]))
	}
	cross := float64(a[0]*(float64(a[5]*a[10])-float64(a[6]*a[9]))) - float64(a[1]*(float64(a[4]*a[10])-float64(a[6]*a[8]))) + float64(a[2]*(float64(a[4]*a[9])-float64(a[5]*a[8])))
	if cross < 0 {
		k[0] = -k[0]
	}
	n := *a
	for c := range 3 {
		if k[c] != 0 {
			n[c] /= k[c]
			n[4+c] /= k[c]
			n[8+c] /= k[c]
		}
		scale[c] = k[c] * 100
	}
	rotation[1] = Atan2(-n[8], math.Sqrt(float64(n[9]*n[9])+float64(n[10]*n[10])))
	if math.Abs(n[8]) < 1-1e-12 {
		rotation[0] = Atan2(n[9], n[10])
		rotation[2] = Atan2(n[4], n[0])
	} else {
		rotation[2] = Atan2(-n[1], n[5])
	}
	position = a.Apply(pivot)
	return position, rotation, scale
}
