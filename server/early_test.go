package server

import (
	"encoding/binary"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/bridge"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/view"
	"wunderkammer/store"
)

// What a page shows before its core is ready is what the core says once it is.
func TestAPageIsToldEarlyWhatItsCoreWillSay(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	all := s.ask("GET", "/api/projects/"+s.project+"/opening", nil).body
	end := 4 + int(binary.LittleEndian.Uint32([]byte(all)))
	body, first := all[4:end], all[end:]
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
	frame, broken := b.Evaluate(0)
	if broken != "" || frame == nil {
		t.Fatal(broken)
	}
	if want, err := frame.Encode(); err != nil || end%8 != 0 || len(first) < 200 || first != string(want) {
		t.Errorf("the first frame is %d bytes, want %d (%v)", len(first), len(want), err)
	}
	var c view.CatalogueView
	if r := s.ask("GET", "/api/catalogue", nil); json.Unmarshal([]byte(r.body), &c) != nil || len(c.Kinds) == 0 || len(c.Links) == 0 || len(c.Functions) == 0 {
		t.Errorf("%d %.300s", r.status, r.body)
	}
}

// A project that the core breaks on is sent all the same: the page says so.
func TestWhatCannotBeDescribedIsLeftOut(t *testing.T) {
	if v, _ := early(&scene.Project{ID: "p", Name: "P"}, 1); v != nil {
		t.Errorf("%+v", v)
	}
}

// A first frame that takes long, or is too large, is not sent ahead; nobody waits for it.
func TestAFirstFrameIsBounded(t *testing.T) {
	p := &scene.Project{ID: "p", Name: "P", Compositions: []*scene.Composition{scene.NewComposition("main", "Main")}}
	p.Compositions[0].Items = []*scene.Item{{ID: "a", Name: "A", Kind: scene.Rectangle}}
	s, _ := session.Open(p, 1, nil, store.NewID)
	if f := bridge.First(s, 0, func() bool { return true }); f != nil {
		t.Errorf("one that was stopped has %d shapes", len(f.Shapes))
	}
	s, _ = session.Open(p, 1, nil, store.NewID)
	if f := bridge.First(s, 0, func() bool { return false }); f == nil || len(f.Shapes) == 0 || len(f.Whole) == 0 {
		t.Errorf("one that was not stopped is %v", f)
	}
	for i := range 4000 { // 4,000 texts of 400 letters
		text := &scene.Item{ID: scene.ID(fmt.Sprint("t", i)), Name: "T", Kind: scene.TextItem}
		text.Edit("text").Own = scene.Txt(strings.Repeat("Lantern ", 50))
		p.Compositions[0].Items = append(p.Compositions[0].Items, text)
	}
	v, first := early(p, 1)
	if v == nil || first != nil {
		t.Errorf("one of many texts is %d bytes", len(first))
	}
}
