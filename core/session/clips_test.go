package session

import (
	"fmt"
	"testing"
	"time"

	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/scene"
)

// crates is a project of so many items in a row that a formula moves, with what is copied of it all.
func crates(t *testing.T, n int) (*Session, copies.Clip) {
	p := scene.NewProject("p", "P")
	row := &scene.RosterLink{ID: "row", Name: "row", Roster: scene.Roster{Kind: scene.Picked}, Property: "position", Link: &scene.Link{ID: "rl", Kind: scene.Formula, Gain: 1, Formula: "below + [index * 7, 0, 0]"}}
	for k := range n {
		one := &scene.Item{ID: scene.ID(fmt.Sprint("i", k)), Name: fmt.Sprint("Crate ", k+1), Kind: scene.Rectangle}
		one.Edit("rotation").Links = []*scene.Link{{ID: scene.ID(fmt.Sprint("l", k)), Kind: scene.Formula, Gain: 1, Formula: "time * 3 + {self:@opacity}"}}
		p.Compositions[0].Items = append(p.Compositions[0].Items, one)
		row.Roster.Items = append(row.Roster.Items, one.ID)
	}
	p.Compositions[0].RosterLinks = []*scene.RosterLink{row}
	s := window(t, p, 0, "a")
	return s, copies.Take("p", s.Composition(), row.Roster.Items)
}

// Two windows that paste one clip at the same time each have their copies, rows and all, and come to the same document.
func TestTwoWindowsPasteOneClipAtOnce(t *testing.T) {
	a, clip := crates(t, 3)
	v := &server{project: a.Project.Clone()}
	b := window(t, a.Project, 0, "b")
	of := func(s *Session, id string) []scene.ID { return do(t, s, &copies.Paste{Clip: clip}, id).Made }
	mine, theirs := of(a, "a1"), of(b, "b1")
	if !v.send(t, b) || v.send(t, a) {
		t.Fatal("the second to come should be outdated")
	}
	if lost := v.catchUp(t, a); len(lost) > 0 {
		t.Fatal(lost)
	}
	if !v.send(t, a) {
		t.Fatal("still outdated")
	}
	v.catchUp(t, a)
	v.catchUp(t, b)
	if text(t, a.Project) != text(t, b.Project) || text(t, a.Project) != text(t, v.project) {
		t.Error("the windows and the server differ")
	}
	if err := a.Project.Check(); err != nil || len(a.Composition().Items) != 9 || len(a.Composition().RosterLinks) != 3 {
		t.Errorf("%d items and %d rows: %v", len(a.Composition().Items), len(a.Composition().RosterLinks), err)
	}
	a.Evaluate(0)
	for _, ids := range [][]scene.ID{mine, theirs} {
		if x := a.plan.Value(ref(ids[1], "position")).At(0); x != 7 {
			t.Errorf("the second of the copies stands at %v", x)
		}
	}
}

// A clip of 20,000 items is pasted in a time that grows with the number of items, no faster.
func TestAClipOfManyItems(t *testing.T) {
	if testing.Short() {
		t.Skip("it takes its time")
	}
	took := func(n int) time.Duration {
		s, clip := crates(t, n)
		best := time.Hour
		for k := range 2 {
			from := time.Now()
			do(t, s, &copies.Paste{Clip: clip}, fmt.Sprint(k))
			best = min(best, time.Since(from))
			if err := s.Undo(fmt.Sprint("back", k)); err != nil {
				t.Fatal(err)
			}
		}
		return best
	}
	few, many := took(2000), took(20000)
	if many > 40*few {
		t.Errorf("2,000 items take %v, 20,000 %v", few, many)
	}
}
