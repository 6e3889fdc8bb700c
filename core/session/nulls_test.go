package session

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"

	"wunderkammer/core/gesture/catalogue"
	"wunderkammer/core/gesture/recipes"
	"wunderkammer/core/scene"
)

// without gives JSON again and again, each time with another part of it put to something else.
func without(data []byte, instead any, visit func(data []byte)) {
	var tree any
	if json.Unmarshal(data, &tree) != nil {
		return
	}
	var walk func(v any, set func(any))
	walk = func(v any, set func(any)) {
		if set != nil {
			set(instead)
			if altered, err := json.Marshal(tree); err == nil {
				visit(altered)
			}
			set(v)
		}
		switch v := v.(type) {
		case map[string]any:
			for key, inside := range v {
				walk(inside, func(x any) { v[key] = x })
			}
		case []any:
			for k, inside := range v {
				walk(inside, func(x any) { v[k] = x })
			}
		}
	}
	walk(tree, nil)
}

// A hand-made recipe, clip or gesture may hold nothing wherever something belongs: it is refused in a sentence, or makes
// something sound; nothing breaks.
func TestNothingWhereSomethingBelongs(t *testing.T) {
	if testing.Short() {
		t.Skip("it takes its time")
	}
	tried, refused := 0, 0
	for seed := range uint64(12) {
		s := window(t, scene.NewProject("p", "P"), 0, "a")
		h := &hand{r: rand.New(rand.NewPCG(seed, 11)), s: s}
		for range 60 {
			_, g := h.gesture()
			s.Do(g, Options{Frame: 3, ID: "before"})
		}
		if len(h.items()) < 2 {
			continue
		}
		h.s.Do(&recipes.SaveRecipe{Items: []scene.ID{h.items()[0].ID, h.items()[1].ID}, Name: "Rig", Fields: []scene.SavedField{{Ref: scene.Ref{Item: h.items()[0].ID, Property: "rotation"}, Name: "Turn"}}}, Options{ID: "saved"})
		for name := range catalogue.All() {
			data, err := json.Marshal(gestures[name](h))
			if err != nil {
				t.Fatal(err)
			}
			for _, instead := range []any{nil, []any{nil}} {
				without(data, instead, func(data []byte) {
					if tried++; tried%7 > 0 && len(data) > 4000 { // of what is large, some
						return
					}
					g, err := catalogue.Decode(name, data)
					if err != nil {
						refused++
						return
					}
					defer func() {
						if cause := recover(); cause != nil {
							t.Errorf("%s %.300s: %v", name, data, cause)
						}
					}()
					before, n := text(t, s.Project), len(s.undo)
					_, err = s.Do(g, Options{Frame: 5, ID: fmt.Sprint("t", tried)})
					if err != nil {
						if refused++; text(t, s.Project) != before {
							t.Errorf("%s %.300s: refused with %v, and yet something changed", name, data, err)
						}
						return
					}
					if err := s.Project.Check(); err != nil {
						t.Errorf("%s %.300s: the project cannot be kept: %v", name, data, err)
					}
					if len(s.undo) > n {
						s.Undo("back")
					}
				})
			}
		}
	}
	if t.Logf("%d tried, %d refused", tried, refused); tried < 5000 || refused < 1000 {
		t.Errorf("%d tried, %d refused", tried, refused)
	}
}
