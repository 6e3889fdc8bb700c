package solid

import (
	"math"
	"sync"

	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// form is how the points of an object hang together, whatever its size.
type form struct {
	numbered int                         // the first points are those with numbers
	place    func(size num3, out []num3) // where the numbered points stand before any bend
	mixed    [][]share                   // every further point, as a mixture of numbered ones
	corners  []scene.MeshCorner          // what the surface is made of
	index    []uint32                    // three corners for each triangle, counter-clockwise from outside
	smooth   int                         // how many normals there are
	known    map[scene.MeshCorner]uint32 // while it is built
	normals  map[[2]int32]int32          // while it is built
}

type num3 = [3]float64

// share is a part of a numbered point in a mixture.
type share struct {
	point  int32
	weight float64
}

// around is how many points round things have in a round.
const around = 24

// segments is how many pieces a straight edge is cut into where it is bent.
const segments = 10

// shape names a form: bent ones have more points.
type shape struct {
	kind scene.Kind
	bent bool
}

var (
	formsLock sync.Mutex
	forms     = map[shape]*form{}
)

var makers = map[scene.Kind]func(f *form, pieces int){
	scene.Box: box, scene.Plane: plane, scene.Cylinder: cylinder, scene.Cone: cone,
	scene.Ball: ball, scene.Torus: torus, scene.Capsule: capsule,
}

// form returns how the points of a body hang together.
func (b *Body) form() *form {
	if b.Surface != nil {
		return &form{numbered: b.Surface.Vertices(), place: b.placed, corners: b.Surface.Corners, index: b.Surface.Index, smooth: b.Surface.Normals()}
	}
	return formOf(b.Kind, !b.Bend.None())
}

// placed places the vertices of a surface of its own.
func (b *Body) placed(size num3, out []num3) {
	for k := range out {
		out[k] = b.own(k, size)
	}
}

func (b *Body) own(k int, size num3) (at num3) {
	for axis := range 3 {
		at[axis] = float64(b.Surface.Places[3*k+axis]) * size[axis]
	}
	return at
}

func formOf(kind scene.Kind, bent bool) *form {
	formsLock.Lock()
	defer formsLock.Unlock()
	key := shape{kind, bent}
	f := forms[key]
	if f == nil {
		f = &form{numbered: (&scene.Item{Kind: kind}).SolidVertices(), known: map[scene.MeshCorner]uint32{}, normals: map[[2]int32]int32{}}
		pieces := 1
		if bent {
			pieces = segments
		}
		makers[kind](f, pieces)
		f.smooth = len(f.normals)
		f.known, f.normals = nil, nil
		forms[key] = f
	}
	return f
}

// mix adds a point that is a mixture of numbered ones.
func (f *form) mix(shares ...share) int32 {
	f.mixed = append(f.mixed, shares)
	return int32(f.numbered + len(f.mixed) - 1)
}

// between returns the point a share of the way from one numbered point to another.
func (f *form) between(a, b int32, t float64) int32 {
	switch t {
	case 0:
		return a
	case 1:
		return b
	}
	return f.mix(share{a, 1 - t}, share{b, t})
}

func (f *form) corner(point int32, group int32, u, v float64) uint32 {
	key := [2]int32{point, group}
	n, ok := f.normals[key]
	if !ok {
		n = int32(len(f.normals))
		f.normals[key] = n
	}
	c := scene.MeshCorner{Point: point, Normal: n, U: float32(u), V: float32(v)}
	at, ok := f.known[c]
	if !ok {
		at = uint32(len(f.corners))
		f.known[c] = at
		f.corners = append(f.corners, c)
	}
	return at
}

// grid adds the quads of a net of (columns + 1) × (rows + 1) points. Seen from outside, columns run
// to the right and rows up.
func (f *form) grid(columns, rows int, group int32, point func(i, j int) int32) {
	at := func(i, j int) uint32 {
		return f.corner(point(i, j), group, float64(i)/float64(columns), float64(j)/float64(rows))
	}
	for j := range rows {
		for i := range columns {
			a, b, c, d := at(i, j), at(i+1, j), at(i+1, j+1), at(i, j+1)
			f.triangle(a, b, c)
			f.triangle(a, c, d)
		}
	}
}

// triangle adds a triangle, unless two of its corners are one point.
func (f *form) triangle(a, b, c uint32) {
	p := func(k uint32) int32 { return f.corners[k].Point }
	if p(a) != p(b) && p(b) != p(c) && p(c) != p(a) {
		f.index = append(f.index, a, b, c)
	}
}

// disc closes a ring of numbered points with a fan about a middle. up says whether it is seen from
// above.
func (f *form) disc(first int32, group int32, up bool) {
	shares := make([]share, around)
	for k := range shares {
		shares[k] = share{first + int32(k), 1.0 / around}
	}
	middle := f.corner(f.mix(shares...), group, 0.5, 0.5)
	at := func(k int) uint32 {
		sin, cos := num.SinCos(360 * float64(k) / around)
		return f.corner(first+int32(k%around), group, 0.5+float64(cos/2), 0.5+float64(sin/2))
	}
	for k := range around {
		if up {
			f.triangle(middle, at(k), at(k+1))
		} else {
			f.triangle(middle, at(k+1), at(k))
		}
	}
}

// bits places the corners of a box by the bits of their number, from 0: x, y, z.
func bits(size num3, out []num3) {
	for k := range out {
		for axis := range 3 {
			out[k][axis] = size[axis] * (float64(k>>axis&1) - 0.5)
		}
	}
}

func (f *form) face(pieces int, group int32, corners [4]int32) {
	memo := map[[2]int]int32{}
	f.grid(pieces, pieces, group, func(i, j int) int32 {
		key := [2]int{i, j}
		if p, ok := memo[key]; ok {
			return p
		}
		u, v := float64(i)/float64(pieces), float64(j)/float64(pieces)
		var p int32
		switch {
		case i%pieces == 0 && j%pieces == 0:
			p = corners[i/pieces+2*(j/pieces)]
		default:
			p = f.mix(share{corners[0], (1 - u) * (1 - v)}, share{corners[1], u * (1 - v)}, share{corners[2], (1 - u) * v}, share{corners[3], u * v})
		}
		memo[key] = p
		return p
	})
}

func box(f *form, pieces int) {
	f.place = bits
	for k, corners := range [][4]int32{{4, 5, 6, 7}, {1, 0, 3, 2}, {5, 1, 7, 3}, {0, 4, 2, 6}, {6, 7, 2, 3}, {0, 1, 4, 5}} {
		f.face(pieces, int32(k), corners)
	}
}

func plane(f *form, pieces int) {
	f.place = func(size num3, out []num3) {
		size[2] = 0
		bits(size, out)
	}
	f.face(pieces, 0, [4]int32{0, 1, 2, 3})
}

// ring places the points of a round about the y axis.
func ring(out []num3, radiusX, y, radiusZ float64) {
	for k := range out {
		sin, cos := num.SinCos(360 * float64(k) / around)
		out[k] = num3{radiusX * cos, y, -radiusZ * sin}
	}
}

// side adds the surface between rings of numbered points, one above the other; every ring is given
// by its first point.
func (f *form) side(rings []int32) {
	f.grid(around, len(rings)-1, 0, func(i, j int) int32 { return rings[j] + int32(i%around) })
}

// rings returns the rings from one of numbered points to another, those between mixed.
func (f *form) rings(from, to int32, pieces int) []int32 {
	out := []int32{from}
	for s := 1; s < pieces; s++ {
		first := int32(f.numbered + len(f.mixed))
		for k := range int32(around) {
			f.between(from+k, to+k, float64(s)/float64(pieces))
		}
		out = append(out, first)
	}
	return append(out, to)
}

func cylinder(f *form, pieces int) {
	f.place = func(size num3, out []num3) {
		ring(out[:around], size[0]/2, -size[1]/2, size[2]/2)
		ring(out[around:], size[0]/2, size[1]/2, size[2]/2)
	}
	f.side(f.rings(0, around, pieces))
	f.disc(0, 1, false)
	f.disc(around, 2, true)
}

func cone(f *form, pieces int) {
	f.place = func(size num3, out []num3) {
		ring(out[:around], size[0]/2, -size[1]/2, size[2]/2)
		out[around] = num3{0, size[1] / 2, 0}
	}
	pieces = max(pieces, 4) // so that light falls along the slope, not from the tip
	rows := make([][]int32, pieces+1)
	for s := range rows {
		for k := range int32(around) {
			rows[s] = append(rows[s], f.between(k, around, float64(s)/float64(pieces)))
		}
	}
	f.grid(around, pieces, 0, func(i, j int) int32 { return rows[j][i%around] })
	f.disc(0, 1, false)
}

// poles is a body of rings with a point below and one above.
func (f *form) poles(rings []int32) {
	bottom, top := int32(f.numbered-2), int32(f.numbered-1)
	f.grid(around, len(rings)+1, 0, func(i, j int) int32 {
		switch j {
		case 0:
			return bottom
		case len(rings) + 1:
			return top
		}
		return rings[j-1] + int32(i%around)
	})
}

func every(first, count int32) []int32 {
	var out []int32
	for k := range count {
		out = append(out, first+k*around)
	}
	return out
}

func ball(f *form, _ int) {
	const rings = 11
	f.place = func(size num3, out []num3) {
		for r := range rings {
			sin, cos := num.SinCos(-90 + 180*float64(r+1)/(rings+1))
			ring(out[r*around:(r+1)*around], size[0]/2*cos, size[1]/2*sin, size[2]/2*cos)
		}
		out[rings*around], out[rings*around+1] = num3{0, -size[1] / 2, 0}, num3{0, size[1] / 2, 0}
	}
	f.poles(every(0, rings))
}

func capsule(f *form, pieces int) {
	const half = 6 // rings of each cap
	f.place = func(size num3, out []num3) {
		cap := float64(math.Min(size[0], size[1]) / 2)
		for r := range 2 * half {
			angle, middle := -90+float64(float64(90*float64(r+1))/half), -(float64(size[1]/2) - cap)
			if r >= half {
				angle, middle = float64(90*float64(r-half))/half, float64(size[1]/2)-cap
			}
			sin, cos := num.SinCos(angle)
			ring(out[r*around:(r+1)*around], float64(size[0]/2*cos), middle+float64(cap*sin), float64(size[2]/2*cos))
		}
		out[2*half*around], out[2*half*around+1] = num3{0, -size[1] / 2, 0}, num3{0, size[1] / 2, 0}
	}
	body := f.rings((half-1)*around, half*around, pieces)
	f.poles(append(append(every(0, half-1), body...), every((half+1)*around, half-1)...))
}

func torus(f *form, _ int) {
	const tube = 12
	f.place = func(size num3, out []num3) {
		r := math.Min(size[2]/2, math.Min(size[0], size[1])/4)
		for t := range tube {
			sinT, cosT := num.SinCos(360 * float64(t) / tube)
			for k := range around {
				sin, cos := num.SinCos(360 * float64(k) / around)
				out[t*around+k] = num3{float64((float64(size[0]/2) - r + float64(r*cosT)) * cos), float64((float64(size[1]/2) - r + float64(r*cosT)) * sin), float64(float64(size[2]/2) * sinT)}
			}
		}
	}
	f.grid(around, tube, 0, func(i, j int) int32 { return int32(j%tube*around + i%around) })
}
