package scene

import (
	"strings"
	"testing"
)

func TestSoundsThatCannotBeAreRefused(t *testing.T) {
	asset := AssetID(strings.Repeat("ab12", 16))
	good := Sound{Asset: asset, Seconds: 0.03, Start: -400, Bands: "AAECA/8EBQYHCAkK"}
	if err := good.Check(); err != nil {
		t.Fatal(err)
	}
	for says, spoil := range map[string]func(*Sound){
		"does not name a sound":         func(s *Sound) { s.Asset = "drum.wav" },
		"no length":                     func(s *Sound) { s.Seconds = 0 },
		"180 minutes":                   func(s *Sound) { s.Seconds = 3 * 3600 },
		"does not go with its length":   func(s *Sound) { s.Seconds = 1.7 },
		"import the sound again":        func(s *Sound) { s.Bands = "no base64!" },
		"frames before or behind":       func(s *Sound) { s.Start = -MaxFrames - 1 },
		"not at 99999999":               func(s *Sound) { s.Start = 99999999 },
		"the loudness of the sound doe": func(s *Sound) { s.Bands = "" },
	} {
		bad := good
		spoil(&bad)
		if err := bad.Check(); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want: %s", err, says)
		}
	}
	star := &Item{ID: "s", Name: "Star", Kind: Star, Sound: &good}
	if err := star.Check(); err == nil || !strings.Contains(err.Error(), "only a sound") {
		t.Errorf("a star is heard: %v", err)
	}
	p := NewProject("p", "Test")
	p.Compositions[0].Items = []*Item{{ID: "d", Name: "Drum", Kind: SoundItem, Sound: &good}}
	if all := p.Assets(); len(all) != 1 || all[0] != asset {
		t.Errorf("what it has besides: %v", all)
	}
	flag := AssetID(strings.Repeat("f1a9", 16))
	p.Recipes = []*SavedRecipe{{ID: "r", Name: "Flag", Items: []*Item{{ID: "f", Name: "Flag", Kind: Picture, Frames: []Frame{{Asset: flag}, {Asset: asset}}}}}}
	if all := p.Assets(); len(all) != 2 || all[1] != flag {
		t.Errorf("with that of a recipe: %v", all)
	}
	drum := p.Compositions[0].Items[0]
	drum.States = map[string]*State{"lows": {Own: Num(40)}}
	if err := drum.Check(); err == nil || !strings.Contains(err.Error(), "read-only") {
		t.Errorf("how loud it is can be set: %v", err)
	}
}
