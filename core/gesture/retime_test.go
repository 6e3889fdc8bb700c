package gesture_test

import (
	"math"
	"strings"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/scene"
)

// shipShown returns where the ship is drawn at a frame, by whatever copies show it.
func (b *bench) shipShown(frame float64) (at [3]float64) {
	plan := engine.New(b.c)
	plan.Evaluate(frame)
	for i, item := range plan.Layout.Items[:plan.Layout.Own] {
		if item.ID == "ship" && plan.Shown(int32(i)) {
			m := plan.World(int32(i))
			return m.Apply([3]float64{})
		}
		if item.Kind == scene.CopiesItem {
			plan.Copies(int32(i), func(c *engine.Copied) {
				m := plan.World(c.Item)
				at = m.Apply([3]float64{})
			})
		}
	}
	return at
}

func TestAThingIsGivenATimeOfItsOwn(t *testing.T) {
	b := boat(t)
	frames := []float64{0, 19.5, 44, 81, 140}
	var before [][3]float64
	for _, f := range frames {
		before = append(before, b.shipShown(f))
	}
	shown := func() (now [][3]float64) {
		for _, f := range frames {
			now = append(now, b.shipShown(f))
		}
		return now
	}
	made := b.do(&copies.Retime{Items: []scene.ID{"ship"}}, 0).Made
	if gone := off(shown(), before); len(made) != 1 || gone > 1e-6 {
		t.Fatalf("given one, it is %g off", gone)
	}
	name := b.c.Item(made[0]).Name
	if _, err := b.try(&copies.Retime{Items: made}, 0); err == nil || !strings.Contains(err.Error(), name+" shows a time of its own already") {
		t.Errorf("twice: %v", err)
	}
	// Its end is pulled to half of the frames: from there on it stands, until then it goes twice as fast.
	last := b.c.Frames - 1
	b.do(&pins.MovePins{Pins: []gesture.PinAt{{Item: made[0], Property: scene.CopiesTime, Frame: last}}, By: -(last + 1) / 2}, 0)
	if now, then := b.shipShown(31), b.shipShown(1e6); math.Hypot(now[0]-70, now[1]-20) > 3 || math.Hypot(then[0]-310, then[1]-90) > 1e-6 {
		t.Errorf("twice as fast it is at %v at frame 31, and rests at %v", now, then)
	}
	if _, err := b.try(&copies.BreakUp{Item: made[0]}, 0); err == nil || !strings.Contains(err.Error(), "time of its own") {
		t.Errorf("broken up: %v", err)
	}
	// Copies keep what they are.
	b = boat(t)
	row := b.do(&copies.Group{Items: []scene.ID{"ship"}, Kind: scene.CopiesItem}, 0).Made[0]
	again := b.do(&copies.Retime{Items: []scene.ID{row}}, 0).Made
	if len(again) != 1 || again[0] != row || b.c.Item(row).State(scene.CopiesNumber.Key).Own == scene.Num(1) {
		t.Errorf("copies became %v", again)
	}
	if _, err := b.try(&copies.Retime{Items: []scene.ID{"pier"}}, 0); err == nil || !strings.Contains(err.Error(), "Pier and what hangs on it are not drawn") {
		t.Errorf("nothing is shown: %v", err)
	}
	if _, err := b.try(&copies.Retime{}, 0); err == nil {
		t.Error("nothing has a time of its own")
	}
}
