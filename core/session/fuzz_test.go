package session

import (
	"encoding/json"
	"math/rand/v2"
	"testing"

	"wunderkammer/core/check"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/catalogue"
	"wunderkammer/core/scene"
)

// sound fails where a working copy is not what one made anew is.
func sound(t *testing.T, s *Session) {
	t.Helper()
	if err := s.Project.Check(); err != nil {
		t.Fatalf("the project cannot be kept: %v", err)
	}
	fresh := engine.New(s.Composition())
	for _, f := range []float64{0, 9} {
		s.Evaluate(f)
		fresh.Evaluate(f)
		if len(s.Poses()) > 0 {
			continue
		}
		if differs := compared(s.Plan(), fresh); differs != "" {
			t.Fatal(differs)
		}
	}
	check.Of(s.Composition(), s.Plan())
}

// Whatever stands in the JSON of a gesture: it is refused, or leaves a sound project and can be undone.
func FuzzGesture(f *testing.F) {
	for name := range catalogue.All() {
		f.Add(name, `{"item":"a1","items":["a1",null],"targets":[{"item":"a1","property":"rotation"},{"item":"a2","property":"position","component":"x"}],"link":"a3","value":[1,2],"kind":"rectangle","by":[1,2,3]}`, false)
		f.Add(name, `{"clip":{"items":[null,{"id":"x","name":"X","kind":"null","controls":[null],"states":{"rotation":{"links":[null]}}}]},"ops":[{"op":"item.add","value":{"id":"z","name":"Z","kind":"null"}}],"pins":[{"item":"a1","property":"rotation","frame":3}]}`, true)
	}
	f.Fuzz(func(t *testing.T, name, with string, preview bool) {
		if len(with) > 4000 {
			return
		}
		g, err := catalogue.Decode(name, []byte(with))
		if err != nil {
			return
		}
		s := window(t, scene.NewProject("p", "P"), 0, "a")
		h := &hand{r: rand.New(rand.NewPCG(1, 2)), s: s}
		for range 12 {
			_, g := h.gesture()
			s.Do(g, Options{Frame: 3, ID: "before"})
		}
		before, n := text(t, s.Project), len(s.undo)
		if _, err := s.Do(g, Options{Frame: 5, Preview: preview, ID: "fuzzed"}); err != nil && text(t, s.Project) != before {
			t.Fatalf("refused with %v, and yet something changed", err)
		}
		sound(t, s)
		s.Cancel()
		if len(s.undo) > n {
			if err := s.Undo("back"); err != nil {
				t.Fatal(err)
			}
		}
		if text(t, s.Project) != before {
			t.Fatal("undone it is not as before")
		}
	})
}

// Two windows that each make gestures at random, told of each other's in any order, come to the same project.
func FuzzRebase(f *testing.F) {
	for seed := range uint64(20) {
		f.Add(seed, seed*7)
	}
	f.Fuzz(func(t *testing.T, one, two uint64) {
		p := scene.NewProject("p", "P")
		a, b := window(t, p, 0, "a"), window(t, p, 0, "b")
		var saved []Change
		r := rand.New(rand.NewPCG(one, two))
		send := func(from *Session) { // as the server does: in order, each once
			for len(from.Waiting()) > 0 {
				if _, err := from.Receive(saved[from.Revision:]); err != nil {
					t.Fatal(err)
				}
				waiting := from.Waiting()
				if len(waiting) == 0 {
					return
				}
				c := waiting[0]
				c.Revision = len(saved) + 1
				saved = append(saved, c)
				if _, err := from.Receive([]Change{c}); err != nil {
					t.Fatal(err)
				}
			}
		}
		hands := []*hand{{r: r, s: a}, {r: r, s: b}}
		for step := range 24 {
			h := hands[r.IntN(2)]
			_, g := h.gesture()
			h.s.Do(g, Options{Frame: r.IntN(20), Preview: r.IntN(8) == 0, ID: string(rune('A'+step)) + "x"})
			switch r.IntN(5) {
			case 0:
				send(h.s)
			case 1:
				if _, err := h.s.Receive(saved[h.s.Revision:]); err != nil {
					t.Fatal(err)
				}
			case 2:
				h.s.Undo("u" + string(rune('A'+step)))
			}
		}
		for range 3 {
			send(a)
			send(b)
			for _, s := range []*Session{a, b} {
				s.Cancel()
				if _, err := s.Receive(saved[s.Revision:]); err != nil {
					t.Fatal(err)
				}
			}
		}
		if text(t, a.Project) != text(t, b.Project) {
			t.Fatal("the windows show different projects")
		}
		for _, s := range []*Session{a, b} {
			for _, posed := range s.Poses() {
				s.pose([]gesture.Pose{{Ref: posed}})
			}
			sound(t, s)
		}
	})
}

// Whatever JSON a project comes as: it is refused, or can be opened, evaluated and looked over.
func FuzzProject(f *testing.F) {
	p := scene.NewProject("p", "P")
	s := window(f, p, 0, "a")
	h := &hand{r: rand.New(rand.NewPCG(3, 4)), s: s}
	for range 60 {
		_, g := h.gesture()
		s.Do(g, Options{Frame: 2, ID: "x"})
	}
	f.Add(text(f, s.Project))
	f.Add(text(f, p))
	f.Add(`{"id":"p","name":"P","compositions":[null,{"id":"m","name":"M","width":9,"height":9,"rate":9,"frames":9,"background":[0,0,0,1],"items":[null,{"id":"a","name":"A","kind":"null","parent":"a"}],"spreads":[null]}]}`)
	f.Fuzz(func(t *testing.T, data string) {
		if len(data) > 20000 || scene.CheckJSON([]byte(data)) != nil {
			return
		}
		p := &scene.Project{}
		if json.Unmarshal([]byte(data), p) != nil {
			return
		}
		p.Upgrade(1)
		p.Heal()
		if p.Check() != nil {
			return
		}
		s, _ := Open(p, 0, nil, func() scene.ID { return "made" })
		sound(t, s)
	})
}
