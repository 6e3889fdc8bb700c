package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"

	"wunderkammer/core/scene"
)

// lamps is a project with a composition that hands a control off, one in which it is shown as a piece, and one that nobody else is to see.
func lamps() *scene.Project {
	p := scene.NewProject("lamps", "Lamps")
	lamp := p.Compositions[0]
	lamp.ID, lamp.Name = "lamp", "Lamp"
	lamp.Items = []*scene.Item{
		{ID: "knob", Name: "Knob", Kind: scene.Null, Controls: []*scene.Control{{ID: "glow", Name: "Glow", Kind: scene.Fader, SoftMax: 80, Default: scene.Num(23)}, {ID: "word", Name: "Word", Kind: scene.TextWidget, Default: scene.Txt("Quay")}}},
		{ID: "flag", Name: "Flag", Kind: scene.Picture, Frames: []scene.Frame{{Asset: scene.AssetID(strings.Repeat("ab", 32))}}},
	}
	most := 6.0
	lamp.HandOff = &scene.HandOff{Offers: []*scene.Offer{{ID: "ofglow", Item: "knob", Control: "glow", NoPins: true}, {ID: "ofword", Item: "knob", Control: "word", Max: &most}}}
	secret := scene.NewComposition("secret", "Secret")
	secret.Items = []*scene.Item{{ID: "hidden", Name: "Hidden plan", Kind: scene.Null}}
	p.Compositions = append(p.Compositions, secret)
	p.Compositions[0].Rate, secret.Rate = 25, 25
	return p
}

// handedOff is a site with a password, and the address of a lamp.
func handedOff(t *testing.T, password string) (s *site, address string) {
	t.Helper()
	s = newSite(t, "lamp oil")
	if err := s.server.store.Create(lamps()); err != nil {
		t.Fatal(err)
	}
	made := s.ask("POST", "/api/projects/lamps/hand-off/lamp/addresses", strings.NewReader(fmt.Sprintf(`{"name": "Mara", "password": %q}`, password)), owner...)
	if made.status != 201 {
		t.Fatal(made.body)
	}
	var got struct{ Token string }
	if err := json.Unmarshal([]byte(made.body), &got); err != nil || len(got.Token) < 26 {
		t.Fatal(made.body, err)
	}
	return s, got.Token
}

// owner is who knows the password of the server, in headers.
var owner = []string{"Authorization", "Basic " + "OmxhbXAgb2ls"}

func reads(id string, base int, ops string) *strings.Reader {
	return strings.NewReader(fmt.Sprintf(`{"id": %q, "base": %d, "ops": [%s]}`, id, base, ops))
}

// readingOf writes a reading that is like the lamp.
func readingOf(p *scene.Project) string {
	c := p.Composition("lamp").NewReading("mine", "it", "Mine")
	text, _ := json.Marshal(c)
	return fmt.Sprintf(`{"op": "composition.add", "at": -1, "value": %s}`, text)
}

func TestWhoHasAnAddressReachesWhatWasHandedOffAndNothingElse(t *testing.T) {
	s, token := handedOff(t, "")
	at := "/api/hand-offs/" + token
	opened := s.ask("GET", at+"/opening", nil)
	if opened.status != 200 || !strings.Contains(opened.body, "ofglow") || strings.Contains(opened.body, "Hidden plan") {
		t.Fatalf("%d: it holds the secret: %v", opened.status, strings.Contains(opened.body, "Hidden plan"))
	}
	if r := s.ask("GET", "/hand-off/"+token, nil); r.status != 200 || !strings.Contains(r.body, "<title>page") {
		t.Errorf("the page: %d", r.status)
	}
	// Every other route wants the password of the server.
	for _, route := range s.server.routes {
		if strings.HasPrefix(route.Path, "/api/hand-offs/") || route.Path == "/api/catalogue" || route.Path == "/login" || route.Path == "/healthz" {
			continue
		}
		path := strings.NewReplacer(":id", "lamps", ":composition", "lamp", ":address", token, ":asset", strings.Repeat("ab", 32), ":export", "x").Replace(route.Path)
		if r := s.ask(route.Method, path, strings.NewReader("{}")); r.status != 401 {
			t.Errorf("%s %s answers %d to who has an address only", route.Method, path, r.status)
		}
	}
	for _, guess := range []string{"ABCDEFGHIJKLMNOPQRSTUVWXYZ", strings.ToLower(token), token[:25], "..", token + "x"} {
		if r := s.ask("GET", "/api/hand-offs/"+guess+"/opening", nil); r.status == 200 {
			t.Errorf("%s opens it", guess)
		}
	}
	if r := s.ask("GET", at+"/opening", nil); r.status != 429 {
		t.Errorf("addresses can be guessed as often as one likes: %d", r.status)
	}
}

