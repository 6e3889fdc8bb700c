package check

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
)

// copies checks what items show many times: nothing, too much, or what no copy can show.
func (k *checker) copies() {
	l := k.p.Layout
	for i, item := range l.Items[:l.Own] {
		if item.Kind != scene.CopiesItem {
			continue
		}
		at := scene.Ref{Item: item.ID, Property: scene.CopiesNumber.Key}
		say := func(format string, args ...any) {
			k.add(Warning, at, item.Name+" "+fmt.Sprintf(format, args...))
		}
		drawn := 0
		for j := i + 1; j < l.Own && l.Depths[j] > l.Depths[i]; j++ {
			switch kind := l.Items[j].Kind; {
			case kind.Class() == scene.Lens || kind.Class() == scene.Light:
				say("does not copy %s: copies show what is drawn, not %s", l.Items[j].Name, kind.Info().One())
			case kind.Drawn():
				drawn++
			}
		}
		if drawn == 0 {
			say("has nothing to show yet: drag items onto it in Items")
		}
		number, most := k.p.Value(at).At(0), item.MostCopies()
		if number >= float64(most)+1 {
			raised := scene.CopiesShape{}
			if item.Copies != nil {
				raised = *item.Copies
			}
			raised.Limit = min(scene.MaxCopies, int(number))
			var fixes []Fix
			if raised.Limit > most {
				fixes = []Fix{{Label: fmt.Sprintf("raise the limit to %d", raised.Limit), Ops: change.Ops{&change.ItemCopies{On: k.of(item, "").On, Copies: &raised}}}}
			}
			k.add(Warning, at, fmt.Sprintf("%s shows %d of %s copies: its limit is %d", item.Name, most, scene.Exact(float64(int(number))), most), fixes...)
		}
		if shown := min(int(number), most) * drawn; shown > scene.MaxCopied {
			say("would show %d items; only the first %d are drawn. Lower its number, or show fewer items in each copy", shown, scene.MaxCopied)
		}
		arrangement := k.p.Value(scene.Ref{Item: item.ID, Property: "copiesArrangement"}).At(0)
		if scene.Arrangements[int(arrangement)] != "path" {
			continue
		}
		if item.Copies == nil || k.c.Item(item.Copies.Along) == nil {
			say("is arranged along a path but has none: choose a path on its Card")
		}
	}
}
