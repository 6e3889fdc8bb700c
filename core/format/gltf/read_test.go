package gltf

import (
	"bytes"
	"encoding/base64"
	"encoding/binary"
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

func ids() func() scene.ID {
	n := 0
	return func() scene.ID {
		n++
		return scene.ID(fmt.Sprintf("i%d", n))
	}
}

// composed is a composition of items as they were read.
func composed(t *testing.T, items []*scene.Item) *scene.Composition {
	t.Helper()
	c := scene.NewComposition("main", "C")
	c.Items = items
	for _, item := range items {
		if err := item.Check(); err != nil {
			t.Fatalf("%s: %v", item.Name, err)
		}
	}
	return c
}

// corners are the corners of all surfaces, in the composition.
func corners(c *scene.Composition, frame float64) (out [][3]float64) {
	p := engine.New(c)
	p.Evaluate(frame)
	for i := range p.Layout.Items[:p.Layout.Own] {
		if p.Layout.Items[i].Kind.Class() != scene.Solid {
			continue
		}
		world, m := p.World(int32(i)), p.Mesh(int32(i))
		for k := 0; k < len(m.Places); k += 3 {
			out = append(out, world.Apply([3]float64{float64(m.Places[k]), float64(m.Places[k+1]), float64(m.Places[k+2])}))
		}
	}
	return out
}

func TestWhatIsWrittenComesBackWhereItStood(t *testing.T) {
	c := scene.NewComposition("main", "C")
	c.Frames = 41
	arm := &scene.Item{ID: "arm", Name: "Arm", Kind: scene.Null}
	arm.Edit("rotationY").Links = link("37 + frame * 11")
	arm.Edit("rotationX").Own = scene.Num(-12)
	crate := &scene.Item{ID: "crate", Name: "Crate", Kind: scene.Box, Parent: "arm"}
	crate.Edit("position").Own = scene.Pt(130, 40, -70)
	crate.Edit("rotation").Own = scene.Num(23)
	crate.Edit("colour").Own = scene.RGBA(0.8, 0.25, 0.1, 1)
	crate.Edit("roughness").Own = scene.Num(35)
	buoy := &scene.Item{ID: "buoy", Name: "Buoy", Kind: scene.Ball}
	buoy.Edit("scale").Links = link("[150, 70 + frame, 110]")
	buoy.Edit("position").Own = scene.Pt(-210, 15, 5)
	c.Items = []*scene.Item{arm, crate, buoy}
	m, err := Read(exported(t, c), nil, nil, 7, float64(c.Rate), ids())
	if err != nil || len(m.Missed) > 0 {
		t.Fatalf("%v, %q", err, m.Missed)
	}
	back := composed(t, m.Items)
	for frame, far := range map[float64]float64{0: 0.01, 13: 0.3, 31: 0.3, 40: 0.3} {
		is := corners(back, frame+7)
		for _, p := range corners(c, frame) {
			near := math.Inf(1)
			for _, q := range is {
				near = min(near, math.Hypot(math.Hypot(p[0]-q[0], p[1]-q[1]), p[2]-q[2]))
			}
			if near > far {
				t.Fatalf("at frame %v nothing stands at %v; the nearest is %v px away", frame, p, near)
			}
		}
	}
	one := m.Items[0]
	if size := one.State("size").Own; math.Abs(size.At(0)-200) > 1e-3 || one.States["scale"] != nil {
		t.Errorf("it is %v large, at %v", size, one.State("scale").Own)
	}
	if one.Name != "Crate" || one.SolidVertices() != 8 || len(one.Mesh.Index) != 36 {
		t.Errorf("%s has %d vertices and %d triangles", one.Name, one.SolidVertices(), len(one.Mesh.Index)/3)
	}
	if colour := one.State("colour").Own; math.Abs(colour.At(0)-0.8) > 1e-4 || math.Abs(colour.At(1)-0.25) > 1e-4 {
		t.Errorf("it is %v", colour)
	}
	if x := one.State("roughness").Own.At(0); math.Abs(x-35) > 1e-3 {
		t.Errorf("it is rough by %v", x)
	}
	// The faces of a box are flat, those of a ball are smooth: one light direction for each vertex.
	if n := one.Mesh.Normals(); n != 24 {
		t.Errorf("the box has %d normals", n)
	}
	if n, v := m.Items[1].Mesh.Normals(), m.Items[1].SolidVertices(); n != v {
		t.Errorf("the ball has %d normals of %d vertices", n, v)
	}
}

// text is a file in JSON with a buffer of its own.
func text(bin []byte, rest string) []byte {
	return []byte(fmt.Sprintf(`{"asset":{"version":"2.0"},"buffers":[{"byteLength":%d,"uri":"data:application/octet-stream;base64,%s"}],%s}`, len(bin), base64.StdEncoding.EncodeToString(bin), rest))
}

func packedNumbers(numbers ...any) []byte {
	var b bytes.Buffer
	for _, n := range numbers {
		_ = binary.Write(&b, binary.LittleEndian, n)
	}
	return b.Bytes()
}

// A sail of four corners as a strip, in whole numbers, on a boom that is turned, with a pennant of two materials.
func sail() []byte {
	bin := packedNumbers(
		[]int16{0, 0, 0, 0, 3, 0, 0, 0, 0, 5, 0, 0, 3, 5, 0, 0}, // a strip, each corner with two bytes more
		[]uint16{0, 65535, 65535, 65535, 0, 0, 65535, 0},        // where they are on the picture
		[]uint8{0, 1, 2, 3},
		[]float32{0, 0, 2},                     // what is other in the fourth corner
		[]uint16{3, 0},                         // which that is
		[]byte("\x89PNG not really a picture"), // a picture
	)
	return text(bin, `"scene":0,"scenes":[{"nodes":[0]}],
	"nodes":[{"name":"Boom","children":[1],"matrix":[0,1,0,0, -1,0,0,0, 0,0,1,0, 2,0,0,1]},{"mesh":0,"translation":[0,0.7,0]}],
	"meshes":[{"name":"Sail","primitives":[{"mode":5,"indices":2,"attributes":{"POSITION":0,"TEXCOORD_0":1},"material":1},{"mode":5,"indices":2,"attributes":{"POSITION":3},"material":0}]}],
	"materials":[{"name":"Red cloth","pbrMetallicRoughness":{"baseColorFactor":[0.6,0.02,0.03,0.4],"metallicFactor":0},"alphaMode":"BLEND"},
		{"name":"Cloth","pbrMetallicRoughness":{"baseColorTexture":{"index":0,"extensions":{"KHR_texture_transform":{"scale":[2,2]}}},"metallicFactor":0.9,"roughnessFactor":0.3},"normalTexture":{"index":0}}],
	"textures":[{"source":1}],"images":[{"uri":"unused.png"},{"bufferView":5,"mimeType":"image/png"}],
	"accessors":[{"bufferView":0,"componentType":5122,"type":"VEC3","count":4},{"bufferView":1,"componentType":5123,"normalized":true,"type":"VEC2","count":4},
		{"bufferView":2,"componentType":5121,"type":"SCALAR","count":4},
		{"componentType":5126,"type":"VEC3","count":4,"sparse":{"count":1,"indices":{"bufferView":4,"componentType":5123},"values":{"bufferView":3}}}],
	"bufferViews":[{"buffer":0,"byteLength":32,"byteStride":8},{"buffer":0,"byteOffset":32,"byteLength":16},{"buffer":0,"byteOffset":48,"byteLength":4},{"buffer":0,"byteOffset":52,"byteLength":12},{"buffer":0,"byteOffset":64,"byteLength":4},{"buffer":0,"byteOffset":68,"byteLength":25}]`)
}

func TestAModelOfNodesMaterialsAndPictures(t *testing.T) {
	file := sail()
	pictures, err := Pictures(file, nil)
	if err != nil || len(pictures) != 2 || pictures[0].Data != nil || !strings.HasPrefix(string(pictures[1].Data), "\x89PNG") {
		t.Fatalf("%v, %v", err, pictures)
	}
	kept := scene.AssetID(strings.Repeat("ab", 32))
	m, err := Read(file, nil, []scene.AssetID{"", kept}, 0, 25, ids())
	if err != nil {
		t.Fatal(err)
	}
	var names []string
	for _, item := range m.Items {
		names = append(names, fmt.Sprintf("%s/%s", item.Name, item.Kind))
	}
	// The second surface is all in one point but one corner: nothing to be drawn.
	if got := strings.Join(names, " "); got != "Boom/null Sail/mesh" {
		t.Fatal(got)
	}
	c := composed(t, m.Items)
	is := corners(c, 0)
	// The boom stands 2 m to the right and is turned a quarter: (x, y) of the sail, 0.7 m up, become (200 - y - 70, x).
	for k, want := range [][3]float64{{130, 0, 0}, {130, 300, 0}, {-370, 0, 0}, {-370, 300, 0}} {
		near := math.Inf(1)
		for _, q := range is {
			near = min(near, math.Hypot(math.Hypot(want[0]-q[0], want[1]-q[1]), want[2]-q[2]))
		}
		if near > 1e-3 {
			t.Errorf("corner %d is %v px away from %v: %v", k, near, want, is)
		}
	}
	cloth := m.Items[1]
	if len(cloth.Frames) != 1 || cloth.Frames[0].Asset != kept || cloth.SolidVertices() != 4 {
		t.Errorf("it shows %v on %d vertices", cloth.Frames, cloth.SolidVertices())
	}
	for _, corner := range cloth.Mesh.Corners { // the picture's upper edge is at the top of the file's numbers, ours at the top
		if want := float32(cloth.Mesh.Places[3*corner.Point+1] + 0.5); corner.V != want {
			t.Errorf("vertex %d shows its picture at %v, not %v", corner.Point+1, corner.V, want)
		}
	}
	if got := strings.Join(m.Missed, "; "); got != "a picture that is moved on its surface; it lies as it would without; metal; it is shown without its gloss; a picture of bumps, shade or gloss" {
		t.Error(got)
	}
}

// A vertex that is driven moves the surface with it, and what stands of itself is read on.
func TestVerticesOfAMeshAreDriven(t *testing.T) {
	m, err := Read(sail(), nil, nil, 0, 25, ids())
	if err != nil {
		t.Fatal(err)
	}
	c := composed(t, m.Items)
	cloth := m.Items[1]
	cloth.Edit(scene.VertexKey(4)).Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "own + [0, 0, frame * 7]"}}
	p := engine.New(c)
	p.Evaluate(3)
	i := p.Layout.Index(cloth.ID)
	if at := p.Points(i)[3]; at != [3]float64{150, 250, 21} {
		t.Errorf("it stands at %v", at)
	}
	if at := p.Derived(i, scene.WorldVertexKey(4)); math.Abs(at.At(2)-21) > 1e-9 || math.Abs(at.At(0)+370) > 1e-3 {
		t.Errorf("in the composition it stands at %v", at)
	}
}

