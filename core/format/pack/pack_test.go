package pack

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"io"
	"runtime"
	"slices"
	"strings"
	"testing"
	"time"

	"wunderkammer/core/curve"
	"wunderkammer/core/engine"
	"wunderkammer/core/format/media"
	"wunderkammer/core/scene"
)

func zipped(t testing.TB, name, body string) []byte {
	t.Helper()
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	w, err := z.Create(name)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.Write([]byte(body)); err != nil {
		t.Fatal(err)
	}
	z.Close()
	return b.Bytes()
}

// sample is a project with something of everything in it.
func sample() (*scene.Project, []media.File) {
	p := scene.NewProject("p", "Süd \"Hafen\"")
	rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "turn", Name: "Turn", Kind: scene.DialWidget, Default: scene.Num(0)}}}
	rig.Edit("turn").Pins = []scene.Pin{{Frame: 3, Value: scene.Num(0.1), Easing: curve.Smooth}}
	box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle, Parent: "rig"}
	box.Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: "rig", Property: "turn"}, Gain: 2}}
	box.Edit("fill").Own = scene.RGBA(0.1, 0.2, 0.3, 1)
	p.Compositions[0].Items = []*scene.Item{rig, box}
	flag, err := media.Encode(image.NewNRGBA(image.Rect(0, 0, 3, 2)))
	if err != nil {
		panic(err)
	}
	p.Compositions[0].Items = append(p.Compositions[0].Items, &scene.Item{ID: "flag", Name: "Flag", Kind: scene.Picture, Frames: []scene.Frame{{Asset: flag.ID}}})
	return p, []media.File{flag}
}

func TestSaveThenLoadGivesTheSameBytes(t *testing.T) {
	first, err := Write(sample())
	if err != nil {
		t.Fatal(err)
	}
	back, err := Read(first)
	if err != nil {
		t.Fatal(err)
	}
	second, err := Write(back.Project, back.Files)
	if err != nil || !bytes.Equal(first, second) {
		t.Errorf("saved again, the package differs (%v)", err)
	}
}

func TestBrokenPackagesAreRefusedInASentence(t *testing.T) {
	good, err := Write(sample())
	if err != nil {
		t.Fatal(err)
	}
	p, pictures := sample()
	whole, err := Write(p, nil)
	if err != nil {
		t.Fatal(err)
	}
	bare := zipped(t, documentName, strings.ReplaceAll(unzipped(t, whole), `"missing"`, `"lost"`))
	other, err := media.Encode(image.NewNRGBA(image.Rect(0, 0, 5, 7))) // a picture, and not the one
	if err != nil {
		t.Fatal(err)
	}
	other.ID = pictures[0].ID
	exchanged, err := Write(p, []media.File{other})
	if err != nil {
		t.Fatal(err)
	}
	pictures[0].Data = []byte("junk")
	swapped, err := Write(p, pictures)
	if err != nil {
		t.Fatal(err)
	}
	for name, c := range map[string]struct {
		data []byte
		says string
	}{
		"empty":            {nil, "not a Wunderkammer project"},
		"not a zip":        {[]byte("hello"), "not a Wunderkammer project"},
		"half":             {good[:len(good)/2], "damaged"},
		"other content":    {zipped(t, "readme.txt", "x"), "no project in the file"},
		"climbing":         {zipped(t, "../../project.json", "{}"), "no project in the file"},
		"not JSON":         {zipped(t, documentName, "{"), "can't be read"},
		"another format":   {zipped(t, documentName, `{"format":"x","version":1}`), "no project in the file"},
		"a future version": {zipped(t, documentName, `{"format":"wunderkammer project","version":99,"project":{}}`), "newer version"},
		"broken project":   {zipped(t, documentName, `{"format":"wunderkammer project","version":1,"project":{"name":"x","compositions":[]}}`), "at least one composition"},
		"no picture":       {bare, "a picture or a sound is missing"},
		"another picture":  {swapped, "damaged or was replaced"},
		"one exchanged":    {exchanged, "damaged or was replaced"},
		"a bomb":           {zipped(t, documentName, strings.Repeat(" ", MaxUnpacked+1)), "unpacks to more than"},
	} {
		if _, err := Read(c.data); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v, want %q", name, err, c.says)
		}
	}
}

