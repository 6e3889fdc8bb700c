package check_test

import (
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/check"
	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

// Single links that do the same, or what grows evenly, are named as what one link could do; others are not.
func TestSingleLinksThatOneCouldStandFor(t *testing.T) {
	c := scene.NewComposition("main", "Main")
	c.Items = []*scene.Item{{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "sway", Name: "Sway", Kind: scene.Fader, SoftMax: 90, Default: scene.Num(7)}}}}
	for k := range 5 {
		item := &scene.Item{ID: scene.ID(fmt.Sprint("i", k)), Name: fmt.Sprint("Flag ", k), Kind: scene.Rectangle}
		on := func(key string, l scene.Link) {
			l.ID, l.Gain = scene.ID(fmt.Sprintf("%s%d", key[:3], k)), 2
			item.Edit(key).Links = []*scene.Link{&l}
		}
		sway := scene.Ref{Item: "rig", Property: "sway"}
		on("rotation", scene.Link{Kind: scene.Follow, Source: sway, Delay: float64(12 - 3*k)})                                                 // evenly, the last first
		on("opacity", scene.Link{Kind: scene.Follow, Source: sway, Offset: []float64{0, 4, 8, 12.7, 16}[k]})                                   // not evenly
		on("strokeWidth", scene.Link{Kind: scene.Formula, Formula: "{@rig:@sway} + index"})                                                    // counts
		on("cornerRadius", scene.Link{Kind: scene.Follow, Source: sway, Operation: []scene.Operation{scene.Replace, scene.Plus}[min(1, k/3)]}) // three and two
		c.Items = append(c.Items, item)
	}
	p := engine.New(c)
	p.Evaluate(0)
	var tips []string
	for _, found := range check.Deep(c, p) {
		if found.Severity == check.Tip {
			tips = append(tips, found.Sentence)
			if fix := found.Fixes[0]; len(fix.Together) != len(fix.Links) || len(fix.Links) < 3 {
				t.Errorf("%+v", fix)
			}
		}
	}
	if all := strings.Join(tips, "\n"); len(tips) != 2 || !strings.Contains(all, "rotation of 5") && !strings.Contains(all, "Rotation of 5") || !strings.Contains(all, "3 items") {
		t.Errorf("%s", all)
	}
}
