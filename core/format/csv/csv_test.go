package csv

import (
	"encoding/csv"
	"strconv"
	"strings"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

func TestEveryFrameIsARowAndReadsBackExactly(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	item := &scene.Item{ID: "a", Name: `Flag, "red"`, Kind: scene.Rectangle}
	item.Edit("rotation").Links = []*scene.Link{{ID: "f", Kind: scene.Formula, Gain: 1, Formula: "noise(time, 3) * 90"}}
	c.Items = append(c.Items, item)
	plan := engine.New(c)
	var b strings.Builder
	refs := []scene.Ref{{Item: "a", Property: "rotation"}, {Item: "a", Property: "position"}, {Item: "a", Property: "scale", Component: "y"}}
	if err := Write(&b, c, plan, refs, -2, 40); err != nil {
		t.Fatal(err)
	}
	rows, err := csv.NewReader(strings.NewReader(b.String())).ReadAll()
	if err != nil || len(rows) != 44 {
		t.Fatalf("%d rows, %v", len(rows), err)
	}
	if head := strings.Join(rows[0], "|"); head != `frame|Flag, "red": rotation|Flag, "red": position.x|Flag, "red": position.y|Flag, "red": position.z|Flag, "red": scale.y` {
		t.Errorf("the head is %s", head)
	}
	for says, ref := range map[string]scene.Ref{"no longer there": {Item: "gone", Property: "rotation"}, "is a text": {Item: "t", Property: "text"}} {
		c.Items = append(c.Items[:1], &scene.Item{ID: "t", Name: "Sign", Kind: scene.TextItem})
		if err := Write(&b, c, plan, []scene.Ref{ref}, 0, 1); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v: %v", ref, err)
		}
	}
	for i, row := range rows[1:] {
		plan.Evaluate(float64(i - 2))
		got, err := strconv.ParseFloat(row[1], 64)
		if want := plan.Value(refs[0]).At(0); err != nil || got != want || row[0] != strconv.Itoa(i-2) || row[5] != "100" {
			t.Fatalf("row %d: %v, want %v", i, row, want)
		}
	}
}
