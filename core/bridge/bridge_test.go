package bridge

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/view"
)

// small is a project with one of everything that a page asks about: controls, links of each kind, a row, a path, a
// solid, particles.
const small = `{"project":{"id":"p","name":"P","compositions":[{"id":"main","name":"Main","width":400,"height":300,"rate":25,"frames":100,
"background":[0,0,0,1],"items":[
{"id":"rig","name":"Rig","kind":"null","controls":[{"id":"amount","name":"Amount","kind":"slider","default":5}],
"states":{"amount":{"own":3,"pins":[{"frame":0,"value":1,"easing":"linear"},{"frame":50,"value":9,"easing":"smooth"}]}}},
{"id":"box","name":"Box","kind":"rectangle","parent":"rig","states":{"rotation":{"links":[{"id":"l","kind":"formula","formula":"{@rig:@amount} * 2 + delay({@box:opacity}, 2f)","gain":1}]}}},
{"id":"dot","name":"Dot","kind":"ellipse","parent":"rig","states":{"opacity":{"links":[{"id":"m","kind":"map","source":{"item":"rig","property":"amount"},"gain":1,"stops":[{"in":0,"out":0,"easing":"linear"},{"in":9,"out":100,"easing":"linear"}]}]}}},
{"id":"sparks","name":"Sparks","kind":"emitter"},{"id":"cube","name":"Cube","kind":"box"},{"id":"words","name":"Words","kind":"text"}
],"spreads":[{"id":"row","name":"Row","roster":{"kind":"children","item":"rig"},"property":"strokeWidth","link":{"id":"n","kind":"formula","formula":"index + {@rig:@amount}","gain":1}}]}]},"revision":1}`

// opened is a bridge with the small project.
func opened(t testing.TB) *Bridge {
	t.Helper()
	b := &Bridge{}
	if text := b.Open([]byte(small), []byte("[]")); !strings.HasPrefix(text, `{"result":{"view":{"revision":1,`) {
		t.Fatalf("it does not open: %.300s", text)
	}
	return b
}

func TestCallsAreAnsweredInSentences(t *testing.T) {
	empty := &Bridge{}
	for _, k := range []struct {
		b                      *Bridge
		method, argument, want string
	}{
		{empty, "dance", "null", "the core has no method dance"},
		{empty, "undo", `"u"`, "no project is open"},
		{empty, "samples", `{}`, "no project is open"},
		{empty, "undo", strings.Repeat("[", 100000), "nested"},
		{opened(t), "do", `{"gesture":"dance"}`, "dance"},
		{opened(t), "do", `{"gesture":"add","with":{"kind":"dance"},"id":"c"}`, "dance"},
		{opened(t), "undo", `"u"`, "nothing to be undone"},
		{opened(t), "select", `"nowhere"`, "nowhere"},
		{opened(t), "samples", `[`, "JSON"},
	} {
		var a answer
		if err := json.Unmarshal([]byte(k.b.Call(k.method, []byte(k.argument))), &a); err != nil {
			t.Fatal(err)
		}
		if !strings.Contains(a.Error, k.want) || a.Broken != "" {
			t.Errorf("%s %.40s: %q %q, want one with %q", k.method, k.argument, a.Error, a.Broken, k.want)
		}
	}
	for argument, want := range map[string]string{`{}`: "there is no project to open", strings.Repeat("[", 100000): "nested", `{"project":{"id":"p","name":"P"}}`: "at least one composition", `{"project":7}`: "number"} {
		if text := empty.Open([]byte(argument), []byte("[]")); !strings.Contains(text, `"error":`) || !strings.Contains(text, want) {
			t.Errorf("%.40s: %s, want one with %q", argument, text, want)
		}
	}
}

