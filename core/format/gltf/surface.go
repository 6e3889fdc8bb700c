package gltf

import (
	"errors"
	"fmt"
	"math"

	"wunderkammer/core/format/brought"
	"wunderkammer/core/scene"
)

// How the corners of a primitive are put together.
const (
	triangles = 4
	strip     = 5
	fan       = 6
)

// surface makes a mesh of a primitive: corners at one place become one numbered vertex, in the order of the file. It is nil where
// there is nothing to be drawn.
func (r *reader) surface(p *primitive) (*surface, error) {
	mode := triangles
	if p.Mode != nil {
		mode = *p.Mode
	}
	if mode != triangles && mode != strip && mode != fan {
		r.Miss("points and lines")
		return nil, nil
	}
	if p.Extensions["KHR_draco_mesh_compression"] != nil {
		return nil, errors.New("its meshes are compressed, which can’t be read. Export it without compression")
	}
	if _, colours := p.Attributes["COLOR_0"]; colours {
		r.Miss("colours of single vertices")
	}
	if len(p.Targets) > 0 {
		r.Miss("a mesh that changes its shape; it stays as it is at first")
	}
	at, ok := p.Attributes["POSITION"]
	if !ok {
		return nil, nil
	}
	places, _, err := r.numbers(at, "VEC3")
	if err != nil {
		return nil, err
	}
	count := len(places) / 3
	normals, err := r.along(p, "NORMAL", "VEC3", count)
	if err != nil {
		return nil, err
	}
	uvs, err := r.along(p, r.uvs(p), "VEC2", count)
	if err != nil {
		return nil, err
	}
	index, err := r.index(p, mode, count)
	if err != nil || len(index) == 0 {
		return nil, err
	}
	if len(index)/3 > scene.MaxTriangles {
		r.Miss(fmt.Sprintf("a mesh of %d triangles; the limit is %d", len(index)/3, scene.MaxTriangles))
		return nil, nil
	}
	s, err := frame(places, index)
	if err != nil {
		return nil, err
	}
	s.weld(places, normals, uvs, index)
	switch {
	case len(s.shape.Index) == 0:
		return nil, nil
	case s.shape.Vertices() > scene.MaxVertices:
		r.Miss(fmt.Sprintf("a mesh of %d vertices; the limit is %d", s.shape.Vertices(), scene.MaxVertices))
		return nil, nil
	}
	return s, s.shape.Check()
}

// uvs names the attribute with the places on the picture that a primitive shows.
func (r *reader) uvs(p *primitive) string {
	if p.Material == nil || *p.Material < 0 || *p.Material >= len(r.Materials) {
		return "TEXCOORD_0"
	}
	if pbr := r.Materials[*p.Material].PBR; pbr != nil && pbr.BaseColorTexture != nil {
		return fmt.Sprintf("TEXCOORD_%d", pbr.BaseColorTexture.TexCoord)
	}
	return "TEXCOORD_0"
}

// along reads an attribute that has to be there for each corner, if it is there.
func (r *reader) along(p *primitive, name, kind string, count int) ([]float64, error) {
	at, ok := p.Attributes[name]
	if !ok {
		return nil, nil
	}
	out, width, err := r.numbers(at, kind)
	if err != nil || len(out) != count*width {
		return nil, brought.ErrDamaged
	}
	return out, nil
}

// index returns three corners for each triangle.
func (r *reader) index(p *primitive, mode, count int) ([]int, error) {
	var list []float64
	if p.Indices != nil {
		var err error
		if list, _, err = r.numbers(*p.Indices, "SCALAR"); err != nil {
			return nil, err
		}
	}
	n := count
	if p.Indices != nil {
		n = len(list)
	}
	corner := func(k int) int {
		if list != nil {
			return int(list[k])
		}
		return k
	}
	var out []int
	for k := range n {
		if c := corner(k); c < 0 || c >= count {
			return nil, brought.ErrDamaged
		}
		switch {
		case mode == triangles && k%3 == 2:
			out = append(out, corner(k-2), corner(k-1), corner(k))
		case mode == strip && k >= 2 && k%2 == 0:
			out = append(out, corner(k-2), corner(k-1), corner(k))
		case mode == strip && k >= 2:
			out = append(out, corner(k-1), corner(k-2), corner(k))
		case mode == fan && k >= 2:
			out = append(out, corner(0), corner(k-1), corner(k))
		}
	}
	return out, nil
}

// frame returns the space that the triangles take up, in pixels.
func frame(places []float64, index []int) (*surface, error) {
	low, high := [3]float64{}, [3]float64{}
	for n, k := range index {
		for axis := range 3 {
			x := places[3*k+axis] / metres
			if !(math.Abs(x) < 1e8) {
				return nil, errors.New("a mesh of it is too large to be drawn, or damaged")
			}
			if n == 0 {
				low[axis], high[axis] = x, x
			}
			low[axis], high[axis] = min(low[axis], x), max(high[axis], x)
		}
	}
	s := &surface{shape: &scene.MeshShape{}}
	for axis := range 3 {
		s.middle[axis], s.size[axis] = (low[axis]+high[axis])/2, high[axis]-low[axis]
	}
	return s, nil
}

// weld makes one numbered vertex of all corners at one place, and one normal of those that are alike there. Where there are none,
// faces are flat.
func (s *surface) weld(places, normals, uvs []float64, index []int) {
	const parts = 1000 // of its length, to which a normal is told from another
	type place [3]float32
	type normal struct {
		point   int32
		x, y, z int
	}
	points, groups, corners := map[place]int32{}, map[normal]int32{}, map[scene.MeshCorner]uint32{}
	m, flat := s.shape, int32(0)
	point := func(k int) int32 {
		var p place
		for axis := range 3 {
			if s.size[axis] > 0 {
				p[axis] = float32((places[3*k+axis]/metres - s.middle[axis]) / s.size[axis])
			}
			p[axis] += 0 // there is one zero
		}
		n, known := points[p]
		if !known {
			n = int32(len(points))
			points[p] = n
			m.Places = append(m.Places, p[:]...)
		}
		return n
	}
	for t := 0; t+2 < len(index); t += 3 {
		a, b, c := point(index[t]), point(index[t+1]), point(index[t+2])
		if a == b || b == c || c == a {
			continue
		}
		for k, p := range [3]int32{a, b, c} {
			from := index[t+k]
			one := scene.MeshCorner{Point: p}
			if normals != nil {
				key := normal{p, int(math.Round(normals[3*from] * parts)), int(math.Round(normals[3*from+1] * parts)), int(math.Round(normals[3*from+2] * parts))}
				group, known := groups[key]
				if !known {
					group = int32(len(groups))
					groups[key] = group
				}
				one.Normal = group
			} else {
				one.Normal = flat
			}
			if uvs != nil {
				one.U, one.V = float32(uvs[2*from]), float32(1-uvs[2*from+1])
			}
			at, known := corners[one]
			if !known {
				at = uint32(len(m.Corners))
				corners[one] = at
				m.Corners = append(m.Corners, one)
			}
			m.Index = append(m.Index, at)
		}
		if normals == nil {
			flat++ // a normal for each face, whichever vertices it has: its corners are lit alike
		}
	}
}