func TestOnlyWhatWasHandedOffCanBeChanged(t *testing.T) {
	s, token := handedOff(t, "")
	at := "/api/hand-offs/" + token + "/changes"
	add := readingOf(lamps())
	if r := s.ask("POST", at, reads("r1", 0, add)); r.status != 200 {
		t.Fatal(r.body)
	}
	set := func(composition, item, property, value string) string {
		return fmt.Sprintf(`{"op": "own.set", "composition": %q, "item": %q, "property": %q, "value": %s}`, composition, item, property, value)
	}
	pin := `{"op": "pins.put", "composition": "mine", "item": "it", "property": %q, "pins": [{"frame": 3, "value": %s, "easing": "hold"}]}`
	for says, op := range map[string]string{
		"only what was handed off":     set("lamp", "knob", "glow", "3"),
		"only what was handed off can": set("mine", "it", "opacity", "3"),
		"only what was handed":         set("secret", "hidden", "opacity", "3"),
		"only what was":                `{"op": "project.rename", "name": "Mine"}`,
		"only what":                    `{"op": "composition.remove", "composition": "lamp"}`,
		"only":                         `{"op": "item.add", "composition": "mine", "at": 0, "value": {"id": "x", "name": "X", "kind": "null"}}`,
		"Only what was handed off can be changed here": `{"op": "composition.set", "composition": "mine", "frames": 3}`,
		"may have 6 letters":                           set("mine", "it", "ofword", `"Lanternfall"`),
		"not pinned":                                   fmt.Sprintf(pin, "ofglow", "3"),
		"reads":                                        strings.Replace(strings.Replace(strings.Replace(add, `"mine"`, `"more"`, 1), `"it"`, `"it2"`, 1), `"reading":"lamp"`, `"reading":"secret"`, 1),
	} {
		r := s.ask("POST", at, reads("no"+says, 1, op))
		if want := strings.ToLower(says); r.status != 422 || !strings.Contains(strings.ToLower(r.body), want) && says != "reads" {
			t.Errorf("%s: %d %s", op, r.status, r.body)
		}
	}
	if r := s.ask("POST", at, reads("r2", 1, set("mine", "it", "ofglow", "61")+","+fmt.Sprintf(pin, "ofword", `"Hafen"`))); r.status != 200 {
		t.Fatal(r.body)
	}
	if r := s.ask("POST", at, reads("r2", 1, set("mine", "it", "ofglow", "61"))); r.status != 200 || !strings.Contains(r.body, `"revision":2`) {
		t.Errorf("the same change sent twice: %d %s", r.status, r.body)
	}
}

