package scene

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"
)

func TestValueSurvivesJSON(t *testing.T) {
	for _, v := range []Value{Num(0.1), Num(-1e11), Num(3e-9), Num(1e21), Num(1e20), Num(0), Pt(-1e-7, 0.5), Pt(1, 2), Pt(1, 2, 3), RGBA(0.1, 0.2, 0.3, 0.4), Txt("ä \"x\"\n"), {}} {
		data, err := json.Marshal(v)
		if err != nil {
			t.Fatal(err)
		}
		if plain, _ := json.Marshal(v.Nums()); v.Len() > 1 && string(plain) != string(data) {
			t.Errorf("%s is written as %s", plain, data)
		}
		var back Value
		if err := json.Unmarshal(data, &back); err != nil || back != v {
			t.Errorf("%s came back as %s (%v)", v, back, err)
		}
	}
	var on Value
	if err := json.Unmarshal([]byte("true"), &on); err != nil || on != On(true) {
		t.Errorf("true is read as %s (%v)", on, err)
	}
	for _, bad := range []string{"[1]", "[1,2,3,4,5]", `["x",1]`, "{}", "1e999", "[[1,2]]", "[1,[2]]", "[]", "[1,null]", "[1,1e999]", `["1","2"]`} {
		var v Value
		if json.Unmarshal([]byte(bad), &v) == nil {
			t.Errorf("%s is read as %s", bad, v)
		}
	}
}

func TestFitsRefusesWhatAPropertyCannotHold(t *testing.T) {
	for _, c := range []struct {
		value Value
		kind  Type
		says  string
	}{
		{Num(1), Number, ""}, {Pt(1, 2), Point2, ""}, {Txt("x"), Text, ""}, {On(true), Switch, ""},
		{Num(math.NaN()), Number, "not a number that can be used"},
		{Num(math.Inf(1)), Number, "not a number that can be used"},
		{Num(1e13), Number, "must lie between"},
		{Pt(1, 2, 3), Point2, "2D point has 2 numbers, but 3 numbers came"},
		{Txt("x"), Number, "a number is wanted here, not a text"},
		{Num(1), Text, "a text is wanted here"},
		{Txt(strings.Repeat("x", MaxText+1)), Text, "at most"},
	} {
		err := c.value.Fits(c.kind)
		if (err == nil) != (c.says == "") || (err != nil && !strings.Contains(err.Error(), c.says)) {
			t.Errorf("%s as %s: %v, want %q", Clip(c.value.String()), c.kind, err, c.says)
		}
	}
}

func TestNames(t *testing.T) {
	for name, ok := range map[string]bool{
		"Wind": true, "風": true, "a:{b}.~\"c": true, strings.Repeat("é", 200): true,
		"": false, "   ": false, strings.Repeat("x", 201): false, strings.Repeat("x", 10000): false, "\xff": false,
	} {
		if err := CheckName(name); (err == nil) != ok {
			t.Errorf("%q: %v", Clip(name), err)
		}
	}
}

func TestTheCatalogueIsSound(t *testing.T) {
	seen := map[string]bool{}
	for _, s := range append(append([]*Spec(nil), Properties...), Readable...) {
		for _, k := range s.Kinds {
			if id := string(k) + "/" + s.Key; seen[id] || seen[string(k)+"/"+s.Name] {
				t.Errorf("%s is doubled", id)
			}
			seen[string(k)+"/"+s.Key], seen[string(k)+"/"+s.Name] = true, true
		}
		if s.Name == "" || s.Group == "" || len(s.Kinds) == 0 {
			t.Errorf("%s is incomplete", s.Key)
		}
		if err := s.Default.Fits(s.Type); err != nil {
			t.Errorf("default of %s: %v", s.Key, err)
		}
		for i := range s.Default.Len() {
			if x := s.Default.At(i); s.Limit(x) != x {
				t.Errorf("the default of %s lies outside its limits", s.Key)
			}
		}
	}
	for _, k := range Kinds {
		for _, place := range []string{"position", "rotation", "rotationX", "rotationY", "scale", "pivot"} {
			if (&Item{Kind: k.Kind}).Spec(place) == nil {
				t.Errorf("a %s has no %s", k.Name, place)
			}
		}
	}
}

// quay is a small composition with names that are alike.
func quay() *Composition {
	c := NewComposition("main", "Quay")
	c.Items = []*Item{
		{ID: "a", Name: "Lantern 1", Kind: Ellipse},
		{ID: "b", Name: "Weather", Kind: Null, Controls: []*Control{{ID: "wind", Name: "Gust strength", Kind: Fader, Default: Num(0)}}},
		{ID: "c", Name: "Odd: name", Kind: Rectangle, Parent: "b"},
	}
	return c
}

