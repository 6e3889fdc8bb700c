package gesture_test

import (
	"math"
	"strings"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/scene"
)

// boat is a bench with a boat that goes from pin to pin at an even pace, and a pier that is moved and turned.
func boat(t *testing.T) *bench {
	ship := &scene.Item{ID: "ship", Name: "Ship", Kind: scene.Ellipse}
	for k, at := range [][2]float64{{-260, -30}, {-90, 140}, {70, 20}, {310, 90}} {
		ship.Edit("position").Pins = append(ship.Edit("position").Pins, scene.Pin{Frame: []int{7, 31, 62, 113}[k], Value: scene.Pt(at[0], at[1], 0), Easing: curve.Linear})
	}
	pier := &scene.Item{ID: "pier", Name: "Pier", Kind: scene.Null}
	pier.Edit("position").Own = scene.Pt(37, -81, 0)
	pier.Edit("rotation").Own = scene.Num(31)
	pier.Edit("scale").Own = scene.Pt(140, 140, 100)
	return newBench(t, ship, pier)
}

func (b *bench) ship(frame float64) [3]float64 {
	plan := engine.New(b.c)
	plan.Evaluate(frame)
	v := plan.Value(scene.Ref{Item: "ship", Property: "worldPosition"})
	return [3]float64{v.At(0), v.At(1), v.At(2)}
}

func (b *bench) sailed(frames ...float64) (out [][3]float64) {
	for _, f := range frames {
		out = append(out, b.ship(f))
	}
	return out
}

func off(a, b [][3]float64) (most float64) {
	for k := range a {
		most = max(most, math.Hypot(a[k][0]-b[k][0], a[k][1]-b[k][1]))
	}
	return most
}

var sails = scene.Ref{Item: "ship", Property: "position"}

func TestAPathIsBentShapedAndStraightenedAgain(t *testing.T) {
	b := boat(t)
	frames := []float64{7, 19.5, 31, 44, 62, 81, 113}
	straight := b.sailed(frames...)
	b.do(&pins.BendPath{Targets: []scene.Ref{sails}}, 0)
	bent := b.sailed(frames...)
	for k, f := range frames {
		through := f == 7 || f == 31 || f == 62 || f == 113
		if gone := off(bent[k:k+1], straight[k:k+1]); through != (gone < 1e-6) {
			t.Errorf("at frame %v it is %.3f from where it was", f, gone)
		}
	}
	// Without a corner at a pin, and as fast before as the span before says.
	before, after := b.sailed(30.99, 31), b.sailed(31, 31.01)
	a := math.Atan2(before[1][1]-before[0][1], before[1][0]-before[0][0])
	z := math.Atan2(after[1][1]-after[0][1], after[1][0]-after[0][0])
	if math.Abs(a-z) > 0.01 {
		t.Errorf("at frame 31 it turns by %.3f", z-a)
	}
	// A handle is pulled: the other one turns along and keeps its length, unless it is told to stay.
	pin := func(frame int) scene.Pin {
		state := b.c.Item("ship").State("position")
		k, _ := state.PinAt(frame)
		return state.Pins[k]
	}
	was := pin(62)
	b.do(&pins.ShapePath{Pin: gesture.PinAt{Item: "ship", Property: "position", Frame: 62}, Part: pins.PathLead, To: scene.Pt(21, -72, 0)}, 0)
	now := pin(62)
	if now.Lead != scene.Pt(21, -72, 0) || math.Abs(scene.Far(now.Arrive)-scene.Far(was.Arrive)) > 1e-9 {
		t.Errorf("pulled, it has %v and %v; it had %v and %v", now.Lead, now.Arrive, was.Lead, was.Arrive)
	}
	if cross := now.Lead.At(0)*now.Arrive.At(1) - now.Lead.At(1)*now.Arrive.At(0); math.Abs(cross) > 1e-6 || now.Lead.At(0)*now.Arrive.At(0) > 0 {
		t.Errorf("the handles make a corner: %v and %v", now.Lead, now.Arrive)
	}
	b.do(&pins.ShapePath{Pin: gesture.PinAt{Item: "ship", Property: "position", Frame: 62}, Part: pins.PathArrive, To: scene.Pt(-9, 4, 0), Alone: true}, 0)
	if alone := pin(62); alone.Arrive != scene.Pt(-9, 4, 0) || alone.Lead != now.Lead {
		t.Errorf("alone, it has %v and %v", alone.Lead, alone.Arrive)
	}
	b.do(&pins.ShapePath{Pin: gesture.PinAt{Item: "ship", Property: "position", Frame: 62}, Part: pins.PathPlace, To: scene.Pt(55, -13, 0)}, 0)
	if moved := b.sailed(62); math.Hypot(moved[0][0]-55, moved[0][1]+13) > 1e-6 || pin(62).Lead != now.Lead {
		t.Errorf("moved, it stands at %v with %v", moved, pin(62).Lead)
	}
	b.do(&pins.ShapePath{Pin: gesture.PinAt{Item: "ship", Property: "position", Frame: 62}, Part: pins.PathPlace, To: scene.Pt(70, 20, 0)}, 0)
	b.do(&pins.ShapePath{Pin: gesture.PinAt{Item: "ship", Property: "position", Frame: 31}, Part: pins.PathBoth, To: scene.Pt(-14, 6, 0)}, 0)
	if both := pin(31); both.Lead != scene.Pt(-14, 6, 0) || both.Arrive != scene.Pt(14, -6, 0) {
		t.Errorf("both pulled out, they are %v and %v", both.Lead, both.Arrive)
	}
	b.do(&pins.BendPath{Targets: []scene.Ref{sails}, Straight: true}, 0)
	if gone := off(b.sailed(frames...), straight); gone > 1e-9 || pin(62).Lead != (scene.Value{}) {
		t.Errorf("straight again, it is %g off", gone)
	}
}

