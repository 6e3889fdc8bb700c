package check

import (
	"fmt"

	"wunderkammer/core/change"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// pieces looks over the pieces of the composition: those that show nothing, and what was set of them and counts for nothing.
func (k *checker) pieces() {
	for _, item := range k.c.Items {
		if item.Piece == nil {
			continue
		}
		at := scene.Ref{Item: item.ID, Property: "position"}
		of := item.Stage()
		if of == nil {
			k.add(Error, at, item.Name+" shows a composition that was deleted; choose another one on its Card, or undo")
			continue
		}
		if k.p.Layout.Showing(k.p.Layout.Index(item.ID)) < 0 {
			k.add(Error, at, fmt.Sprintf("%s is left out: all pieces together would show more than %d items", item.Name, scene.MaxStaged))
		}
		if stale := item.Stale(); len(stale) > 0 {
			k.add(Warning, at, fmt.Sprintf("%s: what was set of %s is kept, and comes back when %s hands it off again", item.Name, count(len(stale), "control"), of.Name))
		}
	}
}

func count(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}

// handOff looks over what the composition hands off: controls that are gone, and those that links drive.
func (k *checker) handOff() {
	in := change.In{Composition: k.c.ID}
	for _, o := range k.c.Lost() {
		name := o.Name
		if name == "" {
			name = "a control"
		}
		k.add(Warning, scene.Ref{Item: o.Item, Property: string(o.Control)}, name+" is handed off, but was deleted; what was set of it is kept",
			Fix{Label: "hand it off no longer", Ops: change.Ops{&change.OfferRemove{In: in, Offer: o.ID}}})
	}
	for _, h := range k.c.Handed() {
		for _, l := range h.Item.State(string(h.From.ID)).Links {
			if !l.Off && l.Operation == scene.Replace {
				at := scene.Ref{Item: h.Item.ID, Property: string(h.From.ID)}
				k.add(Warning, at, fmt.Sprintf("%s is handed off, but %s drives it, so whoever gets it moves nothing", h.Name, link.Of(l).Name))
				break
			}
		}
	}
}
