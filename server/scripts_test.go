package server

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"regexp"
	"strings"
	"testing"
	"time"

	"wunderkammer/core/format/pack"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/demo"
)

// script is a site with the demo in it.
func script(t *testing.T) (s *site, at string) {
	t.Helper()
	p, err := demo.Build()
	if err != nil {
		t.Fatal(err)
	}
	return sending(t, p)
}

// sending is a site with a project in it.
func sending(t *testing.T, p *scene.Project) (s *site, at string) {
	t.Helper()
	s = newSite(t, "")
	if err := s.server.store.Create(p); err != nil {
		t.Fatal(err)
	}
	return s, "/api/projects/" + string(p.ID)
}

// answer reads what is answered to a script.
func answer[T any](t *testing.T, r reply) (out T) {
	t.Helper()
	if err := json.Unmarshal([]byte(r.body), &out); err != nil || r.status != http.StatusOK {
		t.Fatalf("%d %.300s", r.status, r.body)
	}
	return out
}

// curl makes the request that a line of the documentation makes with curl.
func (s *site) curl(line string) reply {
	s.t.Helper()
	var words []string
	for _, word := range regexp.MustCompile(`'[^']*'|"[^"]*"|\S+`).FindAllString(line, -1) {
		words = append(words, strings.Trim(word, `'"`))
	}
	method, address, data, get := "GET", "", []string{}, false
	for k := 1; k < len(words); k++ {
		switch words[k] {
		case "-s", "-sN":
		case "-G":
			get = true
		case "-d", "--data-urlencode":
			encode := words[k] != "-d"
			k++
			one := words[k]
			if name, value, ok := strings.Cut(one, "="); ok && encode {
				one = name + "=" + url.QueryEscape(value)
			}
			data = append(data, one)
		case "-o":
			k++
		default:
			if address != "" {
				s.t.Fatalf("%q is not understood in %s", words[k], line)
			}
			address = words[k]
		}
	}
	body := strings.Join(data, "&")
	switch {
	case get:
		address += "?" + body
		body = ""
	case body != "":
		method = "POST"
	}
	return s.ask(method, strings.TrimPrefix(address, "http://127.0.0.1:8080"), strings.NewReader(body))
}

// The example of the documentation does what it says.
func TestTheExampleOfTheDocumentation(t *testing.T) {
	text, err := os.ReadFile("../docs/api.md")
	if err != nil {
		t.Fatal(err)
	}
	_, block, _ := strings.Cut(string(text), "```sh\n")
	block, _, _ = strings.Cut(block, "```")
	s, at := script(t)
	base, answers := "", []reply{}
	for _, line := range strings.Split(block, "\n") {
		if name, value, ok := strings.Cut(line, "API="); ok && name == "" {
			base = value
		}
		if strings.HasPrefix(line, "curl ") {
			r := s.curl(strings.ReplaceAll(line, "$API", base))
			if r.status != http.StatusOK {
				t.Fatalf("%s: %d %.300s", line, r.status, r.body)
			}
			answers = append(answers, r)
		}
	}
	if len(answers) != 6 {
		t.Fatalf("there are %d requests in the example", len(answers))
	}
	set := answer[SetControls](t, answers[3])
	shows := map[string]string{}
	for _, c := range set.Controls {
		shows[c.Name] = c.Value.String()
	}
	if set.Revision != 1 || shows["Weather: Wind"] != "-31.5" || shows["Title: Title tint"] != "[1, 0.7019607843137254, 0.2784313725490196, 1]" {
		t.Errorf("%d %v", set.Revision, shows)
	}
	values := answer[ValuesAt](t, answers[4])
	if len(values.Frames) != 10 || len(values.Values) < 5 || len(values.Values[4].Values) != 10 || values.Values[0].Unit != "°" {
		t.Errorf("%+v", values)
	}
	// They are those of the project as it is now, not as it was.
	before, _ := script(t)
	was := answer[ValuesAt](t, before.curl("curl -G "+at+"/values -d from=48 --data-urlencode 'name=Lantern 1: rotation'"))
	if now := values.Values[0].Values[0]; now == was.Values[0].Values[0] || now.Absent() {
		t.Errorf("the lantern stands at %v, and at %v before the wind was turned", now, was.Values[0].Values[0])
	}
	if !strings.HasPrefix(answers[5].body, "<svg") && !strings.Contains(answers[5].body, "<svg") {
		t.Errorf("%.100s", answers[5].body)
	}
}

