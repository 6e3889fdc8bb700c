package server

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/coder/websocket"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// many is a project of so many formulas.
func many(n int) *scene.Project {
	p := scene.NewProject("many", "Many")
	for k := range n {
		item := &scene.Item{ID: scene.ID(fmt.Sprint("i", k)), Name: fmt.Sprint("Item ", k), Kind: scene.Rectangle}
		item.Edit("rotation").Links = []*scene.Link{{ID: scene.ID(fmt.Sprint("l", k)), Kind: scene.Formula, Gain: 1, Formula: fmt.Sprintf("wave(time * 0.3 + %d) * 17", k)}}
		p.Compositions[0].Items = append(p.Compositions[0].Items, item)
	}
	return p
}

// Opening is sent packed, is the same for all who ask at one revision, and is worked out once for them.
func TestOpeningIsPackedAndWorkedOutOnce(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	path := "/api/projects/" + s.project + "/opening"
	packed := s.ask("GET", path, nil, "Accept-Encoding", "gzip")
	if packed.header.Get("Content-Encoding") != "gzip" {
		t.Fatal("it is not packed")
	}
	r, err := gzip.NewReader(strings.NewReader(packed.body))
	if err != nil {
		t.Fatal(err)
	}
	body, err := io.ReadAll(r)
	if err != nil || string(body) != s.ask("GET", path, nil).body || len(packed.body) > len(body)*3/4 {
		t.Errorf("unpacked it is something else, or it is hardly packed: %d of %d (%v)", len(packed.body), len(body), err)
	}
	d, _ := s.server.library.get(s.project)
	first := d.snapshot()
	if d.snapshot() != first {
		t.Error("a snapshot is taken twice at one revision")
	}
	s.change(1, "c2", "ball")
	if next := d.snapshot(); next == first || next.revision != 2 || first.project.Compositions[0].Item("ball") != nil {
		t.Error("after a change it is not another one")
	}
}

// While windows open a project of many formulas, a change of it does not wait for them.
func TestAChangeDoesNotWaitForWindowsThatOpen(t *testing.T) {
	if testing.Short() {
		t.Skip("it takes a while")
	}
	s := newSite(t, "")
	if err := s.server.store.Create(many(20000)); err != nil {
		t.Fatal(err)
	}
	s.project = "many"
	post := func(base int) time.Duration {
		start := time.Now()
		body := fmt.Sprintf(`{"id":"c%d","base":%d,"ops":[{"op":"own.set","composition":"main","item":"i%d","property":"opacity","value":%d}]}`, base, base, base*7, 10+base)
		if r := s.post(body); r.status != 200 {
			t.Fatal(r.body)
		}
		return time.Since(start)
	}
	post(0)
	var alone, beside []time.Duration
	for base := 1; base <= 40; base++ {
		alone = append(alone, post(base))
	}
	var opening sync.WaitGroup
	done := make(chan struct{})
	for range 10 {
		opening.Add(1)
		go func() {
			defer opening.Done()
			s.ask("GET", "/api/projects/many/opening", nil, "Accept-Encoding", "gzip")
		}()
	}
	go func() { opening.Wait(); close(done) }()
	base := 41
waiting:
	for {
		select {
		case <-done:
			break waiting
		default:
			beside = append(beside, post(base))
			base++
		}
	}
	mean := func(all []time.Duration) (sum, most time.Duration) {
		for _, d := range all {
			sum, most = sum+d, max(most, d)
		}
		return sum / time.Duration(max(1, len(all))), most
	}
	a, _ := mean(alone)
	b, most := mean(beside)
	t.Logf("a change takes %v alone; %v beside ten windows that open (%d of them, %v at most)", a, b, len(beside), most)
	if len(beside) < 5 || b > 20*time.Millisecond {
		t.Errorf("%d changes were made meanwhile, %v each", len(beside), b)
	}
}

// The library is not held up by one document that is busy.
func TestABusyDocumentHoldsNobodyUp(t *testing.T) {
	s := newSite(t, "")
	other := s.make("Other")
	d, _ := s.server.library.get(s.project)
	d.mu.Lock()
	done := make(chan struct{})
	go func() {
		s.server.library.tidy(time.Now().Add(time.Hour))
		s.ask("GET", "/api/projects/"+other, nil)
		close(done)
	}()
	select {
	case <-done:
	case <-time.After(5 * time.Second):
		t.Error("all wait for one document")
	}
	d.mu.Unlock()
	<-done
}

