package main

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/format/pack"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// run calls the command line and returns what it prints.
func run(args ...string) (string, error) {
	cmd := root()
	var out bytes.Buffer
	cmd.SetOut(&out)
	cmd.SetErr(&out)
	cmd.SetArgs(args)
	err := cmd.Execute()
	return out.String(), err
}

// packed writes a project whose box follows a control that is gone.
func packed(t *testing.T) string {
	t.Helper()
	p := scene.NewProject("p", "P")
	box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}
	box.Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: "gone", Property: "turn"}, Gain: 1}}
	p.Compositions[0].Items = append(p.Compositions[0].Items, box)
	return written(t, p)
}

// written writes a project as a file, and returns its name.
func written(t *testing.T, p *scene.Project) string {
	t.Helper()
	data, err := pack.Write(p, nil)
	if err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "p"+pack.Extension)
	if err := os.WriteFile(file, data, 0o600); err != nil {
		t.Fatal(err)
	}
	return file
}

func TestEvalPrintsOneValueALine(t *testing.T) {
	out, err := run("eval", "demo", "--frame", "50", "Weather: Wind", "{LANTERNFALL: position}", "signals: tide.y")
	if err == nil {
		t.Errorf("signals have no tide: %q", out)
	}
	out, err = run("eval", "demo", "--frame", "110", "Weather: Tide", "{LANTERNFALL: position}", "signals: kite.z")
	if err != nil || out != "2.2\n[0, -52, 0]\n0\n" {
		t.Errorf("%q, %v", out, err)
	}
	all, err := run("eval", "demo#Harbour opener", "--frame", "50")
	if err != nil || !strings.Contains(all, "Weather: Wind\t46\n") || strings.Count(all, "\n") < 1000 {
		t.Errorf("without names, %d lines (%v)", strings.Count(all, "\n"), err)
	}
	each, err := run("eval", "demo#Harbour opener", "--frame", "50", "--copies")
	if err != nil || strings.Count(each, "\n") <= strings.Count(all, "\n")+100 || !strings.Contains(each, "Stars 30: tint\t") || strings.Contains(each, "Stars 31: tint\t") {
		t.Errorf("with copies, %d lines (%v)", strings.Count(each, "\n"), err)
	}
	for _, name := range []string{"Weather: Wind", "Lantern *: rotation"} {
		if out, err := run("eval", "demo", "--frame", "10", "--to", "5", name); err != nil || out != "" {
			t.Errorf("of no frames: %q, %v", out, err)
		}
	}
	if out, err := run("eval", packed(t), "Box: size"); err != nil || out != "[200, 200]\n" {
		t.Errorf("of a file: %q, %v", out, err)
	}
}

func TestMistakesAreOneSentence(t *testing.T) {
	junk := filepath.Join(t.TempDir(), "junk")
	if err := os.WriteFile(junk, []byte("junk"), 0o600); err != nil {
		t.Fatal(err)
	}
	for says, args := range map[string][]string{
		"there is no file":            {"eval", "nowhere.wunderkammer"},
		"is a folder":                 {"check", t.TempDir()},
		"not a Wunderkammer project":  {"check", junk},
		"nearest: Weather":            {"eval", "demo", "Wether: Wind"},
		"no composition named":        {"eval", "demo#Nowhere"},
		"requires at least 1 arg":     {"eval"},
		"unknown command":             {"fly"},
		"needs an address and a port": {"serve", "--listen", "nowhere"},
		"needs a password":            {"serve", "--listen", "0.0.0.0:0"},
	} {
		_, err := run(args...)
		if err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v: %v, want %q", args, err, says)
		}
	}
}

func TestCheckEndsWithOneWhereThereIsAnError(t *testing.T) {
	if out, err := run("check", "demo"); err != nil || out != "no problems found\n" {
		t.Errorf("%q, %v", out, err)
	}
	out, err := run("check", packed(t))
	var f failed
	if !errors.As(err, &f) || f.code != 1 || !strings.Contains(out, "Box: rotation: source missing: it was deleted") {
		t.Errorf("%q, %v", out, err)
	}
}