// A picture that could not be had when a project was packed is listed, and the project opens without it.
func TestAMissingPictureIsListed(t *testing.T) {
	p, pictures := sample()
	data, err := Write(p, nil)
	if err != nil {
		t.Fatal(err)
	}
	opened, err := Read(data)
	if err != nil || len(opened.Files) > 0 || len(opened.Missing) != 1 || opened.Missing[0] != pictures[0].ID {
		t.Fatalf("%+v %v", opened, err)
	}
	if again, err := Write(opened.Project, pictures); err != nil {
		t.Error(err)
	} else if opened, err := Read(again); err != nil || len(opened.Missing) > 0 || len(opened.Files) != 1 {
		t.Errorf("with the picture it is %+v %v", opened, err)
	}
}

// Pictures of recipes come along; a package of an earlier version, which left them out, opens without them.
func TestRecipesBringTheirPictures(t *testing.T) {
	p, pictures := sample()
	p.Recipes = []*scene.SavedRecipe{{ID: "kept", Name: "Kept", Items: []*scene.Item{{ID: "own", Name: "Own", Kind: scene.Picture, Frames: []scene.Frame{{Asset: pictures[0].ID}}}}}}
	for _, c := range p.Compositions {
		c.Items = slices.DeleteFunc(c.Items, func(i *scene.Item) bool { return len(i.Frames) > 0 })
	}
	data, err := Write(p, pictures)
	if err != nil {
		t.Fatal(err)
	}
	if opened, err := Read(data); err != nil || len(opened.Files) != 1 {
		t.Errorf("%+v %v", opened, err)
	}
	bare := zipped(t, documentName, unzipped(t, data))
	if opened, err := Read(bare); err != nil || len(opened.Missing) != 1 {
		t.Errorf("of an earlier version: %+v %v", opened, err)
	}
}

// A package of an earlier version is read as it was meant, and one that is mended says so.
func TestOldPackagesAreReadAsTheyWereMeant(t *testing.T) {
	const old = `{"format":"wunderkammer project","version":%d,"project":{"id":"p","name":"P","compositions":[{"id":"c","name":"C","width":9,"height":9,"rate":25,"frames":9,"background":[0,0,0,1],"items":[
		{"id":"a","name":"A","kind":"rectangle","states":{"rotation":{"own":null,"links":[{"id":"l","kind":"formula","source":{"item":"","property":""},"gain":7,"offset":3,"formula":"1"}]},"weight:gone":{"own":31}}}]}]}}`
	for version, gain := range map[int]float64{1: 1, 2: 7} {
		opened, err := Read(zipped(t, documentName, fmt.Sprintf(old, version)))
		if err != nil {
			t.Fatal(err)
		}
		if got := opened.Project.Compositions[0].Items[0].States["rotation"].Links[0].Gain; got != gain || len(opened.Mended) != 1 {
			t.Errorf("version %d: the gain is %v, and it says %q", version, got, opened.Mended)
		}
	}
}

// unzipped returns the document of a package.
func unzipped(t *testing.T, data []byte) string {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	f, err := z.Open(documentName)
	if err != nil {
		t.Fatal(err)
	}
	body, err := io.ReadAll(f)
	if err != nil {
		t.Fatal(err)
	}
	return string(body)
}

