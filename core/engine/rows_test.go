package engine

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// rosterLink puts a formula on a roster.
func rosterLink(t testing.TB, c *scene.Composition, s *scene.RosterLink, text string) {
	t.Helper()
	s.ID, s.Name, s.Link = scene.ID(fmt.Sprint("r", len(c.RosterLinks))), "Row", &scene.Link{ID: "l", Kind: scene.Formula, Gain: 1}
	compiled := formula.Compile(text, wire.RosterScope(layout.Of(c), s, -1))
	if errs := compiled.Errors(); len(errs) > 0 {
		t.Fatalf("%s: %s", text, errs[0].Sentence)
	}
	s.Link.Formula = compiled.Bound
	if err := s.Check(); err != nil {
		t.Fatal(err)
	}
	c.RosterLinks = append(c.RosterLinks, s)
}

// poles is three poles on a rig, with two, three and one flags on them.
func poles() *scene.Composition {
	c := flags(0)
	for k, n := range []int{2, 3, 1} {
		pole := scene.ID(fmt.Sprint("pole", k))
		item := &scene.Item{ID: pole, Name: fmt.Sprint("Pole ", k), Kind: scene.Ellipse, Parent: "rig"}
		item.Edit("opacity").Own = scene.Num(float64(10 * k))
		c.Items = append(c.Items, item)
		for f := range n {
			c.Items = append(c.Items, &scene.Item{ID: scene.ID(fmt.Sprint("f", k, f)), Name: fmt.Sprint("Flag ", k, f), Kind: scene.Rectangle, Parent: pole})
		}
	}
	return c
}

func rows() scene.Roster {
	return scene.Roster{Kind: scene.Children, Of: &scene.Roster{Kind: scene.Children, Item: "rig"}}
}

func TestRowsOfRows(t *testing.T) {
	for _, k := range []struct {
		text string
		want []float64
	}{
		{"index + outer index * 10", []float64{0, 1, 10, 11, 12, 20}},
		{"number * 10 + outer number", []float64{11, 21, 12, 22, 32, 13}},
		{"count + outer count * 10", []float64{32, 32, 33, 33, 33, 31}},
		{"share * 100 + outer share * 10", []float64{0, 100, 5, 55, 105, 10}},
		{"({prev: rotation} else {outer self: opacity}) + 1", []float64{1, 2, 11, 12, 13, 21}},
		{"{outer prev: opacity} else 7", []float64{7, 7, 0, 0, 0, 10}},
		{"{outer next: opacity} else 7", []float64{10, 10, 20, 20, 20, 7}},
		{"{outer last: opacity} + {outer parent: Amount}", []float64{70, 70, 70, 70, 70, 70}},
		{"delay({Rig: Amount}, outer index * 10f + index * 1f)", []float64{50, 49, 40, 39, 38, 30}},
	} {
		c := poles()
		rosterLink(t, c, &scene.RosterLink{Roster: rows(), Property: "rotation"}, k.text)
		if got := turns(c, 50); !slices.Equal(got, k.want) {
			t.Errorf("%s: %v, want %v", k.text, got, k.want)
		}
	}
	// Stagger counts within the row; partners over all rows.
	c := poles()
	s := &scene.RosterLink{Roster: rows(), Property: "rotation", Pair: &scene.Roster{Kind: scene.Picked, Items: []scene.ID{"pole2", "pole1", "pole0", "pole2"}}}
	rosterLink(t, c, s, "{partner: opacity} else 100")
	s.Link.Stagger = &scene.Stagger{Offset: 1}
	if got := turns(c, 0); !slices.Equal(got, []float64{20, 11, 0, 101, 102, 100}) {
		t.Errorf("staggered and paired: %v", got)
	}
	// A row whose pole trails the one before carries its flags along.
	c = poles()
	rosterLink(t, c, &scene.RosterLink{Roster: scene.Roster{Kind: scene.Children, Item: "rig"}, Property: "rotation"}, "if(index = 0, {Rig: Amount}, delay({prev: rotation}, 10f))")
	rosterLink(t, c, &scene.RosterLink{Roster: rows(), Property: "rotation"}, "round(delay({outer self: rotation}, 2f * number), 6)")
	if got := turns(c, 50); !slices.Equal(got, []float64{48, 46, 38, 36, 34, 28}) {
		t.Errorf("rows that trail: %v", got)
	}
	for text, want := range map[string]string{
		"outer outer index": "not inside another row", "{outer outer prev: rotation}": "not inside another row", "outer noise": "an operator is missing", "outer outer": "after outer, use",
	} {
		c := poles()
		compiled := formula.Compile(text, wire.RosterScope(layout.Of(c), &scene.RosterLink{Roster: rows(), Property: "rotation", Link: &scene.Link{}}, -1))
		if errs := compiled.Errors(); len(errs) == 0 || !strings.Contains(errs[0].Sentence, want) {
			t.Errorf("%s: %v", text, errs)
		}
	}
}

// line is a path of some vertices, 10 pixels apart.
func line(c *scene.Composition, n int) *scene.Item {
	item := &scene.Item{ID: "line", Name: "Line", Kind: scene.PathItem, Path: &scene.PathShape{Contours: []scene.Contour{{}}}}
	for k := range n {
		item.Path.Contours[0].Vertices = append(item.Path.Contours[0].Vertices, scene.Vertex{ID: 2*k + 1, At: [2]float64{float64(10 * k), 0}})
	}
	c.Items = append(c.Items, item)
	return item
}

