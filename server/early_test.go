package server

import (
	"encoding/json"
	"testing"

	"wunderkammer/core/bridge"
	"wunderkammer/core/scene"
	"wunderkammer/core/view"
)

// What a page shows before its core is ready is what the core says once it is.
func TestAPageIsToldEarlyWhatItsCoreWillSay(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	body := s.ask("GET", "/api/projects/"+s.project, nil).body
	var early struct {
		Checked bool            `json:"checked"`
		View    json.RawMessage `json:"view"`
	}
	var opened struct {
		Result struct {
			View json.RawMessage `json:"view"`
		} `json:"result"`
	}
	var b bridge.Bridge
	if json.Unmarshal([]byte(body), &early) != nil || json.Unmarshal([]byte(b.Open([]byte(body), []byte("[]"))), &opened) != nil {
		t.Fatal(body)
	}
	if string(early.View) != string(opened.Result.View) || len(early.View) < 100 || !early.Checked {
		t.Errorf("early, checked %v:\n%s\nopened:\n%s", early.Checked, early.View, opened.Result.View)
	}
	var c view.CatalogueView
	if r := s.ask("GET", "/api/catalogue", nil); json.Unmarshal([]byte(r.body), &c) != nil || len(c.Kinds) == 0 || len(c.Links) == 0 || len(c.Functions) == 0 {
		t.Errorf("%d %.300s", r.status, r.body)
	}
}

// A project that the core breaks on is sent all the same: the page says so.
func TestWhatCannotBeDescribedIsLeftOut(t *testing.T) {
	if v := early(&scene.Project{ID: "p", Name: "P"}, 1); v != nil {
		t.Errorf("%+v", v)
	}
}
