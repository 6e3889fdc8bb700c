package out

import (
	"encoding/csv"
	"strings"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/format"
	"wunderkammer/core/scene"
)

func composition() *scene.Composition {
	c := scene.NewComposition("main", "Main")
	c.Frames = 24
	box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}
	box.Edit("rotation").Links = []*scene.Link{{ID: "r", Kind: scene.Formula, Gain: 1, Formula: "frame * 7"}}
	sun := &scene.Item{ID: "sun", Name: "Sun", Kind: scene.Ellipse}
	sun.Edit("opacity").Pins = []scene.Pin{{Frame: 3, Value: scene.Num(40)}, {Frame: 9, Value: scene.Num(70)}}
	crate := &scene.Item{ID: "crate", Name: "Crate", Kind: scene.Box}
	c.Items = []*scene.Item{box, sun, crate}
	return c
}

func all(t *testing.T, a format.Asked) (string, error) {
	w, err := Begin(engine.New(composition()), a)
	if err != nil {
		return "", err
	}
	steps := 0
	for more := true; more; steps++ {
		if more, err = w.Step(); err != nil {
			return "", err
		}
	}
	if done, of := w.Done(); done != of || done != steps {
		t.Errorf("%s: %d of %d after %d steps", a.Format, done, of, steps)
	}
	file, err := w.File()
	return string(file), err
}

func TestEveryFormatThatIsNotDrawnIsWritten(t *testing.T) {
	for _, f := range format.Formats {
		file, err := all(t, format.Asked{Format: f.Key, From: 2, To: 20})
		if f.Drawn {
			if err == nil {
				t.Errorf("%s was written without being drawn", f.Key)
			}
			continue
		}
		begins := map[string]string{"svg": "<svg ", "moving": "<svg ", "lottie": "{", "gltf": "glTF", "csv": "frame,"}[f.Key]
		if err != nil || begins == "" || !strings.HasPrefix(file, begins) {
			t.Errorf("%s: %.20q, %v", f.Key, file, err)
		}
	}
}

func TestATableIsOfWhatMoves(t *testing.T) {
	file, err := all(t, format.Asked{Format: "csv", From: 2, To: 20})
	if err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(strings.NewReader(file)).ReadAll()
	if err != nil || len(rows) != 20 || strings.Join(rows[0], "|") != "frame|Box: rotation|Sun: opacity" || rows[6][1] != "49" || !strings.HasPrefix(rows[6][2], "62.22") {
		t.Errorf("%v, %v", rows, err)
	}
	only, err := all(t, format.Asked{Format: "csv", To: 5, Only: []scene.ID{"sun"}})
	if err != nil || !strings.HasPrefix(only, "frame,Sun: opacity\n") {
		t.Errorf("%q, %v", only, err)
	}
	if _, err := all(t, format.Asked{Format: "csv", To: 5, Only: []scene.ID{"crate"}}); err == nil || !strings.Contains(err.Error(), "nothing of it has links or pins") {
		t.Errorf("%v", err)
	}
}
