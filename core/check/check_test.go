package check

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

func follow(id scene.ID, item scene.ID, property string) *scene.Link {
	return &scene.Link{ID: id, Kind: scene.Follow, Source: scene.Ref{Item: item, Property: property}, Gain: 1}
}

// rigged is a project whose box has every mistake that can be made of links.
func rigged() *scene.Project {
	p := scene.NewProject("p", "P")
	slider := func(id scene.ID, name string, unit scene.Unit, top float64) *scene.Control {
		return &scene.Control{ID: id, Name: name, Kind: scene.Fader, Unit: unit, SoftMax: top, Default: scene.Num(top)}
	}
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{
		slider("amount", "Amount", "", 1000), slider("share", "Share", "", 1), slider("idle", "Idle", "", 1), slider("percent", "Percent", scene.Percent, 100),
		{ID: "deep", Name: "Deep", Kind: scene.PointWidget, Depth: true, Default: scene.Pt(0, 0, 0)},
	}}
	rig.Edit("amount").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(300), Easing: curve.Linear}, {Frame: 299, Value: scene.Num(900), Easing: curve.Linear}}
	box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}
	box.Edit("rotation").Links = []*scene.Link{follow("a", "gone", "amount"), follow("b", "rig", "percent")}
	box.Edit("strokeWidth").Links = []*scene.Link{follow("c", "rig", "missing")}
	box.Edit("size").Links = []*scene.Link{follow("d", "rig", "amount"), follow("e", "rig", "amount")}
	box.Edit("cornerRadius").Links = []*scene.Link{follow("f", "rig", "deep")}
	box.Edit("opacity").Links = []*scene.Link{follow("g", "rig", "amount")}
	box.Edit("trimEnd").Links = []*scene.Link{follow("h", "rig", "share")}
	box.Edit("gap").Links = []*scene.Link{{ID: "i", Kind: scene.Map, Source: scene.Ref{Item: "rig", Property: "amount"}, Gain: 1, Stops: []scene.MapStop{
		{In: 0, Out: scene.Num(3), Easing: curve.Linear}, {In: 9, Out: scene.Num(3), Easing: curve.Linear}}}}
	ball := &scene.Item{ID: "ball", Name: "Ball", Kind: scene.Ellipse}
	ball.Edit("scale").Links = []*scene.Link{follow("j", "box", "bend")}
	a, b := &scene.Item{ID: "one", Name: "One", Kind: scene.Ellipse}, &scene.Item{ID: "two", Name: "Two", Kind: scene.Ellipse}
	a.Edit("opacity").Links = []*scene.Link{follow("k", "two", "opacity")}
	b.Edit("opacity").Links = []*scene.Link{follow("l", "one", "opacity")}
	p.Compositions[0].Items = []*scene.Item{rig, box, ball, a, b}
	return p
}

func look(p *scene.Project) []Check {
	c := p.Compositions[0]
	plan := engine.New(c)
	return append(Of(c, plan), Deep(c, plan)...)
}

var wanted = []string{
	"error Box: rotation: source missing: it was deleted [reattach, remove the link]",
	"error Box: stroke width: source missing: the control of Rig was deleted [reattach, remove the link]",
	"warning Box: size: the link from Rig: Amount has no effect: the one from Rig: Amount above it replaces it [remove the link, set the upper link to Add]",
	"error Box: corner radius: Deep is a 3D point and can't drive corner radius, which is a number; use one of its components: x, y, z [reattach, remove the link]",
	"warning Box: rotation: Percent is in %, but rotation is in °; values pass through unconverted [match ranges]",
	"warning Box: trim end: Share runs from 0 to 1 and trim end from 0 to 100; values pass through unconverted [match ranges]",
	"warning Box: gap: this map is flat; set its low and high stops []",
	"warning Rig: Idle drives nothing yet []",
	"error links form a loop: Two: opacity → One: opacity → Two: opacity; the newest of them does nothing until then [turn the link on Two: opacity off]",
	"warning Box: opacity stays at its limit (100) throughout []",
	"warning Box: bend drives other properties but never changes: it has no pins and no links []",
}