func TestScriptsAreToldWhatIsWrong(t *testing.T) {
	s, at := script(t)
	for _, no := range []struct {
		line, says string
		status     int
	}{
		{"curl $/values", "Name what is asked for", 400},
		{"curl $/values?name=Weather:Wind&to=9999", "10000 frames are too many for one request; ask for at most 1000", 400},
		{"curl $/values?name=Weather:Wind&from=1e300", "can be read, not 1e+300", 400},
		{"curl $/values?name=Weather:Wind&to=30&step=0", "by ?step=, which is above 0", 400},
		{"curl $/values?name=Weather:Wind&to=30&step=1e-300", "too many", 400},
		{"curl $/values?name=Weather:Wind&from=30&to=3", "which is not before it", 400},
		{"curl $/values?name=Weather:Wind&from=NaN", "?from= is not a number", 400},
		{"curl $/values?name=Weather:Mast", "Mast", 422},
		{"curl $/values?name=Nobody*:rotation", "No item named like", 422},
		{"curl -G $/values --data-urlencode 'name=1 + {Weather: Wind'", "", 422},
		{"curl $/values?name=Weather:Wind&composition=Noon", "no composition named \"Noon\"; there are: Harbour opener", 404},
		{"curl $/controls?frame=often", "?frame= is not a number", 400},
		{"curl $/controls?frame=1e9", "can be read", 400},
		{"curl $/controls?composition=Noon", "no composition named", 404},
		{"curl $x/controls", "deleted", 404},
		{"curl $/frame.svg?composition=Noon", "no composition named", 404},
		{"curl $/frame.svg?frame=99999", "has frames 0 to", 400},
		{"curl $/events?since=often", "is not a whole number", 400},
		{`curl $/controls -d '{"values": {}}'`, "at least one control", 422},
		{`curl $/controls -d '{"values": {"Mast": 3}}'`, "no control named", 422},
		{`curl $/controls -d '{"values": {"Wind": "often"}}'`, "is not a number", 422},
		{`curl $/controls -d '{"values": {"Wind": [1, 2]}}'`, "Wind", 422},
		{`curl $/controls -d '{"values": {"Lantern 1: rotation": 3}}'`, "driven by links", 422},
		{`curl $/controls -d '{"values": {"Light: Sky tint": [1, 2, 3, 1]}}'`, "from 0 to 1, not to 2", 422},
		{`curl $/controls -d '{"frame": 1000000, "values": {"Wind": 3}}'`, "can be read", 422},
		{`curl $/controls -d '{"value": {"Wind": 3}}'`, "value", 400},
		{`curl $/controls -d 'Wind=3'`, "JSON", 400},
		{`curl $/controls -d '{"id": "` + strings.Repeat("x", 65) + `", "values": {"Wind": 3}}'`, "64 characters", 400},
	} {
		r := s.curl(strings.ReplaceAll(no.line, "$", at))
		if sentence := r.problem(t); r.status != no.status || !strings.Contains(sentence, no.says) {
			t.Errorf("%s: %d %s, want %d %q", no.line, r.status, sentence, no.status, no.says)
		}
	}
	many := "curl -G $/values -d to=999"
	for range 101 {
		many += " --data-urlencode 'name=Weather: Wind'"
	}
	if r := s.curl(strings.ReplaceAll(many, "$", at)); r.status != 422 || !strings.Contains(r.body, "101 values at 1000 frames are too many") {
		t.Errorf("%d %.200s", r.status, r.body)
	}
	if r := s.ask("GET", at+"/changes", nil); r.body != "[]" {
		t.Errorf("refusals changed something: %.300s", r.body)
	}
}

func TestWhatIsSetTwiceIsSetOnce(t *testing.T) {
	s, at := script(t)
	send := func(id string, wind float64) SetControls {
		return answer[SetControls](t, s.ask("POST", at+"/controls", strings.NewReader(fmt.Sprintf(`{"id": %q, "values": {"Wind": %g}}`, id, wind))))
	}
	if r := send("a", 17); r.Revision != 1 {
		t.Errorf("%d", r.Revision)
	}
	if r := send("b", 23); r.Revision != 2 {
		t.Errorf("%d", r.Revision)
	}
	if r := send("a", 17); r.Revision != 1 || r.Controls[0].Value != scene.Num(23) {
		t.Errorf("the first one again: %d, %v", r.Revision, r.Controls[0].Value)
	}
	if r := s.ask("GET", at+"/changes?since=2", nil); r.body != "[]" {
		t.Errorf("%.300s", r.body)
	}
}

// A reading is set by what was handed off, within its limits, and the rest of the project is not.
func TestAScriptSetsAReading(t *testing.T) {
	p := lamps()
	lamp := p.Composition("lamp")
	p.Compositions = append(p.Compositions, lamp.NewReading("mine", "it", "Mine"))
	p.Join()
	s, at := sending(t, p)
	list := answer[[]ListedComposition](t, s.ask("GET", at+"/compositions", nil))
	if last := list[len(list)-1]; last.Name != "Mine" || last.Reading != "lamp" || !list[0].HandsOff || last.HandsOff {
		t.Errorf("%+v", list)
	}
	controls := answer[[]struct{ Name string }](t, s.ask("GET", at+"/controls?composition=Mine", nil))
	if len(controls) != len(lamp.HandOff.Offers) {
		t.Fatalf("%v", controls)
	}
	name := lamp.Handed()[0].Name
	set := answer[SetControls](t, s.ask("POST", at+"/controls", strings.NewReader(fmt.Sprintf(`{"composition": "mine", "values": {%q: 13}}`, name))))
	if set.Controls[0].Value != scene.Num(13) {
		t.Errorf("%+v", set.Controls)
	}
	inside := answer[[]struct{ Value scene.Value }](t, s.ask("GET", at+"/controls?composition=lamp", nil))
	if inside[0].Value == scene.Num(13) {
		t.Error("the composition itself was set")
	}
}

