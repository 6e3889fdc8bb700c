package server

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"strings"
	"sync"
	"testing"

	"github.com/pb33f/libopenapi"
	validator "github.com/pb33f/libopenapi-validator"
	problems "github.com/pb33f/libopenapi-validator/errors"
)

// described is the description of the API, as an independent reader of OpenAPI understands it.
var described = sync.OnceValues(func() (validator.Validator, error) {
	document, err := libopenapi.NewDocument(description)
	if err != nil {
		return nil, err
	}
	v, errs := validator.NewValidator(document)
	if len(errs) > 0 {
		return nil, errs[0]
	}
	return v, nil
})

// agrees tells where an answer, or the request that it was given to, is otherwise than the description of the API says.
func agrees(t *testing.T, req *http.Request, sent []byte, res *http.Response, body []byte) {
	t.Helper()
	if !strings.HasPrefix(req.URL.Path, "/api/") {
		return
	}
	for _, status := range []int{http.StatusSwitchingProtocols, http.StatusPartialContent, http.StatusNotModified} { // of HTTP, whatever is asked for
		if res.StatusCode == status {
			return
		}
	}
	v, err := described()
	if err != nil {
		t.Fatal(err)
	}
	again := func(data []byte) io.ReadCloser { return io.NopCloser(bytes.NewReader(data)) }
	req = req.Clone(req.Context())
	res.Body, req.Body = again(body), again(sent)
	switch {
	case len(sent) == 0:
		req.Body = nil
	case strings.HasSuffix(req.URL.Path, "/import"), strings.HasSuffix(req.URL.Path, "/packages"):
		req.Header.Set("Content-Type", packageType)
	case strings.HasSuffix(req.URL.Path, "/assets"):
		req.Header.Set("Content-Type", "application/octet-stream")
	default:
		req.Header.Set("Content-Type", "application/json")
	}
	check := v.ValidateHttpRequestResponse
	if res.StatusCode >= 400 { // what was asked for may be anything
		check = func(req *http.Request, res *http.Response) (bool, []*problems.ValidationError) {
			return v.ValidateHttpResponse(req, res)
		}
	}
	if ok, errs := check(req, res); !ok {
		for _, e := range errs {
			if res.StatusCode >= 400 && (e.IsPathMissingError() || e.IsOperationMissingError()) {
				continue
			}
			text, _ := json.Marshal(e.SchemaValidationErrors)
			t.Errorf("%s %s (%d) is not as the description says: %s: %s %.300s", req.Method, req.URL, res.StatusCode, e.Message, e.Reason, text)
		}
	}
}

// What the description tells of is what there is.
func TestTheDescriptionTellsOfAllAddresses(t *testing.T) {
	v, err := described()
	if err != nil {
		t.Fatal(err)
	}
	if ok, errs := v.ValidateDocument(); !ok {
		for _, e := range errs {
			t.Errorf("%s: %s", e.Message, e.Reason)
		}
	}
	var doc struct {
		Paths map[string]map[string]struct {
			Summary     string `json:"summary"`
			OperationID string `json:"operationId"`
		}
	}
	if err := json.Unmarshal(description, &doc); err != nil {
		t.Fatal(err)
	}
	told, ids := 0, map[string]bool{}
	for _, of := range doc.Paths {
		for _, one := range of {
			told++
			if one.Summary == "" || ids[one.OperationID] {
				t.Errorf("%q: %q", one.OperationID, one.Summary)
			}
			ids[one.OperationID] = true
		}
	}
	s := newSite(t, "")
	there := 0
	for _, route := range s.server.routes {
		if route.Path == "/healthz" {
			continue
		}
		there++
		var path []string
		for _, part := range strings.Split(route.Path, "/") {
			if name, ok := strings.CutPrefix(part, ":"); ok {
				part = "{" + name + "}"
			}
			path = append(path, part)
		}
		if _, ok := doc.Paths[strings.Join(path, "/")][strings.ToLower(route.Method)]; !ok {
			t.Errorf("%s %s is not told of", route.Method, route.Path)
		}
	}
	if told != there {
		t.Errorf("%d addresses are told of, there are %d", told, there)
	}
	if r := s.ask("GET", "/api/openapi.json", nil); r.status != 200 || r.body != string(description) {
		t.Errorf("%d", r.status)
	}
}