// Who has read the project is told of its items only what does not stand there, and of all where changes were made again.
func TestOpeningTellsWhatTheProjectDoesNotSay(t *testing.T) {
	var out struct{ Result Changed }
	b := &Bridge{}
	read := func(unsent string) view.View {
		out.Result = Changed{}
		if err := json.Unmarshal([]byte(b.Open([]byte(small), []byte(unsent))), &out); err != nil {
			t.Fatal(err)
		}
		return out.Result.View
	}
	if v := read("[]"); !v.Known || len(v.Items) > 0 || len(v.Specs) != 1 || v.Specs[0].Item != "rig" || len(v.Structure.Order) != 6 {
		t.Errorf("%v, %d items, %v", v.Known, len(v.Items), v.Specs)
	}
	if v := read(`[{"id":"c","base":1,"ops":[{"op":"item.remove","composition":"main","item":"words"}]}]`); v.Known || len(v.Items) != 5 {
		t.Errorf("%v, %d items", v.Known, len(v.Items))
	}
	if v := read(`[{"id":"c","base":1,"ops":[{"op":"item.remove","composition":"main","item":"nothing"}]}]`); v.Known || len(v.Items) != 6 || len(out.Result.Dropped) != 1 {
		t.Errorf("%v, %d items, %v", v.Known, len(v.Items), out.Result.Dropped)
	}
}

// What breaks on the way is said to be broken, and the page starts anew.
func TestAPanicIsSaid(t *testing.T) {
	methods["break"] = asking(func(*Bridge, None) (any, error) { panic("on purpose") })
	defer delete(methods, "break")
	if text := opened(t).Call("break", []byte("null")); text != `{"broken":"break: on purpose"}` {
		t.Error(text)
	}
	b := opened(t)
	b.session = nil
	if f, broken := b.Evaluate(3); f != nil || broken != "" {
		t.Errorf("without a project: %v, %q", f, broken)
	}
	b = opened(t)
	b.session.Plan().Layout.Hidden = nil
	if f, broken := b.Evaluate(3); f != nil || !strings.HasPrefix(broken, "frame 3: ") {
		t.Errorf("%v, %q", f, broken)
	}
}

// records reads packed shapes: the items that have one, by what kind of record.
func records(t *testing.T, shapes []float32) map[int][]int {
	t.Helper()
	out := map[int][]int{}
	for at := 0; at < len(shapes); {
		item, kind := int(shapes[at]), int(shapes[at+1])
		out[kind] = append(out[kind], item)
		switch kind {
		case recordOutline:
			at += 2
		case recordMesh:
			at += 4 + 8*int(shapes[at+2]) + int(shapes[at+3])
		case recordSurface, recordLine:
			at += 8 + int(shapes[at+6]) + int(shapes[at+7])
		default:
			t.Fatalf("a record of kind %d", kind)
		}
	}
	return out
}

func TestAFrameBringsWhatChanged(t *testing.T) {
	b := opened(t)
	first, broken := b.Evaluate(0)
	if broken != "" || len(first.Whole) != int(b.session.Plan().Layout.Size) {
		t.Fatalf("%q, %d values", broken, len(first.Whole))
	}
	if got := records(t, first.Shapes); !slices.Equal(got[recordSurface], []int{1, 2, 5}) || !slices.Equal(got[recordMesh], []int{4}) {
		t.Errorf("at first there are %v", got)
	}
	if f, _ := b.Evaluate(0); len(f.Shapes) != 0 {
		t.Errorf("nothing changed, and yet %v", records(t, f.Shapes))
	}
	text := b.Call("do", []byte(`{"gesture":"set","with":{"targets":[{"item":"dot","property":"size"}],"value":[30,40]},"frame":0,"id":"c"}`))
	if strings.Contains(text, `"error"`) || !strings.Contains(text, `"waiting":1`) {
		t.Fatalf("%.300s", text)
	}
	f, _ := b.Evaluate(50)
	if got := records(t, f.Shapes); !slices.Equal(got[recordSurface], []int{2}) {
		t.Errorf("the dot has another size, and there are %v", got)
	}
	if f.Particles[0] != 3 || f.Particles[1] < 1 || len(f.Particles) != 2+10*int(f.Particles[1]) {
		t.Errorf("the particles are %.5v", f.Particles)
	}
	if text := b.Call("undo", []byte(`"u"`)); strings.Contains(text, `"error"`) {
		t.Error(text)
	}
}