func TestWhatMovesIsPinnedInEachWay(t *testing.T) {
	half := float32(math.Sqrt(0.5))
	bin := packedNumbers(
		[]float32{0, 0, 0, 1, 0, 0, 0, 1, 0}, // a triangle
		[]float32{0, 1, 2},                   // seconds
		[]float32{0, 0, 0, 3, 0, 0, 3, 2, 0}, // places that are jumped to
		[]float32{0, 0, 0, 1, 1, 1, 0, 0, 0, 0, 0, 0, 3, 3, 3, 0, 0, 0, 0, 0, 0, 1, 1, 1, 0, 0, 0}, // factors of a spline
		[]float32{0, 0, 0, 1, 0, 0, half, half, 0, 0, 1, 0},                                        // turned by 0, 90 and 180 degrees
	)
	file := text(bin, `"nodes":[{"name":"Flag","mesh":0}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
	"accessors":[{"bufferView":0,"componentType":5126,"type":"VEC3","count":3},{"bufferView":1,"componentType":5126,"type":"SCALAR","count":3},
		{"bufferView":2,"componentType":5126,"type":"VEC3","count":3},{"bufferView":3,"componentType":5126,"type":"VEC3","count":9},{"bufferView":4,"componentType":5126,"type":"VEC4","count":3}],
	"bufferViews":[{"buffer":0,"byteLength":36},{"buffer":0,"byteOffset":36,"byteLength":12},{"buffer":0,"byteOffset":48,"byteLength":36},{"buffer":0,"byteOffset":84,"byteLength":108},{"buffer":0,"byteOffset":192,"byteLength":48}],
	"animations":[{"samplers":[{"input":1,"output":2,"interpolation":"STEP"},{"input":1,"output":3,"interpolation":"CUBICSPLINE"},{"input":1,"output":4}],
		"channels":[{"sampler":0,"target":{"node":0,"path":"translation"}},{"sampler":1,"target":{"node":0,"path":"scale"}},{"sampler":2,"target":{"node":0,"path":"rotation"}},{"sampler":0,"target":{"node":0,"path":"weights"}}]},{}]`)
	m, err := Read(file, nil, nil, 10, 20, ids())
	if err != nil {
		t.Fatal(err)
	}
	if got := strings.Join(m.Missed, "; "); got != "a mesh that changes its shape over time; an animation besides the first" {
		t.Error(got)
	}
	p := engine.New(composed(t, m.Items))
	at := func(frame float64, key string) scene.Value {
		p.Evaluate(frame)
		return p.Derived(0, key)
	}
	for _, c := range []struct {
		frame float64
		key   string
		part  int
		want  float64
	}{
		{3, "position", 0, 0}, {29, "position", 0, 0}, {30, "position", 0, 300}, {30, "position", 1, 0}, {77, "position", 1, 200},
		{10, "scale", 0, 100}, {15, "scale", 0, 100 + 200*(3*0.0625-2*0.015625)}, {30, "scale", 0, 300}, {50, "scale", 0, 100},
		{20, "rotation", 0, 45}, {37, "rotation", 0, 121.5}, {50, "rotation", 0, 180},
	} {
		if got := at(c.frame, c.key).At(c.part); math.Abs(got-c.want) > 0.05 {
			t.Errorf("at frame %v its %s is %v, not %v", c.frame, c.key, got, c.want)
		}
	}
	if n := len(m.Items[0].State("rotation").Pins); n > 3 {
		t.Errorf("an even turn has %d pins", n)
	}
}

