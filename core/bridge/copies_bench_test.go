package bridge

import (
	"strings"
	"testing"
)

// BenchmarkFrameOfCopies works out and packs the next frame of 1,000 copies of three moving shapes, each a frame later than the one
// before, as the worker does for the page.
func BenchmarkFrameOfCopies(b *testing.B) {
	bead := `{"id":"bead$","name":"Bead","kind":"ellipse","parent":"beads","states":{
"rotation":{"links":[{"id":"turn$","kind":"formula","gain":1,"formula":"wave(time * 0.3 + $ / 3) * 40"}]},
"position":{"pins":[{"frame":0,"value":[0,0,0],"easing":"smooth"},{"frame":4000,"value":[400,100,0],"easing":"smooth"}]}}}`
	items := []string{`{"id":"beads","name":"Beads","kind":"copies","copies":{"limit":1000},"states":{"copiesNumber":{"own":1000},"copiesArrangement":{"own":2}}}`}
	for _, k := range []string{"0", "1", "2"} {
		items = append(items, strings.ReplaceAll(bead, "$", k))
	}
	document := `{"project":{"id":"p","name":"P","compositions":[{"id":"main","name":"Main","width":400,"height":300,"rate":25,"frames":4000,
"background":[0,0,0,1],"items":[` + strings.Join(items, ",") + `],"spreads":[{"id":"row","name":"Row","roster":{"kind":"copies","item":"beads"},
"property":"copyLate","link":{"id":"late","kind":"formula","formula":"index * 1f","gain":1}}]}]},"revision":1}`
	page := &Bridge{}
	page.Open([]byte(document), []byte("[]"))
	frame := 1500.0
	for b.Loop() {
		f, broken := page.Evaluate(frame)
		if broken != "" || len(f.Copies) < 3000*20 {
			b.Fatalf("%d numbers are packed: %s", len(f.Copies), broken)
		}
		if frame++; frame > 3900 {
			frame = 1500
		}
	}
}
