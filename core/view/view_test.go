package view

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/graphs"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

func window(t *testing.T) *session.Session {
	t.Helper()
	n := 0
	s, dropped := session.Open(scene.NewProject("p", "P"), 0, nil, func() scene.ID { n++; return scene.ID(fmt.Sprintf("n%d", n)) })
	if len(dropped) > 0 {
		t.Fatal(dropped)
	}
	return s
}

func do(t *testing.T, s *session.Session, g gesture.Gesture) []scene.ID {
	t.Helper()
	r, err := s.Do(g, session.Options{ID: "c"})
	if err != nil {
		t.Fatal(err)
	}
	return r.Made
}

func TestTheCatalogueTellsOfEveryKind(t *testing.T) {
	c := Catalogue()
	if len(c.Kinds) != len(scene.Kinds) || len(c.Links) != len(link.Kinds()) || len(c.Links[0].Fits) == 0 {
		t.Fatalf("%d kinds of items, %d of links", len(c.Kinds), len(c.Links))
	}
	for _, k := range c.Kinds {
		for n, s := range k.Specs {
			if s.Column != n || s.Tag == "" {
				t.Errorf("%s of a %s is column %d, want %d", s.Name, k.Name, s.Column, n)
			}
		}
		for _, s := range k.Readable {
			if s.Column != -1 || s.Offset != -1 || !s.ReadOnly {
				t.Errorf("%s of a %s has a place of its own", s.Name, k.Name)
			}
		}
	}
	if _, err := json.Marshal(c); err != nil {
		t.Error(err) // a limit that is infinite, say
	}
}

// An interface is told of everything once, and from then on of what changed.
func TestOnlyNewsIsTold(t *testing.T) {
	s := window(t)
	do(t, s, &items.Add{Kind: scene.Rectangle})
	path := do(t, s, &items.Add{Kind: scene.PathItem})[0]
	v, known := Of(s, 0)
	if len(v.Items) != 2 || v.Structure == nil || len(v.Structure.Order) != 2 || v.Texts == nil && known > 0 {
		t.Errorf("at first: %d items", len(v.Items))
	}
	v, known = Of(s, known)
	if len(v.Items) != 0 || v.Structure != nil {
		t.Errorf("with no news: %d items, structure %v", len(v.Items), v.Structure != nil)
	}
	do(t, s, &pins.Set{Targets: []scene.Ref{{Item: path, Property: "rotation"}}, Value: scene.Num(3)})
	told := func(what, want string) {
		t.Helper()
		if v, known = Of(s, known); len(v.Items) != 0 || v.Structure != nil {
			t.Errorf("after %s: %d items, structure %v", what, len(v.Items), v.Structure != nil)
		}
		if data, _ := json.Marshal(v.States); string(data) != want {
			t.Errorf("after %s: %s, want %s", what, data, want)
		}
	}
	told("a value", `[{"item":"`+string(path)+`","property":"rotation","state":{"own":3}}]`)
	if _, err := s.Do(&pins.Set{Targets: []scene.Ref{{Item: path, Property: "opacity"}}, Value: scene.Num(40)}, session.Options{Preview: true}); err != nil {
		t.Fatal(err)
	}
	told("a preview", `[{"item":"`+string(path)+`","property":"opacity","state":{"own":40}}]`)
	s.Cancel()
	told("its end", `[{"item":"`+string(path)+`","property":"opacity","state":null}]`)
	do(t, s, &pins.Set{Targets: []scene.Ref{{Item: path, Property: "vertex2"}}, Value: scene.Pt(3, 4)})
	if v, _ = Of(s, known); v.Structure == nil || len(v.Items) != 1 || len(v.Items[0].Specs) != 1 || v.Items[0].Specs[0].Key != "vertex2" {
		t.Errorf("after a vertex was set: %+v", v.Items)
	}
}

// A path of thousands of vertices is not sent with every change of its item.
func TestAPathIsOnlySaidToBeThere(t *testing.T) {
	s := window(t)
	do(t, s, &items.Add{Kind: scene.PathItem})
	v, _ := Of(s, 0)
	data, err := json.Marshal(v.Items[0])
	if err != nil || !strings.Contains(string(data), `"path":true`) || strings.Contains(string(data), "contours") {
		t.Errorf("%s (%v)", data, err)
	}
}

