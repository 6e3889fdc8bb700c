package sound

import (
	"math"
	"strings"
	"testing"

	"wunderkammer/core/scene"
)

// zeros stands for an asset.
var zeros = strings.Repeat("0", 64)

// tone returns seconds of a sine of an amplitude, silent before and after from and to.
func tone(hz, amplitude, from, to, seconds, rate float64) []float32 {
	out := make([]float32, int(seconds*rate))
	for i := range out {
		if t := float64(i) / rate; t >= from && t < to {
			out[i] = float32(amplitude * math.Sin(2*math.Pi*hz*t))
		}
	}
	return out
}

func sum(all ...[]float32) []float32 {
	out := make([]float32, len(all[0]))
	for _, one := range all {
		for i, x := range one {
			out[i] += x
		}
	}
	return out
}

// heardAt returns the bands of a sound that begins at frame 0, at a time in seconds.
func heardAt(t *testing.T, s *scene.Sound, at float64) map[string]float64 {
	t.Helper()
	s.Asset = scene.AssetID(zeros)
	if err := s.Check(); err != nil {
		t.Fatal(err)
	}
	out := map[string]float64{}
	for k, band := range scene.SoundBands {
		track := s.Track(k, 24)
		out[band] = track.At(at * 24)
	}
	return out
}

func TestBandsHearWhatIsInThem(t *testing.T) {
	const rate = 22050
	s, err := Hear([][]float32{sum(
		tone(71, 0.8, 0.2, 0.7, 3.3, rate),
		tone(640, 0.37, 1.1, 1.6, 3.3, rate),
		tone(5200, 0.23, 2.1, 2.6, 3.3, rate),
	)}, rate)
	if err != nil {
		t.Fatal(err)
	}
	if math.Abs(s.Seconds-3.3) > 1e-9 {
		t.Errorf("%v s long", s.Seconds)
	}
	for at, loud := range map[float64]string{0.45: "lows", 1.35: "mids", 2.35: "highs"} {
		got := heardAt(t, s, at)
		for _, band := range scene.SoundBands[1:] {
			if band == loud && got[band] < 95 {
				t.Errorf("at %v s the %s are at %.1f %%", at, band, got[band])
			}
			if band != loud && got[band] > 30 {
				t.Errorf("at %v s, where only %s are, the %s are at %.1f %%", at, loud, band, got[band])
			}
		}
	}
	// Amplitudes show in the loudness as they are: 0.37 and 0.23 of 0.8.
	for at, want := range map[float64]float64{0.45: 100, 1.35: 46.25, 2.35: 28.75, 0.9: 0, 3.1: 0} {
		if got := heardAt(t, s, at)["loudness"]; math.Abs(got-want) > 1 {
			t.Errorf("at %v s it is at %.2f %%, want %v", at, got, want)
		}
	}
}

func TestBeforeAndBehindNothingIsHeard(t *testing.T) {
	s, err := Hear([][]float32{tone(300, 0.6, 0, 1.3, 1.3, 8000)}, 8000)
	if err != nil {
		t.Fatal(err)
	}
	s.Asset, s.Start = scene.AssetID(zeros), 17
	track := s.Track(0, 30)
	for frame, loud := range map[float64]bool{-5: false, 16: false, 18.4: true, 40: true, 54: true, 59: false, 400: false} {
		if got := track.At(frame); (got > 50) != loud || (!loud && got != 0) {
			t.Errorf("at frame %v it is at %.2f %%", frame, got)
		}
	}
}

func TestChannelsAreHeardTogether(t *testing.T) {
	left, right := tone(440, 0.9, 0, 0.5, 1, 8000), tone(440, 0.45, 0.5, 1, 1, 8000)
	s, err := Hear([][]float32{left, right}, 8000)
	if err != nil {
		t.Fatal(err)
	}
	if got := heardAt(t, s, 0.75)["loudness"]; math.Abs(got-50) > 1 {
		t.Errorf("the softer channel is at %.2f %%", got)
	}
}

func TestWhatCannotBeHeardIsRefused(t *testing.T) {
	for name, c := range map[string]struct {
		channels [][]float32
		rate     float64
		says     string
	}{
		"nothing":     {nil, 44100, "no length"},
		"no sample":   {[][]float32{{}}, 44100, "no length"},
		"no rate":     {[][]float32{{0.3}}, 0, "no length"},
		"three hours": {[][]float32{make([]float32, 3*3600)}, 1, "180 minutes"},
	} {
		if _, err := Hear(c.channels, c.rate); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v", name, err)
		}
	}
	// Silence, and what is no number, is heard as nothing.
	s, err := Hear([][]float32{{0, float32(math.NaN()), float32(math.Inf(1)), 0.00001, 0}}, 8000)
	if err != nil {
		t.Fatal(err)
	}
	if got := heardAt(t, s, 0); got["loudness"] != 0 {
		t.Errorf("silence is heard: %v", got)
	}
}
