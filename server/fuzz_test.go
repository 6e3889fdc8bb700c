package server

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"testing"

	"wunderkammer/store"
)

// Whatever is posted: it is answered with a sentence, never with a failure of the server, and the project stays whole.
func FuzzBodies(f *testing.F) {
	for _, body := range []string{
		`{"id":"x","base":1,"ops":[{"op":"item.add","composition":"main","value":{"id":"z","name":"Z","kind":"null","controls":[null]},"at":0}]}`,
		`{"id":"x","base":1,"ops":[{"op":"composition.add","value":null},{"op":"spread.set","value":{"link":null}},null]}`,
		`{"id":"x","base":1,"ops":[{"op":"link.add","composition":"main","item":"box","property":"rotation","link":{"id":"l","kind":"formula","formula":"{box: world.position.x}","gain":1},"weights":{"weight:l":null}}]}`,
		`{"ids":[null,"x"]}`, `{"name":null}`, `[]`, `{"id":"x","base":1e99}`,
	} {
		for path := range 4 {
			f.Add(path, body)
		}
	}
	st, err := store.Open(filepath.Join(f.TempDir(), "test.db"))
	if err != nil {
		f.Fatal(err)
	}
	handler := New(Config{Store: st, Hosts: []string{"here"}})
	f.Cleanup(func() { handler.Close(); st.Close() })
	ask := func(method, path, body string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(method, path, strings.NewReader(body))
		r.Host = "here"
		w := httptest.NewRecorder()
		handler.ServeHTTP(w, r)
		return w
	}
	made := ask("POST", "/api/projects", `{"name":"Harbour"}`).Body.String()
	id := strings.Split(made, `"`)[3]
	n := 0
	f.Fuzz(func(t *testing.T, path int, body string) {
		n++
		body = strings.Replace(body, `"id":"x"`, fmt.Sprintf(`"id":"x%d"`, n), 1)
		paths := []string{"/api/projects/" + id + "/changes", "/api/projects/" + id + "/changes/known", "/api/projects", "/api/projects/import"}
		w := ask("POST", paths[((path%4)+4)%4], body)
		if w.Code >= 500 {
			t.Fatalf("%d %s", w.Code, w.Body)
		}
		if w := ask("GET", "/api/projects/"+id, ""); w.Code != http.StatusOK {
			t.Fatalf("the project is gone: %d %s", w.Code, w.Body)
		}
	})
}
