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
// and find a cycle where that finds one.
func TestRelinkEqualsPlanningAnew(t *testing.T) {
	keys := []string{"opacity", "position", "rotation", "scale", "attachWeight"}
	sources := []string{"opacity", "position", "rotation", "worldPosition", "attachWeight"}
	cycles, relinked := 0, 0
	for seed := range uint64(40) {
		r := rand.New(rand.NewPCG(seed, 7))
		c := scene.NewComposition("main", "Main")
		for i := range 8 {
			item := &scene.Item{ID: scene.ID(fmt.Sprint("i", i)), Name: fmt.Sprint("Item ", i), Kind: scene.Rectangle}
			if i == 7 {
				item.Kind = scene.PathItem
				item.Path = &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 2, At: [2]float64{100, 40}}}}}}
			}
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
				if r.IntN(3) == 0 && item.Spec(at.Property).Type == scene.Number {
					other := fmt.Sprintf("{@%s:@%s}", c.Items[r.IntN(8)].ID, []string{"opacity", "rotation"}[r.IntN(2)])
					l.Kind, l.Gain = scene.Formula, 1
					l.Formula = fmt.Sprintf([]string{"%s * 0.5 + 1", "delay(%s, 3f) + below / 4", "average(%s, 4f)", "mix(own, %s, 0.3)", "along({@i7}, %s / 100).x"}[r.IntN(5)], other)
				}
				state.Links = append(before[:len(before):len(before)], l)
			}
			cycle, ok := p.Relink([]scene.Ref{at})
			fresh := New(c)
			if !ok { // what may be feedback is planned anew
				if p = fresh; fresh.Cycle != nil {
					cycles++
					state.Links = before
					p = New(c)
				}
				continue
			}
			if (cycle != nil) != (fresh.Cycle != nil) {
				t.Fatalf("seed %d, step %d: circle %v, planned anew %v", seed, step, cycle, fresh.Cycle)
			}
			if cycle != nil {
				cycles++
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
	if cycles < 20 || relinked < 500 {
		t.Errorf("%d circles and %d changes were tried", cycles, relinked)
	}
}

// The link of a roster that changes gives what planning everything anew gives.
func TestRelinkRosterEqualsPlanningAnew(t *testing.T) {
	texts := []string{
		"{@rig:@amount} + index", "if(index = 0, {@rig:@amount}, delay({prev:@rotation}, {@rig:@lag}))", "{next:@rotation} + 1", "({prev:@rotation} else 3) * 2", "delay({self:@rotation}, 1f) + 1",
		"{self:@rotation}", "noise(time, index) * {@i1:@opacity}", "{self:@worldPosition.x}", "average({@rig:@amount}, 5f) + below", "nothing {",
	}
	relinked, cycles := 0, 0
	for seed := range uint64(10) {
		r := rand.New(rand.NewPCG(seed, 3))
		c := flags(5)
		rostered(t, c, "index")
		s := c.RosterLinks[0]
		p := New(c)
		for step := range 40 {
			before := *s.Link
			s.Link.Formula, s.Link.Off = texts[r.IntN(len(texts))], r.IntN(5) == 0
			s.Link.Stagger = &scene.Stagger{Offset: float64(r.IntN(3))}
			cycle, ok := p.RelinkRoster(s)
			fresh := New(c)
			if cycle != nil || fresh.Cycle != nil {
				if cycles++; ok && (cycle == nil) != (fresh.Cycle == nil) {
					t.Fatalf("seed %d, step %d: circle %v, planned anew %v", seed, step, cycle, fresh.Cycle)
				}
				*s.Link = before
				p = New(c)
				continue
			}
			if !ok {
				p = fresh
				continue
			}
			relinked++
			for _, frame := range []float64{40, 3, 77} {
				p.Evaluate(frame)
				fresh.Evaluate(frame)
				for _, item := range c.Items[1:] { // its layout may hold more than a fresh one needs
					ref := scene.Ref{Item: item.ID, Property: "rotation"}
					if got, want := p.Value(ref), fresh.Value(ref); got != want {
						t.Fatalf("seed %d, step %d, frame %v: relinked to %q %s is %v, planned anew %v", seed, step, frame, s.Link.Formula, item.Name, got, want)
					}
				}
			}
		}
	}
	if relinked < 100 || cycles < 10 {
		t.Errorf("%d changes and %d circles were tried", relinked, cycles)
	}
}
