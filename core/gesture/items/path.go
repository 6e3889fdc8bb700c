package items

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// MoveVertex puts a vertex of a path or object at a place of the composition.
type MoveVertex struct {
	Item   scene.ID   `json:"item"`
	Vertex int        `json:"vertex"` // id, or number of an object's
	To     [3]float64 `json:"to"`     // in the composition's space
}

// Do returns the operation that sets the vertex.
func (g *MoveVertex) Do(c *gesture.Context) (gesture.Result, error) {
	item, err := c.Item(g.Item)
	if err != nil {
		return gesture.Result{}, err
	}
	key := scene.VertexKey(g.Vertex)
	spec := item.Spec(key)
	if spec == nil {
		return gesture.Result{}, fmt.Errorf("%s no longer has a vertex %d", item.Name, g.Vertex)
	}
	world := c.Plan().World(c.Planned.Layout.Index(item.ID))
	back, ok := world.Inverse()
	if !ok {
		return gesture.Result{}, fmt.Errorf("a vertex of %s can't be moved: its scale is zero", item.Name)
	}
	at := back.Apply(g.To)
	var r gesture.Result
	err = put(c, &r, item, key, scene.NewValue(at[:spec.Type.Size()]))
	return r, err
}

// Reshape edits the drawn form of a path. Exactly one of the edits is given.
type Reshape struct {
	Item scene.ID `json:"item"`
	// Handles gives a vertex other handles, in the item's own space.
	Handles *struct {
		Vertex int        `json:"vertex"`
		In     [2]float64 `json:"in"`
		Out    [2]float64 `json:"out"`
	} `json:"handles,omitempty"`
	// Insert puts a vertex on the span that begins at another, a share of the way along it,
	// without changing the line.
	Insert *struct {
		After int     `json:"after"`
		Share float64 `json:"share"`
	} `json:"insert,omitempty"`
	Remove []int `json:"remove,omitempty"` // ids of vertices
	Close  *bool `json:"close"`            // all contours
	Smooth []int `json:"smooth,omitempty"` // vertices that get handles along the line through their neighbours
	Corner []int `json:"corner,omitempty"` // vertices that lose their handles
}

// Do returns the operation that gives the path its new form.
func (g *Reshape) Do(c *gesture.Context) (gesture.Result, error) {
	item, err := c.Item(g.Item)
	if err != nil {
		return gesture.Result{}, err
	}
	if item.Kind != scene.PathItem {
		return gesture.Result{}, fmt.Errorf("%s is not a path and has no vertices to edit; change its size and bend instead", item.Name)
	}
	path := item.Path.Clone()
	switch {
	case g.Handles != nil:
		v, _ := path.Vertex(g.Handles.Vertex)
		if v == nil {
			return gesture.Result{}, gone(item, g.Handles.Vertex)
		}
		v.In, v.Out = g.Handles.In, g.Handles.Out
	case g.Insert != nil:
		if err := insert(c, item, path, g.Insert.After, g.Insert.Share); err != nil {
			return gesture.Result{}, err
		}
	case len(g.Remove) > 0:
		for _, id := range g.Remove {
			drop(path, id)
		}
		if path.Count() == 0 {
			return gesture.Result{}, fmt.Errorf("%s needs at least one vertex; remove the item instead", item.Name)
		}
	case g.Close != nil:
		for k := range path.Contours {
			path.Contours[k].Closed = *g.Close
		}
	default:
		for _, id := range g.Corner {
			if v, _ := path.Vertex(id); v != nil {
				v.In, v.Out = [2]float64{}, [2]float64{}
			}
		}
		for _, id := range g.Smooth {
			smooth(c, item, path, id)
		}
	}
	return gesture.Result{Ops: change.Ops{&change.ItemPath{On: c.On(item.ID), Path: path}}}, nil
}

func gone(item *scene.Item, id int) error {
	return fmt.Errorf("%s no longer has a vertex %d", item.Name, id)
}

func drop(path *scene.PathShape, id int) {
	for k := range path.Contours {
		vs := path.Contours[k].Vertices
		for n := range vs {
			if vs[n].ID == id {
				path.Contours[k].Vertices = append(vs[:n:n], vs[n+1:]...)
				if len(path.Contours[k].Vertices) == 0 {
					path.Contours = append(path.Contours[:k:k], path.Contours[k+1:]...)
				}
				return
			}
		}
	}
}

// span finds a vertex in its contour, with the one before it and the next, where there are such.
func span(path *scene.PathShape, id int) (c *scene.Contour, at, before, next int) {
	for k := range path.Contours {
		c := &path.Contours[k]
		for n := range c.Vertices {
			if c.Vertices[n].ID != id {
				continue
			}
			before, next := n-1, n+1
			if last := len(c.Vertices) - 1; c.Closed {
				before, next = (n+last)%(last+1), (n+1)%(last+1)
			} else if next > last {
				next = -1
			}
			return c, n, before, next
		}
	}
	return nil, -1, -1, -1
}

// stands returns where a vertex stands now: where it was set or is driven to.
func stands(c *gesture.Context, item *scene.Item, v *scene.Vertex) [2]float64 {
	if now := c.Plan().Value(scene.Ref{Item: item.ID, Property: scene.VertexKey(v.ID)}); !now.Absent() {
		return [2]float64{now.At(0), now.At(1)}
	}
	return v.At
}

// insert splits a span where it is, by de Casteljau's rule.
func insert(c *gesture.Context, item *scene.Item, path *scene.PathShape, after int, share float64) error {
	contour, at, _, next := span(path, after)
	if contour == nil {
		return gone(item, after)
	}
	if next < 0 {
		return fmt.Errorf("%s ends at vertex %d; close the path, or choose a place between two vertices", item.Name, after)
	}
	share = max(0.01, min(0.99, share))
	a, b := &contour.Vertices[at], &contour.Vertices[next]
	pa, pb := stands(c, item, a), stands(c, item, b)
	made := scene.Vertex{ID: path.NextID()}
	straight := a.Out == [2]float64{} && b.In == [2]float64{}
	for k := range 2 {
		mix := func(x, y float64) float64 { return x + float64((y-x)*share) }
		p0, p1, p2, p3 := pa[k], pa[k]+a.Out[k], pb[k]+b.In[k], pb[k]
		if straight {
			made.At[k] = mix(p0, p3)
			continue
		}
		q0, q1, q2 := mix(p0, p1), mix(p1, p2), mix(p2, p3)
		r0, r1 := mix(q0, q1), mix(q1, q2)
		made.At[k] = mix(r0, r1)
		a.Out[k], b.In[k] = q0-p0, q2-p3
		made.In[k], made.Out[k] = r0-made.At[k], r1-made.At[k]
	}
	vs := contour.Vertices
	contour.Vertices = append(vs[:at+1:at+1], append([]scene.Vertex{made}, vs[at+1:]...)...)
	return nil
}

// smooth gives a vertex handles a third of the way to its neighbours, along the line through them.
func smooth(c *gesture.Context, item *scene.Item, path *scene.PathShape, id int) {
	contour, at, before, next := span(path, id)
	if contour == nil {
		return
	}
	v := &contour.Vertices[at]
	here := stands(c, item, v)
	from, to := here, here
	if before >= 0 {
		from = stands(c, item, &contour.Vertices[before])
	}
	if next >= 0 {
		to = stands(c, item, &contour.Vertices[next])
	}
	for k := range 2 {
		v.In[k], v.Out[k] = (from[k]-to[k])/6, (to[k]-from[k])/6
	}
	if before < 0 {
		v.In = [2]float64{}
	}
	if next < 0 {
		v.Out = [2]float64{}
	}
}
