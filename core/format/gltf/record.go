// Package gltf writes what stands in space of a composition as binary glTF 2.0: objects, lights and cameras, with what moves of
// them as keys, as few as a tolerance allows.
package gltf

import (
	"math"
	"slices"

	"wunderkammer/core/engine"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
	"wunderkammer/core/solid"
)

// Options say how a file is written.
type Options struct {
	Tolerance float64 // how far anything may be off, in pixels of the composition
}

// Recording takes in what stands in space, frame by frame.
type Recording struct {
	plan  *engine.Plan
	from  int
	count int
	done  int
	nodes []*node
	known map[shown]*node
}

// shown tells an item from itself as a copy shows it.
type shown struct{ item, lane int32 }

// node is something in space.
type node struct {
	item   *scene.Item
	places []stand // one for each frame
	look   look    // at the first frame at which it is seen
	// bodies are the surfaces of an object, one for each frame; the same where nothing changed. None where its pieces change.
	bodies []*solid.Mesh
	whole  bool // its pieces are the same throughout
}

// stand is where a node stands at a frame: metres, a quaternion, and factors.
type stand struct {
	move  [3]float64
	turn  [4]float64
	scale [3]float64
}

// look is what does not move of a node.
type look struct {
	colour    scene.Value
	opacity   float64
	roughness float64
	lit       bool
	intensity float64 // 1 shows a surface that faces it in its own colour
	reach     float64 // of a light, in metres; 0 is endless
	cone      float64 // the whole angle of a spot, in degrees
	softness  float64 // 0 to 1
	lens      float64 // degrees, from top to bottom
}

// metres is how many a pixel is: glTF counts in metres.
const metres = 0.01

// Record begins to take in the frames from one to another.
func Record(p *engine.Plan, from, to int) *Recording {
	return &Recording{plan: p, from: from, count: to - from + 1, known: map[shown]*node{}}
}

// Done returns how many of how many frames are in.
func (r *Recording) Done() (done, of int) { return r.done, r.count }

// Step takes in the next frame, and reports whether there are more.
func (r *Recording) Step() (more bool, err error) {
	p, l := r.plan, r.plan.Layout
	p.Evaluate(float64(r.from + r.done))
	for _, i := range l.Painted() {
		p.Pause()
		switch {
		case !p.Shown(i) || l.Out[i]:
		case l.Items[i].Kind == scene.CopiesItem:
			p.Copies(i, func(c *engine.Copied) {
				if !l.Out[c.Item] {
					r.see(c.Item, c.Lane, c)
				}
			})
		default:
			r.see(i, -1, p.Alone(i))
		}
	}
	r.done++
	return r.done < r.count, nil
}

// see takes in an item, if it stands in space.
func (r *Recording) see(i, lane int32, by *engine.Copied) {
	item := r.plan.Layout.Items[i]
	class := item.Kind.Class()
	if class != scene.Solid && class != scene.Light && class != scene.Lens || item.Kind == scene.AmbientLight {
		return
	}
	if class == scene.Lens && r.plan.Layout.Staged(i) { // nothing is seen through the camera of a piece
		return
	}
	key := shown{i, lane}
	n := r.known[key]
	if n == nil {
		n = &node{item: item, whole: true, look: r.look(i, by)}
		r.known[key] = n
		r.nodes = append(r.nodes, n)
	}
	world := r.plan.World(i)
	if class == scene.Light || class == scene.Lens {
		world = r.aimed(i, &world)
	}
	var before *stand
	if len(n.places) > 0 {
		before = &n.places[len(n.places)-1]
	}
	now := standing(&world, before)
	for len(n.places) < r.done { // it was not seen: it stands where it is seen first, or was seen last
		if before != nil {
			n.places = append(n.places, *before)
		} else {
			n.places = append(n.places, now)
		}
	}
	n.places = append(n.places, now)
	if class == scene.Solid {
		r.take(n, i)
	}
}

// take takes in the surface of an object.
func (r *Recording) take(n *node, i int32) {
	mesh := r.plan.Mesh(i)
	if len(n.bodies) > 0 {
		last := n.bodies[len(n.bodies)-1]
		switch {
		case slices.Equal(last.Places, mesh.Places):
			mesh = *last
			n.fill(r.done, last)
			n.bodies = append(n.bodies, last)
			return
		case len(last.Places) != len(mesh.Places) || len(last.Index) != len(mesh.Index):
			n.whole = false
		}
	}
	n.fill(r.done, &mesh)
	n.bodies = append(n.bodies, &mesh)
}

// fill lets a node have the surface that it has next at frames at which it was not seen.
func (n *node) fill(until int, mesh *solid.Mesh) {
	for len(n.bodies) < until {
		n.bodies = append(n.bodies, mesh)
	}
}