func TestARehearsalEndsWithOneWhereThereIsAnError(t *testing.T) {
	if out, err := run("rehearse", "demo", "--frame", "120"); err != nil || out != "nothing goes wrong\n" {
		t.Errorf("%q, %v", out, err)
	}
	if _, err := run("rehearse", "demo", "--composition", "Nowhere"); err == nil || !strings.Contains(err.Error(), "Nowhere") {
		t.Errorf("of no composition: %v", err)
	}
	p := scene.NewProject("p", "P")
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "amount", Name: "Amount", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(10)}}}
	box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}
	box.Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: "1 / ({@rig:@amount} - 50)"}}
	p.Compositions[0].Items = append(p.Compositions[0].Items, rig, box)
	out, err := run("rehearse", written(t, p))
	var f failed
	if !errors.As(err, &f) || f.code != 1 || !strings.Contains(out, "Box: rotation has no valid result with Rig: Amount at 50") {
		t.Errorf("%q, %v", out, err)
	}
}

func TestFormulaPrintsTheValueOfAnExpression(t *testing.T) {
	for _, c := range []struct {
		want string
		args []string
	}{
		{"14", []string{"2 + 3 * 4"}}, {"[1, 2, 3]", []string{"[1, 2, 3]"}}, {"#d9a441ff", []string{"#d9a441"}}, {`"Gate 3"`, []string{`text("Gate ", 3)`}},
		{"1.5", []string{"time", "--time", "1.5s"}}, {"30", []string{"frame", "--time", "30f"}}, {"1", []string{"time", "--frame", "30", "--fps", "30"}}, {"0.25", []string{"share", "--index", "1", "--count", "5"}},
	} {
		if out, err := run(append([]string{"formula"}, c.args...)...); err != nil || out != c.want+"\n" {
			t.Errorf("%v: %q, %v; want %s", c.args, out, err, c.want)
		}
	}
	for says, args := range map[string][]string{
		"line 2, column 3: there is nothing named tiem": {"formula", "x = 1\nx+tiem"}, "not finite": {"formula", "1 / 0"}, "is not a time": {"formula", "1", "--time", "soon"}, "below the count": {"formula", "1", "--index", "3"},
	} {
		if _, err := run(args...); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v: %v, want %q", args, err, says)
		}
	}
	out, err := run("eval", "demo", "--frame", "50", "{Weather: Wind} * 2", "delay({Weather: Wind}, 0f)")
	if err != nil || out != "92\n46\n" {
		t.Errorf("in a composition: %q, %v", out, err)
	}
}

func TestBakeWritesARowForEachFrame(t *testing.T) {
	file := filepath.Join(t.TempDir(), "out.csv")
	if _, err := run("bake", "demo", "--from", "48", "--to", "50", "Lantern ?: rotation", "LANTERNFALL: scale.x", "-o", file); err != nil {
		t.Fatal(err)
	}
	data, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	rows := strings.Split(strings.TrimSpace(string(data)), "\n")
	if len(rows) != 4 || !strings.HasPrefix(rows[0], "frame,Lantern 1: rotation,Lantern 2: rotation,") || strings.Count(rows[3], ",") != 10 || !strings.HasPrefix(rows[3], "50,") {
		t.Errorf("%s", data)
	}
	eval, err := run("eval", "demo", "--frame", "50", "Lantern 9: rotation")
	if cells := strings.Split(rows[3], ","); err != nil || cells[9] != strings.TrimSpace(eval) {
		t.Errorf("baked %s, evaluated %s", cells[9], eval)
	}
	copies, err := run("bake", "demo#Dusk", "--from", "60", "--to", "60", "Festoon *: delay", "Festoon 2: position.x")
	if err != nil || !strings.Contains(copies, "copy 15 of Festoon: delay,copy 2 of Festoon: position.x\n60,0,0.16,") {
		t.Errorf("of copies: %s, %v", copies, err)
	}
	eval, err = run("eval", "demo#Dusk", "--frame", "60", "festoon 2: position.x")
	if cells := strings.Split(strings.TrimSpace(copies), ","); err != nil || cells[len(cells)-1] != strings.TrimSpace(eval) {
		t.Errorf("baked %s, evaluated %s", cells[len(cells)-1], eval)
	}
	short := scene.NewProject("p", "P")
	short.Compositions[0].Frames = 7
	short.Compositions[0].Items = []*scene.Item{{ID: "flag", Name: "Flag", Kind: scene.Rectangle}}
	whole, err := run("bake", written(t, short), "Flag: rotation")
	if rows := strings.Split(strings.TrimSpace(whole), "\n"); err != nil || len(rows) != 1+7 || rows[7] != "6,0" {
		t.Errorf("of a composition of 7 frames: %q, %v", rows, err)
	}
	if _, err := run("bake", "demo", "Nobody *: rotation"); err == nil || !strings.Contains(err.Error(), "no item named like") {
		t.Errorf("%v", err)
	}
}

