package csv

import (
	"encoding/csv"
	"fmt"
	"io"
	"strconv"
	"strings"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/num"
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

// swinging is a composition of 1,000 properties that formulas drive.
func swinging() (*engine.Plan, []scene.Ref) {
	c := scene.NewComposition("main", "Main")
	c.Frames = 600
	var refs []scene.Ref
	for k := range 500 {
		item := &scene.Item{ID: scene.ID(fmt.Sprintf("i%d", k)), Name: fmt.Sprintf("Lamp %d", k), Kind: scene.Rectangle}
		item.Edit("rotation").Links = []*scene.Link{{ID: scene.ID(fmt.Sprintf("r%d", k)), Kind: scene.Formula, Gain: 1, Formula: fmt.Sprintf("sin(time * 97 + %d) * 31", k)}}
		item.Edit("opacity").Links = []*scene.Link{{ID: scene.ID(fmt.Sprintf("o%d", k)), Kind: scene.Formula, Gain: 1, Formula: fmt.Sprintf("50 + cos(time * 41 - %d) * 23", k)}}
		c.Items = append(c.Items, item)
		refs = append(refs, scene.Ref{Item: item.ID, Property: "rotation"}, scene.Ref{Item: item.ID, Property: "opacity"})
	}
	return engine.New(c), refs
}

// 600 frames of 1,000 properties, against loops written by hand that write the same numbers.
func BenchmarkTable(b *testing.B) {
	plan, refs := swinging()
	b.Run("of a composition", func(b *testing.B) {
		for b.Loop() {
			if err := Write(io.Discard, plan.Layout.Composition, plan, refs, 0, 599); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("by hand", func(b *testing.B) {
		for b.Loop() {
			w := csv.NewWriter(io.Discard)
			row := make([]string, 1001)
			for frame := range 600 {
				t := float64(frame) / 25
				row[0] = strconv.Itoa(frame)
				for k := range 500 {
					sin, _ := num.SinCos(float64(t*97) + float64(k))
					_, cos := num.SinCos(float64(t*41) - float64(k))
					row[2*k+1], row[2*k+2] = scene.Exact(float64(sin*31)), scene.Exact(50+float64(cos*23))
				}
				if err := w.Write(row); err != nil {
					b.Fatal(err)
				}
			}
			w.Flush()
		}
	})
}
