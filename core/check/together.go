package check

import (
	"fmt"
	"slices"

	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

const (
	fewest   = 3  // single links that one could stand for, to be worth a word
	mostTips = 20 // that are given at once
)

// alike is what links have in common that one link on a row could stand for.
type alike struct {
	property, formula string
	part              bool
	kind              scene.LinkKind
	source            scene.Ref
	operation         scene.Operation
}

// together finds single links that do the same on several items, where one link on the row of them would do.
func (k *checker) together() {
	type single struct {
		ref  scene.Ref
		link *scene.Link
	}
	groups := map[alike][]single{}
	var order []alike
	for i, item := range k.p.Layout.Laid() {
		for _, n := range k.p.Layout.Linked(int32(i)) {
			spec := k.p.Layout.Specs(int32(i))[n]
			_, _, vertex := scene.VertexOf(spec.Key)
			l := item.State(spec.Key).Links[0]
			if vertex || item.Kind == scene.Copy || item.States[scene.WeightKey(l.ID)] != nil || item.Control(scene.ID(spec.Key)) != nil || link.Alone(l, 0) == nil {
				continue
			}
			at := alike{spec.Key, l.Formula, l.Component != "", l.Kind, l.Source, l.Operation}
			if groups[at] == nil {
				order = append(order, at)
			}
			groups[at] = append(groups[at], single{scene.Ref{Item: item.ID, Property: spec.Key}, l})
		}
	}
	slices.SortStableFunc(order, func(a, b alike) int { return len(groups[b]) - len(groups[a]) })
	for _, at := range order {
		group := groups[at]
		if len(group) < fewest || len(k.out) >= mostTips {
			continue
		}
		links := make([]*scene.Link, len(group))
		fix := Fix{Label: "make it one link"}
		for n, one := range group {
			links[n] = one.link
			fix.Together, fix.Links = append(fix.Together, one.ref), append(fix.Links, one.link.ID)
		}
		if _, _, ok := link.Together(links); !ok {
			continue
		}
		first := group[0].ref
		name := k.c.Item(first.Item).Spec(first.Property).Name
		k.add(Tip, first, fmt.Sprintf("%s of %d items is driven by %s with a link each; one link can drive them all", name, len(group), link.By(links[0], k.c)), fix)
	}
}
