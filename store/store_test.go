package store

import (
	"bufio"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

func open(t *testing.T, file string) *Store {
	t.Helper()
	s, err := Open(file)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

func text(t *testing.T, p *scene.Project) string {
	t.Helper()
	data, err := json.Marshal(p)
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

// write makes change n of a project and appends it.
func write(s *Store, p *scene.Project, n int) error {
	ops := change.Ops{
		&change.ProjectRename{Name: fmt.Sprintf("Name %d", n)},
		&change.ItemAdd{In: change.In{Composition: "main"}, Value: &scene.Item{ID: scene.ID(fmt.Sprintf("i%d", n)), Name: "Item", Kind: scene.Ellipse}, At: -1},
	}
	inverse, _, err := change.Apply(p, ops)
	if err != nil {
		return err
	}
	return s.Append(p, session.Change{ID: fmt.Sprintf("c%d", n), Revision: n, Ops: ops}, inverse)
}

func TestAProjectComesBackFromSnapshotsAndChanges(t *testing.T) {
	file := filepath.Join(t.TempDir(), "test.db")
	s := open(t, file)
	p := scene.NewProject("p", "First")
	if err := s.Create(p); err != nil {
		t.Fatal(err)
	}
	const n = SnapshotEvery + 7
	for i := 1; i <= n; i++ {
		if err := write(s, p, i); err != nil {
			t.Fatal(err)
		}
	}
	s.Close()
	s = open(t, file)
	l, err := s.Load("p")
	if err != nil || l.Revision != n || len(l.Healed) > 0 || text(t, l.Project) != text(t, p) {
		t.Fatalf("came back as %+v (%v)", l, err)
	}
	back := l.Project
	// Not all of it was made again: the newest snapshot is that at the last multiple.
	var snapshots []int
	if s.db.Model(&snapshotRow{}).Order("revision").Pluck("revision", &snapshots); fmt.Sprint(snapshots) != fmt.Sprint([]int{0, SnapshotEvery}) {
		t.Errorf("there are snapshots at %v", snapshots)
	}
	since, err := s.Since("p", n-3)
	if err != nil || len(since) != 3 || since[0].Revision != n-2 || since[2].ID != fmt.Sprintf("c%d", n) {
		t.Errorf("since %d: %v (%v)", n-3, since, err)
	}
	if r, err := s.RevisionOf("p", "c5"); err != nil || r != 5 {
		t.Errorf("change c5 made revision %d (%v)", r, err)
	}
	list, err := s.List(false)
	if err != nil || len(list) != 1 || list[0].Name != fmt.Sprintf("Name %d", n) {
		t.Errorf("the list is %v (%v)", list, err)
	}
	// Every change holds the inverse that undoes it.
	var rows []changeRow
	if err := s.db.Order("revision desc").Find(&rows).Error; err != nil {
		t.Fatal(err)
	}
	for _, row := range rows {
		var inverse change.Ops
		if err := json.Unmarshal(row.Inverse, &inverse); err != nil {
			t.Fatal(err)
		}
		if _, _, err := change.Apply(back, inverse); err != nil {
			t.Fatal(err)
		}
	}
	if text(t, back) != text(t, scene.NewProject("p", "First")) {
		t.Error("undone to the first, it is not the first")
	}
}

func TestDeleteAndRestore(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "test.db"))
	if err := s.Create(scene.NewProject("p", "P")); err != nil {
		t.Fatal(err)
	}
	if err := s.Delete("p"); err != nil {
		t.Fatal(err)
	}
	if list, _ := s.List(false); len(list) != 0 {
		t.Error("a deleted project is listed")
	}
	if _, err := s.Load("p"); !errors.Is(err, ErrMissing) {
		t.Errorf("a deleted project loads: %v", err)
	}
	if err := s.Restore("p"); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Load("p"); err != nil {
		t.Error(err)
	}
	if !errors.Is(s.Delete("ghost"), ErrMissing) || !errors.Is(s.Restore("ghost"), ErrMissing) {
		t.Error("what is not there can be deleted or restored")
	}
}

func TestARevisionCannotBeTakenTwice(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "test.db"))
	p := scene.NewProject("p", "P")
	if err := s.Create(p); err != nil {
		t.Fatal(err)
	}
	if err := write(s, p, 1); err != nil {
		t.Fatal(err)
	}
	err := s.Append(p, session.Change{ID: "other", Revision: 1}, nil)
	if !errors.Is(err, ErrUnwritable) {
		t.Errorf("revision 1 was taken twice: %v", err)
	}
}

