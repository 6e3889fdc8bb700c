package recipes

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// takeOut takes the last of items that is of a kind away from the others.
func takeOut(items []*scene.Item, is func(*scene.Item) bool) (one *scene.Item, rest []*scene.Item) {
	for k := len(items) - 1; k >= 0; k-- {
		if is(items[k]) {
			return items[k], append(append(rest, items[:k]...), items[k+1:]...)
		}
	}
	return nil, items
}

// unlikeSize returns the first of items that has no size of the same type as all others, or nil.
func unlikeSize(items []*scene.Item) *scene.Item {
	for _, item := range items {
		if spec, first := item.Spec("size"), items[0].Spec("size"); spec == nil || first == nil || spec.Type != first.Type {
			return item
		}
	}
	return nil
}

// hanging is the beginning of a formula in which here is where the driven item stands in the composition with a place of its own,
// which is worked out from that of its parent: so it does not depend on the item's rotation and scale, nor on its place otherwise.
func hanging(own string) string {
	return "off = " + own + " - {parent:@pivot}\nturned = {parent:@worldRotation}\n" +
		"x = off.x * {parent:@worldScale}.x / 100\ny = off.y * {parent:@worldScale}.y / 100\n" +
		"here = {parent:@worldPosition} + [cos(turned) * x - sin(turned) * y, sin(turned) * x + cos(turned) * y, 0]\n"
}

// byHold calls on with the items that hang on none, and with those that hang on one, each with the beginning of a formula in which
// here is where an item stands in the composition with a place of its own. Where there are none of them, it is not called.
func byHold(items []*scene.Item, own string, on func(items []*scene.Item, here string)) {
	var free, held []*scene.Item
	for _, item := range items {
		if item.Parent == "" {
			free = append(free, item)
		} else {
			held = append(held, item)
		}
	}
	if len(free) > 0 {
		on(free, "here = "+own+"\n")
	}
	if len(held) > 0 {
		on(held, hanging(own))
	}
}

// trail lets each item follow the one before it: in the composition where they do not hang on the same item.
func trail(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	what := []string{"position", "rotation", "scale"}[int(v["what"])]
	apart := map[string]string{"position": " + [%x, %y, 0]", "rotation": " + %x"}[what]
	if what == "scale" || !slices.ContainsFunc(items, func(i *scene.Item) bool { return i.Parent != items[0].Parent }) {
		return row(c, items, what, "trail", "if(index = 0, below, delay({prev: "+what+"}, %latef)"+apart+")", v)
	}
	r, err := row(c, items, what, "trail", "delay({prev: world."+what+"}, %latef)"+apart, v)
	if err == nil {
		row := r.Ops[0].(*change.RosterLinkAdd).Value
		row.Link.World, row.Out = true, row.Roster.Items[:1:1]
	}
	return r, err
}

// flicker lets opacity go up and down by noise, which is another one for every item, and for every row that is made to flicker.
func flicker(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	seed := "index"
	before := 0
	for _, s := range c.Composition.RosterLinks {
		if strings.Contains(s.Link.Formula, "noise(") {
			before++
		}
	}
	if before > 0 {
		seed += fmt.Sprintf(" + %d", 100*before)
	}
	noise := "noise(time * %speed, " + seed + ")"
	if v["held"] >= 1 {
		noise = "every(" + noise + ", %heldf)"
	}
	return row(c, items, "opacity", "flicker", "below * (1 - (0.5 + 0.5 * "+noise+") * %depth / 100)", v)
}