func TestEveryMistakeIsFoundWithItsWayOut(t *testing.T) {
	all := ""
	for _, c := range look(rigged()) {
		var labels []string
		for _, f := range c.Fixes {
			labels = append(labels, f.Label)
		}
		all += fmt.Sprintf("%s %s [%s]\n", c.Severity, c.Sentence, strings.Join(labels, ", "))
	}
	for _, want := range wanted {
		if !strings.Contains(all, want+"\n") {
			t.Errorf("missing: %s\nin:\n%s", want, all)
		}
	}
	if n := strings.Count(all, "\n"); n != len(wanted) {
		t.Errorf("%d checks, want %d:\n%s", n, len(wanted), all)
	}
}

// Each fix, pressed, makes its own check go away and can be undone.
func TestFixesMend(t *testing.T) {
	for _, found := range look(rigged()) {
		for _, fix := range found.Fixes {
			if fix.Ops == nil {
				continue
			}
			p := rigged()
			if _, _, err := change.Replay(p, fix.Ops); err != nil {
				t.Errorf("%s: %s: %v", found.Sentence, fix.Label, err)
			}
			for _, left := range look(p) {
				if left.Sentence == found.Sentence {
					t.Errorf("%s: still there after %q", found.Sentence, fix.Label)
				}
			}
		}
	}
}

func TestWhySaysWhereTheInfluenceDies(t *testing.T) {
	locked := 5.0
	stops := func(outs ...float64) (list []scene.MapStop) {
		for i, out := range outs {
			list = append(list, scene.MapStop{In: float64(i) * 1000, Out: scene.Num(out), Easing: curve.Linear})
		}
		return list
	}
	for says, alter := range map[string]func(item *scene.Item, rig *scene.Item){
		"has no pins and no links":         func(box, _ *scene.Item) { box.States = nil },
		"the link from Rig: Amount is off": func(box, _ *scene.Item) { box.State("rotation").Links[0].Off = true },
		"has a weight of 0":                func(box, _ *scene.Item) { box.Edit(scene.WeightKey("x")).Own = scene.Num(0) },
		"has a gain of 0":                  func(box, _ *scene.Item) { box.State("rotation").Links[0].Gain = 0 },
		"of Rig: Amount": func(box, _ *scene.Item) {
			l := box.State("rotation").Links[0]
			l.Kind, l.Stops = scene.Map, stops(4, 4, 9)
		},
		"is locked: both of its limits are 5": func(box, _ *scene.Item) { s := box.Edit("rotation"); s.Min, s.Max = &locked, &locked },
		"it replaces the links below it (1)": func(box, _ *scene.Item) {
			s := box.Edit("rotation")
			s.Links = append(s.Links, follow("y", "rig", "percent"))
		},
		"Rig: Amount has only one pin":             func(_, rig *scene.Item) { s := rig.Edit("amount"); s.Pins = s.Pins[:1] },
		"Rig: Amount moves with 2 pins of its own": func(_, _ *scene.Item) {},
		"source missing: it was deleted":           func(box, _ *scene.Item) { box.State("rotation").Links[0].Source.Item = "gone" },
		"Rig: Amount has no pins and no links":     func(_, rig *scene.Item) { delete(rig.States, "amount") },
	} {
		p := rigged()
		c := p.Compositions[0]
		box := c.Item("box")
		box.States = nil
		box.Edit("rotation").Links = []*scene.Link{follow("x", "rig", "amount")}
		alter(box, c.Item("rig"))
		plan := engine.New(c)
		plan.Evaluate(10)
		all := ""
		for _, s := range Why(c, plan, scene.Ref{Item: "box", Property: "rotation"}) {
			all += fmt.Sprintf("%v %s\n", s.Dead, s.Sentence)
		}
		if !strings.Contains(all, says) {
			t.Errorf("missing: %s\nin:\n%s", says, all)
		}
		if dead := strings.Contains(all, "true"); dead != !strings.Contains(says, "2 pins") {
			t.Errorf("%s: marked dead: %v\n%s", says, dead, all)
		}
	}
}

