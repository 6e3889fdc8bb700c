package store

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"wunderkammer/core/scene"
)

// copyAll copies a database with its log, as a killed server leaves them: while it is open.
func copyAll(t *testing.T, from, to string) {
	t.Helper()
	for _, part := range parts {
		data, err := os.ReadFile(from + part)
		if errors.Is(err, os.ErrNotExist) {
			continue
		}
		if err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(to+part, data, 0o600); err != nil {
			t.Fatal(err)
		}
	}
}

// killed returns a database with changes, some of them only in its log, as they are after a kill, and what the project is.
func killed(t *testing.T, folder, name string, changes int) (file, want string) {
	t.Helper()
	file = filepath.Join(folder, name)
	running := filepath.Join(t.TempDir(), "running.db")
	s, p := kept(t, running, changes-2)
	if err := s.db.Exec("PRAGMA wal_checkpoint(TRUNCATE)").Error; err != nil {
		t.Fatal(err)
	}
	for n := changes - 1; n <= changes; n++ {
		if err := write(s, p, n); err != nil {
			t.Fatal(err)
		}
	}
	copyAll(t, running, file)
	s.Close()
	if log, err := os.Stat(file + "-wal"); err != nil || log.Size() == 0 {
		t.Fatal("nothing is in the log")
	}
	return file, text(t, p)
}

// holds tells what a database holds, or why it cannot be opened.
func holds(t *testing.T, file string) (project string, err error) {
	t.Helper()
	s, err := Open(file)
	if err != nil {
		return "", err
	}
	defer s.Close()
	list, err := s.List(false)
	if err != nil || len(list) == 0 {
		return "nothing", err
	}
	l, err := s.Load(list[0].ID)
	if err != nil {
		return "", err
	}
	return text(t, l.Project), nil
}

// spoils are what can have become of a file: it is as it should be, gone, cut short, empty, or of something else.
var spoils = map[string]func(t *testing.T, file string){
	"present": func(*testing.T, string) {},
	"missing": func(t *testing.T, file string) { os.Remove(file) },
	"cut short": func(t *testing.T, file string) {
		if at, err := os.Stat(file); err == nil {
			os.Truncate(file, at.Size()*2/5)
		}
	},
	"empty": func(t *testing.T, file string) { os.Truncate(file, 0) },
	"foreign": func(t *testing.T, file string) {
		os.WriteFile(file, []byte(strings.Repeat("not what it seems to be; ", 997)), 0o600)
	},
}

// Whatever became of the database, its log, the index of that or the backup: a whole backup is restored, a broken one is
// refused and touches nothing, and all that stood there is kept, byte for byte.
func TestRecoveryIsAMatrix(t *testing.T) {
	source := t.TempDir()
	s, p := kept(t, filepath.Join(source, "source.db"), 3)
	backup := filepath.Join(source, "backup.db")
	if err := s.Backup(backup); err != nil {
		t.Fatal(err)
	}
	s.Close()
	want := text(t, p)
	whole, _ := os.ReadFile(backup)
	for _, part := range append([]string{"backup"}, parts...) {
		for state, spoil := range spoils {
			t.Run(fmt.Sprintf("%s %s", map[string]string{"": "database", "-wal": "log", "-shm": "index", "backup": "backup"}[part], state), func(t *testing.T) {
				folder := t.TempDir()
				file, later := killed(t, folder, "test.db", 7)
				from := filepath.Join(folder, "from.db")
				os.WriteFile(from, whole, 0o600)
				if part == "backup" {
					spoil(t, from)
				} else {
					spoil(t, file+part)
				}
				before := map[string]string{}
				for _, part := range parts {
					data, err := os.ReadFile(file + part)
					if err == nil {
						before[part] = string(data)
					}
				}
				doctored, _ := OpenToRead(file) // looking at it alters nothing that counts
				if doctored != nil {
					doctored.Damage()
					doctored.Examine()
					doctored.Close()
				}
				kept, err := Restore(from, file)
				if part == "backup" && state != "present" {
					if err == nil {
						t.Fatal("it was restored")
					}
					if got, err := holds(t, file); got != later {
						t.Errorf("what stood there is not as it was (%v)", err)
					}
					return
				}
				if err != nil {
					t.Fatal(err)
				}
				for part, data := range before {
					if part == "-shm" { // made anew from the log by whoever reads
						continue
					}
					if now, err := os.ReadFile(kept + part); err != nil || string(now) != data {
						t.Errorf("%q of what stood there was not kept as it was: %v", part, err)
					}
				}
				if got, err := holds(t, file); got != want {
					t.Errorf("the backup is not there: %v", err)
				}
				if part == "-shm" || state == "present" {
					if got, err := holds(t, kept); got != later {
						t.Errorf("what was kept cannot be opened: %v", err)
					}
				}
			})
		}
	}
}