func TestFindReadsReferencesAndOffersWhatIsNear(t *testing.T) {
	c := quay()
	c.Items = append(c.Items, &Item{ID: "beads", Name: "Beads", Kind: CopiesItem, Copies: &CopiesShape{Limit: 3}})
	for text, want := range map[string]Ref{
		"Lantern 1: rotation":       {"a", "rotation", ""},
		"{ lantern 1:  POSITION.x}": {"a", "position", "x"},
		"Weather: Gust strength":    {"b", "wind", ""},
		"Odd: name: rotation x":     {"c", "rotationX", ""},
		"Beads 2: delay":            {"beads~2", "copyLate", ""},
		"Beads 3: position.y":       {"beads~3", "position", "y"},
	} {
		if got, err := c.Find(text); err != nil || got != want {
			t.Errorf("%s: %v, %v", text, got, err)
		}
	}
	for text, says := range map[string]string{
		"Lantrn 1: rotation": "nearest: Lantern 1",
		"Lantern 1: rotaton": "nearest: rotation",
		"Lantern 1":          "is not a property",
		"Weather: gust":      "nearest: Gust strength",
		"Beads 4: delay":     "no item named \"Beads 4\"",
		"Beads 0: delay":     "no item named \"Beads 0\"",
		"Weather 1: delay":   "no item named \"Weather 1\"",
	} {
		if _, err := c.Find(text); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v, want %q in it", text, err, says)
		}
	}
	for _, item := range c.Items {
		for _, spec := range item.Specs() {
			ref := Ref{Item: item.ID, Property: spec.Key}
			if back, err := c.Find(c.NameOf(ref)); err != nil || back != ref {
				t.Errorf("%s is found as %v (%v)", c.NameOf(ref), back, err)
			}
		}
	}
}

func TestTreeKeepsParentsBeforeTheirParts(t *testing.T) {
	c := quay()
	c.Items[0].Parent = "c" // a on c on b
	tree, depths := c.Tree()
	got := ""
	for i, item := range tree {
		got += string(item.ID) + string(rune('0'+depths[i]))
	}
	if got != "b0c1a2" {
		t.Errorf("the tree is %s", got)
	}
}

func TestProjectCheckFindsWhatIsBroken(t *testing.T) {
	whole := func() *Project { return &Project{ID: "p", Name: "P", Compositions: []*Composition{quay()}} }
	if err := whole().Check(); err != nil {
		t.Fatal(err)
	}
	for says, spoil := range map[string]func(*Project){
		"occurs twice":                func(p *Project) { p.Compositions[0].Items[0].ID = "b" },
		"would create a loop":         func(p *Project) { p.Compositions[0].Items[1].Parent = "c" },
		"a composition is empty":      func(p *Project) { p.Compositions = append(p.Compositions, nil) },
		"an item is empty":            func(p *Project) { p.Compositions[0].Items = append(p.Compositions[0].Items, nil) },
		"a control is empty":          func(p *Project) { p.Compositions[0].Items[1].Controls = []*Control{nil} },
		"a link of ":                  func(p *Project) { p.Compositions[0].Items[0].Edit("opacity").Links = []*Link{nil} },
		"a link on a row is empty":    func(p *Project) { p.Compositions[0].RosterLinks = []*RosterLink{nil} },
		"what was set of \"opacity\"": func(p *Project) { p.Compositions[0].Items[0].States = map[string]*State{"opacity": nil} },
		"a link that is not there":    func(p *Project) { p.Compositions[0].Items[0].Edit("weight:gone").Own = Num(5) },
		"to an item that does not":    func(p *Project) { p.Compositions[0].Items[0].Parent = "gone" },
		"at most 1000 are kept on one": func(p *Project) {
			for k := range MaxLinks + 1 {
				s := p.Compositions[0].Items[0].Edit("opacity")
				s.Links = append(s.Links, &Link{ID: ID(fmt.Sprint("l", k)), Kind: Follow, Gain: 1})
			}
		},
		"not a kind of item":          func(p *Project) { p.Compositions[0].Items[0].Kind = "ghost" },
		"has no property":             func(p *Project) { p.Compositions[0].Items[0].States = map[string]*State{"sizzle": {Own: Num(1)}} },
		"must be from 1 to 240":       func(p *Project) { p.Compositions[0].Rate = 0 },
		"at least one composition":    func(p *Project) { p.Compositions = nil },
		"range of Gust strength ends": func(p *Project) { p.Compositions[0].Items[1].Controls[0].SoftMin = 5 },
		"can't be the id of":          func(p *Project) { p.Compositions[0].Items[1].Controls[0].ID = "position" },
		"not in order": func(p *Project) {
			p.Compositions[0].Items[0].Edit("opacity").Pins = []Pin{{Frame: 5, Value: Num(1), Easing: "hold"}, {Frame: 5, Value: Num(2), Easing: "hold"}}
		},
		"has a handle, but is not a point": func(p *Project) {
			p.Compositions[0].Items[0].Edit("opacity").Pins = []Pin{{Frame: 5, Value: Num(1), Easing: "hold", Lead: Num(3)}}
		},
		"a handle of position": func(p *Project) {
			p.Compositions[0].Items[0].Edit("position").Pins = []Pin{{Frame: 5, Value: Pt(1, 2, 3), Easing: "hold", Arrive: Pt(3, 4)}}
		},
		"not an easing": func(p *Project) {
			p.Compositions[0].Items[0].Edit("opacity").Pins = []Pin{{Frame: 5, Value: Num(1), Easing: "bouncy"}}
		},
		"not a kind of link": func(p *Project) { p.Compositions[0].Items[0].Edit("opacity").Links = []*Link{{ID: "l", Kind: "magic"}} },
		"gain and offset must": func(p *Project) {
			p.Compositions[0].Items[0].Edit("opacity").Links = []*Link{{ID: "l", Kind: Follow, Gain: math.NaN()}}
		},
		"has no component named \"q\"": func(p *Project) {
			p.Compositions[0].Items[0].Edit("opacity").Links = []*Link{{ID: "l", Kind: Follow, Component: "q"}}
		},
	} {
		p := whole()
		spoil(p)
		if err := p.Check(); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("want %q, got %v", says, err)
		}
	}
}

