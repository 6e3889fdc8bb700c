package view

import (
	"math"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/scene"
)

// What is shown of a path lies where the item goes, also on a parent that is moved, turned, stretched, and is pulled where the hand is.
func TestAPathIsShownAndPulledWhereItLies(t *testing.T) {
	s := window(t)
	ship := do(t, s, &items.Add{Kind: scene.Ellipse})[0]
	pier := do(t, s, &items.Add{Kind: scene.Null})[0]
	for key, v := range map[string]scene.Value{"position": scene.Pt(37, -81, 0), "rotation": scene.Num(31), "scale": scene.Pt(140, 60, 100)} {
		do(t, s, &pins.Set{Targets: []scene.Ref{{Item: pier, Property: key}}, Value: v})
	}
	do(t, s, &items.Attach{Items: []scene.ID{ship}, Parent: pier})
	item := s.Composition().Item(ship)
	for k, at := range [][2]float64{{-260, -30}, {-90, 140}, {70, 20}} {
		item.Edit("position").Pins = append(item.Edit("position").Pins, scene.Pin{Frame: []int{7, 31, 62}[k], Value: scene.Pt(at[0], at[1], 0), Easing: curve.Linear})
	}
	item.Edit("pivot").Own = scene.Pt(13, 5, 0)
	ref := scene.Ref{Item: ship, Property: "position"}
	s.Project.Compositions[0].Changed()
	do(t, s, &pins.BendPath{Targets: []scene.Ref{ref}})
	stands := func(frame float64) [3]float64 {
		s.Evaluate(frame)
		v := s.Plan().Value(scene.Ref{Item: ship, Property: "worldPosition"})
		return [3]float64{v.At(0), v.At(1), v.At(2)}
	}
	near := func(what string, a, b [3]float64) {
		t.Helper()
		if math.Hypot(a[0]-b[0], a[1]-b[1]) > 1e-6 {
			t.Errorf("%s: %v, want %v", what, a, b)
		}
	}
	places := map[int][3]float64{7: stands(7), 31: stands(31), 62: stands(62)}
	s.Evaluate(44)
	path, err := PathOf(s, ref)
	if err != nil || len(path.Pins) != 3 || len(path.Line) != 111 {
		t.Fatalf("%v: %d pins, %d places", err, len(path.Pins), len(path.Line))
	}
	for _, p := range path.Pins {
		near("pin", p.Place, places[p.Frame])
	}
	middle := path.Line[74] // frame 44
	near("line", middle, stands(44))
	// Pulled by its place, and by a handle.
	to := [3]float64{52, -117, 0}
	pin := gesture.PinAt{Item: ship, Property: "position", Frame: 31}
	do(t, s, &pins.ShapePath{Pin: pin, Part: pins.PathPlace, At: &to})
	near("pulled", stands(31), to)
	hand := [3]float64{-8, 66, 0}
	do(t, s, &pins.ShapePath{Pin: pin, Part: pins.PathLead, At: &hand})
	s.Evaluate(70)
	if path, _ = PathOf(s, ref); path.Pins[1].Lead == nil {
		t.Fatal("it has no handle")
	}
	near("handle", *path.Pins[1].Lead, hand)
	// What a link drives has no way to be shaped.
	do(t, s, &pins.BendPath{Targets: []scene.Ref{ref}, Straight: true})
	if path, _ = PathOf(s, ref); len(path.Pins) != 3 || path.Pins[0].Lead != nil {
		t.Errorf("straight: %+v", path.Pins)
	}
	if other, _ := PathOf(s, scene.Ref{Item: pier, Property: "position"}); len(other.Pins) != 0 {
		t.Errorf("without pins: %+v", other.Pins)
	}
}
