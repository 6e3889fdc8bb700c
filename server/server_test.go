package server

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"

	"wunderkammer/core/session"
	"wunderkammer/store"
)

// site is a running server with a project in it.
type site struct {
	t       *testing.T
	http    *httptest.Server
	server  *Server
	project string
}

func newSite(t *testing.T, password string) *site {
	t.Helper()
	return newSiteWith(t, password, nil)
}

func newSiteWith(t *testing.T, password string, maker Maker) *site {
	t.Helper()
	st, err := store.Open(filepath.Join(t.TempDir(), "test.db"))
	if err != nil {
		t.Fatal(err)
	}
	files := fstest.MapFS{
		"index.html":         {Data: []byte("<!doctype html><title>page</title>")},
		"assets/app-1.js":    {Data: []byte("plain")},
		"assets/app-1.js.gz": {Data: []byte("packed")},
		"assets/app-2.js":    {Data: []byte("plain")},
		"assets/app-2.js.gz": {Data: []byte("packed")},
		"assets/app-2.js.br": {Data: []byte("smaller")},
	}
	srv := httptest.NewUnstartedServer(nil)
	host := srv.Listener.Addr().String()
	handler := New(Config{Store: st, FrontEnd: files, Hosts: []string{host}, Password: password, Maker: maker, Scratch: t.TempDir()})
	srv.Config.Handler = handler
	srv.Start()
	t.Cleanup(func() { srv.Close(); handler.Close(); st.Close() })
	s := &site{t: t, http: srv, server: handler}
	if password == "" {
		s.project = s.make("Harbour")
	}
	return s
}

type reply struct {
	status int
	header http.Header
	body   string
}

// problem reads the reply as RFC 9457 and returns its sentence.
func (r reply) problem(t *testing.T) string {
	t.Helper()
	var p ProblemDetails
	if err := json.Unmarshal([]byte(r.body), &p); err != nil || r.header.Get("Content-Type") != "application/problem+json" || p.Status != r.status || p.Detail == "" {
		t.Errorf("not a problem: %d %s %s", r.status, r.header.Get("Content-Type"), r.body)
	}
	return p.Detail
}

func (s *site) ask(method, path string, body io.Reader, headers ...string) reply {
	s.t.Helper()
	var sent []byte
	if body != nil {
		sent, _ = io.ReadAll(body)
	}
	req, err := http.NewRequest(method, s.http.URL+path, bytes.NewReader(sent))
	if err != nil {
		s.t.Fatal(err)
	}
	for i := 0; i < len(headers); i += 2 {
		if headers[i] == "Host" {
			req.Host = headers[i+1]
		}
		req.Header.Set(headers[i], headers[i+1])
	}
	req.Header.Set("Accept-Encoding", req.Header.Get("Accept-Encoding")) // keep Go from unpacking
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		s.t.Fatal(err)
	}
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	if err != nil {
		s.t.Fatal(err)
	}
	agrees(s.t, req, sent, res, data)
	return reply{res.StatusCode, res.Header, string(data)}
}

func (s *site) make(name string) string {
	s.t.Helper()
	body, _ := json.Marshal(map[string]string{"name": name})
	r := s.ask("POST", "/api/projects", bytes.NewReader(body))
	var made struct{ ID string }
	if err := json.Unmarshal([]byte(r.body), &made); err != nil || r.status != http.StatusCreated {
		s.t.Fatalf("%d %s", r.status, r.body)
	}
	return made.ID
}

// change posts a change of one operation that adds an item.
func (s *site) change(base int, id, item string) reply {
	return s.post(fmt.Sprintf(`{"id":%q,"base":%d,"ops":[{"op":"item.add","composition":"main","value":{"id":%q,"name":"Item","kind":"ellipse"},"at":0}]}`, id, base, item))
}

func (s *site) post(body string) reply {
	return s.ask("POST", "/api/projects/"+s.project+"/changes", strings.NewReader(body))
}

// document returns the whole project as it is saved.
func (s *site) document() string { return s.ask("GET", "/api/projects/"+s.project, nil).body }

