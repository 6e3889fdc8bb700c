package server

import (
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

func TestMain(m *testing.M) {
	slog.SetDefault(slog.New(slog.DiscardHandler))
	os.Exit(m.Run())
}

func TestThePasswordOpensASessionAndGuessesAreSlowed(t *testing.T) {
	s := newSite(t, "lamp oil")
	if r := s.ask("GET", "/api/projects", nil); r.status != 401 {
		t.Errorf("without a password: %d", r.status)
	}
	if r := s.ask("GET", "/", nil); r.status != 401 || !strings.Contains(r.body, "<form") {
		t.Errorf("the page without a password: %d %s", r.status, r.body)
	}
	basic := func(password string) int {
		req, _ := http.NewRequest("GET", s.http.URL+"/api/projects", nil)
		req.SetBasicAuth("anyone", password)
		res, err := http.DefaultClient.Do(req)
		if err != nil {
			t.Fatal(err)
		}
		res.Body.Close()
		return res.StatusCode
	}
	if basic("lamp oil") != 200 || basic("lamp") != 401 {
		t.Error("a script is not let in by the password, or is by another")
	}
	jar, _ := cookiejar.New(nil)
	browser := &http.Client{Jar: jar}
	enter := func(password string) int {
		res, err := browser.PostForm(s.http.URL+"/login", url.Values{"password": {password}})
		if err != nil {
			t.Fatal(err)
		}
		res.Body.Close()
		return res.StatusCode
	}
	if enter("oil") != 401 || enter("lamp oil") != 200 {
		t.Error("the form lets in another password, or not the right one")
	}
	for _, c := range jar.Cookies(&url.URL{Scheme: "http", Host: s.http.Listener.Addr().String()}) {
		if c.Value == "lamp oil" {
			t.Error("the cookie holds the password")
		}
	}
	for k := range freeGuesses {
		if got := basic(fmt.Sprint("guess", k)); got != 401 {
			t.Errorf("guess %d: %d", k, got)
		}
	}
	if basic("one more") != 429 || basic("lamp oil") != 429 || enter("lamp oil") != 429 {
		t.Error("guesses go on as fast as before")
	}
	if res, err := browser.Get(s.http.URL + "/api/projects"); err != nil || res.StatusCode != 200 {
		t.Errorf("who is in is thrown out: %v %v", res, err)
	}
	if r := s.ask("GET", "/healthz", nil); r.status != 200 {
		t.Errorf("health: %d %s", r.status, r.body)
	}
}

func TestThePasswordsCookieIsForThisSiteAlone(t *testing.T) {
	s := newSite(t, "lamp oil")
	stay := &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	res, err := stay.PostForm(s.http.URL+"/login", url.Values{"password": {"lamp oil"}})
	if err != nil || len(res.Cookies()) != 1 {
		t.Fatal(err, res.Cookies())
	}
	if c := res.Cookies()[0]; !c.HttpOnly || c.SameSite != http.SameSiteStrictMode || c.MaxAge < 1 {
		t.Errorf("%+v", c)
	}
}

// full puts many items into the project of a site.
func full(t *testing.T, s *site, n int) {
	t.Helper()
	var ops change.Ops
	for k := range n {
		item := &scene.Item{ID: scene.ID(fmt.Sprint("i", k)), Name: strings.Repeat("Item ", 30), Kind: scene.Ellipse}
		ops = append(ops, &change.ItemAdd{In: change.In{Composition: "main"}, Value: item, At: -1})
	}
	if _, err := s.server.library.apply(s.project, session.Change{ID: "full", Ops: ops}); err != nil {
		t.Fatal(err)
	}
}

func TestAReaderThatDoesNotReadHoldsNobodyUp(t *testing.T) {
	s := newSite(t, "")
	full(t, s, 40000) // more than the buffers of the connection hold
	for _, path := range []string{"", "/package", "/changes?since=0"} {
		conn, err := net.Dial("tcp", s.http.Listener.Addr().String())
		if err != nil {
			t.Fatal(err)
		}
		defer conn.Close()
		fmt.Fprintf(conn, "GET /api/projects/%s%s HTTP/1.1\r\nHost: %s\r\n\r\n", s.project, path, s.http.Listener.Addr())
	}
	time.Sleep(300 * time.Millisecond) // they are being answered
	start := time.Now()
	if r := s.change(1, "c1", "box"); r.status != 200 {
		t.Error(r.body)
	}
	if took := time.Since(start); took > 5*time.Second {
		t.Errorf("a change had to wait for %v", took)
	}
}

// A change that breaks off in the middle is not kept, and nothing later is made on what it left.
func TestABrokenChangeIsForgotten(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	d, err := s.server.library.get(s.project)
	if err != nil {
		t.Fatal(err)
	}
	d.project.Compositions[0].Items = append(d.project.Compositions[0].Items, nil) // something that cannot be
	if r := s.change(1, "c2", "ball"); r.status != 422 || !strings.Contains(r.problem(t), "went wrong") {
		t.Errorf("%d %s", r.status, r.body)
	}
	if r := s.change(1, "c3", "cone"); r.status != 200 {
		t.Errorf("%d %s", r.status, r.body)
	}
	if doc := s.document(); !strings.Contains(doc, "cone") || strings.Contains(doc, "ball") || strings.Contains(doc, "null") {
		t.Errorf("what is there is %s", doc)
	}
}

func TestIdleDocumentsLeaveMemory(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	l := s.server.library
	d, _ := l.get(s.project)
	_, stop := d.follow()
	l.tidy(time.Now().Add(time.Hour))
	if l.open[s.project] != d {
		t.Error("a document that is followed left")
	}
	stop()
	l.tidy(time.Now().Add(-time.Hour))
	if l.open[s.project] != d {
		t.Error("a document that was just used left")
	}
	l.tidy(time.Now().Add(time.Hour))
	if l.open[s.project] != nil {
		t.Error("an idle document stays")
	}
	if _, err := l.applyTo(s.project, d, session.Change{ID: "late", Base: 1}, nil); err != errGone {
		t.Errorf("a change is made on what left memory: %v", err)
	}
	if r := s.change(1, "c2", "ball"); r.status != 200 || !strings.Contains(s.document(), "ball") {
		t.Error(r.body)
	}
}

func TestNothingIsAcknowledgedWithoutAFolder(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	file := s.server.store.File()
	os.Rename(filepath.Dir(file), filepath.Dir(file)+"-away")
	if r := s.change(1, "c2", "ball"); r.status != 503 || !strings.Contains(r.problem(t), "removed or replaced") {
		t.Errorf("%d %s", r.status, r.body)
	}
	if r := s.ask("GET", "/healthz", nil); r.status != 503 {
		t.Errorf("health: %d", r.status)
	}
	os.Rename(filepath.Dir(file)+"-away", filepath.Dir(file))
	if r := s.change(1, "c2", "ball"); r.status != 200 {
		t.Errorf("put back: %d %s", r.status, r.body)
	}
}

func TestThumbnails(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	path := "/api/projects/" + s.project + "/thumbnail.svg"
	if r := s.ask("GET", path, nil); r.status != 200 || r.body == plain || !strings.Contains(r.body, "<path") {
		t.Errorf("%d %s", r.status, r.body)
	}
	// One that was begun and never came to an end is not tried again, until the project changes.
	if err := s.server.store.SetPicture(s.project, 1, nil); err != nil {
		t.Fatal(err)
	}
	if r := s.ask("GET", path, nil); r.status != 200 || r.body != plain {
		t.Errorf("%d %s", r.status, r.body)
	}
	s.change(1, "c2", "ball")
	if r := s.ask("GET", path, nil); r.status != 200 || r.body == plain {
		t.Errorf("%d %s", r.status, r.body)
	}
}

func TestFilesAreNotSentTwice(t *testing.T) {
	s := newSite(t, "")
	r := s.ask("GET", "/", nil)
	if again := s.ask("GET", "/", nil, "If-None-Match", r.header.Get("ETag")); again.status != http.StatusNotModified {
		t.Errorf("%d", again.status)
	}
	if r.header.Get("Cross-Origin-Resource-Policy") != "same-origin" {
		t.Error("pages of other origins may take it in")
	}
}

// Who follows and does not take what comes is cut off, so that it asks for what it missed.
func TestASlowFollowerIsCutOff(t *testing.T) {
	s := newSite(t, "")
	d, _ := s.server.library.get(s.project)
	changes, stop := d.follow()
	defer stop()
	for k := range 300 {
		if _, err := s.server.library.apply(s.project, session.Change{ID: fmt.Sprint("c", k), Base: k, Ops: change.Ops{&change.ProjectRename{Name: fmt.Sprint("N", k)}}}); err != nil {
			t.Fatal(err)
		}
	}
	n := 0
	for range changes {
		n++
	}
	if n != 256 {
		t.Errorf("it got %d changes before it was cut off", n)
	}
}

// unkept is an operation that cannot be kept, and does something while that is tried.
type unkept struct {
	*change.ProjectRename
	meanwhile func()
}

func (u unkept) MarshalJSON() ([]byte, error) {
	u.meanwhile()
	return nil, errors.New("the disk is full")
}

// A change that could not be kept is taken back in memory, too; where not even that goes, memory is given up and the
// project read anew.
func TestWhatCouldNotBeKeptIsTakenBack(t *testing.T) {
	s := newSite(t, "")
	before := s.document()
	for name, broken := range map[string]bool{"taken back": false, "read anew": true} {
		d, err := s.server.library.get(s.project)
		if err != nil {
			t.Fatal(err)
		}
		added := &scene.Item{ID: "lost", Name: "Lost", Kind: scene.Null}
		ops := change.Ops{&change.ItemAdd{In: change.In{Composition: "main"}, Value: added, At: -1}, unkept{&change.ProjectRename{Name: "Lost"}, func() {
			if broken {
				d.project.Compositions[0].Items = nil
			}
		}}}
		if _, err := s.server.library.apply(s.project, session.Change{ID: "lost", Base: d.revision, Ops: ops}); err == nil || !strings.Contains(err.Error(), "the disk is full") {
			t.Fatalf("%s: %v", name, err)
		}
		deadline := time.Now().Add(5 * time.Second)
		for fresh := d; broken && fresh == d; {
			if fresh, err = s.server.library.get(s.project); err != nil || time.Now().After(deadline) {
				t.Fatalf("%s: the broken document is still in memory (%v)", name, err)
			}
		}
		if after := s.document(); after != before {
			t.Errorf("%s: %s", name, after)
		}
	}
	if r := s.change(0, "c1", "ball"); r.status != 200 {
		t.Errorf("nothing goes on: %d %s", r.status, r.body)
	}
}

// A project that was deleted elsewhere takes no change, and is as before where it is taken out of the bin.
func TestADeletedProjectTakesNoChange(t *testing.T) {
	s := newSite(t, "")
	before := s.document()
	if err := s.server.store.Delete(s.project); err != nil {
		t.Fatal(err)
	}
	if r := s.change(0, "c1", "ball"); r.status != 404 {
		t.Errorf("%d %s", r.status, r.body)
	}
	if err := s.server.store.Restore(s.project); err != nil {
		t.Fatal(err)
	}
	if after := s.document(); after != before {
		t.Errorf("it is %s", after)
	}
}