func (r *Recording) look(i int32, by *engine.Copied) look {
	item := r.plan.Layout.Items[i]
	value := func(key string) scene.Value { return r.plan.ValueOf(i, key) }
	n := func(key string) float64 { return value(key).At(0) }
	switch item.Kind.Class() {
	case scene.Light:
		return look{colour: value("colour"), intensity: n("intensity") / 100, reach: n("range") * metres, cone: n("coneAngle"), softness: n("coneSoftness") / 100}
	case scene.Lens:
		return look{lens: n("lensAngle")}
	}
	return look{colour: by.Dyed(value("colour")), opacity: n("opacity") / 100 * by.Opacity, roughness: n("roughness") / 100, lit: n("lit") != 0}
}

// aimed is the transform of what looks at its target: its own z axis points away from that, as glTF has it.
func (r *Recording) aimed(i int32, world *num.Affine) num.Affine {
	item := r.plan.Layout.Items[i]
	value := func(key string) [3]float64 {
		v := r.plan.ValueOf(i, key)
		return [3]float64{v.At(0), v.At(1), v.At(2)}
	}
	pivot := value("pivot")
	from := world.Apply(pivot)
	if item.Kind == scene.PointLight {
		return num.Affine{1, 0, 0, from[0], 0, 1, 0, from[1], 0, 0, 1, from[2]}
	}
	target, position := value("target"), value("position")
	ahead := [3]float64{target[0] - position[0], target[1] - position[1], target[2] - position[2]}
	if length(ahead) < 1e-6 {
		ahead[2] = -1
	}
	to := world.Apply([3]float64{pivot[0] + ahead[0], pivot[1] + ahead[1], pivot[2] + ahead[2]})
	up := [3]float64{world[1], world[5], world[9]}
	z := unit([3]float64{from[0] - to[0], from[1] - to[1], from[2] - to[2]}, [3]float64{0, 0, 1})
	x := num.Cross(up, z)
	if length(x) < 1e-6 {
		x = num.Cross([3]float64{0, 0, 1}, z)
	}
	x = unit(x, [3]float64{1, 0, 0})
	y := num.Cross(z, x)
	return num.Affine{x[0], y[0], z[0], from[0], x[1], y[1], z[1], from[1], x[2], y[2], z[2], from[2]}
}

func length(a [3]float64) float64 { return math.Sqrt(num.Scalar(a, a)) }

// unit has the direction of a vector, or of another where it has none.
func unit(a, instead [3]float64) [3]float64 {
	if u, ok := num.Unit(a); ok {
		return u
	}
	return instead
}

// standing takes a transform apart, as near to the one before as can be. What is sheared stands as it would without that.
func standing(w *num.Affine, before *stand) stand {
	x, y, z := [3]float64{w[0], w[4], w[8]}, [3]float64{w[1], w[5], w[9]}, [3]float64{w[2], w[6], w[10]}
	out := stand{move: [3]float64{w[3] * metres, w[7] * metres, w[11] * metres}, scale: [3]float64{length(x), length(y), length(z)}}
	e := w.Basis()
	if num.Scalar(e[2], z) < 0 { // it is mirrored
		out.scale[2] = -out.scale[2]
	}
	out.turn = quaternion(e[0], e[1], e[2])
	if before != nil {
		along := 0.0
		for k, q := range out.turn {
			along += float64(q * before.turn[k])
		}
		if along < 0 {
			for k := range out.turn {
				out.turn[k] = -out.turn[k]
			}
		}
	}
	return out
}

// quaternion is the turn that leads the axes onto three others: x, y, z, w. (Shepperd's method.)
func quaternion(x, y, z [3]float64) [4]float64 {
	var q [4]float64
	switch trace := x[0] + y[1] + z[2]; {
	case trace > 0:
		s := 2 * math.Sqrt(1+trace)
		q = [4]float64{(y[2] - z[1]) / s, (z[0] - x[2]) / s, (x[1] - y[0]) / s, s / 4}
	case x[0] > y[1] && x[0] > z[2]:
		s := 2 * math.Sqrt(1+x[0]-y[1]-z[2])
		q = [4]float64{s / 4, (y[0] + x[1]) / s, (z[0] + x[2]) / s, (y[2] - z[1]) / s}
	case y[1] > z[2]:
		s := 2 * math.Sqrt(1+y[1]-x[0]-z[2])
		q = [4]float64{(y[0] + x[1]) / s, s / 4, (z[1] + y[2]) / s, (z[0] - x[2]) / s}
	default:
		s := 2 * math.Sqrt(1+z[2]-x[0]-y[1])
		q = [4]float64{(z[0] + x[2]) / s, (z[1] + y[2]) / s, s / 4, (x[1] - y[0]) / s}
	}
	l := math.Sqrt(float64(q[0]*q[0]) + float64(q[1]*q[1]) + float64(q[2]*q[2]) + float64(q[3]*q[3]))
	for k := range q {
		q[k] /= l
	}
	return q
}
