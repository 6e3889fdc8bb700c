package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"wunderkammer/core/format"
	"wunderkammer/core/format/pack"
	"wunderkammer/farm"
)

// press is a maker that does what a test says, for each export in turn.
type press struct {
	begun chan *pack.Opened
	ends  chan error // nil makes the file
	left  chan struct{}
}

func newPress() *press {
	return &press{begun: make(chan *pack.Opened, 99), ends: make(chan error), left: make(chan struct{}, 99)}
}

var errBreaks = errors.New("breaks")

func (p *press) Make(ctx context.Context, opened *pack.Opened, a format.Asked, rate int, folder string, tell func(farm.Progress)) (string, error) {
	p.begun <- opened
	tell(farm.Progress{Done: 17, Of: a.Pictures(rate), Workers: 3})
	select {
	case err := <-p.ends:
		if errors.Is(err, errBreaks) {
			panic("a leaf in the press")
		}
		file := filepath.Join(folder, "whole.mp4")
		return file, errors.Join(err, os.WriteFile(file, []byte("a film of "+opened.Project.Name), 0o600))
	case <-ctx.Done():
		p.left <- struct{}{}
		return "", ctx.Err()
	}
}

type told struct {
	Able    bool     `json:"able"`
	Exports []Export `json:"exports"`
}

func (s *site) exports() (out told) {
	s.t.Helper()
	r := s.ask("GET", "/api/projects/"+s.project+"/exports", nil)
	if err := json.Unmarshal([]byte(r.body), &out); err != nil || r.status != 200 {
		s.t.Fatalf("%d %s", r.status, r.body)
	}
	return out
}

func (s *site) export(id, asked string) reply {
	s.t.Helper()
	return s.ask("POST", "/api/projects/"+s.project+"/exports", strings.NewReader(fmt.Sprintf(`{"id":%q,"asked":%s,"name":"Quay at dusk.mp4"}`, id, asked)))
}

const film = `{"composition":"main","format":"mp4","from":10,"to":69}`

// comes waits until what the first export is fits.
func (s *site) comes(fits func(Export) bool) Export {
	s.t.Helper()
	for range 400 {
		if all := s.exports().Exports; len(all) > 0 && fits(all[0]) {
			return all[0]
		}
		time.Sleep(5 * time.Millisecond)
	}
	s.t.Fatalf("it stays %+v", s.exports())
	return Export{}
}

func is(state string) func(Export) bool { return func(e Export) bool { return e.State == state } }

func TestAnExportIsMadeAndFetched(t *testing.T) {
	by := newPress()
	s := newSiteWith(t, "", by)
	s.change(0, "c1", "box")
	for range 2 { // an answer was lost, and it is sent again
		if r := s.export("e1", film); r.status != 200 {
			t.Fatal(r.body)
		}
	}
	opened := <-by.begun
	if opened.Project.Name != "Harbour" || len(opened.Project.Compositions[0].Items) != 1 {
		t.Errorf("it is of %+v", opened.Project)
	}
	at := s.comes(func(e Export) bool { return e.Done == 17 })
	if at.State != "making" || at.Of != 60 || at.Workers != 3 || at.Name != "Quay at dusk.mp4" || at.Left < 0 || len(s.exports().Exports) != 1 {
		t.Errorf("%+v", at)
	}
	if r := s.ask("GET", "/api/exports/"+at.ID+"/file", nil); r.status != http.StatusNotFound {
		t.Errorf("before it is ready, its file answers %d", r.status)
	}
	by.ends <- nil
	ready := s.comes(is("ready"))
	r := s.ask("GET", "/api/exports/"+ready.ID+"/file", nil)
	if r.status != 200 || r.body != "a film of Harbour" || !strings.Contains(r.header.Get("Content-Disposition"), "Quay%20at%20dusk.mp4") {
		t.Errorf("%d %s %s", r.status, r.body, r.header.Get("Content-Disposition"))
	}
	if r := s.ask("DELETE", "/api/exports/"+ready.ID, nil); r.status != http.StatusNoContent || len(s.exports().Exports) != 0 {
		t.Errorf("removed: %d %s", r.status, r.body)
	}
	if _, err := os.Stat(filepath.Join(s.server.exports.folder, ready.ID)); !os.IsNotExist(err) {
		t.Error("its folder stays")
	}
	if r := s.ask("DELETE", "/api/exports/"+ready.ID, nil); r.status != http.StatusNotFound {
		t.Errorf("removed twice: %d", r.status)
	}
}