// keepWidths divides the widths of lines by the scale in the composition. What a line is drawn with now becomes its own width; where
// that is driven, the formula has the scale of now.
func keepWidths(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	var all, lined []*scene.Item
	ids := make([]scene.ID, len(items))
	for k, item := range items {
		ids[k] = item.ID
	}
	for _, one := range copies.Cut(c.Composition, ids).Items {
		item := c.Composition.Item(one.ID)
		spec := item.Spec("strokeWidth")
		if spec == nil {
			continue
		}
		all = append(all, item)
		if c.Value(item, "strokeWidth").At(0) > 0 || len(item.State("strokeWidth").Pins) > 0 || c.Moved(item, spec) {
			lined = append(lined, item)
		}
	}
	if len(lined) > 0 {
		all = lined
	}
	if len(all) == 0 {
		return gesture.Result{}, fmt.Errorf("neither the selected items nor what hangs on them have lines")
	}
	r := gesture.NewRig(c)
	const kept = "below * %s / max(0.01, (abs({self:@worldScale}.x) + abs({self:@worldScale}.y)) / 2)"
	byScale := map[float64][]*scene.Item{}
	for _, item := range all {
		scale := c.Plan().Derived(c.Planned.Layout.Index(item.ID), "worldScale")
		now := math.Round(50*(math.Abs(scale.At(0))+math.Abs(scale.At(1)))) / 100
		if now <= 0 {
			now = 100
		}
		spec := item.Spec("strokeWidth")
		if len(item.State("strokeWidth").Links) > 0 { // which have the last word over those on rows
			l := &scene.Link{ID: c.NewID(), Kind: scene.Formula, Gain: 1, Formula: fmt.Sprintf(kept, scene.Exact(now))}
			r.Ops = append(r.Ops, &change.LinkAdd{Of: c.Of(item.ID, spec.Key), Link: l, At: -1})
			continue
		}
		if now != 100 && c.Moved(item, spec) {
			byScale[now] = append(byScale[now], item)
			continue
		}
		byScale[100] = append(byScale[100], item)
		if now != 100 {
			r.Ops = append(r.Ops, c.Remade(item, spec, func(v scene.Value) scene.Value { return scene.Num(spec.Limit(v.At(0) * now / 100)) })...)
		}
	}
	for _, now := range slices.Sorted(maps.Keys(byScale)) {
		roster, err := rowOf(byScale[now], "strokeWidth")
		if err != nil {
			return gesture.Result{}, err
		}
		r.Row("line widths: "+byScale[now][0].Name, roster, "strokeWidth", fmt.Sprintf(kept, scene.Exact(now)))
	}
	return r.Result, nil
}

// aimAt turns items toward the last of them.
func aimAt(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	target, rest := items[len(items)-1], items[:len(items)-1]
	if _, err := rowOf(rest, "rotation"); err != nil {
		return gesture.Result{}, err
	}
	r := gesture.NewRig(c)
	// Where an item stands in the composition depends on its rotation, so its place is worked out from that of its parent.
	byHold(rest, "{self:@position}", func(items []*scene.Item, here string) {
		if roster, err := rowOf(items, "rotation"); err == nil {
			r.Row("aim at "+target.Name, roster, "rotation", v.filled(here+"aim(here, "+world(target.ID)+") + %turn")).Link.World = true
		}
	})
	return r.Result, nil
}

// gears turns each item by the one before it, the other way round.
func gears(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	r := gesture.NewRig(c)
	roster, err := rowOf(items, "rotation")
	if err != nil {
		return gesture.Result{}, err
	}
	ratio := "%ratio"
	if v["by"] == 0 {
		if item := unlikeSize(items); item != nil {
			return gesture.Result{}, fmt.Errorf("%s has no size to be compared with the others; give the ratio as a number", item.Name)
		}
		ratio = "{prev:@size}.x / max(1, {self:@size}.x)"
	}
	r.Row("gear ratio: "+items[0].Name, roster, "rotation", v.filled("if(index = 0, below, own - ({prev:@rotation} * "+ratio+"))"))
	return r.Result, nil
}

// alongPath places items along the path among them.
func alongPath(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	path, rest := takeOut(items, func(i *scene.Item) bool { return i.Kind == scene.PathItem })
	if path == nil {
		return gesture.Result{}, fmt.Errorf("select a path among the items, for the others to stand along")
	}
	roster, err := rowOf(rest, "position")
	if err != nil {
		return gesture.Result{}, err
	}
	r := gesture.NewRig(c)
	where := "way = (%from + (%to - %from) * share) / 100\n"
	if period, on := v["period"]; on {
		if period == 0 {
			return gesture.Result{}, fmt.Errorf("a round takes some time: more than 0 seconds, or less than 0 to go the other way")
		}
		where = "gone = (%from + (%to - %from) * index / count) / 100 + time / %period\nway = gone - floor(gone)\n"
	}
	name := fmt.Sprintf("along %s: %s", path.Name, rest[0].Name)
	s := r.Row(name, roster, "position", v.filled(where+"along({@"+string(path.ID)+"}, way)"))
	s.Link.World = true
	if v["turned"] == 0 {
		s := r.Row(name, roster, "rotation", v.filled(where+"heading({@"+string(path.ID)+"}, way) + own"))
		s.Link.World = true
	}
	return r.Result, nil
}

