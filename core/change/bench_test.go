package change

import (
	"fmt"
	"testing"

	"wunderkammer/core/scene"
)

// BenchmarkLinkAdd adds and removes a link in a composition of ten thousand, with the search for
// cycles.
func BenchmarkLinkAdd(b *testing.B) {
	p := scene.NewProject("p", "P")
	c := p.Compositions[0]
	c.Items = []*scene.Item{{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "amount", Name: "Amount", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(0)}}}}
	for i := range 10000 {
		item := &scene.Item{ID: scene.ID(fmt.Sprintf("i%d", i)), Name: "Item", Kind: scene.Rectangle}
		item.Edit("opacity").Links = []*scene.Link{follow("l", "rig", "amount", "")}
		c.Items = append(c.Items, item)
	}
	add := Ops{&LinkAdd{Of: Of{On{In{c.ID}, "i5"}, "rotation"}, Link: follow("new", "rig", "amount", ""), At: -1}}
	for b.Loop() {
		inverse, _, err := Apply(p, add)
		if err != nil {
			b.Fatal(err)
		}
		if _, _, err := Replay(p, inverse); err != nil {
			b.Fatal(err)
		}
	}
}
