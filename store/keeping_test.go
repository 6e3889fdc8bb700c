package store

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"wunderkammer/core/change"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// kept is a database file with a project that has some changes.
func kept(t *testing.T, file string, changes int) (*Store, *scene.Project) {
	t.Helper()
	s := open(t, file)
	p := scene.NewProject("p", "P")
	if err := s.Create(p); err != nil {
		t.Fatal(err)
	}
	for n := 1; n <= changes; n++ {
		if err := write(s, p, n); err != nil {
			t.Fatal(err)
		}
	}
	return s, p
}

func TestASecondServerOnADatabaseIsRefused(t *testing.T) {
	file := filepath.Join(t.TempDir(), "test.db")
	s := open(t, file)
	if _, err := Open(file); err == nil || !strings.Contains(err.Error(), "already open in another server") {
		t.Errorf("it is opened twice: %v", err)
	}
	s.Close()
	open(t, file)
}

func TestAFolderMayHaveAnyName(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "what? 100% #1 é")
	if err := os.Mkdir(folder, 0o700); err != nil {
		t.Fatal(err)
	}
	s, p := kept(t, filepath.Join(folder, "a?b#c%20.db"), 2)
	s.Close()
	if l, err := open(t, filepath.Join(folder, "a?b#c%20.db")).Load("p"); err != nil || text(t, l.Project) != text(t, p) {
		t.Errorf("%+v %v", l, err)
	}
	if names, _ := filepath.Glob(filepath.Join(filepath.Dir(folder), "what*", "a[?]b#c%20.db")); len(names) != 1 {
		t.Error("the database has another name than was given")
	}
}

func TestARemovedDatabaseIsNotWrittenTo(t *testing.T) {
	for name, spoil := range map[string]func(file string) error{
		"removed": func(file string) error { return os.RemoveAll(filepath.Dir(file)) },
		"replaced": func(file string) error {
			return errors.Join(os.Rename(file, file+".away"), os.WriteFile(file, nil, 0o600))
		},
	} {
		folder := filepath.Join(t.TempDir(), "data")
		os.Mkdir(folder, 0o700)
		file := filepath.Join(folder, "test.db")
		s, p := kept(t, file, 1)
		if err := spoil(file); err != nil {
			t.Fatal(err)
		}
		if err := write(s, p, 2); !errors.Is(err, ErrUnwritable) || !strings.Contains(err.Error(), "removed or replaced") {
			t.Errorf("%s: a change is acknowledged: %v", name, err)
		}
		if err := s.Create(scene.NewProject("q", "Q")); !errors.Is(err, ErrUnwritable) {
			t.Errorf("%s: a project is acknowledged: %v", name, err)
		}
	}
}

func TestABackupIsRestored(t *testing.T) {
	folder := t.TempDir()
	file, backup := filepath.Join(folder, "test.db"), filepath.Join(folder, "backup.db")
	s, p := kept(t, file, 3)
	want := text(t, p)
	reader, err := OpenToRead(file) // beside the server
	if err != nil {
		t.Fatal(err)
	}
	if err := reader.Backup(backup); err != nil {
		t.Fatal(err)
	}
	if err := reader.Backup(backup); err == nil {
		t.Error("a backup is written over another")
	}
	reader.Close()
	if err := write(s, p, 4); err != nil {
		t.Fatal(err)
	}
	if _, err := Restore(backup, file); err == nil || !strings.Contains(err.Error(), "stop that one first") {
		t.Errorf("it is restored under a server: %v", err)
	}
	later := text(t, p)
	s.Close()
	aside, err := Restore(backup, file)
	if err != nil || aside == "" {
		t.Fatalf("%q %v", aside, err)
	}
	for name, want := range map[string]string{file: want, aside: later} {
		s := open(t, name)
		if l, err := s.Load("p"); err != nil || text(t, l.Project) != want {
			t.Errorf("%s holds something else (%v)", filepath.Base(name), err)
		}
		s.Close()
	}
	os.WriteFile(backup, []byte("no database at all, but long enough to be looked at as one"), 0o600)
	if _, err := Restore(backup, file); err == nil {
		t.Error("what is no backup is restored")
	}
}