// Every change comes as an event, those missed first; a client that comes back goes on where it was.
func TestChangesComeAsEvents(t *testing.T) {
	s, at := script(t)
	set := func(wind int) {
		answer[SetControls](t, s.ask("POST", at+"/controls", strings.NewReader(fmt.Sprintf(`{"values": {"Wind": %d}}`, wind))))
	}
	set(17)
	set(23)
	ctx, stop := context.WithTimeout(context.Background(), 20*time.Second)
	defer stop()
	follow := func(query, last string) (next func() (id, event, data string)) {
		req, err := http.NewRequestWithContext(ctx, "GET", s.http.URL+at+"/events"+query, nil)
		if err != nil {
			t.Fatal(err)
		}
		if last != "" {
			req.Header.Set("Last-Event-ID", last)
		}
		res, err := http.DefaultClient.Do(req)
		if err != nil || res.StatusCode != 200 || res.Header.Get("Content-Type") != "text/event-stream" {
			t.Fatalf("%v %v", res, err)
		}
		t.Cleanup(func() { res.Body.Close() })
		lines := bufio.NewScanner(res.Body)
		return func() (id, event, data string) {
			for lines.Scan() {
				name, value, _ := strings.Cut(lines.Text(), ": ")
				switch {
				case lines.Text() == "" && data != "":
					return id, event, data
				case name == "id":
					id = value
				case name == "event":
					event = value
				case name == "data":
					data = value
				}
			}
			t.Fatal("the events end:", lines.Err())
			return
		}
	}
	first, later := follow("?since=1", ""), follow("?since=0", "2")
	for _, next := range []func() (string, string, string){first, func() (string, string, string) { set(31); return later() }, first, func() (string, string, string) { set(47); return later() }} {
		id, event, data := next()
		var c session.Change
		if err := json.Unmarshal([]byte(data), &c); err != nil || event != "change" || fmt.Sprint(c.Revision) != id || len(c.Ops) != 1 {
			t.Fatalf("%s %s %.200s (%v)", id, event, data, err)
		}
		want := map[int]string{2: "23", 3: "31", 4: "47"}[c.Revision]
		if !strings.Contains(data, want) {
			t.Errorf("revision %d: %s", c.Revision, data)
		}
	}
}

// What takes too long is given up, and others are answered meanwhile.
func TestValuesThatTakeTooLongAreGivenUp(t *testing.T) {
	s, at := script(t)
	slow := "average({Lantern 1: rotation}, 9999f)"
	for range 5 {
		slow = "average(" + slow + " + sin(frame), 9999f)"
	}
	began := time.Now()
	r := s.curl("curl -G " + at + "/values -d to=999 --data-urlencode 'name=" + slow + "'")
	took := time.Since(began)
	if r.status != 503 && r.status != 422 || took > drawingTime+5*time.Second {
		t.Errorf("%d after %v: %.200s", r.status, took, r.body)
	}
	if r := s.curl("curl " + at + "/values?name=Weather:Wind"); r.status != 200 {
		t.Errorf("%d %.200s", r.status, r.body)
	}
}

// What a script reads is what the command line reads, of copies and pieces as well.
func TestAScriptReadsWhatIsShown(t *testing.T) {
	p, err := demo.Build()
	if err != nil {
		t.Fatal(err)
	}
	data, err := pack.Write(p, demo.Files())
	if err != nil {
		t.Fatal(err)
	}
	s := newSite(t, "")
	r := s.ask("POST", "/api/projects/import", bytes.NewReader(data))
	var made MadeProject
	if err := json.Unmarshal([]byte(r.body), &made); err != nil || r.status != 201 {
		t.Fatalf("%d %.200s", r.status, r.body)
	}
	values := answer[ValuesAt](t, s.curl("curl -G /api/projects/"+string(made.ID)+"/values -d composition=dusk -d from=59.5 -d to=61 -d step=0.75 --data-urlencode 'name=Festoon *: position.x' --data-urlencode 'name=Festoon 3: position.x'"))
	last := values.Values[len(values.Values)-1]
	if len(values.Values) < 5 || len(values.Frames) != 3 || values.Frames[1] != 60.25 {
		t.Fatalf("%d values at %v", len(values.Values), values.Frames)
	}
	for k := range values.Frames {
		if got, of := last.Values[k].At(0), values.Values[2].Values[k].At(0); got != of || last.Name != "Festoon 3: position.x" {
			t.Errorf("%s is %v, and by its own name %v", values.Values[2].Name, of, got)
		}
	}
}
