package demo

import (
	"encoding/json"
	"testing"

	"wunderkammer/core/check"
	"wunderkammer/core/engine"
	"wunderkammer/core/rehearse"
	"wunderkammer/core/scene"
)

func TestTheDemoIsSoundAndAlwaysTheSame(t *testing.T) {
	p, err := Build()
	if err != nil {
		t.Fatal(err)
	}
	if err := p.Check(); err != nil {
		t.Error(err)
	}
	for _, c := range p.Compositions {
		plan := engine.New(c)
		for _, found := range append(check.Of(c, plan), check.Deep(c, plan)...) {
			t.Errorf("%s: %s", c.Name, found.Sentence)
		}
	}
	again, err := Build()
	if err != nil {
		t.Fatal(err)
	}
	a, _ := json.Marshal(p)
	b, _ := json.Marshal(again)
	if string(a) != string(b) {
		t.Error("built twice, the demo differs")
	}
}

func TestTheDemoMovesAllTheTime(t *testing.T) {
	p, err := Build()
	if err != nil {
		t.Fatal(err)
	}
	c := p.Compositions[0]
	plan := engine.New(c)
	lantern, err := c.Find("Lantern 3: rotation")
	if err != nil {
		t.Fatal(err)
	}
	var last scene.Value
	for f := 0; f < c.Frames; f += 5 {
		plan.Evaluate(float64(f))
		if v := plan.Value(lantern); v == last {
			t.Errorf("Lantern 3 hangs still at frame %d", f)
		} else {
			last = v
		}
	}
}

// Whoever sweeps the controls of the demo finds nothing wrong with it.
func TestTheDemoIsRehearsedWithoutAFinding(t *testing.T) {
	p, err := Build()
	if err != nil {
		t.Fatal(err)
	}
	moments := 0
	for _, c := range p.Compositions {
		for _, frame := range []int{0, c.Frames / 2} {
			r := rehearse.New(c, rehearse.Options{Frame: frame})
			for range r.Run() {
				moments++
			}
			for _, found := range r.Found() {
				t.Errorf("%s, frame %d: %s", c.Name, frame, found.Sentence)
			}
		}
	}
	if moments < 2000 {
		t.Errorf("only %d moments were looked at", moments)
	}
}