func TestAFullDiskAndALockAreToldInASentence(t *testing.T) {
	file := filepath.Join(t.TempDir(), "test.db")
	s := open(t, file)
	p := scene.NewProject("p", "P")
	if err := s.Create(p); err != nil {
		t.Fatal(err)
	}
	var pages int
	s.db.Raw("PRAGMA page_count").Scan(&pages)
	raw, err := s.db.DB()
	if err != nil {
		t.Fatal(err)
	}
	raw.SetMaxOpenConns(1) // the bound below belongs to a connection
	s.db.Exec(fmt.Sprintf("PRAGMA max_page_count = %d", pages+1))
	var full error
	n := 0
	for n < 1000 && full == nil {
		n++
		full = write(s, p, n)
	}
	if !errors.Is(full, ErrUnwritable) || !strings.Contains(full.Error(), "the disk is full") {
		t.Fatalf("on a full disk: %v", full)
	}
	if err := s.Writes(); err == nil || !strings.Contains(err.Error(), "the disk is full") {
		t.Errorf("it is said that it can save: %v", err)
	}
	s.db.Exec("PRAGMA max_page_count = 1000000")
	if err := s.Writes(); err != nil {
		t.Errorf("with room again: %v", err)
	}
	if l, err := s.Load("p"); err != nil || l.Revision != n-1 || len(l.Project.Compositions[0].Items) != n-1 {
		t.Errorf("after the disk was full: %+v, want revision %d (%v)", l, n-1, err)
	}
}

// The child of TestKilledInTheMiddleOfAChange: it writes changes for ever, saying each that was acknowledged.
func TestMain(m *testing.M) {
	file := os.Getenv("STORE_TEST_CHILD")
	if file == "" {
		slog.SetDefault(slog.New(slog.DiscardHandler))
		os.Exit(m.Run())
	}
	s, err := Open(file)
	if err != nil {
		panic(err)
	}
	p := scene.NewProject("p", "P")
	if err := s.Create(p); err != nil {
		panic(err)
	}
	for n := 1; ; n++ {
		ops := ofAllKinds(n)
		inverse, _, err := change.Apply(p, ops)
		if err == nil {
			err = s.Append(p, session.Change{ID: fmt.Sprintf("c%d", n), Revision: n, Ops: ops}, inverse)
		}
		if err != nil {
			panic(err)
		}
		fmt.Println(n)
	}
}

