package engine

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"wunderkammer/core/curve"
	"wunderkammer/core/formula"
	"wunderkammer/core/layout"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// lamps is lamps with a strength, a colour, a place and a control each, on a post, and a wall.
func lamps(n int) *scene.Composition {
	c := flags(0)
	c.Items = append(c.Items, &scene.Item{ID: "post", Name: "Post", Kind: scene.Null}, &scene.Item{ID: "wall", Name: "Wall", Kind: scene.Rectangle})
	for k := range n {
		lamp := &scene.Item{ID: scene.ID(fmt.Sprint("lamp", k)), Name: fmt.Sprint("Lamp ", k+1), Kind: scene.Ellipse, Parent: "post"}
		lamp.Controls = []*scene.Control{{ID: scene.ID(fmt.Sprint("reach", k)), Name: "Reach", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(float64(3*k + 2))}}
		lamp.Edit("opacity").Own = scene.Num(float64((37*k)%90) + 3)
		lamp.Edit("fill").Own = scene.RGBA(float64(k%7)/7, float64(k%5)/5, float64(k%3)/3, 1)
		lamp.Edit("position").Own = scene.Pt(float64(31*k%200), float64(17*k%90), float64(k%4))
		lamp.Edit("rotation").Pins = []scene.Pin{{Frame: 0, Value: scene.Num(float64(k)), Easing: curve.Linear}, {Frame: 60, Value: scene.Num(float64(7 * k)), Easing: curve.Smooth}}
		c.Items = append([]*scene.Item{lamp}, c.Items...) // the newest in front
	}
	return c
}

// writtenOut is a list written out: the expression for each of n lamps.
func writtenOut(n int, each, between string) string {
	parts := make([]string, n)
	for k := range parts {
		parts[k] = strings.ReplaceAll(each, "#", fmt.Sprint(k+1))
	}
	return strings.Join(parts, between)
}

