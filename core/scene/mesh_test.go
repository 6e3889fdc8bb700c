package scene

import (
	"encoding/json"
	"math"
	"reflect"
	"strings"
	"testing"
)

func TestAMeshIsPackedAsOneText(t *testing.T) {
	item := &Item{ID: "gem", Name: "Gem", Kind: MeshItem, Mesh: Gem()}
	item.Mesh.Places[4] = -0.3125
	item.Mesh.Corners[7].U = 3.75
	data, err := json.Marshal(item)
	if err != nil {
		t.Fatal(err)
	}
	var back Item
	if err := json.Unmarshal(data, &back); err != nil || !reflect.DeepEqual(item, &back) {
		t.Fatalf("%v: %s", err, data)
	}
	if err := back.Check(); err != nil {
		t.Error(err)
	}
	copied := item.Clone()
	if copied.Mesh != item.Mesh {
		t.Error("a copy has a surface of its own, though it never changes")
	}
}

// Each face of the gem looks away from its middle.
func TestAGemLooksOutward(t *testing.T) {
	m := Gem()
	for k := 0; k < len(m.Index); k += 3 {
		var p [3][3]float64
		for c := range 3 {
			for axis := range 3 {
				p[c][axis] = float64(m.Places[3*m.Corners[m.Index[k+c]].Point+int32(axis)])
			}
		}
		volume := 0.0
		for a := range 3 {
			b, c := (a+1)%3, (a+2)%3
			volume += p[0][a] * (p[1][b]*p[2][c] - p[1][c]*p[2][b])
		}
		if volume <= 0 {
			t.Errorf("face %d looks inward", k/3)
		}
	}
}

func TestADamagedMeshIsRefused(t *testing.T) {
	good, err := Gem().MarshalText()
	if err != nil {
		t.Fatal(err)
	}
	for name, text := range map[string]string{
		"nothing": "", "no base64": "?", "another form": "Ag==", "a count that is not there": "Af///////////wE=",
		"one that ends too early": string(good[:len(good)-4]), "one that goes on": string(good) + "AAAA",
	} {
		var m MeshShape
		if err := m.UnmarshalText([]byte(text)); err == nil || !strings.Contains(err.Error(), "import its file again") {
			t.Errorf("%s: %v", name, err)
		}
	}
	for name, spoil := range map[string]func(m *MeshShape){
		"a corner of no vertex":    func(m *MeshShape) { m.Corners[3].Point = 6 },
		"a negative normal":        func(m *MeshShape) { m.Corners[3].Normal = -1 },
		"a triangle of no corner":  func(m *MeshShape) { m.Index[2] = 24 },
		"a place that is none":     func(m *MeshShape) { m.Places[2] = float32(math.NaN()) },
		"a place outside its size": func(m *MeshShape) { m.Places[2] = 7 },
		"two corners of a face":    func(m *MeshShape) { m.Index = m.Index[:5] },
	} {
		m := Gem()
		spoil(m)
		if m.Check() == nil {
			t.Errorf("%s is taken", name)
		}
	}
	large := &MeshShape{Places: make([]float32, 3*(MaxVertices+1))}
	if err := large.Check(); err == nil || !strings.Contains(err.Error(), "50001 vertices") {
		t.Error(err)
	}
}
