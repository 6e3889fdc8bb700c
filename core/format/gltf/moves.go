package gltf

import (
	"math"
	"sort"

	"wunderkammer/core/curve"
	"wunderkammer/core/format/brought"
	"wunderkammer/core/format/reel"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// animation is how nodes move over time.
type animation struct {
	Channels []struct {
		Sampler int `json:"sampler"`
		Target  struct {
			Node *int   `json:"node"`
			Path string `json:"path"`
		} `json:"target"`
	} `json:"channels"`
	Samplers []struct {
		Input         int    `json:"input"`
		Output        int    `json:"output"`
		Interpolation string `json:"interpolation"`
	} `json:"samplers"`
}

// channel is how something of a node moves: values at times, and how it gets from one to the next.
type channel struct {
	times  []float64 // seconds
	values []float64 // width for each time; three times as many where it is a spline: how it arrives, itself, how it leaves
	width  int
	way    string
}

// The paths that are read, with how many numbers each has.
var paths = map[string]int{"translation": 3, "rotation": 4, "scale": 3}

// maxMoved bounds the frames of all channels together.
const maxMoved = 2000000

// moving reads the first animation: of each node, what of it moves.
func (r *reader) moving() error {
	r.moves = map[int]map[string]*channel{}
	for k := range r.Animations {
		if k > 0 {
			r.Miss("an animation besides the first")
			continue
		}
		a := &r.Animations[k]
		for _, c := range a.Channels {
			width := paths[c.Target.Path]
			if width == 0 || c.Target.Node == nil {
				r.Miss("a mesh that changes its shape over time")
				continue
			}
			if c.Sampler < 0 || c.Sampler >= len(a.Samplers) {
				return brought.ErrDamaged
			}
			s := a.Samplers[c.Sampler]
			times, _, err := r.numbers(s.Input, "SCALAR")
			if err != nil {
				return err
			}
			values, _, err := r.numbers(s.Output, "VEC3", "VEC4")
			if err != nil {
				return err
			}
			one := &channel{times: times, values: values, width: width, way: s.Interpolation}
			if !one.whole() {
				return brought.ErrDamaged
			}
			if r.moves[*c.Target.Node] == nil {
				r.moves[*c.Target.Node] = map[string]*channel{}
			}
			r.moves[*c.Target.Node][c.Target.Path] = one
		}
	}
	return nil
}

// whole reports whether there is a value for each time, and times rise.
func (c *channel) whole() bool {
	each := c.width
	if c.way == "CUBICSPLINE" {
		each *= 3
	}
	if len(c.times) == 0 || len(c.values) != each*len(c.times) || !sort.Float64sAreSorted(c.times) {
		return false
	}
	for _, list := range [][]float64{c.times, c.values} {
		for _, x := range list {
			if !(math.Abs(x) < 1e6) {
				return false
			}
		}
	}
	return true
}

// at returns the value at a time, held at both ends.
func (c *channel) at(seconds float64) []float64 {
	last := len(c.times) - 1
	k := sort.SearchFloat64s(c.times, seconds)
	if k <= last && c.times[k] == seconds || k == 0 {
		return c.value(min(k, last), 1)
	}
	if k > last {
		return c.value(last, 1)
	}
	k--
	span := c.times[k+1] - c.times[k]
	t := (seconds - c.times[k]) / span
	a, b := c.value(k, 1), c.value(k+1, 1)
	switch {
	case c.way == "STEP":
		return a
	case c.way == "CUBICSPLINE":
		out, leaves, arrives := make([]float64, c.width), c.value(k, 2), c.value(k+1, 0)
		t2, t3 := float64(t*t), float64(t*t*t)
		from := float64(3*t2) - float64(2*t3) // the weights of both ends, and of the ways out of the one and into the other
		to, leave, in := 1-from, float64((t3-float64(2*t2)+t)*span), float64((t3-t2)*span)
		for n := range out {
			out[n] = float64(to*a[n]) + float64(leave*leaves[n]) + float64(from*b[n]) + float64(in*arrives[n])
		}
		return out
	case c.width == 4:
		return between(a, b, t)
	}
	out := make([]float64, c.width)
	for n := range out {
		out[n] = a[n] + float64((b[n]-a[n])*t)
	}
	return out
}

// value is a value of the file; of a spline, the part of it: how it arrives, itself, how it leaves.
func (c *channel) value(k, part int) []float64 {
	if c.way == "CUBICSPLINE" {
		k = 3*k + part
	}
	return c.values[k*c.width : (k+1)*c.width]
}

// between turns evenly from one quaternion to another, the shorter way round.
func between(a, b []float64, t float64) []float64 {
	dot := 0.0
	for n := range a {
		dot += float64(a[n] * b[n])
	}
	sign := 1.0
	if dot < 0 {
		sign, dot = -1, -dot
	}
	p, q := 1-t, t
	if dot < 0.9995 {
		angle := math.Acos(num.Clamp(dot, 0, 1))
		p, q = math.Sin(float64((1-t)*angle))/math.Sin(angle), math.Sin(float64(t*angle))/math.Sin(angle)
	}
	out := make([]float64, 4)
	for n := range out {
		out[n] = float64(p*a[n]) + float64(sign*q*b[n])
	}
	return out
}

// fine is how far pins may lead what is seen from where the file has it, in pixels.
const fine = 0.05

// usual is how far what hangs on a node reaches, in pixels, where that isn't known.
const usual = 500

// animate pins what of a node moves on its item. shift is how far the middle of its parent's item is from the parent's origin, in pixels.
func (r *reader) animate(item *scene.Item, node int, shift [3]float64) {
	wide, seen := float64(usual), float64(usual) // before it is scaled, and after
	if item.Kind == scene.MeshItem {
		size, scale := item.State("size").Own, item.State("scale").OwnOr(item.Spec("scale"))
		wide, seen = 1, 1
		for axis := range 3 {
			wide, seen = max(wide, size.At(axis)/2), max(seen, math.Abs(size.At(axis)*scale.At(axis)/200))
		}
	}
	for _, path := range []string{"translation", "rotation", "scale"} {
		c := r.moves[node][path]
		if c == nil {
			continue
		}
		first := int(math.Floor(float64(r.start) + float64(c.times[0]*r.rate)))
		last := int(math.Ceil(float64(r.start) + float64(c.times[len(c.times)-1]*r.rate)))
		if r.moved += last - first + 1; r.moved > maxMoved || last > scene.MaxFrames || first < -scene.MaxFrames {
			r.Miss("motion beyond what can be worked out")
			return
		}
		rows := make([][]float64, last-first+1)
		for k := range rows {
			rows[k] = c.at(float64(first+k-r.start) / r.rate)
		}
		switch path {
		case "translation":
			r.pin(item, "position", fine, first, mapped(rows, func(v []float64) []float64 {
				return []float64{v[0]/metres - shift[0], v[1]/metres - shift[1], v[2]/metres - shift[2]}
			}))
		case "scale":
			r.pin(item, "scale", 100*fine/wide, first, mapped(rows, func(v []float64) []float64 { return []float64{100 * v[0], 100 * v[1], 100 * v[2]} }))
		default:
			turns := angles(rows)
			for axis, key := range []string{"rotationX", "rotationY", "rotation"} {
				r.pin(item, key, fine/seen*180/math.Pi, first, mapped(turns, func(v []float64) []float64 { return v[axis : axis+1] }))
			}
		}
	}
}

func mapped(rows [][]float64, of func(v []float64) []float64) [][]float64 {
	out := make([][]float64, len(rows))
	for k, v := range rows {
		out[k] = of(v)
	}
	return out
}

// angles are quaternions as rotations about x, y and z in degrees, each as near as can be to the one before, so that turns go on.
func angles(rows [][]float64) [][]float64 {
	out := make([][]float64, len(rows))
	for k, q := range rows {
		m := turned(q, [3]float64{1, 1, 1})
		_, one, _ := m.Parts([3]float64{})
		if k > 0 {
			before := [3]float64(out[k-1])
			other := [3]float64{one[0] + 180, 180 - one[1], one[2] + 180} // the same, said in another way
			one = near(one, before)
			if other = near(other, before); apart(other, before) < apart(one, before) {
				one = other
			}
		}
		out[k] = one[:]
	}
	return out
}

func near(angles, to [3]float64) [3]float64 {
	for k := range angles {
		angles[k] += float64(360 * math.Round((to[k]-angles[k])/360))
	}
	return angles
}

func apart(a, b [3]float64) float64 {
	return math.Abs(a[0]-b[0]) + math.Abs(a[1]-b[1]) + math.Abs(a[2]-b[2])
}

// pin gives a property of an item pins at as few of the frames as a tolerance allows; a value of its own where it stays.
func (r *reader) pin(item *scene.Item, key string, tolerance float64, first int, rows [][]float64) {
	keys := reel.StraightKeys(rows, tolerance)
	value := func(v []float64) scene.Value {
		out := scene.NewValue(v)
		for k := range v {
			out = out.With(k, brought.Tidy(v[k]))
		}
		return out
	}
	state := item.Edit(key)
	if state.Own = value(rows[0]); len(keys) < 2 {
		return
	}
	for _, k := range keys {
		state.Pins = append(state.Pins, scene.Pin{Frame: first + k.Frame, Value: value(rows[k.Frame]), Easing: curve.Linear})
	}
}
