package gltf

import (
	"encoding/binary"
	"encoding/json"
	"math"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

// file is what the tests read of a file.
type file struct {
	Nodes []struct {
		Name        string     `json:"name"`
		Translation [3]float64 `json:"translation"`
		Mesh        *int       `json:"mesh"`
	} `json:"nodes"`
	Meshes []struct {
		Primitives []struct {
			Targets []map[string]int `json:"targets"`
		} `json:"primitives"`
	} `json:"meshes"`
	Materials  []map[string]any `json:"materials"`
	Animations []struct {
		Channels []struct {
			Sampler int `json:"sampler"`
			Target  struct {
				Node int    `json:"node"`
				Path string `json:"path"`
			} `json:"target"`
		} `json:"channels"`
		Samplers []struct{ Input, Output int } `json:"samplers"`
	} `json:"animations"`
	Accessors []struct {
		View  int    `json:"bufferView"`
		Count int    `json:"count"`
		Type  string `json:"type"`
	} `json:"accessors"`
	Views []struct {
		Offset int `json:"byteOffset"`
		Length int `json:"byteLength"`
	} `json:"bufferViews"`
	Extensions map[string]struct {
		Lights []map[string]any `json:"lights"`
	} `json:"extensions"`
	bin []byte
}

func (f *file) floats(accessor int) (out []float32) {
	v := f.Views[f.Accessors[accessor].View]
	for at := v.Offset; at < v.Offset+v.Length; at += 4 {
		out = append(out, math.Float32frombits(binary.LittleEndian.Uint32(f.bin[at:])))
	}
	return out
}

// keys are the times and values that something of a node has.
func (f *file) keys(node int, path string) (times, values []float32) {
	for _, c := range f.Animations[0].Channels {
		if c.Target.Node == node && c.Target.Path == path {
			s := f.Animations[0].Samplers[c.Sampler]
			return f.floats(s.Input), f.floats(s.Output)
		}
	}
	return nil, nil
}

// exported is the file of a composition.
func exported(t *testing.T, c *scene.Composition) []byte {
	t.Helper()
	r := Record(engine.New(c), 0, c.Frames-1)
	for more := true; more; {
		more, _ = r.Step()
	}
	data, err := r.File(Options{Tolerance: 0.1})
	if err != nil {
		t.Fatal(err)
	}
	return data
}

func written(t *testing.T, c *scene.Composition) (f file) {
	t.Helper()
	data := exported(t, c)
	length := binary.LittleEndian.Uint32(data[12:])
	if err := json.Unmarshal(data[20:20+length], &f); err != nil || int(binary.LittleEndian.Uint32(data[8:])) != len(data) {
		t.Fatalf("%v, %d bytes", err, len(data))
	}
	if rest := data[20+length:]; len(rest) > 0 {
		f.bin = rest[8:]
	}
	return f
}

func link(formula string) []*scene.Link {
	return []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: formula}}
}