// ofAllKinds is the n. change of the child: items come and go, are named, set, pinned, linked, given controls and rows.
func ofAllKinds(n int) change.Ops {
	in := change.In{Composition: "main"}
	id := func(n int) scene.ID { return scene.ID(fmt.Sprintf("i%d", n)) }
	on := func(n int) change.On { return change.On{In: in, Item: id(n)} }
	of := func(n int, key string) change.Of { return change.Of{On: on(n), Property: key} }
	first := n - (n-1)%9 // the item that the changes of this round are about
	name := fmt.Sprintf("Crate %d", n)
	switch n - first {
	case 0:
		return change.Ops{&change.ProjectRename{Name: fmt.Sprintf("Name %d", n)}, &change.ItemAdd{In: in, Value: &scene.Item{ID: id(n), Name: "Crate", Kind: scene.Ellipse}, At: -1}}
	case 1:
		return change.Ops{&change.OwnSet{Of: of(first, "position"), Value: scene.Pt(float64(n)/7, -float64(n), 3)}}
	case 2:
		return change.Ops{&change.PinsPut{Of: of(first, "rotation"), Pins: []scene.Pin{{Frame: n % 90, Value: scene.Num(float64(n) / 3), Easing: "smooth"}, {Frame: 100, Value: scene.Num(7), Easing: "hold"}}}}
	case 3:
		return change.Ops{&change.ItemSet{On: on(first), Name: &name}}
	case 4:
		return change.Ops{&change.ControlAdd{On: on(first), Value: &scene.Control{ID: scene.ID(fmt.Sprintf("k%d", n)), Name: "Wind", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(float64(n % 83))}, At: -1}}
	case 5:
		return change.Ops{&change.LimitsSet{Of: of(first, "position"), Component: "x", Min: new(float64)}}
	case 6:
		return change.Ops{&change.LinkAdd{Of: of(first, "opacity"), At: -1, Link: &scene.Link{ID: scene.ID(fmt.Sprintf("l%d", n)), Kind: scene.Formula, Gain: 1, Formula: fmt.Sprintf("{@%s:@k%d} * 0.37", id(first), first+4)}}}
	case 7:
		return change.Ops{&change.RosterLinkAdd{In: in, At: -1, Value: &scene.RosterLink{ID: scene.ID(fmt.Sprintf("r%d", n)), Name: "Row", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{id(first)}}, Property: "scale", Link: &scene.Link{ID: scene.ID(fmt.Sprintf("rl%d", n)), Kind: scene.Formula, Gain: 1, Formula: "own * 1.03"}}}}
	}
	if first > 27 { // one of three rounds before goes
		return change.Ops{&change.RosterLinkRemove{In: in, RosterLink: scene.ID(fmt.Sprintf("r%d", first-27+7))}, &change.ItemRemove{On: on(first - 27)}}
	}
	return change.Ops{&change.LinkRemove{Of: of(first, "opacity"), Link: scene.ID(fmt.Sprintf("l%d", first+6))}}
}

// Killed in the middle of whatever change, the document that is loaded afterwards is, byte for byte, the one that the changes make of
// which the last was acknowledged, or the one after it. KILLS in the environment asks for more rounds.
func TestKilledInTheMiddleOfAChange(t *testing.T) {
	rounds := 3
	if n, err := strconv.Atoi(os.Getenv("KILLS")); err == nil {
		rounds = n
	}
	for round := range rounds {
		file := filepath.Join(t.TempDir(), "killed.db")
		child := exec.Command(os.Args[0])
		child.Env = append(os.Environ(), "STORE_TEST_CHILD="+file)
		out, err := child.StdoutPipe()
		if err != nil {
			t.Fatal(err)
		}
		if err := child.Start(); err != nil {
			t.Fatal(err)
		}
		acknowledged := 0
		for lines := bufio.NewScanner(out); lines.Scan(); { // to the last one that it said before it was killed
			if n, err := strconv.Atoi(lines.Text()); err == nil {
				acknowledged = n
			}
			if acknowledged == 3+17*(round%19) {
				if round >= 19 { // anywhere within the next one
					time.Sleep(time.Duration(round*37%1900) * time.Microsecond)
				}
				child.Process.Kill()
			}
		}
		child.Wait()
		if acknowledged == 0 {
			t.Fatal("nothing was written")
		}
		s := open(t, file)
		l, err := s.Load("p")
		if err != nil {
			t.Fatal(err)
		}
		p, revision := l.Project, l.Revision
		want := scene.NewProject("p", "P")
		for n := 1; n <= revision; n++ {
			if _, _, err := change.Apply(want, ofAllKinds(n)); err != nil {
				t.Fatal(err)
			}
		}
		if revision < acknowledged || text(t, p) != text(t, want) || len(l.Healed) > 0 {
			t.Errorf("%d changes were acknowledged, %d are there; the document is\n%.300s, not\n%.300s", acknowledged, revision, text(t, p), text(t, want))
		}
		s.Close()
		s = open(t, file)
		if err := write(s, p, revision+1); err != nil {
			t.Errorf("opened again, it cannot be written: %v", err)
		}
	}
}
