package engine_test

import (
	"math"
	"strings"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
	"wunderkammer/core/sound"
)

// struck is a sound of 1.7 s that is silent but for a tone of 130 Hz from 0.3 s to 0.8 s, and half as loud from 1.1 s to 1.4 s.
func struck(t *testing.T, start int) *scene.Sound {
	t.Helper()
	samples := make([]float32, 13600)
	for i := range samples {
		at := float64(i) / 8000
		switch {
		case at >= 0.3 && at < 0.8:
			samples[i] = float32(0.7 * math.Sin(2*math.Pi*130*at))
		case at >= 1.1 && at < 1.4:
			samples[i] = float32(0.35 * math.Sin(2*math.Pi*130*at))
		}
	}
	s, err := sound.Hear([][]float32{samples}, 8000)
	if err != nil {
		t.Fatal(err)
	}
	s.Asset, s.Start = scene.AssetID(strings.Repeat("5eed", 16)), start
	return s
}

func TestASoundDrivesAlsoLaterAndInAverage(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	c.Rate, c.Frames = 20, 120
	drum := &scene.Item{ID: "drum", Name: "Drum", Kind: scene.SoundItem, Sound: struck(t, 30)}
	follows := func(id scene.ID, delay float64) *scene.Item {
		item := &scene.Item{ID: id, Name: string(id), Kind: scene.Rectangle}
		item.Edit("rotation").Links = []*scene.Link{{ID: "l" + id, Kind: scene.Follow, Source: scene.Ref{Item: "drum", Property: "loudness"}, Gain: 0.3, Offset: 4, Delay: delay}}
		return item
	}
	mean := &scene.Item{ID: "mean", Name: "mean", Kind: scene.Rectangle}
	mean.Edit("rotation").Links = []*scene.Link{{ID: "lm", Kind: scene.Formula, Gain: 1, Formula: "average({@drum:@lows}, 10f)"}}
	c.Items = []*scene.Item{drum, follows("now", 0), follows("late", 7), mean}
	// Frames of the tones: 30 + 6 to 30 + 16, and 30 + 22 to 30 + 28.
	want := func(frame float64) (float64, bool) {
		for _, s := range [][3]float64{{36, 46, 100}, {52, 58, 50}} {
			if math.Abs(frame-s[0]) < 1 || math.Abs(frame-s[1]) < 1 {
				return 0, false // on the edge
			}
			if frame > s[0] && frame < s[1] {
				return s[2], true
			}
		}
		return 0, true
	}
	plan := engine.New(c)
	for _, frame := range []float64{55, 0, 41, 43.4, 29, 47.6, 70, 110, 40} { // also jumped to
		plan.Evaluate(frame)
		for id, at := range map[scene.ID]float64{"now": frame, "late": frame - 7} {
			loud, sure := want(at)
			got := plan.Value(scene.Ref{Item: id, Property: "rotation"}).At(0)
			if sure && math.Abs(got-(4+0.3*loud)) > 0.4 {
				t.Errorf("frame %v: %s is turned by %.3f, want %.3f", frame, id, got, 4+0.3*loud)
			}
		}
	}
	plan.Evaluate(45.5) // ten frames of 100
	if got := plan.Value(scene.Ref{Item: "mean", Property: "rotation"}).At(0); math.Abs(got-97) > 4 {
		t.Errorf("over ten frames the lows are at %.2f in the mean", got)
	}
	plan.Evaluate(51) // five of 100, five of nothing
	if got := plan.Value(scene.Ref{Item: "mean", Property: "rotation"}).At(0); math.Abs(got-50) > 6 {
		t.Errorf("half of it past, the lows are at %.2f in the mean", got)
	}
	if all := plan.Sample("drum", "loudness", 0, 119, 240); len(all) != 240 || all[80] < 95 || all[40] != 0 {
		t.Errorf("seen as a whole: %v", all)
	}
	// A sound without a file is silent, and says nothing of itself.
	drum.Sound = nil
	plan = engine.New(c)
	plan.Evaluate(41)
	if got := plan.Value(scene.Ref{Item: "now", Property: "rotation"}).At(0); got != 4 {
		t.Errorf("without a file it is heard: %v", got)
	}
}
