package check

import (
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

func TestFormulasAreChecked(t *testing.T) {
	formula := func(id scene.ID, text, draft string) *scene.Link {
		return &scene.Link{ID: id, Kind: scene.Formula, Gain: 1, Formula: text, Draft: draft}
	}
	for says, links := range map[string][]*scene.Link{
		"error Box: rotation: the formula has an error: something is missing at the end of the line. The last working version is in use": {formula("f", "3", "3 +")},
		"error Box: rotation: the formula has an error: there is nothing named tiem":                                                     {formula("f", "", "tiem")},
		"error Box: rotation: the formula has an error: what this refers to was removed":                                                 {formula("f", "{@gone:@opacity}", "")},
		"warning Box: rotation: the link from Rig: Amount has no effect: the formula above it replaces it":                               {follow("l", "rig", "amount"), formula("f", "3", "")},
		"warning Box: rotation: the formula has no effect: the one from Rig: Amount above it replaces it":                                {formula("f", "3", ""), follow("l", "rig", "amount")},
		"warning Box: rotation: the formula has no valid result at frame 10; the value below is used: 1 / (frame - 10)":                  {formula("f", "1 / (frame - 10)", "")},
		"": {follow("l", "rig", "amount"), formula("f", "below * {@rig:@amount}", "")},
	} {
		p := rigged()
		c := p.Compositions[0]
		c.Item("box").States = nil
		c.Item("box").Edit("rotation").Links = links
		plan := engine.New(c)
		plan.Evaluate(10)
		all := ""
		for _, found := range Of(c, plan) {
			if found.At.Item == "box" {
				all += fmt.Sprintf("%s %s\n", found.Severity, found.Sentence)
			}
		}
		if !strings.Contains(all, says) || (says == "") != (all == "") {
			t.Errorf("want %q in:\n%s", says, all)
		}
	}
	// On a roster.
	p := rigged()
	c := p.Compositions[0]
	rosterLink := &scene.RosterLink{ID: "s", Name: "Row", Roster: scene.Roster{Kind: scene.Named, Pattern: "nobody*"}, Property: "rotation", Link: formula("f", "index", "")}
	c.RosterLinks = []*scene.RosterLink{rosterLink}
	look := func() string {
		all := ""
		plan := engine.New(c)
		plan.Evaluate(0)
		for _, found := range Of(c, plan) {
			if strings.HasPrefix(found.Sentence, "Row") {
				all += string(found.Severity) + " " + found.Sentence
			}
		}
		return all
	}
	if got := look(); !strings.Contains(got, "warning Row: no item in this row has") {
		t.Errorf("an empty roster: %s", got)
	}
	rosterLink.Roster.Pattern, rosterLink.Link.Draft = "box", "index +"
	if got := look(); !strings.Contains(got, "error Row: the formula has an error") {
		t.Errorf("a formula on a roster: %s", got)
	}
	rosterLink.Link.Draft = ""
	if got := look(); !strings.Contains(got, "Row has no effect") { // the box has a link of its own
		t.Errorf("a row that is replaced: %s", got)
	}
	c.Item("box").States = nil
	if got := look(); got != "" {
		t.Errorf("nothing is wrong: %s", got)
	}
	plan := engine.New(c)
	plan.Evaluate(0)
	why := Why(c, plan, scene.Ref{Item: "box", Property: "rotation"})
	if len(why) != 1 || !strings.Contains(why[0].Sentence, "is driven by a formula, as number 1 of the 1 in the row Row") {
		t.Errorf("why: %v", why)
	}
}

func TestWhatShowsAtSomeFrameOnlyIsFound(t *testing.T) {
	link := func(text string) []*scene.Link {
		return []*scene.Link{{ID: "f", Kind: scene.Formula, Gain: 1, Formula: text}}
	}
	for text, want := range map[string]string{
		"gap = frame - 48\n{@rig:@share} * 3 / gap":     "Box: rotation: the formula has no valid result at frame 48; the value below is used: {Rig: Share} * 3 / gap",
		"1 + sqrt(200 - frame)":                         "Box: rotation: the formula has no valid result at frame 201 and 98 others; the value below is used: sqrt(200 - frame)",
		"delay({self:@rotation}, 1f / (frame + 1)) / 2": "Box: rotation: delay under one frame at frame 1, treated as one frame",
		"delay({self:@rotation}, 1f) / 2":               "", "accumulate({self:@rotation}) / 2 + 1": "",
	} {
		p := rigged()
		c := p.Compositions[0]
		c.Item("box").States = nil
		c.Item("box").Edit("rotation").Links = link(text)
		got := ofRotations(c)
		if got != want {
			t.Errorf("%s: %q, want %q", text, got, want)
		}
	}
	// On a roster, a member that is not there is no mistake; one that divides is.
	p := rigged()
	c := p.Compositions[0]
	c.Items[1].States = nil
	c.RosterLinks = []*scene.RosterLink{{ID: "s", Name: "Row", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"box", "ball"}}, Property: "rotation", Link: link("{prev:@rotation} + 1 / (frame - index * 7)")[0]}}
	got := ofRotations(c)
	if want := "Ball: rotation: the formula has no valid result at frame 7; the value below is used: 1 / (frame - index * 7)"; got != want {
		t.Errorf("on a roster: %q", got)
	}
}

// ofRotations returns what shows of rotations over time.
func ofRotations(c *scene.Composition) string {
	plan := engine.New(c)
	plan.Evaluate(0)
	all := ""
	for _, found := range Deep(c, plan) {
		if found.At.Property == "rotation" {
			all += found.Sentence
		}
	}
	return all
}

// Hundredths of a percent that are made twice are told of, with the names of things, and mended by a press.
func TestHundredthsAreNotMadeTwice(t *testing.T) {
	for text, want := range map[string]string{"{@rig:@percent} / 100": "{@rig:@percent}", "{@rig:@percent} / 200": "", "{@rig:@percent}": "", "{@rig:@amount} / 100": ""} {
		p := rigged()
		c := p.Compositions[0]
		c.Item("box").States = nil
		c.Item("box").Edit("rotation").Links = []*scene.Link{{ID: "f", Kind: scene.Formula, Gain: 1, Operation: scene.Multiply, Formula: text}}
		plan := engine.New(c)
		plan.Evaluate(0)
		mended := ""
		for _, found := range Of(c, plan) {
			if strings.Contains(found.Sentence, "divides it by 100 besides") {
				if _, _, err := change.Apply(p, found.Fixes[0].Ops); err != nil {
					t.Fatal(err)
				}
				mended = c.Item("box").State("rotation").Links[0].Formula
			}
		}
		if mended != want {
			t.Errorf("%s is mended to %q, not to %q", text, mended, want)
		}
	}
}
