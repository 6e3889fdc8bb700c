// Package sound hears how loud a sound is from moment to moment, altogether and in bands of low, middle and high tones.
package sound

import (
	"encoding/base64"
	"math"

	"wunderkammer/core/scene"
)

// Where the bands meet, in Hz.
const (
	Low  = 200
	High = 2000
)

// window is how long a moment is listened to, in seconds.
const window = 0.04

// silent is a loudness, in shares of the loudest that can be, below which nothing is heard.
const silent = 1e-4

// Hear returns a sound without an asset, given by the samples of its channels, -1 to 1, all of the same length, and how many there
// are a second. How loud it is is the root mean square over window about each moment, weighted by a Hann window, of all channels
// together; the lows are what a low pass at Low leaves, the highs what a high pass at High does, the mids what lies between. Each
// band is measured by its own loudest moment.
func Hear(channels [][]float32, rate float64) (*scene.Sound, error) {
	s := &scene.Sound{}
	if len(channels) > 0 && rate > 0 {
		s.Seconds = float64(len(channels[0])) / rate
	}
	if err := scene.CheckSeconds(s.Seconds); err != nil {
		return nil, err
	}
	var data []byte
	for _, band := range bands(rate) {
		data = append(data, measured(band, channels, rate, scene.Moments(s.Seconds))...)
	}
	s.Bands = base64.StdEncoding.EncodeToString(data)
	return s, nil
}

// bands returns the filters of each of scene.SoundBands.
func bands(rate float64) [][]filter {
	return [][]filter{
		nil,
		{lowPass(Low, rate)},
		{highPass(Low, rate), lowPass(High, rate)},
		{highPass(High, rate)},
	}
}

// measured returns n loudnesses of what some filters leave of a sound, the loudest 255.
func measured(filters []filter, channels [][]float32, rate float64, n int) []byte {
	half := window / 2 * rate
	weights := make([]float64, int(half)+2) // by the distance from the middle, in samples
	for k := range weights {
		weights[k] = 0.5 + float64(0.5*math.Cos(math.Pi*min(1, float64(k)/half)))
	}
	power := make([]float64, n)
	for _, channel := range channels {
		kept := make([]filter, len(filters))
		copy(kept, filters)
		for i, sample := range channel {
			x := float64(sample)
			if x-x != 0 { // no number
				x = 0
			}
			for k := range kept {
				x = kept[k].pass(x)
			}
			square := float64(x * x)
			first := int(float64(i) * scene.SoundRate / rate)
			for m := first; m <= first+1 && m < n; m++ { // windows overlap by half
				off := int(math.Abs(float64(i)-float64(m)*rate/scene.SoundRate) + 0.5)
				power[m] += float64(weights[min(off, len(weights)-1)] * square)
			}
		}
	}
	loudest := 0.0
	for _, x := range power {
		loudest = max(loudest, x)
	}
	out := make([]byte, n)
	if math.Sqrt(loudest/(half*float64(len(channels)))) < silent {
		return out
	}
	for k, x := range power {
		out[k] = byte(math.Round(255 * math.Sqrt(x/loudest)))
	}
	return out
}

// filter is one of second order in the direct form I, with what it heard last.
type filter struct{ b0, b1, b2, a1, a2, x1, x2, y1, y2 float64 }

func (f *filter) pass(x float64) float64 {
	y := float64(f.b0*x) + float64(f.b1*f.x1) + float64(f.b2*f.x2) - float64(f.a1*f.y1) - float64(f.a2*f.y2)
	f.x2, f.x1, f.y2, f.y1 = f.x1, x, f.y1, y
	return y
}

// lowPass and highPass are Butterworth filters, with the coefficients of R. Bristow-Johnson's Audio EQ Cookbook (W3C Working Group
// Note, 2021) at a Q of 1/√2. Above half of the rate there is nothing to hear, so there they let everything or nothing pass.

func lowPass(hz, rate float64) filter {
	cos, alpha, ok := corner(hz, rate)
	if !ok {
		return filter{b0: 1}
	}
	return normal((1-cos)/2, 1-cos, cos, alpha)
}

func highPass(hz, rate float64) filter {
	cos, alpha, ok := corner(hz, rate)
	if !ok {
		return filter{}
	}
	return normal((1+cos)/2, -(1 + cos), cos, alpha)
}

func corner(hz, rate float64) (cos, alpha float64, ok bool) {
	w := 2 * math.Pi * hz / rate
	return math.Cos(w), math.Sin(w) / math.Sqrt2, hz < rate/2
}

func normal(outer, middle, cos, alpha float64) filter {
	a0 := 1 + alpha
	return filter{b0: outer / a0, b1: middle / a0, b2: outer / a0, a1: -2 * cos / a0, a2: (1 - alpha) / a0}
}
