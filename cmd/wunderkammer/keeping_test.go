package main

import (
	"database/sql"
	"errors"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"wunderkammer/core/scene"
	"wunderkammer/store"
)

func TestBackupRestoreAndDoctor(t *testing.T) {
	data := filepath.Join(t.TempDir(), "what? #1 [x]")
	os.Mkdir(data, 0o700)
	st, err := store.Open(filepath.Join(data, databaseName))
	if err != nil {
		t.Fatal(err)
	}
	if err := st.Create(scene.NewProject("p", "Harbour")); err != nil {
		t.Fatal(err)
	}
	if _, err := run("serve", "--data", data); err == nil || !strings.Contains(err.Error(), "already open in another server") {
		t.Errorf("a second server: %v", err)
	}
	backup := filepath.Join(t.TempDir(), "backup.db")
	if out, err := run("backup", backup, "--data", data); err != nil || !strings.Contains(out, "holds all projects") {
		t.Fatalf("%q %v", out, err)
	}
	if _, err := run("restore", backup, "--data", data); err == nil || !strings.Contains(err.Error(), "stop that one first") {
		t.Errorf("restored under a server: %v", err)
	}
	st.Close()
	if out, err := run("restore", backup, "--data", data); err != nil || !strings.Contains(out, "is kept in") {
		t.Errorf("%q %v", out, err)
	}
	to := filepath.Join(t.TempDir(), "out")
	if out, err := run("doctor", data, "--to", to); err != nil || strings.Count(out, "Harbour\twhole") != 2 {
		t.Errorf("%q %v", out, err)
	}
	if out, err := run("eval", filepath.Join(to, "wunderkammer-p.wunderkammer")); err != nil {
		t.Errorf("what the doctor wrote: %q %v", out, err)
	}
	db, err := sql.Open("sqlite3", "file:"+url.PathEscape(filepath.Join(data, databaseName)))
	if err != nil {
		t.Fatal(err)
	}
	if _, err := db.Exec("UPDATE snapshots SET document = 'x'"); err != nil {
		t.Fatal(err)
	}
	db.Close()
	var f failed
	if out, err := run("doctor", data); !errors.As(err, &f) || f.code != 1 || !strings.Contains(out, "Harbour\tlost") {
		t.Errorf("a project that can't be read, in a database that can: %q %v", out, err)
	}
	if err := os.WriteFile(filepath.Join(data, databaseName), []byte(strings.Repeat("noise", 3000)), 0o600); err != nil {
		t.Fatal(err)
	}
	f = failed{}
	if out, err := run("doctor", data); !errors.As(err, &f) || f.code != 1 || !strings.Contains(out, "damaged") {
		t.Errorf("%q %v", out, err)
	}
	if _, err := run("doctor", t.TempDir()); err == nil {
		t.Error("an empty folder is looked over")
	}
}
