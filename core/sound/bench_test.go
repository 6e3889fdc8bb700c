package sound

import "testing"

func BenchmarkHearAMinute(b *testing.B) {
	samples := tone(310, 0.7, 2, 51, 60, 16000)
	for b.Loop() {
		if _, err := Hear([][]float32{samples, samples}, 16000); err != nil {
			b.Fatal(err)
		}
	}
}