func FuzzRead(f *testing.F) {
	f.Add(zipped(f, documentName, `{"format":"wunderkammer project","version":1,"project":{"name":"x","compositions":[{"id":"a","name":"b","width":1,"height":1,"rate":1,"frames":1,"background":[0,0,0,1],"items":[{"id":"i","name":"n","kind":"null"}]}]}}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		opened, err := Read(data)
		if err == nil && opened.Project.Check() != nil {
			t.Fatal("a broken project was read")
		}
	})
}

// Small files that would come to much are refused before they do.
func TestHostilePackages(t *testing.T) {
	head := `{"format":"wunderkammer project","version":2,"project":{"id":"p","name":"P","compositions":[{"id":"c","name":"C","width":9,"height":9,"rate":25,"frames":9,"background":[0,0,0,1],"items":[`
	for name, body := range map[string]string{
		"empty items":   head + strings.Repeat(`{},`, 20<<20) + `{}]}]}}`,
		"nothing":       head + strings.Repeat(`null,`, 10<<20) + `null]}]}}`,
		"deep":          strings.Repeat(`[`, 10<<20),
		"long":          head + strings.Repeat(" ", 120<<20) + `]}]}}`,
		"deep controls": head + `{"controls":` + strings.Repeat(`{"x":`, 1<<20),
	} {
		data := zipped(t, documentName, body)
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		start := time.Now()
		_, err := Read(data)
		took := time.Since(start)
		runtime.ReadMemStats(&after)
		t.Logf("%s: %d KB, %v, %d MB", name, len(data)>>10, took.Round(time.Millisecond), (after.TotalAlloc-before.TotalAlloc)>>20)
		if err == nil || took > 5*time.Second || after.TotalAlloc-before.TotalAlloc > 1<<30 {
			t.Errorf("%s: %v after %v and %d MB", name, err, took, (after.TotalAlloc-before.TotalAlloc)>>20)
		}
	}
}

// A package that was written by hand says what it looks at by names, what is derived among it: it works, and goes on working when
// that is renamed.
func TestNamesInPackagesAreBound(t *testing.T) {
	p, _ := sample()
	c := p.Compositions[0]
	c.Item("rig").Edit("position").Own = scene.Pt(70, 0, 0)
	c.Item("box").Edit("opacity").Links = []*scene.Link{{ID: "far", Kind: scene.Formula, Gain: 1, Formula: "{Box: world.position.x} / 2 + {Rig: Turn}"}}
	c.RosterLinks = []*scene.RosterLink{{ID: "row", Name: "row", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"flag"}}, Property: "rotation", Link: &scene.Link{ID: "of", Kind: scene.Formula, Gain: 1, Formula: "{Box: world.position}.x"}}}
	text, err := json.Marshal(map[string]any{"format": FormatName, "version": Version, "project": p, "missing": p.Assets()}) // as it is written by hand
	if err != nil {
		t.Fatal(err)
	}
	opened, err := Read(zipped(t, documentName, string(text)))
	if err != nil {
		t.Fatal(err)
	}
	c = opened.Project.Compositions[0]
	c.Item("box").Name, c.Item("rig").Name = "Chest", "Panel"
	plan := engine.New(c)
	plan.Evaluate(3)
	if x := plan.Value(scene.Ref{Item: "box", Property: "opacity"}).At(0); x != 35.1 {
		t.Errorf("its opacity is %v", x)
	}
	if x := plan.Value(scene.Ref{Item: "flag", Property: "rotation"}).At(0); x != 70 {
		t.Errorf("the flag is turned by %v", x)
	}
	// What was packed here is opened as it was.
	p, pictures := sample()
	p.Compositions[0].Item("box").Edit("opacity").Links = []*scene.Link{{ID: "far", Kind: scene.Formula, Gain: 1, Formula: "{Rig: Turn}"}}
	data, err := Write(p, pictures)
	if err != nil {
		t.Fatal(err)
	}
	if opened, err = Read(data); err != nil || opened.Project.Compositions[0].Item("box").State("opacity").Links[0].Formula != "{Rig: Turn}" {
		t.Errorf("it is opened altered: %v", err)
	}
}

// A formula that multiplies took its unit of the first of its values, and of the last of those that it picks from: packages of then
// look as they did, until it is written anew.
func TestUnitsOfBeforeAreKept(t *testing.T) {
	for text, want := range map[string][2]float64{
		"if(false, 3, {@rig:@pct})": {500, 5}, "clamp(20, 0, {@rig:@pct})": {200, 2}, "pick(0, {@rig:@pct}, 3)": {500, 5}, "max({@rig:@pct}, 20)": {5, 5}, "{@rig:@pct} * 1.2": {6, 6},
	} {
		for k, version := range []int{2, Version} {
			p := scene.NewProject("p", "P")
			rig := &scene.Item{ID: "rig", Name: "Rig", Kind: scene.Null, Controls: []*scene.Control{{ID: "pct", Name: "Pct", Kind: scene.Fader, Unit: scene.Percent, SoftMax: 100, Default: scene.Num(50)}}}
			box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}
			box.Edit("rotation").Own = scene.Num(10)
			box.Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Operation: scene.Multiply, Formula: text}}
			p.Compositions[0].Items = []*scene.Item{rig, box}
			body, err := json.Marshal(map[string]any{"format": FormatName, "version": version, "project": p})
			if err != nil {
				t.Fatal(err)
			}
			opened, err := Read(zipped(t, documentName, string(body)))
			if err != nil {
				t.Fatal(err)
			}
			again, err := Write(opened.Project, nil) // and kept as it is now
			if err != nil {
				t.Fatal(err)
			}
			if opened, err = Read(again); err != nil {
				t.Fatal(err)
			}
			plan := engine.New(opened.Project.Compositions[0])
			plan.Evaluate(0)
			if got := plan.Value(scene.Ref{Item: "box", Property: "rotation"}).At(0); got != want[k] {
				t.Errorf("%s of version %d: %v, want %v", text, version, got, want[k])
			}
		}
	}
}
