package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"wunderkammer/core/format/pack"
	"wunderkammer/core/scene"
	"wunderkammer/store"
)

// flagship writes a project that hands off two controls of a flag, with a reading, and has a set of controls.
func flagship(t *testing.T) string {
	p := scene.NewProject("p", "Flagship")
	c := p.Compositions[0]
	c.Name = "Flag"
	c.Items = []*scene.Item{{ID: "desk", Name: "Desk", Kind: scene.Null, Controls: []*scene.Control{
		{ID: "swing", Name: "Swing", Kind: scene.Fader, Unit: scene.Degrees, Default: scene.Num(12), SoftMax: 70},
		{ID: "side", Name: "Side", Kind: scene.ChoiceWidget, Default: scene.Num(1), Options: []string{"Left", "Lee"}},
	}}}
	low, high := -5.0, 33.0
	c.HandOff = &scene.HandOff{Offers: []*scene.Offer{{ID: "given1", Item: "desk", Control: "swing", Name: "Sway", Min: &low, Max: &high}, {ID: "given2", Item: "desk", Control: "side"}}}
	p.Compositions = append(p.Compositions, c.NewReading("mara", "maras", "Mara"), scene.NewComposition("sea", "Sea"))
	p.Sets = []*scene.ControlSet{{ID: "set", Name: "Sways", Controls: c.Items[0].Controls}}
	p.Join()
	p.Composition("mara").Items[0].Edit("given1").Own = scene.Num(27)
	return written(t, p)
}

func TestWhatIsHandedOffIsPrintedAndSet(t *testing.T) {
	file := flagship(t)
	out, err := run("handoff", file)
	if err != nil || out != "Flag\tSway\tnumber\t°\t-5 … 33\t12\nFlag\tSide\tchoice\t\tLeft | Lee\t1\nFlag\treading\tMara\n" {
		t.Errorf("%q %v", out, err)
	}
	if out, err := run("handoff", file+"#flag", "--reading", "mara"); err != nil || !strings.Contains(out, "\t12\t27\n") {
		t.Errorf("%q %v", out, err)
	}
	to := filepath.Join(t.TempDir(), "theirs"+pack.Extension)
	for reading, others := range map[string]string{"Mara": "Flag\treading\tMara\n", "Joris": "Flag\treading\tMara\nFlag\treading\tJoris\n"} {
		if out, err := run("handoff", file, "--reading", reading, "--set", "Sway=-3.5", "--set", "Side=left", "--write", to); err != nil || !strings.Contains(out, "\t12\t-3.5\n") || !strings.Contains(out, "\t1\t0\n") {
			t.Fatalf("%q %v", out, err)
		}
		if out, err := run("handoff", to); err != nil || !strings.HasSuffix(out, "\t1\n"+others) {
			t.Errorf("%q %v", out, err)
		}
		if out, err := run("eval", to+"#"+reading, "Flag: Sway"); err != nil || out != "-3.5\n" {
			t.Errorf("%q %v", out, err)
		}
	}
	for says, args := range map[string][]string{
		"from -5 to 33, not to 34":                     {file, "--reading", "Mara", "--set", "Sway=34"},
		`no control named "Mast"`:                      {file, "--reading", "Mara", "--set", "Mast=3"},
		"write it as 'Control=value'":                  {file, "--reading", "Mara", "--set", "Sway"},
		"is set twice":                                 {file, "--reading", "Mara", "--set", "Sway=3", "--set", "Sway=4"},
		"name the reading":                             {file, "--set", "Sway=3"},
		`no reading named "Nobody"`:                    {file, "--reading", "Nobody"},
		"hands off no controls":                        {file + "#sea"},
		`no composition named "Kite"; there are: Flag`: {file + "#Kite"},
		"can be read, not 99999":                       {file, "--reading", "Mara", "--frame", "99999"},
		"there is no file":                             {file + "x"},
	} {
		if out, err := run(append([]string{"handoff"}, args...)...); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v: %q %v, want %q", args, out, err, says)
		}
	}
}