func TestAPathKeepsItsShapeUnderEveryHand(t *testing.T) {
	frames := []float64{9, 21, 31, 40.5, 58, 77, 103}
	for name, c := range map[string]struct {
		hand gesture.Gesture
		when func(f float64) float64 // where what was at a frame is then
	}{
		"attached":          {&items.Attach{Items: []scene.ID{"ship"}, Parent: "pier"}, func(f float64) float64 { return f }},
		"reversed":          {&pins.ReversePins{Pins: shipPins(7, 31, 62, 113)}, func(f float64) float64 { return 120 - f }},
		"stretched":         {&pins.StretchPins{Pins: shipPins(7, 31, 62, 113), Stays: 7, From: 113, To: 431}, func(f float64) float64 { return 7 + 4*(f-7) }},
		"stretched through": {&pins.StretchPins{Pins: shipPins(7, 31, 62, 113), Stays: 113, From: 7, To: 431}, func(f float64) float64 { return 113 + 3*(113-f) }},
		"moved":             {&pins.MovePins{Pins: shipPins(7, 31, 62, 113), By: 29}, func(f float64) float64 { return f + 29 }},
	} {
		t.Run(name, func(t *testing.T) {
			b := boat(t)
			b.do(&pins.BendPath{Targets: []scene.Ref{sails}}, 0)
			before := b.sailed(frames...)
			b.do(c.hand, 0)
			later := make([]float64, len(frames))
			for k, f := range frames {
				later[k] = c.when(f)
			}
			if gone := off(b.sailed(later...), before); gone > 1e-6 {
				t.Errorf("it is %g off", gone)
			}
		})
	}
}

func shipPins(frames ...int) (out []gesture.PinAt) {
	for _, f := range frames {
		out = append(out, gesture.PinAt{Item: "ship", Property: "position", Frame: f})
	}
	return out
}

func TestANewPinOnAPathIsSmooth(t *testing.T) {
	b := boat(t)
	b.do(&pins.BendPath{Targets: []scene.Ref{sails}}, 0)
	b.do(&pins.Set{Targets: []scene.Ref{sails}, Value: scene.Pt(-11, 173, 0)}, 46)
	state := b.c.Item("ship").State("position")
	k, there := state.PinAt(46)
	if !there || state.Pins[k].Lead.Absent() || state.Pins[k].Arrive.Absent() {
		t.Fatalf("it is pinned as %+v", state.Pins)
	}
	before, after := b.sailed(45.99, 46), b.sailed(46, 46.01)
	a := math.Atan2(before[1][1]-before[0][1], before[1][0]-before[0][0])
	z := math.Atan2(after[1][1]-after[0][1], after[1][0]-after[0][0])
	if math.Abs(a-z) > 0.01 || math.Hypot(before[1][0]+11, before[1][1]-173) > 1e-6 {
		t.Errorf("at frame 46 it stands at %v and turns by %.3f", before[1], z-a)
	}
	// Set again, it keeps its handles.
	lead := state.Pins[k].Lead
	b.do(&pins.Set{Targets: []scene.Ref{sails}, Value: scene.Pt(-5, 160, 0)}, 46)
	if again := b.c.Item("ship").State("position").Pins[k]; again.Lead != lead {
		t.Errorf("set again, its handle is %v", again.Lead)
	}
}

func TestWhatIsNoPathIsRefused(t *testing.T) {
	b := boat(t)
	pin := gesture.PinAt{Item: "ship", Property: "position", Frame: 31}
	for says, g := range map[string]gesture.Gesture{
		"two pins or more of a point": &pins.BendPath{Targets: []scene.Ref{{Item: "pier", Property: "position"}, {Item: "ship", Property: "rotation"}}},
		"no longer has a pin":         &pins.ShapePath{Pin: gesture.PinAt{Item: "ship", Property: "position", Frame: 32}, Part: pins.PathLead, To: scene.Pt(1, 2, 3)},
		"has 3 numbers":               &pins.ShapePath{Pin: pin, Part: pins.PathLead, To: scene.Pt(1, 2)},
		`no "middle"`:                 &pins.ShapePath{Pin: pin, Part: "middle", To: scene.Pt(1, 2, 3)},
	} {
		if _, err := b.try(g, 0); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want: %s", err, says)
		}
	}
}
