package bridge

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
)

// BenchmarkDrag moves a fader that drives 1,000, 10,000 and 100,000 links by a step, as a hand does: from the call to the frame.
func BenchmarkDrag(b *testing.B) {
	for _, n := range []int{1000, 10000, 100000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			p := &page{TB: b, Bridge: &Bridge{}, n: n}
			if text := p.Open(grown(n), []byte("[]")); !strings.HasPrefix(text, `{"result":`) {
				b.Fatalf("%.300s", text)
			}
			p.Evaluate(0)
			k := 0
			for b.Loop() {
				k++
				with, _ := json.Marshal(map[string]any{"gesture": "set", "with": map[string]any{"targets": []o{{"item": "rig", "property": "amount"}}, "value": 11.3 + float64(k%71)}, "frame": 0, "preview": true})
				if text := p.Call("do", with); !strings.HasPrefix(text, `{"result":`) || strings.Contains(text, `"error":"`) {
					b.Fatalf("%.300s", text)
				}
				p.Evaluate(0)
			}
		})
	}
}