func TestListsEqualTheirSumsWrittenOut(t *testing.T) {
	const n = 7
	out := func(each string) string { return "(" + writtenOut(n, each, " + ") + ")" }
	for _, k := range []struct{ property, list, long string }{
		{"rotation", "sum({Lamp *: opacity})", out("{Lamp #: opacity}")},
		{"rotation", "sum({Lamp *: rotation})", out("{Lamp #: rotation}")},
		{"rotation", "sum({Post > *: opacity})", out("{Lamp #: opacity}")},
		{"rotation", "sum({Post >> *: opacity})", out("{Lamp #: opacity}")},
		{"rotation", "mean({Lamp *: opacity})", out("{Lamp #: opacity}") + " / 7"},
		{"fill", "mean({Lamp *: fill})", out("{Lamp #: fill}") + " / 7"},
		{"position", "sum({Lamp *: position})", out("{Lamp #: position}")},
		{"rotation", "sum({Lamp *: position}).y", out("{Lamp #: position.y}")},
		{"rotation", "sum({Lamp *: position.x})", out("{Lamp #: position.x}")},
		{"rotation", "sum({Lamp *: Reach})", out("{Lamp #: Reach}")},
		{"rotation", "sum({Lamp *: Reach} * {Lamp *: opacity} + {Rig: Amount})", out("({Lamp #: Reach} * {Lamp #: opacity} + {Rig: Amount})")},
		{"rotation", "sum(wave({Lamp *: opacity} * time))", out("wave({Lamp #: opacity} * time)")},
		{"rotation", "sum(distance({Lamp *: position}, {self: position}))", out("distance({Lamp #: position}, {self: position})")},
		{"rotation", "sum(distance({Lamp *: world.position}, {Post: world.position}))", out("distance({Lamp #: world.position}, {Post: world.position})")},
		{"rotation", "least({Lamp *: opacity} - {Lamp *: Reach})", "min(" + writtenOut(n, "{Lamp #: opacity} - {Lamp #: Reach}", ", ") + ")"},
		{"rotation", "greatest({Lamp *: rotation})", "max(" + writtenOut(n, "{Lamp #: rotation}", ", ") + ")"},
		{"rotation", "count({Lamp *}) * 3", "21"},
		{"rotation", "count({Lamp *: Reach}) * 3", "21"},
		{"fill", "first({Lamp *: fill})", "{Lamp 1: fill}"},
		{"fill", "last({Lamp *: fill})", "{Lamp 7: fill}"},
		{"fill", "nth({Lamp *: fill}, 3)", "{Lamp 3: fill}"},
		{"rotation", "nth({Lamp *: opacity}, {Rig: Amount} / 10 + 0.3)", "pick(clamp(floor({Rig: Amount} / 10 + 0.3) - 1, 0, 6), " + writtenOut(n, "{Lamp #: opacity}", ", ") + ")"},
		{"rotation", "nth({Lamp *: opacity}, -9)", "{Lamp 1: opacity}"},
		{"rotation", "nearest({Lamp *: opacity}, 41)", "{Lamp 2: opacity}"},
		{"position", "nearest({Lamp *: position}, [60, 33, 2])", "{Lamp 3: position}"},
		{"fill", "weighted({Lamp *: fill}, {Lamp *: opacity})", out("{Lamp #: fill} * {Lamp #: opacity}") + " / " + out("{Lamp #: opacity}")},
		{"rotation", "weighted({Lamp *: rotation}, {Lamp *: Reach} + 0.7)", out("{Lamp #: rotation} * ({Lamp #: Reach} + 0.7)") + " / " + out("({Lamp #: Reach} + 0.7)")},
		{"rotation", "delay(sum({Lamp *: rotation}), 4f)", "delay(" + out("{Lamp #: rotation}") + ", 4f)"},
		{"rotation", "sum(delay({Rig: Amount}, {Lamp *: Reach} * 1f))", out("delay({Rig: Amount}, {Lamp #: Reach} * 1f)")},
		{"rotation", "average(sum({Lamp *: rotation} * 0.3), 9f)", "average(" + out("({Lamp #: rotation} * 0.3)") + ", 9f)"},
		{"rotation", "strong = {Lamp *: opacity} > 40\nsum(if(strong, {Lamp *: Reach}, 0))", out("if({Lamp #: opacity} > 40, {Lamp #: Reach}, 0)")},
		{"rotation", "sum({Lamp *: opacity} - mean({Lamp *: opacity}))", out("({Lamp #: opacity} - " + out("{Lamp #: opacity}") + " / 7)")},
	} {
		c := lamps(n)
		written(t, c, ref("wall", k.property), k.list)
		d := lamps(n)
		written(t, d, ref("wall", k.property), k.long)
		p, q := New(c), New(d)
		for _, frame := range []float64{31, 0, 7.3, 58, 31} {
			p.Evaluate(frame)
			q.Evaluate(frame)
			got, want := p.now.values, q.now.values
			spec, at := p.Layout.Find("wall", k.property)
			_, other := q.Layout.Find("wall", k.property)
			for n := range int32(spec.Type.Size()) {
				if g, w := got[at+n], want[other+n]; math.Float64bits(g) != math.Float64bits(w) {
					t.Errorf("%s at %g: %v, written out %v", k.list, frame, g, w)
				}
			}
		}
		_, tried := p.Try(k.list, ref("wall", k.property), 13, 44)
		p.Evaluate(13)
		_, at := p.Layout.Find("wall", k.property)
		if x := p.now.values[at]; len(tried) == 0 || k.property == "rotation" && tried[0].At(0) != x {
			t.Errorf("%s, tried out: %v, in the composition %v", k.list, tried, x)
		}
	}
}

func TestAListIsMadeOnceForAllThatAskTheSame(t *testing.T) {
	const n = 50
	c := lamps(n)
	for k := range 40 {
		c.Items = append(c.Items, &scene.Item{ID: scene.ID(fmt.Sprint("w", k)), Name: fmt.Sprint("Board ", k), Kind: scene.Rectangle})
		written(t, c, ref(scene.ID(fmt.Sprint("w", k)), "rotation"), fmt.Sprintf("sum({Lamp *: opacity} * {Lamp *: Reach}) + %d", k))
	}
	reduced, lanes := 0, 0
	for _, target := range wire.Targets(layout.Of(c)) {
		switch {
		case target.Reduced() != nil:
			reduced++
		case target.Shared():
			lanes++
		}
	}
	if reduced != 1 || lanes != n {
		t.Errorf("made %d times, of %d lanes; want once, of %d", reduced, lanes, n)
	}
}

func TestWhatJoinsTheSetJoinsTheValue(t *testing.T) {
	c := lamps(3)
	written(t, c, ref("wall", "rotation"), "sum({Lamp *: Reach})")
	check := func(what string, want float64) {
		t.Helper()
		p := New(c)
		p.Evaluate(0)
		if _, at := p.Layout.Find("wall", "rotation"); p.now.values[at] != want {
			t.Errorf("%s: %v, want %v", what, p.now.values[at], want)
		}
	}
	check("three", 2+5+8)
	c.Insert(0, &scene.Item{ID: "more", Name: "lamp nine", Kind: scene.Null, Controls: []*scene.Control{{ID: "other", Name: "reach", Kind: scene.Fader, SoftMax: 100, Default: scene.Num(31)}}})
	check("a fourth", 2+5+8+31)
	c.Item("lamp1").Name = "Torch"
	check("one was renamed", 2+8+31)
}