func TestReachWalksEverythingThatIsDriven(t *testing.T) {
	p := rigged()
	c := p.Compositions[0]
	c.Item("box").States = nil
	c.Item("box").Edit("rotation").Links = []*scene.Link{follow("x", "rig", "amount")}
	c.Item("box").Edit("opacity").Links = []*scene.Link{follow("y", "box", "rotation")}
	off := follow("z", "box", "opacity")
	off.Off = true
	c.Item("box").Edit("strokeWidth").Links = []*scene.Link{off}
	plan := engine.New(c)
	plan.Evaluate(10)
	all := ""
	for _, s := range Reach(c, plan, scene.Ref{Item: "rig", Property: "amount"}) {
		if strings.HasPrefix(s.Sentence, "Box") {
			all += fmt.Sprintf("%d %v %s\n", s.Depth, s.Dead, s.Sentence)
		}
	}
	turned := plan.Value(scene.Ref{Item: "box", Property: "rotation"})
	want := fmt.Sprintf("0 false Box: rotation, now %v\n1 false Box: opacity, now %v\n2 true Box: stroke width: the link is off\n", turned, plan.Value(scene.Ref{Item: "box", Property: "opacity"}))
	if all != want {
		t.Errorf("it reaches\n%s, want\n%s", all, want)
	}
	if s := Reach(c, plan, scene.Ref{Item: "box", Property: "gap"}); len(s) != 1 || !s[0].Dead || s[0].Sentence != "Box: gap drives nothing" {
		t.Errorf("what drives nothing says so: %v", s)
	}
}

// Why tells of a link on a row as of one of a property's own, and where the item stands in it.
func TestWhyTellsOfRows(t *testing.T) {
	none := 0.0
	for says, alter := range map[string]func(s *scene.RosterLink, c *scene.Composition){
		"driven by Rig: Amount, as number 2 of the 3 in the row Masts, 7 frames later": func(s *scene.RosterLink, _ *scene.Composition) { s.Link.Stagger = &scene.Stagger{Delay: 7} },
		"the row Masts is off":                 func(s *scene.RosterLink, _ *scene.Composition) { s.Link.Off = true },
		"the row Masts has a weight of 0":      func(s *scene.RosterLink, _ *scene.Composition) { s.Weight = &none },
		"has a gain of 0":                      func(s *scene.RosterLink, _ *scene.Composition) { s.Link.Gain = 0 },
		"Box is left out of the row Masts":     func(s *scene.RosterLink, _ *scene.Composition) { s.Out = []scene.ID{"box"} },
		"source missing: it was deleted":       func(s *scene.RosterLink, _ *scene.Composition) { s.Link.Source.Item = "gone" },
		"Rig: Amount has no pins and no links": func(_ *scene.RosterLink, c *scene.Composition) { delete(c.Item("rig").States, "amount") },
		"Box: rotation is driven by Rig: Percent": func(_ *scene.RosterLink, c *scene.Composition) {
			c.Item("box").Edit("rotation").Links = []*scene.Link{follow("y", "rig", "percent")}
		},
		"Rig: Amount moves with 2 pins of its own": func(*scene.RosterLink, *scene.Composition) {},
	} {
		p := rigged()
		c := p.Compositions[0]
		c.Item("box").States = nil
		c.Items = append(c.Items, &scene.Item{ID: "m1", Name: "Mast 1", Kind: scene.Rectangle}, &scene.Item{ID: "m2", Name: "Mast 2", Kind: scene.Rectangle})
		s := &scene.RosterLink{ID: "s", Name: "Masts", Property: "rotation", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"m1", "box", "m2"}}, Link: follow("x", "rig", "amount")}
		c.RosterLinks = []*scene.RosterLink{s}
		alter(s, c)
		plan := engine.New(c)
		plan.Evaluate(10)
		all := ""
		for _, step := range Why(c, plan, scene.Ref{Item: "box", Property: "rotation"}) {
			all += step.Sentence + "\n"
		}
		if !strings.Contains(all, says) {
			t.Errorf("%q is not said:\n%s", says, all)
		}
	}
}

