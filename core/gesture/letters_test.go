package gesture_test

import (
	"math"
	"strings"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

func TestATextIsTakenApartIntoLetters(t *testing.T) {
	b := desk(t)
	words := item("words", scene.TextItem, 40, 10, 100)
	words.Edit("text").Own = scene.Txt("AV a")
	words.Edit("fill").Own = scene.RGBA(1, 0, 0, 1)
	words.Edit("opacity").Links = []*scene.Link{{ID: "fade", Kind: scene.Follow, Source: ref("rig", "go"), Gain: 1}}
	b.c.Items = append(b.c.Items, words)
	b.set(ref("rig", "go"), 40)
	b.set(ref("words", scene.WeightKey("fade")), 50)
	was := engine.New(b.c)
	was.Evaluate(0)
	left := was.World(was.Layout.Index("words"))

	made := b.do(&copies.Letters{Item: "words"}, 0).Made
	if len(made) != 3 || len(b.c.Attached("words")) != 3 || b.shown(ref("words", "text"), 0) != `""` {
		t.Fatalf("%d letters, and the text is %q", len(made), b.shown(ref("words", "text"), 0))
	}
	all := ""
	for k, id := range made {
		letter := b.c.Item(id)
		all += letter.State("text").Own.Str()
		if b.shown(ref(id, "fill"), 0) != "[1, 0, 0, 1]" || b.shown(ref(id, "opacity"), 0) != "70" || letter.State("opacity").Links[0].ID == "fade" {
			t.Errorf("letter %d looks otherwise: %s, %s", k, b.shown(ref(id, "fill"), 0), b.shown(ref(id, "opacity"), 0))
		}
	}
	now := engine.New(b.c)
	now.Evaluate(0)
	for k, l := range outline.Apart("AV a", outline.Style{Size: 96, LineHeight: 1.2, Align: 0.5}) {
		m := now.World(now.Layout.Index(made[k]))
		if want, got := left.Apply([3]float64{l.At[0], l.At[1], 0}), m.Apply([3]float64{}); math.Abs(want[0]-got[0])+math.Abs(want[1]-got[1]) > 1e-9 {
			t.Errorf("letter %d stands at %v, want %v", k, got, want)
		}
	}
	if all != "AVa" {
		t.Errorf("the letters are %s", all)
	}
	// They are a row.
	var targets []scene.Ref
	for _, id := range made {
		targets = append(targets, ref(id, "rotation"))
	}
	b.do(&wiring.Spread{Targets: targets, Text: "index * 10"}, 0)
	if s := b.c.RosterLinks[0]; s.Roster.Kind != scene.Children || b.shown(ref(made[2], "rotation"), 0) != "20" {
		t.Errorf("spread over them, the last turns by %s", b.shown(ref(made[2], "rotation"), 0))
	}
	for _, wrong := range []scene.ID{"a", "words"} { // no text; nothing left
		if _, err := b.posed(&copies.Letters{Item: wrong}); err == nil {
			t.Errorf("%s is taken apart", wrong)
		}
	}
	b.c.Item("words").Edit("text").Pins = []scene.Pin{{Frame: 0, Value: scene.Txt("x")}}
	if _, err := b.posed(&copies.Letters{Item: "words"}); err == nil || !strings.Contains(err.Error(), "changes over time") {
		t.Errorf("a pinned text: %v", err)
	}
}