func TestListsThatRunInALoopAreToldByTheirMembers(t *testing.T) {
	c := lamps(3)
	written(t, c, ref("lamp1", "opacity"), "sum({Lamp *: opacity})")
	p := New(c)
	if p.Cycle == nil || p.Cycle.String() != "Lamp 2: opacity → Lamp 2: opacity" {
		t.Errorf("the loop is %v", p.Cycle)
	}
	d := lamps(3)
	written(t, d, ref("wall", "opacity"), "mean({Lamp *: opacity} * 0.7)")
	d.Item("lamp2").Edit("opacity").Links = []*scene.Link{follow("wall", "opacity", 0.3, 0)}
	p = New(d)
	if p.Cycle == nil || p.Cycle.String() != "Wall: opacity → Lamp 3: opacity → Wall: opacity" {
		t.Errorf("the loop is %v", p.Cycle)
	}
	e := lamps(3) // the first does not wait for the others
	written(t, e, ref("lamp2", "opacity"), "first({Lamp *: opacity}) + 4")
	if p = New(e); p.Cycle != nil {
		t.Errorf("the first of a list waits for all: %v", p.Cycle)
	}
}

func TestListsThatCannotBeAreToldWithTheWayOut(t *testing.T) {
	c := lamps(3)
	c.Items = append(c.Items, &scene.Item{ID: "odd", Name: "Lamp odd", Kind: scene.Rectangle}, &scene.Item{ID: "sign", Name: "Sign", Kind: scene.TextItem, Controls: []*scene.Control{{ID: "r", Name: "Reach", Kind: scene.ColourWidget, Default: scene.RGBA(0, 0, 0, 1)}}})
	c.Item("sign").Name = "Lamp sign"
	l := layout.Of(c)
	scope := wire.ScopeOf(l, l.Index("wall"), l.Items[l.Index("wall")].Spec("rotation"), "")
	for text, want := range map[string]string{
		"{Lamp *: opacity}":                                "this is a list of 5 values, not one",
		"{Lamp *: opacity} + 3":                            "this is a list of 5 values, not one",
		"sum({Wall: opacity})":                             "sum needs a list here",
		"sum({Torch *: opacity})":                          "no item is named Torch *",
		"sum({Lamp *: Height of it})":                      "none of the 5 items has a property named Height of it",
		"sum({Lamp *: Reach})":                             "a list holds values of one type, but Reach of Lamp sign is a colour, and that of Lamp 1 a number",
		"sum({Lamp *: opacity} * {Post > *: opacity})":     "Lamp sign is only in {Lamp *: opacity}",
		"weighted({Lamp *: opacity}, {Post > *: opacity})": "Lamp sign is only in {Lamp *: opacity}",
		"delay({Lamp *: opacity}, 3f)":                     "this is a list of 5 values, not one",
		"{Lamp *}":                                         "this is an item",
		"sum({Lamp *})":                                    "name a property of them after a colon, or count them: count({Lamp *})",
		"sum({Wall > *: opacity})":                         "nothing is attached to Wall",
		"least({Lamp *: position})":                        "least needs a number here, not a",
		"nearest({Lamp *: position}, 3)":                   "nearest compares values of one type",
		"nth({Lamp *: opacity}, {Lamp *: opacity})":        "this is a list of 5 values, not one",
	} {
		errs := formula.Compile(text, scope).Errors()
		if text == "{Lamp *}" {
			want = "name a property of them"
		}
		if len(errs) == 0 || !strings.Contains(errs[0].Sentence, want) {
			t.Errorf("%s: %v, want %q", text, errs, want)
		}
	}
}

func TestListsOfRows(t *testing.T) {
	c := lamps(4)
	rosterLink(t, c, &scene.RosterLink{Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"lamp2", "lamp0", "lamp3"}}, Property: "rotation"}, "index * 4 + 3")
	c.RosterLinks[0].Name = "the tilt: of lamps"
	written(t, c, ref("wall", "rotation"), `sum({"the tilt: of lamps": rotation} * {"the tilt: of lamps": Reach})`)
	written(t, c, ref("wall", "opacity"), `first({"the tilt: of lamps": Reach})`)
	p := New(c)
	p.Evaluate(0)
	_, at := p.Layout.Find("wall", "rotation")
	_, first := p.Layout.Find("wall", "opacity")
	if got, want := p.now.values[at], float64(3*8+7*2+11*11); got != want || p.now.values[first] != 8 {
		t.Errorf("%v and %v, want %v and 8", got, p.now.values[first], want)
	}
}

