package scene

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"wunderkammer/core/curve"
)

// tangled is a project whose graph has every mistake that a file made by hand may have.
func tangled() *Project {
	p := NewProject("p", "P")
	c := p.Compositions[0]
	stops := []MapStop{{In: 0, Out: Num(1), Easing: curve.Linear}, {In: 9, Out: Num(2), Easing: curve.Linear}}
	slip := func(id ID, kind SlipKind) *Slip { return &Slip{ID: id, Kind: kind} }
	within := slip("in", ValueSlip)
	within.Within = "nofold"
	one, two := slip("f1", FoldSlip), slip("f2", FoldSlip)
	one.Within, two.Within = "f2", "f1"
	good := slip("m", MapSlip)
	good.Stops = stops
	flat := slip("flat", MapSlip)
	flat.Stops = stops[:1]
	mixed := slip("mixed", MapSlip)
	mixed.Stops = []MapStop{stops[0], {In: 9, Out: Txt("no"), Easing: curve.Linear}}
	far := slip("far", ValueSlip)
	far.At = [2]float64{1e300, 0}
	stopped := slip("stopped", ValueSlip)
	stopped.Stops = stops
	g := &Graph{ID: "g", Name: "Tangle", Slips: []*Slip{nil, slip("w", "whirl"), within, one, two, good, flat, mixed, far, stopped, slip("v", ValueSlip), slip("v", ValueSlip), slip("d", DriveSlip)}}
	g.Wires = []*Wire{nil, {From: "v", To: "d", In: "in"}, {From: "m", To: "d", In: "in"}, {From: "gone", To: "d", In: "2"}, {From: "v", To: "w", In: "1"}, {From: "v", To: "m", In: "1"}, {From: "v", To: "m", In: strings.Repeat("x", 300)}}
	c.Graphs = []*Graph{nil, g, {ID: "g", Name: "Twice", Slips: []*Slip{slip("v", ValueSlip)}}}
	box := &Item{ID: "box", Name: "Box", Kind: Rectangle}
	box.Edit("rotation").Links = []*Link{{ID: "l", Kind: "follow", Gain: 1, Source: Ref{Item: "box", Property: "opacity"}}}
	c.Items = []*Item{box}
	return p
}

// What is wrong with a graph that comes from elsewhere is left out and said; what is left is a graph.
func TestTangledGraphsAreHealed(t *testing.T) {
	p := tangled()
	if p.Check() == nil {
		t.Fatal("it is sound as it is")
	}
	said := p.Heal()
	c := p.Compositions[0]
	if len(c.Graphs) != 2 {
		t.Fatalf("%d graphs are left", len(c.Graphs))
	}
	for _, g := range c.Graphs {
		if err := g.Check(); err != nil {
			t.Errorf("%s: %v", g.Name, err)
		}
	}
	g := c.Graphs[0]
	var ids []string
	for _, s := range g.Slips {
		ids = append(ids, string(s.ID))
	}
	if got := strings.Join(ids, " "); got != "in f1 f2 m v healed1 d" {
		t.Errorf("%s are left", got)
	}
	if len(g.Wires) != 2 || g.Wires[0].From != "v" || g.Wires[1].To != "m" {
		t.Errorf("%d wires are left", len(g.Wires))
	}
	if c.Graphs[1].ID == "g" || c.Graphs[1].Slips[0].ID == "v" {
		t.Error("the second graph has ids of the first")
	}
	all := strings.Join(said, "\n")
	for _, want := range []string{"slips of the graph Tangle were left out", "wires of the graph Tangle were left out", "taken out of folds"} {
		if !strings.Contains(all, want) {
			t.Errorf("it is not said that %s:\n%s", want, all)
		}
	}
}

// A graph of far too many slips is cut to what can be kept, in good time.
func TestTenThousandSlips(t *testing.T) {
	p := NewProject("p", "P")
	g := &Graph{ID: "g", Name: "Swarm"}
	for k := range 10000 {
		s := &Slip{ID: ID(fmt.Sprint("s", k)), Kind: FoldSlip}
		if k > 0 { // each in the one before it
			s.Within = ID(fmt.Sprint("s", k-1))
		}
		g.Slips = append(g.Slips, s)
		for in := range 3 {
			g.Wires = append(g.Wires, &Wire{From: s.ID, To: ID(fmt.Sprint("s", k/2)), In: fmt.Sprint(k, in)})
		}
	}
	p.Compositions[0].Graphs = []*Graph{g}
	if p.Check() == nil {
		t.Error("all of them are taken")
	}
	said := p.Heal()
	if err := p.Check(); err != nil || len(g.Slips) != MaxSlips || len(g.Wires) > MaxWires || len(said) < 2 {
		t.Errorf("%d slips and %d wires are left: %v, %d said", len(g.Slips), len(g.Wires), err, len(said))
	}
}

// A slip that is copied shares nothing with its copy, and reads back as it was.
func TestSlipsAreCloned(t *testing.T) {
	s := &Slip{
		ID: "s", Kind: FoldSlip, Title: "Swell", Size: &[2]float64{3, 4}, Fields: map[string]string{"1": "2"}, Ports: []FoldPort{{Slip: "a", Key: "1", Name: "cycles"}, {Slip: "b", Out: true, Name: "swell"}}, Open: true, Within: "f",
	}
	before, _ := json.Marshal(s)
	c := s.Clone()
	c.Size[0], c.Fields["1"], c.Ports[0].Name = 9, "9", "other"
	after, _ := json.Marshal(s)
	var read Slip
	if err := json.Unmarshal(before, &read); err != nil || string(before) != string(after) {
		t.Errorf("%s became %s (%v)", before, after, err)
	}
	if again, _ := json.Marshal(&read); string(again) != string(before) {
		t.Errorf("%s is read as %s", before, again)
	}
}

func TestSlipsThatAreNone(t *testing.T) {
	many := make([]FoldPort, MaxInputs+1)
	for want, s := range map[string]*Slip{
		"empty":              nil,
		"not a kind":         {ID: "s", Kind: "cloud"},
		"too large":          {ID: "s", Kind: NoteSlip, Text: strings.Repeat("x", MaxFormula+1)},
		"a field":            {ID: "s", Kind: ApplySlip, Fields: map[string]string{strings.Repeat("x", 101): ""}},
		"outside":            {ID: "s", Kind: ValueSlip, At: [2]float64{math.NaN(), 0}},
		"two stops":          {ID: "s", Kind: MapSlip},
		"only a map":         {ID: "s", Kind: ValueSlip, Beyond: Repeat},
		"only a fold":        {ID: "s", Kind: ValueSlip, Open: true},
		"more than":          {ID: "s", Kind: FoldSlip, Ports: many},
		"name is too long":   {ID: "s", Kind: FoldSlip, Ports: []FoldPort{{Name: strings.Repeat("x", MaxName+1)}}},
		"not a way to go on": {ID: "s", Kind: MapSlip, Beyond: "fly"},
		"are at 0":           {ID: "s", Kind: MapSlip, Stops: []MapStop{{Out: Num(1), Easing: curve.Linear}, {Out: Num(2), Easing: curve.Linear}}},
		"not an easing":      {ID: "s", Kind: MapSlip, Stops: []MapStop{{Out: Num(1), Easing: "soft"}, {In: 1, Out: Num(2), Easing: curve.Linear}}},
		"output at 1":        {ID: "s", Kind: MapSlip, Stops: []MapStop{{Out: Num(1), Easing: curve.Linear}, {In: 1, Out: Pt(1, 2), Easing: curve.Linear}}},
	} {
		err := s.Check()
		if err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v, want %q", err, want)
		}
	}
}
