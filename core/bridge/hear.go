package bridge

import "wunderkammer/core/sound"

// Hear listens to a sound, given by the samples of its channels and how many there are a second, and answers as Call does, with a
// scene.Sound that has no asset yet. No project needs to be open.
func Hear(channels [][]float32, rate float64) string {
	return guarded("hear", func() (any, error) { return sound.Hear(channels, rate) })
}