func TestVerticesStandInTheComposition(t *testing.T) {
	s := window(t)
	path, box := do(t, s, &items.Add{Kind: scene.PathItem})[0], do(t, s, &items.Add{Kind: scene.Box, Place: &[3]float64{}})[0]
	do(t, s, &items.Move{Items: []scene.ID{path, box}, By: [3]float64{10, 20, 0}})
	s.Evaluate(0)
	all := Vertices(s.Plan(), path)
	if len(all) != 3 || all[0].Next != 2 || all[2].Next != 0 || all[0].Place[0] != all[0].At[0]+10 || !all[1].Handles || all[1].Out[0] <= all[1].Place[0] {
		t.Errorf("the vertices of the path are %+v", all)
	}
	corners := Vertices(s.Plan(), box)
	if len(corners) != 8 || corners[7].Place != [3]float64{110, 120, 100} || corners[7].Key != "vertex8" {
		t.Errorf("corner 8 is %+v", corners[len(corners)-1])
	}
	if Vertices(s.Plan(), "gone") != nil {
		t.Error("something that is gone has vertices")
	}
}

// Of a mesh with more vertices than are listed, those that are lie all over it.
func TestVerticesOfALargeMeshAreListedEvenly(t *testing.T) {
	m := &scene.MeshShape{}
	for k := range 5001 {
		m.Places = append(m.Places, float32(k)/5000-0.5, 0, 0)
	}
	for k := range 3 {
		m.Corners, m.Index = append(m.Corners, scene.MeshCorner{Point: int32(1700 * k)}), append(m.Index, uint32(k))
	}
	c := scene.NewComposition("main", "C")
	c.Items = []*scene.Item{{ID: "long", Name: "Long", Kind: scene.MeshItem, Mesh: m}}
	p := engine.New(c)
	p.Evaluate(0)
	all := Vertices(p, "long")
	if n := len(all); n != 1667 || all[1].Number != 4 || all[n-1].Number != 4999 || all[1].Key != scene.VertexKey(4) {
		t.Errorf("%d of 5001, from %d to %d", n, all[0].Number, all[n-1].Number)
	}
}

// What has other limits on an item than on its kind is told with them, and nothing else that every item of the kind has.
func TestLimitsOfADesignerAreTold(t *testing.T) {
	p := scene.NewProject("p", "P")
	lo, hi := 10.0, 20.0
	box := &scene.Item{ID: "box", Name: "Box", Kind: scene.Rectangle}
	box.Edit("rotation").Min, box.Edit("rotation").Max = &lo, &hi
	p.Compositions[0].Items = []*scene.Item{box, {ID: "dot", Name: "Dot", Kind: scene.Ellipse}}
	s, _ := session.Open(p, 1, nil, func() scene.ID { return "n" })
	v, _ := Opened(s, 0)
	if len(v.Specs) != 1 || len(v.Specs[0].Specs) != 1 {
		t.Fatalf("%+v", v.Specs)
	}
	if spec := v.Specs[0].Specs[0]; spec.Key != "rotation" || *spec.Min != 10 || *spec.Max != 20 {
		t.Errorf("%+v", spec)
	}
}

// By the structure, the catalogue and the specifications of an item an interface finds every property in the column.
func TestEveryPropertyIsFoundInTheColumn(t *testing.T) {
	s := window(t)
	do(t, s, &items.Add{Kind: scene.Star})
	rig := do(t, s, &items.Add{Kind: scene.Null})[0]
	do(t, s, &items.Add{Kind: scene.Star})
	do(t, s, &wiring.AddControl{Item: rig, Control: scene.Control{Kind: scene.PointWidget}})
	do(t, s, &wiring.AddControl{Item: rig, Control: scene.Control{Kind: scene.Fader}})
	v, _ := Of(s, 0)
	kinds := map[scene.Kind]Kind{}
	for _, k := range Catalogue().Kinds {
		kinds[k.Kind] = k
	}
	l := s.Plan().Layout
	found := 0
	for i, item := range v.Items {
		for _, spec := range append(kinds[item.Kind].Specs, item.Specs...) {
			at := v.Structure.Extras[i] + spec.Offset
			if spec.Column >= 0 {
				c := v.Structure.Columns[item.Kind][spec.Column]
				at = c.First + c.Step*v.Structure.Rows[i]
			}
			if _, want := l.Find(item.ID, spec.Key); at != want {
				t.Errorf("%s of %s is found at %d, want %d", spec.Name, item.Name, at, want)
			}
			found++
		}
	}
	if found < 50 {
		t.Errorf("%d properties were looked for", found)
	}
}

