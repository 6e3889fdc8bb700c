package format

import (
	"reflect"
	"strings"
	"testing"

	"wunderkammer/core/scene"
)

func TestWhatIsLeftOpenFollowsTheComposition(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	c.Width, c.Height, c.Rate, c.Frames = 641, 373, 24, 70
	for _, one := range []struct{ asked, want Asked }{
		{Asked{Format: "png", To: 69}, Asked{Format: "png", To: 69, Width: 641, Height: 373, Rate: 24}},
		{Asked{Format: "mp4", From: 3, To: 17}, Asked{Format: "mp4", From: 3, To: 17, Width: 642, Height: 374, Rate: 24}},
		{Asked{Format: "webm", To: 9, Width: 320, Rate: 12.5}, Asked{Format: "webm", To: 9, Width: 320, Height: 186, Rate: 12.5}},
		{Asked{Format: "gif", To: 9, Height: 100, Loop: 3}, Asked{Format: "gif", To: 9, Width: 172, Height: 100, Rate: 24, Loop: 3}},
		{Asked{Format: "picture", From: 31, To: 69, Clear: true}, Asked{Format: "picture", From: 31, To: 31, Width: 641, Height: 373, Rate: 24, Clear: true}},
	} {
		got := one.asked
		one.want.Composition, one.want.Tolerance = "main", DefaultTolerance
		if err := got.Settle(c); err != nil || !reflect.DeepEqual(got, one.want) {
			t.Errorf("%+v: %+v, %v", one.asked, got, err)
		}
	}
}

func TestWhatCanNotBeExportedIsRefusedWithASentence(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	c.Frames = 70
	for says, a := range map[string]Asked{
		`no format "xyz"; there are mp4, webm`: {Format: "xyz"},
		"the frames 0 to 69, not 60 to 70":     {Format: "mp4", From: 60, To: 70},
		"not -1 to 4":                          {Format: "mp4", From: -1, To: 4},
		"not 70 to 70":                         {Format: "picture", From: 70},
		"6, comes before the first, 11":        {Format: "mp4", From: 11, To: 6},
		"1 to 240 pictures a second, not 0.3":  {Format: "mp4", To: 6, Rate: 0.3},
		"holds no transparency":                {Format: "mp4", To: 6, Clear: true},
		"not -2":                               {Format: "gif", To: 6, Loop: -2},
		"1 to 32 samples":                      {Format: "mp4", To: 6, Blur: &Blur{Samples: 33, Angle: 180}},
		"0 to 720°":                            {Format: "mp4", To: 6, Blur: &Blur{Samples: 3, Angle: 721}},
		"at most 16384 pixels":                 {Format: "png", To: 6, Width: 20000},
		"even sizes only, not 333 × 200":       {Format: "mp4", To: 6, Width: 333, Height: 200},
		"at most 100 px, not 101":              {Format: "svg", To: 6, Tolerance: 101},
		"at least one pixel":                   {Format: "png", To: 6, Width: -4},
	} {
		if err := a.Settle(c); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v", says, err)
		}
	}
}
