package graph_test

import (
	"flag"
	"os"
	"testing"

	"wunderkammer/core/graph"
)

var update = flag.Bool("update", false, "write docs/graph.md anew")

func TestThePageIsUpToDate(t *testing.T) {
	const file = "../../docs/graph.md"
	if *update {
		if err := os.WriteFile(file, []byte(graph.Markdown()), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	data, err := os.ReadFile(file)
	if err != nil || string(data) != graph.Markdown() {
		t.Errorf("docs/graph.md is not what the tables say; run go test ./core/graph -run Page -update (%v)", err)
	}
}
