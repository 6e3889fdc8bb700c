package server

import (
	"fmt"
	"strings"
	"testing"
)

// Links on rosters and formulas travel through the API, the database and a package, and bad ones are
// refused with a sentence.
func TestFormulasAndRostersAreKept(t *testing.T) {
	s := newSite(t, "")
	send := func(base int, id, ops string) reply {
		return s.post(fmt.Sprintf(`{"id": %q, "base": %d, "ops": [%s]}`, id, base, ops))
	}
	item := func(id string) string {
		return fmt.Sprintf(`{"op": "item.add", "composition": "main", "at": -1, "value": {"id": %q, "name": %q, "kind": "rectangle"}}`, id, id)
	}
	rosterLink := `{"op": "spread.add", "composition": "main", "at": -1, "value": {"id": "row", "name": "Row", "roster": {"kind": "picked", "items": ["a", "b"]}, "property": "rotation",
		"link": {"id": "l", "kind": "formula", "source": {"item": "", "property": ""}, "gain": 1, "offset": 0, "formula": "%s", "stagger": {"delay": 2, "by": "share"}}}}`
	if r := send(0, "one", item("a")+","+item("b")+","+fmt.Sprintf(rosterLink, "index * 10 + {self:@opacity}")); r.status != 200 {
		t.Fatalf("%d %s", r.status, r.body)
	}
	if d := s.document(); !strings.Contains(d, `"formula":"index * 10 + {self:@opacity}"`) || !strings.Contains(d, `"stagger":{"by":"share","delay":2}`) {
		t.Errorf("what is kept is %s", d)
	}
	for says, ops := range map[string]string{
		"loop":                            fmt.Sprintf(strings.NewReplacer(`"row"`, `"second"`, `"id": "l"`, `"id": "m"`).Replace(rosterLink), "{last:@rotation} + {first:@rotation}"),
		"no kind of item has a property":  strings.Replace(fmt.Sprintf(rosterLink, "1"), `"property": "rotation"`, `"property": "no such"`, 1),
		"the id row is taken":             fmt.Sprintf(rosterLink, "1"),
		"a formula is at most":            fmt.Sprintf(strings.Replace(rosterLink, `"row"`, `"third"`, 1), strings.Repeat("1", 80001)),
		"has no link on a row":            `{"op": "spread.remove", "composition": "main", "spread": "gone"}`,
		"has no source of its own":        `{"op": "link.add", "composition": "main", "item": "a", "property": "opacity", "at": -1, "link": {"id": "x", "kind": "formula", "source": {"item": "b", "property": "opacity"}, "gain": 1, "offset": 0, "formula": "1"}}`,
		"is not a kind of link":           `{"op": "link.add", "composition": "main", "item": "a", "property": "opacity", "at": -1, "link": {"id": "x", "kind": "magic", "source": {"item": "b", "property": "opacity"}, "gain": 1, "offset": 0}}`,
		"no link on a row was given":      `{"op": "spread.set", "composition": "main"}`,
		"is given as a string, which doe": `{"op": "spread.set", "composition": "main", "value": {"id": "row", "weight": "heavy"}}`,
	} {
		before := s.document()
		r := send(1, "bad", ops)
		if r.status < 400 || r.status >= 500 || !strings.Contains(strings.ToLower(r.problem(t)), says) {
			t.Errorf("want %q: %d %.300s", says, r.status, r.body)
		}
		if s.document() != before {
			t.Errorf("%s: something changed", says)
		}
	}
	// A formula that does not check is no mistake of the change: it is kept as typed.
	if r := send(1, "two", `{"op": "link.add", "composition": "main", "item": "a", "property": "opacity", "at": -1, "link": {"id": "x", "kind": "formula", "source": {"item": "", "property": ""}, "gain": 1, "offset": 0, "draft": "time *"}}`); r.status != 200 {
		t.Errorf("%d %s", r.status, r.body)
	}
	if r := send(2, "three", `{"op": "spread.remove", "composition": "main", "spread": "row"}`); r.status != 200 || strings.Contains(s.document(), `"spreads":[{`) {
		t.Errorf("removed: %d %s", r.status, s.document())
	}
}
