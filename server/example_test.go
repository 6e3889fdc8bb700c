package server

import (
	"encoding/json"
	"strings"
	"testing"

	"wunderkammer/core/format/media"
	"wunderkammer/core/scene"
)

// The example is put there once, comes back from the bin, and can be had anew beside the one that was worked on.
func TestTheExampleIsOpenedAndRestored(t *testing.T) {
	s := newSite(t, "")
	s.server.example = &Example{ID: "sample", Build: func() (*scene.Project, []media.File, error) {
		return scene.NewProject("sample", "Sample"), nil, nil
	}}
	open := func(body string) (id string) {
		var made struct{ ID string }
		answer := s.ask("POST", "/api/projects/example", strings.NewReader(body)).body
		if err := json.Unmarshal([]byte(answer), &made); err != nil || made.ID == "" {
			t.Fatalf("%s: %v", answer, err)
		}
		return made.ID
	}
	if first, again := open(`{}`), open(`{}`); first != "sample" || again != "sample" {
		t.Errorf("it is opened as %s, then as %s", first, again)
	}
	s.ask("DELETE", "/api/projects/sample", nil)
	if back := open(`{}`); back != "sample" {
		t.Errorf("out of the bin it is %s", back)
	}
	fresh := open(`{"fresh":true}`)
	list := s.ask("GET", "/api/projects", nil).body
	var all []struct {
		ID      string
		Example bool
	}
	if err := json.Unmarshal([]byte(list), &all); err != nil || len(all) != 3 {
		t.Fatalf("there are %s (%v)", list, err)
	}
	for _, p := range all {
		if p.Example != (p.ID == "sample") || p.ID != "sample" && p.ID != fresh && p.ID != s.project {
			t.Errorf("the list has %+v", p)
		}
	}
}
