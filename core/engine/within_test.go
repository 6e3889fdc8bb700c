package engine

import (
	"fmt"
	"math"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// However an item hangs on its parent, a link in the composition's space puts it where it says, and turns it as it says.
func TestTheCompositionsSpaceKnowsHowAnItemHangs(t *testing.T) {
	stayed := num.Place([3]float64{31, -7, 0}, [3]float64{0, 0, 17}, [3]float64{120, 80, 100}, [3]float64{})
	for _, c := range []struct {
		name   string
		alter  func(a *scene.Attachment)
		weight scene.Value
		pins   []scene.Pin
	}{
		{"wholly", func(*scene.Attachment) {}, scene.Value{}, nil},
		{"by a weight", func(*scene.Attachment) {}, scene.Num(37), nil},
		{"by a weight that moves", func(*scene.Attachment) {}, scene.Num(37), []scene.Pin{{Frame: 0, Value: scene.Num(100), Easing: curve.Linear}, {Frame: 20, Value: scene.Num(11), Easing: curve.Linear}}},
		{"without its place", func(a *scene.Attachment) { a.NoPosition = true }, scene.Value{}, nil},
		{"without its rotation", func(a *scene.Attachment) { a.NoRotation = true }, scene.Num(63), nil},
		{"not at all", func(*scene.Attachment) {}, scene.Num(0), nil},
	} {
		comp := scene.NewComposition("main", "Main")
		arm := &scene.Item{ID: "arm", Name: "Arm", Kind: scene.Null}
		arm.Edit("position").Own = scene.Pt(210, 130, 0)
		arm.Edit("rotation").Own = scene.Num(41)
		arm.Edit("scale").Own = scene.Pt(150, 70, 100)
		box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle, Parent: "arm", Attachment: scene.Attachment{Stayed: (*[12]float64)(&stayed), Turns: 17}}
		c.alter(&box.Attachment)
		box.Edit("pivot").Own = scene.Pt(13, -9, 0)
		if !c.weight.Absent() {
			box.Edit("attachWeight").Own, box.Edit("attachWeight").Pins = c.weight, c.pins
		}
		goal := &scene.Item{ID: "goal", Name: "Goal", Kind: scene.Null}
		goal.Edit("position").Own = scene.Pt(-83, 57, 0)
		goal.Edit("rotation").Own = scene.Num(29)
		for _, key := range []string{"position", "rotation"} {
			box.Edit(key).Links = []*scene.Link{{ID: scene.ID("l" + key[:1]), Kind: scene.Follow, Source: scene.Ref{Item: "goal", Property: key}, Gain: 1, World: true}}
		}
		comp.Items = []*scene.Item{arm, box, goal}
		p := New(comp)
		for _, frame := range []float64{0, 7, 20} {
			p.Evaluate(frame)
			i := p.Layout.Index("box")
			at := p.World(i)
			place, turn := at.Apply([3]float64{13, -9, 0}), p.Posed(i).Turn
			if math.Hypot(place[0]+83, place[1]-57) > 1e-6 || math.Abs(turn-29) > 1e-6 {
				t.Errorf("%s, frame %v: it stands at %s and is turned by %v", c.name, frame, fmt.Sprint(place), turn)
			}
		}
	}
}
