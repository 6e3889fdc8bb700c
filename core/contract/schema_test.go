package contract

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"io"
	"os"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"wunderkammer/core/engine"
	"wunderkammer/core/format/pack"
	"wunderkammer/core/scene"
	"wunderkammer/demo"
)

// schemaFile is the schema as it is published.
const schemaFile = "../../docs/project.schema.json"

func compiled(t *testing.T) *jsonschema.Schema {
	t.Helper()
	out, err := jsonschema.NewCompiler().Compile(schemaFile)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func TestThePublishedSchemaIsThatOfTheCore(t *testing.T) {
	want, err := Schema("../..")
	if err != nil {
		t.Fatal(err)
	}
	have, err := os.ReadFile(schemaFile)
	if err != nil || !bytes.Equal(have, want) {
		t.Errorf("docs/project.schema.json is not what the types of Go say (%v): run make contract", err)
	}
}

// What is written is what the schema says, whole projects and parts of them, as a validator finds that knows nothing of us.
func TestPackagesAreAsTheSchemaSays(t *testing.T) {
	schema := compiled(t)
	p, err := demo.Build()
	if err != nil {
		t.Fatal(err)
	}
	p.Sets = []*scene.ControlSet{{ID: "knobs", Name: "Knobs", Controls: p.Compositions[0].Items[0].Controls}}
	for _, part := range []struct {
		of scene.Part
		id scene.ID
	}{{scene.Whole, ""}, {scene.CompositionPart, p.Compositions[1].ID}, {scene.HandOffPart, p.Compositions[0].ID}, {scene.SetPart, "knobs"}} {
		of, err := p.Parted(part.of, part.id)
		if err != nil {
			t.Fatal(err)
		}
		packed, err := pack.WritePart(of, part.of, demo.Files())
		if err != nil {
			t.Fatal(err)
		}
		if err := schema.Validate(document(t, packed)); err != nil {
			t.Errorf("%s %s: %v", part.of, part.id, err)
		}
	}
}

// document reads project.json in a package, as any program would.
func document(t *testing.T, packed []byte) any {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(packed), int64(len(packed)))
	if err != nil {
		t.Fatal(err)
	}
	r, err := z.Open("project.json")
	if err != nil {
		t.Fatal(err)
	}
	data, err := io.ReadAll(r)
	if err != nil {
		t.Fatal(err)
	}
	v, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		t.Fatal(err)
	}
	return v
}

func TestTheSchemaRefusesWhatIsNoProject(t *testing.T) {
	schema := compiled(t)
	whole, err := json.Marshal(pack.Document{Format: "wunderkammer project", Version: pack.Version, Project: scene.NewProject("p", "Quay")})
	if err != nil {
		t.Fatal(err)
	}
	validate := func(text string) error {
		v, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
		if err != nil {
			t.Fatal(err)
		}
		return schema.Validate(v)
	}
	if err := validate(string(whole)); err != nil {
		t.Fatal(err)
	}
	for was, is := range map[string]string{
		`"width":1280`: `"width":"wide"`, `"rate":25,`: ``, `"items":[]`: `"items":[{"id":"a","name":"A","kind":"teapot"}]`,
		`"name":"Quay"`: `"name":"Quay","colour":"red"`, `"background":[0.957,`: `"background":[`, `"compositions":[`: `"part":"kite","compositions":[7,`,
	} {
		text := strings.Replace(string(whole), was, is, 1)
		if text == string(whole) {
			t.Fatalf("%s is not there", was)
		}
		if validate(text) == nil {
			t.Errorf("accepted: %s in place of %s", is, was)
		}
	}
}

// The example of the documentation is a project: it is as the schema says, opens, and moves as its formula says.
func TestTheExampleOfTheFormatOpens(t *testing.T) {
	page, err := os.ReadFile("../../docs/format.md")
	if err != nil {
		t.Fatal(err)
	}
	_, after, _ := strings.Cut(string(page), "```json\n")
	example, _, _ := strings.Cut(after, "```")
	v, err := jsonschema.UnmarshalJSON(strings.NewReader(example))
	if err != nil {
		t.Fatal(err)
	}
	if err := compiled(t).Validate(v); err != nil {
		t.Error(err)
	}
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	w, _ := z.Create("project.json")
	io.WriteString(w, example)
	z.Close()
	opened, err := pack.Read(b.Bytes())
	if err != nil || len(opened.Mended) > 0 {
		t.Fatal(err, opened.Mended)
	}
	plan := engine.New(opened.Project.Compositions[0])
	plan.Evaluate(0)
	if got := plan.Value(scene.Ref{Item: "flag", Property: "rotation"}); got != scene.Num(6) {
		t.Errorf("the flag stands at %v", got)
	}
}
