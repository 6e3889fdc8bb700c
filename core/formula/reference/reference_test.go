package reference

import (
	"flag"
	"os"
	"testing"
)

var update = flag.Bool("update", false, "write docs/formula.md anew")

func TestTheReferenceIsUpToDate(t *testing.T) {
	const file = "../../../docs/formula.md"
	if *update {
		if err := os.WriteFile(file, []byte(Markdown()), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	data, err := os.ReadFile(file)
	if err != nil || string(data) != Markdown() {
		t.Errorf("docs/formula.md is not what the tables say; run go test ./core/formula/reference -run Reference -update (%v)", err)
	}
}
