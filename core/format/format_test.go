package format

import (
	"encoding/base64"
	"slices"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

func TestEveryFormatIsWhole(t *testing.T) {
	keys := map[string]bool{}
	for _, f := range Formats {
		if f.Key == "" || f.Name == "" || f.Group == "" || f.Extension == "" || f.About == "" || keys[f.Key] {
			t.Errorf("%+v", f)
		}
		keys[f.Key] = true
		if Of(f.Key) != f {
			t.Errorf("%s is not found", f.Key)
		}
	}
	if Of("xyz") != nil {
		t.Error("a format that is none was found")
	}
}

func TestWhatCanNotBeHeldIsListed(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	hum := &scene.Sound{Seconds: 2, Bands: base64.StdEncoding.EncodeToString(make([]byte, len(scene.SoundBands)*scene.Moments(2)))}
	c.Items = []*scene.Item{
		{ID: "box", Name: "Box", Kind: scene.Rectangle},
		{ID: "drum", Name: "Drum", Kind: scene.SoundItem, Sound: hum},
		{ID: "mute", Name: "Mute", Kind: scene.SoundItem, Sound: hum, Hidden: true},
		{ID: "guide", Name: "Guide", Kind: scene.SoundItem, Sound: hum, NotInOutput: true},
		{ID: "empty", Name: "Empty", Kind: scene.SoundItem},
	}
	plan := engine.New(c)
	for _, f := range Formats {
		if !f.Drawn {
			continue
		}
		if got := f.Lacks(plan); f.Sound != (len(got) == 0) || !f.Sound && (len(got) != 1 || got[0].Item != "drum") {
			t.Errorf("%s: %v", f.Key, got)
		}
	}
	if got := Formats[0].Lacks(engine.New(scene.NewComposition("main", "Main"))); got == nil || len(got) > 0 {
		t.Errorf("of an empty composition: %v", got)
	}
}

func TestShapesLeaveOutWhatIsNone(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	lit := &scene.Item{ID: "lit", Name: "Lit", Kind: scene.Rectangle}
	lit.Edit("lit").Own = scene.Num(1)
	c.Items = []*scene.Item{
		lit,
		{ID: "box", Name: "Box", Kind: scene.Box},
		{ID: "lamp", Name: "Lamp", Kind: scene.PointLight},
		{ID: "dark", Name: "Dark", Kind: scene.PointLight, NotInOutput: true},
		{ID: "plain", Name: "Plain", Kind: scene.Ellipse},
	}
	plan := engine.New(c)
	plan.Evaluate(0)
	got := Of("moving").Lacks(plan)
	want := []Lack{{"lit", "light on it: left out"}, {"box", "object: left out"}, {"lamp", "light: left out"}}
	if !slices.Equal(got, want) {
		t.Errorf("%v", got)
	}
	if got := Of("png").Lacks(plan); len(got) > 0 {
		t.Errorf("of pictures: %v", got)
	}
}

func TestWhatStandsInSpaceHasNoPicturesAndNoOtherColours(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	crate := &scene.Item{ID: "crate", Name: "Crate", Kind: scene.Box, Frames: []scene.Frame{{}}}
	crate.Edit("opacity").Links = []*scene.Link{{ID: "o", Kind: scene.Formula, Gain: 1, Formula: "frame"}}
	lamp := &scene.Item{ID: "lamp", Name: "Lamp", Kind: scene.SpotLight}
	lamp.Edit("intensity").Pins = []scene.Pin{{Frame: 3, Value: scene.Num(40)}, {Frame: 9, Value: scene.Num(70)}}
	c.Items = []*scene.Item{crate, lamp, {ID: "sky", Name: "Sky", Kind: scene.AmbientLight}, {ID: "ball", Name: "Ball", Kind: scene.Ball}, {ID: "star", Name: "Star", Kind: scene.Star}}
	plan := engine.New(c)
	plan.Evaluate(0)
	got := Of("gltf").Lacks(plan)
	want := []Lack{{"crate", "picture on it: left out; opacity: as at the first frame"}, {"lamp", "intensity: as at the first frame"}, {"sky", "light from everywhere: left out"}, {"star", "flat shape: left out"}}
	if !slices.Equal(got, want) {
		t.Errorf("%v", got)
	}
}

func TestPartsOfPicturesAreLeftOutWherePicturesAreWhole(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	c.Items = []*scene.Item{
		{ID: "sheet", Name: "Sheet", Kind: scene.Flipbook, Frames: []scene.Frame{{}, {Part: [4]int{0, 8, 16, 8}}}},
		{ID: "whole", Name: "Whole", Kind: scene.Picture, Frames: []scene.Frame{{}}},
	}
	plan := engine.New(c)
	plan.Evaluate(0)
	if got := Of("lottie").Lacks(plan); !slices.Equal(got, []Lack{{"sheet", "a part of a picture: left out"}}) {
		t.Errorf("%v", got)
	}
	if got := Of("moving").Lacks(plan); len(got) > 0 {
		t.Errorf("of SVG: %v", got)
	}
}

// The plan lists items as the tree does, a parent before its children, whatever their order in the composition is.
func TestWhatIsHiddenIsNotMissedWhereverItStands(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	c.Items = []*scene.Item{
		{ID: "crate", Name: "Crate", Kind: scene.Box, Parent: "rig"},
		{ID: "seen", Name: "Seen", Kind: scene.Ball},
		{ID: "off", Name: "Off", Kind: scene.Ball, Hidden: true},
		{ID: "rig", Name: "Rig", Kind: scene.Null, NotInOutput: true},
	}
	plan := engine.New(c)
	plan.Evaluate(0)
	if got := Of("moving").Lacks(plan); !slices.Equal(got, []Lack{{"seen", "object: left out"}}) {
		t.Errorf("%v", got)
	}
}

func TestFormulasThatGiveNothingAtSomeFrameAreListed(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	c.Frames = 40
	star := &scene.Item{ID: "star", Name: "Star", Kind: scene.Star}
	star.Edit("rotation").Links = []*scene.Link{{ID: "r", Kind: scene.Formula, Gain: 1, Formula: "10 / (frame - 7)"}}
	star.Edit("opacity").Links = []*scene.Link{{ID: "o", Kind: scene.Formula, Gain: 1, Formula: "sqrt(frame - 3) * 10"}}
	c.Items = []*scene.Item{star}
	plan := engine.New(c)
	plan.Evaluate(0)
	want := []Lack{{"star", "the formula of rotation has no result at frame 7"}, {"star", "the formula of opacity has no result at frame 0 and 2 others"}}
	if got := Failing(plan); !slices.Equal(got, want) {
		t.Errorf("%v", got)
	}
}
