package wire

import (
	"fmt"
	"testing"

	"wunderkammer/core/layout"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// chain is n ellipses, each of which follows the opacity of the one before.
func chain(n int) *scene.Composition {
	c := scene.NewComposition("main", "Chain")
	for i := range n {
		item := &scene.Item{ID: scene.ID(fmt.Sprintf("i%d", i)), Name: fmt.Sprintf("Item %d", i), Kind: scene.Ellipse}
		if i > 0 {
			item.Edit("opacity").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: scene.ID(fmt.Sprintf("i%d", i-1)), Property: "opacity"}, Gain: 1}}
		}
		c.Items = append(c.Items, item)
	}
	return c
}

func TestSortPutsSourcesFirst(t *testing.T) {
	c := chain(50)
	for i := range 25 { // against the order of the items
		c.Items[i], c.Items[49-i] = c.Items[49-i], c.Items[i]
	}
	l := layout.Of(c)
	targets := Targets(l)
	order, cycle := Sort(l, targets)
	if cycle != nil || len(order.Levels) != 49 {
		t.Fatalf("%d levels, circle %v", len(order.Levels), cycle)
	}
	driven := map[int32]bool{}
	for _, w := range targets {
		driven[w.Slot] = true
	}
	ready := map[int32]bool{}
	for _, level := range order.Levels {
		for _, w := range level.Targets {
			if from := w.Wires[0].Source; driven[from] && !ready[from] {
				t.Fatal("something is driven before what drives its source")
			}
		}
		for _, w := range level.Targets {
			ready[w.Slot] = true
		}
	}
	if len(ready) != len(targets) {
		t.Errorf("%d of %d driven components are in the order", len(ready), len(targets))
	}
}

func TestAClosureHoldsWhatASlotIsMadeOfAndNoMore(t *testing.T) {
	c := chain(10)
	l := layout.Of(c)
	order, _ := Sort(l, Targets(l))
	_, slot := l.Find("i4", "opacity")
	levels, read, _ := order.Closure([]int32{slot}, []int32{l.Index("i7")})
	wires, places := 0, 0
	for _, level := range levels {
		wires, places = wires+len(level.Targets), places+len(level.Places)
	}
	_, first := l.Find("i0", "opacity")
	_, later := l.Find("i5", "opacity")
	if wires != 4 || places != 1 || !read[first] || read[later] {
		t.Errorf("%d wires and %d places; reads the first: %v, a later one: %v", wires, places, read[first], read[later])
	}
}

func TestLinksAreStackedByComponent(t *testing.T) {
	c := chain(2)
	a, b := c.Items[0], c.Items[1]
	b.States = nil
	source := scene.Ref{Item: a.ID, Property: "opacity"}
	b.Edit("size").Links = []*scene.Link{
		{ID: "whole", Kind: scene.Follow, Source: source, Gain: 1},
		{ID: "y", Kind: scene.Follow, Source: source, Component: "y", Gain: 2, Operation: scene.Plus},
		{ID: "off", Kind: scene.Follow, Source: source, Gain: 3, Off: true},
		{ID: "lost", Kind: scene.Follow, Source: scene.Ref{Item: "gone", Property: "opacity"}, Gain: 4},
	}
	b.Edit(scene.WeightKey("y")).Own = scene.Num(30)
	got := ""
	for _, t := range Targets(layout.Of(c)) {
		for _, w := range t.Wires {
			got += fmt.Sprintf("%d: %s plain %v; ", t.component, w.Link.ID, w.Plain())
		}
	}
	if got != "0: whole plain true; 1: whole plain true; 1: y plain false; " {
		t.Errorf("the stacks are %s", got)
	}
	if n := len(link.Drives(c)[source]); n != 1 {
		t.Errorf("opacity drives %d properties, want 1", n)
	}
}
