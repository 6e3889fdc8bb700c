package wire

import (
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// sharedText writes what a link on the row of copies gives where it is staggered by share: as a formula, since share is that among the
// copies that are shown, whose number may move. Empty where it is not staggered so, or can't be written.
func sharedText(k *scene.Link, member *assignment, spec *scene.Spec, component string, c *scene.Composition) string {
	g := k.Stagger
	if member == nil || !member.row.Copies || g == nil || g.By != scene.AsShare && g.By != scene.ByCurve || g.Seed != 0 || spec.Type == scene.Text {
		return ""
	}
	kind := link.Of(k)
	names, base := "", syntax.Whole(syntax.Bound(k.Source))
	if kind.Formula != nil {
		var last string
		var ok bool
		if names, last, ok = syntax.Apart(kind.Formula(k)); !ok {
			return ""
		}
		base = syntax.Loose(last)
	}
	along := syntax.Whole("share")
	if g.By == scene.ByCurve {
		along = syntax.WriteStops(along, g.Curve, scene.HoldEnds)
	}
	counted := func(fixed, shared float64) syntax.Piece {
		return syntax.Operation("+", syntax.Whole(scene.Exact(fixed)), syntax.Operation("*", syntax.Whole(scene.Exact(shared)), along))
	}
	if k.Delay != 0 || g.Delay != 0 {
		base = syntax.Call("delay", base, syntax.Operation("*", counted(k.Delay, g.Delay), syntax.Whole("1f")))
	}
	if kind.Response != nil {
		response := kind.Response(k, c)
		if response == nil {
			return ""
		}
		base = syntax.WriteStops(base, response.Stops, response.Beyond)
	}
	if k.Gain != 1 || g.Gain != 0 {
		base = syntax.Operation("*", base, counted(k.Gain, g.Gain))
	}
	first, size := 0, spec.Type.Size()
	if component != "" {
		first, _ = spec.Type.Component(component)
		size = 1
	}
	var offsets []syntax.Piece
	alike, none := true, true
	for at := first; at < first+size; at++ {
		fixed, shared := k.Offset+k.Offsets.At(at), g.Offset+g.Offsets.At(at)
		offsets = append(offsets, counted(fixed, shared))
		alike, none = alike && offsets[0].Text == offsets[len(offsets)-1].Text, none && fixed == 0 && shared == 0
	}
	switch {
	case none:
	case alike:
		base = syntax.Operation("+", base, offsets[0])
	case size < 4:
		base = syntax.Operation("+", base, syntax.Operation(syntax.Point, offsets...))
	default: // of a colour, by component
		return ""
	}
	return names + base.Text
}
