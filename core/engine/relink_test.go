package engine

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// Links that come, change and go one property at a time give what planning everything anew gives,
// and find a circle where that finds one.
func TestRelinkEqualsPlanningAnew(t *testing.T) {
	keys := []string{"opacity", "position", "rotation", "scale", "attachWeight"}
	sources := []string{"opacity", "position", "rotation", "worldPosition", "attachWeight"}
	circles, relinked := 0, 0
	for seed := range uint64(40) {
		r := rand.New(rand.NewPCG(seed, 7))
		c := scene.NewComposition("main", "Main")
		for i := range 8 {
			item := &scene.Item{ID: scene.ID(fmt.Sprint("i", i)), Name: fmt.Sprint("Item ", i), Kind: scene.Rectangle}
			if i > 0 && r.IntN(2) == 0 {
				item.Parent = c.Items[r.IntN(i)].ID
			}
			item.Edit("rotation").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(0), Easing: curve.Linear}, {Frame: 50, Value: scene.Num(float64(10 * i)), Easing: curve.Linear}}
			c.Items = append(c.Items, item)
		}
		// Something reads the derived properties from the start, so that they have slots.
		reader := &scene.Item{ID: "reader", Name: "Reader", Kind: scene.Null}
		for i := range 8 {
			reader.Edit("position").Links = append(reader.State("position").Links, &scene.Link{ID: scene.ID(fmt.Sprint("r", i)), Kind: scene.Follow, Source: scene.Ref{Item: c.Items[i].ID, Property: "worldPosition"}, Gain: 1, Operation: scene.Plus})
		}
		c.Items = append(c.Items, reader)
		p := New(c)
		for step := range 60 {
			at := scene.Ref{Item: c.Items[r.IntN(8)].ID, Property: keys[r.IntN(len(keys))]}
			item := c.Item(at.Item)
			state := item.Edit(at.Property)
			before := slices.Clone(state.Links)
			if len(before) > 0 && r.IntN(3) == 0 {
				state.Links = before[: len(before)-1 : len(before)-1]
			} else {
				from := scene.Ref{Item: c.Items[r.IntN(8)].ID, Property: sources[r.IntN(len(sources))]}
				if spec := c.Item(from.Item).Spec(from.Property); spec.Type == scene.Point3 {
					from.Component = "x"
				}
				l := &scene.Link{ID: scene.ID(fmt.Sprint("l", step)), Kind: scene.Follow, Source: from, Gain: 0.5, Offset: 1}
				if r.IntN(2) == 0 {
					l.Operation = scene.Plus
				}
				if r.IntN(3) == 0 {
					l.Delay = float64(r.IntN(5))
				}
				state.Links = append(before[:len(before):len(before)], l)
			}
			circle, ok := p.Relink([]scene.Ref{at})
			fresh := New(c)
			if !ok { // what may be feedback is planned anew
				if p = fresh; fresh.Circle != nil {
					circles++
					state.Links = before
					p = New(c)
				}
				continue
			}
			if (circle != nil) != (fresh.Circle != nil) {
				t.Fatalf("seed %d, step %d: circle %v, planned anew %v", seed, step, circle, fresh.Circle)
			}
			if circle != nil {
				circles++
				state.Links = before
				p = New(c)
				continue
			}
			relinked++
			for _, frame := range []float64{0, 33, 12} {
				if got, want := p.Evaluate(frame), fresh.Evaluate(frame); !slices.Equal(got, want) {
					t.Fatalf("seed %d, step %d, frame %v: relinked differs from planned anew", seed, step, frame)
				}
			}
		}
	}
	if circles < 20 || relinked < 500 {
		t.Errorf("%d circles and %d changes were tried", circles, relinked)
	}
}
