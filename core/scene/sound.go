package scene

import (
	"encoding/base64"
	"fmt"
	"math"
	"slices"

	"wunderkammer/core/curve"
)

// Sound is what a sound item plays, and how loud it is from moment to moment.
type Sound struct {
	Asset   AssetID `json:"asset"`
	Seconds float64 `json:"seconds"`         // how long it is
	Start   int     `json:"start,omitempty"` // the frame that it begins at
	// Bands is how loud it is, as base64: for each of SoundBands a run of bytes, one for every SoundRate-th of a second from the
	// beginning on, 255 where that band is loudest.
	Bands string `json:"bands,omitempty"`
}

// Bounds of sounds.
const (
	SoundRate  = 50  // loudnesses a second
	MaxSeconds = 600 // of a sound
)

// SoundBands are the properties of a sound that are read off its loudness, in the order of Sound.Bands.
var SoundBands = []string{"loudness", "lows", "mids", "highs"}

// Moments returns how many loudnesses there are of a sound of so many seconds.
func Moments(seconds float64) int { return int(math.Ceil(seconds*SoundRate)) + 1 }

// Check refuses a sound that could not be heard, or whose loudness does not go with its length.
func (s *Sound) Check() error {
	switch {
	case s == nil:
		return nil
	case !s.Asset.Valid():
		return fmt.Errorf("%q does not name a sound", Clip(string(s.Asset)))
	case s.Start < -MaxFrames || s.Start > MaxFrames:
		return fmt.Errorf("a sound can begin %d frames before or behind the start, not at %d", MaxFrames, s.Start)
	}
	if err := CheckSeconds(s.Seconds); err != nil {
		return err
	}
	data, err := base64.StdEncoding.DecodeString(s.Bands)
	if err != nil || len(data) != len(SoundBands)*Moments(s.Seconds) {
		return fmt.Errorf("the loudness of the sound does not go with its length; import the sound again")
	}
	return nil
}

// CheckSeconds refuses the length of a sound that could not be heard.
func CheckSeconds(seconds float64) error {
	switch {
	case !(seconds > 0):
		return fmt.Errorf("a sound of no length can't be heard")
	case seconds > MaxSeconds:
		return fmt.Errorf("the sound is %.0f minutes long; the limit is %d. Cut out the part that you need", seconds/60, MaxSeconds/60)
	}
	return nil
}

// Track returns how one of SoundBands goes on over frames, in percent of where it is loudest, and 0 before and behind the sound;
// rate is frames a second. The sound is one that Check takes.
func (s *Sound) Track(band int, rate float64) curve.Track {
	data, _ := base64.StdEncoding.DecodeString(s.Bands)
	n := Moments(s.Seconds)
	values := make([]float64, 0, n+2)
	values = append(values, 0)
	for _, x := range data[band*n : (band+1)*n] {
		values = append(values, float64(x)/2.55)
	}
	step := rate / SoundRate
	return curve.Sampled(float64(s.Start)-step, step, append(values, 0))
}

// Band returns which of SoundBands the property of a sound is, and -1 for any other.
func (s *Spec) Band() int {
	if !s.ReadOnly || s.Group != groupSound {
		return -1
	}
	return slices.Index(SoundBands, s.Key)
}
