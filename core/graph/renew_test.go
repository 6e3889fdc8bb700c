package graph_test

import (
	"encoding/json"
	"fmt"
	"regexp"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
	"wunderkammer/demo"
)

// All of the demo with new ids shows what it showed, and nothing of it is called by an id of before.
func TestRenewedIsTheSame(t *testing.T) {
	p, err := demo.Build()
	if err != nil {
		t.Fatal(err)
	}
	n := 0
	fresh := func() scene.ID { n++; return scene.ID(fmt.Sprintf("fresh%d", n)) }
	again := graph.Renew(p, fresh)
	if err := again.Check(); err != nil {
		t.Fatal(err)
	}
	place := regexp.MustCompile(`^fresh\d+$`)
	for k, c := range p.Compositions {
		made := again.Compositions[k]
		for i, id := range made.IDs() {
			if !place.MatchString(string(id)) {
				t.Fatalf("%s: the id %d is %s", c.Name, i, id)
			}
		}
		before, after := engine.New(c), engine.New(made)
		for _, frame := range []float64{0, 37, 113.4} {
			before.Evaluate(frame)
			after.Evaluate(frame)
			for i, item := range before.Layout.Laid() {
				to := after.Layout.Laid()[i]
				if to.Name != item.Name {
					t.Fatalf("%s is called %s", item.Name, to.Name)
				}
				specs := after.Layout.Specs(int32(i))
				for n, spec := range before.Layout.Specs(int32(i)) {
					was, is := before.ValueOf(int32(i), spec.Key), after.ValueOf(int32(i), specs[n].Key)
					if was != is {
						t.Fatalf("%s, frame %g: %s of %s is %v, and was %v", c.Name, frame, spec.Name, item.Name, is, was)
					}
				}
			}
		}
	}
	// Renewed once more, nothing is left of the ids between.
	text, err := json.Marshal(graph.Renew(again, func() scene.ID { n++; return scene.ID(fmt.Sprintf("last%d", n)) }).Compositions)
	if err != nil {
		t.Fatal(err)
	}
	if left := regexp.MustCompile(`.{60}fresh\d+.{20}`).Find(text); left != nil {
		t.Errorf("an id is left: %s", left)
	}
}
