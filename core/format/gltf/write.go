package gltf

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"math"

	"wunderkammer/core/format/reel"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

type object map[string]any

// Numbers of the format.
const (
	float32s    = 5126
	uint32s     = 5125
	arrayBuffer = 34962
	indexBuffer = 34963
	jsonChunk   = 0x4E4F534A
	binChunk    = 0x004E4942
	magic       = 0x46546C67
)

// writer gathers a file.
type writer struct {
	tolerance float64
	rate      float64
	bin       bytes.Buffer
	views     []object
	accessors []object
	nodes     []object
	meshes    []object
	materials []object
	lights    []object
	cameras   []object
	samplers  []object
	channels  []object
	unlit     bool
}

// File returns what was recorded as a file.
func (r *Recording) File(o Options) ([]byte, error) {
	c := r.plan.Layout.Composition
	w := &writer{tolerance: o.Tolerance, rate: float64(c.Rate)}
	children := []int{}
	for _, n := range r.nodes {
		for len(n.places) < r.count { // it is not seen any more
			n.places = append(n.places, n.places[len(n.places)-1])
		}
		if len(n.bodies) > 0 {
			n.fill(r.count, n.bodies[len(n.bodies)-1])
		}
		children = append(children, w.node(n))
	}
	scenes := object{"name": c.Name}
	if len(children) > 0 {
		scenes["nodes"] = children
	}
	doc := object{"asset": object{"version": "2.0", "generator": "Wunderkammer"}, "scene": 0, "scenes": []object{scenes}}
	put := func(key string, list []object) {
		if len(list) > 0 {
			doc[key] = list
		}
	}
	put("nodes", w.nodes)
	put("meshes", w.meshes)
	put("materials", w.materials)
	put("cameras", w.cameras)
	put("accessors", w.accessors)
	put("bufferViews", w.views)
	if len(w.channels) > 0 {
		doc["animations"] = []object{{"name": c.Name, "channels": w.channels, "samplers": w.samplers}}
	}
	if w.bin.Len() > 0 {
		doc["buffers"] = []object{{"byteLength": w.bin.Len()}}
	}
	var used []string
	if len(w.lights) > 0 {
		used = append(used, "KHR_lights_punctual")
		doc["extensions"] = object{"KHR_lights_punctual": object{"lights": w.lights}}
	}
	if w.unlit {
		used = append(used, "KHR_materials_unlit")
	}
	if used != nil {
		doc["extensionsUsed"] = used
	}
	text, err := json.Marshal(doc)
	if err != nil {
		return nil, err
	}
	return packed(text, w.bin.Bytes()), nil
}

// packed puts the two chunks of a binary file together.
func packed(text, bin []byte) []byte {
	for len(text)%4 != 0 {
		text = append(text, ' ')
	}
	length := 12 + 8 + len(text)
	if len(bin) > 0 {
		length += 8 + len(bin)
	}
	out := make([]byte, 0, length)
	u32 := func(numbers ...uint32) {
		for _, x := range numbers {
			out = binary.LittleEndian.AppendUint32(out, x)
		}
	}
	u32(magic, 2, uint32(length), uint32(len(text)), jsonChunk)
	out = append(out, text...)
	if len(bin) > 0 {
		u32(uint32(len(bin)), binChunk)
		out = append(out, bin...)
	}
	return out
}

