package scene

import (
	"fmt"
	"strconv"
	"strings"
)

// PathShape is the drawn form of a path: contours of vertices in the item's own space.
type PathShape struct {
	Contours []Contour `json:"contours"`
	EvenOdd  bool      `json:"evenOdd,omitempty"` // what is inside, where contours overlap

	places map[int]vertexPlace // by the ids of vertices, as last looked for
}

// vertexPlace is where a vertex stands: in which contour, at which place of it, and counted from 1
// through all of them.
type vertexPlace struct{ contour, at, number int }

// Contour is a line through vertices.
type Contour struct {
	Closed   bool     `json:"closed,omitempty"`
	Vertices []Vertex `json:"vertices"`
}

// Vertex is a corner or a smooth point of a contour. Its place is where it was drawn: the default
// of a property of its own, which can be set, pinned and driven like any other.
type Vertex struct {
	ID  int        `json:"id"` // unique within the item, for as long as the vertex lives
	At  [2]float64 `json:"at"`
	In  [2]float64 `json:"in"`  // handle toward the vertex before, counted from At; zero for none
	Out [2]float64 `json:"out"` // handle toward the next
}

// MaxVertices bounds the vertices of one path.
const MaxVertices = 50000

// Count returns how many vertices the path has.
func (p *PathShape) Count() int {
	if p == nil {
		return 0
	}
	n := 0
	for _, c := range p.Contours {
		n += len(c.Vertices)
	}
	return n
}

// Vertex returns the vertex with the id and its number in the path, counted from 1; nil and 0
// where there is none.
func (p *PathShape) Vertex(id int) (*Vertex, int) {
	if p == nil {
		return nil, 0
	}
	if v, n := p.known(id); v != nil || p.places != nil && len(p.places) == p.Count() {
		return v, n
	}
	p.places = make(map[int]vertexPlace, p.Count())
	n := 0
	for i := range p.Contours {
		for k := range p.Contours[i].Vertices {
			n++
			p.places[p.Contours[i].Vertices[k].ID] = vertexPlace{i, k, n}
		}
	}
	return p.known(id)
}

// known is Vertex as far as it is known where vertices stand. A path that is edited in place may have
// other numbers by now, never another vertex.
func (p *PathShape) known(id int) (*Vertex, int) {
	at, ok := p.places[id]
	if !ok || at.contour >= len(p.Contours) || at.at >= len(p.Contours[at.contour].Vertices) {
		return nil, 0
	}
	v := &p.Contours[at.contour].Vertices[at.at]
	if v.ID != id {
		return nil, 0
	}
	return v, at.number
}

// IDOf returns the id of the vertex with a number, counted from 1 through all contours; 0 where there is none.
func (p *PathShape) IDOf(number int) int {
	for _, c := range p.Contours {
		if number >= 1 && number <= len(c.Vertices) {
			return c.Vertices[number-1].ID
		}
		number -= len(c.Vertices)
	}
	return 0
}

// NextID returns an id that no vertex of the path has.
func (p *PathShape) NextID() int {
	next := 1
	for _, c := range p.Contours {
		for _, v := range c.Vertices {
			next = max(next, v.ID+1)
		}
	}
	return next
}

// Clone returns a copy that shares nothing that can be changed.
func (p *PathShape) Clone() *PathShape {
	if p == nil {
		return nil
	}
	out := &PathShape{EvenOdd: p.EvenOdd, Contours: make([]Contour, len(p.Contours))}
	for i, c := range p.Contours {
		out.Contours[i] = Contour{c.Closed, append([]Vertex(nil), c.Vertices...)}
	}
	return out
}

// Check refuses a path that could not be drawn or whose vertices cannot be told apart.
func (p *PathShape) Check() error {
	if n := p.Count(); n > MaxVertices {
		return fmt.Errorf("the path has %d vertices; the limit is %d", n, MaxVertices)
	}
	seen := map[int]bool{}
	for _, c := range p.Contours {
		for _, v := range c.Vertices {
			if v.ID < 1 || seen[v.ID] {
				return fmt.Errorf("vertex %d of a path is numbered wrongly", v.ID)
			}
			seen[v.ID] = true
			for _, x := range [][2]float64{v.At, v.In, v.Out} {
				if err := Pt(x[0], x[1]).Fits(Point2); err != nil {
					return fmt.Errorf("vertex %d of a path: %w", v.ID, err)
				}
			}
		}
	}
	return nil
}

const (
	vertexPrefix      = "vertex"
	worldVertexPrefix = "worldVertex"
)

// VertexKey returns the key of the property that is the place of a vertex: of a path by its id,
// of an object by its number, counted from 1. The place is in the item's own space.
func VertexKey(id int) string { return vertexPrefix + strconv.Itoa(id) }

// WorldVertexKey returns the key of what reads the place of a vertex in the composition.
func WorldVertexKey(id int) string { return worldVertexPrefix + strconv.Itoa(id) }

// VertexOf reads a key made by VertexKey or WorldVertexKey.
func VertexOf(key string) (id int, world, ok bool) {
	digits, world := strings.CutPrefix(key, worldVertexPrefix)
	if !world {
		digits, ok = strings.CutPrefix(key, vertexPrefix)
		if !ok {
			return 0, false, false
		}
	}
	id, err := strconv.Atoi(digits)
	return id, world, err == nil && id > 0 && digits[0] != '0' && digits[0] != '+'
}

// groupVertices is the group of vertices on the Card.
const groupVertices = "Vertices"

// VertexKeys returns the keys of the vertices of a path, in the order in which they are drawn.
func (i *Item) VertexKeys() []string {
	if i.Kind != PathItem || i.Path == nil {
		return nil
	}
	var out []string
	for _, c := range i.Path.Contours {
		for _, v := range c.Vertices {
			out = append(out, VertexKey(v.ID))
		}
	}
	return out
}

// vertexSpec returns the property of a vertex; nil where the item has no such vertex.
func (i *Item) vertexSpec(key string) *Spec {
	id, world, ok := VertexOf(key)
	if !ok {
		return nil
	}
	s := &Spec{Key: key, Group: groupVertices, Type: Point3, Unit: Pixels, SoftMin: -500, SoftMax: 500, Min: -inf, Max: inf, Step: 1, ReadOnly: world}
	number := id
	switch {
	case i.Kind == PathItem:
		v, n := i.Path.Vertex(id)
		if v == nil {
			return nil
		}
		number = n
		s.Type, s.Default = Point2, Pt(v.At[0], v.At[1])
	case i.Kind.Class() == Solid && id <= i.SolidVertices():
		// Where it stands of itself depends on size and bend; the engine knows.
		s.Default = Pt(0, 0, 0)
	default:
		return nil
	}
	s.Name = fmt.Sprintf("vertex %d", number)
	if world {
		s.Type, s.Name = Point3, fmt.Sprintf("world vertex %d", number)
		s.Default = Pt(0, 0, 0)
	}
	return s
}

// SolidVertices returns how many numbered vertices an object has, and 0 for what is none.
func (i *Item) SolidVertices() int {
	if i.Kind == MeshItem {
		return i.Mesh.Vertices()
	}
	return solidVertices[i.Kind]
}

// solidVertices is how many numbered vertices the objects of each kind have that are drawn by rule.
var solidVertices = map[Kind]int{
	Box: 8, Plane: 4, Cone: 25, Cylinder: 48, Ball: 24*11 + 2, Torus: 24 * 12, Capsule: 24*12 + 2,
}
