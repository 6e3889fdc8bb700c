package openapi

import (
	"bytes"
	"os"
	"testing"
)

func TestTheDescriptionIsThatOfTheTypes(t *testing.T) {
	want, err := Write("../..")
	if err != nil {
		t.Fatal(err)
	}
	have, err := os.ReadFile("../openapi.json")
	if err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(have, want) {
		t.Error("server/openapi.json is not what the types of Go say: run make contract")
	}
	for _, part := range []string{`"/api/projects/{id}/values"`, `"$ref": "#/components/schemas/ControlsSet"`, `"description": "The frame; 0, if absent."`, `"description": "what is wrong, and the way out, in a sentence"`} {
		if !bytes.Contains(want, []byte(part)) {
			t.Errorf("missing: %s", part)
		}
	}
	if _, err := Write("no such folder"); err == nil {
		t.Error("without the sources there are no comments, and that is said")
	}
}