func TestWhatCantBeRead(t *testing.T) {
	bin := packedNumbers([]float32{0, 0, 0, 1, 0, 0, 0, 1, 0})
	triangle := func(accessor, node, more string) []byte {
		return text(bin, `"nodes":[`+node+`],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],"bufferViews":[{"buffer":0,"byteLength":36}],"accessors":[`+accessor+`]`+more)
	}
	good, node := `{"bufferView":0,"componentType":5126,"type":"VEC3","count":3}`, `{"mesh":0}`
	if _, err := Read(triangle(good, node, ""), nil, nil, 0, 25, ids()); err != nil {
		t.Fatal(err)
	}
	chain := strings.Builder{}
	for k := range 400 {
		fmt.Fprintf(&chain, `{"children":[%d]},`, k+1)
	}
	for says, file := range map[string][]byte{
		"neither glTF nor GLB":               []byte("PK a zip"),
		"not glTF 2.0":                       []byte(`{"asset":{"version":"1.0"}}`),
		"it is glTF 1":                       packedNumbers(uint32(magic), uint32(1), uint32(12)),
		"ends too early":                     packedNumbers(uint32(magic), uint32(2), uint32(99), uint32(80), uint32(jsonChunk), uint32(0)),
		"there is no mesh":                   []byte(`{"asset":{"version":"2.0"}}`),
		"compression and extensions":         triangle(good, node, `,"extensionsRequired":["KHR_draco_mesh_compression"]`),
		"needs hull.bin beside it":           []byte(`{"asset":{"version":"2.0"},"buffers":[{"byteLength":4,"uri":"some%20folder/hull.bin"}]}`),
		"refers to data that isn’t there":    triangle(`{"bufferView":0,"componentType":5126,"type":"VEC3","count":4}`, node, ""),
		"refers to data that isn’t there. 2": triangle(`{"bufferView":0,"byteOffset":-4,"componentType":5126,"type":"VEC3","count":3}`, node, ""),
		"more numbers than can be read. 2":   triangle(`{"bufferView":0,"componentType":5126,"type":"VEC3","count":9223372036854775807}`, node, ""),
		"refers to data that isn’t there. 4": triangle(good, `{"children":[1]},{"children":[0]}`, `,"scenes":[{"nodes":[0]}]`),
		"refers to data that isn’t there. 5": triangle(good, chain.String()+node, ""),
		"more numbers than can be read":      triangle(`{"componentType":5126,"type":"VEC3","count":5600000}`, node, ""),
		"too large to be drawn":              text(packedNumbers([]float32{0, 0, 0, float32(math.Inf(1)), 0, 0, 0, 1, 0}), `"nodes":[{"mesh":0}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],"bufferViews":[{"buffer":0,"byteLength":36}],"accessors":[`+good+`]`),
		"too far away":                       triangle(good, `{"mesh":0,"translation":[1e300,0,0]}`, ""),
	} {
		began := time.Now()
		want, _, _ := strings.Cut(says, ". ")
		if _, err := Read(file, nil, nil, 0, 25, ids()); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v", says, err)
		}
		if d := time.Since(began); d > 5*time.Second {
			t.Errorf("%q took %v", says, d)
		}
	}
}

// Whatever is read makes items that can be kept and drawn.
func FuzzRead(f *testing.F) {
	f.Add(sail())
	f.Add(packed([]byte(`{"asset":{"version":"2.0"},"nodes":[{"mesh":0}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],"buffers":[{"byteLength":36}],"bufferViews":[{"buffer":0,"byteLength":36}],"accessors":[{"bufferView":0,"componentType":5126,"type":"VEC3","count":3}]}`), packedNumbers([]float32{0, 0, 0, 1, 0, 0, 0, 1, 0})))
	f.Fuzz(func(t *testing.T, file []byte) {
		if _, err := Pictures(file, nil); err != nil {
			return
		}
		m, err := Read(file, nil, nil, 0, 25, ids())
		if err != nil {
			return
		}
		corners(composed(t, m.Items), 3)
	})
}
