package view

import (
	"wunderkammer/core/engine"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// Vertex is a numbered vertex of a path or object, as it stands in the composition.
type Vertex struct {
	ID      int        `json:"id"`
	Number  int        `json:"number"` // counted from 1
	Key     string     `json:"key"`    // of the property that is its place
	At      [3]float64 `json:"at"`     // in the item's own space
	Place   [3]float64 `json:"place"`  // in the composition
	In      [3]float64 `json:"in"`     // handles of a path, in the composition
	Out     [3]float64 `json:"out"`
	Handles bool       `json:"handles,omitempty"` // whether it has any
	Next    int        `json:"next,omitempty"`    // the vertex that the span behind it leads to; 0 for none
}

// MaxShown bounds how many vertices are listed.
const MaxShown = 2000

// Vertices lists the vertices of an item at the frame its plan was last evaluated at: of a path up to MaxShown, of an object with more of
// them every second, third and so on, so that they are all over it.
func Vertices(p *engine.Plan, id scene.ID) []Vertex {
	i := p.Layout.Index(id)
	if i < 0 {
		return nil
	}
	item := p.Layout.Items[i]
	world := p.World(i)
	if item.Kind == scene.PathItem {
		return ofPath(p, i, &world)
	}
	var out []Vertex
	points := p.Points(i)
	for k := 0; k < len(points); k += 1 + (len(points)-1)/MaxShown {
		place := world.Apply(points[k])
		out = append(out, Vertex{ID: k + 1, Number: k + 1, Key: scene.VertexKey(k + 1), At: points[k], Place: place, In: place, Out: place})
	}
	return out
}

func ofPath(p *engine.Plan, i int32, world *num.Affine) []Vertex {
	var out []Vertex
	for _, c := range p.Layout.Items[i].Path.Contours {
		for k := range c.Vertices {
			if len(out) == MaxShown {
				return out
			}
			v := &c.Vertices[k]
			key := scene.VertexKey(v.ID)
			now := p.Derived(i, key)
			at := [3]float64{now.At(0), now.At(1)}
			shifted := func(by [2]float64) [3]float64 { return world.Apply([3]float64{at[0] + by[0], at[1] + by[1]}) }
			one := Vertex{
				ID: v.ID, Number: len(out) + 1, Key: key, At: at, Place: world.Apply(at), In: shifted(v.In), Out: shifted(v.Out),
				Handles: v.In != [2]float64{} || v.Out != [2]float64{},
			}
			switch {
			case k+1 < len(c.Vertices):
				one.Next = c.Vertices[k+1].ID
			case c.Closed && len(c.Vertices) > 1:
				one.Next = c.Vertices[0].ID
			}
			out = append(out, one)
		}
	}
	return out
}