// The sheet of a graph is told whole: what every slip takes and gives, what it drives, and what is wrong with it.
func TestAGraphIsShown(t *testing.T) {
	s := window(t)
	box := do(t, s, &items.Add{Kind: scene.Rectangle})[0]
	id := do(t, s, &graphs.NewGraph{Text: "swell = wave(frame / 100)\nswell * 40 + {self: opacity}"})[0]
	g, _ := s.Composition().Graph(id)
	drive := g.Slips[len(g.Slips)-1].ID
	do(t, s, &graphs.Drive{Graph: id, Slip: drive, Targets: []scene.Ref{{Item: box, Property: "rotation"}}})
	do(t, s, &graphs.PutSlips{Graph: id, Slips: []scene.Slip{{Kind: scene.ApplySlip, Text: "min", Fields: map[string]string{"1": "3"}}, {Kind: scene.FormulaSlip, Text: "a + \"text\""}, {Kind: scene.ValueSlip, Text: "[3, 4]"}}})
	s.Evaluate(25)
	by := map[string]ShownSlip{}
	for _, one := range SlipsOf(s, GraphAsk{Graph: id, Member: -1}).Slips {
		by[one.Called] = one
	}
	if swell := by["swell"]; len(swell.Outs) != 1 || swell.Outs[0].Value.String() != "1" || swell.Outs[0].Tag != "n" || len(swell.Ins) != 1 || swell.Ins[0].Name != "cycles" {
		t.Errorf("the wave is %+v", swell)
	}
	if read := by["self: opacity"]; len(read.Outs) != 1 || read.Outs[0].Value.String() != "100" || read.Outs[0].Tag != "%" {
		t.Errorf("what is read is %+v", read)
	}
	if d := by["drive"]; len(d.Drives) != 1 || d.Drives[0].Name != s.Composition().Item(box).Name+": rotation" || d.Fault != "" {
		t.Errorf("the drive is %+v", d)
	}
	if v := by["value"]; len(v.Outs) != 1 || len(v.Outs[0].Parts) != 2 {
		t.Errorf("the place is %+v", v)
	}
	for called, said := range map[string]string{"min": "needs b", "formula": "needs a"} {
		if !strings.Contains(by[called].Fault, said) || len(by[called].Outs) != 0 {
			t.Errorf("%s: %+v", called, by[called])
		}
	}
	if got := s.Plan().Value(scene.Ref{Item: box, Property: "rotation"}).String(); got != "140" {
		t.Errorf("it drives the box to %s", got)
	}
	if v, _ := Of(s, 0); len(v.Graphs) != 1 || len(v.GraphOrder) != 1 {
		t.Errorf("%d graphs are told", len(v.Graphs))
	}
	do(t, s, &graphs.RemoveGraph{Graph: id})
	if v, _ := Of(s, 0); v.GraphOrder == nil || len(v.GraphOrder) != 0 {
		t.Errorf("removed, they are %v", v.GraphOrder)
	}
}

// Of a graph that drives copies, one that is shown is looked at, and those that are shown are counted, also when they become more.
func TestAGraphOnCopiesLooksAtOneThatIsShown(t *testing.T) {
	s := window(t)
	beads := do(t, s, &items.Add{Kind: scene.CopiesItem})[0]
	set := func(n float64) {
		do(t, s, &pins.Set{Targets: []scene.Ref{{Item: beads, Property: "copiesNumber"}}, Value: scene.Num(n)})
		s.Evaluate(0)
	}
	set(5)
	id := do(t, s, &graphs.NewGraph{Text: "number * 10"})[0]
	g, _ := s.Composition().Graph(id)
	lane := s.Composition().Item(beads).FirstLane()
	do(t, s, &graphs.Drive{Graph: id, Slip: g.Slips[len(g.Slips)-1].ID, Targets: []scene.Ref{{Item: lane, Property: "opacity"}}})
	s.Evaluate(0)
	for _, want := range []struct {
		number          float64
		asked, at, most int
	}{{5, -1, 1, 5}, {12, -1, 1, 12}, {12, 7, 7, 12}, {0, -1, 1, 0}} {
		set(want.number)
		if got := SlipsOf(s, GraphAsk{Graph: id, Member: want.asked}); got.Member != want.at || got.Members != want.most {
			t.Errorf("%+v: %d of %d is looked at", want, got.Member, got.Members)
		}
	}
	row := do(t, s, &items.Add{Kind: scene.Rectangle, Count: 4})
	var targets []scene.Ref
	for _, id := range row {
		targets = append(targets, scene.Ref{Item: id, Property: "rotation"})
	}
	other := do(t, s, &graphs.NewGraph{Text: "number"})[0]
	g, _ = s.Composition().Graph(other)
	do(t, s, &graphs.Drive{Graph: other, Slip: g.Slips[len(g.Slips)-1].ID, Targets: targets, Roster: true})
	if got := SlipsOf(s, GraphAsk{Graph: other, Member: -1}); got.Member != 2 || got.Members != 4 {
		t.Errorf("of a row, %d of %d is looked at", got.Member, got.Members)
	}
}