// What earlier versions left behind is mended on loading, said once, and kept mended.
func TestLeftoversAreHealed(t *testing.T) {
	file := filepath.Join(t.TempDir(), "test.db")
	s := open(t, file)
	p := scene.NewProject("p", "P")
	p.Compositions[0].Items = []*scene.Item{{ID: "box", Name: "Box", Kind: scene.Rectangle}}
	p.Compositions[0].Items[0].Edit(scene.WeightKey("gone")).Own = scene.Num(40)
	if err := s.Create(p); err != nil {
		t.Fatal(err)
	}
	ops := change.Ops{&change.OwnSet{Of: change.Of{On: change.On{In: change.In{Composition: "main"}, Item: "box"}, Property: scene.WeightKey("gone")}, Value: scene.Num(3)}}
	if err := s.Append(p, session.Change{ID: "c1", Revision: 1, Ops: ops}, nil); err != nil {
		t.Fatal(err)
	}
	s.Close()
	s = open(t, file)
	l, err := s.Load("p")
	if err != nil || l.Revision != 1 || len(l.Healed) != 2 || l.Project.Check() != nil {
		t.Fatalf("%+v %v", l, err)
	}
	if l, err = s.Load("p"); err != nil || len(l.Healed) > 0 {
		t.Errorf("what was mended is mended again: %v %v", l, err)
	}
}

func TestWhatIsDamagedIsToldWithWhatCanBeRead(t *testing.T) {
	file := filepath.Join(t.TempDir(), "test.db")
	s, _ := kept(t, file, SnapshotEvery+20)
	for _, at := range []string{"UPDATE snapshots SET document = 'x' WHERE revision = 200", "UPDATE changes SET ops = '[{' WHERE revision = 130"} {
		if err := s.db.Exec(at).Error; err != nil {
			t.Fatal(err)
		}
	}
	if _, err := s.Load("p"); err == nil || !strings.Contains(err.Error(), "can't be read") {
		t.Errorf("what is damaged is opened: %v", err)
	}
	found, err := s.Examine()
	if err != nil || len(found) != 1 {
		t.Fatal(found, err)
	}
	if h := found[0]; h.Whole || h.Reached != 129 || h.Want != 220 || len(h.Project.Compositions[0].Items) != 129 || len(h.Notes) < 2 {
		t.Errorf("%+v", h)
	}
	if broken := s.Damage(); len(broken) > 0 {
		t.Errorf("the file itself is whole: %v", broken)
	}
	s.Close()
	data, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	for at := 3 * 4096; at < len(data); at++ { // all pages but the first few
		data[at] ^= 0x5a
	}
	os.WriteFile(file, data, 0o600)
	r, err := OpenToRead(file)
	if err != nil {
		t.Fatal(err)
	}
	defer r.Close()
	if len(r.Damage()) == 0 {
		t.Error("a file of noise is whole")
	}
	if err := os.WriteFile(file, []byte(strings.Repeat("noise", 3000)), 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := Open(file); err == nil || !strings.Contains(err.Error(), "wunderkammer doctor") {
		t.Errorf("a file of noise is opened: %v", err)
	}
}

func TestANewerDatabaseIsNotOpened(t *testing.T) {
	file := filepath.Join(t.TempDir(), "test.db")
	s, p := kept(t, file, 1)
	if err := s.db.Exec("UPDATE snapshots SET format = 99").Error; err != nil {
		t.Fatal(err)
	}
	if _, err := s.Load(string(p.ID)); err == nil || !strings.Contains(err.Error(), "update Wunderkammer") {
		t.Errorf("a newer format is read: %v", err)
	}
	s.db.Exec("INSERT INTO migrations (id) VALUES ('99 something')")
	s.Close()
	if _, err := Open(file); err == nil || !strings.Contains(err.Error(), "newer version") {
		t.Errorf("a newer database is opened: %v", err)
	}
}

// A database of the time before migrations is brought up to date, with what it holds.
func TestAnOldDatabaseIsMigrated(t *testing.T) {
	file := filepath.Join(t.TempDir(), "test.db")
	s, p := kept(t, file, 2)
	for _, sql := range []string{"DROP TABLE migrations", "DROP TABLE histories", "DROP TABLE addresses", "ALTER TABLE changes DROP COLUMN sum", "ALTER TABLE snapshots DROP COLUMN sum", "PRAGMA application_id = 0", "DROP TABLE pictures", "DROP INDEX idx_changes_by_id", "ALTER TABLE changes DROP COLUMN format", "ALTER TABLE snapshots DROP COLUMN format", "CREATE INDEX idx_changes_change_id ON changes(change_id)"} {
		if err := s.db.Exec(sql).Error; err != nil {
			t.Fatalf("%s: %v", sql, err)
		}
	}
	s.Close()
	s = open(t, file)
	if l, err := s.Load("p"); err != nil || text(t, l.Project) != text(t, p) {
		t.Errorf("%+v %v", l, err)
	}
	if known, err := s.Known("p", "c1", "c2", "c9"); err != nil || fmt.Sprint(known) != "map[c1:1 c2:2]" {
		t.Errorf("%v %v", known, err)
	}
}

func TestAChangeOfAMissingProjectIsNotKept(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "test.db"))
	if err := s.Append(scene.NewProject("ghost", "G"), session.Change{ID: "c", Revision: 1}, nil); !errors.Is(err, ErrMissing) {
		t.Errorf("%v", err)
	}
	if since, err := s.Since("ghost", 0); err != nil || len(since) > 0 {
		t.Errorf("something of it is kept: %v %v", since, err)
	}
}