// A link on a row whose source is gone can be given another one.
func TestARowIsReattached(t *testing.T) {
	p := rigged()
	c := p.Compositions[0]
	c.Item("box").States = nil
	c.RosterLinks = []*scene.RosterLink{{ID: "s", Name: "Masts", Property: "rotation", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"box"}}, Link: follow("x", "rig", "amount")}}
	c.RosterLinks[0].Link.Source.Item = "gone"
	plan := engine.New(c)
	plan.Evaluate(0)
	for _, found := range Of(c, plan) {
		if len(found.Fixes) > 0 && found.Fixes[0].Reattach == "x" && found.Fixes[0].RosterLink == "s" {
			return
		}
	}
	t.Errorf("no way out is offered: %+v", Of(c, plan))
}

// A row that a link of its own replaces at every member is named, and not before.
func TestARowThatDoesNothingIsNamed(t *testing.T) {
	p := rigged()
	c := p.Compositions[0]
	c.Item("box").States = nil
	c.Items = append(c.Items, &scene.Item{ID: "m1", Name: "Mast 1", Kind: scene.Rectangle})
	c.RosterLinks = []*scene.RosterLink{{ID: "s", Name: "Masts", Property: "rotation", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"m1", "box"}}, Link: follow("x", "rig", "amount")}}
	named := func() bool {
		plan := engine.New(c)
		plan.Evaluate(0)
		return slices.ContainsFunc(Of(c, plan), func(k Check) bool { return strings.HasPrefix(k.Sentence, "Masts has no effect") })
	}
	c.Item("box").Edit("rotation").Links = []*scene.Link{follow("b", "rig", "amount")}
	if named() {
		t.Error("one of two goes on by the row")
	}
	c.Item("m1").Edit("rotation").Links = []*scene.Link{follow("m", "rig", "amount")}
	if !named() {
		t.Error("the row does nothing, and nothing says so")
	}
	c.Item("m1").Edit("rotation").Links[0].Operation = scene.Plus
	if named() {
		t.Error("it is added to what the row does")
	}
}

// What is gathered into a list drives as what is looked at by itself does: it is linked, reaches what is driven, and Why tells of it.
func TestListsAreToldAsOtherSourcesAre(t *testing.T) {
	p := rigged()
	c := p.Compositions[0]
	c.Item("box").States = nil
	for k := range 7 {
		lamp := &scene.Item{ID: scene.ID(fmt.Sprint("lamp", k)), Name: fmt.Sprint("Lamp ", k), Kind: scene.Ellipse, Controls: []*scene.Control{{ID: scene.ID(fmt.Sprint("reach", k)), Name: "Reach", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(31)}}}
		c.Items = append(c.Items, lamp)
	}
	l := &scene.Link{ID: "f", Kind: scene.Formula, Gain: 1, Formula: `sum({@*"Lamp *":@"Reach"}) / 9 + count({@*"Lamp *"})`}
	c.Item("box").Edit("rotation").Links = []*scene.Link{l}
	plan := engine.New(c)
	plan.Evaluate(0)
	for _, k := range Of(c, plan) {
		if strings.Contains(k.Sentence, "Reach isn't linked") {
			t.Errorf("it is gathered: %s", k.Sentence)
		}
	}
	steps := func(list []Step) (all string) {
		for _, s := range list {
			all += s.Sentence + "\n"
		}
		return all
	}
	if all := steps(Reach(c, plan, scene.Ref{Item: "lamp4", Property: "reach4"})); !strings.Contains(all, "Box: rotation, now") {
		t.Errorf("it reaches\n%s", all)
	}
	all := steps(Why(c, plan, scene.Ref{Item: "box", Property: "rotation"}))
	for _, says := range []string{"it gathers Reach of the items named Lamp *: 7 in all, of which the first 5 follow", "the items named Lamp * are counted: 7"} {
		if !strings.Contains(all, says) {
			t.Errorf("%q is not said:\n%s", says, all)
		}
	}
	if n := strings.Count(all, "Reach has no pins and no links"); n != 5 {
		t.Errorf("%d of them are told of:\n%s", n, all)
	}
}
