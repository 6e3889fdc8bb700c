package scene

import (
	"encoding/base64"
	"encoding/binary"
	"errors"
	"fmt"
	"math"

	"wunderkammer/core/num"
)

// MeshShape is the surface of a mesh: numbered vertices, and the triangles between them. It is never changed once it is made, and
// shared by the copies of its item. In JSON it is one text: the base64 of what MarshalText says.
type MeshShape struct {
	// Places are where the numbered vertices stand, number 1 first: x, y, z of each as shares of the size, from the middle of it.
	Places []float32
	// Corners are those of the triangles, each known once.
	Corners []MeshCorner
	// Index has three corners for each triangle, counter-clockwise from outside.
	Index []uint32
}

// MeshCorner is a vertex as it belongs to a face. Corners of one vertex that share a normal are smooth across their faces.
type MeshCorner struct {
	Point, Normal int32 // from 0
	U, V          float32
}

// Bounds of meshes.
const (
	MaxTriangles = 200000
	// MaxModelFile is how large a file that meshes are read from can be, in bytes.
	MaxModelFile = 48 << 20
)

// Gem returns the surface that a mesh begins with: a corner on each side, and eight flat faces between them.
func Gem() *MeshShape {
	m := &MeshShape{Places: []float32{0.5, 0, 0, -0.5, 0, 0, 0, 0.5, 0, 0, -0.5, 0, 0, 0, 0.5, 0, 0, -0.5}}
	for face := range int32(8) {
		x, y, z := face&1, face>>1&1, face>>2&1 // on which side it is
		corners := []int32{x, 2 + y, 4 + z}
		if (x+y+z)%2 == 1 {
			corners[1], corners[2] = corners[2], corners[1]
		}
		for k, point := range corners {
			m.Index = append(m.Index, uint32(len(m.Corners)))
			m.Corners = append(m.Corners, MeshCorner{Point: point, Normal: face, U: float32(k) / 2, V: float32(k % 2)})
		}
	}
	return m
}

var errMesh = errors.New("the surface of the mesh is damaged; import its file again")

// Vertices returns how many numbered vertices there are.
func (m *MeshShape) Vertices() int {
	if m == nil {
		return 0
	}
	return len(m.Places) / 3
}

// Normals returns how many normals the corners share.
func (m *MeshShape) Normals() int {
	most := int32(-1)
	for _, c := range m.Corners {
		most = max(most, c.Normal)
	}
	return int(most + 1)
}

// Check refuses a surface that can't be drawn, or is larger than what can be kept.
func (m *MeshShape) Check() error {
	switch {
	case m == nil:
		return nil
	case m.Vertices() > MaxVertices:
		return fmt.Errorf("the mesh has %d vertices; the limit is %d. Simplify it", m.Vertices(), MaxVertices)
	case len(m.Index)/3 > MaxTriangles:
		return fmt.Errorf("the mesh has %d triangles; the limit is %d. Simplify it", len(m.Index)/3, MaxTriangles)
	case len(m.Places) == 0 || len(m.Places)%3 != 0 || len(m.Index) == 0 || len(m.Index)%3 != 0 || len(m.Corners) > len(m.Index):
		return errMesh
	}
	for _, x := range m.Places {
		if !(math.Abs(float64(x)) <= 1) {
			return errMesh
		}
	}
	for _, c := range m.Corners {
		if c.Point < 0 || int(c.Point) >= m.Vertices() || c.Normal < 0 || int(c.Normal) >= len(m.Corners) || !num.Finite(float64(c.U)) || !num.Finite(float64(c.V)) {
			return errMesh
		}
	}
	for _, k := range m.Index {
		if int(k) >= len(m.Corners) {
			return errMesh
		}
	}
	return nil
}

// meshForm is the form that meshes are packed in.
const meshForm = 1

// MarshalText packs the surface: the form, how many vertices, corners and triangles there are; the places as little-endian floats;
// of each corner how far its vertex and its normal are from those of the one before, and its place on a picture; how far each corner
// of each triangle is from the one before. Whole numbers are varints.
func (m *MeshShape) MarshalText() ([]byte, error) {
	out := []byte{meshForm}
	for _, n := range []int{m.Vertices(), len(m.Corners), len(m.Index) / 3} {
		out = binary.AppendUvarint(out, uint64(n))
	}
	float := func(x float32) { out = binary.LittleEndian.AppendUint32(out, math.Float32bits(x)) }
	for _, x := range m.Places {
		float(x)
	}
	var before MeshCorner
	for _, c := range m.Corners {
		out = binary.AppendVarint(out, int64(c.Point-before.Point))
		out = binary.AppendVarint(out, int64(c.Normal-before.Normal))
		float(c.U)
		float(c.V)
		before = c
	}
	last := int64(0)
	for _, k := range m.Index {
		out = binary.AppendVarint(out, int64(k)-last)
		last = int64(k)
	}
	return base64.StdEncoding.AppendEncode(nil, out), nil
}

// UnmarshalText unpacks what MarshalText packed, and refuses all else.
func (m *MeshShape) UnmarshalText(text []byte) error {
	data, err := base64.StdEncoding.AppendDecode(nil, text)
	if err != nil || len(data) == 0 || data[0] != meshForm {
		return errMesh
	}
	r := meshReader{data: data[1:]}
	vertices, corners, triangles := r.count(12, MaxVertices), r.count(10, 3*MaxTriangles), r.count(3, MaxTriangles)
	if r.wrong {
		return errMesh
	}
	out := MeshShape{Places: make([]float32, 3*vertices), Corners: make([]MeshCorner, corners), Index: make([]uint32, 3*triangles)}
	for k := range out.Places {
		out.Places[k] = r.float()
	}
	var before MeshCorner
	for k := range out.Corners {
		before = MeshCorner{before.Point + r.step(), before.Normal + r.step(), r.float(), r.float()}
		out.Corners[k] = before
	}
	last := int32(0)
	for k := range out.Index {
		last += r.step()
		out.Index[k] = uint32(last)
	}
	if r.wrong || len(r.data) > 0 {
		return errMesh
	}
	if err := out.Check(); err != nil {
		return err
	}
	*m = out
	return nil
}

// meshReader reads numbers off packed bytes, until something is wrong.
type meshReader struct {
	data  []byte
	wrong bool
}

func (r *meshReader) skip(n int) {
	if n <= 0 || n > len(r.data) {
		r.wrong, r.data = true, nil
		return
	}
	r.data = r.data[n:]
}

// count reads how many things follow, each of so many bytes at least.
func (r *meshReader) count(bytes, most int) int {
	x, n := binary.Uvarint(r.data)
	r.skip(n)
	if x > uint64(most) || int(x)*bytes > len(r.data) {
		r.wrong = true
	}
	return int(x)
}

func (r *meshReader) step() int32 {
	x, n := binary.Varint(r.data)
	r.skip(n)
	return int32(x)
}

func (r *meshReader) float() float32 {
	if len(r.data) < 4 {
		r.skip(0)
		return 0
	}
	x := math.Float32frombits(binary.LittleEndian.Uint32(r.data))
	r.skip(4)
	return x
}