func TestProjectsAreImportedAndPartsExported(t *testing.T) {
	file, data := flagship(t), t.TempDir()
	part := func(name string) string { return filepath.Join(t.TempDir(), name+pack.Extension) }
	flag, sways, whole := part("flag"), part("sways"), part("whole")
	for _, args := range [][]string{{file + "#Flag", "--only", "hand-off", "-o", flag}, {file + "#sways", "--only", "set", "-o", sways}, {file, "-o", whole}} {
		if out, err := run(append([]string{"export"}, args...)...); err != nil {
			t.Fatalf("%v: %q %v", args, out, err)
		}
	}
	out, err := run("import", whole, "--data", data)
	if err != nil || !strings.HasSuffix(out, "\tFlagship\n") {
		t.Fatalf("%q %v", out, err)
	}
	if out, err := run("import", flag, "--data", data, "--as", "Only a flag"); err != nil || !strings.HasSuffix(out, "\tOnly a flag\n") {
		t.Errorf("%q %v", out, err)
	}
	if out, err := run("import", flag, "--data", data, "--into", "flagship"); err != nil || !strings.Contains(out, "\tFlagship\tBrought in: Flag 2\n\tFlag is called Flag 2 here") {
		t.Errorf("%q %v", out, err)
	}
	if out, err := run("import", sways, "--data", data, "--into", "Only a flag"); err != nil || !strings.Contains(out, "Brought in: Sways\n") {
		t.Errorf("%q %v", out, err)
	}
	if out, err := run("import", sways, "--data", data, "--into", "Only a flag"); err != nil || !strings.Contains(out, "All of it is here already") {
		t.Errorf("%q %v", out, err)
	}
	st, err := store.Open(filepath.Join(data, databaseName))
	if err != nil {
		t.Fatal(err)
	}
	if _, err := run("import", flag, "--data", data); err == nil || !strings.Contains(err.Error(), "already open in another server") {
		t.Errorf("imported under a server: %v", err)
	}
	list, err := st.List(false)
	if err != nil || len(list) != 2 {
		t.Fatalf("%v %v", list, err)
	}
	for _, one := range list {
		loaded, err := st.Load(one.ID)
		if err != nil {
			t.Fatal(err)
		}
		var names []string
		for _, c := range loaded.Project.Compositions {
			names = append(names, c.Name)
		}
		want := map[string]string{"Flagship": "Flag, Mara, Sea, Flag 2, Mara 2", "Only a flag": "Flag, Mara"}[one.Name]
		if got := strings.Join(names, ", "); got != want || len(loaded.Project.Sets) != 1 {
			t.Errorf("%s holds %s, and %d sets", one.Name, got, len(loaded.Project.Sets))
		}
	}
	if err := st.Close(); err != nil {
		t.Fatal(err)
	}
	noise := part("noise")
	if err := os.WriteFile(noise, []byte("noise"), 0o600); err != nil {
		t.Fatal(err)
	}
	if err := os.Truncate(noise, 2<<30); err != nil { // which takes no room
		t.Fatal(err)
	}
	if _, err := run("import", noise, "--data", data); err == nil || !strings.Contains(err.Error(), "has 2048 MB, and no project file is larger than 256 MB") {
		t.Errorf("%v", err)
	}
	if err := os.Truncate(noise, 5); err != nil {
		t.Fatal(err)
	}
	for says, args := range map[string][]string{
		"is not a Wunderkammer project":  {"import", noise, "--data", data},
		`no project named "Nothing"`:     {"import", flag, "--data", data, "--into", "Nothing"},
		"give one of them":               {"import", flag, "--data", data, "--into", "Flagship", "--as", "New"},
		"say which hand-off to write":    {"export", file, "--only", "hand-off", "-o", flag},
		"is for project files":           {"export", file, "--only", "set", "-o", "flag.svg"},
		`no set of controls named "X"`:   {"export", file + "#X", "--only", "set", "-o", flag},
		`"kite" is no part of a project`: {"export", file + "#Flag", "--only", "kite", "-o", flag},
	} {
		if out, err := run(args...); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v: %q %v, want %q", args, out, err, says)
		}
	}
}