// Whoever was handed off a composition is told of readings, and that something inside changed, but not what.
func TestAReaderIsToldOfReadingsAndNotOfTheRest(t *testing.T) {
	s, token := handedOff(t, "")
	ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
	defer cancel()
	line, _, err := websocket.Dial(ctx, strings.Replace(s.http.URL, "http", "ws", 1)+"/api/hand-offs/"+token+"/live?since=0", nil)
	if err != nil {
		t.Fatal(err)
	}
	defer line.CloseNow()
	own := func(id string, base int, op string) {
		t.Helper()
		if r := s.ask("POST", "/api/projects/lamps/changes", reads(id, base, op), owner...); r.status != 200 {
			t.Fatal(r.body)
		}
	}
	next := func() (c struct {
		Revision int
		Ops      []map[string]any
		Rig      bool
	}) {
		t.Helper()
		if err := wsjson.Read(ctx, line, &c); err != nil {
			t.Fatal(err)
		}
		return c
	}
	own("o1", 0, `{"op": "item.set", "composition": "secret", "item": "hidden", "name": "Plan B"}`)
	if c := next(); c.Revision != 1 || len(c.Ops) != 0 || c.Rig {
		t.Errorf("of what is elsewhere: %+v", c)
	}
	own("o2", 1, `{"op": "own.set", "composition": "lamp", "item": "knob", "property": "glow", "value": 7}`)
	if c := next(); c.Revision != 2 || len(c.Ops) != 0 || !c.Rig {
		t.Errorf("of what is inside: %+v", c)
	}
	if r := s.ask("POST", "/api/hand-offs/"+token+"/changes", reads("r1", 2, readingOf(lamps()))); r.status != 200 {
		t.Fatal(r.body)
	}
	if c := next(); c.Revision != 3 || len(c.Ops) != 1 || c.Rig {
		t.Errorf("of a reading: %+v", c)
	}
	if r := s.ask("GET", "/api/hand-offs/"+token+"/changes?since=0", nil); strings.Contains(r.body, "Plan B") || !strings.Contains(r.body, `"reading"`) {
		t.Errorf("what was missed: %s", r.body)
	}
	if r := s.ask("POST", "/api/hand-offs/"+token+"/changes/steps", strings.NewReader(`{"ids": ["o1", "o2"]}`)); strings.Contains(r.body, "Plan B") || r.status != 200 {
		t.Errorf("steps: %s", r.body)
	}
	if r := s.ask("POST", "/api/hand-offs/"+token+"/changes", reads("late", 0, `{"op": "composition.set", "composition": "mine", "name": "Ours"}`)); r.status != http.StatusConflict || strings.Contains(r.body, "Plan B") {
		t.Errorf("a change made on an old state: %d %s", r.status, r.body)
	}
}

func TestAnAddressHasAPasswordAndIsWithdrawn(t *testing.T) {
	s, token := handedOff(t, "wick")
	at := "/api/hand-offs/" + token
	if r := s.ask("GET", at+"/opening", nil); r.status != 401 {
		t.Fatalf("it opens without its password: %d", r.status)
	}
	if r := s.ask("POST", at+"/enter", strings.NewReader(`{"password": "lamp oil"}`)); r.status != 401 {
		t.Errorf("the password of the server opens it: %d", r.status)
	}
	in := s.ask("POST", at+"/enter", strings.NewReader(`{"password": "wick"}`))
	cookie, _, _ := strings.Cut(in.header.Get("Set-Cookie"), ";")
	if in.status != 204 || !strings.Contains(in.header.Get("Set-Cookie"), "Path=/api/hand-offs/"+token) {
		t.Fatal(in.status, in.header)
	}
	if r := s.ask("GET", at+"/opening", nil, "Cookie", cookie); r.status != 200 {
		t.Errorf("with the password: %d", r.status)
	}
	if r := s.ask("GET", "/api/projects", nil, "Cookie", cookie); r.status != 401 {
		t.Errorf("it opens the projects, too: %d", r.status)
	}
	list := s.ask("GET", "/api/projects/lamps/hand-off/lamp/addresses", nil, owner...)
	if list.status != 200 || !strings.Contains(list.body, `"locked":true`) || strings.Contains(list.body, "wick") {
		t.Errorf("the list: %s", list.body)
	}
	if r := s.ask("DELETE", "/api/projects/other/addresses/"+token, nil, owner...); r.status != 404 {
		t.Errorf("withdrawn by way of another project: %d", r.status)
	}
	if r := s.ask("DELETE", "/api/projects/lamps/addresses/"+token, nil, owner...); r.status != 204 {
		t.Fatal(r.body)
	}
	if r := s.ask("GET", at+"/opening", nil, "Cookie", cookie); r.status != 404 || !strings.Contains(r.problem(t), "withdrawn") {
		t.Errorf("withdrawn, it answers %d", r.status)
	}
	if r := s.ask("DELETE", "/api/projects/lamps/addresses/"+token, nil, owner...); r.status != 404 {
		t.Errorf("withdrawn twice: %d", r.status)
	}
}