// What earlier versions left behind is mended, and said.
func TestHeal(t *testing.T) {
	p := &Project{ID: "p", Name: "P", Compositions: []*Composition{quay(), nil}}
	c := p.Compositions[0]
	state := c.Items[0].Edit("rotation")
	state.Links = []*Link{{ID: "l", Kind: Follow, Source: Ref{Item: "b", Property: "rotation"}, Gain: 1}, nil}
	c.Items[1].Edit("rotation").Links = []*Link{{ID: "l", Kind: Follow, Source: Ref{Item: "a0", Property: "rotation"}, Gain: 1}}
	c.Items[1].Edit(WeightKey("l")).Own = Num(40)
	c.Items[0].Edit(WeightKey("gone")).Links = []*Link{{ID: "onweight", Kind: Follow, Source: Ref{Item: "b", Property: "rotation"}, Gain: 1}}
	c.Items[0].Edit(WeightKey("onweight")).Own = Num(30)
	c.Items[0].Edit("sizzle").Own = Num(1)
	c.Items[1].Controls = append(c.Items[1].Controls, nil)
	c.Items = append(c.Items, nil, &Item{ID: "x", Name: "X", Kind: Null, Parent: "gone"}, &Item{ID: "y", Name: "Y", Kind: Null, Parent: "z"}, &Item{ID: "z", Name: "Z", Kind: Null, Parent: "y"})
	c.RosterLinks = []*RosterLink{nil, {ID: "s", Name: "S", Property: "rotation", Roster: Roster{Kind: Picked}, Link: &Link{ID: "l", Kind: Formula, Gain: 1}}}
	said := strings.Join(p.Heal(), "\n")
	if err := p.Check(); err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{"empty composition", "empty control", "2 empty entries", "weight of 2 links", "sizzle", "X was attached to an item that does not exist", "attached to itself by way of others"} {
		if !strings.Contains(said, want) {
			t.Errorf("nothing is said of %q:\n%s", want, said)
		}
	}
	l := c.Items[1].State("rotation").Links[0]
	if l.ID == "l" || c.Items[1].State(WeightKey(l.ID)).Own != Num(40) {
		t.Errorf("the second link called l is %s, with a weight of %s", l.ID, c.Items[1].State(WeightKey(l.ID)).Own)
	}
	if len(p.Heal()) > 0 {
		t.Error("what was mended is mended again")
	}
}

// Files of earlier versions name kinds of controls otherwise, and keep opening.
func TestKindsOfControlsHaveEarlierNames(t *testing.T) {
	for was, now := range map[string]Widget{"slider": Fader, "angle": DialWidget, "menu": ChoiceWidget, "point": PointWidget} {
		var c Control
		if err := json.Unmarshal([]byte(`{"kind":"`+was+`"}`), &c); err != nil || c.Kind != now {
			t.Errorf("%s is read as %q (%v)", was, c.Kind, err)
		}
	}
}
