package session

import (
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// A tint that is set or driven is seen, without a word about its strength; where that was set, it stays.
func TestATintIsSeen(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	steps := 0
	did := func(g gesture.Gesture) []scene.ID {
		t.Helper()
		steps++
		return do(t, s, g, fmt.Sprint(steps)).Made
	}
	picture := did(&items.Add{Kind: scene.Picture, Name: "Leaf"})[0]
	did(&pins.Set{Targets: []scene.Ref{{Item: picture, Property: "tint"}}, Value: scene.RGBA(0.2, 0.7, 0.3, 1)})
	strength := func(id scene.ID) float64 {
		s.Evaluate(0)
		return s.plan.Value(scene.Ref{Item: id, Property: "tintStrength"}).At(0)
	}
	if got := strength(picture); got != 100 {
		t.Errorf("a picture that was given a tint has it at %v %%", got)
	}
	did(&pins.Set{Targets: []scene.Ref{{Item: picture, Property: "tintStrength"}}, Value: scene.Num(37)})
	did(&pins.Set{Targets: []scene.Ref{{Item: picture, Property: "tint"}}, Value: scene.RGBA(0.9, 0.7, 0.3, 1)})
	if got := strength(picture); got != 37 {
		t.Errorf("a strength that was set became %v %%", got)
	}
	did(&pins.Set{Targets: []scene.Ref{{Item: picture, Property: "tintStrength"}}, Value: scene.Num(0)})
	did(&pins.Set{Targets: []scene.Ref{{Item: picture, Property: "tint"}}, Value: scene.RGBA(0.1, 0.7, 0.3, 1)})
	if got := strength(picture); got != 0 {
		t.Errorf("a strength that was set to 0 became %v %%", got)
	}
	star := did(&items.Add{Kind: scene.Star, Name: "Star"})[0]
	many := did(&copies.Group{Items: []scene.ID{star}, Kind: scene.CopiesItem})[0]
	did(&wiring.Spread{Copies: &scene.Ref{Item: many, Property: "tint"}, Text: "hsl(index * 37, 0.6, 0.5)"})
	third := s.Composition().Item(many).Lanes()[2].ID
	if got := strength(third); got != 100 || len(s.Composition().RosterLinks) != 2 {
		t.Errorf("copies that were given tints have them at %v %%, by %d links on rows", got, len(s.Composition().RosterLinks))
	}
	if err := s.Undo("back"); err != nil || len(s.Composition().RosterLinks) != 0 {
		t.Errorf("undone, %d links on rows are left: %v", len(s.Composition().RosterLinks), err)
	}
}

// A picture that holds many frames becomes a flipbook with its links, each frame as large as it was seen.
func TestAPictureIsCutIntoFrames(t *testing.T) {
	s := window(t, scene.NewProject("p", "P"), 0, "a")
	id := do(t, s, &items.Add{Kind: scene.Picture, Name: "Sheet", Frames: []scene.Frame{{Asset: scene.AssetID(strings.Repeat("ab", 32))}}, Size: [2]float64{300, 90}}, "1").Made[0]
	do(t, s, &items.CutFrames{Item: id, Columns: 5, Rows: 2, Size: [2]int{505, 180}}, "2")
	item := s.Composition().Item(id)
	if item.Kind != scene.Flipbook || len(item.Frames) != 10 || item.Frames[7].Part != [4]int{202, 90, 101, 90} || item.State("size").Own != scene.Pt(60, 45) {
		t.Errorf("it is a %s of %d frames, the eighth %v, %v large", item.Kind, len(item.Frames), item.Frames[7].Part, item.State("size").Own)
	}
	if _, err := s.Do(&items.CutFrames{Item: id, Columns: 2, Rows: 2, Size: [2]int{505, 180}}, Options{ID: "3"}); err == nil {
		t.Error("a flipbook is cut again")
	}
	if err := s.Undo("back"); err != nil || s.Composition().Item(id).Kind != scene.Picture || s.Composition().Item(id).State("size").Own != scene.Pt(300, 90) {
		t.Errorf("undone, it is a %s: %v", s.Composition().Item(id).Kind, err)
	} // Pins are those of one frame, too; a size that is driven stays, and that is said.
	size := scene.Ref{Item: id, Property: "size"}
	do(t, s, &pins.Pin{Targets: []scene.Ref{size}}, "4")
	do(t, s, &items.CutFrames{Item: id, Columns: 5, Rows: 2, Size: [2]int{505, 180}}, "5")
	if pins := s.Composition().Item(id).State("size").Pins; len(pins) != 1 || pins[0].Value != scene.Pt(60, 45) {
		t.Errorf("its pins are %v", pins)
	}
	if err := s.Undo("back"); err != nil {
		t.Fatal(err)
	}
	rig := do(t, s, &items.Add{Kind: scene.Null, Name: "Rig"}, "6").Made[0]
	do(t, s, &wiring.AddControl{Item: rig, Control: scene.Control{Kind: scene.PointWidget, Name: "Span", Default: scene.Pt(170, 38)}}, "7")
	do(t, s, &wiring.Link{Source: scene.Ref{Item: rig, Property: string(s.Composition().Item(rig).Controls[0].ID)}, Targets: []scene.Ref{size}}, "8")
	r := do(t, s, &items.CutFrames{Item: id, Columns: 5, Rows: 2, Size: [2]int{505, 180}}, "9")
	if !strings.Contains(r.Note, "since Rig: Span drives its size") {
		t.Errorf("of a driven size is said: %s", r.Note)
	}
}
