package format_test

import (
	"flag"
	"os"
	"testing"

	"wunderkammer/core/format"
)

var update = flag.Bool("update", false, "write docs/formats.md anew")

func TestThePageOfFormatsIsUpToDate(t *testing.T) {
	const file = "../../docs/formats.md"
	if *update {
		if err := os.WriteFile(file, []byte(format.Markdown()), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	data, err := os.ReadFile(file)
	if err != nil || string(data) != format.Markdown() {
		t.Errorf("docs/formats.md is not what the table says; run go test ./core/format -run Page -update (%v)", err)
	}
}
