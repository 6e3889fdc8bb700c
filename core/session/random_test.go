package session

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
)

// hand makes gestures at random on a session.
type hand struct {
	r *rand.Rand
	s *Session
}

func pick[T any](r *rand.Rand, list []T) T { return list[r.IntN(len(list))] }

func (h *hand) items() []*scene.Item { return h.s.Composition().Items }

func (h *hand) ref() scene.Ref {
	item := pick(h.r, h.items())
	keys := []string{"rotation", "opacity", "position", "strokeWidth", "scale", "attachWeight"}
	for _, c := range item.Controls {
		keys = append(keys, string(c.ID), string(c.ID))
	}
	return ref(item.ID, pick(h.r, keys))
}

func (h *hand) some() (out []scene.ID) {
	for _, item := range h.items() {
		if h.r.IntN(3) == 0 {
			out = append(out, item.ID)
		}
	}
	if len(out) == 0 {
		out = append(out, pick(h.r, h.items()).ID)
	}
	return out
}

// gesture is any of those that change links, rosters, items and values.
func (h *hand) gesture() gesture.Gesture {
	if len(h.items()) < 4 {
		return add(pick(h.r, []scene.Kind{scene.Null, scene.Rectangle, scene.Ellipse}), "")
	}
	texts := []string{"time * 30", "own + index", "below * 2 + 1", "delay({self: rotation}, 2f) * 0.5 + 3", "{self: opacity} / 3", "noise(time, number) * 20", "({prev: rotation} else 4) + 1", "1 +", "accumulate({self: opacity}) / 50", "{parent: rotation} + 5"}
	var links []scene.ID
	at := h.ref()
	for _, l := range h.s.Composition().Item(at.Item).State(at.Property).Links {
		links = append(links, l.ID)
	}
	var targets []scene.Ref
	for _, id := range h.some() {
		targets = append(targets, scene.Ref{Item: id, Property: "rotation"})
	}
	switch h.r.IntN(16) {
	case 0:
		return add(pick(h.r, []scene.Kind{scene.Rectangle, scene.Null, scene.TextItem}), "")
	case 1:
		return &gesture.AddControl{Item: pick(h.r, h.items()).ID, Control: scene.Control{Kind: pick(h.r, []scene.Widget{scene.Slider, scene.ColourWidget, scene.PointWidget})}}
	case 2, 3, 4:
		return &gesture.Link{Source: h.ref(), Targets: []scene.Ref{at}, FromHere: h.r.IntN(2) == 0}
	case 5, 6:
		g := &gesture.Formula{Targets: []scene.Ref{at}, Text: pick(h.r, texts)}
		if len(links) > 0 {
			g.Link = pick(h.r, links)
		}
		return g
	case 7, 8:
		return &gesture.Spread{Targets: targets, Text: pick(h.r, texts)}
	case 9:
		if spreads := h.s.Composition().Spreads; len(spreads) > 0 {
			return &gesture.SpreadFormula{Spread: pick(h.r, spreads).ID, Text: pick(h.r, texts)}
		}
		return &gesture.Duplicate{Items: h.some()}
	case 10:
		return &gesture.Bake{Targets: []scene.Ref{at}, To: 20, Tolerance: 0.5}
	case 11:
		return &gesture.Attach{Items: []scene.ID{pick(h.r, h.items()).ID}, Parent: pick(h.r, h.items()).ID}
	case 12:
		return &gesture.Duplicate{Items: []scene.ID{pick(h.r, h.items()).ID}}
	case 13:
		return &gesture.Remove{Items: []scene.ID{pick(h.r, h.items()).ID}}
	case 14:
		return &gesture.Pin{Targets: []scene.Ref{at}}
	}
	return &gesture.Set{Targets: []scene.Ref{{Item: at.Item, Property: "opacity"}}, Value: scene.Num(float64(h.r.IntN(100)))}
}

// Whatever a hand does: the plan that is kept up to date gives what one made from nothing gives, and
// undoing all of it leads back, step by step.
func TestGesturesAtRandom(t *testing.T) {
	made, refused := 0, 0
	for seed := range uint64(25) {
		s := window(t, scene.NewProject("p", "P"), 0, "a")
		h := &hand{rand.New(rand.NewPCG(seed, 1)), s}
		states := []string{text(t, s.Project)}
		for step := range 60 {
			before, steps := text(t, s.Project), len(s.undo)
			_, err := s.Do(h.gesture(), h.r.IntN(30), h.r.IntN(6) == 0, fmt.Sprint("c", step))
			s.Cancel() // a preview leaves nothing
			now := text(t, s.Project)
			if err != nil {
				if refused++; now != before {
					t.Fatalf("seed %d, step %d: refused with %v, and yet something changed", seed, step, err)
				}
				continue
			}
			if len(s.undo) > steps {
				states = append(states, now)
				made++
			}
			if err := s.Project.Check(); err != nil {
				t.Fatalf("seed %d, step %d: the project cannot be kept: %v", seed, step, err)
			}
			for _, posed := range s.Poses() { // shown for the time being, and no part of the document
				s.pose([]gesture.Pose{{Ref: posed}})
			}
			fresh := engine.New(s.Composition())
			for _, frame := range []float64{0, 17} {
				if got, want := s.Evaluate(frame), fresh.Evaluate(frame); !slices.Equal(got, want) {
					t.Fatalf("seed %d, step %d, frame %v: the plan that was kept differs from a new one", seed, step, frame)
				}
			}
		}
		for k := len(states) - 2; k >= 0 && s.CanUndo(); k-- {
			if err := s.Undo(fmt.Sprint("u", k)); err != nil {
				t.Fatalf("seed %d: %v", seed, err)
			}
			if text(t, s.Project) != states[k] {
				t.Fatalf("seed %d: step %d, undone, does not lead back", seed, k+1)
			}
		}
		for s.CanRedo() {
			if err := s.Redo(fmt.Sprint("r", len(s.Waiting()))); err != nil {
				t.Fatalf("seed %d: %v", seed, err)
			}
		}
		if text(t, s.Project) != states[len(states)-1] {
			t.Fatalf("seed %d: all made again is not what it was", seed)
		}
	}
	if made < 500 || refused < 50 {
		t.Errorf("%d were made and %d refused", made, refused)
	}
}