// node writes something in space, and what moves of it.
func (w *writer) node(n *node) int {
	first := n.places[0]
	out := object{"name": n.item.Name, "translation": first.move, "rotation": first.turn, "scale": first.scale}
	at := len(w.nodes)
	w.nodes = append(w.nodes, out)
	switch n.item.Kind.Class() {
	case scene.Solid:
		out["mesh"] = w.mesh(n, at)
		for k := range n.places {
			for c := range 3 {
				n.places[k].scale[c] *= metres // surfaces are in pixels
			}
		}
		out["scale"] = n.places[0].scale
	case scene.Light:
		out["extensions"] = object{"KHR_lights_punctual": object{"light": len(w.lights)}}
		w.lights = append(w.lights, light(n))
	default:
		out["camera"] = len(w.cameras)
		w.cameras = append(w.cameras, object{"name": n.item.Name, "type": "perspective", "perspective": object{"yfov": n.look.lens * math.Pi / 180, "znear": 0.01}})
	}
	reach := 1.0
	if len(n.bodies) > 0 {
		for _, x := range n.bodies[0].Places {
			reach = max(reach, math.Abs(float64(x)))
		}
	}
	rows := func(of func(s *stand) []float64) [][]float64 {
		all := make([][]float64, len(n.places))
		for k := range n.places {
			all[k] = of(&n.places[k])
		}
		return all
	}
	w.animate(at, "translation", "VEC3", rows(func(s *stand) []float64 { return s.move[:] }), w.tolerance*metres)
	w.animate(at, "rotation", "VEC4", rows(func(s *stand) []float64 { return s.turn[:] }), w.tolerance/reach/2)
	if n.item.Kind.Class() == scene.Solid {
		w.animate(at, "scale", "VEC3", rows(func(s *stand) []float64 { return s.scale[:] }), w.tolerance/reach*metres)
	}
	return at
}

// light writes what a light is. Point lights and spots fade with the square of the distance in glTF: they are as bright as here half
// their range away.
func light(n *node) object {
	kinds := map[scene.Kind]string{scene.PointLight: "point", scene.SpotLight: "spot", scene.DirectionalLight: "directional"}
	colour := linear(n.look.colour)
	out := object{"name": n.item.Name, "type": kinds[n.item.Kind], "color": colour[:3]}
	intensity := n.look.intensity * math.Pi * n.look.colour.At(3)
	if n.item.Kind != scene.DirectionalLight {
		away := 5.0
		if n.look.reach > 0 {
			out["range"] = n.look.reach
			away = n.look.reach / 2
		}
		intensity *= away * away
	}
	out["intensity"] = intensity
	if n.item.Kind == scene.SpotLight {
		outer := min(math.Pi/2, max(0.01, n.look.cone*math.Pi/360))
		out["spot"] = object{"outerConeAngle": outer, "innerConeAngle": min(outer-0.001, outer*(1-n.look.softness))}
	}
	return out
}

// linear are the components of a colour as amounts of light (IEC 61966-2-1), and its alpha.
func linear(c scene.Value) [4]float64 {
	light := func(k int) float64 { return num.Clamp(num.Linear(c.At(k)), 0, 1) }
	return [4]float64{light(0), light(1), light(2), num.Clamp(c.At(3), 0, 1)}
}

// mesh writes the surface of an object; where its corners move, with where they move to, and how far they are at each moment.
func (w *writer) mesh(n *node, at int) int {
	first := n.bodies[0]
	primitive := object{
		"attributes": object{
			"POSITION":   w.floats("VEC3", first.Places, true, arrayBuffer),
			"NORMAL":     w.floats("VEC3", first.Normals, false, arrayBuffer),
			"TEXCOORD_0": w.floats("VEC2", flipped(first.UVs), false, arrayBuffer),
		},
		"indices":  w.indices(first.Index),
		"material": w.material(n),
	}
	mesh := object{"name": n.item.Name, "primitives": []object{primitive}}
	if n.whole {
		if shapes := w.shapes(n, at); len(shapes) > 0 {
			primitive["targets"] = shapes
			mesh["weights"] = make([]float64, len(shapes))
		}
	}
	w.meshes = append(w.meshes, mesh)
	return len(w.meshes) - 1
}

// flipped turns places on a picture from bottom up to top down.
func flipped(uvs []float32) []float32 {
	out := make([]float32, len(uvs))
	for k := 0; k+1 < len(uvs); k += 2 {
		out[k], out[k+1] = uvs[k], 1-uvs[k+1]
	}
	return out
}