func TestProjectsAreMadeRenamedDuplicatedDeletedAndRestored(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	if r := s.ask("PATCH", "/api/projects/"+s.project, strings.NewReader(`{"name":"Quay"}`)); r.status != 200 {
		t.Fatal(r.body)
	}
	r := s.ask("POST", "/api/projects/"+s.project+"/duplicate", nil)
	if r.status != http.StatusCreated || !strings.Contains(r.body, "Quay copy") {
		t.Fatal(r.body)
	}
	if r := s.ask("DELETE", "/api/projects/"+s.project, nil); r.status != http.StatusNoContent {
		t.Fatal(r.body)
	}
	if r := s.ask("GET", "/api/projects/"+s.project, nil); r.status != http.StatusNotFound {
		t.Errorf("a deleted project answers %d", r.status)
	}
	if r := s.ask("GET", "/api/projects", nil); strings.Contains(r.body, `"Quay"`) || !strings.Contains(r.body, "Quay copy") {
		t.Errorf("the list is %s", r.body)
	}
	if r := s.ask("POST", "/api/projects/"+s.project+"/restore", nil); r.status != http.StatusNoContent {
		t.Fatal(r.body)
	}
	if d := s.document(); !strings.Contains(d, `"box"`) || !strings.Contains(d, `"Quay"`) {
		t.Errorf("restored, it is %s", d)
	}
}

func TestAPackageGoesOutAndIn(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	out := s.ask("GET", "/api/projects/"+s.project+"/package", nil)
	in := s.ask("POST", "/api/projects/import", strings.NewReader(out.body))
	if in.status != http.StatusCreated {
		t.Fatal(in.body)
	}
	if r := s.ask("POST", "/api/projects/import", strings.NewReader("no zip")); r.status != 422 || !strings.Contains(r.problem(t), "not a Wunderkammer project") {
		t.Errorf("%d %s", r.status, r.body)
	}
	if r := s.ask("GET", "/api/projects/"+s.project+"/frame.svg?frame=3", nil); r.status != 200 || !strings.Contains(r.body, "<path") {
		t.Errorf("%d %s", r.status, r.body)
	}
}

// A part of a project goes out as a package, is read for another project, and opens as one of its own.
func TestAPartGoesOutAndIn(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	out := s.ask("GET", "/api/projects/"+s.project+"/package?part=composition&of=main", nil)
	if out.status != http.StatusOK || !strings.Contains(out.header.Get("Content-Disposition"), "Composition%201.wunderkammer") {
		t.Fatalf("%d %s", out.status, out.header)
	}
	var read struct {
		Part    string
		Project struct{ Compositions []struct{ Name string } }
	}
	r := s.ask("POST", "/api/packages", strings.NewReader(out.body))
	if err := json.Unmarshal([]byte(r.body), &read); err != nil || read.Part != "composition" || len(read.Project.Compositions) != 1 {
		t.Errorf("%d %s", r.status, r.body)
	}
	if in := s.ask("POST", "/api/projects/import", strings.NewReader(out.body)); in.status != http.StatusCreated {
		t.Errorf("%d %s", in.status, in.body)
	}
	for query, says := range map[string]string{"part=composition&of=gone": "no such composition", "part=kite&of=main": "no part of a project", "part=set": "no such set", "part=recipe&of=main": "no such recipe"} {
		if r := s.ask("GET", "/api/projects/"+s.project+"/package?"+query, nil); r.status != http.StatusNotFound || !strings.Contains(r.problem(t), says) {
			t.Errorf("%s: %d %s", query, r.status, r.body)
		}
	}
	if r := s.ask("POST", "/api/packages", strings.NewReader(`{"a":1}`)); r.status != http.StatusUnprocessableEntity || !strings.Contains(r.problem(t), "is not a Wunderkammer project") {
		t.Errorf("%d %s", r.status, r.body)
	}
}