// trailingRows lets rows of joints follow one another: each joint the one before it, each row the row before.
func trailingRows(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	roster, err := rowOf(items, "rotation")
	if err != nil {
		return gesture.Result{}, err
	}
	chain := scene.Roster{Kind: scene.Chain, Of: &roster}
	joints := 0
	for _, row := range chain.Rows(c.Composition, "rotation") {
		joints += len(row.Members)
	}
	if joints == 0 {
		return gesture.Result{}, fmt.Errorf("nothing hangs on the selected items; select the first joint of each row, with the others attached one to the other")
	}
	r := gesture.NewRig(c)
	first, how := "below", "turn or pin "+items[0].Name+", and all others follow"
	if _, on := v["wave"]; on {
		if v["period"] <= 0 {
			return gesture.Result{}, fmt.Errorf("a wave takes more than 0 seconds")
		}
		first, how = "below + wave(time / %period) * %wave", items[0].Name+" waves, and all others follow"
	}
	r.Row("rows that trail: "+items[0].Name, *roster.Clone(), "rotation", v.filled("if(index = 0, "+first+", delay({prev:@rotation}, %rowsf))"))
	r.Row("joints that trail: "+items[0].Name, chain, "rotation", v.filled("delay(if(index = 0, {outer self:@rotation}, {prev:@rotation}), %jointsf) * %share / 100"))
	r.Note = how
	return r.Result, nil
}

// gathered puts a property of every item on one null.
func gathered(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	key := []string{"rotation", "position", "scale", "opacity", "fill", "strokeWidth"}[int(v["what"])]
	roster, err := rowOf(items, key)
	if err != nil {
		return gesture.Result{}, err
	}
	var refs []scene.Ref
	for _, id := range roster.Items {
		refs = append(refs, scene.Ref{Item: id, Property: key})
	}
	_, _, middle := bounds(c, items)
	r := gesture.NewRig(c)
	null := r.Null("Controls", middle)
	err = wiring.GatherOnto(r, null, refs)
	r.Made = []scene.ID{null.ID}
	return r.Result, err
}

// scrub puts the frames of flipbooks on one handle that cannot leave them.
func scrub(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	roster, err := rowOf(items, "frame")
	if err != nil {
		return gesture.Result{}, err
	}
	last := 1
	for _, item := range items {
		last = max(last, len(item.Frames))
	}
	if last == 1 {
		return gesture.Result{}, fmt.Errorf("none of the selected items has more than one frame to scrub through")
	}
	low, _, middle := bounds(c, items)
	r := gesture.NewRig(c)
	one, most := 1.0, float64(last)
	handle := &scene.Control{ID: c.NewID(), Name: "Frame", Kind: scene.Fader, Whole: true, SoftMin: one, SoftMax: most, Min: &one, Max: &most, Default: scene.Num(1)}
	at := [3]float64{middle[0], low[1] - 160, 0}
	handle.Laid = &scene.Laid{At: [2]float64{at[0], at[1]}}
	null := r.Null("Scrub", at, handle)
	if on := common(c, items); on != nil { // the face that they are on takes the handle along
		stands := c.Plan().Derived(c.Planned.Layout.Index(on.ID), "worldPosition")
		handle.Laid = &scene.Laid{At: [2]float64{at[0] - stands.At(0), at[1] - stands.At(1)}, With: on.ID}
		holds := c.Holds(on.ID)
		null.Parent, null.Attachment.Stayed, null.Attachment.Turns = on.ID, (*[12]float64)(&holds.Affine), holds.Turn
		if back, ok := holds.Inverse(); ok {
			at = back.Apply(at)
		}
		null.Edit("position").Own = scene.Pt(at[:]...)
	}
	late := "%apart * index"
	r.Row("frames on "+null.Name, roster, "frame", v.filled("clamp("+reading(null, handle)+" + "+late+", 1, {self:@framesCount})"))
	r.Note = "drag the fader on the viewport: it ends with the frames"
	return r.Result, nil
}