// Opening loses nothing: where something is wrong that opening would make worse, it is refused, and all stays as it is.
func TestOpeningLosesNothing(t *testing.T) {
	for _, c := range []struct{ part, state, says string }{
		{"", "missing", "its log"}, {"", "cut short", ""}, {"", "empty", "is empty"}, {"", "foreign", ""},
		{"-wal", "missing", "whole"}, {"-wal", "cut short", "whole"}, {"-wal", "empty", "whole"}, {"-wal", "foreign", "whole"},
		{"-shm", "missing", "all"}, {"-shm", "cut short", "all"}, {"-shm", "empty", "all"}, {"-shm", "foreign", "all"},
	} {
		t.Run(c.part+" "+c.state, func(t *testing.T) {
			folder := t.TempDir()
			file, later := killed(t, folder, "test.db", 7)
			spoils[c.state](t, file+c.part)
			main, _ := os.ReadFile(file)
			log, _ := os.ReadFile(file + "-wal")
			got, err := holds(t, file)
			switch c.says {
			case "all":
				if got != later {
					t.Errorf("not all is there (%v)", err)
				}
			case "whole": // up to some change: what the log lacks is gone, and nothing else
				if err != nil || got == "" {
					t.Errorf("it cannot be opened: %v", err)
				}
			default:
				if err == nil || !strings.Contains(err.Error(), c.says) {
					t.Fatalf("it was opened: %v", err)
				}
				again, _ := os.ReadFile(file)
				logAgain, _ := os.ReadFile(file + "-wal")
				if string(again) != string(main) || string(logAgain) != string(log) {
					t.Error("it was refused, and yet altered")
				}
			}
		})
	}
}

// The log of another database is not played into this one.
func TestALogOfAnotherDatabaseIsNotPlayed(t *testing.T) {
	folder := t.TempDir()
	file, _ := killed(t, folder, "test.db", 7)
	other := filepath.Join(t.TempDir(), "other.db")
	s := open(t, other)
	for n := range 40 {
		if err := s.Create(scene.NewProject(scene.ID(fmt.Sprint("q", n)), strings.Repeat("Other ", 30))); err != nil {
			t.Fatal(err)
		}
	}
	s.db.Exec("PRAGMA wal_checkpoint(TRUNCATE)")
	for n := range 9 {
		if err := s.Create(scene.NewProject(scene.ID(fmt.Sprint("r", n)), "Other")); err != nil {
			t.Fatal(err)
		}
	}
	log, _ := os.ReadFile(other + "-wal")
	s.Close()
	main, _ := os.ReadFile(file)
	os.WriteFile(file+"-wal", log, 0o600)
	os.Remove(file + "-shm")
	if _, err := holds(t, file); err == nil || !strings.Contains(err.Error(), "do not fit together") && !strings.Contains(err.Error(), "damaged") {
		t.Fatalf("opened: %v", err)
	}
	if now, _ := os.ReadFile(file); string(now) != string(main) {
		t.Error("the database was altered")
	}
}

var errStopped = errors.New("stopped")

// stopping is a disk that stops at a system call.
type stopping struct {
	usualDisk
	left *int
}

func (s stopping) step(do func() error) error {
	if *s.left--; *s.left < 0 {
		return errStopped
	}
	return do()
}
func (s stopping) Rename(from, to string) error {
	return s.step(func() error { return s.usualDisk.Rename(from, to) })
}
func (s stopping) Remove(name string) error {
	return s.step(func() error { return s.usualDisk.Remove(name) })
}
func (s stopping) Sync(name string) error {
	return s.step(func() error { return s.usualDisk.Sync(name) })
}

// Broken off at any system call, a restore leaves what stood there, or has put the backup in its place; and what stood there
// is kept then. The next start, or the next restore, goes on from there.
func TestARestoreIsBrokenOff(t *testing.T) {
	source := t.TempDir()
	s, p := kept(t, filepath.Join(source, "source.db"), 3)
	backup := filepath.Join(source, "backup.db")
	if err := s.Backup(backup); err != nil {
		t.Fatal(err)
	}
	s.Close()
	want := text(t, p)
	before, after := 0, 0
	for calls := 0; ; calls++ {
		folder := t.TempDir()
		file, later := killed(t, folder, "test.db", 7)
		left := calls
		_, err := restore(backup, file, stopping{left: &left})
		if err == nil {
			break
		}
		if !errors.Is(err, errStopped) {
			t.Fatalf("after %d calls: %v", calls, err)
		}
		if calls%2 == 1 { // the other half of them starts at once
			if _, err := Restore(backup, file); err != nil {
				t.Fatalf("after %d calls it cannot be restored again: %v", calls, err)
			}
		}
		switch got, err := holds(t, file); got {
		case later:
			before++
		case want:
			after++
			all, _ := filepath.Glob(filepath.Join(folder, "test-before-*.db"))
			found := false
			for _, name := range all {
				kept, _ := holds(t, name)
				found = found || kept == later
			}
			if !found {
				t.Errorf("after %d calls what stood there is not kept: %v", calls, all)
			}
		default:
			t.Errorf("after %d calls there is neither: %v", calls, err)
		}
	}
	if before == 0 || after < 3 {
		t.Errorf("%d times what stood there, %d times the backup", before, after)
	}
}

