package gesture_test

import (
	"strings"
	"testing"

	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// A property that nobody has touched has its default where all others of its kind have it. Whether a formula on it would run in a circle
// is a question of the item, all the same.
func TestALoopThroughWhatNobodyTouched(t *testing.T) {
	crates := []*scene.Item{{ID: "a", Name: "A", Kind: scene.Rectangle}, {ID: "b", Name: "B", Kind: scene.Rectangle}, {ID: "c", Name: "C", Kind: scene.Rectangle}}
	crates[1].Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Gain: 3, Source: scene.Ref{Item: "a", Property: "strokeWidth"}}}
	b := newBench(t, crates...)
	width := func(item scene.ID) scene.Ref { return scene.Ref{Item: item, Property: "strokeWidth"} }
	r := b.do(&wiring.Formula{Targets: []scene.Ref{width("a"), width("b"), width("c")}, Text: "{B: rotation} * 0.2 + 1.7"}, 0)
	if !strings.Contains(r.Note, "loop") || !strings.Contains(r.Note, "A: stroke width") {
		t.Errorf("the note is %q", r.Note)
	}
	for item, kept := range map[scene.ID]bool{"a": false, "b": true, "c": true} {
		l := b.c.Item(item).State("strokeWidth").Links[0]
		if made := l.Draft == "" && l.Formula != ""; made != kept {
			t.Errorf("%s: the formula is %q, as typed %q", item, l.Formula, l.Draft)
		}
	}
	// Of itself, it is one as well.
	if r := b.do(&wiring.Formula{Targets: []scene.Ref{{Item: "c", Property: "cornerRadius"}}, Text: "{C: corner radius} + 2.3"}, 0); !strings.Contains(r.Note, "loop") {
		t.Errorf("the note is %q", r.Note)
	}
	// The weight of a link was never set, and stands nowhere yet: what it weighs waits for it, all the same.
	if r := b.do(&wiring.Formula{Targets: []scene.Ref{{Item: "b", Property: scene.WeightKey("l")}}, Text: "{B: rotation} * 0.4"}, 0); !strings.Contains(r.Note, "loop") {
		t.Errorf("the note is %q", r.Note)
	}
	if r := b.do(&wiring.Formula{Targets: []scene.Ref{{Item: "b", Property: scene.WeightKey("l")}}, Text: "{C: rotation} * 0.4"}, 0); r.Note != "" {
		t.Errorf("the note is %q", r.Note)
	}
}
