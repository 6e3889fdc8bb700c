// Package solid makes the surfaces of objects: numbered points whose places can be read and
// driven, and the triangles between them, with normals and the places of a picture on them.
package solid

import (
	"math"

	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Body is an object with what its surface is made of.
type Body struct {
	Kind    scene.Kind
	Surface *scene.MeshShape // of a mesh; of all else it is by rule
	Size    [3]float64       // pixels
	Bend    num.Bending
	Axis    int // along which it is bent: 0 x, 1 y, 2 z
	// Moved holds the numbered points that stand somewhere else, by number from 1, in the item's
	// own space.
	Moved map[int][3]float64
}

// Mesh is a surface of triangles, counter-clockwise from outside.
type Mesh struct {
	Places  []float32 // x, y, z of every corner
	Normals []float32
	UVs     []float32 // place on a picture: from its left, from its bottom, 0 to 1
	Index   []uint32
}

// Points returns where the numbered points stand, number 1 first.
func (b *Body) Points() [][3]float64 {
	out := b.natural()
	for n, at := range b.Moved {
		if n >= 1 && n <= len(out) {
			out[n-1] = at
		}
	}
	return out
}

// Natural returns where a numbered point stands of itself, bent; false where there is none.
func (b *Body) Natural(number int) (at [3]float64, ok bool) {
	if b.Surface != nil && number >= 1 && number <= b.Surface.Vertices() {
		one := []num3{b.own(number-1, b.Size)}
		b.bend(one)
		return one[0], true
	}
	points := b.natural()
	if number < 1 || number > len(points) {
		return at, false
	}
	return points[number-1], true
}

// natural returns where the numbered points stand of themselves, bent.
func (b *Body) natural() [][3]float64 {
	f := b.form()
	out := make([][3]float64, f.numbered)
	f.place(b.Size, out)
	b.bend(out)
	return out
}

// Bending returns the bend of a body of a size along one of its axes.
func Bending(size [3]float64, axis int, angle, extent, fixed float64) num.Bending {
	return num.Bending{Half: size[axis] / 2, Angle: angle, Extent: extent, Fixed: fixed}
}

// bend curls points about: along x toward y, along y toward x, along z toward y.
func (b *Body) bend(points [][3]float64) {
	if b.Bend.None() {
		return
	}
	along, across := b.Axis, 1
	if along == 1 {
		across = 0
	}
	for k := range points {
		p := &points[k]
		p[along], p[across] = b.Bend.At(p[along], p[across])
	}
}

// Mesh returns the surface in the object's own space, in pixels, bent and with what was moved of it; its normals are of length 1.
func (b *Body) Mesh() Mesh {
	f := b.form()
	points := make([][3]float64, f.numbered+len(f.mixed))
	f.place(b.Size, points[:f.numbered])
	for k, shares := range f.mixed {
		p := &points[f.numbered+k]
		for _, s := range shares {
			for axis := range 3 {
				p[axis] += float64(points[s.point][axis] * s.weight)
			}
		}
	}
	b.bend(points)
	b.move(f, points)
	m := Mesh{
		Places: make([]float32, 0, 3*len(f.corners)), Normals: make([]float32, 0, 3*len(f.corners)),
		UVs: make([]float32, 0, 2*len(f.corners)), Index: f.index,
	}
	normals := f.light(points)
	for _, c := range f.corners {
		p, n := &points[c.Point], &normals[c.Normal]
		m.Places = append(m.Places, float32(p[0]), float32(p[1]), float32(p[2]))
		m.Normals = append(m.Normals, float32(n[0]), float32(n[1]), float32(n[2]))
		m.UVs = append(m.UVs, c.U, c.V)
	}
	return m
}

// move puts moved points where they belong and takes what is mixed from them along.
func (b *Body) move(f *form, points [][3]float64) {
	if len(b.Moved) == 0 {
		return
	}
	by := make([][3]float64, f.numbered)
	for n, at := range b.Moved {
		if n < 1 || n > f.numbered {
			continue
		}
		for axis := range 3 {
			by[n-1][axis] = at[axis] - points[n-1][axis]
		}
		points[n-1] = at
	}
	for k, shares := range f.mixed {
		for _, s := range shares {
			for axis := range 3 {
				points[f.numbered+k][axis] += float64(by[s.point][axis] * s.weight)
			}
		}
	}
}

// light works out the normals: the sum of those of all faces that a normal is shared by, each
// weighed by its area.
func (f *form) light(points [][3]float64) [][3]float64 {
	normals := make([][3]float64, f.smooth)
	for t := 0; t < len(f.index); t += 3 {
		a, b, c := f.corners[f.index[t]], f.corners[f.index[t+1]], f.corners[f.index[t+2]]
		p, q, r := &points[a.Point], &points[b.Point], &points[c.Point]
		ux, uy, uz := q[0]-p[0], q[1]-p[1], q[2]-p[2]
		vx, vy, vz := r[0]-p[0], r[1]-p[1], r[2]-p[2]
		n := [3]float64{float64(uy*vz) - float64(uz*vy), float64(uz*vx) - float64(ux*vz), float64(ux*vy) - float64(uy*vx)}
		for _, k := range [...]int32{a.Normal, b.Normal, c.Normal} {
			for axis := range 3 {
				normals[k][axis] += n[axis]
			}
		}
	}
	for k := range normals {
		n := &normals[k]
		if d := math.Sqrt(float64(n[0]*n[0]) + float64(n[1]*n[1]) + float64(n[2]*n[2])); d > 0 {
			n[0], n[1], n[2] = n[0]/d, n[1]/d, n[2]/d
		}
	}
	return normals
}