// What nobody can come back to is swept: projects that lay in the bin for long, and pictures that nothing shows at any step back.
func TestSweeping(t *testing.T) {
	file := filepath.Join(t.TempDir(), "test.db")
	s, p := kept(t, file, 3)
	shown, taken, loose, fresh := pictureOf(t, 1), pictureOf(t, 2), pictureOf(t, 3), pictureOf(t, 4)
	if err := s.Keep(shown, taken, loose, fresh); err != nil {
		t.Fatal(err)
	}
	flag := &scene.Item{ID: "flag", Name: "Flag", Kind: scene.Picture, Frames: []scene.Frame{{Asset: shown.ID}}}
	removed := change.Ops{&change.ItemAdd{In: change.In{Composition: "main"}, Value: &scene.Item{ID: "gone", Name: "Gone", Kind: scene.Picture, Frames: []scene.Frame{{Asset: taken.ID}}}}}
	p.Compositions[0].Items = append(p.Compositions[0].Items, flag)
	if err := s.Append(p, session.Change{ID: "c4", Revision: 4, Ops: change.Ops{&change.ItemAdd{In: change.In{Composition: "main"}, Value: flag}}}, removed); err != nil {
		t.Fatal(err)
	}
	for _, id := range []string{"old", "new"} {
		if err := errors.Join(s.Create(scene.NewProject(scene.ID(id), id)), s.Delete(id)); err != nil {
			t.Fatal(err)
		}
	}
	now := time.Now()
	s.db.Exec("UPDATE projects SET deleted_at = ? WHERE id = 'old'", now.Add(-BinTime-time.Hour))
	s.db.Exec("UPDATE assets SET created_at = ? WHERE id <> ?", now.Add(-unusedAsset-time.Hour), string(fresh.ID))
	swept, err := s.Sweep(now)
	if err != nil || swept != (Swept{Projects: 1, Pictures: 1}) {
		t.Fatalf("%+v %v", swept, err)
	}
	for one, want := range map[string]bool{string(shown.ID): true, string(taken.ID): true, string(loose.ID): false, string(fresh.ID): true} {
		if _, err := s.Asset(scene.AssetID(one)); (err == nil) != want {
			t.Errorf("%.8s: %v", one, err)
		}
	}
	if bin, err := s.List(true); err != nil || len(bin) != 1 || bin[0].ID != "new" {
		t.Errorf("in the bin is %v %v", bin, err)
	}
	if l, err := s.Load("p"); err != nil || l.Revision != 4 {
		t.Errorf("%+v %v", l, err)
	}
}
