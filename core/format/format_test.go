package format

import (
	"testing"

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
	c.Items = []*scene.Item{
		{ID: "box", Name: "Box", Kind: scene.Rectangle},
		{ID: "drum", Name: "Drum", Kind: scene.SoundItem, Sound: &scene.Sound{Seconds: 2}},
		{ID: "mute", Name: "Mute", Kind: scene.SoundItem, Sound: &scene.Sound{Seconds: 3}, Hidden: true},
		{ID: "guide", Name: "Guide", Kind: scene.SoundItem, Sound: &scene.Sound{Seconds: 3}, NotInOutput: true},
		{ID: "empty", Name: "Empty", Kind: scene.SoundItem},
	}
	for _, f := range Formats {
		if got := f.Lacks(c); f.Sound != (len(got) == 0) || !f.Sound && (len(got) != 1 || got[0].Item != "drum") {
			t.Errorf("%s: %v", f.Key, got)
		}
	}
	if got := Formats[0].Lacks(scene.NewComposition("main", "Main")); got == nil || len(got) > 0 {
		t.Errorf("of an empty composition: %v", got)
	}
}