// A restored database belongs to another history, and a server that starts anew to the same one.
func TestRestoringBeginsAnotherHistory(t *testing.T) {
	folder := t.TempDir()
	file, backup := filepath.Join(folder, "test.db"), filepath.Join(folder, "backup.db")
	s, _ := kept(t, file, 3)
	first := s.History()
	if err := s.Backup(backup); err != nil {
		t.Fatal(err)
	}
	s.Close()
	s = open(t, file)
	if s.History() != first || first == "" {
		t.Errorf("after a start it is %q, was %q", s.History(), first)
	}
	s.Close()
	if _, err := Restore(backup, file); err != nil {
		t.Fatal(err)
	}
	if s = open(t, file); s.History() == first || s.History() == "" {
		t.Errorf("after a restore it is %q still", s.History())
	}
}

// A backup that was broken off, and any other file, are no backups.
func TestWhatIsNoBackupIsRefused(t *testing.T) {
	folder := t.TempDir()
	file, later := killed(t, folder, "test.db", 5)
	foreign := filepath.Join(folder, "foreign.db")
	db, err := connect(foreign, "_journal_mode=DELETE")
	if err != nil {
		t.Fatal(err)
	}
	db.Exec("CREATE TABLE recipes (id integer, soup text)")
	(&Store{db: db}).Close()
	empty := filepath.Join(folder, "empty.db")
	os.WriteFile(empty, nil, 0o600)
	for _, backup := range []string{foreign, empty, filepath.Join(folder, "none.db"), file} {
		if _, err := Restore(backup, file); err == nil {
			t.Errorf("%s was restored", filepath.Base(backup))
		}
	}
	if got, err := holds(t, file); got != later {
		t.Errorf("what stood there is not as it was: %v", err)
	}
}

// Damage inside of stored text is noticed, by its sum.
func TestAFlippedBitIsNoticed(t *testing.T) {
	file := filepath.Join(t.TempDir(), "test.db")
	s, p := kept(t, file, SnapshotEvery+3)
	for _, c := range []struct{ table, column, where string }{{"changes", "ops", "revision = 203"}, {"changes", "inverse", "revision = 202"}, {"snapshots", "document", "revision = 200"}} {
		var was []byte
		s.db.Raw("SELECT " + c.column + " FROM " + c.table + " WHERE " + c.where).Row().Scan(&was)
		altered := append([]byte{}, was...)
		for k, b := range altered { // a digit becomes another: it is JSON still
			if b >= '0' && b <= '8' && k > len(altered)/2 {
				altered[k]++
				break
			}
		}
		if string(altered) == string(was) {
			altered[len(altered)/2] ^= 4
		}
		if err := s.db.Exec("UPDATE "+c.table+" SET "+c.column+" = ? WHERE "+c.where, altered).Error; err != nil {
			t.Fatal(err)
		}
		if l, err := s.Load("p"); err == nil {
			t.Errorf("%s: it was not noticed (revision %d)", c.column, l.Revision)
		} else if !strings.Contains(err.Error(), "altered") {
			t.Errorf("%s: %v", c.column, err)
		}
		all, err := s.Examine()
		if err != nil || len(all) != 1 || len(all[0].Notes) == 0 {
			t.Errorf("%s: the doctor says %+v %v", c.column, all, err)
		}
		s.db.Exec("UPDATE "+c.table+" SET "+c.column+" = ? WHERE "+c.where, was)
	}
	if l, err := s.Load("p"); err != nil || text(t, l.Project) != text(t, p) {
		t.Error("and as it was, it is whole")
	}
}

// Few snapshots are kept, packed: the first, from which all can be made again, and the newest two.
func TestSnapshotsAreFewAndPacked(t *testing.T) {
	s, p := kept(t, filepath.Join(t.TempDir(), "test.db"), 5*SnapshotEvery+1)
	var revisions []int
	s.db.Model(&snapshotRow{}).Order("revision").Pluck("revision", &revisions)
	if fmt.Sprint(revisions) != "[0 800 1000]" {
		t.Errorf("there are snapshots of %v", revisions)
	}
	var size int
	s.db.Raw("SELECT length(document) FROM snapshots WHERE revision = 1000").Scan(&size)
	if size == 0 || size > len(text(t, p))*2/3 {
		t.Errorf("one takes %d bytes, the project %d", size, len(text(t, p)))
	}
	if err := s.db.Exec("DELETE FROM snapshots WHERE revision > 0").Error; err != nil {
		t.Fatal(err)
	}
	if l, err := s.Load("p"); err != nil || text(t, l.Project) != text(t, p) {
		t.Errorf("it cannot be made again from the first: %v", err)
	}
}
