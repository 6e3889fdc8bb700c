package demo

import (
	"bytes"
	"encoding/binary"
	"math"
	"sync"

	"wunderkammer/core/format/media"
	"wunderkammer/core/scene"
	"wunderkammer/core/sound"
)

// The music of the festival: a drum on the quay, bells, and the wind, made by code.
const (
	musicRate    = 16000 // samples a second
	musicSeconds = 12
	beat         = 0.6 // seconds from one stroke of the drum to the next
)

// scale are the tones of the bells, in Hz.
var scale = []float64{440, 523.25, 587.33, 659.26, 783.99, 880}

// strokes are what is struck on each half of a beat, over two bars: bells by their place in the scale, -1 for none.
var strokes = []int{0, -1, 2, -1, 4, 3, -1, -1, 1, -1, 3, -1, 5, -1, 2, 0}

// music returns the samples of the music.
func music() []float32 {
	out := make([]float64, musicRate*musicSeconds)
	struck := func(at, loud, hz, fades, falls float64) {
		for i := int(at * musicRate); i < len(out); i++ {
			t := float64(i)/musicRate - at
			if t > 6/fades {
				break
			}
			out[i] += loud * math.Exp(-fades*t) * math.Sin(2*math.Pi*(hz*t-falls*hz*t*t))
		}
	}
	for k := 0; float64(k)*beat < musicSeconds; k++ {
		at := float64(k) * beat
		if k%4 != 3 {
			struck(at, 0.5, 96, 9, 0.9) // the drum falls in tone
		}
		for half := range 2 {
			if bell := strokes[(2*k+half)%len(strokes)]; bell >= 0 {
				at := at + float64(half)*beat/2
				struck(at, 0.16, scale[bell], 5, 0)
				struck(at, 0.05, scale[bell]*2.76, 11, 0)
			}
		}
	}
	noise, low := uint32(7), 0.0
	samples := make([]float32, len(out))
	for i, x := range out {
		noise = noise*1664525 + 1013904223
		low += 0.08 * (float64(noise>>8)/(1<<23) - 1 - low)
		t := float64(i) / musicRate
		x += 0.1 * low * (1 + math.Sin(0.9*t)) // the wind comes and goes
		samples[i] = float32(math.Tanh(x) * min(1, 40*t, 3*(musicSeconds-t)))
	}
	return samples
}

// Music returns the music of the demo as a file, and as an item plays it.
var Music = sync.OnceValues(func() (media.File, *scene.Sound) {
	samples := music()
	var b bytes.Buffer
	size := uint32(2 * len(samples))
	b.WriteString("RIFF")
	write := func(all ...any) {
		for _, x := range all {
			_ = binary.Write(&b, binary.LittleEndian, x) // a buffer takes everything
		}
	}
	write(36 + size)
	b.WriteString("WAVEfmt ")
	write(uint32(16), uint16(1), uint16(1), uint32(musicRate), uint32(2*musicRate), uint16(2), uint16(16))
	b.WriteString("data")
	write(size)
	for _, x := range samples {
		write(int16(math.Round(32767 * float64(x))))
	}
	files, err := media.Read(b.Bytes())
	if err != nil {
		panic(err) // it begins as one does
	}
	heard, err := sound.Hear([][]float32{samples}, musicRate)
	if err != nil {
		panic(err) // it has a length
	}
	heard.Asset = files[0].ID
	return files[0], heard
})

// Files returns the pictures and the sound of the demo, to be kept beside it.
func Files() []media.File {
	file, _ := Music()
	return append(Pictures(), file)
}