func TestVerticesAreARoster(t *testing.T) {
	vertices := func(c *scene.Composition, frame float64) (xs, ys []float64) {
		p := New(c)
		p.Evaluate(frame)
		for _, key := range c.Item("line").VertexKeys() {
			v := p.Value(scene.Ref{Item: "line", Property: key})
			xs, ys = append(xs, v.At(0)), append(ys, v.At(1))
		}
		return xs, ys
	}
	for _, k := range []struct {
		component, text string
		out             []scene.ID
		xs, ys          []float64
	}{
		{"y", "index * 3 + {Rig: Amount}", nil, []float64{0, 10, 20, 30}, []float64{50, 53, 56, 59}},
		{"", "[own.x * 2, share * 9]", nil, []float64{0, 20, 40, 60}, []float64{0, 3, 6, 9}},
		{"y", "if(index = 0, {Rig: Amount}, delay({prev: vertex.y}, 5f))", nil, []float64{0, 10, 20, 30}, []float64{50, 45, 40, 35}},
		{"y", "({prev: vertex.y} else 40) + {self: vertex.x}", nil, []float64{0, 10, 20, 30}, []float64{40, 50, 70, 100}},
		{"y", "{next: vertex.x} else {first: vertex.x}", nil, []float64{0, 10, 20, 30}, []float64{10, 20, 30, 0}},
		{"y", "7", []scene.ID{"vertex3"}, []float64{0, 10, 20, 30}, []float64{7, 0, 7, 7}},
	} {
		c := flags(0)
		line(c, 4)
		rosterLink(t, c, &scene.RosterLink{Roster: scene.Roster{Kind: scene.Vertices, Item: "line"}, Property: scene.OwnVertex, Component: k.component, Out: k.out}, k.text)
		if xs, ys := vertices(c, 50); !slices.Equal(xs, k.xs) || !slices.Equal(ys, k.ys) {
			t.Errorf("%s: %v and %v, want %v and %v", k.text, xs, ys, k.xs, k.ys)
		}
		scope := wire.RosterScope(layout.Of(c), c.RosterLinks[0], 1)
		if shown := binding.Print(c.RosterLinks[0].Link.Formula, scope); shown != k.text {
			t.Errorf("%s is shown as %s", k.text, shown)
		}
	}
}

func TestAFormulaChoosesTheVertex(t *testing.T) {
	for text, want := range map[string]float64{
		"{Line: vertices[2].x}": 10, "{Line: vertices[1 + 2].x}": 20, "{Line: vertices[{Rig}].x}": -1, "{Line: vertices[0.2].x}": 0, "{Line: vertices[100 * 3].x}": 30,
		"n = {Rig: Amount} / 20\n{Line: vertices[n].x}": 10, "length({Line: vertices[frame / 25]} - [0, 0])": 10, "{Rig: vertices[frame]}.x": -1, "{Line: vertices[].x}": -1, "{Line: vertices[1 +].x}": -1,
	} {
		c := flags(1)
		line(c, 4)
		l := layout.Of(c)
		compiled := formula.Compile(text, wire.ScopeOf(l, l.Index("i0"), c.Items[1].Spec("rotation"), ""))
		if errs := compiled.Errors(); len(errs) > 0 {
			if want >= 0 {
				t.Errorf("%s: %s", text, errs[0].Sentence)
			}
			continue
		}
		if want < 0 {
			t.Errorf("%s passes", text)
			continue
		}
		written(t, c, scene.Ref{Item: "i0", Property: "rotation"}, text)
		if got := turns(c, 50)[0]; got != want {
			t.Errorf("%s: %v, want %v", text, got, want)
		}
		stored := c.Items[1].State("rotation").Links[0].Formula
		c.Item("line").Name = "Rope"
		c.Renamed()
		shown := binding.Print(stored, wire.ScopeOf(layout.Of(c), 1, c.Items[1].Spec("rotation"), ""))
		if strings.Contains(text, "{Line") && (!strings.Contains(shown, "{Rope: v") || formula.Compile(shown, wire.ScopeOf(layout.Of(c), 1, c.Items[1].Spec("rotation"), "")).Bound != stored) {
			t.Errorf("%s is stored as %s and shown as %s", text, stored, shown)
		}
	}
}

// A row of which each trails the one before by what it looks up itself is worked out one by one, and where it is too
// long is no endless wait: its last members pass on what is below.
func TestARowThatTrailsTooFar(t *testing.T) {
	const n = 5000
	c := flags(n)
	rostered(t, c, "if(index = 0, {Rig: Amount}, delay({prev: rotation}, 1f * delay({Rig: Amount}, 200f) + 1f))")
	c.Items[n].Edit("rotation").Own = scene.Num(7)
	p := New(c)
	p.Evaluate(50)
	turn := func(i int) float64 {
		return p.Value(scene.Ref{Item: scene.ID(fmt.Sprint("i", i)), Property: "rotation"}).At(0)
	}
	leftOut, by := p.LeftOut()
	if leftOut < 1000 || leftOut > 4500 || by[0].At.Property != "rotation" {
		t.Fatalf("%d go too deep, by %v", leftOut, by)
	}
	if turn(20) != 30 || turn(n-1) != 7 {
		t.Errorf("the 21st is at %v, the last at %v", turn(20), turn(n-1))
	}
	rostered(t, flags(3), "1")
	c.RosterLinks[0].Roster = scene.Roster{Kind: scene.Picked, Items: []scene.ID{"i0", "i1", "i2"}}
	if leftOut, _ := New(c).LeftOut(); leftOut != 0 {
		t.Errorf("%d of three go too deep", leftOut)
	}
}
