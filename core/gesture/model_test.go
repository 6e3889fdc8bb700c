package gesture_test

import (
	"strings"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/scene"
)

// hull is a triangle, two metres long and one high, on a node that is scaled.
func hull(scale string) []byte {
	return []byte(`{"asset":{"version":"2.0"},"nodes":[{"name":"Keel","mesh":0,"scale":` + scale + `}],"meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
		"buffers":[{"byteLength":36,"uri":"data:;base64,AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAAEAAAAAA"}],"bufferViews":[{"buffer":0,"byteLength":36}],
		"accessors":[{"bufferView":0,"componentType":5126,"type":"VEC3","count":3}]}`)
}

func TestBringModel(t *testing.T) {
	b := newBench(t)
	place := [3]float64{13, -7, 40}
	r := b.do(&items.BringModel{Name: "some folder/Hull 2.gltf", File: hull("[1.5,1,1]"), Place: &place}, 0)
	root := b.c.Item(r.Made[0])
	keel := b.c.Attached(root.ID)[0]
	if root.Name != "Hull 2" || keel.Name != "Keel" || keel.Kind != scene.MeshItem || r.Note != "" {
		t.Fatalf("%q holds %q, a %s; %q", root.Name, keel.Name, keel.Kind, r.Note)
	}
	p := engine.New(b.c)
	p.Evaluate(0)
	i := p.Layout.Index(keel.ID)
	world, top := p.World(i), p.Points(i)[1] // a metre to the right, stretched
	if at := world.Apply(top); at != [3]float64{163, -7, 40} {
		t.Errorf("its corner stands at %v", at)
	}
	if err := keel.Check(); err != nil {
		t.Error(err)
	}
}

// What was modelled in millimetres, or as large as a town, is seen.
func TestAModelOfAnotherSizeIsScaledToFit(t *testing.T) {
	for _, scale := range []string{"[0.003,0.003,0.003]", "[700,700,700]"} {
		b := newBench(t)
		r := b.do(&items.BringModel{Name: "hull.gltf", File: hull(scale)}, 0)
		if !strings.Contains(r.Note, "hull was scaled to ") {
			t.Errorf("%q", r.Note)
		}
		p := engine.New(b.c)
		p.Evaluate(0)
		i := p.Layout.Index(b.c.Attached(r.Made[0])[0].ID)
		world := p.World(i)
		far := 0.0
		for _, at := range p.Points(i) {
			place := world.Apply(at)
			far = max(far, place[1])
		}
		if half := float64(b.c.Height) / 2; far < half*0.3 || far > half*0.9 {
			t.Errorf("scaled by %s it reaches %v px up", scale, far)
		}
	}
}