// Of the documents that nobody follows only the last few stay.
func TestFewIdleDocumentsStayInMemory(t *testing.T) {
	s := newSite(t, "")
	for k := range maxIdle + 5 {
		s.ask("GET", "/api/projects/"+s.make(fmt.Sprint("P", k)), nil)
	}
	s.server.library.tidy(time.Now().Add(-time.Hour))
	if n := len(s.server.library.open); n != maxIdle {
		t.Errorf("%d stay", n)
	}
}

// A page of a history that a restored backup took the place of is told so, whatever it asks.
func TestAnotherHistoryIsTold(t *testing.T) {
	s := newSite(t, "")
	var opened struct{ History string }
	if json.Unmarshal([]byte(s.document()), &opened); opened.History == "" || opened.History != s.server.store.History() {
		t.Fatalf("the history is %q", opened.History)
	}
	change := `{"id":"c1","base":0,"history":%q,"ops":[{"op":"project.rename","name":"N"}]}`
	if r := s.post(fmt.Sprintf(change, "of before")); r.status != http.StatusPreconditionFailed || !strings.Contains(r.problem(t), "A backup was restored") {
		t.Errorf("%d %s", r.status, r.body)
	}
	if r := s.post(fmt.Sprintf(change, opened.History)); r.status != 200 {
		t.Errorf("%d %s", r.status, r.body)
	}
	address := "ws" + strings.TrimPrefix(s.http.URL, "http") + "/api/projects/" + s.project + "/live?since=0&history="
	line, _, err := websocket.Dial(t.Context(), address+"before", nil)
	if err != nil {
		t.Fatal(err)
	}
	if _, _, err = line.Read(t.Context()); websocket.CloseStatus(err) != anotherHistory {
		t.Errorf("the line is closed with %v", err)
	}
}

// What a page could not bring to the server is kept as a project of its own.
func TestAPagesProjectIsAdopted(t *testing.T) {
	s := newSite(t, "")
	p := many(3)
	p.Name = "Kept"
	body, _ := json.Marshal(p)
	r := s.ask("POST", "/api/projects/adopt", bytes.NewReader(body))
	var made struct{ ID, Name string }
	if json.Unmarshal([]byte(r.body), &made); r.status != 201 || made.Name != "Kept" || made.ID == "many" {
		t.Fatalf("%d %s", r.status, r.body)
	}
	if doc := s.ask("GET", "/api/projects/"+made.ID, nil).body; !strings.Contains(doc, "Item 2") {
		t.Error(doc)
	}
	for _, bad := range []string{`{}`, `{"compositions":[null]}`, `7`, ``} {
		if r := s.ask("POST", "/api/projects/adopt", strings.NewReader(bad)); r.status < 400 || r.status > 422 {
			t.Errorf("%q: %d %s", bad, r.status, r.body)
		}
	}
}

// Steps of undo are answered with what takes them back.
func TestStepsAreTold(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	s.change(1, "c2", "ball")
	r := s.ask("POST", "/api/projects/"+s.project+"/changes/steps", strings.NewReader(`{"ids":["c2","c1","c9"]}`))
	var steps []session.PastStep
	if err := json.Unmarshal([]byte(r.body), &steps); err != nil || len(steps) != 2 || steps[1].ID != "c2" {
		t.Fatalf("%v %s", err, r.body)
	}
	if remove, ok := steps[1].Inverse[0].(*change.ItemRemove); !ok || remove.Item != "ball" {
		t.Errorf("%+v", steps[1])
	}
}

// A picture that only had to wait too long is drawn the next time; a project without one of its pictures goes out all the same.
func TestAThumbnailThatHadToWaitIsDrawnLater(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "box")
	d, _ := s.server.library.get(s.project)
	for range drawers {
		s.server.drawing <- struct{}{}
	}
	waitedFor(10 * time.Millisecond)
	defer waitedFor(drawingTime)
	if _, err := s.server.pictureOf(s.project, d); err != errBusy {
		t.Fatalf("got %v", err)
	}
	for range drawers {
		<-s.server.drawing
	}
	if picture, err := s.server.pictureOf(s.project, d); err != nil || !strings.Contains(string(picture), "<path") {
		t.Errorf("later it is %.60s %v", picture, err)
	}
}