func TestWhatListsReadTogetherIsBounded(t *testing.T) {
	c := lamps(1300)
	for k := range 200 {
		item := &scene.Item{ID: scene.ID(fmt.Sprint("b", k)), Name: fmt.Sprint("Board ", k), Kind: scene.Rectangle}
		item.Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: fmt.Sprintf(`sum({@*"Lamp *": @opacity} * %d)`, k)}}
		c.Items = append(c.Items, item)
	}
	p := New(c)
	if n := len(p.Crowd()); n < 5 || n > 10 {
		t.Errorf("%d lists are left out", n)
	}
}

// A sum over 10,000 members, made of what stands there and of a product, against loops written by hand.
func BenchmarkLists(b *testing.B) {
	const n = 10_000
	for _, k := range []struct{ name, text string }{{"sum", "sum({Lamp *: opacity})"}, {"sum of products", "sum({Lamp *: opacity} * {Lamp *: Reach})"}} {
		c := lamps(n)
		written(b, c, ref("wall", "rotation"), k.text)
		p := New(c)
		b.Run(k.name, func(b *testing.B) {
			frame := 0.0
			for b.Loop() {
				frame++
				p.now.frame = frame
				for i := range p.levels {
					l := &p.levels[i]
					for _, g := range l.groups {
						g.Run(p.now.values, p.now.own, frame, p.now.env)
					}
					for _, t := range l.reduced {
						t.Reduced().Run(p.now.values, t.Slot)
					}
				}
			}
		})
	}
	x, y := make([]float64, n), make([]float64, n)
	for k := range x {
		x[k], y[k] = float64(k%90), float64(k%7)
	}
	var out [1]float64
	b.Run("sum by hand", func(b *testing.B) {
		for b.Loop() {
			sum := 0.0
			for _, x := range x {
				sum += x
			}
			out[0] = sum
		}
	})
	b.Run("sum of products by hand", func(b *testing.B) {
		for b.Loop() {
			sum := 0.0
			for k, x := range x {
				sum += float64(x * y[k])
			}
			out[0] = sum
		}
	})
	b.Run("plan", func(b *testing.B) {
		c := lamps(n)
		for k := range 1000 {
			item := &scene.Item{ID: scene.ID(fmt.Sprint("b", k)), Name: fmt.Sprint("Board ", k), Kind: scene.Rectangle}
			item.Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: fmt.Sprintf(`sum({@*"Lamp *": @opacity}) + %d`, k)}}
			c.Items = append(c.Items, item)
		}
		for b.Loop() {
			New(c)
		}
	})
}

// Values that are made of lists of values that are made of lists, each used twice, cost no more than there are of them.
func TestListsWithinListsAreMadeOnce(t *testing.T) {
	for name, first := range map[string]string{"the same everywhere": "sum({Lamp *: opacity})", "by the index": "sum({Lamp *: opacity} * index)", "by the children": "sum({parent > *: opacity})"} {
		lines := []string{"a0 = " + first}
		for k := 1; k < 60; k++ {
			lines = append(lines, fmt.Sprintf("a%d = sum({Lamp *: Reach} * a%d) / 1000 + mean({Lamp *: opacity} - a%d)", k, k-1, k-1))
		}
		text := strings.Join(append(lines, "a59"), "\n")
		c := lamps(5)
		rosterLink(t, c, &scene.RosterLink{Roster: scene.Roster{Kind: scene.Children, Item: "post"}, Property: "rotation"}, text)
		p := New(c)
		p.Evaluate(0)
		if n := p.order.Size() - p.Layout.Size; n > 20_000 {
			t.Errorf("%s: %d slots", name, n)
		}
	}
}

// A pattern that takes in what it drives is a loop; one of 50,000 is planned and summed.
func TestPatternsThatTakeInEverything(t *testing.T) {
	c := lamps(3)
	written(t, c, ref("wall", "opacity"), "mean({*: opacity})")
	if p := New(c); p.Cycle == nil || p.Cycle.String() != "Wall: opacity → Wall: opacity" {
		t.Errorf("the loop is %v", p.Cycle)
	}
	d := scene.NewComposition("main", "Many")
	for k := range 50_000 {
		item := &scene.Item{ID: scene.ID(fmt.Sprint("i", k)), Name: fmt.Sprint("Lamp ", k), Kind: scene.Null}
		item.Edit("rotation").Own = scene.Num(float64(k % 7))
		d.Items = append(d.Items, item)
	}
	d.Items[49_999].Edit("opacity")
	written(t, d, ref("i3", "pivot"), "sum({*: rotation}) / 1000")
	p := New(d)
	p.Evaluate(0)
	want := 0.0
	for k := 49_999; k >= 0; k-- {
		want += float64(k % 7)
	}
	if _, at := p.Layout.Find("i3", "pivot"); p.now.values[at] != want/1000 {
		t.Errorf("%v, want %v", p.now.values[at], want/1000)
	}
}