func TestBadRequestsAreProblemsAndChangeNothing(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	before := s.document()
	op := func(op string) string { return `{"id":"x","base":1,"ops":[` + op + `]}` }
	set := func(value string) string {
		return op(`{"op":"own.set","composition":"main","item":"box","property":"size","value":` + value + `}`)
	}
	for says, c := range map[string]struct {
		status int
		body   string
	}{
		"no item with the id":          {422, op(`{"op":"item.remove","composition":"main","item":"ghost"}`)},
		"no composition with the id":   {422, op(`{"op":"item.remove","composition":"nowhere","item":"box"}`)},
		"2 numbers, but 1 number came": {422, set(`5`)},
		"a 2D point is wanted here":    {422, set(`"wide"`)},
		"must lie between":             {422, set(`[1e300,1]`)},
		"not valid JSON":               {400, set(`NaN`)},
		"made of numbers":              {400, set(`[null,true]`)},
		"no operation named":           {400, op(`{"op":"format.disk"}`)},
		"does not fit":                 {400, op(`{"op":"item.remove","composition":7}`)},
		"the limit is 200":             {422, op(`{"op":"project.rename","name":"` + strings.Repeat("x", 10000) + `"}`)},
		"not a list of objects":        {400, `{"id":"x","base":1,"ops":7}`},
		`"base" is given as a string`:  {400, `{"id":"x","base":"soon","ops":[]}`},
		"he JSON is a number":          {400, `17`},
		"needs an id":                  {400, `{"base":1,"ops":[]}`},
		"this project never had":       {422, `{"id":"x","base":99,"ops":[{"op":"project.rename","name":"N"}]}`},
		"at least one operation":       {400, `{"id":"x","base":1,"ops":[]}`},
		"an item is empty":             {422, op(`{"op":"composition.add","at":0,"value":{"id":"z","name":"Z","width":9,"height":9,"rate":9,"frames":9,"background":[0,0,0,1],"items":[null]}}`)},
		"a control is empty":           {422, op(`{"op":"item.add","composition":"main","at":0,"value":{"id":"z","name":"Z","kind":"null","controls":[null]}}`)},
		"would create a loop":          {422, op(`{"op":"link.add","composition":"main","item":"box","property":"opacity","at":-1,"link":{"id":"l","kind":"follow","gain":1,"offset":0,"source":{"item":"box","property":"opacity"}}}`)},
	} {
		r := s.post(c.body)
		if got := r.problem(t); r.status != c.status || !strings.Contains(got, says) || strings.Contains(got, "son:") || strings.Contains(got, "unmarshal") {
			t.Errorf("want %d %q, got %d %q", c.status, says, r.status, got)
		}
	}
	for _, r := range []reply{
		s.ask("POST", "/api/projects", strings.NewReader(`{"name":""}`)),
		s.ask("POST", "/api/projects", strings.NewReader(`{"name":`)),
		s.ask("POST", "/api/projects", strings.NewReader(``)),
		s.ask("POST", "/api/projects", strings.NewReader(`{"name":"`+strings.Repeat("é", 201)+`"}`)),
		s.ask("GET", "/api/projects/nowhere", nil),
		s.ask("GET", "/api/nothing", nil),
		s.ask("GET", "/missing.js", nil),
		s.ask("GET", "/api/projects/"+s.project+"/changes?since=x", nil),
		s.ask("GET", "/api/projects/"+s.project+"/frame.svg?composition=zz", nil),
		s.ask("GET", "/api/projects/"+s.project+"/frame.svg?frame=300", nil),
		s.ask("GET", "/api/projects/"+s.project+"/frame.svg?frame=-1", nil),
		s.ask("POST", "/api/projects/"+s.project+"/changes/known", strings.NewReader(`{"ids":7}`)),
		s.ask("PUT", "/api/projects", nil),
	} {
		if r.problem(t); r.status < 400 || r.status >= 500 {
			t.Errorf("%d %s", r.status, r.body)
		}
	}
	if s.document() != before {
		t.Error("a bad request changed the project")
	}
}

func TestAnOutdatedChangeIsAnsweredWithWhatCameFirst(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "one")
	r := s.change(0, "c2", "two")
	var p ProblemDetails
	if err := json.Unmarshal([]byte(r.body), &p); err != nil || r.status != 409 || p.Revision != 1 || len(p.Changes) != 1 || p.Changes[0].ID != "c1" {
		t.Errorf("%d %s", r.status, r.body)
	}
	if r := s.change(0, "c1", "one"); r.status != 200 || !strings.Contains(r.body, `"revision":1`) {
		t.Errorf("a change sent twice is answered with %d %s", r.status, r.body)
	}
	if r := s.change(1, "c2", "two"); r.status != 200 {
		t.Error(r.body)
	}
	// A change whose answer was lost comes again after a reload, made on what is there now.
	if r := s.change(2, "c1", "another"); r.status != 200 || !strings.Contains(r.body, `"revision":1`) || strings.Contains(s.document(), "another") {
		t.Errorf("a change is made twice: %d %s", r.status, r.body)
	}
	if r := s.ask("POST", "/api/projects/"+s.project+"/changes/known", strings.NewReader(`{"ids":["c2","c9"]}`)); r.body != `{"c2":2}` {
		t.Errorf("known: %s", r.body)
	}
}

func TestManyWritersLoseNothing(t *testing.T) {
	s := newSite(t, "")
	var wg sync.WaitGroup
	const writers, each = 6, 10
	for w := range writers {
		wg.Add(1)
		go func() {
			defer wg.Done()
			base := 0
			for k := 0; k < each; {
				r := s.change(base, fmt.Sprintf("w%dk%d", w, k), fmt.Sprintf("w%dk%d", w, k))
				var p struct{ Revision int }
				json.Unmarshal([]byte(r.body), &p)
				base = p.Revision
				if r.status == 200 {
					k++
				} else if r.status != 409 {
					t.Errorf("%d %s", r.status, r.body)
					return
				}
			}
		}()
	}
	wg.Wait()
	if n := strings.Count(s.document(), `"kind":"ellipse"`); n != writers*each {
		t.Errorf("%d items of %d are there", n, writers*each)
	}
}