func waitedFor(time time.Duration) { waiting = time }

// Many addresses that each guess once are slowed like one that guesses often.
func TestFirstGuessesAreCounted(t *testing.T) {
	d := newDoor("lamp oil")
	let := 0
	for k := range 400 {
		if _, wait := d.tryFrom(fmt.Sprintf("10.0.%d.%d", k/250, k%250), "wrong"); wait == 0 {
			let++
		}
	}
	if let > 40 {
		t.Errorf("%d of 400 addresses could guess at once", let)
	}
}

// A project whose picture is gone from the store is packed without it.
func TestAProjectWithoutItsPictureIsPacked(t *testing.T) {
	s := newSite(t, "")
	p := many(1)
	p.Compositions[0].Items = append(p.Compositions[0].Items, &scene.Item{ID: "flag", Name: "Flag", Kind: scene.Picture, Frames: []scene.Frame{{Asset: scene.AssetID(strings.Repeat("ab", 32))}}})
	if err := s.server.store.Create(p); err != nil {
		t.Fatal(err)
	}
	out := s.ask("GET", "/api/projects/many/package", nil)
	if out.status != 200 {
		t.Fatal(out.body)
	}
	in := s.ask("POST", "/api/projects/import", strings.NewReader(out.body))
	if in.status != 201 || !strings.Contains(in.body, "1 picture or sound is missing") {
		t.Errorf("%d %s", in.status, in.body)
	}
}

// A session lasts as long as it should and no longer; one that nobody began is none.
func TestSessionsEnd(t *testing.T) {
	d := newDoor("lamp oil")
	d.sessions[sha256.Sum256([]byte("new"))] = time.Now().Add(7 * time.Minute)
	d.sessions[sha256.Sum256([]byte("old"))] = time.Now().Add(-3 * time.Second)
	if !d.holds("new") || d.holds("old") || d.holds("none") {
		t.Errorf("the new one holds: %v, the old one: %v, none: %v", d.holds("new"), d.holds("old"), d.holds("none"))
	}
}

// A change that couldn't be kept is not shown to anyone either: what is in memory is as on the disk.
func TestAChangeThatIsNotKeptIsTakenBack(t *testing.T) {
	s := newSite(t, "")
	s.change(0, "c1", "one")
	if err := s.server.store.Close(); err != nil {
		t.Fatal(err)
	}
	d, err := s.server.library.get(s.project)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.server.library.applyTo(s.project, d, session.Change{ID: "c2", Base: 1, Ops: change.Ops{&change.ProjectRename{Name: "two"}}}, nil); err == nil {
		t.Error("a change is kept by a store that is closed")
	}
	if d.project.Name == "two" || d.revision != 1 {
		t.Errorf("in memory it is called %s, at revision %d", d.project.Name, d.revision)
	}
}

// What an earlier version left behind is mended when a project is loaded, and told to those who open it, until they change it; even
// where a change was made before anyone did.
func TestWhatWasMendedIsTold(t *testing.T) {
	s := newSite(t, "")
	p := scene.NewProject("old", "Old")
	p.Compositions[0].Items = []*scene.Item{{ID: "box", Name: "Box", Kind: scene.Rectangle}}
	p.Compositions[0].Items[0].Edit(scene.WeightKey("gone")).Own = scene.Num(40)
	if err := s.server.library.store.Create(p); err != nil {
		t.Fatal(err)
	}
	rename := func(base int) {
		body := fmt.Sprintf(`{"id":"c%d","base":%d,"ops":[{"op":"project.rename","name":"Older"}]}`, base, base)
		if r := s.ask("POST", "/api/projects/old/changes", strings.NewReader(body)); r.status != 200 {
			t.Fatalf("%d %s", r.status, r.body)
		}
	}
	rename(0)
	told := func() (n int) {
		r := s.ask("GET", "/api/projects/old", nil)
		var l struct{ Healed []string }
		if err := json.Unmarshal([]byte(r.body), &l); err != nil || r.status != 200 {
			t.Fatalf("%d %.300s", r.status, r.body)
		}
		return len(l.Healed)
	}
	if first, again := told(), told(); first != 1 || again != 1 {
		t.Errorf("%d things are told of, then %d", first, again)
	}
	if rename(1); told() != 0 {
		t.Error("what was mended is told of after a change, too")
	}
}