func TestObjectsMoveInMetresAndSeconds(t *testing.T) {
	c := scene.NewComposition("main", "C")
	c.Frames, c.Rate = 41, 20
	arm := &scene.Item{ID: "arm", Name: "Arm", Kind: scene.Null}
	arm.Edit("rotationY").Links = link("frame * 3")
	crate := &scene.Item{ID: "crate", Name: "Crate", Kind: scene.Box, Parent: "arm"}
	crate.Edit("position").Own = scene.Pt(130, 40, 0)
	crate.Edit("lit").Own = scene.Num(0)
	crate.Edit("opacity").Own = scene.Num(35)
	guide := &scene.Item{ID: "guide", Name: "Guide", Kind: scene.Ball, NotInOutput: true}
	c.Items = []*scene.Item{arm, crate, guide}
	f := written(t, c)
	if len(f.Nodes) != 1 || f.Nodes[0].Translation != [3]float64{1.3, 0.4, 0} || len(f.Meshes) != 1 {
		t.Fatalf("%+v", f.Nodes)
	}
	times, places := f.keys(0, "translation")
	if n := len(times); n < 5 || n > 41 || times[n-1] != 2 || len(places) != 3*n {
		t.Fatalf("keys at %v", times)
	}
	// Two seconds are 120 degrees about y: x = 1.3 cos, z = -1.3 sin.
	last := places[len(places)-3:]
	if math.Abs(float64(last[0])+0.65) > 1e-5 || math.Abs(float64(last[1])-0.4) > 1e-6 || math.Abs(float64(last[2])+1.3*math.Sqrt(3)/2) > 1e-5 {
		t.Errorf("at the end it is at %v", last)
	}
	_, turns := f.keys(0, "rotation")
	if q := turns[len(turns)-4:]; math.Abs(math.Abs(float64(q[1]))-math.Sqrt(3)/2) > 1e-5 || math.Abs(math.Abs(float64(q[3]))-0.5) > 1e-5 {
		t.Errorf("at the end it is turned by %v", q)
	}
	if times, _ := f.keys(0, "scale"); times != nil {
		t.Errorf("its size has keys at %v", times)
	}
	m := f.Materials[0]
	if m["alphaMode"] != "BLEND" || m["extensions"].(map[string]any)["KHR_materials_unlit"] == nil {
		t.Errorf("%v", m)
	}
}

func TestCornersThatAreDrivenMoveTheSurface(t *testing.T) {
	c := scene.NewComposition("main", "C")
	c.Frames = 30
	ball := &scene.Item{ID: "ball", Name: "Ball", Kind: scene.Ball}
	ball.Edit("bend").Links = link("if(frame < 10, 0, 70)")
	c.Items = []*scene.Item{ball}
	f := written(t, c)
	targets := f.Meshes[0].Primitives[0].Targets
	times, weights := f.keys(0, "weights")
	if len(targets) < 1 || len(targets) > 3 || len(weights) != len(times)*len(targets) || weights[len(weights)-1] != 1 || weights[0] != 0 {
		t.Fatalf("%d shapes, weights %v at %v", len(targets), weights, times)
	}
	far := 0.0
	for _, x := range f.floats(targets[len(targets)-1]["POSITION"]) {
		far = max(far, math.Abs(float64(x)))
	}
	if far < 5 {
		t.Errorf("it bends by %v px", far)
	}
}

func TestLightsAndCamerasLookAtTheirTargets(t *testing.T) {
	c := scene.NewComposition("main", "C")
	c.Frames = 2
	spot := &scene.Item{ID: "spot", Name: "Spot", Kind: scene.SpotLight}
	spot.Edit("position").Own = scene.Pt(0, 300, 0)
	spot.Edit("target").Own = scene.Pt(0, -100, 0)
	spot.Edit("range").Own = scene.Num(800)
	spot.Edit("coneAngle").Own = scene.Num(50)
	c.Items = []*scene.Item{spot, {ID: "all", Name: "All", Kind: scene.AmbientLight}}
	r := Record(engine.New(c), 0, 1)
	r.Step()
	q := r.nodes[0].places[0].turn
	// The way ahead, -z turned by the quaternion, is straight down.
	x, y, z, w := q[0], q[1], q[2], q[3]
	ahead := [3]float64{-(2 * (x*z + w*y)), -(2 * (y*z - w*x)), -(1 - 2*(x*x+y*y))}
	if math.Abs(ahead[0]) > 1e-9 || math.Abs(ahead[1]+1) > 1e-9 || math.Abs(ahead[2]) > 1e-9 {
		t.Errorf("it looks along %v", ahead)
	}
	f := written(t, c)
	lights := f.Extensions["KHR_lights_punctual"].Lights
	if len(lights) != 1 || lights[0]["type"] != "spot" || lights[0]["range"] != 8.0 || math.Abs(lights[0]["spot"].(map[string]any)["outerConeAngle"].(float64)-25*math.Pi/180) > 1e-9 {
		t.Errorf("%v", lights)
	}
	if i := lights[0]["intensity"].(float64); math.Abs(i-16*math.Pi) > 1e-9 {
		t.Errorf("it is %v candela bright", i)
	}
}
