package rehearse

import (
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/check"
	"wunderkammer/core/curve"
	"wunderkammer/core/scene"
)

// stage is a composition with a panel of faders, each of which drives a shape of its own in a sound way.
func stage(faders ...string) *scene.Composition {
	c := scene.NewComposition("main", "Stage")
	panel := &scene.Item{ID: "panel", Name: "Panel", Kind: scene.Null}
	c.Items = []*scene.Item{panel}
	for k, name := range faders {
		id := scene.ID(strings.ToLower(name))
		panel.Controls = append(panel.Controls, &scene.Control{ID: id, Name: name, Kind: scene.Fader, SoftMax: 100, Default: scene.Num(20)})
		one := &scene.Item{ID: "on" + id, Name: "On " + name, Kind: scene.Rectangle}
		one.Edit("position").Own = scene.Pt(float64(120*k-300), 0, 0)
		one.Edit("rotation").Links = []*scene.Link{{ID: "l" + id, Kind: scene.Follow, Source: scene.Ref{Item: "panel", Property: string(id)}, Gain: 1}}
		c.Items = append(c.Items, one)
	}
	return c
}

func formula(c *scene.Composition, item scene.ID, key, text string) {
	state := c.Item(item).Edit(key)
	state.Links = append(state.Links, &scene.Link{ID: scene.ID(fmt.Sprintf("f%d%s", len(state.Links), item)), Kind: scene.Formula, Gain: 1, Formula: text})
}

func rehearsed(c *scene.Composition, o Options) (found []Finding, moments int) {
	r := New(c, o)
	last := Progress{}
	for last = range r.Run() {
		moments++
	}
	if last.Done != last.Of {
		panic(fmt.Sprintf("it ends at %v", last))
	}
	return r.Found(), moments
}

func TestASoundPanelGivesNothing(t *testing.T) {
	c := stage("A", "B", "C")
	formula(c, "ona", "opacity", "clamp({@panel:@a} * 2, 0, 100)") // flat at its end on purpose
	formula(c, "onb", "scale", "own * (1 + smoothstep(40, 60, {@panel:@b}))")
	if found, n := rehearsed(c, Options{Overlaps: true}); len(found) > 0 || n < 3*steps {
		t.Errorf("in %d moments it finds %v", n, found)
	}
}

// Ten faults are planted, one at a time and all at once.
func TestPlantedFaultsAreFound(t *testing.T) {
	faults := []struct {
		name, at, says string
		plant          func(c *scene.Composition)
	}{
		{"a step", "ona/position", "jumps from", func(c *scene.Composition) { formula(c, "ona", "position", "own + [0, 90 * step(63, {@panel:@a}), 0]") }},
		{"a saw that springs back", "onb/scale", "jumps from", func(c *scene.Composition) { formula(c, "onb", "scale", "own * (0.6 + fract({@panel:@b} / 73))") }},
		{"a division by nothing", "onc/opacity", "no valid result", func(c *scene.Composition) { formula(c, "onc", "opacity", "50 + 1 / ({@panel:@c} - 50)") }},
		{"a root of less than nothing, for two at once", "ond/strokeWidth", "Panel: C at", func(c *scene.Composition) {
			formula(c, "ond", "strokeWidth", "sqrt(150 - {@panel:@d} - {@panel:@c})")
		}},
		{"a limit", "one/rotation", "held at its limit of 30", func(c *scene.Composition) {
			most := 30.0
			c.Item("one").Edit("rotation").Max = &most
		}},
		{"out of the frame", "onf/position", "leaves the frame", func(c *scene.Composition) { formula(c, "onf", "position", "own + [0, {@panel:@f} * 12, 0]") }},
		{"a control that moves nothing", "panel/g", "moves nothing", func(c *scene.Composition) { c.Item("ong").Edit("rotation").Links[0].Gain = 0 }},
		{"two links that fight", "onh/rotation", "has no effect", func(c *scene.Composition) { formula(c, "onh", "rotation", "{@panel:@a} + {@panel:@h}") }},
		{"two that run into each other", "onj/position", "overlap with", func(c *scene.Composition) {
			formula(c, "oni", "position", "own + [0, 400, 0]")
			formula(c, "onj", "position", "own + [0, -300 + {@panel:@j} * 8, 0]")
			c.RosterLinks = append(c.RosterLinks, &scene.RosterLink{ID: "row", Name: "Row", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"oni", "onj"}}, Property: "opacity", Link: &scene.Link{ID: "rowl", Kind: scene.Formula, Gain: 1, Formula: "below"}})
		}},
		{"a point that jumps in y", "onk/rotation", "jumps from", func(c *scene.Composition) {
			c.Item("panel").Controls = append(c.Item("panel").Controls, &scene.Control{ID: "spot", Name: "Spot", Kind: scene.PointWidget, SoftMin: -100, SoftMax: 100, Default: scene.Pt(10, 20)})
			formula(c, "onk", "rotation", "below + {@panel:@spot}.x + 40 * sign({@panel:@spot}.y - 13)")
		}},
	}
	names := []string{"A", "B", "C", "D", "E", "F", "G", "H", "I", "J", "K"}
	all := stage(names...)
	for _, fault := range faults {
		c := stage(names...)
		fault.plant(c)
		fault.plant(all)
		found, _ := rehearsed(c, Options{Overlaps: true})
		if !says(found, fault.at, fault.says) {
			t.Errorf("%s is not found: %v", fault.name, found)
		}
		if len(found) > 2 {
			t.Errorf("%s: %d things are found: %v", fault.name, len(found), found)
		}
		before := *c.Item("panel").Controls[0]
		if c.Item("panel").Controls[0].Name != before.Name || !c.Item("panel").State("a").Own.Absent() {
			t.Errorf("%s: the document was touched", fault.name)
		}
	}
	found, _ := rehearsed(all, Options{Overlaps: true})
	for _, fault := range faults {
		if !says(found, fault.at, fault.says) {
			t.Errorf("among all, %s is not found", fault.name)
		}
	}
	if found[0].Severity != check.Error || found[len(found)-1].Severity != check.Warning {
		t.Errorf("the gravest does not come first: %v", found)
	}
}