// shapes writes the surfaces that a surface moves to, as what is added to the first, and the animation of their weights.
func (w *writer) shapes(n *node, at int) (targets []object) {
	rows := make([][]float64, len(n.bodies))
	for k, b := range n.bodies {
		if k > 0 && b == n.bodies[k-1] {
			rows[k] = rows[k-1]
			continue
		}
		rows[k] = make([]float64, len(b.Places))
		for c, x := range b.Places {
			rows[k][c] = float64(x)
		}
	}
	keys := reel.StraightKeys(rows, w.tolerance)
	if len(keys) < 2 {
		return nil
	}
	first := n.bodies[0]
	for _, k := range keys[1:] {
		b := n.bodies[k.Frame]
		targets = append(targets, object{
			"POSITION": w.floats("VEC3", less(b.Places, first.Places), true, arrayBuffer),
			"NORMAL":   w.floats("VEC3", less(b.Normals, first.Normals), false, arrayBuffer),
		})
	}
	weights := make([]float32, 0, len(keys)*len(targets))
	for k := range keys {
		row := make([]float32, len(targets))
		if k > 0 {
			row[k-1] = 1
		}
		weights = append(weights, row...)
	}
	w.channel(at, "weights", keys, w.floats("SCALAR", weights, false, 0))
	return targets
}

func less(a, b []float32) []float32 {
	out := make([]float32, len(a))
	for k := range a {
		out[k] = a[k] - b[k]
	}
	return out
}

func (w *writer) material(n *node) int {
	colour := linear(n.look.colour)
	colour[3] *= n.look.opacity
	out := object{
		"name":                 n.item.Name,
		"doubleSided":          true,
		"pbrMetallicRoughness": object{"baseColorFactor": colour, "metallicFactor": 0, "roughnessFactor": n.look.roughness},
	}
	if colour[3] < 1 {
		out["alphaMode"] = "BLEND"
	}
	if !n.look.lit {
		w.unlit = true
		out["extensions"] = object{"KHR_materials_unlit": object{}}
	}
	w.materials = append(w.materials, out)
	return len(w.materials) - 1
}

// animate writes how something of a node changes, where it does.
func (w *writer) animate(at int, path, kind string, rows [][]float64, tolerance float64) {
	keys := reel.StraightKeys(rows, tolerance)
	if len(keys) < 2 {
		return
	}
	var values []float32
	for _, k := range keys {
		for _, x := range rows[k.Frame] {
			values = append(values, float32(x))
		}
	}
	w.channel(at, path, keys, w.floats(kind, values, false, 0))
}

func (w *writer) channel(at int, path string, keys []reel.Key, values int) {
	seconds := make([]float32, len(keys))
	for n, k := range keys {
		seconds[n] = float32(float64(k.Frame) / w.rate)
	}
	w.channels = append(w.channels, object{"sampler": len(w.samplers), "target": object{"node": at, "path": path}})
	w.samplers = append(w.samplers, object{"input": w.floats("SCALAR", seconds, true, 0), "output": values, "interpolation": "LINEAR"})
}

// floats puts numbers into the buffer, and returns their accessor.
func (w *writer) floats(kind string, numbers []float32, bounds bool, target int) int {
	size := map[string]int{"SCALAR": 1, "VEC2": 2, "VEC3": 3, "VEC4": 4}[kind]
	accessor := object{"componentType": float32s, "type": kind, "count": len(numbers) / size}
	if bounds {
		low, high := make([]float32, size), make([]float32, size)
		copy(low, numbers)
		copy(high, numbers)
		for k, x := range numbers {
			low[k%size], high[k%size] = min(low[k%size], x), max(high[k%size], x)
		}
		accessor["min"], accessor["max"] = low, high
	}
	return w.add(numbers, accessor, target)
}

func (w *writer) indices(index []uint32) int {
	return w.add(index, object{"componentType": uint32s, "type": "SCALAR", "count": len(index)}, indexBuffer)
}

func (w *writer) add(data any, accessor object, target int) int {
	view := object{"buffer": 0, "byteOffset": w.bin.Len()}
	if target != 0 {
		view["target"] = target
	}
	binary.Write(&w.bin, binary.LittleEndian, data) // into memory, which does not fail
	view["byteLength"] = w.bin.Len() - view["byteOffset"].(int)
	accessor["bufferView"] = len(w.views)
	w.views = append(w.views, view)
	w.accessors = append(w.accessors, accessor)
	return len(w.accessors) - 1
}
