package pack

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"strings"
	"testing"

	"wunderkammer/core/format/media"
	"wunderkammer/core/scene"
)

// A part is a package like any other, with the pictures that it shows and no others.
func TestAPartIsAPackageOfItsOwn(t *testing.T) {
	p, files := sample()
	other, err := media.Encode(image.NewNRGBA(image.Rect(0, 0, 7, 4)))
	if err != nil {
		t.Fatal(err)
	}
	side := scene.NewComposition("side", "Side")
	side.Items = []*scene.Item{{ID: "kite", Name: "Kite", Kind: scene.Picture, Frames: []scene.Frame{{Asset: other.ID}}}, {ID: "shown", Name: "Shown", Kind: scene.Piece, Piece: &scene.Shown{Composition: "main"}}}
	p.Compositions = append(p.Compositions, side)
	p.Sets = []*scene.ControlSet{{ID: "set", Name: "Knobs", Controls: p.Compositions[0].Items[0].Controls}}
	p.Join()
	files = append(files, other)
	for _, try := range []struct {
		part  scene.Part
		of    scene.ID
		holds string
		files int
	}{
		{scene.CompositionPart, "main", "Composition 1", 1},
		{scene.CompositionPart, "side", "Side, Composition 1", 2},
		{scene.SetPart, "set", "Composition 1", 0},
		{scene.Whole, "", "Composition 1, Side", 2},
	} {
		of, err := p.Parted(try.part, try.of)
		if err != nil {
			t.Fatal(err)
		}
		data, err := WritePart(of, try.part, files)
		if err != nil {
			t.Fatal(err)
		}
		back, err := Read(data)
		if err != nil {
			t.Fatalf("%s %s: %v", try.part, try.of, err)
		}
		var names []string
		for _, c := range back.Project.Compositions {
			names = append(names, c.Name)
		}
		if got := strings.Join(names, ", "); got != try.holds || len(back.Files) != try.files || back.Part != try.part || len(back.Missing) > 0 {
			t.Errorf("%s %s: %s with %d files, missing %v", back.Part, try.of, got, len(back.Files), back.Missing)
		}
		again, err := WritePart(back.Project, back.Part, back.Files)
		if err != nil || !bytes.Equal(again, data) {
			t.Errorf("%s %s: saved again, it differs (%v)", try.part, try.of, err)
		}
	}
	if _, err := p.Parted(scene.SetPart, "main"); err == nil || !strings.Contains(err.Error(), "no such set") {
		t.Errorf("a set that is not there: %v", err)
	}
}

// What was saved by itself as JSON opens as the part that it is.
func TestRecipesAndSetsOfEarlierVersionsOpen(t *testing.T) {
	item := `{"id":"a","name":"Vane","kind":"rectangle","states":{}}`
	recipe := func(version int) string {
		return fmt.Sprintf(`{"format":"wunderkammer recipe","version":%d,"recipe":{"id":"r","name":"Vane","items":[%s]}}`, version, item)
	}
	set := func(controls string) string {
		return `{"wunderkammer":"set of controls","name":"Knobs","controls":[` + controls + `]}`
	}
	knob := `{"id":"k","name":"Knob","kind":"fader","default":3,"softMax":7}`
	for _, whole := range []struct {
		text string
		part scene.Part
	}{{recipe(1), scene.RecipePart}, {" \n" + recipe(2), scene.RecipePart}, {set(knob), scene.SetPart}} {
		back, err := Read([]byte(whole.text))
		if err != nil {
			t.Errorf("%s: %v", whole.text, err)
			continue
		}
		if err := back.Project.Check(); err != nil || back.Part != whole.part || len(back.Project.Recipes)+len(back.Project.Sets) != 1 {
			t.Errorf("%s, %v", back.Part, err)
		}
	}
	for text, says := range map[string]string{
		recipe(3):              "newer version",
		set(""):                "has 0 controls",
		set(knob + "," + knob): "occurs twice",
		`{"a":1}`:              "is not a Wunderkammer project",
		`{"format":"wunderkammer recipe","recipe":{"id":"r","name":"Vane"}}`: "recipe in the file is broken",
		`{"format":`: "can't be read",
		`{"wunderkammer":"set of controls","controls":` + strings.Repeat("[", 300): "nested",
	} {
		if _, err := Read([]byte(text)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v, want %q", text, err, says)
		}
	}
	// A word that names no part is refused, as is what a newer version wrote.
	p, _ := sample()
	for key, says := range map[string]string{`"part":"kite"`: `"kite" is no part`, `"version":99`: "newer version"} {
		d, _ := json.Marshal(Document{Format: FormatName, Version: Version, Project: p})
		text := strings.Replace(string(d), fmt.Sprintf(`"version":%d`, Version), key+map[bool]string{true: "", false: fmt.Sprintf(`,"version":%d`, Version)}[strings.Contains(key, "version")], 1)
		if _, err := Read(zipped(t, documentName, text)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v", key, err)
		}
	}
}