func says(found []Finding, at, says string) bool {
	for _, f := range found {
		if string(f.At.Item)+"/"+f.At.Property == at && strings.Contains(f.Sentence, says) {
			return true
		}
	}
	return false
}

func TestRehearsalsOfLittleAndOnesThatAreStopped(t *testing.T) {
	empty := scene.NewComposition("main", "Empty")
	if found, n := rehearsed(empty, Options{}); len(found) > 0 || n != 1 {
		t.Errorf("without anything: %v in %d", found, n)
	}
	loop := stage("A", "B")
	loop.Item("ona").Edit("opacity").Links = []*scene.Link{{ID: "x", Kind: scene.Follow, Source: scene.Ref{Item: "onb", Property: "opacity"}, Gain: 1}}
	loop.Item("onb").Edit("opacity").Links = []*scene.Link{{ID: "y", Kind: scene.Follow, Source: scene.Ref{Item: "ona", Property: "opacity"}, Gain: 1}}
	loop.Item("panel").Edit("a").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(0), Easing: curve.Linear}, {Frame: 50, Value: scene.Num(100), Easing: curve.Linear}}
	if _, n := rehearsed(loop, Options{Frame: 25}); n < steps {
		t.Errorf("with a loop it looks at %d moments", n)
	}
	r := New(stage("A", "B", "C"), Options{})
	n := 0
	for range r.Run() {
		if n++; n == 10 {
			break
		}
	}
	if n != 10 {
		t.Errorf("it is stopped after %d", n)
	}
	some := New(stage("A", "B", "C"), Options{Controls: []scene.Ref{{Item: "panel", Property: "b"}, {Item: "panel", Property: "gone"}}})
	if len(some.controls) != 1 {
		t.Errorf("%d of the chosen controls are swept", len(some.controls))
	}
}

// A value is held at its limit where a part of a sweep, and no less than two moments of it, give just that; not where all of it does.
func TestOnlyALimitThatCutsIsTold(t *testing.T) {
	for most, want := range map[float64]bool{71: true, 100: false, 99.2: false, -3: false} {
		c := stage("A")
		c.Item("ona").Edit("rotation").Max = &most
		found, _ := rehearsed(c, Options{})
		if told := says(found, "ona/rotation", "held at its limit"); told != want {
			t.Errorf("of a limit of %v it is told: %v", most, told)
		}
	}
}

// What comes of one cause is told once, with how many more there are of it.
func TestFindingsOfOneCauseAreOne(t *testing.T) {
	c := stage("A", "B", "C", "D", "E")
	for _, item := range c.Items[1:] {
		item.Edit("size").Own = scene.Pt(60, 60)
	}
	row := &scene.RosterLink{ID: "row", Name: "Row", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"ona", "onb", "onc", "ond"}}, Property: "position",
		Link: &scene.Link{ID: "rowl", Kind: scene.Formula, Gain: 1, Formula: "own * (1 - {@panel:@a} / 100) + [0, {@panel:@b} * 12, 0]"}}
	c.RosterLinks = append(c.RosterLinks, row)
	broken := row.Clone()
	broken.ID, broken.Link.ID, broken.Property, broken.Link.Formula = "broken", "brokenl", "strokeWidth", "sqrt({@panel:@c} - 61)"
	c.RosterLinks = append(c.RosterLinks, broken)
	found, _ := rehearsed(c, Options{Overlaps: true})
	counts := map[string]int{}
	for _, f := range found {
		for _, what := range []string{"overlap with", "leaves the frame", "no valid result"} {
			if strings.Contains(f.Sentence, what) {
				counts[what]++
				if what != "no valid result" && (f.Others == 0 || !strings.Contains(f.Sentence, "other")) {
					t.Errorf("%q stands for %d more", f.Sentence, f.Others)
				}
			}
		}
	}
	if counts["overlap with"] != 1 || counts["leaves the frame"] != 1 || counts["no valid result"] != 1 {
		t.Errorf("found are %v: %v", counts, found)
	}
}