func TestOtherHostsOriginsAndLargeBodiesAreRefused(t *testing.T) {
	s := newSite(t, "")
	before := s.document()
	if r := s.ask("GET", "/", nil, "Host", "evil.example:80"); r.status != http.StatusMisdirectedRequest {
		t.Errorf("another host: %d", r.status)
	}
	for _, origin := range []string{"http://evil.example", "null", "http://" + s.http.Listener.Addr().String() + ".evil.example"} {
		if r := s.ask("POST", "/api/projects", strings.NewReader(`{"name":"x"}`), "Origin", origin); r.status != http.StatusForbidden {
			t.Errorf("origin %s: %d", origin, r.status)
		}
		_, r, err := websocket.Dial(t.Context(), strings.Replace(s.http.URL, "http", "ws", 1)+"/api/projects/"+s.project+"/live", &websocket.DialOptions{HTTPHeader: http.Header{"Origin": {origin}}})
		if err == nil || r.StatusCode != http.StatusForbidden {
			t.Errorf("live from origin %s: %v", origin, err)
		}
	}
	if r := s.ask("POST", "/api/projects", strings.NewReader(`{"name":"x"}`), "Sec-Fetch-Site", "cross-site"); r.status != http.StatusForbidden {
		t.Errorf("cross-site: %d", r.status)
	}
	large := strings.NewReader(strings.Repeat(" ", 100<<20))
	if r := s.post2(large); r.status != http.StatusRequestEntityTooLarge || !strings.Contains(r.problem(t), "larger than 32 MB") {
		t.Errorf("100 MB: %d %.80s", r.status, r.body)
	}
	if s.document() != before {
		t.Error("something changed")
	}
}

// post2 posts a body of unknown length, so that only reading it shows how long it is.
func (s *site) post2(body io.Reader) reply {
	return s.ask("POST", "/api/projects/"+s.project+"/changes", io.MultiReader(body))
}

func TestTheFrontEndIsServedPackedWithAStrictPolicy(t *testing.T) {
	s := newSite(t, "")
	for _, path := range []string{"/", "/project/abc"} {
		r := s.ask("GET", path, nil)
		if r.status != 200 || !strings.Contains(r.body, "<title>page") || !strings.Contains(r.header.Get("Content-Security-Policy"), "script-src 'self' 'wasm-unsafe-eval';") {
			t.Errorf("%s: %d %v", path, r.status, r.header)
		}
	}
	if r := s.ask("GET", "/assets/app-1.js", nil, "Accept-Encoding", "gzip, br"); r.body != "packed" || r.header.Get("Content-Encoding") != "gzip" || !strings.Contains(r.header.Get("Cache-Control"), "immutable") {
		t.Errorf("packed: %s %v", r.body, r.header)
	}
	if r := s.ask("GET", "/assets/app-2.js", nil, "Accept-Encoding", "gzip, br"); r.body != "smaller" || r.header.Get("Content-Encoding") != "br" {
		t.Errorf("packed with brotli: %s %v", r.body, r.header)
	}
	if r := s.ask("GET", "/assets/app-1.js", nil, "Accept-Encoding", "identity"); r.body != "plain" {
		t.Errorf("plain: %s", r.body)
	}
	if r := s.ask("GET", "/../../etc/passwd", nil); strings.Contains(r.body, "root:") {
		t.Error("a file of the machine was served")
	}
}

func TestLiveUpdatesTellWhatWasMissedAndWhatComes(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "one")
	s.change(1, "c2", "two")
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	socket, _, err := websocket.Dial(ctx, strings.Replace(s.http.URL, "http", "ws", 1)+"/api/projects/"+s.project+"/live?since=1", nil)
	if err != nil {
		t.Fatal(err)
	}
	defer socket.CloseNow()
	s.change(2, "c3", "three")
	for _, want := range []string{"c2", "c3"} {
		var c session.Change
		if err := wsjson.Read(ctx, socket, &c); err != nil || c.ID != want || len(c.Ops) != 1 {
			t.Fatalf("%v %v, want %s", c, err, want)
		}
	}
	s.ask("DELETE", "/api/projects/"+s.project, nil)
	var c session.Change
	if err := wsjson.Read(ctx, socket, &c); websocket.CloseStatus(err) != websocket.StatusTryAgainLater {
		t.Errorf("when the project is deleted: %v", err)
	}
}
