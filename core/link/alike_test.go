package link

import (
	"testing"

	"wunderkammer/core/scene"
)

// Links that are edited together are told by what they read and where they go; of several on one item, only the one
// that was meant is.
func TestAlike(t *testing.T) {
	from := func(id scene.ID, property, component string) *scene.Link {
		return &scene.Link{ID: id, Kind: scene.Follow, Gain: 1, Component: component, Source: scene.Ref{Item: "rig", Property: property}}
	}
	written := func(id scene.ID, text string) *scene.Link {
		return &scene.Link{ID: id, Kind: scene.Formula, Gain: 1, Formula: text}
	}
	c := scene.NewComposition("main", "C")
	for id, links := range map[scene.ID][]*scene.Link{
		"a": {from("a1", "turn", "x"), from("a2", "turn", "x"), written("a3", "index * 2"), from("shared", "go", "")},
		"b": {from("b1", "turn", "y"), from("b2", "turn", "x"), from("b3", "turn", "x"), written("b4", "index * 2"), from("shared", "other", "")},
		"c": {written("c1", "index * 3"), from("c2", "go", "x")},
		"d": nil,
	} {
		item := &scene.Item{ID: id, Name: string(id), Kind: scene.Rectangle}
		item.Edit("position").Links = links
		c.Items = append(c.Items, item)
	}
	for id, want := range map[scene.ID]string{"a1": "a1 b2 - - -", "a2": "a2 b2 - - -", "a3": "a3 b4 - - -", "shared": "shared shared - - -", "gone": "- - - - -"} {
		var targets []scene.Ref
		for _, item := range []scene.ID{"a", "b", "c", "d", "nobody"} {
			targets = append(targets, scene.Ref{Item: item, Property: "position"})
		}
		got := ""
		for _, l := range Alike(c, targets, id) {
			if l == nil {
				got += "- "
			} else {
				got += string(l.ID) + " "
			}
		}
		if got != want+" " {
			t.Errorf("with %s: %s, want %s", id, got, want)
		}
	}
}
