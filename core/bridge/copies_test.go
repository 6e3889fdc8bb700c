package bridge

import (
	"slices"
	"testing"
)

// beads is a project with copies of a bead that grows, each later than the one before.
const beads = `{"project":{"id":"p","name":"P","compositions":[{"id":"main","name":"Main","width":400,"height":300,"rate":25,"frames":100,
"background":[0,0,0,1],"items":[
{"id":"beads","name":"Beads","kind":"copies","copies":{"limit":5},"states":{"copiesNumber":{"own":3}}},
{"id":"bead","name":"Bead","kind":"ellipse","parent":"beads","states":{"size":{"pins":[{"frame":0,"value":[10,10],"easing":"linear"},{"frame":50,"value":[60,60],"easing":"linear"}]},
"strokeWidth":{"pins":[{"frame":0,"value":0,"easing":"linear"},{"frame":50,"value":50,"easing":"linear"}]}}}
],"spreads":[{"id":"row","name":"Row","roster":{"kind":"copies","item":"beads"},"property":"copyLate","link":{"id":"n","kind":"formula","formula":"index * 10f","gain":1}}]}]},"revision":1}`

// unpacked is what copies show, as a page reads it.
type unpacked struct {
	item, form float32
	x          float32
	looks      []float32
}

func unpack(packed []float32) (out []unpacked) {
	for at := 0; at < len(packed); {
		n := int(packed[at+1])
		at += 2
		for range n {
			one := unpacked{item: packed[at], form: packed[at+6], x: packed[at+10]}
			looks := int(packed[at+19])
			at += 20
			one.looks = packed[at : at+2*looks]
			at += 2 * looks
			out = append(out, one)
		}
	}
	return out
}

// formsIn lists the forms that are packed among shapes, without looking at what else is.
func formsIn(t *testing.T, shapes []float32) (out []float32) {
	for at := 0; at < len(shapes); {
		switch shapes[at+1] {
		case recordForm:
			out = append(out, shapes[at+2])
			at += 3
		case recordOutline:
			at += 2
		case recordSurface, recordLine:
			at += 8 + int(shapes[at+6]) + int(shapes[at+7])
		default:
			t.Fatalf("a record of kind %v", shapes[at+1])
		}
	}
	return out
}

func TestCopiesArePackedWithTheFormsThatThePageDoesNotHave(t *testing.T) {
	b := &Bridge{}
	b.Open([]byte(beads), []byte("[]"))
	f, broken := b.Evaluate(40)
	if broken != "" {
		t.Fatal(broken)
	}
	got := unpack(f.Copies)
	if len(got) != 3 {
		t.Fatalf("%d are shown: %v", len(got), f.Copies)
	}
	for k, one := range got {
		if one.x != float32(120*k) {
			t.Errorf("copy %d stands at %v", k+1, one.x)
		}
		if (one.form == 0) != (k == 0) {
			t.Errorf("copy %d has form %v", k+1, one.form)
		}
		if k > 0 && !slices.Contains(one.looks, float32(40-10*k)) {
			t.Errorf("copy %d has no line of width %d: %v", k+1, 40-10*k, one.looks)
		}
	}
	if forms := formsIn(t, f.Shapes); len(forms) != 2 || got[1].form == got[2].form {
		t.Errorf("forms %v are told", forms)
	}
	// Ten frames on, the second copy shows what the first did: only what no copy showed before is told.
	f, _ = b.Evaluate(50)
	if next := unpack(f.Copies); next[2].form != got[1].form || len(formsIn(t, f.Shapes)) != 1 {
		t.Errorf("then forms %v are told, and the third copy has form %v, not %v", formsIn(t, f.Shapes), next[2].form, got[1].form)
	}
	if f, _ = b.Evaluate(50); len(f.Shapes) != 0 {
		t.Errorf("again, %d numbers of shapes are told", len(f.Shapes))
	}
}