func TestExportsAreMadeOneAfterTheOtherAndCancelled(t *testing.T) {
	by := newPress()
	s := newSiteWith(t, "", by)
	s.export("e1", film)
	<-by.begun
	s.export("e2", film)
	second := s.comes(is("waiting"))
	first := s.exports().Exports[1]
	if len(by.begun) > 0 || first.State != "making" {
		t.Fatalf("both are made: %+v", s.exports())
	}
	s.ask("DELETE", "/api/exports/"+first.ID, nil)
	<-by.left
	<-by.begun // the next one's turn
	if at := s.comes(is("making")); at.ID != second.ID {
		t.Errorf("%+v", at)
	}
	by.ends <- errors.New("no browser is installed")
	if at := s.comes(is("failed")); !strings.Contains(at.Error, "o browser is installed") {
		t.Errorf("%+v", at)
	}
	s.export("e3", film)
	<-by.begun
	by.ends <- errBreaks
	if at := s.comes(is("failed")); !strings.Contains(at.Error, "a leaf in the press") {
		t.Errorf("%+v", at)
	}
	for k := range maxExports {
		s.export(fmt.Sprintf("more %d", k), film)
	}
	if r := s.export("one too many", film); r.status != http.StatusConflict || !strings.Contains(r.problem(t), "fetch or remove one first") {
		t.Errorf("%d %s", r.status, r.body)
	}
}

func TestWhatIsNotExported(t *testing.T) {
	s := newSiteWith(t, "", newPress())
	for asked, says := range map[string]string{
		`{"composition":"gone","format":"mp4","to":9}`:           "removed in another window",
		`{"composition":"main","format":"film","to":9}`:          "there is no format",
		`{"composition":"main","format":"lottie","to":9}`:        "not made in parts",
		`{"composition":"main","format":"mp4","from":5,"to":1}`:  "comes before the first",
		`{"composition":"main","format":"mp4","to":"everything"`: "could not be read",
	} {
		if r := s.export("e", asked); r.status < 400 || !strings.Contains(strings.ToLower(r.problem(t)), strings.ToLower(says)) {
			t.Errorf("%s: %d %s", asked, r.status, r.body)
		}
	}
	none := newSite(t, "")
	if none.exports().Able {
		t.Error("a server without workers says it makes exports")
	}
	if r := none.export("e", film); r.status != http.StatusConflict || !strings.Contains(r.problem(t), "--workers") {
		t.Errorf("%d %s", r.status, r.body)
	}
}

func TestLongNamesOfFilesKeepTheirEnding(t *testing.T) {
	for name, want := range map[string]string{
		"Quay.mp4": "Quay.mp4", "../../etc/Quay 2.zip": "Quay 2.zip", strings.Repeat("ü", 400) + ".webm": strings.Repeat("ü", 150) + ".webm",
	} {
		if got := fileName(name); got != want {
			t.Errorf("%q becomes %q", name, got)
		}
	}
}

// What nobody fetched leaves, what is under way stays.
func TestOldExportsAreSweptAway(t *testing.T) {
	by := newPress()
	s := newSiteWith(t, "", by)
	s.export("e1", film)
	<-by.begun
	by.ends <- nil
	ready := s.comes(is("ready"))
	s.export("e2", film)
	<-by.begun
	s.server.exports.tidy(time.Now().Add(-time.Hour))
	if n := len(s.exports().Exports); n != 2 {
		t.Fatalf("%d are left", n)
	}
	s.server.exports.tidy(time.Now().Add(time.Hour))
	if all := s.exports().Exports; len(all) != 1 || all[0].ID == ready.ID {
		t.Errorf("%+v", all)
	}
}