// A text that a formula writes is told once: the next frame brings none that the page knows.
func TestTextsAreToldOnce(t *testing.T) {
	b := opened(t)
	set := b.Call("do", []byte(`{"gesture":"operations","with":{"ops":[{"op":"link.add","composition":"main","item":"words","property":"text","link":{"id":"tl","kind":"formula","formula":"text(\"frame \", floor(frame / 3))","gain":1},"at":-1}]},"frame":0,"id":"c"}`))
	if strings.Contains(set, `"error"`) {
		t.Fatalf("%.300s", set)
	}
	told := map[string]int{}
	for _, frame := range []float64{0, 1, 2, 3, 4, 7, 4, 0} {
		f, broken := b.Evaluate(frame)
		if broken != "" {
			t.Fatal(broken)
		}
		for _, text := range f.Texts {
			told[text]++
		}
	}
	for _, text := range []string{"frame 0", "frame 1", "frame 2"} {
		if told[text] != 1 {
			t.Errorf("%q is told %d times", text, told[text])
		}
	}
}

// Whatever is called with whatever, in whatever order: it is answered, the core does not break, and frames come.
func FuzzCalls(f *testing.F) {
	const ref = `{"item":"box","property":"rotation"}`
	for _, call := range []string{
		`catalogue null`, `select "main"`, `select "other"`, `do {"gesture":"add","with":{"kind":"path"},"frame":3,"id":"c"}`,
		`do {"gesture":"remove","with":{"items":["rig"]},"frame":0,"id":"c"}`, `do {"gesture":"set","with":{"targets":[` + ref + `],"value":4},"preview":true}`,
		`cancel null`, `undo "u"`, `redo "r"`, `receive [{"id":"x","revision":2,"ops":[{"op":"item.remove","composition":"main","item":"box"}]}]`, `receive [null]`,
		`samples {"item":"rig","from":-1e9,"to":1e9,"steps":9999999}`, `read {"item":"words","keys":["lettersCount","worldPosition","vertex1",""]}`,
		`vertices "cube"`, `take ["box","rig",null]`, `trace "box"`, `series {"refs":[` + ref + `,{}],"from":0,"to":1e300,"steps":50}`,
		`formula {"item":"box","property":"rotation","text":"average({Rig: Amount}, 3f) +","caret":3}`, `table {"refs":[` + ref + `],"from":-5,"to":40}`,
		`bake {"targets":[` + ref + `],"from":0,"to":90,"step":1}`, `survey null`, `response {"ref":{"item":"dot","property":"opacity"},"link":"m","from":0,"to":9,"steps":5}`,
		`why ` + ref, `reach {"item":"rig","property":"amount"}`, `deep null`, `try out true`, `waiting null`, `open ` + small, `open {"project":{"compositions":[null]}}`, `frame 1e300`, // open: see below
	} {
		f.Add(call+"\nframe 7\nundo \"v\"", true)
	}
	f.Fuzz(func(t *testing.T, calls string, open bool) {
		b := &Bridge{}
		if open {
			b = opened(t)
		}
		lines := strings.Split(calls, "\n")
		if len(calls) > 6000 || len(lines) > 8 {
			return
		}
		for k, line := range lines {
			method, argument := "", ""
			if document, ok := strings.CutPrefix(line, "open "); ok {
				if text := b.Open([]byte(document), []byte("[]")); strings.Contains(text, `"broken":"`) {
					t.Fatal(text)
				}
				continue
			}
			for name := range methods {
				if rest, ok := strings.CutPrefix(line, name+" "); ok && len(name) > len(method) {
					method, argument = name, rest
				}
			}
			if method == "" {
				at := math.Mod(float64(len(line))*1.5, 90)
				fmt.Sscanf(line, "frame %g", &at)
				if _, broken := b.Evaluate(at); broken != "" {
					t.Fatalf("line %d, %s: %s", k, line, broken)
				}
				continue
			}
			var a answer
			if err := json.Unmarshal([]byte(b.Call(method, []byte(argument))), &a); err != nil || a.Broken != "" {
				t.Fatalf("line %d, %s: %v, %s", k, line, err, a.Broken)
			}
		}
		if b.session != nil {
			if err := b.session.Project.Check(); err != nil {
				t.Fatal(err)
			}
		}
		if _, broken := b.Evaluate(11); broken != "" {
			t.Fatal(broken)
		}
	})
}