// loosen puts the weight of attachments on a fader.
func loosen(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	var hanging []*scene.Item
	for _, item := range items {
		if item.Parent != "" {
			hanging = append(hanging, item)
		}
	}
	if len(hanging) == 0 {
		return gesture.Result{}, fmt.Errorf("none of the selected items hangs on another; drag them onto one in the tree first")
	}
	_, _, middle := bounds(c, hanging)
	r := gesture.NewRig(c)
	fader := r.Fader("Hold", v["hold"])
	null := r.Null("Loose", middle, fader)
	roster, err := rowOf(hanging, "attachWeight")
	if err != nil {
		return gesture.Result{}, err
	}
	r.Row("hold of "+hanging[0].Name, roster, "attachWeight", v.filled("clamp("+reading(null, fader)+" - index * %less, 0, 100)"))
	r.Note = "0 % leaves them where they were attached, 100 % holds them wholly"
	return r.Result, nil
}

// sequence lets a property of one item after the other come in, by one fader.
func sequence(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	key := []string{"opacity", "scale", "trimEnd"}[int(v["what"])]
	roster, err := rowOf(items, key)
	if err != nil {
		return gesture.Result{}, err
	}
	if v["overlap"] < 0 || v["overlap"] > 100 {
		return gesture.Result{}, fmt.Errorf("spans can overlap by 0 to 100 %%")
	}
	_, _, middle := bounds(c, items)
	r := gesture.NewRig(c)
	fader := r.Fader("Progress", 50)
	null := r.Null("Sequence", middle, fader)
	r.Row("sequence: "+items[0].Name, roster, key, v.filled("step = 1 - %overlap / 100\nspan = 1 / (1 + (count - 1) * step)\nfrom = index * span * step\nbelow * smoothstep(from, from + span, "+reading(null, fader)+" / 100)"))
	r.Note = "drag or pin Progress: 0 % is before the first, 100 % behind the last"
	return r.Result, nil
}

// stretchBetween lets the first item reach from the second to the third.
func stretchBetween(c *gesture.Context, items []*scene.Item, v values) (gesture.Result, error) {
	thing, from, to := items[0], world(items[1].ID), world(items[2].ID)
	if thing.Spec("size") == nil {
		return gesture.Result{}, fmt.Errorf("%s has no size that could be stretched; select a shape first, then the two items it reaches between", thing.Name)
	}
	r := gesture.NewRig(c)
	only := scene.Roster{Kind: scene.Picked, Items: []scene.ID{thing.ID}}
	name := fmt.Sprintf("%s between %s and %s", thing.Name, items[1].Name, items[2].Name)
	wide := "{self:@size}.x"
	if thing.Parent != "" && !thing.Attachment.NoScale { // what it hangs on scales it, too
		wide += " * {parent:@worldScale}.x / 100"
	}
	r.Row(name, only, "position", "("+from+" + "+to+") / 2").Link.World = true
	r.Row(name, *only.Clone(), "rotation", "aim("+from+", "+to+")").Link.World = true
	thick := "own.y"
	if v["volume"] == 1 {
		thick = "own.y / max(0.05, long)"
	}
	r.Row(name, *only.Clone(), "scale", "long = distance("+from+", "+to+") / max(1, abs("+wide+"))\n[100 * long, "+thick+", own.z]")
	return r.Result, nil
}

// common returns the item that all of some items hang on, or, where that is inside of copies, the one that these hang on: controls
// stand outside of copies. Nil where there is none.
func common(c *gesture.Context, items []*scene.Item) *scene.Item {
	for _, item := range items {
		if item.Parent != items[0].Parent {
			return nil
		}
	}
	on := c.Composition.Item(items[0].Parent)
	for up := on; up != nil; up = c.Composition.Item(up.Parent) {
		if up.Kind == scene.CopiesItem {
			on = c.Composition.Item(up.Parent)
		}
	}
	return on
}