// A pattern takes all copies that are shown anywhere in the range, and eval reads one as bake does.
func TestPatternsTakeCopiesThatComeLater(t *testing.T) {
	p := scene.NewProject("p", "P")
	c := p.Compositions[0]
	fest := &scene.Item{ID: "fest", Name: "Fest", Kind: scene.CopiesItem, Copies: &scene.CopiesShape{Limit: 9}}
	fest.Edit("copiesNumber").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(2), Easing: curve.Hold}, {Frame: 5, Value: scene.Num(7), Easing: curve.Hold}, {Frame: 6, Value: scene.Num(3), Easing: curve.Hold}}
	c.Items = []*scene.Item{{ID: "dot", Name: "Dot", Kind: scene.Ellipse, Parent: "fest"}, fest}
	file := written(t, p)
	out, err := run("bake", file, "Fest *: rotation", "--to", "7")
	if rows := strings.Split(strings.TrimSpace(out), "\n"); err != nil || len(rows) != 9 || strings.Count(rows[0], ",") != 7 {
		t.Errorf("baked: %q %v", out, err)
	}
	for frame, want := range map[string]int{"0": 2, "5": 7, "6": 3} {
		if out, err := run("eval", file, "--frame", frame, "Fest *: opacity"); err != nil || out != strings.Repeat("100\n", want) {
			t.Errorf("at frame %s: %q %v", frame, out, err)
		}
	}
	if out, err := run("eval", file, "2 * {Fest: rotation} + 3"); err != nil || out != "3\n" {
		t.Errorf("a product: %q %v", out, err)
	}
}

func TestGraphsAreListedAndPrinted(t *testing.T) {
	file := filepath.Join(t.TempDir(), "swell.wk")
	p := scene.NewProject("p", "Swell")
	c, n := p.Compositions[0], 0
	g, drive, err := graph.Lift("swell = wave(time * 0.3)\nswell * 12 + 5", func() scene.ID { n++; return scene.ID(fmt.Sprint("s", n)) })
	if err != nil {
		t.Fatal(err)
	}
	g.ID, g.Name = "g", "Swell"
	c.Graphs = []*scene.Graph{g}
	c.Items = []*scene.Item{{ID: "box", Name: "Box", Kind: scene.Box}}
	c.Items[0].Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Graphed, Gain: 1, Graph: "g", Slip: drive}}
	data, err := pack.Write(p, nil)
	if err != nil || os.WriteFile(file, data, 0o600) != nil {
		t.Fatal(err)
	}
	for _, said := range []struct {
		want string
		args []string
	}{
		{p.Compositions[0].Name + "\tSwell\t6 slips\t5 wires\n", []string{"graph", file}}, {"slips", []string{"graph", "demo"}}, {"// Box: rotation\nswell = wave(time * 0.3)\nswell * 12 + 5\n", []string{"graph", file, "swell"}},
		{"swell: cycles from times\n", []string{"graph", file, "Swell", "--as", "text"}}, {"5\n", []string{"eval", file, "Box: rotation"}},
	} {
		if out, err := run(said.args...); err != nil || !strings.Contains(out, said.want) {
			t.Errorf("%v: %q, %v", said.args, out, err)
		}
	}
	if _, err := run("graph", file, "nothing"); err == nil || !strings.Contains(err.Error(), "there are: Swell") {
		t.Errorf("%v", err)
	}
}
